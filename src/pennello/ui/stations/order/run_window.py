"""The run at the chair: one card after another, readable at arm's length, for one hand and a wet finger.

The clock is asked for the time whenever it is drawn, never counted up, so it cannot drift.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QKeyEvent
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from pennello.design.pace import StepKind
from pennello.order.arrange import Arranged
from pennello.order.job import Lag
from pennello.order.run import Run, done, drying, hand_s, left_s, pause, ready_in_s, resume, skip, step_s, undo
from pennello.phrases import phrase, plural
from pennello.session.order_pictures import Picture
from pennello.ui.stations.order.card_pictures import LoadPicture, PlacePicture
from pennello.ui.widgets.plain import Label
from pennello.units import clock

TICK_MS = 100
BIG_PX, HUGE_PX, TARGET_PX = 44, 76, 88
_KINDS = {
    StepKind.LOAD: phrase("Load"),
    StepKind.RINSE: phrase("Rinse"),
    StepKind.CHANGE: phrase("Other tool"),
    StepKind.MOVE: phrase("Go over"),
    StepKind.WAIT: phrase("Wait"),
    StepKind.CUE: phrase("Say"),
    StepKind.CHECK: phrase("Look"),
}


class RunWindow(QWidget):
    """One card. Space or a tap on the large button is "done".

    Signals
    -------
    changed(Run)
        A step is over, was taken back, or the hand pauses.
    left(bool)
        The painter is through with it, or leaves it; whether to write it into the notebook.
    """

    changed = Signal(object)
    left = Signal(bool)

    def __init__(
        self,
        run: Run,
        lags: Iterable[Lag],
        now: Callable[[], float],
        parent: QWidget,
        *,
        rehearsal: bool = False,
    ) -> None:
        super().__init__(parent, Qt.WindowType.Window)
        self.run, self._lags, self._now = run, tuple(lags), now
        self.rehearsal = rehearsal
        self.setWindowTitle(phrase("Rehearsal") if rehearsal else phrase("At the chair"))
        self.setObjectName("table")
        self.setMinimumSize(QSize(900, 560))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.load, self.place = LoadPicture(), PlacePicture()
        self.kind, self.what, self.time, self.rest = Label(""), Label(""), Label(""), Label("")
        self.dries, self.next = Label(""), Label("")
        for label, pixels, bold in (
            (self.kind, 26, True),
            (self.what, BIG_PX, True),
            (self.time, HUGE_PX, True),
            (self.rest, 24, False),
            (self.dries, 24, False),
            (self.next, 22, False),
        ):
            weight = "600" if bold else "400"
            label.setStyleSheet(f"font-size: {pixels}px; font-weight: {weight};")
            label.setWordWrap(label is self.what or label is self.dries)
        self.what.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.time.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._build()
        self._timer = QTimer(self)
        self._timer.setInterval(TICK_MS)
        self._timer.timeout.connect(self.tick)
        self._timer.start()
        self._show()

    def _build(self) -> None:
        top = QHBoxLayout()
        top.addWidget(self.kind)
        top.addStretch(1)
        top.addWidget(self.rest)
        pictures = QHBoxLayout()
        pictures.setSpacing(20)
        pictures.addWidget(self.load, 1)
        pictures.addWidget(self.place, 1)
        row = self._deeds()
        foot = QHBoxLayout()
        foot.addWidget(self.dries, 1)
        foot.addWidget(self.next)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(28, 20, 28, 20)
        outer.setSpacing(12)
        outer.addLayout(top)
        outer.addWidget(self.what)
        outer.addLayout(pictures, 1)
        outer.addWidget(self.time)
        outer.addLayout(foot)
        self.hand = QWidget()
        row.setContentsMargins(0, 0, 0, 0)
        self.hand.setLayout(row)
        outer.addWidget(self.hand)
        self.question = self._question()
        outer.addWidget(self.question)
        self.question.hide()

    def _deeds(self) -> QGridLayout:
        """Return what the hand may do with a card, in one row."""
        self.buttons: dict[str, QPushButton] = {}
        row = QGridLayout()
        row.setSpacing(14)
        acts: tuple[tuple[str, str, Callable[[], None], int], ...] = (
            (phrase("Back"), phrase("The last card again (Backspace)"), self.do_undo, 1),
            (phrase("Leave out"), phrase("Not this one (S)"), self.do_skip, 1),
            (phrase("Pause"), phrase("The hand rests, paint dries on (P)"), self.do_pause, 1),
            (phrase("Watch"), phrase("The brush moves over this card's strokes (V)"), self.do_watch, 1),
            (phrase("Done"), phrase("This is done, the next card (Space)"), self.do_done, 3),
            (
                phrase("End"),
                phrase("Asks whether to leave the run; what is done is written down (Esc)"),
                self.do_end,
                1,
            ),
        )
        column = 0
        for words, hint, act, wide in acts:
            button = QPushButton(words)
            button.setMinimumHeight(TARGET_PX)
            button.setToolTip(hint)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setProperty("main" if words == phrase("Done") else "chip", True)
            button.setStyleSheet(f"font-size: {34 if words == 'Done' else 24}px; text-align: center;")
            button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
            button.clicked.connect(lambda _=False, do=act: do())
            row.addWidget(button, 0, column, 1, wide)
            for at in range(column, column + wide):
                row.setColumnStretch(at, 1)
            column += wide
            self.buttons[words] = button
        return row

    def _question(self) -> QWidget:
        """Return what asks before a run ends."""
        self.asked = Label("")
        self.asked.setWordWrap(True)
        self.asked.setStyleSheet("font-size: 24px;")
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(14)
        row.addWidget(self.asked, 3)
        for words, act, kind in ((phrase("Go on with it"), self.do_end, "main"), (phrase("End it"), self.end, "chip")):
            button = QPushButton(words)
            button.setMinimumHeight(TARGET_PX)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setProperty(kind, True)
            button.setStyleSheet("font-size: 24px; text-align: center;")
            button.clicked.connect(lambda _=False, do=act: do())
            row.addWidget(button, 2)
            self.buttons[words] = button
        held = QWidget()
        held.setLayout(row)
        return held

    def show_arranged(self, arranged: Arranged, pictures: Mapping[str, Picture]) -> None:
        """Draw loads and places from an order; the run itself stays as it is."""
        if arranged is not self.load.arranged:
            self.load.arranged = self.place.arranged = arranged
            self.place.pictures = pictures
            self._show()

    def show_after(self, job: str, picture: Picture) -> None:
        """Show the chart as painted after a job, from near."""
        self.place.after[job] = picture
        self.place.update()

    # --- acts ---

    def do_done(self) -> None:
        """Tick the step off; after the last one, leave and write the run down."""
        if self.run.over:
            self._leave(record=True)
        elif self.run.paused:
            self._take(resume(self.run, self._now()))
        else:
            self._take(done(self.run, self._now()))

    def do_skip(self) -> None:
        """Leave a step out, and what only leads up to it."""
        if not self.run.over:
            self._take(skip(self.run, self._now()))

    def do_undo(self) -> None:
        """Show the last card again."""
        if self.run.took:
            self._take(undo(self.run))

    def do_pause(self) -> None:
        """Let the hand rest, or go on."""
        now = self._now()
        self._take(resume(self.run, now) if self.run.paused else pause(self.run, now))

    def do_watch(self) -> None:
        """Play the strokes of this card, at the hand's speed."""
        plan = self.place.to_play()
        if plan is not None:
            from pennello.ui.widgets.play_view import PlayPage  # noqa: PLC0415 - only when wanted

            self.played = PlayPage(self.what.text()[:60], lambda: plan, self)
            self.played.show()

    def do_end(self) -> None:
        """Ask whether to leave the run; a run that is over is simply written down."""
        if self.run.over:
            self._leave(record=True)
        else:
            self._ask(on=not self.asks)

    def end(self) -> None:
        """Leave the run; what is done is written down."""
        self._leave(record=bool(self.run.took))

    @property
    def asks(self) -> bool:
        """Whether the card asks if the run should end."""
        return self.question.isVisibleTo(self)

    def _ask(self, *, on: bool) -> None:
        done = len(self.run.took)
        kept = (
            plural(
                done,
                "The {count} step that you did will be written down.",
                "The {count} steps that you did will be written down.",
            )
            if done
            else phrase("Nothing is done yet.")
        )
        self.asked.setText(phrase("End the run here? {kept} Esc goes on with it.", kept=kept))
        self.question.setVisible(on)
        self.hand.setVisible(not on)

    def _take(self, run: Run) -> None:
        self.run = run
        self.changed.emit(run)
        self._show()

    def _leave(self, *, record: bool) -> None:
        self._timer.stop()
        self.left.emit(record)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """One key each, for one hand."""
        acts = {
            Qt.Key.Key_Space: self.do_done,
            Qt.Key.Key_Return: self.do_done,
            Qt.Key.Key_Enter: self.do_done,
            Qt.Key.Key_Right: self.do_done,
            Qt.Key.Key_Backspace: self.do_undo,
            Qt.Key.Key_Left: self.do_undo,
            Qt.Key.Key_S: self.do_skip,
            Qt.Key.Key_P: self.do_pause,
            Qt.Key.Key_V: self.do_watch,
            Qt.Key.Key_Escape: self.do_end,
        }
        act = acts.get(Qt.Key(event.key()))
        if self.asks and event.key() != Qt.Key.Key_Escape:
            return  # a question is not answered by a wet finger's habit
        if act is None or event.isAutoRepeat():
            super().keyPressEvent(event)
        else:
            act()

    def closeEvent(self, event: QCloseEvent) -> None:
        """Shut from outside: the run stays on disk and can be taken up again."""
        self._timer.stop()
        super().closeEvent(event)

    # --- showing ---

    def _show(self) -> None:
        step, after = self.run.step, self.run.next_step
        self.load.show_step(step)
        self.place.show_step(step, self.run)
        if step is None:
            self.kind.setText(phrase("All done"))
            self.what.setText(phrase("Show the mirror."))
            self.buttons[phrase("Done")].setText(phrase("End") if self.rehearsal else phrase("Write it down"))
        else:
            number = phrase("{count} of {count_2}", count=len(self.run.took) + 1, count_2=len(self.run.steps))
            rehearsed = f"{phrase('Rehearsal')}  ·  " if self.rehearsal else ""
            self.kind.setText(f"{rehearsed}{_KINDS.get(step.kind, phrase('Paint'))}  ·  {number}")
            self.what.setText(step.words)
            self.buttons[phrase("Done")].setText(phrase("Go on") if self.run.paused else phrase("Done"))
        self.buttons[phrase("Pause")].setText(phrase("Go on") if self.run.paused else phrase("Pause"))
        self.next.setText(phrase("then: {after}", after=after.words) if after is not None else "")
        self.next.setText(self.next.text() if len(self.next.text()) < 64 else f"{self.next.text()[:62]} ...")
        self.buttons[phrase("Back")].setEnabled(bool(self.run.took))
        self.buttons[phrase("Watch")].setEnabled(self.place.to_play() is not None)
        for words in (phrase("Leave out"), phrase("Pause")):
            self.buttons[words].setEnabled(not self.run.over)
        self.tick()

    def tick(self) -> None:
        """Show the time as it is now."""
        now = self._now()
        step = self.run.step
        self.rest.setText(
            phrase(
                "{hand_s} of the hand, about {left_s} to go",
                hand_s=clock(hand_s(self.run, now)),
                left_s=clock(left_s(self.run, now)),
            )
        )
        if step is None:
            self.time.setText(clock(hand_s(self.run, now)))
        elif step.kind is StepKind.WAIT:
            left = ready_in_s(self.run, self._lags, now)
            self.time.setText(phrase("ready in {left:.0f} s", left=left) if left > 0 else phrase("ready"))
        else:
            self.time.setText(
                phrase("{step_s}  of {seconds}", step_s=clock(step_s(self.run, now)), seconds=clock(step.seconds))
            )
        told = []
        names = {one.id: one.name for one in self.run.steps}
        for one in drying(self.run, self._lags, now)[:2]:
            if one.ready_s > 0:
                until = phrase("until it is tacky") if one.closes_s is not None else phrase("to dry")
                told.append(
                    phrase(
                        "{names}: {ready_s:.0f} s {until}",
                        names=names.get(one.job, one.job),
                        ready_s=one.ready_s,
                        until=until,
                    )
                )
            elif one.closes_s is not None and one.closes_s > 0:
                told.append(
                    phrase(
                        "{names}: the gate shuts in {closes_s:.0f} s",
                        names=names.get(one.waiting, one.waiting),
                        closes_s=one.closes_s,
                    )
                )
        self.dries.setText("   ".join(told))
