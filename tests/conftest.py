"""Shared fixtures. No test reads or writes the user's own settings."""

from __future__ import annotations

import gc
import itertools
import threading
import time
import warnings
from dataclasses import replace

import pytest
from hypothesis import settings

with warnings.catch_warnings():  # colour-science warns that it finds no plotting library; it is an oracle only
    warnings.simplefilter("ignore")
    import colour  # noqa: F401

from lantern_face import demo_plan

from pennello.design.plan import Plan
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Stripe
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.load.recipe import PickUp, Recipe
from pennello.path.cubic import CubicPath, line
from pennello.ui.memory import give_back, settle_memory

LONG = (
    *("test_long", "test_hard", "test_window", "test_notebook", "test_tasks", "test_chart", "test_fill_outline"),
    *("test_practice_cli", "test_order", "test_day", "test_pulling", "test_parts", "test_tray", "test_access"),
    *("test_phrases", "test_shipped_designs", "test_search", "test_tries", "test_design_cake", "test_promises"),
    *("test_craft", "test_day_cli", "test_cli", "test_bench", "test_printing", "test_fit_card", "test_drawing"),
)
"""Files that take longest, the longest first: begun last, one worker would be at them while the others wait."""

GRACE_S = 20
"""How long a worker that was told to end may take to come to its next look, on a busy machine."""

_HOMES = itertools.count()
_TESTS = itertools.count(1)

settings.register_profile("here", deadline=None, max_examples=25, derandomize=True)
settings.load_profile("here")


EVERYTHING_EVERY = 500
"""After so many tests all that is no longer used is looked for, after each of the others what is young."""


def pytest_sessionstart():
    """Take throwing away over from Python, as the program does: it would do it on a worker's thread too."""
    settle_memory()
    gc.disable()
    gc.collect()
    gc.freeze()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_teardown(item):
    """Throw away here, on the thread that Qt lives on, what a test left behind."""
    yield
    if next(_TESTS) % EVERYTHING_EVERY:
        gc.collect(1)
    else:
        gc.collect()
        give_back()


def pytest_collection_modifyitems(items):
    """Begin with the files that take longest."""
    rank = {name: number for number, name in enumerate(LONG)}
    items.sort(key=lambda item: rank.get(item.path.stem, len(LONG)))


@pytest.fixture(autouse=True)
def own_folders(tmp_path_factory, monkeypatch):
    """Keep settings and copies of unnamed plans in a folder of the test's own."""
    home = tmp_path_factory.getbasetemp() / f"home-{next(_HOMES)}"  # `mktemp` looks through all that are there
    home.mkdir()
    for name in ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME"):
        monkeypatch.setenv(name, str(home / name.lower()))
    return home


def _alive(before):
    return [thread.name for thread in threading.enumerate() if thread not in before and thread.is_alive()]


@pytest.fixture(autouse=True)
def nothing_left_alive(request):
    """Fail a test that leaves a thread, a running timer or a top-level widget behind."""
    before = set(threading.enumerate())
    yield
    deadline = time.monotonic() + GRACE_S
    while (left := _alive(before)) and time.monotonic() < deadline:
        time.sleep(0.01)
    assert not left, f"threads left alive: {left}"
    if "qapp" in request.fixturenames:
        _no_qt_left(request.getfixturevalue("qapp"))


@pytest.fixture
def look_for_qt_left():
    """The look itself, for the test that sees whether it can fail."""
    return _no_qt_left


def _no_qt_left(app):
    from PySide6.QtCore import QEvent, QTimer

    app.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    app.processEvents()
    widgets = [w for w in app.topLevelWidgets() if w.isVisible()]
    timers = [t for w in app.topLevelWidgets() for t in w.findChildren(QTimer) if t.isActive()]
    assert not widgets, f"top-level widgets left open: {widgets}"
    assert not timers, f"timers left running: {timers}"


@pytest.fixture(scope="session")
def demo() -> Plan:
    """The demo's eight bench strokes, with nothing on its charts."""
    whole = demo_plan()
    return replace(whole, strokes=whole.strokes[:8], motifs=(), overlays=(), parts=())


@pytest.fixture
def brush() -> Applicator:
    return Applicator("flat", "Flat 3/4 in", 19.05)


@pytest.fixture
def two_stripes() -> Cake:
    """A wide cake of two stripes with a sharp boundary at 20 mm."""
    return Cake("two", "Two", (Stripe("foam-white", 20.0), Stripe("poppy-red", 20.0)), softness_mm=0.0)


@pytest.fixture
def paints():
    return catalogue.paints()


@pytest.fixture
def middle_load() -> Recipe:
    """The brush square over the boundary of `two_stripes`."""
    return Recipe((PickUp("two", offset_mm=20 - 19.05 / 2, passes=12, drift_mm=0.8),))


@pytest.fixture
def straight() -> Stroke:
    return Stroke(line((0, 0), (60, 0)), Nib(NibMode.FOLLOWING, 90))


@pytest.fixture
def arc_path() -> CubicPath:
    return CubicPath(((0, 0), (-2, -30), (42, -30), (40, 0)))
