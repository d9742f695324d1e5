"""Pictures of motifs and strokes as they are laid, got in the background for the loads of the plan, and kept."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import QObject, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QImage, QPainter, QPixmap

from pennello.design.plan import Plan, Skin
from pennello.session.catalogue import CataloguePicture, Pictures, rests_on
from pennello.session.jobs import Job, Jobs
from pennello.session.shipped_pictures import shipped
from pennello.ui.widgets.mat import centred
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.painting import painting
from pennello.ui.work import begin

SOON_MS = 1200
"""How long the plan must rest before its pictures are looked for: the chart itself comes first."""


@dataclass(frozen=True, slots=True)
class Seen:
    """A picture, and what it covers, mm."""

    image: QImage
    width_mm: float
    height_mm: float

    def tile(self, size: QSize) -> QPixmap:
        """Return the picture in the middle of a tile of its skin, twice as fine as its size."""
        return tile(self.image, size)


def tile(image: QImage, size: QSize) -> QPixmap:
    """Return an image in the middle of a tile of its own ground, twice as fine as the tile's size."""
    pixmap = QPixmap(size * 2)
    pixmap.setDevicePixelRatio(2.0)
    pixmap.fill(image.pixelColor(0, 0) if not image.isNull() else Qt.GlobalColor.transparent)
    if not image.isNull():
        scale = min(size.width() / image.width(), size.height() / image.height())
        with painting(pixmap) as painter:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            area = QRectF(0, 0, size.width(), size.height())
            painter.drawImage(centred(area, image.width() * scale, image.height() * scale), image)
    return pixmap


class Gallery(QObject):
    """Pictures by key: in the colours of a plan where they are painted, and until then those that ship, on its skin.

    Signals
    -------
    found(str), progress(float), ready
        One is there; how far it is; all are there.
    """

    found = Signal(str)
    progress = Signal(float)
    ready = Signal()

    def __init__(self, what: str, skin: Skin, parent: QObject) -> None:
        super().__init__(parent)
        self._what, self._skin, self._jobs = what, skin, Jobs()
        self.pictures: dict[str, Seen] = {}
        self._of: Plan | None = None
        self._plan: Plan | None = None
        self._looking = False
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._look)

    def show_plan(self, plan: Plan, after_ms: int | None = None) -> None:
        """Look for the pictures of a plan's loads, once it has rested; those that are there stay until then."""
        of = rests_on(plan)
        if of == self._of and (self.pictures or self._soon.isActive()):
            if after_ms == 0 and self._soon.isActive():
                self._soon.start(0)
            return
        self._of, self._plan, self._skin = of, plan, plan.skin
        self._soon.start(SOON_MS if after_ms is None else after_ms)

    def seen(self, key: str) -> Seen | None:
        """Return the picture of one: as the plan's loads lay it, or as it ships; None where there is neither."""
        if key in self.pictures:
            return self.pictures[key]
        one = shipped(self._what, key, self._skin)
        return None if one is None else Seen(to_image(one.picture), one.width_mm, one.height_mm)

    def wait(self) -> None:
        """Leave off until pictures are asked for again: something else comes first. Those that are there are kept."""
        if self._soon.isActive() or self._looking:
            self._soon.stop()
            self._jobs.cancel("gallery")
            self._looking, self._of = False, None

    def _look(self) -> None:
        plan, what = self._plan, self._what
        if plan is None:
            return

        def work(job: Job[Any]) -> dict[str, CataloguePicture]:
            return Pictures(plan).all(what, job.report, job.found.emit)

        self._looking = True
        begin(
            self._jobs,
            "gallery",
            self,
            work,
            finished=self._looked,
            failed=self._looked,
            found=self._take,
            progress=lambda part, _: self.progress.emit(part),
        )

    def _looked(self, _: object) -> None:
        self._looking = False
        self.ready.emit()

    def _take(self, one: CataloguePicture) -> None:
        self.pictures[one.key] = Seen(to_image(one.picture), one.width_mm, one.height_mm)
        self.found.emit(one.key)

    def close_all(self) -> None:
        """Stop looking; the window or page closes."""
        self._soon.stop()
        self._jobs.close()
