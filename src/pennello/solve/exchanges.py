"""What could take the place of a cake or a pan: another one, or the same cake with the brush elsewhere on it.

What has to stay is how light each place is against the others (a light rim, a dark heel), how far neighbours stand
apart, and whether a gradient is even on both sides; the colours themselves may change, and should. White, grey and
black may stay what they are. Common practice, no published source; the weights are defaults.
"""

from __future__ import annotations

import heapq
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.difference import ciede2000
from pennello.colour.families import GREY_CHROMA, ColourFamily, chroma_of, families_of
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake, Portion
from pennello.kit.paint import Near, Paint, optics
from pennello.load.pickup import met_shares, part_met
from pennello.load.recipe import PickUp
from pennello.phrases import named, phrase
from pennello.solve.candidates import composition_of, offsets_of
from pennello.solve.coats import coat_lab
from pennello.solve.kit import AtHand

Array = NDArray[np.floating[Any]]

COLOURFUL = 0.15
"""Share of what is laid that a colour has at least to take to be named, or to be what was asked (a default)."""

_PLACES = 16
_OF_EACH = 12
_LIGHT, _APART, _EVEN, _LEVEL = 1.0, 0.5, 0.7, 0.3
"""Weight of lightness, of neighbours' contrast, of evenness and of lightness as a whole (defaults)."""

_ALIKE, _SEEN = 12.0, 5.0
"""How far colours should move, and how far at least for it to be another colour, mean dE00 (defaults)."""

_ASKED, _DULL, _DULLED, _CALM = 40.0, 2.0, 6.0, 4.0
"""Fines for another colour than was asked for, for colour that hardly moves (each dE00), for colour lost, and for
white, grey or black changed (defaults)."""


@dataclass(frozen=True, slots=True)
class PlacedPickUp:
    """One pick-up of one stroke, as it would be."""

    stroke: str
    number: int
    pickup: PickUp


@dataclass(frozen=True, slots=True, eq=False)
class Exchange:
    """What takes the place of a cake or a pan, for all pick-ups from it, and how well relations stay.

    Attributes
    ----------
    cake, paints
        A cake; or, for a pan, None and the paints in it.
    strokes, labs
        The strokes of the pick-ups, and what is laid across each edge, L*, a*, b*, shape (pick-ups, 16, 3).
    strain
        Mean departure of lightness and contrast, in dE-like units: 0 keeps all.
    """

    cake: Cake | None
    paints: tuple[str, ...]
    places: tuple[PlacedPickUp, ...]
    strokes: tuple[str, ...]
    labs: Array
    strain: float
    moved_de00: float
    fine: float

    @property
    def name(self) -> str:
        """Id of the cake, or the paints of the pan."""
        return self.cake.id if self.cake is not None else " + ".join(self.paints)

    @property
    def price(self) -> float:
        """Return what counts: strain and fines."""
        return self.strain + self.fine


def _strokes(here: Sequence[PlacedPickUp]) -> tuple[str, ...]:
    return tuple(place.stroke for place in here)


def _source(pickup: PickUp) -> str:
    """Return what a pick-up is from: the cake's id, or the paints of the pan."""
    return pickup.cake or " + ".join(portion.paint for portion in pickup.pan)


@dataclass(frozen=True, slots=True, eq=False)
class Exchanges:
    """Looks for what could take the place of each source."""

    plan: Plan
    hand_kit: AtHand
    colour: ColourFamily | None
    strokes: tuple[PlanStroke, ...]

    @property
    def paints(self) -> Mapping[str, Paint]:
        """All paints by id; the plan's own before others of the same name."""
        return {**self.hand_kit.by_name, **self.plan.paints_by_id}

    @property
    def sources(self) -> dict[str, list[PlacedPickUp]]:
        """What is loaded from now, with the pick-ups from it."""
        found: dict[str, list[PlacedPickUp]] = {}
        for stroke in self.strokes:
            for number, pickup in enumerate(stroke.recipe.pickups):
                found.setdefault(_source(pickup), []).append(PlacedPickUp(stroke.id, number, pickup))
        return found

    def words(self, name: str) -> str:
        """Return what a source is called."""
        names = {cake.id: cake.name for cake in self.plan.cakes} | {one.id: one.name for one in self.plan.paints}
        return " + ".join(names.get(part, part) for part in name.split(" + "))

    def ranked(self, here: Sequence[PlacedPickUp]) -> list[Exchange]:
        """Return what could take a source's place, best first, with its staying as it is among them."""
        old = self._stays(here)
        others = self._pans(here, old) if here[0].pickup.pan else self._cakes(here, old)
        seen = (one for one in others if one.moved_de00 >= _SEEN and self._answers(one))
        found = heapq.nsmallest(_OF_EACH, seen, key=lambda one: one.price)
        return sorted([*found, old], key=lambda one: one.price)

    def _answers(self, one: Exchange) -> bool:
        return self.colour is None or float(_share(one.labs, self.colour).mean()) >= COLOURFUL

    def why_not(self, colour: ColourFamily | None, sources: Mapping[str, list[PlacedPickUp]]) -> str:
        """Return why there is no colourway, with the remedy."""
        if colour is not None:
            return phrase(
                "Nothing at hand lays enough {colour} here. Add cakes or paints at the Tray, or ask for another.",
                colour=named(colour),
            )
        names = ", ".join(self.words(name) for name in sources)
        places = [place for here in sources.values() for place in here]
        widest = max((self._brush(place).width_mm for place in places if place.pickup.cake), default=0.0)
        wide = [cake for cake in self.hand_kit.cakes if cake.id not in sources and cake.width_mm >= widest - 2]
        if not any(place.pickup.cake for place in places):
            return phrase("No other paint at hand may take the place of {names}. Add paints at the Tray.", names=names)
        if not wide:
            return phrase(
                "Only {names} is at hand with room for a brush of {widest:.1f} mm, and it has no other place for it. "
                "Add cakes at the Tray.",
                names=names,
                widest=widest,
            )
        return phrase("No label at hand allows another cake where {names} is used. Add cakes at the Tray.", names=names)

    def _stays(self, here: Sequence[PlacedPickUp]) -> Exchange:
        labs = np.array([self._sees(place, [place.pickup])[0] for place in here])
        first = here[0].pickup
        cake = self.plan.cake(first.cake) if first.cake else None
        paints = tuple(portion.paint for portion in first.pan)
        return Exchange(cake, paints, (), _strokes(here), labs, 0.0, 0.0, float(self._fine(labs, labs).mean()))

    def _cakes(self, here: Sequence[PlacedPickUp], old: Exchange) -> Iterator[Exchange]:
        """Give each cake that fits, its best window for every pick-up; the source itself with the brush elsewhere."""
        for cake in self._all_cakes():
            if all(self.paints[name].allowed(self._near(place)) for place in here for name in cake.paints):
                placed = [self._placed(place, cake, labs) for place, labs in zip(here, old.labs, strict=True)]
                if all(placed):
                    yield self._exchange(cake, cake.paints, [one for one in placed if one], here, old)

    def _all_cakes(self) -> tuple[Cake, ...]:
        own = self.plan.cakes_by_id
        known = {cake.id: own.get(cake.id, cake) for cake in self.hand_kit.cakes}
        return tuple({**{name: own[name] for name in self.sources if name in own}, **known}.values())

    def _placed(self, place: PlacedPickUp, cake: Cake, old: Array) -> tuple[PickUp, Array] | None:
        brush = self._brush(place)
        offsets = offsets_of(cake, brush)
        if not len(offsets):
            return None
        middle = (cake.width_mm - brush.width_mm) / 2
        places = sorted({*offsets.tolist(), middle})
        tried = [
            replace(place.pickup, cake=cake.id, offset_mm=offset, flip=flip)
            for offset in places
            for flip in (False, True)
        ]
        labs = self._sees(place, tried, cake)
        price = _strain(old, labs) + self._fine(old, labs)
        if float((chroma_of(old) > GREY_CHROMA).mean()) > 0.5:  # a colour has to become another
            least = _ALIKE if cake.id == place.pickup.cake else _SEEN
            price = price + 1e3 * (np.asarray(ciede2000(old, labs)).mean(axis=-1) < least)
        at = int(np.argmin(price.round(6)))
        return tried[at], labs[at]

    def _pans(self, here: Sequence[PlacedPickUp], old: Exchange) -> Iterator[Exchange]:
        """Give each paint in the place of the most colourful one of the pan."""
        pan = here[0].pickup.pan
        chroma = {one.paint: float(chroma_of(self._pan_lab((one,), here[0]))[0]) for one in pan}
        worst = max(pan, key=lambda one: chroma[one.paint])
        for paint in self.hand_kit.stock:
            if paint.id in chroma or not all(paint.allowed(self._near(place)) for place in here):
                continue
            placed = []
            for place in here:
                mixed = tuple(
                    Portion(paint.id, one.amount) if one.paint == worst.paint else one for one in place.pickup.pan
                )
                pickup = replace(place.pickup, pan=mixed)
                placed.append((pickup, self._sees(place, [pickup])[0]))
            yield self._exchange(None, tuple(one.paint for one in placed[0][0].pan), placed, here, old)

    def _exchange(
        self,
        cake: Cake | None,
        paints: tuple[str, ...],
        placed: Sequence[tuple[PickUp, Array]],
        here: Sequence[PlacedPickUp],
        old: Exchange,
    ) -> Exchange:
        labs = np.array([lab for _, lab in placed])
        places = tuple(replace(place, pickup=pickup) for place, (pickup, _) in zip(here, placed, strict=True))
        strain, fine = (float(way(old.labs, labs).mean()) for way in (_strain, self._fine))
        moved = float(ciede2000(old.labs, labs).mean())
        return Exchange(cake, paints, places, _strokes(here), labs, strain, moved, fine)

    def _fine(self, old: Array, new: Array) -> Array:
        """Return fines: for colour that hardly moves or is lost, for another than was asked for, for a grey changed."""
        was, now = ((chroma_of(lab) > GREY_CHROMA).mean(axis=-1) for lab in (old, new))
        lost = np.maximum(was - now, 0.0)
        moved = np.asarray(ciede2000(old, new)).mean(axis=-1)
        if self.colour is None:
            return np.asarray(
                _DULL * was * np.maximum(_ALIKE - moved, 0) + _DULLED * lost + _CALM * (1 - was) * (moved > 0)
            )
        if self.colour.neutral:
            return np.asarray(_ASKED * (1 - _share(new, self.colour)))
        other = np.maximum(now - _share(new, self.colour), 0.0)
        return np.asarray(_ASKED * (other + lost) + _CALM * (1 - was) * (moved > 0))

    def _brush(self, place: PlacedPickUp) -> Applicator:
        return self.plan.brush(self.plan.stroke(place.stroke).brush)

    def _near(self, place: PlacedPickUp) -> Near:
        return self.plan.stroke(place.stroke).near

    def _pan_lab(self, pan: Sequence[Portion], place: PlacedPickUp) -> Array:
        stroke = self.plan.stroke(place.stroke)
        amounts = np.array([[one.amount for one in pan]])
        constants = optics(tuple(self.paints[one.paint] for one in pan))
        return coat_lab(amounts, constants, stroke.wanted.coat_um, skin_spectrum(self.plan.skin))

    def _sees(self, place: PlacedPickUp, pickups: Sequence[PickUp], cake: Cake | None = None) -> Array:
        """Return coats of what pick-ups meet as L*, a*, b*, shape (pick-ups, 16, 3); a part fills all 16 places."""
        stroke, brush = self.plan.stroke(place.stroke), self._brush(place)
        if pickups[0].pan:
            return np.repeat(self._pan_lab(pickups[0].pan, place)[None], _PLACES, axis=1)
        cake = self.plan.cake(pickups[0].cake) if cake is None else cake
        names, composition = composition_of(cake)
        axis = self.plan.axis(stroke.id)
        met = np.flatnonzero(part_met(pickups[0], brush, axis) > 0.25)
        at = met[np.linspace(0, len(met) - 1, 2 * _PLACES).round().astype(int)] if len(met) else np.arange(2 * _PLACES)
        shares = np.array([met_shares(one, cake, brush, GradientAxis.ACROSS)[0][:, at].T for one in pickups])
        shares = shares.reshape(len(pickups), _PLACES, 2, -1).mean(axis=2)
        constants = optics(tuple(self.paints[name] for name in names))
        return coat_lab(shares @ composition, constants, stroke.wanted.coat_um, skin_spectrum(self.plan.skin))


def _strain(old: Array, new: Array) -> Array:
    """Return how much relations change: of lightness along the edge and as a whole, of neighbours, of both sides.

    Shapes (..., 16, 3), which broadcast; the result is of shape (...).
    """
    means = [lab[..., 0].mean(axis=-1, keepdims=True) for lab in (old, new)]
    light = np.abs((new[..., 0] - means[1]) - (old[..., 0] - means[0])).mean(axis=-1)
    level = np.abs(means[1] - means[0])[..., 0]
    step = _PLACES // 4
    apart = [np.asarray(ciede2000(lab[..., step:, :], lab[..., :-step, :])) for lab in (old, new)]
    contrast = np.abs(apart[0] - apart[1]).mean(axis=-1)
    uneven = [np.asarray(ciede2000(lab, lab[..., ::-1, :])).mean(axis=-1) for lab in (old, new)]
    return np.asarray(
        _LIGHT * light + _APART * contrast + _LEVEL * level + _EVEN * np.maximum(uneven[1] - uneven[0], 0)
    )


def _share(labs: Array, colour: ColourFamily) -> Array:
    """Return the share of a family among colours, shape (..., n, 3)."""
    flat = families_of(labs.reshape(-1, 3))
    return np.asarray(np.array([one is colour for one in flat]).reshape(labs.shape[:-1]).mean(axis=-1))
