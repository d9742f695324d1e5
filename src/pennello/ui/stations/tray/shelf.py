"""The shelf: cakes lie to scale, brushes hang by width, paints are pans. Only what is seen is drawn."""

from __future__ import annotations

from datetime import date
from typing import Any

from PySide6.QtCore import (
    QAbstractListModel,
    QItemSelectionModel,
    QModelIndex,
    QPersistentModelIndex,
    QPointF,
    QRectF,
    QSignalBlocker,
    QSize,
    Qt,
)
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.kit.shelf import ItemKind, KitItem
from pennello.load.look import cake_colours
from pennello.phrases import named, phrase, plural
from pennello.ui.stations.tray.model import TrayModel
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.cake_drawing import draw_pan
from pennello.ui.widgets.paint import draw_note, strip_image
from pennello.ui.widgets.tools import draw_tool, stick_px, tool_height_mm
from pennello.units import brush_size_text, length_text

CAKE_PX_PER_MM = 3.2
TOOL_PX_PER_MM = 2.6
_PAINT_PX = QSize(104, 96)
_LEAST_PX, _LEAST_TOOL_PX = 104, 122
_CAKE_ROW_PX, _TOOL_ROW_PX, _WORDS_PX = 150, 182, 36
_Index = QModelIndex | QPersistentModelIndex


class ShelfModel(QAbstractListModel):
    """The things found, for the view."""

    def __init__(self, model: TrayModel) -> None:
        super().__init__()
        self._model = model
        self.items: list[KitItem] = []

    def show_items(self, items: list[KitItem]) -> None:
        """Show other things."""
        self.beginResetModel()
        self.items = items
        self.endResetModel()

    def rowCount(self, parent: _Index = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        """Return how many there are."""
        return 0 if parent.isValid() else len(self.items)

    def data(self, index: _Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        """Return an item's name, and its words for hints and screen readers."""
        if not index.isValid() or index.row() >= len(self.items):
            return None
        item = self.items[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return item.name
        if role in (Qt.ItemDataRole.ToolTipRole, Qt.ItemDataRole.AccessibleDescriptionRole):
            return words_of(item)
        return None


def words_of(item: KitItem) -> str:
    """Return an item in a few words."""
    thing = item.thing
    if isinstance(thing, Paint):
        words = f"{thing.name}, {named(thing.finish)}"
    elif isinstance(thing, Cake):
        words = plural(
            len(thing.stripes),
            "{thing}, {count} stripe, {width_mm} across",
            "{thing}, {count} stripes, {width_mm} across",
            thing=thing.name,
            width_mm=length_text(thing.width_mm),
        )
    else:
        words = phrase(
            "{thing}, {kind}, {width_mm} wide",
            thing=thing.name,
            kind=named(thing.kind),
            width_mm=brush_size_text(thing.width_mm),
        )
    return phrase("{words}, out of use", words=words) if item.keeping.retired else words


def item_px(item: KitItem) -> QSize:
    """Return the room of an item on the shelf."""
    thing = item.thing
    if isinstance(thing, Cake):
        return QSize(
            max(px(_LEAST_PX), round(thing.width_mm * CAKE_PX_PER_MM) + 20), _CAKE_ROW_PX - _WORDS_PX + px(_WORDS_PX)
        )
    if isinstance(thing, Applicator):
        return QSize(
            max(px(_LEAST_TOOL_PX), round(thing.width_mm * TOOL_PX_PER_MM) + 16),
            _TOOL_ROW_PX - _WORDS_PX + px(_WORDS_PX),
        )
    return QSize(px(_PAINT_PX.width()), _PAINT_PX.height() - _WORDS_PX + px(_WORDS_PX))


class ShelfDelegate(QStyledItemDelegate):
    """Draws a thing to scale with its name."""

    def __init__(self, model: TrayModel, parent: QWidget) -> None:
        super().__init__(parent)
        self._model = model
        self._today = date.today()

    def sizeHint(self, option: QStyleOptionViewItem, index: _Index) -> QSize:
        """Return its room."""
        shelf = index.model()
        assert isinstance(shelf, ShelfModel)
        return item_px(shelf.items[index.row()])

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: _Index) -> None:
        """Draw it; the chosen one lies on a well."""
        shelf = index.model()
        assert isinstance(shelf, ShelfModel)
        item = shelf.items[index.row()]
        inks = theme()
        rect, state = QRectF(option.rect), option.state
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if state & QStyle.StateFlag.State_Selected:
            painter.setPen(QPen(QColor(inks.accent), 1.5))
            painter.setBrush(QColor(inks.well))
            painter.drawRoundedRect(rect.adjusted(1, 1, -1, -1), 6, 6)
        if item.keeping.retired:
            painter.setOpacity(0.45)
        self._draw_thing(painter, rect, item)
        painter.setPen(QColor(inks.ink))
        name = QRectF(rect.left() + 4, rect.bottom() - px(_WORDS_PX), rect.width() - 8, px(18))
        words = painter.fontMetrics().elidedText(item.name, Qt.TextElideMode.ElideRight, round(name.width()))
        painter.drawText(name, Qt.AlignmentFlag.AlignCenter, words)
        draw_note(painter, name.translated(0, px(16)), self._note(item))
        painter.restore()

    def _note(self, item: KitItem) -> str:
        thing = item.thing
        if item.keeping.retired:
            return phrase("out of use")
        if item.keeping.expired(self._today):
            return phrase("past its date")
        if isinstance(thing, Paint):
            places = (
                (phrase("eyes"), thing.eye_area),
                (phrase("lips"), thing.lips),
                (phrase("skin"), thing.skin),
            )
            off = [words for words, on in places if not on]
            return phrase("not for {off}", off=", ".join(off)) if off else ""
        if isinstance(thing, Cake):
            return phrase("{width_mm} across", width_mm=length_text(thing.width_mm, self._model.unit))
        return brush_size_text(thing.width_mm)

    def _draw_thing(self, painter: QPainter, rect: QRectF, item: KitItem) -> None:
        thing = item.thing
        if isinstance(thing, Paint):
            draw_pan(painter, QRectF(rect.center().x() - 24, rect.top() + 7, 48, 48), QColor(thing.srgb))
            if thing.reflectance is not None:
                draw_note(painter, QRectF(rect.center().x() + 18, rect.top() + 4, px(24), px(14)), "∿")
        elif isinstance(thing, Cake):
            self._draw_cake(painter, rect, thing)
        else:
            height = tool_height_mm(thing) * TOOL_PX_PER_MM
            handle = stick_px(thing) if thing.kind.pressed else 46.0
            top = rect.top() + (_TOOL_ROW_PX - 40 - height - handle) / 2 + 2
            painter.save()
            painter.translate(QPointF(rect.center().x(), top))
            draw_tool(painter, thing, TOOL_PX_PER_MM)
            painter.restore()

    def _draw_cake(self, painter: QPainter, rect: QRectF, cake: Cake) -> None:
        session = self._model.session
        paints = session.kit.paints if session else {}
        width, height = cake.width_mm * CAKE_PX_PER_MM, min(cake.length_mm * CAKE_PX_PER_MM, _CAKE_ROW_PX - 50.0)
        pan = QRectF(rect.center().x() - width / 2, rect.top() + 8, width, height)
        if any(name not in paints for name in cake.paints):
            draw_note(painter, pan, phrase("a paint is missing"))
        else:
            painter.drawImage(pan, strip_image(cake_colours(cake, paints, 96)))
        painter.setPen(QPen(QColor(theme().ink_2), 1.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(pan.adjusted(-1, -1, 1, 1), 3, 3)


class Shelf(QListView):
    """Things in rows; arrows go from one to the next."""

    def __init__(self, model: TrayModel) -> None:
        super().__init__()
        self._model = model
        self.setAccessibleName(phrase("Shelf"))
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setMovement(QListView.Movement.Static)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setSelectionMode(QListView.SelectionMode.SingleSelection)
        self.setSpacing(4)
        self.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.setFrameShape(QListView.Shape.NoFrame)
        self.shelf = ShelfModel(model)
        self.setModel(self.shelf)
        self.setItemDelegate(ShelfDelegate(model, self))
        model.listed.connect(self.refresh)
        model.chosen.connect(self._mark)

    def refresh(self) -> None:
        """Show what the model lists."""
        self.setUniformItemSizes(self._model.kind is ItemKind.PAINT)
        with QSignalBlocker(self.selectionModel()):
            self.shelf.show_items(self._model.items)
        self._mark()

    def _mark(self) -> None:
        """Mark the chosen thing."""
        item = self._model.item
        row = next((at for at, one in enumerate(self.shelf.items) if one is item), None)
        if row is None:
            return
        index = self.shelf.index(row)
        if self.currentIndex() != index or not self.selectionModel().isSelected(index):
            with QSignalBlocker(self.selectionModel()):
                self.selectionModel().setCurrentIndex(index, QItemSelectionModel.SelectionFlag.ClearAndSelect)
            self.scrollTo(index)
        self.viewport().update()

    def currentChanged(self, current: _Index, previous: _Index) -> None:
        """Choose what is reached by hand or arrows."""
        super().currentChanged(current, previous)
        if current.isValid() and current.row() < len(self.shelf.items):
            self._model.choose(self.shelf.items[current.row()].key)
