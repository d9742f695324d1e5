"""Grips on the ribs of a chisel that turns by keys: each turns its key's angle to the way."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QWidget

from pennello.lay.stroke import Key, NibMode, Stroke
from pennello.lay.track import Track
from pennello.ui.bench_model import BenchModel, stroke_change
from pennello.ui.stations.bench.skin_view import SkinView
from pennello.ui.widgets.handle import Handle, HandleWork, keep_handles


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
        for number, (handle, key) in enumerate(zip(self.handles, keys, strict=True)):
            moment = int(track.at(np.array([key.at * track.length_mm]))[0])
            end = track.points(np.array([moment]), np.array([1.0]))[0, 0]
            at, middle = self._view().point(*end), self._view().point(*track.centre[moment])
            handle.put(at)
            handle.refresh()
            if not handle.dragging:
                self._from[number] = (at, middle)

    def _handle(self, number: int) -> Handle:
        model = self._model

        def keys_now() -> tuple[Key, ...]:
            return model.stroke.stroke.nib.keys if model.stroke else ()

        def turned(stroke: Stroke, to_deg: float) -> Stroke:
            keys = list(stroke.nib.keys)
            keys[number] = replace(keys[number], value=float(min(max(round(to_deg), -720), 720)))
            return replace(stroke, nib=replace(stroke.nib, keys=tuple(keys)))

        def dragged(way: QPointF) -> None:
            start, middle = self._from[number]
            hand, before = start + way - middle, start - middle
            if math.hypot(hand.x(), hand.y()) < 6:
                return
            by = math.degrees(math.atan2(hand.y(), hand.x()) - math.atan2(before.y(), before.x()))
            committed = model.committed_stroke.stroke.nib.keys[number].value
            model.preview(stroke_change(lambda s: turned(s, committed + (by + 180) % 360 - 180)))

        def stepped(x: int, y: int, factor: float) -> None:
            to = keys_now()[number].value + (x + y) * factor
            model.edit("Turn a rib", stroke_change(lambda s: turned(s, to)), f"rib {number}")

        def put_more() -> None:
            """Put another key half way to the next."""

            def make(stroke: Stroke) -> Stroke:
                keys = stroke.nib.keys
                here, there = keys[number], keys[min(number + 1, len(keys) - 1)]
                new = Key((here.at + there.at) / 2, (here.value + there.value) / 2)
                return replace(stroke, nib=replace(stroke.nib, keys=tuple(sorted((*keys, new), key=lambda k: k.at))))

            model.edit("Another rib to turn", stroke_change(make))

        def value() -> str:
            keys = keys_now()
            return f"{keys[number].value:.0f}° at {keys[number].at:.0%} of the way" if number < len(keys) else ""

        work = HandleWork(
            f"Rib {number + 1} (double click puts another)",
            value,
            dragged,
            stepped,
            lambda: model.commit("Turn a rib"),
            model.cancel,
            put_more,
        )
        return Handle(self._surface, "turn", work, Qt.CursorShape.SizeAllCursor)
