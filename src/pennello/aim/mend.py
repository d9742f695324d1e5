"""Changes that may mend a stroke. Each is data; it knows how it changes an attempt, not how it is stored or undone."""

from __future__ import annotations

from dataclasses import dataclass, replace

from pennello.aim.attempt import Attempt
from pennello.errors import OutOfRangeError
from pennello.kit.applicator import Applicator
from pennello.kit.paint import Paint
from pennello.kit.stripes import recoloured
from pennello.lay.stroke import Stroke
from pennello.load.recipe import PickUp, Recipe
from pennello.path.cubic import trimmed
from pennello.phrases import phrase


@dataclass(frozen=True, slots=True)
class SetPickUp:
    """Sweep differently: replace one pick-up. `kind` says in which way: slide, flip, blend, sweeps, wetness."""

    kind: str
    index: int
    pickup: PickUp
    words: str

    def mended(self, attempt: Attempt) -> Attempt:
        """Return the attempt with this change."""
        pickups = list(attempt.recipe.pickups)
        pickups[self.index] = self.pickup
        return replace(attempt, recipe=replace(attempt.recipe, pickups=tuple(pickups)))


@dataclass(frozen=True, slots=True)
class SetRecipe:
    """Load differently altogether."""

    kind: str
    recipe: Recipe
    words: str

    def mended(self, attempt: Attempt) -> Attempt:
        """Return the attempt with this change."""
        return replace(attempt, recipe=self.recipe)


@dataclass(frozen=True, slots=True)
class SetReloads:
    """Go back to the cake on the way, at these places, mm."""

    kind: str
    reload_mm: tuple[float, ...]
    words: str

    def mended(self, attempt: Attempt) -> Attempt:
        """Return the attempt with this change."""
        return replace(attempt, stroke=replace(attempt.stroke, reload_mm=self.reload_mm))


@dataclass(frozen=True, slots=True)
class Shorten:
    """End the stroke earlier, at this place, mm."""

    kind: str
    length_mm: float
    words: str

    def mended(self, attempt: Attempt) -> Attempt:
        """Return the attempt with this change."""
        return replace(attempt, stroke=shortened(attempt.stroke, self.length_mm))


@dataclass(frozen=True, slots=True)
class Recolour:
    """Fill one stripe of a cake with another paint."""

    kind: str
    cake: str
    stripe: int
    paint: Paint
    words: str

    def mended(self, attempt: Attempt) -> Attempt:
        """Return the attempt with this change."""
        cake = recoloured(attempt.cakes[self.cake], self.stripe, self.paint.id)
        return replace(
            attempt,
            cakes={**attempt.cakes, self.cake: cake},
            paints={**attempt.paints, self.paint.id: self.paint},
        )


@dataclass(frozen=True, slots=True)
class SetWay:
    """Lead the brush another way, or take another brush; it lies over the same stripes as before."""

    kind: str
    stroke: Stroke
    brush: Applicator
    words: str

    def mended(self, attempt: Attempt) -> Attempt:
        """Return the attempt with this change."""
        changed = replace(attempt, stroke=self.stroke, brush=self.brush)
        wider = self.brush.width_mm - attempt.brush.width_mm
        if not wider:
            return changed
        pickups = tuple(
            replace(one, offset_mm=round(one.offset_mm - wider / 2, 3)) if one.cake else one
            for one in attempt.recipe.pickups
        )
        return replace(changed, recipe=replace(attempt.recipe, pickups=pickups))


Mend = SetPickUp | SetRecipe | SetReloads | Shorten | Recolour | SetWay


def shortened(stroke: Stroke, length_mm: float) -> Stroke:
    """Return the stroke ended at a place along its path, mm, with the reloads and flips that remain.

    Raises
    ------
    OutOfRangeError
        If nothing would remain.
    """
    if length_mm <= 0:
        raise OutOfRangeError(phrase("length of the stroke"), length_mm, "above 0 mm")
    reloads, flips = (tuple(at for at in places if at < length_mm) for places in (stroke.reload_mm, stroke.flips_mm))
    lift = min(stroke.lift_mm, length_mm)
    path = trimmed(stroke.path, length_mm)
    return replace(stroke, path=path, reload_mm=reloads, flips_mm=flips, lift_mm=lift)
