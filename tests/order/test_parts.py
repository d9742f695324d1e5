"""Overlays as masks, loads that go on, stop points, and steps with ids of their own."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest
from shapely.geometry import Point, Polygon

from pennello.chart.chart import drawn
from pennello.design.layers import stencil_of
from pennello.design.load_edits import reloading
from pennello.design.marks import Glitter
from pennello.design.on_chart import charts_used, with_motif
from pennello.design.ordering import Ordering, Priority
from pennello.design.pace import Pace, StepKind
from pennello.errors import UnknownNameError
from pennello.files.svg import read_svg
from pennello.lay.canvas import Canvas
from pennello.lay.laying import pull
from pennello.order.arrange import arrange, design_of
from pennello.order.films import overlay_mask
from pennello.order.jobs import loaded_in, work_of
from pennello.order.problem import setups

HERE = Canvas(-30.0, -30.0, 240, 240, 4.0)


def test_glitter_lies_in_an_oval_as_shapely_has_it():
    mask = overlay_mask(Glitter("dust", 2.0, -3.0, 30.0, 16.0), HERE)
    oval = Point(0, 0).buffer(1.0, quad_segs=64)
    assert mask.sum() / 16 == pytest.approx(oval.area * 15 * 8, rel=0.01)
    rows, columns = np.nonzero(mask)
    assert columns.mean() / 4 - 30 == pytest.approx(2.0, abs=0.2)
    assert rows.mean() / 4 - 30 == pytest.approx(-3.0, abs=0.2)


def test_a_stencil_lets_through_what_its_outlines_hold(tmp_path):
    path = tmp_path / "leaf.svg"
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 C10 -14 26 -14 36 0 C26 14 10 14 0 0Z"/></svg>'
    )
    stencil = stencil_of("leaf", tuple(read_svg(path)), (0.0, 0.0), "face")
    area = Polygon(drawn(stencil.outlines[0])).area
    assert overlay_mask(stencil, HERE).sum() / 16 == pytest.approx(area, rel=0.02)


def test_every_step_has_an_id_of_its_own_and_names_only_steps(face):
    arranged = arrange(face, 0.1)
    ids = [step.id for step in arranged.steps]
    assert len(set(ids)) == len(ids)
    for step in arranged.steps:
        assert set(step.waits_for) <= set(ids)
        assert step.words
        assert step.end_s > step.start_s
    assert arranged.steps[-1].kind is StepKind.CHECK


def test_stop_points_leave_nothing_half_done(ordered):
    ordering = Ordering().with_priority("scale-field", Priority.NICE)
    arranged = arrange(ordered(priorities=ordering.priorities), 0.1)
    laid = [step.id for step in arranged.steps if step.kind.paints]
    told = {stop.after for stop in arranged.stops}
    for count in range(1, len(laid) + 1):
        there = set(laid[:count])
        begun = {job.part for job in arranged.jobs if job.id in there}
        whole = all(job.id in there for job in arranged.jobs if job.part in begun or job.priority is Priority.MUST)
        assert (laid[count - 1] in told) == whole


def test_a_load_goes_on_into_whatever_follows_with_it_and_nowhere_else(whole_demo, kernel):
    """Five strokes a load over rows of 2, 3 and 2 on each side: a row may begin with what the last one left."""
    plan = reloading(whole_demo, set(whole_demo.motifs[1].load_of.values()), 5)
    work = work_of(plan, "face")
    rows = [job for job in work.jobs if job.piece == plan.motifs[1].id]
    laid = loaded_in(work, [job.id for job in rows], Pace())
    jobs = [laid.job(job.id) for job in rows]
    count, loads = 0, 0
    for job in jobs:
        for number, _ in enumerate(job.strokes, 1):
            loaded = count % 5 == 0
            assert loaded == (number in job.anew if number > 1 else not job.goes_on)
            count, loads = count + 1, loads + loaded
    assert sum(job.loads for job in jobs) == loads
    follower = next(job for job in jobs if job.goes_on)
    before = jobs[jobs.index(follower) - 1]
    assert StepKind.LOAD not in [part.kind for part in setups(before, follower, Pace(), {})]
    other = next(job for job in work.jobs if job.load != follower.load and job.strokes)
    anew = loaded_in(work, [other.id, follower.id], Pace()).job(follower.id)
    assert StepKind.LOAD in [part.kind for part in setups(other, anew, Pace(), {})]


def test_times_grow_with_way_and_pace(whole_demo):
    """The faster corner at the hand's speed, with what a touch takes; a load again where the brush runs pale."""
    for speed in (30.0, 120.0):
        pace = Pace(stroke_mm_s=speed)
        work = work_of(whole_demo, "hand", pace)
        job = work.job("petal-ring-3/petal1")
        laid, brush = dict(work.painted)["hand"], whole_demo.brush(job.brush)
        now = 0.0
        for number, name in enumerate(job.strokes):
            stroke = laid.stroke(name)
            track = pull(stroke.stroke, brush, stroke.recipe.axis(brush)).track
            corners = track.points(np.arange(len(track.s_mm)), np.array([0.0, 1.0]))
            far = max(sum(math.dist(*pair) for pair in itertools.pairwise(corners[:, side])) for side in (0, 1))
            now += job.again_s if number and stroke.recipe.pickups else 0.0
            assert job.offsets_s[number] == pytest.approx(now, abs=0.11)
            now += round(0.6 + far / speed, 1)
        assert job.pull_s == pytest.approx(now, abs=0.11)


def test_charts_in_use_and_one_that_is_not_there(whole_demo):
    assert charts_used(whole_demo) == ("face", "cheek-left", "forearm", "hand")
    with pytest.raises(UnknownNameError):
        work_of(whole_demo, "elbow")
    assert work_of(whole_demo, "leg").jobs == ()


def test_what_lies_near_eyes_lips_and_nose_is_said_first(whole_demo, kernel):
    near = replace(whole_demo.motifs[2], place=replace(whole_demo.motifs[2].place, x_mm=31.0, y_mm=-22.0))
    design = design_of(with_motif(whole_demo, near), "face", engine=kernel)
    assert "eye" in design.work.job("petal-ring/petal1").near
    arranged = arrange(design, 0.1)
    at = next(n for n, step in enumerate(arranged.steps) if step.id == "petal-ring/petal1")
    assert "Close your eyes" in arranged.steps[at - 1].words
