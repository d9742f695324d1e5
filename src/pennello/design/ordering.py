"""What the painter says about the order of painting: what matters, what waits, which school he follows."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import Enum
from typing import Annotated

from pennello.design.pace import Tempo
from pennello.errors import OutOfRangeError
from pennello.limits import MOST_RULES, MOST_SEQUENCE
from pennello.phrases import phrase
from pennello.record import Told, check


class Priority(Enum):
    """Whether a part of a design may be left out when the queue is long (common practice)."""

    MUST = "must"
    NICE = "nice"
    SKIP = "skip"


class Sides(Enum):
    """Whether both sides of a mirrored motif come together, or one region of the body is finished first."""

    TOGETHER = "side by side"
    REGIONS = "region by region"
    FREE = "as it falls"


class Whites(Enum):
    """White lights before black lines or after them: two schools (common practice)."""

    FREE = "as it falls"
    BEFORE = "before black"
    AFTER = "after black"


class GlitterWhen(Enum):
    """Glitter onto tacky paint, or as the last touch: two schools (common practice)."""

    TACKY = "while it is tacky"
    LAST = "as the last touch"


class RuleKind(Enum):
    """What a rule of the painter's own asks for between two parts of a design."""

    AFTER = "after"
    DRY = "dry"
    WET = "wet"
    ANY = "any"


@dataclass(frozen=True, slots=True)
class Rule:
    """A rule of the painter's own: `later` comes after `earlier`, when that is dry, still wet, or however it is.

    Both are ids of parts or pieces, names of overlays, kinds of motifs ("leaves"), or strokes of a plan without motifs.
    "any" takes away the wait that Pennello would ask for, and nothing else. With the same id twice it is about what
    lies over each other within it: "dry" lets each row dry, "any" paints all in one go.
    """

    earlier: Annotated[str, Told("a part", text="name")]
    later: Annotated[str, Told("another, or the same for its rows", text="name")]
    kind: Annotated[
        RuleKind, Told("`after`, `dry`, `wet`, or `any` for no wait; `dry` or `any` about the rows of one motif")
    ] = RuleKind.AFTER

    def __post_init__(self) -> None:
        if self.earlier == self.later and self.kind not in (RuleKind.DRY, RuleKind.ANY):
            raise OutOfRangeError(
                phrase("a rule of the order"), self.earlier, phrase("about two parts, or dry or any within one")
            )

    def words(self, names: Mapping[str, str] | None = None) -> str:
        """Return the rule in words; names are what parts are called, by id.

        >>> Rule("r", "r", RuleKind.ANY).words({"r": "Rose"})
        'rows of Rose: do not wait'
        """
        called = names or {}
        earlier, later = called.get(self.earlier, self.earlier), called.get(self.later, self.later)
        if self.earlier == self.later:
            return (
                phrase("rows of {earlier}: let them dry", earlier=earlier)
                if self.kind is RuleKind.DRY
                else phrase("rows of {earlier}: do not wait", earlier=earlier)
            )
        both = {"later": later, "earlier": earlier}
        return {
            RuleKind.AFTER: phrase("{later} after {earlier}", **both),
            RuleKind.DRY: phrase("{later} when {earlier} is dry", **both),
            RuleKind.WET: phrase("{later} while {earlier} is wet", **both),
            RuleKind.ANY: phrase("{later} over {earlier}: do not wait", **both),
        }[self.kind]


WORTH = (0.1, 10.0)
TARGET_S = (5.0, 36_000.0)


@dataclass(frozen=True, slots=True)
class Ordering:
    """How the painter wants it."""

    sequence: Annotated[
        tuple[str, ...],
        Told(
            "ids of steps in the painter's own order; empty to have one found",
            count=(0, MOST_SEQUENCE),
            called="steps in the sequence",
            text="long name",
        ),
    ] = ()
    priorities: Annotated[
        tuple[tuple[str, Priority], ...],
        Told("by id of a motif, name of an overlay, or id of a stroke without motifs: `must`, `nice` or `skip`"),
    ] = ()
    worth: Annotated[
        tuple[tuple[str, float], ...],
        Told("by the same: how much it adds to the look, 0.1 to 10, 1 if not named", items=WORTH),
    ] = ()
    rules: Annotated[tuple[Rule, ...], Told("rules of the painter's own", count=(0, MOST_RULES))] = ()
    sides: Annotated[Sides, Told("`as it falls`, `side by side`, `region by region`")] = Sides.FREE
    whites: Annotated[Whites, Told("`as it falls`, `before black`, `after black`")] = Whites.FREE
    glitter: Annotated[GlitterWhen, Told("`while it is tacky`, `as the last touch`")] = GlitterWhen.TACKY
    tempo: Annotated[
        Tempo,
        Told("how fast the painter works: `at an event`, or `teaching`, where each first load takes 40 s", since=9),
    ] = Tempo.EVENT
    nose_last: Annotated[bool, Told("whether what lies by the ticklish nose comes late")] = True
    target_s: Annotated[
        float | None,
        Told("how long the design may take", "s", within=TARGET_S, called="target time", default="left out: no limit"),
    ] = None

    def __post_init__(self) -> None:
        check(self)
        for name, value in self.worth:
            if not WORTH[0] <= value <= WORTH[1]:
                raise OutOfRangeError(phrase("worth of {name}", name=name), value, "0.1 to 10")

    def priority(self, name: str, usual: Priority = Priority.MUST) -> Priority:
        """Return the priority of a part, or the usual one where the painter named none."""
        return dict(self.priorities).get(name, usual)

    def with_priority(self, name: str, priority: Priority) -> Ordering:
        """Return the same with another priority of a part."""
        return replace(self, priorities=tuple({**dict(self.priorities), name: priority}.items()))

    def with_worth(self, name: str, worth: float) -> Ordering:
        """Return the same with another worth of a part."""
        return replace(self, worth=tuple({**dict(self.worth), name: worth}.items()))

    def with_rule(self, rule: Rule) -> Ordering:
        """Return the same with a rule more, in the place of one about the same two."""
        kept = tuple(one for one in self.rules if {one.earlier, one.later} != {rule.earlier, rule.later})
        return replace(self, rules=(*kept, rule))

    def without_rule(self, rule: Rule) -> Ordering:
        """Return the same without a rule."""
        return replace(self, rules=tuple(one for one in self.rules if one != rule))
