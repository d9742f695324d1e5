"""Reading and writing the kit. Changes are written at once, each set of them whole or not at all."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from contextlib import ExitStack
from datetime import date
from pathlib import Path
from typing import Any, TypeVar

import msgspec

from pennello.colour.observer import WAVELENGTH_NM
from pennello.errors import FileProblemError, PennelloError, clipped
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.cake import Cake, Portion, Stripe
from pennello.kit.paint import Finish, Paint
from pennello.kit.shelf import ItemKind, Keeping, Kit, KitItem, Thing
from pennello.phrases import phrase
from pennello.store.database import BUSY_MS, DATABASE_ERRORS, database_problem, open_database, rows

_KEEPING = ("retired", "opened", "expires", "stock_g", "notes")
_PAINT = (
    "name",
    "srgb",
    "contrast",
    "contrast_film_um",
    "tint",
    "scatter_exponent",
    "finish",
    "eye_area",
    "lips",
    "skin",
)
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
    "root_share",
)
_BRUSH = ("name", "kind", *_BRUSH_SIZES, "own")
_PLAIN = Keeping()
_TABLES = {ItemKind.PAINT: "paints", ItemKind.CAKE: "cakes", ItemKind.BRUSH: "brushes"}
_COLUMNS = {ItemKind.PAINT: _PAINT, ItemKind.CAKE: _CAKE, ItemKind.BRUSH: _BRUSH}


Key = tuple[ItemKind, str]
Made = TypeVar("Made", bound="_Row")


class _Row(msgspec.Struct, kw_only=True):
    """What every table of things holds, with the types that its columns must have."""

    id: str
    name: str
    retired: int
    opened: str | None
    expires: str | None
    stock_g: float | None
    notes: str


class _PaintRow(_Row, kw_only=True):
    srgb: str
    contrast: float | None
    contrast_film_um: float
    tint: float
    scatter_exponent: float
    finish: str
    eye_area: int
    lips: int
    skin: int


class _CakeRow(_Row, kw_only=True):
    softness_mm: float
    length_mm: float
    depth_mm: float
    ombre: int


class _BrushRow(_Row, kw_only=True):
    kind: str
    own: str
    width_mm: float
    thickness_mm: float
    bristle_mm: float
    capacity_mm3_per_mm: float
    release_mm: float
    fill_passes: float
    splay: float
    cut_deg: float
    tip_mm: float
    print_mm: float
    drift_mm: float
    root_share: float


class _BandRow(msgspec.Struct):
    paint: str
    r: float


class _StripeRow(msgspec.Struct):
    cake: str
    position: int
    paint: str
    width_mm: float
    hollow_mm: float


class _DirtRow(msgspec.Struct):
    cake: str
    position: int
    paint: str
    mm3: float


class KitChangedError(FileProblemError):
    """Another window or program has changed the same things meanwhile."""

    def __init__(self, path: Path, names: list[str]) -> None:
        listed = ", ".join(clipped(name, 40) for name in names[:4]) + (" ..." if len(names) > 4 else "")
        super().__init__(
            path,
            phrase(
                "{listed} was changed by another Pennello meanwhile; nothing was written over it. "
                "What is there now is shown: make your change again.",
                listed=listed,
            ),
        )
        self.names = names


class KitStore:
    """The kit's file.

    Parameters
    ----------
    path
        Where it lies; it is made if it is not there.
    busy_ms
        How long to wait for another one that is writing, ms.

    Raises
    ------
    FileProblemError
        If it cannot be opened, is no kit, or was written by a newer Pennello.
    """

    def __init__(self, path: Path, busy_ms: int = BUSY_MS) -> None:
        self.path = path
        self._connection = open_database(path, busy_ms=busy_ms)
        with ExitStack() as undone:
            undone.callback(self._connection.close)
            self._seen = self._data_version()
            undone.pop_all()

    def close(self) -> None:
        """Let go of the file."""
        self._connection.close()

    @property
    def changed_elsewhere(self) -> bool:
        """Whether another window or program has written into it since it was last read or written here."""
        return self._data_version() != self._seen

    def _data_version(self) -> int:
        try:
            return int(self._connection.execute("PRAGMA data_version").fetchone()[0])
        except DATABASE_ERRORS as error:
            raise database_problem(self.path, error, "kit") from error

    def read(self) -> Kit:
        """Return all that is in it.

        Raises
        ------
        FileProblemError
            If a value in it cannot be; the sentence names the item.
        """
        self._seen = self._data_version()
        items = [*self._paints(), *self._cakes(), *self._brushes()]
        return Kit({item.key: item for item in items})

    def write(
        self,
        changed: Iterable[KitItem],
        removed: Iterable[Key] = (),
        before: Mapping[Key, KitItem | None] | None = None,
    ) -> None:
        """Write items and take others out, all of it or nothing.

        Parameters
        ----------
        before
            What the writer believes is there of these, None for nothing; without it whatever is there is replaced.

        Raises
        ------
        KitChangedError
            If something else is there by now.
        FileProblemError
            If the file cannot be written; it is as it was.
        """
        try:
            with self._connection:
                self._connection.execute("BEGIN IMMEDIATE")
                if before is not None and self.changed_elsewhere:
                    self._compare(before)
                for kind, name in removed:
                    self._connection.execute(f"DELETE FROM {_TABLES[kind]} WHERE id = ?", (name,))
                last = {kind: self._last_position(table) for kind, table in _TABLES.items()}
                for item in changed:
                    last[item.kind] += 1
                    self._put(item, last[item.kind])
        except DATABASE_ERRORS as error:
            raise database_problem(self.path, error, "kit", phrase("nothing was changed")) from error

    def _compare(self, before: Mapping[Key, KitItem | None]) -> None:
        """Look whether what is to be changed is still what its writer saw."""
        seen, now = self._seen, self.read()
        names = [(item or now.items[key]).name for key, item in before.items() if now.items.get(key) != item]
        if names:
            self._seen = seen  # still to be read
            raise KitChangedError(self.path, names)
        self._seen = seen

    # --- reading ---

    def _things(self, table: str, kind: type[Made], make: Callable[[Made], Thing]) -> list[KitItem]:
        """Return the items of a table; a value that cannot be is told with the item's name."""
        found = []
        for row in rows(self._connection, self.path, f"SELECT * FROM {table} ORDER BY position", kind, "kit"):
            try:
                found.append(KitItem(make(row), _keeping(row)))
            except (PennelloError, ValueError) as error:
                where = f"{table[:-1]} '{clipped(row.id, 40)}'"
                raise FileProblemError(
                    self.path, phrase("{where}: {error} Take back a copy of the kit.", where=where, error=error)
                ) from error
        return found

    def _paints(self) -> list[KitItem]:
        measured: dict[str, list[float]] = {}
        query = "SELECT * FROM reflectances ORDER BY paint, wavelength_nm"
        for band in rows(self._connection, self.path, query, _BandRow, "kit"):
            measured.setdefault(band.paint, []).append(band.r)

        def make(row: _PaintRow) -> Paint:
            seen = measured.get(row.id)
            return Paint(
                id=row.id,
                name=row.name,
                srgb=row.srgb,
                contrast=row.contrast,
                contrast_film_um=row.contrast_film_um,
                tint=row.tint,
                scatter_exponent=row.scatter_exponent,
                finish=Finish(row.finish),
                eye_area=bool(row.eye_area),
                lips=bool(row.lips),
                skin=bool(row.skin),
                reflectance=tuple(seen) if seen else None,
            )

        return self._things("paints", _PaintRow, make)

    def _cakes(self) -> list[KitItem]:
        dirt: dict[tuple[str, int], list[Portion]] = {}
        query = "SELECT * FROM dirt ORDER BY cake, position, paint"
        try:
            for one in rows(self._connection, self.path, query, _DirtRow, "kit"):
                dirt.setdefault((one.cake, one.position), []).append(Portion(one.paint, one.mm3))
            stripes: dict[str, list[Stripe]] = {}
            query = "SELECT * FROM stripes ORDER BY cake, position"
            for row in rows(self._connection, self.path, query, _StripeRow, "kit"):
                own = tuple(dirt.get((row.cake, row.position), ()))
                stripes.setdefault(row.cake, []).append(Stripe(row.paint, row.width_mm, row.hollow_mm, own))
        except FileProblemError:
            raise
        except PennelloError as error:
            raise FileProblemError(
                self.path, phrase("a stripe of a cake: {error} Take back a copy of the kit.", error=error)
            ) from error

        def make(row: _CakeRow) -> Cake:
            own = tuple(stripes.get(row.id, ()))
            return Cake(row.id, row.name, own, row.softness_mm, row.length_mm, row.depth_mm, bool(row.ombre))

        return self._things("cakes", _CakeRow, make)

    def _brushes(self) -> list[KitItem]:
        def make(row: _BrushRow) -> Applicator:
            sizes = {name: getattr(row, name) for name in _BRUSH_SIZES}
            own = tuple(row.own.split())
            return Applicator(id=row.id, name=row.name, kind=ApplicatorKind(row.kind), **sizes, own=own)

        return self._things("brushes", _BrushRow, make)

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


def _keeping(row: _Row) -> Keeping:
    if not (row.retired or row.opened or row.expires or row.notes) and row.stock_g is None:
        return _PLAIN
    opened, expires = (date.fromisoformat(one) if one else None for one in (row.opened, row.expires))
    return Keeping(opened, expires, bool(row.retired), row.stock_g, row.notes)
