"""Speeds of the Chart, by pytest-benchmark: `make bench`."""

from __future__ import annotations

import itertools
import math
import time
from dataclasses import replace

import numpy as np
import pytest
from lantern_face import demo_plan

from pennello.design.on_chart import moved_group, painted_plan, pieces_on, with_new_motif
from pennello.design.plan import Plan
from pennello.design.scene import paint_all
from pennello.kept import forget_kept
from pennello.lay.engine import kernel
from pennello.lay.warming import rehearse
from pennello.motif.place import Place
from pennello.session.catalogue import PX_PER_MM, Pictures, motif_plan
from pennello.session.chart_scene import ChartScene
from pennello.session.document import Document
from pennello.session.settings import Settings


def crowded(motifs: int) -> Plan:
    """So many scale fields of 7 strokes each over the face."""
    plan = replace(demo_plan(), motifs=())
    for number in range(motifs):
        place = Place(-50 + 20 * (number % 6), -60 + 30 * (number // 6))
        plan, _ = with_new_motif(plan, "scale-field", "face", place, "shell-scale")
        few = (("columns", 2.0), ("rows", 3.0), ("spread_mm", 5.0), ("height_mm", 4.0))
        plan = replace(plan, motifs=(*plan.motifs[:-1], replace(plan.motifs[-1], values=few)))
    return plan


@pytest.fixture(scope="module")
def doer():
    made = kernel()
    rehearse(made)
    return made


def test_a_design_of_150_strokes_is_painted(benchmark, doer):
    plan = crowded(22)
    assert len(pieces_on(plan, "face")) >= 150
    benchmark.pedantic(lambda: ChartScene().paint(plan, "face", doer), rounds=3)
    benchmark.extra_info["strokes"] = len(pieces_on(plan, "face"))
    benchmark.extra_info["wanted, ms, window included"] = 1000


def test_a_motif_of_20_strokes_follows(benchmark, qapp_bench):
    from pennello.ui.app import make_application  # noqa: F401 - the typeface
    from pennello.ui.window import MainWindow

    plan = crowded(4)
    plan, name = with_new_motif(plan, "scale-field", "face", Place(0, 20), "shell-scale")
    few = (("columns", 4.0), ("rows", 4.0), ("spread_mm", 5.0), ("height_mm", 4.0))
    plan = replace(plan, motifs=(*plan.motifs[:-1], replace(plan.motifs[-1], values=few)))
    window = MainWindow(Document(plan), Settings())
    window.resize(1280, 800)
    window.show()
    window.go_to("chart")
    station = window.station("chart")
    station.model.choose(name)
    end = time.monotonic() + 3
    while time.monotonic() < end:
        qapp_bench.processEvents()
    step = [0.0]

    def drag():
        step[0] += 0.5
        window.document.preview(moved_group(window.document.committed, name, Place(step[0] % 20, 0)))
        station.board.repaint()

    benchmark.pedantic(drag, rounds=30, warmup_rounds=3)
    benchmark.extra_info["wanted, ms"] = 33
    window.document.preview(None)
    window.close()


def test_a_stroke_of_60_mm_follows_the_hand(benchmark, qapp_bench, doer):
    """From the mouse's event to the painted frame, over a chart of 100 strokes, with a flat of 3/4 in."""
    from PySide6.QtCore import Qt
    from PySide6.QtTest import QTest

    from pennello.lay.engine import serve
    from pennello.ui.window import MainWindow

    serve(doer)
    plan = crowded(15)
    assert len(pieces_on(plan, "face")) >= 100
    load = next(one.id for one in plan.strokes if plan.brush(one.brush).name == "Flat 3/4 in")
    window = MainWindow(Document(plan), Settings())
    window.resize(1280, 800)
    window.show()
    window.go_to("chart")
    board = window.station("chart").board
    until = time.monotonic() + 60
    while (board.model.painted is None or board.model.busy) and time.monotonic() < until:
        qapp_bench.processEvents()
    board.pull_by_hand(load)
    took, pulls = [], itertools.count()

    def pulled():
        number = next(pulls)  # no two strokes are the same: what is kept of the last one is of no use
        bent, side = 10 + number % 7, number % 5
        way = [(-32 + side + 0.75 * n, -40 - bent * math.sin(math.pi * n / 80)) for n in range(81)]
        at = [board.view.to_px(*point).toPoint() for point in way]
        QTest.mousePress(board, Qt.MouseButton.LeftButton, pos=at[0])
        qapp_bench.processEvents()
        for one in at[1:]:
            before, drawn = time.perf_counter(), board.puller.laid
            QTest.mouseMove(board, one)
            qapp_bench.processEvents()
            assert board.puller.laid == drawn + 1, "each step is painted"
            took.append(1000 * (time.perf_counter() - before))
        QTest.keyClick(board, Qt.Key.Key_Escape)

    benchmark.pedantic(pulled, rounds=5, warmup_rounds=1)
    benchmark.extra_info["an event, ms: median, p95"] = [round(float(q), 1) for q in np.percentile(took, [50, 95])]
    benchmark.extra_info["wanted, p95, ms"] = 16.7
    window.close()


def test_where_150_strokes_lie_is_worked_out(benchmark):
    plan = crowded(22)

    def work():
        painted_plan.cache_clear()
        painted_plan(plan, "face")

    benchmark(work)


@pytest.mark.parametrize("key", ["whole-heart", "shell-flower", "rose-open", "tea-rose", "many-petals"])
def test_a_motif_is_laid_anew(benchmark, doer, key):
    plan = motif_plan(demo_plan(), key)

    def work():
        forget_kept()
        paint_all(plan, PX_PER_MM, doer)

    benchmark(work)
    benchmark.extra_info["strokes"] = len(plan.strokes)
    benchmark.extra_info["wanted, ms"] = 60


def test_the_catalogue_comes_from_its_folder(benchmark, doer, tmp_path):
    plan = demo_plan()
    Pictures(plan, tmp_path).all()
    benchmark(lambda: Pictures(plan, tmp_path).all())
    benchmark.extra_info["wanted, ms"] = 200
