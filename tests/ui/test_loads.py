"""Loads on the Bench, driven by hand and keys: cards, pans, parts, wetness, the workshop, tones."""

import pytest
from PySide6.QtCore import QPoint, QSize, Qt
from PySide6.QtGui import QIcon
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QPushButton

from pennello.design.load_kinds import LOAD_KINDS, kinds_for
from pennello.kit.applicator import GradientAxis
from pennello.load.recipe import Before, Face, Way, Wetness
from pennello.ui.stations.bench.ladder_page import LadderPage
from pennello.ui.stations.chart.loads_page import LoadShelf

KEYS = Qt.Key
KIND = {kind.key: kind for kind in LOAD_KINDS}


def recipe(window):
    return window.document.committed.stroke(window.model.stroke.id).recipe


def take(box, key):
    box.setCurrentIndex(next(at for at in range(box.count()) if box.itemData(at) == key))
    box.activated.emit(box.currentIndex())


def test_cards_are_added_chosen_moved_and_taken_out(window):
    strip = window.station("bench").load
    strip.list_kinds()
    assert strip.kinds.actions()[0].text() == "Straddle a window"
    strip.add_kind(KIND["third"])
    strip.add_kind(KIND["second"])
    assert len(strip.cards) == 3
    assert window.model.pickup_index == 2
    strip.cards[1].click()
    assert window.model.pickup is recipe(window).pickups[1]
    assert window.station("bench").cake.numbers.sweeps.amount == recipe(window).pickups[1].passes
    before = recipe(window).pickups
    QTest.keyClick(strip.cards[1], KEYS.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert recipe(window).pickups == (before[0], before[2], before[1])
    card = strip.cards[2]
    QTest.mousePress(card, Qt.MouseButton.LeftButton, pos=QPoint(20, 20))
    QTest.mouseMove(card, QPoint(-210, 20))
    QTest.mouseRelease(card, Qt.MouseButton.LeftButton, pos=QPoint(-210, 20))
    assert recipe(window).pickups == before
    QTest.keyClick(strip.cards[2], KEYS.Key_Delete)
    assert recipe(window).pickups == before[:2]
    strip.repeat()
    assert len(recipe(window).pickups) == 3
    while window.document.undo_label:
        window.document.undo()
    assert len(strip.cards) == 1


def test_rarer_numbers_of_a_pickup(window):
    strip = window.station("bench").load
    strip.add_kind(KIND["third"])
    take(strip.before, Before.WIPE)
    take(strip.way, Way.SIDE)
    for field, text in ((strip.part_from, "10"), (strip.part_to, "40")):
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, KEYS.Key_Return)
    last = recipe(window).pickups[-1]
    assert (last.before, last.way, last.part) == (Before.WIPE, Way.SIDE, (0.1, 0.4))


def test_the_part_of_the_edge_is_dragged_and_stepped(window, drag):
    cake = window.station("bench").cake
    start = cake._ends[1]
    drag(start, -60, 0)
    part = recipe(window).pickups[0].part
    assert part[0] == 0
    assert part[1] == pytest.approx(1 - 60 / (cake._scale * 19.05), abs=0.03)
    QTest.keyClick(cake._ends[0], KEYS.Key_Right)
    assert recipe(window).pickups[0].part[0] == pytest.approx(1 / 19.05, abs=1e-3)
    assert "of the edge" in cake._ends[0].toolTip()


def test_pans_are_mixed(window):
    numbers = window.station("bench").cake.numbers
    take(numbers.cake_choice, ("pan", "poppy-red"))
    assert recipe(window).pickups[0].pan[0].paint == "poppy-red"
    assert not window.station("bench").cake.brush.isVisible()
    numbers.pan.more.click()
    take(numbers.pan.rows[1][0], "foam-white")
    numbers.pan.rows[1][1].edited.emit(3.0)
    pan = recipe(window).pickups[0].pan
    assert [(p.paint, p.amount) for p in pan] == [("poppy-red", 1.0), ("foam-white", 3.0)]
    assert window.model.outcome.laid.edge.share[window.model.outcome.laid.edge.paints.index("foam-white")] == (
        pytest.approx(0.75)
    )
    numbers.pan.rows[0][2].click()
    assert [p.paint for p in recipe(window).pickups[0].pan] == ["foam-white"]
    take(numbers.cake_choice, ("cake", "kelp-swoosh"))
    assert window.station("bench").cake.brush.isVisible()


def test_wetness_shows_its_sign_and_its_mend(window):
    numbers = window.station("bench").cake.numbers
    assert not numbers.mend.isVisible()
    take(numbers.wet_choice, Wetness.TOO_WET)
    assert "drip" in numbers.sign.text()
    assert "blot" in numbers.sign.text()
    window.grab()
    numbers.mend.click()
    assert recipe(window).pickups[0].wetness is Wetness.CREAMY


def test_a_dip_turns_the_gradient_along_the_print(window, open_window):
    take(window.station("bench").cake.numbers.brush_choice, "petal-brush")
    window.station("bench").load.add_kind(KIND["tip"])
    open_window.settled(window)
    assert window.model.axis is GradientAxis.ALONG
    assert "From the tip" in window.station("bench").edge.words.text()
    assert "dip" in window.station("bench").load.cards[0].accessibleName()
    assert window.station("bench").cake.labels[window.station("bench").cake.numbers.sweeps].text() == "Dips"
    window.grab()


def test_a_sponge_has_faces_and_is_pressed(window):
    take(window.station("bench").cake.numbers.brush_choice, "sponge-block")
    assert recipe(window).pickups[0].way is Way.PRESS
    strip = window.station("bench").load
    strip.add_kind(KIND["faces"])
    assert recipe(window).pickups[1].face is Face.BACK
    assert strip.face.isVisibleTo(strip.rare)
    strip.lays.click()
    assert recipe(window).lays is Face.BACK
    assert "other face" in strip.cards[0].accessibleName()


def test_going_on_with_a_leftover(window):
    window.station("bench").strokes.copy.click()
    strip = window.station("bench").load
    take(strip.after, "dahlia-petal")
    QTest.keyClick(strip.cards[0], KEYS.Key_Delete)
    assert recipe(window).pickups == ()
    assert not strip.cards
    window.grab()  # the mat says so instead of a cake
    window.model.choose("dahlia-petal")
    window.station("bench").strokes.remove.click()
    assert "give it a load first" in window.banner.words.text()
    window.model.choose("dahlia-petal-2")
    strip.add_kind(KIND["window"])
    assert len(strip.cards) == 1


def test_every_kind_is_drawn_for_every_tool(window):
    for brush in ("flat-3-4", "filbert-1-2", "petal-brush", "liner-1", "sponge-half", "dauber-medium"):
        take(window.station("bench").cake.numbers.brush_choice, brush)
        for kind in kinds_for(window.model.brush):
            window.station("bench").load.add_kind(kind)
            assert window.model.outcome is not None
            assert not window.station("bench").grab().isNull()


def test_the_scatter_is_drawn_when_the_hand_rests(window):
    assert window.model.outcome.band is not None
    assert "8 of 10 loads of your hand" in window.station("bench").edge.words.text()
    before = window.station("bench").edge.surface.grab().toImage()
    QTest.keyClick(window.station("bench").cake.brush, KEYS.Key_Right)
    assert window.model.outcome.band is None
    window.document.undo()
    assert window.station("bench").edge.surface.grab().toImage() != before


# --- the workshop ---


def cake_of(window):
    return window.document.committed.cake("dahlia-wrist")


def test_a_cake_is_made_stripe_by_stripe(window):
    window.station("bench").cake.make.click()
    shop = window.station("bench").workshop
    assert shop.isVisible()
    row = shop.row
    assert [mark.accessibleName().split()[0] for mark in row.mixes] == ["Foam", "Thrift", "Mallow"]
    take(row.cards[0].paint, "cockle-cream")
    row.cards[1].width_mm.edited.emit(9.5)
    row.cards[1].inserted.emit()
    assert [stripe.paint for stripe in cake_of(window).stripes][:2] == ["cockle-cream", "thrift-pink"]
    assert len(cake_of(window).stripes) == 5
    row.moved.emit(2, -1)
    row.removed.emit(4)
    assert len(row.cards) == 4
    assert cake_of(window).width_mm == pytest.approx(5 + 9.5 + 8 + 8)
    shop.name.setText("Mine")
    shop.name.editingFinished.emit()
    shop.soft_mm.edited.emit(1.5)
    shop.ombre.click()
    made = cake_of(window)
    assert (made.name, made.softness_mm, made.ombre) == ("Mine", 1.5, True)
    assert "g in all" in shop.hints.text()
    while window.document.undo_label:
        window.document.undo()
    assert len(row.cards) == 4
    row.cards[0].picture.dragged.emit(500)
    assert cake_of(window).stripes[-1].paint == "foam-white" or cake_of(window).stripes[2].paint == "foam-white"


def test_the_name_of_a_cake_follows_while_its_field_has_the_focus(window, qtbot):
    """Undo in the bar takes no focus: the name that the field still showed was a new edit once it was left."""
    window.station("bench").cake.make.click()
    shop, before = window.station("bench").workshop, cake_of(window).name
    shop.name.setFocus()
    qtbot.waitUntil(shop.name.hasFocus)
    shop.name.selectAll()
    QTest.keyClicks(shop.name, "Mine")
    QTest.keyClick(shop.name, KEYS.Key_Return)
    assert cake_of(window).name == "Mine"
    window.undo()
    assert shop.name.text() == before
    shop.row.setFocus()
    shop.name.clearFocus()
    assert cake_of(window).name == before
    assert window.document.redo_label == "Rename the cake"
    shop.name.selectAll()
    QTest.keyClick(shop.name, KEYS.Key_Delete)
    shop.name.editingFinished.emit()
    assert (cake_of(window).name, shop.name.text()) == (before, before), "a cake has a name"


def buttons(shop):
    from PySide6.QtWidgets import QPushButton

    return {button.text(): button for button in shop.findChildren(QPushButton)}


def test_wear_is_counted_cleaned_and_refilled(window):
    window.station("bench").cake.make.click()
    shop = window.station("bench").workshop
    named = buttons(shop)
    for _ in range(3):
        named["Count a load"].click()
    assert max(stripe.hollow_mm for stripe in cake_of(window).stripes) > 0
    assert "hollow" in shop.row.cards[0].words.text()
    assert "faces" in shop.row.cards[0].words.text()
    named["Clean top"].click()
    assert not any(stripe.dirt for stripe in cake_of(window).stripes)
    named["Refill"].click()
    assert not any(stripe.hollow_mm for stripe in cake_of(window).stripes)
    named["Done"].click()
    assert window.station("bench").readout.isVisible()


def test_label_and_tones_from_the_workshop(window, monkeypatch, tmp_path, qtbot):
    window.station("bench").cake.make.click()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "label"), ""))
    named = buttons(window.station("bench").workshop)
    named["Label"].click()
    qtbot.waitUntil(lambda: not window.exporter.busy)
    assert (tmp_path / "label.pdf").stat().st_size > 1000
    named["Tones"].click()
    page = window.findChild(LadderPage)
    assert "no narrower" in page.words.text() or "steps of" in page.words.text()
    page.count.edited.emit(3)
    page.count.show_amount(3)
    page.work_out()
    page.grab()
    if page.make.isEnabled():
        page.make.click()
        assert len(window.document.committed.strokes) == 10
    page.close()


def test_keep_puts_the_cake_into_the_kit(window):
    window.station("bench").cake.make.click()
    window.station("bench").workshop.row.cards[0].width_mm.edited.emit(11.0)
    buttons(window.station("bench").workshop)["Keep"].click()
    kit = window.station("tray").model.session.kit
    assert next(item for item in kit if item.id == "dahlia-wrist").thing.stripes[0].width_mm == 11.0
    assert "in the kit" in window.banner.words.text()


def test_paint_keeps_its_colours_where_it_is_chosen(window, qtbot):
    """A style lays the colour of the selection over icons; paint is judged by eye."""
    window.go_to("chart")
    (page,) = window.findChildren(LoadShelf)
    listed = page.list
    next(one for one in window.findChildren(QPushButton) if one.text() == "Loads").click()
    qtbot.waitUntil(lambda: listed.count() > 0)
    icon, size = listed.item(0).icon(), listed.iconSize()
    plain = icon.pixmap(size, QIcon.Mode.Normal).toImage()
    assert plain == icon.pixmap(size, QIcon.Mode.Selected).toImage()
    assert plain != icon.pixmap(size, QIcon.Mode.Disabled).toImage(), "what cannot be chosen is dimmed"
    skin = window.bar.skin
    one = skin.itemIcon(skin.currentIndex())
    assert one.pixmap(16, 16).toImage() == one.pixmap(QSize(16, 16), QIcon.Mode.Selected).toImage()
