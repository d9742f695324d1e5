"""How the hand leads the stroke: pressure along it, flips, lift, part of the edge, the wait before; and its path."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSignalBlocker, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
)

from pennello.design.edits import with_stroke
from pennello.design.hand_curves import CURVES
from pennello.design.rims import mirrored, reversed_way, rim_kept, with_way_of
from pennello.errors import PennelloError
from pennello.lay.drying import DRY_AFTER_S
from pennello.lay.stroke import Exit, Key, Over, Pats, Stroke, keyed
from pennello.load.look import edge_colours
from pennello.path.cubic import length_mm
from pennello.phrases import named, phrase, plural
from pennello.ui.bench_model import BenchModel, StrokeChange, stroke_change
from pennello.ui.stations.bench.hold_chooser import HoldChooser
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.asking import ask_amount, ask_source, ask_target
from pennello.ui.widgets.choice import choice
from pennello.ui.widgets.handle import FINE, Handle, keep_handles
from pennello.ui.widgets.held import Held
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.menus import passing_menu
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import draw_note, draw_ruler
from pennello.ui.widgets.plain import Label, menu_words
from pennello.units import length_text

SHOWS = Quantity(phrase("How wide is what the photo shows?"), 5, 3000, 10, 1, length=True)
LIFT = Quantity(phrase("Lift at the end"), 0, 200, 1, 1, length=True)
PART_FROM = Quantity(phrase("Part of the edge on the skin, from"), 0, 98, 5, 0, " %")
PART_TO = Quantity(phrase("Part of the edge on the skin, to"), 2, 100, 5, 0, " %")
WAIT = Quantity(phrase("Wait before this stroke"), 0, 86400, 5, 0, " s")
DRY = Quantity(phrase("A coat of 20 µm is dry to the touch after"), 1, 86400, 5, 0, " s")
OVERLAP = Quantity(phrase("How far pats lie over each other"), 0, 90, 5, 0, " %")
TURN = Quantity(phrase("How far pats are turned to and fro"), 0, 180, 5, 0, "°")
PICTURES = "Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.bmp *.webp)"
_LEFT, _TOP, _FOOT = 46, 8, 34


class HandPage(QFrame):
    """The strip of pressure with its keys, the flips on it, and the rarer numbers.

    Signals
    -------
    left, said(str), backdrop_wanted(str, float)
        A photo and its width, mm.
    """

    left = Signal()
    backdrop_wanted = Signal(str, float)
    said = Signal(str)

    def __init__(self, model: BenchModel) -> None:
        super().__init__()
        self._model = model
        self.setObjectName("mat")
        self.setAccessibleName(phrase("How the hand leads the stroke"))
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 8, 12, 8)
        row.setSpacing(16)
        self.along = Surface(self)
        self.curve = CURVES["pressure"]
        self.along.setAccessibleName(phrase("What the hand does along the stroke: double click puts a key"))
        self.along.draw = self._draw
        self.along.resized.connect(self._place)
        self.along.mouseDoubleClickEvent = self._add_key  # type: ignore[method-assign]
        self._keys: list[Handle] = []
        self._flips: list[Handle] = []
        self.along.setMinimumHeight(px(78))
        self.holds = HoldChooser(model)
        left = QVBoxLayout()
        left.setSpacing(2)
        left.addWidget(self.holds)
        left.addWidget(self.along, 1)
        row.addLayout(left, 6)
        row.addLayout(self._fields(), 5)

    # --- fields ---

    def _fields(self) -> QVBoxLayout:
        box = QVBoxLayout()
        grid = QGridLayout()
        self.lift, self.part_from, self.part_to, self.wait, self.dry = (
            NumberField(one) for one in (LIFT, PART_FROM, PART_TO, WAIT, DRY)
        )
        self.dry.edited.connect(self._set_dry)
        self._more_fields()
        self.exit: QComboBox = choice(phrase("What leaves last"))
        for exit_ in Exit:
            self.exit.addItem(phrase("all of it") if exit_ is Exit.EDGE else named(exit_), exit_)
        self.lift.edited.connect(lambda v: self._set(phrase("Lift"), lambda s: replace(s, lift_mm=v), "lift"))
        self.exit.activated.connect(self._choose_exit)
        self.part_from.edited.connect(lambda v: self._set_part(0, v / 100))
        self.part_to.edited.connect(lambda v: self._set_part(1, v / 100))
        self.wait.edited.connect(self._set_wait)
        places = (
            (phrase("Lift"), self.lift, 0, 0),
            (phrase("Ends on"), self.exit, 0, 2),
            (phrase("Touches from"), self.part_from, 1, 0),
            ("to", self.part_to, 1, 2),
            (phrase("Wait before"), self.wait, 0, 4),
            (phrase("A coat dries in"), self.dry, 1, 4),
            (phrase("The strip shows"), self.shown, 2, 0),
            (phrase("Pulled or patted"), self.patted, 2, 2),
            (phrase("Pats overlap by"), self.overlap, 3, 2),
            (phrase("and turn by"), self.turn, 3, 4),
        )
        self.labels: dict[str, Label] = {}
        for words, widget, at, column in places:
            label = Label(words)
            self.labels[words] = label
            label.setObjectName("note")
            label.setBuddy(widget)
            grid.addWidget(label, at, column)
            grid.addWidget(widget, at, column + 1)
        grid.addWidget(self.on_part, 2, 4, 1, 2)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)
        grid.setColumnStretch(5, 1)
        grid.setVerticalSpacing(4)
        box.addLayout(grid)
        box.addLayout(self._buttons())
        box.addStretch(1)
        return box

    def _more_fields(self) -> None:
        self.shown: QComboBox = choice(phrase("What the strip shows and changes along the stroke"))
        for one in CURVES.values():
            self.shown.addItem(one.name, one.key)
        self.shown.activated.connect(lambda at: self.show_curve(self.shown.itemData(at)))
        self.patted: QComboBox = choice(
            phrase("Pulled, set down along the way, or over the place that it encloses, from one load")
        )
        for words, over in ((phrase("pulled"), None), (phrase("pats"), Over.WAY), (phrase("field"), Over.PLACE)):
            self.patted.addItem(words, over)
        self.patted.activated.connect(lambda at: self._set_pats(self.patted.itemData(at)))
        self.overlap, self.turn = NumberField(OVERLAP), NumberField(TURN)
        self.overlap.edited.connect(lambda v: self._change_pats(phrase("Overlap of pats"), overlap=v / 100))
        self.turn.edited.connect(lambda v: self._change_pats(phrase("Turn of pats"), turn_deg=v))
        self.on_part = QCheckBox(phrase("Lies where it touches"))
        self.on_part.setToolTip(phrase("The path is that of the part that touches, not of the whole edge"))
        self.on_part.clicked.connect(
            lambda on: self._set(phrase("Where the part lies"), lambda s: replace(s, on_part=on))
        )

    def show_curve(self, key: str) -> None:
        """Show and change another thing along the stroke: pressure, lean, tilt, from or to."""
        self.curve = CURVES[key]
        self.refresh()

    def _set_pats(self, over: Over | None) -> None:
        def make(stroke: Stroke) -> Stroke:
            return replace(stroke, pats=None if over is None else replace(stroke.pats or Pats(), over=over))

        self._set(phrase("Pulled or patted"), make)

    def _change_pats(self, label: str, **change: Any) -> None:
        def make(stroke: Stroke) -> Stroke:
            return replace(stroke, pats=replace(stroke.pats, **change)) if stroke.pats else stroke

        self._set(label, make, label)

    def _buttons(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setVerticalSpacing(4)
        self.named: dict[str, QPushButton] = {}
        deeds: tuple[tuple[str, str, Callable[[], object]], ...] = (
            (
                phrase("Flip midway"),
                phrase("Turn the brush half round on the way: A and B change sides"),
                self._add_flip,
            ),
            (
                phrase("Keep the rim"),
                phrase("Flip at each bend, so that the same colour stays outside"),
                self._keep_rim,
            ),
            (
                phrase("Mirror"),
                phrase("Left and right exchanged"),
                lambda: self._set(phrase("Mirror the stroke"), mirrored),
            ),
            (
                phrase("Reverse"),
                phrase("Pulled from its other end"),
                lambda: self._set(phrase("Reverse the stroke"), reversed_way),
            ),
            (
                phrase("Even pressure"),
                phrase("The same pressure all the way"),
                lambda: self._set(phrase("Even pressure"), _even),
            ),
            (phrase("Way of ..."), phrase("Held and pressed as another stroke"), self._offer_ways),
            (phrase("SVG in ..."), phrase("Follow a path drawn elsewhere, 1 unit = 1 mm"), self.ask_svg_in),
            (phrase("SVG out ..."), phrase("All paths of the plan, 1 unit = 1 mm"), self.ask_svg_out),
            (
                phrase("Backdrop ..."),
                phrase("A photo of your own, faint below the stroke, to trace"),
                self.ask_backdrop,
            ),
            (phrase("Done"), phrase("Back to the read-out"), self.left.emit),
        )
        for number, (words, hint, act) in enumerate(deeds):
            button = QPushButton(words)
            button.setProperty("main" if words == phrase("Done") else "chip", True)
            button.setToolTip(hint)
            button.clicked.connect(lambda _=False, do=act: do())
            button.setMinimumHeight(px(26))
            grid.addWidget(button, number // 5, number % 5)
            self.named[words] = button
        return grid

    # --- edits ---

    def _set(self, label: str, make: Callable[[Stroke], Stroke], merge: str = "") -> None:
        self._model.edit(label, stroke_change(make), merge)

    def _choose_exit(self, at: int) -> None:
        exit_ = self.exit.itemData(at)
        self._set(phrase("What leaves last"), lambda s: replace(s, exit=exit_, lift_mm=s.lift_mm or 8.0))

    def _set_part(self, end: int, u: float) -> None:
        def make(stroke: Stroke) -> Stroke:
            low, high = stroke.part
            part = (min(u, high - 0.02), high) if end == 0 else (low, max(u, low + 0.02))
            return replace(stroke, part=part, parts=())

        self._set(phrase("Part of the edge on the skin"), make, phrase("touch {end}", end=end))

    def _set_wait(self, seconds: float) -> None:
        self._model.edit(
            phrase("Wait before it"), lambda plan, stroke: with_stroke(plan, replace(stroke, wait_s=seconds)), "wait"
        )

    def _set_dry(self, seconds: float) -> None:
        self._model.edit(phrase("How fast a coat dries"), lambda plan, _: replace(plan, dry_after_s=seconds), "dry")

    def ask_backdrop(self) -> None:
        """Ask for a photo and how wide it is, to trace."""
        path = ask_source(self, phrase("A photo to trace"), "photos", PICTURES)
        if path is None:
            return
        wide = ask_amount(self, phrase("Backdrop"), SHOWS, 120.0, self._model.unit)
        if wide is not None:
            self.backdrop_wanted.emit(str(path), wide)

    def _add_flip(self) -> None:
        def make(stroke: Stroke) -> Stroke:
            middle = round(length_mm(stroke.path) / 2, 1)
            return replace(stroke, flips_mm=tuple(sorted({*stroke.flips_mm, middle})))

        self._set(phrase("Flip on the way"), make)

    def _keep_rim(self) -> None:
        stroke = self._model.stroke
        if stroke and rim_kept(stroke.stroke) == stroke.stroke:
            self.said.emit(phrase("The path bends one way only: the same colour is outside all the way."))
        self._set(phrase("Keep the rim"), rim_kept)

    def _offer_ways(self) -> None:
        menu = passing_menu(self)
        here = self._model.stroke
        for other in self._model.plan.strokes:
            if here is not None and other.id != here.id:
                menu.addAction(menu_words(other.name)).triggered.connect(
                    lambda _=False, way=other.stroke: self.take_way(way)
                )
        button = self.named[phrase("Way of ...")]
        menu.popup(button.mapToGlobal(button.rect().bottomLeft()))

    def take_way(self, other: Stroke) -> None:
        """Hold and press the stroke as another one."""
        self._set(phrase("The way of another stroke"), lambda stroke: with_way_of(stroke, other))

    def ask_svg_in(self) -> None:
        """Ask for a drawing and follow its first path."""
        path = ask_source(self, phrase("A path to follow"), "drawings", "SVG (*.svg)")
        if path is not None:
            self.follow_drawing(path)

    def follow_drawing(self, path: Path) -> None:
        """Lead the stroke along the first path of a drawing."""
        from pennello.files.svg import read_svg  # noqa: PLC0415 - XML only when asked for

        try:
            paths = read_svg(path)
        except PennelloError as error:
            self.said.emit(str(error))
            return
        self._set(phrase("Follow a path"), lambda stroke: replace(stroke, path=paths[0], flips_mm=(), reload_mm=()))
        if len(paths) > 1:
            self.said.emit(plural(len(paths), "Took the first of {count} path.", "Took the first of {count} paths."))

    def ask_svg_out(self) -> None:
        """Ask where and write all paths."""
        from pennello.files.svg import write_svg  # noqa: PLC0415

        path = ask_target(self, phrase("Write the paths"), Path.home() / "strokes.svg", (".svg",))
        if path is None:
            return
        try:
            write_svg(self._model.plan, path)
            self.said.emit(phrase("Wrote {path}.", path=path))
        except PennelloError as error:
            self.said.emit(str(error))

    # --- the strip ---

    @property
    def _area(self) -> QRectF:
        return QRectF(self.along.rect()).adjusted(px(_LEFT), _TOP, -40, -px(_FOOT))

    def _shown_keys(self) -> tuple[Key, ...]:
        stroke = self._model.stroke
        return () if stroke is None else self.curve.keys(stroke.stroke)

    def _value(self, up: float) -> float:
        """Return the value that so much of the strip's height stands for."""
        return self.curve.held(self.curve.low + up * (self.curve.high - self.curve.low))

    def _height(self, value: float) -> float:
        return (value - self.curve.low) / (self.curve.high - self.curve.low)

    def _add_key(self, event: QMouseEvent) -> None:
        area, at = self._area, event.position()
        if not area.contains(at):
            return
        along, up = (at.x() - area.left()) / area.width(), (area.bottom() - at.y()) / area.height()
        key = Key(round(_held(along, 0, 1), 4), self._value(up))
        keys = tuple(sorted((*self._shown_keys(), key), key=lambda one: one.at))
        self._set(self._label, lambda stroke: self.curve.on(stroke, keys))

    @property
    def _label(self) -> str:
        return phrase("Key of {curve}", curve=self.curve.name)

    def _key_handle(self, index: int) -> Handle:
        model = self._model

        def moved(keys: tuple[Key, ...], right: float, up: float) -> tuple[Key, ...]:
            low = keys[index - 1].at if index else 0.0
            high = keys[index + 1].at if index + 1 < len(keys) else 1.0
            at = _held(keys[index].at + right, low, high)
            key = Key(round(at, 4), self.curve.held(keys[index].value + up * (self.curve.high - self.curve.low)))
            return (*keys[:index], key, *keys[index + 1 :])

        def value() -> str:
            keys = self._shown_keys()
            if index >= len(keys):
                return ""
            return phrase("{keys} at {at:.0%} of the way", keys=self.curve.words(keys[index].value), at=keys[index].at)

        def with_keys(keys: tuple[Key, ...]) -> StrokeChange:
            return stroke_change(lambda s: self.curve.on(s, keys))

        def typed(_: Handle) -> None:
            keys = self._shown_keys()
            if 0 < index < len(keys) - 1:  # an inner key goes away
                model.edit(phrase("Take a key out"), with_keys((*keys[:index], *keys[index + 1 :])))

        def stepped(keys: tuple[Key, ...], x: int, y: int, factor: float) -> tuple[Key, ...]:
            step = 0.01 if factor == FINE else 0.05 * factor
            return moved(keys, x * step, -y * step)

        held: Held[tuple[Key, ...], StrokeChange] = Held(
            name=phrase("Key {index} along the stroke", index=index + 1),
            label=self._label,
            now=lambda: self.curve.keys(model.committed_stroke.stroke),
            put=with_keys,
            say=value,
            drag=lambda keys, way: moved(keys, way.x() / self._area.width(), -way.y() / self._area.height()),
            step=stepped,
            merge=lambda: phrase("key {index}", index=index),
            typed=typed,
        )
        return Handle(self.along, "dot", held.work(model), Qt.CursorShape.SizeAllCursor)

    def _flip_handle(self, index: int) -> Handle:
        model = self._model

        def at(stroke: Stroke, to_mm: float) -> Stroke:
            flips = list(stroke.flips_mm)
            flips[index] = _held(round(to_mm, 1), 0.1, length_mm(stroke.path) - 0.1)
            return replace(stroke, flips_mm=tuple(sorted(flips)))

        def say() -> str:
            flips = model.stroke.stroke.flips_mm if model.stroke else ()
            return phrase("at {flips}", flips=length_text(flips[index], model.unit)) if index < len(flips) else ""

        def gone(stroke: Stroke) -> Stroke:
            return replace(stroke, flips_mm=(*stroke.flips_mm[:index], *stroke.flips_mm[index + 1 :]))

        def per_px() -> float:
            return length_mm(model.committed_stroke.stroke.path) / self._area.width()

        held: Held[float, StrokeChange] = Held(
            name=phrase("Flip {index} on the way", index=index + 1),
            label=phrase("Move a flip"),
            now=lambda: model.committed_stroke.stroke.flips_mm[index],
            put=lambda mm: stroke_change(lambda s: at(s, mm)),
            say=say,
            drag=lambda start, way: start + way.x() * per_px(),
            step=lambda start, x, y, factor: start + (x - y) * factor,
            merge=lambda: phrase("flip {index}", index=index),
            typed=lambda _: model.edit(phrase("Take a flip out"), stroke_change(gone)),
        )
        return Handle(self.along, "flip", held.work(model), Qt.CursorShape.SizeHorCursor)

    def _place(self) -> None:
        stroke = self._model.stroke
        keys = self._shown_keys()
        flips = stroke.stroke.flips_mm if stroke else ()
        keep_handles(self._keys, len(keys), self._key_handle)
        keep_handles(self._flips, len(flips), self._flip_handle)
        area = self._area
        total = max(length_mm(stroke.stroke.path), 1e-6) if stroke else 1.0
        for handle, key in zip(self._keys, keys, strict=True):
            handle.put(
                QPointF(area.left() + key.at * area.width(), area.bottom() - self._height(key.value) * area.height())
            )
            handle.refresh()
        for handle, at in zip(self._flips, flips, strict=True):
            handle.put(QPointF(area.left() + min(at / total, 1.0) * area.width(), area.bottom() + 12))
            handle.refresh()

    def refresh(self) -> None:
        """Follow the model."""
        stroke = self._model.stroke
        if stroke is None:
            return
        way = stroke.stroke
        for field, value in (
            (self.lift, way.lift_mm),
            (self.part_from, way.part[0] * 100),
            (self.part_to, way.part[1] * 100),
            (self.wait, stroke.wait_s),
            (self.dry, self._model.plan.dry_after_s),
        ):
            field.show_unit(self._model.unit)
            field.show_amount(value)
        own = self._model.plan.dry_after_s != DRY_AFTER_S
        self.dry.setToolTip(
            phrase("A coat of 20 µm is dry to the touch after: yours")
            if own
            else phrase("A coat of 20 µm is dry to the touch after: a default; time yours")
        )
        with QSignalBlocker(self.exit):
            self.exit.setCurrentIndex(list(Exit).index(way.exit))
        self.holds.refresh(way)
        self._refresh_more(way)
        self._place()
        self.along.update()

    def _refresh_more(self, way: Stroke) -> None:
        for words in (phrase("Pats overlap by"), phrase("and turn by")):
            self.labels[words].setVisible(way.pats is not None)
        with QSignalBlocker(self.shown), QSignalBlocker(self.patted), QSignalBlocker(self.on_part):
            self.shown.setCurrentIndex(list(CURVES).index(self.curve.key))
            self.patted.setCurrentIndex(0 if way.pats is None else 1 + list(Over).index(way.pats.over))
            self.on_part.setChecked(way.on_part)
        for field, value in ((self.overlap, "overlap"), (self.turn, "turn_deg")):
            field.setVisible(way.pats is not None)
            shown = getattr(way.pats or Pats(), value)
            field.show_amount(shown * 100 if value == "overlap" else shown)

    def _draw(self, painter: QPainter) -> None:
        """Draw what is shown along the way, in the colour of the load's middle, over a ruler of the way."""
        outcome, area = self._model.outcome, self._area
        if outcome is None:
            return
        track = outcome.laid.track
        total = max(track.length_mm, 1e-6)
        way = outcome.attempt.stroke
        x = area.left() + np.linspace(0, 1, 80) * area.width()
        value = keyed(self.curve.keys(way), np.linspace(0, 1, 80))
        top = area.bottom() - (value - self.curve.low) / (self.curve.high - self.curve.low) * area.height()
        painter.setPen(QPen(QColor(theme().line), 1))
        for level, words in self.curve.levels:
            y = area.bottom() - self._height(level) * area.height()
            painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
            draw_note(painter, QRectF(0, y - px(8), px(_LEFT) - 6, px(16)), words, Qt.AlignmentFlag.AlignRight)
        colours = edge_colours(outcome.laid.edge, dict(outcome.attempt.paints))
        painter.setBrush(QColor(*(int(part) for part in colours[len(colours) // 2])))
        painter.setPen(QPen(QColor(theme().ink_2), 1))
        line = [QPointF(a, b) for a, b in zip(x.tolist(), top.tolist(), strict=True)]
        painter.drawPolygon(QPolygonF([*line, area.bottomRight(), area.bottomLeft()]))
        draw_ruler(painter, area.bottomLeft() + QPointF(0, 2), total, area.width() / total, self._model.unit)


def _even(stroke: Stroke) -> Stroke:
    mean = sum(key.value for key in stroke.pressures) / len(stroke.pressures) if stroke.pressures else stroke.pressure
    return replace(stroke, pressures=(), pressure=round(mean, 2))


def _held(value: float, low: float, high: float) -> float:
    return min(max(value, low), high)
