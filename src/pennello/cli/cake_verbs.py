"""Verbs about cakes: the tone ladder, the label, wear."""

from __future__ import annotations

import math
from argparse import Namespace
from dataclasses import asdict

from pennello.cli.answers import Answer
from pennello.cli.main import write_json
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.edits import with_cake, with_load_counted
from pennello.design.faces import faces_left
from pennello.design.laddering import plan_ladder
from pennello.errors import OutOfRangeError
from pennello.kit.cake import Cake
from pennello.kit.cut_list import cut_list
from pennello.kit.neighbours import cake_mixes, hints
from pennello.load.wear import cleaned, dirt_share, worn_out
from pennello.units import length_text

MOST_LOADS = 10_000


def ladder(wish: Namespace) -> int:
    """Say where the window lies for each flower of a group."""
    plan = read_plan(wish.plan)
    rungs, brush = plan_ladder(plan, wish.cake, wish.steps, wish.brush)
    if wish.json:
        answer = {"offsets_mm": list(rungs.offsets_mm), "L": list(rungs.lightness), "brush": brush.id}
        write_json(answer | {"step_L": rungs.step, "worst_L": rungs.worst})
        return 0
    print(f"{plan.cake(wish.cake).name} with {brush.name}, in steps of {rungs.step:.1f} L* (predicted):")
    for number, (offset, lightness) in enumerate(zip(rungs.offsets_mm, rungs.lightness, strict=True), 1):
        print(f"  {number}. corner {length_text(offset)} from the left wall: L* {lightness:.1f}")
    return 0


def cake(wish: Namespace) -> int:
    """Say what a cake is made of; write its label."""
    plan = read_plan(wish.plan)
    pan, paints = plan.cake(wish.cake), {paint.id: paint for paint in plan.paints}
    if wish.pdf:
        from pennello.files.cake_pdf import write_cake_label  # noqa: PLC0415 - reportlab only for paper

        write_cake_label(plan, wish.cake, wish.pdf)
    mixes = cake_mixes(pan, paints)
    names = [paints[stripe.paint].name for stripe in pan.stripes]
    left = faces_left(plan, wish.cake)
    if wish.json:
        write_json(
            {
                "cake": pan.id,
                "width_mm": pan.width_mm,
                "cuts": [asdict(cut) for cut in cut_list(pan)],
                "mixes": [asdict(mixed) | {"word": mixed.word.value} for mixed in mixes],
                "hints": list(hints(pan, paints)),
                "hollow_mm": [stripe.hollow_mm for stripe in pan.stripes],
                "dirt_share": dirt_share(pan).tolist(),
                "worn_out": list(worn_out(pan)),
                "faces_left": [None if math.isinf(count) else count for count in left],
            }
        )
        return 0
    print(f"{pan.name}, {length_text(pan.width_mm)} across")
    for name, cut in zip(names, cut_list(pan), strict=True):
        print(f"  {name}: {length_text(cut.width_mm)} wide, {cut.grams:.1f} g")
    for mixed, one, other in zip(mixes, names, names[1:], strict=False):
        print(f"  {one} with {other} {mixed.sentence}")
    for hint in hints(pan, paints):
        print(f"  {hint}")
    if wish.pdf:
        print(f"Wrote {wish.pdf}. Print it at 100 %.")
    return 0


def wear(wish: Namespace) -> int:
    """Say what loads of a stroke do to its cakes; count them only when asked to."""
    if not 1 <= wish.loads <= MOST_LOADS:
        raise OutOfRangeError("number of loads", wish.loads, "1 to 10000")
    plan = read_plan(wish.plan)
    visited = plan.stroke(wish.stroke).recipe.cakes
    plan = with_load_counted(plan, wish.stroke, wish.loads)
    if wish.clean:
        for name in visited:
            plan = with_cake(plan, cleaned(plan.cake(name)))
    written = wish.out or (wish.plan if wish.apply else None)
    if written is not None:
        write_plan(plan, written)
    pans = {name: plan.cake(name) for name in visited}
    if wish.json:
        write_json({name: _worn_answer(pan) for name, pan in pans.items()})
        return 0
    for pan in pans.values():
        print(pan.name)
        for stripe, dirty in zip(pan.stripes, dirt_share(pan).tolist(), strict=True):
            words = f"{length_text(stripe.hollow_mm)} hollow of {length_text(pan.depth_mm)}, {dirty:.0%} dirty"
            print(f"  {plan.paint(stripe.paint).name}: {words}")
    print(f"Wrote {written}." if written is not None else "Nothing was written; count these loads with --apply.")
    return 0


def _worn_answer(pan: Cake) -> Answer:
    return {
        "hollow_mm": [stripe.hollow_mm for stripe in pan.stripes],
        "dirt_share": dirt_share(pan).tolist(),
        "worn_out": list(worn_out(pan)),
    }
