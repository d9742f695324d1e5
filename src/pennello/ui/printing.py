"""The page for paper: what a station has to print, as it will come out, its size, and to which printer."""

from __future__ import annotations

import os
from collections.abc import Callable
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QMarginsF, QRectF, QSize, QSizeF, Qt
from PySide6.QtGui import QPageLayout, QPageSize, QPixmap, QResizeEvent
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from pennello.disk import file_problem, read_bytes, write_bytes
from pennello.errors import PennelloError
from pennello.files.paper import MOST_MAKER, Paper, PaperSize, on_paper
from pennello.phrases import phrase
from pennello.session.jobs import Job, Jobs
from pennello.ui.exporting import Exporter, Printed, Work
from pennello.ui.theme.text import px
from pennello.ui.widgets.asking import ask_target
from pennello.ui.widgets.choice import choice
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.painting import painting
from pennello.ui.widgets.plain import Label
from pennello.ui.work import Newest, once_seen

Seen = tuple[NDArray[np.uint8], float, float]

SEEN_DPI, PRINTED_DPI = 96.0, 300.0
"""How finely pages are drawn to be looked at, and at most for a printer (defaults)."""

MOST_PDF_BYTES = 200_000_000
"""What is larger is not looked at, nor printed, bytes (a default)."""

STAND_IN = "PENNELLO_PRINTER"
"""Names a PDF file that stands in for a printer: nobody is asked, and what would be printed is written there."""


class PrinterRefusesError(PennelloError):
    """A printer takes nothing."""

    def __init__(self, name: str) -> None:
        super().__init__(
            phrase(
                "{name} takes nothing; see whether it is there and switched on, or keep the pages as a PDF.", name=name
            )
        )


class PrintPage(QDialog):
    """Papers at the left, the pages as they come out at the right."""

    def __init__(self, papers: tuple[Printed, ...], exporter: Exporter, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("On paper"))
        self.resize(900, 660)
        self._papers, self._exporter = papers, exporter
        self._jobs = Jobs()
        self._newest = Newest(self._jobs, "pages", self)
        self.pages: list[Seen] = []
        self._pdf = b""
        self.at = 0
        self._seen_first = once_seen(self, self._make)
        self._build(exporter.paper)
        self.listed.setCurrentRow(0)

    def _build(self, paper: Paper) -> None:
        self.listed = QListWidget()
        self.listed.setAccessibleName(phrase("What is printed"))
        self.listed.addItems([one.name for one in self._papers])
        self.listed.currentRowChanged.connect(lambda _: self.make())
        self.size_of: Any = choice(phrase("Size of the paper"))
        for one in PaperSize:
            self.size_of.addItem(one.value, one)
        self.size_of.setCurrentIndex(self.size_of.findData(paper.size))
        self.size_of.activated.connect(lambda _: self._settle())
        self.maker = QLineEdit(paper.maker)
        self.maker.setMaxLength(MOST_MAKER)
        self.maker.setAccessibleName(phrase("Your name, as the author of the file"))
        self.maker.setPlaceholderText(phrase("nobody's name"))
        self.maker.editingFinished.connect(self._settle)
        left = QVBoxLayout()
        left.addWidget(self.listed, 1)
        for words, widget in ((phrase("Paper"), self.size_of), (phrase("Made by"), self.maker)):
            label = Label(words)
            label.setObjectName("note")
            label.setBuddy(widget)
            left.addWidget(label)
            left.addWidget(widget)
        true = Label(
            phrase("All but enlarged pages come out at true scale: do not let the printer fit them to the page.")
        )
        true.setObjectName("note")
        true.setWordWrap(True)
        left.addWidget(true)
        held = QWidget()
        held.setLayout(left)
        held.setFixedWidth(px(240))
        row = QHBoxLayout()
        row.addWidget(held)
        row.addLayout(self._sight(), 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.addLayout(row, 1)
        column.addLayout(self._foot())

    def _sight(self) -> QVBoxLayout:
        self.sheet = QLabel()
        self.sheet.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.sheet.setMinimumSize(QSize(240, 240))
        self.sheet.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Ignored)
        self.sheet.setAccessibleName(phrase("The page as it comes out"))
        self.before, self.after = QPushButton(phrase("Page before")), QPushButton(phrase("Page after"))
        self.number = Label("")
        turning = QHBoxLayout()
        turning.addStretch(1)
        for widget in (self.before, self.number, self.after):
            turning.addWidget(widget)
        turning.addStretch(1)
        for button, by in ((self.before, -1), (self.after, 1)):
            button.setProperty("chip", True)
            button.clicked.connect(partial(self.turn, by))
        column = QVBoxLayout()
        column.addWidget(self.sheet, 1)
        column.addLayout(turning)
        return column

    def _foot(self) -> QHBoxLayout:
        leave, self.keep, self.print = (
            QPushButton(phrase("Not now")),
            QPushButton(phrase("Keep as PDF ...")),
            QPushButton(phrase("Print ...")),
        )
        leave.clicked.connect(self.reject)
        self.keep.clicked.connect(self.ask_keep)
        self.print.clicked.connect(self.ask_print)
        for button in (leave, self.keep):
            button.setProperty("chip", True)
        self.print.setProperty("main", True)
        self.print.setDefault(True)
        foot = QHBoxLayout()
        foot.addStretch(1)
        for button in (leave, self.keep, self.print):
            foot.addWidget(button)
        return foot

    # --- what comes out ---

    @property
    def paper(self) -> Paper:
        """What is chosen."""
        return Paper(self.size_of.currentData(), self.maker.text().strip())

    @property
    def chosen(self) -> Printed:
        """What is printed."""
        return self._papers[max(self.listed.currentRow(), 0)]

    def _settle(self) -> None:
        self._exporter.settle_paper(self.paper)
        self.make()

    @property
    def busy(self) -> bool:
        """Whether pages are still to come."""
        return self._seen_first.isActive() or self._newest.busy

    def make(self) -> None:
        """Let a worker write the pages and draw them to be looked at, once the page itself is drawn."""
        self._newest.stop()
        self.pages, self.at = [], 0
        self._seen_first.start()
        self._show()

    def _make(self) -> None:
        paper, make = self.paper, self.chosen.make

        def work(job: Job[Any]) -> tuple[bytes, list[Seen]]:
            from pennello.files.pages_seen import pages_seen  # noqa: PLC0415 - PDFium only when asked for

            with on_paper(paper):
                pdf = _written(make, job)
            return pdf, list(pages_seen(pdf, SEEN_DPI, job.check))

        self._newest.run(work, finished=self._take, failed=self._refuse)

    def _take(self, made: tuple[bytes, list[Seen]]) -> None:
        self._pdf, self.pages = made
        self._show()

    def _refuse(self, words: str) -> None:
        self._show()
        self.number.setText(words)

    def turn(self, by: int) -> None:
        """Show another page."""
        self.at = min(max(self.at + by, 0), max(len(self.pages) - 1, 0))
        self._show()

    def _show(self) -> None:
        count = len(self.pages)
        self.number.setText(
            phrase("{at} of {count}", at=self.at + 1, count=count)
            if count
            else phrase("drawing it ...")
            if self.busy
            else ""
        )
        self.before.setEnabled(self.at > 0)
        self.after.setEnabled(self.at + 1 < count)
        for button in (self.keep, self.print):
            button.setEnabled(count > 0)
        if not count:
            self.sheet.setPixmap(QPixmap())
            return
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap.fromImage(to_image(self.pages[self.at][0])).scaled(
            self.sheet.size() * ratio, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
        )
        pixmap.setDevicePixelRatio(ratio)
        self.sheet.setPixmap(pixmap)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Show the page as large as there is room."""
        super().resizeEvent(event)
        if self.pages:
            self._show()

    # --- out ---

    def ask_keep(self) -> None:
        """Ask where and keep the pages as they are seen as a PDF."""
        target = ask_target(self, phrase("Keep as PDF"), Path.home() / f"{self.chosen.stem}.pdf", (".pdf",))
        if target is not None:
            pdf = self._pdf
            self._exporter.write(target.name, lambda _: write_bytes(pdf, target))
            self.accept()

    def ask_print(self) -> None:
        """Ask for a printer and print; where one is stood in for, nobody is asked."""
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setDocName(self.chosen.name)
        printer.setPageLayout(self._layout())
        printer.setFullPage(True)
        stand_in = os.environ.get(STAND_IN, "")
        if stand_in:
            printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
            printer.setOutputFileName(stand_in)
        else:
            dialog = QPrintDialog(printer, self)
            dialog.setMinMax(1, len(self.pages))
            if dialog.exec() != QDialog.DialogCode.Accepted:
                return
        only = range(printer.fromPage(), printer.toPage() + 1) if printer.fromPage() else None
        to = printer.printerName() or stand_in or phrase("the printer")
        self._exporter.write(
            phrase("{chosen} to {to}", chosen=self.chosen.name, to=to), partial(print_pages, printer, self._pdf, only)
        )
        self.accept()

    def _layout(self) -> QPageLayout:
        _, wide, high = self.pages[0]
        flat = wide > high
        way = QPageLayout.Orientation.Landscape if flat else QPageLayout.Orientation.Portrait
        size = QPageSize(QSizeF(min(wide, high), max(wide, high)), QPageSize.Unit.Millimeter)
        return QPageLayout(size, way, QMarginsF(), QPageLayout.Unit.Millimeter)

    def done(self, result: int) -> None:
        """Stop drawing."""
        self._seen_first.stop()
        self._newest.stop()
        self._jobs.leave()
        super().done(result)


def _written(make: Callable[[Path], Work], job: Job[Any]) -> bytes:
    """Return what is written as PDF.

    Raises
    ------
    FileProblemError
        If there is no room for a temporary file.
    """
    try:
        with TemporaryDirectory(prefix="pennello-paper-") as folder:
            file = Path(folder) / "paper.pdf"
            make(file)(job)
            return read_bytes(file, MOST_PDF_BYTES)
    except OSError as error:
        raise file_problem(phrase("the folder for temporary files"), error) from error


def print_pages(printer: QPrinter, pdf: bytes, only: range | None, job: Job[Any]) -> None:
    """Print pages of a PDF at true scale.

    Parameters
    ----------
    only
        Numbers of the pages, 1 the first; all of them without it.
    """
    from pennello.files.pages_seen import pages_seen  # noqa: PLC0415 - PDFium only when asked for

    dots = min(float(printer.resolution()), PRINTED_DPI)
    per_mm = printer.resolution() / 25.4
    with painting(printer) as painter:
        if not painter.isActive():
            raise PrinterRefusesError(printer.printerName() or printer.outputFileName() or phrase("the printer"))
        begun = False
        for number, (picture, wide, high) in enumerate(pages_seen(pdf, dots, job.check), 1):
            if only is not None and number not in only:
                continue
            if begun:
                printer.newPage()
            begun = True
            painter.drawImage(QRectF(0, 0, wide * per_mm, high * per_mm), to_image(picture))
            job.report(number / (number + 1), phrase("page {number}", number=number))
