"""One scale for cake and edge, so that a boundary can be followed by eye from one to the other."""

from __future__ import annotations

from pennello.ui.stations.bench.model import BenchModel

MOST_PX_PER_MM = 9.0
EDGE_PX = 150.0


def shared_scale(model: BenchModel, cake_px: float) -> float:
    """Return px per mm such that the cake with its brush fits its width and the brush the edge mat."""
    pickup, cake, brush = model.pickup, model.cake, model.brush
    across = max(cake.width_mm, pickup.offset_mm + brush.width_mm) - min(0.0, pickup.offset_mm)
    return min(MOST_PX_PER_MM, max(cake_px, 60.0) / across, EDGE_PX / brush.width_mm)
