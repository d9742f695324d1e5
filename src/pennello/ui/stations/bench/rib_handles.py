"""Grips on the ribs of a chisel that turns by keys: each turns its key's angle to the way."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QWidget

from pennello.lay.stroke import Key, NibMode, Stroke
from pennello.lay.track import Track
from pennello.phrases import phrase
from pennello.ui.bench_model import BenchModel, StrokeChange, stroke_change
from pennello.ui.stations.bench.skin_view import SkinView
from pennello.ui.widgets.handle import Handle, keep_handles
from pennello.ui.widgets.held import number_held, turned
from pennello.ui.widgets.number_field import Quantity


class RibHandles:
    """Keeps a grip at the end of the rib of each key."""

    def __init__(self, model: BenchModel, surface: QWidget, view: Callable[[], SkinView]) -> None:
        self._model, self._surface, self._view = model, surface, view
        self._from: dict[int, tuple[QPointF, QPointF]] = {}
        self.handles: list[Handle] = []

    @property
    def dragging(self) -> bool:
        """Whether a hand holds one of them."""
        return any(handle.dragging for handle in self.handles)

    def place(self, track: Track | None) -> None:
        """Lay them where the ribs of the keys are."""
        stroke = self._model.stroke
        keys = stroke.stroke.nib.keys if stroke and track and stroke.stroke.nib.mode is NibMode.KEYED else ()
        keep_handles(self.handles, len(keys), self._handle)
        if track is None:
            return
        for index, (handle, key) in enumerate(zip(self.handles, keys, strict=True)):
            moment = int(track.at(np.array([key.at * track.length_mm]))[0])
            end = track.points(np.array([moment]), np.array([1.0]))[0, 0]
            at, middle = self._view().point(*end), self._view().point(*track.centre[moment])
            handle.put(at)
            handle.refresh()
            if not handle.dragging:
                self._from[index] = (at, middle)

    def _handle(self, index: int) -> Handle:
        model = self._model

        def keys_now() -> tuple[Key, ...]:
            return model.stroke.stroke.nib.keys if model.stroke else ()

        def with_angle(deg: float) -> StrokeChange:
            def make(stroke: Stroke) -> Stroke:
                keys = list(stroke.nib.keys)
                keys[index] = replace(keys[index], value=float(round(deg)))
                return replace(stroke, nib=replace(stroke.nib, keys=tuple(keys)))

            return stroke_change(make)

        def led(start: float, way: QPointF) -> float | None:
            by = turned(*self._from[index], way)
            return None if by is None else start + by

        def put_more(_: Handle) -> None:
            """Put another key half way to the next."""

            def make(stroke: Stroke) -> Stroke:
                keys = stroke.nib.keys
                here, there = keys[index], keys[min(index + 1, len(keys) - 1)]
                new = Key((here.at + there.at) / 2, (here.value + there.value) / 2)
                return replace(stroke, nib=replace(stroke.nib, keys=tuple(sorted((*keys, new), key=lambda k: k.at))))

            model.edit(phrase("Another rib to turn"), stroke_change(make))

        def say() -> str:
            keys = keys_now()
            return (
                phrase("{keys:.0f}° at {at:.0%} of the way", keys=keys[index].value, at=keys[index].at)
                if index < len(keys)
                else ""
            )

        work = number_held(
            model,
            Quantity(phrase("Rib {index} (double click puts another)", index=index + 1), -720, 720, 1, 0, "°"),
            phrase("Turn a rib"),
            now=lambda: model.committed_stroke.stroke.nib.keys[index].value,
            put=with_angle,
            say=say,
            drag=led,
            by=lambda x, y, factor: (x + y) * factor,
            merge=lambda: phrase("rib {index}", index=index),
        )
        work.typed = put_more
        return Handle(self._surface, "turn", work, Qt.CursorShape.SizeAllCursor)
