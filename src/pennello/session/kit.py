"""The open kit: read once, changed through here, every change written at once and taken back by undo."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable
from contextlib import ExitStack, closing
from datetime import date
from pathlib import Path

import platformdirs
from psygnal import Signal

from pennello.disk import exists
from pennello.errors import PennelloError
from pennello.kit import catalogue
from pennello.kit.shelf import ItemKind, Kit, KitItem, Thing
from pennello.phrases import phrase
from pennello.session.history import History, Undoable
from pennello.store.database import BUSY_MS
from pennello.store.kit_store import KitChangedError, KitStore

_APP = "pennello"
MOST_UNDO = 200


def kit_path() -> Path:
    """Return where the kit lies (XDG data)."""
    return Path(platformdirs.user_data_path(_APP)) / "kit.sqlite"


def expired_names(path: Path | None = None, today: date | None = None, busy_ms: int = BUSY_MS) -> tuple[str, ...]:
    """Return the names of what is past its date in a kit, the painter's own if none is named; nothing without one.

    Raises
    ------
    FileProblemError
        If the kit cannot be read.
    """
    kit = kit_there(path, busy_ms) or Kit()
    return tuple(item.thing.name for item in kit if item.keeping.expired(today or date.today()))


def kit_there(path: Path | None = None, busy_ms: int = BUSY_MS) -> Kit | None:
    """Return a kit as it is now, the painter's own if none is named, or None where there is none.

    Raises
    ------
    FileProblemError
        If it cannot be read.
    """
    where = path or kit_path()
    if not exists(where):
        return None
    with closing(KitStore(where, busy_ms)) as store:
        kit: Kit = store.read()
        return kit


def kit_if_any() -> Kit | None:
    """Return the painter's own kit as it is now, or None where there is none or it cannot be read."""
    try:
        return kit_there()
    except PennelloError:
        return None


def shipped_kit() -> Kit:
    """Return the kit that Pennello ships: what a new file begins with."""
    things: list[Thing] = [*catalogue.paints().values(), *catalogue.cakes().values(), *catalogue.brushes().values()]
    return Kit().with_items(KitItem(thing) for thing in things)


class StillUsedError(PennelloError):
    """A paint cannot go while cakes hold it."""

    def __init__(self, name: str, users: list[str]) -> None:
        listed = ", ".join(users[:4]) + (" ..." if len(users) > 4 else "")
        super().__init__(
            phrase(
                "{name} is in {listed}; retire it instead, or take it out of these cakes first.",
                name=name,
                listed=listed,
            )
        )
        self.users = users


class KitSession(Undoable):
    """The kit with its history.

    Signals
    -------
    changed
        The kit is another one.
    """

    changed = Signal()

    def __init__(
        self, path: Path | None = None, clock: Callable[[], float] = time.monotonic, busy_ms: int = BUSY_MS
    ) -> None:
        self._history: History[Kit] = History(clock, MOST_UNDO)
        self._store = KitStore(path or kit_path(), busy_ms)
        with ExitStack() as undone:
            undone.callback(self._store.close)  # a worker may be stopped while it reads
            self.kit = self._store.read()
            if not len(self.kit):
                self.kit = shipped_kit()
                self._store.write(self.kit)
            undone.pop_all()

    @property
    def path(self) -> Path:
        """Where it lies."""
        return self._store.path

    def close(self) -> None:
        """Let go of the file."""
        self._store.close()

    def put(self, label: str, items: Iterable[KitItem], merge: str = "") -> None:
        """Add or replace items as one step; raises FileProblemError, and then nothing is changed.

        Steps in quick succession with the same `merge` become one ("" never merges).
        """
        self._take(label, self.kit.with_items(items), merge)

    def remove(self, label: str, key: tuple[ItemKind, str]) -> None:
        """Take an item out for good, as one step.

        Raises
        ------
        StillUsedError
            If it is a paint that a cake holds.
        """
        users = self.kit.users_of(key[1]) if key[0] is ItemKind.PAINT else []
        if users:
            raise StillUsedError(self.kit.paints[key[1]].name, users)
        self._take(label, self.kit.without(key))

    def undo(self) -> None:
        """Take back the last step."""
        if self._history.take_back(self._show):
            self.changed.emit()

    def redo(self) -> None:
        """Do the step again that undo took back."""
        if self._history.do_again(self._show):
            self.changed.emit()

    def _take(self, label: str, kit: Kit, merge: str = "") -> None:
        before = self.kit
        self._show(before, kit)
        self._history.add(label, before, kit, merge)
        self.changed.emit()

    def look_again(self) -> None:
        """Read the kit anew where another window or program has written into it; raises FileProblemError."""
        if self._store.changed_elsewhere:
            self.kit = self._store.read()
            self.changed.emit()

    def _show(self, before: Kit, after: Kit) -> None:
        """Write what differs between two kits against the rows that were read; what others wrote elsewhere stays.

        Raises
        ------
        KitChangedError
            If another one has changed the same things; what is there now is shown.
        """
        changed = [item for key, item in after.items.items() if before.items.get(key) != item]
        removed = [key for key in before.items if key not in after.items]
        touched = [*(item.key for item in changed), *removed]
        try:
            self._store.write(changed, removed, {key: before.items.get(key) for key in touched})
        except KitChangedError:
            self.look_again()
            raise
        if self._store.changed_elsewhere:
            self.kit = self._store.read()
        elif self.kit.items == before.items:
            self.kit = after
        else:  # what another window wrote in between stays
            self.kit = self.kit.without_all(removed).with_items(changed)
