"""The designs: each a whole work on its chart, and the same in other colours."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from designs.bodies import bittern, frost_reeds, heron_shoulder, kelp_sleeve, lantern_butterfly, tide_rainbow
from designs.faces import beetle_shell, dahlia_crown, marsh_fox, moth_mask, peacock_eye, poppy_brow
from designs.studio import Swaps
from pennello.design.plan import Plan


@dataclass(frozen=True)
class Work:
    """A design, and the other colours that it comes in: their name, and what takes the place of what."""

    title: str
    make: Callable[[str, Swaps], Plan]
    other: str
    swaps: Swaps

    @property
    def plans(self) -> tuple[Plan, Plan]:
        """The design, and its other colourway."""
        return self.make(self.title, {}), self.make(f"{self.title}, {self.other}", self.swaps)


WORKS = {
    "dahlia-crown": Work(
        "Dahlia crown",
        dahlia_crown,
        "blue",
        {
            "dahlia-wrist": "mackerel-back",
            "lavender-dusk": "dahlia-wrist",
            "sea-lavender": "thrift-pink",
            "dusk-violet": "sea-plum",
        },
    ),
    "poppy-brow": Work(
        "Poppy brow",
        poppy_brow,
        "violet",
        {"poppy-brow": "lavender-dusk", "poppy-red": "dusk-violet", "dulse-crimson": "sea-plum"},
    ),
    "moth-mask": Work("Moth mask", moth_mask, "dusk", {"moth-mask": "lavender-dusk"}),
    "beetle-shell": Work(
        "Beetle-shell cheek", beetle_shell, "violet", {"beetle-shell": "lavender-dusk", "deep-channel": "sea-plum"}
    ),
    "peacock-eye": Work(
        "Peacock plume eye",
        peacock_eye,
        "lavender",
        {
            "peacock-plume": "lavender-dusk",
            "samphire": "skylark-blue",
            "reed-gold": "mackerel-silver",
            "deep-channel": "sea-plum",
            "skylark-blue": "thrift-pink",
        },
    ),
    "kelp-sleeve": Work(
        "Kelp and foam sleeve",
        kelp_sleeve,
        "dulse",
        {"kelp-swoosh": "poppy-brow", "bladderwrack": "dulse-crimson", "poppy-brow": "lantern-glow"},
    ),
    "marsh-fox": Work(
        "Marsh fox",
        marsh_fox,
        "grey",
        {"lantern-glow": "heron-fur", "ember-orange": "heron-grey", "reed-gold": "mackerel-silver"},
    ),
    "bittern": Work("Bittern feathers", bittern, "blue", {"moth-mask": "mackerel-back", "reed-gold": "lantern-yellow"}),
    "heron-shoulder": Work("Heron shoulder", heron_shoulder, "violet dusk", {"mussel-blue": "dusk-violet"}),
    "lantern-butterfly": Work("Lantern butterfly", lantern_butterfly, "blue", {"lantern-glow": "mackerel-back"}),
    "tide-rainbow": Work(
        "Tide rainbow", tide_rainbow, "pink flowers", {"skylark-blue": "thrift-pink", "dusk-violet": "mallow-magenta"}
    ),
    "frost-reeds": Work("Frost on the reeds", frost_reeds, "violet", {"mackerel-back": "lavender-dusk"}),
}
