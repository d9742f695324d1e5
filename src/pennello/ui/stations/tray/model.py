"""What the Tray shows: one kind of thing of the kit, those that the search finds, and the chosen one."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields, replace
from typing import Any

from PySide6.QtCore import QObject, Signal

from pennello.errors import PennelloError
from pennello.kit.search import found
from pennello.kit.shelf import ItemKind, Keeping, KitItem, Thing, slug
from pennello.limits import fitted
from pennello.phrases import phrase
from pennello.session.kit import KitSession
from pennello.ui.binding import follow
from pennello.units import LengthUnit


class TrayModel(QObject):
    """Follows the kit. It is opened when the Tray is first shown.

    Signals
    -------
    listed
        Other things are on the shelf.
    chosen
        Another thing is chosen, or the chosen one has changed.
    opened
        The kit is there.
    failed(str)
    """

    listed = Signal()
    chosen = Signal()
    opened = Signal()
    failed = Signal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.session: KitSession | None = None
        self.kind = ItemKind.PAINT
        self.query = ""
        self.with_retired = False
        self.unit = LengthUnit.MM
        self.items: list[KitItem] = []
        self._key: tuple[ItemKind, str] | None = None

    def open(self) -> bool:
        """Open the kit if it is not open; say what is wrong if it cannot be."""
        if self.session is not None:
            return True
        try:
            self.session = KitSession()
        except PennelloError as error:
            self.failed.emit(str(error))
            return False
        follow(self, self.session.changed, self.refresh)
        self.refresh()
        self.opened.emit()
        return True

    def close(self) -> None:
        """Let go of the kit."""
        if self.session is not None:
            self.session.changed.disconnect(self.refresh, missing_ok=True)
            self.session.close()
            self.session = None

    @property
    def item(self) -> KitItem | None:
        """The chosen thing."""
        return self.session.kit.items.get(self._key) if self.session and self._key else None

    def refresh(self) -> None:
        """Search anew."""
        if self.session is None:
            return
        self.items = found(self.session.kit, self.kind, self.query, with_retired=self.with_retired)
        keys = {item.key for item in self.items}
        if self._key not in keys:
            self._key = self.items[0].key if self.items else None
        self.listed.emit()
        self.chosen.emit()

    def search(self, query: str) -> None:
        """Show what a query finds."""
        self.query = query
        self.refresh()

    def show_kind(self, kind: ItemKind) -> None:
        """Show another kind of thing."""
        if kind is not self.kind:
            self.kind = kind
            self.refresh()

    def show_retired(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        """Show those out of use too, or not."""
        self.with_retired = on
        self.refresh()

    def choose(self, key: tuple[ItemKind, str]) -> None:
        """Choose a thing."""
        if key != self._key:
            self._key = key
            self.chosen.emit()

    def show_unit(self, unit: LengthUnit) -> None:
        """Show lengths in this unit."""
        self.unit = unit
        self.chosen.emit()

    # --- edits ---

    def guarded(self, act: Callable[[], object]) -> bool:
        """Do something; say what is wrong if it cannot be done."""
        try:
            act()
        except (PennelloError, ValueError) as error:
            self.failed.emit(str(error))
            self.chosen.emit()  # the fields show again what is
            return False
        return True

    def put(self, label: str, *items: KitItem, merge: str = "") -> None:
        """Put things into the kit as a step."""
        session = self.session
        if session is not None:
            self.guarded(lambda: session.put(label, items, merge))

    def change_thing(self, label: str, **changes: Any) -> None:
        """Change the chosen thing."""
        item = self.item
        if item is not None and not set(changes) <= {field.name for field in fields(item.thing)}:
            self.failed.emit(phrase("{item} has no such number; choose a thing that has.", item=item.name))
        elif item is not None:
            merge = f"{item.key} {sorted(changes)}"
            self.guarded(lambda: self.put(label, replace(item, thing=replace(item.thing, **changes)), merge=merge))

    def change_keeping(self, label: str, **changes: Any) -> None:
        """Change what is kept about the chosen thing."""
        item = self.item
        if item is not None:
            merge = f"{item.key} {sorted(changes)}"
            self.guarded(lambda: self.put(label, replace(item, keeping=replace(item.keeping, **changes)), merge=merge))

    def add(self, thing: Thing, label: str, keeping: Keeping | None = None) -> None:
        """Put a thing in under an id of its own and choose it."""
        if self.session is None:
            return
        taken = self.session.kit.ids(KitItem(thing).kind)
        new, number = slug(thing.name), 1
        while new in taken:
            number += 1
            new = f"{slug(thing.name)[:55]}-{number}"
        item = KitItem(replace(thing, id=new), keeping or Keeping())
        self.kind, self.query = item.kind, ""
        self.put(label, item)
        self.choose(item.key)
        self.listed.emit()

    def duplicate(self) -> None:
        """Put a copy of the chosen thing in."""
        item = self.item
        if item is not None:
            self.add(
                replace(item.thing, name=fitted(item.name, " copy")),
                phrase("Copy {item}", item=item.name),
                item.keeping,
            )

    def retire(self) -> None:
        """Take the chosen thing out of use, or back into it."""
        item = self.item
        if item is not None:
            out = not item.keeping.retired
            self.put(
                phrase("Retire {item}", item=item.name) if out else phrase("Take back {item}", item=item.name),
                replace(item, keeping=replace(item.keeping, retired=out)),
            )

    def remove(self) -> None:
        """Take the chosen thing out of the book for good; undo brings it back."""
        item, session = self.item, self.session
        if item is not None and session is not None:
            self.guarded(lambda: session.remove(phrase("Take {item} out", item=item.name), item.key))
