"""The two palettes. Colour is reserved for paint: everything near it is neutral."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Tokens:
    """Colours of the frame, as hex."""

    name: str
    table: str
    mat: str
    well: str
    line: str
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
    ink="#F1EBE2",
    ink_2="#B8AFA3",
    accent="#74C6CC",
    on_accent="#10282B",
    holds="#8FCD93",
    close="#E5BC63",
    misses="#F19A90",
)
THEMES = {theme.name: theme for theme in (LINEN, LAMP)}
_current = [LINEN]


def theme() -> Tokens:
    """Return the palette in use."""
    return _current[0]


def wear(name: str) -> Tokens:
    """Put another palette in use, and return it."""
    _current[0] = THEMES[name]
    return _current[0]
