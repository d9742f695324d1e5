"""GPL palettes, in and out: the open text format of colour lists, one "R G B name" a line."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path

from pennello.colour.srgb import parse_hex
from pennello.disk import write_bytes
from pennello.errors import FileProblemError
from pennello.files.table import read_text
from pennello.kit.paint import Paint
from pennello.kit.shelf import slug
from pennello.phrases import phrase

MOST_COLOURS = 20_000
_HEAD = "GIMP Palette"
_COLOUR = re.compile(r"\s*(\d{1,3})\s+(\d{1,3})\s+(\d{1,3})(?:\s+(.*))?\Z")


def read_palette(path: Path) -> tuple[Paint, ...]:
    """Return the colours of a palette as paints of unknown opacity, each with its own id.

    Raises
    ------
    FileProblemError
        If the file is no palette; the sentence names the line.
    """
    lines = read_text(path).splitlines()
    if not lines or lines[0].strip() != _HEAD:
        raise FileProblemError(path, phrase("this is no GPL palette; its first line should be '{head}'.", head=_HEAD))
    paints: dict[str, Paint] = {}
    for count, line in enumerate(lines[1:], 2):
        if not line.strip() or line.lstrip().startswith("#") or line.startswith(("Name:", "Columns:")):
            continue
        match = _COLOUR.match(line)
        parts = [int(match[at]) for at in (1, 2, 3)] if match else []
        if match is None or max(parts) > 255:
            raise FileProblemError(
                path,
                phrase(
                    "line {count}: '{line}' is no colour; write R G B from 0 to 255.",
                    count=count,
                    line=line.strip()[:40],
                ),
            )
        if len(paints) >= MOST_COLOURS:
            raise FileProblemError(
                path, phrase("the palette has more than {most_colours} colours; split it.", most_colours=MOST_COLOURS)
            )
        code = "#{:02x}{:02x}{:02x}".format(*parts)
        name = (match[4] or "").strip() or code
        item_id, number = slug(name), 1
        while item_id in paints:
            number += 1
            item_id = f"{slug(name)[:55]}-{number}"
        paints[item_id] = Paint(item_id, name, code)
    return tuple(paints.values())


def write_palette(paints: Iterable[Paint], path: Path, name: str = "Pennello") -> None:
    """Write the masstones of paints as a palette; raises FileProblemError."""
    lines = [_HEAD, f"Name: {name}", "#"]
    for paint in paints:
        red, green, blue = (round(float(part) * 255) for part in parse_hex(paint.srgb))
        lines.append(f"{red:3d} {green:3d} {blue:3d}\t{paint.name}")
    write_bytes(("\n".join(lines) + "\n").encode(), path)
