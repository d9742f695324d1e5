"""What is practised and calibrated, over an open plan: cards and sheets, their photos, what is taken over."""

from __future__ import annotations

import io
import json
import math
from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from pennello.colour.basis import small_basis
from pennello.design.edits import with_brush
from pennello.design.plan import Plan, PlanStroke
from pennello.disk import write_bytes
from pennello.errors import PennelloError, UnknownNameError
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.lay.laying import lay
from pennello.load.recipe import Recipe
from pennello.phrases import mark, phrase, plural
from pennello.practice.card import Card, card_for
from pennello.practice.fit_card import CardFit, fit_card
from pennello.practice.photo import Corners, PhotoProblemError, Picture, camera_installed, marks_found
from pennello.practice.read_card import read_card
from pennello.practice.records import KeptConstant
from pennello.practice.sheet import Practised, places_for
from pennello.practice.simulated import SimulatedPainter, sheet_photo
from pennello.practice.tries import TryScore, TrySlip, score_sheet, slipped
from pennello.session.log import now_text

Say = Callable[[float, str], None]

SLIP_SD = (1.0, 1.0, 3.0, 0.05, 5.0, 4.0, 0.08)
"""How a simulated hand slips on a practice sheet, in the order of `TrySlip` (defaults)."""


class CardLoadError(PennelloError):
    """A load is none that a card can be painted with."""


@dataclass(frozen=True, slots=True)
class CardWork:
    """A card of a load: its brush, cakes and paints, the load and the card."""

    brush: Applicator
    cakes: dict[str, Cake]
    paints: tuple[Paint, ...]
    recipe: Recipe
    card: Card


def card_work(plan: Plan, load: str) -> CardWork:
    """Return the card of a load.

    Raises
    ------
    UnknownNameError
        If the plan has no such load.
    CardLoadError
        If the load takes no cake, or is made in more than one visit.
    CardFitError
        If its brush or paints do not fit a card.
    """
    source = plan.stroke(load)
    if not source.recipe.cakes:
        raise CardLoadError(
            phrase("{source} is loaded from pans; take a load from a cake for the card.", source=source.name)
        )
    if len(source.recipe.pickups) > 1 or source.recipe.after:
        words = plural(
            len(source.recipe.pickups),
            "{source} is loaded in {count} visit, or goes on with a leftover",
            "{source} is loaded in {count} visits, or goes on with a leftover",
            source=source.name,
        )
        raise CardLoadError(
            phrase(
                "{words}; the card is painted with a load of one visit to one cake. Choose another load.", words=words
            )
        )
    cakes = {name: plan.cake(name) for name in source.recipe.cakes}
    names = [stripe.paint for cake in cakes.values() for stripe in cake.stripes]
    names += list(source.recipe.pan_paints)
    paints = tuple(plan.paint(name) for name in dict.fromkeys(names))
    brush = plan.brush(source.brush)
    return CardWork(brush, cakes, paints, source.recipe, card_for(brush, paints))


def fitted(work: CardWork, picture: Picture, corners: Corners | None = None, say: Say | None = None) -> CardFit:
    """Return what a photo of a painted card tells of its brush and paints; see `read_card` and `fit_card`.

    Parameters
    ----------
    corners
        Middles of its corner marks on the photo, pixels; None to look for them.
    """
    where = corners or found_marks(picture)
    if say is not None:
        say(0.05, phrase("reading the photo"))
    strokes, dabs = read_card(picture, where, work.card, work.brush, work.recipe, work.paints)
    return fit_card(work.brush, work.cakes, work.paints, strokes, dabs, say)


def found_marks(picture: Picture) -> Corners:
    """Return the corner marks on a photo.

    Raises
    ------
    PhotoProblemError
        If they are not all found, or looking for them is not installed.
    """
    found = marks_found(picture)
    if found is not None:
        return found
    if camera_installed():
        words = phrase(
            "Not all four corner marks are seen on the photo; take it whole and sharp, or put them there by hand."
        )
        raise PhotoProblemError(words)
    words = phrase("Say where the four corner marks are: finding them takes OpenCV, which is not installed")
    raise PhotoProblemError(phrase("{words} (pip install 'pennello[camera]').", words=words))


def taken_over(plan: Plan, fit: CardFit, names: Collection[str] | None = None) -> Plan:
    """Return a plan with what a card told of its brush and paints.

    Parameters
    ----------
    names
        Ids of the brush and the paints to take; None for all.
    """
    paints = {one.id: one for one in fit.paints if names is None or one.id in names}
    changed = replace(plan, paints=tuple(paints.get(one.id, one) for one in plan.paints))
    return with_own_brush(changed, fit.brush) if names is None or fit.brush.id in names else changed


def with_own_brush(plan: Plan, brush: Applicator) -> Plan:
    """Return a plan with a brush changed; pick-ups that drift as its sweeps usually do, do so on.

    What a painter set otherwise for a single pick-up stays.
    """
    usual = plan.brush(brush.id).drift_mm
    strokes = tuple(_drifting_as(one, usual, brush) if one.brush == brush.id else one for one in plan.strokes)
    return with_brush(replace(plan, strokes=strokes), brush)


def _drifting_as(stroke: PlanStroke, usual_mm: float, brush: Applicator) -> PlanStroke:
    pickups = tuple(
        replace(one, drift_mm=brush.drift_mm) if math.isclose(one.drift_mm, usual_mm) else one
        for one in stroke.recipe.pickups
    )
    return replace(stroke, recipe=replace(stroke.recipe, pickups=pickups))


def scored(
    what: Practised, picture: Picture, corners: Corners | None = None, say: Say | None = None, most: int = 10
) -> tuple[TryScore, ...]:
    """Return the tries on a photographed sheet, scored; see `score_sheet`."""
    return score_sheet(picture, corners or found_marks(picture), what, say, most)


def constants_of(plan: Plan, fit: CardFit, names: Collection[str] | None = None) -> tuple[KeptConstant, ...]:
    """Return what a card told of the brush and paints that are taken, as the log keeps it.

    Of a brush all constants, for all of them were changed together; of a paint what is the painter's own.
    """
    taken, paints = now_text(), plan.paints_by_id
    found = []
    for one in fit.learnt:
        item = one.paint or fit.brush.id
        if (one.own or not one.paint) and (names is None or item in names):
            old = paint_text(paints[one.paint]) if one.paint else ""
            found.append(
                KeptConstant(
                    taken, plan.title, item, one.name, one.value, one.before, one.shrunk, phrase("a card"), old
                )
            )
    return tuple(found)


_OLD = ("srgb", "tint", "reflectance", "scatter_exponent")


def paint_text(paint: Paint) -> str:
    """Return what a card changes of a paint, as JSON."""
    return json.dumps({name: getattr(paint, name) for name in _OLD})


def back_to_default(plan: Plan, item: str, learnt: Sequence[KeptConstant]) -> Plan:
    """Return a plan whose brush or paint is as it was before it was anybody's own.

    Parameters
    ----------
    learnt
        What was learnt, the latest first; a paint goes back to what it was before the earliest card.

    Raises
    ------
    UnknownNameError
        If the plan has no such brush or paint.
    """
    mine = [one for one in learnt if one.item == item]
    if any(brush.id == item for brush in plan.brushes):
        brush = plan.brush(item)
        first = {one.name: one.was for one in mine}  # the earliest stands last
        usual = Applicator(brush.id, brush.name, brush.width_mm, brush.kind)
        values: dict[str, Any] = {name: getattr(usual, name) for name in brush.own} | first
        return with_own_brush(plan, replace(brush, own=(), **values))
    paint = plan.paint(item)
    old = [one.old for one in mine if one.old]
    if not old:
        return plan
    values = json.loads(old[-1])
    if values.get("reflectance") is not None:
        values["reflectance"] = tuple(values["reflectance"])
    before = replace(paint, **{name: values[name] for name in _OLD})
    return replace(plan, paints=tuple(before if one.id == item else one for one in plan.paints))


def own_items(plan: Plan, learnt: Sequence[KeptConstant]) -> tuple[tuple[str, str], ...]:
    """Return ids and names of the brushes and paints of a plan that are the painter's own."""
    told = {one.item for one in learnt if one.old}
    brushes = [(one.id, one.name) for one in plan.brushes if one.own]
    mine = [one for one in plan.paints if one.id in told and one.reflectance is not None]
    return (*brushes, *((one.id, one.name) for one in mine))


# --- stand-ins ---


def simulated_card(work: CardWork, seed: int) -> tuple[Picture, Corners]:
    """Return a photo of a card painted by a simulated painter, and where its marks are: for trying it out."""
    painter = SimulatedPainter(work.brush, work.cakes, work.paints, seed)
    return painter.card_photo(work.card, work.recipe)


def simulated_sheet(plan: Plan, what: Practised, load: str, seed: int) -> tuple[Picture, Corners, tuple[TrySlip, ...]]:
    """Return a photo of a sheet painted by a simulated hand, where its marks are, and how the hand slipped."""
    places = places_for(what)
    rng = np.random.default_rng(seed)
    slips = tuple(TrySlip(*(float(one) for one in rng.normal(0, SLIP_SD))) for _ in places)
    source = plan.stroke(load)
    tries = {
        place.number: [
            lay(
                source.recipe,
                slipped(stroke, slip),
                brush,
                plan.cakes_by_id,
                plan.paints_by_id,
                px_per_mm=5.0,
                basis=small_basis(10),
            )
            for stroke, brush, _ in what.strokes
        ]
        for place, slip in zip(places, slips, strict=True)
    }
    picture, corners = sheet_photo(places, tries, seed)
    return picture, corners, slips


def write_photo(picture: Picture, path: Path) -> None:
    """Write a picture as JPEG or PNG, by its ending; raises FileProblemError."""
    file = io.BytesIO()
    kind = "PNG" if path.suffix.lower() == ".png" else "JPEG"
    Image.fromarray(picture).save(file, kind, quality=92)
    write_bytes(file.getvalue(), path)


def load_of(plan: Plan, name: str) -> str:
    """Return the load that what is practised is painted with: itself, or that of the first piece.

    Raises
    ------
    UnknownNameError
        If the plan has no load at all.
    """
    if any(one.id == name for one in plan.strokes):
        return name
    placed = [one for one in plan.motifs if name in (one.id, one.part)]
    if placed and placed[0].loads:
        return placed[0].loads[0][1]
    if not plan.strokes:
        raise UnknownNameError(mark("load"), name, [])
    return plan.strokes[0].id


def card_words(plan: Plan, fit: CardFit) -> tuple[str, ...]:
    """Return what a card told in words: a sentence for the brush, and one for each paint that is not as was thought."""
    told = (card_sentence(plan, fit, one) for one in (fit.brush.id, *(paint.id for paint in fit.paints)))
    return tuple(one for one in told if one)


def card_sentence(plan: Plan, fit: CardFit, item: str) -> str:
    """Return what a card told of its brush or of one of its paints, "" where that is as was thought."""
    if item == fit.brush.id:
        mine = [one for one in fit.learnt if one.own and not one.paint]
        words = "; ".join(_BRUSH_SAYS[one.name].format(one.value, one.before) for one in mine)
        return f"{plan.brush(item).name}: {words}." if words else ""
    of_paint = [one for one in fit.learnt if one.own and one.paint == item]
    told = [words for one in of_paint if (words := _paint_says(one.name, one.value, one.before))]
    return f"{plan.paint(item).name} {phrase(' and ').join(told)}." if told else ""


_BRUSH_SAYS = {
    "release_mm": phrase("a load lasts {:.0f} mm of way until a third is left (was {:.0f} mm)"),
    "capacity_mm3_per_mm": phrase("it holds {:.1f} mm³ on a mm of edge (was {:.1f} mm³)"),
    "drift_mm": phrase("your sweeps wander by {:.1f} mm (was {:.1f} mm)"),
    "fill_passes": phrase("it is two thirds full after {:.1f} sweeps (was {:.1f})"),
}
_WORTH, _WORTH_SLOPE = 0.05, 0.15
"""What differs by less is not worth a word: of a strength, and of an exponent (defaults)."""


def _paint_says(name: str, value: float, before: float) -> str:
    if name == "tint":
        times = value / before
        worth = abs(times - 1) >= _WORTH
        return phrase("tints {times:.1f} times as strongly as its colour let guess", times=times) if worth else ""
    if name == "slope":
        bluer, warmer = phrase("looks bluer where it is thin"), phrase("looks warmer where it is thin")
        return (bluer if value > before else warmer) if abs(value - before) >= _WORTH_SLOPE else ""
    return phrase("has another colour in mixtures than its own let guess") if abs(value) >= _WORTH else ""
