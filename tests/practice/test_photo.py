"""Photos laid flat: known perspectives and lamps are taken out again; OpenCV is the oracle of homography and marks."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.practice.kit import BRUSH, PAINTS, painter, recipe

from pennello.colour.difference import ciede2000
from pennello.colour.srgb import encode
from pennello.practice import photo
from pennello.practice.card import (
    GREY,
    GREY_R,
    HEIGHT_MM,
    MARK_CENTRES_MM,
    PAPER_R,
    WIDTH_MM,
    card_for,
    dark_paints,
    white_of,
)
from pennello.practice.fit_card import lab_of
from pennello.practice.photo import PhotoProblemError, homography, laid_flat, lamp_out, mark_cells, marks_found, taken
from pennello.practice.read_card import flat_card, white_places
from pennello.practice.simulated import Camera, photographed

CARD = card_for(BRUSH, PAINTS)


def paper(px_per_mm=10.0):
    rows, columns = round(HEIGHT_MM * px_per_mm), round(WIDTH_MM * px_per_mm)
    at = np.meshgrid((np.arange(columns) + 0.5) / px_per_mm, (np.arange(rows) + 0.5) / px_per_mm)
    return np.repeat(CARD.ground(*at)[..., None], 3, axis=2)


@settings(max_examples=30, deadline=None)
@given(st.lists(st.floats(-20, 20), min_size=8, max_size=8))
def test_a_homography_is_the_one_of_opencv(off):
    one = np.array([(0, 0), (100, 0), (100, 70), (0, 70)], np.float32)
    other = one + np.array(off, np.float32).reshape(4, 2)
    mine = homography(one.tolist(), other.tolist())
    assert mine == pytest.approx(cv2.getPerspectiveTransform(one, other), rel=1e-3, abs=1e-3)
    assert taken(mine, one.astype(float)) == pytest.approx(other, abs=1e-3)


def test_corner_marks_are_those_of_opencv():
    book = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)
    for number in range(4):
        assert np.array_equal(mark_cells(number), cv2.aruco.generateImageMarker(book, number, 6) > 127)


def test_marks_are_found_on_a_photo():
    picture, corners = painter(2).card_photo(CARD, recipe())
    found = marks_found(picture)
    assert np.abs(np.array(found) - np.array(corners)).max() < 1.5
    assert marks_found(np.full((200, 300, 3), 200, np.uint8)) is None
    assert photo.camera_installed()


def test_places_and_colours_come_back_from_a_photo():
    """Asked: places to 0.2 mm, colours to 1 dE00 on average, whatever lamp, noise, perspective and JPEG did."""
    base = paper(12.0)
    for seed, (x, y) in enumerate(((30.3, 96.0), (100.7, 50.2), (120.0, 80.0))):
        sheet = base.copy()
        row, column = round(y * 12), round(x * 12)
        sheet[row - 12 : row + 12, column - 12 : column + 12] = (0.5, 0.15, 0.3)
        shown, corners = photographed(
            sheet, (WIDTH_MM, HEIGHT_MM), MARK_CENTRES_MM, Camera(), np.random.default_rng(seed)
        )
        flat = flat_card(shown, corners, CARD)
        colour = lab_of(flat.mean(x - 0.6, y - 0.6, 1.2, 1.2))
        assert ciede2000(colour, lab_of(np.array([0.5, 0.15, 0.3]))) < 1.0
        at = np.meshgrid(np.arange(x - 4, x + 4, 0.1), np.arange(y - 4, y + 4, 0.1))
        red = np.linalg.norm(lab_of(flat.at(*at)) - lab_of(np.array([0.5, 0.15, 0.3])), axis=-1) < 12
        assert abs(at[0][red].mean() - x) < 0.2
        assert abs(at[1][red].mean() - y) < 0.2
        assert ciede2000(lab_of(flat.mean(*GREY)), lab_of(np.full(3, GREY_R))) < 1.0
        white = np.array([lab_of(flat.mean(a - 0.5, b - 0.5, 1, 1)) for a, b in white_places(CARD)])
        assert ciede2000(white, lab_of(np.full(3, PAPER_R))).mean() < 1.0


def bytes_of(linear):
    return np.rint(encode(np.clip(linear, 0, 1)) * 255).astype(np.uint8)


SQUARE = tuple((x * 10, y * 10) for x, y in MARK_CENTRES_MM)


@pytest.mark.parametrize(
    ("change", "corners", "words"),
    [
        (lambda p: p * 0.05, SQUARE, "too dark"),
        (lambda p: p * 0 + 1.0, SQUARE, "glaring"),
        (lambda p: p, tuple(reversed(SQUARE)), "wrong way round"),
        (lambda p: p, ((-5, 0), *SQUARE[1:]), "outside"),
        (lambda p: p, tuple((x / 10, y / 10) for x, y in SQUARE), "go nearer"),
        (lambda p: p, ((0, 0), (500, 0), (1000, 0), (100, 900)), "one line"),
    ],
)
def test_what_is_no_photo_of_a_card_is_said(change, corners, words):
    with pytest.raises(PhotoProblemError, match=words):
        flat_card(bytes_of(change(paper())), corners, CARD)


def test_a_shadow_is_said():
    dark = paper()
    dark[:, 700:] *= 0.45
    with pytest.raises(PhotoProblemError, match="shadow"):
        flat_card(bytes_of(dark), SQUARE, CARD)


def test_a_lamp_of_second_order_goes_without_rest():
    """Closed form: a lamp that is a polynomial of second order itself is taken out whole."""
    raw = paper(4.0)
    y, x = np.mgrid[0 : raw.shape[0], 0 : raw.shape[1]] / 400.0
    lamp = 0.8 - 0.1 * x + 0.05 * y - 0.08 * x * y + 0.04 * x * x
    flat = laid_flat(bytes_of(raw), tuple((4 * a, 4 * b) for a, b in MARK_CENTRES_MM), MARK_CENTRES_MM, (148, 105))
    lit = photo.Flat(raw * lamp[..., None], 4.0)
    even = lamp_out(lit, white_places(CARD), PAPER_R, [])
    assert np.abs(even.rgb - raw)[raw > 0.5].max() < 2e-3
    assert flat.px_per_mm == pytest.approx(4.0)


def test_dark_paints_are_let_down():
    assert [one.id for one in dark_paints(PAINTS)] == ["plum"]
    assert white_of(PAINTS) == "white"
    assert dark_paints(PAINTS[2:]) == (), "there is no white to let them down in"


@pytest.mark.slow
@pytest.mark.parametrize("turns", [1])
def test_a_photo_taken_upside_down_is_read_all_the_same(turns):
    """Each mark has its own number, so that the card's top left is known however it was held."""
    picture, corners = painter(4).card_photo(CARD, recipe())
    turned = np.ascontiguousarray(np.rot90(picture, turns))
    found = marks_found(turned)
    assert found is not None
    one, other = (flat_card(shown, at, CARD) for shown, at in ((picture, corners), (turned, found)))
    assert np.abs(one.mean(20, 20, 4, 4) - other.mean(20, 20, 4, 4)).max() < 0.03
    assert np.abs(one.mean(*GREY) - other.mean(*GREY)).max() < 0.03
