"""The one error tree. Every message is a sentence for a painter; the data is for code."""

from __future__ import annotations

from pennello.phrases import phrase

MOST_WORDS = 700
_HEAD, _TAIL = 420, 260


def clipped(text: str, most: int = 60) -> str:
    """Return text that fits into a sentence: what is longer is cut, its end stays.

    >>> clipped("abcdefghij", 8)
    'abc ...j'
    """
    if len(text) <= most:
        return text
    tail = min(most // 4, 12) if most > 8 else 1
    return f"{text[: most - tail - 4]} ...{text[-tail:]}"


class PennelloError(Exception):
    """Base of everything that Pennello raises on purpose; its words never run to megabytes."""

    def __str__(self) -> str:
        words = super().__str__()
        return words if len(words) <= MOST_WORDS else f"{words[:_HEAD]} ... {words[-_TAIL:]}"


class OutOfRangeError(PennelloError):
    """A number lies outside what it can be.

    Parameters
    ----------
    name
        What the number is, with its unit in words.
    value
        What was given.
    allowed
        The range in words, as in "0.05 to 25.4 mm".
    field
        Name of the record's field that holds it, or "".
    """

    def __init__(self, name: str, value: object, allowed: str, field: str = "") -> None:
        super().__init__(
            phrase(
                "{name} is {value}; it must be {allowed}.", name=name, value=clipped(str(value), 80), allowed=allowed
            )
        )
        self.name = name
        self.value = value
        self.allowed = allowed
        self.field = field


class UnknownNameError(PennelloError):
    """Something is referred to that is not there."""

    def __init__(self, kind: str, name: str, known: list[str], where: str = "") -> None:
        place = f"{where}: " if where else ""
        apart = "; " if any("," in one for one in known) else ", "
        listed = apart.join(clipped(one, 40) for one in known[:12]) + (" ..." if len(known) > 12 else "")
        super().__init__(
            phrase(
                "{place}there is no {kind} '{name}'; there is: {listed}.",
                place=place,
                kind=kind,
                name=clipped(name),
                listed=listed or phrase("none"),
            )
        )
        self.kind = kind
        self.name = name
        self.known = known


class FileProblemError(PennelloError):
    """A file cannot be read or written; says where, what and the remedy in one sentence."""

    def __init__(self, path: object, problem: str) -> None:
        super().__init__(f"{path}: {problem}")
        self.path = path
        self.problem = problem
