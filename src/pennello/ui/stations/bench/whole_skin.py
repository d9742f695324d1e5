"""All strokes on one skin, laid by a worker; the mat shows the last that came."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import numpy as np
from PySide6.QtCore import QObject, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QImage, QPainter

from pennello.design.plan import Plan
from pennello.phrases import phrase
from pennello.session.forecast import Outcome
from pennello.session.jobs import Job
from pennello.session.skin_scene import SceneView, SkinScene
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.bench.skin_view import SkinView
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import draw_note, to_image
from pennello.units import de_text

MUDDY_DE00 = 1.5
"""Wet paint below is worth a word from here on (a default)."""


_Laid = tuple[SceneView, np.ndarray | None, float]


@dataclass(frozen=True, slots=True, eq=False)
class ShownSkin:
    """A scene with its picture, where it is still wet, and how far wet paint below muddies the stroke in the hand."""

    view: SceneView
    image: QImage
    wet: QImage | None
    muddied_de00: float


class WholeSkin(QObject):
    """Follows the plan while it is switched on.

    Signals
    -------
    ready
        Another picture is there.
    """

    ready = Signal()

    def __init__(self, model: BenchModel, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._model = model
        self._scene = SkinScene()
        self._asked: object = None
        self.on = False
        self.show_wet = False
        self.after_s = 0.0
        self.shown: ShownSkin | None = None
        model.shown.connect(self.ask)
        model.rested.connect(lambda resting: self.let_go() if resting else self.ask())

    def switch(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        """Show all strokes, or only the one on the Bench."""
        self.on = on
        self.let_go()
        self.ask()
        self.ready.emit()

    def let_go(self) -> None:
        """Let go of the films, which are large; the picture stays, and they are made again when they are asked for."""
        self._scene, self._asked = SkinScene(), None

    def ask(self) -> None:
        """Let a worker lay the plan's strokes, if anything is another."""
        plan, stroke = self._model.plan, self._model.stroke
        wish = (plan, stroke.id if stroke else "", self.show_wet, self.after_s)
        if not self.on or stroke is None or (self._asked and _same(self._asked, wish)):
            return
        self._asked = wish
        focus = [one.id for one in plan.strokes].index(stroke.id)
        scene, after_s = self._scene, self.after_s if self.show_wet else None
        self._model.start_job(
            "scene",
            self,
            lambda running: _laid(scene, plan, focus, after_s, running),
            lambda laid: self._take(plan, laid),
        )

    def _take(self, plan: Plan, laid: _Laid) -> None:
        if self.on and plan is self._model.plan:
            view, wet, muddied = laid
            self.shown = ShownSkin(view, to_image(view.picture), None if wet is None else _wet_image(wet), muddied)
            self.ready.emit()


def _laid(scene: SkinScene, plan: Plan, focus: int, after_s: float | None, job: Job[_Laid]) -> _Laid:
    """Lay the strokes; a worker does, and touches nothing of the window."""
    view = scene.show(plan, focus, check=job.check)
    job.report(0.9, phrase("looking at what is wet"))
    wet = None if after_s is None else scene.wetness(view.ends_s + after_s, plan.dry_after_s)
    return view, wet, scene.muddied_de00(plan, focus)


def draw_whole(painter: QPainter, area: QRectF, view: SkinView, shown: ShownSkin) -> None:
    """Draw all strokes, where they are wet, and a word where wet paint muddies the stroke in the hand."""
    canvas = shown.view.canvas
    size = (canvas.columns / canvas.px_per_mm, canvas.rows / canvas.px_per_mm)
    rect = view.rect(canvas.left_mm, canvas.top_mm, *size)
    painter.drawImage(rect, shown.image)
    if shown.wet is not None:
        painter.drawImage(rect, shown.wet)
    if shown.muddied_de00 >= MUDDY_DE00:
        words = phrase(
            "wet below: this stroke comes out {de} muddier; wait, or lay it earlier", de=de_text(shown.muddied_de00)
        )
        pill = QRectF(area.left() + 10, area.bottom() - px(20) - 8, px(16 + 6.2 * len(words)), px(20))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme().mat))
        painter.drawRoundedRect(pill, 8, 8)
        draw_note(painter, pill, words)


class Backdrop:
    """A photo of the painter's own, faint below the stroke, to trace."""

    def __init__(self) -> None:
        self._image: QImage | None = None
        self._wide_mm = 0.0
        self._middle = np.zeros(2)

    def take(self, name: str, wide_mm: float) -> None:
        """Take a picture that shows so many mm; raises FileProblemError."""
        from pennello.files.swatch import read_picture  # noqa: PLC0415 - Pillow only for photos

        self._image, self._wide_mm = to_image(read_picture(Path(name))), wide_mm

    def draw(self, painter: QPainter, view: SkinView, outcome: Outcome, *, held: bool) -> None:
        """Draw it round the middle of the path; it stays while a hand drags."""
        if self._image is None:
            return
        points = np.array(outcome.attempt.stroke.path.points_mm)
        if not held:
            self._middle = (points.min(axis=0) + points.max(axis=0)) / 2
        wide, high = self._wide_mm, self._wide_mm * self._image.height() / self._image.width()
        x, y = (float(value) for value in self._middle)
        painter.setOpacity(0.35)
        painter.drawImage(view.rect(x - wide / 2, y - high / 2, wide, high), self._image)
        painter.setOpacity(1.0)


def _same(one: object, other: object) -> bool:
    return bool(isinstance(one, tuple) and isinstance(other, tuple) and one[0] is other[0] and one[1:] == other[1:])


def _wet_image(values: np.ndarray) -> QImage:
    """Return a blue veil, the stronger the wetter, with a step at tacky."""
    rows, columns = values.shape
    picture = np.zeros((rows, columns, 4), np.uint8)
    picture[..., :3] = (250, 250, 255)
    picture[..., 3] = np.where(values > 0.1, 40 + 130 * np.clip(values, 0, 1), 0)
    return to_image(picture)
