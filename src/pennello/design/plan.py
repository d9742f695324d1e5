"""A plan: paints, cakes, brushes and strokes, complete in itself."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from pennello.aim.attempt import Attempt, Side
from pennello.aim.hand import Hand
from pennello.aim.wish import Wanted
from pennello.chart.measures import Measures
from pennello.colour.basis import FULL
from pennello.colour.recover import reflectance_from_srgb
from pennello.colour.skin import ITA_RANGE, ita_class, skin_reflectance
from pennello.colour.srgb import parse_hex
from pennello.design.marks import Mark, Reserved
from pennello.design.ordering import Ordering
from pennello.design.placed import PlacedMotif
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.paint import Near, Paint
from pennello.lay.drying import DRY_AFTER_S
from pennello.lay.laying import runs_of
from pennello.lay.stroke import Stroke
from pennello.load.edge import LoadedEdge, load
from pennello.load.recipe import Face, Recipe

Array = NDArray[np.floating[Any]]
MOST_WAIT_S = 86_400.0
Thing = TypeVar("Thing", Paint, Cake, Applicator, "PlanStroke", PlacedMotif)


@dataclass(frozen=True, slots=True)
class Skin:
    """The skin painted on: by its angle in degrees (ITA, -60 to 70), or by the user's own sample as sRGB."""

    ita_deg: float = 40.0
    srgb: str | None = None

    def __post_init__(self) -> None:
        if self.srgb is not None:
            parse_hex(self.srgb)
        if not ITA_RANGE[0] <= self.ita_deg <= ITA_RANGE[1]:
            raise OutOfRangeError("skin angle (ITA)", self.ita_deg, "-60 to 70 degrees")

    @property
    def name(self) -> str:
        """What to call it."""
        return f"own sample {self.srgb}" if self.srgb else f"{ita_class(self.ita_deg)} skin, ITA {self.ita_deg:.0f}°"


@lru_cache(maxsize=64)
def skin_spectrum(skin: Skin) -> Array:
    """Return the reflectance of a skin at 36 bands, shape (36,)."""
    return reflectance_from_srgb(parse_hex(skin.srgb)) if skin.srgb else skin_reflectance(skin.ita_deg)


@lru_cache(maxsize=64)
def skin_bytes(skin: Skin) -> tuple[int, int, int]:
    """Return the colour of a skin as sRGB bytes."""
    red, green, blue = np.rint(FULL.srgb(skin_spectrum(skin)) * 255).astype(int).tolist()
    return red, green, blue


@dataclass(frozen=True, slots=True)
class PlanStroke:
    """A stroke of the plan: its brush (by id), its load, its way over the skin and what it should look like.

    `near` is what it lies near, for the labels of its paints.
    `wait_s` is how long the painter waits before it, s, 0 to a day; its path lies where the stroke lies on the skin.
    """

    id: str
    name: str
    brush: str
    recipe: Recipe
    stroke: Stroke
    wanted: Wanted
    rim: Side = Side.A
    wait_s: float = 0.0
    near: Near = Near.SKIN

    def __post_init__(self) -> None:
        if not 0 <= self.wait_s <= MOST_WAIT_S:
            raise OutOfRangeError(f"wait before {self.name}", self.wait_s, "0 to 86400 s")


@dataclass(frozen=True, slots=True)
class Plan:
    """Everything that one .pennello file holds."""

    title: str = "Untitled"
    place: str = ""
    skin: Skin = field(default_factory=Skin)
    paints: tuple[Paint, ...] = ()
    cakes: tuple[Cake, ...] = ()
    brushes: tuple[Applicator, ...] = ()
    strokes: tuple[PlanStroke, ...] = ()
    dry_after_s: float = DRY_AFTER_S
    hand: Hand = field(default_factory=Hand)
    measures: Measures = field(default_factory=Measures)
    motifs: tuple[PlacedMotif, ...] = ()
    reserved: tuple[Reserved, ...] = ()
    overlays: tuple[Mark, ...] = ()
    ordering: Ordering = field(default_factory=Ordering)

    def __post_init__(self) -> None:
        if not 1 <= self.dry_after_s <= MOST_WAIT_S:
            raise OutOfRangeError("drying time", self.dry_after_s, "1 to 86400 s")

    def paint(self, name: str) -> Paint:
        """Return a paint by id; raises UnknownNameError."""
        return find("paint", name, self.paints)

    def cake(self, name: str) -> Cake:
        """Return a cake by id; raises UnknownNameError."""
        return find("cake", name, self.cakes)

    def brush(self, name: str) -> Applicator:
        """Return a brush by id; raises UnknownNameError."""
        return find("brush", name, self.brushes)

    def stroke(self, name: str) -> PlanStroke:
        """Return a stroke by id; raises UnknownNameError."""
        return find("stroke", name, self.strokes)

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
        cakes = {cake.id: cake for cake in self.cakes}
        return load(stroke.recipe, cakes, self.brush(stroke.brush), self.residue(name))

    def attempt(self, name: str) -> Attempt:
        """Return all that one stroke depends on; raises UnknownNameError."""
        stroke = self.stroke(name)
        return Attempt(
            stroke.recipe,
            stroke.stroke,
            self.brush(stroke.brush),
            {cake.id: cake for cake in self.cakes},
            {paint.id: paint for paint in self.paints},
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
    raise UnknownNameError(kind, name, [thing.id for thing in listed])
