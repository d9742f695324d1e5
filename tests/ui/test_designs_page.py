"""The page of designs: pictures of all, other colours, other skins; a click opens one as a plan of its own."""

import threading

import pytest
from lantern_face import demo_plan
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QMessageBox
from shiboken6 import isValid

from pennello.files.demo import shipped_design
from pennello.session import design_pictures
from pennello.session.design_pictures import CARD, DesignPicture, design_picture
from pennello.session.jobs import CancelledError
from pennello.ui import designs_page
from pennello.ui.work import SEEN_MS


@pytest.fixture
def quick(monkeypatch):
    """Pictures of one colour in the place of painted ones: which one is asked for is what counts."""
    import numpy as np

    asked = []

    def drawn(key, *, other, ita_deg, surround, check):
        asked.append((key, other, ita_deg))
        plan = shipped_design(key).plan(other=other)
        return DesignPicture(key, other, plan.title, "Face", np.full((40, 60, 3), 99, np.uint8), 125.0, 61.0, 3)

    monkeypatch.setattr(designs_page, "design_picture", drawn)
    return asked


@pytest.fixture
def page(qtbot, window, quick):
    window.show_designs()
    qtbot.waitUntil(lambda: not window.designs.busy)
    assert all(card.painted for card in window.designs.cards.values())
    yield window.designs
    if isValid(window.designs):
        window.designs.close()


def test_its_work_ends_with_the_window(open_window, qtbot, monkeypatch):
    """A page that is open when the window closes: else the program stays for as long as its pictures take."""
    begun, ended = threading.Event(), threading.Event()

    def endless(*_, check, **__):
        begun.set()
        try:
            while not ended.wait(0.005):
                check()
        finally:
            ended.set()

    monkeypatch.setattr(designs_page, "design_picture", endless)
    window = open_window(demo_plan())
    window.show_designs()
    qtbot.waitUntil(begun.is_set)
    monkeypatch.setattr(QMessageBox, "question", lambda *_, **__: QMessageBox.StandardButton.Discard)
    window.close()
    qtbot.waitUntil(ended.is_set)


def test_it_is_drawn_before_workers_begin(window, quick, qtbot):
    window.show_designs()
    page = window.designs
    assert page.busy
    assert not page.cards, "a frame would be missed by all of them at once"
    assert not quick, "nothing is taken from the drawing"
    page.close()
    qtbot.wait(2 * SEEN_MS)
    assert not quick, "it was closed before"


def test_a_picture_that_is_broken_off_is_begun_anew():
    def stop():
        raise CancelledError

    asked = {"other": False, "ita_deg": 7.0, "surround": "#ffffff"}
    with pytest.raises(CancelledError):
        design_picture("frost-reeds", check=stop, **asked)
    whole = design_picture("frost-reeds", **asked)
    assert whole.seconds > 0
    assert design_picture("frost-reeds", check=stop, **asked) is whole


def test_all_twelve_are_shown_with_their_minutes(page):
    assert len(page.cards) == 12
    assert {card.words.text() for card in page.cards.values()} == {"Face · 2:05 min, at least 1:01 min"}
    assert page.cards["moth-mask"].title.text() == "Moth mask"


def test_other_colours_and_another_skin_are_asked_for(qtbot, page, quick):
    card = page.cards["marsh-fox"]
    card.colours.button(1).click()
    qtbot.waitUntil(lambda: card.title.text() == "Marsh fox, grey")
    page.skin.setCurrentIndex(page.skin.count() - 1)
    page.skin.activated.emit(page.skin.currentIndex())
    qtbot.waitUntil(lambda: ("marsh-fox", True, -40.0) in quick)


def test_a_click_opens_one_as_a_plan_without_a_file(qtbot, window, page):
    card = page.cards["heron-shoulder"]
    card.colours.button(1).click()
    QTest.mouseClick(card, Qt.MouseButton.LeftButton, pos=card.surface.geometry().center())
    assert window.document.plan == shipped_design("heron-shoulder").plan(other=True)
    assert window.document.path is None
    assert window.station("chart").model.key == "shoulder"
    assert window.stations.currentWidget() is window.station("chart").widget


@pytest.mark.slow
def test_enter_opens_one_too(window, page):
    QTest.keyClick(page.cards["tide-rainbow"], Qt.Key.Key_Return)
    assert window.document.plan.title == "Tide rainbow"


def test_a_picture_shows_the_place_where_the_design_lies():
    found = design_picture("moth-mask", other=False, ita_deg=None, surround="#f7f6f4")
    rows, columns, _ = found.picture.shape
    assert columns / rows == pytest.approx(CARD, rel=0.05)
    assert found.short_s < found.seconds
    whole = design_pictures.PX_PER_MM * 145
    assert columns < whole * 1.4
