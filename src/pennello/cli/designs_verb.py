"""The verb for the designs that ship with Pennello: designs."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path

from pennello.cli.asking import json_argument, verb
from pennello.cli.main import write_json
from pennello.cli.plan_file import write_plan
from pennello.disk import exists
from pennello.errors import PennelloError
from pennello.files.demo import ShippedDesign, shipped_design, shipped_designs
from pennello.phrases import phrase, plural


class NoDesignNamedError(PennelloError):
    """It is not said which design is to be written."""


def designs_arguments(parser: ArgumentParser) -> None:
    """Say what `designs` takes."""
    parser.add_argument("name", nargs="?", help=phrase("a design, to be written as a plan; without it they are listed"))
    parser.add_argument("--other", action="store_true", help=phrase("in its other colours"))
    parser.add_argument(
        "--out", type=Path, metavar="FILE", help=phrase("where the plan is written; it must not be there yet")
    )
    json_argument(parser)


@verb(
    "designs",
    phrase("whole works that ship with Pennello: list them, write one as a plan"),
    designs_arguments,
    lists=True,
)
def designs_verb(args: Namespace) -> int:
    """List the designs, or write one as a plan."""
    if args.name is None:
        if args.out:
            raise NoDesignNamedError(phrase("Say which design is to be written; `pennello designs` lists them."))
        _list(json=args.json)
        return 0
    design = shipped_design(args.name)
    plan = design.plan(other=args.other)
    if args.out:
        if exists(args.out):
            raise NoDesignNamedError(phrase("{out} is there already; name another file with --out.", out=args.out))
        write_plan(plan, args.out)
    if args.json:
        write_json({**_told(design), "written": str(args.out) if args.out else None})
    else:
        parts = "; ".join(part.name for part in plan.parts)
        print(
            plural(
                len(plan.strokes),
                "{plan}, on {chart}: {count} load. {parts}.",
                "{plan}, on {chart}: {count} loads. {parts}.",
                plan=plan.title,
                chart=plan.motifs[0].chart,
                parts=parts,
            )
        )
        if args.out:
            print(phrase("Wrote {out}.", out=args.out))
    return 0


def _list(*, json: bool) -> None:
    told = [_told(one) for one in shipped_designs()]
    if json:
        write_json({"designs": told})
        return
    for one in told:
        print(
            phrase(
                "{one:18} {one_2}; also {one_3}; on {one_4}",
                one=one["key"],
                one_2=one["title"],
                one_3=one["other"],
                one_4=one["chart"],
            )
        )


def _told(design: ShippedDesign) -> dict[str, str]:
    return {"key": design.key, "title": design.title, "other": design.colours, "chart": design.chart}
