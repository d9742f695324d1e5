"""How long the window does not answer, by what is done in it: python -m hard.stalls [PLAN]. Measured, never tested."""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any, NamedTuple

from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QDialog

from hard.monkey import private_folders
from pennello.files.demo import demo_plan
from pennello.files.plan_json import read_plan
from pennello.lay.warming import warm_up
from pennello.session.document import Document
from pennello.ui.ahead import Ahead, make_stations
from pennello.ui.app import make_application
from pennello.ui.collector import Collector
from pennello.ui.stations.registry import STATIONS, fetch
from pennello.ui.window import MainWindow

BEAT_MS, LONG_MS = 5, 100  # quicker beats would themselves be taken for a window at work (`Ahead`)


class Beats:
    """A clock on the window's own thread: what lies between two of its beats is what a user waits.

    Beside it goes what the thread itself computed meanwhile, and what the workers did: what is more than both together
    nobody here did, and the machine was not idle.
    """

    def __init__(self) -> None:
        self.longest = Gap(0.0, 0.0, 0.0)
        self._last = _clocks()
        self._timer = QTimer()
        self._timer.setInterval(BEAT_MS)
        self._timer.timeout.connect(self._beat)
        self._timer.start()

    def _beat(self) -> None:
        now = _clocks()
        self.longest = max(
            self.longest, Gap(*(1000 * (after - before) for after, before in zip(now, self._last, strict=True)))
        )
        self._last = now

    def of(self, act: Callable[[], object], seconds: float) -> Gap:
        """Return the longest time without a beat while something is done and its work comes back."""
        self.longest, self._last = Gap(0.0, 0.0, 0.0), _clocks()
        QTimer.singleShot(0, act)
        rest(seconds)
        return self.longest


class Gap(NamedTuple):
    """A time without a beat, and what the window's thread and the workers computed within it, ms."""

    ms: float
    own_ms: float
    workers_ms: float


def _clocks() -> tuple[float, float, float]:
    own = time.thread_time()
    return time.monotonic(), own, time.process_time() - own


def rest(seconds: float) -> None:
    """Let the window live."""
    loop = QEventLoop()
    QTimer.singleShot(round(1000 * seconds), loop.quit)
    loop.exec()


def _acts(window: MainWindow, made: list[Ahead]) -> list[tuple[str, Callable[[], object], float]]:
    keys = [one.key for one in STATIONS]

    def aside() -> None:
        chart: Any = window.station("chart")
        model = chart.model
        model.choose(model.motifs[0].id)
        model.edit_motif("Move", lambda one: replace(one, place=replace(one.place, x_mm=one.place.x_mm + 3)))

    def close_page() -> None:
        window.printing.close()

    def before_the_run() -> None:
        order: Any = window.station("order")
        order.controller.ask()

    def new_page() -> None:
        notebook: Any = window.station("notebook")
        notebook.write_page()

    def close_dialogs() -> None:
        for page in window.findChildren(QDialog):
            page.close()

    def put_together() -> None:
        while not made or not made[0].over:
            rest(0.5)

    acts: list[tuple[str, Callable[[], object], float]] = [("show", window.show, 5.0)]
    acts += [("stations put together", put_together, 0.1)]
    acts += [(f"{key} for the first time", partial(window.go_to, key), 3.0) for key in keys]
    acts += [(f"{key} again", partial(window.go_to, key), 1.5) for key in keys]
    acts += [(f"light {name}", partial(window.bar.theme_chosen.emit, name), 2.0) for name in ("linen", "lamp")]
    acts += [("help", window.show_help, 1.5), ("designs", window.show_designs, 3.0)]
    acts += [("to the chart", lambda: window.go_to("chart"), 1.0), ("motif aside", aside, 1.5)]
    acts += [("undo", window.undo, 1.5), ("redo", window.redo, 1.5), ("copy", window.copy_shown, 2.0)]
    acts += [("print", window.print_shown, 4.0), ("close the page", close_page, 1.0)]
    acts += [("before the run", before_the_run, 2.5), ("close it", close_dialogs, 1.0)]
    acts += [("a new page of the notebook", new_page, 2.5), ("close it", close_dialogs, 1.0)]
    acts += [("keep", lambda: window.document.replace(window.document.committed), 1.0)]
    acts += [("new plan", window.files.new_plan, 2.0)]
    return acts


def main() -> None:
    """Do what is done every day and print how long the window did not answer."""
    with tempfile.TemporaryDirectory(prefix="pennello-stalls-") as name:
        private_folders(Path(name))
        app = make_application(["stalls"])
        warm_up().join()
        plan = read_plan(Path(sys.argv[1])) if len(sys.argv) > 1 else demo_plan()
        window = MainWindow(Document(plan))
        collector = Collector(app)
        collector.start()
        window.come_back()
        beats = Beats()
        made = list[Ahead]()
        QTimer.singleShot(800, lambda: made.append(make_stations(window, fetch(plan), collector.settle)))
        for words, act, seconds in _acts(window, made):
            gap = beats.of(act, seconds)
            told = f"{gap.ms:6.0f} ms, own {gap.own_ms:6.0f} ms, workers {gap.workers_ms:6.0f} ms"
            print(f"{'*' if gap.ms > LONG_MS else ' '} {words:26} {told}", flush=True)
        collector.stop()
        window.leave(copy=False)  # as the program does: workers and what was copied are let go of


if __name__ == "__main__":
    main()
