"""The load as a row of cards, one pick-up after another: what is taken, and how the edge looks after it."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QPointF, QRectF, QSignalBlocker, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFontMetricsF, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QAbstractButton,
    QBoxLayout,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QMenu,
    QScrollArea,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from pennello.design.edits import with_moved_pickup, with_new_pickup, with_stroke, without_pickup
from pennello.design.load_edits import with_habit
from pennello.design.load_kinds import LoadKind, axis_words, goes_on_with, kinds_for
from pennello.design.plan import Plan, PlanStroke, Reload
from pennello.design.words import passes_text, source_words
from pennello.kit.applicator import GradientAxis
from pennello.load.edge import LoadedEdge, stages
from pennello.load.look import cake_colours, edge_colours, pan_colour
from pennello.load.recipe import Before, Face, PickUp, Way
from pennello.phrases import named, phrase
from pennello.ui.bench_model import BenchModel
from pennello.ui.theme.icons import set_glyph
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.cake_drawing import draw_pan
from pennello.ui.widgets.card_row import keep_cards
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.folding import Fold
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import draw_note, note_font, strip_image
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import Label, tip
from pennello.ui.widgets.reload_choice import ReloadChoice

CARD_PX = QSize(196, 52)
PART_FROM = Quantity(phrase("Part of the edge, from"), 0, 98, 5, 0, " %")
PART_TO = Quantity(phrase("Part of the edge, to"), 2, 100, 5, 0, " %")

_BEFORE_WORDS = {
    Before.KEEP: phrase("keep what is in it"),
    Before.BLOT: phrase("blot first"),
    Before.WIPE: phrase("wipe first"),
    Before.RINSE: phrase("rinse first"),
    Before.RINSE_TWICE: phrase("rinse twice first"),
}
_WAY_WORDS = {
    Way.SWEEP: phrase("sweep"),
    Way.PRESS: phrase("press"),
    Way.DIP: phrase("dip the tip"),
    Way.SIDE: phrase("lay on its side"),
    Way.ROLL: phrase("roll"),
}


class PickUpCard(QAbstractButton):
    """One pick-up: its picture, its words, and the edge after it. Drag it, or Ctrl with arrows, to another place.

    Signals
    -------
    moved(int)
        By how many places it should go.
    dropped
        It should go away.
    """

    moved = Signal(int)
    dropped = Signal()

    def __init__(self, number: int) -> None:
        super().__init__()
        self.number = number
        self._words = ("", "")
        self._face: tuple[object, object, QImage] | None = None
        self._pickup: PickUp | None = None
        self._plan: Plan | None = None
        self._edge: LoadedEdge | None = None
        self._grabbed: QPointF | None = None
        self._shift = 0.0
        self.setCheckable(True)
        self.setFixedSize(px(CARD_PX.width()), px(CARD_PX.height()))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.ActionsContextMenu)
        for words, act in (
            (phrase("Earlier"), lambda: self.moved.emit(-1)),
            (phrase("Later"), lambda: self.moved.emit(1)),
            (phrase("Take it out"), self.dropped.emit),
        ):
            self.addAction(words).triggered.connect(lambda _=False, do=act: do())

    def show_pickup(self, plan: Plan, stroke: PlanStroke, edge: LoadedEdge) -> None:
        """Show a pick-up and the edge after it."""
        pickup = stroke.recipe.pickups[self.number]
        if pickup is self._pickup and edge is self._edge and plan.paints == (self._plan.paints if self._plan else ()):
            return
        self._pickup, self._plan, self._edge = pickup, plan, edge
        below = f"{passes_text(pickup.way, pickup.passes)}, {named(pickup.wetness)}"
        if pickup.face is not stroke.recipe.lays:
            below = phrase("other face, {below}", below=below)
        elif not pickup.whole:
            below = phrase(
                "{part:.0%} to {part_2:.0%}, {below}", part=pickup.part[0], part_2=pickup.part[1], below=below
            )
        self._words = (f"{self.number + 1}  {source_words(plan, pickup)}", below)
        self.setToolTip(
            tip(
                phrase(
                    "{words}\n{below}\nDrag or Ctrl with arrows: another place. Del: take it out.",
                    words=self._words[0],
                    below=below,
                )
            )
        )
        self.setAccessibleName(phrase("Pick-up {words}, {below}", words=self._words[0], below=below))
        self.update()

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the card; the one on the mat lies open."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        inks = theme()
        painter.translate(self._shift, 0)
        body = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.setPen(QPen(QColor(inks.accent if self.hasFocus() or self.isChecked() else inks.line), 1))
        painter.setBrush(QColor(inks.well if self.isChecked() else inks.mat))
        painter.drawRoundedRect(body, 6, 6)
        if self._pickup is None or self._plan is None or self._edge is None:
            return
        paints = self._plan.paints_by_id
        self._draw_source(painter, QRectF(7, 6, 42, 26), self._plan, self._pickup)
        painter.drawImage(QRectF(7, 37, 42, 9), strip_image(edge_colours(self._edge, paints)))
        painter.setPen(QColor(inks.ink))
        room = QRectF(56, 5, self.width() - 62, px(20))
        line = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        words = painter.fontMetrics().elidedText(self._words[0], Qt.TextElideMode.ElideRight, round(room.width()))
        painter.drawText(room, line, words)
        below = room.translated(0, px(22))
        small = QFontMetricsF(note_font(painter))
        told = small.elidedText(self._words[1], Qt.TextElideMode.ElideRight, below.width())
        draw_note(painter, below, told, line)

    def _draw_source(self, painter: QPainter, rect: QRectF, plan: Plan, pickup: PickUp) -> None:
        paints = plan.paints_by_id
        if not pickup.cake:
            colour = QColor(*(int(part) for part in pan_colour(pickup.pan, paints)))
            draw_pan(painter, QRectF(rect.center().x() - 13, rect.top(), 26, 26), colour)
            return
        cake = plan.cake(pickup.cake)
        if self._face is None or self._face[0] is not cake or self._face[1] is not plan.paints:
            self._face = (cake, plan.paints, strip_image(cake_colours(cake, paints, 42)))
        painter.drawImage(rect, self._face[2])
        painter.setPen(QPen(QColor(theme().ink_2), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(rect)

    # --- moving ---

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold."""
        self._grabbed = event.position() if event.button() == Qt.MouseButton.LeftButton else None
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Follow the hand sideways."""
        if self._grabbed is not None:
            way = event.position().x() - self._grabbed.x()
            self._shift = way if abs(way) > 8 else 0.0
            self.raise_()
            self.update()
        super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go: as many places as cards were passed."""
        places, self._shift, self._grabbed = round(self._shift / (self.width() + 18)), 0.0, None
        self.update()
        super().mouseReleaseEvent(event)
        if places:
            self.moved.emit(places)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move with Ctrl and arrows, take out with Del."""
        ctrl = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if ctrl and event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.moved.emit(-1 if event.key() == Qt.Key.Key_Left else 1)
        elif event.key() == Qt.Key.Key_Delete:
            self.dropped.emit()
        else:
            super().keyPressEvent(event)


class LoadRow(QFrame):
    """What is in the brush before, the pick-ups in order, what can be added, rarer numbers of the one chosen."""

    def __init__(self, model: BenchModel, brush: QComboBox, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._model = model
        self.setObjectName("mat")
        self.setAccessibleName(phrase("The load, one pick-up after another"))
        self.cards: list[PickUpCard] = []
        self.after = choice(phrase("What is in the brush when the load begins"))
        self.after.setMinimumWidth(px(150))
        self.after.activated.connect(self._choose_after)
        self.add = QToolButton()
        set_glyph(self.add, "plus")
        self.add.setText(phrase("Load"))
        self.add.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.add.setToolTip(phrase("Another pick-up, or a whole way to load"))
        self.add.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.kinds = QMenu(self.add)
        self.kinds.setToolTipsVisible(True)
        self.kinds.aboutToShow.connect(self.list_kinds)
        self.add.setMenu(self.kinds)
        self.reload = ReloadChoice(QBoxLayout.Direction.LeftToRight)
        self.reload.habit.setMinimumWidth(px(142))
        self.reload.changed.connect(self._set_reload)
        row = QHBoxLayout(self)
        row.setContentsMargins(8, 4, 8, 4)
        row.setSpacing(6)
        row.addWidget(self._begin(brush))
        row.addWidget(self._scroller(), 1)
        self.rare = QWidget()
        rarer = QHBoxLayout(self.rare)
        rarer.setContentsMargins(0, 0, 0, 0)
        rarer.addLayout(self._rarer())
        self.more = Fold(phrase("load"), self.rare, self.reload, self.begins)
        more = QVBoxLayout()
        more.setSpacing(0)
        adding = QHBoxLayout()
        adding.addWidget(self.add)
        adding.addStretch(1)
        adding.addWidget(self.more)
        more.addLayout(adding)
        more.addWidget(self.reload)
        row.addLayout(more)
        row.addWidget(self.rare)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def _begin(self, brush: QComboBox) -> QWidget:
        held, self.begins = QWidget(), QWidget()
        column = QVBoxLayout(held)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for words, box in ((phrase("Brush"), brush), (phrase("Begin with"), self.after)):
            label = Label(words)
            label.setObjectName("note")
            label.setBuddy(box)
            label.setMinimumWidth(px(58))
            box.setMinimumWidth(px(150))
            line = QHBoxLayout(self.begins) if box is self.after else QHBoxLayout()
            line.setContentsMargins(0, 0, 0, 0)
            line.addWidget(label)
            line.addWidget(box, 1)
            if box is brush:
                column.addLayout(line)
        column.addWidget(self.begins)
        return held

    def _scroller(self) -> QScrollArea:
        self._inner = QWidget()
        self._row = QHBoxLayout(self._inner)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(18)
        self._row.addStretch(1)
        self._scroll = QScrollArea()
        self._scroll.setWidgetResizable(True)
        self._scroll.setWidget(self._inner)
        self._scroll.setFixedHeight(px(CARD_PX.height()) + 10)
        self._scroll.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        return self._scroll

    def _rarer(self) -> QGridLayout:
        """Return the fields of a pick-up that are touched less often."""
        model = self._model
        self.before, self.way, self.face = (choice(name) for name in (phrase("Before"), phrase("How"), phrase("Face")))
        for before, words in _BEFORE_WORDS.items():
            self.before.addItem(words, before)
        for way, words in _WAY_WORDS.items():
            self.way.addItem(words, way)
        for face in Face:
            self.face.addItem(phrase("{face} face", face=named(face)), face)
        self.part_from, self.part_to = NumberField(PART_FROM), NumberField(PART_TO)
        self.before.activated.connect(lambda at: model.set_pickup(phrase("Before"), before=self.before.itemData(at)))
        self.way.activated.connect(lambda at: model.set_pickup(phrase("How it is loaded"), way=self.way.itemData(at)))
        self.face.activated.connect(
            lambda at: model.set_pickup(phrase("Face of the sponge"), face=self.face.itemData(at))
        )
        self.part_from.edited.connect(lambda v: self._set_part(0, v / 100))
        self.part_to.edited.connect(lambda v: self._set_part(1, v / 100))
        self.lays = QToolButton()
        self.lays.setText(phrase("Lay with it"))
        self.lays.setCheckable(True)
        self.lays.setToolTip(phrase("Lay the stroke with this face of the sponge"))
        self.lays.clicked.connect(self._lay_with)
        grid = QGridLayout()
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(0)
        self._labels = [
            Label(words) for words in (phrase("Before"), phrase("How"), phrase("Part"), "to", phrase("Face"))
        ]
        places = [(0, 0), (1, 0), (0, 2), (1, 2), (0, 4)]
        widgets = (self.before, self.way, self.part_from, self.part_to, self.face)
        for label, (at_row, column), widget in zip(self._labels, places, widgets, strict=True):
            label.setObjectName("note")
            label.setBuddy(widget)
            grid.addWidget(label, at_row, column)
            grid.addWidget(widget, at_row, column + 1)
        grid.addWidget(self.lays, 1, 5)
        self.before.setMinimumWidth(px(132))
        self.way.setMinimumWidth(px(132))
        return grid

    # --- edits ---

    def _set_part(self, end: int, u: float) -> None:
        pickup = self._model.pickup
        if pickup is not None:
            part = (min(u, pickup.part[1] - 0.02), pickup.part[1])
            part = part if end == 0 else (pickup.part[0], max(u, pickup.part[0] + 0.02))
            self._model.set_pickup(phrase("Part of the edge"), phrase("part {end}", end=end), part=part)

    def _lay_with(self) -> None:
        pickup = self._model.pickup
        if pickup is not None:
            face = pickup.face
            self._edit_recipe(phrase("Lay with this face"), lambda s: replace(s, recipe=replace(s.recipe, lays=face)))

    def _choose_after(self, index: int) -> None:
        after = self.after.itemData(index)
        self._edit_recipe(phrase("Begin with"), lambda s: replace(s, recipe=replace(s.recipe, after=after)))

    def _set_reload(self, habit: Reload, count: int) -> None:
        self._model.edit(
            phrase("When to reload"), lambda plan, stroke: with_habit(plan, {stroke.id}, habit, count), "reload"
        )

    def _edit_recipe(self, label: str, make: object) -> None:
        self._model.edit(label, lambda plan, stroke: with_stroke(plan, make(stroke)))  # type: ignore[operator]

    def add_kind(self, kind: LoadKind) -> None:
        """Load in a way that painters name."""
        before = len(self._model.committed_stroke.recipe.pickups)
        self._model.edit(kind.name, kind.edit)
        stroke = self._model.stroke
        count = len(stroke.recipe.pickups) if stroke else 0
        self._model.choose_pickup(count - 1 if count > before else None)

    def repeat(self) -> None:
        """Add the chosen pick-up once more at the end."""
        pickup = self._model.pickup
        if pickup is not None:
            self._edit_recipe(phrase("Once more"), lambda s: with_new_pickup(s, len(s.recipe.pickups), pickup))
            self._model.choose_pickup(len(self._model.committed_stroke.recipe.pickups) - 1)

    def _move(self, number: int, places: int) -> None:
        stroke = self._model.stroke
        if stroke is None:
            return
        to = min(max(number + places, 0), len(stroke.recipe.pickups) - 1)
        if to != number:
            self._edit_recipe(phrase("Another order"), lambda s: with_moved_pickup(s, number, to))
            self._model.choose_pickup(to)
            self.cards[to].setFocus()

    def _drop(self, number: int) -> None:
        self._edit_recipe(phrase("Take a pick-up out"), lambda s: without_pickup(s, number))
        self._model.choose_pickup(None)

    def list_kinds(self) -> None:
        """Offer the ways to load that this applicator takes."""
        self.kinds.clear()
        if self._model.stroke is None:
            return
        for kind in kinds_for(self._model.brush):
            action = self.kinds.addAction(kind.name)
            action.triggered.connect(lambda _=False, chosen=kind: self.add_kind(chosen))
            action.setToolTip(kind.words)
        self.kinds.addSeparator()
        if self._model.pickup is not None:
            self.kinds.addAction(phrase("The chosen pick-up once more"), self.repeat)

    # --- following ---

    def refresh(self) -> None:
        """Follow the model."""
        stroke, plan = self._model.stroke, self._model.plan
        self.setVisible(stroke is not None)
        if stroke is None:
            return
        cakes = plan.cakes_by_id
        after = stages(stroke.recipe, cakes, self._model.brush, plan.residue(stroke.id))
        self._keep(len(after))
        for card, edge in zip(self.cards, after, strict=True):
            card.show_pickup(plan, stroke, edge)
            card.setChecked(card.number == self._model.pickup_index)
        names: list[tuple[str, object]] = [(phrase("a clean brush"), "")]
        names += [
            (phrase("what {stroke} left", stroke=plan.stroke(name).name), name) for name in goes_on_with(plan, stroke)
        ]
        fill(self.after, names, stroke.recipe.after)
        self.reload.show_habit(stroke.reload, stroke.reload_after)
        self._show_rarer(stroke)

    def _keep(self, count: int) -> None:
        keep_cards(self.cards, self._row, count, self._card)
        self._inner.setMinimumWidth(count * (px(CARD_PX.width()) + 18))

    def _card(self, number: int) -> PickUpCard:
        card = PickUpCard(number)
        card.clicked.connect(lambda _=False: self._choose(number))
        card.moved.connect(lambda places: self._move(number, places))
        card.dropped.connect(lambda: self._drop(number))
        return card

    def _choose(self, number: int) -> None:
        self._model.choose_pickup(number)
        self.cards[number].setChecked(True)

    def _show_rarer(self, stroke: PlanStroke) -> None:
        pickup, brush = self._model.pickup, self._model.brush
        sponge = brush.kind.two_faced
        for widget in (self.before, self.way, self.part_from, self.part_to, *self._labels[:4]):
            widget.setVisible(pickup is not None)
        for widget in (self.face, self.lays, self._labels[4]):
            widget.setVisible(sponge and pickup is not None)
        if pickup is None:
            return
        along = self._model.axis is GradientAxis.ALONG
        self._labels[2].setText(
            phrase("From {axis_words}", axis_words=axis_words(self._model.axis)[0]) if along else phrase("Part")
        )
        with QSignalBlocker(self.before), QSignalBlocker(self.way), QSignalBlocker(self.face):
            self.before.setCurrentIndex(list(Before).index(pickup.before))
            self.way.setCurrentIndex(list(Way).index(pickup.way))
            self.face.setCurrentIndex(list(Face).index(pickup.face))
        self.part_from.show_amount(pickup.part[0] * 100)
        self.part_to.show_amount(pickup.part[1] * 100)
        self.lays.setChecked(pickup.face is stroke.recipe.lays)
