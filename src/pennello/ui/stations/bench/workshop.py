"""The workshop: making the cake that lies on the Bench, stripe by stripe, with what it mixes to and how it wears."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtCore import QSignalBlocker, Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QFrame,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
)

from pennello.design.edits import with_cake, with_load_counted
from pennello.design.faces import faces_left
from pennello.design.plan import Plan, PlanStroke
from pennello.kit.cake import DEPTH_MM, SOFTNESS_MM, Cake
from pennello.kit.cut_list import DENSITY_G_PER_CM3, cut_list
from pennello.kit.neighbours import cake_mixes, hints
from pennello.kit.stripes import moved, recoloured, swapped, with_inserted, with_width, without
from pennello.load.wear import cleaned, refilled
from pennello.phrases import phrase
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.bench.stripe_cards import CardRow
from pennello.ui.theme.text import px
from pennello.ui.widgets.name_line import NameLine
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.words import Words

SOFTNESS = Quantity(phrase("Softness of the boundaries"), *SOFTNESS_MM, 0.1, 1, length=True)
LENGTH = Quantity(phrase("Length of the stripes"), 5, 300, 1, 0, length=True)
DEPTH = Quantity(phrase("Depth of the paint"), *DEPTH_MM, 0.5, 1, length=True)


class Workshop(QFrame):
    """Stripes to change, mixes, hints, cut list, wear.

    Signals
    -------
    label_wanted(str), ladder_wanted(str), kept(str)
        With the id of the cake: print its label, climb its tones, put it into the kit.
    left
        The painter is done.
    """

    label_wanted = Signal(str)
    ladder_wanted = Signal(str)
    kept = Signal(str)
    left = Signal()

    def __init__(self, model: BenchModel) -> None:
        super().__init__()
        self._model = model
        self.setObjectName("mat")
        self.setAccessibleName(phrase("Workshop of the cake"))
        outer = QVBoxLayout(self)
        outer.setContentsMargins(12, 6, 12, 6)
        outer.setSpacing(4)
        outer.addLayout(self._head())
        self.row = CardRow()
        self._connect_row()
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.row)
        scroll.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        body = QHBoxLayout()
        body.addWidget(scroll, 1)
        self.hints = Words(7)
        self.hints.setFixedWidth(px(230))
        body.addWidget(self.hints, 0, Qt.AlignmentFlag.AlignTop)
        outer.addLayout(body, 1)

    def _head(self) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(4)
        self.name = NameLine()
        self.name.setAccessibleName(phrase("Name of the cake"))
        self.name.setMaxLength(200)
        self.name.setMinimumWidth(px(80))
        self.name.setMaximumWidth(px(150))
        self.name.told.connect(self._rename)
        head.addWidget(self.name)
        self.soft_mm, self.long_mm, self.deep_mm = (NumberField(quantity) for quantity in (SOFTNESS, LENGTH, DEPTH))
        for words, field, name in (
            (phrase("soft"), self.soft_mm, "softness_mm"),
            (phrase("long"), self.long_mm, "length_mm"),
            (phrase("deep"), self.deep_mm, "depth_mm"),
        ):
            field.edited.connect(lambda value, of=name: self._set_size(of, value))
            field.setMaximumWidth(px(70))
            head.addWidget(field)
            label = Label(words)
            label.setObjectName("note")
            label.setBuddy(field)
            head.addWidget(label)
        self.ombre = QCheckBox(phrase("ombre"))
        self.ombre.setToolTip(phrase("The tones run into each other all the way"))
        self.ombre.toggled.connect(lambda on: self.change(phrase("Ombre"), lambda cake: replace(cake, ombre=on)))
        head.addWidget(self.ombre)
        head.addStretch(1)
        for words, hint, act in self._acts():
            head.addWidget(self._button(words, hint, act))
        done = self._button(phrase("Done"), phrase("Back to the read-out"), self.left.emit)
        done.setProperty("main", True)
        head.addWidget(done)
        return head

    def _acts(self) -> tuple[tuple[str, str, Callable[[], object]], ...]:
        """Return what can be done with the cake: words, hint and deed."""
        return (
            (
                phrase("Count a load"),
                phrase("The cake loses what this stroke's load takes, and gets what the brush leaves"),
                self._count,
            ),
            (
                phrase("Clean top"),
                phrase("A damp sponge takes the dirty layer off"),
                lambda: self.change(phrase("Clean the top"), cleaned),
            ),
            (phrase("Refill"), phrase("As new"), lambda: self.change(phrase("Refill the cake"), refilled)),
            (
                phrase("Tones"),
                phrase("One window slid by even steps of lightness"),
                lambda: self._say(self.ladder_wanted),
            ),
            (phrase("Label"), phrase("The label at true scale as PDF"), lambda: self._say(self.label_wanted)),
            (phrase("Keep"), phrase("Put this cake and its paints into the kit"), lambda: self._say(self.kept)),
        )

    @staticmethod
    def _button(words: str, hint: str, act: Callable[[], object]) -> QPushButton:
        button = QPushButton(words)
        button.setProperty("chip", True)
        button.setToolTip(hint)
        button.clicked.connect(lambda _=False: act())
        return button

    def _connect_row(self) -> None:
        row = self.row
        row.recoloured.connect(self._recolour)
        row.widened.connect(
            lambda at, width: self.change(
                phrase("Width of a stripe"), lambda c: with_width(c, at, width), phrase("width {at}", at=at)
            )
        )
        row.moved.connect(self._move)
        row.inserted.connect(self._insert)
        row.removed.connect(lambda at: self.change(phrase("Take a stripe out"), lambda cake: without(cake, at)))

    # --- edits ---

    def change(self, label: str, make: Callable[[Cake], Cake], merge: str = "") -> None:
        """Make another cake of the one on the Bench."""
        cake = self._model.cake
        if cake is not None:
            self._model.edit(label, lambda plan, _: with_cake(plan, make(plan.cake(cake.id))), merge)

    def _recolour(self, at: int, paint: str) -> None:
        self.change(phrase("Another paint"), lambda cake: recoloured(cake, at, paint))

    def _move(self, at: int, places: int) -> None:
        cake = self._model.cake
        if cake is None:
            return
        to = min(max(at + places, 0), len(cake.stripes) - 1)
        if abs(places) == 1 and to != at:
            self.change(phrase("Swap two stripes"), lambda one: swapped(one, at, to))
        elif to != at:
            self.change(phrase("Move a stripe"), lambda one: moved(one, at, to))

    def _insert(self, at: int) -> None:
        used = set(self._model.cake.paints) if self._model.cake else set()
        paints = [paint.id for paint in self._model.plan.paints]
        new = next((name for name in paints if name not in used), paints[0])
        self.change(phrase("Put a stripe in"), lambda cake: with_inserted(cake, at + 1, new))

    def _set_size(self, name: str, value: float) -> None:
        def make(cake: Cake) -> Cake:
            sizes: Any = {name: value}
            return replace(cake, **sizes)

        self.change(phrase("Size of the cake"), make, name)

    def _rename(self, name: str) -> None:
        if name:
            self.change(phrase("Rename the cake"), lambda cake: replace(cake, name=name))
        else:
            self.refresh()

    def _count(self) -> None:
        def counted(plan: Plan, stroke: PlanStroke) -> Plan:
            return with_load_counted(plan, stroke.id)

        self._model.edit(phrase("Count a load"), counted)

    def _say(self, signal: object) -> None:
        if self._model.cake is not None:
            signal.emit(self._model.cake.id)  # type: ignore[attr-defined]

    # --- following ---

    def refresh(self) -> None:
        """Show the cake on the Bench."""
        cake, plan = self._model.cake, self._model.plan
        self.setEnabled(cake is not None)
        if cake is None:
            return
        self.name.show_words(cake.name, cake.id)
        for field, value in (
            (self.soft_mm, cake.softness_mm),
            (self.long_mm, cake.length_mm),
            (self.deep_mm, cake.depth_mm),
        ):
            field.show_unit(self._model.unit)
            field.show_amount(value)
        with QSignalBlocker(self.ombre):
            self.ombre.setChecked(cake.ombre)
        paints = plan.paints_by_id
        items: list[tuple[str, object]] = [(paint.name, paint.id) for paint in plan.paints]
        self.row.keep(len(cake.stripes))
        lasting = faces_left(plan, cake.id)
        for card, stripe, faces in zip(self.row.cards, cake.stripes, lasting, strict=True):
            card.show_stripe(cake, items, paints[stripe.paint].srgb, self._model.unit, faces)
        names = [paints[stripe.paint].name for stripe in cake.stripes]
        for mark, mixed, one, other in zip(self.row.mixes, cake_mixes(cake, paints), names, names[1:], strict=False):
            mark.show_mix(mixed, one, other)
        self.hints.setText("\n".join([self._weight(cake), *hints(cake, paints)]))

    @staticmethod
    def _weight(cake: Cake) -> str:
        grams = sum(cut.grams for cut in cut_list(cake))
        return phrase(
            "{grams:.0f} g in all, at {density_g_per_cm3:g} g/cm³ (a default).",
            grams=grams,
            density_g_per_cm3=DENSITY_G_PER_CM3,
        )
