"""JSON from anywhere: a byte-order mark is read past, broken UTF-8 and keys that stand twice are refused."""

from __future__ import annotations

import json
import re
from typing import Any

from pennello.errors import FileProblemError, clipped
from pennello.phrases import phrase

_MARK = b"\xef\xbb\xbf"
_TOKEN = re.compile(rb'"((?:[^"\\]|\\.)*)"\s*(:?)|[{}]', re.DOTALL)


class DoubleKeyError(ValueError):
    """A key stands twice in one table."""

    def __init__(self, key: str) -> None:
        super().__init__(key)
        self.key = key


def sound_json(data: bytes, path: object) -> bytes:
    """Return the bytes of a JSON file without a byte-order mark.

    Parameters
    ----------
    path
        What the file is called in messages.

    Raises
    ------
    FileProblemError
        If they are no UTF-8, or a key stands twice in one table; the sentence names the line.
    """
    data = data.removeprefix(_MARK)
    try:
        text = data.decode("utf-8")
    except UnicodeDecodeError as error:
        line = data.count(b"\n", 0, error.start) + 1
        raise FileProblemError(
            path,
            phrase(
                "line {line} holds a damaged sign (byte {start} is no UTF-8); "
                "open the autosaved copy or another copy, or correct that line in a text editor.",
                line=line,
                start=error.start,
            ),
        ) from error
    try:
        json.loads(text, object_pairs_hook=_once)
    except DoubleKeyError as error:
        line = _line_of_second(data, error.key)
        raise FileProblemError(
            path,
            phrase(
                "the key '{key}' stands twice in one table (line {line}); keep one of the two.",
                key=clipped(error.key),
                line=line,
            ),
        ) from error
    except (ValueError, RecursionError):
        return data  # whoever decodes it in earnest says what is wrong
    return data


def _once(pairs: list[tuple[str, Any]]) -> None:
    """Take a table's pairs; all that matters is whether a key stands there twice."""
    if len(pairs) > 1:
        seen = set()
        for key, _ in pairs:
            if key in seen:
                raise DoubleKeyError(key)
            seen.add(key)


def _line_of_second(data: bytes, key: str) -> int:
    """Return the line of the first key that stands twice in its table; tables are told by their braces."""
    tables: list[set[str]] = []
    for token in _TOKEN.finditer(data):
        sign = token[0][:1]
        if sign == b"{":
            tables.append(set())
        elif sign == b"}" and tables:
            tables.pop()
        elif token[2] and tables:
            name = json.loads(b'"' + token[1] + b'"')
            if name in tables[-1] and name == key:
                return data.count(b"\n", 0, token.start()) + 1
            tables[-1].add(name)
    return 1
