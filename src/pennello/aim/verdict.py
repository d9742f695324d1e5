"""The verdict on a stroke: holds, close or misses, with one sentence a cause."""

from __future__ import annotations

from dataclasses import dataclass

from pennello.aim.attempt import Attempt
from pennello.aim.causes import Case, find_causes
from pennello.aim.comparison import Comparison
from pennello.aim.state import State, state_of
from pennello.finding import Finding
from pennello.kit.paint import Paint
from pennello.lay.laying import Laid
from pennello.phrases import phrase
from pennello.units import LengthUnit, difference_words

_APART = {
    phrase("cannot be told apart"): phrase("it cannot be told apart from what you want"),
    phrase("only side by side"): phrase("only side by side does it differ from what you want"),
    phrase("seen"): phrase("one sees that it is not what you want"),
    phrase("another colour"): phrase("it is another colour than you want"),
}
"""Words before figures: how far a stroke is from the wish, by the scale of all differences."""


@dataclass(frozen=True, slots=True)
class Verdict:
    """State, figures and causes, the cause whose mend gains most first."""

    state: State
    mean_de00: float
    p95_de00: float
    causes: tuple[Finding, ...]

    @property
    def headline(self) -> str:
        """One line for the painter."""
        apart, word = _APART[difference_words(self.mean_de00)], self.state.value.capitalize()
        if self.state is State.HOLDS:
            return f"{word}: {apart}."
        if not self.causes:
            return phrase("{word}: {apart}, and nothing on this table brings it nearer.", word=word, apart=apart)
        return f"{word}: {_lowered(self.causes[0].text)}"


def _lowered(text: str) -> str:
    first = text.split(" ", 1)[0]
    return text[0].lower() + text[1:] if first in {"The", "It"} else text


def judge(
    attempt: Attempt,
    laid: Laid,
    seen: Comparison,
    stock: tuple[Paint, ...] = (),
    unit: LengthUnit = LengthUnit.MM,
) -> Verdict:
    """Return the verdict on a laid stroke.

    Parameters
    ----------
    stock
        Paints that a mend may propose besides those of the attempt.
    unit
        What lengths are said in.
    """
    return Verdict(
        state_of(seen, attempt.wanted),
        seen.mean_de00,
        seen.p95_de00,
        find_causes(Case(attempt, laid, seen, stock, unit)),
    )
