"""Ctrl+C of a station: its picture and its table, made in the background, for whoever pastes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from html import escape
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QMimeData, QObject
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication

from pennello.phrases import phrase
from pennello.session.jobs import Job, Jobs
from pennello.ui.widgets.paint import to_image
from pennello.ui.work import Runner

Picture = NDArray[np.uint8]
Table = tuple[tuple[str, ...], ...]

DISPLAYS = ("xcb", "wayland", "wayland-egl")
"""Platforms of Qt on which others can paste what is copied here."""


@dataclass(frozen=True, slots=True, eq=False)
class Copied:
    """What a station gives to be pasted elsewhere.

    Attributes
    ----------
    words
        What it is, as in "the stroke as a picture".
    picture, table
        What makes the picture, sRGB bytes, and the table, its heads first; None for none.
    """

    words: str
    picture: Callable[[Job[Any]], Picture | None] | None = None
    table: Callable[[Job[Any]], Table] | None = None


class Copier(QObject):
    """Puts what a station gives on the clipboard."""

    def __init__(self, say: Callable[[str], object], parent: QObject) -> None:
        super().__init__(parent)
        self._say, self._words = say, ""
        self._jobs = Jobs()
        self.runner = Runner(self._jobs, "copy", self)
        self.runner.ended.connect(self._take)
        self.runner.failed.connect(say)

    def copy(self, given: Copied) -> None:
        """Let a worker make it; what is still being made is given up."""
        self._words = given.words

        def work(job: Job[Any]) -> tuple[Picture | None, Table]:
            picture = given.picture(job) if given.picture is not None else None
            return picture, given.table(job) if given.table is not None else ()

        self.runner.run(work)

    def close(self) -> None:
        """The window closes; what nobody else could paste any more is let go.

        A display keeps what was copied, or its desktop does. Without one Qt throws it away at the very end, after
        Python, whose data it is: a fault.
        """
        self.runner.stop()
        self._jobs.close()
        if QGuiApplication.platformName() not in DISPLAYS:
            QApplication.clipboard().clear()

    def _take(self, made: tuple[Picture | None, Table]) -> None:
        picture, table = made
        data = QMimeData()
        if picture is not None:
            data.setImageData(to_image(picture))
        if table:
            data.setText("\n".join("\t".join(_flat(cell) for cell in row) for row in table))
            data.setHtml(_page(table))
        if not data.formats():
            self._say(phrase("There is nothing here to copy yet."))
            return
        QApplication.clipboard().setMimeData(data)
        self._say(phrase("Copied {words}; paste it where you want it.", words=self._words))


def _flat(cell: str) -> str:
    return " ".join(cell.split())


def _page(table: Table) -> str:
    head, *rows = table
    heads = "".join(f"<th>{escape(cell)}</th>" for cell in head)
    body = "".join(f"<tr>{''.join(f'<td>{escape(cell)}</td>' for cell in row)}</tr>" for row in rows)
    return f"<table><tr>{heads}</tr>{body}</table>"
