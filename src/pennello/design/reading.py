"""How a plan's loads read on light and dark skins: rim, heel and the contrast within."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from pennello.aim.attempt import Side
from pennello.aim.contrast import READS, contrast_ratio
from pennello.aim.wish import edge_lab
from pennello.colour.basis import full_basis
from pennello.colour.lab import lab_to_xyz
from pennello.colour.observer import xyz_to_rgb
from pennello.colour.srgb import encode
from pennello.design.plan import Plan, Skin, skin_spectrum
from pennello.kit.contact import BINS

SKINS_ITA = (62.0, 45.0, 25.0, 0.0, -40.0)
"""From very light to dark (classes of Chardon et al. 1991)."""


@dataclass(frozen=True, slots=True)
class Reading:
    """Contrast ratios of one load on one skin: rim and heel against the skin, and against each other."""

    stroke: str
    ita_deg: float
    rim: float
    heel: float
    within: float

    @property
    def reads(self) -> bool:
        """Whether rim or heel stands out from the skin."""
        return max(self.rim, self.heel) >= READS


def readings(plan: Plan, skins: tuple[float, ...] = SKINS_ITA) -> tuple[Reading, ...]:
    """Return how each stroke's load reads on each skin in the plan's light: an even coat of what the edge holds."""
    paints, basis = plan.paints_by_id, full_basis(plan.light)
    found = []
    for ita in skins:
        spectrum = skin_spectrum(Skin(ita))
        bare = basis.srgb(spectrum)
        for stroke in plan.strokes:
            edge = plan.edge(stroke.id)
            lab = edge_lab(edge, paints, spectrum, stroke.wanted.coat_um, plan.light)
            colours = encode(xyz_to_rgb(lab_to_xyz(lab)))
            bins = max(1, round(BINS / edge.width_mm))
            ends = [np.clip(part.mean(axis=0), 0, 1) for part in (colours[:bins], colours[-bins:])]
            rim, heel = ends if stroke.rim is Side.A else ends[::-1]
            found.append(
                Reading(
                    stroke.id,
                    ita,
                    contrast_ratio(rim, bare),
                    contrast_ratio(heel, bare),
                    contrast_ratio(rim, heel),
                )
            )
    return tuple(found)


def on_skin(plan: Plan, ita_deg: float) -> Plan:
    """Return the plan on another skin."""
    return replace(plan, skin=Skin(ita_deg))
