"""What commands that talk to the service share: the connection, names instead of ids, output forms."""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Callable, Iterable, Sequence
from datetime import date
from getpass import getpass
from itertools import islice
from pathlib import Path
from typing import Any, Protocol, TypeVar

from pydantic import BaseModel

from hodcarrier.cli.output import emit, err
from hodcarrier.client import Hodcarrier
from hodcarrier.config import read_config
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import TableForm
from hodcarrier.wire.clients import ClientOut
from hodcarrier.wire.members import MemberOut
from hodcarrier.wire.runs import RunBrief
from hodcarrier.wire.sites import SiteOut

Column = tuple[str, str]


def noun(commands: Any, name: str, text: str) -> Any:
    """A noun and the place for its verbs."""
    parser = commands.add_parser(name, help=text)
    return parser.add_subparsers(dest="verb", required=True, metavar="VERB")


def verb(verbs: Any, name: str, text: str, run: Callable[[argparse.Namespace], int]) -> argparse.ArgumentParser:
    """A verb of a service noun, with the options that all have."""
    parser: argparse.ArgumentParser = verbs.add_parser(name, help=text)
    parser.add_argument("--format", choices=("table", "json", "csv"), default="table")
    parser.add_argument("--url", help="address of the service (HODCARRIER_URL)")
    parser.add_argument("--token", help="bearer token (HODCARRIER_TOKEN)")
    parser.set_defaults(run=run)
    return parser


def connect(args: argparse.Namespace, timeout: float = 60.0) -> Hodcarrier:
    """The connection that options, environment and configuration file describe, in this order; ``timeout`` is how long (seconds) an answer is waited for."""
    home = os.environ.get("XDG_CONFIG_HOME") or str(Path.home() / ".config")
    path = Path(home) / "hodcarrier" / "hodcarrier.toml"
    saved: dict[str, Any] = {}
    if path.is_file():
        saved = read_config(path).get("client", {})
    url = args.url or os.environ.get("HODCARRIER_URL") or saved.get("url") or "http://127.0.0.1:8420"
    token = str(args.token or os.environ.get("HODCARRIER_TOKEN") or saved.get("token") or "").strip()
    if not token.isascii() or not token.isprintable() or " " in token:
        raise InvalidInput(
            "The token has characters that no token has.",
            "Copy it again, or make a new one with `hodcarrier token add`.",
            "token",
        )
    return Hodcarrier(url, token, timeout=timeout)


def limit(text: str) -> int:
    """How many rows at most. Raises :class:`argparse.ArgumentTypeError` for less than one."""
    if not (text.isascii() and text.isdigit() and int(text) >= 1):
        raise argparse.ArgumentTypeError(f"“{text}” is no number of rows; give 1 or more")
    return int(text)


def place_number(text: str) -> int:
    """The number of a row in a table that was printed before, from 1."""
    if not text.isascii() or not text.isdigit() or not int(text):
        raise argparse.ArgumentTypeError(f"“{text}” is no number of a row: give one from the table, such as 1.")
    return int(text)


def rows_max(args: argparse.Namespace, shown: int) -> int:
    """How many rows to print: as asked for, or else as many as a person reads, and all for a program."""
    chosen: int | None = args.limit
    return chosen if chosen is not None else shown if args.format == "table" else sys.maxsize - 1


def show_first(args: argparse.Namespace, rows: Iterable[BaseModel], shown: int, columns: Sequence[Column], empty: str) -> int:
    """Print the first of many models, and say when there are more. ``rows`` are read no further than that."""
    wanted = rows_max(args, shown)
    found = list(islice(rows, wanted + 1))
    code = show(args, found[:wanted], columns, empty)
    if len(found) > wanted:
        err.print(f"The first {wanted}; more with --limit.")
    return code


def say_more(shown: int, total: int) -> None:
    """Say that a list goes on, where it does."""
    if total > shown:
        err.print(f"{shown:,} of {total:,}; --limit gives more.", markup=False)


def port(text: str) -> int:
    """A port as an option gives it. Raises :class:`argparse.ArgumentTypeError` for one that there is not."""
    number = int(text) if text.isascii() and text.isdigit() else -1
    if not 0 <= number <= 65_535:
        raise argparse.ArgumentTypeError(f"“{text}” is no port; give a number from 1 to 65535")
    return number


def ask(question: str, yes: bool) -> None:
    """Ask before something is lost. Raises :class:`InvalidInput` when the answer is no, or nobody can be asked."""
    if yes:
        return
    if not sys.stdin.isatty():
        raise InvalidInput(question, "Give --yes to do it without being asked.", "yes")
    if input(f"{question} Type yes: ").strip().lower() not in ("y", "yes"):
        raise InvalidInput("Nothing was removed.", "", "yes")


def ask_password(question: str, variable: str) -> str:
    """A password from the environment or the terminal. Raises :class:`InvalidInput` when there is neither."""
    if found := os.environ.get(variable):
        return found
    if not sys.stdin.isatty():
        raise InvalidInput("There is no terminal to ask for the password.", f"Give it in {variable}.", "password")
    return getpass(question)


def show(
    args: argparse.Namespace, rows: Sequence[BaseModel] | BaseModel, columns: Sequence[Column], empty: str = "Nothing found."
) -> int:
    """Print models in the chosen form."""
    plain = [r.model_dump(mode="json") for r in rows] if isinstance(rows, Sequence) else rows.model_dump(mode="json")
    emit(plain, args.format, columns, empty)
    return 0


def find_site(desk: Hodcarrier, key: str) -> SiteOut:
    """A site by id, host or unique beginning."""
    try:
        return desk.find_site(key)
    except LookupError as error:
        raise NotFound(str(error)) from None


class Named(Protocol):
    """What is found by its name."""

    @property
    def id(self) -> int:
        """Its number."""
        ...

    @property
    def name(self) -> str:
        """What people call it."""
        ...


N = TypeVar("N", bound=Named)


def called(found: Iterable[N], key: str) -> list[N]:
    """Those with this id or name, or else those whose name begins so."""
    rows = list(found)
    return [r for r in rows if key in (str(r.id), r.name)] or [r for r in rows if r.name.lower().startswith(key.lower())]


def the_one_called(found: Iterable[N], key: str, noun: str) -> N:
    """The one with this id or name, or whose name alone begins so. Raises :class:`NotFound`, and :class:`Conflict` naming those it may be."""
    near = called(found, key)
    if not near:
        raise NotFound(f"There is no {noun} called “{key}”.", f"See `hodcarrier {noun} list`.")
    if len(near) > 1:
        raise Conflict(f"“{key}” may be {', '.join(r.name for r in near)}.", "Give more of the name, or the id.")
    return near[0]


def find_client(desk: Hodcarrier, key: str, *, archived: bool = False) -> ClientOut:
    """A client by id, name or unique beginning of the name; ``archived``: among those that are archived too."""
    return the_one_called([*desk.list_clients(), *(desk.list_clients(archived=True) if archived else [])], key, "client")


def find_member(desk: Hodcarrier, key: str) -> MemberOut:
    """A member by id, e-mail address, name or unique beginning of the name."""
    everybody = desk.list_members()
    text = key.strip().lower()
    exact = [m for m in everybody if text in (str(m.id), m.email, m.name.lower())]
    near = exact or [m for m in everybody if m.name.lower().startswith(text)]
    if len(near) == 1 and text:
        return near[0]
    raise NotFound(
        f"Nobody called “{key}” is a member.", f"Members are {', '.join(m.name for m in everybody if m.role != Role.GUEST)}."
    )


def run_of(desk: Hodcarrier, key: str) -> str:
    """A run by id, the latest run of a site given by its host, or the one that it had on a day: ``HOST@DAY``."""
    host, _, day = key.partition("@")
    if host and day:
        return f"{find_site(desk, host).id}@{read_day(day)}"
    return key if _is_run_id(key) else f"latest-{find_site(desk, key).id}"


def run_under_way(desk: Hodcarrier, key: str) -> str:
    """A run by id, or the one of a site that is under way. Raises :class:`NotFound` when there is none."""
    return _run_of_site(desk, key, lambda site: site.running, "No run of {host} is under way.")


def last_run(desk: Hodcarrier, key: str) -> str:
    """A run by id, or the last one of a site that ended. Raises :class:`NotFound` when there is none."""
    return _run_of_site(desk, key, lambda site: site.last_run, "{host} has no run yet.")


def _run_of_site(desk: Hodcarrier, key: str, choose: Callable[[SiteOut], RunBrief | None], missing: str) -> str:
    if _is_run_id(key):
        return key
    site = find_site(desk, key)
    run = choose(site)
    if run is None:
        raise NotFound(missing.format(host=site.host), f"Start one with `hodcarrier run start {site.host}`.")
    return run.id


def _is_run_id(key: str) -> bool:
    return len(key) == 10 and all(c in "0123456789abcdef" for c in key)


def name_value(item: str, example: str) -> tuple[str, str]:
    """The two parts of NAME=VALUE. Raises :class:`InvalidInput` when it is not that."""
    name, equals, value = item.partition("=")
    if not equals or not name.strip():
        raise InvalidInput(f"“{item}” is not NAME=VALUE.", f"Write it as {example}.")
    return name, value


def add_save(parser: argparse.ArgumentParser) -> None:
    """Describe ``--save`` of a list."""
    parser.add_argument("--save", type=Path, metavar="FILE", help="write all rows to a file that ends in .csv, .xlsx or .jsonl")


def table_form_of(path: Path) -> TableForm:
    """What a table is written as, by the end of a file's name. Raises :class:`InvalidInput`."""
    try:
        return TableForm(path.suffix.removeprefix("."))
    except ValueError:
        raise InvalidInput(f"{path.name} ends in none of .csv, .xlsx and .jsonl.", "Choose one of them.", "save") from None


def save_file(path: Path, document: bytes) -> int:
    """Write a document to a file that a person named, and say so. Raises :class:`InvalidInput` saying why it cannot be written."""
    try:
        path.write_bytes(document)
    except OSError as error:
        raise InvalidInput(f"{path} cannot be written: {error.strerror}.", "Save to another folder.", "file") from None
    err.print(f"Wrote {path} ({len(document):,} bytes).", markup=False)
    return 0


def read_text(path: Path) -> str:
    """A text file that a person named (``-``: stdin). Raises :class:`InvalidInput` saying why it cannot be read."""
    try:
        return sys.stdin.read() if str(path) == "-" else path.read_text("utf-8")
    except UnicodeDecodeError:
        raise InvalidInput(f"{path} is not UTF-8 text.", "Save it as UTF-8.", "file") from None
    except OSError as error:
        raise InvalidInput(f"{path} cannot be read: {error.strerror}.", "Check the path.", "file") from None


def read_day(text: str) -> date:
    """A day as YYYY-MM-DD. Raises :class:`InvalidInput`."""
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise InvalidInput(f"“{text}” is not a day.", "Write it as YYYY-MM-DD.") from None
