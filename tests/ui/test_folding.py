"""Numbers that are wanted now and then lie folded away, open by one click, and stay as they were left."""

from lantern_face import demo_plan

from pennello.session.settings import Settings, load_settings
from pennello.ui.widgets.number_field import NumberField


def fields_seen(widget):
    return [one for one in widget.findChildren(NumberField) if one.isVisible()]


def test_at_rest_the_bench_shows_few_numbers_and_keeps_what_is_opened(open_window):
    window = open_window(demo_plan())
    bench = window.station("bench")
    assert len(fields_seen(bench.cake)) == 2
    assert len(fields_seen(bench.skin)) == 2
    assert not bench.load.reload.isVisible()
    for fold in (bench.cake.numbers.more, bench.skin.more, bench.load.more):
        fold.click()
    assert len(fields_seen(bench.cake)) == 4
    assert len(fields_seen(bench.skin)) == 8
    assert bench.load.reload.isVisible()
    assert load_settings().unfolded == ("cake", "load", "skin")
    assert bench.skin.more.accessibleName() == "Fewer numbers of the skin"
    bench.cake.numbers.more.click()
    assert load_settings().unfolded == ("load", "skin")


def test_they_stand_as_they_were_left(open_window):
    window = open_window(demo_plan(), Settings(unfolded=("skin",)))
    bench = window.station("bench")
    assert len(fields_seen(bench.skin)) == 8
    assert len(fields_seen(bench.cake)) == 2
