"""The Bench driven as a painter drives it: by hand and by keys."""

import threading
import time
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QAccessible
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QComboBox, QLineEdit

from pennello.design.plan import Plan
from pennello.files.plan_json import read_plan
from pennello.lay.stroke import NibMode
from pennello.session.settings import Settings
from pennello.ui import bench_model
from pennello.ui.theme.tokens import THEMES
from pennello.ui.widgets.handle import GRAB_PX, Handle
from pennello.ui.widgets.type_box import TypeBox

KEYS = Qt.Key
MINIMAL = Path(__file__).parents[2] / "examples" / "minimal.pennello"


def pickup(window):
    return window.document.committed.stroke(window.model.stroke.id).recipe.pickups[-1]


def way(window):
    return window.document.committed.stroke(window.model.stroke.id).stroke


def handles(window):
    return [handle for handle in window.findChildren(Handle) if handle.isVisible()]


# --- dragging ---


def test_dragging_the_brush_along_the_cake_moves_everything(window, drag):
    before = window.model.outcome
    start = pickup(window).offset_mm
    drag(window.station("bench").cake.brush, 40, 0, release=False)
    shown = window.model.plan.stroke("dahlia-petal").recipe.pickups[0].offset_mm
    assert shown == pytest.approx(start + 40 / window.station("bench").cake._scale, abs=0.5)
    assert pickup(window).offset_mm == start
    assert window.model.outcome is not before
    assert window.model.outcome.seen.mean_de00 > before.seen.mean_de00
    assert window.station("bench").cake.numbers.offset.amount == pytest.approx(shown)
    QTest.mouseRelease(window.station("bench").cake.brush, Qt.MouseButton.LeftButton)
    assert pickup(window).offset_mm == shown
    assert window.document.undo_label == "Slide the brush"
    window.document.undo()
    assert pickup(window).offset_mm == start


def test_nothing_is_said_of_another_plan_while_another_station_is_shown(window, qtbot):
    window.go_to("chart")
    edge = window.station("bench").edge
    assert window.model.outcome is not None, "it is still of this plan"
    window.document.replace(read_plan(MINIMAL))
    edge.refresh()
    assert edge.words.text() == "" and window.model.outcome is None
    window.go_to("bench")
    qtbot.waitUntil(lambda: window.model.outcome is not None and edge.words.text() != "")


def test_escape_gives_the_old_value_back(window, drag):
    handle = window.station("bench").cake.brush
    drag(handle, 60, 0, release=False)
    QTest.keyClick(handle, KEYS.Key_Escape)
    assert window.model.plan == window.document.committed
    assert window.document.undo_label is None


def test_a_magnet_holds_whole_millimetres(window, drag):
    scale = window.station("bench").cake._scale
    drag(window.station("bench").cake.brush, round((4.0 - pickup(window).offset_mm) * scale), 0)
    assert pickup(window).offset_mm == 4.0


def test_dragging_a_boundary_of_the_cake(window, drag):
    cake = window.station("bench").cake
    before = window.model.cake.edges_mm
    drag(cake._bounds[1], 18, 0)
    after = window.model.cake.edges_mm
    assert after[2] == pytest.approx(before[2] + 18 / cake._scale, abs=0.4)
    assert after[1] == before[1]
    assert after[-1] == pytest.approx(before[-1])


def test_dragging_path_angle_pressure_and_skew(window, drag):
    skin = window.station("bench").skin
    x, y = way(window).path.points_mm[3]
    drag(skin._points[3], 30, -20)
    moved = way(window).path.points_mm[3]
    assert moved[0] > x + 2
    assert moved[1] < y - 1
    window.document.undo()
    drag(skin._angle, 40, 0)
    assert way(window).nib.angle_deg != 90
    window.document.undo()
    drag(skin._pressure, 0, -30)
    assert way(window).pressure > 0.55
    drag(window.station("bench").cake._turn, -40, 0)
    assert pickup(window).skew_deg == 14


def test_pivot_has_a_grip_at_each_end(window, drag):
    window.model.choose("plume-eye")
    skin = window.station("bench").skin
    assert skin._angle_end.isVisible()
    drag(skin._angle_end, 0, 30)
    assert way(window).nib.angle_end_deg != 20
    assert way(window).nib.angle_deg == 160


def test_flip_by_grip_button_and_key(window):
    for act in (
        lambda: QTest.keyClick(window.station("bench").cake._flip, KEYS.Key_Return),
        window.station("bench").cake.numbers.flip_button.click,
        lambda: QTest.mouseDClick(window.station("bench").cake._flip, Qt.MouseButton.LeftButton),
    ):
        before = pickup(window).flip
        act()
        assert pickup(window).flip is not before


# --- keys ---


@pytest.mark.parametrize(
    ("key", "held", "step"),
    [
        (KEYS.Key_Right, Qt.KeyboardModifier.NoModifier, 1.0),
        (KEYS.Key_Left, Qt.KeyboardModifier.NoModifier, -1.0),
        (KEYS.Key_Right, Qt.KeyboardModifier.ShiftModifier, 0.1),
        (KEYS.Key_Right, Qt.KeyboardModifier.ControlModifier, 5.0),
    ],
)
def test_arrows_step_the_brush(window, key, held, step):
    before = pickup(window).offset_mm
    QTest.keyClick(window.station("bench").cake.brush, key, held)
    assert pickup(window).offset_mm == pytest.approx(before + step)


def test_every_handle_steps_by_keys_and_comes_back_with_undo(window, demo):
    window.model.choose("plume-eye")
    count = 0
    for handle in handles(window):
        for key in (KEYS.Key_Right, KEYS.Key_Down):
            QTest.keyClick(handle, key)
            count += window.document.undo_label is not None
            while window.document.undo_label:
                window.document.undo()
    assert window.document.plan == demo
    assert count >= len(handles(window))


def test_tab_reaches_every_handle_and_field(window, qtbot):
    seen = set()
    window.station("bench").cake.brush.setFocus()
    for _ in range(120):
        focus = window.focusWidget()
        seen.add(focus)
        QTest.keyClick(focus, KEYS.Key_Tab)
    missing = [handle.accessibleName() for handle in handles(window) if handle not in seen]
    assert not missing


def test_typing_over_a_handle(window, qtbot):
    handle = window.station("bench").cake.brush
    QTest.keyClick(handle, KEYS.Key_Return)
    box = window.findChild(TypeBox)
    box.selectAll()
    QTest.keyClicks(box, "3.4")
    QTest.keyClick(box, KEYS.Key_Return)
    assert pickup(window).offset_mm == 3.4
    QTest.mouseDClick(window.station("bench").cake._bounds[0], Qt.MouseButton.LeftButton)
    box = [one for one in window.findChildren(TypeBox) if one.isVisible()][-1]
    QTest.keyClick(box, KEYS.Key_Escape)
    assert window.document.undo_label == "Slide the brush"


# --- fields ---


def test_fields_say_and_set_the_same_numbers(window):
    cake, skin = window.station("bench").cake, window.station("bench").skin
    cases = [
        (cake.numbers.offset, 5.5, lambda: pickup(window).offset_mm),
        (cake.numbers.skew, 10, lambda: pickup(window).skew_deg),
        (cake.numbers.sweeps, 20, lambda: pickup(window).passes),
        (cake.numbers.drift, 1.5, lambda: pickup(window).drift_mm),
        (skin.angle, 75, lambda: way(window).nib.angle_deg),
        (skin.pressure, 80, lambda: way(window).pressure * 100),
        (skin.wiggles, 3, lambda: way(window).wiggle.count),
        (skin.wiggle_width, 2.5, lambda: way(window).wiggle.width_mm),
        (skin.across, 4.0, lambda: way(window).path.points_mm[0][0]),
    ]
    for field, value, stored in cases:
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, str(value))
        QTest.keyClick(field, KEYS.Key_Return)
        assert stored() == pytest.approx(value)
        assert field.amount == pytest.approx(value)
        assert not field.quantity.name or field.accessibleName()


def test_inches_show_the_same_lengths(window):
    window.bar.units.buttons()[1].click()
    offset = window.station("bench").cake.numbers.offset
    assert offset.text().endswith(" in")
    assert offset.value() == pytest.approx(2.1 / 25.4, abs=0.0006)
    assert pickup(window).offset_mm == 2.1  # showing changes nothing
    offset.setValue(0.25)
    assert pickup(window).offset_mm == pytest.approx(6.35)
    assert "in" in window.station("bench").skin.note.text()


def test_choices_change_the_plan(window, open_window):
    cake, skin = window.station("bench").cake, window.station("bench").skin
    for box, text, stored, expected in (
        (cake.numbers.cake_choice, "Kelp Swoosh", lambda: pickup(window).cake, "kelp-swoosh"),
        (cake.numbers.brush_choice, "Flat 1 in", lambda: window.model.brush.id, "flat-1"),
        (cake.numbers.wet_choice, "wet", lambda: pickup(window).wetness.value, "wet"),
        (skin.mode_choice, "turns on a corner", lambda: way(window).nib.mode, NibMode.PIVOTING),
        (skin.rim_choice, "corner B", lambda: window.model.stroke.rim.value, "B"),
    ):
        box.setCurrentIndex(box.findText(text))
        box.activated.emit(box.currentIndex())
        assert stored() == expected
    open_window.settled(window)
    assert {cause.code for cause in window.model.outcome.verdict.causes} >= {"missing_colour"}


def test_skin_title_and_place(window):
    skin = window.bar.skin
    skin.setCurrentIndex(2)
    skin.activated.emit(2)
    assert window.document.plan.skin == skin.itemData(2)
    window.bar.title.setText("Other evening")
    window.bar.title.editingFinished.emit()
    assert window.document.plan.title == "Other evening"
    assert "Other evening" in window.windowTitle()


# --- verdict, mends, wish ---


def test_a_mend_is_tried_by_hovering_and_applied_by_a_click(window, open_window, qtbot):
    window.model.choose("beetle-scale")
    open_window.settled(window)
    readout = window.station("bench").readout
    assert "wrong way round" in readout.headline.text()
    assert readout.mark.word == "misses"
    chip = readout.chips.itemAt(0).widget()
    assert "Flip the brush" in chip.text()
    chip.tried.emit(True)
    assert window.model.plan.stroke("beetle-scale").recipe.pickups[0].flip is False
    assert pickup(window).flip is True
    chip.tried.emit(False)
    assert window.model.plan == window.document.committed
    qtbot.waitUntil(lambda: window.model.outcome.verdict is not None)
    readout.chips.itemAt(0).widget().click()
    assert pickup(window).flip is False
    qtbot.waitUntil(lambda: "Holds" in readout.headline.text())
    window.document.undo()
    assert pickup(window).flip is True


def test_shining_paints_say_what_is_not_predicted(window, open_window):
    window.model.choose("plume-eye")
    QTest.keyClick(window.station("bench").cake.brush, KEYS.Key_Left, Qt.KeyboardModifier.ControlModifier)
    open_window.settled(window)
    assert "Reed Gold is metallic: only the diffuse part" in window.station("bench").readout.causes.text()


def test_the_wish_is_dragged_turned_and_taken_from_the_load(window, drag):
    readout = window.station("bench").readout
    before = window.model.stroke.wanted
    drag(readout._bounds[0], 30, 0)
    assert window.model.stroke.wanted.stops[0].to_u > before.stops[0].to_u
    QTest.keyClick(readout._bounds[0], KEYS.Key_Up)
    assert window.model.stroke.wanted.stops[0].blend_mm == pytest.approx(before.stops[0].blend_mm + 0.5)
    readout.page_buttons["wish"].click()
    wish = window.station("bench").page_of("wish")
    wish.named["Turn round"].click()
    assert window.model.stroke.wanted.stops[0].paint == before.stops[-1].paint
    wish.named["This load"].click()
    assert window.model.outcome.state.value == "holds"


def test_hovering_a_boundary_marks_it_on_all_mats(window):
    edge = window.station("bench").edge
    from pennello.load.edge import boundaries

    first = boundaries(window.model.outcome.laid.edge)[0]
    at = QPoint(round(edge._left + first.at_mm * edge._scale), 80)
    QTest.mouseMove(edge.surface, at)
    assert window.model.hovered == 0


# --- strokes ---


def test_strokes_are_chosen_added_copied_and_taken_away(window, open_window, qtbot):
    bar = window.station("bench").strokes
    qtbot.waitUntil(lambda: all(tag.state for tag in bar.tags))
    assert {tag.state for tag in bar.tags} == {"holds", "close", "misses"}
    bar.tags[3].click()
    assert window.model.stroke.id == "kelp-swoosh"
    bar.copy.click()
    assert window.model.stroke.id == "kelp-swoosh-2"
    bar.add.click()
    assert window.model.stroke.id == "petal"
    bar.remove.click()
    assert len(bar.tags) == 9
    for _ in range(10):
        window.document.undo()
    assert len(bar.tags) == 8


def test_an_empty_plan_shows_the_first_thing_to_do(open_window):
    window = open_window(Plan())
    assert window.station("bench").first.isVisible()
    window.station("bench").first.click()
    open_window.settled(window)
    assert not window.station("bench").first.isVisible()
    assert window.model.outcome.verdict.state.value == "holds"
    window.document.undo()
    assert window.station("bench").first.isVisible()


# --- looks ---


@pytest.mark.parametrize("theme", ["linen", "lamp"])
@pytest.mark.parametrize("size", [(1280, 800), (1024, 700), (2560, 1440)])
def test_nothing_is_clipped_or_nameless(open_window, demo, theme, size):
    window = open_window(demo, Settings(theme=theme))
    window.resize(*size)
    for button in window.bar.themes.buttons():
        if button.text() == theme:
            button.click()
    window.station("bench").refresh()
    for handle in handles(window):
        assert handle.accessibleName()
        assert min(handle.width(), handle.height()) >= GRAB_PX
        assert handle.parentWidget().rect().intersects(handle.geometry())
    for widget in (
        window.findChildren(QAbstractButton) + window.findChildren(QComboBox) + window.findChildren(QLineEdit)
    ):
        if widget.isVisible() and widget.objectName() != "qt_spinbox_lineedit":
            interface = QAccessible.queryAccessibleInterface(widget)
            assert interface.text(QAccessible.Text.Name), widget
    picture = window.grab().toImage()
    colours = {
        picture.pixelColor(x, y).name() for x in range(0, picture.width(), 7) for y in range(0, picture.height(), 7)
    }
    assert len(colours) > 100
    assert THEMES[theme].table.lower() in colours


def contrast(one, two):
    """WCAG 2.x contrast ratio of two hex colours."""

    def luminance(code):
        parts = np.array([int(code[i : i + 2], 16) for i in (1, 3, 5)]) / 255
        linear = np.where(parts <= 0.04045, parts / 12.92, ((parts + 0.055) / 1.055) ** 2.4)
        return float(linear @ [0.2126, 0.7152, 0.0722])

    high, low = sorted((luminance(one), luminance(two)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("theme", THEMES.values(), ids=THEMES)
def test_text_has_contrast_aa(theme):
    for ground in (theme.mat, theme.table, theme.well):
        for ink in (theme.ink, theme.ink_2, theme.holds, theme.close, theme.misses):
            assert contrast(ink, ground) >= 4.5
    assert contrast(theme.accent, theme.mat) >= 3
    assert contrast(theme.on_accent, theme.accent) >= 4.5
    # WCAG's own end points: black on white is 21
    assert contrast("#000000", "#ffffff") == pytest.approx(21)


def test_the_workers_are_left_to_the_station_that_is_shown(window, qtbot, monkeypatch):
    """What the Bench was at is broken off, and taken up again when it is shown."""
    asked, given_up = [], threading.Event()

    def endless(plan, stroke, unit, job):
        asked.append(stroke)
        try:
            while True:
                job.check()
                time.sleep(0.002)
        finally:
            given_up.set()

    real = bench_model.fine
    monkeypatch.setattr(bench_model, "fine", endless)
    window.model.choose(window.document.plan.strokes[1].id)
    qtbot.waitUntil(lambda: bool(asked))
    window.go_to("chart")
    qtbot.waitUntil(given_up.is_set)
    monkeypatch.setattr(bench_model, "fine", real)
    window.go_to("bench")
    qtbot.waitUntil(lambda: window.model.outcome.verdict is not None)
    assert window.model.outcome.stroke == asked[0]
    qtbot.waitUntil(lambda: set(window.model.states) == {one.id for one in window.document.plan.strokes})


def test_a_step_is_judged_sooner_than_what_a_hand_still_drags(window):
    model, settles = window.model, window.model._settle
    model.set_pickup("Slide the brush", offset_mm=pickup(window).offset_mm + 0.5)
    assert settles.isActive()
    assert settles.interval() == bench_model.STEP_SETTLES_MS
    model.preview_pickup(offset_mm=pickup(window).offset_mm + 0.5)
    assert settles.interval() == bench_model.SETTLE_MS > bench_model.STEP_SETTLES_MS
    model.cancel()
    assert settles.interval() == bench_model.STEP_SETTLES_MS
