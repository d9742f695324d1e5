"""The pages behind the read-out's doors, made only when they are wanted: what they import takes a moment."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame

from pennello.ui.bench_model import BenchModel


class Door(QFrame):
    """A page that takes the read-out's place.

    Signals
    -------
    left
        The painter is done.
    """

    left = Signal()

    def refresh(self) -> None:
        """Follow the model; pages do."""

    def stop(self) -> None:
        """Stop what runs in the background; pages may."""


def make_door(name: str, model: BenchModel) -> Door:
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
