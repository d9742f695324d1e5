"""Speeds of loads and of the Tray, by pytest-benchmark: `make bench`."""

from __future__ import annotations

import os
import tempfile
from dataclasses import replace
from itertools import count, cycle
from pathlib import Path

import numpy as np
import pytest
from lantern_face import demo_plan
from PySide6.QtWidgets import QApplication

from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Paint
from pennello.kit.shelf import ItemKind, KitItem
from pennello.load.edge import load
from pennello.load.recipe import Recipe
from pennello.load.scatter import scatter_band
from pennello.session.document import Document
from pennello.session.settings import Settings
from pennello.store.kit_store import KitStore
from pennello.ui.app import make_application
from pennello.ui.bench_model import pickup_change
from pennello.ui.window import MainWindow


def ten(shift=0.0):
    plan = demo_plan()
    first = plan.stroke("dahlia-petal").recipe.pickups[0]
    parts = ((0.0, 1.0), (0.0, 0.3))
    picked = (replace(first, offset_mm=0.3 * n + shift, passes=2.0 + n % 3, part=parts[n % 2]) for n in range(10))
    return Recipe(tuple(picked)), plan.cakes_by_id, plan.brush("flat-3-4")


def test_ten_pickups_of_which_one_is_dragged(benchmark):
    recipe, cakes, brush = ten()
    steps = count()

    def once():
        moved = replace(recipe.pickups[4], offset_mm=1.0 + 0.001 * next(steps))
        load(Recipe((*recipe.pickups[:4], moved, *recipe.pickups[5:])), cakes, brush)

    benchmark(once)
    benchmark.extra_info["wanted, ms"] = 2


def test_ten_pickups_never_seen_before(benchmark):
    steps = count()
    _, cakes, brush = ten()
    recipes = [ten(0.0001 * n)[0] for n in range(400)]
    benchmark(lambda: load(recipes[next(steps) % 400], cakes, brush))
    benchmark.extra_info["wanted, ms"] = 2


def test_scatter_band(benchmark):
    recipe, cakes, brush = ten()
    benchmark(scatter_band, Recipe(recipe.pickups[:1]), cakes, brush)


@pytest.fixture(scope="module")
def big_kit():
    """2,000 paints and 500 cakes in a folder of their own."""
    rng = np.random.default_rng(1)
    paints = [Paint(f"p{n}", f"Shade {n}", f"#{int(rng.integers(1 << 24)):06x}", 0.85) for n in range(2000)]
    cakes = [
        Cake(f"c{n}", f"Cake {n}", tuple(Stripe(f"p{int(rng.integers(2000))}", 6.0) for _ in range(4)))
        for n in range(500)
    ]
    with tempfile.TemporaryDirectory() as folder:
        before = os.environ.get("XDG_DATA_HOME")
        os.environ["XDG_DATA_HOME"] = folder
        store = KitStore(Path(folder) / "pennello" / "kit.sqlite")
        store.write([KitItem(thing) for thing in (*paints, *cakes)])
        store.close()
        yield
        os.environ.pop("XDG_DATA_HOME") if before is None else os.environ.update(XDG_DATA_HOME=before)


@pytest.fixture
def window(big_kit):
    make_application(["pennello"])
    made = MainWindow(Document(demo_plan()), Settings())
    made.show()
    made.files.keeper.stop()
    QApplication.processEvents()
    yield made
    made.close()


@pytest.mark.parametrize("kind", [0, 1])
def test_tray_opens(benchmark, big_kit, kind):
    """From the click on the rail to the shelf painted, the first time in a window."""
    make_application(["pennello"])
    opened = []

    def fresh():
        made = MainWindow(Document(demo_plan()), Settings())
        made.show()
        made.files.keeper.stop()
        QApplication.processEvents()
        opened.append(made)
        return (made,), {}

    def open_tray(made):
        made.station("tray").model.kind = list(ItemKind)[kind]
        made.go_to("tray")
        made.station("tray").station.repaint()
        QApplication.processEvents()

    benchmark.pedantic(open_tray, setup=fresh, rounds=6, warmup_rounds=1)
    benchmark.extra_info["wanted, ms"] = 300
    for made in opened:
        made.close()


@pytest.mark.parametrize(("kind", "words"), [(0, "shade"), (1, "shade 19"), (1, "shade 1 + shade 2")])
def test_filter_per_keystroke(benchmark, window, kind, words):
    window.go_to("tray")
    window.station("tray").station.kinds.button(kind).click()
    texts = cycle([words[:n] for n in range(1, len(words) + 1)])

    def key():
        window.station("tray").station.search.setText(next(texts))
        QApplication.processEvents()

    benchmark.pedantic(key, rounds=40, warmup_rounds=4)
    benchmark.extra_info["wanted, ms"] = 50


@pytest.mark.parametrize("stroke", ["moth-wing", "kelp-leaf", "lantern-cheek"])
def test_drag_of_further_loads(benchmark, window, stroke):
    window.model.choose(stroke)
    values = cycle(np.linspace(6, 12, 13))

    def move():
        window.model.preview(pickup_change(0, passes=float(next(values))))
        QApplication.processEvents()

    benchmark.pedantic(move, rounds=30, warmup_rounds=3)
    benchmark.extra_info["wanted, ms"] = 33
    window.document.preview(None)
