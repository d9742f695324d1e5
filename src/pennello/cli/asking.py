"""What a verb of the command line is: its name, what it does in words, what it takes, and the function that does it.

A verb stands as one function in its module, with what it takes beside it:

    def wear_arguments(parser: ArgumentParser) -> None: ...

    @verb("wear", phrase("what loads would do: the cakes hollow and get dirty"), wear_arguments)
    def wear_verb(args: Namespace) -> int: ...

`verbs_at` names the module of each, so that only the one that is asked for is imported.
"""

from __future__ import annotations

import re
from argparse import ArgumentParser, ArgumentTypeError, Namespace
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any, NoReturn

from pennello.disk import exists
from pennello.errors import clipped
from pennello.limits import writable
from pennello.phrases import phrase

Run = Callable[[Namespace], int]


def _written(text: str) -> str:
    """Return words as they are, if they can be written: a byte that is no UTF-8 comes as half a sign."""
    if not writable(text):
        raise ArgumentTypeError(
            phrase("{text} holds a sign that cannot be written as UTF-8; leave it out", text=ascii(clipped(text, 40)))
        )
    return text


def there(text: str) -> Path:
    """Return a file that is asked for what it knows; one that is not there would seem to know nothing."""
    if not exists(Path(text)):
        raise ArgumentTypeError(
            phrase("there is no file {text}; name one that is there, or leave it out for your own", text=clipped(text))
        )
    return Path(text)


class Parser(ArgumentParser):
    """Says one line and where help is, and exits with 2; -12,5 and -3/4 are numbers and no options.

    What has no type is text that ends up in plans, databases and on paper. What names a file has one, `Path` or `str`:
    a file may be called anything.
    """

    def __init__(self, *given: Any, **named: Any) -> None:
        super().__init__(*given, **named)
        self.register("type", None, _written)
        self._negative_number_matcher = re.compile(r"-[0-9.,]")

    def add_subparsers(self, **named: Any) -> Any:
        """Take verbs: what follows one is for its own parser to look at."""
        action = super().add_subparsers(**named)
        action.type = str
        return action

    def error(self, message: str) -> NoReturn:
        """Say what is wrong, in one line."""
        self.exit(2, phrase("{prog}: {message}; see '{prog} --help'.\n", prog=self.prog, message=clipped(message, 500)))


@dataclass(frozen=True, slots=True)
class Verb:
    """A verb: its name, what it does in words, what it takes, and what does it.

    Attributes
    ----------
    lists
        Whether it lists what there is where nothing is named; the word "list" then says the same.
    deed_first
        Whether it takes a plan and a deed, which may stand before the plan too.
    """

    name: str
    words: str
    arguments: Callable[[ArgumentParser], None]
    run: Run
    lists: bool = False
    deed_first: bool = False


_VERBS: dict[str, Verb] = {}


def verb(
    name: str,
    words: str,
    arguments: Callable[[ArgumentParser], None],
    *,
    lists: bool = False,
    deed_first: bool = False,
) -> Callable[[Run], Run]:
    """Return what makes a function a verb; see `Verb`."""

    def declared(run: Run) -> Run:
        _VERBS[name] = Verb(name, words, arguments, run, lists, deed_first)
        return run

    return declared


def verb_named(name: str) -> Verb:
    """Return a verb whose module has been imported."""
    return _VERBS[name]


NO_KIT = "none"
"""What --kit says where no kit is looked through, not even one's own."""


def plan_argument(parser: ArgumentParser, *, stroke: bool = False) -> None:
    """Take a plan, and a stroke of it."""
    parser.add_argument("plan", type=Path, help=phrase("a .pennello file"))
    if stroke:
        parser.add_argument("stroke", help=phrase("the stroke's id"))


def pdf_argument(parser: ArgumentParser, words: str = "", *, required: bool = False) -> None:
    """Take --pdf, and what paper it is for."""
    parser.add_argument("--pdf", type=Path, required=required, metavar="FILE", help=words or None)
    paper_arguments(parser)


def paper_arguments(parser: ArgumentParser) -> None:
    """Take what paper PDFs are for, and whose name stands in them; `main` lays that paper out."""
    parser.add_argument("--paper", choices=("A4", "Letter", "A3"), default="A4", help=phrase("the paper, default A4"))
    parser.add_argument("--made-by", default="", metavar="NAME", help=phrase("the author that the PDF names"))


def light_argument(parser: ArgumentParser) -> None:
    """Take --light; `in_light` of `plan_file` puts a plan into it."""
    lights = ("daylight", "dusk", "lantern", "led")
    parser.add_argument("--light", choices=lights, help=phrase("the light of the place; the plan's own without it"))


def json_argument(parser: ArgumentParser) -> None:
    """Take --json."""
    parser.add_argument("--json", action="store_true", help=phrase("answer as JSON"))


def notebook_argument(parser: ArgumentParser, *, words: str = "", begun: bool = True) -> None:
    """Take --notebook.

    Parameters
    ----------
    begun
        Whether one that is not there yet is begun; else it has to be there.
    """
    parser.add_argument(
        "--notebook",
        type=Path if begun else there,
        metavar="FILE",
        help=words or phrase("the notebook's file (default: your own)"),
    )


def kit_argument(parser: ArgumentParser, words: str) -> None:
    """Take --kit with a file, or bare for one's own."""
    parser.add_argument("--kit", type=str, nargs="?", const="", metavar="FILE", help=words)


def searched_arguments(parser: ArgumentParser) -> None:
    """Take what every search takes: a kit, and where to write."""
    kit_argument(
        parser,
        phrase(
            "look through this kit too; bare: your own, as without it once you have one; '{no_kit}': the plan alone",
            no_kit=NO_KIT,
        ),
    )
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)
