"""The Order station and the run at the chair, through the window."""

import threading
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox

from pennello.caution.person import Person
from pennello.design.on_chart import chart_of
from pennello.design.pace import StepKind
from pennello.design.plan import Plan
from pennello.errors import FileProblemError
from pennello.files.plan_json import read_plan
from pennello.finding import Code, Finding
from pennello.order.arrange import arrange, design_of, in_order
from pennello.session.notebook import notebook_path
from pennello.session.run_keeper import kept_run
from pennello.store.notebook import Notebook
from pennello.ui.stations.order import run_controller
from pennello.ui.theme.tokens import theme

EVENING = Path(__file__).parents[1] / "files/v7-saltmarsh.pennello"
"""The demo as it was with version 7: small motifs whose rows wait for each other."""

KEYS, LEFT = Qt.Key, Qt.MouseButton.LeftButton


@pytest.fixture
def window(open_window):
    return open_window(read_plan(EVENING))


@pytest.fixture
def station(window, qtbot):
    model = window.station("order").model
    model.improve_s, model.seconds, model.chart = 0.5, 0.3, "hand"
    window.go_to("order")
    rested(qtbot, window.station("order"))
    return window.station("order")


def rested(qtbot, station):
    qtbot.wait(10)
    qtbot.waitUntil(lambda: station.model.rests and station.model.arranged is not None)


def show(qtbot, station, chart):
    station.chart.setCurrentIndex(station.chart.findData(chart))
    station.chart.activated.emit(station.chart.currentIndex())
    rested(qtbot, station)
    assert station.model.chart == chart


def test_nothing_is_said_to_be_missing_while_an_order_is_looked_for(window):
    window.go_to("order")
    station = window.station("order")
    assert station.model.arranged is None
    assert station.empty.isHidden()


def test_an_order_is_shown_with_what_it_comes_to(window, station, qtbot):
    assert "min in all" in station.panel.total.text()
    assert "no order is shorter" in station.panel.sums.text()
    QTest.keyClick(station.line, KEYS.Key_Right)
    assert station.panel.name.text() == "Dahlia wrist: 5 × petal"
    QTest.keyClick(station.line, KEYS.Key_Right)
    assert "dries for" in station.panel.says.text()
    qtbot.waitUntil(lambda: len(station.model.after) == 2)
    assert station.panel.after.pixmap() is not None
    assert not station.grab().isNull()
    show(qtbot, station, "face")
    assert "petal-ring/petal1" in station.model.pictures
    window.go_to("bench")
    assert station.model.rests


def test_a_step_is_dragged_where_it_may_hang_and_refused_where_not(window, station, qtbot):
    show(qtbot, station, "face")
    before = station.model.arranged.order
    line = station.line

    def drag(name, to_x):
        card = line.card_of(station.model.arranged.step(name))
        QTest.mousePress(line.viewport(), LEFT, pos=card.center().toPoint())
        for part in (0.3, 0.7, 1.0):
            x = card.center().x() + (to_x - card.center().x()) * part
            QTest.mouseMove(line.viewport(), QPointF(x, card.center().y()).toPoint())
        assert not line.grab().isNull()
        QTest.mouseRelease(line.viewport(), LEFT, pos=QPointF(to_x, card.center().y()).toPoint())

    drag("scale-field/scale3", 5.0)
    assert "cannot come before" in window.banner.words.text()
    assert station.model.arranged.order == before
    drag("petal-ring/petal1", 1.0)
    rested(qtbot, station)
    assert station.model.arranged.order != before
    assert window.document.committed.ordering.sequence == station.model.arranged.order
    assert "in your own order" in station.panel.sums.text()
    window.undo()
    rested(qtbot, station)
    assert station.model.arranged.order == before
    window.redo()
    rested(qtbot, station)
    station.automatic.click()
    rested(qtbot, station)
    assert window.document.committed.ordering.sequence == ()


def test_line_work_is_a_step_with_its_picture(window, station, qtbot):
    show(qtbot, station, "cheek-left")
    lights = "foam-lights/stroke1"
    assert station.model.arranged.job(lights).kind is StepKind.LINE
    picture = station.model.pictures[lights]
    assert picture.shape[2] == 4
    line = picture[picture[..., 3] > 250][:, :3]
    assert np.median(line.min(axis=1)) > 215  # white lines, and what is bare is clear
    assert (picture[..., 3] == 0).mean() > 0.5
    station.model.choose(lights)
    assert not station.grab().isNull()
    station.controller.begin(Person())
    run = station.controller.window
    while run.run.step.job != lights:
        run.do_done()
    card = run.load.grab().toImage().convertToFormat(QImage.Format.Format_RGB888)
    strip = [card.pixelColor(card.width() // 2, y) for y in range(0, card.height(), 2)]
    assert any(min(one.red(), one.green(), one.blue()) > 235 and one.blue() < one.red() for one in strip)  # the load
    station.controller.close()


def test_by_keyboard(window, station, qtbot):
    show(qtbot, station, "forearm")
    line, first = station.line, station.model.arranged.order[0]
    QTest.keyClick(line, KEYS.Key_Right)
    assert station.model.chosen == first
    QTest.keyClick(line, KEYS.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert "cannot come after" in window.banner.words.text()
    QTest.keyClick(line, KEYS.Key_Right)
    last = station.model.arranged.order.index(station.model.chosen)
    QTest.keyClick(line, KEYS.Key_Left)
    assert station.model.arranged.order.index(station.model.chosen) == last - 1
    wide = line.px_per_s
    at = QPointF(50, 50)
    wheel = QWheelEvent(
        at,
        at,
        QPoint(),
        QPoint(0, 120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.ControlModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(line.viewport(), wheel)
    assert line.px_per_s > wide
    station.fit.click()
    assert line.px_per_s != wide * 1.15


def test_time_there_is_priorities_schools_and_rules(window, station, qtbot):
    show(qtbot, station, "forearm")
    station.target.setValue(200)
    rested(qtbot, station)
    assert station.model.arranged.choice.left_out == ()
    station.times["1:30"].click()
    rested(qtbot, station)
    assert station.model.arranged.choice.left_out == ("leaf-spray",)
    assert "Left out for the time" in station.panel.why.words
    station.times["all"].click()
    rested(qtbot, station)
    assert window.document.committed.ordering.target_s is None
    station.model.choose("leaf-spray/stem1")
    assert station.panel.priority.currentText() == "nice"
    station.panel.priority.activated.emit(0)
    station.panel.worth.setValue(2.5)
    rested(qtbot, station)
    assert dict(window.document.committed.ordering.worth) == {"leaf-spray": 2.5}
    slow = replace(window.document.committed, dry_after_s=150.0)
    window.document.edit("Slow paint", slow)
    rested(qtbot, station)
    waiting = [step for step in station.model.arranged.steps if step.kind is StepKind.WAIT]
    held = next(step.job for step in waiting if step.job.split("/")[0] not in step.waits_for[0])
    station.model.choose(held)
    station.panel.no_wait.click()
    rested(qtbot, station)
    assert window.document.committed.ordering.rules[0].kind.value == "any"
    station.model.choose(held)
    assert not station.panel.no_wait.isVisible()
    station.panel.let_dry.click()
    rested(qtbot, station)
    assert window.document.committed.ordering.rules[0].kind.value == "dry"
    window.undo()
    rested(qtbot, station)
    station.list_schools()
    assert [action.text() for action in station.schools.menu().actions()] == [
        "Both sides",
        "White lights",
        "Glitter",
        "How fast",
        "The nose comes late",
        "Your own rules",
    ]
    for menu in station.schools.menu().actions():
        if menu.menu():
            menu.menu().actions()[-1].trigger()
    rested(qtbot, station)
    ordering = window.document.committed.ordering
    assert ordering.rules == ()
    assert ordering.glitter.value == "as the last touch"
    station.set_school("nose_last", False)
    assert not window.document.committed.ordering.nose_last


def test_paper_is_written_and_a_bad_place_is_said(window, station, tmp_path, monkeypatch, qtbot):
    names = {"sheet.pdf": tmp_path / "s.pdf", "steps.csv": tmp_path / "s.csv", "steps.ics": tmp_path / "s.ics"}
    names["all-of-it.pdf"] = tmp_path / "all.pdf"
    monkeypatch.setattr(
        QFileDialog, "getSaveFileName", lambda parent, words, start, kinds: (str(names[start.split("/")[-1]]), "")
    )
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a: str(tmp_path))
    for action in station.paper.menu().actions():
        action.trigger()
        qtbot.waitUntil(lambda: not window.exporter.busy)
    assert all(path.exists() for path in names.values())
    assert len(list(tmp_path.glob("hand-*.png"))) == 2
    names["sheet.pdf"] = tmp_path / "none" / "s.pdf"
    station.paper.menu().actions()[0].trigger()
    qtbot.waitUntil(lambda: not window.exporter.busy)
    assert "none" in window.banner.words.text()


def test_an_export_keeps_its_ending_and_writes_over_nothing_unasked(window, station, tmp_path, monkeypatch, qtbot):
    (tmp_path / "evening.csv").write_text("mine")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(tmp_path / "evening"), ""))
    monkeypatch.setattr(QMessageBox, "question", lambda *a: QMessageBox.StandardButton.Cancel)
    station.ask_steps(".csv")
    assert "left as it is" in window.banner.words.text()
    station.ask_steps(".ics")
    qtbot.waitUntil(lambda: not window.exporter.busy)
    assert (tmp_path / "evening.csv").read_text() == "mine"
    assert (tmp_path / "evening.ics").read_text().startswith("BEGIN:VCALENDAR")


class Hand:
    """A clock that the test sets."""

    def __init__(self):
        self.now = 50.0

    def __call__(self):
        return self.now


@pytest.fixture
def running(station, qtbot):
    hand = Hand()
    station.controller.clock = hand
    station.run.click()
    qtbot.waitUntil(station.controller.page.isVisible)
    page = station.controller.page
    qtbot.waitUntil(page.go.isEnabled)
    page.answers["allergy"].setCurrentIndex(1)
    page.answers["skin"].setCurrentIndex(3)
    assert not page.go.isEnabled()
    page.answers["skin"].setCurrentIndex(1)
    assert page.go.isEnabled()
    page.go.click()
    qtbot.waitUntil(lambda: station.controller.window is not None and station.controller.window.isVisible())
    return station.controller.window, hand


def test_a_run_begins_once_it_is_known_what_its_plan_asks_for(station, qtbot, monkeypatch):
    looked = threading.Event()
    stop = Finding(Code.NOT_FOR_SKIN, "Chalk is not marked for skin.", reason="Only cosmetic products go on skin.")

    def look(*_):
        looked.wait()
        return (stop,)

    monkeypatch.setattr(run_controller, "cautions_of_plan", look)
    station.run.click()
    page = station.controller.page
    qtbot.waitUntil(page.isVisible)
    assert page.list.text().startswith("<p>Looking at what lies near eyes and lips")
    assert not page.go.isEnabled()
    assert page.rehearse.isEnabled(), "nobody is painted then"
    looked.set()
    qtbot.waitUntil(lambda: stop in page.told)
    assert page.told[0] is stop
    assert not page.go.isEnabled()
    page.seen.setChecked(True)
    assert page.go.isEnabled()
    page.reject()


def test_no_run_begins_where_there_is_nothing_to_paint(open_window, qtbot):
    window = open_window(Plan(), at="order")
    station, said = window.station("order"), []
    station.controller.said.connect(said.append)
    qtbot.waitUntil(lambda: station.model.arranged is not None)
    station.controller.ask()
    assert station.controller.page is None
    assert said[0].startswith("There is nothing to paint yet")


def test_the_card_of_a_run_outlives_what_it_was_about(running, station, qtbot):
    run, _ = running
    arranged = station.model.arranged
    run.place.arranged = replace(arranged, jobs=())
    run.place.show_step(None, run.run)
    run.place.repaint()


def test_no_run_begins_where_it_cannot_be_known_what_its_plan_asks_for(station, qtbot, monkeypatch):
    def broken(*_):
        raise FileProblemError("kit", "the label cannot be read.")

    monkeypatch.setattr(run_controller, "cautions_of_plan", broken)
    station.run.click()
    page = station.controller.page
    qtbot.waitUntil(lambda: "the label cannot be read" in page.list.text())
    assert "Looking at" not in page.list.text()
    assert not page.go.isEnabled()
    page.reject()


def test_cautions_know_what_is_over_its_date_and_a_kit_that_cannot_be_read_is_said(station, qtbot, monkeypatch):
    said, name = [], station.model.document.committed.paints[0].name
    station.controller.said.connect(said.append)

    def refuse(**_):
        raise FileProblemError("kit.sqlite", "is in use.")

    for names_of, told in ((lambda **_: (name,), []), (refuse, ["kit.sqlite: is in use."])):
        monkeypatch.setattr(run_controller, "expired_names", names_of)
        station.run.click()
        page = station.controller.page
        qtbot.waitUntil(lambda: "Looking at" not in page.list.text())  # noqa: B023 - waited for here
        assert any(one.code is Code.EXPIRED and name in one.text for one in page.told) == (not told)
        assert said == told
        page.reject()


def test_a_run_goes_through_its_cards_and_into_the_notebook(window, station, running, qtbot):
    run, hand = running
    assert run.what.text() == "Take the Flat 3/4 in."
    hand.now += 4
    QTest.keyClick(run, KEYS.Key_Space)
    assert run.what.text().startswith("Load for")
    QTest.keyClick(run, KEYS.Key_Backspace)
    assert run.run.took == ()
    QTest.keyClick(run, KEYS.Key_Space)
    QTest.keyClick(run, KEYS.Key_P)
    hand.now += 100
    assert run.buttons["Done"].text() == "Go on"
    QTest.mouseClick(run.buttons["Done"], LEFT)
    hand.now += 6
    run.tick()
    assert run.time.text().startswith("0:06")
    while run.run.step.kind is not StepKind.WAIT:
        hand.now += 20
        QTest.mouseClick(run.buttons["Done"], LEFT)
    run.tick()
    assert run.time.text().startswith("ready in")
    assert "to dry" in run.dries.text()
    hand.now += 300
    run.tick()
    assert run.time.text() == "ready"
    assert not run.grab().isNull()
    QTest.keyClick(run, KEYS.Key_S)
    while not run.run.over:
        hand.now += 3
        QTest.keyClick(run, KEYS.Key_Return)
    assert run.what.text() == "Show the mirror."
    assert station.controller.path.exists()
    QTest.mouseClick(run.buttons["Done"], LEFT)
    assert station.controller.window is None
    qtbot.waitUntil(lambda: not station.controller.path.exists())
    book = Notebook(notebook_path())
    (note,) = book.runs()
    book.close()
    assert (note.plan, note.chart, note.finished) == ("Saltmarsh Lantern Walk", "hand", True)
    assert dict(note.answers)["allergy"] == "no"
    assert note.steps[0].actual_s == pytest.approx(4.0, abs=0.01)
    assert any(step.skipped for step in note.steps)
    assert note.cautions
    rested(qtbot, station)


def test_a_finger_has_room_and_the_card_is_readable(running):
    run, _ = running
    run.showNormal()
    run.resize(1280, 800)
    assert all(button.height() >= 80 and button.width() >= 100 for button in run.buttons.values())
    assert run.buttons["Done"].width() > 2 * run.buttons["Back"].width()
    assert run.what.fontMetrics().height() >= 44
    assert run.time.fontMetrics().height() >= 70


def test_a_card_shows_the_place_from_near_as_painted_with_its_strokes_numbered(station, running, qtbot):
    """The picture that the run paints for itself is finer than the Order's; the place takes most of the card."""
    run, _ = running
    place = run.place
    qtbot.waitUntil(lambda: len(place.after) >= len(station.model.arranged.order))
    while not (run.run.step and run.run.step.kind is StepKind.STROKES):
        run.do_done()
    job = place.job
    laid = dict(place.arranged.design.work.painted)[job.chart]
    wide = np.ptp(np.array(chart_of(laid, job.chart).bounds_mm)[[0, 2]])
    qtbot.waitUntil(lambda: place.after[job.id].shape[1] > 2.5 * wide)
    view = place._close(chart_of(laid, job.chart), laid, QRectF(place.rect()))
    assert place.width() / view.scale < 200
    for name in job.strokes:
        for point in laid.stroke(name).stroke.path.points_mm:
            assert place.rect().contains(view.to_px(*point).toPoint())
    data = place.grab().toImage()
    shown = [data.pixelColor(x, y).name() for x in range(0, data.width(), 3) for y in range(0, data.height(), 3)]
    assert theme().accent.lower() in shown
    assert len(set(shown)) > 300


def test_a_lid_shut_in_the_middle_is_offered_again(window, station, running, qtbot, open_window):
    run, hand = running
    for _ in range(3):
        hand.now += 5
        run.do_done()
    station.controller.close()  # as a shut window does; the file stays
    assert len(kept_run(0.0, 0.0, station.controller.path).run.took) == 3
    window.files.autosave.owner.release()  # as a kill does
    other = open_window(read_plan(EVENING))
    other.tidy()
    qtbot.waitUntil(lambda: "3 of" in other.banner.words.text())
    other.banner.buttons[0].click()
    again = other.station("order").controller.window
    qtbot.waitUntil(again.isVisible)
    assert len(again.run.took) == 3
    assert again.run.paused
    rested(qtbot, other.station("order"))
    assert again.load.arranged is not None
    assert not station.controller.path.exists()
    QTest.keyClick(again, KEYS.Key_Escape)
    assert again.asks
    QTest.keyClick(again, KEYS.Key_Space)
    QTest.keyClick(again, KEYS.Key_Escape)
    assert (again.asks, len(again.run.took)) == (False, 3)
    QTest.keyClick(again, KEYS.Key_Escape)
    QTest.mouseClick(again.buttons["End it"], LEFT)
    assert other.station("order").controller.window is None
    qtbot.waitUntil(lambda: "notebook" in other.banner.words.text())
    with Notebook(notebook_path()) as book:
        assert book.runs()[0].cautions
    assert not other.station("order").controller.path.exists()
    rested(qtbot, other.station("order"))


def test_cards_show_the_run_as_it_goes_whatever_order_is_found_since(station, running, qtbot, demo):
    """A search that went on found another order, or another plan was opened: cards showed what was laid there."""
    run, _ = running
    model, arranged = station.model, station.model.arranged
    assert run.load.arranged is arranged
    names = [one.id for one in run.run.steps if one.id == one.job]
    model.arranged = in_order(arranged.design, names[::-1])
    model.shown.emit()
    assert run.place.arranged is not model.arranged
    assert [one.id for one in run.place.arranged.steps if one.id == one.job] == names
    mine = run.place.arranged
    model.shown.emit()
    assert run.place.arranged is mine, "it is not worked out again"
    model.arranged = arrange(design_of(demo, "forearm"), 0.0)
    model.shown.emit()
    assert run.place.arranged is mine
    station.controller.close()
    model.arranged = arranged


def test_a_run_of_the_short_form_goes_on_as_one_and_not_over_what_may_not_be_left(
    window, station, running, qtbot, monkeypatch, tmp_path
):
    assert running[0].isVisible()
    kept = replace(station.controller.kept, plan=str(window.document.save(tmp_path / "walk.pennello")), short=True)
    station.controller.close()
    path = station.controller.path
    window.document.replace(replace(window.document.plan, title="Other"), saved=False)
    answers = [QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Discard]
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: answers.pop(0))
    window.leftovers.offered.emit(kept, path)
    window.banner.buttons[0].click()
    assert (station.controller.window, window.document.plan.title) == (None, "Other")
    window.banner.buttons[0].click()
    assert station.controller.window.isVisible()
    assert (station.short.isChecked(), answers) == (True, [])
    assert window.document.path == tmp_path / "walk.pennello"
    station.controller.close()
    rested(qtbot, station)


def test_nothing_to_order_and_a_plan_of_strokes(open_window, demo, qtbot):

    empty = open_window(replace(demo, strokes=()), at="order")
    rested(qtbot, empty.station("order"))
    assert not empty.station("order").run.isEnabled()
    nothing = empty.station("order").empty
    assert nothing.isVisible()
    assert not empty.station("order").view.isVisible()
    nothing.buttons["bench"].click()
    assert empty.rail.buttons["bench"].isChecked()
    plain = open_window(replace(demo, strokes=demo.strokes[:3]), at="order")
    plain.station("order").model.improve_s = 0.2
    rested(qtbot, plain.station("order"))
    assert len(plain.station("order").model.arranged.jobs) == 3
    assert not plain.station("order").empty.isVisible()
    plain.station("order").controller.begin(Person())
    assert not plain.station("order").controller.window.grab().isNull()
    assert plain.station("order").controller.window.styleSheet() == plain.rail.styleSheet()
    plain.go_to("chart")
