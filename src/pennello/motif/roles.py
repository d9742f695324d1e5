"""What parts of motifs are by nature: which load suits them, and what is asked of them. Common practice."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from pennello.phrases import phrase


@dataclass(frozen=True, slots=True)
class Role:
    """The usual load of a part.

    Attributes
    ----------
    key, words
        A name, and in words which load suits it.
    wish
        Paints from the rim to the heel; one alone for a tip of one colour. What a load for it is looked for by.
    green
        Whether it is green by nature.
    light_rim
        Whether a load of several colours must be lighter on the rim than at the heel.
    own
        Whether its colours must be about those of the wish; else any load with as light a rim will do.
    """

    key: str
    words: str
    wish: tuple[str, ...]
    green: bool = False
    own: bool = False
    light_rim: bool = True

    @property
    def one_colour(self) -> bool:
        """Whether it is laid with a single colour."""
        return len(self.wish) == 1


PETAL = Role("petal", phrase("light rim, dark heel"), ("foam-white", "thrift-pink", "mallow-magenta"))
LEAF = Role("leaf", phrase("two greens, the lighter on the rim"), ("samphire", "kelp-green"), green=True, own=True)
STEM = Role("stem", phrase("one green"), ("kelp-green",), green=True)
LINE = Role("line", phrase("one light colour"), ("foam-white",))
INK = Role("ink", phrase("one dark colour"), ("peat-black",))
HEART = Role("heart", phrase("one warm colour"), ("lantern-yellow",))
WING = Role("wing", phrase("light rim, dark heel"), ("foam-white", "shrimp-coral", "poppy-red", "dulse-crimson"))
FLAME = Role("flame", phrase("light rim, hot heel"), ("lantern-yellow", "ember-orange", "poppy-red"), own=True)
SCALE = Role("scale", phrase("light rim, deep heel"), ("mackerel-silver", "skylark-blue", "mussel-blue"))
SEA = Role("sea", phrase("white crest, deep heel"), ("foam-white", "skylark-blue", "mussel-blue"), own=True)
FUR = Role("fur", phrase("light tips, dark roots"), ("foam-white", "heron-grey", "peat-black"), own=True)
LIP = Role("lip", phrase("two tones of one colour"), ("shrimp-coral", "poppy-red", "dulse-crimson"), own=True)
BASE = Role(
    "base",
    phrase("stripes as the place wants them"),
    ("poppy-red", "lantern-yellow", "kelp-green", "mussel-blue"),
    light_rim=False,
)


class Wet(Enum):
    """How a part goes over what lies below it."""

    USUAL = "as its motif is painted"
    PULLED = "pulled through what is still wet"


class Check(Enum):
    """What is asked of a part or a motif on a chart."""

    LINE_WORK = "a round or a liner, not a broad brush"
    CLOSED_RING = "no gaps between petals of the outer row"
    LEADS = "begins at something"
