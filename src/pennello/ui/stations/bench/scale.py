"""One mm scale for cake and edge, so that a boundary can be followed by eye from one to the other."""

from __future__ import annotations

from pennello.ui.bench_model import BenchModel

MOST_PX_PER_MM = 12.0
EDGE_PX = 140.0
_PAN_MM = 40.0


def shared_scale(model: BenchModel, cake_px: float) -> float:
    """Return pixels per mm at which both the cake with the brush on it and the loaded edge fit."""
    pickup, cake, brush = model.pickup, model.cake, model.brush
    across = _PAN_MM
    if pickup is not None and cake is not None:
        across = max(cake.width_mm, pickup.offset_mm + brush.width_mm) - min(0.0, pickup.offset_mm)
    return min(MOST_PX_PER_MM, max(cake_px, 60.0) / across, EDGE_PX / model.edge_mm)
