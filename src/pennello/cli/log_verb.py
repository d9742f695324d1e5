"""The verb `log`: the notebook's pages."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import asdict, replace
from datetime import datetime
from pathlib import Path

import numpy as np

from pennello.cli.asking import json_argument, notebook_argument, pdf_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import number, whole
from pennello.cli.plan_file import read_plan
from pennello.colour.families import ColourFamily
from pennello.design.findings import findings_by_chart
from pennello.design.pace import StepKind
from pennello.design.plan import Plan
from pennello.disk import exists, kept_path, path_of
from pennello.errors import OutOfRangeError
from pennello.files.log_out import write_log, write_log_page
from pennello.files.picture import Picture
from pennello.phrases import named, phrase, plural, told
from pennello.practice.records import LogPage, PageFault
from pennello.practice.trouble import Trouble, mend_of
from pennello.session.log import (
    LookedFor,
    compared,
    found,
    keep_photo,
    keep_picture,
    months,
    now_text,
    open_log,
    picture_of,
    step_rows,
    sweep_photos,
)
from pennello.store.notebook import StepNote
from pennello.units import clock


def log_arguments(parser: ArgumentParser) -> None:
    """Say what `log` takes."""
    actions = parser.add_subparsers(dest="action", metavar="ACTION", required=True)
    listed = actions.add_parser("list", help=phrase("pages, the latest first"))
    _search_arguments(listed)
    shown = actions.add_parser("show", help=phrase("one page"))
    shown.add_argument("page", type=whole)
    pdf_argument(shown, phrase("write it as a one-page PDF"))
    shown.add_argument("--asked", action="store_true", help=phrase("with what the person asked for"))
    add = actions.add_parser("add", help=phrase("a page, with or without a run"))
    add.add_argument("title", nargs="?", default="", help=phrase("what was painted; the plan's title if left out"))
    add.add_argument(
        "--plan", type=Path, metavar="PLAN", help=phrase("the plan's file: its picture and colours go with it")
    )
    add.add_argument("--day", metavar="WHEN", help=phrase("as in 2026-11-28T19:30; now if left out"))
    change = actions.add_parser("change", help=phrase("what stands on a page"))
    change.add_argument("page", type=whole)
    for one in (add, change):
        _page_arguments(one)
    remove = actions.add_parser("remove", help=phrase("take a page out; its times stay for the pace"))
    remove.add_argument("page", type=whole)
    compare = actions.add_parser("compare", help=phrase("what differs between two pages"))
    compare.add_argument("page", type=whole)
    compare.add_argument("other", type=whole)
    summed = actions.add_parser("months", help=phrase("totals by month"))
    _search_arguments(summed)
    out = actions.add_parser("export", help=phrase("CSV or iCalendar, by the file's ending"))
    out.add_argument("file", type=Path)
    out.add_argument("--asked", action="store_true", help=phrase("with what people asked for"))
    _search_arguments(out)
    for one in actions.choices.values():
        notebook_argument(one, begun=one is add)
        json_argument(one)


def _search_arguments(parser: ArgumentParser) -> None:
    parser.add_argument("--words", default="", help=phrase("only pages that say all of these words"))
    families = ", ".join(one.value for one in ColourFamily)
    parser.add_argument(
        "--colour", default="", metavar="WORD", help=phrase("only of this colour: {families}", families=families)
    )
    parser.add_argument("--trouble", default="", metavar="WORD", help=_TROUBLES)
    parser.add_argument("--since", default="", metavar="DAY", help=phrase("as in 2026-11-01"))
    parser.add_argument("--until", default="", metavar="DAY")


_TROUBLES = phrase("what went wrong: {words}", words=", ".join(one.value for one in Trouble))


def _page_arguments(parser: ArgumentParser) -> None:
    parser.add_argument("--part", help=phrase("the part alone that was painted"))
    parser.add_argument("--short", choices=("yes", "no"), help=phrase("whether it was the short form"))
    parser.add_argument("--seconds", type=number, metavar="S", help=phrase("how long the hand took"))
    parser.add_argument("--note")
    parser.add_argument("--light", help=phrase("by which light the photo was taken"))
    parser.add_argument(
        "--photo", type=Path, metavar="FILE", help=phrase("a photo: copied, shrunk, without its metadata")
    )
    parser.add_argument("--asked-for", metavar="WORDS", help=phrase("what the person asked for"))
    parser.add_argument("--kept", metavar="WORDS", help=phrase("which variant was kept"))
    parser.add_argument(
        "--wrong",
        action="append",
        metavar="WORD[:PIECE]",
        help=phrase("{troubles}; where, by the id of a piece", troubles=_TROUBLES),
    )


@verb("log", phrase("the notebook's pages: what was painted, how it came out"), log_arguments)
def log_verb(args: Namespace) -> int:
    """Do what is asked with the log."""
    return _ACTIONS[args.action](args)


def _list(args: Namespace) -> int:
    pages = found(_pages(args), _wanted(args))
    if args.json:
        write_json({"pages": [page_told(one) for one in pages]})
        return 0
    for one in pages:
        print(f"{one.id:5d}  {one.day[:16].replace('T', ' ')}  {_line(one)}")
    return 0


def _pages(args: Namespace) -> tuple[LogPage, ...]:
    with open_log(args.notebook) as log:
        return log.pages()


def _wanted(args: Namespace) -> LookedFor:
    if args.colour and args.colour not in {one.value for one in ColourFamily}:
        raise OutOfRangeError("--colour", args.colour, ", ".join(one.value for one in ColourFamily))
    return LookedFor(args.words, args.colour, _trouble(args.trouble) if args.trouble else None, args.since, args.until)


def _trouble(text: str) -> Trouble:
    try:
        return Trouble(text)
    except ValueError:
        raise OutOfRangeError(phrase("what went wrong"), text, ", ".join(one.value for one in Trouble)) from None


def _line(page: LogPage) -> str:
    words = [", ".join(part for part in (page.title, page.part, phrase("short form") if page.short else "") if part)]
    if page.painted_s:
        words.append(
            phrase("{painted_s} min", painted_s=clock(page.painted_s))
            + (f" ({clock(page.planned_s)})" if page.planned_s else "")
        )
    words += [
        phrase("{trouble} at {place}", trouble=named(one.trouble), place=one.name) if one.name else named(one.trouble)
        for one in page.faults
    ]
    return "; ".join(words)


def page_told(page: LogPage) -> dict[str, object]:
    """Return a page as the command line answers it."""
    faults = [asdict(one) | {"trouble": one.trouble.value} for one in page.faults]
    return asdict(page) | {"colours": list(page.colours), "faults": faults}


def _show(args: Namespace) -> int:
    with open_log(args.notebook) as log:
        page = log.page(args.page)
        steps = log.steps_of_run(page.run) if page.run is not None else ()
    rows = step_rows(steps)
    if args.pdf:
        planned, painted = (_picture(name, args.notebook) for name in (page.picture, page.photo))
        write_log_page(page, args.pdf, planned, painted, rows, asked=args.asked)
    if args.json:
        write_json(page_told(page) | {"steps": [_step_told(one) for one in steps]})
        return 0
    print(f"{page.day[:16].replace('T', ' ')}  {_line(page)}")
    told = (
        (phrase("note"), page.note),
        (phrase("light"), page.light),
        (phrase("asked for"), page.asked),
        (phrase("kept"), page.kept),
    )
    for word, text in told:
        if text:
            print(f"  {word}: {text}")
    for one in page.faults:
        print(f"  {named(one.trouble)}: {one.mend}")
    for what, predicted, took, apart in rows:
        print(f"  {predicted:>6} {took:>8}  {what}{f', {apart}' if apart else ''}")
    return 0


def _step_told(one: StepNote) -> dict[str, object]:
    told: dict[str, object] = {"kind": one.kind.value, "name": one.name, "planned_s": one.planned_s}
    return told | {"took_s": one.actual_s, "left_out": one.skipped and one.kind is not StepKind.WAIT}


def _picture(name: str, notebook: Path | None) -> Picture | None:
    return picture_of(name, notebook)


def _add(args: Namespace) -> int:
    plan = read_plan(args.plan) if args.plan else None
    title = args.title or (plan.title if plan else "")
    if not title:
        raise OutOfRangeError(phrase("title of a page"), "''", phrase("what was painted, or --plan with it"))
    page = LogPage(_day(args.day), title, plan=kept_path(args.plan and args.plan.absolute()))
    if plan is not None and plan.motifs:
        from pennello.session.design_pictures import laid_plan  # noqa: PLC0415 - engines only where wanted

        laid = laid_plan(plan, plan.motifs[0].chart)
        picture = keep_picture(np.asarray(laid.picture), args.notebook)
        page = replace(page, picture=picture, colours=laid.colours, planned_s=round(laid.seconds, 1))
    return _put(args, _changed(args, page, plan))


def _day(text: str | None) -> str:
    if not text:
        return now_text()
    try:
        return datetime.fromisoformat(text).astimezone().isoformat(timespec="seconds")
    except (ValueError, OverflowError):
        raise OutOfRangeError("--day", text, phrase("a day and time, as in 2026-11-28T19:30")) from None


def _change(args: Namespace) -> int:
    with open_log(args.notebook) as log:
        page = log.page(args.page)
    plan = read_plan(path_of(page.plan)) if page.plan and exists(path_of(page.plan)) else None
    return _put(args, _changed(args, page, plan))


def _changed(args: Namespace, page: LogPage, plan: Plan | None) -> LogPage:
    said = {"part": args.part, "note": args.note, "light": args.light, "asked": args.asked_for, "kept": args.kept}
    page = replace(page, **{name: value for name, value in said.items() if value is not None})
    if args.short:
        page = replace(page, short=args.short == "yes")
    if args.seconds is not None:
        if not 0 <= args.seconds <= 1e6:
            raise OutOfRangeError("--seconds", args.seconds, "0 to 1000000 s")
        page = replace(page, painted_s=args.seconds)
    if args.photo:
        page = replace(page, photo=keep_photo(args.photo, args.notebook))
    if args.wrong is not None:
        page = replace(page, faults=tuple(_fault(text, plan) for text in args.wrong if text))
    return page


def _fault(text: str, plan: Plan | None) -> PageFault:
    word, _, piece = text.partition(":")
    trouble = _trouble(word)
    if plan is None:
        return PageFault(trouble, piece, piece, mend_of(trouble))
    found_there = tuple(one for ones in findings_by_chart(plan).values() for one in ones if one.piece == piece)
    names = {one.id: one.name for one in plan.motifs} | {one.id: one.name for one in plan.strokes}
    if piece and piece not in names:
        raise OutOfRangeError(phrase("piece of --wrong"), piece, phrase("the id of a piece or load of the plan"))
    return PageFault(trouble, piece, names.get(piece, ""), mend_of(trouble, found_there))


def _put(args: Namespace, page: LogPage) -> int:
    with open_log(args.notebook) as log:
        kept = log.put(page)
    if args.json:
        write_json(page_told(kept))
    else:
        print(phrase("page {id}: {line}", id=kept.id, line=_line(kept)))
        for one in kept.faults:
            print(f"  {named(one.trouble)}: {one.mend}")
    return 0


def _remove(args: Namespace) -> int:
    with open_log(args.notebook) as log:
        log.page(args.page)
        log.remove(args.page)
    sweep_photos(args.notebook)
    if args.json:
        write_json({"removed": args.page})
    return 0


def _compare(args: Namespace) -> int:
    with open_log(args.notebook) as log:
        rows = compared(log.page(args.page), log.page(args.other))
    if args.json:
        write_json({"differs": [{"what": what, "one": one, "other": other} for what, one, other in rows]})
        return 0
    for what, one, other in rows:
        nothing = phrase("nothing")
        print(f"{told(what)}: {one or nothing} | {other or nothing}")
    return 0


def _months(args: Namespace) -> int:
    sums = months(found(_pages(args), _wanted(args)))
    if args.json:
        months_told = [asdict(one) | {"troubles": {word.value: n for word, n in one.troubles}} for one in sums]
        write_json({"months": months_told})
        return 0
    for one in sums:
        wrong = ", ".join(f"{count} {named(word)}" for word, count in one.troubles) or phrase("nothing went wrong")
        said = [plural(one.pages, "{count} page", "{count} pages")]
        if one.painted_s:
            painted, planned = clock(one.painted_s), clock(one.planned_s)
            said.append(phrase("{painted} min painted, {planned} predicted", painted=painted, planned=planned))
        print(f"{one.month}  {'; '.join([*said, wrong])}")
    return 0


def _export(args: Namespace) -> int:
    pages = found(_pages(args), _wanted(args))
    write_log(pages, args.file, asked=args.asked)
    if args.json:
        write_json({"written": len(pages)})
    return 0


_ACTIONS = {
    "list": _list,
    "show": _show,
    "add": _add,
    "change": _change,
    "remove": _remove,
    "compare": _compare,
    "months": _months,
    "export": _export,
}
