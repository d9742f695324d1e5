"""The Day through the real window: the evening, the menu, the bag, the live board, the books."""

from __future__ import annotations

from dataclasses import replace
from threading import Event

import numpy as np
import pytest
from PySide6.QtCore import QDate, Qt, QTime
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QLabel

from pennello.day import board
from pennello.day.event import Break, GuestState, Price, cakes_taken, without_item
from pennello.design.pace import StepKind
from pennello.files.day_json import demo_event, read_day
from pennello.files.demo import demo_plan, shipped_design
from pennello.session.day import things_of
from pennello.session.jobs import Job
from pennello.session.log import open_log
from pennello.session.notebook import notebook_path
from pennello.store.notebook import Notebook, RunNote, StepNote
from pennello.ui.stations.day import station as station_module
from pennello.ui.stations.day import written
from pennello.ui.stations.day.bag_icons import ICON
from pennello.ui.stations.day.event_form import EventForm
from pennello.ui.stations.day.today import TodayPage
from pennello.ui.work import SEEN_MS


@pytest.fixture
def at_day(open_window, qtbot, monkeypatch):
    monkeypatch.setattr("pennello.ui.stations.day.model.DAYS", 24)
    monkeypatch.setattr("pennello.ui.stations.day.model.DayModel._draw", lambda _: None)

    def make(plan=None):
        window = open_window(plan or demo_plan(), at="day")
        return window, window.station("day")

    return make


def test_the_evening_is_shown_and_follows_the_event(at_day, qtbot):
    _, station = at_day()
    qtbot.waitUntil(lambda: station.model.evening is not None)
    qtbot.waitUntil(lambda: "are painted" in station.told.text())
    assert len(station.cards) == 12
    first = station.model.evening
    station.show_event()
    form = station.page
    form.people.show_amount(10)
    form.begins.setTime(QTime(14, 0))
    form.ends.setTime(QTime(17, 0))
    form.rests.setText("15:00-15:10")
    qtbot.mouseClick(form.take, Qt.MouseButton.LeftButton)
    assert (station.day.people, station.day.begins_min) == (10, 840)
    qtbot.waitUntil(lambda: station.model.evening is not first and station.model.evening is not None)
    assert "14:00 to 17:00" in station.title.text()
    station.history.undo()
    assert station.day.people == 60
    station.history.redo()
    assert station.day.people == 10


def test_a_form_that_nobody_changes_changes_nothing(window):
    """What it shows may be rounded, shared out between signs or over midnight."""
    event = replace(
        demo_event(),
        name="x" * 150,
        day="0001-01-01",
        begins_min=1320.5,
        ends_min=2760.0,
        breaks=(Break(1500.25, 1510.0),),
        curve=(1234567.5, 1.0),
        prices=(Price("a cake that no design takes", 0.0004), Price("one; two", 0.25)),
        extras=("horns; ribbons", "gems"),
        currency="crowns of the causeway",
        children=0.3333,
    )
    form = EventForm(event, window)
    assert form.wished == event
    form.people.show_amount(31)
    assert form.wished == replace(event, people=31)
    form.rests.setText(form.rests.text() + ", 23:00-23:10")
    assert [one.begins_min for one in form.wished.breaks] == [1500.0, 1380.0]
    form.ends.setTime(QTime(3, 0))
    assert form.wished.ends_min == 1620.0


def test_what_cannot_be_is_said_in_the_form(at_day, qtbot):
    _, station = at_day()
    station.show_event()
    form = station.page
    taken = cakes_taken(station.day)[0]
    for field, text, said in (
        (form.rests, "noon-one", "time of day"),
        (form.rests, "25:00-26:99", "time of day"),
        (form.curve, "3, many", "numbers between commas"),
        (form.curve, "3, nan", "'nan' is not understood; a curve is numbers between commas"),
        (form.curve, "1_9, 2", "numbers between commas"),
        (form.curve, "1e99, inf", "numbers between commas"),
        (form.curve, "3, -1", "curve"),
        (form.prices, f"{taken} dear", "'dear' is not understood"),
    ):
        before = field.text()
        field.setText(text)
        qtbot.mouseClick(form.take, Qt.MouseButton.LeftButton)
        assert said in form.words.text()
        assert form.isVisible()
        field.setText(before)
    form.reject()


def test_the_menu_is_ticked_weighed_and_added_to(at_day, qtbot):
    window, station = at_day(shipped_design("frost-reeds").plan())
    station.cards["moth-mask"].on.click()
    qtbot.waitUntil(lambda: not station.day.item("moth-mask").on)
    station.take_best()
    qtbot.waitUntil(lambda: len(station.day.on_menu) == 8)
    assert "faces an hour" in station.weighed.text()
    station.cards["heron-shoulder"].dropped.emit("heron-shoulder")
    qtbot.waitUntil(lambda: "heron-shoulder" not in station.cards)
    station.add_plan()
    qtbot.waitUntil(lambda: len(station.day.menu) == 12)
    assert station.day.menu[-1].title == window.document.committed.title
    for _ in range(3):
        station.history.undo()
    assert station.day.menu[-1].id == "frost-reeds"


def test_the_bag_is_ticked(at_day, qtbot):
    _, station = at_day()
    qtbot.waitUntil(lambda: station.model.evening is not None)
    item = next(
        station.bag.item(row) for row in range(station.bag.count()) if station.bag.item(row).text() == "mirror: 1"
    )
    item.setCheckState(Qt.CheckState.Checked)
    qtbot.waitUntil(lambda: station.day.packed == ("mirror",))
    assert "not packed yet" in station.bag_words.text()


def test_an_evening_of_thirty_people_on_the_live_board(at_day, qtbot):
    """By mouse and keys: each comes, is begun, done; every change is on disk at once."""
    _, station = at_day()
    station.show_today()
    page = station.page
    now = [0.0]
    page._clock = lambda: now[0]
    ids = [one.id for one in station.day.on_menu]
    for number in range(30):
        now[0] += 120.0
        page.name.setFocus()
        QTest.keyClicks(page.name, f"Guest {number}")
        page.item.setCurrentIndex(page.item.findData(ids[number % len(ids)]))
        page.consent.setChecked(True)
        if number % 2:
            QTest.keyClick(page.name, Qt.Key.Key_Return)
        else:
            qtbot.mouseClick(page.came, Qt.MouseButton.LeftButton)
        path = station.model.session.path
        assert path is not None, "nothing is lost: it is kept from the first guest on"
        assert len(read_day(path).guests) == number + 1
        qtbot.mouseClick(page.next, Qt.MouseButton.LeftButton)
        if number >= 1:
            now[0] += 60.0
            QTest.keyClick(page, Qt.Key.Key_D)
    assert sum(one.state is GuestState.DONE for one in station.day.guests) == 29
    assert "29 faces" in page.stand.text()
    assert page.now.count() == 1
    qtbot.mouseClick(page.back, Qt.MouseButton.LeftButton)
    assert page.line.count() == 1
    QTest.keyClick(page, Qt.Key.Key_G)
    assert page.line.count() == 0
    station.history.undo()
    assert page.line.count() == 1
    assert read_day(path) == station.day
    page.show_next()
    assert page.screen_page.names.text() == "Guest 29" or page.screen_page.names.text().startswith("Guest")
    page.screen_page.close()
    page.close()


def test_the_board_says_what_cannot_be(at_day, qtbot):
    _, station = at_day()
    station.model.session.take(replace(demo_event(), painters=1))
    station.show_today()
    page = station.page
    page._clock = lambda: 600.0
    page.name.setText("Ada")
    page.take_in()
    page.begin()
    assert "has not chosen" in page.words.text()
    page.item.setCurrentIndex(1)
    page.agree()
    assert station.day.guests[0].consent
    page.begin()
    assert page.now.count() == 1
    for name, item in (("Bo", "moth-mask"), ("Kim", "poppy-brow"), ("Lu", "moth-mask")):
        page.name.setText(name)
        page.item.setCurrentIndex(page.item.findData(item))
        page.consent.setChecked(True)
        page.take_in()
    page.begin()
    assert "chair is taken" in page.words.text()
    page.show_batch()
    names = [page.line.item(row).text()[:2] for row in range(3)]
    assert abs(names.index("Bo") - names.index("Lu")) == 1, "the same loads one after another"
    assert "saves" in page.words.text()
    page.close()


def test_a_board_of_three_hundred_is_rewritten_not_rebuilt(at_day, qtbot):
    _, station = at_day()
    event = demo_event()
    for number in range(300):
        event, _ = station_of_board(event, number)
    station.model.session.take(event)
    page = TodayPage(station.model, station, lambda: 900.0)
    qtbot.addWidget(page)
    page.line.setCurrentRow(200)
    item = page.line.item(200)
    page.refresh()
    assert page.line.item(200) is item
    assert page.line.currentRow() == 200
    page.close()


def station_of_board(event, number):
    return board.came(event, f"G{number}", "moth-mask", float(number), consent=True)


def test_the_event_that_was_open_last_is_there_again(at_day, open_window, qtbot):
    """Its first change gives it a file of its own; the next window goes on with it, and says where it cannot."""
    window, station = at_day()
    assert station.model.session.path is None
    station.model.edit("People", replace(station.day, people=17))
    path = station.model.session.path
    assert read_day(path).people == 17
    assert window.settings.event == str(path)
    again = open_window(demo_plan(), window.settings, at="day")
    assert again.station("day").day.people == 17
    path.write_text("{")
    third = open_window(demo_plan(), window.settings, at="day")
    assert third.station("day").day == demo_event()


def test_who_is_at_the_chair_may_lose_the_design(at_day, qtbot):
    _, station = at_day()
    event, guest = station_of_board(demo_event(), 0)
    station.model.session.take(board.begun(event, guest.id, 10.0))
    page = TodayPage(station.model, station, lambda: 60.0)
    qtbot.addWidget(page)
    station.model.edit("Take off", without_item(station.day, "moth-mask"))
    page.refresh()
    assert "taken off the menu" in page.now.item(0).text()
    page.close()


def test_after_the_day(at_day, qtbot, tmp_path, monkeypatch):
    _, station = at_day()
    event = demo_event()
    for number in range(3):
        event, guest = station_of_board(event, number)
        event = station_module_end(event, guest.id)
    station.model.session.take(event)
    station.show_report()
    texts = [label.text() for label in station.page.findChildren(QLabel)]
    assert any("3 painted" in text for text in texts)
    assert any(text.startswith("Next time:") for text in texts)
    station.page.close()
    station.keep_report()
    with open_log() as log:
        assert log.pages()[0].title == event.name
    station.book()
    assert station.day.booked
    said = []
    station.said.connect(said.append)
    station.book()
    assert "booked already" in said[-1]
    for act, name in (
        (station.written.ask_table, "d.csv"),
        (station.written.ask_hygiene, "h.pdf"),
        (station.written.ask_quote, "q.pdf"),
    ):
        target = tmp_path / name
        monkeypatch.setattr(written, "ask_target", lambda *_, target=target: target)
        act()
        qtbot.waitUntil(target.exists)
        qtbot.waitUntil(lambda: not station._exporter.busy)
    station.show_what_if()
    qtbot.waitUntil(lambda: bool(station.page.found))
    assert "faces" in station.page.words.text()
    station.page.close()
    station.show_board()
    QTest.keyClick(station.page, Qt.Key.Key_Escape)
    assert station.page is None


def station_module_end(event, name):
    return board.ended(board.begun(event, name, 500.0), name, 800.0)


def test_events_are_kept_and_opened(at_day, qtbot, tmp_path, monkeypatch):
    window, station = at_day()
    target = tmp_path / "walk.pennello-day"
    monkeypatch.setattr(station_module, "ask_target", lambda *_: target)
    station.ask_keep()
    assert read_day(target) == station.day
    station.new_event()
    station.page.reject()
    assert station.day.menu == ()
    qtbot.waitUntil(lambda: station.model.evening is None)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(target), ""))
    station.ask_open()
    assert station.day == demo_event()
    window.go_to("bench")
    window.open_path(target)
    assert window.station("day").widget.isVisible(), "a file of an event leads to the Day"
    target.write_text("{}")
    said = []
    station.said.connect(said.append)
    station.ask_open()
    assert "no event" in said[-1]
    assert station.day == demo_event()


def test_all_events_stand_side_by_side_and_one_is_opened(at_day, qtbot, tmp_path):
    _, station = at_day()
    station.model.edit("Day", replace(station.day, day="2026-12-05"))
    first = station.model.session.path
    station.new_event()
    station.page.name.setText("Harbour fair")
    station.page.fixed.setChecked(True)
    station.page.day.setDate(QDate(2026, 11, 30))
    station.page.accept()
    assert station.day.name == "Harbour fair"
    station.show_events()
    page = station.page
    assert [page.table.item(row, 0).text() for row in range(page.table.rowCount())] == [
        "Harbour fair",
        "Saltmarsh Lantern Walk",
    ]
    page.table.setFocus()
    QTest.keyClick(page.table, Qt.Key.Key_Down)
    page.take()
    assert station.model.session.path == first
    assert station.day.name == "Saltmarsh Lantern Walk"
    first.write_text("{")
    station.show_events()
    assert station.page.table.rowCount() == 1
    assert any("walk" in label.text() for label in station.page.findChildren(QLabel))


def test_a_menu_of_another_pace_is_worked_out_again(at_day, qtbot):
    window, station = at_day()
    station.model.edit("Two", replace(station.day, menu=station.day.menu[:2]))
    qtbot.wait(50)
    assert not station.again.isVisible()
    steps = tuple(StepNote(str(n), StepKind.LOAD, "Load", 12.0, 24.0, planned_s=12.0) for n in range(4))
    with Notebook(notebook_path()) as notes:
        notes.add(RunNote("Walk", "face", "2026-11-28T18:00:00", "", 96.0, 48.0, finished=True, steps=steps))
    window.go_to("bench")
    window.go_to("day")
    qtbot.waitUntil(station.again.isVisible)
    before = station.day.menu
    qtbot.mouseClick(station.again, Qt.MouseButton.LeftButton)
    station.tick_item(before[0].id, False)
    qtbot.waitUntil(lambda: station.day.menu[0].pace == "load 2.00")
    assert all(one.whole_s > was.whole_s for one, was in zip(station.day.menu, before, strict=True))
    assert not station.day.menu[0].on, "what was ticked meanwhile stays so"
    assert not station.again.isVisible()


def test_the_bag_shows_pictures_of_its_things(at_day, qtbot):
    _, station = at_day()
    plan, item = shipped_design("poppy-brow").plan(), station.day.item("poppy-brow")
    station.model._pictured(item.id, np.zeros((4, 4, 3), np.uint8), things_of(plan))
    colours = {}
    for row in range(station.bag.count()):
        entry = station.bag.item(row)
        image = entry.icon().pixmap(ICON).toImage()
        pixels = {image.pixelColor(x, image.height() // 2).name() for x in range(4, image.width() - 4)}
        colours[entry.text().split(":")[0]] = pixels
    assert len(colours["Poppy Brow"]) > 3, "a cake by its stripes"
    assert plan.paint("peat-black").srgb in colours["Peat Black"], "a pan by its colour"
    assert len(colours["Flat 3/4 in"]) > 3
    assert colours["mirror"] == {"#000000"}, "nothing is drawn for what has no picture"


def test_what_was_worked_out_for_another_event_is_for_nobody(at_day, qtbot):
    """Pictures are those of the event that is open, though designs of another one have the same names."""
    _, station = at_day()
    name = station.day.menu[0].id
    late, plan = station.model._here(station.model._pictured), demo_plan()
    late(name, np.zeros((4, 4, 3), np.uint8), things_of(plan))
    assert name in station.model.pictures
    gate = Event()
    painted = Job(lambda _: gate.wait(5))
    station.model._drawn.start("pictures of this event", painted)
    station.model.session.take(replace(station.day, name="Another"))
    assert station.model.pictures == {}
    gate.set()
    assert painted.cancelled, "nobody waits for them any more"
    late(name, np.zeros((4, 4, 3), np.uint8), things_of(plan))
    assert station.model.pictures == {}


def test_prices_and_what_else_to_pack_are_written_in_the_form(at_day, qtbot):
    _, station = at_day()
    station.show_event()
    form = station.page
    cake = station.day.menu[0].uses[0].name
    form.prices.setText("moon dust 2")
    qtbot.mouseClick(form.take, Qt.MouseButton.LeftButton)
    assert "one that the menu takes" in form.words.text()
    form.prices.setText(f"{cake} 0,90")
    form.extras.setText("horns; ribbons")
    qtbot.mouseClick(form.take, Qt.MouseButton.LeftButton)
    assert station.day.gram_costs(cake) == 0.9
    assert station.bag.findItems("horns: 1", Qt.MatchFlag.MatchExactly)


def test_a_guest_is_painted_with_the_cards_of_the_design(at_day, qtbot):
    """One click on the board: the design is open, and what has to be asked before its run is asked."""
    window, station = at_day()
    station.show_today()
    page = station.page
    page._clock = lambda: 60.0
    page.name.setText("Ada")
    page.item.setCurrentIndex(page.item.findData("frost-reeds"))
    page.consent.setChecked(True)
    page.take_in()
    qtbot.mouseClick(page.cards, Qt.MouseButton.LeftButton)
    assert station.day.guests[0].state is GuestState.PAINTING
    assert window.document.committed.title == "Frost on the reeds"
    order = window.station("order")
    qtbot.waitUntil(lambda: order.controller.page is not None)
    assert order.controller.page.isVisible()
    order.controller.page.close()
    window.go_to("day")
    assert [one.name for one in station.day.guests] == ["Ada"]
    said = []
    station.said.connect(said.append)
    event = station.day
    station.model.edit("Lose", replace(event, menu=(replace(event.menu[0], plan="/not/there"), *event.menu[1:])))
    station.run_cards(event.menu[0].id, short=False)
    assert "not there any more" in said[-1]


def test_workers_begin_once_the_station_was_seen(window, qtbot):
    window.go_to("day")
    model = window.station("day").model
    assert model._of is None, "it is drawn first"
    window.go_to("tray")
    qtbot.wait(2 * SEEN_MS)
    assert model._of is None, "nobody looked"
    window.go_to("day")
    qtbot.waitUntil(lambda: model.evening is not None)
