"""Files, recovery, errors and leaving, through the window; and one run on a real X display."""

import os
import signal
import subprocess
import sys
from dataclasses import replace

import pytest
from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox, QWidget

from pennello.design.plan import Plan
from pennello.files.demo import demo_plan
from pennello.files.plan_json import read_plan, write_plan
from pennello.session.settings import load_settings, store_settings
from pennello.ui.stations.registry import STATIONS
from pennello.ui.window import ACTIONS, MENU


def answer_file(monkeypatch, kind, path):
    monkeypatch.setattr(QFileDialog, kind, lambda *a, **k: (str(path), ""))


def retitle(window, title):
    window.bar.title.setText(title)
    window.bar.title.editingFinished.emit()


def test_save_as_open_and_recent(window, tmp_path, monkeypatch):
    path = tmp_path / "walk.pennello"
    retitle(window, "Mine")
    assert window.isWindowModified()
    answer_file(monkeypatch, "getSaveFileName", path)
    assert window.save()
    assert read_plan(path).title == "Mine"
    assert not window.isWindowModified()
    retitle(window, "Mine again")
    assert window.save()
    window.files.new_plan()
    assert window.document.plan.title == "Untitled"
    answer_file(monkeypatch, "getOpenFileName", path)
    window.files.ask_open()
    assert window.document.plan.title == "Mine again"
    assert load_settings().recent == (str(path),)
    window.recent.aboutToShow.emit()
    assert [action.text() for action in window.recent.actions()] == ["walk.pennello"]


@pytest.mark.parametrize("content", ["", "{}", "broken", '{"format": "pennello-plan", "schema": 99}'])
def test_a_bad_file_is_one_sentence_and_changes_nothing(window, tmp_path, content, demo):
    path = tmp_path / "bad.pennello"
    path.write_text(content)
    window.open_path(path)
    assert window.banner.isVisible()
    assert str(path) in window.banner.words.text()
    assert window.document.plan == demo
    assert path.read_text() == content
    window.banner.buttons[-1].click()
    assert not window.banner.isVisible()


def test_a_place_that_cannot_be_written_is_said(window, monkeypatch):
    answer_file(monkeypatch, "getSaveFileName", "/nonexistent/x.pennello")
    assert not window.save()
    assert "no such file or folder" in window.banner.words.text()


def test_a_newer_copy_is_offered_and_taken(window, tmp_path, demo):
    from dataclasses import replace

    path = tmp_path / "walk.pennello"
    write_plan(demo, path)
    copy = tmp_path / ".walk.pennello.autosave"
    write_plan(replace(demo, title="From the copy"), copy)
    window.open_path(path)
    assert window.document.plan == demo
    assert "not in the file" in window.banner.words.text()
    window.banner.buttons[0].click()
    assert window.document.plan.title == "From the copy"
    assert window.document.path == path
    assert window.document.dirty


def test_autosave_runs_by_itself(window, qtbot, tmp_path, demo):
    window.document.save(tmp_path / "walk.pennello")
    retitle(window, "Kept")
    window.files.keeper.setInterval(20)
    qtbot.waitUntil(lambda: bool(list(tmp_path.glob(".walk*.autosave"))))
    assert read_plan(next(tmp_path.glob(".walk*.autosave"))).title == "Kept"


@pytest.mark.parametrize(
    ("answer", "left"),
    [(QMessageBox.StandardButton.Cancel, False), (QMessageBox.StandardButton.Discard, True)],
)
def test_leaving_unsaved_work_asks(window, monkeypatch, answer, left):
    retitle(window, "Unsaved")
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: answer)
    assert window.close() is left
    assert window.isVisible() is not left


def test_picture_and_card_from_the_window(window, tmp_path, monkeypatch, qtbot):
    for suffix, ask in ((".png", window.station("bench").ask_picture), (".pdf", window.station("bench").ask_card)):
        answer_file(monkeypatch, "getSaveFileName", tmp_path / "out")
        ask()
        qtbot.waitUntil(lambda: not window.exporter.busy)
        assert (tmp_path / f"out{suffix}").stat().st_size > 1000
        assert window.banner.words.text().startswith("Wrote")


def test_pictures_need_a_stroke(open_window):
    window = open_window(Plan())
    window.station("bench").ask_picture()
    assert "no stroke yet" in window.banner.words.text()


def test_help_is_a_page_beside_the_work(window):
    window.show_help()
    assert window._help.isVisible()
    window._help.close()


def test_failures_in_prediction_are_said(window, monkeypatch):
    from pennello.errors import PennelloError
    from pennello.ui import bench_model as model

    def fail(*_):
        raise PennelloError("No prediction today.")

    monkeypatch.setattr(model, "coarse", fail)
    window.station("bench").cake.numbers.flip_button.click()
    assert window.banner.words.text() == "No prediction today."


def test_the_look_for_leaks_can_fail(qapp, look_for_qt_left):
    widget = QWidget()
    widget.show()
    with pytest.raises(AssertionError, match="widgets left open"):
        look_for_qt_left(qapp)
    widget.hide()
    timer = QTimer(widget)
    timer.start(1000)
    with pytest.raises(AssertionError, match="timers left running"):
        look_for_qt_left(qapp)
    timer.stop()
    widget.deleteLater()


XCB = """
import sys
from PySide6.QtCore import QTimer
from PySide6.QtGui import QGuiApplication
from pennello.files.demo import demo_plan
from pennello.session.document import Document
from pennello.ui.app import make_application
from pennello.ui.window import MainWindow
app = make_application(["pennello"])
window = MainWindow(Document(demo_plan()))
window.show()
def look():
    window.station("bench").cake.numbers.flip_button.click()
    image = window.screen().grabWindow(window.winId()).toImage()
    colours = {image.pixelColor(x, y).name() for x in range(0, image.width(), 9) for y in range(0, image.height(), 9)}
    print(QGuiApplication.platformName(), image.width(), len(colours))
    window.document.undo()
    window.close()
    app.quit()
window.model.judged.connect(lambda: QTimer.singleShot(200, look))
QTimer.singleShot(20000, app.quit)
app.exec()
"""


XCB_RUN = """
from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from pennello.caution.person import Person
from pennello.files.demo import demo_plan
from pennello.session.document import Document
from pennello.ui.app import make_application
from pennello.ui.window import MainWindow
app = make_application(["pennello"])
window = MainWindow(Document(demo_plan()))
window.show()
window.station("order").model.chart = "hand"
window.go_to("order")
station = window.station("order")
def look():
    if not station.model.rests or station.model.arranged is None:
        return
    poll.stop()
    station.controller.begin(Person())
    QTimer.singleShot(500, ran)
def ran():
    run = station.controller.window
    QTest.keyClick(run, Qt.Key.Key_Space)
    image = run.screen().grabWindow(run.winId()).toImage()
    colours = {image.pixelColor(x, y).name() for x in range(0, image.width(), 9) for y in range(0, image.height(), 9)}
    print(QGuiApplication.platformName(), image.width(), len(colours), len(run.run.took))
    station.controller.close()
    window.close()
    app.quit()
poll = QTimer()
poll.timeout.connect(look)
poll.start(100)
QTimer.singleShot(40000, app.quit)
app.exec()
"""


STARTED = """
import os, signal, sys
signal.signal(signal.SIGINT, signal.default_int_handler)  # whatever the shell that runs the tests ignores
from PySide6.QtCore import QTimer
import pennello.ui.app as app
from pennello.ui.window import MainWindow
made, shown = MainWindow.__init__, MainWindow.show

def begin(self, *args):
    if {at!r} == "made":
        os.kill(os.getpid(), {number})
    made(self, *args)

def show(self):
    shown(self)
    self.bar.title.setText("Told to end")
    self.bar.title.editingFinished.emit()
    self.go_to("chart")
    if {at!r} == "at work":
        QTimer.singleShot(700, lambda: os.kill(os.getpid(), {number}))

MainWindow.__init__, MainWindow.show, MainWindow.welcome = begin, show, lambda self: None
sys.exit(app.open_window(None, demo=True))
"""


@pytest.mark.parametrize(("at", "number"), [("made", "SIGINT"), ("at work", "SIGTERM")])
def test_a_signal_ends_the_window_and_what_is_not_saved_is_offered_again(at, number, tmp_path, monkeypatch):
    """An exit code of 128 and the number is what shells say of a signal: from memory."""
    number = int(getattr(signal, number))
    for name in ("HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME", "XDG_CONFIG_HOME", "XDG_STATE_HOME"):
        monkeypatch.setenv(name, str(tmp_path / name))
    code = STARTED.format(at=at, number=number)
    ran = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, timeout=300, check=False)
    assert ran.returncode == 128 + number, ran.stderr
    assert "Error" not in ran.stderr
    (copy,) = tmp_path.rglob("*.autosave")
    assert read_plan(copy).title == "Told to end"


COPIED = """
import sys
from PySide6.QtCore import QTimer
import pennello.ui.app as app
from pennello.ui.window import MainWindow
shown = MainWindow.show

def show(self):
    shown(self)
    self.copier.runner.ended.connect(lambda _: QTimer.singleShot(50, self.close))
    self.copy_shown()

MainWindow.show, MainWindow.welcome = show, lambda self: None
sys.exit(app.open_window(None, demo=True))
"""


def test_what_was_copied_does_not_outlive_the_program():
    """Qt's own clipboard without a display threw it away after Python had ended: a segmentation fault."""
    ran = subprocess.run([sys.executable, "-c", COPIED], capture_output=True, text=True, timeout=300, check=False)
    assert ran.returncode == 0, ran.stderr


def on_a_virtual_display(code):
    """What a program prints that runs on an X display of its own."""
    server = subprocess.Popen(
        ["Xvfb", "-displayfd", "1", "-screen", "0", "1400x900x24", "-nolisten", "tcp"],
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
    )
    try:
        display = server.stdout.readline().decode().strip()
        environment = os.environ | {"DISPLAY": f":{display}", "QT_QPA_PLATFORM": "xcb"}
        ran = subprocess.run(
            [sys.executable, "-c", code], env=environment, capture_output=True, text=True, timeout=300, check=False
        )
    finally:
        server.terminate()
        server.wait(10)
        server.stdout.close()
    assert ran.returncode == 0, ran.stderr
    return ran.stdout.split()


@pytest.mark.xvfb
def test_a_real_window_on_a_virtual_display():
    platform, width, colours = on_a_virtual_display(XCB)
    assert platform == "xcb"
    assert int(width) == 1280
    assert int(colours) > 100


@pytest.mark.xvfb
def test_a_real_run_fills_the_screen_and_takes_the_space_bar():
    platform, width, colours, took = on_a_virtual_display(XCB_RUN)
    assert platform == "xcb"
    assert int(width) == 1400
    assert int(colours) > 20
    assert int(took) == 1


IN_FRONT = """
import sys, time
from PySide6.QtWidgets import QApplication, QWidget
from pennello.ui.collector import in_front

def waited(until):
    latest = time.monotonic() + 20
    while not until() and time.monotonic() < latest:
        app.processEvents()
    return until()

app = QApplication(sys.argv)
one = QWidget()
one.show()
one.activateWindow()
told = waited(in_front)
one.hide()
print(told, waited(lambda: not in_front()))
"""


@pytest.mark.xvfb
def test_the_program_is_in_front_while_a_window_of_its_own_is_used():
    assert on_a_virtual_display(IN_FRONT) == ["True", "True"]


@pytest.mark.skipif(sys.version_info >= (3, 12), reason="None cannot be given back there")
def test_drawing_does_not_use_up_none(window):
    """A binding that returns None once too often ends the program sooner or later; PySide6 6.12.0 did."""
    window.station("bench").refresh()
    before = sys.getrefcount(None)
    for _ in range(20):
        window.station("bench").refresh()
        window.grab()
    assert sys.getrefcount(None) > before - 200


def test_every_action_stands_in_the_menu_or_has_keys():
    """One that names a part that there is not would be nowhere."""
    for action in (*ACTIONS, *(action for one in STATIONS for action in one.actions)):
        assert action.menu in MENU or (not action.menu and action.keys), action


def test_a_small_screen_is_enough(open_window, qtbot):
    """960 x 540 is a screen of 1920 x 1080 at 200 %: what a station needs beyond that is scrolled."""
    window = open_window(demo_plan())
    window.resize(960, 540)
    for one in STATIONS:
        window.go_to(one.key)
        qtbot.waitUntil(window.station(one.key).widget.isVisible)
        assert (window.width(), window.height()) == (960, 540)
        qtbot.waitUntil(lambda: scrolled_as_needed(window))


def test_what_is_scrolled_takes_no_focus_and_closing_keeps_what_others_chose(open_window):
    window = open_window(demo_plan())
    assert window.room.focusPolicy() == Qt.FocusPolicy.NoFocus
    store_settings(replace(load_settings(), theme="lamp"))  # by another Pennello
    window.close()
    assert load_settings().theme == "lamp"
    assert load_settings().window


def scrolled_as_needed(window):
    needs, has = window.stations.minimumSizeHint(), window.stations.size()
    bar = window.room.horizontalScrollBar()
    wide = needs.width() > window.room.viewport().width()
    return needs.boundedTo(has) == needs and (bar.maximum() > 0) == wide


def test_the_window_comes_back_where_it_was_but_onto_the_screen_that_there_is(open_window):
    window = open_window(demo_plan())
    window.setGeometry(30, 40, 700 + 100, 500)
    window.close()
    again = open_window(demo_plan(), load_settings())
    again.come_back()
    assert (again.width(), again.height()) == pytest.approx((800, 500), abs=4)
    screen = again.screen().availableGeometry()
    again.setGeometry(screen.right() - 100, screen.bottom() - 100, 4000, 3000)
    again.close()
    last = open_window(demo_plan(), load_settings())
    last.come_back()
    assert screen.contains(last.geometry())
    fresh = open_window(demo_plan(), replace(load_settings(), window="no geometry"))
    fresh.come_back()
    assert screen.contains(fresh.geometry())


class Paints(QObject):
    """Hears which widgets are drawn."""

    def __init__(self):
        super().__init__()
        self.drawn = []

    def eventFilter(self, watched, event):
        if event.type() == QEvent.Type.Paint:
            self.drawn.append(watched)
        return False


@pytest.fixture
def paints(qapp):
    paints = Paints()
    qapp.installEventFilter(paints)
    yield paints
    qapp.removeEventFilter(paints)


def test_it_is_drawn_once_before_it_is_there(open_window, paints):
    window = open_window(demo_plan())
    window.hide()
    paints.drawn.clear()
    window.come_back()
    assert not window.isVisible()
    assert {window.rail, window.bar, window.station("bench").widget} <= set(paints.drawn)


def test_what_is_shown_is_not_drawn_anew_for_a_station_that_is_put_under_it(window, paints, qtbot):
    window.repaint()
    paints.drawn.clear()
    window.stations.dressed("order")
    qtbot.wait(100)
    assert not [one for one in paints.drawn if one in (window.rail, window.room, window.stations)]


def test_a_station_is_laid_out_before_it_is_drawn(window, paints, qtbot):
    """Where it needs more than a small screen has it was drawn, laid out, and drawn again."""
    window.resize(800, 600)
    window.go_to("tray")
    QApplication.processEvents()
    window.go_to("bench")
    bench = window.station("bench").widget
    needs = window.stations.minimumSizeHint()
    assert bench.size() == window.stations.size()
    assert bench.size().expandedTo(needs) == bench.size()
    paints.drawn.clear()
    qtbot.wait(60)
    assert paints.drawn.count(bench) == 1
