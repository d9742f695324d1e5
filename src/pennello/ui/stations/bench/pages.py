"""The pages behind the read-out's buttons, made only when they are wanted: what they import takes a moment."""

from __future__ import annotations

from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.bench.readout_page import ReadoutPage


def make_page(name: str, model: BenchModel) -> ReadoutPage:
    """Return a new page: wish, find, design or forgive."""
    from pennello.ui.stations.bench.search.design_page import DesignPage  # noqa: PLC0415
    from pennello.ui.stations.bench.search.find_page import FindPage  # noqa: PLC0415
    from pennello.ui.stations.bench.search.forgive_page import ForgivePage  # noqa: PLC0415
    from pennello.ui.stations.bench.search.wish_page import WishPage  # noqa: PLC0415

    kinds: dict[str, type[DesignPage | FindPage | ForgivePage | WishPage]] = {
        "wish": WishPage,
        "find": FindPage,
        "design": DesignPage,
        "forgive": ForgivePage,
    }
    return kinds[name](model)
