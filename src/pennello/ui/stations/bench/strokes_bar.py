"""The plan's strokes, each with its verdict's mark; choose, add, copy, take away, rename."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QImage, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QAbstractButton,
    QDialog,
    QHBoxLayout,
    QMenu,
    QScrollArea,
    QSizePolicy,
    QToolButton,
    QWidget,
)

from pennello.aim.wish import wanted_lab
from pennello.design.edits import duplicated_stroke, with_stroke, without_stroke
from pennello.design.fresh import with_family_stroke, with_fresh_stroke
from pennello.files.picture import lab_bytes
from pennello.phrases import phrase
from pennello.ui.bench_model import BenchModel
from pennello.ui.theme.icons import set_glyph
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.asking import ask_name
from pennello.ui.widgets.card_row import tab_after
from pennello.ui.widgets.paint import draw_state, strip_image
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.passing import goes_when_closed, taken
from pennello.ui.widgets.plain import tip


class StrokeTag(QAbstractButton):
    """A stroke as a tag: the strip of its wish, its name, its mark."""

    def __init__(self, stroke_id: str, model: BenchModel) -> None:
        super().__init__()
        self.stroke_id = stroke_id
        self._model = model
        self.state = ""
        self._kept: tuple[object, QImage] | None = None
        self.setCheckable(True)
        self.setAutoExclusive(True)  # one of all: Tab comes to the chosen one, arrows go on from there
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        """Return the room for strip, name and mark."""
        return QSize(self.fontMetrics().horizontalAdvance(self.text()) + 78, px(30))

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the tag; the chosen one lies on the mat."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        inks = theme()
        body = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.setPen(QPen(QColor(inks.accent if self.hasFocus() else inks.line), 1))
        painter.setBrush(QColor(inks.mat) if self.isChecked() else Qt.BrushStyle.NoBrush)
        if self.isChecked() or self.hasFocus() or self.underMouse():
            painter.drawRoundedRect(body, 6, 6)
        wanted = self._strip()
        if wanted is not None:
            painter.drawImage(QRectF(9, self.height() / 2 - 7, 32, 14), wanted)
        painter.setPen(QColor(inks.ink if self.isChecked() else inks.ink_2))
        painter.drawText(
            QRectF(48, 0, self.width() - 70, self.height()),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft,
            self.text(),
        )
        if self.state:
            draw_state(painter, self.state, QPointF(self.width() - 15, self.height() / 2), 5)

    def show_stroke(self, name: str, state: str) -> None:
        """Show name and mark; draw again only when they, or what the strip rests on, are others."""
        if self.text() != name:
            self.setText(name)
            self.setToolTip(tip(phrase("{name} (F2 renames)", name=name)))
            self.updateGeometry()
        if state != self.state or self._kept is None or self._kept[0] != self._rests_on():
            self.state = state
            self.update()

    def _rests_on(self) -> object:
        plan = self._model.plan
        found = next((one for one in plan.strokes if one.id == self.stroke_id), None)
        return (found.wanted, plan.axis(found.id), plan.brush(found.brush), plan.skin, plan.paints) if found else None

    def _strip(self) -> QImage | None:
        """Return the strip of the wish, made anew only when something that it rests on is another one."""
        key = self._rests_on()
        if key is None:
            return None
        if self._kept is None or self._kept[0] != key:
            attempt = self._model.plan.attempt(self.stroke_id)
            lab = wanted_lab(attempt.wanted, 16, attempt.edge_mm, attempt.paints, attempt.skin)
            self._kept = (key, strip_image(lab_bytes(lab)))
        return self._kept[1]

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """F2 renames."""
        if event.key() == Qt.Key.Key_F2:
            self.rename()
            return
        super().keyPressEvent(event)

    def mouseDoubleClickEvent(self, event: object) -> None:
        """Rename."""
        self.rename()

    def rename(self) -> None:
        """Ask for another name."""
        name = ask_name(self, phrase("Stroke"), phrase("Name of the stroke"), self.text())
        if name:
            self._model.edit(
                phrase("Rename the stroke"),
                lambda plan, _: with_stroke(plan, replace(plan.stroke(self.stroke_id), name=name[:200])),
            )


class StrokesBar(QWidget):
    """Tags of all strokes and what can be done with them."""

    def __init__(self, model: BenchModel, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._model = model
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self._inner = QWidget()
        self._tags = QHBoxLayout(self._inner)
        self._tags.setContentsMargins(0, 0, 0, 0)
        self._tags.setSpacing(4)
        self._tags.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self._inner)
        scroll.setFixedHeight(px(34))
        scroll.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._scroll = scroll
        row.addWidget(scroll, 1)
        self.add = self._button("plus", phrase("New stroke"), self.add_stroke)
        self.copy = self._button("copy", phrase("Copy this stroke"), self.copy_stroke)
        self.remove = self._button("away", phrase("Take this stroke away (undo brings it back)"), self.remove_stroke)
        self.kinds = QToolButton()
        self.kinds.setText(phrase("Kinds"))
        self.kinds.setToolTip(phrase("A stroke of a family: petals, leaves, lines, fields, dabs"))
        self.kinds.clicked.connect(self.choose_family)
        self.whole = QToolButton()
        self.whole.setText(phrase("All strokes"))
        set_glyph(self.whole, "down")
        self.whole.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.whole.setToolTip(phrase("For all strokes together: fewer loads, other colours"))
        self.whole.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self.whole)
        menu.addAction(phrase("Fewer loads ..."), self.show_loads)
        menu.addAction(phrase("Colourways ..."), self.show_colourways)
        self.whole.setMenu(menu)
        self.play = QToolButton()
        self.play.setText(phrase("Play"))
        self.play.setToolTip(phrase("The brush moves over this stroke as it is pulled"))
        self.play.clicked.connect(self.play_stroke)
        for button in (self.add, self.kinds, self.play, self.copy, self.remove, self.whole):
            row.addWidget(button)

    def _button(self, glyph: str, words: str, act: object) -> QToolButton:
        button = QToolButton()
        set_glyph(button, glyph)
        button.setToolTip(words)
        button.setAccessibleName(words)
        button.clicked.connect(act)
        return button

    def add_stroke(self) -> None:
        """Add a petal and put it on the Bench."""
        plan, new = with_fresh_stroke(self._model.document.committed)
        self._model.document.edit(phrase("New stroke"), plan)
        self._model.choose(new)

    def choose_family(self) -> None:
        """Let the painter choose a family, and pull one of it."""
        from pennello.ui.stations.bench.family_page import FamilyPage  # noqa: PLC0415 - pictures take a moment

        page = FamilyPage(self._model.document.committed, self)
        if taken(page):
            self.add_family(page.family.key, page.values)

    def play_stroke(self) -> None:
        """Play the stroke on the Bench."""
        from pennello.session.play import alone  # noqa: PLC0415 - only when wanted
        from pennello.ui.widgets.play_view import PlayPage  # noqa: PLC0415

        stroke, plan = self._model.stroke, self._model.document.committed
        if stroke:
            name = stroke.id
            self._show(PlayPage(stroke.name, lambda: alone(plan, name), self))

    def show_loads(self) -> None:
        """Show how few loads the plan needs."""
        from pennello.ui.stations.bench.search.loads_page import LoadsPage  # noqa: PLC0415 - only when wanted

        self._show(LoadsPage(self._model, self))

    def show_colourways(self) -> None:
        """Show the plan in other colours."""
        from pennello.ui.colourways_page import ColourwaysPage  # noqa: PLC0415 - only when wanted

        self._show(ColourwaysPage(self._model, self))

    def _show(self, page: QDialog) -> None:
        goes_when_closed(page)
        self.page = page
        page.show()

    def add_family(self, key: str, values: dict[str, float]) -> None:
        """Add a stroke of a family and put it on the Bench."""
        plan, new = with_family_stroke(self._model.document.committed, key, values)
        self._model.document.edit(phrase("New stroke"), plan)
        self._model.choose(new)

    def copy_stroke(self) -> None:
        """Copy the stroke on the Bench and put the copy there."""
        stroke = self._model.stroke
        if stroke:
            plan, new = duplicated_stroke(self._model.document.committed, stroke.id)
            self._model.document.edit(phrase("Copy a stroke"), plan)
            self._model.choose(new)

    def remove_stroke(self) -> None:
        """Take the stroke on the Bench out of the plan."""
        stroke = self._model.stroke
        if stroke:
            self._model.edit(phrase("Take a stroke away"), lambda plan, gone: without_stroke(plan, gone.id))

    @property
    def tags(self) -> list[StrokeTag]:
        """The tags in the plan's order."""
        items = (self._tags.itemAt(i) for i in range(self._tags.count()))
        widgets = (item.widget() for item in items if item is not None)
        return [widget for widget in widgets if isinstance(widget, StrokeTag)]

    def refresh(self) -> None:
        """Follow the plan."""
        strokes = self._model.plan.strokes
        if [tag.stroke_id for tag in self.tags] != [stroke.id for stroke in strokes]:
            for tag in self.tags:
                self._tags.removeWidget(tag)
                tag.hide()
                tag.deleteLater()
            for place, stroke in enumerate(strokes):
                tag = StrokeTag(stroke.id, self._model)
                tag.clicked.connect(lambda _=False, name=stroke.id: self._model.choose(name))
                self._tags.insertWidget(place, tag)
            for before, after in pairwise((self._scroll, *self.tags)):
                tab_after(before, after)
        chosen = self._model.stroke
        for tag, stroke in zip(self.tags, strokes, strict=True):
            here = chosen is not None and chosen.id == stroke.id
            tag.show_stroke(stroke.name, self._model.states.get(stroke.id, ""))
            if here and not tag.isChecked():
                tag.setChecked(True)
                self._scroll.ensureWidgetVisible(tag, 20, 0)
            elif not here:
                tag.setChecked(False)
        for button in (self.play, self.copy, self.remove, self.whole):
            button.setEnabled(chosen is not None)
