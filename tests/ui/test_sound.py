"""Nothing wrong in silence, nothing that ends the program: at the real window."""

import gc
import itertools
import re
import threading
import weakref
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from lantern_face import demo_plan
from PIL import Image
from PySide6.QtCore import QLocale, QObject, Qt
from PySide6.QtGui import QPixmap
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QLabel, QVBoxLayout, QWidget
from shiboken6 import isValid
from tests.ui.conftest import let_work_end, put_motif, rings

import pennello
from pennello.design.chart_checks import odd_on
from pennello.files.plan_json import read_plan
from pennello.session.jobs import Jobs
from pennello.ui.collector import AWAY_AFTER, MORE_MB, OLDEST_EVERY, OLDEST_LATEST, Collector
from pennello.ui.memory import give_back_code
from pennello.ui.widgets.asking import AmountPage, ask_target
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.painting import painted, painting
from pennello.ui.widgets.passing import goes_when_closed
from pennello.ui.widgets.plain import tip
from pennello.ui.work import begin
from pennello.units import LengthUnit

KEYS, SOURCES = Qt.Key, Path(pennello.__file__).parent

# --- numbers as people write them ---


class Holder(QWidget):
    """A window that keeps what is said."""

    def __init__(self, *fields):
        super().__init__()
        self.said = []
        column = QVBoxLayout(self)
        for field in fields:
            column.addWidget(field)

    def say(self, sentence):
        self.said.append(sentence)


@pytest.fixture
def width(qtbot):
    """A width of 19.05 mm, under a German locale."""
    QLocale.setDefault(QLocale("de_DE"))
    field = NumberField(Quantity("Width", 0.5, 120, 0.5, 1, length=True))
    holder = Holder(field)
    qtbot.addWidget(holder)
    holder.show()
    field.show_amount(19.05)
    yield field
    QLocale.setDefault(QLocale.c())


def typed(field, text):
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)
    QTest.keyClick(field, KEYS.Key_Return)
    return field.amount


@pytest.mark.parametrize("focused", [True, False])
def test_what_is_half_typed_in_a_field_that_is_taken_away_changes_nothing(width, focused):
    """An undo that took the field away made a new edit of it, and there was nothing to redo."""
    if focused:
        width.setFocus()
    width.selectAll()
    QTest.keyClicks(width, "44")
    edits = []
    width.edited.connect(edits.append)
    width.setVisible(False)
    assert not edits
    assert (width.amount, width.text()) == (19.05, "19.1 mm")
    width.setVisible(True)
    assert typed(width, "44") == 44.0
    assert edits == [44.0]


def test_what_is_half_typed_on_a_page_that_closes_counts(width):
    width.selectAll()
    QTest.keyClicks(width, "44")
    width.window().close()
    assert width.amount == 44.0


@pytest.mark.parametrize(
    ("unit", "text", "amount"),
    [
        ("mm", "12,5", 12.5),
        ("mm", "5.6", 5.6),
        ("mm", "3/4 in", 19.05),
        ("mm", '1 1/8"', 28.575),
        ("mm", "1e1", 10.0),
        ("in", "19 mm", 19.0),
        ("in", "3/4", 19.05),
        ("in", "1,5", 38.1),
    ],
)
def test_numbers_are_read_as_people_write_them(width, unit, text, amount):
    width.show_unit(LengthUnit(unit))
    assert typed(width, text) == pytest.approx(amount)
    assert not width.parentWidget().said


@pytest.mark.parametrize("text", ["nan", "inf", "1_9", "abc", "1e5", "12 kg", "1/0", "-3"])
def test_what_is_not_understood_is_said_and_the_old_value_stays(width, text):
    assert typed(width, text) == 19.05
    (sentence,) = width.parentWidget().said
    assert sentence.startswith(("Width: '", "Width is "))
    assert sentence.endswith("It stays 19.1 mm.") or sentence.endswith("It stays 19.0 mm.")


def test_a_number_that_is_left_alone_stays_what_it_is(width, qtbot):
    width.setFocus()
    QTest.keyClick(width, KEYS.Key_Return)
    width.clearFocus()
    assert width.amount == 19.05


def test_what_is_typed_stays_with_the_thing_it_was_typed_for(window, qtbot):
    window.go_to("tray")
    model, station = window.station("tray").model, window.station("tray").station
    cakes, brushes = (button for button in station.kinds.buttons() if button.text() in ("Cakes", "Brushes and sponges"))
    cakes.click()
    cake = model.item
    field = station.detail.cake_numbers.fields["softness_mm"]
    window.activateWindow()
    field.setFocus()
    qtbot.waitUntil(field.hasFocus)
    field.selectAll()
    QTest.keyClicks(field, "1.7")
    QTest.mouseClick(brushes, Qt.MouseButton.LeftButton)
    assert model.item.key != cake.key
    changed = next(one for one in model.session.kit.items.values() if one.key == cake.key)
    assert changed.thing.softness_mm == 1.7


def test_what_is_typed_is_saved(window, qtbot, tmp_path):
    window.bar.title.setFocus()
    qtbot.waitUntil(window.bar.title.hasFocus)
    window.bar.title.selectAll()
    QTest.keyClicks(window.bar.title, "Typed")
    window.files.save_to(tmp_path / "x.pennello")
    window.document.replace(window.document.plan, tmp_path / "x.pennello")
    window.bar.title.selectAll()
    QTest.keyClicks(window.bar.title, "Typed too")
    assert window.save()
    assert read_plan(tmp_path / "x.pennello").title == "Typed too"


def test_what_is_typed_is_printed(window, qtbot, monkeypatch):
    """A key leaves the field that it is pressed in, as a press on something else does."""
    titles = []
    monkeypatch.setattr(window, "print_shown", lambda: titles.append(window.document.committed.title))
    window.bar.title.setFocus()
    qtbot.waitUntil(window.bar.title.hasFocus)
    window.bar.title.selectAll()
    QTest.keyClicks(window.bar.title, "Typed")
    QTest.keyClick(window.bar.title, KEYS.Key_P, Qt.KeyboardModifier.ControlModifier)
    assert titles == ["Typed"]


def test_a_number_is_asked_for_with_its_unit(qtbot):
    page = AmountPage(None, "Width", Quantity("Width", 0.2, 30, 0.1, 1, length=True), 2.0, LengthUnit.MM)
    qtbot.addWidget(page)
    page.show()
    assert typed(page.field, "1/8 in") == pytest.approx(3.175)
    typed(page.field, "thick")
    assert "not understood" in page.said.text()


# --- what would end the program ---


class Careless(QWidget):
    def __init__(self):
        super().__init__()
        self.seen_painters = []

    @painted
    def paintEvent(self, painter, event):
        """Fail in the middle."""
        self.seen_painters.append(painter)
        raise KeyError("gone")


def test_a_painter_ends_whatever_happens(qtbot):
    widget = Careless()
    qtbot.addWidget(widget)
    with qtbot.captureExceptions():
        with pytest.raises(KeyError):
            widget.grab()
        qtbot.wait(1)
    assert widget.seen_painters
    assert not any(painter.isActive() for painter in widget.seen_painters)
    held = []

    def draw():
        with painting(QPixmap(4, 4)) as painter:
            held.append(painter)
            raise ValueError

    with pytest.raises(ValueError):
        draw()
    assert not held[0].isActive()


@pytest.mark.parametrize(
    ("pattern", "where"),
    [
        (r"\bQPainter\(", {"widgets/painting.py"}),
        (r"\bQImage\(\w+\.data", {"widgets/paint.py"}),
        (r"getDouble|getInt\(", set()),
    ],
)
def test_dangerous_things_are_done_in_one_place(pattern, where):
    found = set()
    for path in (SOURCES / "ui").rglob("*.py"):
        if re.search(pattern, path.read_text()):
            found.add("/".join(path.parts[-2:]))
    assert found == where


def test_workers_speak_on_the_windows_thread_and_only_to_the_living(qtbot):
    jobs, owner, heard = Jobs(), QObject(), []
    here = threading.current_thread()

    def hear(value):
        heard.append((value, threading.current_thread() is here))

    begin(jobs, "one", owner, lambda job: job.report(0.5, "half") or 7, finished=hear, failed=hear)
    qtbot.waitUntil(lambda: heard == [(7, True)])
    begin(jobs, "one", owner, lambda _: 1 / 0, finished=hear, failed=hear)
    qtbot.waitUntil(lambda: len(heard) == 2)
    assert "ZeroDivisionError" in heard[1][0]
    gate, ended = threading.Event(), threading.Event()
    begin(jobs, "two", owner, lambda _: gate.wait(3) and ended.set(), finished=hear, failed=hear)
    owner.deleteLater()
    qtbot.wait(20)
    gate.set()
    assert ended.wait(3)
    qtbot.wait(20)
    jobs.close()
    assert len(heard) == 2


def test_a_page_that_was_closed_lets_go_of_what_it_held(qtbot):
    """Whoever opened it still names it."""
    page, film = QDialog(), np.zeros(9)
    goes_when_closed(page)
    page.film, held = film, weakref.ref(film)
    del film
    page.show()
    page.close()
    qtbot.waitUntil(lambda: not isValid(page))
    assert held() is None


def test_a_dialog_that_nobody_answers_fails_its_test(qapp, tmp_path):
    """The whole run once waited for one, for as long as it was let."""
    with pytest.raises(pytest.fail.Exception, match="getSaveFileName was opened"):
        ask_target(None, "Sheet", tmp_path / "sheet.pdf", (".pdf",))


def test_only_the_windows_thread_collects(qtbot):
    freed = []

    class Loop:
        def __init__(self):
            self.me = self

        def __del__(self):
            freed.append(threading.current_thread() is threading.main_thread())

    owner = QObject()
    collector = Collector(owner)
    gc.enable()  # as it is where nobody has taken it over
    collector.start()
    try:
        worker = threading.Thread(target=lambda: [Loop() for _ in range(3000)])
        worker.start()
        worker.join()
        assert freed == []
        collector.tick()
        assert len(freed) == 3000
        assert all(freed)
        before = gc.get_freeze_count()
        kept = [Loop() for _ in range(100)]
        collector.settle()
        assert gc.get_freeze_count() >= before + 100, "they are looked through no more"
        del kept
        worker = threading.Thread(target=lambda: [Loop() for _ in range(10)])
        worker.start()
        worker.join()
        collector.tick()
        assert len(freed) == 3010, "what comes later still is"
    finally:
        collector.stop()
        given_back = gc.isenabled()
        gc.disable()  # as it is while tests run
    assert given_back


class Gc:
    """Python's collector, without what it does: each look is written down."""

    def __init__(self):
        self.looks = []

    def collect(self, deep=2):
        self.looks.append(deep)

    def unfreeze(self):
        self.looks.append("all")

    def freeze(self):
        pass


@pytest.fixture
def looked_by(monkeypatch):
    """Return what a collector looks through in so many ticks; the window's thread has always worked so much more, s."""

    def run(ticks, more_s=0.0, more_mb=0.0, away=()):
        collector_of_python, worked, mb = Gc(), itertools.count(0.0, more_s), itertools.count(0.0, more_mb)
        monkeypatch.setattr("pennello.ui.collector.gc", collector_of_python)
        owner, tick = QObject(), itertools.count()
        one = Collector(owner, lambda: next(worked), lambda: next(mb), lambda: next(tick) not in away)
        for _ in range(ticks):
            one.tick()
        return collector_of_python.looks

    return run


def test_what_came_is_looked_through_while_the_window_rests_and_sometime_if_it_never_does(looked_by):
    for more_s, first, every in ((0.5, 3 + OLDEST_LATEST - OLDEST_EVERY, OLDEST_LATEST), (0.0, 3, OLDEST_EVERY)):
        looked = looked_by(first + 2 * every, more_s)
        assert [at + 1 for at, deep in enumerate(looked) if deep == 2] == [first, first + every, first + 2 * every]


def test_all_is_looked_through_only_while_another_program_is_in_front(looked_by):
    assert "all" not in looked_by(600), "nobody touches it, but somebody may at any time"
    assert "all" not in looked_by(600, away=range(100, 100 + AWAY_AFTER - 1)), "it was only looked away for a moment"
    looked = looked_by(600, away=(*range(100, 400), *range(500, 600)))
    assert looked.index("all") == 100 + AWAY_AFTER - 1
    assert looked.count("all") == 2, "once each time"


def test_all_is_looked_through_where_much_more_memory_is_used(looked_by):
    assert looked_by(13 * OLDEST_LATEST, 0.5, more_mb=MORE_MB / 5.5).count("all") == 2


def test_edits_leave_no_ring_of_the_programs_own(open_window, qtbot):
    """Such a ring, and all that it holds, stays until everything is looked through."""
    window = open_window(demo_plan(), at="chart")
    model = window.station("chart").model
    let_work_end(qtbot)
    gc.collect()
    found = ["nothing was looked for"]
    for more_mm in (3.0, 0.1, 0.2):  # what an earlier test left may come to its end meanwhile, but once
        if not found:
            break
        window.go_to("chart")
        for x_mm in (3.0, 6.0, 9.0):
            model.choose(model.motifs[0].id)
            by = x_mm + more_mm
            model.edit_motif("Move", lambda one, by=by: replace(one, place=replace(one.place, x_mm=by)))
            qtbot.wait(60)
        window.go_to("bench")
        for drift_mm in (1.0, 1.5, 2.0):
            window.model.set_number("Drift", "drift_mm", drift_mm + more_mm)
            qtbot.wait(60)
        window.go_to("order")
        qtbot.waitUntil(lambda: window.station("order").model.arranged is not None, timeout=20_000)
        window.undo()
        let_work_end(qtbot)
        found = rings()
    assert found == []


@pytest.mark.parametrize("opens", ["play_stroke", "choose_family"])
def test_a_page_that_is_closed_leaves_no_ring(window, opens, qtbot, monkeypatch):
    """The film that was played hung on the picture that was drawn by who held it."""
    bar = window.station("bench").strokes
    let_work_end(qtbot)
    gc.collect()
    shown = []

    def answer(page):
        shown.append(page)
        page.show()
        qtbot.wait(200)
        page.reject()
        return QDialog.DialogCode.Rejected

    monkeypatch.setattr(QDialog, "exec", answer)
    getattr(bar, opens)()
    shown.clear()
    qtbot.wait(300)
    for page in window.findChildren(QDialog):
        page.close()
    page = None
    qtbot.waitUntil(lambda: not window.findChildren(QDialog), timeout=20_000)
    let_work_end(qtbot)
    assert rings() == []


def test_code_that_has_done_its_work_is_given_back_and_runs_again(qtbot):
    """madvise(2), MADV_PAGEOUT: the pages are read from disk again when they are wanted, so nothing can be lost."""
    assert give_back_code("QtWidgets") > 100_000
    assert give_back_code("no such library") == 0
    label = QLabel("still here")
    qtbot.addWidget(label)
    assert label.sizeHint().width() > 10


# --- nothing wrong in silence ---


def test_f_flips_only_at_the_bench_and_only_where_nobody_wants_the_key(window):
    def flipped():
        return window.model.pickup.flip

    before = flipped()
    window.station("bench").setFocus()
    QTest.keyClick(window.station("bench"), KEYS.Key_F)
    assert flipped() is not before
    window.go_to("chart")
    QTest.keyClick(window.station("chart").board, KEYS.Key_F)
    window.go_to("bench")
    assert flipped() is not before
    window.bar.title.setFocus()
    QTest.keyClick(window.bar.title, KEYS.Key_F)
    assert flipped() is not before


def test_names_stay_words(open_window, demo):
    name = '<h1>T</h1><img src="x">'
    window = open_window(replace(demo, title=name, paints=tuple(replace(p, name="<i>P</i>") for p in demo.paints)))
    window.say(f"{name} is said")
    assert window.banner.words.textFormat() is Qt.TextFormat.PlainText
    rich = [label for label in window.findChildren(QLabel) if label.textFormat() is not Qt.TextFormat.PlainText]
    assert rich == []
    assert tip("a < b") == "<qt>a &lt; b</qt>"


def test_eyes_are_closed_with_all_that_lies_there(open_window, qtbot):
    window = open_window(demo_plan(), at="chart")
    model, chart = window.station("chart").model, window.station("chart")
    model.show_chart("face")
    put_motif(chart, "petal-ring")
    eye = next(zone for zone in model.chart.zones if zone.kind == "eye").polygon.mean(axis=0)
    chart.panel.put_on((float(eye[0]), float(eye[1])))

    def kept_clear():
        return [one for one in odd_on(model.plan, model.key) if one.code == "keep_clear"]

    assert kept_clear()
    chart.head.eyes.click()
    assert model.key == "face-eyes-closed"
    assert chart.head.eyes.isChecked()
    assert model.motifs
    assert not kept_clear()
    window.undo()
    assert any(one.chart == "face" for one in window.document.plan.motifs)


def test_pages_that_are_closed_are_there_no_more(window, qtbot, tmp_path):
    """Each time the guide to the kit was opened it left four hundred widgets, each photo of a chart itself."""
    Image.fromarray(np.full((60, 80, 3), 90, np.uint8)).save(tmp_path / "shot.png")
    tray, chart = window.station("tray"), window.station("chart")
    before = len(window.findChildren(QDialog))
    tray.show_guide()
    chart.show_photo(tmp_path / "shot.png")
    pages = [one for one in window.findChildren(QDialog) if one.isVisible()]
    assert {type(one).__name__ for one in pages} == {"KitGuide", "PhotoPage"}
    for one in pages:
        one.reject()
    qtbot.waitUntil(lambda: len(window.findChildren(QDialog)) == before)
