"""A page about the whole plan, with a job behind it."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import closing
from datetime import date
from typing import Any

from PySide6.QtCore import QSize
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import QCheckBox, QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.design.plan import Plan
from pennello.phrases import phrase
from pennello.session.jobs import Job
from pennello.session.kit import KitSession
from pennello.solve.kit import AtHand, at_hand
from pennello.ui.bench_model import BenchModel
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import ThinBar, foot_row
from pennello.ui.work import Runner


class PlanPage(QDialog):
    """A dialog with a job behind it."""

    def __init__(self, model: BenchModel, title: str, size: QSize, parent: QWidget) -> None:
        super().__init__(parent)
        self.model = model
        self.runner = Runner(model.searches, "plan", self)
        self.setWindowTitle(title)
        self.resize(size)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(16, 12, 16, 12)
        self.head = QHBoxLayout()
        self.column.addLayout(self.head)
        self.words = Label("")
        self.words.setWordWrap(True)
        self.words.setObjectName("headline")
        self.column.addWidget(self.words)
        self.kit = QCheckBox(phrase("my kit too"))
        self.kit.setChecked(True)
        self.kit.setToolTip(phrase("Not only the plan's cakes; nothing that is retired or past its date"))
        self.kit.toggled.connect(lambda _: self.start())
        self.runner.told.connect(self._tell)
        self.runner.ended.connect(self.show_result)
        self.runner.failed.connect(self.words.setText)

    def add_foot(self, *buttons: QPushButton) -> None:
        """Put progress, buttons and Close at the bottom."""
        self.bar = ThinBar()
        self.column.addWidget(self.bar)
        self.runner.turned.connect(self.bar.setVisible)
        self.column.addLayout(foot_row(self, *buttons))

    @property
    def busy(self) -> bool:
        """Whether a search runs."""
        return self.runner.busy

    def start(self) -> None:
        """Begin anew; pages say what."""

    def run(self, work: Callable[[Job[Any]], Any]) -> None:
        """Let a worker do something."""
        self.runner.run(work)

    def _tell(self, part: float, words: str) -> None:
        self.bar.show_part(part)
        if words:
            self.words.setText(words[0].upper() + words[1:] + " ...")

    def show_result(self, result: Any) -> None:
        """Show the result; pages do."""

    def closeEvent(self, event: QCloseEvent) -> None:
        """Stop what runs."""
        self.runner.stop()
        super().closeEvent(event)


def here_of(plan: Plan, *, in_kit: bool) -> AtHand:
    if not in_kit:
        return at_hand(plan)
    with closing(KitSession()) as session:
        return at_hand(plan, session.kit, date.today())
