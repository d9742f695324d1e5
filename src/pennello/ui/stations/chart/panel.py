"""At the right of the chart: parts, loads, or what is in the hand: its arithmetic, its numbers, what it can do."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QSignalBlocker, QSize, Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from pennello.chart.chart import Point
from pennello.chart.names import place_words
from pennello.design.holds import Number, hold_of, numbers_in_hand, with_hold
from pennello.design.on_chart import (
    aimed,
    arithmetic_of,
    broken_apart,
    mirrored_twin,
    repeated,
    says_of,
    snapped,
    without_motif,
)
from pennello.design.part_edits import put_in
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan
from pennello.design.pulled import points_of, with_press, with_way
from pennello.errors import PennelloError
from pennello.lay.families.family import Parameter
from pennello.lay.stroke import Stroke
from pennello.motif.catalogue import motif
from pennello.phrases import phrase
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.chart.bound_fields import BoundFields
from pennello.ui.stations.chart.hand_verdict import HandVerdict
from pennello.ui.stations.chart.loads_page import LoadShelf
from pennello.ui.stations.chart.made_fields import MadeFields
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.stations.chart.odd_list import OddList
from pennello.ui.stations.chart.parts_page import PartsPage
from pennello.ui.theme.text import px
from pennello.ui.widgets.asking import ask_amount
from pennello.ui.widgets.card_row import empty_grid
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.hold_buttons import HoldButtons
from pennello.ui.widgets.menus import passing_menu
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.one_of import OneOf
from pennello.ui.widgets.plain import Label, menu_words
from pennello.units import LengthUnit

PRESS = Quantity(phrase("Pressure where it is greatest"), 5, 100, 5, 0, " %")
_HOLD = QSize(42, 28)
ALONG = Quantity(phrase("How many, the first included?"), 2, 60, 1, 0)
_LENGTHS = "mm"


class MotifPanel(QFrame):
    """The chosen motif.

    Signals
    -------
    kept
        It shall be kept as one's own.
    """

    kept = Signal()

    def __init__(self, model: ChartModel) -> None:
        super().__init__()
        self._model = model
        self._of = ""
        self._said_of: object = None
        self._said_id = ""
        self._said_words: tuple[str, ...] = ()
        self.unit = LengthUnit.MM
        self.setAccessibleName(phrase("The motif in the hand"))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        self.name = Label("")
        self.name.setObjectName("station")
        self.says = Label("")
        self.says.setWordWrap(True)
        column.addWidget(self.name)
        column.addWidget(self.says)
        self.short = QCheckBox(phrase("numbers of the short form"))
        self.short.setToolTip(
            phrase("Fewer petals, no lights: what is painted when the queue is long; the chart shows it too")
        )
        self.short.toggled.connect(lambda on: model.show_short(on=on))
        column.addWidget(self.short)
        self._numbers = self._room_for_numbers()
        self.holds = HoldButtons(_HOLD, words=False)
        self.holds.chosen.connect(
            lambda hold: model.edit_motif(
                phrase("Hold it another way"), lambda one: with_way(one, lambda w: with_hold(w, hold))
            )
        )
        self.verdict = HandVerdict(model)
        column.addWidget(self.holds)
        column.addWidget(self.verdict)
        column.addWidget(self._numbers, 1)
        self.fields: dict[str, NumberField] = {}
        self.loads: dict[str, QComboBox] = {}
        self.ticks: dict[str, QCheckBox] = {}
        self._build_foot(column)
        model.chosen_anew.connect(self.refresh)
        model.shown.connect(self.refresh)
        model.painted_anew.connect(self.refresh)
        self.refresh()

    def _room_for_numbers(self) -> QScrollArea:
        """Return what the numbers of a motif scroll in, however many it has."""
        self._inner = QWidget()
        self.grid = QGridLayout(self._inner)
        self.grid.setContentsMargins(0, 0, 0, 0)
        self.grid.setVerticalSpacing(0)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self._inner)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        return scroll

    def _build_foot(self, column: QVBoxLayout) -> None:
        """Put in what goes for every motif, and what can be done with it."""
        model = self._model
        self.twin = QCheckBox(phrase("its mirror image too, live"))
        self.twin.setToolTip(phrase("Painted with it across the midline, and follows it"))
        self.twin.toggled.connect(
            lambda on: model.edit_motif(phrase("Mirror image"), lambda one: replace(one, twin=on))
        )
        self.one_sided = QCheckBox(phrase("differs left and right on purpose"))
        self.one_sided.setToolTip(phrase("No mirror image of it is missed"))
        self.one_sided.toggled.connect(
            lambda on: model.edit_motif(phrase("On one side on purpose"), lambda one: replace(one, one_sided=on))
        )
        self.made = MadeFields(model)
        column.addWidget(self.made)
        self.bound = BoundFields(model)
        column.addWidget(self.bound)
        column.addWidget(self.twin)
        column.addWidget(self.one_sided)
        column.addLayout(self._deeds())

    def _deeds(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(4)
        self.named: dict[str, QPushButton] = {}
        deeds: tuple[tuple[str, str, Callable[[], object]], ...] = (
            (
                phrase("Aim at ..."),
                phrase("Turn its top to a landmark"),
                lambda: self._offer(phrase("Aim at ..."), self.aim_at),
            ),
            (
                phrase("Put on ..."),
                phrase("Its middle on a landmark"),
                lambda: self._offer(phrase("Put on ..."), self.put_on),
            ),
            (phrase("Along ..."), phrase("Copies of it along a frame, evenly apart"), self._offer_guides),
            (phrase("Mirror copy"), phrase("Its mirror image as a motif of its own"), self._mirror),
            (phrase("Break apart"), phrase("Its strokes one by one, to move each"), self._break),
            (phrase("Keep ..."), phrase("As a motif of your own, for other plans"), self.kept.emit),
            (phrase("Part ..."), phrase("Moves together with another one"), self._offer_groups),
            (phrase("Take away"), phrase("Off the chart; undo brings it back"), self._remove),
        )
        for number, (words, hint, act) in enumerate(deeds):
            button = QPushButton(words)
            button.setProperty("chip", True)
            button.setToolTip(hint)
            button.clicked.connect(lambda _=False, do=act: do())
            grid.addWidget(button, number // 2, number % 2)
            self.named[words] = button
        return grid

    # --- deeds ---

    def _offer(self, button: str, act: Callable[[Point], None]) -> None:
        menu = passing_menu(self)
        for name, point in self._model.chart.landmarks:
            menu.addAction(place_words(name)).triggered.connect(lambda _=False, at=point: act(at))
        self._popup(menu, button)

    def _popup(self, menu: QMenu, button: str) -> None:
        at = self.named[button]
        menu.popup(at.mapToGlobal(at.rect().bottomLeft()))

    def aim_at(self, point: Point) -> None:
        """Turn the motif's top to a point."""
        self._model.edit_motif(phrase("Aim a motif"), lambda one: aimed(one, point))

    def put_on(self, point: Point) -> None:
        """Put the motif's middle on a point."""
        self._model.edit_motif(phrase("Put a motif on a landmark"), lambda one: snapped(one, point))

    def _offer_guides(self) -> None:
        menu = passing_menu(self)
        for name, _ in self._model.chart.frames:
            menu.addAction(place_words(name)).triggered.connect(lambda _=False, frame=name: self._ask_count(frame))
        self._popup(menu, phrase("Along ..."))

    def _ask_count(self, frame: str) -> None:
        count = ask_amount(self, phrase("Along a frame"), ALONG, 5)
        if count is not None:
            self.repeat_along(frame, round(count))

    def repeat_along(self, frame: str, count: int) -> None:
        """Put copies of the motif along a frame."""
        chosen = self._model.chosen
        if chosen is not None:
            guide = self._model.chart.frame(frame)
            self._model.edit(phrase("Along a frame"), lambda plan: repeated(plan, chosen.id, guide, count))

    def _whole(self, label: str, make: Callable[[Plan, str], Plan]) -> None:
        chosen = self._model.chosen
        if chosen is not None:
            self._model.edit(label, lambda plan: make(plan, chosen.id))

    def _offer_groups(self) -> None:
        menu, chosen = passing_menu(self), self._model.chosen
        for part in self._model.plan.parts:
            if chosen is not None and part.id != chosen.part:
                menu.addAction(menu_words(part.name)).triggered.connect(lambda _=False, name=part.id: self.put_in(name))
        menu.addSeparator()
        menu.addAction(phrase("A new part")).triggered.connect(lambda _=False: self.new_part())
        if chosen is not None and chosen.part:
            menu.addAction(phrase("Of no part")).triggered.connect(lambda _=False: self.put_in(""))
        self._popup(menu, phrase("Part ..."))

    def put_in(self, part: str) -> None:
        """Let the piece belong to a part, or with "" to none."""
        chosen = self._model.chosen
        if chosen is not None:
            self._model.edit(phrase("Into a part"), lambda plan: put_in(plan, [chosen.id], part))

    def new_part(self) -> None:
        """Make a part of the piece."""
        chosen = self._model.chosen
        if chosen is not None:
            self._model.make_part(chosen.name, [chosen.id])

    def _mirror(self) -> None:
        self._whole(phrase("Mirror copy"), lambda plan, name: mirrored_twin(plan, name)[0])

    def _break(self) -> None:
        self._whole(phrase("Break a motif apart"), broken_apart)

    def _remove(self) -> None:
        self._whole(phrase("Take a motif away"), without_motif)

    # --- following ---

    def refresh(self) -> None:
        """Follow the model."""
        chosen = self._model.chosen
        self.bound.refresh()
        self.made.refresh(self.unit)
        for widget in (self.says, self._numbers, self.twin, self.one_sided, *self.named.values()):
            widget.setVisible(chosen is not None)
        self.short.setVisible(chosen is not None and bool(chosen.motif))
        free = _free_way(chosen)
        self.holds.setVisible(free is not None)
        with QSignalBlocker(self.short):
            self.short.setChecked(self._model.short)
        if chosen is None:
            self.name.setText(phrase("No motif in the hand"))
            self._of = ""
            return
        self.name.setText(chosen.name)
        if free is not None:
            self.holds.show_hold(hold_of(free))
            self.holds.draw(self._model.document.committed, chosen.loads[0][1])
        self._show_numbers(chosen, free)
        self._show_sides(chosen)

    def _show_numbers(self, chosen: PlacedMotif, free: Stroke | None) -> None:
        """Show what a piece comes to, its numbers and loads."""
        numbers = numbers_in_hand(free) if free is not None else ()
        kind = f"{chosen.id} {chosen.motif} {[one.key for one in numbers]}"
        if kind != self._of:
            self._of = kind
            self._build(chosen)
        shown = chosen.in_short if self._model.short else chosen
        self._say(self._model.plan, shown)
        values = motif(chosen.motif).values(dict(shown.values)) if chosen.motif else {}
        values |= {one.key: one.value for one in numbers}
        if free is not None:
            values["press"] = 100 * _press(free)
        if not values.keys() >= {*self.fields, *self.ticks}:  # built for what was chosen before
            self._build(chosen)
        for key, field in self.fields.items():
            field.show_unit(self.unit)
            field.show_amount(values[key])
        for key, tick in self.ticks.items():
            with QSignalBlocker(tick):
                tick.setChecked(values[key] >= 0.5)
        items: list[tuple[str, object]] = [(one.name, one.id) for one in self._model.plan.strokes]
        for part, box in self.loads.items():
            fill(box, items, chosen.load_of.get(part))

    def _say(self, plan: Plan, shown: PlacedMotif) -> None:
        """Say at once what a piece is made of; how many loads and seconds it takes is worked out by a worker."""
        question = (plan, shown)
        if question == self._said_of:
            self._show_words(self._said_words)
            return
        if shown.id != self._said_id:
            self._said_words = ()
        self._said_of, self._said_id = question, shown.id
        kept = self._said_words[-1:]
        try:
            self._show_words((*arithmetic_of(plan, shown), *kept))
        except PennelloError as error:
            self.says.setText(str(error))
            return

        def take(words: str) -> None:
            if self._said_of is question:
                self._show_words(tuple(words.split("\n")))

        self._model.tell(phrase("a piece"), self, lambda: "\n".join(says_of(plan, shown)), take)

    def _show_words(self, words: tuple[str, ...]) -> None:
        """Show what is said of the piece, and how much of a base's edges is hidden under what comes after it."""
        self._said_words = words
        chosen = self._model.chosen
        self.says.setText("\n".join((*words, *(self._edges(chosen) if chosen is not None else ()))))

    def _show_sides(self, chosen: PlacedMotif) -> None:
        """Show what goes for the other side of the midline."""
        midline = self._model.chart.midline_mm is not None
        lies = chosen.computed is None  # what is worked out lies where it must
        self.twin.setVisible(lies)
        self.one_sided.setVisible(lies)
        self.twin.setEnabled(midline)
        self.one_sided.setEnabled(midline and not chosen.twin)
        self.named[phrase("Mirror copy")].setEnabled(midline and lies)
        self.named[phrase("Along ...")].setEnabled(bool(self._model.chart.frames) and lies)
        for words in (phrase("Aim at ..."), phrase("Put on ...")):
            self.named[words].setEnabled(lies)
        for tick, on in ((self.twin, chosen.twin), (self.one_sided, chosen.one_sided)):
            with QSignalBlocker(tick):
                tick.setChecked(on)

    def _edges(self, chosen: PlacedMotif) -> tuple[str, ...]:
        """Say how much of a base's edges is hidden under what is painted after it."""
        shares = self._model.edges.get(chosen.id)
        if shares is None:
            return ()
        return (
            phrase(
                "under later strokes: {shares:.0%} of edge A, {shares_2:.0%} of edge B; soften what is seen",
                shares=shares[0],
                shares_2=shares[1],
            ),
        )

    def _build(self, chosen: PlacedMotif) -> None:
        """Make fields and choices for a motif."""
        empty_grid(self.grid)
        self.fields, self.loads, self.ticks = {}, {}, {}
        row = 0
        if chosen.motif:
            kind = motif(chosen.motif)
            for one in kind.parameters:
                self._add_number(row, one)
                row += 1
        if points_of(chosen) and chosen.way is not None:
            for number in numbers_in_hand(chosen.way):
                self._add_of_hold(row, number)
                row += 1
            press = NumberField(PRESS)
            press.edited.connect(lambda v: self._way(phrase("Pressure"), lambda w: with_press(w, v / 100), "press"))
            self._add(row, "pressure", press)
            self.fields["press"] = press
            row += 1
        for part, _ in chosen.loads:
            name = next((p.name for p in motif(chosen.motif).parts if p.key == part), part) if chosen.motif else part
            box = choice(phrase("Load of the {name}", name=name))
            box.activated.connect(lambda at, key=part, of=box: self._load(key, of.itemData(at)))
            box.setMinimumWidth(px(158))
            self._add(row, phrase("{name} with", name=name), box)
            self.loads[part] = box
            row += 1
        self.grid.setRowStretch(row, 1)

    def _add_number(self, row: int, one: Parameter) -> None:
        """Put a number's field into the grid, or a tick for one that is only on or off."""
        if (one.low, one.high, one.unit) == (0, 1, "") and "(1)" in one.name:
            tick = QCheckBox(one.name.replace(" (1) or not (0)", ""))
            tick.toggled.connect(lambda on, key=one.key: self._set(key, float(on)))
            self.grid.addWidget(tick, row, 0, 1, 2)
            self.ticks[one.key] = tick
            return
        whole = one.unit == "×"
        step = 1.0 if whole or one.unit in (_LENGTHS, "°") else 0.05
        decimals = 0 if whole or one.unit == "°" else 1 if one.unit == _LENGTHS else 2
        unit = "" if one.unit == _LENGTHS else f" {one.unit}".rstrip()
        field = NumberField(Quantity(one.name, one.low, one.high, step, decimals, unit, length=one.unit == _LENGTHS))
        field.edited.connect(lambda value, key=one.key: self._set(key, value))
        self._add(row, one.name, field)
        self.fields[one.key] = field

    def _add_of_hold(self, row: int, one: Number) -> None:
        """Put a number of the hold of a free stroke into the grid."""
        length, whole = one.unit == " mm", one.unit in ("°", " ×")
        unit = "" if length else one.unit
        field = NumberField(
            Quantity(one.name, one.low, one.high, 1.0 if whole else 0.5, 0 if whole else 1, unit, length=length)
        )

        def changed(way: Stroke, value: float) -> Stroke:
            return next((found.change(value) for found in numbers_in_hand(way) if found.key == one.key), way)

        field.edited.connect(lambda v: self._way(phrase("A number of the hold"), lambda w: changed(w, v), one.key))
        self._add(row, one.name, field)
        self.fields[one.key] = field

    def _way(self, label: str, change: Callable[[Stroke], Stroke], key: str) -> None:
        self._model.edit_motif(label, lambda one: with_way(one, change), phrase("way {key}", key=key) if key else "")

    def _add(self, row: int, words: str, widget: QWidget) -> None:
        label = Label(words)
        label.setObjectName("note")
        label.setWordWrap(True)
        label.setBuddy(widget)
        self.grid.addWidget(label, row, 0)
        self.grid.addWidget(widget, row, 1)
        self.grid.setColumnStretch(0, 1)

    def _set(self, key: str, value: float) -> None:
        if self._model.short:
            self._model.edit_motif(
                phrase("A number of the short form"),
                lambda one: one.with_short(key, value),
                phrase("short {key}", key=key),
            )
        else:
            self._model.edit_motif(
                phrase("A number of a motif"), lambda one: one.with_value(key, value), phrase("motif {key}", key=key)
            )

    def _load(self, part: str, stroke: str) -> None:
        def make(one: PlacedMotif) -> PlacedMotif:
            return replace(one, loads=tuple((key, stroke if key == part else of) for key, of in one.loads))

        self._model.edit_motif(phrase("Load of a motif"), make)


def _free_way(chosen: PlacedMotif | None) -> Stroke | None:
    """Return the way of a single free stroke, or None for any other piece."""
    return chosen.way if chosen is not None and points_of(chosen) else None


def _press(way: Stroke) -> float:
    return max(key.value for key in way.pressures) if way.pressures else way.pressure


class SidePanel(QFrame):
    """Three pages: the parts of the design, its loads, the piece in the hand."""

    def __init__(self, model: ChartModel, bench: BenchModel) -> None:
        super().__init__()
        self._model = model
        self.setObjectName("mat")
        self.setFixedWidth(px(312))
        self.parts = PartsPage(model)
        self.loads = LoadShelf(model, bench)
        self.hand = MotifPanel(model)
        self.pages = QStackedWidget()
        self.switches: list[QPushButton] = []
        group = OneOf(self)
        head = QHBoxLayout()
        head.setSpacing(2)
        named = ((phrase("Parts"), self.parts), (phrase("Loads"), self.loads), (phrase("In the hand"), self.hand))
        for number, (words, page) in enumerate(named):
            self.pages.addWidget(page)
            button = QPushButton(words)
            button.setCheckable(True)
            button.setProperty("segment", True)
            button.clicked.connect(lambda _=False, at=number: self.show_page(at))
            group.addButton(button)
            head.addWidget(button)
            self.switches.append(button)
        head.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(6)
        column.addLayout(head)
        column.addWidget(self.pages, 1)
        self.odd = OddList(model)
        column.addWidget(self.odd)
        model.chosen_anew.connect(lambda: self.show_page(2 if model.chosen_id else 0))
        model.shown.connect(self.refresh)
        self.switches[0].setChecked(True)

    def show_page(self, number: int) -> None:
        """Show the parts (0), the loads (1) or what is in the hand (2)."""
        self.pages.setCurrentIndex(number)
        self.switches[number].setChecked(True)
        self.refresh()

    def refresh(self) -> None:
        """Follow the model; a page that is not shown waits."""
        page = self.pages.currentWidget()
        if isinstance(page, PartsPage | LoadShelf):
            page.refresh()
