"""Remakes docs/motifs.md with its two sheets: all motifs and families as they are really laid.  make catalogue"""

from __future__ import annotations

import sys
from dataclasses import replace
from itertools import groupby
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from pennello.design.fresh import fresh_plan, with_family_stroke
from pennello.design.on_chart import painted_plan, with_new_motif
from pennello.design.plan import Plan, Skin
from pennello.design.scene import paint_all
from pennello.files.demo import demo_plan
from pennello.lay.engine import kernel
from pennello.lay.families.catalogue import FAMILIES
from pennello.lay.skin_film import Box
from pennello.motif.catalogue import MOTIFS
from pennello.motif.motif import Motif
from pennello.motif.place import HERE
from pennello.solve.suiting import with_loads_for

DOCS = Path(__file__).parents[1] / "docs"
FONT = Path(__file__).parents[1] / "src/pennello/ui/theme/fonts"
TILE, COLUMNS, PX_PER_MM = (240, 210), 6, 6.0
SKINS_ITA = {"light": 55.0, "mid": 20.0, "very dark": -45.0}


def laid(plan: Plan) -> Image.Image:
    """Return a plan's strokes as they are laid, in their order, on its skin."""
    film = paint_all(plan, PX_PER_MM, kernel())
    return Image.fromarray(kernel().picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns)))


def motif_plan(kind: Motif, ita: float) -> Plan:
    """Return a plan with one motif, laid with loads of the demo that suit it, rows dry in between."""
    demo = replace(demo_plan(), motifs=(), overlays=(), reserved=(), skin=Skin(ita))
    plan, _ = with_new_motif(with_loads_for(demo, kind), kind.key, "face", HERE)
    plan = painted_plan(plan, "face")
    wait = 0.0 if kind.in_one_go else 12.0
    return replace(plan, strokes=tuple(replace(one, wait_s=wait) for one in plan.strokes))


def family_plan(key: str, ita: float) -> Plan:
    """Return a plan with one stroke of a family."""
    plan, name = with_family_stroke(fresh_plan(), key)
    return replace(plan, strokes=(plan.stroke(name),), skin=Skin(ita))


def tile(picture: Image.Image, name: str) -> Image.Image:
    """Return a picture with its name under it."""
    ground = tuple(int(value) for value in np.asarray(picture)[0, 0])
    page = Image.new("RGB", TILE, ground)
    room = (TILE[0] - 12, TILE[1] - 34)
    small = picture.copy()
    small.thumbnail(room)
    page.paste(small, ((TILE[0] - small.width) // 2, 6 + (room[1] - small.height) // 2))
    ink = (20, 20, 20) if sum(ground) > 380 else (240, 240, 240)
    ImageDraw.Draw(page).text((TILE[0] / 2, TILE[1] - 16), name, fill=ink, anchor="mm", font=font())
    return page


def font() -> ImageFont.FreeTypeFont | ImageFont.ImageFont:
    """Return the application's own face."""
    files = sorted(FONT.glob("*Regular*.ttf")) or sorted(FONT.glob("*.ttf"))
    return ImageFont.truetype(str(files[0]), 15) if files else ImageFont.load_default()


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
    sheet([tile(laid(motif_plan(kind, ita)), kind.name) for kind in MOTIFS.values()], folder / "motifs.png")
    sheet([tile(laid(family_plan(key, ita)), one.name) for key, one in FAMILIES.items()], folder / "strokes.png")
    if folder == DOCS:
        (DOCS / "motifs.md").write_text(page(), "utf-8")


if __name__ == "__main__":
    main(sys.argv[1:])
