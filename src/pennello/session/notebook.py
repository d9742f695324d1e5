"""Where the notebook lies, and the painter's own pace from it."""

from __future__ import annotations

from pathlib import Path

import platformdirs

from pennello.order.pace import Pace, own_pace
from pennello.store.notebook import Notebook


def notebook_path() -> Path:
    """Return where the notebook lies (XDG)."""
    return Path(platformdirs.user_data_path("pennello")) / "notebook.sqlite"


def pace_of(path: Path | None = None) -> Pace:
    """Return the painter's own pace: medians of recorded runs, defaults where there are too few.

    Raises
    ------
    FileProblemError
        If there is a notebook that cannot be read.
    """
    where = path or notebook_path()
    if not where.exists():
        return Pace()
    book = Notebook(where)
    try:
        return own_pace(book.records())
    finally:
        book.close()
