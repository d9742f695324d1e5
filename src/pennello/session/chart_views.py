"""From how near each chart is looked at: whole or close, how large, where; kept from one day to the next."""

from __future__ import annotations

import contextlib
import json
from collections.abc import Callable
from dataclasses import astuple, dataclass, replace
from pathlib import Path
from typing import Any

from pennello.chart.chart import Chart, View
from pennello.disk import make_private_folder, read_bytes, write_bytes
from pennello.errors import FileProblemError, UnknownNameError
from pennello.phrases import phrase

ZOOM = (0.5, 8.0)
WHOLE = ""
_NAME, _MOST_BYTES = "chart-views.json", 1_000_000


@dataclass(frozen=True, slots=True)
class ChartLook:
    """How a chart is looked at.

    Attributes
    ----------
    view
        Name of a close view of the chart; nothing for the whole of it.
    zoom
        Against as large as fits, in [0.5, 8].
    right_mm, down_mm
        How far the middle of what is seen lies from the middle of the view, mm.
    """

    view: str = WHOLE
    zoom: float = 1.0
    right_mm: float = 0.0
    down_mm: float = 0.0

    def zoomed(self, factor: float, right_mm: float = 0.0, down_mm: float = 0.0) -> ChartLook:
        """Return it larger by a factor about a place, mm from the middle of what is seen."""
        zoom = min(max(self.zoom * factor, ZOOM[0]), ZOOM[1])
        kept = 1 - self.zoom / zoom
        return replace(self, zoom=zoom, right_mm=self.right_mm + right_mm * kept, down_mm=self.down_mm + down_mm * kept)

    def moved(self, right_mm: float, down_mm: float) -> ChartLook:
        """Return it with what is seen moved."""
        return replace(self, right_mm=self.right_mm + right_mm, down_mm=self.down_mm + down_mm)


def frame_of(chart: Chart, view: str) -> tuple[float, float, float, float]:
    """Return what a view of a chart shows at least: its middle, its width and height, mm.

    Raises
    ------
    UnknownNameError
        If the chart has no view of that name.
    """
    if view == WHOLE:
        left, top, right, bottom = chart.bounds_mm
        return (left + right) / 2, (top + bottom) / 2, right - left + 8, bottom - top + 8
    known: dict[str, View] = dict(chart.views)
    if view not in known:
        raise UnknownNameError(phrase("view"), view, list(known), chart.key)
    x, y, width = known[view]
    return x, y, width, width


class ChartViews:
    """How each chart was looked at last; a broken file means whole charts, never an error.

    Parameters
    ----------
    folder
        Where the file lies; asked for when it is first needed.
    """

    def __init__(self, folder: Callable[[], Path]) -> None:
        self._folder = folder
        self._seen: dict[str, ChartLook] | None = None
        self._stored: dict[str, ChartLook] = {}

    def of(self, chart: Chart) -> ChartLook:
        """Return how a chart was looked at last."""
        seen = self._all().get(chart.key, ChartLook())
        return seen if seen.view == WHOLE or seen.view in dict(chart.views) else ChartLook()

    def keep(self, chart: Chart, seen: ChartLook) -> None:
        """Remember how a chart is looked at."""
        self._all()[chart.key] = seen

    def store(self) -> None:
        """Write what changed; a disk that refuses is no reason to stop a painter."""
        if self._seen is None or self._seen == self._stored:
            return
        file = self._folder() / _NAME
        text = json.dumps({key: astuple(seen) for key, seen in self._seen.items()}, indent=1)
        with contextlib.suppress(OSError, FileProblemError):
            make_private_folder(file.parent)
            write_bytes(text.encode(), file)
            self._stored = dict(self._seen)

    def _all(self) -> dict[str, ChartLook]:
        if self._seen is None:
            self._seen = _read(self._folder() / _NAME)
            self._stored = dict(self._seen)
        return self._seen


def _read(file: Path) -> dict[str, ChartLook]:
    try:
        stored = json.loads(read_bytes(file, _MOST_BYTES))
    except (FileProblemError, OSError, ValueError, RecursionError):
        return {}
    rows = stored.items() if isinstance(stored, dict) else ()
    return {key: ChartLook(*row) for key, row in rows if _is_sound(row)}


def _is_sound(row: Any) -> bool:
    if not (isinstance(row, list) and len(row) == 4 and isinstance(row[0], str)):
        return False
    numbers = [value for value in row[1:] if isinstance(value, int | float) and abs(value) < 1000]
    return len(numbers) == 3 and ZOOM[0] <= row[1] <= ZOOM[1]
