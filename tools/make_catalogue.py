"""Remakes docs/motifs.md with its two sheets, and the pictures that ship: all as they are really laid.

make catalogue
"""

from __future__ import annotations

import sys
from dataclasses import replace
from itertools import groupby
from pathlib import Path

from PIL import Image, ImageDraw, ImageFont

from pennello.design.fresh import fresh_plan
from pennello.design.plan import Skin
from pennello.files.demo import demo_plan
from pennello.lay.families.catalogue import FAMILIES
from pennello.motif.catalogue import MOTIFS
from pennello.session.catalogue import PX_PER_MM as SHIPPED_PX_PER_MM
from pennello.session.catalogue import SIZE_PX, CataloguePicture, family_plan, laid, motif_plan
from pennello.session.shipped_pictures import sheet_of

DOCS = Path(__file__).parents[1] / "docs"
SHIPPED = Path(__file__).parents[1] / "src/pennello/session"
FONT = Path(__file__).parents[1] / "src/pennello/files/fonts"
TILE, COLUMNS, PX_PER_MM = (240, 216), 6, 6.0
ROOM = (TILE[0] - 12, TILE[1] - 50)
SKINS_ITA = {"light": 55.0, "mid": 20.0, "very dark": -45.0}


def tile(one: CataloguePicture) -> Image.Image:
    """Return a picture with its name and what it covers under it."""
    picture = Image.fromarray(one.picture)
    ground = tuple(int(value) for value in one.picture[0, 0])
    page = Image.new("RGB", TILE, ground)
    page.paste(picture, ((TILE[0] - picture.width) // 2, 6 + (ROOM[1] - picture.height) // 2))
    ink = (20, 20, 20) if sum(ground) > 380 else (240, 240, 240)
    draw = ImageDraw.Draw(page)
    draw.text((TILE[0] / 2, TILE[1] - 30), one.name, fill=ink, anchor="mm", font=font(15))
    size = f"{one.width_mm:.0f} × {one.height_mm:.0f} mm"
    draw.text((TILE[0] / 2, TILE[1] - 12), size, fill=ink, anchor="mm", font=font(12))
    return page


def font(size: int) -> ImageFont.FreeTypeFont | ImageFont.ImageFont:
    """Return the application's own face."""
    files = sorted(FONT.glob("*Regular*.ttf")) or sorted(FONT.glob("*.ttf"))
    return ImageFont.truetype(str(files[0]), size) if files else ImageFont.load_default()


def sheet(tiles: list[Image.Image], path: Path) -> None:
    """Write tiles side by side."""
    rows = -(-len(tiles) // COLUMNS)
    page = Image.new("RGB", (TILE[0] * COLUMNS, TILE[1] * rows), tiles[0].getpixel((0, 0)))
    for number, one in enumerate(tiles):
        page.paste(one, (number % COLUMNS * TILE[0], number // COLUMNS * TILE[1]))
    page.save(path, optimize=True)


def page() -> str:
    """Return the page about all motifs and families."""
    lines = [
        "# Motifs and strokes",
        "",
        "As they are laid with the demo's loads; `make catalogue` remakes this page and its sheets.",
        "",
        "![all motifs](motifs.png)",
        "",
        "| key | what | parts and their usual brushes | numbers |",
        "| --- | --- | --- | --- |",
    ]
    for kind in MOTIFS.values():
        parts = ", ".join(f"{part.name} ({part.tool})" for part in kind.parts)
        numbers = ", ".join(f"`{one.key}` {one.default:g}" for one in kind.parameters)
        lines.append(f"| `{kind.key}` | {kind.name}: {kind.words} | {parts} | {numbers} |")
    lines += ["", "## Strokes, by the way the brush is held", "", "![all families](strokes.png)", ""]
    for hold, families in groupby(FAMILIES.values(), key=lambda one: one.hold):
        lines += [f"**{hold.value.capitalize()}**: {hold.words}.", ""]
        lines += [f"- `{one.key}` {one.name}: {one.words} ({one.tool})" for one in families]
        lines.append("")
    return "\n".join(lines).rstrip() + "\n"


def main(words: list[str]) -> None:
    """Write the page and its sheets; with a skin's name and a folder only the sheets, into that folder."""
    ita, folder = (SKINS_ITA[words[0]], Path(words[1])) if len(words) > 1 else (36.0, DOCS)
    demo, fresh = (replace(plan, skin=Skin(ita)) for plan in (demo_plan(), fresh_plan()))
    every = {
        "motifs": [(motif_plan(demo, key), key, one.name) for key, one in MOTIFS.items()],
        "strokes": [(family_plan(fresh, key), key, one.name) for key, one in FAMILIES.items()],
    }
    for what, ones in every.items():
        sheet([tile(laid(*one, PX_PER_MM, ROOM)) for one in ones], folder / f"{what}.png")
        if folder == DOCS:
            clear = [laid(*one, SHIPPED_PX_PER_MM, SIZE_PX, clear=True) for one in ones]
            (SHIPPED / f"{what}.png").write_bytes(sheet_of(clear, SIZE_PX))
    if folder == DOCS:
        (DOCS / "motifs.md").write_text(page(), "utf-8")


if __name__ == "__main__":
    main(sys.argv[1:])
