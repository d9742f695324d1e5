"""The numbers under the cake: where the paint comes from, which brush, where it lies, how often, how wet."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtWidgets import QComboBox, QGridLayout, QPushButton, QToolButton, QWidget

from pennello.design.edits import with_brush_taken, with_pickup, with_stroke
from pennello.design.load_kinds import main_way
from pennello.design.plan import Plan, PlanStroke
from pennello.kit.cake import Portion
from pennello.load.recipe import DRIFT_MM, MOST_IN_PAN, OFFSET_MM, PASSES, SKEW_DEG, PickUp, Way, Wetness
from pennello.phrases import named, phrase
from pennello.ui.bench_model import BenchModel, pickup_changes
from pennello.ui.theme.icons import set_glyph
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.mat import Mat
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.words import Words

OFFSET = Quantity(phrase("Corner from the left wall"), *OFFSET_MM, 0.5, 1, length=True)
SKEW = Quantity(phrase("Turn of the brush on the cake"), *SKEW_DEG, 1, 0, "°")
SWEEPS = Quantity(phrase("Sweeps, back or forth"), *PASSES, 1, 0, " ×")
DRIFT = Quantity(phrase("Sideways drift of the sweeps"), *DRIFT_MM, 0.1, 1, length=True)
PARTS = Quantity(phrase("Parts in the pan"), 0.1, 1000, 1, 1, phrase(" parts"))

_HEADS = {
    Way.SWEEP: phrase("Sweeps"),
    Way.PRESS: phrase("Presses"),
    Way.DIP: phrase("Dips"),
    Way.SIDE: phrase("Strokes"),
    Way.ROLL: phrase("Turns"),
}
_MIXED = phrase("mixed in a pan")


class PanRows(QWidget):
    """The paints in a pan and their parts."""

    def __init__(self, model: BenchModel) -> None:
        super().__init__()
        self._model = model
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setVerticalSpacing(2)
        self.rows: list[tuple[QComboBox, NumberField, QToolButton]] = []
        self.more = QPushButton(phrase("Mix another paint in"))
        set_glyph(self.more, "plus")
        self.more.clicked.connect(self._add)

    def _add(self) -> None:
        pickup = self._model.pickup
        paints = [paint.id for paint in self._model.plan.paints]
        used = [portion.paint for portion in pickup.pan] if pickup else []
        new = next((name for name in paints if name not in used), paints[0])
        self._set(phrase("Mix another paint in"), (*(pickup.pan if pickup else ()), Portion(new, 1.0)))

    def _set(self, label: str, pan: tuple[Portion, ...], merge: str = "") -> None:
        self._model.set_pickup(label, merge, pan=pan)

    def _change(self, row: int, **changes: object) -> None:
        pickup = self._model.pickup
        if pickup is None or row >= len(pickup.pan):
            return
        old = pickup.pan[row]
        paint, amount = changes.get("paint", old.paint), changes.get("amount", old.amount)
        assert isinstance(paint, str)
        assert isinstance(amount, int | float)
        pan = (*pickup.pan[:row], Portion(paint, float(amount)), *pickup.pan[row + 1 :])
        self._set(phrase("Paint in the pan"), pan, phrase("pan {row} {list}", row=row, list=list(changes)))

    def _drop(self, row: int) -> None:
        pickup = self._model.pickup
        if pickup and len(pickup.pan) > 1:
            self._set(phrase("Leave a paint out"), (*pickup.pan[:row], *pickup.pan[row + 1 :]))

    def refresh(self, pickup: PickUp) -> None:
        """Show the pan of a pick-up."""
        self._keep(len(pickup.pan))
        items: list[tuple[str, object]] = [(paint.name, paint.id) for paint in self._model.plan.paints]
        for (box, field, away), portion in zip(self.rows, pickup.pan, strict=True):
            fill(box, items, portion.paint)
            field.show_amount(portion.amount)
            field.setVisible(len(self.rows) > 1)
            away.setVisible(len(self.rows) > 1)
        self.more.setVisible(len(pickup.pan) < MOST_IN_PAN)

    def _keep(self, count: int) -> None:
        while len(self.rows) > count:
            gone: tuple[QWidget, ...] = self.rows.pop()
            for widget in gone:
                self._grid.removeWidget(widget)
                widget.hide()
                widget.deleteLater()
        while len(self.rows) < count:
            row = len(self.rows)
            box, field, away = (
                choice(phrase("Paint {row} in the pan", row=row + 1)),
                NumberField(PARTS),
                QToolButton(),
            )
            set_glyph(away, "away")
            away.setToolTip(phrase("Leave this paint out"))
            away.setAccessibleName(phrase("Leave paint {row} out of the pan", row=row + 1))
            box.activated.connect(lambda index, at=row, of=box: self._change(at, paint=of.itemData(index)))
            field.edited.connect(lambda amount, at=row: self._change(at, amount=amount))
            away.clicked.connect(lambda _=False, at=row: self._drop(at))
            for column, widget in enumerate((box, field, away)):
                self._grid.addWidget(widget, row, column)
            self.rows.append((box, field, away))
        self._grid.setColumnStretch(0, 1)
        self._grid.addWidget(self.more, count, 0, 1, 3, Qt.AlignmentFlag.AlignLeft)


class CakeFields:
    """Fields that a cake mat shows; the mat is what the painter sees."""

    def __init__(self, mat: Mat, model: BenchModel) -> None:
        self._mat, self._model = mat, model
        self.cake_choice = choice(phrase("Where the paint comes from"))
        self.brush_choice = choice(phrase("Brush"))
        self.wet_choice = choice(phrase("Wetness"))
        for wetness in Wetness:
            self.wet_choice.addItem(named(wetness), wetness)
        self.cake_choice.activated.connect(self._choose_source)
        self.brush_choice.activated.connect(self._choose_brush)
        self.wet_choice.activated.connect(lambda at: self._set(phrase("Wetness"), wetness=self.wet_choice.itemData(at)))
        self.offset, self.skew, self.sweeps, self.drift = (NumberField(q) for q in (OFFSET, SKEW, SWEEPS, DRIFT))
        self._number(self.offset, phrase("Slide the brush"), "offset_mm")
        self._number(self.skew, phrase("Turn the brush"), "skew_deg")
        self._number(self.sweeps, phrase("Sweeps"), "passes")
        self._number(self.drift, phrase("Drift"), "drift_mm")
        self.flip_button = QToolButton()
        set_glyph(self.flip_button, "flip")
        self.flip_button.setText(phrase("Flip"))
        self.flip_button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.flip_button.setToolTip(phrase("Turn the brush half round: corners A and B change sides"))
        self.flip_button.clicked.connect(self.do_flip)
        self.pan = PanRows(model)
        self.sign = Words(2)
        self.mend = QPushButton(phrase("Mend"))
        self.mend.setToolTip(phrase("Make it creamy; undo takes it back"))
        self.mend.setProperty("chip", True)
        self.mend.clicked.connect(lambda: self._set(phrase("Make it creamy"), wetness=Wetness.CREAMY))
        self._lay_out()

    def _lay_out(self) -> None:
        mat, grid = self._mat, self._mat.fields
        mat.add_field(0, 0, phrase("From"), self.cake_choice, 2)
        grid.addWidget(self.pan, 2, 0, 1, 4)
        mat.add_field(3, 0, phrase("From wall"), self.offset)
        mat.add_field(3, 1, phrase("Sweeps"), self.sweeps)
        mat.add_field(0, 0, phrase("Turned"), self.skew, rest=True)
        mat.add_field(0, 1, phrase("Drift"), self.drift, rest=True)
        mat.add_field(1, 0, phrase("Wetness"), self.wet_choice, 2, rest=True)
        self.more = mat.fold(phrase("cake"))
        grid.addWidget(self.flip_button, 4, 0, 1, 2)
        grid.addWidget(self.more, 4, 2, 1, 2, Qt.AlignmentFlag.AlignRight)
        grid.addWidget(self.sign, 6, 0, 1, 3)
        grid.addWidget(self.mend, 6, 3)

    def _number(self, field: NumberField, label: str, name: str) -> None:
        field.edited.connect(lambda value: self._model.set_number(label, name, value))

    def _set(self, label: str, **changes: object) -> None:
        self._model.edit(label, pickup_changes(self._model.pickup_index, changes))

    def do_flip(self) -> None:
        """Turn the brush half round."""
        pickup = self._model.pickup
        if pickup and pickup.cake:
            self._set(phrase("Flip the brush"), flip=not pickup.flip)

    def _choose_source(self, index: int) -> None:
        kind, name = self.cake_choice.itemData(index)
        if kind == "cake":
            self._set(phrase("Another cake"), cake=name, pan=())
        elif name:
            self._set(phrase("Take from a pan"), cake="", pan=(Portion(name, 1.0),))

    def _choose_brush(self, index: int) -> None:
        brush = self.brush_choice.itemData(index)

        def change(plan: Plan, stroke: PlanStroke) -> Plan:
            """Take the brush; what was swept is pressed where a sponge comes instead, and the other way round."""
            way, was = main_way(plan.brush(brush)), main_way(plan.brush(stroke.brush))
            plan = with_brush_taken(plan, stroke.id, brush)
            changed = plan.stroke(stroke.id)
            for number, pickup in enumerate(changed.recipe.pickups):
                if pickup.way is was:
                    changed = with_pickup(changed, number, replace(pickup, way=way))
            return with_stroke(plan, changed)

        self._model.edit(phrase("Another brush"), change)

    def refresh(self) -> None:
        """Show the pick-up that is edited."""
        model, pickup = self._model, self._model.pickup
        self._fill_source(pickup)
        fill(self.brush_choice, [(brush.name, brush.id) for brush in model.plan.brushes], model.brush.id)
        swept = pickup is not None and bool(pickup.cake)
        for widget in (self.offset, self.skew, self.drift):
            self._show(widget, on=swept)
        for other in (self.sweeps, self.wet_choice):
            self._show(other, on=pickup is not None)
        self.more.setVisible(pickup is not None)
        self.flip_button.setVisible(swept)
        self.pan.setVisible(pickup is not None and not swept)
        odd = pickup is not None and bool(pickup.wetness.mend)
        self.mend.setVisible(odd)
        self.sign.setVisible(odd)
        if pickup is None:
            return
        if not swept:
            self.pan.refresh(pickup)
        for field, value in (
            (self.offset, pickup.offset_mm),
            (self.skew, pickup.skew_deg),
            (self.sweeps, pickup.passes),
            (self.drift, pickup.drift_mm),
        ):
            field.show_unit(model.unit)
            field.show_amount(value)
        with QSignalBlocker(self.wet_choice):
            self.wet_choice.setCurrentIndex(list(Wetness).index(pickup.wetness))
        self._mat.labels[self.sweeps].setText(_HEADS[pickup.way])
        self.wet_choice.setToolTip(phrase("Wetness: {sign}", sign=pickup.wetness.sign))
        sign = pickup.wetness.sign
        self.sign.setText(f"{sign[0].upper()}{sign[1:]}: {pickup.wetness.mend}")

    def _fill_source(self, pickup: PickUp | None) -> None:
        plan = self._model.plan
        items: list[tuple[str, object]] = [(cake.name, ("cake", cake.id)) for cake in plan.cakes]
        items += [(phrase("pan of {paint}", paint=paint.name), ("pan", paint.id)) for paint in plan.paints]
        current: object = None
        if pickup is not None and pickup.cake:
            current = ("cake", pickup.cake)
        elif pickup is not None and len(pickup.pan) == 1:
            current = ("pan", pickup.pan[0].paint)
        elif pickup is not None:
            items.append((_MIXED, ("pan", "")))
            current = ("pan", "")
        fill(self.cake_choice, items, current)
        self.cake_choice.setEnabled(pickup is not None)

    def _show(self, field: QWidget, *, on: bool) -> None:
        """Show a field with its word, or neither."""
        field.setVisible(on)
        self._mat.labels[field].setVisible(on)
