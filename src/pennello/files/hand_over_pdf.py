"""All of a design as one PDF, for somebody who has no Pennello: the sheet, its load cards, its cakes, its outlines."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from pennello.files.cake_pdf import label_page
from pennello.files.card_pdf import card_page
from pennello.files.page import write_pages
from pennello.files.sheet_pdf import sheet_pages, tile_pages
from pennello.finding import Finding
from pennello.order.arrange import Arranged
from pennello.order.stages import SheetPictures, loads_used
from pennello.phrases import phrase
from pennello.units import LengthUnit


def write_hand_over(
    arranged: Arranged,
    told: Sequence[Finding],
    path: Path,
    pictures: SheetPictures | None = None,
    *,
    unit: LengthUnit = LengthUnit.MM,
) -> int:
    """Write all of a design as a PDF and return how many pages it has.

    The design as painted with its minutes, each step, the cautions; then each load with its card and each cake with
    its label, at true scale; last the outlines at true scale, cut into pages.

    Parameters
    ----------
    pictures
        Of the design and its stages; without them there are words alone.

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    """
    plan = arranged.design.work.plan
    loads = list(dict.fromkeys(loads_used(arranged)))
    cakes = dict.fromkeys(cake for load in loads for cake in plan.stroke(load).recipe.cakes)
    sheet = sheet_pages(arranged, told, pictures)
    draws = [
        *sheet,
        *(card_page(plan, load, unit) for load in loads),
        *(label_page(plan, cake, unit) for cake in cakes),
        *tile_pages(arranged, pictures),
    ]
    write_pages(path, phrase("{plan}: all of it", plan=plan.title), draws, enlarged=len(sheet))
    return len(draws)
