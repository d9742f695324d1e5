"""Rows that hold as many cards as there are things to show, and grids that are emptied."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QBoxLayout, QGridLayout, QWidget

from pennello.ui.widgets.passing import throw_away

Card = TypeVar("Card", bound=QWidget)


def keep_cards(cards: list[Card], row: QBoxLayout, count: int, make: Callable[[int], Card]) -> None:
    """Keep so many cards: the last are taken out, new ones are made by their number and put into the row there."""
    while len(cards) > count:
        card = cards.pop()
        row.removeWidget(card)
        card.hide()
        throw_away(card)
    while len(cards) < count:
        card = make(len(cards))
        row.insertWidget(len(cards), card)
        before = cards[-1] if cards else row.parentWidget()
        if before is not None:
            tab_after(before, card)
        cards.append(card)


def tab_after(before: QWidget, after: QWidget) -> None:
    """Let Tab come to a widget after another one, whenever it was made; also after one that takes no keys itself."""
    policy = before.focusPolicy()
    if not policy & Qt.FocusPolicy.TabFocus:  # Qt orders only what Tab comes to
        before.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    QWidget.setTabOrder(before, after)
    before.setFocusPolicy(policy)


def empty_grid(grid: QGridLayout) -> None:
    """Take all out of a grid, for good."""
    while grid.count():
        item = grid.takeAt(0)
        widget = item.widget() if item else None
        if widget is not None:
            widget.hide()
            throw_away(widget)
