"""The JSON answers. Keys are a promise to scripts; add, never change."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.comparison import BoundaryCheck, Comparison
from pennello.aim.mend import Recolour, SetPickUp, SetRecipe, SetReloads, Shorten
from pennello.aim.verdict import Verdict
from pennello.design.plan import Plan, PlanStroke
from pennello.finding import Finding, RatedMend
from pennello.lay.laying import Laid
from pennello.load.edge import LoadedEdge, boundaries
from pennello.load.pickup import bin_centres
from pennello.load.scatter import SEED, TRIES, scatter_band

Array = NDArray[np.floating[Any]]
Answer = dict[str, Any]


def _numbers(values: Array, digits: int = 9) -> Any:
    return np.round(np.asarray(values, np.float64), digits).tolist()


def load_answer(plan: Plan, stroke: PlanStroke, edge: LoadedEdge) -> Answer:
    """Return the answer of `load`."""
    brush = plan.brush(stroke.brush)
    cakes = plan.cakes_by_id
    band = scatter_band(stroke.recipe, cakes, brush, plan.residue(stroke.id), slips=plan.hand.slips)
    return {
        "stroke": stroke.id,
        "reload": stroke.reload.value,
        "reload_after": stroke.reload_after,
        "applicator": {"kind": brush.kind.value, "width_mm": brush.width_mm, "id": brush.id},
        "axis": edge.axis.value,
        "edge_mm": edge.width_mm,
        "u": _numbers(bin_centres()),
        "paints": list(edge.paints),
        "share": _numbers(edge.share, 12),
        "volume_mm3_per_mm": _numbers(edge.volume_mm3_per_mm),
        "water_mm3_per_mm": _numbers(edge.water),
        "total_mm3": edge.total_mm3,
        "boundaries": [
            {
                "from": one.from_paint,
                "to": one.to_paint,
                "at_mm": one.at_mm,
                "width_10_90_mm": one.width_10_90_mm,
            }
            for one in boundaries(edge)
        ],
        "scatter": {
            "seed": SEED,
            "tries": TRIES,
            "low": _numbers(band.low, 6),
            "high": _numbers(band.high, 6),
            "widest": band.widest,
        },
    }


def lay_answer(stroke: PlanStroke, laid: Laid, seen: Comparison, verdict: Verdict) -> Answer:
    """Return the answer of `lay`."""
    u = _numbers(bin_centres())
    return {
        "stroke": stroke.id,
        "length_mm": laid.track.length_mm,
        "stations": [
            {
                "s_mm": float(s),
                "width_mm": float(width),
                "u": u,
                "lab": _numbers(lab, 4),
                "film_um": _numbers(film, 4),
                "de00": _numbers(de00, 3),
            }
            for s, width, lab, film, de00 in zip(
                seen.s_mm, seen.ribbon_mm, seen.lab, seen.film_um, seen.de00, strict=True
            )
        ],
        "wanted_lab": _numbers(seen.wanted_lab, 4),
        "volume": asdict(laid.volumes),
        "boundaries": [_boundary_answer(check) for check in seen.boundaries],
        "rim_share": seen.rim_share,
        "heel_share": seen.heel_share,
        "pale_from_mm": seen.pale_from_mm,
        "verdict": verdict_answer(verdict),
    }


def _boundary_answer(check: BoundaryCheck) -> Answer:
    laid = check.laid
    return {
        "wanted_at_mm": check.wanted_at_mm,
        "wanted_width_10_90_mm": check.wanted_width_mm,
        "laid_at_mm": laid.at_mm if laid else None,
        "laid_width_10_90_mm": laid.width_10_90_mm if laid else None,
        "shift_mm": check.shift_mm,
    }


def verdict_answer(verdict: Verdict) -> Answer:
    """Return a verdict as it stands in `lay` and `check`."""
    return {
        "state": verdict.state.value,
        "mean_de00": round(verdict.mean_de00, 4),
        "p95_de00": round(verdict.p95_de00, 4),
        "headline": verdict.headline,
        "causes": [_cause_answer(cause, verdict) for cause in verdict.causes],
    }


def _cause_answer(cause: Finding, verdict: Verdict) -> Answer:
    mends = [_mend_answer(rated, verdict) for rated in cause.mends]
    return {
        "code": cause.code,
        "text": cause.text,
        "at_mm": cause.at_mm,
        "mend": mends[0] if mends else {},
        "other_mends": mends[1:],
    }


def _mend_answer(rated: RatedMend, verdict: Verdict) -> Answer:
    mend = rated.mend
    answer: Answer = {
        "kind": mend.kind,
        "text": mend.words,
        "mean_de00_before": round(verdict.mean_de00, 4),
        "mean_de00_after": None if rated.mean_de00 is None else round(rated.mean_de00, 4),
    }
    match mend:
        case SetPickUp(pickup=pickup):
            answer |= {
                "pickup": mend.index,
                "offset_mm": pickup.offset_mm,
                "flip": pickup.flip,
                "passes": pickup.passes,
                "drift_mm": pickup.drift_mm,
                "wetness": pickup.wetness.value,
            }
        case SetRecipe(recipe=recipe):
            answer["pickups"] = len(recipe.pickups)
        case SetReloads():
            answer["reload_mm"] = list(mend.reload_mm)
        case Shorten():
            answer["length_mm"] = mend.length_mm
        case Recolour():
            answer |= {"cake": mend.cake, "stripe": mend.stripe, "paint": mend.paint.id}
    return answer


def check_answer(verdicts: dict[str, Verdict], found: tuple[Finding, ...]) -> Answer:
    """Return the answer of `check`."""
    return {
        "strokes": {name: verdict_answer(verdict) for name, verdict in verdicts.items()},
        "problems": [{"code": one.code, "where": one.place, "text": one.text} for one in found],
    }
