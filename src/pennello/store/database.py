"""Opening the kit's or the notebook's file: write-ahead log, foreign keys, and the steps that it still lacks."""

from __future__ import annotations

import shutil
import sqlite3
from collections.abc import Sequence
from pathlib import Path

from pennello.errors import FileProblemError
from pennello.store.migrations import MIGRATIONS

BUSY_MS = 4000


def open_database(path: Path, steps: Sequence[str] = MIGRATIONS, what: str = "kit") -> sqlite3.Connection:
    """Return a connection to the kit's or another file of steps, made or brought up to date if need be.

    Before an older file is changed, a copy of it is kept beside it, with its version in the name.

    Raises
    ------
    FileProblemError
        If it cannot be opened, is no database, or was written by a newer Pennello.
    """
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        connection = sqlite3.connect(path, timeout=BUSY_MS / 1000, isolation_level=None)
    except (OSError, sqlite3.Error) as error:
        raise FileProblemError(
            path, f"the {what} cannot be opened ({error}); check the folder and its rights."
        ) from error
    try:
        connection.execute("PRAGMA journal_mode = WAL")
        connection.execute("PRAGMA foreign_keys = ON")
        migrate(connection, path, len(steps), steps, what)
    except sqlite3.Error as error:
        connection.close()
        raise FileProblemError(path, _broken(error, what)) from error
    except FileProblemError:
        connection.close()
        raise
    return connection


def _broken(error: sqlite3.Error, what: str) -> str:
    if "locked" in str(error):
        return f"the {what} is in use by another Pennello; close that one and try again."
    if "readonly" in str(error):
        return f"the {what}'s file cannot be written; check its rights."
    return f"this is not a {what} of Pennello's ({error}); move it away and start with a new one, or take back a copy."


def version_of(connection: sqlite3.Connection) -> int:
    """Return how many steps a file has had."""
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def migrate(
    connection: sqlite3.Connection,
    path: Path,
    to: int = len(MIGRATIONS),
    steps: Sequence[str] = MIGRATIONS,
    what: str = "kit",
) -> None:
    """Take the steps that a file lacks, each whole or not at all.

    Raises
    ------
    FileProblemError
        If the file is newer than this program.
    """
    version = version_of(connection)
    if version > len(steps):
        raise FileProblemError(
            path,
            f"the {what} was written by a newer Pennello (version {version}, this one knows {len(steps)}); "
            "update Pennello to open it. The file is untouched.",
        )
    if 0 < version < to:
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        shutil.copy2(path, path.with_name(f"{path.name}.v{version}.bak"))
    for number in range(version, to):
        connection.executescript(f"BEGIN IMMEDIATE; {steps[number]} PRAGMA user_version = {number + 1}; COMMIT;")
