"""Reading and writing the kit. Changes are written at once, each set of them whole or not at all."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable
from datetime import date
from pathlib import Path
from typing import Any

from pennello.colour.observer import WAVELENGTH_NM
from pennello.errors import FileProblemError, PennelloError
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.cake import Cake, Portion, Stripe
from pennello.kit.paint import Finish, Paint
from pennello.kit.shelf import ItemKind, Keeping, Kit, KitItem
from pennello.store.database import open_database

_KEEPING = ("retired", "opened", "expires", "stock_g", "notes")
_PAINT = ("name", "srgb", "contrast", "contrast_film_um", "tint", "finish", "eye_area", "lips", "skin")
_CAKE = ("name", "softness_mm", "length_mm", "depth_mm", "ombre")
_BRUSH_SIZES = (
    "width_mm",
    "thickness_mm",
    "bristle_mm",
    "capacity_mm3_per_mm",
    "release_mm",
    "fill_passes",
    "splay",
    "cut_deg",
    "tip_mm",
    "print_mm",
    "drift_mm",
)
_BRUSH = ("name", "kind", *_BRUSH_SIZES, "own")
_FINISHES = {finish.value: finish for finish in Finish}
_PLAIN = Keeping()
_TABLES = {ItemKind.PAINT: "paints", ItemKind.CAKE: "cakes", ItemKind.BRUSH: "brushes"}
_COLUMNS = {ItemKind.PAINT: _PAINT, ItemKind.CAKE: _CAKE, ItemKind.BRUSH: _BRUSH}


class KitStore:
    """The kit's file.

    Parameters
    ----------
    path
        Where it lies; it is made if it is not there.

    Raises
    ------
    FileProblemError
        If it cannot be opened, is no kit, or was written by a newer Pennello.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        self._connection = open_database(path)

    def close(self) -> None:
        """Let go of the file."""
        self._connection.close()

    def read(self) -> Kit:
        """Return all that is in it.

        Raises
        ------
        FileProblemError
            If a value in it cannot be; the sentence names the item.
        """
        try:
            items = [*self._paints(), *self._cakes(), *self._brushes()]
        except sqlite3.Error as error:
            raise FileProblemError(self.path, f"the kit cannot be read ({error}); take back a copy.") from error
        return Kit({item.key: item for item in items})

    def write(self, changed: Iterable[KitItem], removed: Iterable[tuple[ItemKind, str]] = ()) -> None:
        """Write items and take others out, all of it or nothing.

        Raises
        ------
        FileProblemError
            If the file cannot be written; it is as it was.
        """
        try:
            with self._connection:
                self._connection.execute("BEGIN IMMEDIATE")
                for kind, name in removed:
                    self._connection.execute(f"DELETE FROM {_TABLES[kind]} WHERE id = ?", (name,))
                last = {kind: self._last_position(table) for kind, table in _TABLES.items()}
                for item in changed:
                    last[item.kind] += 1
                    self._put(item, last[item.kind])
        except sqlite3.Error as error:
            raise FileProblemError(self.path, f"the kit cannot be written ({error}); nothing was changed.") from error

    # --- reading ---

    def _rows(self, table: str, order: str = "position") -> list[dict[str, Any]]:
        cursor = self._connection.execute(f"SELECT * FROM {table} ORDER BY {order}")
        names = [column[0] for column in cursor.description]
        return [dict(zip(names, row, strict=True)) for row in cursor]

    def _item(self, what: str, row: dict[str, Any], make: Any) -> KitItem:
        try:
            return KitItem(make(row), _keeping(row))
        except (PennelloError, ValueError) as error:
            raise FileProblemError(self.path, f"{what} '{row['id']}': {error} Take back a copy of the kit.") from error

    def _paints(self) -> list[KitItem]:
        measured: dict[str, list[float]] = {}
        for row in self._rows("reflectances", "paint, wavelength_nm"):
            measured.setdefault(row["paint"], []).append(row["r"])

        def make(row: dict[str, Any]) -> Paint:
            eye_area, lips, skin = (bool(row[name]) for name in ("eye_area", "lips", "skin"))
            seen = measured.get(row["id"])
            return Paint(
                id=row["id"],
                name=row["name"],
                srgb=row["srgb"],
                contrast=row["contrast"],
                contrast_film_um=row["contrast_film_um"],
                tint=row["tint"],
                finish=_FINISHES.get(row["finish"]) or Finish(row["finish"]),
                eye_area=eye_area,
                lips=lips,
                skin=skin,
                reflectance=tuple(seen) if seen else None,
            )

        return [self._item("paint", row, make) for row in self._rows("paints")]

    def _cakes(self) -> list[KitItem]:
        dirt: dict[tuple[str, int], list[Portion]] = {}
        for row in self._rows("dirt", "cake, position, paint"):
            dirt.setdefault((row["cake"], row["position"]), []).append(Portion(row["paint"], row["mm3"]))
        stripes: dict[str, list[Stripe]] = {}
        for row in self._rows("stripes", "cake, position"):
            own = tuple(dirt.get((row["cake"], row["position"]), ()))
            stripes.setdefault(row["cake"], []).append(Stripe(row["paint"], row["width_mm"], row["hollow_mm"], own))

        def make(row: dict[str, Any]) -> Cake:
            sizes = {name: row[name] for name in ("softness_mm", "length_mm", "depth_mm")}
            return Cake(row["id"], row["name"], tuple(stripes.get(row["id"], ())), **sizes, ombre=bool(row["ombre"]))

        return [self._item("cake", row, make) for row in self._rows("cakes")]

    def _brushes(self) -> list[KitItem]:
        def make(row: dict[str, Any]) -> Applicator:
            sizes = {name: row[name] for name in _BRUSH_SIZES}
            own = tuple(row["own"].split())
            return Applicator(id=row["id"], name=row["name"], kind=ApplicatorKind(row["kind"]), **sizes, own=own)

        return [self._item("brush", row, make) for row in self._rows("brushes")]

    # --- writing ---

    def _last_position(self, table: str) -> int:
        return int(self._connection.execute(f"SELECT COALESCE(MAX(position), 0) FROM {table}").fetchone()[0])

    def _put(self, item: KitItem, position: int) -> None:
        columns = ("id", *_COLUMNS[item.kind], *_KEEPING)
        values = [_plain(_value(item, name)) for name in columns]
        table = _TABLES[item.kind]
        sets = ", ".join(f"{name} = excluded.{name}" for name in columns[1:])
        self._connection.execute(
            f"INSERT INTO {table} (position, {', '.join(columns)}) "
            f"VALUES ({', '.join('?' * (len(columns) + 1))}) ON CONFLICT (id) DO UPDATE SET {sets}",
            [position, *values],
        )
        if isinstance(item.thing, Paint):
            self._put_reflectance(item.thing)
        elif isinstance(item.thing, Cake):
            self._put_stripes(item.thing)

    def _put_reflectance(self, paint: Paint) -> None:
        self._connection.execute("DELETE FROM reflectances WHERE paint = ?", (paint.id,))
        if paint.reflectance is not None:
            rows = zip(WAVELENGTH_NM.tolist(), paint.reflectance, strict=True)
            self._connection.executemany(
                "INSERT INTO reflectances VALUES (?, ?, ?)", [(paint.id, round(nm), float(r)) for nm, r in rows]
            )

    def _put_stripes(self, cake: Cake) -> None:
        self._connection.execute("DELETE FROM stripes WHERE cake = ?", (cake.id,))
        self._connection.execute("DELETE FROM dirt WHERE cake = ?", (cake.id,))
        for at, stripe in enumerate(cake.stripes):
            self._connection.execute(
                "INSERT INTO stripes (cake, position, paint, width_mm, hollow_mm) VALUES (?, ?, ?, ?, ?)",
                (cake.id, at, stripe.paint, float(stripe.width_mm), float(stripe.hollow_mm)),
            )
            self._connection.executemany(
                "INSERT INTO dirt VALUES (?, ?, ?, ?)",
                [(cake.id, at, portion.paint, float(portion.amount)) for portion in stripe.dirt],
            )


def _value(item: KitItem, column: str) -> Any:
    holder: Any = item.keeping if column in _KEEPING else item.thing
    return getattr(holder, column)


def _plain(value: Any) -> Any:
    if isinstance(value, Finish | ApplicatorKind):
        return value.value
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, tuple):
        return " ".join(value)
    return int(value) if isinstance(value, bool) else value


def _keeping(row: dict[str, Any]) -> Keeping:
    if not any(row[name] for name in _KEEPING) and row["stock_g"] is None:
        return _PLAIN
    opened, expires = (date.fromisoformat(row[name]) if row[name] else None for name in ("opened", "expires"))
    return Keeping(opened, expires, bool(row["retired"]), row["stock_g"], row["notes"])
