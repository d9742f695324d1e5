"""Minutes of common designs at an event, against what painters need: common practice, no published source.

All without rules of their own, by the default pace; the designs are made from shipped motifs.
"""

from dataclasses import replace

import pytest
from lantern_face import demo_plan

from pennello.design.clock import load_s, ways
from pennello.design.load_edits import with_habit
from pennello.design.on_chart import with_motif, with_new_motif
from pennello.design.ordering import Ordering
from pennello.design.pace import Pace, StepKind, Tempo, pace_at
from pennello.design.part_edits import with_new_piece
from pennello.design.plan import Reload
from pennello.design.scene import Carrying, fresh_film, lay_in_order, pulls, skin_canvas
from pennello.kit import catalogue
from pennello.lay.drying import evaporation_um_s
from pennello.lay.engine import kernel
from pennello.load.recipe import Face, PickUp, Recipe, Way
from pennello.motif.catalogue import motif
from pennello.motif.place import Place
from pennello.order.arrange import arrange, design_of
from pennello.order.laid import laid_out
from pennello.path.cubic import line
from pennello.solve.suiting import with_loads_for


def design(*puts):
    """A plan of its own of motifs on a face, each with loads that suit it."""
    plan = replace(demo_plan(), strokes=(), motifs=(), overlays=(), parts=())
    for key, place, values, twin in puts:
        plan = with_loads_for(plan, motif(key), None)
        plan, _ = with_new_motif(plan, key, "face", place)
        plan = with_motif(plan, replace(plan.motifs[-1], values=tuple(values.items()), twin=twin))
    return plan


def minutes(plan):
    return arrange(design_of(plan, "face", engine=kernel()), 0.0).sums


SNOW = [("snow-figure", Place(x, y), {}, False) for x in (-42, 42) for y in (-60, 30)]


@pytest.mark.parametrize(
    ("puts", "least", "most"),
    [
        ([("rose-inside-out", Place(30, 20), {}, False), ("two-leaves", Place(30, 62, 180), {}, False)], 45, 75),
        ([("base", Place(0, -20), {"wide_mm": 110, "passes": 4}, False)], 35, 60),
        (
            [
                ("base", Place(0, 45), {"wide_mm": 50, "passes": 2}, False),
                ("aimed-stripes", Place(0, -50), {}, True),
                ("whisker-set", Place(0, 30), {}, True),
            ],
            100,
            210,
        ),
        (SNOW, 110, 240),
    ],
    ids=["rose with two leaves", "sponge base of half a face", "stripes, muzzle, whiskers", "four snow figures"],
)
def test_a_design_takes_as_long_as_painters_need(puts, least, most):
    sums = minutes(design(*puts))
    assert least <= sums.total_s <= most
    assert sums.waiting_s <= 0.2 * sums.total_s


def test_a_flower_of_a_dip_takes_twelve_to_twenty_five_seconds():
    """Five pressed petals from one dip into pink with a tip of white."""
    dip = Recipe((_dip("mallow-magenta", (0.0, 1.0)), _dip("foam-white", (0.0, 0.3))))
    plan = design(("press-ring", Place(30, 20), {}, False))
    petal = dict(plan.motifs[0].loads)["petal"]
    loaded = replace(plan.stroke(petal), recipe=dip, reload=Reload.NEVER)
    plan = replace(
        plan,
        strokes=tuple(loaded if one.id == petal else one for one in plan.strokes),
        motifs=(replace(plan.motifs[0], loads=tuple(one for one in plan.motifs[0].loads if one[0] == "petal")),),
    )
    sums = minutes(plan)
    look = Pace().seconds(StepKind.CHECK, Pace().check_s)
    assert sums.loads == 2
    assert 12 <= sums.total_s - look <= 25


def _dip(paint, part):
    return PickUp(pan=(_portion(paint),), way=Way.DIP, part=part)


def _portion(paint):
    source = next(one for one in demo_plan().strokes if one.recipe.pan_paints)
    return replace(source.recipe.pickups[0].pan[0], paint=paint)


def test_loads_take_what_the_hand_does():
    """First loads, loads again, dips: the marked defaults; teaching, the first load takes 40 s."""
    brush, liner = catalogue.brushes()["flat-3-4"], catalogue.brushes()["liner-1"]
    cake, pan = Recipe((PickUp("dahlia-wrist"),)), Recipe((PickUp(pan=(_portion("foam-white"),)),))
    pace = Pace()
    assert (load_s(cake, brush, pace), load_s(cake, brush, pace, again=True)) == (12.0, 4.0)
    assert (load_s(pan, liner, pace), load_s(pan, liner, pace, again=True)) == (5.0, 1.5)
    assert load_s(Recipe((_dip("foam-white", (0.0, 1.0)),)), brush, pace) == 1.5
    assert load_s(cake, brush, pace_at(Tempo.TEACHING)) == 40.0
    assert load_s(Recipe((), after="x"), brush, pace) == 0.0


def test_the_way_is_that_of_the_faster_corner(demo):
    """A chisel that stays across a straight line: both corners go as far as the line; a turning one goes farther."""
    for stroke in demo.strokes:
        brush = demo.brush(stroke.brush)
        far, pats = ways(stroke.stroke, brush, stroke.recipe.axis(brush))
        assert far > 0 or pats > 0


def test_teaching_takes_longer_by_its_first_loads():
    plan = design(("press-ring", Place(30, 20), {}, False))
    plan = with_habit(plan, {one.id for one in plan.strokes}, Reload.NEVER)
    taught = replace(plan, ordering=replace(plan.ordering, tempo=Tempo.TEACHING))
    event, slow = minutes(plan), minutes(taught)
    worked = sum(1 for one in plan.strokes if one.recipe.cakes)
    assert slow.total_s - event.total_s == pytest.approx(28 * worked, abs=0.3)


def test_a_sponge_that_is_turned_over_takes_a_second_and_is_no_change_of_tool():
    """1 s, and no rinse (common practice, no published source); its front keeps what it holds."""
    plan = replace(demo_plan(), motifs=(), overlays=(), parts=())
    front = plan.stroke("lantern-cheek")
    back = replace(front, id="back", recipe=replace(front.recipe, lays=Face.BACK))
    plan = replace(plan, strokes=(*plan.strokes, back))
    for load, x in ((front.id, -30.0), (back.id, 30.0), (front.id, -30.0)):
        plan, _ = with_new_piece(plan, load, line((x, 0.0), (x + 1.0, 0.0)))
    plan = replace(plan, ordering=Ordering(sequence=tuple(f"{one.id}/stroke1" for one in plan.motifs)))
    arranged = arrange(design_of(plan, "face", engine=kernel()), 0.0)
    turns = [step for step in arranged.steps if step.words == "Turn the sponge over."]
    assert [step.seconds for step in turns] == [1.0, 1.0]
    assert arranged.sums.changes == 1
    assert not any(step.kind is StepKind.RINSE for step in arranged.steps)


def test_a_load_goes_on_from_one_chart_to_the_next_and_no_paint_is_made_or_lost():
    """The film of a stroke on the hand after one on the face is that of the second of two on one chart."""
    plan = replace(demo_plan(), motifs=(), overlays=(), parts=())
    plan = with_habit(plan, {"dahlia-petal"}, Reload.NEVER)
    way = line((0.0, 0.0), (24.0, -4.0))
    films = []
    for first in ("face", "hand"):
        two = plan
        for chart in (first, "hand"):
            two, _ = with_new_piece(two, "dahlia-petal", way, chart)
        if first == "hand":  # apart, so that they do not mix
            two = with_motif(two, replace(two.motifs[0], place=Place(0.0, -40.0)))
        two = replace(two, ordering=Ordering(sequence=tuple(f"{one.id}/stroke1" for one in two.motifs)))
        arranged = arrange(design_of(two, "", engine=kernel()), 0.0)
        assert sum(job.loads for job in arranged.jobs) == 1
        out = laid_out(arranged, "hand")
        assert [one.id for one in out.elsewhere] == ([] if first == "hand" else ["dahlia-wrist-outer-petal.0"])
        last = pulls(out.plan, 4.0, elsewhere=out.elsewhere)[-1]
        film = fresh_film(out.plan, skin_canvas(out.plan, 4.0))
        lay_in_order(film, [(last, 0.0)], Carrying(), kernel(), evaporation_um_s())
        films.append(film.volume_mm3())
    assert films[0] == pytest.approx(films[1], rel=1e-6)
    alone = arrange(design_of(two, "hand", engine=kernel()), 0.0)
    assert not laid_out(alone, "hand").elsewhere
