"""What a photo of a painted card shows: its strokes and dabs as reflectance, ready to be fitted."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.applicator import Applicator
from pennello.kit.contact import contact_width_mm
from pennello.kit.paint import Paint
from pennello.load.recipe import PickUp, Recipe
from pennello.phrases import phrase
from pennello.practice.card import (
    BAR_MM,
    DAB_COATS,
    GREY,
    GREY_R,
    HEIGHT_MM,
    LET_DOWN,
    MARK_CENTRES_MM,
    PAPER_R,
    WIDTH_MM,
    Card,
    Field,
    FieldKind,
    white_of,
)
from pennello.practice.fit_card import PLACES, FitProblemError, SeenDab, SeenStroke, lab_of
from pennello.practice.photo import Corners, Flat, Picture, laid_flat, lamp_out

Array = NDArray[np.floating[Any]]

_STATIONS_A_BAR = (0.28, 0.72)
"""Where within each bar a stroke is looked at, away from the bar's edges."""

_ALONG_MM = (-1.2, 0.0, 1.2)
_PAINTED_LAB = 9.0
_LEAST_SHARE = 0.35


def read_card(
    picture: Picture, corners: Corners, card: Card, brush: Applicator, recipe: Recipe, paints: tuple[Paint, ...]
) -> tuple[tuple[SeenStroke, ...], tuple[SeenDab, ...]]:
    """Return what a photo of a painted card shows.

    Parameters
    ----------
    corners
        Middles of the corner marks on the photo, pixels, clockwise from the top left of the card.
    recipe
        The load that all strokes were painted with, but for the sweeps, which each field says.

    Raises
    ------
    PhotoProblemError
        If the photo cannot be read.
    FitProblemError
        If no field of a stroke is painted.
    """
    flat = flat_card(picture, corners, card)
    strokes = tuple(found for one in card.of(FieldKind.STROKE) if (found := _stroke(flat, one, brush, recipe, card)))
    if not strokes:
        words = phrase(
            "No stroke is found on the card; paint its four fields from the left, each in one pull, and let them dry."
        )
        raise FitProblemError(words)
    return strokes, tuple(_dabs(flat, card, paints))


def flat_card(picture: Picture, corners: Corners, card: Card) -> Flat:
    """Return a photo of a card as reflectance, laid flat; see `read_card`."""
    raw = laid_flat(picture, corners, MARK_CENTRES_MM, (WIDTH_MM, HEIGHT_MM))
    grey = tuple(part + by for part, by in zip(GREY, (1.0, 1.0, -2.0, -2.0), strict=True))
    return lamp_out(raw, white_places(card), PAPER_R, [(grey, GREY_R)])


def white_places(card: Card) -> Array:
    """Return places that stay white on a painted card, mm, shape (n, 2)."""
    at: list[tuple[float, float]] = [(x, y) for y in (11.7, 94.8) for x in (30, 45, 60, 75, 90, 105, 120, 131)]
    at += [(x, y) for x in (2.5, 145.5) for y in (20, 35, 50, 65, 80)]
    at += [(73.0, y) for y in (17, 27, 37, 68, 80)] + [(99.0, y) for y in (44, 55, 63)]
    boxes = [(one.x, one.y, one.width, one.height) for one in card.fields if one.kind is not FieldKind.STROKE]
    free = [
        (x, y)
        for x, y in at
        if not any(left - 1 < x < left + w + 1 and top - 1 < y < top + h + 1 for left, top, w, h in boxes)
    ]
    return np.array(free, np.float64)


def with_passes(recipe: Recipe, passes: float) -> Recipe:
    """Return a load with another number of sweeps on each cake."""
    return replace(recipe, pickups=tuple(_swept(one, passes) for one in recipe.pickups))


def _swept(pickup: PickUp, passes: float) -> PickUp:
    return replace(pickup, passes=passes)


def _stroke(flat: Flat, field: Field, brush: Applicator, recipe: Recipe, card: Card) -> SeenStroke | None:
    """Return a painted field as seen; None where little of it is painted."""
    s_mm = stations_of(field)
    wide = float(contact_width_mm(brush, field.pressure))
    middle = _middle(flat, field, wide, card)
    if middle is None:
        return None
    across = (np.arange(PLACES) + 0.5) / PLACES - 0.5
    x = field.x + s_mm[:, None, None] + np.array(_ALONG_MM)[None, None, :]
    y = middle + across[None, :, None] * wide
    rgb = flat.at(*np.broadcast_arrays(x, y)).mean(axis=2)
    ground = card.ground(field.x + s_mm, np.full(len(s_mm), field.y + 1.0))
    return SeenStroke(with_passes(recipe, field.passes), field.pressure, s_mm, rgb, ground)


def stations_of(field: Field) -> Array:
    """Return where along a field a stroke is looked at, mm from its start."""
    bars = np.arange(0, field.width - BAR_MM / 2, BAR_MM)
    return np.asarray((bars[:, None] + BAR_MM * np.array(_STATIONS_A_BAR)[None]).ravel())


def _middle(flat: Flat, field: Field, wide: float, card: Card) -> float | None:
    """Return where the middle of a stroke lies, mm from the card's top, by where the field is no longer as printed."""
    s_mm = stations_of(field)
    y = np.arange(field.y + 0.3, field.y + field.height - 0.2, 0.2)
    shown = flat.at(*np.meshgrid(field.x + s_mm, y))
    printed = card.ground(field.x + s_mm, np.full(len(s_mm), field.y + 1.0))
    off = np.linalg.norm(lab_of(shown) - lab_of(np.repeat(printed[:, None], 3, axis=1))[None], axis=-1)
    painted = (off > _PAINTED_LAB).mean(axis=1)
    if painted.max() < _LEAST_SHARE:
        return None
    inside = np.array([np.interp([m - wide / 2 + 0.1, m + wide / 2 - 0.1], y, np.cumsum(painted)) for m in y])
    whole = (y - wide / 2 > field.y - 1.5) & (y + wide / 2 < field.y + field.height + 1.5)
    gained = np.where(whole, inside[:, 1] - inside[:, 0], -1)
    best = y[gained >= gained.max() - 1e-9]
    return float(best.mean())


def _dabs(flat: Flat, card: Card, paints: tuple[Paint, ...]) -> list[SeenDab]:
    found = []
    for field in card.fields:
        if field.kind is FieldKind.STROKE:
            continue
        rgb = flat.mean(field.x + 1.8, field.y + 1.8, field.width - 3.6, field.height - 3.6)
        below = float(card.ground(np.array(field.x + field.width / 2), np.array(field.y + field.height / 2)))
        if np.linalg.norm(lab_of(rgb) - lab_of(np.full(3, below))) < _PAINTED_LAB and not _white(field, paints):
            continue  # left out
        parts: tuple[tuple[str, float], ...] = ((field.paint, 1.0),)
        if field.kind is FieldKind.LET_DOWN:
            parts = ((field.paint, LET_DOWN), (white_of(paints), 1 - LET_DOWN))
        found.append(SeenDab(parts, DAB_COATS, rgb, below))
    return found


def _white(field: Field, paints: tuple[Paint, ...]) -> bool:
    return field.kind is FieldKind.DAB and field.paint == white_of(paints)
