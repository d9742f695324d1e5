"""A plan put together step by step: loads from cakes and pans, parts, motifs, strokes, lines, dots, glitter."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from pennello.aim.wish import Stop, Wanted
from pennello.chart.shape import closed
from pennello.design.computing import LARGE, Computed, Computing
from pennello.design.edits import free_id, slug, with_stroke
from pennello.design.line_work import Taper, about_middle, hand_drawn, line_stroke, press_for
from pennello.design.load_kinds import main_way
from pennello.design.marks import Gem, GemShape, Glitter
from pennello.design.on_chart import with_computed, with_motif
from pennello.design.ordering import Ordering, Priority
from pennello.design.part import Habit, PlanPart
from pennello.design.placed import FREE, SINGLE, PlacedMotif
from pennello.design.plan import Plan, PlanStroke, Reload, Skin
from pennello.design.visits import paints_of
from pennello.design.wishing import with_load_wished
from pennello.files.demo import demo_plan
from pennello.kit.cake import Portion
from pennello.lay.families.catalogue import family
from pennello.lay.stroke import Nib, NibMode, Over, Pats, Stroke
from pennello.load.recipe import Before, PickUp, Recipe, Way, Wetness
from pennello.motif.catalogue import motif
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath

Points = Sequence[tuple[float, float]]
Swaps = Mapping[str, str]
PLACE = "tidal causeway, dusk"
MUST, NICE, SKIP = Priority.MUST, Priority.NICE, Priority.SKIP


_TRIAL = ((0.0, 0.0), (10.0, 0.0), (20.0, 0.0))
"""The pull that a load is judged by on the Bench, mm."""


class Studio:
    """One design in the making, with the demo's cakes, paints and brushes.

    Parameters
    ----------
    swaps
        For another colourway: which cake or paint takes the place of which.
    """

    def __init__(self, title: str, chart: str, ita: float, swaps: Swaps) -> None:
        self.chart, self._swaps = chart, swaps
        self.plan = replace(
            demo_plan(),
            title=title,
            place=PLACE,
            skin=Skin(ita),
            strokes=(),
            motifs=(),
            parts=(),
            overlays=(),
            reserved=(),
            ordering=Ordering(),
        )
        self._part, self._worth = "", MUST

    # --- loads ---

    def cake(
        self,
        name: str,
        cake: str,
        brush: str,
        offset: float | None = None,
        *,
        flip: bool = False,
        per: int | None = None,
        drift: float | None = None,
        passes: float = 12.0,
        wet: Wetness = Wetness.CREAMY,
    ) -> str:
        """Load a brush from a window of a cake."""
        cake = self._swaps.get(cake, cake)
        tool, spare = self.plan.brush(brush), self.plan.cake(cake).width_mm - self.plan.brush(brush).width_mm
        middle = round(spare / 2 if offset is None else min(offset, max(spare, 0.0)), 1)
        slip = tool.drift_mm if drift is None else drift
        pick = PickUp(cake, middle, flip, 0.0, passes, slip, wet, way=main_way(tool))
        return self._load(name, brush, (pick,), per)

    def pan(self, name: str, brush: str, *paints: str, per: int | None = None, wet: Wetness = Wetness.CREAMY) -> str:
        """Load a brush from a pan of one paint, or of paints mixed."""
        tool = self.plan.brush(brush)
        mixed = tuple(Portion(self._swaps.get(one, one), 1.0) for one in paints)
        pick = PickUp(pan=mixed, drift_mm=tool.drift_mm, wetness=wet, way=main_way(tool))
        return self._load(name, brush, (pick,), per)

    def dip(self, name: str, brush: str, belly: str, tip: str, per: int | None = None) -> str:
        """Load a petal brush or round in one paint, its tip in another one."""
        belly, tip = (self._swaps.get(one, one) for one in (belly, tip))
        first = PickUp(pan=(Portion(belly, 1.0),), passes=14.0, way=Way.DIP)
        then = PickUp(
            pan=(Portion(tip, 1.0),), wetness=Wetness.WET, before=Before.BLOT, way=Way.DIP, part=(0.0, 22 / 64)
        )
        return self._load(name, brush, (first, then), per)

    def _load(self, name: str, brush: str, picks: tuple[PickUp, ...], per: int | None) -> str:
        new = free_id(slug(name), [one.id for one in self.plan.strokes])
        trial = line_stroke(hand_drawn(_TRIAL), press=0.5)
        if picks[0].way is Way.DIP:
            trial = laid("press-petal", length_mm=3, press=0.8)
        elif self.plan.brush(brush).kind.pressed:
            trial = laid("sponge-press", press=0.7)
        habit = Reload.PALE if per is None else Reload.COUNT
        paints = sorted(paints_of(self.plan, Recipe(picks)))
        stroke = PlanStroke(
            new, name, brush, Recipe(picks), trial, Wanted((Stop(paints[0]),)), reload=habit, reload_after=per or 1
        )
        self.plan = with_load_wished(with_stroke(self.plan, stroke), new)
        return new

    # --- parts ---

    def part(self, name: str, worth: Priority = MUST, habit: Habit = Habit.USUAL, *, one_sided: bool = False) -> str:
        """Begin a part; what follows belongs to it."""
        self._part = free_id(slug(name), self.plan.ids_in_design)
        made = PlanPart(self._part, name, habit=habit, one_sided=one_sided, long_only=worth is SKIP)
        self.plan = replace(self.plan, parts=(*self.plan.parts, made))
        self._worth = worth
        return self._part

    def _add(self, placed: PlacedMotif) -> str:
        self.plan = with_motif(self.plan, replace(placed, part=self._part))
        self._name_worth(placed.id)
        return placed.id

    def _name_worth(self, name: str) -> None:
        self.plan = replace(self.plan, ordering=self.plan.ordering.with_priority(name, self._worth))

    # --- what lies on the chart ---

    def motif(
        self,
        key: str,
        x: float,
        y: float,
        loads: str | dict[str, str],
        *,
        turn: float = 0.0,
        scale: float = 1.0,
        twin: bool = False,
        name: str = "",
        short: dict[str, float] | None = None,
        one_sided: bool = False,
        **values: float,
    ) -> str:
        """Put a motif on the chart, all its parts with one load or each with its own."""
        kind = motif(key)
        chosen = {part.key: loads for part in kind.parts} if isinstance(loads, str) else loads
        return self._add(
            PlacedMotif(
                free_id(slug(name or kind.name), self.plan.ids_in_design),
                name or kind.name,
                key,
                tuple(chosen.items()),
                tuple(values.items()),
                Place(x, y, turn, scale),
                self.chart,
                twin,
                one_sided=one_sided,
                short=tuple((short or {}).items()),
            )
        )

    def strokes(self, name: str, load: str, ways: Iterable[Stroke], *, twin: bool = False) -> str:
        """Lay strokes of one load as one piece."""
        made = list(ways)
        new = free_id(slug(name), self.plan.ids_in_design)
        placed = PlacedMotif(new, name, FREE, ((SINGLE, load),), chart=self.chart, way=made[0], twin=twin)
        return self._add(about_middle(placed, made))

    def lines(
        self,
        name: str,
        load: str,
        lines: Iterable[Points],
        mm: float = 1.2,
        taper: Taper = Taper.MIDDLE,
        *,
        twin: bool = False,
    ) -> str:
        """Draw lines of one load, so wide where they are thickest."""
        press = press_for(self.plan.brush(self.plan.stroke(load).brush), mm)
        return self.strokes(name, load, (line_stroke(hand_drawn(one), taper, press) for one in lines), twin=twin)

    def dots(self, name: str, load: str, dots: Iterable[tuple[float, float, float]], *, twin: bool = False) -> str:
        """Set down dots: x, y and how wide, mm."""
        tool = self.plan.brush(self.plan.stroke(load).brush)
        ways = (line_stroke(CubicPath(((x, y),) * 4), press=press_for(tool, mm)) for x, y, mm in dots)
        return self.strokes(name, load, ways, twin=twin)

    def outline(self, name: str, load: str, of: Sequence[str], off: float = 0.8) -> str:
        """Work out a line that hugs parts."""
        return self._computed(name, Computed(Computing.OUTLINE, tuple(of), off), {SINGLE: load})

    def ground(self, name: str, small: str, large: str, of: Sequence[str], border: Points) -> str:
        """Work out the ground round parts, within a border."""
        made = Computed(Computing.GROUND, tuple(of), border=_ring(border))
        return self._computed(name, made, {SINGLE: small, LARGE: large})

    def _computed(self, name: str, made: Computed, loads: dict[str, str]) -> str:
        self.plan, new = with_computed(self.plan, made, loads, self.chart, name, self._part)
        self._name_worth(new)
        return new

    def glitter(
        self, name: str, x: float, y: float, wide: float, high: float, srgb: str = "#f4e7b0", amount: float = 25.0
    ) -> None:
        """Strew glitter."""
        mark = Glitter(name, x, y, wide, high, srgb, self.chart, amount)
        self.plan = replace(self.plan, overlays=(*self.plan.overlays, mark))
        self.plan = replace(self.plan, ordering=self.plan.ordering.with_priority(name, SKIP))

    def gem(self, name: str, x: float, y: float, wide: float, srgb: str, shape: GemShape = GemShape.ROUND) -> None:
        """Set a gem."""
        mark = Gem(name, x, y, wide, wide, srgb, self.chart, shape)
        self.plan = replace(self.plan, overlays=(*self.plan.overlays, mark))
        self.plan = replace(self.plan, ordering=self.plan.ordering.with_priority(name, SKIP))

    # --- the end ---

    def done(self) -> Plan:
        """Return the plan with what it uses alone."""
        plan = self.plan
        brushes = {stroke.brush for stroke in plan.strokes}
        cakes = {cake for stroke in plan.strokes for cake in stroke.recipe.cakes}
        plan = replace(
            plan,
            cakes=tuple(one for one in plan.cakes if one.id in cakes),
            brushes=tuple(one for one in plan.brushes if one.id in brushes),
        )
        paints = {paint for cake in plan.cakes for paint in cake.paints}
        for stroke in plan.strokes:
            paints |= {*stroke.recipe.pan_paints, *(stop.paint for stop in stroke.wanted.stops if stop.paint)}
        return replace(plan, paints=tuple(one for one in plan.paints if one.id in paints))


def laid(
    key: str,
    x: float = 0.0,
    y: float = 0.0,
    turn: float = 0.0,
    *,
    mirrored: bool = False,
    scale: float = 1.0,
    **values: float,
) -> Stroke:
    """Return a stroke of a family where it lies."""
    return Place(x, y, turn, scale, mirrored).stroke(family(key).stroke(**values))


def patted(place: Points, press: float = 0.7) -> Stroke:
    """Return pats of a sponge or dauber that cover a place, by its outline."""
    return Stroke(_ring(place), Nib(NibMode.FIXED, 0.0), press, pats=Pats(0.4, 20.0, Over.PLACE))


def _ring(points: Points) -> CubicPath:
    return closed(points)
