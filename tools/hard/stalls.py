"""How long the window does not answer, by what is done in it: python -m hard.stalls [PLAN]. Measured, never tested."""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

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

    Beside it goes what the thread itself computed meanwhile: what is more than that it stood and waited, for workers
    or for a machine that is not idle.
    """

    def __init__(self) -> None:
        self.longest_ms = self.own_ms = 0.0
        self._last, self._own = time.monotonic(), time.thread_time()
        self._timer = QTimer()
        self._timer.setInterval(BEAT_MS)
        self._timer.timeout.connect(self._beat)
        self._timer.start()

    def _beat(self) -> None:
        now, own = time.monotonic(), time.thread_time()
        if 1000 * (now - self._last) > self.longest_ms:
            self.longest_ms, self.own_ms = 1000 * (now - self._last), 1000 * (own - self._own)
        self._last, self._own = now, own

    def of(self, act: Callable[[], object], seconds: float) -> tuple[float, float]:
        """Return the longest time without a beat while something is done and its work comes back, and of it own, ms."""
        self.longest_ms = self.own_ms = 0.0
        self._last, self._own = time.monotonic(), time.thread_time()
        QTimer.singleShot(0, act)
        rest(seconds)
        return self.longest_ms, self.own_ms


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
            longest, own = beats.of(act, seconds)
            print(f"{'*' if longest > LONG_MS else ' '} {words:26} {longest:6.0f} ms, own {own:6.0f} ms", flush=True)
        collector.stop()
        window.leave(copy=False)  # as the program does: workers and what was copied are let go of


if __name__ == "__main__":
    main()
