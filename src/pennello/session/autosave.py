"""Copies of what is not saved, so that a kill loses nothing older than the last one.

Each Pennello writes under a token of its own, beside the plan, or in the state folder for a plan without a file and
where nothing can be written beside it. So no two ever write over each other's, and a copy that is offered stays as it
is until it is answered. What counts is what a copy holds, not what the clock said.
"""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from hashlib import sha256
from pathlib import Path

from pennello.design.plan import Plan
from pennello.disk import PRIVATE, exists, make_private_folder, sweep, write_bytes
from pennello.errors import FileProblemError, PennelloError
from pennello.files.plan_json import read_plan, sound_bytes
from pennello.phrases import phrase
from pennello.session.document import Document
from pennello.session.owner import TOKEN_SIGNS, Owner

AUTOSAVE_S = 5.0
_SUFFIX, _DAMAGED = ".autosave", ".damaged"
_UNNAMED = "untitled.pennello"


@dataclass(frozen=True, slots=True)
class Recovered:
    """A copy whose Pennello is gone, with something that the file does not hold."""

    plan: Plan
    copy: Path
    saved_at: datetime


@dataclass(frozen=True, slots=True)
class Left:
    """What was left of a plan: copies, the newest first, and damaged ones that were set aside, as sentences."""

    copies: tuple[Recovered, ...] = ()
    set_aside: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Snapshot:
    """What is to be kept: the plan, its file, and how often all had been given up before."""

    plan: Plan
    path: Path | None
    turn: int


class Autosave:
    """Keeps the copy of a document; call `keep` now and then and `forget` once all is saved or given up.

    Parameters
    ----------
    folder
        Where copies of plans without a file go, and of those that lie where nothing can be written.
    """

    def __init__(self, document: Document, folder: Path) -> None:
        self._document = document
        self._folder = folder
        self.owner = Owner(folder)
        self._kept: tuple[Plan, Path] | None = None
        self._turn = 0
        self._writing = threading.Lock()

    # --- keeping ---

    def keep(self) -> None:
        """Write the copy if there is anything new that is not saved; forget it once all is.

        Raises
        ------
        FileProblemError
            If the copy cannot be written; the next call tries again.
        """
        wanted = self.snapshot()
        if wanted is not None:
            self.write(wanted)

    def snapshot(self) -> Snapshot | None:
        """Return what a worker should write, or None where there is nothing new; forget the copy once all is saved."""
        if not self._document.dirty:
            self.forget()
            return None
        plan, path = self._document.committed, self._document.path
        if self._kept and self._kept[0] is plan and self._kept[1] in self._places(path):
            return None
        return Snapshot(plan, path, self._turn)

    def write(self, wanted: Snapshot) -> None:
        """Write a snapshot, unless all was given up meanwhile; may be called by a worker.

        Raises
        ------
        FileProblemError
            If it cannot be written.
        """
        self.owner.claim()
        with self._writing:
            if wanted.turn != self._turn:
                return
            target = self._written(wanted)
            if self._kept and self._kept[1] != target:
                self._remove(self._kept[1])
            self._kept = (wanted.plan, target)
            if wanted.turn != self._turn:  # given up while it was being written
                self._remove_kept()

    def _written(self, wanted: Snapshot) -> Path:
        """Write beside the plan, else into the state folder; return where."""
        *beside, last = self._places(wanted.path)
        data = sound_bytes(wanted.plan, last)
        for place in beside:
            with contextlib.suppress(FileProblemError):
                write_bytes(data, place, mode=_mode_of(wanted.path), follow=False)
                return place
        make_private_folder(last.parent)
        write_bytes(data, last, mode=PRIVATE, follow=False)
        return last

    def forget(self) -> None:
        """Remove the copy that this document wrote; a worker that is writing just now removes it itself."""
        self._turn += 1
        if self._writing.acquire(blocking=False):
            try:
                self._remove_kept()
            finally:
                self._writing.release()

    def _remove_kept(self) -> None:
        if self._kept:
            self._remove(self._kept[1])
            self._kept = None

    def close(self) -> None:
        """Remove the copy and let go of the token: the window closes."""
        self.forget()
        self.owner.release()

    def leave_copy(self) -> None:
        """Write the copy, let go of the token and leave both to the next start: the program is told to end.

        Raises
        ------
        FileProblemError
            If the copy cannot be written.
        """
        try:
            self.keep()
        finally:
            self.owner.release()

    def _places(self, path: Path | None) -> tuple[Path, ...]:
        token = self.owner.token
        if path is None:
            return (self._folder / f"{_UNNAMED}.{token}{_SUFFIX}",)
        return (path.with_name(f".{path.name}.{token}{_SUFFIX}"), self._folder / f"{_far_stem(path)}.{token}{_SUFFIX}")

    @staticmethod
    def _remove(copy: Path) -> None:
        with contextlib.suppress(OSError):
            copy.unlink(missing_ok=True)

    # --- taking up ---

    def left(self, path: Path | None) -> Left:
        """Return copies of a plan that killed ones left, the newest first; damaged ones are set aside."""
        copies, aside = [], []
        sound = None
        if path is not None:
            sweep(path.parent, path.name)
        found = list(self._candidates(path))
        if found and path is not None:  # to be held against; without a copy nobody asks
            with contextlib.suppress(PennelloError):
                sound = read_plan(path)
        for copy in found:
            try:
                plan = read_plan(copy)
            except FileProblemError as error:
                aside.append(_set_aside(copy, error))
                continue
            if plan == sound:
                self._remove(copy)
            else:
                copies.append(Recovered(plan, copy, _changed_at(copy)))
        return Left(tuple(sorted(copies, key=lambda one: one.saved_at, reverse=True)), tuple(aside))

    def recoverable(self, path: Path | None) -> Recovered | None:
        """Return the newest copy that was left of a plan, or None."""
        return next(iter(self.left(path).copies), None)

    def adopt(self, found: Recovered) -> None:
        """Keep what was taken from a copy as this document's own, and only then remove that copy.

        Raises
        ------
        FileProblemError
            If it cannot be written; the copy stays.
        """
        self.keep()
        if self._kept or not self._document.dirty:
            self.discard(found)

    def discard(self, found: Recovered) -> None:
        """Remove a copy that the user does not want."""
        self._remove(found.copy)

    def _candidates(self, path: Path | None) -> Iterator[Path]:
        """Yield the copies of a plan that nobody alive owns, those of Pennello 0.6 with them."""
        stems = (
            [(self._folder, _UNNAMED)]
            if path is None
            else [(path.parent, f".{path.name}"), (self._folder, _far_stem(path))]
        )
        for folder, stem in stems:
            for copy in _listed(folder):
                token = copy.name.removeprefix(stem).removesuffix(_SUFFIX).lstrip(".")
                mine = copy.name.startswith(stem) and copy.name in (f"{stem}.{token}{_SUFFIX}", f"{stem}{_SUFFIX}")
                if mine and len(token) in (0, TOKEN_SIGNS) and (not token or self.owner.left(token)):
                    yield copy


def _listed(folder: Path) -> list[Path]:
    try:
        return sorted(one for one in folder.iterdir() if one.name.endswith(_SUFFIX) and not one.is_symlink())
    except OSError:
        return []


def _far_stem(path: Path) -> str:
    """Return what a copy in the state folder is called: by the plan's whole path."""
    whole = path if path.is_absolute() else Path.cwd() / path
    return f"beside-{sha256(str(whole).encode('utf-8', 'surrogateescape')).hexdigest()[:16]}"


def _mode_of(path: Path | None) -> int:
    """Return the permissions of a copy: nobody may read it who may not read the plan."""
    with contextlib.suppress(OSError):
        if path is not None and exists(path):
            return path.stat().st_mode & 0o666 | PRIVATE
    return PRIVATE


def _changed_at(copy: Path) -> datetime:
    try:
        return datetime.fromtimestamp(copy.stat().st_mtime).astimezone()
    except (OSError, OverflowError, ValueError):
        return datetime.fromtimestamp(0).astimezone()


def _set_aside(copy: Path, error: FileProblemError) -> str:
    """Put a damaged copy out of the way, and say so."""
    kept = copy.with_name(f"{copy.name}{_DAMAGED}")
    with contextlib.suppress(OSError):
        copy.replace(kept)
    return phrase(
        "An autosaved copy is damaged and was set aside as {kept}: {problem}", kept=kept.name, problem=error.problem
    )
