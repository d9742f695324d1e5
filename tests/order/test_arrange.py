"""From a plan to steps: jobs, drying from the film engine, windows, schools, targets, moves, reasons."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest

from pennello.design.load_edits import reloading, with_habit
from pennello.design.marks import Glitter
from pennello.design.on_chart import with_motif, with_new_motif
from pennello.design.ordering import GlitterWhen, Ordering, Priority, Rule, RuleKind, Sides, Whites
from pennello.design.pace import Pace, Record, StepKind, own_pace
from pennello.design.plan import Reload
from pennello.errors import OutOfRangeError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.motif.place import Place
from pennello.order.arrange import arrange, design_of, in_order, moved
from pennello.order.explain import reasons
from pennello.order.job import Why
from pennello.order.jobs import SKIN, loaded_in, work_of
from pennello.order.laid import laid_out
from pennello.order.steps import WHERE
from pennello.order.target import parts_of


def test_jobs_are_rows_and_sides_with_their_loads_and_seconds(face):
    jobs = {job.id: job for job in face.work.jobs}
    assert "scale-field/scale2/twin" in jobs
    row = jobs["scale-field/scale2"]
    assert (row.twin, row.region) == ("scale-field/scale2/twin", "Face, wearer's left")
    assert face.work.plan.stroke(row.load).reload_after == 2
    laid = loaded_in(face.work, ["scale-field/scale2", "scale-field/scale2/twin"], Pace())
    jobs = {job.id: job for job in laid.jobs}
    first, other = jobs["scale-field/scale2"], jobs["scale-field/scale2/twin"]
    assert (len(first.strokes), first.anew, first.loads) == (3, (3,), 2)  # two from a load, and the third
    assert first.offsets_s[1] - first.offsets_s[0] < Pace().again_s < first.offsets_s[2] - first.offsets_s[1]
    assert (other.goes_on, other.anew, other.loads) == (True, (2,), 1)  # one more from the second load
    glitter = jobs["face/lantern dust"]
    assert (glitter.kind, glitter.strokes, glitter.priority) == (StepKind.GLITTER, (), Priority.NICE)
    area = math.pi / 4 * 3.4 * 2.2  # an oval of 34 x 22 mm
    assert glitter.pull_s == pytest.approx(3.0 + 0.5 * area, abs=0.06)
    assert glitter.area_cm2 == pytest.approx(area, rel=0.03)


@pytest.fixture
def dries(ordered):
    """The face, each row of scales dry before the next goes over it."""
    return ordered(rules=(Rule("scale-field", "scale-field", RuleKind.DRY),))


def test_waits_follow_the_closed_form_of_the_drying_law(dries):
    """Water leaves at a constant rate; dry at a tenth of a creamy film's, tacky below 0.45 (marked defaults).

    Worked out again here: the usual coat of 20 um is dry after the plan's time, so 0.9 x 20 um leave in it.
    """
    face, rate = dries, 0.9 * 20 / dries.work.plan.dry_after_s
    waits = [lag for lag in face.lags if lag.why is Why.DRY]
    assert waits
    for lag in waits:
        assert lag.least_s == pytest.approx(needed(face.films, lag.before, lag.after, 0.1, rate), abs=0.11)
    window = next(lag for lag in face.lags if lag.why is Why.TACKY and not math.isinf(lag.most_s))
    ends = [needed(face.films, window.before, window.after, wet, rate) for wet in (0.45, 0.1)]
    assert [window.least_s, window.most_s] == pytest.approx(ends, abs=0.11)


def needed(films, lower, upper, wet, rate):
    """Seconds until four fifths of the lower film under the upper one have only so much of their water."""
    one, other = films.by_job[lower], films.by_job[upper]
    whole = np.zeros((400, 400), bool)
    whole[200 + other.top :, 200 + other.left :][: len(other.um), : other.um.shape[1]] = other.um > 0
    there = whole[200 + one.top :, 200 + one.left :][: len(one.um), : one.um.shape[1]] & (one.um > 0)
    return np.percentile(np.maximum(one.water_um[there] - wet * one.um[there], 0) / rate, 80)


def test_the_film_of_a_job_is_as_thick_as_the_engine_lays_it(face, kernel):
    """The same volume as the painted strokes give off, over the area that they cover."""
    film = face.films.by_job["petal-ring/petal1"]
    assert 10 < face.films.thick_um("petal-ring/petal1") < 60
    assert film.area_cm2 == pytest.approx(6.5, rel=0.5)
    assert face.films.overlap_mm2("petal-ring/petal1", "peak-crown/peak1") < 4


def test_a_good_order_is_lawful_and_never_worse_than_the_plans(face, check):
    arranged = arrange(face, 0.2)
    check(arranged)
    assert arranged.missed == ()
    assert arranged.sums.total_s <= arranged.own_total_s
    assert arranged.by == "all orders"
    assert arranged.gap < 0.05, "the bound does not know of loads that run pale on the way"
    assert arranged.stops[-1].left == ()
    begun = sum(step.kind is StepKind.LOAD for step in arranged.steps)
    within = sum(len(step.reloads_s) for step in arranged.steps)
    assert arranged.sums.loads == begun + within
    assert dict(arranged.sums.where).keys() == set(WHERE)
    assert sum(dict(arranged.sums.where).values()) == pytest.approx(arranged.sums.total_s, abs=0.3)


def test_own_orders_are_kept_as_far_as_they_can_be(ordered, face, check):
    turned = tuple(reversed([job.id for job in face.work.jobs]))
    arranged = arrange(ordered(sequence=turned))
    check(arranged)
    assert arranged.by == "your own order"
    assert arranged.order[0] != turned[0]  # glitter needs what it sticks to
    at = {name: place for place, name in enumerate(arranged.order)}
    assert at["petal-ring/petal1"] < at["peak-crown/peak1"]  # they do not meet: as wished


def test_a_step_moves_where_it_may_and_says_why_not(dries, check):
    face = dries
    arranged = arrange(face, 0.0)
    refused = moved(arranged, "scale-field/scale2", 0)
    assert isinstance(refused, str)
    assert "dries for" in refused
    refused = moved(arranged, "scale-field/scale1", len(arranged.order))
    assert isinstance(refused, str)
    assert "cannot come after" in refused
    order = moved(arranged, "peak-crown/peak1", 1)
    assert isinstance(order, tuple)
    check(in_order(face, order))
    assert in_order(face, order).order == order


@pytest.mark.parametrize(
    ("changes", "why"),
    [({"glitter": GlitterWhen.LAST}, Why.LAST), ({"nose_last": True}, Why.NOSE)],
)
def test_schools_become_constraints(ordered, changes, why, check):
    design = ordered(**changes)
    assert any(lag.why is why for lag in design.lags)
    check(arrange(design, 0.1))


def test_both_schools_of_sides_are_orders_of_their_own(ordered):
    regions = arrange(ordered(sides=Sides.REGIONS), 0.2)
    together = arrange(ordered(sides=Sides.TOGETHER), 0.2)

    def switches(arranged):
        regions = [arranged.job(name).region for name in arranged.order]
        return sum(one != other for one, other in itertools.pairwise(regions))

    assert switches(regions) <= switches(together)
    moves = [sum(step.kind is StepKind.MOVE for step in one.steps) for one in (regions, together)]
    assert moves[0] > moves[1] == 0, "a face is one place unless its sides are finished one after the other"
    at = {name: place for place, name in enumerate(together.order)}
    apart = [abs(at[f"scale-field/scale{row}"] - at[f"scale-field/scale{row}/twin"]) for row in (1, 2, 3)]
    assert max(apart) == 1


def test_white_lights_before_black_or_after(whole_demo, kernel):
    plan = whole_demo
    lines = {"white": "foam-white", "black": "peat-black"}
    for number, (name, paint) in enumerate(lines.items()):
        source = plan.stroke("reed-line")
        pickup = source.recipe.pickups[0]
        pan = (replace(pickup.pan[0], paint=paint, amount=1.0),)
        recipe = replace(source.recipe, pickups=(replace(pickup, pan=pan),))
        plan = replace(plan, strokes=(*plan.strokes, replace(source, id=name, name=name, recipe=recipe)))
        plan, _ = with_new_motif(plan, "swirl-drops", "leg", Place(-20.0 + 40 * number, 100.0), name)
    for school, first in ((Whites.BEFORE, "swirl-drops"), (Whites.AFTER, "swirl-drops-2")):
        design = design_of(replace(plan, ordering=Ordering(whites=school)), "leg", engine=kernel)
        assert arrange(design, 0.1).order[0].startswith(f"{first}/")


def test_rules_of_ones_own(ordered, face, check):
    plain = arrange(face, 0.1)
    before = ordered(rules=(Rule("peak-crown", "petal-ring", RuleKind.DRY),))
    lag = next(lag for lag in before.lags if lag.why is Why.OWN)
    assert lag.least_s > 30
    check(arrange(before, 0.1))
    turned = ordered(rules=(Rule("lantern dust", "scale-field", RuleKind.AFTER),))
    order = arrange(turned, 0.1).order
    assert order.index("face/lantern dust") < order.index("scale-field/scale1")
    assert plain.order != order
    free = ordered().work.plan.ordering.with_rule(Rule("a", "b")).with_rule(Rule("b", "a", RuleKind.WET))
    assert free.rules == (Rule("b", "a", RuleKind.WET),)
    assert free.without_rule(free.rules[0]).rules == ()
    with pytest.raises(OutOfRangeError):
        Rule("a", "a")
    with pytest.raises(OutOfRangeError):
        Rule("a", "a", RuleKind.WET)


def test_rows_of_one_load_wait_only_if_the_painter_says_so(ordered, face, dries):
    """Overlapping strokes of one part and load never wait unless told to: common practice, no published source."""
    rows = ("scale-field/scale1", "scale-field/scale2")
    (goes,) = [lag for lag in face.lags if (lag.before, lag.after) == rows and lag.why is not Why.NOSE]
    assert (goes.why, goes.least_s) == (Why.LOAD, 0.0)
    (waits,) = [lag for lag in dries.lags if (lag.before, lag.after) == rows and lag.why is not Why.NOSE]
    assert waits.why is Why.DRY
    assert arrange(face, 0.2).sums.waiting_s < arrange(dries, 0.2).sums.waiting_s
    free = ordered(rules=(Rule("scale-field", "scale-field", RuleKind.ANY),))
    (over,) = [lag for lag in free.lags if (lag.before, lag.after) == rows and lag.why is not Why.NOSE]
    assert (over.why, over.least_s) == (Why.OVER, 0.0)


@pytest.mark.parametrize("kind", ["rose-outside-in", "rose-inside-out"])
def test_a_rose_is_painted_in_one_go_unless_its_rows_shall_dry(whole_demo, kernel, kind):
    """A rose well under a minute: common practice, no published source."""
    plan = replace(whole_demo, motifs=(), overlays=(), ordering=Ordering())
    plan, name = with_new_motif(plan, kind, "leg", Place(0.0, 100.0))
    plan = with_habit(plan, [one.id for one in plan.strokes], Reload.NEVER)
    design = design_of(plan, "leg", engine=kernel)
    arranged = arrange(design, 0.2)
    assert arranged.sums.waiting_s == 0
    assert arranged.sums.total_s < 60
    assert {lag.why for lag in design.lags} == {Why.GO}
    own = replace(plan, ordering=Ordering(rules=(Rule(name, name, RuleKind.DRY),)))
    dries = design_of(own, "leg", films=design.films)
    assert {lag.why for lag in dries.lags} == {Why.DRY}
    assert arrange(dries, 0.2).sums.waiting_s > 20


def test_a_pulled_white_comes_while_its_wave_is_wet(whole_demo, kernel):
    plan, name = with_new_motif(whole_demo, "wave", "leg", Place(0.0, 100.0))
    plan = with_motif(plan, replace(plan.motifs[-1], loads=(("wave", "kelp-swoosh"), ("white", "reed-line"))))
    design = design_of(plan, "leg", engine=kernel)
    lag = next(lag for lag in design.lags if lag.why is Why.WET)
    rate = 0.9 * 20 / plan.dry_after_s
    assert lag.most_s == pytest.approx(needed(design.films, lag.before, lag.after, 0.45, rate), abs=0.11)
    slow = arrange(design_of(plan, "leg", Pace(first_load_s=60.0, tip_dip_s=60.0), films=design.films), 0.1)
    assert any("pulled while" in words for words in slow.missed), "said, not hidden"
    assert name


def sticks_to(design):
    """Pairs of glitter and what it sticks to, without which it would have nothing to hold."""
    part = {job.id: job.part for job in design.work.jobs}
    return {(part[lag.after], part[lag.before]) for lag in design.lags if lag.why is Why.TACKY}


@pytest.mark.parametrize("target", [60.0, 120.0, 200.0, 300.0])
def test_a_target_keeps_the_best_looking_parts_that_fit(ordered, target):
    """Against all subsets: none that fits and keeps the musts is worth more."""
    ordering = Ordering().with_priority("scale-field", Priority.NICE).with_priority("peak-crown", Priority.SKIP)
    design = ordered(priorities=ordering.priorities)
    arranged = arrange(design, 0.0, target_s=target)
    parts = {part.id: part for part in parts_of(design.work.jobs)}
    free = [name for name, part in parts.items() if part.priority is not Priority.MUST]
    must = set(parts) - set(free)
    best = 0.0
    for size in range(len(free) + 1):
        for group in itertools.combinations(free, size):
            kept = must | set(group)
            if not all(below in kept for above, below in sticks_to(design) if above in kept):
                continue
            jobs = tuple(job for job in design.work.jobs if job.part in kept)
            total = arrange(replace(design, work=replace(design.work, jobs=jobs)), 0.0).sums.total_s
            if total <= target:
                best = max(best, sum(parts[name].value for name in kept))
    choice = arranged.choice
    assert must <= set(choice.parts)
    assert choice.value == pytest.approx(max(best, sum(parts[name].value for name in must)), abs=0.01)
    assert choice.fits == (best > 0)
    assert set(choice.parts) | set(choice.left_out) == set(parts)


def test_every_reason_names_a_step_of_the_order(face):
    arranged = arrange(face, 0.2)
    told = reasons(arranged)
    assert {reason.job for reason in told} <= set(arranged.order)
    assert any("tacky" in reason.words for reason in told)


def test_bench_strokes_are_jobs_too_and_leftovers_stay_together(demo, kernel, check):
    leftover = replace(demo.strokes[0].recipe, pickups=(), after="dahlia-petal")
    after = replace(demo.strokes[0], id="again", recipe=leftover)
    plan = replace(demo, strokes=(demo.strokes[0], after, *demo.strokes[1:]))
    work = work_of(plan)
    assert work.jobs[0].strokes == ("dahlia-petal", "again")
    assert {job.chart for job in work.jobs} == {SKIN}
    arranged = arrange(design_of(plan, engine=kernel), 0.2)
    check(arranged)
    assert laid_out(arranged, SKIN).plan.strokes
    assert arrange(design_of(replace(demo, strokes=()), engine=kernel)).steps == ()


def test_strokes_are_laid_as_the_order_has_them_and_loaded_anew_where_the_leftover_is_gone(whole_demo, kernel, check):
    plan = reloading(whole_demo, set(whole_demo.motifs[1].load_of.values()), 5)
    design = design_of(plan, "face", engine=kernel)
    arranged = arrange(design, 0.1)
    check(arranged)
    out = laid_out(arranged, "face")
    assert sorted(stroke.id for stroke in out.plan.strokes) == sorted(
        stroke.id for stroke in dict(design.work.painted)["face"].strokes
    )
    assert list(out.starts_s) == sorted(out.starts_s)
    for before, stroke in itertools.pairwise(out.plan.strokes):
        assert stroke.recipe.after in ("", before.id)


def test_an_empty_chart_an_overlay_on_bare_skin_and_all_of_a_plan(whole_demo, kernel):
    bare = replace(whole_demo, motifs=(), overlays=(Glitter("dust", 0.0, 0.0),))
    arranged = arrange(design_of(bare, "face", engine=kernel))
    assert [step.kind for step in arranged.steps if step.kind.paints] == [StepKind.GLITTER]
    assert arrange(design_of(bare, "leg", engine=kernel)).sums.total_s == 0


def test_own_medians_replace_defaults_after_three_records():
    records = [Record(StepKind.LOAD, 5.0, seconds) for seconds in (10.0, 4.0, 7.0)]
    assert own_pace(records[:2]).factors == ()
    pace = own_pace([*records, Record(StepKind.WAIT, 5.0, 50.0)])
    assert pace.own(StepKind.LOAD) == (1.4, 3)
    assert pace.seconds(StepKind.LOAD, 5.0) == 7.0
    assert pace.own(StepKind.RINSE) == (1.0, 0)
    with pytest.raises(OutOfRangeError):
        Pace(stroke_mm_s=0.0)


def test_what_is_said_about_the_order_is_kept_in_the_file(whole_demo):
    ordering = (
        Ordering(sequence=("a", "b"), sides=Sides.REGIONS, whites=Whites.AFTER, glitter=GlitterWhen.LAST)
        .with_priority("petal-ring", Priority.SKIP)
        .with_worth("petal-ring", 2.0)
        .with_rule(Rule("wave", "petal-ring-2", RuleKind.ANY))
    )
    plan = replace(whole_demo, ordering=replace(ordering, nose_last=False, target_s=90.0))
    assert parse_plan(plan_bytes(plan), "x") == plan
    with pytest.raises(OutOfRangeError):
        Ordering(target_s=1.0)
    with pytest.raises(OutOfRangeError):
        Ordering().with_worth("a", 99.0)
