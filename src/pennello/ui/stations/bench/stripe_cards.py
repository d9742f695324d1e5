"""Cards of the workshop: a stripe with its depth, width and wear, and between two of them what they mix to."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QComboBox, QFrame, QGridLayout, QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from pennello.kit.cake import STRIPE_MM, Cake
from pennello.kit.cut_list import cut_list
from pennello.kit.neighbours import NeighbourMix
from pennello.load.wear import dirt_share
from pennello.phrases import named, phrase, plural
from pennello.ui.theme.icons import set_glyph
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import draw_note
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import tip
from pennello.ui.widgets.words import Words
from pennello.units import LengthUnit, length_text

WIDTH = Quantity(phrase("Width of the stripe"), *STRIPE_MM, 0.5, 1, length=True)
CARD_PX = QSize(148, 166)
MIX_PX = 62


class DepthPicture(QWidget):
    """A stripe cut through: its paint, the hollow on top, dirt as a dark edge; drag it to another place.

    Signals
    -------
    dragged(int)
        Let go so many px to the right of where it was held.
    """

    dragged = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._colour, self._hollow, self._dirt = "#888888", 0.0, 0.0
        self._from: QPointF | None = None
        self.setFixedHeight(px(38))
        self.setCursor(Qt.CursorShape.SizeAllCursor)
        self.setToolTip(phrase("Drag it to another place among the stripes"))

    def show_stripe(self, colour: str, hollow: float, dirt: float) -> None:
        """Show a colour, how hollow (0 to 1) and how dirty (0 to 1) it is."""
        if (colour, hollow, dirt) != (self._colour, self._hollow, self._dirt):
            self._colour, self._hollow, self._dirt = colour, hollow, dirt
            self.update()

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the cut."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.fillRect(box, QColor("#d8d6d2"))
        top = box.top() + 2
        sag = self._hollow * (box.height() - 4)
        curve = [
            QPointF(box.right() - box.width() * k / 16, top + sag * math.sin(math.pi * k / 16) ** 0.7)
            for k in range(17)
        ]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(self._colour))
        painter.drawPolygon(QPolygonF([*curve, QPointF(box.left(), box.bottom()), QPointF(box.right(), box.bottom())]))
        if self._dirt > 0.02:
            painter.setPen(QPen(QColor(70, 60, 50, round(60 + 195 * self._dirt)), 3))
            painter.drawPolyline(QPolygonF(curve))
        painter.setPen(QPen(QColor(theme().ink_2), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold."""
        self._from = event.globalPosition()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        if self._from is not None:
            way = round(event.globalPosition().x() - self._from.x())
            self._from = None
            if abs(way) > 12:
                self.dragged.emit(way)


class StripeCard(QFrame):
    """One stripe to change.

    Signals
    -------
    recoloured(str), widened(float), moved(int), inserted, removed
    """

    recoloured = Signal(str)
    widened = Signal(float)
    moved = Signal(int)
    inserted = Signal()
    removed = Signal()

    def __init__(self, number: int) -> None:
        super().__init__()
        self.number = number
        self.setFixedWidth(px(CARD_PX.width()))
        self.setAccessibleName(phrase("Stripe {number}", number=number + 1))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        self.picture = DepthPicture()
        self.picture.dragged.connect(lambda way: self.moved.emit(round(way / (CARD_PX.width() + MIX_PX))))
        self.paint: QComboBox = choice(phrase("Paint of stripe {number}", number=number + 1))
        self.paint.activated.connect(lambda at: self.recoloured.emit(self.paint.itemData(at)))
        self.width_mm = NumberField(WIDTH)
        self.width_mm.edited.connect(self.widened)
        self.words = Words(2)
        column.addWidget(self.picture)
        column.addWidget(self.paint)
        row = QHBoxLayout()
        row.setSpacing(2)
        row.addWidget(self.width_mm, 1)
        for glyph, words, act in (
            ("down", phrase("Swap with the stripe at its left"), lambda: self.moved.emit(-1)),
            ("plus", phrase("Put a stripe in after this one"), self.inserted.emit),
            ("away", phrase("Take this stripe out"), self.removed.emit),
        ):
            row.addWidget(self._button(glyph, words, act))
        column.addLayout(row)
        column.addWidget(self.words)

    def _button(self, glyph: str, words: str, act: object) -> QToolButton:
        button = QToolButton()
        if glyph == "down":
            button.setText("⇄")
        else:
            set_glyph(button, glyph)
        button.setToolTip(words)
        button.setAccessibleName(phrase("{words}, stripe {number}", words=words, number=self.number + 1))
        button.setFixedSize(px(26), px(26))
        button.setStyleSheet("padding: 2px;")
        button.clicked.connect(lambda _=False: act())  # type: ignore[operator]
        return button

    def show_stripe(
        self, cake: Cake, paints: list[tuple[str, object]], colour: str, unit: LengthUnit, faces: float
    ) -> None:
        """Show a stripe of a cake and for how many faces it lasts."""
        stripe = cake.stripes[self.number]
        dirt = float(dirt_share(cake)[self.number])
        self.picture.show_stripe(colour, stripe.hollow_mm / cake.depth_mm, dirt)
        fill(self.paint, paints, stripe.paint)
        self.width_mm.show_unit(unit)
        self.width_mm.show_amount(stripe.width_mm)
        grams = cut_list(cake)[self.number].grams
        wear = phrase("{grams:.1f} g, hollow {hollow_mm}", grams=grams, hollow_mm=length_text(stripe.hollow_mm, unit))
        lasts = (
            phrase("not used here")
            if math.isinf(faces)
            else plural(round(faces), "lasts about {faces:,.0f} face", "lasts about {faces:,.0f} faces", faces=faces)
        )
        parts = [lasts, phrase("{dirt:.0%} dirty", dirt=dirt)] if dirt > 0.005 else [lasts]
        self.words.setText(f"{wear}\n{', '.join(parts)}")


class MixMark(QWidget):
    """What two neighbours mix to, and its word."""

    def __init__(self) -> None:
        super().__init__()
        self._mix: NeighbourMix | None = None
        self.setFixedWidth(px(MIX_PX))

    def show_mix(self, mix: NeighbourMix, one: str, other: str) -> None:
        """Show a mix of two paints."""
        if mix != self._mix:
            self._mix = mix
            self.update()
        words = phrase("{one} with {other} {sentence}", one=one, other=other, sentence=mix.sentence)
        self.setToolTip(
            phrase(
                "{tip}\nL* {lightness:.0f}, C* {chroma:.0f}, h {hue_deg:.0f}°",
                tip=tip(words),
                lightness=mix.lightness,
                chroma=mix.chroma,
                hue_deg=mix.hue_deg,
            )
        )
        self.setAccessibleName(words)

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the swatch and the word under it."""
        if self._mix is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        swatch = QRectF(self.width() / 2 - 14, 6, 28, 28)
        painter.setPen(QPen(QColor(theme().ink_2), 1))
        painter.setBrush(QColor(self._mix.srgb))
        painter.drawEllipse(swatch)
        draw_note(painter, QRectF(0, 36, self.width(), px(18)), named(self._mix.word))


class CardRow(QWidget):
    """Stripes and mixes in the pan's order.

    Signals
    -------
    recoloured(int, str), widened(int, float), moved(int, int), inserted(int), removed(int)
        With the stripe's number first.
    """

    recoloured = Signal(int, str)
    widened = Signal(int, float)
    moved = Signal(int, int)
    inserted = Signal(int)
    removed = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.cards: list[StripeCard] = []
        self.mixes: list[MixMark] = []
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(4)

    def keep(self, count: int) -> None:
        """Have so many stripes."""
        while len(self.cards) > count:
            for gone in [self.cards.pop(), *([self.mixes.pop()] if self.mixes else [])]:
                self._grid.removeWidget(gone)
                gone.hide()
                gone.deleteLater()
        while len(self.cards) < count:
            at = len(self.cards)
            if at:
                self.mixes.append(MixMark())
                self._grid.addWidget(self.mixes[-1], 0, 2 * at - 1)
            card = StripeCard(at)
            card.recoloured.connect(lambda paint, n=at: self.recoloured.emit(n, paint))
            card.widened.connect(lambda width, n=at: self.widened.emit(n, width))
            card.moved.connect(lambda places, n=at: self.moved.emit(n, places))
            card.inserted.connect(lambda n=at: self.inserted.emit(n))
            card.removed.connect(lambda n=at: self.removed.emit(n))
            self._grid.addWidget(card, 0, 2 * at)
            self.cards.append(card)
        self._grid.setColumnStretch(2 * len(self.cards), 1)
        self.setMinimumWidth(count * px(CARD_PX.width()) + (count - 1) * (px(MIX_PX) + 8))
