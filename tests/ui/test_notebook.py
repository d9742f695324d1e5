"""The Notebook through the real window: pages, card, sheets, lessons, what is one's own; by mouse and keys."""

from __future__ import annotations

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog

from pennello.design.pace import StepKind
from pennello.design.plan import Plan
from pennello.errors import FileProblemError
from pennello.files.demo import demo_plan
from pennello.files.plan_json import write_plan
from pennello.finding import Finding
from pennello.practice.records import LogPage, PageFault
from pennello.practice.trouble import Trouble
from pennello.session.log import open_log, photo_folder
from pennello.session.notebook import notebook_path
from pennello.store.notebook import Notebook, RunNote, StepNote
from pennello.ui.stations.notebook import station as station_module

NAMES = ("Moth", "Heron", "Fox")
DAY = "2026-11-%02dT19:30:00+00:00"


@pytest.fixture
def at_notebook(open_window, qtbot):
    def make(plan=None):
        window = open_window(plan or demo_plan(), at="notebook")
        return window, window.station("notebook")

    return make


def filled(count=3):
    with open_log() as log:
        for number in range(count):
            faults = (PageFault(Trouble.MUDDY, "", "", "Let it dry."),) if number == 1 else ()
            log.put(LogPage(DAY % (number + 1), NAMES[number], painted_s=200.0, planned_s=180.0, faults=faults))


def test_an_empty_notebook_shows_the_first_thing_to_do(at_notebook):
    _, station = at_notebook()
    assert station.stack.currentWidget() is station.empty
    assert station.first.isVisible()
    assert "run at the chair" in station.empty_words.text()


def test_a_page_is_written_changed_taken_out_and_brought_back(at_notebook, qtbot, tmp_path, monkeypatch):
    plan, path = demo_plan(), tmp_path / "walk.pennello"
    write_plan(plan, path)
    photo = tmp_path / "face.png"
    Image.new("RGB", (300, 200), (180, 120, 90)).save(photo)
    window, station = at_notebook(plan)
    window.document.path = path
    qtbot.mouseClick(station.write, Qt.MouseButton.LeftButton)
    form = station.page
    assert form.title.text() == plan.title
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(photo), ""))
    qtbot.mouseClick(form.choose, Qt.MouseButton.LeftButton)
    form.seconds.setFocus()
    form.seconds.selectAll()
    QTest.keyClicks(form.seconds, "300")
    form.trouble.setCurrentIndex(form.trouble.findData(Trouble.GAP))
    form.piece.setCurrentIndex(1)
    form.add_fault()
    form.add_fault()
    form.listed.setCurrentRow(1)
    form.drop_fault()
    form.note.setPlainText("it rained")
    form.asked.setText("a dragon")
    qtbot.mouseClick(form.take, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: station.model.current is not None and station.model.current.planned_s > 0)
    page = station.model.current
    assert (page.title, page.painted_s, page.note, page.asked) == (plan.title, 300.0, "it rained", "a dragon")
    assert [one.trouble for one in page.faults] == [Trouble.GAP]
    assert page.faults[0].name == plan.motifs[0].name
    assert page.colours
    assert page.planned_s > 60
    assert (photo_folder() / page.photo).exists()
    qtbot.waitUntil(lambda: station.book.spread._images[1] is not None)
    assert station.book.spread._images[0] is not None
    assert "than predicted" in station.book.figures.text() or "as predicted" in station.book.figures.text()
    assert "gap at" in station.book.faults.text()

    change_and_take_out(station, page, qtbot)


def change_and_take_out(station, page, qtbot):
    qtbot.mouseClick(station.book.change, Qt.MouseButton.LeftButton)
    station.page.kept.setText("the blue one")
    station.page.accept()
    assert station.model.current.kept == "the blue one"
    assert station.model.current.photo == page.photo
    assert station.history.undo_label == "Change a page"
    station.model.undo()
    assert station.model.current.kept == ""
    station.model.redo()
    assert station.model.current.kept == "the blue one"

    station.shelf.setFocus()
    QTest.keyClick(station.shelf, Qt.Key.Key_Delete)
    assert station.model.log.pages == ()
    assert station.stack.currentWidget() is station.empty
    station.model.undo()
    assert station.model.current == station.model.log.pages[0]
    assert station.model.current.kept == "the blue one"
    assert (photo_folder() / page.photo).exists(), "undo needs it"


def test_a_runs_page_shows_its_minutes_by_step(at_notebook, qtbot):
    steps = (
        StepNote("a", StepKind.LOAD, "load", 12.0, 31.0, planned_s=12.0),
        StepNote("b", StepKind.STROKES, "petals", 20.0, 20.0, planned_s=20.0),
    )
    with Notebook(notebook_path()) as book:
        book.add(RunNote("Moth", "face", DAY % 1, DAY % 1, 51.0, 32.0, True, steps), short=True)
    window, station = at_notebook()
    qtbot.waitUntil(lambda: station.book.steps.text() != "")
    assert station.book.steps.text() == "By step: load 0:31 instead of 0:12 min."
    assert "short form" in station.book.small.text()
    qtbot.mouseClick(station.book.by_step, Qt.MouseButton.LeftButton)
    table = station.page.table
    assert [table.item(0, column).text() for column in range(4)] == ["load", "0:12", "0:31", "0:19 longer"]
    station.page.close()
    filled(1)
    window.go_to("tray")
    window.go_to("notebook")
    station.model.open_page(next(one for one in station.model.pages if one.run is None))
    assert not station.book.by_step.isVisible()


def test_pages_are_searched_compared_and_summed(at_notebook, qtbot):
    filled()
    _, station = at_notebook()
    assert [page.title for page in station.model.pages] == ["Fox", "Heron", "Moth"]
    assert station.shelf.shown.index(0).data() == "November 2026"
    QTest.keyClicks(station.search, "moth 2026")
    assert [page.title for page in station.model.pages] == ["Moth"]
    assert station.book.title.text() == "Moth"
    station.search.setText("unicorn")
    assert "No page says that" in station.empty_words.text()
    station.search.clear()
    station.trouble.setCurrentIndex(station.trouble.findData(Trouble.MUDDY))
    station.trouble.activated.emit(station.trouble.currentIndex())
    assert [page.title for page in station.model.pages] == ["Heron"]
    station.trouble.setCurrentIndex(0)
    station.trouble.activated.emit(0)
    station.shelf.setFocus()
    QTest.keyClick(station.shelf, Qt.Key.Key_Down)
    assert station.model.current.title == "Moth", "the page that lay open stays open when the search ends"
    station.compare()
    assert station.page.table.rowCount() >= 2
    station.page.close()
    station.show_months()
    assert station.page.table.item(0, 1).text() == "3"
    station.page.close()


def test_pages_are_written_out(at_notebook, qtbot, tmp_path, monkeypatch):
    with open_log() as log:
        log.put(LogPage(DAY % 3, "Moth", asked="a dragon"))
    _, station = at_notebook()
    for act, name in ((station.ask_table, "log.csv"), (station.ask_page_pdf, "page.pdf")):
        target = tmp_path / name
        monkeypatch.setattr(station_module, "ask_target", lambda *_, target=target: target)
        act()
        qtbot.waitUntil(target.exists)
        qtbot.waitUntil(lambda: not station._exporter.busy)
    assert "dragon" not in (tmp_path / "log.csv").read_text()
    station.asked.setChecked(True)
    monkeypatch.setattr(station_module, "ask_target", lambda *_: tmp_path / "all.csv")
    station.ask_table()
    qtbot.waitUntil((tmp_path / "all.csv").exists)
    assert "dragon" in (tmp_path / "all.csv").read_text()


def test_a_card_makes_brush_and_paints_ones_own_and_undo_takes_it_back(at_notebook, qtbot):
    window, station = at_notebook()
    plan = window.document.committed
    station.show_card()
    page = station.page
    assert page.print_button.isEnabled()
    sponge = page.loads.findData("lantern-cheek")
    page.loads.setCurrentIndex(sponge)
    assert not page.print_button.isEnabled()
    assert "flat" in page.words.text()
    page.loads.setCurrentIndex(page.loads.findData("dahlia-petal"))
    page.try_out()
    qtbot.waitUntil(lambda: page.picture is not None and not page.busy)
    right = page.pad.at[2]
    page.pad.current = 2
    QTest.keyClick(page.pad, Qt.Key.Key_Right)
    assert page.pad.at[2][0] > right[0]
    page.pad.set_mark(*right)
    qtbot.mouseClick(page.read, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: page.fit is not None)
    assert "cannot be told apart" in page.summary.text()
    for row in range(1, page.told.count()):
        page.told.item(row).setCheckState(Qt.CheckState.Unchecked)
    qtbot.mouseClick(page.take, Qt.MouseButton.LeftButton)
    now = window.document.committed
    assert now.brush("flat-3-4").own
    assert now.paints == plan.paints, "only the brush was ticked"
    station.show_mine()
    mine = station.page
    texts = [label.text() for label in mine.findChildren(type(mine.words))]
    assert any("Flat 3/4 in" in text for text in texts)
    assert any("from a card" in text for text in texts)
    mine.give_back("flat-3-4")
    assert window.document.committed.brush("flat-3-4") == plan.brush("flat-3-4")
    mine.close()
    window.document.undo()
    assert window.document.committed.brush("flat-3-4").own
    window.document.undo()
    assert window.document.committed == plan


def test_without_a_load_there_is_nothing_to_practise(at_notebook):
    window, station = at_notebook()
    window.document.replace(Plan())
    station.show_sheets()
    page = station.page
    for button in (page.print_button, page.photo_button, page.play_button, page.try_button):
        assert not button.isEnabled()
    page.play()  # as a key may that was pressed before
    assert page.words.text().startswith("There is no load to practise yet")
    page.close()


def test_a_sheet_is_scored_and_its_tries_make_the_hand(at_notebook, qtbot):
    window, station = at_notebook()
    station.show_sheets()
    page = station.page
    page.things.setCurrentIndex(page.things.findData("beetle-scale"))
    page.try_out()
    qtbot.waitUntil(lambda: page.picture is not None and not page.busy)
    qtbot.mouseClick(page.read, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: bool(page.scores))
    assert "of 100 points" in page.summary.text()
    assert page.listed.count() == len(page.scores) >= 6
    assert not page.listed.item(0).icon().isNull(), "every try is cut out"
    qtbot.mouseClick(page.take, Qt.MouseButton.LeftButton)
    with open_log() as log:
        assert len(log.tries()) == len(page.scores)
    station.show_mine()
    mine = station.page
    assert mine.use.isEnabled()
    qtbot.mouseClick(mine.use, Qt.MouseButton.LeftButton)
    assert window.document.committed.hand != demo_plan().hand
    qtbot.mouseClick(mine.forget, Qt.MouseButton.LeftButton)
    assert not mine.use.isEnabled()
    mine.close()


def lead(pad, way):
    """Lead the mouse over a pad along a way in mm."""
    points = [pad.to_px(x, y) for x, y in way]
    QTest.mousePress(pad, Qt.MouseButton.LeftButton, pos=points[0].toPoint())
    for point in points[1:]:
        QTest.mouseMove(pad, point.toPoint())
    QTest.mouseRelease(pad, Qt.MouseButton.LeftButton, pos=points[-1].toPoint())


def test_a_stroke_is_traced_without_paint_and_lessons_open(at_notebook, qtbot):
    _, station = at_notebook()
    station.show_lessons()
    assert [one.isEnabled() for one in station.page.buttons[:3]] == [True, False, False]
    qtbot.mouseClick(station.page.buttons[0], Qt.MouseButton.LeftButton)
    page = station.page
    assert page.lesson.key == "straight"
    way = page.what.way_mm()[:: max(1, len(page.what.way_mm()) // 24)]
    lead(page.trace, way)
    lead(page.trace, way)
    lead(page.trace, way + np.linspace(0, 6, len(way))[:, None] * [0, 1])
    assert [one.number for one in page.scores] == [1, 2, 3]
    assert page.scores[0].points > 85
    assert page.scores[2].slip.turned_deg == pytest.approx(np.degrees(np.arctan2(6, 60)), abs=2)
    assert "turned" in page.scores[2].words
    QTest.mouseClick(page.trace, Qt.MouseButton.LeftButton, pos=QPoint(5, 5))
    assert len(page.scores) == 3, "a click is no stroke"
    page.score_way(np.array([[0.0, 0.0], [0.1, 0.1]]))
    assert "too short" in page.words.text()
    page.keep()
    station.show_lessons()
    opened = [one.isEnabled() for one in station.page.buttons[:3]]
    station.page.close()
    good = sum(one.points >= 75 for one in page.scores)
    assert opened == [True, good >= 3, False]
    station.show_sheets()
    whole = station.page
    part = next(one for one in demo_plan().parts)
    whole.things.setCurrentIndex(whole.things.findData(part.id))
    if whole.what is not None and whole.what.single is None:
        assert not whole.trace.isEnabled()
    whole.close()


def test_a_page_is_kept_whatever_is_looked_at_meanwhile(at_notebook, qtbot):
    """Written at once; its picture comes though another page is opened before it is there."""
    filled(2)
    _, station = at_notebook()
    station.write_page()
    station.page.accept()
    number = station.model.current.id
    assert len(station.model.log.pages) == 3
    station.model.open_page(station.model.log.pages[-1])
    qtbot.waitUntil(lambda: bool(station.model.log.page(number).picture))
    assert station.model.current.title == "Moth", "the page that lies open stays open"


def test_a_mend_comes_once_the_plan_is_looked_at(at_notebook):
    filled(1)
    _, station = at_notebook()
    station.change_page()
    form = station.page
    was = len(form.page.faults)
    form.trouble.setCurrentIndex(form.trouble.findData(Trouble.MUDDY))
    form.add_fault()
    usual = form.page.faults[-1].mend
    code = Trouble.MUDDY.codes[0]
    form.take_findings((Finding(code, "Wait longer here.", piece="elsewhere"),))
    assert form.page.faults[-1].mend == usual
    form.take_findings((Finding(code, "Wait longer here."),))
    assert form.page.faults[-1].mend == "Wait longer here."
    assert len(form.page.faults) == was + 1
    assert "Wait longer here." in form.listed.item(was).text()
    form.reject()


def test_a_picture_comes_to_its_own_page(at_notebook, qtbot, monkeypatch):
    """Whatever is looked for meanwhile, and to none where the page could not be written."""
    filled(2)
    _, station = at_notebook()
    station.search.setText("moth")
    station.write_page()
    station.page.accept()
    number = max(page.id for page in station.model.log.pages)
    qtbot.waitUntil(lambda: bool(station.model.log.page(number).picture))
    assert not any(page.picture for page in station.model.log.pages if page.id != number)

    def refuse(_):
        raise FileProblemError(notebook_path(), "full.")

    monkeypatch.setattr(station.model.log, "keep", refuse)
    said = []
    station.said.connect(said.append)
    station.write_page()
    station.page.accept()
    assert "full" in said[0]
    assert len(station.model.log.pages) == 3


def test_an_undo_that_cannot_be_written_is_said(at_notebook, qtbot, monkeypatch):
    filled(1)
    window, station = at_notebook()
    station.model.remove()
    said = []
    station.said.connect(said.append)
    notebook_path().write_bytes(b"no database at all" * 40)
    for ending in ("-wal", "-shm"):
        notebook_path().with_name(notebook_path().name + ending).unlink(missing_ok=True)
    station.model.undo()
    assert said
    assert "notebook" in said[-1]
    del window


def test_two_thousand_pages_are_shown(at_notebook, qtbot):
    with open_log() as log:
        log._connection.execute("BEGIN")
        log._connection.executemany(
            "INSERT INTO pages (day, title, painted_s) VALUES (?,?,?)",
            [
                (f"20{20 + number // 400}-{number % 12 + 1:02d}-11T10:00:00", f"Page {number}", 60.0)
                for number in range(2000)
            ],
        )
        log._connection.execute("COMMIT")
    _, station = at_notebook()
    assert len(station.model.pages) == 2000
    assert station.shelf.shown.rowCount() == 2000 + len({page.day[:7] for page in station.model.pages})
    assert station.sums.text() == "2000 pages"
