"""Practice sheets: print what is practised, photograph the tries or trace one on the screen, see them scored."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QPushButton, QStackedWidget, QWidget

from pennello.design.plan import Plan
from pennello.design.words import pickup_words
from pennello.errors import PennelloError
from pennello.phrases import phrase
from pennello.practice.lessons import Lesson, lesson_plan
from pennello.practice.sheet import Practised, places_for, practised
from pennello.practice.traced import score_trace
from pennello.practice.tries import TryScore, best_and_worst, cut_outs, trend
from pennello.session.exports import practice_sheet
from pennello.session.jobs import Job
from pennello.session.log import kept_tries, open_log
from pennello.session.play import alone
from pennello.session.practising import load_of, scored, simulated_sheet
from pennello.ui.exporting import Exporter, Printed
from pennello.ui.printing import PrintPage
from pennello.ui.stations.notebook.marked_photo import PhotoDialog
from pennello.ui.stations.notebook.trace_pad import TracePad
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.passing import goes_when_closed
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.play_view import PlayPage
from pennello.ui.widgets.true_icon import true_icon
from pennello.ui.work import guarded

SEED = 5

_NOTHING = phrase("There is no load to practise yet: make one on the Bench.")


class SheetPage(PhotoDialog):
    """Sheets of a stroke, load or part of the plan, or of a lesson.

    Parameters
    ----------
    lesson
        The lesson whose sheet it is; None for what the plan has.
    """

    def __init__(
        self, plan: Plan, exporter: Exporter, notebook: Path, parent: QWidget, lesson: Lesson | None = None
    ) -> None:
        super().__init__(lesson.title if lesson else phrase("Practice sheets"), parent)
        self._plan, self._exporter, self._notebook, self.lesson = plan, exporter, notebook, lesson
        self.what: Practised | None = None
        self.scores: tuple[TryScore, ...] = ()
        self._traced = False
        self.things = ChoiceBox()
        self.things.setAccessibleName(phrase("What is practised"))
        if lesson is not None:
            self._plan, name = lesson_plan(lesson, plan)
            self.things.addItem(lesson.title, name)
            self.things.setEnabled(False)
        else:
            self._fill()
        self.things.currentIndexChanged.connect(lambda _: self._other())
        self.head.addWidget(self.things, 1)
        self.print_button = self.chip(phrase("Print it ..."), phrase("The sheet at true scale"), self.ask_print)
        self.photo_button = self.chip(
            phrase("Photo ..."), phrase("A photo of the painted sheet, dry, whole"), self.ask_photo
        )
        self.play_button = self.chip(
            phrase("Play"), phrase("Watch the brush move over it at the hand's speed"), self.play
        )
        self.try_button = self.chip(
            phrase("Try it out"), phrase("A sheet that a simulated hand has painted"), self.try_out
        )
        self.stack = QStackedWidget()
        self.trace = TracePad(self)
        self.trace.traced.connect(self.score_way)
        self.stack.addWidget(self.trace)
        self.left.insertWidget(0, self.stack, 1)
        self.hint.setText(
            (f"{lesson.watch} " if lesson else "")
            + phrase(
                "Print the sheet and paint every place, or trace the stroke here with mouse or pen, without paint."
            )
        )
        self.summary = Label("")
        self.summary.setWordWrap(True)
        self.summary.setObjectName("headline")
        self.listed = QListWidget()
        self.listed.setWordWrap(True)
        self.listed.setAccessibleName(phrase("The tries, each with what to change"))
        self.listed.setSpacing(3)
        self.listed.setIconSize(QSize(96, 72))
        self.right.addWidget(self.summary)
        self.right.addWidget(self.listed, 1)
        self.take.setText(phrase("Keep the tries"))
        self._other()

    def _fill(self) -> None:
        for part in self._plan.parts:
            self.things.addItem(phrase("{part} (all of it)", part=part.name), part.id)
        for one in self._plan.strokes:
            self.things.addItem(phrase("{one} (its trial stroke)", one=one.name), one.id)
        for placed in self._plan.motifs:
            self.things.addItem(placed.name, placed.id)
        trial = self.things.findData(self._plan.strokes[0].id) if self._plan.strokes else -1
        self.things.setCurrentIndex(max(trial, 0))

    @property
    def name(self) -> str:
        """The id of what is practised."""
        return str(self.things.currentData() or "")

    def _other(self) -> None:
        self.scores, self.what = (), None
        self.listed.clear()
        self.summary.setText(phrase("No try yet"))
        self.words.setText("")
        self.may_take(yes=False)

        def make() -> None:
            self.what = practised(self._plan, self.name)
            self.trace.show_what(self.what)
            places_for(self.what)

        if not self.name:
            self.words.setText(_NOTHING)
        fits = bool(self.name) and guarded(make, self.words.setText)
        for button in (self.print_button, self.photo_button, self.play_button, self.try_button):
            button.setEnabled(fits)
        self._show_pad(photo=False)

    def _show_pad(self, *, photo: bool) -> None:
        what = self.what
        self.trace.setEnabled(what is not None and what.single is not None)
        self.stack.setVisible(not photo)
        if self.pad is not None:
            self.pad.setVisible(photo)
        self.read.setEnabled(photo)

    def show_photo(self, picture: Any, corners: Any) -> None:
        """Show a photo instead of the pad for tracing."""
        super().show_photo(picture, corners)
        self._show_pad(photo=True)

    def ask_print(self) -> None:
        """Show the sheet as it comes out, to print it or keep it as a PDF."""
        what = self.what
        if what is None:
            return
        source = self._plan.stroke(load_of(self._plan, self.name))
        words = " ".join(pickup_words(self._plan, source, one) for one in source.recipe.pickups[:1])
        places = places_for(what)
        sheet = Printed(phrase("Practice sheet"), lambda path: practice_sheet(what, places, path, words), "practice")
        self.printing = PrintPage((sheet,), self._exporter, self)
        goes_when_closed(self.printing)
        self.printing.open()

    def play(self) -> None:
        """Watch the stroke as it is pulled."""
        plan = self._plan
        if self.name:
            name = load_of(plan, self.name)
            PlayPage(self.things.currentText(), lambda: alone(plan, name), self).open()

    def try_out(self) -> None:
        """Let a simulated hand paint the sheet, and show its photo."""
        plan, what, name = self._plan, self.what, self.name
        if what is None:
            return

        def paint(job: Job[Any]) -> Any:
            job.report(0.1, phrase("a simulated hand paints the sheet"))
            return simulated_sheet(plan, what, load_of(plan, name), SEED)[:2]

        self.run(paint, lambda seen: self.show_photo(*seen))

    def start(self) -> None:
        """Score the photo."""
        picture, corners, what = self.picture, self.corners, self.what
        if picture is not None and what is not None:
            self._traced = False

            def read(job: Job[Any]) -> tuple[tuple[TryScore, ...], dict[int, Any]]:
                scores = scored(what, picture, corners, job.report)
                return scores, cut_outs(picture, corners, what)

            self.run(read, self._show_read)

    def _show_read(self, found: tuple[tuple[TryScore, ...], dict[int, Any]]) -> None:
        """Show tries, each with its own cut-out."""
        scores, cuts = found
        self.show_scores(scores)
        for row, one in enumerate(scores):
            picture = QPixmap.fromImage(to_image(cuts[one.number]))
            self.listed.item(row).setIcon(true_icon(picture))

    def score_way(self, way: NDArray[np.float64]) -> None:
        """Score what was traced on the screen."""
        try:
            assert self.what is not None
            number = len(self.scores) + 1 if self._traced else 1
            one = score_trace(self.what, way, number)
        except PennelloError as error:
            self.words.setText(str(error))
            return
        self.scores = (*self.scores, one) if self._traced else (one,)
        self._traced = True
        self.show_scores(self.scores)

    def show_scores(self, scores: tuple[TryScore, ...]) -> None:
        """Show tries that were scored."""
        self.scores = scores
        best, worst = best_and_worst(scores)
        better = trend(scores)
        told = [phrase("Best: try {number} with {points} of 100 points.", number=best.number, points=best.points)]
        if len(scores) > 2 and abs(better) >= 0.5:
            told.append(
                phrase("Each try {better:.1f} points better than the one before.", better=abs(better))
                if better > 0
                else phrase("Each try {better:.1f} points worse than the one before.", better=abs(better))
            )
        self.words.setText("")
        self.summary.setText(" ".join(told))
        self.listed.clear()
        for one in scores:
            last = one is worst and len(scores) > 1
            mark = f" · {phrase('best')}" if one is best else f" · {phrase('worst')}" if last else ""
            item = QListWidgetItem(
                phrase(
                    "{number}: {points} points{mark}\n{one}\n{measured}",
                    number=one.number,
                    points=one.points,
                    mark=mark,
                    one=one.words,
                    measured=measured(one),
                )
            )
            item.setData(Qt.ItemDataRole.UserRole, one.number)
            self.listed.addItem(item)
        self.may_take(yes=True)

    def keep(self) -> None:
        """Keep the tries in the notebook."""
        what, scores = self.what, self.scores
        if what is None or not scores:
            return
        key = self.lesson.key if self.lesson else ""
        tries = kept_tries(scores, self._plan, what.key, what.name, lesson=key, traced=self._traced)

        def write() -> None:
            with open_log(self._notebook) as log:
                log.add_tries(tries)

        if guarded(write, self.words.setText):
            self.accept()


def measured(one: TryScore) -> str:
    """Return the figures of a try in one line."""
    told = [
        phrase("{overlap:.0%} on its outline", overlap=one.overlap),
        phrase("off by up to {off_mm:.1f} mm", off_mm=one.off_mm),
    ]
    if one.rim_mm is not None:
        told.append(
            phrase("rim {rim_mm:.1f} ± {rim_uneven_mm:.1f} mm", rim_mm=one.rim_mm, rim_uneven_mm=one.rim_uneven_mm or 0)
        )
    if one.blend_mm is not None:
        told.append(phrase("blend {blend_mm:.1f} mm", blend_mm=one.blend_mm))
    if one.feet_mm >= 1:
        told.append(phrase("feet {feet_mm:.1f} mm out", feet_mm=one.feet_mm))
    if one.pale_from_mm is not None:
        told.append(phrase("pale from {pale_from_mm:.0f} mm", pale_from_mm=one.pale_from_mm))
    return ", ".join([*told, phrase("wobble {wobble_mm:.1f} mm", wobble_mm=one.wobble_mm)])


class LessonButton(QPushButton):
    """A lesson in the path."""

    def __init__(self, lesson: Lesson) -> None:
        super().__init__(lesson.title)
        self.lesson = lesson
        self.setProperty("chip", True)
