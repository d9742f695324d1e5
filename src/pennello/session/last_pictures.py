"""The painted chart of a saved plan as it was last seen, in the cache folder: it is shown at once when the plan opens.

A picture stands for exactly one plan and one way of painting: its name is made from both. It is a picture only; the
film is painted behind it, and is what the hand works on.
"""

from __future__ import annotations

import hashlib
import io
import os
from contextlib import suppress
from functools import cache
from pathlib import Path

import msgspec
import numpy as np
import platformdirs
from PIL import Image, PngImagePlugin

import pennello
from pennello.design.laid_marks import SeenMark
from pennello.design.plan import Plan
from pennello.disk import PRIVATE, make_private_folder, write_bytes
from pennello.errors import FileProblemError
from pennello.files.plan_schema import from_plan
from pennello.lay.canvas import Canvas
from pennello.session.chart_scene import Painted

MOST_KEPT, MOST_BYTES = 60, 30_000_000
"""How many pictures are kept, and what they may weigh together, bytes (defaults); the oldest go first."""

_NOTE = "pennello"
_QUICK = 1
"""How hard the picture is packed, 0 to 9: it is written and read while somebody waits."""


class _Note(msgspec.Struct, frozen=True):
    """What a picture says of itself: where it lies, what is in it, and how much of each grain of a mark shows."""

    left_mm: float
    top_mm: float
    px_per_mm: float
    strokes: int
    ends_s: float
    marks: tuple[tuple[str, tuple[float, ...] | None], ...]


def last_folder() -> Path:
    """Return where the pictures are kept."""
    return Path(platformdirs.user_cache_path("pennello")) / "charts"


class LastPictures:
    """The pictures of a folder."""

    def __init__(self, folder: Path | None = None) -> None:
        self._folder = folder or last_folder()

    def keep(self, painted: Painted) -> None:
        """Keep the picture of a plan as it is painted at its end; where that cannot be, the next time is slower."""
        told, out = PngImagePlugin.PngInfo(), io.BytesIO()
        note = _Note(
            painted.canvas.left_mm,
            painted.canvas.top_mm,
            painted.canvas.px_per_mm,
            painted.strokes,
            painted.ends_s,
            tuple((one.mark.name, None if one.shows is None else tuple(one.shows.tolist())) for one in painted.marks),
        )
        told.add_text(_NOTE, msgspec.json.encode(note).decode())
        Image.fromarray(painted.rgba).save(out, "PNG", pnginfo=told, compress_level=_QUICK)
        with suppress(FileProblemError, OSError):
            make_private_folder(self._folder)
            write_bytes(out.getvalue(), self._path(painted.plan, painted.chart), mode=PRIVATE, follow=False)
            self._tidy()

    def find(self, plan: Plan, chart: str) -> Painted | None:
        """Return the picture of exactly this plan on a chart; None where there is none, or it is damaged."""
        path = self._path(plan, chart)
        try:
            with Image.open(path) as image:
                note = msgspec.json.decode(image.info[_NOTE], type=_Note)
                rgba = np.asarray(image)
        except (OSError, KeyError, ValueError, SyntaxError, Image.DecompressionBombError):
            return None
        there = {one.name: one for one in plan.overlays if one.chart == chart}
        if rgba.ndim != 3 or rgba.shape[2] != 4 or not all(name in there for name, _ in note.marks):
            return None
        marks = tuple(SeenMark(there[name], None if shows is None else np.array(shows)) for name, shows in note.marks)
        with suppress(OSError):
            path.touch()
        canvas = Canvas(note.left_mm, note.top_mm, rgba.shape[1], rgba.shape[0], note.px_per_mm)
        return Painted(plan, chart, canvas, rgba, note.strokes, note.ends_s, None, marks, plan.light)

    def _path(self, plan: Plan, chart: str) -> Path:
        data: bytes = msgspec.json.encode((from_plan(plan), chart))
        return self._folder / f"{hashlib.sha256(data + _painted_by()).hexdigest()[:32]}.png"

    def _tidy(self) -> None:
        """Take those away that were looked at longest ago."""
        about = [(one, one.stat()) for one in self._folder.glob("*.png")]
        weight = 0
        for number, (one, told) in enumerate(sorted(about, key=lambda pair: pair[1].st_mtime, reverse=True)):
            weight += told.st_size
            if number and (number >= MOST_KEPT or weight > MOST_BYTES):
                one.unlink(missing_ok=True)


@cache
def _painted_by() -> bytes:
    """Return what tells one way of painting from another: the version, and the modules and tables of the core."""
    told, here = [pennello.__version__], Path(__file__).parents[1]
    with suppress(OSError):  # nothing to be looked at in a packed program: its version tells
        _tell_of(str(here), told)
    return "\n".join(told).encode()


def _tell_of(folder: str, told: list[str]) -> None:
    """Tell name, size and time of each module and table of a folder and those in it, but for the interface's."""
    with os.scandir(folder) as there:
        found = sorted(there, key=lambda one: one.name)
    for one in found:
        if one.is_dir():
            if one.name not in ("ui", "__pycache__"):
                _tell_of(one.path, told)
        elif one.name.endswith((".py", ".csv", ".txt")):
            about = one.stat()
            told.append(f"{one.name} {about.st_size} {about.st_mtime_ns}")
