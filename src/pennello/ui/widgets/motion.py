"""Whether things may move by themselves: as chosen in Pennello, or by the desktop."""

from __future__ import annotations

from PySide6.QtWidgets import QApplication, QStyle


class _Chosen:
    less = False


def choose_less_motion(*, on: bool) -> None:
    """Take the painter's choice."""
    _Chosen.less = on


def less_motion() -> bool:
    """Return whether nothing shall move by itself."""
    style = QApplication.style()
    still = style is not None and style.styleHint(QStyle.StyleHint.SH_Widget_Animation_Duration) == 0
    return _Chosen.less or still
