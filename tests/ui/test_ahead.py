"""What is put together ahead: only while the window rests, and nothing of it is seen or heard."""

import threading
from dataclasses import replace
from functools import partial

import pytest
from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QDialog

from pennello.errors import PennelloError
from pennello.ui import ahead as module
from pennello.ui.ahead import Ahead, make_stations
from pennello.ui.stations.registry import FIRST, STATIONS


@pytest.fixture(autouse=True)
def soon(monkeypatch):
    monkeypatch.setattr(module, "LOOK_MS", 5)


class Clock:
    """A thread's clock that works as much between two looks as it is told."""

    def __init__(self):
        self.s, self.works_s = 0.0, 0.0

    def __call__(self):
        self.s += self.works_s
        return self.s


def test_bits_are_done_one_by_one_while_the_window_rests(qtbot, window):
    clock, done = Clock(), []
    clock.works_s = 1.0
    ahead = Ahead([partial(done.append, one) for one in (*range(3), "then")], window, clock)
    qtbot.wait(60)
    assert not done, "a window that works is left alone"
    clock.works_s = 0.0
    qtbot.waitUntil(lambda: ahead.over)
    assert done == [0, 1, 2, "then"]


def test_nothing_is_done_while_the_pointer_moves(qtbot, window):
    done, moves = [], iter(range(10**9))
    ahead = Ahead([partial(done.append, 1)], window, Clock(), lambda: QPoint(next(moves), 0))
    qtbot.wait(60)
    assert not done
    ahead._pointer = lambda: QPoint(7, 7)
    qtbot.waitUntil(lambda: ahead.over)
    assert done == [1]


def test_nothing_is_done_under_a_page_that_asks(qtbot, window):
    page, done = QDialog(window), []
    page.setModal(True)
    page.show()
    ahead = Ahead([lambda: done.append(1)], window, Clock())
    qtbot.wait(60)
    assert not done
    page.close()
    qtbot.waitUntil(lambda: ahead.over)
    assert done == [1]


def test_nothing_is_done_once_the_window_is_closed(qtbot, window):
    done = []
    ahead = Ahead([partial(done.append, one) for one in (1, "then")], window, Clock())
    window.hide()
    qtbot.waitUntil(lambda: ahead.over)
    assert not done


def test_what_fails_is_left_for_whoever_needs_it(qtbot, window):
    def fail():
        raise PennelloError("no kit")

    done = []
    ahead = Ahead([fail, lambda: done.append(1)], window, Clock())
    qtbot.waitUntil(lambda: ahead.over)
    assert done == [1]


def test_stations_are_there_before_they_are_wanted_and_work_at_nothing(qtbot, window, monkeypatch):
    monkeypatch.setattr(module, "RESTS_S", 60.0)
    fetched, go_on = threading.Event(), threading.Event()
    thread = threading.Thread(target=lambda: (fetched.set(), go_on.wait()))
    thread.start()
    ahead = make_stations(window, thread, lambda: None)
    qtbot.wait(60)
    made = window.stations.made
    assert set(made) == {FIRST}, "their code is not there yet"
    go_on.set()
    qtbot.waitUntil(lambda: ahead.over, timeout=60000)
    assert set(made) == {one.key for one in STATIONS}
    assert window.stations.currentWidget() is made[FIRST].widget
    window.document.edit("Rename", replace(window.document.committed, title="Another evening"))
    assert not made["chart"].model.busy
    assert not made["order"].model.open
    assert window._history is window.document
    window.go_to("chart")
    assert window.stations.currentWidget() is made["chart"].widget


def test_another_light_reaches_stations_that_are_not_shown_soon_after(qtbot, window):
    day = window.station("day").widget
    window.go_to("day")
    window.go_to(FIRST)
    before = day.styleSheet()
    for shown in (True, False):
        window.clothes.turn_light()
        assert (day.styleSheet() == before) == shown, "nobody waits for what is not shown"
        qtbot.waitUntil(lambda: day.styleSheet() == window.rail.styleSheet())
        assert (day.styleSheet() == before) != shown


def test_a_station_that_is_visited_at_once_has_the_other_light_and_keeps_it(qtbot, window, monkeypatch):
    day, bench = window.station("day").widget, window.station(FIRST).widget
    worn, dress = [], window.stations._dress
    monkeypatch.setattr(window.stations, "_dress", lambda part: (worn.append(day.styleSheet()), dress(part)))
    window.clothes.turn_light()
    window.go_to("day")
    qtbot.waitUntil(lambda: not bench.styleSheet())
    qtbot.waitUntil(lambda: window.stations._others.resting)
    assert {day.styleSheet(), bench.styleSheet(), *worn[1:]} == {window.rail.styleSheet()}
