"""What lies over the paint or is kept free: glitter, stencils, reserved places; as a menu of the Chart."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMenu, QToolButton, QWidget

from pennello.chart.chart import Point
from pennello.design.placed import GLITTER, STENCIL, Overlay, Reserved
from pennello.errors import PennelloError
from pennello.files.svg import read_svg
from pennello.path.cubic import CubicPath
from pennello.ui.stations.chart.model import ChartModel

_WHITE = "#f4f3ee"


class LayersButton(QToolButton):
    """Adds glitter, stencils and reserved places at landmarks, and takes them away."""

    def __init__(self, model: ChartModel, parent: QWidget) -> None:
        super().__init__(parent)
        self._model = model
        self.setText("Over it")
        self.setToolTip("Glitter, stencils, and places kept for what comes later")
        self.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self)
        menu.aboutToShow.connect(self.list_all)
        self.setMenu(menu)

    def list_all(self) -> None:
        """List what can be done."""
        menu, model = self.menu(), self._model
        menu.clear()
        glitter, kept = menu.addMenu("Glitter at"), menu.addMenu("Keep a place at")
        for name, point in model.chart.landmarks:
            glitter.addAction(name).triggered.connect(lambda _=False, at=point: self.add_glitter(at))
            kept.addAction(name).triggered.connect(lambda _=False, at=point, of=name: self._ask_reserved(of, at))
        menu.addAction("Stencil from SVG ...", self._ask_stencil)
        menu.addSeparator()
        for overlay in model.plan.overlays:
            if overlay.chart == model.key:
                menu.addAction(f"Take {overlay.name} away").triggered.connect(
                    lambda _=False, of=overlay: self.remove_overlay(of)
                )
        for one in model.plan.reserved:
            if one.chart == model.key:
                menu.addAction(f"Free the place for {one.name}").triggered.connect(
                    lambda _=False, of=one: self.free(of)
                )

    def add_glitter(self, at: Point) -> None:
        """Strew glitter over an oval round a point."""
        number = 1 + sum(one.kind == GLITTER for one in self._model.plan.overlays)
        glitter = Overlay(f"glitter {number}", GLITTER, at[0], at[1], chart=self._model.key, seed=number)
        self._add("Glitter", glitter)

    def _add(self, label: str, overlay: Overlay) -> None:
        self._model.edit(label, lambda plan: replace(plan, overlays=(*plan.overlays, overlay)))

    def remove_overlay(self, overlay: Overlay) -> None:
        """Take one away."""
        self._model.edit(
            "Take it away", lambda plan: replace(plan, overlays=tuple(o for o in plan.overlays if o != overlay))
        )

    def _ask_reserved(self, landmark: str, at: Point) -> None:
        name, fine = QInputDialog.getText(self, "Keep a place", "For what?", text=landmark.split(",", maxsplit=1)[0])
        if fine and name.strip():
            self.reserve(name.strip(), at)

    def reserve(self, name: str, at: Point, radius_mm: float = 12.0) -> None:
        """Keep a round place for what comes later."""
        kept = Reserved(name[:80], at[0], at[1], radius_mm, self._model.key)
        self._model.edit("Keep a place", lambda plan: replace(plan, reserved=(*plan.reserved, kept)))

    def free(self, kept: Reserved) -> None:
        """Give a place free."""
        self._model.edit(
            "Free a place", lambda plan: replace(plan, reserved=tuple(one for one in plan.reserved if one != kept))
        )

    def _ask_stencil(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "A stencil's outlines", str(Path.home()), "SVG (*.svg)")
        if name:
            self.add_stencil(Path(name))

    def add_stencil(self, path: Path) -> None:
        """Put the closed outlines of an SVG file on the chart, in its middle, in a light paint."""
        try:
            outlines = read_svg(path)
            points = np.array([point for outline in outlines for point in outline.points_mm])
            low, high = points.min(axis=0), points.max(axis=0)
            middle = (low + high) / 2
            about = tuple(
                CubicPath(tuple((x - float(middle[0]), y - float(middle[1])) for x, y in outline.points_mm))
                for outline in outlines
            )
            left, top, right, bottom = self._model.chart.bounds_mm
            size = np.clip(high - low, 1, 500)
            stencil = Overlay(
                path.stem[:60],
                STENCIL,
                (left + right) / 2,
                (top + bottom) / 2,
                float(size[0]),
                float(size[1]),
                _WHITE,
                0.8,
                self._model.key,
                outlines=about,
            )
        except PennelloError as error:
            self._model.failed.emit(str(error))
            return
        self._add("A stencil", stencil)
