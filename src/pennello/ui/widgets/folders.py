"""Which folder files of a kind were last taken from or written to: each kind has its own."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path

from pennello.disk import exists

KINDS: Mapping[str, tuple[str, ...]] = {
    "plans": (".pennello",),
    "events": (".pennello-day",),
    "motifs": (".pennello-motif",),
    "photos": (".jpg", ".jpeg", ".webp"),
    "pictures": (".png", ".gif"),
    "drawings": (".svg",),
    "tables": (".csv", ".tsv", ".txt", ".gpl", ".ics", ".json"),
    "paper": (".pdf",),
}
"""What is kept together, and how its files end."""


def kind_of(ending: str) -> str:
    """Return the kind of files that end so.

    >>> kind_of(".PDF"), kind_of(".jpg"), kind_of(".odd")
    ('paper', 'photos', 'tables')
    """
    return next((kind for kind, endings in KINDS.items() if ending.lower() in endings), "tables")


class Folders:
    """Folders by kind, as the settings keep them."""

    def __init__(self) -> None:
        self._kept: dict[str, str] = {}
        self._settle: Callable[[dict[str, str]], object] = lambda _: None

    def keep(self, kept: Mapping[str, str], settle: Callable[[dict[str, str]], object]) -> None:
        """Begin with those of the settings; `settle` is told when one is another."""
        self._kept, self._settle = dict(kept), settle

    def of(self, kind: str, otherwise: Path) -> Path:
        """Return where files of a kind are asked for, as long as it is there."""
        kept = Path(self._kept.get(kind, ""))
        return kept if self._kept.get(kind) and exists(kept) else otherwise

    def note(self, kind: str, path: Path) -> None:
        """Remember the folder of a file that was chosen."""
        folder = str(path.parent)
        if self._kept.get(kind) != folder:
            self._kept[kind] = folder
            self._settle(dict(self._kept))


FOLDERS = Folders()
"""Those of this program: there is one window."""
