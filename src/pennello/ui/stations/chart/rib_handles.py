"""Handles on the ribs of the pulled stroke in the hand: each turns the chisel at its place on the way."""

from __future__ import annotations

import math
from collections.abc import Callable

from PySide6.QtCore import QLineF, QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QWidget

from pennello.design.on_chart import with_motif
from pennello.design.placed import PlacedMotif
from pennello.design.ribs import Rib, ribs_of, with_rib_turned
from pennello.phrases import phrase
from pennello.ui.stations.chart.model import ChartModel, PlanChange
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.chart_drawing import ChartView
from pennello.ui.widgets.handle import Handle, HandleWork, keep_handles
from pennello.ui.widgets.held import Held, turned


class ChartRibs:
    """One handle at corner B of each rib."""

    def __init__(self, model: ChartModel, board: QWidget, view: Callable[[], ChartView]) -> None:
        self._model, self._board, self._view = model, board, view
        self._ribs: tuple[Rib, ...] = ()
        self._from: dict[int, tuple[QPointF, QPointF]] = {}
        self.handles: list[Handle] = []

    def place(self) -> None:
        """Lie on the ribs of the stroke in the hand; nowhere for any other piece."""
        chosen = self._model.seated
        self._ribs = ribs_of(self._model.plan, chosen) if chosen is not None else ()
        keep_handles(self.handles, len(self._ribs), self._made)
        for number, (handle, rib) in enumerate(zip(self.handles, self._ribs, strict=True)):
            a, b = (QPointF(self._view().to_px(*end)) for end in rib)
            handle.put(b)
            handle.refresh()
            handle.raise_()
            if not handle.dragging:
                self._from[number] = (b, (a + b) / 2)

    def _made(self, number: int) -> Handle:
        return Handle(self._board, "diamond", self._work(number), Qt.CursorShape.SizeAllCursor)

    def _work(self, number: int) -> HandleWork:
        model = self._model

        def now() -> PlacedMotif | None:
            return model.committed_seated if number < len(self._ribs) else None

        def turned_by(one: PlacedMotif, deg: float) -> PlacedMotif:
            return with_rib_turned(one, number, -deg if self._view().mirror else deg)

        def put(one: PlacedMotif) -> PlanChange:
            return lambda plan: with_motif(plan, one)

        def led(one: PlacedMotif, way: QPointF) -> PlacedMotif | None:
            by = turned(*self._from[number], way)
            return None if by is None else turned_by(one, by)

        def words() -> str:
            if number >= len(self._ribs):
                return ""
            (ax, ay), (bx, by) = self._ribs[number]
            return phrase("chisel at {degrees:.0f}° to the level", degrees=math.degrees(math.atan2(ay - by, bx - ax)))

        held = Held[PlacedMotif, PlanChange](
            name=phrase("Rib {number}: turn the chisel", number=number + 1),
            label=phrase("Turn a rib"),
            now=now,
            put=put,
            say=words,
            drag=led,
            step=lambda one, x, y, factor: turned_by(one, (x + y) * factor),
            merge=lambda: phrase("rib {number}", number=number),
        )
        return held.work(model)

    def draw(self, painter: QPainter) -> None:
        """Draw the ribs."""
        lines = [QLineF(*(QPointF(self._view().to_px(*end)) for end in rib)) for rib in self._ribs]
        for colour, wide in ((theme().mat, 3.5), (theme().accent, 1.5)):  # to be seen over any paint
            painter.setPen(QPen(QColor(colour), wide))
            painter.drawLines(lines)
