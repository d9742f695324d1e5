"""The Chart station, through the window."""

from dataclasses import replace
from functools import partial
from threading import Event

import numpy as np
import pytest
from PySide6.QtCore import QPointF, QRect, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMessageBox
from tests.ui.conftest import put_motif

from pennello.chart.measures import Age, usual
from pennello.design.line_work import Taper, is_dot, is_line_work
from pennello.design.marks import GemShape
from pennello.design.on_chart import with_new_motif
from pennello.design.plan import Plan
from pennello.errors import PennelloError
from pennello.files.demo import demo_plan
from pennello.files.plan_json import write_plan
from pennello.motif.place import Place
from pennello.path.cubic import length_mm
from pennello.session.last_pictures import LastPictures
from pennello.ui.stations.chart import station as station_module

KEYS = Qt.Key


@pytest.fixture
def station(window, qtbot):
    window.go_to("chart")
    qtbot.waitUntil(window.station("chart").isVisible)
    return window.station("chart")


def committed(window):
    return window.document.committed.motifs


def rested(qtbot, station):
    qtbot.waitUntil(lambda: not station.model.busy)


def small(station):
    for key, value in (("radius_mm", 8), ("spread_mm", 6), ("height_mm", 9)):
        station.panel.fields[key].setValue(value)
    station.panel._load("petal", "beetle-scale")


def test_a_motif_is_put_moved_turned_sized_and_taken_away(window, station, qtbot, drag):
    click = partial(QTest.mouseClick, station.row.buttons["shell-flower"], Qt.MouseButton.LeftButton)
    put_motif(station, "shell-flower", click)
    station.panel.fields["heel_mm"].setValue(4)
    rested(qtbot, station)
    assert station.model.painted.strokes == 10
    qtbot.waitUntil(lambda: "5 petals" in station.panel.says.text() and "strokes" in station.panel.says.text())
    before = committed(window)[0].place
    drag(station.board.grip, 40, -60)
    moved = committed(window)[0].place
    assert moved.x_mm > before.x_mm
    assert moved.y_mm < before.y_mm
    drag(station.board.turn, 60, 40)
    assert 10 < committed(window)[0].place.turn_deg < 170
    drag(station.board.size_grip, 10, 5)
    assert committed(window)[0].place.scale != 1.0
    for handle in (station.board.grip, station.board.turn, station.board.size_grip):
        QTest.keyClick(handle, KEYS.Key_Right)
    assert committed(window)[0].place.x_mm == pytest.approx(moved.x_mm + 1)
    station.panel.named["Take away"].click()
    assert committed(window) == ()
    assert "No motif" in station.panel.name.text()
    while window.document.undo_label:
        window.undo()
    assert committed(window) == ()
    window.redo()
    assert len(committed(window)) == 1


def test_with_an_empty_hand_what_lies_there_is_listed(window, station):
    parts = station.side.parts
    assert "strip below" in parts.words.text()
    assert parts.tree.topLevelItemCount() == 0
    texts = [button.text() for button in station.row.buttons.values()]
    assert len(set(texts)) == len(texts)
    put_motif(station, "bud")
    assert not parts.isVisible()
    put_motif(station, "petal-ring")
    station.model.choose("")
    assert parts.words.text().startswith("2 pieces, ")
    items = [parts.tree.topLevelItem(at) for at in range(parts.tree.topLevelItemCount())]
    assert [item.text(0) for item in items] == ["Bud", "Petal ring"]
    assert all(not item.icon(0).isNull() for item in items)
    QTest.mouseClick(parts.tree.viewport(), Qt.MouseButton.LeftButton, pos=parts.tree.visualItemRect(items[0]).center())
    assert station.panel.name.text() == "Bud"
    assert not parts.isVisible()


def test_dragging_previews_and_escape_gives_back(window, station, drag):
    put_motif(station, "bud")
    before = committed(window)[0].place
    drag(station.board.grip, 30, 10, release=False)
    assert station.model.plan.motifs[0].place != before
    QTest.keyClick(station.board.grip, KEYS.Key_Escape)
    assert station.model.plan.motifs[0].place == before


def test_snap_to_a_landmark_and_aim(window, station, drag):
    put_motif(station, "bud")
    bridge = station.model.chart.landmark("nose bridge")
    station.panel.put_on((bridge[0] + 20, bridge[1]))
    view = station.board.view
    drag(station.board.grip, round(-20 * view.scale) + 3, 2)
    assert (committed(window)[0].place.x_mm, committed(window)[0].place.y_mm) == bridge
    station.panel.aim_at((50.0, 0.0))
    assert committed(window)[0].place.turn_deg == pytest.approx(90)


def test_mirror_copies_twins_and_breaking_apart(window, station, qtbot):
    put_motif(station, "petal-ring")
    small(station)
    station.panel.put_on(station.model.chart.landmark("cheekbone, wearer's left"))
    station.panel.twin.click()
    rested(qtbot, station)
    assert station.model.painted.strokes == 10
    station.panel.twin.click()
    station.panel.named["Mirror copy"].click()
    assert len(committed(window)) == 2
    station.panel.named["Break apart"].click()
    assert len(committed(window)) == 6
    window.undo()
    station.panel.ticks["stagger"].click()
    assert dict(committed(window)[0].values)["stagger"] == 0.0


def test_along_a_frame(window, station, monkeypatch):
    put_motif(station, "bud")
    monkeypatch.setattr("pennello.ui.stations.chart.panel.ask_amount", lambda *a: 4.0)
    station.panel._ask_count("crown")
    assert len(committed(window)) == 4
    station.head.guide.setCurrentIndex(1)
    station.head.guide.activated.emit(1)
    assert station.board.guide == "heart"
    assert not station.grab().isNull()


def test_a_painting_that_was_broken_off_is_not_taken_for_what_is_there(window, station, qtbot, monkeypatch):
    """Another plan's picture was shown, and its painting broken off: going back paints the first one anew."""
    put_motif(station, "bud")
    rested(qtbot, station)
    first = station.model.painted.rgba.copy()
    shown, goes_on = [], Event()
    monkeypatch.setattr("pennello.ui.stations.chart.model.odd_on", lambda *_: (goes_on.wait(20), ())[1])
    station.model.painted_anew.connect(lambda: shown.append(station.model.painted))
    station.panel.put_on((5.0, 5.0))
    qtbot.waitUntil(lambda: bool(shown))  # it is seen, and what is odd about it is still looked for
    window.undo()
    qtbot.wait(300)
    goes_on.set()
    rested(qtbot, station)
    assert np.array_equal(station.model.painted.rgba, first)


def test_a_motif_is_put_on_the_plan_that_it_was_meant_for(window, station, qtbot, monkeypatch):
    goes_on, begun = Event(), Event()
    real = station_module.with_loads_for

    def slow(*given):
        begun.set()
        goes_on.wait(20)
        return real(*given)

    monkeypatch.setattr(station_module, "with_loads_for", slow)
    station.add_motif("bud")
    qtbot.waitUntil(begun.is_set)
    window.document.replace(demo_plan())
    goes_on.set()
    qtbot.wait(400)
    assert window.document.committed == demo_plan()


def test_motifs_that_are_wanted_in_a_row_are_worked_out_once_each(window, station, qtbot, monkeypatch):
    found = []
    real = station_module.with_loads_for

    def counted(plan, what, kit):
        found.append(what.key)
        return real(plan, what, kit)

    monkeypatch.setattr(station_module, "with_loads_for", counted)
    for key in ("bud", "fin", "dots"):
        station.add_motif(key)
    qtbot.waitUntil(lambda: len(committed(window)) == 3, timeout=60_000)
    assert [one.motif for one in committed(window)] == found == ["bud", "fin", "dots"]
    assert station.model.chosen.id == committed(window)[-1].id
    places = [one.place for one in committed(window)]
    assert len({(one.x_mm, one.y_mm) for one in places}) == 3, "each goes where there is room then"


def test_what_cannot_be_put_on_the_chart_holds_nothing_up(window, station, qtbot):
    said = []
    station.said.connect(said.append)

    def nowhere(_):
        raise PennelloError("There is no room.")

    station._putting.put("face", nowhere)
    station.add_motif("bud")
    qtbot.waitUntil(lambda: len(committed(window)) == 1, timeout=60_000)
    assert said[0] == "There is no room."


def test_beads_choose_and_reorder(window, station):
    for key in ("bud", "fin", "dots"):
        put_motif(station, key)
    beads = station.beads
    names = [one.id for one in committed(window)]
    QTest.mousePress(beads.viewport(), Qt.MouseButton.LeftButton, pos=beads.place_of(0).toPoint())
    QTest.mouseMove(beads.viewport(), beads.place_of(2).toPoint())
    QTest.mouseRelease(beads.viewport(), Qt.MouseButton.LeftButton, pos=beads.place_of(2).toPoint())
    assert [one.id for one in committed(window)] == [names[1], names[2], names[0]]
    QTest.keyClick(beads, KEYS.Key_Left)
    assert station.model.chosen.id == names[2]
    QTest.keyClick(beads, KEYS.Key_Left, Qt.KeyboardModifier.ControlModifier)
    assert committed(window)[0].id == names[2]


def test_other_charts_ages_and_the_mirror(window, station, qtbot, tmp_path, monkeypatch):
    put_motif(station, "bud")
    station.head.age.setCurrentIndex(2)
    station.head.age.activated.emit(2)
    assert window.document.committed.measures == usual(list(Age)[1])
    station.head.head_mm.setValue(150)
    assert window.document.committed.measures.head_breadth_mm == 150
    assert station.head.age.currentIndex() == 0
    station.mirror.click()
    view = station.board.view
    assert view.to_mm(view.to_px(12.0, 5.0)) == pytest.approx((12.0, 5.0))
    assert view.to_px(10, 0).x() < view.to_px(-10, 0).x()
    for at in range(station.head.chart.count()):
        station.head.chart.activated.emit(at)
        assert station.model.key == station.head.chart.itemData(at)
        assert not station.grab().isNull()
    assert station.model.motifs == ()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(tmp_path / "c.svg"), ""))
    station.svg.click()
    assert (tmp_path / "c.svg").exists()
    window.go_to("bench")
    window.go_to("chart")


def test_a_click_takes_what_lies_there(window, station, qtbot):
    put_motif(station, "petal-ring")
    small(station)
    name = station.model.chosen.id
    point = committed(window)[0].place
    at = station.board.view.to_px(point.x_mm, point.y_mm - 12)
    station.model.choose("")
    QTest.mouseClick(station.board, Qt.MouseButton.LeftButton, pos=at.toPoint())
    assert station.model.chosen.id == name
    QTest.mouseClick(station.board, Qt.MouseButton.LeftButton, pos=QPointF(8, 8).toPoint())
    assert station.model.chosen is None


def test_odd_things_are_pinned_and_told(window, station, qtbot):
    put_motif(station, "petal-ring")
    small(station)
    station.panel.put_on(station.model.chart.landmark("pupil, wearer's left"))
    rested(qtbot, station)
    assert "eye opening" in station.side.odd.words
    station.board.set_zoom(2.0)
    assert not station.grab().isNull()


def test_a_motif_in_a_plan_without_strokes_brings_its_loads(open_window, demo):
    from dataclasses import replace

    window = open_window(replace(demo, strokes=()), at="chart")
    put_motif(window.station("chart"), "bud")
    plan = window.document.committed
    assert {name for _, name in plan.motifs[0].loads} <= {one.id for one in plan.strokes}
    window.undo()
    assert window.document.committed.strokes == ()


def test_the_bench_rests_while_the_chart_is_shown(window, station, qtbot):
    put_motif(station, "bud")
    assert window.model.outcome is None, "what was predicted of the plan before is not of this one"
    assert not window.model._newest.busy
    window.go_to("bench")
    assert window.model.outcome.plan is window.model.plan


def test_time_wetness_layers_and_skins(window, station, qtbot, tmp_path, monkeypatch):
    put_motif(station, "petal-ring")
    small(station)
    rested(qtbot, station)
    station.when.setValue(70)
    assert station.when_words.text().startswith("by ")
    rested(qtbot, station)
    assert station.model.painted.strokes < 5
    station.wet.click()
    assert not station.grab().isNull()
    station.when.setValue(100)
    rested(qtbot, station)
    assert station.model.painted.strokes == 5
    forehead = station.model.chart.landmark("forehead")
    station.layers.add_glitter(forehead)
    station.layers.reserve("horn", forehead)
    station.layers.list_all()
    words = [action.text() for action in station.layers.menu().actions()]
    assert {"glitter 1", "place for horn"} <= set(words)
    (tmp_path / "s.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0H10V10H0Z"/></svg>')
    station.layers.add_stencil(tmp_path / "s.svg")
    assert len(window.document.committed.overlays) == 2
    assert not station.grab().isNull()
    station.layers.add_stencil(tmp_path / "none.svg")
    assert window.banner.isVisible()
    station.layers.remove(window.document.committed.overlays[0])
    station.layers.remove(window.document.committed.reserved[0])
    assert window.document.committed.reserved == ()
    station.skins.click()
    qtbot.waitUntil(lambda: station.page.found is not None)
    assert "WCAG" in station.page.words.text()
    assert not station.page.grab().isNull()
    station.page.close()


def test_own_motifs_are_kept_and_put_on_again(window, station, monkeypatch, qtbot):
    put_motif(station, "petal-ring")
    small(station)
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("My flower", True))
    station.panel.named["Keep ..."].click()
    assert list(station.row.own) == ["My flower"]
    station.row.own["My flower"].click()
    qtbot.waitUntil(lambda: len(committed(window)) == 2)
    placed = committed(window)[-1]
    assert placed.name == "My flower"
    assert dict(placed.values)["radius_mm"] == 8
    station.panel.new_part()
    part = committed(window)[1].part
    assert part
    station.panel._offer_groups()
    station.panel.put_in("")
    assert committed(window)[1].part == ""
    station.panel.put_in(part)
    assert committed(window)[1].part == part
    station.panel.named["Break apart"].click()
    station.model.choose(committed(window)[-1].id)
    said = []
    station.said.connect(said.append)
    station.keep_as("petals")
    assert "Kept as" in said[-1]
    assert list(station.row.own) == ["My flower", "petals"], "free strokes are kept too, with all of their part"
    kept, answers = station.own, [QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Yes]
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: answers.pop(0))
    station.keep_as("My flower")
    assert station.own == kept, "another one of that name is there, and nobody wants it to go"
    station.keep_as("My flower")
    assert len(station.own) == len(kept)
    assert station.own != kept
    strokes = len([one for one in committed(window) if one.part == committed(window)[-1].part])
    before = len(committed(window))
    station.row.own["petals"].click()
    qtbot.waitUntil(lambda: len(committed(window)) == before + strokes)


def test_what_is_dragged_is_carried_as_painted_and_given_back(window, station, qtbot, drag):
    put_motif(station, "petal-ring")
    small(station)
    rested(qtbot, station)
    qtbot.waitUntil(lambda: station.model.lifted is not None)
    station.panel.twin.click()
    rested(qtbot, station)
    qtbot.waitUntil(lambda: station.model.lifted is not None and station.model.lifted.twin)
    assert station.model.lifted.rest is None
    drag(station.board.grip, 60, 20, release=False)
    assert station.model.carried is station.model.lifted
    carried = mean_colour(station)
    assert mean_colour(station, twin=True) == pytest.approx(carried, abs=12)
    QTest.mouseRelease(station.board.grip, Qt.MouseButton.LeftButton)
    rested(qtbot, station)
    assert station.model.carried is None  # the full picture has come
    assert mean_colour(station) == pytest.approx(carried, abs=12)


def mean_colour(station, *, twin=False):
    """The mean colour about the motif in the hand, or about its mirror image, on the board."""
    place, view = station.model.chosen.place, station.board.view
    at = view.to_px(-place.x_mm if twin else place.x_mm, place.y_mm).toPoint()
    part = station.board.grab(QRect(at.x() - 40, at.y() - 40, 80, 80)).toImage()
    part = part.convertToFormat(QImage.Format.Format_RGB888)  # named: its bits live as long as it does
    data = np.frombuffer(part.constBits(), np.uint8)
    rows = data.reshape(part.height(), -1)[:, : 3 * part.width()].reshape(part.height(), part.width(), 3)
    return rows.mean(axis=(0, 1)).tolist()


def test_layers_are_moved_and_sized_by_their_handles(window, station, drag, qtbot):
    station.layers.add_glitter(station.model.chart.landmark("forehead"))
    station.layers.reserve("horn", station.model.chart.landmark("chin"))
    glitter = window.document.committed.overlays[0]
    drag(station.board.over.middles[0], 30, 12)
    moved = window.document.committed.overlays[0]
    assert moved.x_mm > glitter.x_mm
    drag(station.board.over.sizes[0], 15, 0)
    assert window.document.committed.overlays[0].width_mm > moved.width_mm
    QTest.keyClick(station.board.over.sizes[1], KEYS.Key_Right)
    assert window.document.committed.reserved[0].radius_mm == 13
    QTest.keyClick(station.board.over.middles[1], KEYS.Key_Down)
    station.layers.change(window.document.committed.overlays[0], grains_cm2=120.0, srgb="#ffffff")
    assert window.document.committed.overlays[0].grains_cm2 == 120
    while window.document.undo_label:
        window.undo()
    assert not station.board.over.middles
    rested(qtbot, station)


def pulled(station, *points):
    """Draw a line on the board with the mouse, mm on the chart; one point is a tap."""
    board, left = station.board, Qt.MouseButton.LeftButton
    at = [board.view.to_px(*point).toPoint() for point in points]
    QTest.mousePress(board, left, pos=at[0])
    for one in at[1:]:
        QTest.mouseMove(board, one)
    assert not board.grab().isNull()
    QTest.mouseRelease(board, left, pos=at[-1])


def test_lines_are_drawn_by_hand_with_a_load(window, station, qtbot):
    board, document = station.board, window.document

    def lines():
        return [one for one in document.committed.motifs if is_line_work(document.committed, one)]

    def listed():
        station.layers.list_all()
        return {action.text(): action for action in station.layers.menu().actions()}

    listed()["Draw lines and dots"].trigger()
    assert board.pen.on
    pulled(station, *((x, -60 + (x % 4)) for x in range(-30, 12, 6)))
    pulled(station, (0, -75))
    (piece,) = lines()
    first = [piece.place.stroke(way).path for way in piece.ways]
    assert [is_dot(path) for path in first] == [False, True]
    assert first[0].points_mm[0] == pytest.approx((-30, -60), abs=2.5)
    window.undo()
    assert len(lines()[0].ways) == 1
    window.redo()
    QTest.keyClick(board, KEYS.Key_Escape)
    assert not board.pen.on
    station.model.choose(piece.id)
    tapers = {action.text(): action for action in listed()["Lines are"].menu().actions()}
    tapers[Taper.TO_TIP.value].trigger()
    listed()[f"Draw on: {piece.name}"].trigger()
    pulled(station, (20, -40), (30, -42), (40, -40))
    (piece,) = lines()
    assert len(piece.ways) == 3
    assert piece.ways[2].pressures[0].value > piece.ways[2].pressures[1].value
    loads = {action.text(): action for action in listed()["Draw with"].menu().actions()}
    before = len(document.committed.strokes)
    loads["Poppy Red, a new load"].trigger()
    pulled(station, (20, 60), (40, 60))
    red = document.committed.stroke(lines()[-1].load_of["stroke"])
    assert red.recipe.pan_paints == ("poppy-red",)
    assert len(document.committed.strokes) == before + 1
    loads = {action.text(): action for action in listed()["Draw with"].menu().actions()}
    loads[red.name].trigger()
    assert board.pen.load == red.id
    tapers = {action.text(): action for action in listed()["Lines are"].menu().actions()}
    tapers[Taper.SWIRL.value].trigger()
    pulled(station, (-30, 60), (-18, 60))
    swirled = lines()[-1].place.stroke(lines()[-1].ways[-1]).path
    assert length_mm(swirled) > 4 * 12, "round about its start"
    station.layers.drawing.emit(red.id, "")
    station.model.show_chart("hand")
    assert not board.pen.on
    rested(qtbot, station)


def test_lines_come_from_a_drawing_and_are_looked_at(window, station, qtbot, tmp_path):
    board = station.board
    (tmp_path / "edge.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg"><path d="M 0 -60 C 10 -70 20 -70 30 -60"/></svg>'
    )
    station.layers.add_lines(tmp_path / "edge.svg")
    svg = committed(window)[-1]
    assert svg.place.stroke(svg.way).path.points_mm[0] == pytest.approx((0, -60), abs=0.01)
    (tmp_path / "bad.svg").write_text("<svg/>")
    station.layers.add_lines(tmp_path / "bad.svg")
    assert "bad.svg" in window.banner.words.text() or "path" in window.banner.words.text()
    eye = next(zone for zone in station.model.chart.zones if zone.kind == "eye").polygon.mean(axis=0)
    board.draw_by_hand()
    pulled(station, eye)
    rested(qtbot, station)
    assert any("which stays clear" in odd.text for odd in station.model.odd)


def test_gems_and_stencils_are_turned_and_grains_are_seen_as_they_fell(window, station, qtbot, tmp_path, monkeypatch):
    document = window.document
    (tmp_path / "s.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0H16V6H0Z"/></svg>')
    forehead = station.model.chart.landmark("forehead")
    station.layers.add_stencil(tmp_path / "s.svg")
    station.layers.add_gem(forehead)
    station.layers.add_glitter(forehead)
    rested(qtbot, station)
    stencil, gem, glitter = document.committed.overlays
    painted = station.model.painted
    assert [one.mark for one in painted.marks] == [stencil, gem, glitter]
    shown = painted.marks[2].shows
    assert 0 < shown.mean() < 0.5, "most grains fall from bare skin"
    assert painted.to_draw(stencil) is None, "it is paint of the film"
    monkeypatch.setattr("pennello.ui.stations.chart.layers.ask_amount", lambda *a: 30.0)
    station.layers._ask_turn(gem)
    station.layers.change(document.committed.overlays[1], shape=GemShape.STAR)
    turned = document.committed.overlays[1]
    assert (turned.turn_deg, turned.shape) == (30.0, GemShape.STAR)
    assert painted.to_draw(turned).mark == turned, "what was changed since is drawn as it is"
    station.layers.mirror(turned, station.model.chart.midline_mm)
    assert document.committed.overlays[3].turn_deg == -30.0
    rested(qtbot, station)
    assert not station.grab().isNull()


def test_the_wish_is_held_against_the_prediction(window, station, qtbot):
    put_motif(station, "petal-ring")
    small(station)
    rested(qtbot, station)
    predicted = station.model.painted.rgba
    station.wish.click()
    rested(qtbot, station)
    assert not (station.model.painted.rgba.shape == predicted.shape and (station.model.painted.rgba == predicted).all())
    station.wish.click()
    rested(qtbot, station)
    assert (station.model.painted.rgba == predicted).all()


def test_a_saved_plan_is_shown_at_once_when_it_opens_again(open_window, demo, qtbot, tmp_path, monkeypatch):
    monkeypatch.setattr("pennello.ui.stations.chart.model.SKETCH_FROM", 3)
    plan, _ = with_new_motif(demo, "petal-ring", "face", Place(), "beetle-scale")
    write_plan(plan, tmp_path / "ring.pennello")
    window, kept = open_window(Plan()), LastPictures()
    window.go_to("chart")
    model, seen = window.station("chart").model, []
    model.painted_anew.connect(lambda: seen.append(model.painted))
    window.open_path(tmp_path / "ring.pennello")
    qtbot.waitUntil(lambda: kept.find(plan, "face") is not None)
    assert [one.canvas.px_per_mm for one in seen][:2] == [2.0, 3.0], "a sketch first, and then as it is"
    assert [one.sketch for one in seen][:2] == [True, False], "and it says so"
    there = kept.find(plan, "face")
    assert there is not None
    assert np.array_equal(there.rgba, seen[1].rgba)
    window.document.replace(Plan())
    qtbot.waitUntil(lambda: model.painted is None)
    seen.clear()
    kept.keep(replace(there, rgba=np.zeros((4, 4, 4), np.uint8)))  # to be known again by
    window.open_path(tmp_path / "ring.pennello")
    qtbot.waitUntil(lambda: len(seen) > 2 and not model.busy)
    assert [one.rgba.shape[0] > 4 for one in seen][:2] == [False, True], "what was kept first, painted behind it"
    assert model.film is not None
