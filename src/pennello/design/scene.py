"""All strokes of a plan on one skin, in order, each when its turn comes."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import small_basis
from pennello.design.clock import turns
from pennello.design.laid_marks import ReadyMark, SeenMark, Strewn, canvas_of, lay_mark, seen_of
from pennello.design.marks import Mark
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.design.side_by_side import side_by_side
from pennello.errors import OutOfRangeError
from pennello.kept import HashedOnce, kept
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS
from pennello.kit.paint import Paint
from pennello.lay.canvas import MARGIN_MM, Canvas, canvas_for
from pennello.lay.channels import count
from pennello.lay.deposit import drops_across
from pennello.lay.drying import evaporation_um_s
from pennello.lay.laying import PX_PER_MM, bin_contents, moved, pull, runs_of
from pennello.lay.motion import Motion
from pennello.lay.skin_film import Box, Engine, Pulling, SkinFilm, bare_skin, box_of, pull_over
from pennello.lay.stroke import Stroke
from pennello.lay.track import Track
from pennello.load.edge import LoadedEdge, axis_of, kept_share, load
from pennello.load.recipe import Face
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

MOST_PIXELS = 3_000_000
MOST_SHOWN_PIXELS = 600_000
"""Of a film that is kept for the screen: a pixel of it weighs 84 bytes."""

Check = Callable[[], None]
"""Asks whether the work is still wanted: it raises what is to end it."""

THREADS = 2
BANDS = 8
_NOTHING = np.array([[0.0, 0.0], [40.0, 30.0]])


def go_on() -> None:
    """Let the work go on to its end, whatever happens."""


@dataclass(frozen=True, slots=True, eq=False)
class ReadyPull:
    """A stroke ready to be pulled over a film; the same object as long as nothing that it rests on changes.

    Attributes
    ----------
    goes_on
        Whether it goes on with what an earlier stroke left in the brush, and with what that took up.
    """

    KEPT_ELSEWHERE: ClassVar[tuple[str, ...]] = ("track", "motion")

    stroke: str
    track: Track
    motion: Motion
    canvas: Canvas
    pulling: Pulling
    goes_on: str


Ready = ReadyPull | ReadyMark
"""What comes onto a film: a stroke, or a mark."""


def pulls(
    plan: Plan,
    px_per_mm: float,
    bands: int = BANDS,
    elsewhere: Sequence[PlanStroke] = (),
    check: Check = go_on,
) -> tuple[ReadyPull, ...]:
    """Return all strokes of a plan ready to be pulled, in order.

    Parameters
    ----------
    elsewhere
        Strokes laid on another chart before, whose leftovers these go on with.
    check
        Called before each stroke; what it raises ends the work.
    """
    cakes, paints = plan.cakes_by_id, HashedOnce(plan.paints)
    left: dict[tuple[str, Face], LoadedEdge] = {}
    every = (*elsewhere, *plan.strokes)
    needed, faces = _leftovers_needed(every), {one.id: one.recipe.lays for one in every}
    result = []
    for number, stroke in enumerate(every):
        check()
        brush, recipe = plan.brush(stroke.brush), stroke.recipe
        used = tuple(cakes[name] for name in recipe.cakes)
        residue = left.get((recipe.after, recipe.lays))
        ready, last = _kept_ready(stroke, brush, used, paints, residue, px_per_mm, bands)
        for face in Face:
            if (stroke.id, face) in needed:
                still = left.get((recipe.after, face))
                other = face is not recipe.lays
                left[stroke.id, face] = load(replace(recipe, lays=face), cakes, brush, still) if other else last
        if number >= len(elsewhere):
            result.append(ready if faces.get(recipe.after, recipe.lays) is recipe.lays else replace(ready, goes_on=""))
    return tuple(result)


def _leftovers_needed(strokes: Sequence[PlanStroke]) -> set[tuple[str, Face]]:
    """Return of which strokes the leftover is gone on with, and on which face: those before them too."""
    needed: set[tuple[str, Face]] = set()
    for stroke in reversed(strokes):
        if stroke.recipe.after:
            needed |= {(stroke.recipe.after, face) for face in Face if (stroke.id, face) in needed}
            needed.add((stroke.recipe.after, stroke.recipe.lays))
    return needed


def pulled_alone(plan: Plan, stroke: PlanStroke, px_per_mm: float) -> ReadyPull:
    """Return one stroke ready to be pulled, with a clean brush; a plan need not hold it."""
    cakes = plan.cakes_by_id
    used = tuple(cakes[name] for name in stroke.recipe.cakes)
    return _ready(stroke, plan.brush(stroke.brush), used, plan.paints, None, px_per_mm, BANDS)[0]


@kept
def _kept_ready(
    stroke: PlanStroke,
    brush: Applicator,
    cakes: tuple[Cake, ...],
    paints: HashedOnce[tuple[Paint, ...]],
    residue: LoadedEdge | None,
    px_per_mm: float,
    bands: int,
) -> tuple[ReadyPull, LoadedEdge]:
    return _ready(stroke, brush, cakes, paints.value, residue, px_per_mm, bands)


def _ready(
    stroke: PlanStroke,
    brush: Applicator,
    cakes: tuple[Cake, ...],
    paints: tuple[Paint, ...],
    residue: LoadedEdge | None,
    px_per_mm: float,
    bands: int,
) -> tuple[ReadyPull, LoadedEdge]:
    known = {cake.id: cake for cake in cakes}
    track, motion = moved(stroke.stroke, brush, axis_of(stroke.recipe, brush, residue), stroke.recipe.drag)
    runs = runs_of(stroke.recipe, stroke.stroke, brush, known, residue)
    by_name = {paint.id: paint for paint in paints}
    basis = small_basis(bands)
    keeps = kept_share(stroke.recipe, known, brush)
    contents = np.array([bin_contents(run.edge, by_name, basis) for run in runs])
    pulling = Pulling(
        contents=contents,
        keeps=np.broadcast_to(keeps, (len(runs), BINS)),
        carried=np.zeros((BINS, count(bands))),
        drops_across=drops_across(track.width_mm / BINS, px_per_mm),
    )
    canvas = canvas_for(track, px_per_mm)
    return ReadyPull(stroke.id, track, motion, canvas, pulling, stroke.recipe.after), runs[-1].left_edge


def skin_canvas(
    plan: Plan,
    px_per_mm: float,
    most_pixels: int = MOST_PIXELS,
    marks: Sequence[Mark] = (),
    check: Check = go_on,
) -> Canvas:
    """Return the patch of skin that all strokes reach, at this resolution or what keeps it within so many pixels.

    Parameters
    ----------
    marks
        What else comes onto it.
    check
        Called before each stroke; what it raises ends the work.

    Raises
    ------
    OutOfRangeError
        If the resolution is outside its range.
    """
    if not PX_PER_MM[0] <= px_per_mm <= PX_PER_MM[1]:
        raise OutOfRangeError("resolution", px_per_mm, phrase("0.5 to 64 pixels per mm"))
    axes, corners = plan.axes, []
    for one in plan.strokes:
        check()
        corners.append(_corners(one.stroke, plan.brush(one.brush), axes[one.id], one.recipe.drag))
    corners = [*corners, *(_corners_of(one) for one in marks)] or [_NOTHING]
    low, high = np.min([one[0] for one in corners], axis=0), np.max([one[1] for one in corners], axis=0)
    wide, tall = (float(size) for size in high - low)
    px = min(px_per_mm, math.sqrt(most_pixels / (wide * tall)))
    if px < px_per_mm:  # whole steps, so that a path that moves a little changes no pixel
        px = max(PX_PER_MM[0], math.floor(px * 4) / 4)
    left, top = (math.floor(float(value) * px) / px for value in low)
    return Canvas(left, top, math.ceil(wide * px) + 1, math.ceil(tall * px) + 1, px)


@kept
def _corners(stroke: Stroke, brush: Applicator, axis: GradientAxis, drag: float) -> Array:
    track = pull(stroke, brush, axis, drag).track
    reach = track.points(np.arange(len(track.s_mm)), np.array([0.0, 1.0])).reshape(-1, 2)
    margin = track.thickness_mm / 2 + 3 * MARGIN_MM
    return np.array([reach.min(axis=0) - margin, reach.max(axis=0) + margin])


def _corners_of(mark: Mark) -> Array:
    reach = canvas_of(mark, 1.0)
    return np.array([[reach.left_mm, reach.top_mm], [reach.left_mm + reach.columns, reach.top_mm + reach.rows]])


def starts(plan: Plan) -> tuple[float, ...]:
    """Return when each stroke is laid, s."""
    return tuple(turn.start_s for turn in turns(plan))


def fresh_film(plan: Plan, canvas: Canvas, bands: int = BANDS, *, thin: bool = False) -> SkinFilm:
    """Return the plan's skin with nothing on it; a thin one is to be copied before it is painted on."""
    return bare_skin(canvas, small_basis(bands), skin_spectrum(plan.skin), thin=thin)


class Carrying:
    """What brushes carry from stroke to stroke, paint that was taken up wet; and how glitter fell."""

    def __init__(self) -> None:
        self._held: dict[str, Array] = {}
        self._strewn: dict[str, Strewn | None] = {}

    def lay(self, film: SkinFilm, one: Ready, at_s: float, engine: Engine, rate_um_s: float | None = None) -> Box:
        """Pull a stroke over the film or bring a mark onto it, in place; return the pixels that may have changed."""
        if isinstance(one, ReadyMark):
            rate = evaporation_um_s() if rate_um_s is None else rate_um_s
            box, self._strewn[one.stroke] = lay_mark(film, one, at_s, engine, rate)
            return box
        pulling = one.pulling
        if one.goes_on in self._held:
            pulling = Pulling(
                pulling.contents, pulling.keeps, self._held[one.goes_on], pulling.drops_across, pulling.uptake
            )
        box, self._held[one.stroke] = pull_over(
            film, one.track, one.motion, one.canvas, pulling, at_s, engine, rate_um_s
        )
        return box

    def copy(self) -> Carrying:
        """Return the same, to go on from."""
        other = Carrying()
        other._held, other._strewn = dict(self._held), dict(self._strewn)
        return other

    def seen(self, film: SkinFilm, one: ReadyMark) -> SeenMark:
        """Return how a mark that was laid on a film is seen now."""
        return seen_of(film, one, self._strewn.get(one.stroke))


def in_time(
    strokes: Sequence[tuple[ReadyPull, float]], marks: Sequence[tuple[ReadyMark, float]]
) -> list[tuple[Ready, float]]:
    """Return strokes, in their order, with marks among them as their times have it."""
    found: list[tuple[Ready, float]] = []
    waiting = sorted(marks, key=lambda one: one[1])
    for stroke in strokes:
        while waiting and waiting[0][1] < stroke[1]:
            found.append(waiting.pop(0))
        found.append(stroke)
    return [*found, *waiting]


def lay_in_order(
    film: SkinFilm,
    keys: Sequence[tuple[Ready, float]],
    carrying: Carrying,
    engine: Engine,
    rate_um_s: float,
    check: Check = go_on,
) -> Box | None:
    """Pull strokes over the film in their order, in place; return the pixels that may have changed.

    Strokes that reach different pixels and do not go on with one another are laid at the same time on two threads,
    whichever comes first: the same film.

    Parameters
    ----------
    check
        Called after each stroke, on the thread that laid it; what it raises ends the work, with a film that is good
        for nothing.
    """
    boxes: list[Box] = []

    def lay(number: int) -> None:
        boxes.append(carrying.lay(film, *keys[number], engine, rate_um_s))
        check()

    side_by_side(_befores(film.canvas, [one for one, _ in keys]), lay, THREADS)
    dirty: Box | None = None
    for box in boxes:
        dirty = box.joined(dirty)
    return dirty


def _befores(canvas: Canvas, ones: Sequence[Ready]) -> list[list[int]]:
    """Return for each stroke the earlier ones that must be there first: they share pixels or paint in the brush."""
    boxes = [box_of(one.canvas, canvas)[0] for one in ones]
    sides = np.array([(box.top, box.bottom, box.left, box.right) for box in boxes]).reshape(-1, 4).T
    top, bottom, left, right = (side[:, None] for side in sides)
    apart = (bottom <= top.T) | (top >= bottom.T) | (right <= left.T) | (left >= right.T)
    number_of = {one.stroke: number for number, one in enumerate(ones)}
    earlier = np.tril(~apart, -1)
    for number, one in enumerate(ones):
        if number_of.get(one.goes_on, number) < number:
            earlier[number, number_of[one.goes_on]] = True
    return [np.flatnonzero(row).tolist() for row in earlier]


def paint_all(
    plan: Plan,
    px_per_mm: float,
    engine: Engine,
    until_s: float = math.inf,
    bands: int = BANDS,
    check: Check = go_on,
) -> SkinFilm:
    """Return the film of all strokes that are laid by a time, s; `check` as for `lay_in_order`."""
    canvas = skin_canvas(plan, px_per_mm, check=check)
    film, carrying = fresh_film(plan, canvas, bands), Carrying()
    keys = zip(pulls(plan, canvas.px_per_mm, bands, check=check), starts(plan), strict=True)
    due = [key for key in keys if key[1] <= until_s]
    lay_in_order(film, due, carrying, engine, evaporation_um_s(plan.dry_after_s), check)
    return film
