"""What lies over the paint or is kept free: a menu that adds and takes away, and handles that move and size it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QColorDialog, QFileDialog, QInputDialog, QMenu, QToolButton, QWidget

from pennello.chart.chart import Point
from pennello.design.layers import (
    Layer,
    amount_of,
    free_name,
    half_mm,
    layers_on,
    lines_of,
    mirrored_layer,
    moved_layer,
    sized_layer,
    stencil_of,
    with_amount,
    with_layer,
    without_layer,
)
from pennello.design.marks import COVER, GRAINS_CM2, LINE_MM, Glitter, Lines, Mark, Reserved
from pennello.errors import PennelloError
from pennello.files.svg import read_svg
from pennello.path.cubic import CubicPath
from pennello.ui.stations.chart.model import ChartModel, PlanChange
from pennello.ui.widgets.asking import ask_amount
from pennello.ui.widgets.chart_drawing import ChartView
from pennello.ui.widgets.handle import Handle, HandleWork, keep_handles
from pennello.ui.widgets.held import Held
from pennello.ui.widgets.menus import empty_menu
from pennello.ui.widgets.number_field import Quantity
from pennello.ui.widgets.plain import menu_words
from pennello.units import LengthUnit, length_text

GRAINS = Quantity("Grains", *GRAINS_CM2, 5, 0, " a cm\u00b2")
COVERS = Quantity("How much it covers", *COVER, 0.05, 2)
WIDTH = Quantity("Width of the lines", *LINE_MM, 0.1, 1, length=True)


class LayersButton(QToolButton):
    """Adds lines, glitter, stencils and reserved places, and changes or takes them away.

    Signals
    -------
    drawing(str)
        Lines shall be drawn by hand: on with those of a name, or new ones.
    """

    drawing = Signal(str)

    def __init__(self, model: ChartModel, parent: QWidget) -> None:
        super().__init__(parent)
        self._model = model
        self.unit = LengthUnit.MM
        self.setText("Over it")
        self.setToolTip("Lines, highlights, dots, glitter, stencils, and places kept for what comes later")
        self.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self)
        menu.aboutToShow.connect(self.list_all)
        self.setMenu(menu)

    def list_all(self) -> None:
        """List what can be done."""
        menu, model = self.menu(), self._model
        empty_menu(menu)
        menu.addAction("Draw lines and dots", lambda: self.drawing.emit(""))
        menu.addAction("Lines from SVG ...", lambda: self._ask_paths("Lines", self.add_lines))
        glitter, kept = menu.addMenu("Glitter at"), menu.addMenu("Keep a place at")
        for name, point in model.chart.landmarks:
            glitter.addAction(name).triggered.connect(lambda _=False, at=point: self.add_glitter(at))
            kept.addAction(name).triggered.connect(lambda _=False, at=point, of=name: self._ask_reserved(of, at))
        menu.addAction("Stencil from SVG ...", lambda: self._ask_paths("A stencil's outlines", self.add_stencil))
        menu.addSeparator()
        for layer in layers_on(model.plan, model.key):
            words = f"place for {layer.name}" if isinstance(layer, Reserved) else layer.name
            inner = menu.addMenu(menu_words(words))
            if isinstance(layer, Lines):
                self._list_lines(inner, layer)
            if not isinstance(layer, Reserved):
                many = "Grains a cm\u00b2 ..." if isinstance(layer, Glitter) else "Cover ..."
                inner.addAction(many).triggered.connect(lambda _=False, of=layer: self._ask_amount(of))
                inner.addAction("Colour ...").triggered.connect(lambda _=False, of=layer: self._ask_colour(of))
            inner.addAction("Take away").triggered.connect(lambda _=False, of=layer: self.remove(of))

    def add_glitter(self, at: Point) -> None:
        """Strew glitter over an oval round a point."""
        name = free_name(self._model.plan, "glitter")
        seed = len(layers_on(self._model.plan, self._model.key)) + 1
        self._add("Glitter", Glitter(name, at[0], at[1], chart=self._model.key, seed=seed))

    def _list_lines(self, menu: QMenu, layer: Lines) -> None:
        """List what goes for line work alone."""
        menu.addAction("Draw on", lambda: self.drawing.emit(layer.name))
        menu.addAction("Width ...", lambda: self._ask_width(layer))
        paints = menu.addMenu("In the paint")
        for paint in self._model.plan.paints:
            action = paints.addAction(menu_words(paint.name))
            action.triggered.connect(lambda _=False, srgb=paint.srgb: self.change(layer, srgb=srgb))
        midline = self._model.chart.midline_mm
        if midline is not None:
            menu.addAction("Mirror copy", lambda: self.mirror(layer, midline))

    def mirror(self, layer: Mark, midline_mm: float) -> None:
        """Put a layer's mirror image on the other side."""
        name = free_name(self._model.plan, layer.name)
        self._add("Mirror copy", mirrored_layer(layer, midline_mm, name))

    def _add(self, label: str, layer: Layer) -> None:
        self._model.edit(label, lambda plan: with_layer(plan, layer))

    def remove(self, layer: Layer) -> None:
        """Take one away."""
        self._model.edit("Take it away", lambda plan: without_layer(plan, layer))

    def change(self, layer: Mark, **changes: float | str) -> None:
        """Give a layer another amount or colour."""
        self._model.edit("Another look of it", lambda plan: with_layer(plan, replace(layer, **changes), layer))  # type: ignore[arg-type]

    def _ask_amount(self, layer: Mark) -> None:
        value = ask_amount(self, layer.name, GRAINS if isinstance(layer, Glitter) else COVERS, amount_of(layer))
        if value is not None:
            self._model.edit("Another look of it", lambda plan: with_layer(plan, with_amount(layer, value), layer))

    def _ask_width(self, layer: Lines) -> None:
        value = ask_amount(self, layer.name, WIDTH, layer.line_mm, self.unit)
        if value is not None:
            self.change(layer, line_mm=value)

    def _ask_colour(self, layer: Mark) -> None:
        colour = QColorDialog.getColor(QColor(layer.srgb), self, f"Colour of {layer.name}")
        if colour.isValid():
            self.change(layer, srgb=colour.name())

    def _ask_reserved(self, landmark: str, at: Point) -> None:
        name, fine = QInputDialog.getText(self, "Keep a place", "For what?", text=landmark.split(",", maxsplit=1)[0])
        if fine and name.strip():
            self.reserve(name.strip(), at)

    def reserve(self, name: str, at: Point, radius_mm: float = 12.0) -> None:
        """Keep a round place for what comes later."""
        self._add("Keep a place", Reserved(name[:80], at[0], at[1], radius_mm, self._model.key))

    def _ask_paths(self, words: str, act: Callable[[Path], None]) -> None:
        name, _ = QFileDialog.getOpenFileName(self, words, str(Path.home()), "SVG (*.svg)")
        if name:
            act(Path(name))

    def add_stencil(self, path: Path) -> None:
        """Put the closed outlines of an SVG file on the chart, in its middle, in a light paint."""
        left, top, right, bottom = self._model.chart.bounds_mm
        middle = ((left + right) / 2, (top + bottom) / 2)
        self._add_read("A stencil", path, lambda found: stencil_of(path.stem, found, middle, self._model.key))

    def add_lines(self, path: Path) -> None:
        """Put the lines of an SVG file where they lie on the chart, 1 unit = 1 mm."""
        self._add_read("Lines", path, lambda found: lines_of(path.stem, found, self._model.key), dots=True)

    def _add_read(
        self, label: str, path: Path, make: Callable[[tuple[CubicPath, ...]], Mark], *, dots: bool = False
    ) -> None:
        try:
            layer = make(tuple(read_svg(path, dots=dots)))
        except PennelloError as error:
            self._model.failed.emit(str(error))
            return
        self._add(label, layer)


class LayerHandles:
    """Two handles for every layer of the chart: its middle, and half its width."""

    def __init__(self, model: ChartModel, board: QWidget, view: Callable[[], ChartView]) -> None:
        self._model, self._board, self._view = model, board, view
        self.unit = LengthUnit.MM
        self.middles: list[Handle] = []
        self.sizes: list[Handle] = []

    def place(self) -> None:
        """Lie where the layers are."""
        layers = self._layers()
        keep_handles(self.middles, len(layers), lambda n: Handle(self._board, "bar", self._move(n), _ALL))
        keep_handles(self.sizes, len(layers), lambda n: Handle(self._board, "dot", self._size(n), _ACROSS))
        view = self._view()
        for layer, middle, size in zip(layers, self.middles, self.sizes, strict=True):
            middle.put(view.to_px(layer.x_mm, layer.y_mm))
            size.put(view.to_px(layer.x_mm, layer.y_mm) + QPointF(half_mm(layer) * view.scale, 0))
            for handle in (middle, size):
                handle.refresh()

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
            return f"{length_text(one.x_mm, unit)} right, {length_text(one.y_mm, unit)} down"

        held = Held[Layer, PlanChange](
            name="Place of what lies over it",
            label="Move it",
            now=lambda: self._at(number),
            put=lambda new: self._put(number, new),
            say=lambda: self._say(number, words),
            drag=led,
            step=lambda one, x, y, factor: shifted(one, x * factor, y * factor),
            merge=lambda: f"move over {number}",
        )
        return held.work(self._model)

    def _size(self, number: int) -> HandleWork:
        held = Held[Layer, PlanChange](
            name="Size of what lies over it",
            label="Size it",
            now=lambda: self._at(number),
            put=lambda new: self._put(number, new),
            say=lambda: self._say(number, lambda one: f"{length_text(2 * half_mm(one), self._model.unit)} wide"),
            drag=lambda one, way: sized_layer(one, half_mm(one) + way.x() / self._view().scale),
            step=lambda one, x, y, factor: sized_layer(one, half_mm(one) + (x - y) * factor),
            merge=lambda: f"size over {number}",
        )
        return held.work(self._model)


_ALL, _ACROSS = Qt.CursorShape.SizeAllCursor, Qt.CursorShape.SizeHorCursor
