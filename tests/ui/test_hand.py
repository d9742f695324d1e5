"""How the hand leads the stroke, the families, and the whole skin, through the window."""

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QFileDialog

from pennello.files.svg import read_svg, write_svg
from pennello.lay.families.catalogue import FAMILIES
from pennello.lay.stroke import Exit, Key, NibMode
from pennello.ui.stations.bench.family_page import FamilyPage


def way(window):
    return window.document.committed.stroke(window.model.stroke.id).stroke


@pytest.fixture
def hand(window):
    window.station("bench").skin.lead.click()
    assert window.station("bench").hand.isVisible()
    return window.station("bench").hand


# --- the hand ---


def test_pressure_keys_are_put_dragged_stepped_and_taken_out(window, hand, drag):
    area = hand._area
    QTest.mouseDClick(
        hand.along, Qt.MouseButton.LeftButton, pos=QPoint(round(area.center().x()), round(area.top() + 10))
    )
    assert len(way(window).pressures) == 3
    assert way(window).pressures[1].at == pytest.approx(0.5, abs=0.02)
    assert way(window).pressures[1].value > 0.8
    before = way(window).pressures[1].value
    drag(hand._keys[1], 30, 25)
    assert way(window).pressures[1].value < before
    QTest.keyClick(hand._keys[1], Qt.Key.Key_Up)
    QTest.keyClick(hand._keys[0], Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert way(window).pressures[0].value == pytest.approx(0.49)
    QTest.keyClick(hand._keys[1], Qt.Key.Key_Return)
    assert len(way(window).pressures) == 2
    hand.named["Even pressure"].click()
    assert way(window).pressures == ()
    while window.document.undo_label:
        window.document.undo()
    assert way(window).pressure == 0.5


@pytest.mark.parametrize(
    ("key", "read"),
    [
        ("lean", lambda way: [one.value for one in way.leans]),
        ("tilt", lambda way: [one.value for one in way.tilts]),
        ("to", lambda way: [one.to_u for one in way.parts]),
    ],
)
def test_the_strip_shows_and_changes_what_the_hand_does(window, hand, drag, key, read):
    hand.shown.setCurrentIndex(hand.shown.findData(key))
    hand.shown.activated.emit(hand.shown.currentIndex())
    area = hand._area
    place = QPoint(round(area.center().x()), round(area.top() + (40 if key == "to" else 12)))
    QTest.mouseDClick(hand.along, Qt.MouseButton.LeftButton, pos=place)
    assert len(read(way(window))) == 3
    middle = read(way(window))[1]
    drag(hand._keys[1], 0, 25)
    assert read(way(window))[1] < middle
    QTest.keyClick(hand._keys[1], Qt.Key.Key_Up)
    assert hand._keys[1].accessibleName()
    while window.document.undo_label:
        window.document.undo()
    assert read(way(window)) == []


def test_patted_and_where_a_part_lies(window, hand):
    window.model.choose("lantern-cheek")
    hand.patted.setCurrentIndex(2)
    hand.patted.activated.emit(2)
    hand.overlap.edited.emit(50.0)
    hand.turn.edited.emit(30.0)
    hand.on_part.click()
    pats = way(window).pats
    assert (pats.over.value, pats.overlap, pats.turn_deg, way(window).on_part) == ("place", 0.5, 30, True)
    hand.patted.activated.emit(0)
    assert way(window).pats is None
    assert not hand.overlap.isVisible()
    while window.document.undo_label:
        window.document.undo()
    assert way(window).pats is None


def test_flips_on_the_way(window, hand, drag):
    window.model.choose("kelp-swoosh")
    hand.named["Keep the rim"].click()
    assert len(way(window).flips_mm) == 2
    first = way(window).flips_mm[0]
    drag(hand._flips[0], 20, 0)
    assert way(window).flips_mm[0] > first
    QTest.keyClick(hand._flips[0], Qt.Key.Key_Left)
    QTest.mouseDClick(hand._flips[1], Qt.MouseButton.LeftButton)
    assert len(way(window).flips_mm) == 1
    window.model.choose("dahlia-petal")
    hand.named["Keep the rim"].click()
    assert "bends one way only" in window.banner.words.text()
    hand.named["Flip midway"].click()
    assert len(way(window).flips_mm) == 1


def test_lift_exit_part_wait_and_drying(window, hand):
    hand.lift.edited.emit(12.0)
    hand.exit.setCurrentIndex(1)
    hand.exit.activated.emit(1)
    hand.part_from.edited.emit(20.0)
    hand.part_to.edited.emit(80.0)
    hand.wait.edited.emit(45.0)
    hand.dry.edited.emit(90.0)
    assert (way(window).lift_mm, way(window).exit, way(window).part) == (12.0, Exit.A, (0.2, 0.8))
    assert window.document.committed.stroke("dahlia-petal").wait_s == 45
    assert window.document.committed.dry_after_s == 90
    assert "yours" in hand.dry.toolTip()
    while window.document.undo_label:
        window.document.undo()
    assert "default" in hand.dry.toolTip()


def test_mirror_reverse_and_the_way_of_another(window, hand):
    before = way(window)
    hand.named["Mirror"].click()
    assert way(window).nib.angle_deg == -90
    hand.named["Mirror"].click()
    hand.named["Reverse"].click()
    assert way(window).path.points_mm[0] == pytest.approx(before.path.points_mm[-1])
    hand.named["Reverse"].click()
    assert np.array(way(window).path.points_mm) == pytest.approx(np.array(before.path.points_mm))
    hand.take_way(window.document.committed.stroke("kelp-swoosh").stroke)
    assert way(window).nib.mode is NibMode.FIXED
    assert way(window).path == window.document.committed.stroke("dahlia-petal").stroke.path


def test_svg_and_backdrop(window, hand, monkeypatch, tmp_path, demo):
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "x.svg"), ""))
    hand.named["SVG out ..."].click()
    assert len(read_svg(tmp_path / "x.svg")) == len(demo.strokes)
    from dataclasses import replace

    write_svg(replace(demo, strokes=demo.strokes[3:5]), tmp_path / "y.svg")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(tmp_path / "y.svg"), ""))
    hand.named["SVG in ..."].click()
    assert len(way(window).path.points_mm) == len(demo.strokes[3].stroke.path.points_mm)
    assert "first of 2" in window.banner.words.text()
    (tmp_path / "y.svg").write_text("no")
    hand.named["SVG in ..."].click()
    assert "y.svg" in window.banner.words.text()
    Image.fromarray(np.full((40, 60, 3), 90, np.uint8)).save(tmp_path / "p.png")
    plain = window.station("bench").skin.surface.grab().toImage()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(tmp_path / "p.png"), ""))
    monkeypatch.setattr("pennello.ui.stations.bench.hand_page.ask_amount", lambda *a: 80.0)
    hand.named["Backdrop ..."].click()
    assert window.station("bench").skin.surface.grab().toImage() != plain
    hand.backdrop_wanted.emit(str(tmp_path / "none.png"), 50.0)
    assert "no such file" in window.banner.words.text()
    hand.named["Done"].click()
    assert window.station("bench").readout.isVisible()


def test_a_chisel_turned_by_keys_begins_as_it_was(window, drag):
    box = window.station("bench").skin.mode_choice
    box.setCurrentIndex(box.findText("turns by keys"))
    box.activated.emit(box.currentIndex())
    assert way(window).nib.mode is NibMode.KEYED
    assert [key.value for key in way(window).nib.keys] == pytest.approx([90, 90], abs=1)
    ribs = window.station("bench").skin._ribs.handles
    assert len(ribs) == 2
    drag(ribs[1], 25, 10)
    assert way(window).nib.keys[1].value != pytest.approx(90, abs=1)
    QTest.keyClick(ribs[0], Qt.Key.Key_Right)
    assert way(window).nib.keys[0].value == pytest.approx(91, abs=1)
    QTest.mouseDClick(ribs[0], Qt.MouseButton.LeftButton)
    assert len(way(window).nib.keys) == 3


# --- families ---


def test_a_family_is_chosen_by_its_picture_and_pulled(window, qtbot, monkeypatch):
    seen = []

    def run(page):
        page.show()
        qtbot.waitUntil(lambda: len(page._gallery.pictures) == len(FAMILIES))
        icons = {page.strokes.icon(key).pixmap(60, 40).toImage().pixelColor(30, 20).name() for key in FAMILIES}
        seen.append(len(icons))
        QTest.keyClicks(page.strokes.search, "spiral")
        assert not page.take.isEnabled() or "swirl-in" in page.strokes.left
        page.strokes.search.setText("swirl")
        assert "swirl-in" in page.strokes.left
        page.strokes.choose("swirl-in")
        page.fields["turns"].setValue(2.5)
        page.grab()
        page.accept()
        page.close()
        return QDialog.DialogCode.Accepted

    monkeypatch.setattr(FamilyPage, "exec", run)
    window.station("bench").strokes.kinds.click()
    assert seen[0] > 4
    assert window.model.stroke.name == "Swirl"
    assert window.document.undo_label == "New stroke"
    assert way(window).pressures[-1] == Key(1.0, 0.05)
    window.document.undo()
    assert all(stroke.name != "Swirl" for stroke in window.document.plan.strokes)


# --- the whole skin ---


def test_all_strokes_on_one_skin(window, qtbot, drag):
    skin = window.station("bench").skin
    alone = skin.surface.grab().toImage()
    skin.whole.click()
    qtbot.waitUntil(lambda: skin.all_strokes.shown is not None)
    assert skin.surface.grab().toImage() != alone
    first = skin.all_strokes.shown
    assert first.wet is None
    skin.wet.click()
    qtbot.waitUntil(lambda: skin.all_strokes.shown is not first)
    wet = skin.all_strokes.shown
    assert wet.wet is not None
    skin.after.edited.emit(3000.0)
    skin.after.show_amount(3000.0)
    skin._look_for_wet()
    qtbot.waitUntil(lambda: skin.all_strokes.shown is not wet)
    dry = skin.all_strokes.shown.wet
    assert max(dry.pixelColor(x, y).alpha() for x in range(0, dry.width(), 9) for y in range(0, dry.height(), 9)) == 0
    skin.whole.click()
    assert not skin.wet.isVisible()


def test_faults_are_pinned_and_their_mend_is_a_click(window, open_window):
    from dataclasses import replace

    from pennello.design.edits import with_stroke
    from pennello.lay.families.catalogue import family

    stroke = window.model.stroke
    tight = family("inverted-u").stroke(spread_mm=6, height_mm=6)
    window.model.edit("Tight", lambda plan, there: with_stroke(plan, replace(there, stroke=tight)))
    open_window.settled(window)
    assert {fault.code for fault in window.model.outcome.faults} >= {"tight_curve"}
    readout = window.station("bench").readout
    assert "tighter than the brush" in readout.causes.text()
    assert "one load" in readout.figures.text()
    chip = readout.chips.itemAt(0).widget()
    assert "inner corner" in chip.text()
    chip.click()
    assert way(window).nib.mode is NibMode.PIVOTING
    assert stroke.id == window.model.stroke.id
