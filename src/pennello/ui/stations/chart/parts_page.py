"""At the right of the chart: the parts of the design in the order of painting, and how each is painted.

Parts and pieces are dragged to another place in the order, or into a part; a tick leaves one out for a look.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial

from PySide6.QtCore import QPoint, QSignalBlocker, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import (
    QApplication,
    QCheckBox,
    QComboBox,
    QGridLayout,
    QMenu,
    QPushButton,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from pennello.chart.catalogue import CHARTS
from pennello.design.echo import echoed, guide_of, with_echo
from pennello.design.on_chart import pieces_on, placed_in, seat
from pennello.design.ordering import Priority
from pennello.design.part import Habit, PlanPart
from pennello.design.part_edits import (
    all_placed_before,
    copied,
    mirrored_part,
    part_in,
    recoloured,
    twinned,
    with_part,
    without_part,
)
from pennello.design.parts import listed, pieces_in
from pennello.design.placed import LaidPiece, PlacedMotif
from pennello.design.plan import Plan
from pennello.design.repeats import SMALLER, TIMES, USUAL_SMALLER, USUAL_TIMES
from pennello.phrases import named, phrase, plural
from pennello.session.chart_scene import Painted
from pennello.ui.stations.chart.edge_icons import edge_icons
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.stations.chart.part_pictures import part_picture
from pennello.ui.stations.chart.part_tree import PICTURE, PartTree, is_part, item_of, name_of, part_of
from pennello.ui.widgets.asking import ask_amount, ask_name
from pennello.ui.widgets.bit_by_bit import BitByBit
from pennello.ui.widgets.choice import choice
from pennello.ui.widgets.menus import passing_menu
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label, menu_words
from pennello.ui.widgets.true_icon import true_icon

EMPTY = phrase(
    "Nothing lies here yet. Pick a motif from the strip below the chart: it is laid with a load of yours. "
    "Or take a load under Loads and pull a stroke with it."
)
FIRST = phrase("A motif is laid with the load of a stroke, and there is none yet: make one on the Bench first.")
TAKE = phrase(
    "Click one to take it in the hand. Drag to paint it earlier or later; take its tick away to look at the rest."
)

ECHOES = Quantity(phrase("How often"), *TIMES, 1, 0, " ×")
ECHO_SIZE = Quantity(phrase("Each so large beside the one before"), *SMALLER, 0.05, 2, phrase(" × size"))
WORTH = Quantity(phrase("How much the part adds to the look"), 0.1, 10, 0.5, 1, phrase(" × worth"))
_SELECTS = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
_ICON = QSize(34, 14)


class PartsPage(QWidget):
    """The list of parts, and what can be said of the one that is chosen.

    Signals
    -------
    kept(str)
        A part shall be kept as a motif of one's own.
    """

    kept = Signal(str)

    def __init__(self, model: ChartModel) -> None:
        super().__init__()
        self._model = model
        self._listed: object = None
        self._unticked: frozenset[str] = frozenset()
        self.part = ""
        self.words = Label("")
        self.words.setWordWrap(True)
        self.tree = PartTree(self)
        self._pictures = BitByBit(self)
        self.tree.dropped.connect(self.move_all)
        self.tree.itemSelectionChanged.connect(self._tell_new)
        self.tree.stepped.connect(self.step_all)
        self.tree.itemClicked.connect(lambda item, _: self._clicked(item))
        self.tree.currentItemChanged.connect(lambda item, _: self._current(item))
        self.tree.itemChanged.connect(lambda *_: self._ticked())
        self._soon = QTimer(self)  # the tree may be built anew only once its item is done with being changed
        self._soon.setSingleShot(True)
        self._soon.setInterval(0)
        self._soon.timeout.connect(lambda: self._model.hide(self._unticked))
        model.painted_anew.connect(self.show_pictures)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.words)
        column.addWidget(self.tree, 1)
        self._said = QWidget()
        column.addWidget(self._said)
        self._build_said()
        self.new = QPushButton(phrase("New part ..."))
        self.new.setProperty("chip", True)
        self.new.setToolTip(
            phrase("A part of what is selected, with Shift or Ctrl more than one; what you draw then belongs to it")
        )
        self.new.clicked.connect(self.ask_new)
        column.addWidget(self.new)

    def _build_said(self) -> None:
        """Put in what is said of a part."""
        grid = QGridLayout(self._said)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(4)
        self.title = Label("")
        self.title.setWordWrap(True)
        self.habit: QComboBox = choice(phrase("How the part is painted"))
        for habit in Habit:
            self.habit.addItem(named(habit), habit)
        self.priority: QComboBox = choice(phrase("Whether the part may be left out"))
        for priority in Priority:
            self.priority.addItem(named(priority), priority)
        self.worth = NumberField(WORTH)
        self.one_sided, self.short = QCheckBox(phrase("differs left and right")), QCheckBox(phrase("in the short form"))
        self.one_sided.setToolTip(phrase("On purpose: no mirror image of it is missed"))
        self.short.setToolTip(phrase("Painted also when the queue is long"))
        self.habit.activated.connect(
            lambda at: self._change(phrase("How it is painted"), habit=self.habit.itemData(at))
        )
        self.priority.activated.connect(lambda at: self._weigh(priority=self.priority.itemData(at)))
        self.worth.edited.connect(lambda value: self._weigh(worth=value))
        self.one_sided.toggled.connect(lambda on: self._change(phrase("On purpose"), one_sided=on))
        self.short.toggled.connect(lambda on: self._change(phrase("Short form"), long_only=not on))
        self.more = QPushButton(phrase("More ..."))
        self.more.setProperty("chip", True)
        self.more.setToolTip(phrase("Rename, copy, mirror, paint it with other loads, take it away"))
        self.more.clicked.connect(self._offer)
        grid.addWidget(self.title, 0, 0)
        grid.addWidget(self.more, 0, 1)
        grid.addWidget(self.habit, 1, 0, 1, 2)
        grid.addWidget(self.priority, 2, 0)
        grid.addWidget(self.worth, 2, 1)
        grid.addWidget(self.one_sided, 3, 0)
        grid.addWidget(self.short, 3, 1)

    # --- following ---

    def refresh(self) -> None:
        """Follow the model."""
        plan, motifs = self._model.plan, self._model.motifs
        strokes = len(pieces_on(plan, self._model.key))
        words = phrase(
            "{counted}, {counted_2} on this chart. {take}",
            counted=plural(len(motifs), "{count} piece", "{count} pieces"),
            counted_2=plural(strokes, "{count} stroke", "{count} strokes"),
            take=TAKE,
        )
        self.words.setText(words if motifs else EMPTY if plan.strokes else FIRST)
        if not any(one.id == self.part for one in plan.parts):
            self.part = ""
        told = tuple((one.id, one.name, one.part, one.twin, one.loads, one.chart) for one in plan.motifs)
        looks = (told, plan.parts, plan.strokes, plan.cakes, plan.paints, self._model.key, self._model.hidden)
        if looks != self._listed:
            self._listed = looks
            self._fill(plan)
            self._tell_new()
        self._show_said(plan)

    def _fill(self, plan: Plan) -> None:
        """Build the tree: parts with something on this chart, or with nothing at all, and this chart's pieces."""
        current = self.tree.currentItem()
        kept = self.part or (name_of(current) if current is not None else "")
        taken = {name_of(one) for one in self.tree.taken}
        icons = edge_icons(plan, _ICON)
        self._pictures.do(())
        with QSignalBlocker(self.tree):
            self.tree.clear()
            at: list[QTreeWidgetItem] = []
            for deep, one in listed(plan):
                if not self._is_here(plan, one):
                    continue
                item = self._item(plan, one, icons)
                del at[deep:]
                if at:
                    at[-1].addChild(item)
                else:
                    self.tree.addTopLevelItem(item)
                at.append(item)
                if one.id == kept:
                    self.tree.setCurrentItem(item)
            self.tree.expandAll()
            for item in self.tree.every:
                item.setSelected(name_of(item) in taken)
        self.show_pictures()

    def show_pictures(self) -> None:
        """Show each part as it is painted on this chart."""
        painted, plan = self._model.painted, self._model.plan
        if painted is None or painted.chart != self._model.key:
            return
        skin: Painted = painted
        laid: dict[str, list[LaidPiece]] = {}
        for piece in pieces_on(plan, self._model.key):
            laid.setdefault(piece.motif, []).append(piece)

        def show(item: QTreeWidgetItem) -> None:
            pieces = [one for placed in pieces_in(plan, name_of(item)) for one in laid.get(placed.id, ())]
            picture = part_picture(skin, plan, pieces, PICTURE)
            with QSignalBlocker(self.tree):
                item.setIcon(0, true_icon(picture))

        self._pictures.do([partial(show, item) for item in self.tree.every if is_part(item)])

    def _is_here(self, plan: Plan, one: PlanPart | PlacedMotif) -> bool:
        if isinstance(one, PlacedMotif):
            return one.chart == self._model.key
        pieces = pieces_in(plan, one.id)
        return not pieces or any(piece.chart == self._model.key for piece in pieces)

    def _item(self, plan: Plan, one: PlanPart | PlacedMotif, icons: Callable[[str], QPixmap]) -> QTreeWidgetItem:
        item = item_of(_words(one), one.id, part=isinstance(one, PlanPart))
        item.setToolTip(0, _tip(plan, one))
        item.setCheckState(0, Qt.CheckState.Unchecked if one.id in self._model.hidden else Qt.CheckState.Checked)
        if isinstance(one, PlacedMotif) and one.loads:
            item.setIcon(0, true_icon(icons(one.loads[0][1])))
        return item

    def _show_said(self, plan: Plan) -> None:
        self._said.setVisible(bool(self.part))
        if not self.part:
            return
        part = part_in(plan, self.part)
        pieces = pieces_in(plan, part.id)
        self.title.setText(f"{part.name}: {plural(len(pieces), '{count} piece', '{count} pieces')}")
        with QSignalBlocker(self.habit), QSignalBlocker(self.priority):
            self.habit.setCurrentIndex(self.habit.findData(part.habit))
            self.priority.setCurrentIndex(self.priority.findData(plan.ordering.priority(part.id)))
        self.worth.show_amount(dict(plan.ordering.worth).get(part.id, 1.0))
        for tick, on in ((self.one_sided, part.one_sided), (self.short, not part.long_only)):
            with QSignalBlocker(tick):
                tick.setChecked(on)

    # --- choosing ---

    def _current(self, item: QTreeWidgetItem | None) -> None:
        self.part = name_of(item) if item is not None and is_part(item) else ""
        self._show_said(self._model.plan)
        if self.part:
            self._model.draw_into(self.part)

    def _clicked(self, item: QTreeWidgetItem) -> None:
        selecting = QApplication.keyboardModifiers() & _SELECTS
        if not is_part(item) and not selecting:
            self._model.choose(name_of(item))

    def _ticked(self) -> None:
        off = Qt.CheckState.Unchecked
        self._unticked = frozenset(name_of(one) for one in self.tree.every if one.checkState(0) == off)
        self._soon.start()

    # --- edits ---

    def move_to(self, name: str, before: str, part: str) -> None:
        """Paint a part or piece just before another one ("" for last), as one of a part ("" for none)."""
        self.move_all((name,), before, part)

    def move_all(self, names: Sequence[str], before: str, part: str) -> None:
        """Paint parts and pieces one after another, just before another one, as some of a part."""
        self._model.edit(phrase("Order of painting"), lambda plan: all_placed_before(plan, names, before, part))

    def _change(self, label: str, **changes: object) -> None:
        if self.part:
            name = self.part
            self._model.edit(label, lambda plan: with_part(plan, replace(part_in(plan, name), **changes)))  # type: ignore[arg-type]

    def _weigh(self, priority: Priority | None = None, worth: float | None = None) -> None:
        name = self.part

        def change(plan: Plan) -> Plan:
            ordering = plan.ordering
            if priority is not None:
                ordering = ordering.with_priority(name, priority)
            if worth is not None:
                ordering = ordering.with_worth(name, worth)
            return replace(plan, ordering=ordering)

        if name:
            self._model.edit(phrase("What may be left out"), change, phrase("weigh {name}", name=name))

    def ask_new(self) -> None:
        """Ask for a name and make a part of what is selected or in the hand, or an empty one."""
        name = ask_name(self, phrase("New part"), phrase("What you call it"))
        if name:
            self.make(name)

    def make(self, name: str) -> None:
        """Make a part of this name: of all that is selected; else of what is in the hand, within the chosen part."""
        taken, chosen = self.tree.taken, self._model.chosen_id
        if len(taken) > 1:
            about = {part_of(one) for one in taken}
            names = [name_of(one) for one in taken]
            self.tree.clearSelection()
            self._model.make_part(name, names, about.pop() if len(about) == 1 else "")
        else:
            self._model.make_part(name, [chosen] if chosen else [], self.part)

    def _tell_new(self) -> None:
        """Say what a new part would be made of."""
        count = len(self.tree.taken)
        several = plural(count, "A part of this one ...", "A part of these {count} ...")
        self.new.setText(several if count > 1 else phrase("New part ..."))

    def _offer(self) -> None:
        self.deeds().popup(self.more.mapToGlobal(QPoint(0, self.more.height())))

    def deeds(self) -> QMenu:
        """Return all that can be done with the part, to be chosen from."""
        menu = passing_menu(self)
        for words, deed in self._deeds():
            menu.addAction(words).triggered.connect(lambda _=False, act=deed: act())
        self._offer_echoes(menu)
        self._offer_charts(menu)
        self._offer_loads(menu)
        return menu

    def _deeds(self) -> list[tuple[str, Callable[[], object]]]:
        name = self.part
        return [
            (phrase("Rename ..."), self.ask_name),
            (phrase("Paint it earlier"), lambda: self.step(name, -1)),
            (phrase("Paint it later"), lambda: self.step(name, 1)),
            (
                phrase("Its mirror image too"),
                lambda: self._edit(phrase("Mirror image"), lambda p: twinned(p, name, on=True)),
            ),
            (
                phrase("No mirror image"),
                lambda: self._edit(phrase("No mirror image"), lambda p: twinned(p, name, on=False)),
            ),
            (
                phrase("Turn it round the midline"),
                lambda: self._edit(phrase("Mirror a part"), lambda p: mirrored_part(p, name)),
            ),
            (phrase("Copy it"), lambda: self._edit(phrase("Copy a part"), lambda p: copied(p, name)[0])),
            (phrase("Keep it for other plans"), lambda: self.kept.emit(name)),
            (phrase("Let its pieces go"), lambda: self._edit(phrase("Let a part go"), lambda p: without_part(p, name))),
            (phrase("Take it away, all of it"), lambda: self._edit(phrase("Take a part away"), self._without)),
        ]

    def _without(self, plan: Plan) -> Plan:
        return without_part(plan, self.part, pieces=True)

    def _offer_echoes(self, menu: QMenu) -> None:
        """Offer the lines of the chart for the same again along them."""
        inner = menu.addMenu(phrase("The same again along"))
        inside = {one.id for one in pieces_in(self._model.plan, self.part)}
        lines = [one for one in self._model.motifs if one.way is not None and not one.more and one.id not in inside]
        for one in lines:
            sides = inner.addMenu(menu_words(one.name))
            sides.addAction(phrase("Worked out, following both")).triggered.connect(
                lambda _=False, line=one.id: self.echo(line)
            )
            sides.addAction(phrase("As copies, each to be changed alone ...")).triggered.connect(
                lambda _=False, line=one.id: self.ask_copies(line)
            )
        if not lines:
            inner.addAction(phrase("Draw a line or pull a stroke from the part on first")).setEnabled(False)

    def echo(self, line: str) -> None:
        """Lay the part again along a line of the chart, following both; its numbers are in the hand."""
        name, made = self.part, []

        def change(plan: Plan) -> Plan:
            plan, new = with_echo(plan, name, line)
            made.append(new)
            return plan

        self._edit(phrase("The same again"), change)
        if made:
            self._model.choose(made[-1])

    def ask_copies(self, line: str) -> None:
        """Ask how often and how large, and copy the part along a line."""
        times = ask_amount(self, phrase("The same again"), ECHOES, USUAL_TIMES)
        smaller = None if times is None else ask_amount(self, phrase("The same again"), ECHO_SIZE, USUAL_SMALLER)
        if times is not None and smaller is not None:
            self.copy_along(line, round(times), smaller)

    def copy_along(self, line: str, times: int, smaller: float) -> None:
        """Copy the part along a line of the chart, to its other side by turns."""
        name = self.part

        def change(plan: Plan) -> Plan:
            return echoed(plan, name, guide_of(seat(plan, placed_in(plan, line))), times, smaller)[0]

        self._edit(phrase("The same again"), change)

    def _offer_charts(self, menu: QMenu) -> None:
        """Offer all other charts for a copy."""
        name, inner = self.part, menu.addMenu(phrase("Copy it to"))
        for key, (words, _) in CHARTS.items():
            if key != self._model.key:
                inner.addAction(menu_words(words)).triggered.connect(
                    lambda _=False, to=key: self._edit(phrase("Copy a part"), lambda p: copied(p, name, to)[0])
                )

    def _offer_loads(self, menu: QMenu) -> None:
        """Offer another load for each that the part is laid with."""
        plan, name = self._model.plan, self.part
        for load in dict.fromkeys(load for one in pieces_in(plan, name) for _, load in one.loads):
            inner = menu.addMenu(
                menu_words(phrase("Lay it with another load than {stroke}", stroke=plan.stroke(load).name))
            )
            for other in plan.strokes:
                if other.id != load:
                    inner.addAction(menu_words(other.name)).triggered.connect(
                        lambda _=False, new={load: other.id}: self._edit(
                            phrase("Recolour a part"), lambda p: recoloured(p, name, new)
                        )
                    )

    def _edit(self, label: str, change: Callable[[Plan], Plan]) -> None:
        self._model.edit(label, change)

    def ask_name(self) -> None:
        """Ask what the part is called."""
        part = part_in(self._model.plan, self.part)
        name = ask_name(self, phrase("Rename a part"), phrase("What you call it"), part.name)
        if name:
            self._change(phrase("Rename a part"), name=name)

    def step(self, name: str, way: int) -> None:
        """Paint a part or piece one place earlier (-1) or later (1) among those of its part."""
        self.step_all((name,), way)

    def step_all(self, names: Sequence[str], way: int) -> None:
        """Paint parts and pieces of one part one place earlier (-1) or later (1) among those that it holds.

        What of them lies elsewhere than the first stays where it is.
        """
        plan = self._model.plan
        shown = [one for _, one in listed(plan) if self._is_here(plan, one)]
        within = next(_within(one) for one in shown if one.id == names[0])
        like = [  # what holds nothing has no place in the order
            one.id
            for one in shown
            if _within(one) == within and (one.id in names or isinstance(one, PlacedMotif) or pieces_in(plan, one.id))
        ]
        moved = [name for name in names if name in like]
        at = like.index(moved[0]) - 1 if way < 0 else like.index(moved[-1]) + 2
        if 0 <= at <= len(like):
            self.move_all(moved, like[at] if at < len(like) else "", within)


def _within(one: PlanPart | PlacedMotif) -> str:
    """Return the part that a part or a piece is one of, "" for none."""
    return one.within if isinstance(one, PlanPart) else one.part


def _words(one: PlanPart | PlacedMotif) -> str:
    if isinstance(one, PlacedMotif):
        return phrase("{piece}, both sides", piece=one.name) if one.twin else one.name
    return one.name if one.habit is Habit.USUAL else f"{one.name}, {named(one.habit)}"


def _tip(plan: Plan, one: PlanPart | PlacedMotif) -> str:
    if isinstance(one, PlacedMotif):
        return phrase(
            "laid with {loads}", loads=", ".join(dict.fromkeys(plan.stroke(load).name for _, load in one.loads))
        )
    return plural(
        len(pieces_in(plan, one.id)),
        "{count} piece, painted {habit}",
        "{count} pieces, painted {habit}",
        habit=named(one.habit),
    )
