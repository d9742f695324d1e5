"""Pictures that come with the program: one for each shape, as the engine lays it today, on any skin."""

from dataclasses import replace

import numpy as np
import pytest

from pennello.design.fresh import fresh_plan
from pennello.design.plan import Skin, skin_bytes
from pennello.files.demo import demo_plan
from pennello.lay.families.catalogue import FAMILIES
from pennello.motif.catalogue import MOTIFS
from pennello.session.catalogue import family_plan, laid, motif_plan
from pennello.session.shipped_pictures import KINDS, shipped, shipped_keys

MID, DARK = Skin(36.0), Skin(-45.0)
OF_COLOURS = 6.0
"""What 255 colours for all shapes and clear edges may differ by, sRGB levels in the mean."""


def of(what):
    return MOTIFS if what == "motifs" else FAMILIES


@pytest.mark.parametrize("what", KINDS)
def test_every_shape_has_one(what):
    assert shipped_keys(what) == tuple(of(what)), "make catalogue"
    for one in (shipped(what, key, MID) for key in shipped_keys(what)):
        differs = np.abs(one.picture.astype(int) - skin_bytes(MID)).max(axis=2) > 12
        assert differs.mean() > 0.01, one.key
        assert one.name == of(what)[one.key].name
        assert min(one.width_mm, one.height_mm) > 0.5


@pytest.mark.parametrize("what", KINDS)
@pytest.mark.parametrize("nth", [0, 7, 19, -1])
def test_they_are_as_they_are_laid_today(what, nth):
    key = list(of(what))[nth]
    demo, fresh = (replace(plan, skin=MID) for plan in (demo_plan(), fresh_plan()))
    plan = motif_plan(demo, key) if what == "motifs" else family_plan(fresh, key)
    now, there = laid(plan, key, ""), shipped(what, key, plan.skin)
    assert there.picture.shape == now.picture.shape, "make catalogue"
    assert (there.width_mm, there.height_mm) == (now.width_mm, now.height_mm)
    assert np.abs(there.picture.astype(int) - now.picture).mean() < OF_COLOURS


def test_a_shape_that_is_new_has_none():
    assert shipped("motifs", "sea-horse", MID) is None


def test_the_skin_is_the_plans():
    for skin in (MID, DARK):
        corner = shipped("motifs", "snow-figure", skin).picture[0, 0]
        assert np.abs(corner.astype(int) - skin_bytes(skin)).max() <= 1


def test_a_shape_lies_on_another_skin_as_it_is_laid_there():
    key = next(iter(MOTIFS))
    dark = replace(demo_plan(), skin=DARK)
    now = laid(motif_plan(dark, key), key, "")
    there = shipped("motifs", key, DARK)
    assert there.picture.shape == now.picture.shape
    assert np.abs(there.picture.astype(int) - now.picture).mean() < 2 * OF_COLOURS, "its edges keep some other skin"
