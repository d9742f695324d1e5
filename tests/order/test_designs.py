"""Orders of designs that are put together at random, and of a face with something by its nose."""

from dataclasses import replace

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from pennello.chart.face import face as face_chart
from pennello.design.marks import Glitter
from pennello.design.on_chart import painted_plan, with_motif, with_new_motif
from pennello.design.ordering import GlitterWhen, Ordering, Sides, Whites
from pennello.design.pace import StepKind
from pennello.motif.place import Place
from pennello.order.arrange import arrange, design_of, in_order, moved
from pennello.order.job import Why
from pennello.order.laid import laid_out

MOTIFS = ("petal-ring", "bud", "leaf-pair", "leaf-spray", "dots", "swirl-drops", "scale-field", "wave", "starburst")

placed = st.lists(
    st.tuples(st.sampled_from(MOTIFS), st.integers(-50, 50), st.integers(-80, 60), st.booleans()),
    min_size=1,
    max_size=4,
)
orderings = st.builds(
    Ordering,
    sides=st.sampled_from(Sides),
    whites=st.sampled_from(Whites),
    glitter=st.sampled_from(GlitterWhen),
    nose_last=st.booleans(),
)


def face_of(plan, put, ordering=None):
    """The plan's loads with these motifs on the face and nothing else; a second one of a kind is a motif of its own."""
    plan = replace(plan, motifs=(), overlays=(), ordering=ordering or Ordering())
    for key, x, y, twin in put:
        plan, name = with_new_motif(plan, key, "face", Place(float(x), float(y), 0.0, 0.4))
        mine = next(one for one in plan.motifs if one.id == name)
        plan = with_motif(plan, replace(mine, twin=twin))
    return plan


@settings(max_examples=10, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(placed, orderings, st.booleans())
def test_every_design_gets_an_order_that_keeps_all_constraints(whole_demo, kernel, check, put, ordering, strewn):
    plan = face_of(whole_demo, put, ordering)
    if strewn:
        _, x, y, _ = put[0]
        dust = Glitter("dust", float(x), float(y), 30.0, 30.0)
        plan = replace(plan, overlays=(dust,))
    design = design_of(plan, "face", engine=kernel)
    first, better = arrange(design, 0.0), arrange(design, 0.1)
    for one in (first, better):
        check(one)
        assert sorted(one.order) == sorted(job.id for job in design.work.jobs)
        listed = in_order(design, [job.id for job in design.work.jobs])
        if not one.missed and not listed.missed:
            assert one.sums.total_s <= one.own_total_s + 0.05
    assert better.timing.cost <= first.timing.cost
    painted = [name for job in better.jobs for name in job.strokes]
    assert sorted(painted) == sorted(stroke.id for stroke in painted_plan(plan, "face").strokes)


@settings(max_examples=8, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_wherever_a_step_may_be_moved_the_order_is_lawful_and_its_own(face, check, data):
    arranged = arrange(face, 0.0)
    name = data.draw(st.sampled_from(arranged.order))
    to = data.draw(st.integers(0, len(arranged.order) - 1))
    order = moved(arranged, name, to)
    if isinstance(order, str):
        assert "cannot come" in order
        return
    assert order.index(name) == to
    again = in_order(face, order)
    check(again)
    assert again.order == order


def test_the_strokes_that_are_painted_start_when_their_steps_do(face):
    arranged = arrange(face, 0.1)
    out = laid_out(arranged, "face")
    assert list(out.starts_s) == sorted(out.starts_s)
    for starts, owner in zip(out.starts_s, out.jobs, strict=True):
        step = arranged.step(owner)
        assert step.start_s - 0.05 <= starts <= step.end_s
        assert not any(begins + 0.05 < starts < ends - 0.05 for begins, ends in step.reloads_s)


def test_loads_within_a_step_are_told_apart_from_its_strokes(face):
    """Five petals, two from a load: loads within the step, each as long as one on the same cake takes."""
    arranged = arrange(face, 0.0)
    job, step = arranged.job("petal-ring/petal1"), arranged.step("petal-ring/petal1")
    assert len(step.reloads_s) == job.loads - (not job.goes_on) == len(job.anew) == 2
    now = step.start_s
    for begins, ends in step.reloads_s:
        assert begins > now
        assert ends - begins == pytest.approx(job.again_s, abs=0.11)
        now = ends
    assert now < step.end_s
    assert step.words.endswith(f"Load again before {', '.join(map(str, job.anew))}.")


def test_a_stroke_that_is_loaded_again_on_its_way_says_when(demo, kernel):
    swoosh = demo.stroke("kelp-swoosh")
    swoosh = replace(swoosh, stroke=replace(swoosh.stroke, reload_mm=(60.0, 120.0)))
    plan = replace(demo, strokes=tuple(swoosh if one.id == swoosh.id else one for one in demo.strokes), motifs=())
    arranged = arrange(design_of(plan, engine=kernel), 0.0)
    step, job = arranged.step("kelp-swoosh"), arranged.job("kelp-swoosh")
    (first, second) = step.reloads_s
    assert step.start_s < first[0] < first[1] < second[0] < second[1] < step.end_s
    assert job.loads == 3


# --- the nose: common practice, no published source ---


@pytest.fixture(scope="module")
def by_the_nose(whole_demo, kernel):
    """A ring by the nostril, a ring on the brow with leaves over it, and one on the arm."""
    x, y = face_chart(whole_demo.measures).landmark("nostril, wearer's left")
    plan = face_of(whole_demo, [("petal-ring", x + 16, y, False), ("petal-ring", 0, -60, False)])
    plan, _ = with_new_motif(plan, "petal-ring", "forearm", Place(0.0, 0.0, 0.0, 0.5))
    return design_of(plan, engine=kernel)


def test_what_lies_by_the_nose_comes_after_the_rest_of_the_head_and_no_other_part_waits(by_the_nose, check):
    late = {job.id for job in by_the_nose.work.jobs if "nostril" in job.near}
    assert late == {"petal-ring/petal1"}
    lags = [(lag.before, lag.after) for lag in by_the_nose.lags if lag.why is Why.NOSE]
    assert lags == [("petal-ring-2/petal1", "petal-ring/petal1")]
    arranged = arrange(by_the_nose, 0.1)
    check(arranged)
    said = [step for step in arranged.steps if step.kind is StepKind.CUE and "nose" in step.words]
    assert [step.job for step in said] == ["petal-ring/petal1"]


def test_what_must_wait_for_paint_by_the_nose_is_not_asked_to_come_before_it(face):
    """The third row of scales goes over the second, which lies by the nose: it comes after it on both sides."""
    late = {job.id for job in face.work.jobs if "nostril" in job.near}
    assert late == {"scale-field/scale2", "scale-field/scale2/twin"}
    before = {lag.before for lag in face.lags if lag.why is Why.NOSE}
    assert before == {"scale-field/scale1", "scale-field/scale1/twin", "petal-ring/petal1", "peak-crown/peak1"}
    order = arrange(face, 0.2).order
    assert {order.index(name) for name in late} == {4, 5}
