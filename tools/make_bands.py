"""Makes the tables in src/pennello/colour/data: the observer, and the small band sets by exchange search.

Run with the development environment (colour-science carries the CIE tables):  .venv/bin/python tools/make_bands.py
The observer table must exist before the package can be imported, so it is written first.
"""

from __future__ import annotations

import itertools
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.floating[Any]]
DATA = Path(__file__).parents[1] / "src/pennello/colour/data"
FILMS = 6000


def write_observer() -> None:
    """Write CIE 1931 2 degree and D65 at 10 nm, from the tables that colour-science carries (CIE 015)."""
    import colour  # noqa: PLC0415

    shape = colour.SpectralShape(380, 730, 10)
    cmfs = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(shape).values
    light = colour.SDS_ILLUMINANTS["D65"].copy().align(shape).values
    rows = [
        f"{nm:.0f},{x:.10g},{y:.10g},{z:.10g},{d:.10g}"
        for nm, (x, y, z), d in zip(shape.wavelengths, cmfs, light, strict=True)
    ]
    header = "# CIE 1931 2 degree observer and CIE D65 (CIE 015:2018): nm, x, y, z, D65"
    (DATA / "observer.csv").write_text("\n".join([header, *rows]) + "\n", "utf-8")


def write_lights() -> None:
    """Write CIE A, LED-B1 and the components of the daylight series at 10 nm, as colour-science carries them."""
    from colour.colorimetry import SDS_BASIS_FUNCTIONS_CIE_ILLUMINANT_D_SERIES  # noqa: PLC0415

    import colour  # noqa: PLC0415

    shape = colour.SpectralShape(380, 730, 10)
    parts = SDS_BASIS_FUNCTIONS_CIE_ILLUMINANT_D_SERIES
    tables = [
        *(colour.SDS_ILLUMINANTS[name] for name in ("A", "LED-B1")),
        *(parts[name] for name in ("S0", "S1", "S2")),
    ]
    columns = [one.copy().align(shape).values for one in tables]
    rows = [
        ",".join([f"{nm:.0f}", *(f"{value:.10g}" for value in row)])
        for nm, row in zip(shape.wavelengths, zip(*columns, strict=True), strict=True)
    ]
    header = "# CIE A, LED-B1 and the daylight series (CIE 015:2018): nm, A, LED-B1, S0, S1, S2"
    (DATA / "lights.csv").write_text("\n".join([header, *rows]) + "\n", "utf-8")


def training_films(count: int, seed: int) -> Array:
    """Return reflectances (count, 36) of films of one to three random paints over skin, white, black or paint."""
    from pennello.colour.kubelka_munk import SCATTERING_FLOOR, film, k_over_s  # noqa: PLC0415
    from pennello.colour.recover import reflectance_from_srgb  # noqa: PLC0415
    from pennello.colour.skin import ITA_RANGE, skin_reflectance  # noqa: PLC0415

    rng = np.random.default_rng(seed)
    paints = reflectance_from_srgb(rng.random((400, 3)))
    below = np.concatenate(
        [
            [skin_reflectance(ita) for ita in rng.uniform(*ITA_RANGE, 60)],
            paints[:30],
            np.ones((5, 36)),
            np.zeros((5, 36)),
        ]
    )
    s = np.maximum(rng.uniform(0.01, 0.25, 400), SCATTERING_FLOOR)[:, None]
    k = s * k_over_s(paints)
    chosen = rng.integers(400, size=(count, 3))
    parts = rng.dirichlet(np.full(3, 0.5), count)[..., None]
    thick = rng.gamma(2, 8, (count, 1))
    kx = (parts * k[chosen]).sum(axis=1) * thick
    sx = (parts * s[chosen]).sum(axis=1) * thick
    return film(kx, sx, below[rng.integers(len(below), size=count)])


def lab_slopes(films: Array, weights: Array) -> Array:
    """Return d(L, a, b) / d(XYZ), shape (films, 3, 3), scaled roughly as dE00 weighs them."""
    from pennello.colour.observer import WHITE_XYZ  # noqa: PLC0415

    xyz = films @ weights
    ratio = np.maximum(xyz / WHITE_XYZ, 0.0089)
    root = np.cbrt(ratio)
    slope = root / (3 * ratio * WHITE_XYZ)
    slopes = np.zeros((len(films), 3, 3))
    slopes[:, 0, 1] = 116 * slope[:, 1]
    slopes[:, 1, 0], slopes[:, 1, 1] = 500 * slope[:, 0], -500 * slope[:, 1]
    slopes[:, 2, 1], slopes[:, 2, 2] = 200 * slope[:, 1], -200 * slope[:, 2]
    chroma = np.hypot(500 * (root[:, 0] - root[:, 1]), 200 * (root[:, 1] - root[:, 2]))
    slopes[:, 1:, :] /= (1 + 0.045 * chroma)[:, None, None]
    return slopes


class WeightFit:
    """Weighted least squares for the weights of any subset of bands, from normal equations made once."""

    def __init__(self, films: Array, weights: Array) -> None:
        slopes = lab_slopes(films, weights)
        self.white = weights.sum(axis=0)
        metric = np.einsum("nij,nik->njk", slopes, slopes) / len(films)
        target = films @ weights
        # unknown w[band, xyz], flattened band-major
        self.normal = np.einsum("nb,nc,njk->bjck", films, films, metric, optimize=True)
        self.right = np.einsum("nb,njk,nk->bj", films, metric, target, optimize=True)
        self.constant = float(np.einsum("nj,njk,nk->", target, metric, target, optimize=True))

    def solve(self, index: list[int]) -> tuple[float, Array]:
        """Return the mean squared error and the weights (bands, 3) with their sums held at the white."""
        n = 3 * len(index)
        normal = self.normal[np.ix_(index, range(3), index, range(3))].reshape(n, n)
        right = self.right[index].reshape(n)
        sums = np.tile(np.eye(3), (1, len(index)))
        system = np.block([[normal, sums.T], [sums, np.zeros((3, 3))]])
        w = np.linalg.solve(system, np.concatenate([right, self.white]))[:n]
        return float(w @ normal @ w - 2 * w @ right + self.constant), w.reshape(-1, 3)


def exchange_search(fit: WeightFit, bands: int) -> list[int]:
    """Return the best subset found by single exchanges from several even starts."""
    best: tuple[float, list[int]] = (np.inf, [])
    for shift in range(4):
        index = sorted({int(i) for i in np.linspace(shift, 35 - shift, bands).round()})
        error = fit.solve(index)[0]
        while True:
            trials = (
                sorted([*index[:i], *index[i + 1 :], new])
                for i, new in itertools.product(range(bands), range(36))
                if new not in index
            )
            tried_error, tried = min((fit.solve(trial)[0], trial) for trial in trials)
            if tried_error >= error:
                break
            error, index = tried_error, tried
        best = min(best, (error, index))
    return best[1]


def write_bands(bands: int, index: list[int], weights: Array, light: str = "") -> None:
    """Write a set of bands, as it is used by daylight or in another light."""
    from pennello.colour.observer import WAVELENGTH_NM  # noqa: PLC0415

    rows = [f"{WAVELENGTH_NM[i]:.0f},{x:.12g},{y:.12g},{z:.12g}" for i, (x, y, z) in zip(index, weights, strict=True)]
    where = f", in the light of {light}" if light else ""
    header = f"# {bands} bands for films of paint over skin{where} (tools/make_bands.py): nm, X, Y, Z weights"
    name = f"bands_{bands}_{light}.csv" if light else f"bands_{bands}.csv"
    (DATA / name).write_text("\n".join([header, *rows]) + "\n", "utf-8")


def main() -> None:
    """Write all tables and say how good the small sets are on films that the fit has not seen."""
    DATA.mkdir(exist_ok=True)
    write_observer()
    write_lights()
    from pennello.colour.difference import ciede2000  # noqa: PLC0415
    from pennello.colour.lab import xyz_to_lab  # noqa: PLC0415
    from pennello.colour.lights import Light, seen_weights  # noqa: PLC0415
    from pennello.colour.observer import WEIGHTS  # noqa: PLC0415

    films, unseen = training_films(FILMS, seed=1), training_films(FILMS, seed=2)

    def say(bands: int, index: list[int], weights: Array, target: Array, light: str) -> None:
        error = ciede2000(xyz_to_lab(unseen @ target), xyz_to_lab(unseen[:, index] @ weights))
        print(f"{bands} bands, {light}: dE00 mean {error.mean():.4f}, 95 % {np.percentile(error, 95):.4f}")

    fit = WeightFit(films, WEIGHTS)
    for bands in (10, 8):
        index = exchange_search(fit, bands)
        weights = fit.solve(index)[1]
        write_bands(bands, index, weights)
        say(bands, index, weights, WEIGHTS, "daylight")
    for light in (one for one in Light if one is not Light.DAYLIGHT):  # the bands of pixels, those of daylight
        target = seen_weights(light)
        weights = WeightFit(films, target).solve(index)[1]
        write_bands(8, index, weights, light.name.lower())
        say(8, index, weights, target, light.value)


if __name__ == "__main__":
    main()
