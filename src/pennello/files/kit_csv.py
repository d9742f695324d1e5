"""The kit as one CSV table: a row for each paint, cake and brush, with what will change shown before it does."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass, fields, replace
from datetime import date
from pathlib import Path
from typing import Any
from urllib.parse import quote, unquote

from pennello.disk import write_bytes
from pennello.errors import FileProblemError, PennelloError
from pennello.files.table import CellError, Row, number, read_rows, truth
from pennello.files.words import guarded
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Finish, Paint
from pennello.kit.shelf import ItemKind, Keeping, Kit, KitItem, Thing, slug
from pennello.phrases import phrase
from pennello.record import told_of

_KEEPING = ("opened", "expires", "retired", "stock_g", "notes")
_OPTICAL = ("contrast", "contrast_film_um", "tint", "scatter_exponent")
_NOT_IN_TABLES = ("id", "name", "reflectance", "own")


def _columns(kind: type) -> tuple[str, ...]:
    """Return the columns of a kind of thing: its fields; what an applicator is stands in `applicator`."""
    return tuple("applicator" if name == "kind" else name for name in told_of(kind) if name not in _NOT_IN_TABLES)


_PAINT, _CAKE, _BRUSH = (_columns(kind) for kind in (Paint, Cake, Applicator))
COLUMNS = ("kind", "id", "name", *_PAINT, *_CAKE, *_BRUSH, *_KEEPING)


@dataclass(frozen=True, slots=True)
class Refused:
    """A row that cannot be taken: its line and why."""

    line: int
    problem: str


@dataclass(frozen=True, slots=True)
class Change:
    """An item of the kit that would become another, with the names of what changes."""

    item: KitItem
    what: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class ImportPreview:
    """What taking a table in would do."""

    added: tuple[KitItem, ...] = ()
    changed: tuple[Change, ...] = ()
    unchanged: int = 0
    refused: tuple[Refused, ...] = ()

    @property
    def items(self) -> tuple[KitItem, ...]:
        """All items to put."""
        return (*self.added, *(change.item for change in self.changed))

    @property
    def words(self) -> str:
        """What would happen, in a sentence."""
        parts = [
            phrase("{count} new", count=len(self.added)),
            phrase("{count} changed", count=len(self.changed)),
            phrase("{unchanged} as they are", unchanged=self.unchanged),
        ]
        parts += [phrase("{count} refused", count=len(self.refused))] if self.refused else []
        return ", ".join(parts)


# --- out ---


def csv_bytes(items: Iterable[KitItem]) -> bytes:
    """Return items as CSV: UTF-8, commas, decimal points, quotes where needed."""
    text = io.StringIO(newline="")
    writer = csv.DictWriter(text, COLUMNS, lineterminator="\r\n")
    writer.writeheader()
    for item in items:
        writer.writerow({name: _cell(value) for name, value in values_of(item).items()})
    return text.getvalue().encode()


def write_csv(items: Iterable[KitItem], path: Path) -> None:
    """Write items as CSV; raises FileProblemError."""
    write_bytes(csv_bytes(items), path)


def values_of(item: KitItem) -> dict[str, Any]:
    """Return an item's columns with their values."""
    thing: Any = item.thing
    values: dict[str, Any] = {"kind": item.kind.value, "id": item.id, "name": item.name}
    if isinstance(thing, Paint):
        values |= {name: getattr(thing, name) for name in _PAINT}
    elif isinstance(thing, Cake):
        values |= {name: getattr(thing, name) for name in _CAKE if name != "stripes"}
        values["stripes"] = " ".join(_stripe_text(stripe) for stripe in thing.stripes)
    else:
        values |= {name: getattr(thing, name) for name in _BRUSH if name != "applicator"}
        values["applicator"] = thing.kind
    return values | {name: getattr(item.keeping, name) for name in _KEEPING}


def _stripe_text(stripe: Stripe) -> str:
    worn = f":{stripe.hollow_mm:.12g}" if stripe.hollow_mm else ""
    paint = re.sub(r"[%:\s]", lambda sign: quote(sign[0]), stripe.paint)  # an id may have blanks and colons
    return f"{paint}:{stripe.width_mm:.12g}{worn}"


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, Finish | ApplicatorKind):
        return str(value.value)
    if isinstance(value, float):
        return f"{value:.12g}"
    return guarded(str(value))


# --- in ---


def preview_csv(path: Path, kit: Kit) -> ImportPreview:
    """Return what taking a table in would do to a kit; nothing is changed.

    Cells that are missing or empty leave what the kit has, or its default.

    Raises
    ------
    FileProblemError
        If the file cannot be read or has no column `name`.
    """
    rows = read_rows(path)
    taken: dict[tuple[ItemKind, str], KitItem] = {}
    refused: list[Refused] = []
    for count, row in enumerate(rows):
        if not count and "name" not in row.cells:
            raise FileProblemError(
                path,
                phrase("the first line names no column 'name'; columns are: {columns}.", columns=", ".join(COLUMNS)),
            )
        try:
            item = _item(row, kit)
            taken[item.key] = item
        except (PennelloError, ValueError) as error:
            refused.append(
                Refused(row.line, phrase("line {line}: {error}.", line=row.line, error=str(error).rstrip(".")))
            )
    if not taken and not refused:
        raise FileProblemError(path, phrase("the table has no rows under its first line; there is nothing to take in."))
    known = set(kit.ids(ItemKind.PAINT)) | {name for kind, name in taken if kind is ItemKind.PAINT}
    sound = {key: item for key, item in taken.items() if not _lacking(item, known)}
    for item in taken.values():
        lacks = _lacking(item, known)
        if lacks:
            refused.append(
                Refused(
                    0,
                    phrase(
                        "cake '{id}': there is no paint '{lacks}'; add it or correct the cake.",
                        id=item.id,
                        lacks=lacks[0],
                    ),
                )
            )
    return preview_items(sound.values(), kit, tuple(refused))


def preview_items(items: Iterable[KitItem], kit: Kit, refused: tuple[Refused, ...] = ()) -> ImportPreview:
    """Return what putting items into a kit would do."""
    added, changed, same = [], [], 0
    for item in items:
        old = kit.items.get(item.key)
        if old is None:
            added.append(item)
        elif old == item:
            same += 1
        else:
            changed.append(Change(item, _differences(old, item)))
    return ImportPreview(tuple(added), tuple(changed), same, refused)


def recoloured_items(paints: Iterable[Paint], kit: Kit) -> tuple[KitItem, ...]:
    """Return items for paints of which only the colour is known: what the kit has of them keeps all else."""
    items = []
    named = {paint.name.casefold(): paint.id for paint in kit.paints.values()}
    for paint in paints:
        old = kit.get(ItemKind.PAINT, named.get(paint.name.casefold(), paint.id))
        if old is None or not isinstance(old.thing, Paint):
            items.append(KitItem(paint))
        elif old.thing.srgb == paint.srgb:
            items.append(old)
        else:
            items.append(replace(old, thing=replace(old.thing, srgb=paint.srgb, reflectance=None)))
    return tuple(items)


def _lacking(item: KitItem, known: set[str]) -> list[str]:
    return [name for name in item.thing.paints if name not in known] if isinstance(item.thing, Cake) else []


def _differences(old: KitItem, new: KitItem) -> tuple[str, ...]:
    before, after = values_of(old), values_of(new)
    return tuple(name for name in after if before.get(name) != after[name])


def item_of_cells(cells: dict[str, str], kit: Kit) -> KitItem:
    """Return the item that cells by column describe, over what the kit has of that id; raises PennelloError."""
    item = _item(Row(0, cells), kit)
    lacking = _lacking(item, set(kit.ids(ItemKind.PAINT)))
    if lacking:
        raise CellError(
            phrase(
                "cake '{id}': there is no paint '{lacking}' in the kit; add it first.", id=item.id, lacking=lacking[0]
            )
        )
    return item


def _item(row: Row, kit: Kit) -> KitItem:
    kind = ItemKind(_choice(row.cells.get("kind") or "paint", [one.value for one in ItemKind], "kind"))
    name = row.cells.get("name", "")
    item_id = row.cells.get("id") or slug(name)
    if not name and not row.cells.get("id"):
        raise CellError(phrase("neither id nor name is given"))
    old = kit.get(kind, item_id)
    makers: dict[ItemKind, Callable[[Row, str, str, KitItem | None], Thing]] = {
        ItemKind.PAINT: _paint,
        ItemKind.CAKE: _cake,
        ItemKind.BRUSH: _brush,
    }
    return KitItem(makers[kind](row, item_id, name, old), _keeping(row, old))


def _given(row: Row, readers: dict[str, Callable[[str], Any]]) -> dict[str, Any]:
    """Return those of the cells that are filled, read."""
    values = {}
    for name, read in readers.items():
        text = row.cells.get(name, "")
        if text:
            try:
                values[name] = read(text)
            except (PennelloError, ValueError) as error:
                raise CellError(f"{name}: {error}") from error
    return values


def _choice(text: str, allowed: list[str], name: str) -> str:
    word = text.strip().lower()
    if word not in allowed:
        raise CellError(
            phrase("{name} '{text}' is none of {allowed}", name=name, text=text, allowed=", ".join(allowed))
        )
    return word


def _paint(row: Row, item_id: str, name: str, old: KitItem | None) -> Paint:
    numbers: dict[str, Callable[[str], Any]] = dict.fromkeys(_OPTICAL, number)
    flags: dict[str, Callable[[str], Any]] = dict.fromkeys(("eye_area", "lips", "skin"), truth)
    finish = {"finish": lambda text: Finish(_choice(text, [one.value for one in Finish], "finish"))}
    values = _given(row, {"srgb": _hex, **numbers, **flags, **finish})
    if old and isinstance(old.thing, Paint):
        if "srgb" in values and values["srgb"] != old.thing.srgb:
            values["reflectance"] = None  # measured for another colour
        return replace(old.thing, name=name or old.name, **values)
    if "srgb" not in values:
        raise CellError(phrase("srgb is missing; write it as #rrggbb"))
    return Paint(id=item_id, name=name or item_id, **values)


def _hex(text: str) -> str:
    code = "#" + text.strip().lstrip("#").lower()
    Paint("x", "x", code)
    return code


def _cake(row: Row, item_id: str, name: str, old: KitItem | None) -> Cake:
    sizes: dict[str, Callable[[str], Any]] = dict.fromkeys(("softness_mm", "length_mm", "depth_mm"), number)
    values = _given(row, {"stripes": _stripes, **sizes, "ombre": truth})
    if old and isinstance(old.thing, Cake):
        if "stripes" in values and [(s.paint, s.width_mm) for s in values["stripes"]] == [
            (s.paint, s.width_mm) for s in old.thing.stripes
        ]:  # the table does not carry dirt: it stays
            dirt = (stripe.dirt for stripe in old.thing.stripes)
            values["stripes"] = tuple(replace(s, dirt=d) for s, d in zip(values["stripes"], dirt, strict=True))
        return replace(old.thing, name=name or old.name, **values)
    if "stripes" not in values:
        raise CellError(phrase("stripes are missing; write them as 'paint:mm paint:mm'"))
    return Cake(id=item_id, name=name or item_id, **values)


def _stripes(text: str) -> tuple[Stripe, ...]:
    stripes = []
    for part in text.split():
        paint, *sizes = part.split(":")
        if not 1 <= len(sizes) <= 2:
            raise CellError(phrase("'{part}' is no stripe; write paint:mm, as in foam-white:5", part=part))
        stripes.append(Stripe(unquote(paint), number(sizes[0]), number(sizes[1]) if len(sizes) > 1 else 0.0))
    return tuple(stripes)


def _brush(row: Row, item_id: str, name: str, old: KitItem | None) -> Applicator:
    kinds = [one.value for one in ApplicatorKind]
    readers: dict[str, Callable[[str], Any]] = {column: number for column in _BRUSH if column != "applicator"}
    values = _given(row, {"applicator": lambda text: ApplicatorKind(_choice(text, kinds, "applicator")), **readers})
    kind = values.pop("applicator", None)
    if old and isinstance(old.thing, Applicator):
        return replace(old.thing, name=name or old.name, kind=kind or old.thing.kind, **values)
    if "width_mm" not in values:
        raise CellError(phrase("width_mm is missing"))
    return Applicator(id=item_id, name=name or item_id, kind=kind or ApplicatorKind.FLAT, **values)


def _keeping(row: Row, old: KitItem | None) -> Keeping:
    before = old.keeping if old else Keeping()
    values = _given(
        row, {"opened": _date, "expires": _date, "retired": truth, "stock_g": number, "notes": lambda text: text}
    )
    assert set(values) <= {field.name for field in fields(Keeping)}
    return replace(before, **values)


def _date(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise CellError(phrase("'{text}' is not a date; write it as 2026-11-24", text=text)) from None
