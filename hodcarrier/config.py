"""The configuration file, read by the service and by the command line."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

from hodcarrier.core.errors import InvalidInput

SECTIONS = ("service", "client")


def read_config(path: Path) -> dict[str, dict[str, Any]]:
    """The sections of a configuration file. Raises :class:`InvalidInput` when it cannot be read or has others."""
    try:
        found = tomllib.loads(path.read_text("utf-8"))
    except UnicodeDecodeError:
        raise InvalidInput(f"{path} is not UTF-8 text.", "Save it as UTF-8.", "config") from None
    except tomllib.TOMLDecodeError as error:
        raise InvalidInput(f"{path} is not TOML: {error}.", "Correct that line.", "config") from None
    except OSError as error:
        raise InvalidInput(f"{path} cannot be read: {error.strerror}.", "Let this user read it.", "config") from None
    named = " and ".join(f"[{section}]" for section in SECTIONS)
    if unknown := sorted(set(found) - set(SECTIONS)):
        raise InvalidInput(f"{path} has no use for {', '.join(unknown)}.", f"Its sections are {named}.", "config")
    if wrong := sorted(name for name, section in found.items() if not isinstance(section, dict)):
        raise InvalidInput(f"{', '.join(wrong)} is no section of {path}.", f"Write {named}, with the settings below.", "config")
    return found
