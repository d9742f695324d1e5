"""Fewest loads and colourways for a whole plan; ways to come to a wish."""

import itertools
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from lantern_face import demo_plan
from tests.solve.conftest import PAINTS, SKIN

from pennello.aim.attempt import Side
from pennello.aim.profile import stops_of
from pennello.aim.wish import Stop, Wanted, edge_lab, wanted_along, wanted_lab
from pennello.colour.difference import ciede2000
from pennello.colour.families import ColourFamily, families_of
from pennello.colour.lab import hex_to_lab
from pennello.design.on_chart import with_new_motif
from pennello.design.wish_edits import (
    usual_wish,
    wish_of,
    with_rim_at_least,
    with_stop_added,
    with_stop_coloured,
    without_stop,
)
from pennello.design.wishing import turned_round
from pennello.errors import OutOfRangeError, PennelloError
from pennello.kit import catalogue
from pennello.kit.cake import Cake, Portion, Stripe
from pennello.load.recipe import PickUp, Recipe
from pennello.motif.catalogue import MOTIFS, motif
from pennello.motif.place import Place
from pennello.session.kit import shipped_kit
from pennello.solve import plan_loads
from pennello.solve.colourways import NoColourwayError, colourways, with_colourway
from pennello.solve.kit import at_hand
from pennello.solve.plan_loads import Load, _Table, advise, turned_over, with_advice
from pennello.solve.suiting import with_loads_for


def test_alike_strokes_share_one_load(two_tone_plan):
    stroke = two_tone_plan.strokes[0]
    short = replace(stroke.stroke.path, points_mm=tuple((x / 3, y / 3) for x, y in stroke.stroke.path.points_mm))
    small = replace(stroke, stroke=replace(stroke.stroke, path=short))
    plan = replace(two_tone_plan, strokes=tuple(replace(small, id=f"s{n}") for n in range(3)))
    advice = advise(plan, at_hand(plan), exact=False)
    assert (advice.before, advice.loads, len(advice.served)) == (3, 1, 1)
    assert advice.brush_changes == advice.rinses == 0
    taken = with_advice(plan, advice, PAINTS)
    assert len({one.recipe for one in taken.strokes}) == 1
    worst = advice.worst
    assert worst is not None
    laid = taken.attempt(worst.stroke)
    from pennello.aim.comparison import compare

    assert compare(laid.lay(2.0), laid).mean_de00 == pytest.approx(worst.mean_de00, abs=0.5)


def test_turned_over_brush_serves_the_mirrored_wish(two_tone_plan):
    stroke = two_tone_plan.strokes[0]
    other = replace(stroke, id="other", wanted=turned_round(stroke.wanted))
    plan = replace(two_tone_plan, strokes=(stroke, other))
    advice = advise(plan, at_hand(plan), exact=False)
    assert len(advice.served) == 1
    assert sorted(share.turned for share in advice.served[0].shares) == [False, True]
    assert turned_over(turned_over(stroke.recipe)) == stroke.recipe


def random_table(seed, loads=5, strokes=5):
    rng = np.random.default_rng(seed)
    de00 = rng.uniform(1, 12, (loads, strokes))
    made = tuple(Load("b1" if n % 2 else "b2", _RECIPE, (), f"s{n}") for n in range(loads))
    lasts = rng.integers(1, 5, strokes)
    own = tuple(-1 for _ in range(strokes))
    return _Table(made, tuple(f"s{n}" for n in range(strokes)), de00, np.zeros(de00.shape, bool), lasts, own)


_RECIPE = Recipe((PickUp("x"),))


@pytest.mark.parametrize("seed", range(6))
def test_cp_sat_cover_is_the_best_of_all(seed):
    table = random_table(seed)
    allowed = plan_loads._allowed(table, 6.0)
    rows, columns = range(len(table.loads)), range(len(table.strokes))
    best = min(
        plan_loads._cost(table, {r: tuple(c for c in columns if pick[c] == r) for r in set(pick)})
        for pick in itertools.product(rows, repeat=len(table.strokes))
        if all(allowed[pick[c], c] for c in columns)
    )
    greedy = plan_loads._greedy(table, allowed)
    exact = plan_loads._covered(table, allowed, greedy, 5.0)
    assert plan_loads._cost(table, exact) == pytest.approx(best, abs=5e-3)
    assert plan_loads._cost(table, greedy) >= best - 1e-9
    assert sorted(c for strokes in greedy.values() for c in strokes) == list(columns)


def test_advice_needs_strokes_and_sense(demo):
    with pytest.raises(PennelloError, match="no stroke here"):
        advise(replace(demo, strokes=()), at_hand(demo))
    with pytest.raises(OutOfRangeError, match="quality"):
        advise(demo, at_hand(demo), 0.0)


def test_colourways_keep_light_and_dark(demo):
    here = at_hand(demo, shipped_kit())
    ways = colourways(demo, here)
    assert 1 <= len(ways) <= 3
    assert len({way.name[2:] for way in ways}) == len(ways)  # each is called by what it lays, not all "warm"
    assert all(one.ids != other.ids for one, other in itertools.combinations(ways, 2))
    plan = with_colourway(demo, ways[0], here.by_name)
    assert plan.strokes != demo.strokes
    stroke = plan.stroke("dahlia-petal")
    before, after = (
        wanted_lab(one.wanted, 16, 19.05, {**here.by_name, **plan.paints_by_id}, SKIN)[:, 0]
        for one in (demo.stroke("dahlia-petal"), stroke)
    )
    assert np.corrcoef(before, after)[0, 1] > 0.8


def test_a_name_tells_what_the_first_chart_shows():
    demo = demo_plan()
    here = at_hand(demo, shipped_kit())
    shown = {stroke for placed in demo.motifs if placed.chart == demo.motifs[0].chart for _, stroke in placed.loads}
    assert shown < {stroke.id for stroke in demo.strokes}
    for way in colourways(demo, here):
        plan = with_colourway(demo, way, here.by_name)
        laid = {
            family.value
            for stroke in shown
            for family in families_of(edge_lab(plan.edge(stroke), plan.paints_by_id, SKIN, 20.0))
        }
        named = set(way.name.split(" ", 1)[1].replace(" and ", ", ").split(", "))
        assert named and named <= laid


def test_a_motif_for_which_no_cake_is_wide_enough(demo):
    sponge = motif("base")
    assert all(
        cake.width_mm < catalogue.brushes()[sponge.parts[0].tool].width_mm for cake in catalogue.cakes().values()
    )
    one = replace(demo, strokes=demo.strokes[:1])
    assert with_loads_for(one, sponge).strokes == one.strokes  # the nearest load of the plan serves
    made = with_loads_for(replace(demo, strokes=()), sponge)
    (stroke,) = made.strokes
    assert stroke.recipe.pickups[0].pan[0].paint == sponge.parts[0].role.wish[0]
    put, _ = with_new_motif(made, "base", "face", Place(0.0, 0.0))
    assert put.motifs[0].load_of == {sponge.parts[0].key: stroke.id}


@pytest.mark.parametrize("kind", MOTIFS.values(), ids=lambda kind: kind.key)
def test_every_motif_can_be_put_into_an_empty_plan(demo, kind):
    made = with_loads_for(replace(demo, strokes=()), kind)
    put, _ = with_new_motif(made, kind.key, "face", Place(0.0, 0.0))
    assert len(put.motifs[0].loads) == len(kind.parts)


def one_load(plan, recipe, cakes=None):
    changed = replace(plan.strokes[0], recipe=recipe)
    return replace(plan, strokes=(changed,), cakes=plan.cakes if cakes is None else cakes)


def test_a_colour_can_be_asked_for(two_tone_plan):
    here = at_hand(two_tone_plan, shipped_kit())
    for colour in (ColourFamily.BLUE, ColourFamily.GREEN, ColourFamily.PURPLE):
        way = colourways(two_tone_plan, here, colour=colour)[0]
        assert colour.value in way.name
        taken = with_colourway(two_tone_plan, way, here.by_name)
        laid = edge_lab(taken.edge(taken.strokes[0].id), taken.paints_by_id, SKIN, 20.0)
        assert families_of(laid).count(colour) > 0.3 * len(laid)
    with pytest.raises(NoColourwayError, match="lays enough brown"):
        colourways(two_tone_plan, here.only({"two", "lavender-dusk"}), colour=ColourFamily.BROWN)


def test_a_cake_without_another_stays_and_pans_change(two_tone_plan):
    sponge = replace(two_tone_plan.brushes[0], id="huge", width_mm=45.0)
    wide = Cake("wide", "Wide", (Stripe("poppy-red", 22.5), Stripe("foam-white", 22.5)))
    first = two_tone_plan.strokes[0]
    strokes = (
        replace(first, id="sponge", brush="huge", recipe=Recipe((PickUp("wide"),))),
        replace(first, id="dots", recipe=Recipe((PickUp(pan=(Portion("poppy-red", 1.0),)),))),
        replace(first, id="eyes", recipe=Recipe((PickUp(pan=(Portion("foam-white", 1.0),)),))),
    )
    plan = replace(two_tone_plan, strokes=strokes, cakes=(wide,), brushes=(*two_tone_plan.brushes, sponge), overlays=())
    here = at_hand(plan, shipped_kit())
    here = replace(here, cakes=tuple(cake for cake in here.cakes if cake.width_mm < 40 or cake.id == "wide"))
    way = colourways(plan, here)[0]
    assert "wide" in way.staying and "foam-white" in way.staying
    assert "poppy-red" in way.ids
    taken = with_colourway(plan, way, here.by_name)
    assert taken.stroke("sponge") == plan.stroke("sponge") and taken.stroke("eyes") == plan.stroke("eyes")
    assert taken.stroke("dots").recipe.pan_paints == (way.ids["poppy-red"],)
    assert all(set(way.ids) == {"poppy-red"} for way in colourways(plan, here, strokes=["dots"]))


def test_the_brush_may_move_on_its_own_cake(two_tone_plan):
    rainbow = replace(next(i.thing for i in shipped_kit() if i.id == "tide-rainbow"), id="mine")
    paints = tuple(shipped_kit().paints[name] for name in rainbow.paints)
    plan = replace(two_tone_plan, cakes=(rainbow,), paints=(*two_tone_plan.paints, *paints))
    plan = one_load(plan, Recipe((PickUp("mine", offset_mm=1.0),)))
    way = colourways(plan, at_hand(plan))[0]
    assert way.ids == {"mine": "mine"}
    taken = with_colourway(plan, way, at_hand(plan).by_name)
    assert abs(taken.strokes[0].recipe.pickups[0].offset_mm - 1.0) > 5
    full = replace(two_tone_plan.cakes[0], stripes=tuple(Stripe(name, 10.0) for name in ("poppy-red", "poppy-red")))
    with pytest.raises(NoColourwayError, match=r"Only .* is at hand with room for a brush of .* no other place"):
        colourways(one_load(two_tone_plan, Recipe((PickUp(full.id),)), (full,)), at_hand(two_tone_plan).only({full.id}))


def test_an_even_gradient_stays_even(two_tone_plan):
    even = Cake("even", "Even", (Stripe("foam-white", 5.0), Stripe("poppy-red", 11.0), Stripe("foam-white", 5.0)))
    other = Cake("other", "Other", (Stripe("foam-white", 6.1), Stripe("mussel-blue", 12.3), Stripe("foam-white", 6.1)))
    plan = one_load(replace(two_tone_plan, cakes=(even,)), Recipe((PickUp("even", offset_mm=1.0),)))
    brush = plan.brush(plan.strokes[0].brush)
    middle = (even.width_mm - brush.width_mm) / 2
    plan = one_load(plan, Recipe((PickUp("even", offset_mm=middle),)))
    here = at_hand(plan)
    way = colourways(plan, replace(here, cakes=(even, other)))[0]
    (place,) = dict(way.exchanged)["even"].places
    assert place.pickup.offset_mm == pytest.approx((other.width_mm - brush.width_mm) / 2)


# --- wishes ---


def test_profile_of_a_known_gradient_is_found_again():
    colours = ("#f4f0e8", "#d02030", "#401018")
    wanted = Wanted(
        (
            Stop(srgb=colours[0], to_u=0.25, blend_mm=1.5),
            Stop(srgb=colours[1], to_u=0.7, blend_mm=2.5),
            Stop(srgb=colours[2]),
        )
    )
    row = wanted_lab(wanted, 200, 20.0, PAINTS, SKIN)
    stops = stops_of(row, 20.0)
    assert [stop.to_u for stop in stops] == pytest.approx([0.25, 0.7, 1.0], abs=0.05)
    for stop, colour in zip(stops, colours, strict=True):
        assert float(ciede2000(hex_to_lab(str(stop.srgb)), hex_to_lab(colour))) < 3
    assert stops[0].blend_mm == pytest.approx(1.5, abs=1.0)
    assert len(stops_of(np.tile(row[:1], (50, 1)), 20.0)) == 1
    with pytest.raises(OutOfRangeError, match="line across the picture"):
        stops_of(row[:1], 20.0)


def test_wish_along_the_stroke_is_start_end_and_between(demo):
    wanted = replace(demo.stroke("dahlia-petal").wanted, end=(Stop(paint="poppy-red"),))
    paints = demo.paints_by_id
    rows = wanted_along(wanted, 8, 19.05, paints, SKIN, np.array([0.0, 0.5, 1.0]))
    assert rows[0] == pytest.approx(wanted_lab(wanted, 8, 19.05, paints, SKIN))
    assert rows[1] == pytest.approx((rows[0] + rows[2]) / 2)
    assert np.ptp(rows[2], axis=0) == pytest.approx(0, abs=1e-9)


def test_usual_is_light_at_the_rim(demo):
    for rim in Side:
        stroke = replace(demo.stroke("kelp-swoosh"), rim=rim)
        plan = replace(demo, strokes=tuple(stroke if s.id == stroke.id else s for s in demo.strokes))
        wanted = usual_wish(plan, stroke.id)
        paints = demo.paints_by_id
        light = wanted_lab(wanted, 16, 25.4, paints, SKIN)[:, 0]
        assert bool(light[0] > light[-1]) is (rim is Side.A)


def test_wish_of_another_stroke_keeps_rim_to_rim(demo):
    other = replace(demo.stroke("dahlia-petal"), id="other", rim=Side.B)
    plan = replace(demo, strokes=(*demo.strokes, other))
    assert wish_of(plan, "other", "dahlia-petal").stops == turned_round(other.wanted).stops
    assert wish_of(plan, "dahlia-petal", "other").stops == turned_round(other.wanted).stops


_wish = st.lists(st.floats(0.06, 0.94), min_size=0, max_size=6, unique_by=lambda x: round(x, 1)).map(
    lambda ends: Wanted(tuple(Stop(srgb=f"#{n:02x}8040", to_u=e) for n, e in enumerate([*sorted(ends), 1.0])))
)


@given(wanted=_wish, rim=st.sampled_from(list(Side)), least=st.floats(0.5, 9.0))
def test_rim_rule_gives_the_rim_its_room(wanted, rim, least):
    ruled = with_rim_at_least(wanted, rim, 20.0, least)
    assert len(ruled.stops) == len(wanted.stops)
    if len(wanted.stops) > 1:
        inner = ruled.stops[0].to_u if rim is Side.A else 1 - ruled.stops[-2].to_u
        assert inner * 20.0 >= least - 0.01
    assert with_rim_at_least(ruled, rim, 20.0, least) == ruled
    with pytest.raises(OutOfRangeError):
        with_rim_at_least(wanted, rim, 20.0, 10.5)


@given(wanted=_wish, at=st.integers(0, 8))
def test_stops_come_and_go(wanted, at):
    here = at % len(wanted.stops)
    low = wanted.stops[here - 1].to_u if here else 0.0
    assume(wanted.stops[here].to_u - low > 0.05)
    grown = with_stop_added(wanted.stops, here, Stop(srgb="#123456"))
    assert len(grown) == len(wanted.stops) + 1
    assert Wanted(grown).stops[here + 1].srgb == "#123456"
    fewer = without_stop(grown, here + 1)
    assert [stop.srgb for stop in fewer] == [stop.srgb for stop in wanted.stops]
    assert Wanted(with_stop_coloured(fewer, here, "foam-white", None)).stops[here].paint == "foam-white"
