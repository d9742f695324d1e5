"""The Chart in the light of the place: seen at once, kept in the plan, undone; nothing else changes."""

from dataclasses import replace

import numpy as np
import pytest

from pennello.colour.lights import Light
from pennello.design.on_chart import chart_of
from pennello.design.plan import Skin, skin_bytes
from pennello.errors import FileProblemError
from pennello.files.demo import demo_plan
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.session.chart_scene import ChartScene, chart_picture, lit


@pytest.fixture
def station(open_window, qtbot):
    window = open_window(demo_plan(), at="chart")
    station = window.station("chart")
    station.model.show_chart("hand")
    qtbot.waitUntil(lambda: not station.model.busy and station.model.painted is not None)
    return station


def choose(station, qtbot, light):
    before = station.model.painted
    station.head.light.setCurrentIndex(station.head.light.findData(light))
    station.head.light.activated.emit(station.head.light.currentIndex())
    qtbot.waitUntil(lambda: station.model.painted is not before and not station.model.busy)
    return station.model.painted


def test_the_chart_is_seen_in_the_light_that_is_chosen(station, qtbot):
    document, day = station.model.document, station.model.painted
    laid = station.model._scene._scene[1].laid
    lantern = choose(station, qtbot, Light.LANTERN)
    assert document.committed.light is Light.LANTERN
    assert station.model._scene._scene[1].laid == laid, "nothing is laid anew"
    assert (lantern.rgba[..., 3] == day.rgba[..., 3]).all()
    there = lantern.rgba[..., 3] > 200
    red, _, blue = (lantern.rgba[there][:, :3].astype(int) - day.rgba[there][:, :3]).mean(axis=0)
    assert red > blue + 8, "warmer"
    assert station.board.skin.getRgb()[:3] == skin_bytes(Skin(36.0), Light.LANTERN)
    alone = ChartScene().paint(document.committed, "hand", light=Light.LANTERN, order=None)
    assert alone.canvas == lantern.canvas
    document.undo()
    assert document.committed.light.name == "DAYLIGHT"
    qtbot.waitUntil(lambda: station.model.painted.light is Light.DAYLIGHT and not station.model.busy)
    assert (station.model.painted.rgba == day.rgba).all()
    assert station.head.light.currentData() is Light.DAYLIGHT


def test_the_frame_is_the_same_in_any_light(station, qtbot):
    corner = station.board.grab().toImage().pixelColor(3, 3)
    choose(station, qtbot, Light.LANTERN)
    qtbot.wait(50)
    assert station.board.grab().toImage().pixelColor(3, 3) == corner


def test_it_is_kept_in_the_plan_and_only_from_13_on():
    plan = demo_plan()
    dusk = replace(plan, light=Light.DUSK)
    data = plan_bytes(dusk)
    assert b'"light": "dusk"' in data
    assert parse_plan(data, "x") == dusk
    with pytest.raises(FileProblemError, match="'light' came with schema 13"):
        parse_plan(data.replace(b'"schema": 13', b'"schema": 12'), "x")


def test_glitter_and_eyes_have_the_light_too():
    plan = demo_plan()
    chart, skin = chart_of(plan, "face"), skin_bytes(plan.skin, Light.LANTERN)
    day = chart_picture(chart, None, skin, 2.0)
    lantern = chart_picture(chart, None, skin, 2.0, light=Light.LANTERN)
    changed = np.abs(day.astype(int) - lantern).max(axis=2) > 0
    assert 0.0005 < changed.mean() < 0.05, "the eyes alone"
    mark = plan.overlays[0] if plan.overlays else None
    if mark is not None:
        assert lit(mark, Light.DAYLIGHT) is mark
        assert lit(mark, Light.LANTERN).srgb != mark.srgb
