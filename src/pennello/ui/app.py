"""Starts the window."""

from __future__ import annotations

import gc
import os
import sys
import threading
import traceback
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication

from pennello.errors import PennelloError
from pennello.files.demo import demo_plan
from pennello.lay.engine import warm_up
from pennello.session.document import Document
from pennello.ui.theme.style import add_typeface, body_font
from pennello.ui.window import MainWindow


class NoDisplayError(PennelloError):
    """There is nowhere to show a window."""

    def __init__(self) -> None:
        super().__init__("there is no display; set DISPLAY, or use 'make demo', which starts a virtual one.")


def make_application(arguments: list[str] | None = None) -> QApplication:
    """Return the application with the shipped typeface; one there is already is used.

    The theme's sheet comes with the window: set earlier, it would be worked out anew for every part that is put in.
    """
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        app = existing
    else:
        QGuiApplication.setHighDpiScaleFactorRoundingPolicy(Qt.HighDpiScaleFactorRoundingPolicy.PassThrough)
        app = QApplication(arguments or ["pennello"])
    app.setApplicationName("pennello")
    app.setApplicationDisplayName("Pennello")
    app.setStyle("Fusion")
    add_typeface()
    app.setFont(body_font())
    return app


def open_window(path: str | None, *, demo: bool = False) -> int:
    """Open the window, run until it is closed, and return the exit code."""
    if not _display_there():
        raise NoDisplayError
    app = make_application(sys.argv[:1])
    window = MainWindow(Document(demo_plan() if demo else None))
    _catch_everything(window)
    window.show()
    QTimer.singleShot(0, gc.enable)
    warm_up()  # the reference serves until the kernel is there
    if path:
        window.open_path(Path(path))
    elif not demo:
        window.offer_unnamed()
    window.offer_run()
    waker = QTimer()  # lets Python see Ctrl+C
    waker.timeout.connect(lambda: None)
    waker.start(300)
    return app.exec()


def _display_there() -> bool:
    named = ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    return not sys.platform.startswith("linux") or any(os.environ.get(name) for name in named)


def _catch_everything(window: MainWindow) -> None:
    """Say in one sentence what nobody foresaw; the plan stays, and the details go to standard error."""

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            window.autosave.keep()
            QApplication.exit(130)
            return
        print(f"pennello: {kind.__name__}: {error}", file=sys.stderr)  # noqa: T201
        if "PENNELLO_DEBUG" in os.environ:
            traceback.print_exception(kind, error, trace)
        window.say(
            f"Something went wrong inside Pennello ({kind.__name__}: {error}). Your plan is unchanged; please save it."
        )

    sys.excepthook = hook
    threading.excepthook = lambda args: hook(args.exc_type, args.exc_value or Exception(), args.exc_traceback)
