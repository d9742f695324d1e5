"""Icons of paint: no style lays a veil of its own colour over them, since they are judged by eye."""

from __future__ import annotations

from PySide6.QtGui import QIcon, QPixmap

UNVEILED = (QIcon.Mode.Normal, QIcon.Mode.Active, QIcon.Mode.Selected)
"""States in which the picture is shown as it is; only what cannot be chosen is dimmed."""


def true_icon(picture: QPixmap | None) -> QIcon:
    """Return a picture as an icon whose colours stay when it is chosen or pointed at; an empty one for None."""
    icon = QIcon()
    if picture is not None:
        for mode in UNVEILED:
            icon.addPixmap(picture, mode)
    return icon
