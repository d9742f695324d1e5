"""The contract between the window and a station, and what a station is given.

A station is one row of `stations.registry` and a package. The window makes it when it is first wanted, enters and
leaves it, and asks it for its history; it knows none by name. What can be done there, and the keys that it takes, its
package says (`ACTIONS`, `HELP`), so that menus and help need not make it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol, cast

from PySide6.QtWidgets import QWidget

from pennello.design.plan import Plan
from pennello.session.document import Document
from pennello.session.owner import Owner
from pennello.session.settings import Settings
from pennello.ui.bench_model import BenchModel
from pennello.ui.copying import Copied
from pennello.ui.exporting import Exporter, Printed
from pennello.units import LengthUnit


class UndoRedo(Protocol):
    """What undo and redo go through."""

    @property
    def undo_label(self) -> str | None:
        """What undo would take back."""

    @property
    def redo_label(self) -> str | None:
        """What redo would do again."""

    def undo(self) -> None:
        """Take back the last step."""

    def redo(self) -> None:
        """Do the step again."""


@dataclass(frozen=True, slots=True)
class Action:
    """Something to do, declared once: menus, keys and the help page read it.

    Attributes
    ----------
    do
        Name of the method that does it, of the window or of the station that declares it.
    title
        What the menu calls it.
    keys
        Its keys as Qt writes them, "Ctrl+S"; "" for none.
    menu
        Part of the plan's menu in which it stands; "" for none.
    ticked
        Name of the setting that it switches, which a tick shows; "" for a plain action.
    """

    do: str
    title: str
    keys: str = ""
    menu: str = ""
    ticked: str = ""


@dataclass(frozen=True, slots=True)
class Keys:
    """Keys or a gesture that a station takes itself, and what they do: for the help page."""

    keys: str
    words: str


@dataclass(frozen=True, slots=True)
class Takes:
    """Files that a station takes when they are opened or dropped on the window.

    Attributes
    ----------
    endings
        How they end, in small letters with the dot.
    do
        Name of the station's method that takes the path.
    words
        What it takes one for, as in "a photo for this chart".
    """

    endings: tuple[str, ...]
    do: str
    words: str


@dataclass(frozen=True, slots=True, eq=False)
class Workplace:
    """What lies on the table for every station.

    Attributes
    ----------
    bench
        The stroke at work, and what is predicted of it.
    settings, settle
        The settings as they are, and how to change them for good.
    folder
        Where files are asked for first.
    say
        Shows a sentence across the top.
    go_to, station
        Shows another station; gives it, made if need be.
    kit_changed
        Is called when the kit has another history.
    run_plan
        Opens a plan (its file, or None for one that ships), in its short form or not, and begins its run at the chair;
        asks before changes are lost.
    """

    document: Document
    bench: BenchModel
    exporter: Exporter
    owner: Owner
    window: QWidget
    settings: Callable[[], Settings]
    settle: Callable[[Settings], None]
    folder: Callable[[], Path]
    say: Callable[[str], None]
    go_to: Callable[[str], None]
    station: Callable[[str], Station]
    kit_changed: Callable[[], None]
    run_plan: Callable[[Plan, Path | None, bool], None]


class Station:
    """What the window asks of a station; one that has nothing to say to it leaves it as it is here."""

    @classmethod
    def at(cls, place: Workplace) -> Station:
        """Return the station, made for a window."""
        raise NotImplementedError

    @property
    def widget(self) -> QWidget:
        """What the window shows."""
        return cast("QWidget", self)

    @property
    def history(self) -> UndoRedo | None:
        """What undo goes through here; None for the plan's."""
        return None

    def copied(self) -> Copied | None:
        """What Ctrl+C gives of it to be pasted elsewhere; None for nothing."""
        return None

    def papers(self) -> tuple[Printed, ...]:
        """What it has to print, the most wanted first."""
        return ()

    def get_ready(self) -> None:
        """Do ahead what `enter` would do at the first visit, apart from putting it together: less is done at a time."""

    def enter(self) -> None:
        """It is shown."""

    def leave(self) -> None:
        """Another one is shown."""

    def show_unit(self, unit: LengthUnit) -> None:
        """Show lengths in a unit."""

    def show_theme(self) -> None:
        """Another theme is worn."""

    def close_all(self) -> None:
        """Stop timers and work; the window closes."""
