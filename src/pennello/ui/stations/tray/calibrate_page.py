"""Calibration in a minute: say what you saw with this brush; its constants are fitted and marked as yours."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import (
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from pennello.errors import PennelloError
from pennello.kit.applicator import Applicator
from pennello.load.recipe import Wetness
from pennello.phrases import named, phrase
from pennello.practice.calibrate import Blend, Filled, Fit, Petals, calibrated, fit_drift, fit_fill, fit_release
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label
from pennello.units import LengthUnit

_NAMES = {
    "fill_passes": (phrase("fills in"), phrase("sweeps to two thirds")),
    "release_mm": (phrase("release"), phrase("mm of travel")),
    "capacity_mm3_per_mm": (phrase("holds"), phrase("mm³ on a mm of edge")),
    "drift_mm": (phrase("your sweeps drift"), "mm"),
}
SWEEPS = Quantity(phrase("Sweeps until the brush looked full"), 0.5, 500, 1, 0, phrase(" sweeps"))
COUNT = Quantity(phrase("Petals of one load before one looked pale"), 0.25, 200, 1, 2, phrase(" petals"))
PETAL = Quantity(phrase("Length of such a petal"), 2, 2000, 1, 0, length=True)
WIDTH = Quantity(phrase("Width of a blend on a test swatch, from pure to pure"), 0.2, 60, 0.1, 1, length=True)
SOFT = Quantity(phrase("Softness of that cake"), 0, 10, 0.1, 1, length=True)
_AT_FIRST = (12.0, 4.0, 60.0, 2.5, 0.3)
"""What the fields show at first, in their order."""


class CalibratePage(QDialog):
    """Three things to see; each may be said several times, and the fit takes them all."""

    def __init__(self, brush: Applicator, unit: LengthUnit, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Calibrate {brush}", brush=brush.name))
        self.resize(560, 470)
        self._brush = brush
        self.filled: list[Filled] = []
        self.petals: list[Petals] = []
        self.blends: list[Blend] = []
        self.fits: tuple[Fit, ...] = ()
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        self._make_fields(unit)
        column.addLayout(self._questions())
        self.seen = QListWidget()
        self.seen.setAccessibleName(phrase("What you saw"))
        column.addWidget(self.seen, 1)
        self.words = Label(phrase("Say one thing that you saw; more of them make it surer."))
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        foot = LeaveOrTake(self, phrase("Make it mine"))
        self.take = foot.take
        self.take.setEnabled(False)
        column.addLayout(foot)

    def _make_fields(self, unit: LengthUnit) -> None:
        self.sweeps, self.count, self.petal_mm, self.width_mm, self.soft_mm = (
            NumberField(one) for one in (SWEEPS, COUNT, PETAL, WIDTH, SOFT)
        )
        fields = (self.sweeps, self.count, self.petal_mm, self.width_mm, self.soft_mm)
        for field, value in zip(fields, _AT_FIRST, strict=True):
            field.show_unit(unit)
            field.show_amount(value)
        self.wet = ChoiceBox()
        self.wet.setAccessibleName(phrase("Wetness of that load"))
        for wetness in Wetness:
            self.wet.addItem(named(wetness), wetness)
        self.wet.setCurrentIndex(list(Wetness).index(Wetness.CREAMY))

    def _questions(self) -> QGridLayout:
        """Return the things to see, each with its fields and a button that says it was seen."""
        rows: tuple[tuple[str, list[QWidget], Callable[[], None]], ...] = (
            (phrase("From dry it looked full after"), [self.sweeps], self._saw_full),
            (phrase("One load gave"), [self.count, Label(phrase("each")), self.petal_mm], self._saw_petals),
            (
                phrase("A blend was"),
                [self.width_mm, Label(phrase("wide, cake soft")), self.soft_mm, self.wet],
                self._saw_blend,
            ),
        )
        grid = QGridLayout()
        self.says: list[QPushButton] = []
        for row, (words, widgets, act) in enumerate(rows):
            grid.addWidget(Label(words), row, 0)
            line = QHBoxLayout()
            for widget in widgets:
                line.addWidget(widget)
            line.addStretch(1)
            grid.addLayout(line, row, 1)
            say = QPushButton(phrase("I saw that"))
            say.setProperty("chip", True)
            say.clicked.connect(lambda _=False, do=act: do())
            grid.addWidget(say, row, 2)
            self.says.append(say)
        return grid

    def _saw_full(self) -> None:
        self.filled.append(Filled(self.sweeps.amount))
        self._fit(phrase("full after {text}", text=self.sweeps.text()))

    def _saw_petals(self) -> None:
        self.petals.append(Petals(self.count.amount, self.petal_mm.amount))
        self._fit(phrase("{text} of {text_2} from one load", text=self.count.text(), text_2=self.petal_mm.text()))

    def _saw_blend(self) -> None:
        self.blends.append(Blend(self.width_mm.amount, self.soft_mm.amount, wetness=self.wet.currentData()))
        self._fit(
            phrase("a blend {text} wide, {currentText}", text=self.width_mm.text(), currentText=self.wet.currentText())
        )

    def _fit(self, said: str) -> None:
        self.seen.addItem(said)
        fits: list[Fit] = []
        try:
            fits += fit_fill(self._brush, self.filled) if self.filled else ()
            fits += fit_release(self._brush, self.petals) if self.petals else ()
            fits += fit_drift(self._brush, self.blends) if self.blends else ()
        except PennelloError as error:
            self.words.setText(str(error))
            return
        self.fits = tuple(fits)
        self.words.setText("\n".join(_words(fit) for fit in fits))
        self.take.setEnabled(True)

    def result_brush(self) -> Applicator:
        """Return the brush with what was fitted."""
        return calibrated(self._brush, self.fits)


def _words(fit: Fit) -> str:
    name, unit = _NAMES[fit.name]
    sure = f" ± {fit.error:.2g}" if fit.error else ""
    return phrase(
        "{name}: {fit:.3g}{sure} {unit} (was {before:.3g}), from {count} seen",
        name=name,
        fit=fit.value,
        sure=sure,
        unit=unit,
        before=fit.before,
        count=fit.count,
    )
