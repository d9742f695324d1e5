"""`day report`: what an event came to, what it costs and brings; tables, a quote and the books from it."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import asdict
from pathlib import Path

from pennello.cli.asking import notebook_argument, there
from pennello.cli.main import write_json
from pennello.cli.numbers import number
from pennello.day.books import Costs, Report, costs, report
from pennello.day.event import Event
from pennello.files.day_json import read_day, write_day
from pennello.phrases import phrase, plural
from pennello.session.day import begins_at, booked, faces_expected, noted
from pennello.session.kit import KitSession
from pennello.session.log import open_log
from pennello.units import clock, minutes


def report_arguments(parser: ArgumentParser) -> None:
    """Say what `day report` takes."""
    parser.add_argument(
        "--faces", type=number, metavar="N", help=phrase("reckon with so many faces instead of those painted")
    )
    parser.add_argument("--csv", type=Path, metavar="FILE", help=phrase("the day for the books"))
    parser.add_argument("--names", action="store_true", help=phrase("with --csv: with people's names"))
    parser.add_argument("--ics", type=Path, metavar="FILE", help=phrase("the event as iCalendar"))
    parser.add_argument("--quote", type=Path, metavar="FILE", help=phrase("a plain quote as a PDF"))
    parser.add_argument("--book", action="store_true", help=phrase("take what was used from the kit"))
    parser.add_argument("--kit", type=there, metavar="FILE", help=phrase("the kit's file (default: your own)"))
    parser.add_argument("--keep", action="store_true", help=phrase("write a page of the notebook about it"))
    notebook_argument(parser)


def report_action(args: Namespace) -> int:
    """Say what an event came to, and write what is asked for."""
    event = read_day(args.event)
    found = report(event)
    faces = args.faces if args.faces is not None else (found.faces or faces_expected(event, None))
    money = costs(event, faces) if args.faces is not None or not found.faces else found.money
    event = _written(args, event)
    if args.json:
        write_json(
            {
                "faces": found.faces,
                "gone": found.gone,
                "wait_s": found.wait_s,
                "designs": [asdict(one) for one in found.designs],
                "grams": dict(found.grams),
                "costs": asdict(money) | {"total": money.total, "left": money.left},
                "reckoned_faces": round(faces, 1),
                "next_time": list(found.next_time),
                "booked": event.booked,
            }
        )
        return 0
    _say_report(event, found, faces, money)
    return 0


def _say_report(event: Event, found: Report, faces: float, money: Costs) -> None:
    sign = event.currency
    line = phrase("{faces} painted, {gone} left", faces=found.faces, gone=found.gone)
    print(phrase("{line}; waited {wait_s}", line=line, wait_s=minutes(found.wait_s)) if found.wait_s else line)
    for one in found.designs:
        line = plural(
            one.faces,
            "{one}: {faces} face, planned {planned_s} min",
            "{one}: {faces} faces, planned {planned_s} min",
            one=one.title,
            faces=one.faces,
            planned_s=clock(one.planned_s),
        )
        if one.took_s is not None:
            line = phrase("{line}, took {took_s} min", line=line, took_s=clock(one.took_s))
        print(f"  {line}")
    print(
        plural(
            round(faces),
            "with {faces:.0f} face: in {income:.2f} {sign}, out {total:.2f} {sign} (paint and sponges "
            "{material:.2f}, way {travel:.2f}, other {other:.2f}, own time {own_time:.2f}), left {left:.2f} {sign}",
            "with {faces:.0f} faces: in {income:.2f} {sign}, out {total:.2f} {sign} (paint and sponges "
            "{material:.2f}, way {travel:.2f}, other {other:.2f}, own time {own_time:.2f}), left {left:.2f} {sign}",
            faces=faces,
            income=money.income,
            sign=sign,
            total=money.total,
            material=money.material,
            travel=money.travel,
            other=money.other,
            own_time=money.own_time,
            left=money.left,
        )
    )
    if money.break_even_faces is not None:
        print(
            plural(
                money.break_even_faces,
                "it pays from {break_even_faces} face on",
                "it pays from {break_even_faces} faces on",
                break_even_faces=money.break_even_faces,
            )
        )
    for sentence in found.next_time:
        print(phrase("next time: {sentence}", sentence=sentence))


def _written(args: Namespace, event: Event) -> Event:
    """Write what was asked for, and return the event, booked where that was asked."""
    from pennello.files.day_out import write_day_table  # noqa: PLC0415 - only where asked for

    for path, names in ((args.csv, args.names), (args.ics, False)):
        if path:
            write_day_table(event, path, begins_at(event), names=names)
    if args.quote:
        from pennello.files.day_pdf import write_quote  # noqa: PLC0415 - reportlab only for paper

        write_quote(event, args.faces if args.faces is not None else faces_expected(event, None), args.quote)
    if args.keep:
        with open_log(args.notebook) as log:
            log.put(noted(event))
    if args.book:
        kit = KitSession(args.kit)
        try:
            event, _ = booked(kit, event)
        finally:
            kit.close()
        write_day(event, args.event)
    return event
