"""Remakes the designs that ship with the application, and the demo that three of them lie in.  make designs"""

from __future__ import annotations

from dataclasses import replace
from functools import reduce
from pathlib import Path

from designs.works import WORKS
from pennello.design.ordering import Ordering
from pennello.design.plan import Plan
from pennello.files.day_json import DEMO, day_bytes
from pennello.files.demo import DEMO_NAME, demo_plan
from pennello.files.plan_json import write_plan
from pennello.session.day import worked_out_demo

FOLDER = Path(__file__).parents[1] / "src" / "pennello" / "files" / "plans"
IN_DEMO = ("dahlia-crown", "kelp-sleeve", "lantern-butterfly")
BENCH = (
    "dahlia-petal",
    "poppy-petal",
    "beetle-scale",
    "kelp-swoosh",
    "plume-eye",
    "kelp-leaf",
    "lantern-cheek",
    "moth-wing",
    "shell-scale",
    "lantern-peak",
    "reed-line",
    "line-foam-white",
)
"""The strokes of the demo that show what the Bench can do."""


def with_design(plan: Plan, design: Plan) -> Plan:
    """Return a plan with a design on one of its charts; loads of the same name must be the same."""
    known = {one.id: one for one in plan.strokes}
    for one in design.strokes:
        if one.id in known and (one.brush, one.recipe) != (known[one.id].brush, known[one.id].recipe):
            raise ValueError(f"{one.id} is another load in {design.title}")
    return replace(
        plan,
        strokes=(*plan.strokes, *(one for one in design.strokes if one.id not in known)),
        motifs=(*plan.motifs, *design.motifs),
        parts=(*plan.parts, *design.parts),
        overlays=(*plan.overlays, *design.overlays),
        ordering=replace(plan.ordering, priorities=(*plan.ordering.priorities, *design.ordering.priorities)),
    )


def demo() -> Plan:
    """Return the demo: what the Bench shows, and three designs on a face, an arm and a hand."""
    strokes = tuple(one for one in demo_plan().strokes if one.id in BENCH)
    bare = replace(demo_plan(), strokes=strokes, motifs=(), parts=(), overlays=(), ordering=Ordering())
    return reduce(with_design, (WORKS[key].plans[0] for key in IN_DEMO), bare)


def write_event() -> None:
    """Write the evening with the designs as they are worked out now."""
    (FOLDER / DEMO).write_bytes(day_bytes(worked_out_demo()))


def main() -> None:
    """Write each design, its other colourway beside it, and the demo."""
    for at, (key, work) in enumerate(WORKS.items(), 1):
        for plan, ending in zip(work.plans, ("", "-other"), strict=True):
            path = FOLDER / "designs" / f"{at:02}-{key}{ending}.pennello"
            write_plan(plan, path)
            print(path.name)
    write_plan(demo(), FOLDER / DEMO_NAME)
    write_event()


if __name__ == "__main__":
    main()
