"""The families of strokes as pictures that the engine makes itself; choose one, set its numbers, pull it."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QColor, QIcon, QImage, QPainter, QPixmap
from PySide6.QtWidgets import (
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from pennello.design.fresh import with_family_stroke
from pennello.design.plan import Plan, skin_bytes
from pennello.errors import PennelloError
from pennello.lay.families.catalogue import FAMILIES
from pennello.lay.families.family import Family
from pennello.session.forecast import coarse
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.mat import Surface, centred
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.painting import painting
from pennello.ui.widgets.plain import Label

_PICTURE = QSize(112, 76)


class FamilyPage(QDialog):
    """All families at the left, the chosen one at large with its numbers at the right."""

    def __init__(self, plan: Plan, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Another stroke")
        self.resize(940, 600)
        self._plan = replace(plan, strokes=())
        self.fields: dict[str, NumberField] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        row = QHBoxLayout()
        self.list = QListWidget()
        self.list.setAccessibleName("Families of strokes")
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setIconSize(_PICTURE)
        self.list.setGridSize(QSize(138, 108))
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        for key, family in FAMILIES.items():
            item = QListWidgetItem(QIcon(_pixmap(None, _PICTURE, self._skin())), family.name)
            item.setData(Qt.ItemDataRole.UserRole, key)
            item.setToolTip(f"{family.words}. Held {family.hold.value}: {family.hold.words}.")
            self.list.addItem(item)
        row.addWidget(self.list, 5)
        row.addLayout(self._right(), 3)
        column.addLayout(row, 1)
        foot = LeaveOrTake(self, "Pull it")
        self.take = foot.take
        column.addLayout(foot)
        self.list.currentItemChanged.connect(lambda *_: self._show_family())
        self.list.itemDoubleClicked.connect(lambda _: self.accept())
        self.list.setCurrentRow(0)
        self._drawn = 0
        self._drawing = QTimer(self)
        self._drawing.timeout.connect(self._draw_next)
        self._drawing.start(0)

    def _draw_next(self) -> None:
        """Make the picture of one more family; the page can be used meanwhile."""
        if self._drawn >= self.list.count():
            self._drawing.stop()
            return
        item = self.list.item(self._drawn)
        family = FAMILIES[str(item.data(Qt.ItemDataRole.UserRole))]
        item.setIcon(QIcon(_pixmap(self._picture(family, {}), _PICTURE, self._skin())))
        self._drawn += 1

    def done(self, result: int) -> None:
        """Stop drawing."""
        self._drawing.stop()
        super().done(result)

    def _right(self) -> QVBoxLayout:
        box = QVBoxLayout()
        self.words = Label("")
        self.words.setWordWrap(True)
        self.picture = Surface(self)
        self.picture.setMinimumHeight(220)
        self.picture.draw = self._draw
        self._shown: QImage | None = None
        self.grid = QGridLayout()
        box.addWidget(self.words)
        box.addWidget(self.picture, 1)
        box.addLayout(self.grid)
        return box

    @property
    def family(self) -> Family:
        """The chosen family."""
        item = self.list.currentItem()
        return FAMILIES[str(item.data(Qt.ItemDataRole.UserRole))] if item else next(iter(FAMILIES.values()))

    @property
    def values(self) -> dict[str, float]:
        """Its numbers."""
        return {key: field.amount for key, field in self.fields.items()}

    def _show_family(self) -> None:
        while self.grid.count():
            item = self.grid.takeAt(0)
            widget = item.widget() if item else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.fields = {}
        family = self.family
        self.words.setText(f"{family.name}: {family.words}. Usually with {self._tool_name(family)}.")
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

    def _tool_name(self, family: Family) -> str:
        from pennello.kit import catalogue  # noqa: PLC0415

        return catalogue.brushes()[family.tool].name

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


def _pixmap(image: QImage | None, size: QSize, skin: QColor) -> QPixmap:
    pixmap = QPixmap(size)
    pixmap.fill(skin)
    if image is not None:
        with painting(pixmap) as painter:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            _fit(painter, QRectF(4, 4, size.width() - 8, size.height() - 8), image, 1.0)
    return pixmap


def _fit(painter: QPainter, area: QRectF, image: QImage, most: float) -> None:
    scale = min(most, area.width() / image.width(), area.height() / image.height())
    painter.drawImage(centred(area, image.width() * scale, image.height() * scale), image)
