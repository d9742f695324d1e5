"""For any hand, eye and ear: handles are sliders, all has a name, verdicts are said, contrasts reach WCAG 2.2."""

import json
import os
import subprocess
import sys

import pytest
from lantern_face import demo_plan
from PySide6.QtCore import QDate, QPoint, QPointF, Qt, QTime
from PySide6.QtGui import QAccessible
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLineEdit,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from pennello.session.settings import Settings, config_folder, load_settings
from pennello.ui.theme.style import light_of
from pennello.ui.theme.tokens import THEMES, theme
from pennello.ui.widgets import announcing
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.handle import Handle
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.wheel import DateField, TimeField

WORKED = {
    QAccessible.Role.PushButton,
    QAccessible.Role.CheckBox,
    QAccessible.Role.RadioButton,
    QAccessible.Role.ComboBox,
    QAccessible.Role.EditableText,
    QAccessible.Role.SpinBox,
    QAccessible.Role.Slider,
    QAccessible.Role.List,
    QAccessible.Role.Tree,
    QAccessible.Role.Table,
}


@pytest.fixture
def window(open_window):
    return open_window(demo_plan())


# --- contrast ---


def luminance(colour):
    """Relative luminance of "#rrggbb": WCAG 2.2, definition of relative luminance (W3C)."""
    parts = [int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5)]
    r, g, b = (one / 12.92 if one <= 0.04045 else ((one + 0.055) / 1.055) ** 2.4 for one in parts)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def ratio(one, other):
    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


def test_the_ratio_is_that_of_the_standard():
    """Worked values: black on white is 21 to 1; #767676 on white is 4.54 to 1 (known from W3C's examples)."""
    assert ratio("#000000", "#FFFFFF") == pytest.approx(21)
    assert ratio("#767676", "#FFFFFF") == pytest.approx(4.54, abs=0.01)


@pytest.mark.parametrize("name", list(THEMES))
def test_text_borders_and_what_is_off_can_be_seen(name):
    """WCAG 2.2: 1.4.3 asks 4.5 to 1 for text, 1.4.11 asks 3 to 1 for what shows where a control is."""
    inks = THEMES[name]
    for ground in (inks.table, inks.mat, inks.well):
        for text in (inks.ink, inks.ink_2, inks.accent, inks.holds, inks.close, inks.misses):
            assert ratio(text, ground) >= 4.5, (text, ground)
        for mark in (inks.edge, inks.faint):
            assert ratio(mark, ground) >= 3, (mark, ground)
    assert ratio(inks.on_accent, inks.accent) >= 4.5
    if "more" in name:
        assert all(ratio(inks.ink_2, ground) >= 12 for ground in (inks.table, inks.mat))


# --- handles ---


def test_handles_are_sliders_with_their_number(window):
    bench = window.station("bench")
    brush = next(one for one in bench.cake.findChildren(Handle) if one.work.name == "Corner from the left wall")
    seen = QAccessible.queryAccessibleInterface(brush)
    assert seen.role() is QAccessible.Role.Slider
    assert seen.text(QAccessible.Text.Name) == "Corner from the left wall"
    assert "mm from the left wall" in seen.text(QAccessible.Text.Description)
    assert brush.value() == round(100 * window.model.pickup.offset_mm)
    brush.setValue(250)  # as a screen reader does
    assert window.model.pickup.offset_mm == 2.5
    assert window.document.undo_label == "Slide the brush"
    window.undo()
    brush.refresh()
    assert brush.value() == round(100 * window.model.pickup.offset_mm)


def test_a_page_scrolled_past_fields_and_choices_changes_none(qtbot, qapp):
    """By the system's own wheel, which first gives the focus to whatever takes it by the wheel."""
    page = QWidget()
    qtbot.addWidget(page)
    column, line = QVBoxLayout(page), QLineEdit()
    number, box, day, time = NumberField(Quantity("Width", 0, 10, 1, 0)), choice("Paint"), DateField(), TimeField()
    fill(box, [(letter, letter) for letter in "abc"], "b")
    for part in (line, number, box, day, time):
        column.addWidget(part)
    number.show_amount(5)
    day.setDate(QDate(2026, 11, 30))
    time.setTime(QTime(19, 30))
    page.show()
    line.setFocus()

    def turn(part):
        at = QPointF(part.mapTo(page, part.rect().center()))
        QTest.wheelEvent(page.windowHandle(), at, QPoint(0, 120))
        qapp.processEvents()

    for part in (number, box, day, time):
        turn(part)
    assert (number.amount, box.currentData(), qapp.focusWidget()) == (5.0, "b", line)
    assert (day.date(), time.time()) == (QDate(2026, 11, 30), QTime(19, 30))
    number.setFocus()
    turn(number)
    box.setFocus()
    turn(box)
    assert (number.amount, box.currentData()) == (6.0, "a")


def test_a_wheel_over_a_handle_changes_nothing(window):
    bench = window.station("bench")
    before = window.document.committed
    for handle in bench.findChildren(Handle):
        handle.setFocus()
        QTest.keyClick(handle, Qt.Key.Key_PageUp)
    assert window.document.committed is before


@pytest.mark.parametrize("key", ["tray", "bench", "chart", "order", "day", "notebook"])
def test_everything_that_can_be_worked_with_has_a_name(window, key):
    window.go_to(key)
    nameless = []

    def walk(one, above):
        for at in range(one.childCount()):
            child = one.child(at)
            if child is None or not child.isValid() or child.state().invisible:
                continue
            name = child.text(QAccessible.Text.Name)
            if child.role() in WORKED and not name.strip():
                nameless.append(f"{above} > {child.role()}")
            walk(child, f"{above} > {name}")

    walk(QAccessible.queryAccessibleInterface(window), "window")
    assert not nameless


def test_a_choice_of_one_is_told_as_one(window):
    window.go_to("tray")
    window.go_to("chart")
    for group in (window.bar.units, window.bar.themes):
        for button in group.buttons():
            assert QAccessible.queryAccessibleInterface(button).role() is QAccessible.Role.RadioButton
        assert sum(button.isChecked() for button in group.buttons()) == 1
    for button in window.station("chart").side.switches:
        assert QAccessible.queryAccessibleInterface(button).role() is QAccessible.Role.RadioButton


def test_beads_are_a_list_of_pieces(window):
    window.go_to("chart")
    chart = window.station("chart")
    seen = QAccessible.queryAccessibleInterface(chart.beads)
    assert seen.role() is QAccessible.Role.List
    told = [chart.beads.item(row).text() for row in range(chart.beads.count())]
    assert told[0] == f"1 of {len(told)}: {chart.model.motifs[0].name}"
    read = [seen.child(at).text(QAccessible.Text.Name) for at in range(seen.childCount())]
    assert [one for one in read if " of " in one] == told
    assert len(told) == len(chart.model.motifs)


@pytest.mark.parametrize("key", ["tray", "bench", "chart", "order", "day", "notebook"])
def test_what_is_clicked_is_large_enough(window, key):
    """WCAG 2.2, 2.5.8: 24 by 24 px at least."""
    window.resize(1280, 800)
    window.go_to(key)
    QApplication.processEvents()
    kinds = (QAbstractButton, QComboBox, QLineEdit, QSlider)
    small = [
        f"{type(one).__name__} {one.width()} x {one.height()}: {one.accessibleName() or one.toolTip()}"
        for one in window.findChildren(QWidget)
        if isinstance(one, kinds) and one.isVisibleTo(window) and not isinstance(one.parent(), QAbstractSpinBox)
        if min(one.width(), one.height()) < 24
    ]
    assert small == []


# --- saying ---


@pytest.fixture
def said(monkeypatch):
    words = []
    monkeypatch.setattr(announcing.QAccessible, "isActive", lambda: True)
    monkeypatch.setattr(announcing.QAccessible, "updateAccessibility", lambda event: words.append(event.message()))
    return words


def test_messages_verdicts_and_what_is_chosen_are_said(open_window, said, qtbot):
    window = open_window(demo_plan())
    open_window.settled(window)
    assert window.model.outcome.verdict.headline in said
    window.say("The tide comes in.")
    assert said[-1] == "The tide comes in."
    window.go_to("chart")
    chart = window.station("chart")
    chart.beads.setFocus()
    chart.model.choose(chart.model.motifs[0].id)
    assert said[-1] == f"1 of {len(chart.model.motifs)}: {chart.model.motifs[0].name}"
    window.go_to("order")
    order = window.station("order")
    qtbot.waitUntil(lambda: order.model.arranged is not None)
    order.line.setFocus()
    QTest.keyClick(order.line, Qt.Key.Key_Right)
    qtbot.waitUntil(lambda: said[-1].startswith("1 of "))
    assert ", from 0:" in said[-1]
    seen = QAccessible.queryAccessibleInterface(order.line)
    assert seen.role() is QAccessible.Role.List
    read = [seen.child(at).text(QAccessible.Text.Name) for at in range(seen.childCount())]
    assert said[-1] in read
    assert len([one for one in read if " of " in one]) == len(order.line.laid(order.model.arranged))


# --- light, contrast, size ---


def test_the_light_follows_the_desktop_until_one_is_chosen(window, monkeypatch):
    assert window.settings.follows_desktop
    assert theme().name == "linen"  # this desktop is not dark
    monkeypatch.setattr(type(QApplication.styleHints()), "colorScheme", lambda _: Qt.ColorScheme.Dark)
    window.clothes.desktop_changed()
    assert theme().name == "lamp"
    assert [one.text() for one in window.bar.themes.buttons() if one.isChecked()] == ["lamp"]
    window.bar.theme_chosen.emit("linen")
    window.clothes.desktop_changed()
    assert (theme().name, load_settings().theme) == ("linen", "linen")
    window.actions_by_id["follow_desktop"].trigger()
    assert (theme().name, load_settings().theme) == ("lamp", "")
    window.actions_by_id["turn_contrast"].trigger()
    assert theme().name == "lamp, more contrast"
    assert load_settings().more_contrast
    window.clothes.choose_theme("linen")
    assert light_of(QApplication.instance(), "lamp") == "lamp"


def test_a_light_is_put_on_what_is_shown_and_on_other_stations_as_they_are_shown(window, qtbot):
    window.go_to("tray")
    bench, tray = (window.station(key).widget for key in ("bench", "tray"))
    assert bench.styleSheet() == tray.styleSheet() == window.rail.styleSheet() != ""
    window.show_first_steps()
    page = window.first_steps
    assert page.styleSheet() == tray.styleSheet()
    window.bar.theme_chosen.emit("lamp")
    lamp = tray.styleSheet()
    assert lamp == page.styleSheet() == window.bar.styleSheet() == window.banner.styleSheet() != bench.styleSheet()
    window.go_to("bench")
    assert bench.styleSheet() == lamp
    page.reject()


def test_everything_is_as_large_as_was_chosen_from_the_next_start(window, monkeypatch, own_folders):
    monkeypatch.setattr("pennello.ui.clothes.ask_amount", lambda *_: 150.0)
    window.clothes.ask_size()
    assert load_settings().size_percent == 150
    where = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    where.pop("QT_SCALE_FACTOR", None)
    code = "from pennello.ui.app import make_application; print(make_application(['x']).devicePixelRatio())"
    ran = subprocess.run([sys.executable, "-c", code], env=where, capture_output=True, text=True, check=True)
    assert float(ran.stdout.split()[-1]) == 1.5


def test_words_are_as_large_as_was_chosen_from_the_next_start_and_pictures_stay(window, monkeypatch, own_folders):
    monkeypatch.setattr("pennello.ui.clothes.ask_amount", lambda *_: 190.0)
    window.actions_by_id["ask_text"].trigger()
    assert load_settings().text_percent == 200
    assert "21 points; pictures stay" in window.banner.words.text()
    code = (
        "from pennello.ui.app import make_application\n"
        "app = make_application(['x'])\n"
        "from pennello.ui.rail import StationButton\n"
        "from pennello.ui.widgets.handle import GRAB_PX\n"
        "print(app.font().pixelSize(), app.devicePixelRatio(), StationButton('chart', 'Chart').sizeHint().height())\n"
    )
    where = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    ran = subprocess.run([sys.executable, "-c", code], env=where, capture_output=True, text=True, check=True)
    assert ran.stdout.split()[-3:] == ["28", "1.0", "80"]


def test_the_top_bar_leaves_out_what_there_is_no_room_for(window, qtbot):
    place, lights = window.bar.place, window.bar.themes.buttons()
    least = window.bar.minimumSizeHint().width()
    for width, place_there, lights_there in (
        (least + 20, True, True),
        (least - 20, False, True),
        (least - 100, False, False),
        (least + 20, True, True),
    ):
        window.bar.resize(width, window.bar.height())
        assert place.isHidden() is not place_there
        assert [one.isHidden() is not lights_there for one in lights] == [True, True]
    light = window.clothes.light
    window.actions_by_id["turn_light"].trigger()
    assert window.clothes.light != light
    window.actions_by_id["turn_light"].trigger()
    assert window.clothes.light == light


def test_a_size_or_light_that_there_is_not_is_the_usual_one():
    config_folder().mkdir(parents=True)
    odd = {"size_percent": 999, "text_percent": "large", "theme": "neon", "tour": -4}
    (config_folder() / "settings.json").write_text(json.dumps(odd))
    assert load_settings() == Settings()


def stops(window):
    """Return what Tab comes to, one after another, from a station's own widget until it comes round."""
    found = []
    while (here := QApplication.focusWidget()) is not None and here not in found:
        found.append(here)
        QTest.keyClick(here, Qt.Key.Key_Tab)
        QApplication.processEvents()
    return found


@pytest.mark.parametrize("key", ["tray", "bench", "chart", "order", "day", "notebook"])
def test_tab_comes_to_all_that_can_be_worked_with(window, key, qtbot):
    """WCAG 2.2, 2.1.1 and 2.4.3. A choice of one is one stop; a number's inner field is the number's."""
    window.go_to(key)
    station = window.station(key).widget
    qtbot.waitUntil(station.isVisible)
    qtbot.wait(300)
    station.setFocus()
    found = stops(window)
    missed = [
        one
        for one in station.findChildren(QWidget)
        if one.isVisible() and one.isEnabled() and not one.visibleRegion().isEmpty()
        if one.focusPolicy() & Qt.FocusPolicy.TabFocus and one not in found
        if not isinstance(one.parentWidget(), QAbstractSpinBox | QComboBox)
        if not (isinstance(one, QAbstractButton) and (one.group() or one.autoExclusive()))
    ]
    assert [f"{type(one).__name__} {one.accessibleName()}" for one in missed] == []


def test_on_the_bench_tab_goes_as_the_work_does(window, qtbot):
    """Strokes, what is done with them, the load's cards, the cake with its grips, the skin, the read-out."""
    window.go_to("bench")
    bench = window.station("bench")
    qtbot.wait(200)
    bench.setFocus()
    found = stops(window)
    tags = [one for one in bench.strokes.tags if one in found]
    assert [one.isChecked() for one in tags] == [True], "the chosen stroke; arrows go on from there"
    way = [tags[0], bench.strokes.add, *bench.load.cards, bench.load.add, bench.cake.numbers.cake_choice]
    way += [*bench.cake.handles, *bench.skin.handles[-3:], *bench.readout.page_buttons.values()]
    places = [found.index(one) for one in way if one.isVisible()]
    assert places == sorted(places)
    QTest.keyClick(tags[0], Qt.Key.Key_Right)
    assert window.model.stroke.id == bench.strokes.tags[bench.strokes.tags.index(tags[0]) + 1].stroke_id
