"""Settings, read once at the edge: ``hodcarrier.toml``, then ``HODCARRIER_…`` variables, then options."""

from __future__ import annotations

import os
from dataclasses import dataclass, field, fields
from pathlib import Path
from typing import Any

from hodcarrier.config import read_config
from hodcarrier.core.errors import InvalidInput


@dataclass(frozen=True)
class Settings:
    """All settings of the service, with their defaults."""

    data: Path = Path("hodcarrier-data")
    host: str = "127.0.0.1"
    port: int = 8420
    backups: Path | None = None
    backups_kept: int = 14
    keep_weeks: int = 0
    workers: int = 2
    worker_memory_mb: int = 4096
    agency: str = "Our agency"
    address: str = ""
    trusted_proxies: str = "127.0.0.1"
    smtp_host: str = ""
    smtp_port: int = 25
    mail_from: str = "hodcarrier@localhost"
    owner_email: str = "owner@localhost"
    owner_name: str = "Owner"
    owner_password: str = field(default="", repr=False)
    allow_private: bool = False
    registry: str = ""

    @property
    def url(self) -> str:
        """Where people reach the console."""
        return self.address or f"http://{self.host}:{self.port}"


# Of each number: the least and the most.
RANGES = {
    "port": (0, 65_535),
    "smtp_port": (1, 65_535),
    "backups_kept": (1, 1000),
    "keep_weeks": (0, 5200),
    "workers": (1, 64),
    "worker_memory_mb": (512, 1_048_576),
}
_PATHS = ("data", "backups")
_KINDS = {bool: "true or false", int: "a whole number", str: "text", Path: "a path"}


def config_path(given: str | None = None) -> Path:
    """The configuration file: as given, or ``hodcarrier/hodcarrier.toml`` in the XDG folder."""
    if given:
        return Path(given)
    home = os.environ.get("XDG_CONFIG_HOME") or str(Path.home() / ".config")
    return Path(home) / "hodcarrier" / "hodcarrier.toml"


def read_settings(config: str | None = None, options: dict[str, Any] | None = None) -> Settings:
    """Settings from file, environment and options, each overriding the one before. Raises :class:`InvalidInput`."""
    values: dict[str, Any] = {}
    path = config_path(config)
    if config and not path.is_file():
        raise InvalidInput(f"There is no configuration file {path}.", "Check the path after --config.", "config")
    if path.is_file():
        values.update(read_config(path).get("service", {}))
    names = {f.name: f for f in fields(Settings)}
    for name in names:
        variable = os.environ.get("HODCARRIER_" + name.upper())
        if variable is not None:
            values[name] = variable
    values.update({k: v for k, v in (options or {}).items() if v is not None})
    unknown = set(values) - set(names)
    if unknown:
        raise InvalidInput(f"There is no setting called {', '.join(sorted(unknown))}.", "See docs/configuration.md.", "config")
    defaults = Settings()
    return Settings(**{name: _typed(name, value, getattr(defaults, name)) for name, value in values.items()})


def _typed(name: str, value: Any, default: Any) -> Any:
    try:
        if isinstance(default, bool):
            return (
                value
                if isinstance(value, bool)
                else {"true": True, "1": True, "yes": True, "false": False, "0": False, "no": False}[str(value).lower()]
            )
        if name in _PATHS:
            if default is None and not str(value):
                return None
            return Path(value).expanduser()
        typed = type(default)(value)
    except (ValueError, TypeError, KeyError, OverflowError):
        kind = _KINDS.get(type(default), "a path")
        raise InvalidInput(f"The setting {name} cannot be “{value}”.", f"Give {kind}.", name) from None
    low, high = RANGES.get(name, (None, None))
    if low is not None and not low <= typed <= high:
        raise InvalidInput(f"The setting {name} cannot be {typed}.", f"Give {low} to {high}.", name)
    return typed
