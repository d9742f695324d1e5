"""What may be said on the command line about order, paper, cautions and runs."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from pathlib import Path
from typing import Any

from pennello.cli.numbers import number, whole

PlanVerb = Callable[..., argparse.ArgumentParser]


def add_order_verbs(verbs: Any, plan_verb: PlanVerb, json: Callable[[argparse.ArgumentParser], None]) -> None:
    """Add the verbs order, sheet, sequence, cautions, runs."""
    order = plan_verb(verbs, "order", "the steps of a design in a good order, with times", stroke=False)
    _timed(order)
    order.add_argument("--reasons", action="store_true", help="say why each step stands where it does")
    order.add_argument("--own", action="store_true", help="the plan's own order, as it is")
    order.add_argument("--move", nargs=2, metavar=("STEP", "PLACE"), help="move a step, if it may, and write the plan")
    order.add_argument("--priority", action="append", metavar="PART=must|nice|skip", help="what may be left out")
    order.add_argument("--worth", action="append", metavar="PART=NUMBER", help="how much a part adds, 0.1 to 10")
    order.add_argument("--rule", action="append", metavar="EARLIER:after|dry|wet|any:LATER", help="a rule of your own")
    order.add_argument("--sides", choices=("together", "regions", "free"), help="both sides together, or by region")
    order.add_argument("--whites", choices=("free", "before", "after"), help="white lights before black, or after")
    order.add_argument("--glitter", choices=("tacky", "last"), help="glitter on tacky paint, or as the last touch")
    order.add_argument("--automatic", action="store_true", help="forget an order of your own")
    order.add_argument("--csv", type=Path, metavar="FILE", help="write the steps as CSV")
    order.add_argument("--ics", type=Path, metavar="FILE", help="write the steps as iCalendar")
    order.add_argument("--start", metavar="YYYY-MM-DDTHH:MM", help="with --ics: when it begins (default: now)")
    order.add_argument("--out", type=Path, metavar="FILE", help="write a changed plan here instead of over it")
    json(order)

    sheet = plan_verb(verbs, "sheet", "the sheet for the chair as a PDF at true scale", stroke=False)
    sheet.add_argument("--pdf", type=Path, required=True, metavar="FILE")
    _timed(sheet)
    _person(sheet)

    pictures = plan_verb(verbs, "sequence", "the design after each step, as pictures", stroke=False)
    pictures.add_argument("--out", type=Path, required=True, metavar="DIR", help="folder; it is made if need be")
    pictures.add_argument("--px-per-mm", type=number, default=3.0, metavar="N", help="resolution, default 3")
    _timed(pictures)
    json(pictures)

    told = plan_verb(verbs, "cautions", "the usual cautions for a plan and a person; never a certificate", stroke=False)
    told.add_argument("--chart", default="", metavar="NAME", help="one chart only")
    _person(told)
    json(told)

    runs = verbs.add_parser("runs", help="recorded runs, and your own pace from them")
    runs.add_argument("--notebook", type=Path, metavar="FILE", help="the notebook's file (default: your own)")
    runs.add_argument("--forget", action="store_true", help="erase what people said; times stay")
    runs.add_argument(
        "--keep-answers", type=whole, metavar="DAYS", help="how many days after a run they are kept (default 0)"
    )
    json(runs)


def _timed(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--chart", default="", metavar="NAME", help="one chart only (default: all of the plan)")
    parser.add_argument("--seconds", type=number, default=1.0, metavar="T", help="how long to look for a better order")
    parser.add_argument("--target", type=number, metavar="S", help="leave out what does not fit into so many seconds")
    parser.add_argument("--notebook", type=Path, metavar="FILE", help="times of your own runs (default: your notebook)")


def _person(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--age", choices=("under-3", "child", "teen", "adult"), help="how old the person is")
    for name in ("allergy", "asthma", "ill", "consent", "parent"):
        parser.add_argument(f"--{name}", choices=("yes", "no"))
    parser.add_argument("--skin-is", choices=("sound", "sensitive", "broken"))
    parser.add_argument("--kit", nargs="?", const="", metavar="FILE", help="look for dates in this kit; bare: your own")
