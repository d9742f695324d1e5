"""How forgiving the load on the Bench is: how many tries hold, the worst likely one, the slip it minds most."""

from __future__ import annotations

import contextlib
from dataclasses import replace
from typing import Any

from PySide6.QtCore import QPointF, QRectF, QSignalBlocker, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen
from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout

from pennello.aim.hand import SLIPS, Hand, Steadiness
from pennello.design.plan import Plan
from pennello.errors import PennelloError
from pennello.files.picture import lab_bytes, ribbons
from pennello.phrases import named, phrase, plural
from pennello.session.jobs import Job
from pennello.session.log import OwnHand, hand_brief, hand_of, hand_with, hand_words, own_hand
from pennello.solve.forgiveness import Forgiveness, forgive
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.bench.search.page import SearchPage
from pennello.ui.theme.text import HEADLINE_PT, px, type_px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choice import choice
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import Picture, draw_note, strip_image
from pennello.ui.widgets.plain import Label
from pennello.units import de_text

SIZES = {
    "offset_mm": Quantity(phrase("How far the brush lands beside"), 0, 20, 0.1, 1, length=True),
    "skew_deg": Quantity(phrase("How far it lies askew"), 0, 45, 1, 0, "°"),
    "angle_deg": Quantity(phrase("How far the chisel is turned"), 0, 90, 1, 0, "°"),
    "drift_share": Quantity(phrase("How much the drift varies"), 0, 200, 5, 0, " %"),
    "passes": Quantity(phrase("Sweeps too many or too few"), 0, 50, 0.5, 1, " ×"),
}
WORDS = {
    "offset_mm": phrase("lands beside"),
    "skew_deg": phrase("lies askew"),
    "angle_deg": phrase("chisel turned"),
    "drift_share": phrase("drifts more"),
    "passes": phrase("other sweeps"),
}
MINE = "mine"
_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter


class ForgivePage(SearchPage):
    """Tries with a hand's own slips."""

    def __init__(self, model: BenchModel) -> None:
        super().__init__(model, phrase("How forgiving"), phrase("Try again"))
        self.found: Forgiveness | None = None
        self._own: OwnHand | None = None
        self._ribbons: tuple[Picture, ...] = ()
        self._key: object = None
        self.hand: QComboBox = choice(phrase("How steady the hand is today"))
        for one in Steadiness:
            self.hand.addItem(phrase("{one} hand", one=named(one)), one)
        self.hand.activated.connect(self._choose_hand)
        self.hand.setMinimumWidth(px(118))
        self.head.addWidget(self.hand)
        self.every = QCheckBox(phrase("lay every try"))
        self.every.setToolTip(phrase("As a film instead of a forecast: the same, but slower"))
        self.every.toggled.connect(lambda _: self.start())
        grid = QGridLayout()
        grid.setVerticalSpacing(0)
        self.sizes = {name: NumberField(quantity) for name, quantity in SIZES.items()}
        for number, (name, field) in enumerate(self.sizes.items()):
            label = Label(WORDS[name])
            label.setObjectName("note")
            label.setBuddy(field)
            grid.addWidget(label, number // 2, 2 * (number % 2))
            grid.addWidget(field, number // 2, 2 * (number % 2) + 1)
            factor = 0.01 if name == "drift_share" else 1.0
            field.edited.connect(lambda value, of=name, by=factor: self._set_hand(**{of: value * by}))
        grid.addWidget(self.every, 2, 2, 1, 2)
        self.side.addLayout(grid)
        self.add_foot(1)
        self.surface = Surface(self)
        self.surface.setAccessibleName(phrase("Share of tries that hold, the worst likely ribbon, and what it minds"))
        self.surface.draw = self._draw
        self.right.addWidget(self.surface)

    # --- trying ---

    def refresh(self) -> None:
        """Follow the model: another load, stroke or hand is tried anew."""
        stroke, hand = self.model.stroke, self.model.plan.hand
        if stroke is None or not self.isVisible():
            return
        with QSignalBlocker(self.hand):
            self._show_hand(hand)
        for name, field in self.sizes.items():
            field.show_unit(self.model.unit)
            field.show_amount(getattr(hand, name) * (100 if name == "drift_share" else 1))
        plan = self.model.document.committed
        if self.model.plan is plan and self._key != self._now(plan):
            self.start()

    def _show_hand(self, hand: Hand) -> None:
        """Show which hand it is; one's own is offered once tries tell of it."""
        own, last = self._own, len(Steadiness)
        if own is not None and own.angle_deg is not None and self.hand.count() == last:
            self.hand.addItem(phrase("my own hand"), MINE)
            self.hand.setItemData(
                last, phrase("The sizes that your tries on practice sheets tell"), Qt.ItemDataRole.ToolTipRole
            )
        usual = hand.steadiness is Steadiness.NORMAL
        mine = usual and self.hand.count() > last and own is not None and hand_with(hand, own) == hand
        self.hand.setCurrentIndex(last if mine else list(Steadiness).index(hand.steadiness))

    def _choose_hand(self, at: int) -> None:
        chosen = self.hand.itemData(at)
        if chosen == MINE:
            self.use_mine()
        else:
            self._set_hand(steadiness=chosen)

    def _now(self, plan: Plan) -> object:
        stroke = self.model.stroke
        assert stroke is not None
        return (stroke.id, stroke.recipe, stroke.stroke, stroke.brush, stroke.wanted, plan.hand, plan.cakes, plan.skin)

    def start(self) -> None:
        """Try the load on the Bench."""
        stroke, plan, every = self.model.stroke, self.model.document.committed, self.every.isChecked()
        if stroke is None or not self.isVisible():
            return
        self._key = self._now(plan)
        outcome = self.model.outcome
        self._ribbons = ribbons(outcome.seen) if outcome is not None else ()

        def work(job: Job[Any]) -> Forgiveness:
            words = phrase("laying every try") if every else phrase("trying")
            with contextlib.suppress(PennelloError):  # a notebook in use: what was read before stands
                self._own = hand_of()
            return forgive(
                plan.attempt(stroke.id), plan.hand, every_laid=every, report=lambda part: job.report(part, words)
            )

        self.run(work)

    def show_result(self, result: Forgiveness) -> None:
        """Show what came of it."""
        self.found = result
        own = self._own or own_hand(())
        self.words.setText(hand_brief(self.model.plan.hand, own))
        self.words.setToolTip(hand_words(self.model.plan.hand, own))
        with QSignalBlocker(self.hand):
            self._show_hand(self.model.plan.hand)
        self.surface.setAccessibleDescription(self.sentence)
        self.surface.update()

    @property
    def sentence(self) -> str:
        """What it came to."""
        found = self.found
        if found is None:
            return ""
        return plural(
            found.tries,
            "Holds in {holds} of {tries} try ({low:.0%} to {high:.0%}); at least close in {close}.",
            "Holds in {holds} of {tries} tries ({low:.0%} to {high:.0%}); at least close in {close}.",
            holds=found.holds,
            tries=found.tries,
            low=found.low,
            high=found.high,
            close=found.close,
        )

    def use_mine(self) -> None:
        """Take the sizes that tries on practice sheets tell."""
        own = self._own

        def mine(hand: Hand) -> Hand:
            assert own is not None, "it is offered once tries tell of it"
            return replace(hand_with(hand, own), steadiness=Steadiness.NORMAL)

        if own is not None:
            self.model.edit(phrase("Use my hand"), lambda plan, _: replace(plan, hand=mine(plan.hand)))

    def _set_hand(self, **changes: Any) -> None:
        def make(hand: Hand) -> Hand:
            return replace(hand, **changes)

        self.model.edit(
            phrase("The hand"),
            lambda plan, _: replace(plan, hand=make(plan.hand)),
            phrase("hand {changes}", changes=sorted(changes)),
        )

    # --- drawing ---

    def _draw(self, painter: QPainter) -> None:
        found, area = self.found, QRectF(self.surface.rect())
        if found is None:
            draw_note(painter, area, phrase("400 tries with your hand's own slips will be counted here."))
            return
        plain = painter.font()
        font = QFont(plain)
        font.setPixelSize(type_px(HEADLINE_PT))
        font.setBold(True)
        painter.setFont(font)
        painter.setPen(QColor(theme().ink))
        share = phrase("Holds in {share:.0f} of 100 tries", share=100 * found.share)
        painter.drawText(QRectF(0, 0, area.width() * 0.52, px(26)), _LEFT, share)
        painter.setFont(plain)
        details = phrase(
            "{holds} of {tries}; between {low:.0%} and {high:.0%} (95 % interval); at least close in {close:.0%}",
            holds=found.holds,
            tries=found.tries,
            low=found.low,
            high=found.high,
            close=found.close / found.tries,
        )
        draw_note(painter, QRectF(0, px(26), area.width() * 0.52, px(18)), details, _LEFT)
        self._draw_ribbons(painter, QRectF(0, px(52), area.width() * 0.5, area.height() - px(52) - 2), found)
        self._draw_slips(painter, QRectF(area.width() * 0.56, 0, area.width() * 0.44, area.height() - 4), found)

    def _draw_ribbons(self, painter: QPainter, area: QRectF, found: Forgiveness) -> None:
        rows = [(phrase("wanted"), self._ribbons[0]), (phrase("as meant"), self._ribbons[1])] if self._ribbons else []
        rows.append((phrase("worst likely"), lab_bytes(found.ribbon)))
        height = min((area.height() - px(20)) / len(rows), 34.0)
        for number, (words, colours) in enumerate(rows):
            top = area.top() + number * height
            draw_note(painter, QRectF(area.left(), top, px(76), height - 3), words, _RIGHT)
            strip = QRectF(area.left() + px(84), top, area.width() - px(84), height - 3)
            painter.drawImage(strip, strip_image(colours))
        worst = found.worst
        words = phrase(
            "{de}, 95 of 100 come out better: beside by {offset_mm:+.1f} mm, askew by {skew_deg:+.0f}°",
            de=de_text(worst.mean_de00),
            offset_mm=worst.offset_mm,
            skew_deg=worst.skew_deg,
        )
        line = QRectF(area.left() + px(84), area.top() + len(rows) * height, area.width() - px(84), px(18))
        draw_note(painter, line, words, _LEFT)

    @staticmethod
    def _draw_slips(painter: QPainter, area: QRectF, found: Forgiveness) -> None:
        """Draw what one usual slip of each kind adds, longest first."""
        draw_note(
            painter, QRectF(area.left(), 0, area.width(), px(18)), phrase("what one usual slip adds, mean dE"), _LEFT
        )
        ordered = sorted(SLIPS, key=lambda name: -found.minds[name])
        most = max(0.5, *found.minds.values())
        step = min((area.height() - px(24)) / len(ordered), px(30))
        for number, name in enumerate(ordered):
            top, value = px(24) + number * step, found.minds[name]
            draw_note(painter, QRectF(area.left(), top, px(96), step - 6), WORDS[name], _RIGHT)
            room = QRectF(area.left() + px(104), top, area.width() - px(104 + 60), step - 6)
            painter.setPen(QPen(QColor(theme().line), 1))
            painter.drawLine(QPointF(room.left(), room.top()), QPointF(room.left(), room.bottom()))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(theme().ink_2 if number else theme().ink))
            painter.drawRect(
                QRectF(room.left(), room.top() + 2, max(value, 0) / most * room.width(), room.height() - 4)
            )
            figure = QRectF(room.left() + max(value, 0) / most * room.width() + 6, top, px(60), step - 6)
            draw_note(
                painter, figure, phrase("{value:+.1f} dE", value=value) if abs(value) >= 0.05 else "0.0 dE", _LEFT
            )
