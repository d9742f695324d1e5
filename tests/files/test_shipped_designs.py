"""The designs that ship with Pennello: whole works without an open finding, from the demo's cakes alone."""

import pytest

from designs.works import WORKS
from pennello.aim.contrast import READS
from pennello.design.findings import findings_of
from pennello.design.ordering import Priority
from pennello.design.part_edits import short_form
from pennello.design.plan import Skin
from pennello.design.problems import problems
from pennello.design.reading import readings
from pennello.errors import UnknownNameError
from pennello.files.demo import demo_plan, shipped_design, shipped_designs
from pennello.finding import Level
from pennello.lay.engine import kernel
from pennello.order.arrange import arrange, design_of

KEYS = [one.key for one in shipped_designs()]
EVERY = [(key, other) for key in KEYS for other in (False, True)]


def ids(pair):
    return f"{pair[0]}{'-other' if pair[1] else ''}"


def test_there_are_twelve_on_eight_parts_of_the_body():
    assert len(KEYS) == 12
    charts = {shipped_design(key).plan().motifs[0].chart for key in KEYS}
    assert len(charts) == 8
    with pytest.raises(UnknownNameError, match="dahlia-crown"):
        shipped_design("horn")


@pytest.mark.parametrize("key", KEYS)
def test_the_files_are_what_the_tool_makes(key):
    for other, plan in zip((False, True), WORKS[key].plans, strict=True):
        assert shipped_design(key).plan(other=other) == plan


@pytest.mark.parametrize("pair", EVERY, ids=ids)
def test_a_design_has_no_open_finding(pair):
    plan = shipped_design(pair[0]).plan(other=pair[1])
    found = [*findings_of(plan), *problems(plan)]
    assert [one.text for one in found if one.level is not Level.MIND] == []


@pytest.mark.parametrize("pair", EVERY, ids=ids)
def test_a_design_is_painted_with_the_demos_cakes_and_paints(pair):
    plan, demo = shipped_design(pair[0]).plan(other=pair[1]), demo_plan()
    for cake in plan.cakes:
        assert cake == demo.cake(cake.id)
    for paint in plan.paints:
        assert paint == demo.paint(paint.id)
    assert {brush.id for brush in plan.brushes} == {stroke.brush for stroke in plan.strokes}


@pytest.mark.parametrize("key", KEYS)
def test_a_design_says_what_may_be_left_out(key):
    plan = shipped_design(key).plan()
    worth = {plan.ordering.priority(one.id) for one in plan.motifs}
    assert worth == set(Priority)
    assert 0 < len(short_form(plan).motifs) < len(plan.motifs)
    assert all(one.part for one in plan.motifs)


@pytest.mark.parametrize("key", KEYS)
def test_other_colours_are_the_same_strokes_in_other_paint(key):
    own, other = (shipped_design(key).plan(other=turned) for turned in (False, True))
    assert [(one.way, one.more, one.place, one.values) for one in own.motifs] == [
        (one.way, one.more, one.place, one.values) for one in other.motifs
    ]
    assert own.title != other.title
    design = shipped_design(key)
    assert (design.title, f"{design.title}, {design.colours}") == (own.title, other.title)
    assert design.chart == own.motifs[0].chart
    assert [plan.edge(one.id).paints for plan in (own,) for one in plan.strokes] != [
        other.edge(one.id).paints for one in other.strokes
    ]


@pytest.mark.parametrize("key", KEYS)
@pytest.mark.parametrize("ita", [62.0, 20.0, -40.0])
def test_most_loads_stand_out_from_light_and_dark_skin(key, ita):
    """Contrast by the WCAG formula; what does not read on a skin is no more than three loads in five."""
    plan = shipped_design(key).plan()
    found = readings(plan, (ita,))
    weak = [one.stroke for one in found if not one.reads]
    assert len(weak) <= 0.6 * len(found), (READS, weak)
    assert Skin(ita).ita_deg == ita


@pytest.mark.parametrize("key", ["poppy-brow", "kelp-sleeve", "lantern-butterfly"])
def test_the_minutes_are_those_of_the_order(key):
    plan = shipped_design(key).plan()
    chart = plan.motifs[0].chart
    found = arrange(design_of(plan, chart, engine=kernel()), 0.0)
    assert 60 < found.sums.total_s < 600
    assert not found.missed_lags
