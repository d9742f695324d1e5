"""A part of a design as a painter would name it: the rose, the base, whiskers."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import Annotated

from pennello.record import Told


class Habit(Enum):
    """How a part is painted (common practice)."""

    USUAL = "as it comes"
    ONE_GO = "in one go"
    ROWS = "rows dry in between"
    WET = "wet into what lies below"
    DRY = "only on dry"
    TACKY = "while it is tacky"


@dataclass(frozen=True, slots=True)
class PlanPart:
    """A part of a design; pieces of charts, and other parts, say that they belong to it."""

    id: Annotated[str, Told("key within a plan", text="id")]
    name: Annotated[str, Told("the name shown", text="name", in_file="", default="the id")]
    within: Annotated[str, Told("id of the part that it belongs to", text="maybe id")] = ""
    habit: Annotated[
        Habit,
        Told(
            "how it is painted: `as it comes`, `in one go`, `rows dry in between`, `wet into what lies below`, "
            "`only on dry`, `while it is tacky`"
        ),
    ] = Habit.USUAL
    one_sided: Annotated[bool, Told("it differs left and right on purpose")] = False
    long_only: Annotated[bool, Told("it is left out of the short form, for when the queue is long")] = False
