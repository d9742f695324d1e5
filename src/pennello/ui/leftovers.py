"""What earlier Pennellos left: runs that ended or were cut off, private files, what people said, stray files."""

from __future__ import annotations

import time
from collections.abc import Sequence
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Signal

from pennello.disk import sweep
from pennello.errors import PennelloError
from pennello.phrases import phrase
from pennello.session.jobs import Jobs
from pennello.session.owner import Owner
from pennello.session.settings import config_folder, state_folder
from pennello.ui.work import begin

if TYPE_CHECKING:
    from pennello.session.run_keeper import KeptRun

_MOST_SAID = 3
_Found = tuple[list[tuple["KeptRun", Path]], list[str]]


class Leftovers(QObject):
    """Looks in the background, once.

    Signals
    -------
    offered(KeptRun, Path)
        A run was cut off; it can be gone on with.
    said(str)
    """

    offered = Signal(object, object)
    said = Signal(str)

    def __init__(self, owner: Owner, parent: QObject) -> None:
        super().__init__(parent)
        self._owner = owner
        self._jobs = Jobs()
        self.looked = False

    def look(self) -> None:
        """Let a worker look; what it finds is said and offered."""
        owner, now_s = self._owner, time.monotonic()
        begin(
            self._jobs,
            "look",
            self,
            lambda _: look_round(owner, now_s, time.time(), date.today()),
            finished=self._take,
            failed=self.said.emit,
            to_the_end=True,
        )

    def _take(self, found: _Found) -> None:
        self.looked = True
        runs, words = found
        if words:
            self.said.emit(" ".join(words))
        if runs:
            self.offered.emit(*runs[0])

    def give_up(self, path: Path) -> None:
        """Forget a run that was cut off."""
        from pennello.session.run_keeper import forget_run  # noqa: PLC0415 - only where there is one

        forget_run(path)

    def close(self) -> None:
        """The window closes."""
        self._jobs.close()


def look_round(owner: Owner, now_s: float, wall_s: float, today: date) -> _Found:
    """See to what was left; return runs to go on with, each with its file, and sentences. A worker does."""
    from pennello.session.kit import kit_path  # noqa: PLC0415 - not before the window is there
    from pennello.session.motif_library import own_motifs  # noqa: PLC0415
    from pennello.session.notebook import let_go_of_answers, note_run, tighten_private_files  # noqa: PLC0415
    from pennello.session.run_keeper import forget_run, left_runs  # noqa: PLC0415

    for folder in (config_folder(), state_folder(), kit_path().parent):
        sweep(folder)
    tighten_private_files()
    words: list[str] = []
    left = left_runs(owner, now_s, wall_s, today)
    words += (*left.set_aside, *_some(own_motifs().unread))
    runs: list[tuple[Any, Path]] = []
    for kept, path in left.runs:
        if not kept.over:
            runs.append((kept, path))
            continue
        try:
            note_run(kept)
        except PennelloError as error:
            words.append(
                phrase(
                    "A run of {kept} has ended and is not in the notebook yet: {error}", kept=kept.title, error=error
                )
            )
        else:
            forget_run(path)
            words.append(phrase("A run of {kept} that had ended is in the notebook now.", kept=kept.title))
    try:
        let_go_of_answers(today)
    except PennelloError as error:
        words.append(str(error))
    return runs, words


def _some(said: Sequence[str]) -> tuple[str, ...]:
    """Return the first of many sentences, and of how many more there would be one."""
    more = len(said) - _MOST_SAID
    return tuple(said) if more <= 0 else (*said[:_MOST_SAID], phrase("So it is with {more} more.", more=more))
