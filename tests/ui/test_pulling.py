"""Strokes pulled on the chart by mouse, keys and a simulated pen; a design of five parts, saved and read again."""

import math
import weakref
from dataclasses import replace

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QKeyEvent, QPainter, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QInputDialog
from shapely import LineString, Point

from pennello.design.computing import Computing
from pennello.design.fresh import fresh_plan
from pennello.design.holds import FIVE, hold_of
from pennello.design.line_work import Taper, with_line_load
from pennello.design.marks import Glitter
from pennello.design.on_chart import pieces_on
from pennello.design.pulled import points_of
from pennello.design.touch import swept, together
from pennello.files.plan_json import read_plan, write_plan
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import NibMode
from pennello.path.cubic import length_mm, parameter_at, position
from pennello.session.courtesy import HAND
from pennello.ui.simulated_pen import SimulatedPen
from pennello.ui.stations.chart import stroke_pen
from pennello.ui.stations.chart.pen import draw_hint

LEFT, KEYS = Qt.MouseButton.LeftButton, Qt.Key


@pytest.fixture
def station(window, qtbot):
    """The Chart with nothing on the face and nothing in the hand."""
    window.go_to("chart")
    found = window.station("chart")
    qtbot.waitUntil(found.isVisible)
    found.model.choose("")
    found.side.show_page(1)
    return found


def pieces(window):
    return window.document.committed.motifs


def arch(x, y, wide=40.0, tall=14.0, count=24):
    return [(x + wide * n / count, y - tall * math.sin(math.pi * n / count)) for n in range(count + 1)]


def pull(board, points, on_the_way=None, *, lift=True):
    at = [board.view.to_px(*point).toPoint() for point in points]
    QTest.mousePress(board, LEFT, pos=at[0])
    for number, one in enumerate(at[1:], 1):
        QTest.mouseMove(board, one)
        board.repaint()
        if on_the_way is not None and number == len(at) // 2:
            on_the_way()
    if lift:
        QTest.mouseRelease(board, LEFT, pos=at[-1])


def laid_way(placed):
    path = placed.place.stroke(placed.way).path
    return LineString(position(path, parameter_at(path, np.linspace(0, length_mm(path), 300))))


def test_a_stroke_is_pulled_with_a_load_from_the_shelf(window, station, qtbot):
    board, shelf = station.board, station.side.loads
    shelf.list.setCurrentRow(0)
    shelf.holds.buttons[Hold.HEEL].click()
    shelf.pull.click()
    assert board.puller.on
    drawn = arch(-20, -50)
    pull(board, drawn, lift=False)
    assert board.puller.stroke is not None
    seen = board.grab().toImage()
    middle = board.view.to_px(0, -60).toPoint()
    around = [seen.pixelColor(middle + QPoint(x, y)) for x in range(-12, 13, 4) for y in range(-12, 13, 4)]
    assert any(abs(one.green() - 145) > 40 for one in around), "the stroke is laid under the hand"
    QTest.mouseRelease(board, LEFT, pos=board.view.to_px(*drawn[-1]).toPoint())
    (placed,) = pieces(window)
    assert placed.load_of == {"stroke": shelf.load}
    assert hold_of(placed.way) is Hold.HEEL
    way, mm_a_px = laid_way(placed), 1 / board.view.scale
    assert max(way.distance(Point(point)) for point in drawn) < 0.4 + mm_a_px
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted is not None)
    assert station.model.painted.strokes == 1
    shelf.list.setCurrentRow(1)
    shelf.list.setCurrentRow(0)
    assert shelf.hold is Hold.HEEL, "the last hold of each load is remembered"
    window.undo()
    assert not pieces(window)
    QTest.keyClick(board, KEYS.Key_Escape)
    assert not board.puller.on


def test_a_brush_in_the_hand_lies_there_while_another_station_is_shown(window, station, qtbot):
    board = station.board
    board.pull_by_hand(window.document.plan.strokes[0].id, Hold.HEEL)
    pull(board, arch(-20, -50))
    films = weakref.ref(board.puller._scene)
    window.go_to("tray")
    assert films() is None, "what it was laid on is large"
    window.go_to("chart")
    assert board.puller.on
    pull(board, arch(-20, -40))
    assert len(pieces(window)) == 2


def test_work_in_the_background_waits_for_a_hand_that_draws(window, station, monkeypatch):
    monkeypatch.setattr(HAND, "_rests_s", 3600.0)  # however busy the machine
    board, load = station.board, window.document.committed.strokes[0].id
    board.pull_by_hand(load)
    assert not HAND.draws
    seen = []
    pull(board, arch(-20, -40), lambda: seen.append(HAND.draws), lift=False)
    assert seen == [True]
    QTest.keyClick(board, KEYS.Key_Escape)
    assert not HAND.draws
    pull(board, arch(-20, -40))
    assert not HAND.draws, "lifted"
    QTest.keyClick(board, KEYS.Key_Space)
    assert HAND.draws, "led by keys too"
    board.put_down()
    assert not HAND.draws


@pytest.mark.parametrize("hold", FIVE)
def test_what_is_drawn_anew_holds_all_of_the_stroke(window, station, hold):
    """Pressed hard and laid over, the widest that a brush gets: nothing of it is left standing where it was."""
    board = station.board
    for load in window.document.committed.strokes:
        board.pull_by_hand(load.id, hold)
        for x, y in arch(-20, -40, count=6):
            board.puller._set_down() if not board.puller._samples else None
            board.puller._take(x, y, 1.0, 70.0, upright=False)
        board.repaint()
        image, canvas = board.puller._now.image, board.puller._now.canvas
        clear = np.asarray(image.convertToFormat(QImage.Format.Format_RGBA8888).constBits()).reshape(
            image.height(), -1, 4
        )[..., 3]
        rows, columns = (np.flatnonzero(clear.any(axis=axis)) for axis in (1, 0))
        reach, view, px = board.puller.reach(), board.view, canvas.px_per_mm
        for column, row in ((columns[0], rows[0]), (columns[-1] + 1, rows[-1] + 1)):
            at = view.to_px(canvas.left_mm + column / px, canvas.top_mm + row / px)
            assert reach.contains(at), (load.name, hold)


def test_wheel_and_keys_turn_flip_and_press_on_the_way(window, station):
    board = station.board
    load = station.side.loads.load
    board.pull_by_hand(load, Hold.SQUARE)
    QTest.keyClick(board, KEYS.Key_7)
    pull(board, arch(-20, -50), on_the_way=lambda: QTest.keyClick(board, KEYS.Key_F))
    flipped = pieces(window)[-1].way
    assert flipped.pressure == 0.7
    assert flipped.flips_mm == pytest.approx([length_mm(flipped.path) / 2], abs=4)
    at = QPointF(board.view.to_px(0, 0))
    wheel = QWheelEvent(
        at,
        QPointF(board.mapToGlobal(at)),
        QPoint(),
        QPoint(0, 480),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    board.pull_by_hand(load, Hold.SQUARE)
    QApplication.sendEvent(board, wheel)
    pull(board, arch(-20, 20))
    turned = pieces(window)[-1].way
    assert turned.nib.angle_deg == pytest.approx(110.0)
    board.pull_by_hand(load, Hold.SQUARE)
    pull(board, arch(-20, 60), on_the_way=lambda: [QTest.keyClick(board, KEYS.Key_E) for _ in range(4)])
    assert pieces(window)[-1].way.nib.mode is NibMode.KEYED
    count = len(pieces(window))
    pull(board, arch(-20, 0), lift=False)
    QTest.keyClick(board, KEYS.Key_Escape)
    assert board.puller.on and board.puller.stroke is None, "Esc gives the stroke back"
    QTest.mouseRelease(board, LEFT, pos=QPoint(5, 5))
    assert len(pieces(window)) == count


def test_shift_keeps_the_chisel_upright(window, station):
    board = station.board
    board.pull_by_hand(station.side.loads.load, Hold.SQUARE)
    at = [board.view.to_px(*point).toPoint() for point in arch(-20, -50)]
    QTest.mousePress(board, LEFT, Qt.KeyboardModifier.ShiftModifier, at[0])
    board.puller.release()
    assert pieces(window)[-1].way.nib.mode is NibMode.FIXED


def test_a_stroke_is_pulled_by_keys_alone(window, station):
    board = station.board
    board.pull_by_hand(station.side.loads.load, Hold.UPRIGHT)
    for key in (*[KEYS.Key_Up] * 6, KEYS.Key_Space, *[KEYS.Key_Right] * 10, *[KEYS.Key_Down] * 5, KEYS.Key_Space):
        QTest.keyClick(board, key)
    (placed,) = pieces(window)
    left, top, right, bottom = station.model.chart.bounds_mm
    start = ((left + right) / 2, (top + bottom) / 2 - 12)
    path = placed.place.stroke(placed.way).path
    assert path.points_mm[0] == pytest.approx(start, abs=0.1)
    assert path.points_mm[-1] == pytest.approx((start[0] + 20, start[1] + 10), abs=0.1)


def test_a_pens_pressure_and_tilt_are_used(window, station):
    board = station.board
    board.pull_by_hand(station.side.loads.load, Hold.SQUARE)
    points = arch(-20, -50)
    touches = [(board.view.to_px(*one), 0.2 + 0.6 * n / 24, 30.0) for n, one in enumerate(points)]
    SimulatedPen(board).pull(touches)
    (placed,) = pieces(window)
    assert placed.way.pressures[0].value == pytest.approx(0.2, abs=0.05)
    assert placed.way.pressures[-1].value == pytest.approx(0.8, abs=0.05)
    assert placed.way.leans[0].value == pytest.approx(30, abs=1)
    board.put_down()
    SimulatedPen(board).pull(touches)
    assert len(pieces(window)) == 1, "without a brush in the hand nothing is pulled"


def test_a_design_of_five_parts_is_pulled_saved_and_read_again(window, station, qtbot, tmp_path):
    board, page = station.board, station.side.parts
    loads = [one.id for one in window.document.committed.strokes]
    for number in range(5):
        page.make(f"Part {number + 1}")
        board.pull_by_hand(loads[number % len(loads)], Hold.SQUARE)
        for row in range(2):
            pull(board, arch(-50 + 20 * number, -60 + 26 * row + 8 * number, wide=18, tall=6, count=8))
    board.put_down()
    plan = window.document.committed
    assert [len([one for one in plan.motifs if one.part == part.id]) for part in plan.parts] == [2] * 5
    write_plan(plan, tmp_path / "five.pennello")
    assert read_plan(tmp_path / "five.pennello") == plan
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted is not None)
    assert station.model.painted.strokes == 10


def test_what_a_hand_draws_belongs_to_the_part_that_is_drawn(window, station, monkeypatch):
    board, shelf = station.board, station.side.loads
    asked = []

    def named(*_, **__):
        asked.append(1)
        return ("Moon flower", True) if len(asked) == 1 else (" ", True)

    monkeypatch.setattr(QInputDialog, "getText", named)
    shelf.into.setCurrentIndex(shelf.into.count() - 1)
    shelf.into.activated.emit(shelf.into.currentIndex())
    assert [one.name for one in window.document.committed.parts] == ["Moon flower"]
    assert shelf.into.currentText() == "what you draw: Moon flower"
    shelf.pull.click()
    for row in range(2):
        pull(board, arch(-20, -50 + 20 * row))
    words = []
    monkeypatch.setattr(stroke_pen, "draw_hint", lambda painter, area, told: words.append(told))
    board.grab()
    assert words[-1].startswith("Moon flower  ·  ")
    board.draw_by_hand()
    pull(board, arch(-20, 20))
    board.pen.key(QKeyEvent(QEvent.Type.KeyPress, KEYS.Key_Escape, Qt.KeyboardModifier.NoModifier))
    assert [one.part for one in pieces(window)] == ["moon-flower"] * 3
    shelf.into.activated.emit(shelf.into.count() - 1)
    assert len(window.document.committed.parts) == 1, "a part needs a name"
    shelf.into.setFocus()
    shelf.into.activated.emit(0)
    assert QApplication.focusWidget() is board, "keys are the brush's again"
    pull(board, arch(-20, 50))
    assert [one.part for one in pieces(window)] == [*["moon-flower"] * 3, ""], "a line of another part is another piece"
    window.undo()
    station.model.draw_into("moon-flower")
    while window.document.undo_label:
        window.undo()
    assert station.model.part == "" and shelf.into.count() == 2, "a part that is not there holds nothing"


def test_the_brush_in_the_hand_is_changed_on_the_shelf_and_put_down(window, station):
    board, shelf = station.board, station.side.loads
    assert shelf.pull.text() == "Pull with it"
    shelf.list.setCurrentRow(0)
    shelf.pull.click()
    assert shelf.pull.text() == "Put it down" and board.puller.load == shelf.load
    shelf.list.setCurrentRow(1)
    assert board.puller.on and board.puller.load == shelf.load == window.document.committed.strokes[1].id
    shelf.pull.click()
    assert not board.puller.on and shelf.pull.text() == "Pull with it"
    shelf.pull.click()
    QTest.keyClick(board, KEYS.Key_Escape)
    assert shelf.pull.text() == "Pull with it"
    shelf.pull.click()
    window.document.replace(fresh_plan())
    assert not board.puller.on, "its load is not there any more"


def test_lines_are_drawn_with_a_liner_from_the_shelf(window, station):
    board, shelf = station.board, station.side.loads
    station.model.edit("A liner", lambda plan: with_line_load(plan, "#f6f5f0", 1.0)[0])
    shelf.list.setCurrentRow(0)
    assert shelf.taper.isHidden() and not shelf.holds.isHidden(), "a flat is held, not tapered"
    shelf.list.setCurrentRow(shelf.list.count() - 1)
    assert shelf.holds.isHidden() and shelf.pull.text() == "Draw with it"
    shelf.pull.click()
    assert board.pen.on and board.pen.load == shelf.load
    pull(board, arch(-20, -50))
    shelf.taper.setCurrentIndex(shelf.taper.findData(Taper.SWIRL))
    shelf.taper.activated.emit(shelf.taper.currentIndex())
    assert board.pen.on and board.pen.taper is station.layers.taper is Taper.SWIRL
    pull(board, arch(-20, 20))
    assert len(pieces(window)) == 1 and len(pieces(window)[0].more) == 1, "one piece, whatever its lines are like"
    station.layers.draw_so(Taper.DOTS)
    assert shelf.taper.currentData() is Taper.DOTS
    shelf.taper.setCurrentIndex(shelf.taper.count() - 1)
    shelf.taper.activated.emit(shelf.taper.currentIndex())
    assert board.puller.on and not board.pen.on, "as the hand presses: pulled"
    shelf.list.setCurrentRow(0)
    assert board.puller.load == shelf.load and shelf.taper.isHidden()
    shelf.pull.click()
    assert board.drawing is None


def test_a_pulled_stroke_is_edited_on_the_chart(window, station, drag):
    board, panel = station.board, station.panel
    board.pull_by_hand(station.side.loads.load, Hold.SQUARE)
    pull(board, arch(-20, -50))
    board.put_down()
    station.model.choose(pieces(window)[0].id)
    before = points_of(pieces(window)[0])
    assert len(board.way.points) == len(before) // 3 + 1
    assert len(board.way.bends) == len(before) - len(board.way.points)
    drag(board.way.points[0], 20, 10)
    after = points_of(pieces(window)[0])
    by = np.array(after[0]) - before[0]
    assert by == pytest.approx(np.array([20, 10]) / board.view.scale, abs=0.5)
    assert np.array(after[1]) - before[1] == pytest.approx(by, abs=1e-3), "its bend goes with it"
    assert after[-1] == pytest.approx(before[-1])
    QTest.keyClick(board.way.bends[0], KEYS.Key_Right)
    assert points_of(pieces(window)[0])[1][0] > after[1][0]
    panel.holds.buttons[Hold.UPRIGHT].click()
    assert hold_of(pieces(window)[0].way) is Hold.UPRIGHT
    panel.fields["angle"].setValue(30)
    assert pieces(window)[0].way.nib.angle_deg == 30
    panel.fields["press"].setValue(80)
    assert pieces(window)[0].way.pressure == 0.8
    assert panel.fields["press"].value() == 80
    station.model.choose("")
    assert not board.way.points
    while window.document.undo_label:
        window.undo()
    assert not pieces(window)


def test_an_outline_lives_with_what_it_hugs(window, station, qtbot):
    board = station.board
    board.pull_by_hand(station.side.loads.load, Hold.SQUARE)
    pull(board, arch(-20, -50))
    board.put_down()
    stroke = pieces(window)[0]
    station.model.choose(stroke.id)
    station.layers.list_all()
    words = [action.text() for action in station.layers.menu().actions()]
    assert f"Work out from {stroke.name}" in words
    station.working.work_out(Computing.OUTLINE, 1.5)
    station.model.choose(stroke.id)
    station.working.work_out(Computing.GROUND, 6.0)
    outline, ground = pieces(window)[1:]
    assert (outline.computed.off_mm, ground.computed.margin_mm) == (1.5, 6.0)
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted is not None)
    before = [piece.stroke for piece in pieces_on(window.document.committed, "face") if piece.motif == outline.id]
    station.model.choose(stroke.id)
    station.panel.put_on((10.0, -30.0))
    after = [piece.stroke for piece in pieces_on(window.document.committed, "face") if piece.motif == outline.id]
    assert before != after
    station.model.choose(outline.id)
    qtbot.waitUntil(lambda: "worked out" in station.panel.says.text())
    assert not board.grip.isVisible(), "it lies where it must"
    window.undo()
    window.undo()
    window.undo()
    assert len(pieces(window)) == 1


def test_what_a_drawn_line_encloses_is_filled(window, station, qtbot):
    board = station.board
    board.draw_by_hand()
    ring = [(14 * math.cos(turn / 10), 62 + 10 * math.sin(turn / 10)) for turn in range(64)]
    pull(board, ring)
    board.put_down()
    station.model.choose(pieces(window)[0].id)
    station.working.ask(Computing.FILL)
    fill = pieces(window)[-1]
    assert fill.computed.border is not None
    laid = together([swept(window.document.committed, one) for one in pieces_on(window.document.committed, "face")])
    assert laid.area > 0.97 * math.pi * 14 * 10


@pytest.mark.slow
def test_one_stroke_takes_the_place_of_a_drawn_outline(window, station, qtbot):
    board = station.board
    board.draw_by_hand()
    top, bottom = arch(-20, -40, tall=8, count=20), [(x, y + 15) for x, y in arch(-20, -40, tall=8, count=20)]
    pull(board, [*top, *reversed(bottom), top[0]])
    board.put_down()
    drawn = pieces(window)[0]
    station.model.choose(drawn.id)
    station.layers.list_all()
    inner = next(one.menu() for one in station.layers.menu().actions() if one.text().startswith("Work out from"))
    next(one for one in inner.actions() if one.text().startswith("One stroke")).trigger()
    page = station.working.fillings
    assert not page.other_side.isEnabled(), "only once all is found"
    qtbot.waitUntil(lambda: not page.bar.isVisible())
    assert page.shown[0][0].overlap > 0.85
    before = page.shown[0][0].stroke.nib.angle_deg
    page.other_side.click()
    assert abs(page.shown[0][0].stroke.nib.angle_deg - before) == 180
    import os

    if os.environ.get("SHOT"):
        page.grab().save(os.environ["SHOT"])
    page.takes[0].click()
    assert [piece.id for piece in pieces(window)] != [drawn.id]
    (laid,) = pieces(window)
    assert swept(window.document.committed, pieces_on(window.document.committed, "face")[0]).area > 300
    assert station.model.chosen == laid
    window.undo()
    assert pieces(window) == (drawn,)


def test_a_line_is_drawn_by_keys_alone(window, station, qtbot):
    """Arrows lead the hand by 2 mm, finely by 0.5 with Ctrl; Space sets it down and lifts it, Esc gives it back."""
    board = station.board
    board.draw_by_hand()
    keys = Qt.Key
    QTest.keyClick(board, keys.Key_Space)
    for _ in range(5):
        QTest.keyClick(board, keys.Key_Right)
    QTest.keyClick(board, keys.Key_Escape)  # the line in the hand is given back, the pen is still on
    assert not pieces(window)
    assert board.pen.on
    begin = board.pen._at
    QTest.keyClick(board, keys.Key_Space)
    for _ in range(8):
        QTest.keyClick(board, keys.Key_Left)
    for _ in range(4):
        QTest.keyClick(board, keys.Key_Up, Qt.KeyboardModifier.ControlModifier)
    assert not board.grab().isNull()
    QTest.keyClick(board, keys.Key_Space)
    (line,) = pieces(window)
    path = line.place.stroke(line.way).path
    assert path.points_mm[-1] == pytest.approx((begin[0] - 16, begin[1] - 2), abs=0.6)
    QTest.keyClick(board, keys.Key_Escape)
    assert not board.pen.on


def test_handles_of_glitter_do_not_stand_in_the_way_of_a_brush(window, station):
    """A press on one of them would move the glitter instead of setting the brush down."""
    plan = window.document.committed
    dust = Glitter("dust", -20.0, -40.0, 24.0, 14.0, "#ffe9a0", chart="face")
    window.document.edit("Glitter", replace(plan, overlays=(dust,)))
    board = station.board
    grips = [*board.over.middles, *board.over.sizes]
    assert len(grips) == 2
    assert all(one.isVisible() for one in grips)
    board.pull_by_hand(plan.strokes[0].id)
    assert not any(one.isVisible() for one in grips)
    assert board.childAt(board.view.to_px(-20.0, -40.0).toPoint()) is None
    pull(board, arch(-20, -40))
    assert len(pieces(window)) == len(plan.motifs) + 1
    assert window.document.committed.overlays == (dust,)
    assert not any(one.isVisible() for one in grips), "the next stroke is pulled over it too"
    board.put_down()
    assert all(one.isVisible() for one in [*board.over.middles, *board.over.sizes])


def test_words_at_the_foot_are_drawn_where_the_foot_is_drawn(station):
    """Not with each step of a stroke high up on the face."""
    board, seen = QRectF(station.board.rect()), {}
    for name, clip in (("high up", QRectF(0, 0, 300, 200)), ("at the foot", board), ("all", None)):
        picture = QImage(station.board.size(), QImage.Format.Format_RGB32)
        picture.fill(0)
        painter = QPainter(picture)
        if clip is not None:
            painter.setClipRect(clip)
        draw_hint(painter, board, "pull")
        painter.end()
        seen[name] = any(picture.pixel(x, picture.height() - 12) & 0xFFFFFF for x in range(picture.width()))
    assert seen == {"high up": False, "at the foot": True, "all": True}
