"""Starts the window."""

from __future__ import annotations

import os
import socket
import sys
import threading
import traceback
from functools import partial
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QLocale, Qt, QTimer
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication
from shiboken6 import isValid

from pennello.errors import PennelloError, clipped
from pennello.files.demo import demo_plan
from pennello.lay.warming import warm_up
from pennello.phrases import phrase
from pennello.session.courtesy import GentleImports
from pennello.session.document import Document
from pennello.session.settings import load_settings
from pennello.ui.ahead import make_stations
from pennello.ui.collector import Collector
from pennello.ui.interrupts import Interrupts
from pennello.ui.mailbox import open_mailbox, post
from pennello.ui.stations.registry import fetch
from pennello.ui.theme.icons import app_icon
from pennello.ui.theme.style import add_typeface, body_font
from pennello.ui.theme.text import choose_text
from pennello.ui.widgets.pending import PressWatch
from pennello.ui.window import MainWindow
from pennello.units import is_count


class NoDisplayError(PennelloError):
    """There is nowhere to show a window."""

    def __init__(self) -> None:
        super().__init__(
            phrase(
                "no display can be reached; set DISPLAY or WAYLAND_DISPLAY, or use 'make demo', "
                "which starts a virtual one."
            )
        )


SWITCH_S = 0.0005
"""After how long a worker that runs lets the window have its turn, s. Each thing that is drawn may have to ask for it
anew: with the five milliseconds that Python has by default a picture of a hundred parts takes half a second.
"""

SIGNALLED = 128
"""What a shell adds to the number of a signal that ended a program."""

FETCH_AFTER_MS = 800
"""How long the window has its first turn before the code of the other stations is read, ms."""


def make_application(arguments: list[str] | None = None) -> QApplication:
    """Return the application with the shipped typeface; one there is already is used.

    The theme's sheet comes with the window.
    """
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        app = existing
    else:
        settings = load_settings()
        if settings.size_percent != 100:
            os.environ.setdefault("QT_SCALE_FACTOR", str(settings.size_percent / 100))
        choose_text(settings.text_percent)
        QGuiApplication.setHighDpiScaleFactorRoundingPolicy(Qt.HighDpiScaleFactorRoundingPolicy.PassThrough)
        app = QApplication(arguments or ["pennello"])
    sys.setswitchinterval(SWITCH_S)
    if not any(isinstance(one, GentleImports) for one in sys.meta_path):
        sys.meta_path.insert(0, GentleImports())
    app.setApplicationName("pennello")
    app.setApplicationDisplayName("Pennello")
    app.setDesktopFileName("pennello")  # by which a desktop knows its windows
    app.setWindowIcon(app_icon())
    app.setStyle("Fusion")
    QLocale.setDefault(QLocale.c())  # one way of writing numbers, until there are languages
    open_mailbox()
    add_typeface()
    app.setFont(body_font())
    if app.findChild(PressWatch) is None:
        PressWatch(app)
    return app


def open_window(path: str | None, *, demo: bool = False) -> int:
    """Open the window, run until it is closed, and return the exit code."""
    if not _display_there():
        raise NoDisplayError
    app = make_application(sys.argv[:1])
    interrupts = Interrupts(app)
    window = MainWindow(Document(demo_plan() if demo else None))
    _catch_everything(window)
    interrupts.tell(partial(_end, window))
    window.come_back()
    window.show()
    collector = Collector(app)
    QTimer.singleShot(0, collector.start)
    warm_up()  # the reference serves until the kernel is there
    QTimer.singleShot(FETCH_AFTER_MS, lambda: make_stations(window, fetch(window.document.committed), collector.settle))
    if path:
        window.open_path(Path(path))
    elif not demo:
        window.files.offer_unnamed()
        window.offer_last()
    if not path:
        window.welcome()
    QTimer.singleShot(0, window.tidy)
    return app.exec()


def _end(window: MainWindow, number: int) -> None:
    """End because a signal asks for it: nobody is asked, and a copy of what is not saved is offered at the next start.

    The window is not closed but left: what a painter calls closing forgets that copy.
    """
    try:
        window.leave(copy=True)
    except PennelloError as error:  # a full disk: there is no window any more that could say so
        print(phrase("pennello: {words}", words=error), file=sys.stderr)  # noqa: T201
    finally:
        QApplication.exit(SIGNALLED + number)


def _display_there() -> bool:
    """Return whether a display can be reached; Qt itself would end the program where it cannot."""
    if not sys.platform.startswith("linux"):
        return True
    platform = os.environ.get("QT_QPA_PLATFORM", "")
    if platform and not platform.startswith(("xcb", "wayland")):
        return True
    if platform.startswith("xcb"):
        return _x_there(os.environ.get("DISPLAY", ""))
    return _wayland_there() or _x_there(os.environ.get("DISPLAY", ""))


def _wayland_there() -> bool:
    name = os.environ.get("WAYLAND_DISPLAY", "")
    return bool(name) and _answers(str(Path(os.environ.get("XDG_RUNTIME_DIR", "/")) / name))


def _x_there(display: str) -> bool:
    """Return whether an X display answers: its socket, in the file system or without a name there, or its port."""
    host, _, screen = display.rpartition(":")
    number = screen.partition(".")[0]
    if not is_count(number):
        return False
    if host.removeprefix("unix") == "":
        path = f"/tmp/.X11-unix/X{number}"
        return _answers(path) or _answers(f"\0{path}")
    try:
        with socket.create_connection((host, 6000 + int(number)), timeout=_REACH_S):
            return True
    except (OSError, OverflowError):
        return False


def _answers(path: str) -> bool:
    try:
        with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as one:
            one.settimeout(_REACH_S)
            one.connect(path)
    except OSError:
        return False
    return True


_REACH_S = 3.0


def _catch_everything(window: MainWindow) -> None:
    """Say in one sentence what nobody foresaw; the plan stays, and the details go to standard error."""

    def say(sentence: str) -> None:  # whichever thread it happened in
        post(lambda: window.say(sentence) if isValid(window) else None)

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if isinstance(error, PennelloError):  # said on purpose, by something that nobody guards
            say(str(error))
            return
        print(phrase("pennello: {kind}: {error}", kind=kind.__name__, error=error), file=sys.stderr)  # noqa: T201
        if "PENNELLO_DEBUG" in os.environ:
            traceback.print_exception(kind, error, trace)
        words = clipped(str(error), 200)
        say(
            phrase(
                "Something went wrong inside Pennello ({kind}: {words}). Your plan is unchanged; please save it.",
                kind=kind.__name__,
                words=words,
            )
        )

    sys.excepthook = hook
    threading.excepthook = lambda args: hook(args.exc_type, args.exc_value or Exception(), args.exc_traceback)
