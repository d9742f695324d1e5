"""The page for paper: what each station prints, as it comes out; a printer is stood in for by a file."""

import tempfile

import pytest
from lantern_face import demo_plan
from pypdf import PdfReader
from PySide6.QtCore import Qt
from PySide6.QtPrintSupport import QPrintDialog
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QFileDialog
from shiboken6 import isValid

from pennello.session.settings import load_settings
from pennello.ui.printing import STAND_IN


@pytest.fixture
def page(open_window, qtbot):
    window = open_window(demo_plan(), at="bench")
    window.actions_by_id["print_shown"].trigger()
    page = window.printing
    qtbot.waitUntil(lambda: bool(page.pages))
    yield page
    if isValid(page) and page.isVisible():
        page.reject()


def names(page):
    return [page.listed.item(at).text() for at in range(page.listed.count())]


def test_pages_are_seen_before_they_are_printed(page, qtbot):
    assert names(page) == ["Load card", "Label of the cake"]
    assert page.number.text() == "1 of 1"
    assert not page.sheet.pixmap().isNull()
    page.listed.setCurrentRow(1)
    assert not page.print.isEnabled()  # not drawn yet
    assert page.number.text() == "drawing it ..."
    qtbot.waitUntil(lambda: bool(page.pages))
    assert page.print.isEnabled()


def test_where_there_is_no_room_for_temporary_files_it_says_so(page, tmp_path, monkeypatch, qtbot):
    monkeypatch.setattr(tempfile, "tempdir", str(tmp_path / "nowhere"))
    page.listed.setCurrentRow(1)
    qtbot.waitUntil(lambda: not page.busy)
    assert "temporary files: there is no such file or folder" in page.number.text()
    assert not page.print.isEnabled()


def test_another_paper_and_a_name_are_kept(page, qtbot):
    page.size_of.setCurrentIndex(page.size_of.findText("Letter"))
    page.size_of.activated.emit(page.size_of.currentIndex())
    page.maker.setText("Tide Painter")
    QTest.keyClick(page.maker, Qt.Key.Key_Tab)
    page.maker.editingFinished.emit()
    qtbot.waitUntil(lambda: bool(page.pages))
    assert page.pages[0][1:] == pytest.approx((215.9, 279.4), abs=0.1)
    assert (load_settings().paper, load_settings().maker) == ("Letter", "Tide Painter")


def test_what_is_seen_is_kept_as_pdf(page, tmp_path, monkeypatch, qtbot):
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "card"), ""))
    page.keep.click()
    qtbot.waitUntil((tmp_path / "card.pdf").exists)
    assert len(PdfReader(tmp_path / "card.pdf").pages) == 1


def test_it_is_printed_at_true_scale_on_what_stands_in_for_a_printer(page, tmp_path, monkeypatch, qtbot):
    monkeypatch.setenv(STAND_IN, str(tmp_path / "printed.pdf"))
    exporter = page._exporter
    page.print.click()
    qtbot.waitUntil(lambda: (tmp_path / "printed.pdf").exists() and not exporter.busy)
    (printed,) = PdfReader(tmp_path / "printed.pdf").pages
    assert (printed.mediabox.width, printed.mediabox.height) == pytest.approx((595.3, 841.9), abs=1.5)
    picture = printed.images[0].image
    assert picture.width == pytest.approx(210 / 25.4 * 300, abs=2)


def test_who_asks_for_no_printer_prints_nothing(page, monkeypatch):
    monkeypatch.delenv(STAND_IN, raising=False)
    monkeypatch.setattr(QPrintDialog, "exec", lambda _: QDialog.DialogCode.Rejected)
    page.print.click()
    assert page.isVisible()
    assert not page._exporter.busy


@pytest.mark.parametrize(
    ("key", "first"), [("chart", "The painted chart"), ("order", "Sheet for the chair"), ("day", "Menu board")]
)
def test_every_station_has_its_papers(open_window, qtbot, key, first):
    window = open_window(demo_plan())
    window.go_to(key)
    if key == "order":
        qtbot.waitUntil(lambda: window.station("order").model.arranged is not None)
    window.print_shown()
    assert names(window.printing)[0] == first
    window.printing.reject()


def test_where_there_is_nothing_it_is_said(open_window):
    window = open_window(demo_plan(), at="notebook")
    window.print_shown()
    assert "nothing here to print" in window.banner.words.text()
