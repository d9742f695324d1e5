"""A part of a design as a small picture: cut from the chart as it is painted, where its pieces lie."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtGui import QColor, QPixmap

from pennello.design.placed import LaidPiece
from pennello.design.plan import Plan, skin_bytes
from pennello.session.chart_scene import Painted
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.painting import painting

_FINE = 2
"""Pictures are made so many times finer than they are shown: for screens with small pixels."""


def part_picture(painted: Painted, plan: Plan, pieces: Sequence[LaidPiece], size: QSize) -> QPixmap | None:
    """Return what is painted where some strokes lie, on their skin; None where the picture has nothing of them."""
    strokes = [one for one in pieces if not one.twin]
    if not strokes:
        return None
    points = np.concatenate([np.array(one.stroke.path.points_mm) for one in strokes])
    reach = max(plan.brush(plan.stroke(one.load).brush).width_mm for one in strokes) / 2
    canvas = painted.canvas
    low, high = (canvas.to_px(edge) for edge in (points.min(axis=0) - reach, points.max(axis=0) + reach))
    left, top = (max(int(value), 0) for value in low)
    cut = np.ascontiguousarray(painted.rgba[top : int(high[1]) + 1, left : int(high[0]) + 1])
    if not cut.size:
        return None
    pixmap = QPixmap(size * _FINE)
    pixmap.setDevicePixelRatio(_FINE)
    pixmap.fill(QColor(*skin_bytes(plan.skin)))
    image = to_image(cut).scaled(
        size * _FINE, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
    )
    image.setDevicePixelRatio(_FINE)
    with painting(pixmap) as painter:
        at = QRect(0, 0, image.width() // _FINE, image.height() // _FINE)
        at.moveCenter(QRect(0, 0, size.width(), size.height()).center())
        painter.drawImage(at.topLeft(), image)
    return pixmap
