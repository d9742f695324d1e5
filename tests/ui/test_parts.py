"""Parts and loads at the right of the Chart, the time's bar and the short form of the Order, through the window."""

from dataclasses import replace

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QInputDialog
from tests.ui.conftest import put_motif

from pennello.chart.catalogue import CHARTS
from pennello.design.ordering import Priority
from pennello.design.part import Habit
from pennello.design.part_edits import recoloured
from pennello.design.plan import Reload
from pennello.design.pulled import with_pulled
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.path.cubic import line
from pennello.ui.stations.chart.part_tree import name_of


@pytest.fixture
def station(window, qtbot):
    """The Chart with two motifs on the face, nothing in the hand."""
    window.go_to("chart")
    found = window.station("chart")
    qtbot.waitUntil(found.isVisible)
    for kind, place in (("petal-ring", (30.0, -70.0)), ("two-leaves", (-40.0, 40.0))):
        put_motif(found, kind)
        found.panel.put_on(place)
    found.model.choose("")
    return found


def plan_of(window):
    return window.document.committed


def items(page):
    return {name_of(one): one for one in page.tree.every}


def drop(page, name, onto, where):
    """Drop a part or piece on, above or below another one, as a hand does."""
    tree, at = page.tree, items(page)
    tree.setCurrentItem(at[name])
    rect = tree.visualItemRect(at[onto])
    y = {"on": rect.center().y(), "above": rect.top() + 1, "below": rect.bottom() - 1}[where]
    data = tree.mimeData([at[name]])
    point = QPointF(rect.center().x(), y)
    event = QDropEvent(point, Qt.DropAction.MoveAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
    kinds = tree.DropIndicatorPosition
    wanted = {"on": kinds.OnItem, "above": kinds.AboveItem, "below": kinds.BelowItem}[where]
    tree.dropIndicatorPosition = lambda: wanted
    tree.dropEvent(event)


def test_a_part_is_made_named_and_filled_by_dragging(window, station, monkeypatch):
    page = station.side.parts
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("The flower", True))
    page.new.click()
    assert [one.name for one in plan_of(window).parts] == ["The flower"]
    drop(page, "petal-ring", "the-flower", "on")
    drop(page, "two-leaves", "the-flower", "on")
    assert {one.part for one in plan_of(window).motifs} == {"the-flower"}
    drop(page, "two-leaves", "petal-ring", "above")
    assert [one.id for one in plan_of(window).motifs] == ["two-leaves", "petal-ring"]
    page.tree.setCurrentItem(items(page)["the-flower"])
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("Rose", True))
    page.ask_name()
    assert plan_of(window).parts[0].name == "Rose"
    window.undo()
    assert plan_of(window).parts[0].name == "The flower"
    page.move_to("two-leaves", "", "")
    assert [(one.id, one.part) for one in plan_of(window).motifs] == [("petal-ring", "the-flower"), ("two-leaves", "")]


def test_several_pieces_become_a_part_and_are_moved_together(window, station, qtbot, monkeypatch):
    page, ctrl = station.side.parts, Qt.KeyboardModifier.ControlModifier
    put_motif(station, "daisy")
    station.model.choose("")

    def click(name, held=ctrl):
        at = page.tree.visualItemRect(items(page)[name]).center()
        qtbot.mouseClick(page.tree.viewport(), Qt.MouseButton.LeftButton, held, at)

    assert page.new.text() == "New part ..."
    click("petal-ring")
    click("daisy")
    assert station.model.chosen is None, "they are selected, not taken in the hand"
    assert page.new.text() == "A part of these 2 ..."
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("The flower", True))
    page.new.click()
    assert [(one.id, one.part) for one in plan_of(window).motifs] == [
        ("petal-ring", "the-flower"),
        ("daisy", "the-flower"),
        ("two-leaves", ""),
    ]
    assert station.model.part == "the-flower", "what is drawn next belongs to it"
    page.tree.setCurrentItem(items(page)["the-flower"])
    click("two-leaves")
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("All", True))
    page.new.click()
    plan = plan_of(window)
    assert [one.within for one in plan.parts] == ["all", ""]
    assert [one.part for one in plan.motifs] == ["the-flower", "the-flower", "all"]
    page.tree.clearSelection()
    click("petal-ring")
    click("daisy")
    page.tree.dropped.emit(tuple(name_of(one) for one in page.tree.taken), "", "all")
    assert [(one.id, one.part) for one in plan_of(window).motifs] == [
        ("two-leaves", "all"),
        ("petal-ring", "all"),
        ("daisy", "all"),
    ]
    page.tree.clearSelection()
    page.move_to("daisy", "", "")
    click("petal-ring")
    click("daisy")
    qtbot.keyClick(page.tree, Qt.Key.Key_Up, ctrl)
    assert [(one.id, one.part) for one in plan_of(window).motifs] == [
        ("petal-ring", "all"),
        ("two-leaves", "all"),
        ("daisy", ""),
    ], "what is of another part stays there"
    window.undo()
    window.undo()
    page.tree.clearSelection()
    click("two-leaves")
    click("petal-ring")
    for _ in range(2):  # they stay selected
        qtbot.keyClick(page.tree, Qt.Key.Key_Down, ctrl)
        assert [one.id for one in plan_of(window).motifs] == ["daisy", "two-leaves", "petal-ring"]
    qtbot.keyClick(page.tree, Qt.Key.Key_Up, ctrl)
    assert [one.id for one in plan_of(window).motifs] == ["two-leaves", "petal-ring", "daisy"]
    click("two-leaves", Qt.KeyboardModifier.NoModifier)
    assert station.model.chosen_id == "two-leaves"


def test_ctrl_and_the_arrows_move_what_is_current_in_the_list_of_parts(window, station, qtbot):
    page = station.side.parts
    before = [one.id for one in plan_of(window).motifs]
    first = before[0]
    page.tree.setCurrentItem(items(page)[first])
    qtbot.keyClick(page.tree, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert [one.id for one in plan_of(window).motifs][:2] == [before[1], first]
    assert name_of(page.tree.currentItem()) == first, "so that it can be moved on"
    qtbot.keyClick(page.tree, Qt.Key.Key_Up, Qt.KeyboardModifier.ControlModifier)
    assert [one.id for one in plan_of(window).motifs] == before
    qtbot.keyClick(page.tree, Qt.Key.Key_Up, Qt.KeyboardModifier.ControlModifier)
    assert [one.id for one in plan_of(window).motifs] == before, "it is the first"


def test_what_is_said_of_a_part_is_kept_and_can_be_undone(window, station):
    page = station.side.parts
    station.model.choose("petal-ring")
    station.side.show_page(0)
    page.make("Ring")
    page.tree.setCurrentItem(items(page)["ring"])
    page.habit.activated.emit(page.habit.findData(Habit.ONE_GO))
    page.priority.activated.emit(page.priority.findData(Priority.NICE))
    page.worth.setValue(2.5)
    page.one_sided.click()
    page.short.click()
    part = plan_of(window).parts[0]
    assert (part.habit, part.one_sided, part.long_only) == (Habit.ONE_GO, True, True)
    assert plan_of(window).ordering.priority("ring") is Priority.NICE
    assert dict(plan_of(window).ordering.worth) == {"ring": 2.5}
    assert "in one go" in items(page)["ring"].text(0)
    for words, deed in page._deeds()[3:7]:
        assert words
        deed()
    assert len(plan_of(window).parts) == 2
    other = next(one.id for one in plan_of(window).strokes if one.id not in plan_of(window).motifs[0].load_of.values())
    load = plan_of(window).motifs[0].loads[0][1]
    page.tree.setCurrentItem(items(page)["ring"])
    page._edit("Recolour a part", lambda plan: recoloured(plan, "ring", {load: other}))
    assert other in plan_of(window).motifs[0].load_of.values()
    page.tree.setCurrentItem(items(page)["ring"])
    page._deeds()[-1][1]()
    assert [one.id for one in plan_of(window).parts] == ["ring-2"]
    while window.document.undo_label:
        window.undo()
    assert plan_of(window).parts == ()


def test_a_tick_leaves_a_piece_out_for_a_look(window, station, qtbot):
    page = station.side.parts
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted is not None)
    whole = station.model.painted.strokes
    items(page)["petal-ring"].setCheckState(0, Qt.CheckState.Unchecked)
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted.strokes < whole)
    assert len(plan_of(window).motifs) == 2, "only for a look"
    items(page)["petal-ring"].setCheckState(0, Qt.CheckState.Checked)
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted.strokes == whole)
    station.listed.click()
    qtbot.waitUntil(lambda: not station.model.busy)
    assert station.model.painted.strokes == whole


def test_ticks_follow_each_other_without_harm(window, station, qtbot):
    page = station.side.parts
    states = (Qt.CheckState.Unchecked, Qt.CheckState.Checked)
    for number in range(60):  # the list is built anew for each: never while its item is still being changed
        items(page)[("petal-ring", "two-leaves")[number % 2]].setCheckState(0, states[number // 2 % 2])
        qtbot.wait(1)
    assert station.model.hidden == frozenset()


def test_loads_stand_on_a_shelf_with_their_habit(window, station, qtbot):
    station.side.switches[1].click()
    page = station.side.loads
    assert page.list.count() == len(plan_of(window).strokes)
    assert not page.list.item(0).icon().isNull()
    name = plan_of(window).motifs[0].loads[0][1]
    page.list.setCurrentRow([one.id for one in plan_of(window).strokes].index(name))
    qtbot.waitUntil(lambda: "one load lasts for" in page.says.text())
    assert not page.gone.isEnabled()
    page.reload.habit.activated.emit(page.reload.habit.findData(Reload.COUNT))
    page.reload.after.setValue(3)
    load = plan_of(window).stroke(name)
    assert (load.reload, load.reload_after) == (Reload.COUNT, 3)
    page.more.click()
    assert len(plan_of(window).strokes) == page.list.count()
    copy = next(one for one in plan_of(window).strokes if one.id not in (name,) and one.id.startswith(name))
    page.list.setCurrentRow([one.id for one in plan_of(window).strokes].index(copy.id))
    assert page.gone.isEnabled()
    station.model.choose("petal-ring")
    station.side.show_page(1)
    page.lay.click()
    assert set(plan_of(window).motifs[0].load_of.values()) == {copy.id}
    assert not page.gone.isEnabled()
    window.undo()
    page.gone.click()
    assert copy.id not in [one.id for one in plan_of(window).strokes]


def test_the_short_form_takes_less_time_and_a_bar_says_where_it_goes(window, station, qtbot):
    page = station.side.parts
    page.make("Leaves")
    page.move_to("two-leaves", "", "leaves")
    window.document.edit(
        "Short", replace(plan_of(window), parts=tuple(replace(one, long_only=True) for one in plan_of(window).parts))
    )
    window.go_to("order")
    order = window.station("order")
    qtbot.waitUntil(lambda: order.model.arranged is not None and order.model.rests)
    whole = order.model.arranged.sums.total_s
    assert "painting" in order.panel.where.accessibleDescription()
    order.short.click()
    qtbot.waitUntil(lambda: order.model.rests and order.model.arranged.sums.total_s < whole)
    assert all(job.piece != "two-leaves" for job in order.model.arranged.jobs)


def test_a_part_has_a_picture_and_goes_to_any_chart(window, station, qtbot):
    page = station.side.parts
    page.make("Leaves")
    page.move_to("two-leaves", "", "leaves")
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted is not None)
    qtbot.waitUntil(lambda: not items(page)["leaves"].icon(0).isNull())
    picture = items(page)["leaves"].icon(0).pixmap(80, 60).toImage()
    greens = [
        colour
        for x in range(0, picture.width(), 2)
        for y in range(0, picture.height(), 2)
        if (colour := picture.pixelColor(x, y)).green() > colour.red() + 30
    ]
    assert len(greens) > 40, "leaves are green"
    page.tree.setCurrentItem(items(page)["leaves"])
    page.more.click()
    charts = next(action.menu() for action in page.deeds().actions() if action.text() == "Copy it to")
    assert len(charts.actions()) == len(CHARTS) - 1
    next(action for action in charts.actions() if action.text() == CHARTS["leg"][0]).trigger()
    assert [one.chart for one in plan_of(window).motifs] == ["face", "face", "leg"]


def test_numbers_of_the_short_form_are_shown_and_set(window, station, qtbot):
    station.model.choose("petal-ring")
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted is not None)
    whole = station.model.painted.strokes
    panel = station.side.hand
    usual = panel.fields["petals"].value()
    panel.short.click()
    panel.fields["petals"].setValue(usual - 2)
    panel.fields["petals"].editingFinished.emit()
    placed = next(one for one in plan_of(window).motifs if one.id == "petal-ring")
    assert dict(placed.short) == {"petals": usual - 2}
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted.strokes < whole)
    panel.short.click()
    assert panel.fields["petals"].value() == usual
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted.strokes == whole)
    window.undo()
    assert not next(one for one in plan_of(window).motifs if one.id == "petal-ring").short


def test_what_is_odd_is_told_on_every_page_and_leads_there(window, station, qtbot):
    station.model.choose("petal-ring")
    station.panel.put_on((36.0, -20.0))
    station.model.choose("")
    qtbot.waitUntil(lambda: not station.model.busy and bool(station.model.odd))
    assert station.side.odd.isVisible()
    row = next(row for row, one in enumerate(station.model.odd) if one.piece == "petal-ring")
    assert station.side.odd.item(row).text().startswith(f"{row + 1}  ")
    station.side.odd.itemClicked.emit(station.side.odd.item(row))
    assert station.model.chosen_id == "petal-ring"
    assert station.side.odd.isVisible()


def test_the_bench_says_when_a_load_is_made_anew(window):
    row = window.station("bench").load
    name = window.model.stroke.id
    row.reload.habit.activated.emit(row.reload.habit.findData(Reload.NEVER))
    assert plan_of(window).stroke(name).reload is Reload.NEVER
    assert not row.reload.after.isVisibleTo(row.reload)
    row.reload.habit.activated.emit(row.reload.habit.findData(Reload.COUNT))
    row.reload.after.setValue(4)
    assert plan_of(window).stroke(name).reload_after == 4
    window.undo()
    window.undo()
    assert plan_of(window).stroke(name).reload is Reload.PALE


def test_a_part_is_kept_for_other_plans(window, station):
    page = station.side.parts
    page.make("Leaves")
    page.move_to("two-leaves", "", "leaves")
    page.tree.setCurrentItem(items(page)["leaves"])
    next(deed for words, deed in page._deeds() if words.startswith("Keep it"))()
    assert list(station.row.own) == ["Leaves"]


def test_a_part_is_repeated_along_a_pulled_stroke(window, station, qtbot, monkeypatch):
    page = station.side.parts
    page.make("Ring")
    page.move_to("petal-ring", "", "ring")
    page.tree.setCurrentItem(items(page)["ring"])
    menu = next(one.menu() for one in page.deeds().actions() if one.text() == "The same again along")
    assert not menu.actions()[0].isEnabled(), "there is no line yet"
    stroke = Stroke(line((30.0, -70.0), (-30.0, -60.0)), Nib(NibMode.FOLLOWING, 90.0), 0.6)
    window.document.edit("Pull a stroke", with_pulled(plan_of(window), "dahlia-petal", stroke, "face")[0])
    guide = plan_of(window).motifs[-1]
    before = len(plan_of(window).motifs)
    amounts = iter((2.0, 0.9))
    monkeypatch.setattr("pennello.ui.stations.chart.parts_page.ask_amount", lambda *_: next(amounts))
    menu = next(one.menu() for one in page.deeds().actions() if one.text() == "The same again along")
    living, copies = menu.actions()[0].menu().actions()
    living.trigger()
    assert plan_of(window).motifs[-1].computed.along == guide.id
    window.undo()
    assert len(plan_of(window).motifs) == before
    page.tree.setCurrentItem(items(page)["ring"])
    copies.trigger()
    made = [one for one in plan_of(window).motifs if one.part.startswith("ring-")]
    assert len(made) == 2
    assert [one.place.mirrored for one in made] == [True, False]
    assert made[-1].place.scale == pytest.approx(0.81)
    window.undo()
    assert plan_of(window).motifs[-1] == guide
