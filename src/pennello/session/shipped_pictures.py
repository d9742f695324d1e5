"""Pictures of motifs and families that come with the program: painted with the demo's loads, seen on any skin.

They stand where those in the plan's own colours are not painted yet, so that nobody chooses among outlines.
"""

from __future__ import annotations

import io
import json
from collections.abc import Iterable
from functools import lru_cache
from importlib.resources import files

import numpy as np
from PIL import Image, PngImagePlugin

from pennello.design.plan import Skin, skin_bytes
from pennello.session.catalogue import CataloguePicture

KINDS = ("motifs", "strokes")
COLOURS = 255
COLUMNS = 8
_NOTE = "pictures"


@lru_cache(maxsize=4)
def shipped(what: str, skin: Skin) -> dict[str, CataloguePicture]:
    """Return the pictures of all "motifs" or "strokes" that ship, by key, on a skin."""
    with Image.open(io.BytesIO(files(__package__).joinpath(f"{what}.png").read_bytes())) as image:
        told = json.loads(image.info[_NOTE])
        sheet = image.convert("RGBA")
    ground = Image.new("RGBA", sheet.size, skin_bytes(skin))
    ground.alpha_composite(sheet)
    bytes_of = np.asarray(ground)[..., :3]
    return {
        key: CataloguePicture(
            key, name, wide, tall, np.ascontiguousarray(bytes_of[top : top + rows, left : left + columns])
        )
        for key, (name, wide, tall, left, top, columns, rows) in told.items()
    }


def sheet_of(pictures: Iterable[CataloguePicture], cell: tuple[int, int]) -> bytes:
    """Return clear pictures side by side as one PNG, with what `shipped` has to know of each."""
    ones = list(pictures)
    rows = -(-len(ones) // COLUMNS)
    sheet = Image.new("RGBA", (COLUMNS * cell[0], rows * cell[1]))
    told: dict[str, tuple[str, float, float, int, int, int, int]] = {}
    for number, one in enumerate(ones):
        left, top = number % COLUMNS * cell[0], number // COLUMNS * cell[1]
        picture = Image.fromarray(one.picture)
        sheet.paste(picture, (left, top))
        told[one.key] = (one.name, one.width_mm, one.height_mm, left, top, picture.width, picture.height)
    note, out = PngImagePlugin.PngInfo(), io.BytesIO()
    note.add_text(_NOTE, json.dumps(told))
    few = sheet.quantize(COLOURS, Image.Quantize.FASTOCTREE)
    few.save(out, "PNG", pnginfo=note, optimize=True)
    return out.getvalue()
