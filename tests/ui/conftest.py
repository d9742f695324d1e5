"""The real window, offscreen."""

import gc
import os
import time
from functools import partialmethod
from types import FunctionType

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QColorDialog, QDialog, QFileDialog, QInputDialog, QMessageBox
from pytestqt.qtbot import QtBot

from pennello.lay import engine
from pennello.session.document import Document
from pennello.session.settings import Settings
from pennello.ui.app import make_application
from pennello.ui.window import MainWindow

PATIENCE_MS = 180_000


@pytest.fixture(scope="session")
def qapp():
    return make_application(["pennello"])


@pytest.fixture
def qtbot(qtbot, monkeypatch):
    """The usual bot, but patient: a wait ends when its condition holds, and its limit only ends a test that hangs.

    A busy machine takes ten times as long as an idle one, and is not wrong for it.
    """
    monkeypatch.setattr(QtBot, "waitUntil", partialmethod(QtBot.waitUntil, timeout=PATIENCE_MS))
    return qtbot


ASKS = (
    *((QFileDialog, name) for name in ("getOpenFileName", "getOpenFileNames", "getSaveFileName")),
    *((QFileDialog, "getExistingDirectory"), (QColorDialog, "getColor"), (QDialog, "exec")),
    *((QInputDialog, name) for name in ("getText", "getItem", "getInt", "getDouble")),
    *((QMessageBox, name) for name in ("question", "information", "warning", "critical", "about")),
)


@pytest.fixture(autouse=True)
def nobody_answers(monkeypatch):
    """A dialog that a test does not answer fails it: it would wait for ever, and a whole run with it."""
    for kind, name in ASKS:
        said = f"{kind.__name__}.{name} was opened, and nobody is there to answer"
        monkeypatch.setattr(kind, name, lambda *_, said=said, **__: pytest.fail(said))


@pytest.fixture(autouse=True)
def no_pictures_unasked(monkeypatch):
    """The strip's pictures of motifs are not laid behind every test's back: they take seconds of a core."""
    monkeypatch.setattr("pennello.ui.gallery.SOON_MS", 3_600_000)


@pytest.fixture
def open_window(qapp, qtbot, monkeypatch):
    """Open windows that are closed, without asking, at the end of the test."""
    opened = []
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: pytest.fail("the window asked") if opened else None)

    def make(plan, settings=None, at=""):
        window = MainWindow(Document(plan), settings or Settings())
        opened.append(window)
        if at:  # before it is shown: what nobody looks at need not be painted
            window.go_to(at)
        window.show()
        qtbot.waitExposed(window)
        return window

    def settled(window):
        qtbot.waitUntil(lambda: window.model.outcome is not None and window.model.outcome.verdict is not None)

    make.settled = settled
    yield make
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: QMessageBox.StandardButton.Discard)
    for window in opened:
        window.close()
        window.deleteLater()


@pytest.fixture
def window(open_window, demo):
    """A window whose Bench has its verdict."""
    made = open_window(demo)
    open_window.settled(made)
    return made


@pytest.fixture
def drag():
    """Drag a handle by hand, in steps, optionally without letting go."""

    def pull(handle, dx, dy, *, release=True, steps=4):
        start = handle.rect().center()
        QTest.mousePress(handle, Qt.MouseButton.LeftButton, pos=start)
        origin = handle.mapToGlobal(start)
        for step in range(1, steps + 1):
            at = handle.mapFromGlobal(origin + QPoint(round(dx * step / steps), round(dy * step / steps)))
            QTest.mouseMove(handle, at)
        if release:
            QTest.mouseRelease(handle, Qt.MouseButton.LeftButton, pos=handle.mapFromGlobal(origin + QPoint(dx, dy)))

    return pull


@pytest.fixture(autouse=True)
def kernel_serves():
    """Let the kernel serve, as it does a second after the window is there."""
    made = engine.kernel()
    engine._serving.append(made)
    yield
    engine._serving.remove(made)


def put_motif(chart, key, put=None):
    """Put a motif on the Chart, by its button or as it is, and wait until loads are found for it."""
    count = len(chart.model.document.committed.motifs)
    (put or chart.add_motif)(*(() if put else (key,)))
    until = time.monotonic() + PATIENCE_MS / 1000
    while len(chart.model.document.committed.motifs) == count and time.monotonic() < until:
        QTest.qWait(2)


def rings():
    """Return what of the program's own is in a ring that nobody uses any more, by type or name."""
    gc.set_debug(gc.DEBUG_SAVEALL)
    gc.collect()
    gc.set_debug(0)
    try:  # what is here may be a proxy of what has gone: its type is asked, not it
        found = {
            f"{one.__module__}.{one.__qualname__}" if type(one) is FunctionType else type(one).__module__
            for one in gc.garbage
        }
    finally:
        gc.garbage.clear()
        gc.collect()
    return sorted(one for one in found if one.startswith("pennello"))


def let_work_end(qtbot, most_s=60.0):
    """Wait until the program computes next to nothing; frames of its threads, which run on, are not looked at."""
    until = time.monotonic() + most_s
    while time.monotonic() < until:
        used = time.process_time()
        qtbot.wait(250)
        if time.process_time() - used < 0.03:
            return
