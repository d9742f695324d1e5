"""Writes the demo plan and the smallest example from the catalogue.  .venv/bin/python tools/make_demo.py"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from demo_designs import with_designs
from pennello.aim.attempt import Side
from pennello.aim.wish import Stop, Wanted
from pennello.design.edits import shipped_cake, with_stroke
from pennello.design.plan import Plan, PlanStroke, Skin
from pennello.design.wishing import with_load_wished
from pennello.files.demo import DEMO_NAME
from pennello.files.plan_json import write_plan
from pennello.kit import catalogue
from pennello.kit.cake import Portion
from pennello.lay.stroke import Nib, NibMode, Stroke, Wiggle
from pennello.load.recipe import Before, PickUp, Recipe, Way, Wetness
from pennello.path.cubic import CubicPath, line

ROOT = Path(__file__).parents[1]
PLANS = ROOT / "src/pennello/files/plans"


def wish(*stops: tuple[str, float, float], last: str) -> Wanted:
    """Return a wish from (paint, to_u, blend_mm) and the last paint."""
    return Wanted((*(Stop(paint, to_u=to_u, blend_mm=blend) for paint, to_u, blend in stops), Stop(last)))


STROKES = (
    PlanStroke(
        "dahlia-petal",
        "Dahlia wrist, outer petal",
        "flat-3-4",
        Recipe((PickUp("dahlia-wrist", offset_mm=2.1, passes=12, drift_mm=0.8),)),
        Stroke(CubicPath(((0, 0), (-1, -27), (43, -27), (42, 0))), Nib(NibMode.FOLLOWING, 90)),
        wish(
            ("foam-white", 0.15, 2.6),
            ("thrift-pink", 0.52, 2.8),
            ("mallow-magenta", 0.94, 2.8),
            last="sea-plum",
        ),
    ),
    PlanStroke(
        "poppy-petal",
        "Poppy brow, wiggle petal",
        "flat-1",
        Recipe((PickUp("poppy-brow", offset_mm=1.8, passes=14, drift_mm=0.8),)),
        Stroke(
            CubicPath(((0, 0), (2, -34), (50, -38), (58, -4))),
            Nib(NibMode.FOLLOWING, 90),
            wiggle=Wiggle(5, 3.0),
        ),
        wish(
            ("foam-white", 0.20, 2.6),
            ("shrimp-coral", 0.43, 2.8),
            ("poppy-red", 0.75, 2.8),
            last="dulse-crimson",
        ),
    ),
    PlanStroke(
        "beetle-scale",
        "Beetle-shell scale",
        "flat-1-2",
        Recipe((PickUp("beetle-shell", offset_mm=3.0, flip=True, passes=12, drift_mm=0.5),)),
        Stroke(CubicPath(((0, 0), (0, -13), (20, -13), (20, 0))), Nib(NibMode.FOLLOWING, 90)),
        wish(("foam-white", 0.14, 1.8), ("skylark-blue", 0.55, 1.8), last="tidepool-teal"),
    ),
    PlanStroke(
        "kelp-swoosh",
        "Kelp swoosh",
        "flat-1",
        Recipe((PickUp("kelp-swoosh", offset_mm=0.3, passes=6, drift_mm=1.0, wetness=Wetness.DAMP),)),
        Stroke(
            CubicPath(((0, 0), (35, -62), (75, 40), (120, -8), (142, -31), (160, -36), (182, -30))),
            Nib(NibMode.FIXED, 68),
            pressure=0.6,
        ),
        wish(("samphire", 0.31, 3.2), ("kelp-green", 0.70, 3.2), last="bladderwrack"),
        Side.A,
    ),
    PlanStroke(
        "plume-eye",
        "Peacock plume, pivot",
        "flat-3-4",
        Recipe((PickUp("peacock-plume", offset_mm=7.5, passes=12, drift_mm=0.7),)),
        Stroke(
            CubicPath(((0, 0), (2, -1), (4, -2), (6, -2))),
            Nib(NibMode.PIVOTING, 160, 20, 1.0),
        ),
        wish(("samphire", 0.29, 2.4), ("tidepool-teal", 0.76, 2.4), last="mussel-blue"),
    ),
)


FURTHER = (
    # belly dipped in dark green, tip blotted and dipped in light: the gradient runs along the print
    PlanStroke(
        "kelp-leaf",
        "Kelp leaf, tip dip",
        "petal-brush",
        Recipe(
            (
                PickUp(pan=(Portion("bladderwrack", 1.0),), passes=14, way=Way.DIP),
                PickUp(
                    pan=(Portion("samphire", 1.0),),
                    passes=10,
                    way=Way.DIP,
                    part=(0.0, 0.3),
                    before=Before.BLOT,
                    wetness=Wetness.WET,
                ),
            )
        ),
        Stroke(line((0, 0), (2.4, 0)), Nib(NibMode.FOLLOWING, 0), pressure=0.6, wiggle=Wiggle(2, 1.5)),
        Wanted((Stop("bladderwrack"),)),
    ),
    # a sponge pressed onto three stripes of a rainbow
    PlanStroke(
        "lantern-cheek",
        "Lantern cheek, petal sponge",
        "sponge-petal",
        Recipe((PickUp("tide-rainbow", offset_mm=1.5, passes=10, drift_mm=1.2, way=Way.PRESS),)),
        Stroke(line((0, 0), (26, -6)), Nib(NibMode.FOLLOWING, 84), pressure=0.5),
        Wanted((Stop("lantern-yellow"),)),
    ),
    # a window, then two sweeps with corner B over another cake
    PlanStroke(
        "moth-wing",
        "Moth wing, teal corner",
        "flat-3-4",
        Recipe(
            (
                PickUp("lavender-dusk", offset_mm=1.0, passes=12, drift_mm=0.7),
                PickUp("peacock-plume", offset_mm=-1.0, passes=3, drift_mm=0.5, part=(0.78, 1.0)),
            )
        ),
        Stroke(CubicPath(((0, 0), (8, -26), (38, -34), (64, -22))), Nib(NibMode.FOLLOWING, 82)),
        Wanted((Stop("dusk-violet"),)),
    ),
)


PLACES = {
    "dahlia-petal": (0, 0),
    "poppy-petal": (72, 4),
    "beetle-scale": (152, -4),
    "kelp-swoosh": (4, 92),
    "plume-eye": (214, -2),
    "kelp-leaf": (36, 40),
    "lantern-cheek": (196, 40),
    "moth-wing": (80, 56),
}
"""Where each stroke begins on the skin, mm."""


def placed(stroke: PlanStroke) -> PlanStroke:
    """Return the stroke at its place."""
    x, y = PLACES[stroke.id]
    points = tuple((px + x, py + y) for px, py in stroke.stroke.path.points_mm)
    return replace(stroke, stroke=replace(stroke.stroke, path=CubicPath(points)))


def demo() -> Plan:
    """Return the Saltmarsh Lantern Walk."""
    plan = Plan(
        "Saltmarsh Lantern Walk",
        "tidal causeway, dusk",
        Skin(36.0),
        brushes=tuple(catalogue.brushes().values()),
    )
    for name in catalogue.cakes():
        plan = shipped_cake(plan, name)
    for stroke in STROKES:
        plan = with_stroke(plan, placed(stroke))
    for stroke in FURTHER:  # wished for as they are loaded
        plan = with_load_wished(with_stroke(plan, placed(stroke)), stroke.id)
    return plan


def main() -> None:
    """Write the demo plan."""
    PLANS.mkdir(exist_ok=True)
    write_plan(with_designs(demo()), PLANS / DEMO_NAME)


if __name__ == "__main__":
    main()
