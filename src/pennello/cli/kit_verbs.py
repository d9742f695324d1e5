"""The verb `kit`: list, import, export, add."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from pennello.cli.asking import json_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import length_mm
from pennello.colour.srgb import format_hex, parse_hex
from pennello.errors import FileProblemError, PennelloError, UnknownNameError
from pennello.files.kit_csv import (
    COLUMNS,
    ImportPreview,
    item_of_cells,
    preview_csv,
    preview_items,
    recoloured_items,
    values_of,
    write_csv,
)
from pennello.files.palette import read_palette, write_palette
from pennello.files.reflectance_csv import read_reflectance, srgb_of
from pennello.kit.own_cake import SeenStripe
from pennello.kit.paint import Paint
from pennello.kit.search import found, neighbours
from pennello.kit.shelf import ItemKind, KitItem
from pennello.phrases import named, phrase, plural
from pennello.session.kit import KitSession
from pennello.session.own_kit import cake_items, shipped_away, stripes_in
from pennello.units import parse_length, parse_number, parse_whole

MOST_REFUSED_SHOWN = 20


class KitWishError(PennelloError):
    """What is asked of the kit does not fit together."""


@contextmanager
def _open(args: Namespace) -> Iterator[KitSession]:
    session = KitSession(args.kit)
    try:
        yield session
    finally:
        session.close()


ADDED = tuple(name for name in COLUMNS if name not in ("kind", "name"))
"""Columns of the kit's table that `kit add` takes as options."""


def _kit_argument(parser: ArgumentParser) -> None:
    parser.add_argument("--kit", type=Path, metavar="FILE", help=phrase("the kit's file (default: your own)"))


def kit_arguments(parser: ArgumentParser) -> None:
    """Say what `kit` takes."""
    actions = parser.add_subparsers(dest="action", metavar="ACTION", required=True)
    kinds = ("paint", "cake", "brush")
    listed = actions.add_parser("list", help=phrase("what is in it"))
    listed.add_argument("--kind", choices=kinds)
    listed.add_argument(
        "--search", default="", metavar="WORDS", help=phrase("words, eye:yes, or 'white + red' for neighbours")
    )
    listed.add_argument("--neighbours", nargs=2, metavar="COLOUR", help=phrase("cakes with these two side by side"))
    listed.add_argument("--retired", action="store_true", help=phrase("those out of use too"))
    _kit_argument(listed)
    json_argument(listed)
    out = actions.add_parser(
        "export", help=phrase("write it as CSV, or its paints as GPL palette, by the file's ending")
    )
    out.add_argument("file", type=Path)
    out.add_argument("--kind", choices=kinds)
    _kit_argument(out)
    taken = actions.add_parser("import", help=phrase("take in a CSV table or a GPL palette"))
    taken.add_argument("file", type=Path)
    taken.add_argument("--preview", action="store_true", help=phrase("only say what would change"))
    taken.add_argument("--skip-bad", action="store_true", help=phrase("leave out the lines that cannot be taken"))
    _kit_argument(taken)
    json_argument(taken)
    add = actions.add_parser("add", help=phrase("add one thing, or change it"))
    add.add_argument("kind", choices=kinds)
    add.add_argument("name")
    for column in ADDED:
        add.add_argument(f"--{column.replace('_', '-')}", metavar="VALUE")
    add.add_argument("--reflectance", type=Path, metavar="CSV", help=phrase("a paint as measured"))
    add.add_argument("--swatch", type=Path, metavar="PICTURE", help=phrase("a paint as photographed or scanned"))
    add.add_argument("--area", metavar="X,Y,W,H", help=phrase("the paint in the picture, px"))
    add.add_argument("--white", metavar="X,Y,W,H", help=phrase("the white reference in the picture, px"))
    add.add_argument("--read", metavar="PATCH", help=phrase("a paint as the simulated reader sees a patch of its card"))
    _kit_argument(add)
    json_argument(add)
    cake = actions.add_parser(
        "cake", help=phrase("a cake of your own from the colours of its stripes, or from a photo of it")
    )
    _cake_arguments(cake)
    _kit_argument(cake)
    json_argument(cake)
    mine = actions.add_parser("mine", help=phrase("put out of use what ships, but for the brushes that you have"))
    mine.add_argument("--brush", action="append", default=[], metavar="ID", help=phrase("one that you have"))
    _kit_argument(mine)
    json_argument(mine)


def _cake_arguments(parser: ArgumentParser) -> None:
    parser.add_argument("name")
    parser.add_argument(
        "--stripe",
        action="append",
        default=[],
        metavar="HEX=MM[=NAME]",
        help=phrase("a stripe, left to right: its colour, how wide it is, and what its paint is called"),
    )
    parser.add_argument(
        "--picture", type=Path, metavar="FILE", help=phrase("or a photo of it, with --line and --width-mm")
    )
    parser.add_argument("--line", metavar="X,Y,X,Y", help=phrase("across its stripes from wall to wall, px"))
    parser.add_argument(
        "--width-mm", type=length_mm, default=40.0, metavar="MM", help=phrase("from wall to wall, default 40")
    )


@verb("kit", phrase("the kit: paints, cakes, brushes of your own"), kit_arguments)
def kit_verb(args: Namespace) -> int:
    """Do something with the kit."""
    act = {"list": _list, "export": _export, "import": _import, "add": _add, "cake": _cake, "mine": _mine}[args.action]
    with _open(args) as session:
        return act(args, session)


def _list(args: Namespace, session: KitSession) -> int:
    kinds = [ItemKind(args.kind)] if args.kind else list(ItemKind)
    if args.neighbours:
        pair = neighbours(session.kit, *args.neighbours)
        items = [item for item in session.kit.of(ItemKind.CAKE, retired=args.retired) if item.id in pair]
    else:
        items = [item for kind in kinds for item in found(session.kit, kind, args.search, with_retired=args.retired)]
    if args.json:
        write_json({"kit": str(session.path), "items": [_answer(item) for item in items]})
        return 0
    for item in items:
        out = phrase("  (out of use)") if item.keeping.retired else ""
        print(f"{named(item.kind):6} {item.id:24} {item.name}{out}")
    if not items:
        print(phrase("Nothing in the kit is like that."))
    return 0


def _answer(item: KitItem) -> dict[str, Any]:
    plain: dict[str, Any] = {}
    for name, value in values_of(item).items():
        if value is None or isinstance(value, bool | int | float | str):
            plain[name] = value
        else:
            plain[name] = getattr(value, "value", None) or str(value)
    if isinstance(item.thing, Paint) and item.thing.reflectance is not None:
        plain["reflectance"] = list(item.thing.reflectance)
    return plain


def _export(args: Namespace, session: KitSession) -> int:
    kinds = [ItemKind(args.kind)] if args.kind else list(ItemKind)
    items = [item for kind in kinds for item in session.kit.of(kind, retired=True)]
    match args.file.suffix.lower():
        case ".csv":
            write_csv(items, args.file)
        case ".gpl":
            write_palette([item.thing for item in items if isinstance(item.thing, Paint)], args.file)
        case _:
            raise FileProblemError(
                args.file, phrase("the kit is written as .csv or .gpl; choose one of these endings.")
            )
    print(phrase("Wrote {file}.", file=args.file))
    return 0


def _import(args: Namespace, session: KitSession) -> int:
    preview = _preview(args.file, session)
    if preview.refused and not (args.preview or args.skip_bad):
        first = preview.refused[0].problem
        words = phrase(
            "{first}; correct them or leave them out with --skip-bad. Nothing was changed.", first=first[:-1]
        )
        if len(preview.refused) > 1:
            words = plural(
                len(preview.refused) - 1,
                "{first} and {count} more line; correct them or leave them out with --skip-bad. Nothing was changed.",
                "{first} and {count} more lines; correct them or leave them out with --skip-bad. Nothing was changed.",
                first=first[:-1],
            )
        raise FileProblemError(args.file, words)
    if not args.preview:
        session.put(phrase("Take in {file}", file=args.file.name), preview.items)
    if args.json:
        write_json(_preview_answer(preview, done=not args.preview))
        return 0
    would, done = phrase("Would change: {what}.", what=preview.words), phrase("Done: {what}.", what=preview.words)
    print(would if args.preview else done)
    for change in preview.changed[:MOST_REFUSED_SHOWN]:
        print(f"  {change.item.id}: {', '.join(change.what)}")
    for refused in preview.refused[:MOST_REFUSED_SHOWN]:
        print(f"  {refused.problem}")
    return 0


def _preview(path: Path, session: KitSession) -> ImportPreview:
    if path.suffix.lower() == ".gpl":
        return preview_items(recoloured_items(read_palette(path), session.kit), session.kit)
    return preview_csv(path, session.kit)


def _preview_answer(preview: ImportPreview, *, done: bool) -> dict[str, Any]:
    return {
        "done": done,
        "added": [item.id for item in preview.added],
        "changed": {change.item.id: list(change.what) for change in preview.changed},
        "unchanged": preview.unchanged,
        "refused": [{"line": one.line, "problem": one.problem} for one in preview.refused],
    }


def _add(args: Namespace, session: KitSession) -> int:
    cells = {name: getattr(args, name) or "" for name in ADDED} | {"kind": args.kind, "name": args.name}
    measured = _measured(args, cells)
    item = item_of_cells(cells, session.kit)
    if measured is not None and isinstance(item.thing, Paint):
        item = replace(item, thing=replace(item.thing, reflectance=measured))
    known = session.kit.get(item.kind, item.id)
    session.put(phrase("Add {item}", item=item.name), [item])
    if args.json:
        write_json({"done": "changed" if known else "added", "item": _answer(item)})
    else:
        kind = named(item.kind)
        changed = phrase("Changed {kind} {id}.", kind=kind, id=item.id)
        print(changed if known else phrase("Added {kind} {id}.", kind=kind, id=item.id))
    return 0


def _cake(args: Namespace, session: KitSession) -> int:
    """Put a cake into the kit from its stripes, or from a photo of it."""
    if bool(args.stripe) == bool(args.picture):
        raise KitWishError(phrase("Say the stripes, --stripe HEX=MM for each, or --picture FILE with --line X,Y,X,Y."))
    if args.picture:
        ends = [parse_number(part) for part in (args.line or "").split(",") if part.strip()]
        if len(ends) != 4:
            raise KitWishError(phrase("--line is four numbers, px: X,Y,X,Y from wall to wall across the stripes."))
        stripes = stripes_in(args.picture, (ends[0], ends[1]), (ends[2], ends[3]), args.width_mm)
    else:
        stripes = tuple(_seen(text) for text in args.stripe)
    items = cake_items(session.kit, args.name, stripes)
    session.put(phrase("Add {name}", name=args.name), items)
    cake = items[-1]
    if args.json:
        write_json({"cake": _answer(cake), "paints": [_answer(one) for one in items[:-1]]})
    else:
        words = ", ".join(phrase("{srgb} {width_mm:.1f} mm", srgb=one.srgb, width_mm=one.width_mm) for one in stripes)
        print(phrase("Added cake {id}: {words}.", id=cake.id, words=words))
    return 0


def _seen(text: str) -> SeenStripe:
    colour, equals, rest = text.partition("=")
    wide, _, name = rest.partition("=")
    if not equals:
        raise KitWishError(
            phrase("'{text}' is no stripe; it is HEX=MM or HEX=MM=NAME, as in #f6f5f0=8=Foam White.", text=text)
        )
    return SeenStripe(format_hex(parse_hex(colour)), parse_length(wide), name)


def _mine(args: Namespace, session: KitSession) -> int:
    """Put out of use what ships, but for these brushes."""
    known = session.kit.ids(ItemKind.BRUSH)
    for name in args.brush:
        if name not in known:
            raise UnknownNameError(phrase("brush"), name, sorted(known))
    items = shipped_away(session.kit, args.brush)
    session.put(phrase("What ships goes out of use"), items)
    if args.json:
        write_json({"changed": [item.id for item in items]})
    else:
        print(
            plural(
                len(items),
                "{count} thing changed; 'kit list --retired' shows all.",
                "{count} things changed; 'kit list --retired' shows all.",
            )
        )
    return 0


def _measured(args: Namespace, cells: dict[str, str]) -> tuple[float, ...] | None:
    """Put the colour of a measurement into the cells and return the measurement itself, if it is a spectrum."""
    ways = [name for name in ("reflectance", "swatch", "read") if getattr(args, name)]
    if not ways:
        return None
    if args.kind != "paint" or len(ways) > 1:
        raise KitWishError(phrase("Measure a paint in one way: --reflectance, --swatch or --read."))
    if args.swatch:
        from pennello.files.swatch import read_picture, read_swatch  # noqa: PLC0415 - Pillow only for pictures

        picture = read_picture(args.swatch)
        area = _area(args.area or f"0,0,{picture.shape[1]},{picture.shape[0]}")
        cells["srgb"] = read_swatch(picture, area, _area(args.white) if args.white else None).srgb
        return None
    if args.read:
        from pennello.session.reader import SimulatedReader  # noqa: PLC0415

        reader = SimulatedReader(patch=args.read)
        reader.calibrate()
        reading = reader.read()
        cells["srgb"] = srgb_of(reading)
        return tuple(reading.tolist())
    values = read_reflectance(args.reflectance)
    cells["srgb"] = srgb_of(np.array(values))
    return values


def _area(text: str) -> Any:
    from pennello.files.swatch import Area  # noqa: PLC0415

    try:
        x, y, width, height = (parse_whole(part) for part in text.split(","))
    except ValueError:
        raise KitWishError(
            phrase("'{text}' is no area; write X,Y,W,H in pixels, as in 120,80,40,40.", text=text)
        ) from None
    return Area(x, y, width, height)
