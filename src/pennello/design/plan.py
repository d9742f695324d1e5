"""A plan: paints, cakes, brushes and strokes, complete in itself."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from enum import Enum
from typing import Annotated, Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from pennello.aim.attempt import Attempt, Side
from pennello.aim.hand import Hand
from pennello.aim.wish import Wanted
from pennello.chart.measures import Measures
from pennello.colour.basis import full_basis
from pennello.colour.lights import Light
from pennello.colour.recover import reflectance_from_srgb
from pennello.colour.skin import ITA_RANGE, ita_class, skin_reflectance
from pennello.colour.srgb import parse_hex
from pennello.design.marks import Mark, Reserved
from pennello.design.ordering import Ordering
from pennello.design.part import PlanPart
from pennello.design.photo import MOST_PHOTOS, Photo
from pennello.design.placed import PlacedMotif
from pennello.errors import UnknownNameError
from pennello.kept import kept_small
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.paint import Near, Paint
from pennello.lay.drying import DRY_AFTER_S
from pennello.lay.laying import runs_of
from pennello.lay.stroke import Stroke
from pennello.limits import (
    MOST_BRUSHES,
    MOST_CAKES,
    MOST_MOTIFS,
    MOST_OVERLAYS,
    MOST_PAINTS,
    MOST_PARTS,
    MOST_RESERVED,
    MOST_STROKES,
)
from pennello.load.edge import LoadedEdge, load
from pennello.load.recipe import Face, Recipe
from pennello.phrases import mark, phrase, told
from pennello.record import Told, check

Array = NDArray[np.floating[Any]]
MOST_WAIT_S = 86_400.0
MOST_PER_LOAD = 40
Thing = TypeVar("Thing", Paint, Cake, Applicator, "PlanStroke", PlacedMotif)


class Reload(Enum):
    """When a brush is loaded anew, where strokes with one load follow each other."""

    PALE = "when it runs pale"
    EACH = "after every stroke"
    COUNT = "after so many strokes"
    NEVER = "never"


@dataclass(frozen=True, slots=True)
class Skin:
    """The skin painted on: by its angle in degrees (ITA, -60 to 70), or by the user's own sample as sRGB."""

    ita_deg: Annotated[
        float,
        Told("individual typology angle", "degrees", within=ITA_RANGE, called="skin angle (ITA)"),
    ] = 40.0
    srgb: Annotated[str | None, Told("an own sample, which wins", text="colour", default="left out")] = None

    def __post_init__(self) -> None:
        if self.srgb is not None:
            parse_hex(self.srgb)
        check(self)

    @property
    def name(self) -> str:
        """What to call it."""
        return (
            phrase("own sample {srgb}", srgb=self.srgb)
            if self.srgb
            else phrase("{ita_class} skin, ITA {ita_deg:.0f}°", ita_class=ita_class(self.ita_deg), ita_deg=self.ita_deg)
        )


@kept_small
def skin_spectrum(skin: Skin) -> Array:
    """Return the reflectance of a skin at 36 bands, shape (36,)."""
    return reflectance_from_srgb(parse_hex(skin.srgb)) if skin.srgb else skin_reflectance(skin.ita_deg)


@kept_small
def skin_bytes(skin: Skin, light: Light = Light.DAYLIGHT) -> tuple[int, int, int]:
    """Return the colour of a skin as it is seen in a light, as sRGB bytes."""
    red, green, blue = np.rint(full_basis(light).srgb(skin_spectrum(skin)) * 255).astype(int).tolist()
    return red, green, blue


@dataclass(frozen=True, slots=True)
class PlanStroke:
    """A stroke of the plan: its brush, its load, its way over the skin where it lies, and what it should look like."""

    id: Annotated[str, Told("key within a plan", text="id")]
    name: Annotated[str, Told("the name shown", text="name", in_file="", default="the id")]
    brush: Annotated[str, Told("id of a brush", text="id")]
    recipe: Annotated[Recipe, Told("its load, below", key="load")]
    stroke: Annotated[Stroke, Told("its way")]
    wanted: Annotated[Wanted, Told("what it should look like, below")]
    rim: Annotated[Side, Told('corner that lies away from the motif\'s centre, `"A"` or `"B"`')] = Side.A
    wait_s: Annotated[
        float,
        Told(
            "how long the painter waits before it",
            "s",
            within=(0.0, MOST_WAIT_S),
            called="wait before {name}",
            since=3,
        ),
    ] = 0.0
    reload: Annotated[
        Reload,
        Told(
            "when the brush is loaded anew where one stroke after another is laid with it: `when it runs pale`, "
            "`after every stroke`, `after so many strokes`, `never`",
            since=9,
        ),
    ] = Reload.PALE
    reload_after: Annotated[
        int,
        Told("how many strokes that is", within=(1, MOST_PER_LOAD), called="strokes of {name} from one load", since=9),
    ] = 1
    near: Annotated[Near, Told("what it lies near, for the labels of its paints: `skin`, `eye`, `lips`", since=4)] = (
        Near.SKIN
    )

    def __post_init__(self) -> None:
        check(self)


@dataclass(frozen=True, slots=True)
class Plan:
    """Everything that one .pennello file holds."""

    title: Annotated[str, Told("words", text="name")] = "Untitled"
    place: Annotated[str, Told("words", text="name")] = ""
    skin: Annotated[Skin, Told("the skin painted on, below")] = field(default_factory=Skin)
    paints: Annotated[tuple[Paint, ...], Told("below; ids are unique within a list", count=(0, MOST_PAINTS))] = ()
    cakes: Annotated[tuple[Cake, ...], Told("below", count=(0, MOST_CAKES))] = ()
    brushes: Annotated[
        tuple[Applicator, ...], Told("brushes, sponges and daubers, below", count=(0, MOST_BRUSHES))
    ] = ()
    strokes: Annotated[tuple[PlanStroke, ...], Told("below", count=(0, MOST_STROKES))] = ()
    dry_after_s: Annotated[
        float,
        Told(
            "after how long the usual coat of 20 um is dry to the touch",
            "s",
            within=(1.0, MOST_WAIT_S),
            called="drying time",
            since=3,
            default="40 (57.6 in files before schema 7)",
        ),
    ] = DRY_AFTER_S
    hand: Annotated[Hand, Told("standard deviations of the hand's slips, below", since=4)] = field(default_factory=Hand)
    measures: Annotated[Measures, Told("the person, below", since=4)] = field(default_factory=Measures)
    motifs: Annotated[
        tuple[PlacedMotif, ...],
        Told("what lies on charts, in the order of painting, below", since=4, count=(0, MOST_MOTIFS)),
    ] = ()
    parts: Annotated[
        tuple[PlanPart, ...], Told("what the painter would name, below", since=9, count=(0, MOST_PARTS))
    ] = ()
    reserved: Annotated[
        tuple[Reserved, ...], Told("places kept free, below", since=4, count=(0, MOST_RESERVED), called="places kept")
    ] = ()
    photos: Annotated[
        tuple[Photo, ...],
        Told("photos in the place of drawn charts, below", since=11, count=(0, MOST_PHOTOS), called="photos"),
    ] = ()
    overlays: Annotated[
        tuple[Mark, ...],
        Told("what lies over the paint, below", since=4, count=(0, MOST_OVERLAYS), called="layers over the paint"),
    ] = ()
    ordering: Annotated[Ordering, Told("what the painter says about the order of painting, below", since=5)] = field(
        default_factory=Ordering
    )
    light: Annotated[Light, Told("the light of the place, in which the Chart is seen", since=13)] = Light.DAYLIGHT

    def __post_init__(self) -> None:
        check(self, counts=False)  # `check_plan` counts, before a plan is taken or written

    @property
    def paints_by_id(self) -> dict[str, Paint]:
        """The paints by id."""
        return {one.id: one for one in self.paints}

    @property
    def ids_in_design(self) -> list[str]:
        """Ids of all parts and pieces: a rule or a command names one of either, so that no id stands twice."""
        return [*(one.id for one in self.parts), *(one.id for one in self.motifs)]

    @property
    def parts_by_id(self) -> dict[str, PlanPart]:
        """The parts by id."""
        return {one.id: one for one in self.parts}

    @property
    def cakes_by_id(self) -> dict[str, Cake]:
        """The cakes by id."""
        return {one.id: one for one in self.cakes}

    @property
    def brushes_by_id(self) -> dict[str, Applicator]:
        """The brushes by id."""
        return {one.id: one for one in self.brushes}

    def paint(self, name: str) -> Paint:
        """Return a paint by id; raises UnknownNameError."""
        return find(mark("paint"), name, self.paints)

    def cake(self, name: str) -> Cake:
        """Return a cake by id; raises UnknownNameError."""
        return find(mark("cake"), name, self.cakes)

    def brush(self, name: str) -> Applicator:
        """Return a brush by id; raises UnknownNameError."""
        return find(mark("brush"), name, self.brushes)

    def stroke(self, name: str) -> PlanStroke:
        """Return a stroke by id; raises UnknownNameError."""
        return find(mark("stroke"), name, self.strokes)

    def residue(self, name: str) -> LoadedEdge | None:
        """Return what is in the brush before a stroke's load: the leftover of the stroke it comes after, or None."""
        recipe = self.stroke(name).recipe
        return self.leftover(recipe.after, recipe.lays) if recipe.after else None

    def axis(self, name: str) -> GradientAxis:
        """Return which way a stroke's loaded edge runs: that of a leftover is the one that it was loaded by."""
        stroke = self.stroke(name)
        while not stroke.recipe.pickups and stroke.recipe.after:
            stroke = self.stroke(stroke.recipe.after)
        return stroke.recipe.axis(self.brush(stroke.brush))

    @property
    def axes(self) -> dict[str, GradientAxis]:
        """The axis of every stroke by id, in one go."""
        found: dict[str, GradientAxis] = {}
        for stroke in self.strokes:
            own = stroke.recipe.axis(self.brush(stroke.brush))
            found[stroke.id] = own if stroke.recipe.pickups else found.get(stroke.recipe.after, own)
        return found

    def leftover(self, name: str, face: Face | None = None) -> LoadedEdge:
        """Return what the brush holds when a stroke is laid, on the face that laid it or on another one."""
        stroke = self.stroke(name)
        cakes = {cake.id: cake for cake in self.cakes}
        if face is not None and face is not stroke.recipe.lays:  # nothing was laid with it
            before = self.leftover(stroke.recipe.after, face) if stroke.recipe.after else None
            return load(replace(stroke.recipe, lays=face), cakes, self.brush(stroke.brush), before)
        runs = runs_of(stroke.recipe, stroke.stroke, self.brush(stroke.brush), cakes, self.residue(name))
        return runs[-1].left_edge

    def edge(self, name: str) -> LoadedEdge:
        """Return what a stroke's load puts on the brush."""
        stroke = self.stroke(name)
        return load(stroke.recipe, self.cakes_by_id, self.brush(stroke.brush), self.residue(name))

    def attempt(self, name: str) -> Attempt:
        """Return all that one stroke depends on; raises UnknownNameError."""
        stroke = self.stroke(name)
        return Attempt(
            stroke.recipe,
            stroke.stroke,
            self.brush(stroke.brush),
            self.cakes_by_id,
            self.paints_by_id,
            stroke.wanted,
            skin_spectrum(self.skin),
            stroke.rim,
            self.residue(name),
        )


def find(kind: str, name: str, things: Iterable[Thing]) -> Thing:
    """Return the thing with this id.

    Raises
    ------
    UnknownNameError
        If there is none.
    """
    listed = list(things)
    for thing in listed:
        if thing.id == name:
            return thing
    raise UnknownNameError(told(kind), name, [thing.id for thing in listed])
