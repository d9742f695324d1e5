"""What taking a table or palette in would change, before it does."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QListWidget, QVBoxLayout, QWidget

from pennello.files.kit_csv import ImportPreview
from pennello.phrases import named, phrase
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.plain import Label

MOST_SHOWN = 500


class ImportPage(QDialog):
    """New, changed and refused lines; nothing is changed until the painter says so."""

    def __init__(self, name: str, preview: ImportPreview, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Take in {name}", name=name))
        self.resize(560, 460)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        words = Label(phrase("{name} holds: {preview}.", name=name, preview=preview.words))
        words.setWordWrap(True)
        column.addWidget(words)
        self.lines = QListWidget()
        self.lines.setAccessibleName(phrase("What would change"))
        self.lines.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.lines.setWordWrap(True)
        self.lines.addItems(preview_lines(preview))
        column.addWidget(self.lines, 1)
        count = len(preview.items)
        foot = LeaveOrTake(self, phrase("Take {count} in", count=count) if count else phrase("Nothing to take in"))
        self.take = foot.take
        self.take.setEnabled(bool(count))
        column.addLayout(foot)


def preview_lines(preview: ImportPreview) -> list[str]:
    """Return what would happen, a line each: refused lines first, since they want a look."""
    lines = [phrase("refused  {problem}", problem=one.problem) for one in preview.refused]
    lines += [
        phrase(
            "changed  {kind} {item}: {what}", kind=named(one.item.kind), item=one.item.name, what=", ".join(one.what)
        )
        for one in preview.changed
    ]
    lines += [phrase("new  {kind} {item}", kind=named(item.kind), item=item.name) for item in preview.added]
    more = len(lines) - MOST_SHOWN
    return [*lines[:MOST_SHOWN], *([phrase("... and {more} more", more=more)] if more > 0 else [])]
