"""The first ten minutes: three pictures to begin with, one's own kit, a tour that does real things."""

from dataclasses import replace

import numpy as np
import pytest
from lantern_face import demo_plan
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QColorDialog
from shiboken6 import isValid

from pennello.kit.shelf import ItemKind
from pennello.session.settings import Settings, load_settings
from pennello.ui.tour import STEPS


@pytest.fixture
def window(open_window):
    return open_window(demo_plan())


# --- the choice ---


def test_the_choice_comes_at_the_first_start_and_not_again(window):
    window.welcome()
    assert window.first_steps.isVisible()
    assert [card.text() for card in window.first_steps.cards.values()] == [
        "Try a design",
        "Enter my kit",
        "Make my first petal",
    ]
    window.first_steps.reject()
    assert load_settings().welcomed
    window.first_steps = None
    window.welcome()
    assert window.first_steps is None


def test_who_has_worked_here_before_is_not_asked(open_window):
    window = open_window(demo_plan(), Settings(recent=("/x/y.pennello",)))
    window.welcome()
    assert not hasattr(window, "first_steps")


def test_each_picture_leads_where_it_says(window):
    window.show_first_steps()
    window.first_steps.cards["show_designs"].click()
    assert window.designs.isVisible()
    window.designs.close()
    window.show_first_steps()
    window.first_steps.cards["show_guide"].click()
    guide = window.station("tray").guide
    assert guide.isVisible()
    guide.reject()
    window.show_first_steps()
    window.first_steps.cards["first_petal"].click()
    assert window.rail.buttons["bench"].isChecked()
    assert [one.name for one in window.document.committed.strokes]


# --- the kit ---


@pytest.fixture
def guide(window):
    window.actions_by_id["show_guide"].trigger()
    guide = window.station("tray").guide
    yield guide
    if isValid(guide):  # it goes when it is closed
        guide.close()


def test_ones_own_cakes_and_brushes_are_entered_as_one_step(window, guide, monkeypatch):
    monkeypatch.setattr(QColorDialog, "getColor", lambda *_: QColor("#1f6fb5"))
    guide.keep.click()
    assert "name first" in guide.said.text()
    guide.name.setText("Tide")
    guide.more.click()  # asks for its colour
    assert guide.colours == ["#f6f5f0", "#d8435a", "#1f6fb5"]
    guide.buttons[1].click()
    assert guide.colours[1] == "#1f6fb5"
    guide.fewer.click()
    guide.wide.edited.emit(30.0)
    guide.wide.show_amount(30.0)
    guide.keep.click()
    assert guide.kept.item(0).text() == "Tide: 2 stripes, 30 mm"
    guide.next.click()
    for at in range(guide.brushes.count()):
        item = guide.brushes.item(at)
        if item.data(Qt.ItemDataRole.UserRole) == "flat-1":
            item.setCheckState(Qt.CheckState.Checked)
    guide.next.click()
    kit = window.station("tray").model.session.kit
    assert [item.name for item in kit.of(ItemKind.CAKE)] == ["Tide"]
    assert [item.id for item in kit.of(ItemKind.BRUSH)] == ["flat-1"]
    assert "1 cake of yours" in window.banner.words.text()
    window.go_to("tray")
    window.undo()
    assert len(window.station("tray").model.session.kit.of(ItemKind.CAKE)) > 5


def test_a_cake_is_read_from_its_photo(guide, tmp_path):
    picture = np.zeros((60, 300, 3), np.uint8)
    picture[:, :100], picture[:, 100:] = (240, 232, 216), (47, 111, 176)
    Image.fromarray(picture).save(tmp_path / "cake.png")
    guide.read_photo(tmp_path / "cake.png")
    page = guide.line_page
    assert page.windowTitle() == "A cake from a picture"
    page.move_end(0, 1, 30)
    page.move_end(1, 298, 30)
    page.foot.take.click()
    assert guide.shares == pytest.approx([1 / 3, 2 / 3], abs=0.03)
    assert len(guide.colours) == 2
    guide.read_photo(tmp_path / "none.png")
    assert "none.png" in guide.said.text()


# --- the tour ---


def test_the_tour_does_real_things_is_left_and_found_again(window, qtbot):
    window.show_tour()
    tour = window.tour
    assert "1 of 8" in tour.title.text()
    before = window.document.committed
    tour.do.click()
    assert window.document.committed != before
    assert tour.title.text().startswith("✓")
    tour.next.click()
    tour.next.click()
    assert "3 of 8" in tour.title.text()
    tour.end.click()
    assert load_settings().tour == 3
    window.show_tour()
    assert "3 of 8" in window.tour.title.text()
    window.tour.do.click()
    assert window.document.committed.skin.ita_deg == -15.0
    window.tour.back.click()
    assert "2 of 8" in window.tour.title.text()
    window.tour.leave()


def test_every_step_can_be_done_for_the_painter(window, qtbot):
    window.document.replace(replace(demo_plan(), motifs=demo_plan().motifs[:1]))
    window.show_tour()
    tour = window.tour
    for number, step in enumerate(STEPS[:-1]):
        assert tour.step is step
        assert not tour.done
        if number == 1:
            qtbot.waitUntil(lambda: window.model.outcome is not None and window.model.outcome.verdict is not None)
        tour.do.click()
        qtbot.waitUntil(lambda: tour.done)
        tour.next.click()
    qtbot.waitUntil(lambda: window.station("order").model.arranged is not None)
    tour.do.click()
    assert window.printing.isVisible()
    window.printing.reject()
    tour.next.click()
    assert load_settings().tour == 0


def test_it_stays_in_its_corner(window):
    window.show_tour()
    window.resize(1100, 760)
    assert window.rect().contains(window.tour.geometry())
    window.tour.leave()
