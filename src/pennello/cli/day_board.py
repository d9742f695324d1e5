"""`day board`: who waits, who is painted, who is next."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from collections.abc import Mapping
from dataclasses import asdict, replace
from datetime import datetime

from pennello.cli.main import write_json
from pennello.cli.numbers import whole
from pennello.day import board as boards
from pennello.day.batches import Batch, Fairness, batched
from pennello.day.event import Event, clock_text, parse_clock
from pennello.files.day_json import read_day, write_day
from pennello.phrases import phrase, plural
from pennello.session.day import begins_at
from pennello.units import minutes


def board_arguments(parser: ArgumentParser) -> None:
    """Say what `day board` takes."""
    parser.add_argument("--at", metavar="TIME", help=phrase("the time, as in 19:05; now if left out"))
    parser.add_argument(
        "--came", nargs="?", const="", metavar="NAME", help=phrase("somebody has come: first name or number")
    )
    parser.add_argument("--item", metavar="ID", help=phrase("the design that they chose"))
    parser.add_argument("--age", choices=("small", "child", "adult"))
    parser.add_argument("--colours", default="", metavar="WORDS")
    parser.add_argument("--consent", action="store_true", help=phrase("somebody who may say so has said yes"))
    parser.add_argument(
        "--guest", metavar="ID", help=phrase("with --item, --consent: of somebody who has come already")
    )
    for name, words in (
        ("begin", phrase("is at the chair")),
        ("done", phrase("is painted")),
        ("gone", phrase("did not come back")),
        ("back", phrase("waits after all")),
    ):
        parser.add_argument(f"--{name}", metavar="ID", help=words)
    parser.add_argument("--painter", type=whole, default=1, metavar="N", help=phrase("at which chair, with --begin"))
    parser.add_argument(
        "--short", choices=("yes", "no"), help=phrase("with --begin: the short form; by the line if left out")
    )
    parser.add_argument(
        "--batch", action="store_true", help=phrase("the order of those who wait that saves most loads")
    )
    parser.add_argument(
        "--passed-by", type=whole, default=3, metavar="N", help=phrase("with --batch: who may be passed by how many")
    )


def board_action(args: Namespace) -> int:
    """Do what is asked with the live board, and say how it stands."""
    event = before = read_day(args.event)
    now = _now_s(event, args.at)
    event = _moved(args, event, now)
    if event != before:
        write_day(event, args.event)
    stand, begins = boards.now_of(event, now), boards.expected_s(event, now)
    batch = None
    if args.batch:
        at_chair = boards.painting(event)
        last = at_chair[0].item if at_chair else ""
        batch = batched(event, now, Fairness(args.passed_by, 60 * event.limit_min * 2), last)
    if args.json:
        told = {
            "now_s": round(now, 1),
            **asdict(stand),
            "over_limit": boards.over_limit(event, now),
            "guests": [asdict(one) | {"state": one.state.value} for one in event.guests],
            "begins_s": {key: round(value, 1) for key, value in begins.items()},
            "batch": asdict(batch) | {"saved_s": batch.saved_s} if batch else None,
        }
        write_json(told)
        return 0
    _say_board(event, stand, begins, batch)
    return 0


def _say_board(event: Event, stand: boards.Now, begins: Mapping[str, float], batch: Batch | None) -> None:
    """Say how it stands, a line each for those who are painted and those who wait."""
    money = f", {stand.money:.2f} {event.currency}" if stand.money else ""
    line = phrase("{waits} waiting, {still} of them done in time", waits=stand.waits, still=stand.still)
    print(
        plural(
            stand.faces,
            "{faces} face{money}; {line}; {left_s} left",
            "{faces} faces{money}; {line}; {left_s} left",
            faces=stand.faces,
            money=money,
            line=line,
            left_s=minutes(stand.left_s),
        )
    )
    for one in boards.painting(event):
        print(
            phrase(
                "  at chair {painter}: {id} {one}, {chosen}",
                painter=one.painter,
                id=one.id,
                one=one.name,
                chosen=_chosen(event, one.item),
            )
        )
    for one in boards.waiting(event):
        at = clock_text(event.begins_min + begins[one.id] / 60)
        chosen = _chosen(event, one.item)
        line = phrase("{id} {one}, {chosen}: about {at}", id=one.id, one=one.name, chosen=chosen, at=at)
        if not one.consent:
            line = phrase("{line}, nobody said yes yet", line=line)
        print(f"  {line}")
    if batch:
        names = ", ".join(event.guest(one).name for one in batch.order)
        print(phrase("  in batches: {names}; saves {saved_s}", names=names, saved_s=minutes(batch.saved_s)))


def _chosen(event: Event, item: str) -> str:
    return event.item(item).title if item else phrase("nothing chosen")


def _now_s(event: Event, at: str | None) -> float:
    if at:
        past = parse_clock(at) - event.begins_min
        return 60 * (past + 1440 if past < -720 else past)
    return (datetime.now().astimezone() - begins_at(event)).total_seconds()


def _moved(args: Namespace, event: Event, now: float) -> Event:
    """Return the event with what was asked of its guests done."""
    if args.came is not None:
        told = {"age": args.age or "", "colours": args.colours, "consent": args.consent}
        event, _ = boards.came(event, args.came, args.item or "", now, **told)
    elif args.guest:
        guest = event.guest(args.guest)
        if args.item:
            guest = replace(guest, item=event.item(args.item).id)
        event = boards.with_guest(event, replace(guest, consent=guest.consent or args.consent))
    if args.begin:
        short = None if args.short is None else args.short == "yes"
        event = boards.begun(event, args.begin, now, args.painter, short=short)
    if args.done:
        event = boards.ended(event, args.done, now)
    if args.gone:
        event = boards.gone(event, args.gone, now)
    return boards.back(event, args.back) if args.back else event
