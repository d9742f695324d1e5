"""A photo of the painter's own in the place of a drawn chart: two landmarks of it lie on two of the chart."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Any

import numpy as np
from numpy.typing import NDArray

from pennello.chart.chart import Chart
from pennello.errors import OutOfRangeError
from pennello.phrases import phrase
from pennello.record import Told, check

Array = NDArray[np.floating[Any]]

MOST_PHOTOS = 60
PX = (-100_000.0, 100_000.0)
LEAST_APART_PX = 8.0


@dataclass(frozen=True, slots=True)
class Photo:
    """A picture file, and where two landmarks of the chart lie in it; the plan keeps its name, not the picture."""

    chart: Annotated[str, Told("key of the chart that it stands for", text="id", since=11)]
    file: Annotated[str, Told("the picture's file, from the plan's folder", text="long name", since=11)]
    one: Annotated[str, Told("a landmark of the chart", text="name", since=11)]
    other: Annotated[str, Told("another one", text="name", since=11)]
    one_x_px: Annotated[float, Told("where the first lies in the picture", "px", within=PX, since=11)]
    one_y_px: Annotated[float, Told("down", "px", within=PX, since=11)]
    other_x_px: Annotated[float, Told("where the other one lies", "px", within=PX, since=11)]
    other_y_px: Annotated[float, Told("down", "px", within=PX, since=11)]

    def __post_init__(self) -> None:
        check(self)
        apart = math.dist((self.one_x_px, self.one_y_px), (self.other_x_px, self.other_y_px))
        if self.one == self.other or apart < LEAST_APART_PX:
            raise OutOfRangeError(
                phrase("landmarks of a photo"),
                phrase("{apart:.0f} px apart", apart=apart),
                phrase("two, 8 px apart at least"),
            )

    def onto(self, here: Chart) -> Array:
        """Return what takes places of the picture, px, to the chart, mm: turned, sized and moved, shape (2, 3).

        Raises
        ------
        UnknownNameError
            If the chart has no such landmark.
        """
        a, b = (complex(*here.landmark(name)) for name in (self.one, self.other))
        p, q = complex(self.one_x_px, self.one_y_px), complex(self.other_x_px, self.other_y_px)
        by = (b - a) / (q - p)
        move = a - by * p
        return np.array([[by.real, -by.imag, move.real], [by.imag, by.real, move.imag]])
