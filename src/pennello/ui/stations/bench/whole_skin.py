"""All strokes on one skin, laid by a worker; the mat shows the last that came."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QImage

from pennello.design.plan import Plan
from pennello.session.jobs import Job
from pennello.session.skin_scene import SceneView, SkinScene
from pennello.ui.stations.bench.model import BenchModel
from pennello.ui.widgets.paint import to_image


@dataclass(frozen=True, slots=True, eq=False)
class Shown:
    """A scene with its picture, and where it is still wet."""

    view: SceneView
    image: QImage
    wet: QImage | None


class WholeSkin(QObject):
    """Follows the plan while it is switched on.

    Signals
    -------
    ready
        Another picture is there.
    """

    ready = Signal()
    _arrived = Signal(object, object)

    def __init__(self, model: BenchModel, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._model = model
        self._scene = SkinScene()
        self._asked: object = None
        self.on = False
        self.show_wet = False
        self.after_s = 0.0
        self.shown: Shown | None = None
        self._arrived.connect(self._take)
        model.shown.connect(self.ask)

    def switch(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        """Show all strokes, or only the one on the Bench."""
        self.on = on
        self._asked = None
        self.ask()
        self.ready.emit()

    def ask(self) -> None:
        """Let a worker lay the plan's strokes, if anything is another."""
        plan, stroke = self._model.plan, self._model.stroke
        wish = (plan, stroke.id if stroke else "", self.show_wet, self.after_s)
        if not self.on or stroke is None or (self._asked and _same(self._asked, wish)):
            return
        self._asked = wish
        focus = [one.id for one in plan.strokes].index(stroke.id)
        job: Job[Shown] = Job(lambda running: self._work(plan, focus, running))
        job.finished.connect(lambda shown: self._arrived.emit(plan, shown))
        job.failed.connect(self._model.failed.emit)
        self._model.start_job("scene", job)

    def _work(self, plan: Plan, focus: int, job: Job[Shown]) -> Shown:
        view = self._scene.show(plan, focus)
        job.report(0.9, "looking at what is wet")
        wet = None
        if self.show_wet:
            values = self._scene.wetness(view.ends_s + self.after_s, plan.dry_after_s)
            wet = _wet_image(values) if values is not None else None
        return Shown(view, to_image(view.picture), wet)

    def _take(self, plan: Plan, shown: Shown) -> None:
        if self.on and plan is self._model.plan:
            self.shown = shown
            self.ready.emit()


def _same(one: object, other: object) -> bool:
    return bool(isinstance(one, tuple) and isinstance(other, tuple) and one[0] is other[0] and one[1:] == other[1:])


def _wet_image(values: np.ndarray) -> QImage:
    """Return a blue veil, the stronger the wetter, with a step at tacky."""
    rows, columns = values.shape
    picture = np.zeros((rows, columns, 4), np.uint8)
    picture[..., :3] = (250, 250, 255)
    picture[..., 3] = np.where(values > 0.1, 40 + 130 * np.clip(values, 0, 1), 0)
    data = np.ascontiguousarray(picture)
    return QImage(data.data, columns, rows, 4 * columns, QImage.Format.Format_RGBA8888).copy()
