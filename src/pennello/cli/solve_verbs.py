"""The verbs that search: find-load, design-cake, forgive, loads, colourways."""

from __future__ import annotations

import time
from argparse import ArgumentParser, Namespace
from collections.abc import Sequence
from datetime import date
from typing import TYPE_CHECKING, Any

from pennello.aim.hand import Hand, Steadiness
from pennello.aim.reasons import reason_of
from pennello.cli.asking import json_argument, plan_argument, searched_arguments, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import length_mm, number, seed, whole
from pennello.cli.plan_file import read_plan, write_plan
from pennello.cli.whose_kit import kit_of
from pennello.colour.families import ColourFamily
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.design.words import PASSES
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.kit.paint import Near, Paint
from pennello.kit.shelf import Kit
from pennello.load.recipe import PickUp
from pennello.phrases import named, phrase, plural
from pennello.session.log import hand_of, hand_words
from pennello.solve.design_cake import DesignedCake, Terms, design_cake, why_not
from pennello.solve.find_load import find_load
from pennello.solve.finds import Filters, Find
from pennello.solve.for_plan import look_of, tried_for_real, with_design, with_find
from pennello.solve.forgiveness import Forgiveness, forgive
from pennello.solve.kit import at_hand, stock
from pennello.units import de_text, length_text, parse_number

if TYPE_CHECKING:
    from pennello.solve.plan_loads import Advice

Answer = dict[str, Any]
_CAKE_TRIES = 100


def find_load_arguments(parser: ArgumentParser) -> None:
    """Say what `find-load` takes."""
    plan_argument(parser, stroke=True)
    parser.add_argument("--cakes", metavar="IDS", help=phrase("only these, with commas between"))
    parser.add_argument("--top", type=whole, default=8, metavar="N", help=phrase("how many, default 8"))
    parser.add_argument("--one-visit", action="store_true", help=phrase("no touches with a corner"))
    parser.add_argument("--keep-brush", action="store_true", help=phrase("with the stroke's own brush only"))
    parser.add_argument(
        "--near", choices=("skin", "eye", "lips"), help=phrase("obey labels for this place (default: the stroke's)")
    )
    parser.add_argument(
        "--take", type=whole, metavar="N", help=phrase("take the N-th load for the stroke and write the plan")
    )
    searched_arguments(parser)


@verb("find-load", phrase("which load lays what a stroke should look like"), find_load_arguments)
def find_load_verb(args: Namespace) -> int:
    """Find the load that lays what a stroke should look like."""
    before = time.perf_counter()
    plan, kit = read_plan(args.plan), kit_of(args)
    stroke = plan.stroke(args.stroke)
    near = Near(args.near) if args.near else stroke.near
    here = at_hand(plan, kit, date.today(), near)
    if args.cakes:
        names = _ids(args.cakes)
        known = [cake.id for cake in (*plan.cakes, *here.cakes)]
        for name in names:
            if name not in known:
                raise UnknownNameError(phrase("cake"), name, sorted(set(known)))
        here = here.only(names)
    if not 1 <= args.top <= 40:
        raise OutOfRangeError(phrase("how many loads (--top)"), args.top, "1 to 40")
    rules = Filters(one_visit=args.one_visit, keep_brush=args.keep_brush, near=near)
    board = find_load(plan, stroke.id, here, rules, args.top)
    taken = None
    if args.take is not None:
        if not 1 <= args.take <= len(board.finds):
            raise OutOfRangeError(
                phrase("which load to take (--take)"), args.take, phrase("1 to {count}", count=len(board.finds))
            )
        taken = board.finds[args.take - 1]
        write_plan(with_find(plan, stroke.id, taken, here.by_name), args.out or args.plan)
    if args.json:
        answer = {"candidates": [_found(find) for find in board.finds], "searched": board.searched}
        write_json({**answer, "left_out": list(board.left_out), "seconds": time.perf_counter() - before})
        return 0
    for rank, find in enumerate(board.finds, 1):
        costs = f" ({', '.join(find.costs)})" if find.costs else ""
        print(f"{rank}. {_words(find)}: {de_text(find.mean_de00)}, {named(find.state)}{costs}")
        print(
            phrase(
                "   {reason_of}; holds in {holds_share:.0%} of tries",
                reason_of=reason_of(find.seen, find.attempt, find.laid),
                holds_share=find.holds_share,
            )
        )
    for line in board.left_out:
        print(phrase("left out: {line}", line=line))
    print(
        plural(
            board.searched,
            "{searched} place looked at (predicted)",
            "{searched} places looked at (predicted)",
            searched=board.searched,
        )
    )
    return 0


def _found(find: Find) -> Answer:
    main = find.recipe.pickups[0]
    return {
        "cake": main.cake,
        "applicator": find.brush.id,
        "offset_mm": main.offset_mm,
        "flipped": main.flip,
        "drift_mm": main.drift_mm,
        "mean_de00": find.seen.mean_de00,
        "p95_de00": find.seen.p95_de00,
        "holds_share": find.holds_share,
        "state": find.state.value,
        "coat_mean_de00": find.first.mean_de00,
        "reason": reason_of(find.seen, find.attempt, find.laid),
        "costs": list(find.costs),
        "touches": [
            {"cake": one.cake, "offset_mm": one.offset_mm, "part": list(one.part), "passes": one.passes}
            for one in find.recipe.pickups[1:]
        ],
        "pickups": [
            {
                "cake": one.cake,
                "pan": [portion.paint for portion in one.pan],
                "way": one.way.value,
                "part": list(one.part),
                "passes": one.passes,
            }
            for one in find.recipe.pickups
        ],
    }


def _words(find: Find) -> str:
    main = find.recipe.pickups[0]
    if main.pan:
        return f"{find.brush.name}: " + phrase(", then ").join(
            _pan_words(find, pickup) for pickup in find.recipe.pickups
        )
    cake = next(cake for cake in find.cakes if cake.id == main.cake)
    at, brush = length_text(main.offset_mm), find.brush.name
    words = [
        phrase("{cake}, {brush} at {at}, flipped", cake=cake.name, brush=brush, at=at)
        if main.flip
        else phrase("{cake}, {brush} at {at}", cake=cake.name, brush=brush, at=at),
        phrase("drift {drift_mm:g} mm", drift_mm=main.drift_mm),
    ]
    touches = len(find.recipe.pickups) - 1
    if touches:
        words.append(plural(touches, "then {count} touch", "then {count} touches"))
    return ", ".join(words)


def _pan_words(find: Find, pickup: PickUp) -> str:
    names = " + ".join(find.attempt.paints[portion.paint].name for portion in pickup.pan)
    names = names or find.attempt.cakes[pickup.cake].name
    words = phrase("{once} in {names}", once=PASSES[pickup.way], names=names)
    if pickup.whole:
        return words
    return phrase("{words}, {low:.0%} to {high:.0%}", words=words, low=pickup.part[0], high=pickup.part[1])


def design_cake_arguments(parser: ArgumentParser) -> None:
    """Say what `design-cake` takes."""
    plan_argument(parser)
    parser.add_argument("stroke", metavar="STROKE[,STROKE]", help=phrase("ids of strokes, with commas between"))
    parser.add_argument(
        "--stripes", type=whole, metavar="N", help=phrase("just so many, 2 to 7 (default: as many as it takes)")
    )
    parser.add_argument("--paints", metavar="IDS", help=phrase("only of these, with commas between"))
    parser.add_argument("--keep", metavar="IDS", help=phrase("these must be in it"))
    parser.add_argument(
        "--pan-mm", type=length_mm, metavar="MM", help=phrase("width of the pan (default: what the brush needs)")
    )
    parser.add_argument("--weights", metavar="N,N", help=phrase("how much each stroke counts"))
    parser.add_argument("--seconds", type=number, default=6.0, metavar="T", help=phrase("when to be done, default 6"))
    parser.add_argument(
        "--add", action="store_true", help=phrase("put the best cake into the plan and load the strokes from it")
    )
    searched_arguments(parser)


def _paints_for(plan: Plan, strokes: Sequence[PlanStroke], kit: Kit | None, asked: Sequence[str]) -> list[Paint]:
    """Return the paints in stock that may lie where the strokes do; only those asked for, if any are."""
    nears = {stroke.near for stroke in strokes}
    paints = [paint for paint in stock(plan, kit, date.today()) if all(paint.allowed(near) for near in nears)]
    known = {paint.id for paint in (*plan.paints, *paints)}
    for name in asked:
        if name not in known:
            raise UnknownNameError(phrase("paint"), name, sorted(paint.id for paint in paints))
    return [paint for paint in paints if paint.id in asked] if asked else paints


def _say_designs(designs: Sequence[DesignedCake], doubts: Sequence[str]) -> None:
    for rank, design in enumerate(designs, 1):
        rows = ", ".join(
            phrase("{p} {w:.1f} mm", p=p.name, w=w) for p, w in zip(design.paints, design.widths_mm, strict=True)
        )
        print(
            phrase("{rank}. {rows}: {de} (an even coat, predicted)", rank=rank, rows=rows, de=de_text(design.mean_de00))
        )
    print(*doubts, sep="\n")


@verb("design-cake", phrase("which cake to make for a stroke, or one for several"), design_cake_arguments)
def design_cake_verb(args: Namespace) -> int:
    """Design a cake for one stroke, or one for several."""
    plan, kit = read_plan(args.plan), kit_of(args)
    names = _ids(args.stroke)
    strokes = [plan.stroke(name) for name in names]
    paints = _paints_for(plan, strokes, kit, _ids(args.paints or ""))
    if not 0.1 <= args.seconds <= 600:
        raise OutOfRangeError("seconds", args.seconds, "0.1 to 600 s")
    known = {paint.id: paint for paint in (*paints, *plan.paints)}
    looks = [
        look_of(plan, stroke, known, weight) for stroke, weight in zip(strokes, _weights(args, names), strict=True)
    ]
    stripes = 7 if args.stripes is None else args.stripes
    terms = Terms(stripes, args.stripes is not None, args.pan_mm, tuple(_ids(args.keep or "")))
    skin = skin_spectrum(plan.skin)
    designs = design_cake(paints, looks, skin, terms, args.seconds)
    if args.add:
        write_plan(with_design(plan, names, designs[0])[0], args.out or args.plan)
    doubts = [
        text
        for stroke, look in zip(strokes, looks, strict=True)
        if (text := why_not(paints, look, skin, stroke.wanted.tolerance_de00))
    ]
    if args.json:
        write_json({"cakes": [_designed(plan, names, design) for design in designs], "why_not": doubts})
    else:
        _say_designs(designs, doubts)
    return 0


def _weights(args: Namespace, names: list[str]) -> list[float]:
    if not args.weights:
        return [1.0] * len(names)
    try:
        weights = [parse_number(text) for text in _ids(args.weights)]
    except ValueError:
        weights = []
    if len(weights) != len(names) or not all(0 < weight <= 1000 for weight in weights):
        raise OutOfRangeError(
            "weights",
            args.weights,
            plural(
                len(names),
                "{count} number above 0, one for each stroke",
                "{count} numbers above 0, one for each stroke",
            ),
        )
    return weights


def _designed(plan: Plan, names: list[str], design: DesignedCake) -> Answer:
    made, _ = with_design(plan, names, design)
    trials = tried_for_real(made, names)
    tries = [forgive(trial.attempt, plan.hand, _CAKE_TRIES) for trial in trials]
    return {
        "stripes": [
            {"paint": paint.id, "width_mm": width} for paint, width in zip(design.paints, design.widths_mm, strict=True)
        ],
        "offset_mm": design.offsets_mm[0],
        "flipped": design.flips[0],
        "mean_de00": design.mean_de00,
        "laid_mean_de00": sum(trial.seen.mean_de00 for trial in trials) / len(trials),
        "holds_share": sum(one.share for one in tries) / len(tries),
        "width_mm": sum(design.widths_mm),
        "strokes": [
            {
                "stroke": trial.stroke,
                "offset_mm": offset,
                "flipped": flip,
                "mean_de00": each,
                "laid_mean_de00": trial.seen.mean_de00,
                "laid_p95_de00": trial.seen.p95_de00,
                "holds_share": one.share,
            }
            for trial, offset, flip, each, one in zip(
                trials, design.offsets_mm, design.flips, design.each_de00, tries, strict=True
            )
        ],
    }


def forgive_arguments(parser: ArgumentParser) -> None:
    """Say what `forgive` takes."""
    plan_argument(parser, stroke=True)
    parser.add_argument("--tries", type=whole, default=400, metavar="N", help=phrase("default {count}", count=400))
    parser.add_argument("--seed", type=seed, default=1, metavar="S", help=phrase("default {count}", count=1))
    parser.add_argument("--hand", choices=("steady", "normal", "bumpy"), help=phrase("default: the plan's"))
    parser.add_argument("--laid", action="store_true", help=phrase("lay every try as a film: slower"))
    json_argument(parser)


@verb("forgive", phrase("how often a load still holds with a hand's slips"), forgive_arguments)
def forgive_verb(args: Namespace) -> int:
    """Say how forgiving a load is."""
    plan = read_plan(args.plan)
    hand = plan.hand.at(Steadiness(args.hand)) if args.hand else plan.hand
    found = forgive(plan.attempt(args.stroke), hand, args.tries, args.seed, every_laid=args.laid)
    if args.json:
        write_json(_forgiven(found, hand, args.seed))
        return 0
    print(
        plural(
            found.tries,
            "Holds in {holds} of {tries} try with a {steadiness} hand ({low:.0%} to {high:.0%}, 95 % interval); "
            "at least close in {close}.",
            "Holds in {holds} of {tries} tries with a {steadiness} hand ({low:.0%} to {high:.0%}, 95 % "
            "interval); at least close in {close}.",
            holds=found.holds,
            tries=found.tries,
            steadiness=named(hand.steadiness),
            low=found.low,
            high=found.high,
            close=found.close,
        )
    )
    print(
        phrase(
            "It minds {slip_words} most: {minds:+.1f} dE for a usual slip.",
            slip_words=SLIP_WORDS[found.minds_most],
            minds=found.minds[found.minds_most],
        )
    )
    print(
        phrase(
            "Worst likely: {de}; as meant: {de_2} (predicted).",
            de=de_text(found.worst.mean_de00),
            de_2=de_text(found.nominal),
        )
    )
    print(hand_words(hand, hand_of()))
    return 0


SLIP_WORDS = {
    "offset_mm": phrase("where the brush lands on the cake"),
    "skew_deg": phrase("how square it lies to the stripes"),
    "angle_deg": phrase("how the chisel is held"),
    "drift_share": phrase("how far it drifts"),
    "passes": phrase("the number of sweeps"),
}


def _forgiven(found: Forgiveness, hand: Hand, begun: int) -> Answer:
    worst = found.worst
    return {
        "tries": found.tries,
        "seed": begun,
        "holds": found.holds,
        "holds_share": found.share,
        "interval": [found.low, found.high],
        "close": found.close,
        "mean_de00": found.nominal,
        "minds": found.minds,
        "minds_most": found.minds_most,
        "worst": {
            "offset_mm": worst.offset_mm,
            "skew_deg": worst.skew_deg,
            "angle_deg": worst.angle_deg,
            "drift_share": worst.drift_share,
            "passes": worst.passes,
            "mean_de00": worst.mean_de00,
            "p95_de00": worst.p95_de00,
        },
        "hand": {"steadiness": hand.steadiness.value, "sizes": list(hand.sizes)},
        "laid": found.laid,
    }


def loads_arguments(parser: ArgumentParser) -> None:
    """Say what `loads` takes."""
    plan_argument(parser)
    parser.add_argument(
        "--quality", type=number, default=6.0, metavar="DE", help=phrase("how far each may be off, default 6 dE")
    )
    parser.add_argument(
        "--seconds", type=number, default=5.0, metavar="T", help=phrase("how long to look for fewer, default 5")
    )
    parser.add_argument("--apply", action="store_true", help=phrase("take them"))
    searched_arguments(parser)


def _advised(advice: Advice) -> dict[str, Any]:
    worst = advice.worst
    return {
        "loads": advice.loads,
        "before": advice.before,
        "rinses": advice.rinses,
        "rinses_before": advice.rinses_before,
        "brush_changes": advice.brush_changes,
        "brush_changes_before": advice.brush_changes_before,
        "worst": {"stroke": worst.stroke, "mean_de00": worst.mean_de00} if worst else None,
        "by": advice.by,
        "served": [
            {
                "applicator": one.load.brush,
                "cakes": list(one.load.recipe.cakes),
                "found_for": one.load.of,
                "visits": one.visits,
                "strokes": [
                    {
                        "stroke": share.stroke,
                        "turned_over": share.turned,
                        "mean_de00": share.mean_de00,
                        "own": share.own,
                    }
                    for share in one.shares
                ],
            }
            for one in advice.served
        ],
    }


@verb("loads", phrase("the fewest loads for all strokes of a plan"), loads_arguments)
def loads_verb(args: Namespace) -> int:
    """Say how few loads a plan needs."""
    from pennello.solve.plan_loads import advise, with_advice  # noqa: PLC0415

    plan, kit = read_plan(args.plan), kit_of(args)
    here = at_hand(plan, kit, date.today())
    advice = advise(plan, here, args.quality, args.seconds)
    if args.apply:
        write_plan(with_advice(plan, advice, here.by_name), args.out or args.plan)
    worst = advice.worst
    if args.json:
        write_json(_advised(advice))
        return 0
    last = phrase(", worst stroke {de}", de=de_text(worst.mean_de00)) if worst else ""
    print(
        phrase(
            "{counted} instead of {before}{last} ({by}, predicted)",
            counted=plural(advice.loads, "{count} load", "{count} loads"),
            before=advice.before,
            last=last,
            by=advice.by,
        )
    )
    print(
        phrase(
            "{counted} instead of {rinses_before}, {counted_2} instead of {brush_changes_before}",
            counted=plural(advice.rinses, "{count} rinse", "{count} rinses"),
            rinses_before=advice.rinses_before,
            counted_2=plural(advice.brush_changes, "{count} brush change", "{count} brush changes"),
            brush_changes_before=advice.brush_changes_before,
        )
    )
    for one in advice.served:
        names = ", ".join(
            f"{plan.stroke(share.stroke).name} {'as it is' if share.own else de_text(share.mean_de00)}"
            for share in one.shares
        )
        print(
            phrase(
                "  {brush} from {cakes}: {names}",
                brush=plan.brush(one.load.brush).name,
                cakes=" + ".join(one.load.recipe.cakes) or "pans",
                names=names,
            )
        )
    return 0


def colourways_arguments(parser: ArgumentParser) -> None:
    """Say what `colourways` takes."""
    colours = [family.value for family in ColourFamily]
    plan_argument(parser)
    parser.add_argument(
        "--colour",
        choices=colours,
        metavar="COLOUR",
        help=phrase("what it should be: {colours}", colours=", ".join(colours)),
    )
    parser.add_argument("--strokes", metavar="ID,...", help=phrase("only the loads of these strokes; default all"))
    parser.add_argument("--take", type=whole, metavar="N", help=phrase("take the N-th and write the plan"))
    searched_arguments(parser)


@verb("colourways", phrase("other colours for a design that keep its relations"), colourways_arguments)
def colourways_verb(args: Namespace) -> int:
    """Say which other cakes and paints would keep a design's relations."""
    from pennello.solve.colourways import colourways, with_colourway  # noqa: PLC0415

    plan, kit = read_plan(args.plan), kit_of(args)
    here = at_hand(plan, kit, date.today())
    colour = ColourFamily(args.colour) if args.colour else None
    ways = colourways(plan, here, colour=colour, strokes=_ids(args.strokes or ""))
    if args.take is not None:
        if not 1 <= args.take <= len(ways):
            raise OutOfRangeError(
                phrase("which colourway to take (--take)"), args.take, phrase("1 to {count}", count=len(ways))
            )
        write_plan(with_colourway(plan, ways[args.take - 1], here.by_name), args.out or args.plan)
    if args.json:
        found = [
            {
                "name": way.name,
                "cakes": {old: one.name for old, one in way.exchanged if one.cake is not None},
                "pans": {old: one.name for old, one in way.exchanged if one.cake is None},
                "strain": way.strain,
                "staying": list(way.staying),
            }
            for way in ways
        ]
        write_json({"colourways": found})
        return 0
    for way in ways:
        pairs = (
            f"{old} -> {new}" if old != new else phrase("{old} (elsewhere on it)", old=old)
            for old, new in way.ids.items()
        )
        print(f"{way.name}: " + ", ".join(pairs))
    return 0


def _ids(text: str) -> list[str]:
    return [part.strip() for part in text.split(",") if part.strip()]
