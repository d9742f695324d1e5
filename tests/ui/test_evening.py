"""One evening through all stations: a design of one's own from nothing, its order, the run, undone and opened again."""

from functools import partial

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog
from tests.ui.conftest import put_motif

from pennello.design.fresh import fresh_plan
from pennello.files.plan_json import read_plan
from pennello.session.notebook import notebook_path
from pennello.store.notebook import Notebook

KEYS = Qt.Key


@pytest.fixture
def painted(open_window, qtbot):
    """A window with a ring on the left of the forehead, its mirror image, and leaves under each."""
    window = open_window(fresh_plan(), at="chart")
    chart = window.station("chart")
    assert "make one on the Bench first" in chart.side.parts.words.text()
    window.go_to("bench")
    window.station("bench").first.click()
    open_window.settled(window)
    window.go_to("chart")
    for key, place in (("shell-flower", (30.0, -75.0)), ("two-leaves", (25.0, -62.0))):
        put_motif(chart, key, partial(QTest.mouseClick, chart.row.buttons[key], Qt.MouseButton.LeftButton))
        chart.panel.put_on(place)
        chart.panel.twin.click()
    chart.model.choose("shell-flower")
    for key, value in (("rows", 1), ("heel_mm", 4)):
        chart.panel.fields[key].setValue(value)
    qtbot.waitUntil(lambda: not chart.model.busy and chart.model.painted is not None)
    return window


def ordered(window, qtbot):
    model = window.station("order").model
    model.improve_s, model.seconds = 0.2, 0.1
    window.go_to("order")
    qtbot.wait(10)
    qtbot.waitUntil(lambda: model.rests and bool(model.arranged and model.arranged.jobs))
    return model


def test_from_nothing_to_a_recorded_run(painted, qtbot, tmp_path, monkeypatch, open_window):
    window = painted
    assert window.station("chart").model.painted.strokes == 2 * (5 + 4)
    model = ordered(window, qtbot)
    assert set(model.arranged.order) == {
        f"{part}{twin}" for part in ("shell-flower/petal1", "two-leaves/leaf1") for twin in ("", "/twin")
    }
    told = [step.words for step in model.arranged.steps]
    assert any("wearer's left" in words for words in told)
    assert any("wearer's right" in words for words in told)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "own.pennello"), ""))
    assert window.save()
    window.station("order").run.click()
    page = window.station("order").controller.page
    qtbot.waitUntil(page.isVisible)
    qtbot.waitUntil(page.go.isEnabled)
    page.go.click()
    qtbot.waitUntil(lambda: window.station("order").controller.window is not None)
    run = window.station("order").controller.window
    cards = 0
    while not run.run.over:
        QTest.keyClick(run, KEYS.Key_Space)
        cards += 1
    assert cards == len(model.arranged.steps)
    QTest.keyClick(run, KEYS.Key_Space)
    qtbot.waitUntil(lambda: not window.station("order").controller.path.exists())
    book = Notebook(notebook_path())
    (note,) = book.runs()
    book.close()
    assert note.finished
    assert [step.step for step in note.steps] == [step.id for step in model.arranged.steps]
    again = open_window(read_plan(tmp_path / "own.pennello"))
    assert again.document.committed == window.document.committed
    assert ordered(again, qtbot).arranged.order == model.arranged.order


def test_everything_is_undone_and_done_again(painted, qtbot):
    window = painted
    model = ordered(window, qtbot)
    model.set_ordering("What may be left out", lambda one: one.with_worth("leaf-pair", 2.0))
    window.go_to("bench")
    window.station("bench").refresh()
    done = window.document.committed
    steps = 0
    while window.document.undo_label:
        window.undo()
        steps += 1
        for station in ("chart", "order", "bench"):
            window.go_to(station)
    assert window.document.committed == fresh_plan()
    assert steps >= 8
    while window.document.redo_label:
        window.redo()
    assert window.document.committed == done


def test_an_empty_plan_goes_through_every_station(open_window, qtbot):
    window = open_window(fresh_plan())
    for station in ("chart", "order", "bench"):
        window.go_to(station)
        qtbot.wait(20)
        assert not window.grab().isNull()
    assert not window.station("order").run.isEnabled()
    assert window.document.undo_label is None
