"""What the painter says about the order of painting: what matters, what waits, which school he follows."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import Enum

from pennello.errors import OutOfRangeError


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

    Both are ids of motifs, of overlays, or of strokes of a plan without motifs. "any" takes away the wait that
    Pennello would ask for, and nothing else. With the same id twice it is about the rows of one motif: "dry" lets
    each dry before the next goes over it, "any" does not.
    """

    earlier: str
    later: str
    kind: RuleKind = RuleKind.AFTER

    def __post_init__(self) -> None:
        if self.earlier == self.later and self.kind not in (RuleKind.DRY, RuleKind.ANY):
            raise OutOfRangeError("a rule of the order", self.earlier, "about two parts, or dry or any within one")

    def words(self, names: Mapping[str, str] | None = None) -> str:
        """Return the rule in words; names are what parts are called, by id.

        >>> Rule("r", "r", RuleKind.ANY).words({"r": "Rose"})
        'rows of Rose: do not wait'
        """
        called = names or {}
        earlier, later = called.get(self.earlier, self.earlier), called.get(self.later, self.later)
        if self.earlier == self.later:
            return f"rows of {earlier}: {'let them dry' if self.kind is RuleKind.DRY else 'do not wait'}"
        return {
            RuleKind.AFTER: f"{later} after {earlier}",
            RuleKind.DRY: f"{later} when {earlier} is dry",
            RuleKind.WET: f"{later} while {earlier} is wet",
            RuleKind.ANY: f"{later} over {earlier}: do not wait",
        }[self.kind]


WORTH = (0.1, 10.0)
TARGET_S = (5.0, 36_000.0)


@dataclass(frozen=True, slots=True)
class Ordering:
    """How the painter wants it.

    Attributes
    ----------
    sequence
        Ids of steps in the painter's own order; empty to have one found.
    priorities, worth
        By id of a motif or overlay: must, nice or skip; how much it adds to the look, 0.1 to 10 (1 if not named).
    nose_last
        Whether what lies by the ticklish nose comes late.
    target_s
        How long the design may take, s, or None.
    """

    sequence: tuple[str, ...] = ()
    priorities: tuple[tuple[str, Priority], ...] = ()
    worth: tuple[tuple[str, float], ...] = ()
    rules: tuple[Rule, ...] = ()
    sides: Sides = Sides.FREE
    whites: Whites = Whites.FREE
    glitter: GlitterWhen = GlitterWhen.TACKY
    nose_last: bool = True
    target_s: float | None = None

    def __post_init__(self) -> None:
        for name, value in self.worth:
            if not WORTH[0] <= value <= WORTH[1]:
                raise OutOfRangeError(f"worth of {name}", value, "0.1 to 10")
        if self.target_s is not None and not TARGET_S[0] <= self.target_s <= TARGET_S[1]:
            raise OutOfRangeError("target time", self.target_s, "5 to 36000 s")

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
