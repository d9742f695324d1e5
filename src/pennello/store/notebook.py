"""The notebook's file: runs as they were, with the time of each step and what was asked and answered before."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from pennello.errors import FileProblemError
from pennello.order.pace import Record, StepKind, parted
from pennello.store.database import open_database

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
)
"""Numbered steps of the notebook. Add at the end, never change one that was shipped."""


@dataclass(frozen=True, slots=True)
class StepNote:
    """A step as it was: its id, kind and name, how long the defaults say, how long it took, s, and whether left out.

    Attributes
    ----------
    within_s
        How much of the default time is loads within the step, s.
    """

    step: str
    kind: StepKind
    name: str
    default_s: float
    actual_s: float
    skipped: bool = False
    within_s: float = 0.0


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


class Notebook:
    """The notebook's file; made if it is not there.

    Raises
    ------
    FileProblemError
        If it cannot be opened, is no notebook, or was written by a newer Pennello.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        self._connection = open_database(path, STEPS, "notebook")

    def close(self) -> None:
        """Let go of the file."""
        self._connection.close()

    def add(self, run: RunNote) -> int:
        """Write a run, all of it or nothing; return its number.

        Raises
        ------
        FileProblemError
            If it cannot be written.
        """
        try:
            return self._add(run)
        except sqlite3.Error as error:
            raise FileProblemError(
                self.path, f"the run could not be written into the notebook ({error}); check the folder and its rights."
            ) from error

    def _add(self, run: RunNote) -> int:
        with self._connection:
            self._connection.execute("BEGIN IMMEDIATE")
            cursor = self._connection.execute(
                "INSERT INTO runs (plan, chart, begun, ended, hand_s, planned_s, finished) VALUES (?,?,?,?,?,?,?)",
                (run.plan, run.chart, run.begun, run.ended, run.hand_s, run.planned_s, int(run.finished)),
            )
            number = int(cursor.lastrowid or 0)
            self._connection.executemany(
                "INSERT INTO run_steps VALUES (?,?,?,?,?,?,?,?,?)",
                [_step_row(number, at, one) for at, one in enumerate(run.steps)],
            )
            self._connection.executemany("INSERT INTO answers VALUES (?,?,?)", [(number, *one) for one in run.answers])
            self._connection.executemany(
                "INSERT INTO cautions VALUES (?,?,?,?)", [(number, at, *one) for at, one in enumerate(run.cautions)]
            )
        return number

    def runs(self) -> tuple[RunNote, ...]:
        """Return all runs, the latest first.

        Raises
        ------
        FileProblemError
            If they cannot be read.
        """
        try:
            rows = self._connection.execute(
                "SELECT id, plan, chart, begun, ended, hand_s, planned_s, finished FROM runs ORDER BY id DESC"
            ).fetchall()
            return tuple(self._run(row) for row in rows)
        except (sqlite3.Error, ValueError) as error:
            raise FileProblemError(self.path, f"the notebook cannot be read ({error}); take back a copy.") from error

    def _run(self, row: Sequence[object]) -> RunNote:
        number, plan, chart, begun, ended, hand_s, planned_s, finished = row
        ask = self._connection.execute
        steps = ask(
            "SELECT step, kind, name, default_s, actual_s, skipped, within_s FROM run_steps WHERE run = ? "
            "ORDER BY position",
            (number,),
        ).fetchall()
        answers = ask("SELECT question, answer FROM answers WHERE run = ? ORDER BY rowid", (number,)).fetchall()
        told = ask("SELECT code, text FROM cautions WHERE run = ? ORDER BY position", (number,)).fetchall()
        return RunNote(
            str(plan),
            str(chart),
            str(begun),
            str(ended),
            float(str(hand_s)),
            float(str(planned_s)),
            bool(finished),
            tuple(StepNote(one[0], StepKind(one[1]), one[2], one[3], one[4], bool(one[5]), one[6]) for one in steps),
            tuple((one[0], one[1]) for one in answers),
            tuple((one[0], one[1]) for one in told),
        )

    def records(self) -> tuple[Record, ...]:
        """Return the times of all steps that were not left out, loads apart, for medians; raises FileProblemError."""
        found: list[Record] = []
        for run in self.runs():
            taken = [one for one in run.steps if not one.skipped]
            found += parted([(Record(one.kind, one.default_s, one.actual_s), one.within_s) for one in taken])
        return tuple(found)


def _step_row(run: int, position: int, one: StepNote) -> tuple[object, ...]:
    times = (one.default_s, one.actual_s, int(one.skipped), one.within_s)
    return (run, position, one.step, one.kind.value, one.name, *times)
