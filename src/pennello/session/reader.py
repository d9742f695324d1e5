"""Colour readers. The simulated one ships as a stand-in: it reads a card of invented patches, with a reader's noise."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import PennelloError
from pennello.kit import catalogue
from pennello.kit.paint import masstones
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

NOISE = 0.002
"""Standard deviation of one reading of the simulated reader, in reflectance."""

READINGS = 3


class ReaderError(PennelloError):
    """The reader cannot read."""


@dataclass(slots=True)
class SimulatedReader:
    """A reader without a device: choose the patch that lies under it.

    Each reading is the mean of three noisy ones, off by the drift that reading the white tile takes out.
    """

    name: str = phrase("Simulated reader")
    seed: int = 7
    patch: str = ""
    _drift: float = 0.93
    _count: int = 0

    @property
    def patches(self) -> dict[str, str]:
        """Names of the patches on its card by id."""
        return {paint.id: phrase("{paint} swatch", paint=paint.name) for paint in catalogue.paints().values()}

    def calibrate(self) -> None:
        """Read the white tile."""
        self._drift = 1.0

    def read(self) -> Array:
        """Return a reading of the patch."""
        if self._drift != 1.0:
            raise ReaderError(phrase("The reader has not seen its white tile yet; read the tile first."))
        if self.patch not in catalogue.paints():
            raise ReaderError(phrase("Nothing lies under the reader; choose a patch of its card."))
        self._count += 1
        rng = np.random.default_rng((self.seed, self._count))
        truth = masstones((catalogue.paints()[self.patch],))[0]
        noisy = truth + rng.normal(0, NOISE, (READINGS, len(truth)))
        return np.asarray(np.clip(noisy.mean(axis=0), 1e-4, 1.0))
