"""The stations in the order of the work: one row each."""

from __future__ import annotations

import threading
from contextlib import suppress
from dataclasses import dataclass
from importlib import import_module
from pathlib import Path
from pkgutil import walk_packages

from pennello import ui
from pennello.breath import breathe, breathing
from pennello.chart.form import skin_light
from pennello.design.on_chart import chart_of, charts_used, pieces_on
from pennello.design.plan import Plan
from pennello.errors import PennelloError
from pennello.files.demo import shipped_designs
from pennello.phrases import phrase
from pennello.session.courtesy import WINDOW
from pennello.ui.station import Action, Keys, Station, Takes, Workplace


@dataclass(frozen=True, slots=True)
class StationRow:
    """A station.

    Attributes
    ----------
    key, title
        Its key, and what it is called; its icon is `theme/icons/KEY.svg`.
    keys
        The keys that lead to it.
    place
        Where it stands, "module:Class": it is imported when it is first wanted.
    rests_bench
        Whether the stroke at work is not predicted while it is shown.
    takes_runs
        Whether a run at the chair that was cut off goes on there.
    takes_designs
        Whether a design that is opened from the page of designs is shown there.
    """

    key: str
    title: str
    keys: str
    place: str
    rests_bench: bool = False
    takes_runs: bool = False
    takes_designs: bool = False

    @property
    def actions(self) -> tuple[Action, ...]:
        """What can be done there, as its package says."""
        return getattr(import_module(self.place.rpartition(".")[0]), "ACTIONS", ())

    @property
    def help(self) -> tuple[Keys, ...]:
        """Keys and gestures that it takes itself, as its package says."""
        return getattr(import_module(self.place.rpartition(".")[0]), "HELP", ())

    @property
    def takes(self) -> tuple[Takes, ...]:
        """Files that it takes, as its package says."""
        return getattr(import_module(self.place.rpartition(".")[0]), "TAKES", ())

    def make(self, workplace: Workplace) -> Station:
        """Return it, made for a window."""
        module, name = self.place.split(":")
        kind: type[Station] = getattr(import_module(module), name)
        return kind.at(workplace)


_AT = "pennello.ui.stations"
STATIONS: tuple[StationRow, ...] = (
    StationRow("tray", phrase("Tray"), "Alt+1", f"{_AT}.tray.controller:TrayController"),
    StationRow("bench", phrase("Bench"), "Alt+2", f"{_AT}.bench.station:BenchStation"),
    StationRow(
        "chart",
        phrase("Chart"),
        "Alt+3",
        f"{_AT}.chart.station:ChartStation",
        rests_bench=True,
        takes_designs=True,
    ),
    StationRow(
        "order", phrase("Order"), "Alt+4", f"{_AT}.order.station:OrderStation", rests_bench=True, takes_runs=True
    ),
    StationRow("day", phrase("Day"), "Alt+5", f"{_AT}.day.station:DayStation", rests_bench=True),
    StationRow("notebook", phrase("Notebook"), "Alt+6", f"{_AT}.notebook.station:NotebookStation", rests_bench=True),
)
FIRST = "bench"
"""The station that a window opens with."""


def row(key: str) -> StationRow:
    """Return the row of a station."""
    return next(one for one in STATIONS if one.key == key)


def takers_of(path: Path) -> list[tuple[str, Takes]]:
    """Return the keys of the stations that take a file of this kind, each with what it does with it."""
    ending = path.suffix.lower()
    return [(one.key, takes) for one in STATIONS for takes in one.takes if ending in takes.endings]


def fetch(plan: Plan | None = None) -> threading.Thread:
    """Start reading the code of all stations and pages in the background, so that none is waited for.

    Return the thread.

    Then it reads the pictures that ship, works out where all that is on a plan's charts lies, and how light falls
    there, which every station asks for when it is first shown, and reads what the page of designs says of each.
    """
    thread = threading.Thread(target=_fetch, args=(plan,), name="pennello-stations", daemon=True)
    thread.start()
    return thread


def _fetch(plan: Plan | None) -> None:
    for one in STATIONS:
        import_module(one.place.partition(":")[0])
    from pennello.session.shipped_pictures import KINDS, shipped_keys  # noqa: PLC0415 - Pillow: never at the start

    for what in KINDS:
        shipped_keys(what)
    with breathing(lambda: WINDOW.goes_first(lambda: False)):
        if plan is not None:
            with suppress(PennelloError):
                for key in charts_used(plan):
                    skin_light(chart_of(plan, key))
                    pieces_on(plan, key)
        for design in shipped_designs():
            breathe()
            design.read_head()
        for page in walk_packages(ui.__path__, f"{ui.__name__}."):
            breathe()
            import_module(page.name)
