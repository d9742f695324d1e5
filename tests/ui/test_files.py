"""Files of the window: folders by kind, drops, what Ctrl+C gives, the plan that was open last."""

import os
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QMimeData, QPoint, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog

from pennello.design.own import own_of
from pennello.files.demo import demo_plan
from pennello.files.kit_csv import write_csv
from pennello.files.motif_file import write_own
from pennello.files.plan_json import read_plan, write_plan
from pennello.kit.shelf import KitItem
from pennello.session.recent_files import recent_list
from pennello.session.settings import Settings, load_settings
from pennello.ui.widgets.asking import ask_folder, ask_source, ask_target
from pennello.ui.widgets.folders import FOLDERS


def drop(window, *paths):
    data = QMimeData()
    data.setUrls([QUrl.fromEncoded(path.as_uri().encode()) for path in paths])
    left = Qt.MouseButton.LeftButton
    event = QDropEvent(QPoint(200, 200), Qt.DropAction.CopyAction, data, left, Qt.KeyboardModifier.NoModifier)
    window.dropEvent(event)
    return event


@pytest.fixture
def plan_file(tmp_path):
    path = tmp_path / "moth.pennello"
    write_plan(replace(demo_plan(), title="Moth"), path)
    return path


@pytest.fixture
def photo(tmp_path):
    Image.fromarray(np.full((60, 80, 3), 90, np.uint8)).save(tmp_path / "shot.jpg")
    return tmp_path / "shot.jpg"


# --- folders ---


def test_each_kind_of_file_has_its_folder_and_keeps_it(window, tmp_path, monkeypatch):
    asked = []
    places = {name: tmp_path / name for name in ("photos", "tables")}
    for place in places.values():
        place.mkdir()

    def choose(name):
        def answer(_, title, start, *rest):
            asked.append(Path(start))
            return str(name), ""

        return answer

    monkeypatch.setattr(QFileDialog, "getOpenFileName", choose(places["photos"] / "a.jpg"))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", choose(places["tables"] / "kit.csv"))
    ask_source(window, "A photo", "photos", "*.jpg")
    ask_target(window, "A table", Path.home() / "kit.csv", (".csv",))
    ask_source(window, "A photo", "photos", "*.jpg")
    ask_target(window, "A table", Path.home() / "kit.csv", (".csv",))
    assert asked == [Path.home(), Path.home() / "kit.csv", places["photos"], places["tables"] / "kit.csv"]
    assert dict(load_settings().folders) == {"photos": str(places["photos"]), "tables": str(places["tables"])}
    places["photos"].rmdir()
    assert FOLDERS.of("photos", Path("/")) == Path("/")  # it is not there any more


def test_what_is_left_alone_changes_nothing(window, monkeypatch):
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: ("", ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: "")
    assert ask_source(window, "A photo", "photos", "*.jpg") is None
    assert ask_folder(window, "A folder", "pictures") is None
    assert load_settings().folders == ()


# --- drops ---


def test_a_plan_that_is_dropped_is_opened_and_told_to_the_desktop(window, plan_file, qtbot):
    assert drop(window, plan_file).isAccepted()
    assert window.document.path == plan_file
    qtbot.waitUntil(recent_list().exists)
    assert plan_file.as_uri() in recent_list().read_text()


def test_a_plan_whose_name_is_no_utf_8_is_opened_kept_and_saved(window, plan_file):
    """A file from an older disk, its name in Latin-1."""
    old = Path(os.fsdecode(os.fsencode(plan_file.parent) + b"/caf\xe9.pennello"))
    plan_file.rename(old)
    drop(window, old)
    assert window.document.path == old
    window.document.edit("Title", replace(window.document.plan, title="Night moth"))
    window.files.autosave.keep()
    assert [one.name for one in old.parent.glob(".*.autosave")] == [
        f".{old.name}.{window.files.autosave.owner.token}.autosave"
    ]
    assert window.files.save()
    assert read_plan(old).title == "Night moth"
    assert window.recent.last == old


def test_what_a_station_takes_goes_there(window, tmp_path, qtbot):
    plan = demo_plan()
    write_own(own_of(plan, [plan.motifs[0].id], "Kelp"), tmp_path / "kelp.pennello-motif")
    before = len(window.document.committed.motifs)
    drop(window, tmp_path / "kelp.pennello-motif")
    qtbot.waitUntil(lambda: len(window.document.committed.motifs) > before)
    assert "Kelp is on the chart" in window.banner.words.text()
    assert window.rail.buttons["chart"].isChecked()


def test_a_table_is_shown_before_it_is_taken_into_the_kit(window, tmp_path, monkeypatch):
    write_csv([KitItem(demo_plan().paints[0])], tmp_path / "kit.csv")
    seen = []
    tray = window.station("tray")
    monkeypatch.setattr(type(tray), "take_in", lambda _, path: seen.append(path))
    drop(window, tmp_path / "kit.csv")
    assert seen == [tmp_path / "kit.csv"]


def test_a_photo_is_asked_about_where_several_could_take_it(window, photo, monkeypatch):
    window.go_to("order")
    drop(window, photo)
    assert "What is shot.jpg for?" in window.banner.words.text()
    words = [button.text() for button in window.banner.buttons]
    assert words == ["The colours that are wished for", "A photo for this chart", "A page with this photo", "Not now"]
    window.go_to("chart")
    drop(window, photo)  # the Chart is shown: it takes it
    page = window.station("chart").photo_page
    assert page.isVisible()
    page.reject()


def test_a_photo_begins_a_page_of_the_notebook(window, photo):
    window.go_to("notebook")
    drop(window, photo)
    form = window.station("notebook").page
    assert (form.photo, form.photo_words.text()) == (photo, "shot.jpg")
    form.reject()


def test_a_drawing_leads_the_stroke_on_the_bench(window, tmp_path):
    (tmp_path / "way.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L 33 0"/></svg>')
    window.go_to("bench")
    drop(window, tmp_path / "way.svg")
    assert window.model.stroke.stroke.path.points_mm[-1] == pytest.approx((33.0, 0.0))


def test_several_files_are_taken_one_at_a_time_and_others_not_at_all(window, plan_file, tmp_path):
    (tmp_path / "a.txt").write_text("")
    assert not drop(window, tmp_path / "a.txt").isAccepted()
    other = tmp_path / "other.pennello"
    other.write_bytes(plan_file.read_bytes())
    drop(window, plan_file, other)
    assert window.document.path == plan_file
    assert "drop the other 1 file one at a time" in window.banner.words.text()


def test_what_cannot_be_read_is_said(window, tmp_path):
    (tmp_path / "bad.pennello-motif").write_text("{}")
    drop(window, tmp_path / "bad.pennello-motif")
    assert "bad.pennello-motif" in window.banner.words.text()


# --- copying ---


@pytest.mark.parametrize(
    ("key", "kind", "words"),
    [
        ("bench", "picture", "stroke"),
        ("chart", "picture", "painted chart"),
        ("tray", "table", "kit"),
        ("day", "table", "books"),
        ("notebook", "table", "pages"),
    ],
)
def test_what_is_shown_is_copied_by_key(window, qtbot, key, kind, words):
    window.document.replace(replace(demo_plan(), motifs=demo_plan().motifs[:1]))
    window.go_to(key)
    QApplication.clipboard().clear()
    window.actions_by_id["copy_shown"].trigger()
    qtbot.waitUntil(lambda: "Copied" in window.banner.words.text())
    assert words in window.banner.words.text()
    data = QApplication.clipboard().mimeData()
    assert data.hasImage() == (kind == "picture")
    assert ("\t" in data.text()) == (kind == "table")
    assert ("<table>" in data.html()) == (kind == "table")


def test_steps_are_copied_when_there_are_any(window, qtbot):
    window.document.replace(replace(demo_plan(), motifs=(), overlays=()))
    window.go_to("order")
    window.actions_by_id["copy_shown"].trigger()
    assert window.banner.isVisible()


def test_a_field_keeps_its_own_copy(window):
    window.show()
    window.bar.title.setFocus()
    window.bar.title.selectAll()
    QTest.keyClick(window.bar.title, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert QApplication.clipboard().text() == window.bar.title.text()


def test_the_painted_chart_is_written_with_its_size_and_colours(window, tmp_path, monkeypatch, qtbot):
    window.document.replace(replace(demo_plan(), motifs=demo_plan().motifs[:1]))
    chart = window.station("chart")
    for name in ("face.png", "face.jpg"):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, to=name: (str(tmp_path / to), ""))
        chart.ask_painted()
        qtbot.waitUntil(lambda to=name: (tmp_path / to).exists() and not window.exporter.busy)
    with Image.open(tmp_path / "face.png") as png, Image.open(tmp_path / "face.jpg") as jpeg:
        assert png.info["srgb"] == 0
        assert png.info["dpi"][0] == pytest.approx(4 * 25.4, abs=0.1)
        assert jpeg.info["dpi"][0] == 102
        assert "icc_profile" in jpeg.info
        assert png.size == jpeg.size


# --- the last plan ---


def test_the_plan_that_was_open_last_is_offered(open_window, plan_file):
    window = open_window(demo_plan(), Settings(recent=(str(plan_file),)))
    window.show()
    window.offer_last()
    assert "moth was open last" in window.banner.words.text()
    window.banner.buttons[0].click()
    assert window.document.path == plan_file


def test_a_plan_that_is_gone_is_not_offered(open_window, tmp_path):
    window = open_window(demo_plan(), Settings(recent=(str(tmp_path / "gone.pennello"),)))
    window.show()
    window.offer_last()
    assert not window.banner.isVisible()
