"""The stations in their one place: each is made when it is first wanted, and one of them is shown."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QStackedWidget, QWidget

from pennello.ui.station import Station, Workplace
from pennello.ui.stations.registry import FIRST, row
from pennello.ui.widgets.bit_by_bit import BitByBit
from pennello.ui.widgets.drawn_once import drawn_once


class StationStack(QStackedWidget):
    """The station that is shown says how much room there has to be, and no other one.

    Parameters
    ----------
    dress
        Puts the window's look on a station.

    Attributes
    ----------
    made
        The stations that were made so far, by their keys.
    shown
        The key of the one that is shown.
    """

    def __init__(self, place: Workplace, dress: Callable[[QWidget], None]) -> None:
        super().__init__()
        self._place, self._dress = place, dress
        self.made: dict[str, Station] = {}
        self.shown = FIRST
        self._others = BitByBit(self)
        self.currentChanged.connect(lambda _: self.updateGeometry())

    @property
    def current(self) -> Station:
        """The station that is shown."""
        return self.station(self.shown)

    def minimumSizeHint(self) -> QSize:
        """Return what the station that is shown needs."""
        page = self.currentWidget()
        return page.minimumSizeHint() if page is not None else QSize()

    def heightForWidth(self, width: int) -> int:
        """Return the same for a width: the tallest of all stations would ask for more."""
        return self.minimumSizeHint().height()

    def station(self, key: str) -> Station:
        """Return a station, made when it is first wanted."""
        if key not in self.made:
            made = self.made[key] = row(key).make(self._place)
            made.widget.move(self.width(), self.height())  # what it lies over is drawn anew as it is put below
            self.addWidget(made.widget)
        return self.made[key]

    def fill(self, key: str) -> None:
        """Fill a station ahead of its first visit."""
        self.station(key).get_ready()

    def dressed(self, key: str) -> Station:
        """Return a station in the window's look."""
        station = self.station(key)
        self._dress(station.widget)
        return station

    def dress_others(self) -> None:
        """Put another look on the stations that are not shown, one after another, so that no visit waits for it."""
        widgets = [one.widget for one in self.made.values()]
        self._others.do(
            bit for widget in widgets for bit in (partial(self._undress, widget), partial(self._dress, widget))
        )

    def _undress(self, widget: QWidget) -> None:
        if widget is not self.currentWidget():
            widget.setStyleSheet("")  # as long as all else: to change from one look to another takes both at once

    def leave_for(self, key: str) -> None:
        """Let go of what the others show."""
        for name, one in self.made.items():
            if name != key:
                one.leave()

    def show_station(self, key: str) -> None:
        """Show a station in the place of another one."""
        self.shown = key
        station = self.dressed(key)
        with drawn_once(self):
            self.setCurrentWidget(station.widget)
            station.enter()
