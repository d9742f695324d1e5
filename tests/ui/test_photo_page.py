"""A photo is chosen, marked and painted over in the window; the chart is drawn again; what is wrong is said."""

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from pennello.design.photo_edits import photo_of

RIGHT, LEFT = "pupil, wearer's right", "pupil, wearer's left"


@pytest.fixture
def station(window, qtbot):
    window.go_to("chart")
    found = window.station("chart")
    qtbot.waitUntil(found.isVisible)
    return found


@pytest.fixture
def shot(tmp_path):
    picture = np.full((600, 800, 3), 90, np.uint8)
    picture[:, 400:] = (20, 40, 220)
    Image.fromarray(picture).save(tmp_path / "shot.png")
    return tmp_path / "shot.png"


def test_two_marks_and_a_width_put_a_photo_behind_the_paint(window, station, shot, qtbot):
    station.show_photo(shot)
    page = station.photo_page
    qtbot.waitUntil(page.isVisible)
    assert [box.currentText() for box in page.names] == [RIGHT, LEFT]
    pad = page.pad
    box = pad._box
    at = QPoint(round(box.left() + box.width() * 300 / 800), round(box.top() + box.height() * 0.5))
    QTest.mouseClick(pad, Qt.MouseButton.LeftButton, pos=at)
    assert pad.at[0] == pytest.approx((300, 300), abs=3)
    page.which.button(1).click()
    QTest.keyClick(pad, Qt.Key.Key_Right)
    assert pad.at[1] == pytest.approx((800 * 0.65 + 2, 600 * 0.45))
    page.apart.edited.emit(60.0)
    assert "px of the photo are 1 mm" in page.words.text()
    page.take.click()
    photo = photo_of(window.document.committed, "face")
    assert photo.file == str(shot.resolve())
    face = station.model.chart
    assert face.landmark(LEFT)[0] - face.landmark(RIGHT)[0] == pytest.approx(60, abs=0.1)
    assert station.model.photo is None  # a worker reads it
    qtbot.waitUntil(lambda: station.model.photo is not None)
    seen = station.board.grab().toImage()
    x, y = face.landmark(LEFT)
    colour = seen.pixelColor(station.board.view.to_px(x + 8, y + 12).toPoint())
    assert (colour.red(), colour.blue()) == pytest.approx((20, 220), abs=12)
    station.draw_again()
    assert photo_of(window.document.committed, "face") is None
    window.undo()
    assert photo_of(window.document.committed, "face") is not None
    while window.document.undo_label:
        window.document.undo()


def test_the_same_landmark_twice_cannot_be_taken(station, shot, qtbot):
    station.show_photo(shot)
    page = station.photo_page
    page.names[1].setCurrentText(RIGHT)
    page.names[1].activated.emit(0)
    assert not page.take.isEnabled()
    assert "two different" in page.words.text()
    page.reject()


def test_what_is_no_picture_or_gone_is_said_and_the_chart_is_drawn(window, station, shot, qtbot, tmp_path):
    bad = tmp_path / "bad.png"
    bad.write_text("no")
    with qtbot.waitSignal(station.said, check_params_cb=lambda words: "no picture" in words):
        station.show_photo(bad)
    with qtbot.waitSignal(station.said, check_params_cb=lambda words: "drawn" in words):
        station.draw_again()
    station.show_photo(shot)
    station.photo_page.take.click()
    shot.unlink()
    station.board.update()
    with qtbot.waitSignal(station.said, check_params_cb=lambda words: "not there" in words):
        station.board.grab()
    assert station.model.photo is None
    while window.document.undo_label:
        window.document.undo()
