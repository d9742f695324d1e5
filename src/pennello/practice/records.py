"""What the notebook keeps: pages by date, tries on practice sheets, constants that were learnt."""

from __future__ import annotations

from dataclasses import dataclass

from pennello.errors import OutOfRangeError
from pennello.limits import check_name
from pennello.phrases import phrase
from pennello.practice.tries import TryScore
from pennello.practice.trouble import Trouble

MOST_NOTE, MOST_LINE = 4000, 200
MOST_FAULTS = 50


@dataclass(frozen=True, slots=True)
class PageFault:
    """What went wrong: its word, on which piece ("" for all of it) and what that is called, and what would mend it."""

    trouble: Trouble
    piece: str = ""
    name: str = ""
    mend: str = ""


@dataclass(frozen=True, slots=True)
class LogPage:
    """A page of the notebook.

    Attributes
    ----------
    id
        Its number; 0 for one that is not kept yet.
    day
        When, ISO 8601.
    title
        What was painted: the plan's title.
    plan, part
        The plan's file, and the part alone, where it was not all.
    short
        Whether it was the short form.
    run
        The number of its run at the chair; None where it is a note without one.
    painted_s, planned_s
        Seconds of the hand, and what was predicted; 0 where neither is known.
    light
        By which light the photo was taken.
    photo, picture
        Names of files in the notebook's folder of photos: what was painted, and what was planned.
    asked, kept
        What the person asked for, and which variant was kept.
    colours
        Words for the colours that it shows.
    """

    day: str
    title: str
    id: int = 0
    plan: str = ""
    part: str = ""
    short: bool = False
    run: int | None = None
    painted_s: float = 0.0
    planned_s: float = 0.0
    note: str = ""
    light: str = ""
    photo: str = ""
    picture: str = ""
    asked: str = ""
    kept: str = ""
    colours: tuple[str, ...] = ()
    faults: tuple[PageFault, ...] = ()

    def __post_init__(self) -> None:
        for name in ("title", "part", "light", "asked", "kept"):
            check_name(phrase("{name} of a page", name=name), getattr(self, name), MOST_LINE)
        check_name(phrase("note of a page"), self.note, MOST_NOTE)
        if len(self.faults) > MOST_FAULTS:
            raise OutOfRangeError(
                phrase("faults of a page"), len(self.faults), phrase("up to {most_faults}", most_faults=MOST_FAULTS)
            )


@dataclass(frozen=True, slots=True)
class KeptTry:
    """A try that was scored: when, of which plan and thing, in which lesson, traced on the screen or painted."""

    taken: str
    plan: str
    what: str
    name: str
    score: TryScore
    lesson: str = ""
    traced: bool = False


@dataclass(frozen=True, slots=True)
class KeptConstant:
    """A constant that was learnt: when, from what, of which brush or paint, its value and what it was before.

    `shrunk` is its spread against its prior's: below 0.6 it is own. `old` is the whole of a paint as it was, as JSON;
    "" for a brush, whose constants stand for themselves.
    """

    taken: str
    plan: str
    item: str
    name: str
    value: float
    was: float
    shrunk: float
    source: str
    old: str = ""
