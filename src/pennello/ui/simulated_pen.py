"""A simulated pen tablet: a stand-in that sends what a real one would, for trying without a device."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import QInputDevice, QPointingDevice, QPointingDeviceUniqueId, QTabletEvent
from PySide6.QtWidgets import QApplication, QWidget

from pennello.phrases import phrase

_CAPABILITIES = (
    QInputDevice.Capability.Position
    | QInputDevice.Capability.Pressure
    | QInputDevice.Capability.XTilt
    | QInputDevice.Capability.YTilt
)


class SimulatedPen:
    """A pen over a widget: set down, led on, lifted."""

    def __init__(self, widget: QWidget) -> None:
        self._widget = widget
        self._device = QPointingDevice(
            phrase("simulated pen"),
            1,
            QInputDevice.DeviceType.Stylus,
            QPointingDevice.PointerType.Pen,
            _CAPABILITIES,
            1,
            1,
            "",
            QPointingDeviceUniqueId(),
        )

    def pull(self, touches: Iterable[tuple[QPointF, float, float]]) -> None:
        """Send a pull: places on the widget, px, each with its pressure, 0 to 1, and its tilt to the right, degrees."""
        kind, last = QEvent.Type.TabletPress, None
        for at, pressure, tilt in touches:
            self._send(kind, at, pressure, tilt)
            kind, last = QEvent.Type.TabletMove, (at, tilt)
        if last is not None:
            self._send(QEvent.Type.TabletRelease, last[0], 0.0, last[1])

    def _send(self, kind: QEvent.Type, at: QPointF, pressure: float, tilt: float) -> None:
        button = Qt.MouseButton.NoButton if kind is QEvent.Type.TabletMove else Qt.MouseButton.LeftButton
        held = Qt.MouseButton.NoButton if kind is QEvent.Type.TabletRelease else Qt.MouseButton.LeftButton
        event = QTabletEvent(
            kind,
            self._device,
            at,
            QPointF(self._widget.mapToGlobal(at)),
            pressure,
            tilt,
            0.0,
            0.0,
            0.0,
            0.0,
            Qt.KeyboardModifier.NoModifier,
            button,
            held,
        )
        QApplication.sendEvent(self._widget, event)
