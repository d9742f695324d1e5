"""What is worked out has its numbers in the hand; the same again along a line follows both."""

import pytest
from lantern_face import demo_plan
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from pennello.design.computing import Computing
from pennello.design.part_edits import with_new_part
from pennello.design.pulled import with_pulled
from pennello.lay.stroke import Stroke
from pennello.path.cubic import line


@pytest.fixture
def station(open_window):
    plan = demo_plan()
    plan, leaf = with_pulled(plan, "dahlia-petal", Stroke(line((-60.0, -20.0), (-50.0, -30.0))), "face", name="Leaf")
    plan, _ = with_pulled(plan, "dahlia-petal", Stroke(line((-60.0, -20.0), (-20.0, 30.0))), "face", name="Stem")
    plan, _ = with_new_part(plan, "Twig", [leaf])
    window = open_window(plan, at="chart")
    return window.station("chart")


def made_of(station):
    return station.model.committed.computed


def test_a_part_is_laid_again_and_its_numbers_are_changed_undone_and_kept(station):
    parts = station.side.parts
    parts.part = "twig"
    parts.echo("stem")
    panel = station.panel
    assert made_of(station).kind is Computing.ECHO
    assert panel.made.isVisibleTo(panel)
    assert set(panel.made.fields) == {"times", "smaller"}
    panel.made.fields["times"].edited.emit(5.0)
    assert made_of(station).times == 5
    panel.made.by_turns.click()
    assert not made_of(station).by_turns
    station.model.document.undo()
    station.model.document.undo()
    assert (made_of(station).times, made_of(station).by_turns) == (3, True)
    panel.made.fields["smaller"].edited.emit(0.5)
    panel.made.fields["times"].edited.emit(20.0)  # too small in the end: said, and nothing is changed
    assert (made_of(station).times, made_of(station).smaller) == (3, 0.5)


def test_copies_stand_alone(station):
    parts = station.side.parts
    parts.part = "twig"
    before = len(station.model.document.committed.motifs)
    parts.copy_along("stem", 2, 0.8)
    assert len(station.model.document.committed.motifs) == before + 2
    assert all(one.computed is None for one in station.model.document.committed.motifs[-2:])


def test_a_rib_is_turned_by_mouse_and_by_keys_and_given_back(station):
    station.model.choose("stem")
    ribs = station.board.ribs
    assert len(ribs.handles) >= 2
    nib = station.model.committed.way.nib
    last = ribs.handles[-1]
    last.setFocus()
    QTest.keyClick(last, Qt.Key.Key_Right)
    assert station.model.committed.way.nib != nib
    station.model.document.undo()
    assert station.model.committed.way.nib == nib
    middle = last.rect().center()
    QTest.mousePress(last, Qt.MouseButton.LeftButton, pos=middle)
    QTest.mouseMove(last, middle + QPoint(0, 14))
    QTest.keyClick(last, Qt.Key.Key_Escape)
    assert station.model.document.plan == station.model.document.committed
    assert "° to the level" in last.accessibleDescription() + last.toolTip() + last.accessibleName()
