"""The verb `kit`: list, import, export, add."""

from __future__ import annotations

from argparse import Namespace
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from pennello.cli.main import write_json
from pennello.cli.parser import ADDED
from pennello.errors import FileProblemError, PennelloError
from pennello.files.kit_csv import (
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
from pennello.kit.paint import Paint
from pennello.kit.search import found, neighbours
from pennello.kit.shelf import ItemKind, KitItem
from pennello.session.kit import KitSession
from pennello.units import parse_whole

MOST_REFUSED_SHOWN = 20


class KitWishError(PennelloError):
    """What is asked of the kit does not fit together."""


@contextmanager
def _open(wish: Namespace) -> Iterator[KitSession]:
    session = KitSession(wish.kit)
    try:
        yield session
    finally:
        session.close()


def kit(wish: Namespace) -> int:
    """Do something with the kit."""
    act = {"list": _list, "export": _export, "import": _import, "add": _add}[wish.action]
    with _open(wish) as session:
        return act(wish, session)


def _list(wish: Namespace, session: KitSession) -> int:
    kinds = [ItemKind(wish.kind)] if wish.kind else list(ItemKind)
    if wish.neighbours:
        pair = neighbours(session.kit, *wish.neighbours)
        items = [item for item in session.kit.of(ItemKind.CAKE, retired=wish.retired) if item.id in pair]
    else:
        items = [item for kind in kinds for item in found(session.kit, kind, wish.search, with_retired=wish.retired)]
    if wish.json:
        write_json({"kit": str(session.path), "items": [_answer(item) for item in items]})
        return 0
    for item in items:
        out = "  (out of use)" if item.keeping.retired else ""
        print(f"{item.kind.value:6} {item.id:24} {item.name}{out}")
    if not items:
        print("Nothing in the kit is like that.")
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


def _export(wish: Namespace, session: KitSession) -> int:
    kinds = [ItemKind(wish.kind)] if wish.kind else list(ItemKind)
    items = [item for kind in kinds for item in session.kit.of(kind, retired=True)]
    match wish.file.suffix.lower():
        case ".csv":
            write_csv(items, wish.file)
        case ".gpl":
            write_palette([item.thing for item in items if isinstance(item.thing, Paint)], wish.file)
        case _:
            raise FileProblemError(wish.file, "the kit is written as .csv or .gpl; choose one of these endings.")
    print(f"Wrote {wish.file}.")
    return 0


def _import(wish: Namespace, session: KitSession) -> int:
    preview = _preview(wish.file, session)
    if preview.refused and not (wish.preview or wish.skip_bad):
        first = preview.refused[0].problem
        more = f" and {len(preview.refused) - 1} more lines" if len(preview.refused) > 1 else ""
        words = f"{first[:-1]}{more}; correct them or leave them out with --skip-bad. Nothing was changed."
        raise FileProblemError(wish.file, words)
    if not wish.preview:
        session.put(f"Take in {wish.file.name}", preview.items)
    if wish.json:
        write_json(_preview_answer(preview, done=not wish.preview))
        return 0
    print(("Would change: " if wish.preview else "Done: ") + preview.words + ".")
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


def _add(wish: Namespace, session: KitSession) -> int:
    cells = {name: getattr(wish, name) or "" for name in ADDED} | {"kind": wish.kind, "name": wish.name}
    measured = _measured(wish, cells)
    item = item_of_cells(cells, session.kit)
    if measured is not None and isinstance(item.thing, Paint):
        item = replace(item, thing=replace(item.thing, reflectance=measured))
    known = session.kit.get(item.kind, item.id)
    session.put(f"Add {item.name}", [item])
    if wish.json:
        write_json({"done": "changed" if known else "added", "item": _answer(item)})
    else:
        print(f"{'Changed' if known else 'Added'} {item.kind.value} {item.id}.")
    return 0


def _measured(wish: Namespace, cells: dict[str, str]) -> tuple[float, ...] | None:
    """Put the colour of a measurement into the cells and return the measurement itself, if it is a spectrum."""
    ways = [name for name in ("reflectance", "swatch", "read") if getattr(wish, name)]
    if not ways:
        return None
    if wish.kind != "paint" or len(ways) > 1:
        raise KitWishError("Measure a paint in one way: --reflectance, --swatch or --read.")
    if wish.swatch:
        from pennello.files.swatch import read_picture, read_swatch  # noqa: PLC0415 - Pillow only for pictures

        picture = read_picture(wish.swatch)
        area = _area(wish.area or f"0,0,{picture.shape[1]},{picture.shape[0]}")
        cells["srgb"] = read_swatch(picture, area, _area(wish.white) if wish.white else None).srgb
        return None
    if wish.read:
        from pennello.session.reader import SimulatedReader  # noqa: PLC0415

        reader = SimulatedReader(patch=wish.read)
        reader.calibrate()
        reading = reader.read()
        cells["srgb"] = srgb_of(reading)
        return tuple(reading.tolist())
    values = read_reflectance(wish.reflectance)
    cells["srgb"] = srgb_of(np.array(values))
    return values


def _area(text: str) -> Any:
    from pennello.files.swatch import Area  # noqa: PLC0415

    try:
        x, y, width, height = (parse_whole(part) for part in text.split(","))
    except ValueError:
        raise KitWishError(f"'{text}' is no area; write X,Y,W,H in pixels, as in 120,80,40,40.") from None
    return Area(x, y, width, height)
