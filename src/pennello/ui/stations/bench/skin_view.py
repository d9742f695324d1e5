"""Between mm on the skin and px on the mat."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF

MOST_PX_PER_MM = 7.0


@dataclass(frozen=True, slots=True)
class SkinView:
    """Scale in px per mm, and where the skin's origin lies on the mat."""

    scale: float = 4.0
    left: float = 0.0
    top: float = 0.0

    def point(self, x_mm: float, y_mm: float) -> QPointF:
        """Return the place on the mat."""
        return QPointF(self.left + x_mm * self.scale, self.top + y_mm * self.scale)

    def rect(self, x_mm: float, y_mm: float, width_mm: float, height_mm: float) -> QRectF:
        """Return the rectangle on the mat."""
        return QRectF(self.point(x_mm, y_mm), self.point(x_mm + width_mm, y_mm + height_mm))


def view_of(low: tuple[float, float], high: tuple[float, float], area: QRectF) -> SkinView:
    """Return the view that shows a rectangle of skin in the middle of an area, as large as it can be up to 7 px/mm."""
    width, height = max(high[0] - low[0], 1.0), max(high[1] - low[1], 1.0)
    scale = min(MOST_PX_PER_MM, area.width() / width, area.height() / height)
    middle = area.center()
    left = middle.x() - (low[0] + high[0]) / 2 * scale
    top = middle.y() - (low[1] + high[1]) / 2 * scale
    return SkinView(float(scale), float(left), float(top))
