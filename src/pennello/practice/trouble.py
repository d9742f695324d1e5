"""What goes wrong on a face, and what usually mends it, in the trade's words; common practice, no published source."""

from __future__ import annotations

from enum import Enum

from pennello.finding import Code, Finding
from pennello.phrases import phrase


class Trouble(Enum):
    """What went wrong: its word, the findings that foretell it, and what to do next time."""

    MUDDY = "muddy"
    PALE = "pale"
    STREAKY = "streaky"
    SMEARED = "smeared"
    GAP = "gap"
    DRIPPED = "dripped"
    SUNK = "sunk"

    @property
    def codes(self) -> tuple[Code, ...]:
        """Findings of the program that foretell it."""
        return _TOLD[self][0]

    @property
    def mend(self) -> str:
        """What to do next time, where the program found nothing of its own."""
        return _TOLD[self][1]


_TOLD: dict[Trouble, tuple[tuple[Code, ...], str]] = {
    Trouble.MUDDY: (
        (Code.TOO_SOFT, Code.STRAY_PICKUP, Code.OLD_PAINT),
        phrase("let what lies below dry first, rinse between colours that mix to brown, and sweep without drifting"),
    ),
    Trouble.PALE: ((Code.PALE, Code.THIN_LOAD), phrase("more sweeps on the cake, or go back to it one stroke earlier")),
    Trouble.STREAKY: ((Code.STREAK, Code.TOO_DRY), phrase("mist the cake once; the load was nearly dry")),
    Trouble.SMEARED: ((), phrase("wait until it is dry before something touches it, and paint from far to near")),
    Trouble.GAP: ((Code.PETAL_GAP, Code.MISSED_STRIPE), phrase("the next brush up, or one petal more")),
    Trouble.DRIPPED: ((Code.DRIP, Code.TOO_WET), phrase("blot the brush, then sweep on until the paint is creamy")),
    Trouble.SUNK: ((), phrase("lines on dry paint only; on wet paint they sink in")),
}


def mend_of(trouble: Trouble, findings: tuple[Finding, ...] = ()) -> str:
    """Return what would have mended a trouble: what the program says of the piece, else what usually does."""
    for code in trouble.codes:
        for one in findings:
            if one.code is code:
                return one.text
    return trouble.mend[0].upper() + trouble.mend[1:] + "."
