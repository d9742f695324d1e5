"""Pictures of motifs and families that come with the program: painted with the demo's loads, seen on any skin.

They stand where those in the plan's own colours are not painted yet, so that nobody chooses among outlines.
"""

from __future__ import annotations

import io
import json
from collections.abc import Iterable
from importlib.resources import files

import numpy as np
from PIL import Image, PngImagePlugin

from pennello.design.plan import Skin, skin_bytes
from pennello.kept import remembered
from pennello.session.catalogue import CataloguePicture

KINDS = ("motifs", "strokes")
COLOURS = 255
COLUMNS = 8
_NOTE = "pictures"


@remembered(2)
def _sheet(what: str) -> tuple[Image.Image, dict[str, tuple[str, float, float, int, int, int, int]]]:
    """Return all pictures of a kind side by side, and by key a name, what it covers, mm, and where it lies, px."""
    with Image.open(io.BytesIO(files(__package__).joinpath(f"{what}.png").read_bytes())) as image:
        image.load()
        return image, {key: tuple(told) for key, told in json.loads(image.info[_NOTE]).items()}


def shipped_keys(what: str) -> tuple[str, ...]:
    """Return the keys of all "motifs" or "strokes" that have a picture."""
    return tuple(_sheet(what)[1])


def shipped(what: str, key: str, skin: Skin) -> CataloguePicture | None:
    """Return the picture that ships of one of the "motifs" or "strokes", by its key, on a skin, or None."""
    sheet, told = _sheet(what)
    if key not in told:
        return None
    name, wide, tall, left, top, columns, rows = told[key]
    on_skin = Image.new("RGBA", (columns, rows), skin_bytes(skin))
    on_skin.alpha_composite(sheet.crop((left, top, left + columns, top + rows)).convert("RGBA"))
    return CataloguePicture(key, name, wide, tall, np.asarray(on_skin.convert("RGB")))


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
