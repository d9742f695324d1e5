"""Verbs about cakes: the tone ladder, the label, wear."""

from __future__ import annotations

import math
from argparse import ArgumentParser, Namespace
from dataclasses import asdict
from pathlib import Path

from pennello.cli.answers import Answer
from pennello.cli.asking import json_argument, pdf_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import whole
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.edits import with_cake, with_load_counted
from pennello.design.faces import faces_left
from pennello.design.laddering import plan_ladder
from pennello.errors import OutOfRangeError
from pennello.kit.cake import Cake
from pennello.kit.cut_list import cut_list
from pennello.kit.neighbours import cake_mixes, hints
from pennello.load.wear import cleaned, dirt_share, worn_out
from pennello.phrases import phrase
from pennello.units import length_text

MOST_LOADS = 10_000


def ladder_arguments(parser: ArgumentParser) -> None:
    """Say what `ladder` takes."""
    plan_argument(parser)
    parser.add_argument("cake", help=phrase("the cake's id"))
    parser.add_argument("--steps", type=whole, default=5, metavar="N", help=phrase("how many flowers, default 5"))
    parser.add_argument(
        "--brush", metavar="ID", help=phrase("the brush (default: one that loads from this cake, or fits)")
    )
    json_argument(parser)


@verb("ladder", phrase("one window slid by equal steps of lightness"), ladder_arguments)
def ladder_verb(args: Namespace) -> int:
    """Say where the window lies for each flower of a group."""
    plan = read_plan(args.plan)
    rungs, brush = plan_ladder(plan, args.cake, args.steps, args.brush)
    if args.json:
        answer = {"offsets_mm": list(rungs.offsets_mm), "L": list(rungs.lightness), "brush": brush.id}
        write_json(answer | {"step_L": rungs.step, "worst_L": rungs.worst})
        return 0
    print(
        phrase(
            "{cake} with {brush}, in steps of {step:.1f} L* (predicted):",
            cake=plan.cake(args.cake).name,
            brush=brush.name,
            step=rungs.step,
        )
    )
    for number, (offset, lightness) in enumerate(zip(rungs.offsets_mm, rungs.lightness, strict=True), 1):
        print(
            phrase(
                "  {number}. corner {offset} from the left wall: L* {lightness:.1f}",
                number=number,
                offset=length_text(offset),
                lightness=lightness,
            )
        )
    return 0


def cake_arguments(parser: ArgumentParser) -> None:
    """Say what `cake` takes."""
    plan_argument(parser)
    parser.add_argument("cake", help=phrase("the cake's id"))
    pdf_argument(parser, phrase("write the label at true scale"))
    json_argument(parser)


@verb("cake", phrase("a cake's cut list, mixes and label"), cake_arguments)
def cake_verb(args: Namespace) -> int:
    """Say what a cake is made of; write its label."""
    plan = read_plan(args.plan)
    pan, paints = plan.cake(args.cake), plan.paints_by_id
    if args.pdf:
        from pennello.files.cake_pdf import write_cake_label  # noqa: PLC0415 - reportlab only for paper

        write_cake_label(plan, args.cake, args.pdf)
    mixes = cake_mixes(pan, paints)
    names = [paints[stripe.paint].name for stripe in pan.stripes]
    left = faces_left(plan, args.cake)
    if args.json:
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
    print(phrase("{pan}, {width_mm} across", pan=pan.name, width_mm=length_text(pan.width_mm)))
    for name, cut in zip(names, cut_list(pan), strict=True):
        print(
            phrase(
                "  {name}: {width_mm} wide, {grams:.1f} g",
                name=name,
                width_mm=length_text(cut.width_mm),
                grams=cut.grams,
            )
        )
    for mixed, one, other in zip(mixes, names, names[1:], strict=False):
        print(phrase("  {one} with {other} {sentence}", one=one, other=other, sentence=mixed.sentence))
    for hint in hints(pan, paints):
        print(f"  {hint}")
    if args.pdf:
        print(phrase("Wrote {pdf}. Print it at 100 %.", pdf=args.pdf))
    return 0


def wear_arguments(parser: ArgumentParser) -> None:
    """Say what `wear` takes."""
    plan_argument(parser, stroke=True)
    parser.add_argument(
        "--loads", type=whole, default=1, metavar="N", help=phrase("how often the stroke is loaded, default 1")
    )
    parser.add_argument("--clean", action="store_true", help=phrase("take the dirty layer off those cakes afterwards"))
    parser.add_argument("--apply", action="store_true", help=phrase("count them: write it into the plan"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write it here, and leave the plan as it is"))
    json_argument(parser)


@verb("wear", phrase("what loads would do: the cakes hollow and get dirty"), wear_arguments)
def wear_verb(args: Namespace) -> int:
    """Say what loads of a stroke do to its cakes; count them only when asked to."""
    if not 1 <= args.loads <= MOST_LOADS:
        raise OutOfRangeError(phrase("number of loads"), args.loads, "1 to 10000")
    plan = read_plan(args.plan)
    visited = plan.stroke(args.stroke).recipe.cakes
    plan = with_load_counted(plan, args.stroke, args.loads)
    if args.clean:
        for name in visited:
            plan = with_cake(plan, cleaned(plan.cake(name)))
    written = args.out or (args.plan if args.apply else None)
    if written is not None:
        write_plan(plan, written)
    pans = {name: plan.cake(name) for name in visited}
    if args.json:
        write_json({name: _worn_answer(pan) for name, pan in pans.items()})
        return 0
    for pan in pans.values():
        print(pan.name)
        for stripe, dirty in zip(pan.stripes, dirt_share(pan).tolist(), strict=True):
            words = phrase(
                "{hollow_mm} hollow of {depth_mm}, {dirty:.0%} dirty",
                hollow_mm=length_text(stripe.hollow_mm),
                depth_mm=length_text(pan.depth_mm),
                dirty=dirty,
            )
            print(f"  {plan.paint(stripe.paint).name}: {words}")
    print(
        phrase("Wrote {written}.", written=written)
        if written is not None
        else phrase("Nothing was written; count these loads with --apply.")
    )
    return 0


def _worn_answer(pan: Cake) -> Answer:
    return {
        "hollow_mm": [stripe.hollow_mm for stripe in pan.stripes],
        "dirt_share": dirt_share(pan).tolist(),
        "worn_out": list(worn_out(pan)),
    }
