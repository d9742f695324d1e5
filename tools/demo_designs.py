"""The four designs of the demo: loads that the planner finds and designs, and motifs put on their charts."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from pennello.aim.wish import Stop, Wanted
from pennello.design.edits import with_brush, with_paints, with_stroke
from pennello.design.layers import hand_drawn, lines_of
from pennello.design.marks import Glitter
from pennello.design.on_chart import with_motif, with_new_motif
from pennello.design.plan import Plan, skin_spectrum
from pennello.design.wishing import with_load_wished
from pennello.kit import catalogue
from pennello.kit.cake import Portion
from pennello.load.recipe import PickUp, Recipe
from pennello.motif.place import Place
from pennello.session.kit import shipped_kit
from pennello.solve.design_cake import Terms, design_cake
from pennello.solve.find_load import find_load
from pennello.solve.finds import Filters
from pennello.solve.for_plan import look_of, with_design, with_find
from pennello.solve.kit import at_hand, stock

DESIGN_S = 4.0
"""How long the planner may design the cake of the lantern crown; on another machine it may come out a little other."""


@dataclass(frozen=True, slots=True)
class Put:
    """A motif on a chart: its kind, chart, place, loads by part, numbers, and what else it says."""

    kind: str
    chart: str
    place: Place
    loads: dict[str, str]
    name: str
    values: dict[str, float] = field(default_factory=dict)
    twin: bool = False


PUTS = (
    Put(
        "peak-crown",
        "face",
        Place(0, -62),
        {"peak": "lantern-peak"},
        "Lantern crown",
        {"peaks": 5, "depth_mm": 22, "arc_deg": 70},
    ),
    Put(
        "scale-field",
        "face",
        Place(44, 58, -14),
        {"scale": "shell-scale"},
        "Beetle-shell cheeks",
        {"columns": 2, "rows": 3, "spread_mm": 4.6, "height_mm": 4, "overlap_mm": 5},
        twin=True,
    ),
    Put(
        "petal-ring",
        "face",
        Place(0, -32),
        {"petal": "shell-scale", "inner": "shell-scale"},
        "Lantern flower",
        {"petals": 5, "radius_mm": 6, "spread_mm": 4.6, "height_mm": 5},
    ),
    Put(
        "wave",
        "forearm",
        Place(70, 8),
        {"wave": "kelp-swoosh", "white": "kelp-leaf"},
        "Kelp wave",
        {"waves": 3, "long_mm": 32, "tall_mm": 8, "pulls": 0},
    ),
    Put(
        "leaf-spray",
        "forearm",
        Place(40, 26, 75),
        {"stem": "reed-line", "leaf": "reed-line"},
        "Samphire spray",
        {"pairs": 4, "stem_mm": 70, "leaf_mm": 20},
    ),
    Put(
        "petal-ring",
        "forearm",
        Place(192, 1),
        {"petal": "poppy-petal", "inner": "poppy-petal"},
        "Poppy at the wrist",
        {"petals": 5, "radius_mm": 10, "spread_mm": 9, "height_mm": 6},
    ),
    Put(
        "petal-ring",
        "hand",
        Place(0, 16),
        {"petal": "dahlia-petal", "inner": "shell-scale"},
        "Dahlia wrist",
        {"petals": 5, "rows": 1, "radius_mm": 9, "spread_mm": 7, "height_mm": 9},
    ),
    Put(
        "leaf-pair",
        "hand",
        Place(0, 16, 180),
        {"leaf": "reed-line"},
        "Dahlia leaves",
        {"leaf_mm": 14, "foot_mm": 24, "open_deg": 40},
    ),
    Put(
        "feather",
        "cheek-left",
        Place(6, 62, -14),
        {"barb": "reed-line", "shaft": "reed-line", "eye": "plume-eye"},
        "Peacock plume",
        {"barbs": 7, "stem_mm": 58, "wide_mm": 44, "eye_mm": 10},
    ),
)
LIGHTS = lines_of(
    "foam lights",
    (
        hand_drawn([(-20, -14), (-11, -25), (3, -29), (15, -23), (19, -12), (12, -7)]),
        *(hand_drawn([dot]) for dot in ((-19, -23), (-9, -34), (5, -38), (19, -32))),
    ),
    "cheek-left",
    "#f6f5f0",
    1.8,
)
GLITTER = Glitter("lantern dust", 0, -32, 34, 22, "#ffe9a0", "face", 50.0, 3)


def with_designs(plan: Plan) -> Plan:
    """Return the demo's plan of strokes with its four designs."""
    plan = _lined(_crowned(_shelled(plan)))
    for put in PUTS:
        plan, _ = with_new_motif(plan, put.kind, put.chart, put.place)
        placed = replace(
            plan.motifs[-1],
            name=put.name,
            loads=tuple(put.loads.items()),
            values=tuple(put.values.items()),
            twin=put.twin,
        )
        plan = with_motif(plan, placed)
    return replace(plan, overlays=(GLITTER, LIGHTS))


def _shelled(plan: Plan) -> Plan:
    """Return the plan with the scale of the shells, its load found by the planner."""
    plan = with_stroke(plan, replace(plan.stroke("beetle-scale"), id="shell-scale", name="Shell scale, found"))
    hand = at_hand(plan, shipped_kit())
    board = find_load(plan, "shell-scale", hand, Filters(keep_brush=True, one_visit=True), 3, tries=0)
    return with_find(plan, "shell-scale", board.finds[0], hand.by_name)


def _crowned(plan: Plan) -> Plan:
    """Return the plan with the peak of the crown, its cake designed by the planner."""
    kit, known = shipped_kit(), {paint.id for paint in plan.paints}
    stops = (Stop("lantern-yellow", to_u=0.3, blend_mm=2), Stop("ember-orange", to_u=0.65, blend_mm=2))
    wanted = Wanted((*stops, Stop("dulse-crimson")))
    peak = replace(plan.stroke("beetle-scale"), id="lantern-peak", name="Lantern peak, designed", wanted=wanted)
    plan = with_stroke(with_paints(plan, tuple(kit.paints.values())), peak)
    look = look_of(plan, plan.stroke("lantern-peak"), plan.paints_by_id)
    (best, *_) = design_cake(stock(plan, kit), [look], skin_spectrum(plan.skin), Terms(3), DESIGN_S)
    plan, _ = with_design(plan, ("lantern-peak",), best, "lantern-crown", "Lantern Crown")
    used = {stripe.paint for cake in plan.cakes for stripe in cake.stripes}
    used |= {stop.paint for stroke in plan.strokes for stop in stroke.wanted.stops if stop.paint}
    return replace(plan, paints=tuple(paint for paint in plan.paints if paint.id in used | known))


def _lined(plan: Plan) -> Plan:
    """Return the plan with the line of the reeds, from two pans mixed."""
    plan = with_brush(plan, catalogue.brushes()["round-4"])
    pans = (Portion("samphire", 2.0), Portion("kelp-green", 1.0))
    recipe = Recipe((PickUp(pan=pans, drift_mm=0.3),))
    reed = replace(plan.stroke("kelp-leaf"), id="reed-line", name="Reed line", brush="round-4", recipe=recipe)
    plan = with_load_wished(with_stroke(plan, reed), "reed-line")
    stroke = plan.stroke("reed-line")
    return with_stroke(plan, replace(stroke, wanted=replace(stroke.wanted, tolerance_de00=6.0)))
