"""What lies still on the chart's board, each as one picture that is made anew only when something in it is another."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QSize
from PySide6.QtGui import QColor, QImage, QPainter, QPixmap

from pennello.design.laid_marks import SeenMark
from pennello.design.surface import draw_contours, draw_features, draw_mark, draw_skin, skin_outlines
from pennello.session.chart_photo import Picture
from pennello.session.chart_scene import Painted, lit
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.chart_drawing import (
    ChartView,
    draw_painted,
    draw_photo,
    draw_pin,
    ink_of,
    painted_image,
    surface_of,
    wet_image,
)
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.painting import painting


@dataclass(frozen=True, slots=True)
class BoardLook:
    """How a board is looked at: where the chart lies, how large the board is and how fine, and the skin's colour."""

    view: ChartView
    size: QSize
    ratio: float
    skin: QColor


class _Layer:
    """One picture, kept as long as its key is the same."""

    def __init__(self) -> None:
        self._kept: tuple[object, QPixmap] | None = None

    def get(self, key: object, seen: BoardLook, ground: QColor | QPixmap, draw: Callable[[QPainter], None]) -> QPixmap:
        """Return the picture; where it is another one, it is drawn on a colour or on a copy of another picture."""
        whole = (key, seen.view, seen.size, seen.ratio, theme())
        if self._kept is None or self._kept[0] != whole:
            pixmap = QPixmap(seen.size * seen.ratio) if isinstance(ground, QColor) else QPixmap(ground)
            if pixmap.isNull():
                return pixmap  # squeezed to nothing
            if isinstance(ground, QColor):
                pixmap.setDevicePixelRatio(seen.ratio)
                pixmap.fill(ground)
            with painting(pixmap) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
                draw(painter)
            self._kept = (whole, pixmap)
        return self._kept[1]


class StillPicture:
    """Skin, paint and lines of a chart, and its pins; bare skin is kept apart, since paint changes with each step."""

    def __init__(self, model: ChartModel) -> None:
        self._model = model
        self._skin, self._whole, self._pins = _Layer(), _Layer(), _Layer()
        self._image: tuple[Painted, QImage] | None = None
        self._wet: tuple[Painted, QImage | None] | None = None
        self._photo: tuple[Picture, QImage] | None = None

    def whole(self, seen: BoardLook, *, wet: bool) -> QPixmap:
        """Return skin, paint and lines as one picture, with what is still wet if so."""
        model = self._model
        painted, photo = self._lying(), model.photo
        over = tuple(mark for mark in model.plan.overlays if mark.chart == model.key)
        bare = (model.chart, None if photo is None else (id(photo.picture), photo.onto.tobytes()))
        bare_key = (bare, seen.skin.name(), model.plan.light)
        ground = self._skin.get(bare_key, seen, QColor(theme().mat), lambda painter: self._draw_bare(painter, seen))
        key = (bare_key, id(painted), bool(model.motifs), over, wet)
        return self._whole.get(key, seen, ground, lambda painter: self._draw_over(painter, seen, painted, wet=wet))

    def pins(self, seen: BoardLook) -> QPixmap:
        """Return the pins where something is odd as one picture."""

        def draw(painter: QPainter) -> None:
            for number, odd in enumerate(self._model.odd, 1):
                draw_pin(painter, seen.view.to_px(odd.x_mm, odd.y_mm), number)

        return self._pins.get(self._model.odd, seen, QColor(0, 0, 0, 0), draw)

    def _lying(self) -> Painted | None:
        """Return what lies still: all that is painted, or what the hand left lying."""
        carried = self._model.carried
        return carried.rest if carried is not None else self._model.painted

    def _draw_bare(self, painter: QPainter, seen: BoardLook) -> None:
        """Draw skin and features, or the photo that stands for them."""
        chart, photo = self._model.chart, self._model.photo
        if photo is None:
            surface = surface_of(painter, seen.view)
            draw_skin(surface, chart, ink_of(seen.skin), self._model.plan.light)
            draw_features(surface, chart, ink_of(seen.skin))
            return
        if self._photo is None or self._photo[0] is not photo.picture:
            self._photo = (photo.picture, to_image(photo.picture))
        draw_photo(painter, self._photo[1], photo.onto, seen.view)

    def _draw_over(self, painter: QPainter, seen: BoardLook, painted: Painted | None, *, wet: bool) -> None:
        """Draw what is painted, what lies over it, and the lines of the face."""
        chart = self._model.chart
        surface = surface_of(painter, seen.view)
        with surface.within(skin_outlines(chart)):
            self._draw_paint(painter, seen.view, painted, wet=wet)
        if self._model.photo is None:
            draw_contours(surface, chart, ink_of(seen.skin))

    def _draw_paint(self, painter: QPainter, view: ChartView, painted: Painted | None, *, wet: bool) -> None:
        model = self._model
        if painted is not None and painted.chart == model.key and model.motifs:
            if self._image is None or self._image[0] is not painted:
                self._image = (painted, painted_image(painted))
            draw_painted(painter, self._image[1], painted.canvas, view)
            if wet:
                self._draw_wet(painter, view, painted)
        surface = surface_of(painter, view)
        for mark in model.plan.overlays:
            if mark.chart != model.key:
                continue
            seen = SeenMark(mark) if painted is None else painted.to_draw(mark)
            if seen is not None:
                draw_mark(surface, lit(mark, model.plan.light), seen.shows)

    def _draw_wet(self, painter: QPainter, view: ChartView, painted: Painted) -> None:
        if self._wet is None or self._wet[0] is not painted:
            self._wet = (painted, wet_image(painted))
        if self._wet[1] is not None:
            draw_painted(painter, self._wet[1], painted.canvas, view)
