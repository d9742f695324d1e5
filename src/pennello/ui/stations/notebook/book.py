"""The open book: what was planned on the left page, what was painted on the right, the figures that differ between."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QImage, QLinearGradient, QPainter, QPen
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.phrases import named, phrase
from pennello.practice.records import LogPage
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.mat import Surface, centred
from pennello.ui.widgets.paint import draw_note, to_image
from pennello.ui.widgets.plain import Label
from pennello.units import clock

Picture = NDArray[np.uint8]
_FOLD_PX, _MARGIN_PX, _HEAD_PX = 36, 18, 30


class Spread(Surface):
    """Two pages of paper with a fold between them."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.draw = self._draw
        self._images: tuple[QImage | None, QImage | None] = (None, None)
        self._empty = ("", "")
        self._waits = False
        self.words = (phrase("planned"), phrase("painted"))
        self.setMinimumHeight(px(220))

    def show_pictures(self, planned: Picture | None, painted: Picture | None) -> None:
        """Show two pictures, or None for what is not there."""
        self._images = (_image_of(planned), _image_of(painted))
        self._waits = False
        self.update()

    def wait_for(self, page: LogPage) -> None:
        """Show that pictures come, and what stands where there is none."""
        self._images, self._waits = (None, None), True
        self._empty = (
            phrase("No picture of the plan") if not page.plan else phrase("The plan's picture is being laid ..."),
            phrase("No photo yet: change the page to add one"),
        )
        self.setAccessibleName(phrase("{page}: what was planned, and what was painted", page=page.title))
        self.update()

    def _draw(self, painter: QPainter) -> None:
        area = QRectF(self.rect())
        half = (area.width() - _FOLD_PX) / 2
        for number, words in enumerate(self.words):
            page = QRectF(area.left() + number * (half + _FOLD_PX), area.top(), half, area.height())
            inner = page.adjusted(_MARGIN_PX, px(_HEAD_PX), -_MARGIN_PX, -_MARGIN_PX)
            draw_note(painter, QRectF(page.left(), page.top() + 6, page.width(), px(18)), words)
            image = self._images[number]
            if image is None:
                note = self._empty[number]
                if note.endswith("laid ...") and not self._waits:
                    note = phrase("The plan's file is not there any more")
                draw_note(painter, inner, note)
                continue
            scale = min(inner.width() / image.width(), inner.height() / image.height())
            painter.drawImage(centred(inner, image.width() * scale, image.height() * scale), image)
        self._draw_fold(painter, area, half)

    @staticmethod
    def _draw_fold(painter: QPainter, area: QRectF, half: float) -> None:
        middle = area.left() + half + _FOLD_PX / 2
        for side in (-1, 1):
            shade = QLinearGradient(middle, 0, middle + side * _FOLD_PX / 2, 0)
            dark = QColor(theme().line)
            shade.setColorAt(0.0, dark)
            dark.setAlpha(0)
            shade.setColorAt(1.0, dark)
            left = middle if side > 0 else middle - _FOLD_PX / 2
            painter.fillRect(QRectF(left, area.top(), _FOLD_PX / 2, area.height()), shade)
        painter.setPen(QPen(QColor(theme().line), 1))
        painter.drawLine(QPointF(middle, area.top()), QPointF(middle, area.bottom()))


def _image_of(picture: Picture | None) -> QImage | None:
    return None if picture is None else to_image(picture)


class Book(QWidget):
    """The spread with the page's words below it."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        head = QHBoxLayout()
        self.title = Label("")
        self.title.setObjectName("headline")
        self.day = Label("")
        self.day.setObjectName("note")
        head.addWidget(self.title)
        head.addWidget(self.day)
        head.addStretch(1)
        self.by_step = QPushButton(phrase("Step by step ..."))
        self.by_step.setToolTip(phrase("How long each step of this run took, against what was predicted"))
        self.change, self.out = QPushButton(phrase("Change ...")), QPushButton(phrase("Take out"))
        for button in (self.by_step, self.change, self.out):
            button.setProperty("chip", True)
            head.addWidget(button)
        column.addLayout(head)
        self.spread = Spread(self)
        column.addWidget(self.spread, 1)
        self.figures = Label("")
        self.figures.setWordWrap(True)
        self.figures.setFont(_strong(self.figures.font()))
        self.steps = Label("")
        self.steps.setObjectName("note")
        self.steps.setWordWrap(True)
        self.faults = Label("")
        self.faults.setWordWrap(True)
        self.note = Label("")
        self.note.setWordWrap(True)
        self.small = Label("")
        self.small.setObjectName("note")
        self.small.setWordWrap(True)
        for label in (self.figures, self.steps, self.faults, self.note, self.small):
            label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
            column.addWidget(label)

    def show_page(self, page: LogPage) -> None:
        """Show a page; its pictures and its steps come later."""
        self.show_steps("")
        self.by_step.setVisible(page.run is not None)
        self.title.setText(page.title + (f", {page.part}" if page.part else ""))
        self.day.setText(page.day[:16].replace("T", ", "))
        self.figures.setText(figures_of(page))
        self.faults.setText("\n".join(fault_words(page)))
        self.note.setText(page.note)
        told = [
            (phrase("short form") if page.short else ""),
            phrase("light: {light}", light=page.light) if page.light else "",
        ]
        told += [
            phrase("asked for: {asked}", asked=page.asked) if page.asked else "",
            phrase("kept: {kept}", kept=page.kept) if page.kept else "",
        ]
        told += [", ".join(page.colours)]
        self.small.setText(" · ".join(one for one in told if one))
        for label in (self.faults, self.note, self.small, self.figures):
            label.setVisible(bool(label.text()))
        self.spread.wait_for(page)

    def show_steps(self, words: str) -> None:
        """Show in words which steps took another time than was predicted."""
        self.steps.setText(words)
        self.steps.setVisible(bool(words))


def _strong(font: QFont) -> QFont:
    font.setWeight(QFont.Weight.DemiBold)
    return font


def figures_of(page: LogPage) -> str:
    """Return what was predicted against what was, in words."""
    if not page.painted_s:
        return phrase("Predicted: {planned_s} min.", planned_s=clock(page.planned_s)) if page.planned_s else ""
    if not page.planned_s:
        return phrase("Painted in {painted_s} min.", painted_s=clock(page.painted_s))
    apart = page.painted_s - page.planned_s
    by = clock(abs(apart))
    tail = (
        phrase("{by} min slower than predicted", by=by)
        if apart > 0
        else phrase("{by} min faster than predicted", by=by)
    )
    if abs(apart) < 0.05 * page.planned_s:
        tail = phrase("as predicted")
    return phrase(
        "Painted in {painted_s} min, {tail} ({planned_s} min).",
        painted_s=clock(page.painted_s),
        tail=tail,
        planned_s=clock(page.planned_s),
    )


def fault_words(page: LogPage) -> list[str]:
    """Return what went wrong, with what would have mended it, a line each."""
    return [
        phrase("{trouble} at {place}: {mend}", trouble=named(one.trouble), place=one.name, mend=one.mend)
        if one.name
        else f"{named(one.trouble)}: {one.mend}"
        for one in page.faults
    ]
