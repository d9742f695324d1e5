"""The two palettes. Colour is reserved for paint: everything near it is neutral."""

from __future__ import annotations

from dataclasses import dataclass, replace


@dataclass(frozen=True, slots=True)
class Tokens:
    """Colours of the frame, as hex.

    `line` parts what only lies beside each other; `edge` rings what can be worked with and `faint` is what cannot be
    just now, both at least 3 to 1 against what lies below (WCAG 2.2, 1.4.11).
    """

    name: str
    table: str
    mat: str
    well: str
    line: str
    edge: str
    faint: str
    ink: str
    ink_2: str
    accent: str
    on_accent: str
    holds: str
    close: str
    misses: str

    def state(self, word: str) -> str:
        """Return the colour of a verdict's state."""
        return {"holds": self.holds, "close": self.close}.get(word, self.misses)


LINEN = Tokens(
    name="linen",
    table="#EFEAE1",
    mat="#F7F6F4",
    well="#FFFFFF",
    line="#CFC8BC",
    edge="#837B70",
    faint="#7D756B",
    ink="#25211D",
    ink_2="#5B544B",
    accent="#11606B",
    on_accent="#FFFFFF",
    holds="#2E6A39",
    close="#7E5200",
    misses="#A03229",
)
LAMP = Tokens(
    name="lamp",
    table="#1B1917",
    mat="#272626",
    well="#1F1E1E",
    line="#47423C",
    edge="#7F776E",
    faint="#857D74",
    ink="#F1EBE2",
    ink_2="#B8AFA3",
    accent="#74C6CC",
    on_accent="#10282B",
    holds="#8FCD93",
    close="#E5BC63",
    misses="#F19A90",
)
LINEN_MORE = replace(
    LINEN,
    name="linen, more contrast",
    table="#FFFFFF",
    mat="#FFFFFF",
    line="#6B645B",
    edge="#2B2723",
    faint="#6B645B",
    ink="#000000",
    ink_2="#2B2723",
    accent="#00424C",
    holds="#0F4A1B",
    close="#5A3A00",
    misses="#8A1A10",
)
LAMP_MORE = replace(
    LAMP,
    name="lamp, more contrast",
    table="#000000",
    mat="#0C0C0C",
    well="#000000",
    line="#8F877D",
    edge="#E8E2D8",
    faint="#A39B91",
    ink="#FFFFFF",
    ink_2="#E8E2D8",
    accent="#A6EEF3",
    holds="#B6F0B5",
    close="#FFDC8F",
    misses="#FFC2BB",
)
THEMES = {theme.name: theme for theme in (LINEN, LAMP, LINEN_MORE, LAMP_MORE)}
MORE = {LINEN.name: LINEN_MORE.name, LAMP.name: LAMP_MORE.name}
_current = [LINEN]


def theme() -> Tokens:
    """Return the palette in use."""
    return _current[0]


def wear(name: str) -> Tokens:
    """Put another palette in use, and return it."""
    _current[0] = THEMES[name]
    return _current[0]
