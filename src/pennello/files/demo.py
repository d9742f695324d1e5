"""The plans that ship with Pennello: the Saltmarsh Lantern Walk and its designs. All of it is invented."""

from __future__ import annotations

from dataclasses import dataclass
from importlib.resources import files
from importlib.resources.abc import Traversable

import msgspec

from pennello.design.plan import Plan
from pennello.errors import UnknownNameError
from pennello.files.plan_json import SUFFIX, parse_plan
from pennello.kept import kept_small, remembered
from pennello.phrases import phrase

DEMO_NAME = "saltmarsh-lantern-walk.pennello"
OTHER = "-other"
"""How the name of a file ends that holds a design in its other colours."""


def demo_plan() -> Plan:
    """Return the demo plan."""
    return _read(_folder() / DEMO_NAME)


@dataclass(frozen=True, slots=True)
class ShippedDesign:
    """A whole work that ships with Pennello, and the same in other colours.

    Attributes
    ----------
    key
        Its name in commands.
    """

    key: str
    file: str

    @property
    def title(self) -> str:
        """What it is called; read without the rest of the plan."""
        return _head(self.file).title

    @property
    def colours(self) -> str:
        """What its other colours are called."""
        return _head(self._other).title.removeprefix(f"{self.title}, ")

    @property
    def chart(self) -> str:
        """The chart that it lies on."""
        return _head(self.file).motifs[0].chart

    def read_head(self) -> None:
        """Read what a list says of it, so that nobody waits for that."""
        _head(self.file)
        _head(self._other)

    def plan(self, *, other: bool = False) -> Plan:
        """Return the design, in its other colours if so."""
        return _kept(self._other if other else self.file)

    @property
    def _other(self) -> str:
        return self.file.replace(SUFFIX, OTHER + SUFFIX)


@remembered(1)
def shipped_designs() -> tuple[ShippedDesign, ...]:
    """Return all designs that ship with Pennello, in the order of their numbers."""
    names = sorted(one.name for one in (_folder() / "designs").iterdir() if one.name.endswith(SUFFIX))
    return tuple(
        ShippedDesign(name.partition("-")[2].removesuffix(SUFFIX), name)
        for name in names
        if not name.endswith(OTHER + SUFFIX)
    )


def shipped_design(key: str) -> ShippedDesign:
    """Return a design by its key; raises UnknownNameError."""
    for one in shipped_designs():
        if one.key == key:
            return one
    raise UnknownNameError(phrase("design"), key, [one.key for one in shipped_designs()])


@kept_small
def _kept(name: str) -> Plan:
    return _read(_folder() / "designs" / name)


class _Placed(msgspec.Struct):
    chart: str


class _Head(msgspec.Struct):
    title: str
    motifs: list[_Placed]


@kept_small
def _head(name: str) -> _Head:
    """Return what a list of designs says: to read whole plans for that would keep a hand waiting."""
    return msgspec.json.decode((_folder() / "designs" / name).read_bytes(), type=_Head)


def _folder() -> Traversable:
    return files("pennello.files") / "plans"


def _read(file: Traversable) -> Plan:
    return parse_plan(file.read_bytes(), file.name)
