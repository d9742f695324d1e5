"""The open kit: read once, changed through here, every change written at once and taken back by undo."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

import platformdirs
from psygnal import Signal

from pennello.kit import catalogue
from pennello.kit.shelf import ItemKind, Kit, KitItem, Thing
from pennello.store.kit_store import KitStore

_APP = "pennello"
MOST_UNDO = 200


def kit_path() -> Path:
    """Return where the kit lies (XDG data)."""
    return Path(platformdirs.user_data_path(_APP)) / "kit.sqlite"


def shipped_kit() -> Kit:
    """Return the kit that Pennello ships: what a new file begins with."""
    things: list[Thing] = [*catalogue.paints().values(), *catalogue.cakes().values(), *catalogue.brushes().values()]
    return Kit().with_items(KitItem(thing) for thing in things)


@dataclass(frozen=True, slots=True)
class _Step:
    label: str
    before: Kit
    after: Kit


class KitSession:
    """The kit with its history.

    Signals
    -------
    changed
        The kit is another one.
    """

    changed = Signal()

    def __init__(self, path: Path | None = None) -> None:
        self._store = KitStore(path or kit_path())
        self.kit = self._store.read()
        self._done: list[_Step] = []
        self._undone: list[_Step] = []
        if not len(self.kit):
            self.kit = shipped_kit()
            self._store.write(self.kit)

    @property
    def path(self) -> Path:
        """Where it lies."""
        return self._store.path

    @property
    def undo_label(self) -> str | None:
        """What undo would take back."""
        return self._done[-1].label if self._done else None

    def close(self) -> None:
        """Let go of the file."""
        self._store.close()

    def put(self, label: str, items: Iterable[KitItem]) -> None:
        """Add or replace items as one step; raises FileProblemError, and then nothing is changed."""
        self._take(label, self.kit.with_items(items))

    def remove(self, label: str, key: tuple[ItemKind, str]) -> None:
        """Take an item out for good, as one step."""
        self._take(label, self.kit.without(key))

    def undo(self) -> None:
        """Take back the last step."""
        if self._done:
            step = self._done[-1]
            self._show(step.after, step.before)
            self._undone.append(self._done.pop())

    def redo(self) -> None:
        """Do the step again that undo took back."""
        if self._undone:
            step = self._undone[-1]
            self._show(step.before, step.after)
            self._done.append(self._undone.pop())

    def _take(self, label: str, kit: Kit) -> None:
        before = self.kit
        self._show(before, kit)
        self._done = [*self._done[-MOST_UNDO + 1 :], _Step(label, before, kit)]
        self._undone.clear()

    def _show(self, before: Kit, after: Kit) -> None:
        changed = [item for key, item in after.items.items() if before.items.get(key) != item]
        removed = [key for key in before.items if key not in after.items]
        self._store.write(changed, removed)
        self.kit = after
        self.changed.emit()
