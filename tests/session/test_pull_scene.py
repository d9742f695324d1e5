"""A chart under the hand: what is painted lies there, and a stroke changes only what it touches."""

import math
from dataclasses import replace

import numpy as np
import pytest

from pennello.design.on_chart import with_new_motif
from pennello.lay.engine import kernel
from pennello.lay.skin_film import Box
from pennello.lay.track import chisel_angles
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath
from pennello.session.chart_scene import ChartScene
from pennello.session.pull_scene import PullScene

ENGINE = kernel()


def painted(demo):
    plan, _ = with_new_motif(demo, "petal-ring", "face", Place(0.0, 0.0), "beetle-scale")
    scene = ChartScene(3.0)
    return plan, scene.paint(plan, "face", ENGINE), scene.film


def seen(film):
    return ENGINE.picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns)).astype(int)


def test_what_is_painted_lies_under_the_hand_in_other_pixels(demo):
    plan, there, film = painted(demo)
    before = [values.copy() for values in film.arrays]
    under = PullScene(plan, "face", film, 2.0, ENGINE)._film
    mine, its = under.canvas, film.canvas
    rows, columns = ((np.arange(many) + 0.5) / 2.0 for many in (mine.rows, mine.columns))
    row = np.floor((rows + mine.top_mm - its.top_mm) * 3).astype(int)
    column = np.floor((columns + mine.left_mm - its.left_mm) * 3).astype(int)
    inside = ((row >= 0) & (row < its.rows))[:, None] & ((column >= 0) & (column < its.columns))
    wanted = there.rgba[..., :3][row.clip(0, its.rows - 1)][:, column.clip(0, its.columns - 1)]
    assert inside.mean() > 0.02
    assert np.abs(seen(under) - wanted)[inside].max() <= 1, "dry or wet, it looks the same"
    assert not under.wet.any(), "all of it is dry"
    assert (under.dry_um[~inside] == 0).all()
    assert all((one == other).all() for one, other in zip(before, film.arrays, strict=True)), "it stays as it was"


def test_a_stroke_is_clear_where_it_changes_nothing(demo):
    plan, _, film = painted(demo)
    load = plan.strokes[0]
    path = CubicPath(((-30.0, 20.0), (-10.0, -10.0), (10.0, -10.0), (30.0, 20.0)))
    stroke = load.stroke.__class__(path)
    patch = PullScene(plan, "face", film, 2.0, ENGINE).lay(load.id, stroke)
    alpha = patch.rgba[..., 3]
    assert (alpha[0] == 0).all()
    assert (alpha[:, 0] == 0).all()
    area = (alpha / 255).sum() / 4
    wide = plan.brush(load.brush).width_mm
    assert 0.8 * wide * 70 < area < 1.3 * wide * 85, "as large as the stroke, however much is painted round it"


def test_the_chisel_is_where_the_brush_is_now(demo):
    """From A to B; a flip has turned it half round."""
    load = demo.strokes[0]
    way = load.stroke.__class__(CubicPath(((-30.0, 0.0), (-10.0, -30.0), (10.0, -30.0), (30.0, 0.0))))
    under = PullScene(demo, "face", None, 2.0, ENGINE)
    end = float(chisel_angles(way, np.array([1.0]))[0])
    for stroke, turn in ((way, 0.0), (replace(way, flips_mm=(20.0,)), math.pi)):
        assert under.lay(load.id, stroke).chisel == pytest.approx(
            (math.cos(end + turn), math.sin(end + turn)), abs=1e-4
        )
