"""Walks the window in the language whose sentences are 40 % longer, and tells what is cut and what is no template.

A program of its own, since a language is chosen once: python long_walk.py FOLDER. It prints JSON. With a size of words
in percent as a second argument it walks in English with words so large.
"""

import json
import os
import re
import sys
import time
from pathlib import Path
from typing import Any

FOLDER = Path(sys.argv[1])
TEXT_PERCENT = int(sys.argv[2]) if len(sys.argv) > 2 else 100
if TEXT_PERCENT == 100:
    os.environ["PENNELLO_LANGUAGE"] = "long"
for kind in ("DATA", "CONFIG", "STATE", "CACHE"):
    os.environ[f"XDG_{kind}_HOME"] = str(FOLDER / kind.lower())

from PySide6.QtCore import QEvent, QRect, QRectF, Qt  # noqa: E402
from PySide6.QtGui import QPainter  # noqa: E402
from PySide6.QtWidgets import (  # noqa: E402
    QAbstractButton,
    QApplication,
    QComboBox,
    QDialog,
    QGroupBox,
    QLabel,
    QMenu,
    QToolButton,
    QWidget,
)
from shiboken6 import isValid  # noqa: E402

from pennello.files.demo import demo_plan  # noqa: E402
from pennello.session.document import Document  # noqa: E402
from pennello.session.settings import Settings, store_settings  # noqa: E402
from pennello.ui.app import make_application  # noqa: E402
from pennello.ui.stations.registry import STATIONS  # noqa: E402
from pennello.ui.widgets.folding import Fold  # noqa: E402
from pennello.ui.window import MainWindow  # noqa: E402

SIZES = ((960, 540), (1280, 800), (1920, 1080)) if TEXT_PERCENT == 100 else ((1280, 800),)
SLACK_PX = 2
SETTLES_S = 2.0
_LETTERS = re.compile(r"[A-Za-z]{3,}")


def wait(app: QApplication, seconds: float) -> None:
    """Let the window live."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        app.processEvents()
        app.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
        time.sleep(0.005)


def bare(text: str) -> str:
    """Return a text without markup."""
    return re.sub(r"<[^>]*>", " ", text)


def texts(widget: QWidget) -> list[str]:
    """Return what a widget says, shows when pointed at, and tells a reader."""
    found = [widget.toolTip(), widget.accessibleName(), widget.accessibleDescription()]
    if isinstance(widget, QLabel | QAbstractButton):
        found.append(widget.text())
    if isinstance(widget, QGroupBox):
        found.append(widget.title())
    if isinstance(widget, QComboBox):
        found += [widget.itemText(row) for row in range(widget.count())]
    if isinstance(widget, QMenu):
        found += [action.text() for action in widget.actions()]
    return [text for text in found if text]


def cut(widget: QWidget) -> bool:
    """Return whether a widget has no room for what it says."""
    hint = widget.sizeHint()
    if isinstance(widget, QLabel) and widget.text():
        if widget.wordWrap():
            return widget.heightForWidth(widget.width()) > widget.height() + SLACK_PX
        elides = type(widget).__name__ == "ElidedLabel"
        return not elides and widget.width() + SLACK_PX < hint.width()
    if isinstance(widget, QToolButton) and widget.toolButtonStyle() == Qt.ToolButtonStyle.ToolButtonIconOnly:
        return False  # its words are those of a reader
    if isinstance(widget, QAbstractButton) and widget.text():
        return widget.width() + SLACK_PX < hint.width() or widget.height() + SLACK_PX < hint.height()
    return False


def name_of(widget: QWidget) -> str:
    """Return where a widget stands."""
    above: list[str] = []
    here: QWidget | None = widget
    while here is not None and len(above) < 4:
        above.append(type(here).__name__)
        here = here.parentWidget()
    return " < ".join(above)


class Walk:
    """What was seen."""

    def __init__(self) -> None:
        self.cut: dict[str, list[str]] = {}
        self.plain: dict[str, list[str]] = {}
        self.painted: dict[str, list[str]] = {}
        self.seen = self.drawn = 0
        self.here = ""
        self._draw_text = QPainter.drawText

    def look(self, top: QWidget, where: str) -> None:
        """Look at all that is shown of a window, once it has made room for what came last."""
        self.here = where
        QApplication.sendPostedEvents()
        for widget in [top, *top.findChildren(QWidget)]:
            if not widget.isVisibleTo(top) and not isinstance(widget, QMenu):
                continue
            self.seen += 1
            for text in texts(widget):
                if _LETTERS.search(bare(text)) and "[" not in text:
                    self.plain.setdefault(text[:90], []).append(f"{where}: {name_of(widget)}")
            if widget.isVisibleTo(top) and cut(widget) and self._stays_cut(widget):
                shown = widget.text() if isinstance(widget, QLabel | QAbstractButton) else ""
                self.cut.setdefault(f"{name_of(widget)}: {shown[:70]}", []).append(where)

    def _stays_cut(self, widget: QWidget) -> bool:
        """Return whether a widget lacks room once all that is on its way has come: pictures change what is wide."""
        until = time.monotonic() + SETTLES_S
        while time.monotonic() < until and isValid(widget) and cut(widget):
            QApplication.processEvents()
            time.sleep(0.01)
        return isValid(widget) and widget.isVisible() and cut(widget)

    def watch(self) -> None:
        """Look at what is painted from now on: words that are no template, and words that have no room."""

        def draw_text(painter: QPainter, *args: Any) -> Any:
            self.drawn += 1
            words = next((one for one in args if isinstance(one, str)), "")
            if _LETTERS.search(words) and "[" not in words:
                self.plain.setdefault(words[:90], []).append(f"{self.here}: painted")
            if _LETTERS.search(words) and _lacks_room(painter, args, words):
                self.painted.setdefault(words[:90], []).append(self.here)
            return self._draw_text(painter, *args)

        setattr(QPainter, "drawText", draw_text)  # noqa: B010 - type checkers mind an assignment


def _lacks_room(painter: QPainter, args: tuple[Any, ...], words: str) -> bool:
    """Return whether words do not fit what they are painted into, or were shortened to fit."""
    if words.endswith("\u2026") or (words.startswith("[") and "]" not in words):
        return True  # it ends in an ellipsis
    room = args[0]
    if not isinstance(room, QRect | QRectF):
        return False
    flags = int(args[1]) if len(args) > 2 and not isinstance(args[1], str) else 0
    needs = painter.boundingRect(QRectF(room), flags, words)
    return needs.width() > room.width() + SLACK_PX or needs.height() > room.height() + SLACK_PX


def turns(window: MainWindow, key: str) -> list[QAbstractButton]:
    """Return what opens folds and turns to other pages of a station."""
    station = window.station(key).widget
    return [
        button
        for button in station.findChildren(QAbstractButton)
        if button.isVisibleTo(window)
        and button.isEnabled()
        and (isinstance(button, Fold) or button.property("segment"))
    ]


def main() -> None:
    """Walk."""
    store_settings(Settings(text_percent=TEXT_PERCENT))
    app = make_application(["walk"])
    window = MainWindow(Document(demo_plan()))
    window.show()
    walk = Walk()
    walk.watch()
    for size in SIZES:
        window.resize(*size)
        for one in STATIONS:
            window.go_to(one.key)
            walk.here = f"{one.key} {size[0]}x{size[1]}"
            wait(app, 1.0 if size == SIZES[0] else 0.3)
            walk.look(window, f"{one.key} {size[0]}x{size[1]}")
            for button in turns(window, one.key) if size != (1920, 1080) else ():  # there is most room
                if isValid(button) and button.isVisibleTo(window):
                    button.click()
                    wait(app, 0.06)
                    walk.look(window, f"{one.key} {size[0]}x{size[1]}, {button.text()}")
    pages = {
        "help": window.show_help,
        "designs": window.show_designs,
        "first steps": window.show_first_steps,
        "print": window.print_shown,
        "tour": window.show_tour,
    }
    for name, show in pages.items():
        show()
        wait(app, 0.6)
        for top in app.topLevelWidgets():
            if top is not window and top.isVisible() and top.windowType() != Qt.WindowType.ToolTip:
                walk.look(top, name)
                if isinstance(top, QDialog):
                    top.close()
        wait(app, 0.1)
    sys.stdout.write(
        json.dumps(
            {"seen": walk.seen, "cut": walk.cut, "plain": walk.plain, "drawn": walk.drawn, "painted": walk.painted}
        )
        + "\n"
    )
    window.document.replace(window.document.committed)
    window.close()


if __name__ == "__main__":
    main()
