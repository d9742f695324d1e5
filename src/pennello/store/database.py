"""Opening the kit's or the notebook's file: private, write-ahead log, foreign keys, and the steps that it lacks."""

from __future__ import annotations

import contextlib
import os
import shutil
import sqlite3
from collections.abc import Sequence
from pathlib import Path
from typing import TypeVar

import msgspec

from pennello.breath import breathe
from pennello.disk import PRIVATE, file_problem, make_private_folder
from pennello.errors import FileProblemError, clipped
from pennello.phrases import phrase
from pennello.store.migrations import MIGRATIONS

BUSY_MS = 4000
"""How long a worker or a command waits for another one that is writing."""

SOON_MS = 60
"""How long the window waits: nothing may hold up the hand."""

Row = TypeVar("Row", bound=msgspec.Struct)

DATABASE_ERRORS = (sqlite3.Error, UnicodeError, OverflowError)
"""What SQLite raises: its own errors, text that is no UTF-8 (in what it says, too), and numbers too large for it."""


def open_database(
    path: Path, steps: Sequence[str] = MIGRATIONS, what: str = "kit", busy_ms: int = BUSY_MS
) -> sqlite3.Connection:
    """Return a connection to the kit's or another file of steps, made or brought up to date if need be.

    Only its owner may read a new one. Before an older file is changed, a copy of it is kept beside it, with its
    version in the name.

    Parameters
    ----------
    busy_ms
        How long to wait for another one that is writing, ms.

    Raises
    ------
    FileProblemError
        If it cannot be opened, is no database, or was written by a newer Pennello.
    """
    _make_private(path)
    try:
        connection = sqlite3.connect(path, timeout=busy_ms / 1000, isolation_level=None, check_same_thread=False)
    except (OSError, ValueError, sqlite3.Error) as error:
        raise FileProblemError(
            path,
            phrase("the {what} cannot be opened ({error}); check the folder and its rights.", what=what, error=error),
        ) from error
    try:
        connection.execute("PRAGMA journal_mode = WAL")
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute("PRAGMA secure_delete = ON")
        migrate(connection, path, len(steps), steps, what)
    except DATABASE_ERRORS as error:
        connection.close()
        raise database_problem(path, error, what) from error
    except FileProblemError:
        connection.close()
        raise
    return connection


def companions(path: Path) -> list[Path]:
    """Return a database's file with its journals and the copies that were kept of older versions."""
    with contextlib.suppress(OSError):
        beside = {path.name + ending for ending in ("", "-wal", "-shm", "-journal")}
        return [
            one
            for one in path.parent.iterdir()
            if one.name in beside or (one.name.startswith(f"{path.name}.v") and one.name.endswith(".bak"))
        ]
    return []


def _make_private(path: Path) -> None:
    """Make the file, for its owner alone, if it is not there; what somebody else made keeps its rights."""
    make_private_folder(path.parent, ours=False)
    try:
        handle = os.open(path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, PRIVATE)
        os.close(handle)
    except (IsADirectoryError, PermissionError):
        pass  # no file, or one that may only be read: the database says so itself
    except (OSError, ValueError) as error:
        raise file_problem(path, error) from error


def database_problem(path: Path, error: Exception, what: str, doing: str = "") -> FileProblemError:
    """Return what SQLite says as a sentence with a remedy.

    Parameters
    ----------
    doing
        What could not be done, as in "nothing was changed"; ends the sentence.
    """
    words = str(error)
    tail = f"; {doing}" if doing else ""
    if isinstance(error, UnicodeEncodeError):
        return FileProblemError(
            path,
            phrase(
                "the text {text} has half a sign in it, which cannot be written; leave it out{tail}.",
                text=ascii(clipped(error.object, 40)),
                tail=tail,
            ),
        )
    if "full" in words or "disk I/O" in words:
        return FileProblemError(path, phrase("the disk is full; free some space and try again{tail}.", tail=tail))
    if "locked" in words or "busy" in words:
        return FileProblemError(
            path, phrase("the {what} is in use by another Pennello; try again in a moment{tail}.", what=what, tail=tail)
        )
    if "readonly" in words or "attempt to write" in words:
        return FileProblemError(
            path, phrase("the {what}'s file cannot be written; check its rights{tail}.", what=what, tail=tail)
        )
    if "unable to open" in words:
        return FileProblemError(
            path, phrase("the {what} cannot be opened; check the folder and its rights{tail}.", what=what, tail=tail)
        )
    return FileProblemError(
        path,
        phrase(
            "this is not a {what} of Pennello's, or it is damaged ({words}); "
            "move it away and start with a new one, or take back a copy{tail}.",
            what=what,
            words=clipped(words, 120),
            tail=tail,
        ),
    )


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
        If the file is newer than this program, or its version is no number of steps.
    """
    version = version_of(connection)
    if version > len(steps):
        raise FileProblemError(
            path,
            phrase(
                "the {what} was written by a newer Pennello (version {version}, this one knows {count}); "
                "update Pennello to open it. The file is untouched.",
                what=what,
                version=version,
                count=len(steps),
            ),
        )
    if version < 0:
        raise FileProblemError(
            path,
            phrase(
                "the {what} says that it is of version {version}, which there is not; take back a copy.",
                what=what,
                version=version,
            ),
        )
    if 0 < version < to:
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        copy = path.with_name(f"{path.name}.v{version}.bak")
        try:
            shutil.copyfile(path, copy)
            copy.chmod(PRIVATE)
        except OSError as error:
            raise file_problem(copy, error) from error
    for number in range(version, to):
        connection.executescript(f"BEGIN IMMEDIATE; {steps[number]} PRAGMA user_version = {number + 1}; COMMIT;")


def rows(connection: sqlite3.Connection, path: Path, query: str, kind: type[Row], what: str) -> list[Row]:
    """Return what a query finds as values of a kind, each column of its type.

    Raises
    ------
    FileProblemError
        If the database cannot be read, or a column holds something else; the sentence names row and column.
    """
    try:
        cursor = connection.execute(query)
        names = [column[0] for column in cursor.description]
        found = [dict(zip(names, row, strict=True)) for row in cursor]
    except DATABASE_ERRORS as error:
        raise database_problem(path, error, what) from error
    breathe()
    return [_row(path, row, kind, number, what) for number, row in enumerate(found, 1)]


def _told(message: str) -> str:
    """Return what is wrong with a column in words.

    >>> _told("Expected `float`, got `str` - at `$.width_mm`")
    'width_mm: expected a number, got text'
    """
    problem, _, place = message.partition(" - at `$")
    words = {
        "float": phrase("a number"),
        "int": phrase("a whole number"),
        "str": phrase("text"),
        "null": phrase("nothing"),
        " | ": phrase(" or "),
    }
    for term, word in words.items():
        problem = problem.replace(term, word)
    column = place.strip("`.")
    told = clipped(problem.replace("`", "").replace("Expected", "expected"), 90)
    return f"{column}: {told}" if column else told


def _row(path: Path, row: dict[str, object], kind: type[Row], number: int, what: str) -> Row:
    try:
        return msgspec.convert(row, kind)
    except (msgspec.ValidationError, OverflowError) as error:
        named = clipped(str(row.get("id", row.get("name", phrase("row {number}", number=number)))), 40)
        raise FileProblemError(
            path,
            phrase(
                "the {what} is damaged at '{named}' ({told}); take back a copy of it.",
                what=what,
                named=named,
                told=_told(str(error)),
            ),
        ) from error
