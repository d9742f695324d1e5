"""The log in the notebook's file: pages by date, what went wrong on them, tries on practice sheets, what cards told."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import fields, replace
from typing import Any

import msgspec

from pennello.errors import UnknownNameError
from pennello.phrases import phrase
from pennello.practice.records import KeptConstant, KeptTry, LogPage, PageFault
from pennello.practice.tries import TryScore, TrySlip
from pennello.practice.trouble import Trouble
from pennello.store.database import DATABASE_ERRORS, database_problem
from pennello.store.notebook import STEPS_OF_RUNS, NotebookFile, StepNote, StepRow, step_note


class _PageRow(msgspec.Struct):
    id: int
    day: str
    title: str
    plan: str
    part: str
    short: int
    run: int | None
    painted_s: float
    planned_s: float
    note: str
    light: str
    photo: str
    picture: str
    asked: str
    kept: str
    colours: str


class _FaultRow(msgspec.Struct):
    page: int
    trouble: Trouble
    piece: str
    name: str
    mend: str


class _TryRow(msgspec.Struct):
    taken: str
    plan: str
    what: str
    name: str
    lesson: str
    traced: int
    number: int
    points: int
    overlap: float
    off_mm: float
    rim_mm: float | None
    uneven_mm: float | None
    blend_mm: float | None
    feet_mm: float
    pale_from_mm: float | None
    wobble_mm: float
    right_mm: float
    down_mm: float
    turned_deg: float
    longer: float
    chisel_deg: float
    turning_deg: float
    pressed: float
    words: str


_PAGE = ("day", "title", "plan", "part", "short", "run", "painted_s", "planned_s", "note", "light", "photo", "picture")
_PAGE_COLUMNS = (*_PAGE, "asked", "kept", "colours")
_TRY_COLUMNS = tuple(one for one in _TryRow.__struct_fields__)
_LEARNT = ", ".join(one.name for one in fields(KeptConstant))
_BETWEEN = ", "


class Log(NotebookFile):
    """Its pages, the tries on practice sheets, and what cards told."""

    # --- pages ---

    def pages(self) -> tuple[LogPage, ...]:
        """Return all pages, the latest first.

        Raises
        ------
        FileProblemError
            If they cannot be read; the sentence names the page.
        """
        return self._pages("1")

    def page(self, number: int) -> LogPage:
        """Return a page; raises UnknownNameError."""
        found = self._pages(f"id = {int(number)}")
        if not found:
            raise UnknownNameError(phrase("page"), str(number), [str(one.id) for one in self.pages()[:12]])
        return found[0]

    def steps_of_run(self, run: int) -> tuple[StepNote, ...]:
        """Return the steps of a run at the chair in their order; none where the run is not there."""
        found = self._rows(f"{STEPS_OF_RUNS} WHERE run = {int(run)} ORDER BY position", StepRow)
        return tuple(step_note(row) for row in found)

    def _pages(self, where: str) -> tuple[LogPage, ...]:
        """Return the pages of a condition, which is none of anybody's words, the latest first."""
        own = f"SELECT id FROM pages WHERE {where}"
        faults: dict[int, list[PageFault]] = {}
        for one in self._rows(f"SELECT * FROM page_faults WHERE page IN ({own}) ORDER BY page, position", _FaultRow):
            faults.setdefault(one.page, []).append(PageFault(one.trouble, one.piece, one.name, one.mend))
        found = self._rows(f"SELECT * FROM pages WHERE {where} ORDER BY day DESC, id DESC", _PageRow)
        return tuple(_page_of(row, tuple(faults.get(row.id, ()))) for row in found)

    def put(self, page: LogPage, *, anew: bool = False) -> LogPage:
        """Keep a page, all of it or nothing, and return it with its number.

        Parameters
        ----------
        anew
            Whether a page that has a number was taken out and comes back under it.

        Raises
        ------
        FileProblemError
            If it cannot be written.
        UnknownNameError
            If it has a number that no page has.
        """

        def write(ask: Any) -> int:
            number = _changed(ask, page) if page.id and not anew else _added(ask, page)
            ask("DELETE FROM page_faults WHERE page = ?", (number,))
            for at, one in enumerate(page.faults):
                row = (number, at, one.trouble.value, one.piece, one.name, one.mend)
                ask("INSERT INTO page_faults VALUES (?,?,?,?,?,?)", row)
            return number

        return replace(page, id=self._written(write, phrase("the page is not in it")))

    def remove(self, number: int) -> None:
        """Take a page out; its run's times stay for the pace."""
        self._written(
            lambda ask: ask("DELETE FROM pages WHERE id = ?", (number,)).rowcount, phrase("the page is still there")
        )

    # --- tries and constants ---

    def add_tries(self, tries: Sequence[KeptTry]) -> None:
        """Keep tries, all or none."""
        marks = ", ".join("?" * len(_TRY_COLUMNS))

        def write(ask: Any) -> int:
            for one in tries:
                ask(f"INSERT INTO tries ({', '.join(_TRY_COLUMNS)}) VALUES ({marks})", _try_values(one))
            return len(tries)

        self._written(write, phrase("the tries are not in it"))

    def tries(self) -> tuple[KeptTry, ...]:
        """Return all tries, the earliest first."""
        return tuple(
            _try_of(row) for row in self._rows(f"SELECT {', '.join(_TRY_COLUMNS)} FROM tries ORDER BY id", _TryRow)
        )

    def forget_tries(self) -> int:
        """Take all tries out; the hand is a default one again. Return how many there were."""
        return self._written(lambda ask: ask("DELETE FROM tries").rowcount, phrase("the tries are still there"))

    def add_learnt(self, learnt: Sequence[KeptConstant]) -> None:
        """Keep constants that were learnt, all or none."""

        def write(ask: Any) -> int:
            for one in learnt:
                values = [getattr(one, name.name) for name in fields(KeptConstant)]
                ask(
                    f"INSERT INTO learnt ({_LEARNT}) VALUES ({', '.join('?' * len(values))})",
                    values,
                )
            return len(learnt)

        self._written(write, phrase("what was learnt is not in it"))

    def learnt(self) -> tuple[KeptConstant, ...]:
        """Return all constants that were learnt, the latest first."""
        query = f"SELECT {_LEARNT} FROM learnt ORDER BY id DESC"
        return tuple(self._rows(query, KeptConstant))

    def _written(self, write: Any, doing: str) -> int:
        try:
            with self._connection:
                self._connection.execute("BEGIN IMMEDIATE")
                return int(write(self._connection.execute))
        except DATABASE_ERRORS as error:
            raise database_problem(self.path, error, "notebook", doing) from error


def _page_of(row: _PageRow, faults: tuple[PageFault, ...]) -> LogPage:
    plain = {name: getattr(row, name) for name in _PAGE_COLUMNS if name not in ("short", "colours")}
    colours = tuple(one for one in row.colours.split(_BETWEEN) if one)
    return LogPage(id=row.id, short=bool(row.short), colours=colours, faults=faults, **plain)


def _try_values(one: KeptTry) -> list[object]:
    score, slip = one.score, one.score.slip
    head = [one.taken, one.plan, one.what, one.name, one.lesson, int(one.traced), score.number, score.points]
    measured = [score.overlap, score.off_mm, score.rim_mm, score.rim_uneven_mm, score.blend_mm, score.feet_mm]
    slipped = [
        slip.right_mm,
        slip.down_mm,
        slip.turned_deg,
        slip.longer,
        slip.chisel_deg,
        slip.turning_deg,
        slip.pressed,
    ]
    return [*head, *measured, score.pale_from_mm, score.wobble_mm, *slipped, score.words]


def _try_of(row: _TryRow) -> KeptTry:
    slip = TrySlip(row.right_mm, row.down_mm, row.turned_deg, row.longer, row.chisel_deg, row.turning_deg, row.pressed)
    score = TryScore(
        row.number,
        row.overlap,
        row.off_mm,
        row.rim_mm,
        row.uneven_mm,
        row.blend_mm,
        row.feet_mm,
        row.pale_from_mm,
        row.wobble_mm,
        slip,
        row.words,
    )
    return KeptTry(row.taken, row.plan, row.what, row.name, score, row.lesson, bool(row.traced))


def _values(page: LogPage) -> list[object]:
    """Return what stands in the columns of a page."""
    plain = [getattr(page, name) for name in _PAGE_COLUMNS]
    plain[_PAGE_COLUMNS.index("short")] = int(page.short)
    plain[_PAGE_COLUMNS.index("colours")] = _BETWEEN.join(page.colours)
    return plain


def _changed(ask: Any, page: LogPage) -> int:
    sets = ", ".join(f"{name} = ?" for name in _PAGE_COLUMNS)
    if not ask(f"UPDATE pages SET {sets} WHERE id = ?", (*_values(page), page.id)).rowcount:
        raise UnknownNameError(phrase("page"), str(page.id), [])
    return page.id


def _added(ask: Any, page: LogPage) -> int:
    marks = ", ".join("?" * (len(_PAGE_COLUMNS) + 1))
    columns = ", ".join(("id", *_PAGE_COLUMNS))
    cursor = ask(f"INSERT INTO pages ({columns}) VALUES ({marks})", (page.id or None, *_values(page)))
    return int(cursor.lastrowid or 0)
