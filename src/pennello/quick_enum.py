"""Enumerations that are part of what results are kept by."""

from __future__ import annotations

from enum import Enum


class QuickEnum(Enum):
    """An enumeration that is hashed by what its members are, not by their names: hundreds of times for each stroke."""

    __hash__ = object.__hash__
