"""A simulated painter, her brush, her paints and her camera: the stand-in for a hand, and the measure of the predictor.

Her world obeys a wider law than the one that is fitted to it: paint leaves the brush not quite exponentially, spectra
differ in ways that no lobe can follow, and a film's surface reflects. Sizes of all perturbations are defaults; they
are what makes a prediction with shipped defaults miss by five to seven dE00.
"""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from pennello.colour.basis import FULL
from pennello.colour.kubelka_munk import falling
from pennello.colour.observer import WAVELENGTH_NM, xyz_to_rgb
from pennello.colour.srgb import encode
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS, contact_width_mm
from pennello.kit.paint import Paint, optics
from pennello.lay.film import covered_reflectance
from pennello.lay.laying import Laid
from pennello.load.edge import load
from pennello.load.recipe import Recipe
from pennello.practice.card import (
    DAB_COATS,
    HEIGHT_MM,
    LET_DOWN,
    MARK_CENTRES_MM,
    MARK_MM,
    PAPER_R,
    WIDTH_MM,
    Card,
    Field,
    FieldKind,
    white_of,
)
from pennello.practice.fit_card import COAT_UM, drifting, moved, with_constants
from pennello.practice.photo import MARK_CELLS, Corners, homography, mark_cells, taken
from pennello.practice.read_card import with_passes
from pennello.practice.sheet import PLACE_R, SHEET_MARK_MM, SHEET_MARKS_MM, SHEET_MM, TryPlace
from pennello.practice.strip import seen, strip_um

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

_A_MM = 4  # places along a stroke that a picture of it is worked out at, for each mm


@dataclass(frozen=True, slots=True, eq=False)
class World:
    """What is true for a simulated painter.

    Attributes
    ----------
    brush, cakes, paints
        With her own constants; paints in the order of the rows of `k` and `s`.
    k, s
        Per um, shape (paints, 36) each.
    bend
        Exponent of the release; 1 is the program's own law.
    gloss
        Share of light that the surface of a film sends back.
    """

    brush: Applicator
    cakes: dict[str, Cake]
    paints: tuple[Paint, ...]
    k: Array
    s: Array
    bend: float
    gloss: float

    def film_um(self, recipe: Recipe, s_mm: Array, pressure: float) -> Array:
        """Return the film of each paint, um, shape (n, paints, 64)."""
        edge = load(drifting(recipe, self.brush), self.cakes, self.brush)
        um = strip_um(edge, self.brush, s_mm, pressure, self.bend)
        rows = np.zeros((len(s_mm), len(self.paints), BINS))
        at = {one.id: number for number, one in enumerate(self.paints)}
        rows[:, [at[name] for name in edge.paints]] = um
        return rows

    def shown(self, um: Array, ground: Array) -> Array:
        """Return the reflectance of films, with what their surface sends back, shape (n, places, 36)."""
        body = seen(um, self.k, self.s, ground)
        thick = um.sum(axis=1)[..., None]
        share = self.gloss * (1 - np.exp(-thick / 6.0))
        return np.asarray(body + share * (1 - body))


@dataclass(frozen=True, slots=True)
class HandSlips:
    """How a hand slips, standard deviations: beside on the cake, mm; filled and pressed, natural logarithm and share;
    laid beside on paper, mm."""

    offset_mm: float = 0.5
    filled: float = 0.08
    pressed: float = 0.07
    place_mm: float = 0.8


@dataclass(frozen=True, slots=True)
class Camera:
    """A simulated camera.

    Attributes
    ----------
    px_per_mm
        About how fine a card is taken.
    gain
        Spread of the gains of its channels, natural logarithm.
    falloff
        By how much the lamp is weaker at the far corner.
    noise
        Of linear sRGB, standard deviation at white.
    tilt
        How far corners are moved by the perspective, share of the card's size.
    quality
        Of the JPEG.
    """

    px_per_mm: float = 12.0
    gain: float = 0.05
    falloff: float = 0.2
    noise: float = 0.008
    tilt: float = 0.04
    quality: int = 90


class SimulatedPainter:
    """A painter of a seed, with constants of her own, for a brush and a cake.

    Parameters
    ----------
    paints
        All that the cakes hold.
    seed
        The same seed is the same painter.
    """

    def __init__(self, brush: Applicator, cakes: dict[str, Cake], paints: tuple[Paint, ...], seed: int) -> None:
        self.rng = np.random.default_rng(seed)
        self.slips, self.camera = HandSlips(), Camera()
        factors = np.exp(self.rng.normal(0, (0.3, 0.28, 0.35, 0.35)))
        own = with_constants(brush, factors)
        k, s = self._paints(paints)
        bend = float(self.rng.uniform(0.75, 1.25))
        self.world = World(own, cakes, paints, k, s, bend, float(self.rng.uniform(0.0, 0.04)))

    def _paints(self, paints: tuple[Paint, ...]) -> tuple[Array, Array]:
        """Return K and S whose logarithms differ from the defaults by smooth random curves of the wavelength."""
        made = optics(paints)
        apart = np.subtract.outer(WAVELENGTH_NM, WAVELENGTH_NM) / 40.0
        smooth = np.linalg.cholesky(np.exp(-0.5 * apart**2) + 1e-6 * np.eye(len(WAVELENGTH_NM)))
        count = len(paints)
        bent = self.rng.normal(size=(count, len(WAVELENGTH_NM))) @ smooth.T
        tint = self.rng.normal(0, 0.5, count)[:, None]
        steeper = falling(self.rng.uniform(-0.2, 0.6, count))
        k = made.k * np.exp(tint + 0.35 * bent)
        fine = self.rng.normal(size=(count, len(WAVELENGTH_NM))) @ smooth.T
        return k, made.s * np.exp(tint + 0.1 * fine) * steeper

    def slipped(self, recipe: Recipe, pressure: float) -> tuple[Recipe, float, float]:
        """Return a load as her hand makes it, how hard she presses, and by how much fuller the brush is."""
        slips = self.slips
        hand = moved(recipe, float(self.rng.normal(0, slips.offset_mm)))
        pressed = min(max(pressure + float(self.rng.normal(0, slips.pressed)), 0.05), 1.0)
        return hand, pressed, float(np.exp(self.rng.normal(0, slips.filled)))

    def strip(self, recipe: Recipe, s_mm: Array, pressure: float, ground: Array, *, slips: bool = True) -> Array:
        """Return what a straight stroke of hers shows, reflectance at 36 bands, shape (n, 64, 36).

        Parameters
        ----------
        ground
            Reflectance below, shape (36,) or (n, 36).
        slips
            Whether her hand slips.
        """
        fuller = 1.0
        if slips:
            recipe, pressure, fuller = self.slipped(recipe, pressure)
        return self.world.shown(fuller * self.world.film_um(recipe, s_mm, pressure), ground)

    def card_rgb(self, card: Card, recipe: Recipe, px_per_mm: float) -> Array:
        """Return the painted card, linear sRGB, shape (rows, columns, 3)."""
        rows, columns = round(HEIGHT_MM * px_per_mm), round(WIDTH_MM * px_per_mm)
        x = (np.arange(columns) + 0.5) / px_per_mm
        y = (np.arange(rows) + 0.5) / px_per_mm
        base = card.ground(*np.meshgrid(x, y))
        ink = np.clip(self.rng.normal(0, 0.004), -0.01, 0.01)
        picture = np.repeat((base + ink * (base < 0.1))[..., None], 3, axis=2)
        for number, (cx, cy) in enumerate(MARK_CENTRES_MM):
            _stamp(picture, number, (cx, cy), px_per_mm)
        for field in card.fields:
            self._paint(picture, card, field, recipe, px_per_mm)
        return picture

    def _paint(self, picture: Array, card: Card, field: Field, recipe: Recipe, px_per_mm: float) -> None:
        if field.kind is FieldKind.STROKE:
            self._paint_stroke(picture, card, field, recipe, px_per_mm)
            return
        at = {one.id: number for number, one in enumerate(self.world.paints)}
        um = np.zeros((1, len(at), 1))
        coat = COAT_UM * DAB_COATS * float(np.exp(self.rng.normal(0, 0.2)))
        if field.kind is FieldKind.DAB:
            um[0, at[field.paint], 0] = coat
        else:
            um[0, at[white_of(self.world.paints)], 0] = coat * (1 - LET_DOWN)
            um[0, at[field.paint], 0] = coat * LET_DOWN * float(np.exp(self.rng.normal(0, 0.15)))
        ground = float(card.ground(np.array(field.x + 1), np.array(field.y + 1)))
        rgb = xyz_to_rgb(FULL.xyz(self.world.shown(um, np.full(36, ground))))[0, 0]
        rows, columns = _box(field.x + 0.6, field.y + 0.6, field.width - 1.2, field.height - 1.2, px_per_mm)
        picture[rows, columns] = rgb

    def _paint_stroke(self, picture: Array, card: Card, field: Field, recipe: Recipe, px_per_mm: float) -> None:
        place = float(self.rng.normal(0, self.slips.place_mm))
        wide = float(contact_width_mm(self.world.brush, field.pressure))
        spare = max((field.height - wide) / 2, 0.0)
        top = field.y + spare + float(np.clip(place, -spare, spare))
        rows, columns = _box(field.x, top, field.width, wide, px_per_mm)
        count = columns.stop - columns.start
        s_mm = (np.arange(round(field.width * _A_MM)) + 0.5) / _A_MM
        ground = card.ground(field.x + s_mm, np.full(len(s_mm), field.y + 1.0))
        shown = self.strip(
            with_passes(recipe, field.passes), s_mm, field.pressure, np.repeat(ground[:, None], 36, axis=1)
        )
        rgb = xyz_to_rgb(FULL.xyz(shown))
        high = rows.stop - rows.start
        bins = ((np.arange(high) + 0.5) / high * BINS).astype(np.intp)
        along = ((np.arange(count) + 0.5) / count * len(s_mm)).astype(np.intp)
        picture[rows, columns] = rgb[along][:, bins].transpose(1, 0, 2)

    def card_photo(self, card: Card, recipe: Recipe) -> tuple[Picture, Corners]:
        """Return a photo of the painted card, sRGB bytes, and where its corner marks are on it, pixels."""
        fine = self.camera.px_per_mm
        return self.photo(self.card_rgb(card, recipe, fine), (WIDTH_MM, HEIGHT_MM), MARK_CENTRES_MM)

    def photo(self, paper: Array, size_mm: tuple[float, float], marks_mm: Corners) -> tuple[Picture, Corners]:
        """Return a photo of a sheet of paper (linear sRGB, shape (rows, columns, 3)), and its corner marks, pixels."""
        return photographed(paper, size_mm, marks_mm, self.camera, self.rng)


def photographed(
    paper: Array, size_mm: tuple[float, float], marks_mm: Corners, camera: Camera, rng: np.random.Generator
) -> tuple[Picture, Corners]:
    """Return a photo of a sheet lying on a table, and its corner marks on it, pixels; see `SimulatedPainter.photo`."""
    high, wide, _ = paper.shape
    fine = wide / size_mm[0]
    margin = 0.08 * wide
    corners = np.array([(0, 0), (wide, 0), (wide, high), (0, high)], np.float64)
    moved_to = corners + margin + rng.uniform(-camera.tilt, camera.tilt, (4, 2)) * wide
    columns, rows = round(wide + 2 * margin), round(high + 2 * margin)
    back = homography(moved_to.tolist(), corners.tolist())
    light = np.stack([_seen_from(paper[..., n], back, (columns, rows)) for n in range(3)], axis=-1)
    lamp = rng.uniform(-1, 1, 2)
    x, y = (np.arange(columns) + 0.5) / columns - 0.5, ((np.arange(rows) + 0.5) / rows - 0.5)[:, None]
    away = x * lamp[0] + y * lamp[1] + 0.3 * x**2
    gain = 0.9 * np.exp(rng.normal(0, camera.gain, 3))
    light *= ((1 - camera.falloff * away)[..., None] * gain).astype(np.float32)
    light += camera.noise * rng.standard_normal(light.shape, np.float32) * np.sqrt(np.clip(light, 0.02, 1))
    shown = np.rint(encode(light) * 255).astype(np.uint8)
    file = io.BytesIO()
    Image.fromarray(shown).save(file, "JPEG", quality=camera.quality)
    with Image.open(file) as opened:
        picture = np.array(opened.convert("RGB"))
    forth = homography(corners.tolist(), moved_to.tolist())
    marks = taken(forth, np.array(marks_mm) * fine)
    return picture, tuple((float(px), float(py)) for px, py in marks)


def _seen_from(band: Array, back: Array, size: tuple[int, int]) -> Array:
    """Return one band of a sheet on a table, float32, as seen so that `back` takes places of the photo to the sheet."""
    flat = Image.fromarray(np.ascontiguousarray(band, np.float32))
    how = tuple((back / back[2, 2]).ravel()[:8].tolist())
    seen_so = flat.transform(size, Image.Transform.PERSPECTIVE, how, Image.Resampling.BILINEAR, fillcolor=_TABLE_R)
    return np.asarray(seen_so)


_TABLE_R = 0.12
"""What the table reflects that a sheet lies on."""


def _box(x: float, y: float, width: float, height: float, px_per_mm: float) -> tuple[slice, slice]:
    left, top = round(x * px_per_mm), round(y * px_per_mm)
    return (slice(top, round((y + height) * px_per_mm)), slice(left, round((x + width) * px_per_mm)))


def _stamp(
    picture: Array, number: int, centre: tuple[float, float], px_per_mm: float, size_mm: float = MARK_MM
) -> None:
    """Print a corner mark."""
    cell = size_mm / MARK_CELLS
    for row, line in enumerate(mark_cells(number)):
        for column, white in enumerate(line):
            x, y = centre[0] - size_mm / 2 + column * cell, centre[1] - size_mm / 2 + row * cell
            picture[_box(x, y, cell, cell, px_per_mm)] = 0.86 if white else 0.045


def sheet_rgb(places: Sequence[TryPlace], tries: Mapping[int, Sequence[Laid]], px_per_mm: float) -> Array:
    """Return a painted practice sheet, linear sRGB.

    Parameters
    ----------
    tries
        What is laid on a place by its number, about its middle, each with all 36 bands or a small set.
    """
    rows, columns = (round(size * px_per_mm) for size in reversed(SHEET_MM))
    picture = np.full((rows, columns, 3), PAPER_R)
    for number, centre in enumerate(SHEET_MARKS_MM):
        _stamp(picture, number, centre, px_per_mm, SHEET_MARK_MM)
    for place in places:
        picture[_box(place.x, place.y, place.width, place.height, px_per_mm)] = PLACE_R
        for laid in tries.get(place.number, ()):
            _paint_laid(picture, place, laid, px_per_mm)
    return picture


def _paint_laid(picture: Array, place: TryPlace, laid: Laid, px_per_mm: float) -> None:
    """Lay a film over what is there, cut at the edge of its place."""
    box = _box(place.x, place.y, place.width, place.height, px_per_mm)
    film = laid.film
    x = (np.arange(box[1].stop - box[1].start) + 0.5) / px_per_mm + place.x - place.middle_mm[0]
    y = (np.arange(box[0].stop - box[0].start) + 0.5) / px_per_mm + place.y - place.middle_mm[1]
    where = film.canvas.to_px(np.stack(np.meshgrid(x, y), axis=-1))
    column, row = (np.floor(where[..., n]).astype(np.intp) for n in (0, 1))
    inside = (column >= 0) & (column < film.canvas.columns) & (row >= 0) & (row < film.canvas.rows)
    at = (row[inside], column[inside])
    cover = film.coverage[at]
    kx, sx = film.kx[at[0], :, at[1]], film.sx[at[0], :, at[1]]
    shown = covered_reflectance(kx, sx, cover, np.full(kx.shape[1], PLACE_R))
    there = picture[box][inside]
    # where something lies already the newer film is seen as far as it covers
    fresh = np.abs(there - PLACE_R).max(axis=1) < 1e-6
    rgb = xyz_to_rgb(film.basis.xyz(shown))
    picture[box][inside] = np.where(fresh[:, None], rgb, there + cover[:, None] * (rgb - there))


def sheet_photo(
    places: Sequence[TryPlace],
    tries: Mapping[int, Sequence[Laid]],
    seed: int = 0,
    camera: Camera | None = None,
) -> tuple[Picture, Corners]:
    """Return a photo of a painted practice sheet, and its corner marks, pixels; see `sheet_rgb`."""
    taken_by = camera or Camera(px_per_mm=8.0)
    paper = sheet_rgb(places, tries, taken_by.px_per_mm)
    return photographed(paper, SHEET_MM, SHEET_MARKS_MM, taken_by, np.random.default_rng(seed))
