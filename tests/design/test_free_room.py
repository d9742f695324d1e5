"""Where there is room on a chart.

That designs begin at forehead and cheekbone is common practice, no published source.
"""

import math
from dataclasses import replace

import pytest
import shapely

from pennello.chart.catalogue import CHARTS
from pennello.chart.chart import Feature
from pennello.design.chart_checks import odd_on
from pennello.design.free_room import WISHED_MM, room_on
from pennello.design.marks import Glitter, Reserved
from pennello.design.on_chart import chart_of, pieces_on, with_new_motif
from pennello.design.plan import Plan
from pennello.design.touch import layer_shape, shape_of, skin_shape, swept, zone_shape
from pennello.errors import UnknownNameError

BARE = Plan()


def disc(place, radius=WISHED_MM):
    return shapely.Point(place.x_mm, place.y_mm).buffer(radius)


@pytest.mark.parametrize("key", CHARTS)
def test_it_is_skin_clear_of_what_stays_clear(key):
    chart, place = chart_of(BARE, key), room_on(BARE, key)
    assert skin_shape(chart).buffer(0.6).contains(disc(place))
    for zone in chart.zones:
        assert not zone_shape(zone).intersects(disc(place)), zone.name
    for area in chart.areas:
        if area.feature in (Feature.HAIR, Feature.BROW) and not area.behind:
            assert not shape_of(area.outline).intersects(disc(place)), area.feature


def test_a_face_begins_on_its_forehead_and_goes_on_on_a_cheek(demo):
    plan = replace(demo, motifs=(), parts=(), overlays=())
    forehead = room_on(plan, "face")
    assert forehead.x_mm == 0.0
    assert math.dist((forehead.x_mm, forehead.y_mm), chart_of(plan, "face").landmark("forehead")) < 1
    load = plan.strokes[0].id
    seen = []
    for _ in range(3):
        place = room_on(plan, "face")
        laid = shapely.union_all([swept(plan, piece) for piece in pieces_on(plan, "face")])
        assert not laid.intersects(disc(place, WISHED_MM - 1))
        plan, _ = with_new_motif(plan, "dip-flower", "face", place, load)
        seen.append((place.x_mm, place.y_mm))
    assert seen[1][1] > 15, "a cheek"
    assert seen[2][0] == pytest.approx(-seen[1][0], abs=12), "the other one"
    assert not [one for one in odd_on(plan, "face") if "stays clear" in one.text]


def test_what_is_kept_free_and_what_is_not_looked_at_is_no_room(demo):
    plan = replace(demo, motifs=(), parts=(), overlays=())
    x, y = chart_of(plan, "face").landmark("forehead")
    kept = replace(plan, reserved=(Reserved("blossom", x, y, 30.0),))
    assert math.dist((x, y), (room_on(kept, "face").x_mm, room_on(kept, "face").y_mm)) > 30
    strewn = replace(plan, overlays=(Glitter("dust", x, y, 60.0, 40.0),))
    assert not layer_shape(strewn.overlays[0]).intersects(disc(room_on(strewn, "face"), WISHED_MM - 1))
    there = room_on(plan, "face", (10.0, 15.0, 80.0, 60.0))
    assert 10 < there.x_mm < 80
    assert 15 < there.y_mm < 60


def test_where_all_is_full_it_is_the_middle():
    full = replace(BARE, reserved=tuple(Reserved(f"all {y}", 0.0, y, 60.0, "hand") for y in (-60.0, 0.0, 60.0)))
    left, top, right, bottom = skin_shape(chart_of(full, "hand")).bounds
    place = room_on(full, "hand")
    assert (place.x_mm, place.y_mm) == pytest.approx(((left + right) / 2, (top + bottom) / 2), abs=0.1)


def test_a_chart_that_is_not_there_is_said():
    with pytest.raises(UnknownNameError):
        room_on(BARE, "tail")
