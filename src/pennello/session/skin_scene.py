"""The plan's strokes on one skin, kept up to date: an edit lays only what it touches, from a saved film."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.difference import ciede2000
from pennello.colour.lab import picture_lab
from pennello.colour.lights import Light
from pennello.design.laid_marks import ReadyMark, SeenMark, ready_mark
from pennello.design.marks import Mark
from pennello.design.plan import Plan, PlanStroke
from pennello.design.scene import (
    BANDS,
    MOST_SHOWN_PIXELS,
    Carrying,
    Check,
    Ready,
    fresh_film,
    go_on,
    in_time,
    lay_in_order,
    pulls,
    skin_canvas,
    starts,
)
from pennello.lay.canvas import Canvas
from pennello.lay.drying import evaporation_um_s
from pennello.lay.engine import best
from pennello.lay.skin_film import Box, Engine, SkinFilm

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]
_Key = tuple[Ready, float]


@dataclass(frozen=True, slots=True, eq=False)
class SceneView:
    """What a scene shows: the picture, where it lies, what changed of it, and when the last stroke was laid."""

    plan: Plan
    canvas: Canvas
    picture: Picture
    changed: Box
    ends_s: float


class SkinScene:
    """Two films: one saved before the stroke that is being edited, one with everything.

    An edit gives back to the second what it changed since the first, and lays the strokes from there on anew.
    """

    def __init__(self, px_per_mm: float = 4.0, most_pixels: int = MOST_SHOWN_PIXELS) -> None:
        self.px_per_mm, self._most_pixels = px_per_mm, most_pixels
        self._canvas: Canvas | None = None
        self._skin: object = None
        self._engine: Engine | None = None
        self._base: tuple[list[_Key], SkinFilm, Carrying] | None = None
        self._all: tuple[list[_Key], SkinFilm, Carrying] | None = None
        self._dirty: Box | None = None
        self._picture: Picture | None = None
        self._light = Light.DAYLIGHT
        self.laid = 0

    def show(
        self,
        plan: Plan,
        focus: int | None = 0,
        engine: Engine | None = None,
        check: Check = go_on,
        times: Sequence[float] | None = None,
        marks: Sequence[tuple[Mark, float]] = (),
        *,
        held: bool = False,
        elsewhere: Sequence[PlanStroke] = (),
        light: Light = Light.DAYLIGHT,
    ) -> SceneView:
        """Return the plan's strokes on the skin.

        Parameters
        ----------
        focus
            Number of the stroke that is being edited: the film before it is kept. None: where it differs from before.
        check
            Called after each stroke; what it raises ends the work, and nothing half painted is kept.
        times
            When each is laid, s; without it one after another by the clock.
        marks
            Glitter, stencils and gems, with the time of each, s.
        held
            Whether glitter stays wherever it falls: nobody looked for its time.
        elsewhere
            Strokes of other charts whose leftovers are gone on with.
        light
            In which it is seen: another one needs another picture only.
        """
        doer = engine or best()
        canvas = skin_canvas(plan, self.px_per_mm, self._most_pixels, [mark for mark, _ in marks], check)
        ready = pulls(plan, canvas.px_per_mm, elsewhere=elsewhere, check=check)
        brought = [(ready_mark(plan, mark, canvas.px_per_mm, BANDS, held=held), at) for mark, at in marks]
        times = starts(plan) if times is None else times
        keys = in_time(list(zip(ready, times, strict=True)), brought)
        ground = (plan.skin, plan.dry_after_s)
        if canvas != self._canvas or ground != self._skin or doer is not self._engine:
            self._canvas, self._skin, self._engine, self._base, self._all = canvas, ground, doer, None, None
        if focus is None:
            focus = _common(self._all[0], keys) if self._all else 0
        changed = self._lay(plan, keys, min(focus, len(keys)), doer, canvas, check)
        assert self._all is not None
        if light is not self._light:
            self._light, self._picture = light, None
        self._show(self._all[1].in_light(light), changed, doer)
        assert self._picture is not None
        return SceneView(plan, canvas, self._picture, changed, times[-1] if times else 0.0)

    def wetness(self, at_s: float, dry_after_s: float) -> Array | None:
        """Return the wetness of what is on the skin at a time, shape (rows, columns), if a coat dries in that long."""
        return self._all[1].wetness_at(at_s, evaporation_um_s(dry_after_s)) if self._all else None

    def muddied_de00(self, plan: Plan, focus: int) -> float:
        """Return how far the stroke in the hand would be from itself over dry paint, mean dE00 where it lies; 0 alone.

        To be asked after `show` with the same plan and focus, when the film before that stroke is there.
        """
        if self._base is None or self._engine is None or len(self._base[0]) != focus:
            return 0.0
        keys, base, carrying = self._base
        ready, times = pulls(plan, base.canvas.px_per_mm), starts(plan)
        if not 0 <= focus < len(ready) or not keys:
            return 0.0
        seen = []
        for at_s in (times[focus], times[focus] + 1e6):
            film = base.copy()
            box = carrying.copy().lay(film, ready[focus], at_s, self._engine, evaporation_um_s(plan.dry_after_s))
            seen.append(self._engine.picture(film, box))
            covered = film.cover[box.top : box.bottom, box.left : box.right] > 0.5
        one, other = (picture_lab(picture[covered]) for picture in seen)
        return float(ciede2000(one, other).mean()) if len(one) else 0.0

    def seen(self) -> tuple[SeenMark, ...]:
        """Return the marks that lie there, in the order of painting, and how each is seen under what came later."""
        if self._all is None:
            return ()
        keys, film, carrying = self._all
        return tuple(carrying.seen(film, one) for one, _ in keys if isinstance(one, ReadyMark))

    def film(self) -> SkinFilm | None:
        """Return the film with everything."""
        return self._all[1] if self._all else None

    def _lay(self, plan: Plan, keys: list[_Key], focus: int, engine: Engine, canvas: Canvas, check: Check) -> Box:
        """Bring both films up to date; return what has changed of the second. What is being painted is not kept yet."""
        same = _common(self._all[0], keys) if self._all else -1
        if self._all and same == len(keys) == len(self._all[0]):
            return Box(0, 0, 0, 0)
        rate = evaporation_um_s(plan.dry_after_s)
        everything = Box(0, canvas.rows, 0, canvas.columns)
        keep = self._base is not None and _common(self._base[0], keys) == len(self._base[0])
        if not keep or self._base is None or self._all is None:
            self._base, self._all, self._dirty = None, None, None  # let go of first: films are large
            self._base = ([], fresh_film(plan, canvas, thin=True), Carrying())
        base_keys, base, carrying = self._base
        if focus > len(base_keys):  # go on with the saved film up to the stroke in the hand
            self._base, self._all = None, None
            base = base if base_keys else base.copy()
            lay_in_order(base, keys[len(base_keys) : focus], carrying, engine, rate, check)
            self.laid += focus - len(base_keys)
            base_keys = keys[:focus]
            self._base = (base_keys, base, carrying)
        changed = everything
        if self._all is None:
            film = base.copy()
        else:
            film, changed = self._all[1], self._dirty or Box(0, 0, 0, 0)
            self._all = None
            _give_back(base, film, changed)
        rest = keys[len(base_keys) :]
        on = carrying.copy()
        self._dirty = lay_in_order(film, rest, on, engine, rate, check)
        self.laid += len(rest)
        self._all = (keys, film, on)
        return self._dirty.joined(changed) if self._dirty else changed

    def _show(self, film: SkinFilm, changed: Box, engine: Engine) -> None:
        rows, columns = film.canvas.rows, film.canvas.columns
        if self._picture is None or self._picture.shape[:2] != (rows, columns):
            self._picture = engine.picture(film, Box(0, rows, 0, columns))
        elif not changed.empty:
            part = (slice(changed.top, changed.bottom), slice(changed.left, changed.right))
            self._picture = self._picture.copy()
            self._picture[part] = engine.picture(film, changed)


def _common(old: list[_Key], new: list[_Key]) -> int:
    """Return how many keys both begin with."""
    for number, (one, other) in enumerate(zip(old, new, strict=False)):
        if one[0] is not other[0] or one[1] != other[1]:
            return number
    return min(len(old), len(new))


def _give_back(saved: SkinFilm, film: SkinFilm, box: Box) -> None:
    part = (slice(box.top, box.bottom), slice(box.left, box.right))
    for name in ("wet", "cover", "as_of_s", "body_um", "ground", "dry_um"):
        getattr(film, name)[part] = getattr(saved, name)[part]
