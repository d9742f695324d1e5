"""Glitter, stencils and gems in their time: what sticks, what is covered later, what a sponge leaves."""

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from pennello.colour.basis import small_basis
from pennello.design.laid_marks import GRAIN_UM, STICKS_DRY, SUNK, lay_mark, ready_mark, seen_of
from pennello.design.marks import Gem, GemShape, Glitter, Stencil, grains
from pennello.design.ordering import GlitterWhen, Ordering
from pennello.design.plan import Plan, skin_spectrum
from pennello.design.scene import in_time
from pennello.design.touch import layer_shape
from pennello.errors import OutOfRangeError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.lay.canvas import Canvas
from pennello.lay.channels import SOLIDS
from pennello.lay.drying import DRY, TACKY, evaporation_um_s
from pennello.lay.engine import REFERENCE, kernel
from pennello.lay.families.shapes import smooth, straight
from pennello.lay.skin_film import bare_skin

PX, BANDS = 4.0, 8
HERE = Canvas(-30.0, -30.0, 240, 240, PX)
SQUARE = straight([(-10, -10), (10, -10), (10, 10), (-10, 10), (-10, -10)])
DUST = Glitter("dust", 0.0, 0.0, 36.0, 36.0, grains_cm2=100.0)
RATE = evaporation_um_s()
BASE = Stencil("base", 0.0, 0.0, 60.0, 60.0, "#2050c0", cover=1.0, outlines=(SQUARE,))


def film_of():
    return bare_skin(HERE, small_basis(BANDS), skin_spectrum(Plan().skin))


def laid(film, mark, at_s, engine=REFERENCE, **more):
    ready = ready_mark(Plan(**more), mark, PX, BANDS)
    return ready, lay_mark(film, ready, at_s, engine, RATE)[1]


def inside(share=9.8):
    """Which grains fall well within the square, and which well outside."""
    found = np.abs(grains(DUST)[:, :2]).max(axis=1)
    return found < share, found > 20 - share


@pytest.mark.parametrize("engine", [REFERENCE, kernel()], ids=["reference", "kernel"])
def test_a_stencil_lays_a_sponges_coat_in_its_shape(engine):
    """Volume by area, as shapely has it, times coat and cover: 10 um of a sponge."""
    for mark in (BASE, replace(BASE, cover=0.6), replace(BASE, turn_deg=45.0), replace(BASE, x_mm=4.1)):
        film = film_of()
        laid(film, mark, 0.0, engine)
        assert film.volume_mm3() == pytest.approx(layer_shape(mark).area * mark.cover * 10 / 1000, rel=0.02)


def test_grains_stick_where_it_is_tacky_and_hardly_on_bare_skin():
    film = film_of()
    laid(film, BASE, 0.0)
    (tacky_s,) = [t for t in range(1, 60) if DRY < film.wetness_at(float(t))[120, 120] < TACKY][:1]
    _, strewn = laid(film, DUST, float(tacky_s))
    on, off = inside()
    assert (strewn.shows[on] == 1.0).all()
    stuck = strewn.shows[off].mean()
    spread = 4 * math.sqrt(STICKS_DRY * (1 - STICKS_DRY) / off.sum())  # of a binomial
    assert abs(stuck - STICKS_DRY) < spread
    assert set(np.unique(strewn.shows[off])) <= {0.0, 1.0}


def test_grains_sink_in_wet_paint_and_fall_from_dry():
    film = film_of()
    laid(film, BASE, 0.0)
    _, wet = laid(film, DUST, 0.1)
    _, dry = laid(film, DUST, 400.0)
    on, _ = inside()
    assert (wet.shows[on] == SUNK).all()
    assert dry.shows[on].mean() < 2.5 * STICKS_DRY
    _, last = laid(film, DUST, 400.0, ordering=Ordering(glitter=GlitterWhen.LAST))
    assert (last.shows == 1.0).all()


def test_what_comes_later_covers_grains():
    """Under so much paint more a grain shows e times less: the film's own thickness, pixel by pixel."""
    film = film_of()
    ready, strewn = laid(film, DUST, 0.0, ordering=Ordering(glitter=GlitterWhen.LAST))
    assert (seen_of(film, ready, strewn).shows == 1.0).all()
    laid(film, BASE, 1.0)
    shows = seen_of(film, ready, strewn).shows
    assert shows is not None
    on, off = inside()
    assert shows[on] == pytest.approx(math.exp(-10 / GRAIN_UM), rel=0.02)
    assert (shows[off] == 1.0).all()
    laid(film, BASE, 500.0)  # the first coat has become ground
    twice = seen_of(film, ready, strewn).shows
    assert twice is not None
    assert twice[on] == pytest.approx(math.exp(-20 / GRAIN_UM), rel=0.03)
    assert film.dry_um[120, 120] > 5 > film.wet[..., SOLIDS][0, 0]


def test_marks_come_among_strokes_as_their_times_have_it():
    strokes: Any = [("one", 0.0), ("two", 5.0), ("three", 9.0)]
    marks: Any = [("late", 20.0), ("early", 4.0), ("with three", 9.0)]
    found: list[Any] = [one for one, _ in in_time(strokes, marks)]
    assert found == ["one", "early", "two", "three", "with three", "late"]


def test_gems_have_shapes_and_bounds_and_are_kept():
    gem = Gem("shine", 1.0, 2.0, 6.0, 6.0, shape=GemShape.STAR, turn_deg=30.0)
    plan = Plan(overlays=(gem, replace(BASE, turn_deg=-20.0), DUST))
    assert parse_plan(plan_bytes(plan), "x") == plan
    for bad in ({"width_mm": 26.0}, {"width_mm": 0.5}, {"turn_deg": 500.0}):
        with pytest.raises(OutOfRangeError):
            replace(gem, **bad)


def test_a_stencil_of_several_outlines_is_one_coat():
    ring = smooth([(8, 0), (0, 8), (-8, 0), (0, -8), (8, 0)])
    twice = replace(BASE, outlines=(ring, ring))
    films = []
    for mark in (twice, replace(BASE, outlines=(ring,))):
        films.append(film_of())
        laid(films[-1], mark, 0.0)
    assert films[0].volume_mm3() == pytest.approx(films[1].volume_mm3(), rel=1e-6)
