"""Tables of texts that are only read."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem


def told_table(columns: Sequence[str], rows: Sequence[Sequence[str]], name: str) -> QTableWidget:
    """Return a table of texts that is only read."""
    table = QTableWidget(len(rows), len(columns))
    table.setAccessibleName(name)
    table.setHorizontalHeaderLabels(list(columns))
    table.verticalHeader().hide()
    table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    table.setWordWrap(True)
    for at, row in enumerate(rows):
        for column, text in enumerate(row):
            table.setItem(at, column, QTableWidgetItem(text))
    table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
    table.resizeRowsToContents()
    return table
