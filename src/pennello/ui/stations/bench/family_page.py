"""The families of strokes as pictures that the engine makes itself; choose one, set its numbers, pull it."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QColor, QImage, QPainter
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from pennello.design.fresh import with_family_stroke
from pennello.design.plan import Plan, skin_bytes
from pennello.errors import PennelloError
from pennello.kit import catalogue
from pennello.lay.families.catalogue import FAMILIES
from pennello.lay.families.family import Family
from pennello.phrases import named, phrase
from pennello.session.forecast import coarse
from pennello.ui.gallery import Gallery
from pennello.ui.picture_list import Entry, PictureList
from pennello.ui.theme.text import px
from pennello.ui.widgets.card_row import empty_grid
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.mat import Surface, centred
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.plain import Label


class FamilyPage(QDialog):
    """All families at the left, the chosen one at large with its numbers at the right."""

    def __init__(self, plan: Plan, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Another stroke"))
        self.resize(QSize(1160, 720))
        self._plan = replace(plan, strokes=())
        self.fields: dict[str, NumberField] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        row = QHBoxLayout()
        row.setSpacing(14)
        self._gallery = Gallery("strokes", plan.skin, self)
        self.strokes = PictureList("strokes", phrase("search: petal, leaf, curl, dots ..."), self._gallery)
        row.addWidget(self.strokes, 7)
        row.addLayout(self._right(), 4)
        column.addLayout(row, 1)
        foot = LeaveOrTake(self, phrase("Pull it"))
        self.take = foot.take
        column.addLayout(foot)
        self.strokes.chosen.connect(self._show_family)
        self.strokes.taken.connect(lambda _: self.accept())
        self.strokes.fill(tuple(map(_entry, FAMILIES.values())), self._plan)

    def done(self, result: int) -> None:
        """Stop what is laid for pictures."""
        self._gallery.close_all()
        super().done(result)

    def _right(self) -> QVBoxLayout:
        box = QVBoxLayout()
        self.words = Label("")
        self.words.setWordWrap(True)
        self.picture = Surface(self)
        self.picture.setMinimumHeight(px(220))
        self.picture.draw = self._draw
        self._shown: QImage | None = None
        self.grid = QGridLayout()
        box.addWidget(self.words)
        box.addWidget(self.picture, 1)
        box.addLayout(self.grid)
        return box

    @property
    def family(self) -> Family:
        """The chosen family; the first where the search leaves none."""
        return FAMILIES[self.strokes.key or next(iter(FAMILIES))]

    @property
    def values(self) -> dict[str, float]:
        """Its numbers."""
        return {key: field.amount for key, field in self.fields.items()}

    def _show_family(self, key: str) -> None:
        self.take.setEnabled(bool(key))
        empty_grid(self.grid)
        self.fields = {}
        family = self.family
        held = phrase("Held {hold}: {hold_2}.", hold=named(family.hold), hold_2=family.hold.words)
        usual = catalogue.brushes()[family.tool].name
        self.words.setText(
            phrase(
                "{family}: {family_2}. {held} Usually with {usual}.",
                family=family.name,
                family_2=family.words,
                held=held,
                usual=usual,
            )
        )
        for row, one in enumerate(family.parameters):
            decimals = 2 if one.high <= 1 else 1
            suffix = f" {one.unit}" if one.unit and one.unit != "mm" else ""
            step = 0.05 if one.high <= 1 else 1.0
            quantity = Quantity(one.name, one.low, one.high, step, decimals, suffix, length=one.unit == "mm")
            field = NumberField(quantity)
            field.show_amount(one.default)
            field.edited.connect(lambda _: self._follow())
            name = Label(one.name)
            name.setBuddy(field)
            self.grid.addWidget(name, row, 0)
            self.grid.addWidget(field, row, 1)
            self.fields[one.key] = field
        self._follow()

    def _follow(self) -> None:
        self._shown = self._picture(self.family, self.values)
        self.picture.update()

    def _skin(self) -> QColor:
        return QColor(*skin_bytes(self._plan.skin))

    def _picture(self, family: Family, values: dict[str, float]) -> QImage | None:
        try:
            return to_image(coarse(*with_family_stroke(self._plan, family.key, values)).picture)
        except PennelloError:
            return None

    def _draw(self, painter: QPainter) -> None:
        area = QRectF(self.picture.rect())
        painter.fillRect(area, self._skin())
        if self._shown is not None:
            _fit(painter, area.adjusted(8, 8, -8, -8), self._shown, 3.0)


def _entry(family: Family) -> Entry:
    return Entry(family.key, family.name, named(family.hold), f"{family.words} {family.group}", QImage())


def _fit(painter: QPainter, area: QRectF, image: QImage, most: float) -> None:
    scale = min(most, area.width() / image.width(), area.height() / image.height())
    painter.drawImage(centred(area, image.width() * scale, image.height() * scale), image)
