"""What a piece keeps, by the panel: a stripe on a landmark, an angle to the level; a sign and its box."""

import gc
import weakref
from dataclasses import replace

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from pennello.design.bound import Sign, StripeOn
from pennello.design.computed import places_to_fill
from pennello.design.computing import Computing, LaidBy
from pennello.design.edits import with_stroke
from pennello.design.on_chart import laid_pieces, seat
from pennello.design.placed import FREE, SINGLE, PlacedMotif
from pennello.design.pulled import points_of
from pennello.files.demo import shipped_design
from pennello.lay.families.shapes import smooth
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.motif.place import Place
from pennello.ui.stations.chart import hand_verdict
from pennello.ui.widgets.chart_drawing import draw_level


@pytest.fixture
def station(open_window, demo):
    way = Stroke(smooth([(-30.0, 6.0), (0.0, 0.0), (30.0, -6.0)]), Nib(NibMode.FOLLOWING, 90.0), 0.6)
    band = PlacedMotif("band", "Band", FREE, ((SINGLE, "poppy-petal"),), place=Place(0.0, 30.0), way=way)
    window = open_window(replace(demo, motifs=(band,)), at="chart")
    made = window.station("chart")
    made.model.choose("band")
    return made


def chosen(station):
    return station.model.committed


def test_a_stripe_is_put_on_the_pupil_line_and_let_go(station):
    bound = station.panel.bound
    bound.on.setCurrentIndex(bound.on.findData("pupil line"))
    bound.stripe.setCurrentIndex(bound.stripe.findData("foam-white"))
    bound.stripe.activated.emit(bound.stripe.currentIndex())
    assert chosen(station).stripe == StripeOn("foam-white", "pupil line")
    assert seat(station.model.plan, chosen(station)).place.y_mm < 25
    shown = station.model.chart.landmark("pupil, wearer's left")[1]
    assert abs(station.model.seated.place.y_mm - shown) < 15
    bound.stripe.setCurrentIndex(0)
    bound.stripe.activated.emit(0)
    assert chosen(station).stripe is None
    station.model.document.undo()
    assert chosen(station).stripe is not None


def test_an_angle_is_shown_kept_and_typed(station):
    bound = station.panel.bound
    assert bound.level.text().startswith("11")  # atan2(12, 60)
    bound.keeps.click()
    assert chosen(station).level_deg == pytest.approx(11.3)
    bound.level.edited.emit(40.0)
    assert chosen(station).level_deg == 40.0
    (piece,) = laid_pieces(station.model.plan, chosen(station), None)
    (x0, y0), *_, (x1, y1) = piece.stroke.path.points_mm
    assert np.degrees(np.arctan2(y0 - y1, x1 - x0)) == pytest.approx(40)
    bound.keeps.click()
    assert chosen(station).level_deg is None


def test_a_sign_has_a_box(station):
    bound = station.panel.bound
    assert not bound.checked.isVisibleTo(bound)
    bound.says.setText("FOX")
    bound.says.editingFinished.emit()
    assert chosen(station).sign == Sign("FOX")
    assert bound.checked.isVisibleTo(bound)
    bound.checked.click()
    assert chosen(station).sign == Sign("FOX", checked=True)
    bound.says.setText(" FOX ")
    bound.says.editingFinished.emit()
    assert chosen(station).sign == Sign("FOX", checked=True), "it says the same"
    assert bound.says.text() == "FOX"
    bound.says.setText("")
    bound.says.editingFinished.emit()
    assert chosen(station).sign is None


def test_what_a_piece_says_is_taken_back_under_the_fields_eyes_and_is_nobody_elses(station, qtbot):
    """Undo in the bar takes no focus: what the field still showed was a new edit as soon as it was left."""
    bound, model = station.panel.bound, station.model
    station.window().activateWindow()
    bound.says.setFocus()
    qtbot.waitUntil(bound.says.hasFocus)
    QTest.keyClicks(bound.says, "FOX")
    QTest.keyClick(bound.says, Qt.Key.Key_Return)
    assert chosen(station).sign == Sign("FOX")
    station.window().undo()
    assert bound.says.text() == ""
    bound.keeps.setFocus()
    assert chosen(station).sign is None
    assert station.window().document.redo_label == "What it says"
    bound.says.setFocus()
    QTest.keyClicks(bound.says, "HALF")
    model.choose("")
    bound.keeps.setFocus()
    assert all(one.sign is None for one in model.motifs)


def test_points_of_the_way_are_moved_where_they_lie(station):
    """A point that is moved by a key moves by a mm there, and the stripe stays on its landmark."""
    model = station.model
    model.edit_motif("x", lambda one: replace(one, stripe=StripeOn("poppy-red", "nose tip")))
    before = points_of(model.seated)
    handle = station.board.way.points[-1]
    handle.setFocus()
    assert (station.board.view.to_px(*before[-1]) - handle.geometry().center()).manhattanLength() < 3
    QTest.keyClick(handle, Qt.Key.Key_Right)
    moved = points_of(model.seated)
    shift = np.array(before[0]) - moved[0]
    assert np.array(moved[-1]) + shift - before[-1] == pytest.approx([1.0, 0.0], abs=0.1)


def test_the_gauge_opens_from_the_level(qapp):
    from PySide6.QtCore import QPointF
    from PySide6.QtGui import QImage, QPainter

    for rises, box in ((40.0, (100, 40, 160, 98)), (-40.0, (100, 102, 160, 160)), (150.0, (40, 40, 98, 98))):
        image = QImage(200, 200, QImage.Format.Format_RGB32)
        image.fill(0xFFFFFFFF)
        painter = QPainter(image)
        draw_level(painter, QPointF(100, 100), rises)
        painter.end()
        data = np.frombuffer(image.constBits(), np.uint8).reshape(200, 200, 4)[..., :3].min(axis=2) < 200
        left, top, right, bottom = box
        off_level = data.copy()
        off_level[98:103] = False
        assert off_level[top:bottom, left:right].sum() == off_level.sum() > 5


def test_a_place_is_filled_from_the_menu_and_laid_another_way(station):
    """The frames of a face that close are offered; no open eye is."""
    station.layers.filling_zone.emit("lips")
    placed = chosen(station)
    assert placed.computed.zone == "lips"
    panel = station.panel
    assert panel.made.by.isVisibleTo(panel)
    panel.made.by.setCurrentIndex(panel.made.by.findData(LaidBy.FUR))
    panel.made.by.activated.emit(panel.made.by.currentIndex())
    assert chosen(station).computed.by is LaidBy.FUR
    assert {"heart", "mask", "lips"} <= set(places_to_fill(station.model.chart))
    assert not [name for name in places_to_fill(station.model.chart) if "eye opening" in name or name == "crown"]


def test_a_shadow_is_worked_out_from_the_piece_in_the_hand(station):
    station.working.work_out(Computing.SHADOW, -1.2)
    made = station.model.committed
    shadow = next(one for one in station.model.plan.motifs if one.computed is not None)
    assert shadow.computed.kind is Computing.SHADOW
    assert shadow.computed.off_mm == -1.2
    assert shadow.computed.of == (made.id,)


def test_a_fill_lies_where_the_line_lies_that_keeps_its_stripe(station):
    band = chosen(station)
    kept = replace(band, stripe=StripeOn("foam-white", "pupil line"))
    station.model.edit_motif("x", lambda _: kept)
    station.working.work_out(Computing.FILL)
    fill = next(one for one in station.model.plan.motifs if one.computed is not None)
    there, asked = (np.array(points) for points in (points_of(station.model.seated), points_of(band)))
    assert np.array(fill.computed.border.points_mm) == pytest.approx(there)
    assert abs(there - asked).max() > 5.0


def test_gaps_are_filled_from_the_menu_or_it_is_said_that_there_are_none(open_window, qtbot):
    window = open_window(shipped_design("dahlia-crown").plan(), at="chart")
    made = window.station("chart")
    made.layers.filling_gaps.emit()
    assert made.model.committed.name == "Gaps"
    assert len(made.model.committed.ways) >= 6
    window.undo()
    made.model.show_chart("hand")
    with qtbot.waitSignal(made.said, check_params_cb=lambda words: "no gaps" in words):
        made.layers.filling_gaps.emit()


def test_the_load_of_a_pulled_stroke_is_judged_as_it_is_pulled_and_mended(station, qtbot):
    """It is what the command line says of the same load on the same way; a mend changes the load, and undo it back."""
    panel = station.panel
    qtbot.waitUntil(lambda: panel.verdict.words.text() != "")
    first = panel.verdict.words.text()
    assert first.split(":")[0] in ("Holds", "Close", "Misses")
    model = station.model
    load = model.plan.stroke("poppy-petal")
    flipped = replace(load.recipe.pickups[0], flip=not load.recipe.pickups[0].flip)
    model.edit("x", lambda plan: with_stroke(plan, replace(load, recipe=replace(load.recipe, pickups=(flipped,)))))
    qtbot.waitUntil(lambda: panel.verdict.words.text() != first and panel.verdict.mends.count() > 0)
    panel.verdict.mends.itemAt(0).widget().click()
    assert model.plan.stroke("poppy-petal").recipe.pickups[0].flip == load.recipe.pickups[0].flip
    model.document.undo()
    assert model.plan.stroke("poppy-petal").recipe.pickups[0].flip == flipped.flip


def test_a_mend_on_offer_holds_no_film(station, qtbot, monkeypatch):
    judged, pictures = hand_verdict.fine, []

    def fine(*given):
        outcome = judged(*given)
        pictures.append(weakref.ref(outcome.picture))
        return outcome

    monkeypatch.setattr(hand_verdict, "fine", fine)
    verdict = station.panel.verdict
    load = station.model.plan.stroke("poppy-petal")
    flipped = replace(load.recipe.pickups[0], flip=not load.recipe.pickups[0].flip)
    change = replace(load, recipe=replace(load.recipe, pickups=(flipped,)))
    station.model.edit("x", lambda plan: with_stroke(plan, change))
    qtbot.waitUntil(lambda: bool(pictures) and not verdict.busy and verdict.mends.count() > 0)
    qtbot.waitUntil(lambda: gc.collect() >= 0 and pictures[-1]() is None)


def test_waves_lift_and_flips_of_a_pulled_stroke_are_numbers(station):
    fields = station.panel.fields
    for key, value in (("waves", 3.0), ("wave_mm", 4.0), ("lift_mm", 9.0), ("flip_mm", 20.0)):
        fields[key].edited.emit(value)
    way = chosen(station).way
    assert (way.wiggle.count, way.wiggle.width_mm, way.lift_mm, way.flips_mm) == (3.0, 4.0, 9.0, (20.0,))
    fields["flip_mm"].edited.emit(0.0)
    assert chosen(station).way.flips_mm == ()
