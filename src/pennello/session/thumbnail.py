"""The picture of a file for a file manager: a plan as it is painted, an event by its menu, a motif by its own."""

from __future__ import annotations

import io
from dataclasses import replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from pennello.day.event import Event
from pennello.design.plan import Plan
from pennello.disk import write_bytes
from pennello.errors import FileProblemError, OutOfRangeError
from pennello.files.day_json import SUFFIX as DAY
from pennello.files.day_json import read_day
from pennello.files.motif_file import SUFFIX as MOTIF
from pennello.files.motif_file import picture_of, read_own
from pennello.files.plan_json import read_plan
from pennello.files.swatch import picture_in
from pennello.phrases import phrase
from pennello.session.catalogue import laid
from pennello.session.day import plan_of
from pennello.session.design_pictures import laid_plan

Picture = NDArray[np.uint8]
SIZES = (16, 1024)
"""How large a picture may be asked for, px."""

_ROUND = "#F7F6F4"


def thumbnail(path: Path, size: int = 256) -> Picture:
    """Return a file's picture, sRGB bytes, shape (rows, columns, 3), no side longer than so many px, 16 to 1024.

    Raises
    ------
    FileProblemError
        If the file cannot be read, or nothing in it can be shown.
    OutOfRangeError
        If it shall be larger or smaller.
    """
    if not SIZES[0] <= size <= SIZES[1]:
        raise OutOfRangeError(
            phrase("size of the picture"), size, phrase("{low} to {high} px", low=SIZES[0], high=SIZES[1])
        )
    if path.suffix == MOTIF:
        kept = picture_of(path)
        found = picture_in(kept, path) if kept else _of_plan(read_own(path).parts)
    elif path.suffix == DAY:
        found = _of_event(read_day(path))
    else:
        found = _of_plan(read_plan(path))
    if found is None:
        raise FileProblemError(path, phrase("there is nothing in it that could be shown; pull a stroke first."))
    image = Image.fromarray(found)
    image.thumbnail((size, size), Image.Resampling.LANCZOS)
    return np.asarray(image)


def write_thumbnail(path: Path, target: Path, size: int = 256) -> None:
    """Write a file's picture as PNG; raises as `thumbnail` does."""
    out = io.BytesIO()
    Image.fromarray(thumbnail(path, size)).save(out, "PNG")
    write_bytes(out.getvalue(), target)


def _of_plan(plan: Plan) -> Picture | None:
    """Return a plan's first chart as it is painted, or its first load's stroke where nothing lies on a chart."""
    if plan.motifs:
        return laid_plan(plan, plan.motifs[0].chart, surround=_ROUND).picture
    if not plan.strokes:
        return None
    first = replace(plan, strokes=plan.strokes[:1], parts=(), overlays=(), reserved=())
    return laid(first, plan.strokes[0].id, plan.strokes[0].name, size=(SIZES[1], SIZES[1])).picture


def _of_event(event: Event) -> Picture | None:
    """Return up to four designs of the menu beside and below each other."""
    plans = (plan_of(one) for one in event.on_menu[:_SHOWN])
    pictures = [
        laid_plan(plan, plan.motifs[0].chart, surround=_ROUND).picture for plan in plans if plan and plan.motifs
    ]
    if not pictures:
        return None
    columns = min(len(pictures), 2)
    sheet = Image.new("RGB", (_CELL[0] * columns, _CELL[1] * -(-len(pictures) // 2)), _ROUND)
    for number, picture in enumerate(pictures):
        image = Image.fromarray(picture)
        image.thumbnail((_CELL[0] - 8, _CELL[1] - 8), Image.Resampling.LANCZOS)
        left, top = number % 2 * _CELL[0], number // 2 * _CELL[1]
        sheet.paste(image, (left + (_CELL[0] - image.width) // 2, top + (_CELL[1] - image.height) // 2))
    return np.asarray(sheet)


_SHOWN, _CELL = 4, (300, 200)
