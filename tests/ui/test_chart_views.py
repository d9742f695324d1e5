"""Close views of a chart: chosen, zoomed about the pointer, moved, remembered."""

import json

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from pennello.chart.catalogue import chart
from pennello.chart.measures import Measures
from pennello.session.chart_views import ChartLook, ChartViews
from pennello.session.settings import state_folder

EYE = "eye, wearer's left"


@pytest.fixture
def board(open_window, demo):
    window = open_window(demo, at="chart")
    return window.station("chart").board


def choose(station, view):
    station.head.near.setCurrentIndex(station.head.near.findData(view))
    station.head.near.activated.emit(station.head.near.currentIndex())


def test_a_close_view_fills_the_board_and_comes_back_the_next_day(open_window, demo, board):
    station = board.parent().parent()
    choose(station, EYE)
    pupil = board.view.to_px(*board.model.chart.landmark("pupil, wearer's left"))
    assert board.rect().adjusted(100, 100, -100, -100).contains(pupil.toPoint())
    near = board.view.scale
    station.model.show_chart("forearm")
    assert station.head.near.currentData() == ""
    station.model.show_chart("face")
    assert station.head.near.currentData() == EYE
    assert board.view.scale == pytest.approx(near)
    station.leave()
    assert json.loads((state_folder() / "chart-views.json").read_text())["face"][0] == EYE
    other = open_window(demo, at="chart")
    assert other.station("chart").head.near.currentData() == EYE


def test_zoom_keeps_what_lies_under_the_pointer(qtbot: QtBot, board):
    at = QPointF(board.width() * 0.3, board.height() * 0.7)
    place = board.view.to_mm(at)
    board.look(board.seen.zoomed(2.0, *board._from_middle(at)))
    assert board.view.to_mm(at) == pytest.approx(place)
    board.mirror = True
    place = board.view.to_mm(at)
    board.look(board.seen.zoomed(1.5, *board._from_middle(at)))
    assert board.view.to_mm(at) == pytest.approx(place)


def test_the_middle_button_and_keys_lead_what_is_seen(board):
    start = board.view.to_px(0, 0)
    middle = board.rect().center()
    QTest.mousePress(board, Qt.MouseButton.MiddleButton, pos=middle)
    for step in (10, 30):
        board._lead(QPointF(middle.x() + step, middle.y() - step))
    QTest.mouseRelease(board, Qt.MouseButton.MiddleButton, pos=middle)
    moved = board.view.to_px(0, 0) - start
    assert (moved.x(), moved.y()) == pytest.approx((30, -30))
    QTest.keyClick(board, Qt.Key.Key_Plus, Qt.KeyboardModifier.ControlModifier)
    assert board.seen.zoom == pytest.approx(1.15)
    QTest.keyClick(board, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert board.view.to_px(0, 0).x() < start.x() + 30
    QTest.keyClick(board, Qt.Key.Key_0, Qt.KeyboardModifier.ControlModifier)
    assert board.seen == ChartLook()
    assert board.view.to_px(0, 0) == start


@pytest.mark.parametrize(
    "text",
    ["", "[]", '{"face": 3}', '{"face": ["eye", 99, 0, 0]}', '{"face": [1, 1, 0, 0]}', '{"face": ["x", 1, "a", 0]}'],
)
def test_a_broken_memory_means_whole_charts(tmp_path, text):
    (tmp_path / "chart-views.json").write_text(text)
    assert ChartViews(lambda: tmp_path).of(chart("face", Measures())) == ChartLook()
