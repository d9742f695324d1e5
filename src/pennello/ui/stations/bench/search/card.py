"""A card of the board: a cake with the brush on it, the wanted ribbon over the laid one, and what speaks for it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QSizePolicy

from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Paint
from pennello.load.look import cake_colours
from pennello.load.recipe import PickUp
from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import Picture, draw_note, draw_state, strip_image
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import tip

CARD_PX = QSize(192, 140)
_PAD, _LINE_PX = 10, 15
_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_WRAP = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap


@dataclass(frozen=True, slots=True, eq=False)
class ShownFind:
    """What a card shows.

    Attributes
    ----------
    places
        Where brushes lie on the cake: each pick-up from it with its brush.
    ribbons
        Wanted and laid colours, sRGB bytes, shape (n, 3) each.
    state
        holds, close or misses; nothing shows no mark.
    figure
        The main figure with its unit.
    lines
        Further words, the most telling first.
    """

    title: str
    cake: Cake
    paints: Mapping[str, Paint]
    places: Sequence[tuple[PickUp, Applicator]]
    ribbons: Sequence[Picture]
    state: str
    figure: str
    lines: Sequence[str]


def source_of(
    pickups: Sequence[PickUp], cakes: Sequence[Cake], paints: Mapping[str, Paint], brush: Applicator
) -> tuple[str, Cake, list[tuple[PickUp, Applicator]]]:
    """Return what a card shows of where a load comes from: a title, a cake, and where the brush lies on it.

    A load from pans shows their paints side by side, as a cake that the brush does not lie on.
    """
    cake = next((one for pickup in pickups for one in cakes if one.id == pickup.cake), None)
    if cake is not None:
        return cake.name, cake, [(one, brush) for one in pickups if one.cake == cake.id]
    names = list(dict.fromkeys(portion.paint for pickup in pickups for portion in pickup.pan))
    title = ", then ".join(paints[name].name for name in names)
    stripes = tuple(Stripe(name, 10.0) for name in (names if len(names) > 1 else names * 2))
    return title, Cake("pan", title, stripes), []


class BoardCard(QAbstractButton):
    """One find; a click takes it."""

    def __init__(self) -> None:
        super().__init__()
        self.shown: ShownFind | None = None
        self.setFixedWidth(px(CARD_PX.width()))
        self.setMinimumHeight(px(CARD_PX.height()))
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_find(self, shown: ShownFind) -> None:
        """Show a find."""
        self.shown = shown
        words = ", ".join((shown.title, shown.state, shown.figure, *shown.lines))
        self.setAccessibleName(phrase("Take {words}", words=words))
        self.setToolTip(tip(phrase("{words}. Click to take it; undo gives back what was there", words=words)))
        self.update()

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the card."""
        shown, inks = self.shown, theme()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        near = self.underMouse() or self.hasFocus()
        painter.setPen(QPen(QColor(inks.accent if near else inks.line), 1.5 if near else 1))
        painter.setBrush(QColor(inks.mat))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        if shown is None:
            return
        plain = painter.font()
        inner = QRectF(self.rect()).adjusted(_PAD, 4, -_PAD, -4)
        elided = painter.fontMetrics().elidedText(shown.title, Qt.TextElideMode.ElideRight, int(inner.width()))
        draw_note(painter, QRectF(inner.left(), inner.top(), inner.width(), px(16)), elided, _LEFT)
        self._draw_cake(painter, QRectF(inner.left(), inner.top() + px(16) + 2, inner.width(), 28), shown)
        top = inner.top() + px(16) + 35
        for number, colours in enumerate(shown.ribbons):
            painter.drawImage(QRectF(inner.left(), top + number * 14, inner.width(), 14), strip_image(colours))
        line = top + 14 * len(shown.ribbons) + 2
        left = inner.left()
        if shown.state:
            draw_state(painter, shown.state, QPointF(left + 6, line + px(10)), 5)
            left += 18
        font = QFont(plain)
        font.setPixelSize(px(15))
        font.setBold(True)
        painter.setFont(font)
        painter.setPen(QColor(inks.ink))
        painter.drawText(QRectF(left, line, inner.right() - left, px(20)), _LEFT, shown.figure)
        painter.setFont(plain)
        below, high = line + px(20) + 1, px(_LINE_PX)
        room = max(int((inner.bottom() - below) / high), 1) * high + 1  # whole lines only
        draw_note(painter, QRectF(inner.left(), below, inner.width(), room), "\n".join(shown.lines), _WRAP)

    @staticmethod
    def _draw_cake(painter: QPainter, area: QRectF, shown: ShownFind) -> None:
        """Draw the cake to scale, with a brush's frame for each visit and its corner A."""
        scale = min(area.width() / (shown.cake.width_mm + 3), 6.0)
        left = area.left() + (area.width() - shown.cake.width_mm * scale) / 2
        pan = QRectF(left, area.top() + 4, shown.cake.width_mm * scale, area.height() - 8)
        painter.drawImage(pan, strip_image(cake_colours(shown.cake, shown.paints, max(int(pan.width()), 8))))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(QColor(theme().ink_2), 1))
        painter.drawRect(pan)
        for pickup, brush in shown.places:
            low = pickup.offset_mm + pickup.part[0] * brush.width_mm
            high = pickup.offset_mm + pickup.part[1] * brush.width_mm
            box = QRectF(left + low * scale, area.top(), (high - low) * scale, area.height())
            painter.setPen(QPen(QColor("#ffffff"), 3))
            painter.drawRoundedRect(box, 3, 3)
            painter.setPen(QPen(QColor(theme().accent), 1.6))
            painter.drawRoundedRect(box, 3, 3)
            corner = box.topRight() if pickup.flip else box.topLeft()
            painter.setBrush(QColor("#ffffff"))
            painter.drawEllipse(corner + QPointF(-6 if pickup.flip else 6, 8), 6, 6)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QColor("#25211D"))
            at = corner + QPointF(-12 if pickup.flip else 0, 2)
            painter.setFont(_small(painter))
            painter.drawText(QRectF(at.x(), at.y(), 12, 12), Qt.AlignmentFlag.AlignCenter, "A")


def _small(painter: QPainter) -> QFont:
    font = QFont(painter.font())
    font.setPixelSize(10)
    font.setBold(True)
    return font
