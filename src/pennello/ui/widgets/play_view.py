"""Strokes played: the brush moves over them at the hand's speed; pause, slower, stroke by stroke, space toggles."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtCore import QElapsedTimer, QRectF, QSignalBlocker, QSize, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QImage, QKeyEvent, QPainter
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QPushButton,
    QSlider,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from pennello.design.plan import Plan
from pennello.phrases import phrase
from pennello.session.jobs import Job, Jobs
from pennello.session.play import FRAMES_S, MOST_WRITTEN_PIXELS, Playing, animation
from pennello.ui.widgets.asking import ask_target
from pennello.ui.widgets.mat import Surface, centred
from pennello.ui.widgets.motion import less_motion
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.passing import goes_when_closed
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import ThinBar
from pennello.ui.work import begin

SPEEDS = (1.0, 0.5, 0.25)
_SPEED_WORDS = {1.0: phrase("the hand's speed"), 0.5: phrase("half as fast"), 0.25: phrase("a quarter as fast")}
_GRAIN = 1000

Made = Callable[[], Plan]


class PlayView(QWidget):
    """A picture that plays, and what it is driven by.

    With less motion (see `less_motion`) it does not move by itself: play shows one stroke after another, finished.
    """

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.playing: Playing | None = None
        self.at_s, self.speed = 0.0, 1.0
        self._image: QImage | None = None
        self._jobs = Jobs()
        self._clock, self._timer = QElapsedTimer(), QTimer(self)
        self._timer.setInterval(round(1000 / FRAMES_S))
        self._timer.timeout.connect(self._tick)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(
            phrase("Strokes as they are pulled: space plays and pauses, arrows go from stroke to stroke")
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self.surface = Surface(self)
        self.surface.draw = self._draw
        column.addWidget(self.surface, 1)
        self.words = Label("")
        self.words.setObjectName("note")
        column.addWidget(self.words)
        column.addLayout(self._buttons())

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(4)
        self.play, self.back, self.step, self.slower = (QToolButton() for _ in range(4))
        for button, words, hint, act in (
            (self.play, phrase("Play"), phrase("Play or pause (space)"), self.toggle),
            (self.back, phrase("Back"), phrase("To the stroke before (left arrow)"), partial(self.go, -1)),
            (self.step, phrase("Next"), phrase("To the next stroke (right arrow)"), partial(self.go, 1)),
            (self.slower, phrase("Slower"), phrase("As fast as the hand, half as fast, a quarter as fast"), self.slow),
        ):
            button.setText(words)
            button.setToolTip(hint)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(lambda _=False, do=act: do())
            row.addWidget(button)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, _GRAIN)
        self.slider.setAccessibleName(phrase("When in the playing"))
        self.slider.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.slider.valueChanged.connect(self._seek)
        row.addWidget(self.slider, 1)
        return row

    @property
    def moving(self) -> bool:
        """Whether it plays now."""
        return self._timer.isActive()

    def show_plan(self, make: Made, px_per_mm: float = 4.0, *, start: bool = False) -> None:
        """Show the strokes of a plan, finished; the plan is made and got ready in the background.

        Parameters
        ----------
        make
            Gives the plan whose strokes are played in their order.
        start
            Whether it plays at once.
        """
        self.pause()
        self.playing, self._image = None, None
        self.words.setText(phrase("getting ready ..."))
        self.surface.update()
        begin(
            self._jobs,
            "play",
            self,
            lambda job: Playing(make(), px_per_mm, report=job.report),
            finished=lambda ready: self._take(ready, start=start),
            failed=self.words.setText,
        )

    def _take(self, playing: Playing, *, start: bool) -> None:
        self.playing = playing
        self.seek(playing.seconds)
        if start:
            self.toggle()

    def toggle(self) -> None:
        """Play on, from the start again at the end; or pause."""
        if self.playing is None:
            return
        if self.moving:
            self.pause()
            return
        if self.at_s >= self.playing.seconds:
            self.seek(0.0)
        self._timer.setInterval(900 if less_motion() else round(1000 / FRAMES_S))
        self._clock.start()
        self._timer.start()
        self.play.setText(phrase("Pause"))

    def pause(self) -> None:
        """Hold it where it is."""
        self._timer.stop()
        self.play.setText(phrase("Play"))

    def slow(self) -> None:
        """Play at the next slower speed, the hand's own after the slowest."""
        self.speed = SPEEDS[(SPEEDS.index(self.speed) + 1) % len(SPEEDS)]
        self._say()

    def go(self, by: int) -> None:
        """Show the stroke that many further, finished."""
        if self.playing is not None:
            self.pause()
            beats = self.playing.beats
            here = self.playing.beat_at(self.at_s)
            finished = self.at_s >= beats[here].end_s
            to = here + by if by > 0 and finished else here if by > 0 else here - 1
            self.seek(beats[min(max(to, 0), len(beats) - 1)].end_s if to >= 0 else 0.0)

    def seek(self, at_s: float) -> None:
        """Show a time, s."""
        if self.playing is None:
            return
        self.at_s = min(max(at_s, 0.0), self.playing.seconds)
        self._image = to_image(self.playing.frame(self.at_s, brush=self.at_s < self.playing.seconds))
        with QSignalBlocker(self.slider):
            self.slider.setValue(round(_GRAIN * self.at_s / self.playing.seconds))
        self._say()
        self.surface.update()

    def _seek(self, value: int) -> None:
        if self.playing is not None:
            self.pause()
            self.seek(value / _GRAIN * self.playing.seconds)

    def _tick(self) -> None:
        if self.playing is None:
            return
        if less_motion():
            here = self.playing.beat_at(self.at_s)
            last = here == len(self.playing.beats) - 1
            self.seek(self.playing.seconds if last else self.playing.beats[here + 1].end_s)
        else:
            self.seek(self.at_s + self._clock.restart() / 1000 * self.speed)
        if self.at_s >= self.playing.seconds:
            self.pause()

    def _say(self) -> None:
        playing = self.playing
        if playing is None:
            return
        number = playing.beat_at(self.at_s)
        beat = playing.beats[number]
        self.words.setText(
            phrase(
                "{beat}, stroke {number} of {count}; {at_s:.1f} s of {seconds:.0f} s of pulling, {speed_words}",
                beat=beat.name,
                number=number + 1,
                count=len(playing.beats),
                at_s=self.at_s,
                seconds=playing.seconds,
                speed_words=_SPEED_WORDS[self.speed],
            )
        )

    def _draw(self, painter: QPainter) -> None:
        if self._image is None:
            return
        area = QRectF(self.surface.rect()).adjusted(4, 4, -4, -4)
        scale = min(area.width() / self._image.width(), area.height() / self._image.height())
        painter.drawImage(centred(area, self._image.width() * scale, self._image.height() * scale), self._image)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Play, pause, go from stroke to stroke."""
        acts: dict[Qt.Key, Callable[[], None]] = {
            Qt.Key.Key_Space: self.toggle,
            Qt.Key.Key_Right: partial(self.go, 1),
            Qt.Key.Key_Left: partial(self.go, -1),
        }
        act = acts.get(Qt.Key(event.key()))
        if act is None:
            super().keyPressEvent(event)
            return
        act()
        event.accept()

    def leave(self) -> None:
        """Stop the clock and what is got ready; the page closes."""
        self._timer.stop()
        self._jobs.leave()
        self.playing = None


class PlayPage(QDialog):
    """Strokes played at large, to be written as a moving picture."""

    def __init__(self, title: str, make: Made, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("{title}, as it is pulled", title=title))
        self.resize(QSize(860, 640))
        goes_when_closed(self)
        self._make, self._jobs = make, Jobs()
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        self.view = PlayView(self)
        column.addWidget(self.view, 1)
        self.bar = ThinBar()
        self.bar.hide()
        column.addWidget(self.bar)
        foot = QHBoxLayout()
        self.said = Label("")
        self.said.setObjectName("note")
        self.write = QPushButton(phrase("As a moving picture ..."))
        close = QPushButton(phrase("Close"))
        for button, act in ((self.write, self.ask_file), (close, self.close)):
            button.setProperty("chip", True)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, do=act: do())
        foot.addWidget(self.said, 1)
        foot.addWidget(self.write)
        foot.addWidget(close)
        column.addLayout(foot)
        self.view.show_plan(make, start=not less_motion())
        self.view.setFocus()

    def ask_file(self) -> None:
        """Ask where and write it as APNG or GIF."""
        path = ask_target(self, phrase("As a moving picture"), Path.home() / "strokes.png", (".png", ".gif"))
        if path is not None:
            self.write_file(path)

    def write_file(self, path: Path) -> None:
        """Write it in the background."""
        from pennello.disk import write_bytes  # noqa: PLC0415

        make, speed = self._make, self.view.speed
        kind = "gif" if path.suffix.lower() == ".gif" else "apng"

        def work(job: Job[Any]) -> None:
            playing = Playing(make(), most_pixels=MOST_WRITTEN_PIXELS, report=job.report)
            write_bytes(animation(playing, kind, speed, job.report), path)

        self.bar.show()
        self.write.setEnabled(False)
        begin(
            self._jobs,
            "write",
            self,
            work,
            finished=lambda _: self._ended(phrase("Wrote {path}.", path=path)),
            failed=self._ended,
            progress=self.bar.show_part,
        )

    def _ended(self, words: str) -> None:
        self.bar.hide()
        self.write.setEnabled(True)
        self.said.setText(words)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Stop what runs."""
        self.view.leave()
        self._jobs.leave()
        super().closeEvent(event)
