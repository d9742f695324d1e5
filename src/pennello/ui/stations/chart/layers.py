"""Line work, glitter, stencils, gems, places kept free: a menu that adds and takes away, and handles for them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QColorDialog, QMenu, QToolButton, QWidget

from pennello.chart.chart import Point
from pennello.chart.names import place_words
from pennello.design.computed import places_to_fill
from pennello.design.computing import Computing
from pennello.design.layers import (
    Layer,
    amount_of,
    free_name,
    half_mm,
    layers_on,
    mirrored_layer,
    moved_layer,
    sized_layer,
    stencil_of,
    turned_layer,
    with_amount,
    with_layer,
    without_layer,
)
from pennello.design.line_work import (
    USUAL_LINE_MM,
    Taper,
    is_line_work,
    line_loads,
    with_line_load,
    with_line_work,
    with_usual_line_load,
)
from pennello.design.marks import COVER, GRAINS_CM2, TURN_DEG, Gem, GemShape, Glitter, Mark, Reserved, Stencil
from pennello.design.placed import SINGLE
from pennello.design.plan import Plan
from pennello.errors import PennelloError
from pennello.files.svg import read_svg
from pennello.phrases import named, phrase
from pennello.ui.stations.chart.model import ChartModel, PlanChange
from pennello.ui.widgets.asking import ask_amount, ask_name, ask_source
from pennello.ui.widgets.chart_drawing import ChartView
from pennello.ui.widgets.handle import Handle, HandleWork, keep_handles
from pennello.ui.widgets.held import Held
from pennello.ui.widgets.menus import empty_menu
from pennello.ui.widgets.number_field import Quantity
from pennello.ui.widgets.plain import menu_words
from pennello.units import LengthUnit, length_text

GRAINS = Quantity(phrase("Grains"), *GRAINS_CM2, 5, 0, phrase(" a cm\u00b2"))
COVERS = Quantity(phrase("How much it covers"), *COVER, 0.05, 2)
TURN = Quantity(phrase("Turned by"), *TURN_DEG, 5, 0, "°")
GEM_SRGB = "#9fd8e6"
WORKED_OUT = (
    (Computing.OUTLINE, phrase("An outline round it ...")),
    (Computing.GROUND, phrase("The ground round it ...")),
    (Computing.FILL, phrase("A fill of what its line encloses")),
    (Computing.SHADOW, phrase("A shadow along its rim ...")),
    (Computing.LIGHT, phrase("A light along its rim ...")),
)


class LayersButton(QToolButton):
    """Adds lines, glitter, stencils and reserved places, and changes or takes them away.

    Signals
    -------
    drawing(str, str)
        Lines shall be drawn by hand: with a load, on with a piece or as a new one.
    tapering(object)
        Lines shall be thick and thin so.
    filling_zone(str)
        A zone or frame of the chart shall be filled.
    filling_gaps()
        Holes between parts shall be filled with dots and drops.
    working_out(object)
        Something shall be worked out from the piece in the hand.
    filling()
        One stroke shall be found that fills what the line in the hand encloses.
    """

    drawing = Signal(str, str)
    working_out = Signal(object)
    filling = Signal()
    tapering = Signal(object)
    filling_zone = Signal(str)
    filling_gaps = Signal()

    def __init__(self, model: ChartModel, parent: QWidget) -> None:
        super().__init__(parent)
        self._model = model
        self.unit = LengthUnit.MM
        self.taper = Taper.EVEN
        self.setText(phrase("Lines, glitter"))
        self.setToolTip(
            phrase("Lines, highlights, dots, glitter, stencils, gems, and places kept for what comes later")
        )
        self.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self)
        menu.aboutToShow.connect(self.list_all)
        self.setMenu(menu)

    def list_all(self) -> None:
        """List what can be done."""
        menu, model = self.menu(), self._model
        empty_menu(menu)
        self._list_drawing(menu)
        glitter, kept, gems = (
            menu.addMenu(phrase("Glitter at")),
            menu.addMenu(phrase("Keep a place at")),
            menu.addMenu(phrase("Gem at")),
        )
        for name, point in model.chart.landmarks:
            glitter.addAction(place_words(name)).triggered.connect(lambda _=False, at=point: self.add_glitter(at))
            gems.addAction(place_words(name)).triggered.connect(lambda _=False, at=point: self.add_gem(at))
            kept.addAction(place_words(name)).triggered.connect(
                lambda _=False, at=point, of=name: self._ask_reserved(of, at)
            )
        menu.addAction(
            phrase("Stencil from SVG ..."), lambda: self._ask_paths(phrase("A stencil's outlines"), self.add_stencil)
        )
        menu.addSeparator()
        for layer in layers_on(model.plan, model.key):
            words = phrase("place for {layer}", layer=layer.name) if isinstance(layer, Reserved) else layer.name
            inner = menu.addMenu(menu_words(words))
            if isinstance(layer, Stencil | Gem):
                inner.addAction(phrase("Turn ...")).triggered.connect(lambda _=False, of=layer: self._ask_turn(of))
            if isinstance(layer, Gem):
                self._list_shapes(inner, layer)
            if isinstance(layer, Glitter | Stencil):
                many = phrase("Grains a cm\u00b2 ...") if isinstance(layer, Glitter) else phrase("Cover ...")
                inner.addAction(many).triggered.connect(lambda _=False, of=layer: self._ask_amount(of))
            if not isinstance(layer, Reserved):
                inner.addAction(phrase("Colour ...")).triggered.connect(lambda _=False, of=layer: self._ask_colour(of))
                midline = model.chart.midline_mm
                if midline is not None:
                    mirror = inner.addAction(phrase("Mirror copy"))
                    mirror.triggered.connect(lambda _=False, of=layer, at=midline: self.mirror(of, at))
            inner.addAction(phrase("Take away")).triggered.connect(lambda _=False, of=layer: self.remove(of))

    def add_glitter(self, at: Point) -> None:
        """Strew glitter over an oval round a point."""
        name = free_name(self._model.plan, "glitter")
        seed = len(layers_on(self._model.plan, self._model.key)) + 1
        self._add(phrase("Glitter"), Glitter(name, at[0], at[1], chart=self._model.key, seed=seed))

    def add_gem(self, at: Point) -> None:
        """Stick a gem on at a point."""
        self._add(
            phrase("Gem"), Gem(free_name(self._model.plan, "gem"), at[0], at[1], 6.0, 6.0, GEM_SRGB, self._model.key)
        )

    def _list_drawing(self, menu: QMenu) -> None:
        """List what lines can be drawn with, and how."""
        plan = self._model.plan
        menu.addAction(phrase("Draw lines and dots"), lambda: self.drawing.emit("", ""))
        chosen = self._model.chosen
        if chosen is not None and is_line_work(plan, chosen):
            on = (chosen.load_of[SINGLE], chosen.id)
            menu.addAction(
                phrase("Draw on: {menu_words}", menu_words=menu_words(chosen.name)), lambda: self.drawing.emit(*on)
            )
        loads = menu.addMenu(phrase("Draw with"))
        for load in line_loads(plan):
            with_it = loads.addAction(menu_words(load.name))
            with_it.triggered.connect(lambda _=False, name=load.id: self.drawing.emit(name, ""))
        loads.addSeparator()
        for paint in plan.paints:
            anew = loads.addAction(phrase("{menu_words}, a new load", menu_words=menu_words(paint.name)))
            anew.triggered.connect(lambda _=False, srgb=paint.srgb: self.draw_in(srgb))
        tapers = menu.addMenu(phrase("Lines are"))
        for taper in Taper:
            action = tapers.addAction(named(taper))
            action.triggered.connect(lambda _=False, which=taper: self.draw_so(which))
            action.setCheckable(True)
            action.setChecked(taper is self.taper)
        if chosen is not None:
            out = menu.addMenu(phrase("Work out from {menu_words}", menu_words=menu_words(chosen.name)))
            for kind, words in WORKED_OUT:
                out.addAction(words).triggered.connect(lambda _=False, of=kind: self.working_out.emit(of))
            if chosen.way is not None and not chosen.more:
                out.addAction(phrase("One stroke that fills it ...")).triggered.connect(self.filling)
        menu.addAction(phrase("Fill the gaps between parts"), self.filling_gaps.emit)
        places = menu.addMenu(phrase("Fill a place"))
        for name in places_to_fill(self._model.chart):
            places.addAction(name).triggered.connect(lambda _=False, zone=name: self.filling_zone.emit(zone))
        menu.addAction(phrase("Lines from SVG ..."), lambda: self._ask_paths(phrase("Lines"), self.add_lines))

    def draw_in(self, srgb: str, line_mm: float = USUAL_LINE_MM) -> None:
        """Draw lines in a colour: with a load of it, made where there is none."""
        found: list[str] = []

        def make(plan: Plan) -> Plan:
            plan, load = with_line_load(plan, srgb, line_mm)
            found.append(load)
            return plan

        self._model.edit(phrase("Load for lines"), make)
        if found:
            self.drawing.emit(found[-1], "")

    def draw_so(self, taper: Taper) -> None:
        """Draw lines thick and thin so from now on."""
        self.taper = taper
        self.tapering.emit(taper)

    def _list_shapes(self, menu: QMenu, gem: Gem) -> None:
        shapes = menu.addMenu(phrase("Shape"))
        for shape in GemShape:
            action = shapes.addAction(named(shape))
            action.triggered.connect(lambda _=False, which=shape: self.change(gem, shape=which))

    def mirror(self, layer: Mark, midline_mm: float) -> None:
        """Put a layer's mirror image on the other side."""
        name = free_name(self._model.plan, layer.name)
        self._add(phrase("Mirror copy"), mirrored_layer(layer, midline_mm, name))

    def _add(self, label: str, layer: Layer) -> None:
        self._model.edit(label, lambda plan: with_layer(plan, layer))

    def remove(self, layer: Layer) -> None:
        """Take one away."""
        self._model.edit(phrase("Take it away"), lambda plan: without_layer(plan, layer))

    def change(self, layer: Mark, **changes: object) -> None:
        """Give a layer another amount or colour."""
        self._model.edit(phrase("Another look of it"), lambda plan: with_layer(plan, replace(layer, **changes), layer))  # type: ignore[arg-type]

    def _ask_amount(self, layer: Mark) -> None:
        value = ask_amount(self, layer.name, GRAINS if isinstance(layer, Glitter) else COVERS, amount_of(layer))
        if value is not None:
            self._model.edit(
                phrase("Another look of it"), lambda plan: with_layer(plan, with_amount(layer, value), layer)
            )

    def _ask_turn(self, layer: Stencil | Gem) -> None:
        value = ask_amount(self, layer.name, TURN, layer.turn_deg)
        if value is not None:
            self._model.edit(phrase("Turn it"), lambda plan: with_layer(plan, turned_layer(layer, value), layer))

    def _ask_colour(self, layer: Mark) -> None:
        colour = QColorDialog.getColor(QColor(layer.srgb), self, phrase("Colour of {layer}", layer=layer.name))
        if colour.isValid():
            self.change(layer, srgb=colour.name())

    def _ask_reserved(self, landmark: str, at: Point) -> None:
        name = ask_name(self, phrase("Keep a place"), phrase("For what?"), landmark.split(",", maxsplit=1)[0])
        if name:
            self.reserve(name, at)

    def reserve(self, name: str, at: Point, radius_mm: float = 12.0) -> None:
        """Keep a round place for what comes later."""
        self._add(phrase("Keep a place"), Reserved(name, at[0], at[1], radius_mm, self._model.key))

    def _ask_paths(self, words: str, act: Callable[[Path], None]) -> None:
        path = ask_source(self, words, "drawings", "SVG (*.svg)")
        if path is not None:
            act(path)

    def add_stencil(self, path: Path) -> None:
        """Put the closed outlines of an SVG file on the chart, in its middle, in a light paint."""
        left, top, right, bottom = self._model.chart.bounds_mm
        middle = ((left + right) / 2, (top + bottom) / 2)
        try:
            layer = stencil_of(path.stem, tuple(read_svg(path)), middle, self._model.key)
        except PennelloError as error:
            self._model.failed.emit(str(error))
            return
        self._add(phrase("A stencil"), layer)

    def add_lines(self, path: Path) -> None:
        """Put the lines of an SVG file where they lie on the chart, 1 unit = 1 mm, with the usual load for lines."""

        def make(plan: Plan) -> Plan:
            plan, load = with_usual_line_load(plan)
            lines = read_svg(path, dots=True)
            return with_line_work(plan, load, lines, self._model.key, path.stem, self.taper)[0]

        self._model.edit(phrase("Lines"), make)


class LayerHandles:
    """Two handles for every layer of the chart: its middle, and half its width."""

    def __init__(self, model: ChartModel, board: QWidget, view: Callable[[], ChartView]) -> None:
        self._model, self._board, self._view = model, board, view
        self.unit = LengthUnit.MM
        self.middles: list[Handle] = []
        self.sizes: list[Handle] = []

    def place(self, *, shown: bool) -> None:
        """Lie where the layers are; not shown while a hand draws, whose way they would stand in."""
        layers = self._layers()
        keep_handles(self.middles, len(layers), lambda n: Handle(self._board, "bar", self._move(n), _ALL))
        keep_handles(self.sizes, len(layers), lambda n: Handle(self._board, "dot", self._size(n), _ACROSS))
        view = self._view()
        for layer, middle, size in zip(layers, self.middles, self.sizes, strict=True):
            middle.put(view.to_px(layer.x_mm, layer.y_mm))
            size.put(view.to_px(layer.x_mm, layer.y_mm) + QPointF(half_mm(layer) * view.scale, 0))
            for handle in (middle, size):
                handle.refresh()
                handle.setVisible(shown)

    def _layers(self) -> tuple[Layer, ...]:
        return layers_on(self._model.plan, self._model.key)

    def _at(self, number: int) -> Layer | None:
        """Return a layer as it is without a preview."""
        layers = layers_on(self._model.document.committed, self._model.key)
        return layers[number] if number < len(layers) else None

    def _put(self, number: int, new: Layer) -> PlanChange:
        old = self._at(number)
        return (lambda plan: with_layer(plan, new, old)) if old is not None else (lambda plan: plan)

    def _say(self, number: int, words: Callable[[Layer], str]) -> str:
        layers = self._layers()
        return f"{layers[number].name}: {words(layers[number])}" if number < len(layers) else ""

    def _move(self, number: int) -> HandleWork:
        def shifted(layer: Layer, x: float, y: float) -> Layer:
            return moved_layer(layer, layer.x_mm + (-x if self._view().mirror else x), layer.y_mm + y)

        def led(start: Layer, way: QPointF) -> Layer:
            return shifted(start, way.x() / self._view().scale, way.y() / self._view().scale)

        def words(one: Layer) -> str:
            unit = self._model.unit
            return phrase(
                "{x_mm} right, {y_mm} down", x_mm=length_text(one.x_mm, unit), y_mm=length_text(one.y_mm, unit)
            )

        held = Held[Layer, PlanChange](
            name=phrase("Place of what lies over it"),
            label=phrase("Move it"),
            now=lambda: self._at(number),
            put=lambda new: self._put(number, new),
            say=lambda: self._say(number, words),
            drag=led,
            step=lambda one, x, y, factor: shifted(one, x * factor, y * factor),
            merge=lambda: phrase("move over {number}", number=number),
        )
        return held.work(self._model)

    def _size(self, number: int) -> HandleWork:
        held = Held[Layer, PlanChange](
            name=phrase("Size of what lies over it"),
            label=phrase("Size it"),
            now=lambda: self._at(number),
            put=lambda new: self._put(number, new),
            say=lambda: self._say(
                number, lambda one: phrase("{half_mm} wide", half_mm=length_text(2 * half_mm(one), self._model.unit))
            ),
            drag=lambda one, way: sized_layer(one, half_mm(one) + way.x() / self._view().scale),
            step=lambda one, x, y, factor: sized_layer(one, half_mm(one) + (x - y) * factor),
            merge=lambda: phrase("size over {number}", number=number),
        )
        return held.work(self._model)


_ALL, _ACROSS = Qt.CursorShape.SizeAllCursor, Qt.CursorShape.SizeHorCursor
