"""The verb `day`: an event from the enquiry to the books."""

from __future__ import annotations

import math
import sys
from argparse import ArgumentParser, Namespace
from dataclasses import asdict, replace
from pathlib import Path

from pennello.cli.asking import json_argument, notebook_argument, pdf_argument, there, verb
from pennello.cli.day_board import board_action, board_arguments
from pennello.cli.day_report import report_action, report_arguments
from pennello.cli.main import write_json
from pennello.cli.numbers import number, seed, whole
from pennello.day.bag import Thing, to_buy, to_wash
from pennello.day.books import material_of_face
from pennello.day.event import (
    Arrivals,
    Event,
    MenuItem,
    cakes_taken,
    clock_text,
    parse_clock,
    parse_curve,
    parse_prices,
    rest_of,
    with_hours,
    with_item,
    without_item,
)
from pennello.day.menu import Weighed, left_out_first, weigh
from pennello.day.queue import DAYS, Evening, evening, sentences, usual_rules, what_if
from pennello.disk import exists, kept_path, stem_words
from pennello.errors import FileProblemError, OutOfRangeError
from pennello.files.day_json import SUFFIX, day_path, day_schema, demo_event, read_day, write_day
from pennello.files.demo import shipped_design, shipped_designs
from pennello.files.plan_json import read_plan
from pennello.limits import fitted
from pennello.phrases import phrase, plural
from pennello.session.day import (
    EVENT_COLUMNS,
    SHIPPED,
    bag_of,
    designed,
    event_rows,
    faces_expected,
    free_key,
    known_events,
    pictures_of,
    worked_out_again,
)
from pennello.session.notebook import notebook_path, pace_of
from pennello.units import clock, parse_number


def event_file(text: str) -> Path:
    """Return the file of an event that is named, with or without its ending."""
    path = Path(text)
    return path if exists(path) or not exists(day_path(path)) else day_path(path)


def day_arguments(parser: ArgumentParser) -> None:
    """Say what `day` takes."""
    actions = parser.add_subparsers(dest="action", metavar="ACTION", required=True)
    new = actions.add_parser("new", help=phrase("a new event"))
    new.add_argument("event", type=Path, help=phrase("the file to write, {suffix}; it must not exist", suffix=SUFFIX))
    new.add_argument("--demo", action="store_true", help=phrase("the Saltmarsh Lantern Walk with its twelve designs"))
    change = actions.add_parser("set", help=phrase("change an event"))
    for one in (new, change):
        _event_arguments(one)
    menu = actions.add_parser("menu", help=phrase("the designs, weighed; a board and a pick card to print"))
    _menu_arguments(menu)
    simulate = actions.add_parser("simulate", help=phrase("the queue on many evenings"))
    simulate.add_argument(
        "--days", type=whole, default=DAYS, metavar="N", help=phrase("evenings, default {days}", days=DAYS)
    )
    simulate.add_argument("--seed", type=seed, default=1, metavar="S")
    simulate.add_argument(
        "--what-if", action="store_true", help=phrase("and what short forms or one more painter would bring")
    )
    kit = actions.add_parser("kit", help=phrase("what to pack, to buy and to wash"))
    kit.add_argument(
        "--faces", type=number, metavar="N", help=phrase("for so many faces; as many as there is time for")
    )
    kit.add_argument("--kit", type=there, metavar="FILE", help=phrase("the kit's file (default: your own)"))
    kit.add_argument("--tick", action="append", metavar="THING", help=phrase("it is packed"))
    kit.add_argument("--untick", action="append", metavar="THING", help=phrase("it is not"))
    pdf_argument(kit, phrase("the list as a PDF"))
    kit.add_argument("--hygiene", type=Path, metavar="FILE", help=phrase("the hygiene list to hang up, as a PDF"))
    board = actions.add_parser("board", help=phrase("who waits, who is painted, who is next"))
    board_arguments(board)
    told = actions.add_parser("report", help=phrase("what it came to, what it costs and brings"))
    report_arguments(told)
    listed = actions.add_parser("list", help=phrase("all events side by side: those of the data folder, and others"))
    listed.add_argument("events", nargs="*", type=event_file, metavar="EVENT", help=phrase("files that lie elsewhere"))
    actions.add_parser("schema", help=phrase("the JSON Schema of an event's file"))
    for name, one in actions.choices.items():
        if name not in {"new", "list", "schema"}:
            one.add_argument("event", type=event_file, help=phrase("the event's file"))
        json_argument(one)


def _event_arguments(parser: ArgumentParser) -> None:
    for name, words in (
        ("name", phrase("what it is called")),
        ("place", phrase("where it is")),
        ("day", phrase("as in 2026-11-28")),
    ):
        parser.add_argument(f"--{name}", help=words)
    parser.add_argument("--hours", metavar="FROM-TO", help=phrase("as in 18:30-21:30"))
    parser.add_argument(
        "--break", dest="rest", action="append", metavar="FROM-TO", help=phrase("a rest; 'none' for none")
    )
    parser.add_argument("--painters", type=whole, metavar="N")
    parser.add_argument("--people", type=whole, metavar="N", help=phrase("people expected"))
    kinds = [one.value for one in Arrivals]
    parser.add_argument("--arrivals", choices=kinds, help=phrase("how they come"))
    parser.add_argument("--curve", metavar="N,N,...", help=phrase("how many come in each equal part of the time"))
    parser.add_argument("--children", type=number, metavar="SHARE", help=phrase("share of small children, 0 to 1"))
    parser.add_argument("--limit-min", type=number, metavar="MIN", help=phrase("longest wait that you want"))
    for name, words in _MONEY.items():
        parser.add_argument(f"--{name.replace('_', '-')}", type=number, metavar="M", help=words)
    parser.add_argument("--currency", metavar="SIGN")
    parser.add_argument("--price", metavar="'NAME M; NAME M'", help=phrase("what a gram of single cakes or pans costs"))
    parser.add_argument("--extra", action="append", metavar="THING", help=phrase("what else to pack; 'none' for none"))


_MONEY = {
    "per_face": phrase("price of a face"),
    "per_hour": phrase("price of an hour"),
    "travel": phrase("what the way costs"),
    "other_costs": phrase("fees and the like"),
    "own_hour": phrase("what an hour of yours is worth"),
    "per_gram": phrase("price of a gram of cake paint"),
    "per_sponge": phrase("price of a sponge"),
}


def _menu_arguments(parser: ArgumentParser) -> None:
    keys = ", ".join(one.key for one in shipped_designs()[:3])
    parser.add_argument(
        "--add",
        type=str,
        action="append",
        metavar="PLAN|DESIGN",
        help=phrase("a plan's file, or a design that ships: {keys} ...", keys=keys),
    )
    parser.add_argument("--other", action="store_true", help=phrase("the designs added in their other colours"))
    parser.add_argument("--remove", action="append", metavar="ID")
    parser.add_argument("--on", action="append", metavar="ID", help=phrase("on the menu today"))
    parser.add_argument("--off", action="append", metavar="ID", help=phrase("not today"))
    parser.add_argument("--share", action="append", metavar="ID=N", help=phrase("how often it is asked for"))
    parser.add_argument(
        "--again", action="store_true", help=phrase("work out all times again, at your own pace of today")
    )
    parser.add_argument("--weigh", type=whole, metavar="N", help=phrase("the best menu of so many designs"))
    parser.add_argument("--take", action="store_true", help=phrase("with --weigh: let it be today's menu"))
    parser.add_argument("--board", type=Path, metavar="FILE", help=phrase("the menu board as a PDF"))
    parser.add_argument("--size", default="A4", metavar="A4|A3|Letter")
    parser.add_argument("--prices", action="store_true", help=phrase("with the price of a face on it"))
    parser.add_argument("--pick", type=Path, metavar="FILE", help=phrase("a card to choose from by colours, as a PDF"))
    notebook_argument(parser, begun=False)


@verb("day", phrase("an event: people, hours, menu, queue, bag, live board, books"), day_arguments)
def day_verb(args: Namespace) -> int:
    """Do what is asked with an event."""
    return _ACTIONS[args.action](args)


# --- the event ---


def _new(args: Namespace) -> int:
    path = day_path(args.event)
    if exists(path):
        raise FileProblemError(path, phrase("there is a file of that name already; choose another name."))
    event = _with_wishes(args, demo_event() if args.demo else Event(args.name or fitted(stem_words(path))))
    write_day(event, path)
    return _told_event(args, event, path)


def _set(args: Namespace) -> int:
    event = _with_wishes(args, read_day(args.event))
    write_day(event, args.event)
    return _told_event(args, event, args.event)


def _with_wishes(args: Namespace, event: Event) -> Event:
    plain = ("name", "place", "day", "painters", "people", "children", "limit_min", "currency", *_MONEY)
    wishes = {name: getattr(args, name) for name in plain if getattr(args, name) is not None}
    if args.arrivals:
        wishes["arrivals"] = Arrivals(args.arrivals)
    if args.curve:
        wishes["curve"] = parse_curve(args.curve)
        wishes["arrivals"] = Arrivals.CURVE
    changed = _with_lists(args, replace(event, **wishes))
    if args.hours:
        changed = with_hours(replace(changed, breaks=()) if args.rest else changed, *_span(args.hours))
    if args.rest:
        rests = [one for one in args.rest if one != "none"]
        changed = replace(changed, breaks=tuple(rest_of(changed, *_span(one)) for one in rests))
    return changed


def _with_lists(args: Namespace, event: Event) -> Event:
    if args.price is not None:
        event = replace(event, prices=parse_prices(args.price, cakes_taken(event)))
    if args.extra:
        event = replace(event, extras=tuple(dict.fromkeys(one for one in args.extra if one != "none")))
    return event


def _span(text: str) -> tuple[float, float]:
    one, dash, other = text.partition("-")
    if not dash:
        raise OutOfRangeError("hours", text, phrase("from and to, as in 18:30-21:30"))
    return parse_clock(one), parse_clock(other)


def _told_event(args: Namespace, event: Event, path: Path) -> int:
    if args.json:
        write_json(event_told(event))
        return 0
    hours = phrase("{clock} to {clock_2}", clock=clock_text(event.begins_min), clock_2=clock_text(event.ends_min))
    print(
        phrase(
            "{event}: {hours}, {painters} painting, {people} people expected; {path}",
            event=event.name,
            hours=hours,
            painters=event.painters,
            people=event.people,
            path=path,
        )
    )
    return 0


def event_told(event: Event) -> dict[str, object]:
    """Return an event as the command line answers it, without its guests."""
    told = asdict(event) | {"arrivals": event.arrivals.value}
    del told["guests"]
    return told


# --- the menu ---


def _menu(args: Namespace) -> int:
    event = before = read_day(args.event)
    event = _menu_changed(args, event)
    best = weigh(event, args.weigh) if args.weigh is not None else None
    if best is not None and args.take:
        chosen = {one.id for one in best.items}
        event = replace(event, menu=tuple(replace(one, on=one.id in chosen) for one in event.menu))
    if event != before:
        write_day(event, args.event)
    _print_menu(args, event)
    if args.json:
        answer: dict[str, object] = {"menu": [asdict(one) for one in event.menu]}
        if best is not None:
            answer["weighed"] = asdict(best) | {"items": [one.id for one in best.items]}
        write_json(answer | {"leave_out_first": [one.id for one in left_out_first(event)]})
        return 0
    lines = [_item_line(event, one) for one in event.menu] + (_weighed_lines(best) if best is not None else [])
    print("\n".join(lines))
    return 0


def _weighed_lines(best: Weighed) -> list[str]:
    return [
        phrase("best {count}: {listed}", count=len(best.items), listed=", ".join(one.title for one in best.items)),
        phrase(
            "  {faces_an_hour:.1f} faces an hour and painter, {loads}, {cakes}",
            faces_an_hour=best.faces_an_hour,
            loads=plural(best.loads, "{count} load", "{count} loads"),
            cakes=plural(best.cakes, "{count} cake", "{count} cakes"),
        ),
        phrase("  colours missing: {missing}", missing=", ".join(best.missing) or "none"),
    ]


def _menu_changed(args: Namespace, event: Event) -> Event:
    """Return the event with what was asked of its menu done."""
    if args.again:
        pace = pace_of(args.notebook or notebook_path())
        event = replace(event, menu=tuple(worked_out_again(one, pace) for one in event.menu))
    for wish in args.add or ():
        event = with_item(event, _added(args, event, wish))
    for name in args.remove or ():
        event = without_item(event, name)
    for name, on in [*((name, True) for name in args.on or ()), *((name, False) for name in args.off or ())]:
        event = with_item(event, replace(event.item(name), on=on))
    for wish in args.share or ():
        name, _, value = wish.partition("=")
        event = with_item(event, replace(event.item(name), share=parse_number(value)))
    return event


def _item_line(event: Event, one: MenuItem) -> str:
    mark = " " if one.on else "-"
    short = phrase(", short {short_s}", short_s=clock(one.short_s)) if one.short_s else ""
    price = phrase(
        "{material_of_face:.2f} {currency} of paint",
        material_of_face=material_of_face(event, one.id),
        currency=event.currency,
    )
    loads = plural(len(one.loads), "{count} load", "{count} loads")
    times = phrase("{whole_s} min{short}, {loads}", whole_s=clock(one.whole_s), short=short, loads=loads)
    return f"{mark} {one.id:18s} {one.title}: {times}, {price}; {', '.join(one.colours)}"


def _added(args: Namespace, event: Event, wish: str) -> MenuItem:
    pace = pace_of(args.notebook or notebook_path())
    if wish in {one.key for one in shipped_designs()}:
        other = "/other" if args.other else ""
        plan = shipped_design(wish).plan(other=args.other)
        return designed(plan, f"{SHIPPED}{wish}{other}", free_key(event, wish), pace).item
    path = Path(wish)
    if not exists(path):
        raise OutOfRangeError("--add", wish, phrase("a plan's file, or one of `pennello designs`"))
    made = designed(read_plan(path), kept_path(path.absolute()), "", pace).item
    return replace(made, id=free_key(event, made.id))


def _print_menu(args: Namespace, event: Event) -> None:
    if not (args.board or args.pick):
        return
    from pennello.files.day_pdf import write_board, write_pick_card  # noqa: PLC0415 - reportlab only for paper

    pictures = pictures_of(event)
    if args.board:
        write_board(event, pictures, args.board, size=args.size, prices=args.prices)
    if args.pick:
        write_pick_card(event, pictures, args.pick)


# --- the queue ---


def _simulate(args: Namespace) -> int:
    if not 1 <= args.days <= 5000:
        raise OutOfRangeError("--days", args.days, "1 to 5000")
    event = read_day(args.event)
    found = evening(event, usual_rules(event), args.days, seed=args.seed)
    others = what_if(event, min(args.days, 60)) if args.what_if else ()
    if args.json:
        write_json(evening_told(event, found) | {"what_if": [asdict(one) for one in others]})
        return 0
    for sentence in sentences(event, found):
        print(sentence)
    for one in others:
        print(
            phrase(
                "  {one}: {faces:+.0f} faces, {wait_min:+.0f} min less waiting",
                one=one.words,
                faces=one.faces,
                wait_min=one.wait_min,
            )
        )
    return 0


def evening_told(event: Event, found: Evening) -> dict[str, object]:
    """Return many evenings as the command line answers them."""
    lists = {name: [round(float(one), 2) for one in getattr(found, name)] for name in ("at_s", "median", "low", "high")}
    waits = [dict(zip(("median_min", "high_min"), map(_minutes, both), strict=True)) for both in found.wait_min]
    return {
        "waiting": lists,
        "waits": waits,
        "came": found.came,
        "served": found.served,
        "left": found.left,
        "close_s": found.close_s,
        "busy": round(found.busy, 3),
        "sentences": list(sentences(event, found)),
    }


def _minutes(value: float) -> float | None:
    return round(value, 1) if math.isfinite(value) else None


# --- the bag ---


def _kit(args: Namespace) -> int:
    event = before = read_day(args.event)
    faces = args.faces if args.faces is not None else faces_expected(event, None)
    things = bag_of(event, faces, args.kit)
    event = replace(event, packed=_packed(args, event, things))
    if event != before:
        write_day(event, args.event)
    _print_kit(args, event, faces, things)
    buy, wash = to_buy(things), to_wash(event, round(faces))
    if args.json:
        told = [asdict(one) | {"packed": one.name in event.packed} for one in things]
        write_json({"faces": round(faces, 1), "things": told, "buy": list(buy), "wash": list(wash)})
        return 0
    for one in things:
        words = "; ".join(part for part in (one.caution, one.label) if part)
        caution = f" ({words})" if words else ""
        print(f"[{'x' if one.name in event.packed else ' '}] {one.words}: {one.amount}{caution}")
    for line in (
        *(phrase("to buy: {one}", one=one) for one in buy),
        *(phrase("to wash: {one}", one=one) for one in wash),
    ):
        print(line)
    return 0


def _packed(args: Namespace, event: Event, things: tuple[Thing, ...]) -> tuple[str, ...]:
    """Return what is packed, with what was ticked and without what was not."""
    known = {one.name for one in things}
    for name in (*(args.tick or ()), *(args.untick or ())):
        if name not in known:
            raise OutOfRangeError(phrase("thing of the bag"), name, phrase("one that `day kit` lists"))
    return tuple(sorted((set(event.packed) | set(args.tick or ())) - set(args.untick or ())))


def _print_kit(args: Namespace, event: Event, faces: float, things: tuple[Thing, ...]) -> None:
    if args.pdf or args.hygiene:
        from pennello.files.day_pdf import write_bag, write_hygiene  # noqa: PLC0415 - reportlab only for paper

        if args.pdf:
            write_bag(event, faces, things, to_buy(things), args.pdf)
        if args.hygiene:
            write_hygiene(event, args.hygiene)


# --- all events ---


def _list(args: Namespace) -> int:
    known, wrong = known_events(args.events)
    for sentence in wrong:
        print(sentence, file=sys.stderr)
    if args.json:
        told = [
            {"file": str(one.path), "faces": round(one.faces, 1), "out": one.money.total, "left": one.money.left}
            | {name: getattr(one.event, name) for name in ("name", "day", "painters", "people", "currency")}
            for one in known
        ]
        write_json({"events": told, "unreadable": list(wrong)})
        return 0
    rows = [EVENT_COLUMNS, *event_rows(known)]
    wide = [max(len(row[column]) for row in rows) for column in range(len(EVENT_COLUMNS))]
    for row in rows:
        print("  ".join(text.ljust(width) for text, width in zip(row, wide, strict=True)).rstrip())
    return 0


def _schema(args: Namespace) -> int:
    del args
    write_json(day_schema())
    return 0


_ACTIONS = {
    "new": _new,
    "set": _set,
    "menu": _menu,
    "simulate": _simulate,
    "kit": _kit,
    "board": board_action,
    "report": report_action,
    "list": _list,
    "schema": _schema,
}
