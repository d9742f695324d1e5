"""The command line.

Exit codes: 0 done (for `check`: all holds or is close), 1 something misses, 2 it could not be done.
"""

from __future__ import annotations

import argparse
import io
import json
import os
import sys
from collections.abc import Callable, Sequence
from contextlib import AbstractContextManager, nullcontext
from difflib import get_close_matches
from importlib import import_module
from pathlib import Path
from typing import Any

from pennello import __version__
from pennello.cli.asking import Parser, verb_named
from pennello.cli.verbs_at import VERBS_AT
from pennello.disk import exists
from pennello.errors import PennelloError, UnknownNameError
from pennello.lay.engine import waiting_for_kernel
from pennello.limits import check_name
from pennello.phrases import phrase

OpenWindow = Callable[[str | None, bool], int]


def run(arguments: list[str], open_window: OpenWindow) -> int:
    """Run one command line and return its exit code."""
    _open_what_is_closed()
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="replace")  # a poor terminal shows less, and nothing stops
    try:
        arguments = with_verb(arguments)
        parser = make_parser(arguments[:1])
        parsed = parser.parse_args(in_usual_order(arguments))
        return _carry_out(parsed, open_window)
    except PennelloError as error:
        words = str(error)
    except BrokenPipeError:  # the reader has seen enough
        _drop_output()
        return 0
    except OSError as error:
        _drop_output()
        words = (
            phrase("the answer cannot be written: {strerror}.", strerror=error.strerror)
            if is_somewhere()
            else phrase("the folder that you are in is there no more; go to another one.")
        )
    except MemoryError:
        words = phrase("there is not enough memory for this; choose fewer pixels per mm.")
    except KeyboardInterrupt:
        words = phrase("stopped.")
    print(phrase("pennello: {words}", words=words), file=sys.stderr)
    return 2


def with_verb(arguments: Sequence[str]) -> list[str]:
    """Return the words with the verb that a file alone, or nothing, stands for: the window.

    Raises
    ------
    UnknownNameError
        If the first word is no verb, and no file either.
    """
    if not arguments:
        return ["window"]
    if arguments[0].startswith("-") or arguments[0] == "window" or arguments[0] in VERBS_AT:
        return list(arguments)
    if Path(arguments[0]).suffix in OPENED or exists(Path(arguments[0])):
        return ["window", *arguments]
    alike = get_close_matches(arguments[0], ["window", *VERBS_AT], 3, 0.5)
    raise UnknownNameError(
        phrase("verb or file"), arguments[0], alike or ["window", "check", "lay", "order", "... (--help)"]
    )


def in_usual_order(arguments: Sequence[str]) -> list[str]:
    """Return the words of a verb as it takes them: `part list PLAN` as `part PLAN list`, `motif list` as `motif`."""
    words = list(arguments)
    if len(words) < 2 or words[0] not in VERBS_AT:
        return words
    asked, (first, second) = verb_named(words[0]), [*words[1:3], ""][:2]
    deed = not first.startswith("-") and not first.endswith(OPENED[0])
    if asked.deed_first and deed and second.endswith(OPENED[0]):
        words[1:3] = second, first
    at = 2 if asked.deed_first else 1
    if asked.lists and words[at : at + 1] == ["list"] and not exists(Path("list")):
        del words[at]
    return words


OPENED = (".pennello", ".pennello-day", ".pennello-motif")
"""Endings of files that the window opens."""


def make_parser(asked: Sequence[str] = ()) -> argparse.ArgumentParser:
    """Return the parser of the verb that is asked for; of all where none is, or one that is not known."""
    parser = Parser(
        prog="pennello", description=phrase("Predicts what a loaded brush lays. Without a verb it opens the window.")
    )
    parser.add_argument(
        "--version",
        action="version",
        version=phrase("pennello {version}", version=__version__),
        help=phrase("say which version this is"),
    )
    verbs = parser.add_subparsers(dest="verb", metavar="VERB")
    window = verbs.add_parser("window", help=phrase("open the window"))
    window.add_argument("plan", type=str, nargs="?", help=phrase("a .pennello file"))
    window.add_argument("--demo", action="store_true", help=phrase("with the Saltmarsh Lantern Walk"))
    known = {"window", *VERBS_AT}
    for name in asked if asked and asked[0] in known else VERBS_AT:
        if name in VERBS_AT:
            import_module(f"pennello.cli.{VERBS_AT[name]}")
            verb = verb_named(name)
            verb.arguments(verbs.add_parser(name, help=verb.words))
    return parser


def _carry_out(parsed: argparse.Namespace, open_window: OpenWindow) -> int:
    if parsed.verb in (None, "window"):
        return open_window(getattr(parsed, "plan", None), getattr(parsed, "demo", False))
    if getattr(parsed, "chart", None):
        from pennello.cli.names import chart_key  # noqa: PLC0415 - most verbs know no charts

        parsed.chart = chart_key(parsed.chart)
    with waiting_for_kernel(), _on_its_paper(parsed):
        code = verb_named(parsed.verb).run(parsed)
    sys.stdout.flush()
    return code


def _on_its_paper(parsed: argparse.Namespace) -> AbstractContextManager[None]:
    """Let what a verb prints be for the paper that was said, if it prints at all."""
    if not hasattr(parsed, "paper"):
        return nullcontext()
    from pennello.files.paper import MOST_MAKER, Paper, PaperSize, on_paper  # noqa: PLC0415 - reportlab only for paper

    check_name("--made-by", parsed.made_by, MOST_MAKER)
    return on_paper(Paper(PaperSize(parsed.paper), parsed.made_by))


def _open_what_is_closed() -> None:
    """Point standard streams that were closed at nothing, so that no file comes to lie in their place."""
    for name, mode in (("stdin", "r"), ("stdout", "w"), ("stderr", "w")):
        if getattr(sys, name) is None:
            setattr(sys, name, Path(os.devnull).open(mode, encoding="utf-8"))  # noqa: SIM115 - for good


def is_somewhere() -> bool:
    """Return whether the folder that the program was started in is still there."""
    try:
        return bool(Path.cwd())
    except OSError:
        return False


def _drop_output() -> None:
    """Point standard output at nothing, so that what could not be written is not tried again at the end."""
    with Path(os.devnull).open("w") as nothing:
        os.dup2(nothing.fileno(), sys.stdout.fileno())


def write_json(answer: dict[str, Any]) -> None:
    """Print an answer as JSON; a number that is none would be a bug and is refused."""
    poor = (sys.stdout.encoding or "ascii").lower().replace("-", "") not in ("utf8", "utf16", "utf32")
    print(json.dumps(answer, allow_nan=False, ensure_ascii=poor))
