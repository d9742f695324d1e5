"""The one error tree. Every message is a sentence for a painter; the data is for code."""

from __future__ import annotations


class PennelloError(Exception):
    """Base of everything that Pennello raises on purpose."""


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
    """

    def __init__(self, name: str, value: object, allowed: str) -> None:
        super().__init__(f"{name} is {value}; it must be {allowed}.")
        self.name = name
        self.value = value
        self.allowed = allowed


class UnknownNameError(PennelloError):
    """Something is referred to that is not there."""

    def __init__(self, kind: str, name: str, known: list[str], where: str = "") -> None:
        place = f"{where}: " if where else ""
        listed = ", ".join(known[:12]) + (" ..." if len(known) > 12 else "")
        super().__init__(f"{place}there is no {kind} '{name}'; there is: {listed or 'none'}.")
        self.kind = kind
        self.name = name
        self.known = known


class FileProblemError(PennelloError):
    """A file cannot be read or written; says where, what and the remedy in one sentence."""

    def __init__(self, path: object, problem: str) -> None:
        super().__init__(f"{path}: {problem}")
        self.path = path
        self.problem = problem
