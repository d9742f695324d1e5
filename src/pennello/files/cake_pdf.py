"""The label of a cake at true scale, to lay under the pan while it is filled, with its cut list."""

from __future__ import annotations

from pathlib import Path

from pennello.colour.srgb import parse_hex
from pennello.design.plan import Plan
from pennello.files.card_pdf import cake_strips
from pennello.files.page import MARGIN_MM, PAGE_WIDTH_MM, Draw, Page, fit, scale_words, write_page
from pennello.kit.cake import Cake
from pennello.kit.cut_list import DENSITY_G_PER_CM3, cut_list
from pennello.kit.neighbours import cake_mixes, hints
from pennello.phrases import phrase
from pennello.units import LengthUnit, length_text


def write_cake_label(plan: Plan, name: str, path: Path, unit: LengthUnit = LengthUnit.MM) -> None:
    """Write the label and the cut list of one cake of a plan as a one-page PDF (A4).

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    UnknownNameError
        If the plan has no such cake.
    """
    write_page(path, phrase("{cake}, cake label", cake=plan.cake(name).name), label_page(plan, name, unit))


def label_page(plan: Plan, name: str, unit: LengthUnit = LengthUnit.MM) -> Draw:
    """Return what draws the label and cut list of a cake; raises UnknownNameError if the plan has no such cake."""
    cake = plan.cake(name)
    return lambda page: _draw(page, plan, cake, unit)


def _draw(page: Page, plan: Plan, cake: Cake, unit: LengthUnit) -> None:
    x, width = MARGIN_MM, PAGE_WIDTH_MM - 2 * MARGIN_MM
    paints = plan.paints_by_id
    page.text(x, 18, cake.name, 20, bold=True)
    size = phrase(
        "{width_mm} across, {length_mm} long",
        width_mm=length_text(cake.width_mm, unit),
        length_mm=length_text(cake.length_mm, unit),
    )
    page.text(
        x, 24, phrase("{size}, {depth_mm} deep", size=size, depth_mm=length_text(cake.depth_mm, unit)), 10, quiet=True
    )
    scale = fit(cake.width_mm, cake.length_mm, (width, 120.0))
    page.text(x, 32, phrase("The pan from above, {scale_words}", scale_words=scale_words(scale)), 9, quiet=True)
    _draw_pan(page, plan, cake, scale)
    y = 34 + cake.length_mm * scale + 14
    page.text(x, y, phrase("Cut list, left to right"), 12, bold=True)
    y += 6
    for cut in cut_list(cake):
        page.fill(x, y - 3.4, 5, 4.2, parse_hex(paints[cut.paint].srgb) * 255)
        page.text(x + 8, y, paints[cut.paint].name, 10)
        at = phrase(
            "from {from_mm}, {width_mm} wide",
            from_mm=length_text(cut.from_mm, unit),
            width_mm=length_text(cut.width_mm, unit),
        )
        page.text(x + 70, y, phrase("{at}, {grams:.1f} g", at=at, grams=cut.grams), 10)
        y += 5.6
    total = sum(cut.grams for cut in cut_list(cake))
    density = phrase(
        "Together {total:.1f} g, at {density_g_per_cm3:g} g/cm³ (a default).",
        total=total,
        density_g_per_cm3=DENSITY_G_PER_CM3,
    )
    page.text(x, y, density, 9, quiet=True)
    y += 9
    names = [paints[stripe.paint].name for stripe in cake.stripes]
    for mixed, one, other in zip(cake_mixes(cake, paints), names, names[1:], strict=False):
        page.fill(x, y - 3.4, 5, 4.2, parse_hex(mixed.srgb) * 255)
        y = (
            page.paragraph(
                x + 8,
                y,
                phrase("{one} with {other}: {sentence}", one=one, other=other, sentence=mixed.sentence),
                width - 8,
                9.5,
            )
            + 1
        )
    for hint in hints(cake, paints):
        y = page.paragraph(x, y + 1, hint, width, 9.5)


def _draw_pan(page: Page, plan: Plan, cake: Cake, scale: float) -> None:
    x, y = MARGIN_MM, 34.0
    wide, long = cake.width_mm * scale, cake.length_mm * scale
    page.strips(x, y, wide, long, cake_strips(cake, plan))
    page.frame(x, y, wide, long)
    for edge in cake.edges_mm[1:-1]:
        page.line(x + edge * scale, y - 2.5, x + edge * scale, y, 0.6)
    if scale == 1:
        page.ruler(x, y + long, cake.width_mm)
