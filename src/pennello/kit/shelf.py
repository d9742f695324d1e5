"""The kit: the painter's own paints, cakes and brushes with what he keeps about each; pure values and edits."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace
from datetime import date
from enum import Enum

from pennello.errors import OutOfRangeError
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.limits import check_named
from pennello.phrases import phrase

MOST_STOCK_G = 100_000.0
MOST_NOTES = 2000

Thing = Paint | Cake | Applicator


class ItemKind(Enum):
    """What an item of the kit is; brushes hold sponges and daubers too."""

    PAINT = "paint"
    CAKE = "cake"
    BRUSH = "brush"


@dataclass(frozen=True, slots=True)
class Keeping:
    """What is kept about an item.

    Attributes
    ----------
    opened, expires
        Dates, or None where nobody wrote one down.
    retired
        Out of use: kept in the book, not offered.
    stock_g
        What is left, grams, 0 to 100 000, or None when it is not counted.
    """

    opened: date | None = None
    expires: date | None = None
    retired: bool = False
    stock_g: float | None = None
    notes: str = ""

    def __post_init__(self) -> None:
        if self.stock_g is not None and not 0 <= self.stock_g <= MOST_STOCK_G:
            raise OutOfRangeError("stock", self.stock_g, "0 to 100000 g")
        if len(self.notes) > MOST_NOTES:
            raise OutOfRangeError(phrase("length of the notes"), len(self.notes), phrase("at most 2000 signs"))

    def expired(self, today: date) -> bool:
        """Return whether the date on the label is over."""
        return self.expires is not None and self.expires < today


@dataclass(frozen=True, slots=True)
class KitItem:
    """A thing and what is kept about it."""

    thing: Thing
    keeping: Keeping = field(default_factory=Keeping)

    def __post_init__(self) -> None:
        check_named(self.kind.value, self.thing.id, self.thing.name)

    @property
    def kind(self) -> ItemKind:
        """What it is."""
        if isinstance(self.thing, Paint):
            return ItemKind.PAINT
        return ItemKind.CAKE if isinstance(self.thing, Cake) else ItemKind.BRUSH

    @property
    def id(self) -> str:
        """Its id among its kind."""
        return self.thing.id

    @property
    def name(self) -> str:
        """Its name."""
        return self.thing.name

    @property
    def key(self) -> tuple[ItemKind, str]:
        """What tells it from every other item."""
        return self.kind, self.thing.id


@dataclass(frozen=True, slots=True, eq=False)
class Kit:
    """All items, each kind in its own order."""

    items: dict[tuple[ItemKind, str], KitItem] = field(default_factory=dict)

    def of(self, kind: ItemKind, *, retired: bool = False) -> list[KitItem]:
        """Return the items of a kind; those out of use only when asked for."""
        return [item for item in self if item.kind is kind and (retired or not item.keeping.retired)]

    def __iter__(self) -> Iterator[KitItem]:
        return iter(self.items.values())

    def __len__(self) -> int:
        return len(self.items)

    def get(self, kind: ItemKind, name: str) -> KitItem | None:
        """Return an item, if it is there."""
        return self.items.get((kind, name))

    @property
    def paints(self) -> dict[str, Paint]:
        """All paints by id, retired ones too: old cakes still name them."""
        return {item.id: item.thing for item in self if isinstance(item.thing, Paint)}

    def with_items(self, items: Iterable[KitItem]) -> Kit:
        """Return the kit with items added or replaced."""
        return Kit({**self.items, **{item.key: item for item in items}})

    def without(self, key: tuple[ItemKind, str]) -> Kit:
        """Return the kit without one item."""
        return Kit({name: item for name, item in self.items.items() if name != key})

    def without_all(self, keys: Iterable[tuple[ItemKind, str]]) -> Kit:
        """Return the kit without some items."""
        gone = set(keys)
        return Kit({name: item for name, item in self.items.items() if name not in gone}) if gone else self

    def ids(self, kind: ItemKind) -> list[str]:
        """Return the ids of a kind."""
        return [name for one, name in self.items if one is kind]

    def users_of(self, paint: str) -> list[str]:
        """Return the names of the cakes that hold a paint."""
        return [item.name for item in self if isinstance(item.thing, Cake) and paint in item.thing.paints]


def slug(name: str) -> str:
    """Return an id made of a name.

    >>> slug("Foam White, 30 g")
    'foam-white-30-g'
    """
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:60] or "item"


def retired(item: KitItem, *, out: bool) -> KitItem:
    """Return the item taken out of use, or back into it."""
    return replace(item, keeping=replace(item.keeping, retired=out))
