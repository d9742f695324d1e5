"""Many edits in one window: memory and handles stay within bounds. Run as a program of its own, as the monkey is."""

from __future__ import annotations

import json
import sys
import time
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtCore import QEvent
from PySide6.QtWidgets import QApplication

from hard.held import at_work
from hard.monkey import private_folders
from pennello.design.placed import PlacedMotif
from pennello.files.demo import demo_plan
from pennello.lay.warming import warm_up
from pennello.session.document import Document
from pennello.ui.app import make_application
from pennello.ui.collector import Collector
from pennello.ui.memory import resident_mb
from pennello.ui.window import MainWindow

MOST_MB = 350.0
MOST_FOR_PAGES_MB = 20.0  # what fifteen pages may leave that were opened and closed
MOST_HANDLES_MORE = 20
PAGES = 15


def there(window: MainWindow, key: str) -> Any:
    """Return a station with all that it has."""
    return window.station(key)


def _at(placed: PlacedMotif, x_mm: float) -> PlacedMotif:
    return replace(placed, place=replace(placed.place, x_mm=x_mm))


def _wait(app: QApplication, seconds: float) -> None:
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        app.processEvents()
        app.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)  # a loop of its own does this in the program
        time.sleep(0.002)


def _rest(app: QApplication, most_s: float = 60.0) -> None:
    """Wait until no worker is at work, three looks in a row."""
    idle, until = 0, time.monotonic() + most_s
    while idle < 3 and time.monotonic() < until:
        _wait(app, 0.7)
        idle = 0 if at_work() else idle + 1


def _handles() -> int:
    return sum(1 for _ in Path("/proc/self/fd").iterdir())


def _pages(app: QApplication, window: MainWindow) -> None:
    """Open and close the page of cautions many times."""
    controller = there(window, "order").controller
    for _ in range(PAGES):
        controller.ask()
        _wait(app, 0.05)
        if controller.page is not None:
            controller.page.reject()
        _wait(app, 0.05)


def edit(folder: Path, count: int) -> dict[str, float]:
    """Make so many edits, half at the Bench and half on the Chart; return what was measured."""
    private_folders(folder)
    app = make_application(["long"])
    window = MainWindow(Document(demo_plan()))
    collector = Collector(app)
    collector.start()
    window.show()
    warm_up().join()
    _wait(app, 1.0)
    before, handles = resident_mb(), _handles()
    peak = before
    names = [stroke.id for stroke in window.document.plan.strokes]
    for number in range(count // 2):
        if number % 40 == 0:
            window.model.choose(names[(number // 40) % len(names)])
        if window.model.pickup is not None:
            window.model.set_number("Drift", "drift_mm", 0.5 + (number % 97) * 0.03)
        _wait(app, 0.16 if number % 10 == 0 else 0.002)
        peak = max(peak, resident_mb())
    window.go_to("chart")
    _wait(app, 1.0)
    model = there(window, "chart").model
    for number in range(count - count // 2):
        if number % 50 == 0 and model.motifs:
            model.choose(model.motifs[(number // 50) % len(model.motifs)].id)
        model.edit_motif("Move", partial(_at, x_mm=float(number % 60 - 30)))
        _wait(app, 0.16 if number % 10 == 0 else 0.002)
        peak = max(peak, resident_mb())
    window.go_to("order")
    _rest(app)  # an order that is still worked out takes its solver's memory meanwhile: that is no page's
    _pages(app, window)  # the first ones bring what the others find there
    _rest(app)
    at_pages = resident_mb()
    _pages(app, window)
    _rest(app)
    window.go_to("bench")
    _wait(app, 1.0)
    told = {
        "edits": count,
        "before_mb": round(before, 1),
        "peak_mb": round(peak, 1),
        "pages_mb": round(resident_mb() - at_pages, 1),
        "handles_more": _handles() - handles,
    }
    window.document.replace(window.document.committed)
    window.close()
    collector.stop()
    return told


if __name__ == "__main__":
    where = Path(sys.argv[1])
    found = edit(where, int(sys.argv[2]))
    (where / "long.json").write_text(json.dumps(found))
