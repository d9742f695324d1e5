"""Holds on the Bench, the catalogue of motifs, and strokes played, through the window."""

import time

import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from tests.ui.conftest import put_motif

from pennello.design.holds import FIVE, hold_of, numbers_of
from pennello.lay.families.hold import Hold
from pennello.motif.catalogue import MOTIFS
from pennello.ui import gallery
from pennello.ui.picture_list import ALL
from pennello.ui.stations.chart.catalogue_page import OWN
from pennello.ui.widgets import motion
from pennello.ui.widgets.play_view import PlayPage

KEYS = Qt.Key


@pytest.fixture
def few(monkeypatch):
    """Pictures of three motifs only: that all are laid is seen without the window."""
    kept = {key: MOTIFS[key] for key in ("rosebud", "whole-leaf", "dot-set")}
    monkeypatch.setattr("pennello.session.catalogue.MOTIFS", kept)
    return kept


@pytest.fixture
def chart(window, few, qtbot):
    window.go_to("chart")
    qtbot.waitUntil(window.station("chart").isVisible)
    return window.station("chart")


@pytest.fixture
def page(chart, qtbot):
    chart.show_catalogue()
    found = chart.catalogue
    qtbot.waitUntil(lambda: len(chart.gallery.pictures) == 3)
    yield found
    found.close()


@pytest.fixture
def moving(monkeypatch):
    """Things may move, whatever the desktop of this machine says."""
    monkeypatch.setattr("pennello.ui.widgets.play_view.less_motion", lambda: False)


def listed(page):
    return list(page.motifs.left)


# --- holds on the Bench ---


@pytest.fixture
def chooser(window):
    window.station("bench").skin.lead.click()
    return window.station("bench").hand.holds


def way(window):
    return window.document.committed.stroke(window.model.stroke.id).stroke


@pytest.mark.parametrize("hold", FIVE)
def test_a_hold_is_taken_by_its_picture_and_shows_its_numbers_only(window, chooser, qtbot, hold):
    before = way(window)
    QTest.mouseClick(chooser.buttons[hold], Qt.MouseButton.LeftButton)
    assert hold_of(way(window)) is hold
    assert [one for one, button in chooser.buttons.items() if button.isChecked()] == [hold]
    assert list(chooser.fields) == [one.key for one in numbers_of(way(window))]
    qtbot.waitUntil(lambda: all(field.isVisible() for field in chooser.fields.values()))
    if hold_of(before) is not hold:
        window.undo()
        assert way(window) == before


def test_a_number_of_a_hold_is_set_in_its_field(window, chooser):
    chooser.buttons[Hold.HEEL].click()
    chooser.fields["from"].setValue(-140)
    chooser.fields["waves"].setValue(6)
    assert way(window).nib.angle_deg == -140
    assert way(window).wiggle.count == 6
    while window.document.undo_label:
        window.undo()


def test_holds_are_shown_by_pictures_that_are_laid(chooser, qtbot):
    def colours(button):
        image = button.icon().pixmap(button.iconSize()).toImage()
        return {image.pixelColor(x, y).name() for x in range(image.width()) for y in range(0, image.height(), 2)}

    qtbot.waitUntil(lambda: all(len(colours(button)) > 20 for button in chooser.buttons.values()))


# --- the catalogue ---


def test_motifs_are_seen_as_they_are_laid(page):
    assert listed(page) == list(MOTIFS)
    assert page.motifs.list.item(list(MOTIFS).index("rosebud")).text().endswith("mm")
    image = page.motifs.icon("rosebud").pixmap(page.motifs.list.iconSize()).toImage()
    colours = {image.pixelColor(x, y).name() for x in range(0, image.width(), 4) for y in range(0, image.height(), 4)}
    assert len(colours) > 20, "a painted picture, no line drawing"


def test_motifs_are_searched_by_words_and_by_group(page):
    QTest.keyClicks(page.motifs.search, "rose open")
    assert listed(page) == ["rose-open", "rose-half"]
    assert page.name.text() == MOTIFS["rose-open"].name
    page.motifs.search.setText("midrib")
    assert "whole-leaf" in listed(page), "words of its parts count too"
    told = []
    page.motifs.chosen.connect(told.append)
    QTest.keyClicks(page.motifs.search, " zeppelin")
    assert told == [""], "each that is told is laid anew"
    assert listed(page) == []
    assert not page.put.isEnabled()
    assert "Nothing of that name" in page.name.text()
    page.motifs.search.clear()
    group = MOTIFS["lobed-butterfly"].group
    chip = next(one for one in page.motifs.groups.buttons() if one.text() == group)
    QTest.mouseClick(chip, Qt.MouseButton.LeftButton)
    assert listed(page) == [key for key, one in MOTIFS.items() if one.group == group]
    page.motifs.show_group(OWN)
    assert listed(page) == []
    page.motifs.show_group(ALL)
    assert len(listed(page)) == len(MOTIFS)


def test_a_motif_is_put_on_the_chart_with_its_loads_and_taken_back(page, window):
    before = window.document.committed
    page.motifs.search.setText("dot-set")
    put_motif(window.station("chart"), "dot-set", page.put.click)
    plan = window.document.committed
    assert [one.motif for one in plan.motifs] == ["dot-set"]
    assert all(plan.stroke(name) for _, name in plan.motifs[0].loads)
    window.undo()
    assert window.document.committed == before


def test_ones_own_is_in_the_catalogue(chart, qtbot, window):
    put_motif(chart, "whole-leaf")
    chart.keep_as("Eel grass")
    chart.show_catalogue()
    page = chart.catalogue
    page.motifs.show_group(OWN)
    assert [page._own[key].own.name for key in listed(page)] == ["Eel grass"]
    page.take()
    qtbot.waitUntil(lambda: len(window.document.committed.motifs) == 2)
    window.undo()
    before = window.document.committed
    assert page.plan_colours.isVisible()
    page.plan_colours.click()
    page.take()
    qtbot.waitUntil(lambda: len(window.document.committed.motifs) == 2)
    after = window.document.committed
    assert after.strokes == before.strokes, "with the plan's loads no other is brought"
    page.motifs.show_group(ALL)
    page.motifs.choose("rosebud")
    assert not page.plan_colours.isVisible()
    page.close()


def test_pictures_come_from_the_folder_the_second_time(chart, window, qtbot, monkeypatch):
    chart.gallery.show_plan(window.document.committed, 0)
    qtbot.waitUntil(lambda: len(chart.gallery.pictures) == 3)
    monkeypatch.setattr("pennello.session.catalogue.laid", lambda *_: pytest.fail("laid again"))
    again = gallery.Gallery("motifs", window.document.committed.skin, window)
    again.show_plan(window.document.committed, 0)
    qtbot.waitUntil(lambda: len(again.pictures) == 3)
    again.close_all()


# --- played ---


def test_space_plays_and_pauses_and_arrows_step(page, qtbot, moving):
    view = page.view
    page.motifs.search.setText("leaf halves")
    page.motifs.search.setText("whole-leaf")
    qtbot.waitUntil(lambda: view.playing is not None)
    assert view.at_s == view.playing.seconds, "finished first"
    QTest.keyClick(view, KEYS.Key_Space)
    assert view.moving
    qtbot.waitUntil(lambda: 0 < view.at_s < view.playing.seconds)
    QTest.keyClick(view, KEYS.Key_Space)
    assert not view.moving
    held = view.at_s
    qtbot.wait(120)
    assert view.at_s == held
    view.seek(0.0)
    for number, beat in enumerate(view.playing.beats):
        QTest.keyClick(view, KEYS.Key_Right)
        assert view.at_s == pytest.approx(beat.end_s)
        assert f"stroke {number + 1} of" in view.words.text()
    QTest.keyClick(view, KEYS.Key_Left)
    assert view.at_s == pytest.approx(view.playing.beats[-2].end_s)
    view.slower.click()
    assert "half as fast" in view.words.text()


def test_with_less_motion_it_goes_stroke_by_stroke(page, qtbot, window, monkeypatch):
    window.actions_by_id["turn_motion"].trigger()
    assert window.settings.less_motion
    assert motion.less_motion()
    view = page.view
    page.motifs.search.setText("whole-leaf")
    qtbot.waitUntil(lambda: view.playing is not None)
    view.toggle()
    seen = set()
    deadline = time.monotonic() + 60
    while view.moving and time.monotonic() < deadline:
        seen.add(round(view.at_s, 3))
        qtbot.wait(50)
    ends = {round(beat.end_s, 3) for beat in view.playing.beats} | {0.0, round(view.playing.seconds, 3)}
    assert seen <= ends, "nothing between two strokes is shown"
    window.actions_by_id["turn_motion"].trigger()
    assert not motion._Chosen.less


def test_a_chart_is_played_and_written(chart, qtbot, tmp_path, moving):
    said = []
    chart.said.connect(said.append)
    chart.play()
    assert "nothing on this chart to play" in said[-1]
    put_motif(chart, "dot-set")
    chart.play()
    page = chart.played
    assert isinstance(page, PlayPage)
    qtbot.waitUntil(lambda: page.view.playing is not None)
    page.view.pause()
    out = tmp_path / "chart.gif"
    page.write_file(out)
    qtbot.waitUntil(lambda: "Wrote" in page.said.text())
    with Image.open(out) as image:
        assert image.n_frames > 3
    page.close()
