"""Wishing, finding a load, designing a cake, forgiveness, fewer loads and colourways, through the window."""

from dataclasses import replace

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QColorDialog, QFileDialog

from pennello.aim.hand import Steadiness
from pennello.design.edits import with_brush
from pennello.errors import PennelloError
from pennello.kit.paint import Near
from pennello.practice.records import KeptTry
from pennello.practice.tries import TryScore, TrySlip
from pennello.session.jobs import Job
from pennello.session.log import open_log
from pennello.ui.stations.bench.search.line_page import LinePage


def stroke_of(window):
    return window.document.committed.stroke(window.model.stroke.id)


@pytest.fixture
def door(window, qtbot):
    """Open a page by its button on the read-out."""

    def go(name, stroke="dahlia-petal"):
        window.model.choose(stroke)
        QTest.mouseClick(window.station("bench").readout.page_buttons[name], Qt.MouseButton.LeftButton)
        page = window.station("bench").page_of(name)
        qtbot.waitUntil(page.isVisible)
        return page

    return go


def ended(qtbot, page):
    qtbot.waitUntil(lambda: not page.busy)


# --- find a load ---


def test_find_shows_a_board_and_takes_a_load(window, door, qtbot):
    page = door("find", "beetle-scale")
    assert page.again.text() == "Stop"
    ended(qtbot, page)
    assert len(page.board.cards) == len(page.finds) >= 3
    assert "places looked at" in page.words.text()
    first = page.board.cards[0]
    assert "holds" in first.accessibleName()
    assert "click" in first.toolTip().lower()
    before = stroke_of(window)
    first.setFocus()
    QTest.keyClick(first, Qt.Key.Key_Space)
    assert stroke_of(window).recipe == page.finds[0].recipe
    assert stroke_of(window).brush == page.finds[0].brush.id
    window.undo()
    assert stroke_of(window) == before


def test_find_obeys_its_filters_and_labels(window, door, qtbot):
    page = door("find", "dahlia-petal")
    page.keep_brush.click()
    page.one_visit.click()
    page.one_cake.click()
    ended(qtbot, page)
    assert {find.brush.id for find in page.finds} == {stroke_of(window).brush}
    assert {len(find.recipe.pickups) for find in page.finds} == {1}
    assert {find.first.cake for find in page.finds} == {"dahlia-wrist"}
    page.near.setCurrentIndex(1)
    page.near.activated.emit(1)
    assert stroke_of(window).near is Near.EYE
    ended(qtbot, page)
    window.undo()
    assert stroke_of(window).near is Near.SKIN
    assert page.busy
    page.again.click()
    assert not page.busy
    assert "Stopped" in page.words.text()


@pytest.mark.slow
def test_find_looks_for_dips_and_says_why_it_cannot(window, door, qtbot):
    page = door("find", "kelp-leaf")
    ended(qtbot, page)
    assert ", then " in page.board.cards[0].shown.title  # the paints of a dip, one after another
    assert not page.grab().isNull()
    window.model.choose("dahlia-petal")
    wide = replace(window.model.brush, width_mm=100.0)
    window.model.edit("Wide", lambda plan, _: with_brush(plan, wide))
    page.keep_brush.setChecked(True)
    ended(qtbot, page)
    assert "as wide as the brush" in page.words.text()
    QTest.mouseClick(page.findChildren(type(page.again))[-1], Qt.MouseButton.LeftButton)


@pytest.mark.slow
def test_another_wish_searches_anew(window, door, qtbot):
    page = door("find", "dahlia-petal")
    ended(qtbot, page)
    finds = page.finds
    window.model.choose("plume-eye")
    assert page.busy
    ended(qtbot, page)
    assert page.finds[0].first.cake != finds[0].first.cake


# --- design a cake ---


@pytest.mark.slow
def test_design_makes_a_cake_of_the_plan(window, door, qtbot):
    page = door("design", "dahlia-petal")
    assert not page.busy
    page.kit.setChecked(False)
    page.stripes.setValue(3)
    page._list_paints()
    page.keep.menu().actions()[0].trigger()
    page._list_strokes()
    assert len(page.also.menu().actions()) == len(window.document.committed.strokes) - 1
    page.again.click()
    qtbot.waitUntil(lambda: bool(page.rated))
    ended(qtbot, page)
    assert all(len(rated[0].paints) <= 3 for rated in page.rated)
    assert page.rated[0][0].paints[0].id == "foam-white" or "foam-white" in {p.id for p in page.rated[0][0].paints}
    count = len(window.document.committed.cakes)
    page.board.cards[0].click()
    plan = window.document.committed
    assert len(plan.cakes) == count + 1
    assert stroke_of(window).recipe.cakes == (plan.cakes[-1].id,)
    window.undo()
    assert len(window.document.committed.cakes) == count
    window.model.choose("plume-eye")
    assert page.rated == ()


@pytest.mark.slow
def test_design_one_cake_for_two(window, door, qtbot):
    page = door("design", "dahlia-petal")
    page._others.add("plume-eye")
    page.kit.setChecked(False)
    page.again.click()
    ended(qtbot, page)
    page.board.cards[0].click()
    plan = window.document.committed
    assert plan.stroke("plume-eye").recipe.cakes == plan.stroke("dahlia-petal").recipe.cakes


def test_interface_stays_free_while_a_cake_is_designed(window, door, qtbot):
    """The interface thread turns round often; only a coarse bound here, `make bench` measures it."""
    page = door("design", "dahlia-petal")
    page.again.click()
    turns = []
    for _ in range(40):
        qtbot.wait(5)
        turns.append(page.bar.value())
    assert page.busy
    page.stop()
    assert len(turns) == 40


# --- forgiveness ---


def test_forgiveness_counts_and_follows_the_hand(window, door, qtbot):
    page = door("forgive", "dahlia-petal")
    ended(qtbot, page)
    first = page.found
    assert first.tries == 400
    assert "Holds in" in page.sentence
    assert not window.grab().isNull()
    page.hand.setCurrentIndex(0)
    page.hand.activated.emit(0)
    ended(qtbot, page)
    assert window.document.committed.hand.steadiness is Steadiness.STEADY
    assert page.found.share > first.share
    page.sizes["drift_share"].setValue(50)
    assert window.document.committed.hand.drift_share == pytest.approx(0.5)
    window.undo()
    window.undo()
    assert window.document.committed.hand.steadiness is Steadiness.NORMAL  # type: ignore[comparison-overlap]
    ended(qtbot, page)
    page.left.emit()
    assert window.station("bench").readout.isVisible()


def test_forgiveness_names_the_own_hand_and_takes_it(window, door, qtbot):
    slip = TrySlip(0.1, 0.1, 2.0, 1.0, 11.0, 3.0, 1.0)
    score = TryScore(1, 0.9, 0.4, 2.0, 0.2, 1.0, 0.5, None, 0.2, slip, "")
    with open_log() as log:
        log.add_tries([KeptTry("2026-11-28", "Walk", "petal", "Petal", score)] * 8)
    page = door("forgive", "dahlia-petal")
    ended(qtbot, page)
    assert page.words.text() == "8 tries tell others."
    assert "from 8 tries" in page.words.toolTip()
    assert page.hand.currentText() != "my own hand"
    page.hand.setCurrentIndex(page.hand.count() - 1)
    page.hand.activated.emit(page.hand.count() - 1)
    assert window.document.committed.hand.angle_deg == pytest.approx(11.0)
    ended(qtbot, page)
    assert page.words.text() == "Your hand, from 8 tries."
    assert page.words.toolTip().startswith("Your hand: the chisel is off by 11 degrees")
    assert page.hand.currentText() == "my own hand"
    window.undo()
    ended(qtbot, page)
    assert page.hand.currentText() == "normal hand"


# --- the wish ---


def test_stops_are_recoloured_moved_added_and_taken_out(window, door, monkeypatch):
    page = door("wish")
    assert len(page.cards) == 4
    page.cards[0].paint.setCurrentIndex(page.cards[0].paint.findData("poppy-red"))
    page.cards[0].paint.activated.emit(page.cards[0].paint.currentIndex())
    assert stroke_of(window).wanted.stops[0].paint == "poppy-red"
    page.cards[0].end.setValue(4.0)
    assert stroke_of(window).wanted.stops[0].to_u == pytest.approx(4.0 / 19.05, abs=1e-3)
    page.cards[0].blend.setValue(1.0)
    assert stroke_of(window).wanted.stops[0].blend_mm == 1.0
    page.cards[1].added.emit()
    assert len(page.cards) == 5
    page.cards[2].removed.emit()
    assert len(page.cards) == 4
    monkeypatch.setattr(QColorDialog, "getColor", lambda *a: QColor("#336699"))
    last = page.cards[3].paint
    last.activated.emit(last.count() - 1)
    assert stroke_of(window).wanted.stops[3].srgb == "#336699"
    while window.document.undo_label:
        window.document.undo()
    assert len(page.cards) == 4


def test_ways_to_a_wish(window, door, qtbot):
    page = door("wish", "kelp-swoosh")
    page.named["Usual"].click()
    assert stroke_of(window).wanted.stops[0].to_u == pytest.approx(0.2)
    page.rim.setValue(9.0)
    page.named["Rim at least"].click()
    assert stroke_of(window).wanted.stops[0].to_u == pytest.approx(9 / 25.4, abs=1e-3)
    page.take_wish("dahlia-petal")
    assert stroke_of(window).wanted.stops[0].paint == "foam-white"
    page.named["Turn round"].click()
    assert stroke_of(window).wanted.stops[-1].paint == "foam-white"
    page.named["This load"].click()
    assert "foam-white" not in {stop.paint for stop in stroke_of(window).wanted.stops}
    page.tolerance.setValue(5.0)
    assert stroke_of(window).wanted.tolerance_de00 == 5.0
    page.which.button(1).click()
    page.take_stops((replace(stroke_of(window).wanted.stops[0], to_u=1.0),))
    assert len(stroke_of(window).wanted.end) == 1
    assert len(page.cards) == 1
    assert page.same.isVisible()
    page.same.click()
    assert stroke_of(window).wanted.end == ()


def test_wish_from_a_photo(window, door, tmp_path, monkeypatch):
    page = door("wish")
    picture = np.full((60, 90, 3), 240, np.uint8)
    picture[:, 45:] = (200, 30, 40)
    Image.fromarray(picture).save(tmp_path / "petal.png")
    seen = []

    def look(dialog):
        dialog.show()
        dialog.move_end(0, 5, 30)
        QTest.keyClick(dialog.grips[1], Qt.Key.Key_Right)
        seen.append(dialog.words.text())
        assert not dialog.grab().isNull()
        dialog.foot.take.click()
        return LinePage.DialogCode.Accepted

    monkeypatch.setattr(LinePage, "exec", look)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(tmp_path / "petal.png"), ""))
    page.named["Picture ..."].click()
    stops = stroke_of(window).wanted.stops
    assert [stop.srgb for stop in stops] == ["#f0f0f0", "#c81e28"]
    assert stops[0].to_u == pytest.approx(0.68, abs=0.1)
    assert "2 colours" in seen[0]
    (tmp_path / "no.png").write_text("no picture")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(tmp_path / "no.png"), ""))
    page.named["Picture ..."].click()
    assert window.banner.isVisible()
    page.named["Like ..."].click()


# --- the whole plan ---


def test_fewer_loads_are_taken_as_a_step(open_window, demo, qtbot):
    base = demo.stroke("dahlia-petal")
    plan = replace(demo, strokes=tuple(replace(base, id=f"s{n}", name=f"Petal {n}") for n in range(3)))
    window = open_window(plan)
    window.station("bench").strokes.show_loads()
    page = window.station("bench").strokes.page
    ended(qtbot, page)
    assert page.advice.loads < page.advice.before
    assert "instead of 3" in page.words.text()
    assert len(page.board.cards) == len(page.advice.served)
    page.take_loads()
    assert len({stroke.recipe for stroke in window.document.committed.strokes}) == 1
    window.undo()


def test_colourways_are_shown_and_taken(window, qtbot):
    window.station("bench").strokes.show_colourways()
    page = window.station("bench").strokes.page
    ended(qtbot, page)
    assert len(page.found[1]) == 3
    assert page.takes[0].isEnabled()
    assert not page.grab().isNull()
    before = window.document.committed
    page.takes[0].click()
    assert window.document.committed.stroke("dahlia-petal").recipe != before.stroke("dahlia-petal").recipe
    window.undo()
    assert window.document.committed == before


@pytest.mark.slow
def test_a_colourway_can_be_asked_for(window, qtbot):
    window.station("bench").strokes.show_colourways()
    page = window.station("bench").strokes.page
    ended(qtbot, page)
    for box, row in ((page.colour, page.colour.findText("blue")), (page.whole, 1)):
        box.setCurrentIndex(row)
        box.activated.emit(row)
        assert page.found is None and not page.takes[0].isEnabled()
        ended(qtbot, page)
    assert "blue" in page.takes[0].text()
    before = window.document.committed
    page.takes[0].click()
    changed = [old.id for old, new in zip(before.strokes, window.document.committed.strokes, strict=True) if old != new]
    assert changed == [before.strokes[0].id]


def test_empty_plans_have_no_pages(open_window, demo):
    window = open_window(replace(demo, strokes=()))
    assert not window.station("bench").strokes.whole.isEnabled()
    assert not any(button.isEnabled() for button in window.station("bench").readout.page_buttons.values())


def test_a_search_that_breaks_gives_a_sentence(window, door, qtbot):
    page = door("find")
    ended(qtbot, page)

    def broken(job: Job):
        raise PennelloError("The shelf fell down.")

    page.run(broken)
    ended(qtbot, page)
    assert page.words.text() == "The shelf fell down."
