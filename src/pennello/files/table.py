"""Reading tables that spreadsheets write: byte-order marks, semicolons, tabs, decimal commas, quotes are all fine."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from pennello.disk import read_bytes
from pennello.errors import FileProblemError, PennelloError, clipped
from pennello.files.words import unguarded
from pennello.phrases import phrase
from pennello.units import NumberTextError, parse_number

MOST_BYTES = 40_000_000
MOST_ROWS = 200_000


class CellError(PennelloError):
    """A cell does not hold what it should."""


@dataclass(frozen=True, slots=True)
class Row:
    """One row: its line in the file, and its cells by column, trimmed, lower-case column names."""

    line: int
    cells: dict[str, str]


def read_text(path: Path, most_bytes: int = MOST_BYTES) -> str:
    """Return a file as text: UTF-8 with or without mark, UTF-16 with one, or Windows-1252; raises FileProblemError."""
    data = read_bytes(path, most_bytes)
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return data.decode("utf-16", "replace")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", "replace")


def read_rows(path: Path) -> Iterator[Row]:
    """Give the rows of a table with a head line.

    Raises
    ------
    FileProblemError
        If the file cannot be read, is empty or too long.
    """
    text = read_text(path)
    head = text.lstrip().split("\n", 1)[0]
    if not head.strip():
        raise FileProblemError(path, phrase("the table is empty; its first line should name the columns."))
    separator = max(";\t,", key=head.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator)
    names: list[str] = []
    try:
        for count, cells in enumerate(reader):
            if not any(cell.strip() for cell in cells):
                continue
            if not names:
                names = [cell.strip().lower().replace(" ", "_") for cell in cells]
            elif count > MOST_ROWS:
                raise FileProblemError(
                    path, phrase("the table has more than {most_rows} rows; split it.", most_rows=MOST_ROWS)
                )
            else:
                yield Row(reader.line_num, dict(zip(names, (unguarded(cell.strip()) for cell in cells), strict=False)))
    except csv.Error as error:
        raise FileProblemError(
            path,
            phrase("line {line_num}: {error}; correct the quotes of that line.", line_num=reader.line_num, error=error),
        ) from error


def number(text: str) -> float:
    """Return a number with a decimal point or comma; raises CellError.

    >>> number("0,85"), number("12.5")
    (0.85, 12.5)
    """
    try:
        return parse_number(text.replace("\u00a0", ""))
    except NumberTextError:
        raise CellError(phrase("'{text}' is not a number", text=clipped(text, 40))) from None


def truth(text: str) -> bool:
    """Return yes or no, in the words that tables use; raises CellError."""
    word = text.strip().lower()
    if word in {"yes", "y", "true", "1", "x"}:
        return True
    if word in {"no", "n", "false", "0", ""}:
        return False
    raise CellError(phrase("'{text}' is neither yes nor no", text=clipped(text, 40)))
