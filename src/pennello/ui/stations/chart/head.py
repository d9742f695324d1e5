"""What the chart is of, and how it is seen: part of the body, whose, its measures, a frame, how near, eyes, light."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QObject, QSignalBlocker, Qt
from PySide6.QtWidgets import QComboBox, QSizePolicy, QToolButton, QWidget

from pennello.chart.catalogue import CHARTS, OTHER_EYES
from pennello.chart.measures import FACE_HEIGHT_MM, HEAD_BREADTH_MM, Age, usual
from pennello.chart.names import place_words
from pennello.colour.lights import Light
from pennello.design.on_chart import with_other_eyes
from pennello.design.plan import Plan
from pennello.phrases import named, phrase
from pennello.session.chart_views import WHOLE, ChartLook
from pennello.ui.stations.chart.board import ChartBoard
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.theme.text import px
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label
from pennello.units import LengthUnit

HEAD = Quantity(phrase("Head breadth above the ears"), *HEAD_BREADTH_MM, 1, 0, length=True)
FACE = Quantity(phrase("From the root of the nose to the chin"), *FACE_HEIGHT_MM, 1, 0, length=True)


class ChartHead(QObject):
    """The choices at the head of the Chart; the station lays them out.

    Attributes
    ----------
    of
        What the chart is of, from left to right, the station's name first.
    """

    def __init__(self, model: ChartModel, board: ChartBoard, parent: QWidget) -> None:
        super().__init__(parent)
        self._model, self._board = model, board
        self.chart = _choice(phrase("Which part of the body"), 72)
        for key, (name, _) in CHARTS.items():
            self.chart.addItem(name, key)
        self.chart.activated.connect(lambda at: model.show_chart(self.chart.itemData(at)))
        self.near = _choice(phrase("How near: the whole, or a close view; Ctrl and wheel go nearer"), 68)
        self.near.activated.connect(lambda _: board.look(ChartLook(self.near.currentData() or WHOLE)))
        self.age: QComboBox = choice(phrase("Whom it is drawn for: usual sizes"))
        self.age.addItem(phrase("own measures"), None)
        for age in Age:
            self.age.addItem(named(age), age)
        self.age.setMinimumWidth(px(68))
        self.age.activated.connect(self._set_age)
        self.head_mm, self.face_mm = NumberField(HEAD), NumberField(FACE)
        self.head_mm.edited.connect(lambda v: self._measure(phrase("Head breadth"), head_breadth_mm=v))
        self.face_mm.edited.connect(lambda v: self._measure(phrase("Face height"), face_height_mm=v))
        self.guide = _choice(phrase("A frame to paint along"), 82)
        self.guide.activated.connect(lambda _: self._set_guide())
        self.eyes = QToolButton()
        self.eyes.setText(phrase("Eyes closed"))
        self.eyes.setCheckable(True)
        self.eyes.setToolTip(phrase("Paint on the lid of a closed eye is fine; on an open one nothing is"))
        self.eyes.clicked.connect(self.turn_eyes)
        self.light: QComboBox = choice(phrase("The light of the place: how it looks there, once the eye is used to it"))
        for number, one in enumerate(Light):
            self.light.addItem(named(one), one)
            self.light.setItemData(number, one.words, Qt.ItemDataRole.ToolTipRole)
        self.light.setMinimumWidth(px(76))
        self.light.activated.connect(lambda _: self._set_light())
        title = Label(phrase("Chart"))
        title.setObjectName("station")
        head, face = _note(phrase("head"), self.head_mm), _note(phrase("face"), self.face_mm)
        first = (title, self.chart, self.near, self.age)
        self.of: list[QWidget] = [*first, head, self.head_mm, face, self.face_mm, self.guide]
        board.looked.connect(self._show_near)
        model.shown.connect(self.refresh)

    # --- choosing ---

    def _measure(self, label: str, **changes: float) -> None:
        def make(plan: Plan) -> Plan:
            return replace(plan, measures=replace(plan.measures, **changes))

        self._model.edit(label, make, label)

    def _set_age(self, at: int) -> None:
        age = self.age.itemData(at)
        if age is not None:
            self._model.edit(phrase("Whom it is drawn for"), lambda plan: replace(plan, measures=usual(age)))

    def turn_eyes(self) -> None:
        """Open or close the eyes of this chart, with all that lies on it."""
        key = self._model.key
        self._model.edit(phrase("Eyes open or closed"), lambda plan: with_other_eyes(plan, key))
        self._model.show_chart(OTHER_EYES[key])

    def _set_guide(self) -> None:
        self._board.guide = self.guide.currentData() or ""
        self._board.update()

    def _set_light(self) -> None:
        self._model.edit(phrase("Light of the place"), lambda plan: replace(plan, light=self.light.currentData()))

    # --- following ---

    def show_unit(self, unit: LengthUnit) -> None:
        """Show lengths in this unit."""
        for field in (self.head_mm, self.face_mm):
            field.show_unit(unit)

    def refresh(self) -> None:
        """Follow the model."""
        measures = self._model.plan.measures
        with QSignalBlocker(self.eyes):
            self.eyes.setEnabled(self._model.key in OTHER_EYES)
            self.eyes.setChecked(self._model.chart.eyes_closed)
        with QSignalBlocker(self.chart):
            self.chart.setCurrentIndex(self.chart.findData(self._model.key))
        known = next((age for age in Age if usual(age) == measures), None)
        with QSignalBlocker(self.age):
            self.age.setCurrentIndex(0 if known is None else 1 + list(Age).index(known))
        with QSignalBlocker(self.light):
            self.light.setCurrentIndex(self.light.findData(self._model.plan.light))
        self.head_mm.show_amount(measures.head_breadth_mm)
        self.face_mm.show_amount(measures.face_height_mm)
        frames: list[tuple[str, object]] = [
            (phrase("no frame"), ""),
            *((place_words(name), name) for name, _ in self._model.chart.frames),
        ]
        wished = self._board.guide if self._board.guide in dict(self._model.chart.frames) else ""
        fill(self.guide, frames, wished)
        self._board.guide = wished
        self._show_near()

    def _show_near(self) -> None:
        """Say from how near the chart is looked at."""
        seen = self._board.seen
        nearer = "" if seen == ChartLook(seen.view) else f", {seen.zoom:.0%}"
        views = [(phrase("whole"), WHOLE), *((place_words(name), name) for name, _ in self._model.chart.views)]
        fill(self.near, [(name + (nearer if view == seen.view else ""), view) for name, view in views], seen.view)


def _choice(words: str, least_px: int) -> QComboBox:
    """Return a choice as wide as what is chosen in it, and no narrower than told."""
    made: QComboBox = choice(words)
    made.setMinimumWidth(px(least_px))
    made.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
    return made


def _note(words: str, of: QWidget) -> Label:
    """Return the word before a field."""
    label = Label(words)
    label.setObjectName("note")
    label.setBuddy(of)
    label.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Preferred)
    return label
