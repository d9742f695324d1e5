"""The command line.

Exit codes: 0 done (for `check`: all holds or is close), 1 something misses, 2 it could not be done.
"""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any, NoReturn

from pennello import __version__
from pennello.errors import PennelloError

OpenWindow = Callable[[str | None, bool], int]


class _Parser(argparse.ArgumentParser):
    """Says one line and where help is, and exits with 2."""

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"{self.prog}: {message}; see '{self.prog} --help'.\n")


def run(arguments: list[str], open_window: OpenWindow) -> int:
    """Run one command line and return its exit code."""
    parsed = _parser().parse_args(arguments)
    try:
        return _carry_out(parsed, open_window)
    except PennelloError as error:
        words = str(error)
    except BrokenPipeError:  # the reader has seen enough
        _drop_output()
        return 0
    except OSError as error:
        _drop_output()
        words = f"the answer cannot be written: {error.strerror}."
    except MemoryError:
        words = "there is not enough memory for this; choose fewer pixels per mm."
    except KeyboardInterrupt:
        words = "stopped."
    print(f"pennello: {words}", file=sys.stderr)
    return 2


def _carry_out(parsed: argparse.Namespace, open_window: OpenWindow) -> int:
    if parsed.verb in (None, "window"):
        return open_window(getattr(parsed, "plan", None), getattr(parsed, "demo", False))
    from pennello.cli import verbs  # noqa: PLC0415 - the window starts without them

    verb: Callable[[argparse.Namespace], int] = getattr(verbs, parsed.verb)
    code = verb(parsed)
    sys.stdout.flush()
    return code


def _drop_output() -> None:
    """Point standard output at nothing, so that what could not be written is not tried again at the end."""
    with Path(os.devnull).open("w") as nothing:
        os.dup2(nothing.fileno(), sys.stdout.fileno())


def write_json(answer: dict[str, Any]) -> None:
    """Print an answer as JSON; a number that is none would be a bug and is refused."""
    print(json.dumps(answer, allow_nan=False, ensure_ascii=False))


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(
        prog="pennello", description="Predicts what a loaded brush lays. Without a verb it opens the window."
    )
    parser.add_argument("--version", action="version", version=f"pennello {__version__}")
    verbs = parser.add_subparsers(dest="verb", metavar="VERB")

    window = verbs.add_parser("window", help="open the window")
    window.add_argument("plan", nargs="?", help="a .pennello file")
    window.add_argument("--demo", action="store_true", help="with the Saltmarsh Lantern Walk")

    mix = verbs.add_parser("mix", help="mix paints and see the colour")
    mix.add_argument("--paint", action="append", required=True, metavar="HEX[@CONTRAST][:PARTS]")
    mix.add_argument("--film-um", type=float, metavar="T", help="film thickness; without it thick enough to hide")
    mix.add_argument("--over", default="#ffffff", metavar="HEX", help="what the film lies on (default white)")
    _json(mix)

    load = _plan_verb(verbs, "load", "what one load puts on the brush", stroke=True)
    _json(load)

    lay = _plan_verb(verbs, "lay", "what one stroke lays, and the verdict", stroke=True)
    lay.add_argument("--png", type=Path, metavar="FILE", help="write the stroke as a picture")
    lay.add_argument("--px-per-mm", type=float, default=4.0, metavar="N", help="resolution, default 4")
    _json(lay)

    check = _plan_verb(verbs, "check", "the verdict on every stroke of a plan", stroke=False)
    _json(check)

    mend = _plan_verb(verbs, "mend", "apply the best mend of a stroke, or of one cause", stroke=True)
    mend.add_argument("--cause", metavar="CODE", help="the cause to mend, as `lay` names it (default: the first)")
    mend.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(mend)

    card = _plan_verb(verbs, "card", "the load card as a PDF at true scale", stroke=True)
    card.add_argument("--pdf", type=Path, required=True, metavar="FILE")

    new = verbs.add_parser("new", help="write a new plan")
    new.add_argument("plan", type=Path, help="the file to write; it must not exist")
    new.add_argument("--demo", action="store_true", help="the Saltmarsh Lantern Walk")

    verbs.add_parser("schema", help="print the JSON Schema of plan files")
    return parser


def _json(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--json", action="store_true", help="answer as JSON")


def _plan_verb(verbs: Any, name: str, words: str, *, stroke: bool) -> argparse.ArgumentParser:
    parser: argparse.ArgumentParser = verbs.add_parser(name, help=words)
    parser.add_argument("plan", type=Path, help="a .pennello file")
    if stroke:
        parser.add_argument("stroke", help="the stroke's id")
    return parser
