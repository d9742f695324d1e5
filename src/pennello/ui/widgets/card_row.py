"""Rows that hold as many cards as there are things to show, and grids that are emptied."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from PySide6.QtWidgets import QBoxLayout, QGridLayout, QWidget

Card = TypeVar("Card", bound=QWidget)


def keep_cards(cards: list[Card], row: QBoxLayout, count: int, make: Callable[[int], Card]) -> None:
    """Keep so many cards: the last are taken out, new ones are made by their number and put into the row there."""
    while len(cards) > count:
        card = cards.pop()
        row.removeWidget(card)
        card.hide()
        card.deleteLater()
    while len(cards) < count:
        card = make(len(cards))
        row.insertWidget(len(cards), card)
        cards.append(card)


def empty_grid(grid: QGridLayout) -> None:
    """Take all out of a grid, for good."""
    while grid.count():
        item = grid.takeAt(0)
        widget = item.widget() if item else None
        if widget is not None:
            widget.hide()
            widget.deleteLater()
