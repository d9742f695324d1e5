"""Speeds, by pytest-benchmark: `make bench`. Nothing here passes or fails by time."""

from __future__ import annotations

import subprocess
import sys
import time
from itertools import cycle

import numpy as np
import pytest
from lantern_face import demo_plan
from PySide6.QtCore import QEvent
from PySide6.QtWidgets import QApplication

from pennello.colour.recover import reflectance_from_srgb
from pennello.kept import forget_kept
from pennello.session.document import Document
from pennello.session.forecast import coarse, fine
from pennello.session.settings import Settings
from pennello.ui.app import make_application
from pennello.ui.bench_model import pickup_change, stroke_change
from pennello.ui.window import MainWindow
from pennello.units import LengthUnit

BARE = """
import numpy
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication([])
window = QMainWindow(); window.resize(1280, 800); window.show(); window.repaint(); app.processEvents()
import os
os._exit(0)
"""
OURS = """
import gc
gc.disable()  # as pennello.__main__ does
from lantern_face import demo_plan
from pennello.session.document import Document
from pennello.session.settings import Settings
from pennello.ui.app import make_application
app = make_application(["pennello"])
from pennello.ui.window import MainWindow
window = MainWindow(Document(demo_plan()), Settings()); window.show(); window.repaint(); app.processEvents()
assert window.model.outcome is not None
import os
status = open("/proc/self/status").read()  # getrusage would count what the parent held before
print(int(status.split("VmHWM:")[1].split()[0]) // 1024, flush=True)
os._exit(0)
"""


def start(code):
    return subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True).stdout


def test_first_window(benchmark):
    """Ours and a bare window turn about, so that a slow spell of the machine strikes both."""
    bare, memory = [], []

    def run_bare():
        before = time.perf_counter()
        start(BARE)
        bare.append(time.perf_counter() - before)

    benchmark.pedantic(lambda: memory.append(int(start(OURS))), setup=run_bare, rounds=15, warmup_rounds=1)
    ours = benchmark.stats.stats.data
    ratios = [one / other for one, other in zip(ours, bare[-len(ours) :], strict=True)]
    benchmark.extra_info["bare window, ms"] = round(1000 * float(np.median(bare)))
    benchmark.extra_info["ratio to a bare window (wanted <= 2.0)"] = round(float(np.median(ratios)), 2)
    benchmark.extra_info["resident memory, MB (wanted <= 300)"] = max(memory)


def test_recovery_of_30_paints(benchmark):
    colours = np.random.default_rng(1).random((30, 3))
    benchmark(reflectance_from_srgb, colours)


@pytest.fixture
def window():
    make_application(["pennello"])
    made = MainWindow(Document(demo_plan()), Settings())
    made.show()
    made.files.keeper.stop()
    yield made
    made.document.preview(None)
    made.close()
    made.deleteLater()
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


def whole_chain(window, change):
    """What one mouse move costs: load, lay, compare, and every mat painted."""
    window.model.preview(change)
    QApplication.processEvents()  # paints what is exposed


@pytest.mark.parametrize("stroke", ["dahlia-petal", "poppy-petal", "beetle-scale", "kelp-swoosh", "plume-eye"])
def test_drag_of_the_brush_on_the_cake(benchmark, window, stroke):
    window.model.choose(stroke)
    offsets = cycle(np.linspace(1, 4, 7))
    benchmark.pedantic(lambda: whole_chain(window, pickup_change(offset_mm=float(next(offsets)))), rounds=40)


@pytest.mark.parametrize("stroke", ["dahlia-petal", "poppy-petal", "beetle-scale", "kelp-swoosh", "plume-eye"])
def test_drag_of_the_chisels_angle(benchmark, window, stroke):
    from dataclasses import replace

    window.model.choose(stroke)
    angles = cycle(np.linspace(60, 90, 31))

    def change():
        angle = float(next(angles))
        return stroke_change(lambda s: replace(s, nib=replace(s.nib, angle_deg=angle)))

    benchmark.pedantic(lambda: whole_chain(window, change()), rounds=40)


@pytest.mark.parametrize("stroke", ["dahlia-petal", "kelp-swoosh"])
def test_prediction_alone(benchmark, stroke):
    plan = demo_plan()

    def fresh():
        forget_kept()
        return coarse(plan, stroke)

    benchmark(fresh)


def test_rest_with_verdict(benchmark):
    plan = demo_plan()
    benchmark(fine, plan, "poppy-petal", LengthUnit.MM)


def test_another_theme(benchmark, window):
    """The window is held up so long; wanted at most 100 ms on an idle machine."""
    app, names = QApplication.instance(), cycle(("lamp", "linen"))

    def change():
        window.clothes.choose_theme(next(names))
        app.processEvents()

    benchmark.pedantic(change, rounds=20)


@pytest.mark.parametrize("station", ["chart", "order"])
def test_to_another_station_and_back(benchmark, window, station):
    """Both ways together, after the first time."""

    def there_and_back():
        window.go_to(station)
        QApplication.processEvents()
        window.go_to("bench")
        QApplication.processEvents()

    there_and_back()
    benchmark.pedantic(there_and_back, rounds=10)
