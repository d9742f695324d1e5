"""The lessons: a path from straight sweeps to a rose, each with what to watch for and the points that open the next."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QDialog, QFrame, QGridLayout, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from pennello.design.plan import Plan
from pennello.phrases import phrase
from pennello.practice.lessons import LESSONS, Lesson, Progress, lesson_plan, progress
from pennello.practice.records import KeptTry
from pennello.session.catalogue import CataloguePicture, Pictures, laid
from pennello.session.jobs import Job, Jobs
from pennello.session.log import open_log
from pennello.session.play import alone
from pennello.ui.gallery import tile
from pennello.ui.stations.notebook.sheet_page import LessonButton
from pennello.ui.widgets.card_row import empty_grid
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import foot_row
from pennello.ui.work import begin, guarded

COLUMNS = 3
TILE = QSize(84, 84)


class LessonsPage(QDialog):
    """All lessons in their order.

    Parameters
    ----------
    plan
        Whose cakes and paints are practised with.
    practise
        Is called with the lesson that is wanted.
    """

    def __init__(self, notebook: Path, plan: Plan, practise: Callable[[Lesson], None], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Lessons"))
        self.resize(QSize(980, 640))
        self._notebook, self._practise = notebook, practise
        self._jobs = Jobs()
        self._tiles: dict[str, Label] = {}
        self.buttons: list[LessonButton] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        self.words = Label(phrase("From straight sweeps to a rose: one after another, or any that is open."))
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        inner = QWidget()
        self.grid = QGridLayout(inner)
        self.grid.setSpacing(8)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setWidget(inner)
        column.addWidget(area, 1)
        column.addLayout(foot_row(self))
        self.refresh()
        post_pictures(self._jobs, plan, self, self._show_picture)

    def _show_picture(self, key: str, picture: CataloguePicture) -> None:
        self._tiles[key].setPixmap(tile(to_image(picture.picture), TILE))

    def done(self, result: int) -> None:
        """Stop laying pictures, however the page ends."""
        self._jobs.leave()
        super().done(result)

    def refresh(self) -> None:
        """Show how far each lesson is."""
        tries: list[KeptTry] = []

        def read() -> None:
            with open_log(self._notebook) as log:
                tries.extend(log.tries())

        guarded(read, self.words.setText)
        empty_grid(self.grid)
        self.buttons.clear()
        for number, one in enumerate(progress(tries)):
            self.grid.addWidget(self._card(number, one), number // COLUMNS, number % COLUMNS)

    def _card(self, number: int, one: Progress) -> QFrame:
        card = QFrame()
        card.setObjectName("mat")
        column = QVBoxLayout(card)
        title = Label(f"{number + 1}  {one.lesson.title}")
        title.setObjectName("station")
        watch, words = Label(one.lesson.watch), Label(one.words)
        words.setObjectName("note")
        for label in (watch, words):
            label.setWordWrap(True)
        picture = Label("")
        picture.setFixedSize(TILE)
        self._tiles[one.lesson.key] = picture
        told = QHBoxLayout()
        told.addWidget(picture)
        told.addWidget(watch, 1)
        row = QHBoxLayout()
        button = LessonButton(one.lesson)
        button.setText(phrase("Practise"))
        button.setAccessibleName(phrase("Practise {lesson}", lesson=one.lesson.title))
        button.setEnabled(one.open)
        button.clicked.connect(lambda _=False, lesson=one.lesson: self._practise(lesson))
        self.buttons.append(button)
        row.addWidget(words, 1)
        row.addWidget(button)
        column.addWidget(title)
        column.addLayout(told, 1)
        column.addLayout(row)
        return card


def post_pictures(jobs: Jobs, plan: Plan, page: QDialog, show: Callable[[str, CataloguePicture], None]) -> None:
    """Let a worker lay what the lessons practise, with the plan's loads; each picture is shown once it is there."""

    def work(job: Job[Any]) -> None:
        pictures = Pictures(plan)
        for one in LESSONS:
            job.check()
            job.found.emit((one.key, _picture(pictures, plan, one)))

    begin(jobs, "lessons", page, work, finished=lambda _: None, failed=lambda _: None, found=lambda two: show(*two))


def _picture(pictures: Pictures, plan: Plan, one: Lesson) -> CataloguePicture:
    if one.motif:
        return pictures.one("motifs", one.motif, one.title)
    if one.family:
        return pictures.one("strokes", one.family, one.title)
    return laid(alone(*lesson_plan(one, plan)), one.key, one.title)
