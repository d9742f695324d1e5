"""The notebook's file: runs as they were, with the time of each step and what was asked and answered before."""

from __future__ import annotations

import contextlib
import sqlite3
from dataclasses import dataclass
from datetime import date, datetime
from pathlib import Path
from typing import Any, Self

import msgspec

from pennello.caution.person import is_personal
from pennello.design.pace import Record, StepKind, parted
from pennello.disk import file_problem
from pennello.errors import FileProblemError, PennelloError, clipped
from pennello.phrases import phrase
from pennello.store.database import BUSY_MS, DATABASE_ERRORS, companions, database_problem, open_database, rows

STEPS: tuple[str, ...] = (
    # 1: runs, their steps, and what was asked before them
    """
    CREATE TABLE runs (
        id INTEGER PRIMARY KEY, plan TEXT NOT NULL, chart TEXT NOT NULL, begun TEXT NOT NULL, ended TEXT NOT NULL,
        hand_s REAL NOT NULL, planned_s REAL NOT NULL, finished INTEGER NOT NULL);
    CREATE TABLE run_steps (
        run INTEGER NOT NULL REFERENCES runs(id) ON DELETE CASCADE, position INTEGER NOT NULL, step TEXT NOT NULL,
        kind TEXT NOT NULL, name TEXT NOT NULL, default_s REAL NOT NULL, actual_s REAL NOT NULL,
        skipped INTEGER NOT NULL, PRIMARY KEY (run, position));
    CREATE TABLE answers (
        run INTEGER NOT NULL REFERENCES runs(id) ON DELETE CASCADE, question TEXT NOT NULL, answer TEXT NOT NULL,
        PRIMARY KEY (run, question));
    CREATE TABLE cautions (
        run INTEGER NOT NULL REFERENCES runs(id) ON DELETE CASCADE, position INTEGER NOT NULL, code TEXT NOT NULL,
        text TEXT NOT NULL, PRIMARY KEY (run, position));
    """,
    # 2: how much of a step's default time is loads within it
    "ALTER TABLE run_steps ADD COLUMN within_s REAL NOT NULL DEFAULT 0;",
    # 3: a page for each run and each note without one, what went wrong on it; tries on practice sheets; what cards told
    """
    CREATE TABLE pages (
        id INTEGER PRIMARY KEY, day TEXT NOT NULL, title TEXT NOT NULL, plan TEXT NOT NULL DEFAULT '',
        part TEXT NOT NULL DEFAULT '', short INTEGER NOT NULL DEFAULT 0,
        run INTEGER REFERENCES runs(id) ON DELETE SET NULL,
        painted_s REAL NOT NULL DEFAULT 0, planned_s REAL NOT NULL DEFAULT 0, note TEXT NOT NULL DEFAULT '',
        light TEXT NOT NULL DEFAULT '', photo TEXT NOT NULL DEFAULT '', picture TEXT NOT NULL DEFAULT '',
        asked TEXT NOT NULL DEFAULT '', kept TEXT NOT NULL DEFAULT '', colours TEXT NOT NULL DEFAULT '');
    CREATE INDEX pages_by_day ON pages (day);
    CREATE TABLE page_faults (
        page INTEGER NOT NULL REFERENCES pages(id) ON DELETE CASCADE, position INTEGER NOT NULL, trouble TEXT NOT NULL,
        piece TEXT NOT NULL DEFAULT '', name TEXT NOT NULL DEFAULT '', mend TEXT NOT NULL DEFAULT '',
        PRIMARY KEY (page, position));
    CREATE TABLE tries (
        id INTEGER PRIMARY KEY, taken TEXT NOT NULL, plan TEXT NOT NULL, what TEXT NOT NULL, name TEXT NOT NULL,
        lesson TEXT NOT NULL DEFAULT '', traced INTEGER NOT NULL DEFAULT 0, number INTEGER NOT NULL,
        points INTEGER NOT NULL, overlap REAL NOT NULL, off_mm REAL NOT NULL, rim_mm REAL, uneven_mm REAL,
        blend_mm REAL, feet_mm REAL NOT NULL, pale_from_mm REAL, wobble_mm REAL NOT NULL, right_mm REAL NOT NULL,
        down_mm REAL NOT NULL, turned_deg REAL NOT NULL, longer REAL NOT NULL, chisel_deg REAL NOT NULL,
        turning_deg REAL NOT NULL, pressed REAL NOT NULL, words TEXT NOT NULL);
    CREATE TABLE learnt (
        id INTEGER PRIMARY KEY, taken TEXT NOT NULL, plan TEXT NOT NULL, item TEXT NOT NULL, name TEXT NOT NULL,
        value REAL NOT NULL, was REAL NOT NULL, shrunk REAL NOT NULL, source TEXT NOT NULL,
        old TEXT NOT NULL DEFAULT '');
    INSERT INTO pages (day, title, run, painted_s, planned_s)
        SELECT begun, plan, id, hand_s, planned_s FROM runs ORDER BY id;
    """,
    # 4: how long each step was to take at the pace of that day
    """
    ALTER TABLE run_steps ADD COLUMN planned_s REAL NOT NULL DEFAULT 0;
    UPDATE run_steps SET planned_s = default_s;
    """,
)
"""Numbered steps of the notebook. Add at the end, never change one that was shipped."""


@dataclass(frozen=True, slots=True)
class StepNote:
    """A step as it was: its id, kind and name, how long the defaults say, how long it took, s, and whether left out.

    Attributes
    ----------
    within_s
        How much of the default time is loads within the step, s.
    planned_s
        How long it was to take at the painter's pace of that day, s.
    """

    step: str
    kind: StepKind
    name: str
    default_s: float
    actual_s: float
    skipped: bool = False
    within_s: float = 0.0
    planned_s: float = 0.0


@dataclass(frozen=True, slots=True)
class RunNote:
    """A run as it was; times of day as ISO 8601, seconds of the hand without pauses."""

    plan: str
    chart: str
    begun: str
    ended: str
    hand_s: float
    planned_s: float
    finished: bool
    steps: tuple[StepNote, ...] = ()
    answers: tuple[tuple[str, str], ...] = ()
    cautions: tuple[tuple[str, str], ...] = ()


class _RunRow(msgspec.Struct):
    id: int
    plan: str
    chart: str
    begun: str
    ended: str
    hand_s: float
    planned_s: float
    finished: int


class StepRow(msgspec.Struct):
    run: int
    step: str
    kind: StepKind
    name: str
    default_s: float
    actual_s: float
    skipped: int
    within_s: float
    planned_s: float


STEPS_OF_RUNS = "SELECT run, step, kind, name, default_s, actual_s, skipped, within_s, planned_s FROM run_steps"


def step_note(row: StepRow) -> StepNote:
    """Return a row of `STEPS_OF_RUNS` as the step that it is."""
    times = (row.default_s, row.actual_s, bool(row.skipped), row.within_s, row.planned_s)
    return StepNote(row.step, row.kind, row.name, *times)


class _SaidRow(msgspec.Struct):
    run: int
    name: str
    text: str


class NotebookFile:
    """The notebook's file; made if it is not there, and only its owner may read it.

    Raises
    ------
    FileProblemError
        If it cannot be opened, is no notebook, or was written by a newer Pennello.
    """

    def __init__(self, path: Path, busy_ms: int = BUSY_MS) -> None:
        self.path = path
        self._connection = open_database(path, STEPS, "notebook", busy_ms)

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        """Let go of the file."""
        self._connection.close()

    def _rows(self, query: str, kind: type[Any]) -> list[Any]:
        return rows(self._connection, self.path, query, kind, "notebook")


class Notebook(NotebookFile):
    """Its runs, with their times and what people said."""

    def add(self, run: RunNote, file: str = "", *, short: bool = False) -> int:
        """Write a run and its page, all of it or nothing; return its number. One that is there is not written twice.

        Parameters
        ----------
        file
            The plan's file, for its page; "" for none.
        short
            Whether it was the plan's short form.

        Raises
        ------
        FileProblemError
            If it cannot be written.
        """
        try:
            return self._add(run, file, short=short)
        except DATABASE_ERRORS as error:
            raise database_problem(self.path, error, "notebook", phrase("the run is not in it yet")) from error

    def _add(self, run: RunNote, file: str, *, short: bool) -> int:
        with self._connection:
            ask = self._connection.execute
            ask("BEGIN IMMEDIATE")
            there = ask(
                "SELECT id FROM runs WHERE plan = ? AND chart = ? AND begun = ? AND ended = ? AND hand_s = ?",
                (run.plan, run.chart, run.begun, run.ended, run.hand_s),
            ).fetchone()
            if there:
                return int(there[0])
            cursor = ask(
                "INSERT INTO runs (plan, chart, begun, ended, hand_s, planned_s, finished) VALUES (?,?,?,?,?,?,?)",
                (run.plan, run.chart, run.begun, run.ended, run.hand_s, run.planned_s, int(run.finished)),
            )
            number = int(cursor.lastrowid or 0)
            self._connection.executemany(
                "INSERT INTO run_steps VALUES (?,?,?,?,?,?,?,?,?,?)",
                [_step_row(number, at, one) for at, one in enumerate(run.steps)],
            )
            self._connection.executemany("INSERT INTO answers VALUES (?,?,?)", [(number, *one) for one in run.answers])
            self._connection.executemany(
                "INSERT INTO cautions VALUES (?,?,?,?)", [(number, at, *one) for at, one in enumerate(run.cautions)]
            )
            ask(
                "INSERT INTO pages (day, title, run, painted_s, planned_s, plan, short) VALUES (?,?,?,?,?,?,?)",
                (run.begun, run.plan, number, run.hand_s, run.planned_s, file, int(short)),
            )
        return number

    def runs(self) -> tuple[RunNote, ...]:
        """Return all runs, the latest first.

        Raises
        ------
        FileProblemError
            If they cannot be read; the sentence names the run.
        """
        steps: dict[int, list[StepNote]] = {}
        for one in self._rows(f"{STEPS_OF_RUNS} ORDER BY run, position", StepRow):
            steps.setdefault(one.run, []).append(step_note(one))
        answers, told = (
            self._said("SELECT run, question AS name, answer AS text FROM answers ORDER BY run, rowid"),
            self._said("SELECT run, code AS name, text FROM cautions ORDER BY run, position"),
        )
        return tuple(
            RunNote(
                row.plan,
                row.chart,
                row.begun,
                row.ended,
                row.hand_s,
                row.planned_s,
                bool(row.finished),
                tuple(steps.get(row.id, ())),
                answers.get(row.id, ()),
                told.get(row.id, ()),
            )
            for row in self._rows("SELECT * FROM runs ORDER BY id DESC", _RunRow)
        )

    def _said(self, query: str) -> dict[int, tuple[tuple[str, str], ...]]:
        found: dict[int, list[tuple[str, str]]] = {}
        for one in self._rows(query, _SaidRow):
            found.setdefault(one.run, []).append((one.name, one.text))
        return {run: tuple(said) for run, said in found.items()}

    def records(self) -> tuple[Record, ...]:
        """Return the times of all steps that were not left out, loads apart, for medians.

        Raises
        ------
        FileProblemError
            If they cannot be read, or a time is none that can be.
        """
        found: list[Record] = []
        for run in self.runs():
            taken = [one for one in run.steps if not one.skipped]
            try:
                found += parted([(Record(one.kind, one.default_s, one.actual_s), one.within_s) for one in taken])
            except (PennelloError, ZeroDivisionError) as error:
                where = phrase("the run of {begun}", begun=clipped(run.begun, 30))
                raise FileProblemError(
                    self.path,
                    phrase(
                        "{where} holds a time that cannot be ({error}); take back a copy.", where=where, error=error
                    ),
                ) from error
        return tuple(found)

    # --- what people said ---

    def answers_kept(self, before: date | None = None) -> int:
        """Return of how many runs, begun before a day or at all, answers about people are kept."""
        return len(self._runs_with_answers(before))

    def forget_answers(self, before: date | None = None) -> int:
        """Erase what people said, and the cautions that tell of it; times and steps stay.

        The pages are overwritten, the journal is emptied, and copies of older versions are erased too.

        Parameters
        ----------
        before
            Only of runs begun before this day; None for all.

        Returns
        -------
        Of how many runs something was erased.

        Raises
        ------
        FileProblemError
            If it cannot be written.
        """
        wanted = self._runs_with_answers(before)
        try:
            if wanted:
                with self._connection:
                    self._connection.execute("BEGIN IMMEDIATE")
                    for run in wanted:
                        _erase(self._connection, run)
                self._connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            self._forget_in_copies()
        except DATABASE_ERRORS as error:
            raise database_problem(self.path, error, "notebook", phrase("nothing was erased")) from error
        return len(wanted)

    def _runs_with_answers(self, before: date | None) -> list[int]:
        said = {one.run for one in self._rows("SELECT run, question AS name, answer AS text FROM answers", _SaidRow)}
        told = self._rows("SELECT run, code AS name, text FROM cautions", _SaidRow)
        said |= {one.run for one in told if is_personal(one.name)}
        begun = {row.id: row.begun for row in self._rows("SELECT * FROM runs", _RunRow)}
        return sorted(run for run in said if before is None or _day_of(begun.get(run, "")) < before)

    def _forget_in_copies(self) -> None:
        """Erase answers in the copies that were kept before steps were taken: they are older than any day.

        A damaged copy goes altogether: nobody can tell what it holds, and nothing can be taken back from it.
        """
        for copy in companions(self.path):
            if not copy.name.endswith(".bak"):
                continue
            try:
                with contextlib.closing(sqlite3.connect(copy)) as old:
                    _erase_all(old)
            except sqlite3.OperationalError:  # one that is in use, or may not be written
                raise
            except sqlite3.DatabaseError:
                _take_away(copy)


def _take_away(copy: Path) -> None:
    try:
        copy.unlink(missing_ok=True)
    except OSError as error:
        raise file_problem(copy, error) from error


def _erase_all(old: sqlite3.Connection) -> None:
    """Erase what people said in a copy; one from before anybody was asked has nothing to erase."""
    old.text_factory = lambda data: data.decode("utf-8", "replace")
    told = {name for (name,) in old.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    old.execute("PRAGMA secure_delete = ON")
    if "answers" in told:
        old.execute("DELETE FROM answers")
    if "cautions" in told:
        codes = [code for (code,) in old.execute("SELECT DISTINCT code FROM cautions").fetchall()]
        old.executemany("DELETE FROM cautions WHERE code = ?", [(code,) for code in codes if is_personal(str(code))])
    old.commit()


def _erase(connection: sqlite3.Connection, run: int) -> None:
    connection.execute("DELETE FROM answers WHERE run = ?", (run,))
    codes = [code for (code,) in connection.execute("SELECT code FROM cautions WHERE run = ?", (run,)).fetchall()]
    connection.executemany(
        "DELETE FROM cautions WHERE run = ? AND code = ?", [(run, code) for code in codes if is_personal(str(code))]
    )


def _day_of(begun: str) -> date:
    """Return the day on which a run began; one that cannot be read was long ago."""
    try:
        return datetime.fromisoformat(begun).date()
    except ValueError:
        return date.min


def _step_row(run: int, position: int, one: StepNote) -> tuple[object, ...]:
    times = (one.default_s, one.actual_s, int(one.skipped), one.within_s, one.planned_s)
    return (run, position, one.step, one.kind.value, one.name, *times)
