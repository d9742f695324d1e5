"""The loaded edge of a load as a small picture: how a shelf of loaded brushes is told apart at a glance."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QColor, QPainter, QPen, QPixmap

from pennello.design.plan import Plan
from pennello.errors import PennelloError
from pennello.load.edge import LoadedEdge
from pennello.load.look import edge_colours
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import strip_image
from pennello.ui.widgets.painting import painting


def edge_icons(plan: Plan, size: QSize) -> Callable[[str], QPixmap]:
    """Return what gives the picture of each load of a plan, made once for as long as it is kept."""
    made: dict[str, QPixmap] = {}

    def icon(load: str) -> QPixmap:
        if load not in made:
            made[load] = edge_icon(plan, load, size)
        return made[load]

    return icon


def edge_icon(plan: Plan, load: str, size: QSize) -> QPixmap:
    """Return the bristles of a load, A at the left, twice as fine as its size; an empty frame where it cannot be."""
    pixmap = QPixmap(size * 2)
    pixmap.setDevicePixelRatio(2.0)
    pixmap.fill(QColor(0, 0, 0, 0))
    try:
        edge: LoadedEdge | None = plan.edge(load)
    except PennelloError:
        edge = None
    with painting(pixmap) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(1, 1, size.width() - 2, size.height() - 2)
        if edge is not None:
            painter.drawImage(area, strip_image(edge_colours(edge, plan.paints_by_id)))
        painter.setPen(QPen(QColor(theme().line), 1))
        painter.drawRoundedRect(area, 2, 2)
    return pixmap
