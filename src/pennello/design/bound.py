"""What a piece keeps whatever else changes: a stripe of its load on a landmark, its angle to the level; a sign."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pennello.phrases import phrase
from pennello.record import Told, check

LEVEL_DEG = (-180.0, 180.0)


@dataclass(frozen=True, slots=True)
class StripeOn:
    """One stripe of a load kept on a landmark, whatever window, brush or person."""

    paint: Annotated[str, Told("id of the paint whose stripe it is", text="id", since=11)]
    on: Annotated[
        str,
        Told("name of a landmark, of a frame, `midline`, or `pupil line`", text="name", since=11),
    ]

    def __post_init__(self) -> None:
        check(self)


@dataclass(frozen=True, slots=True)
class Sign:
    """Letters, a number or a drawn character: its strokes keep their order."""

    says: Annotated[str, Told("what it says", text="name", since=11)]
    checked: Annotated[bool, Told("whether somebody who reads it has checked it", since=11)] = False

    def __post_init__(self) -> None:
        check(self)

    @property
    def words(self) -> str:
        """What it says, and whether that was checked, for the chair."""
        told = (
            phrase("checked by somebody who reads it")
            if self.checked
            else phrase("nobody who reads it has checked it yet")
        )
        return phrase('It says "{says}": {told}.', says=self.says, told=told)
