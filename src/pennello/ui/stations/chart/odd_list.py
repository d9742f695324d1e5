"""What is odd about a chart, numbered as its pins are; a click takes the piece that it is about in the hand."""

from __future__ import annotations

from pennello.design.parts import line_of
from pennello.finding import Finding
from pennello.phrases import named, phrase
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.theme.text import px
from pennello.ui.widgets.told_list import ToldList

_MOST_PX = 108


class OddList(ToldList):
    """Findings of the chart, each with the part and piece that it is about."""

    def __init__(self, model: ChartModel) -> None:
        super().__init__(phrase("What is odd: Enter takes the piece that it is about in the hand"))
        self._model = model
        self.setMaximumHeight(px(_MOST_PX))
        self.gone.connect(self._take)
        model.painted_anew.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Follow the model."""
        odd = self._model.odd
        self.show_told(
            [
                (
                    f"{number}  {self._about(one)}{one.text}",
                    one.piece,
                    phrase("{level}; click to take it in the hand", level=named(one.level))
                    if one.piece
                    else named(one.level),
                )
                for number, one in enumerate(odd, 1)
            ]
        )
        self.setVisible(bool(odd))

    def _about(self, one: Finding) -> str:
        """Return the part that a finding's piece lies in, where its sentence does not name it."""
        placed = next((piece for piece in self._model.plan.motifs if piece.id == one.piece), None)
        line = line_of(self._model.plan, placed.part) if placed is not None else ()
        return f"{line[0].name}: " if line and line[0].name not in one.text else ""

    def _take(self, name: str) -> None:
        if any(one.id == name for one in self._model.motifs):
            self._model.choose(name)
