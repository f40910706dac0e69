"""The ``hodcarrier`` command: nouns, verbs and exit codes.

Exit codes: 0 done, 1 failed, 2 wrong usage, 3 not found or not allowed, 4 a threshold was crossed, 130 interrupted.
"""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Sequence

from pydantic import ValidationError

from hodcarrier import __version__
from hodcarrier.cli import (
    access,
    attempt,
    backup,
    benchmark,
    calendar,
    catalogue,
    client,
    compare,
    demo,
    desk,
    doctor,
    export,
    feed,
    finding,
    inventory,
    log,
    mail,
    member,
    metric,
    page,
    plan,
    preset,
    profile,
    remark,
    report,
    retention,
    schedule,
    serve,
    share,
    sheet,
    site,
    sitemap,
    standing,
    todo,
    token,
    trend,
    view,
    waiver,
    webhook,
)
from hodcarrier.cli import run as run_noun
from hodcarrier.client import RequestFailed, Unreachable
from hodcarrier.core import errors
from hodcarrier.wire.refusals import refused

NOUNS = (
    attempt,
    serve,
    backup,
    doctor,
    retention,
    demo,
    catalogue,
    desk,
    client,
    site,
    plan,
    preset,
    profile,
    access,
    schedule,
    run_noun,
    finding,
    page,
    inventory,
    compare,
    waiver,
    webhook,
    view,
    todo,
    remark,
    trend,
    benchmark,
    calendar,
    metric,
    feed,
    standing,
    sheet,
    report,
    share,
    log,
    mail,
    member,
    token,
    export,
    sitemap,
)

TOKEN_HINT = "Give a token in HODCARRIER_TOKEN; `hodcarrier token add NAME --email YOU` makes one."
EXIT_CODES: dict[type[errors.HodcarrierError], int] = {
    errors.InvalidInput: 2,
    errors.NotFound: 3,
    errors.NotAllowed: 3,
    errors.SignInNeeded: 3,
}


def exit_code(error: errors.HodcarrierError) -> int:
    """The exit code for an error."""
    return next((code for kind, code in EXIT_CODES.items() if isinstance(error, kind)), 1)


def make_parser() -> argparse.ArgumentParser:
    """The whole command line."""

    parser = argparse.ArgumentParser(prog="hodcarrier", description="The audit desk of an SEO agency.")
    parser.add_argument("--version", action="version", version=f"hodcarrier {__version__}")
    parser.add_argument("--debug", action="store_true", help="show a traceback when something fails")
    commands = parser.add_subparsers(dest="noun", required=True, metavar="NOUN")
    for module in NOUNS:
        module.add_parser(commands)
    return parser


def _check_text(argv: Sequence[str]) -> None:
    """Refuse arguments that the terminal did not send as text. Raises :class:`~hodcarrier.core.errors.InvalidInput`."""
    for word in argv:
        try:
            word.encode()
        except UnicodeEncodeError:
            shown = word.encode(errors="backslashreplace").decode()
            raise errors.InvalidInput(f"“{shown}” is not valid UTF-8.", "Check the language settings of the terminal.") from None


def _joined(argv: Sequence[str]) -> list[str]:
    """``--sort -words`` in one word: alone, a value that begins with a dash is taken for an option."""
    found: list[str] = []
    for word in argv:
        if found and found[-1] == "--sort" and word.startswith("-") and not word.startswith("--"):
            found[-1] = f"--sort={word}"
        else:
            found.append(word)
    return found


def run(argv: Sequence[str] | None = None) -> int:
    """Parse, run, and turn errors into one or two clear lines."""
    args = make_parser().parse_args(_joined(sys.argv[1:] if argv is None else argv))
    try:
        _check_text(sys.argv[1:] if argv is None else argv)
        code: int = args.run(args)
    except errors.HodcarrierError as error:
        if args.debug:
            raise
        sys.stderr.write(f"hodcarrier: {error.message}\n" + (f"{error.hint}\n" if error.hint else ""))
        return exit_code(error)
    except RequestFailed as failed:
        if args.debug:
            raise
        problem = failed.problem
        if problem.status == 401:
            problem = problem.model_copy(update={"hint": TOKEN_HINT})
        sys.stderr.write(f"hodcarrier: {problem.detail}\n" + (f"{problem.hint}\n" if problem.hint else ""))
        return {401: 3, 403: 3, 404: 3, 422: 2}.get(problem.status, 1)
    except Unreachable as failed:
        sys.stderr.write(f"hodcarrier: {failed}\nStart one with `hodcarrier serve`, or give --url.\n")
        return 1
    except ValidationError as refusal:
        if args.debug:
            raise
        sys.stderr.write(f"hodcarrier: {refused(refusal)[1]}\nCorrect that value; --help says what it takes.\n")
        return 2
    except EOFError:
        sys.stderr.write(
            "hodcarrier: nothing could be asked, because there is no terminal.\nGive the answer as an option; see --help.\n"
        )
        return 2
    except KeyboardInterrupt:
        sys.stderr.write("hodcarrier: interrupted.\n")
        return 130
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except Exception as error:
        if args.debug:
            raise
        sys.stderr.write(
            f"hodcarrier: something broke inside: {type(error).__name__}: {error}\nRun again with --debug for the details.\n"
        )
        return 1
    return code


if __name__ == "__main__":
    sys.exit(run())
