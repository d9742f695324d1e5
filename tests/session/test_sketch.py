"""A chart's sketch held against what is painted there: it lies in the same places, in about the same colours."""

from dataclasses import replace

import numpy as np
import pytest

from pennello.colour.difference import ciede2000
from pennello.colour.lab import picture_lab
from pennello.colour.lights import Light
from pennello.design.on_chart import with_new_motif
from pennello.design.plan import Plan
from pennello.files.demo import shipped_designs
from pennello.lay.engine import kernel
from pennello.lay.skin_film import box_of
from pennello.motif.place import Place
from pennello.session.chart_scene import ChartScene
from pennello.session.jobs import CancelledError
from pennello.session.sketch import sketched


def plan_of(key):
    return next(one for one in shipped_designs() if key in one.key).plan()


@pytest.mark.parametrize("key", ["moth", "kelp"])
def test_a_sketch_lies_where_the_paint_will(key):
    plan = plan_of(key)
    chart = plan.motifs[0].chart
    sketch, painted = sketched(plan, chart), ChartScene(2.0).paint(plan, chart, kernel())
    there, canvas = box_of(painted.canvas, sketch.canvas)
    here, _ = box_of(canvas, painted.canvas)
    drawn, laid = (
        one.rgba[box.top : box.bottom, box.left : box.right] for one, box in ((sketch, there), (painted, here))
    )
    cover = [one[..., 3].astype(np.float32) / 255 for one in (drawn, laid)]
    assert cover[0].sum() == pytest.approx(sketch.rgba[..., 3].sum() / 255, rel=0.01), "nothing lies far off"
    shared, whole = np.minimum(*cover).sum(), np.maximum(*cover).sum()
    assert shared / whole > 0.7
    both = (cover[0] > 0.9) & (cover[1] > 0.9)
    off = ciede2000(*(picture_lab(one[both][None, :, :3]) for one in (drawn, laid)))
    assert np.median(off) < 20, "thick paint is stronger than what is laid, and no more"
    assert sketch.strokes == painted.strokes


def test_a_sketch_is_seen_in_the_light_of_the_place():
    plan = plan_of("kelp")
    chart = plan.motifs[0].chart
    day, lantern = sketched(plan, chart), sketched(replace(plan, light=Light.LANTERN), chart)
    assert lantern.light is Light.LANTERN
    assert (day.rgba[..., 3] == lantern.rgba[..., 3]).all()
    red, blue = (lantern.rgba[..., at].mean() / day.rgba[..., at].mean() for at in (0, 2))
    assert red > blue, "a lantern is warmer than daylight, however used to it the eye is"


def test_a_chart_without_motifs_has_no_sketch(demo):
    assert sketched(replace(demo, motifs=()), "face") is None
    assert sketched(Plan(), "face") is None


def test_a_sketch_can_be_left(demo):
    plan, _ = with_new_motif(demo, "petal-ring", "face", Place(), "beetle-scale")

    def stop():
        raise CancelledError

    with pytest.raises(CancelledError):
        sketched(plan, "face", stop)
