"""Event, menu, batches, board, bag and books of a day."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import date
from itertools import combinations, permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pennello.day import board
from pennello.day.bag import bag, grams_of, in_kit, to_buy, to_wash
from pennello.day.batches import Fairness, batched, setup_s
from pennello.day.board import BoardError
from pennello.day.books import costs, material_of_face, report
from pennello.day.event import (
    Break,
    Event,
    Extra,
    GuestState,
    MenuItem,
    Price,
    Used,
    cakes_taken,
    clock_text,
    parse_clock,
    parse_prices,
    prices_text,
    rest_of,
    with_hours,
    with_item,
    without_item,
)
from pennello.day.menu import left_out_first, weigh, weighed
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Paint
from pennello.kit.shelf import Keeping, Kit, KitItem

COLOURS = (("red",), ("blue", "white"), ("green",), ("red", "white"), ("purple",), ("blue",))
MENU = tuple(
    MenuItem(
        f"d{n}",
        f"Design {n}",
        120.0 + 45 * n,
        80.0 if n % 2 else 0.0,
        loads=tuple(f"load {k}" for k in range(n, n + 3)),
        uses=(Used(f"cake {n % 3}", 0.2 + 0.1 * n), Used("white", 0.05)),
        brushes=(f"brush {n % 2}",),
        sponges=float(n % 2),
        glitter=("gold",) if n == 2 else (),
        colours=COLOURS[n],
        share=1.0 + n,
    )
    for n in range(6)
)
EVENT = Event(
    "Walk", begins_min=1110, ends_min=1290, people=40, painters=2, per_face=7, own_hour=10, travel=12, menu=MENU
)


@pytest.mark.parametrize(("text", "value"), [("18:30", 1110), ("9", 540), ("0:00", 0), ("24:00", 1440), ("7.15", 435)])
def test_times_of_day_are_read(text, value):
    assert parse_clock(text) == value


@pytest.mark.parametrize(
    "text", ["", "25:00", "12:60", "noon", "1:2:3", "-1", "٣:٠٠", "²", "9" * 5000, "18:" + "0" * 5000]
)
def test_what_is_no_time_of_day_is_said(text):
    with pytest.raises(OutOfRangeError):
        parse_clock(text)


@pytest.mark.parametrize(
    ("span", "rest"),
    [
        ("23:00-23:10", (1380, 1390)),
        ("23:55-0:05", (1435, 1445)),
        ("1:00-1:10", (1500, 1510)),
        ("0:00-0:10", (1440, 1450)),
    ],
)
def test_a_rest_of_an_event_over_midnight_lies_where_the_clock_says(span, rest):
    """Counted on the clock by hand; one at 1:00 lay before the event, and nobody rested."""
    night = with_hours(EVENT, 1320, 120)
    begins, ends = (parse_clock(one) for one in span.split("-"))
    found = rest_of(night, begins, ends)
    assert (found.begins_min, found.ends_min) == rest
    rested = replace(night, breaks=(found,))
    assert rested.painting_s == night.painting_s - 600


def test_a_rest_goes_with_the_hours_of_its_event():
    early = replace(EVENT, breaks=(Break(1200, 1210), Break(1280, 1290)))
    assert with_hours(early, 1150, 1290).breaks == early.breaks
    night = with_hours(
        replace(EVENT, begins_min=0, ends_min=1440, breaks=(Break(60, 70), Break(1430, 1440))), 1320, 120
    )
    assert [(one.begins_min, one.ends_min) for one in night.breaks] == [(1500, 1510), (1430, 1440)]
    with pytest.raises(OutOfRangeError, match="20:00-20:10; it must be within the event, 10:00 to 12:00"):
        with_hours(early, 600, 720)


@pytest.mark.parametrize("span", ["18:00-18:10", "2:00-2:10", "12:00-12:10", "21:50-22:10", "23:00-22:30"])
def test_a_rest_outside_of_the_event_is_said(span):
    with pytest.raises(OutOfRangeError, match="within the event, 22:00 to 2:00"):
        rest_of(with_hours(EVENT, 1320, 120), *(parse_clock(one) for one in span.split("-")))


def test_prices_are_written_as_they_are():
    prices = (Price("White", 0.3), Price("Dahlia wrist", 0.4555), Price("Sea", 0.001))
    assert prices_text(prices) == "White 0.30; Dahlia wrist 0.4555; Sea 0.001"
    assert parse_prices(prices_text(prices)) == prices


def test_an_event_over_midnight():
    late = with_hours(EVENT, 1380, 60)
    assert late.hours == 2
    assert clock_text(late.ends_min) == "1:00"
    rested = replace(EVENT, breaks=(Break(1200, 1210), Break(1280, 1400)))
    assert rested.painting_s == rested.length_s - 600 - 600
    with pytest.raises(OutOfRangeError, match="one after another"):
        replace(EVENT, breaks=(Break(1200, 1220), Break(1210, 1230)))
    with pytest.raises(OutOfRangeError, match="day"):
        replace(EVENT, day="soon")
    with pytest.raises(OutOfRangeError, match="end"):
        replace(EVENT, ends_min=1110)


def test_the_best_menu_is_the_best_of_all():
    """Brute force over all menus of three."""
    best = weigh(EVENT, 3)
    every = [weighed(EVENT, those) for those in combinations(MENU, 3)]
    assert best.score == pytest.approx(max(one.score for one in every))
    assert weigh(EVENT, 99).items == MENU
    assert weigh(replace(EVENT, menu=()), 8).items == ()
    assert set(weigh(EVENT, 6).colours) == {colour for those in COLOURS for colour in those}
    many = replace(EVENT, menu=tuple(replace(MENU[n % 6], id=f"m{n}") for n in range(40)))
    assert len(weigh(many, 8).items) == 8


def test_the_longest_are_left_out_first_but_not_the_last_of_a_colour():
    order = [one.id for one in left_out_first(EVENT)]
    assert sorted(order) == sorted(one.id for one in MENU)
    assert order[0] == "d5", "the longest whose colour another one has"
    assert order.index("d4") > order.index("d3"), "the only purple stays longer"


def guests(*items, event=EVENT):
    for number, item in enumerate(items):
        event, _ = board.came(event, f"G{number}", item, 60.0 * number, consent=True)
    return event


@settings(max_examples=25, deadline=None)
@given(
    st.lists(st.sampled_from([one.id for one in MENU]), max_size=6),
    st.integers(0, 4),
    st.sampled_from(["", "d0", "d3"]),
)
def test_batches_are_the_best_fair_order(items, passed_by, last):
    """Brute force over all orders, fairness reckoned anew here."""
    event = guests(*items)
    fair = Fairness(passed_by, 1e9)
    found = batched(event, 600.0, fair, last)
    assert found.proved
    line = board.waiting(event)

    def seconds(order):
        before, total = (event.item(last) if last else None), 0.0
        for guest in order:
            item = event.item(guest.item)
            total += setup_s(before, item) + max(item.whole_s - 12 * len(item.loads), 5)
            before = item
        return total

    allowed = [
        order
        for order in permutations(range(len(line)))
        if all(at - number <= passed_by for at, number in enumerate(order))
    ]
    best = min((seconds([line[number] for number in order]) for order in allowed), default=0.0)
    assert found.seconds == pytest.approx(best)
    assert sorted(found.order) == sorted(one.id for one in line)
    assert found.saved_s >= -1e-9


def test_a_long_line_is_ordered_at_once_and_fairly():
    event = guests(*(MENU[n % 6].id for n in range(30)))
    found = batched(event, 1800.0, Fairness(3, 1e9))
    came = {one.id: number for number, one in enumerate(board.waiting(event))}
    assert max(at - came[name] for at, name in enumerate(found.order)) <= 3
    assert found.seconds <= found.as_they_came_s
    assert not found.proved
    late = batched(event, 1800.0, Fairness(3, 0.0))
    assert late.order == tuple(came), "who has waited too long already goes by the order of coming"


@pytest.mark.parametrize("names", [("g²",), ("g" + "9" * 63,), ("g2", "g3"), ("g1", "x")])
def test_somebody_comes_whatever_the_others_are_called(names):
    """As they may be in a file that another program wrote."""
    event = replace(EVENT, guests=tuple(board.Guest(name, "Somebody") for name in names))
    event, new = board.came(event, "", "", 100.0)
    assert [one.id for one in event.guests] == [*names, new.id]
    assert new.id == {1: "g2", 2: "g4" if "g3" in names else "g3"}[len(names)]


def test_the_board_goes_from_door_to_done():
    event = guests("d0", "d1")
    event, third = board.came(event, "", "", 100.0)
    assert third.name == "3"
    with pytest.raises(BoardError, match="chosen"):
        board.begun(event, third.id, 120.0)
    with pytest.raises(BoardError, match="said yes"):
        board.begun(board.with_guest(event, replace(third, item="d0")), third.id, 120.0)
    event = board.begun(event, "g1", 130.0, 1)
    with pytest.raises(BoardError, match="wait"):
        board.begun(event, "g1", 140.0)
    event = board.begun(event, "g2", 140.0, 2, short=True)
    assert event.guest("g2").short
    assert [one.id for one in board.painting(event)] == ["g1", "g2"]
    event = board.ended(event, "g1", 300.0)
    with pytest.raises(BoardError, match="not at the chair"):
        board.ended(event, "g1", 310.0)
    event = board.gone(event, third.id, 320.0)
    with pytest.raises(BoardError):
        board.gone(event, third.id, 330.0)
    stand = board.now_of(event, 400.0)
    assert (stand.faces, stand.money, stand.waits) == (1, 7.0, 0)
    event = board.back(event, third.id)
    assert event.guest(third.id).state is GuestState.WAITING
    with pytest.raises(UnknownNameError):
        board.ended(event, "g9", 0.0)
    with pytest.raises(UnknownNameError):
        board.came(event, "x", "nothing", 0.0)
    assert board.came(event, "n" * 200, "", 0.0)[1].name == "n" * 200
    with pytest.raises(OutOfRangeError, match="length of the name of who has come is 201; it must be at most 200"):
        board.came(event, "n" * 201, "", 0.0)


def test_times_are_expected_by_the_line_and_learnt_from_the_day():
    event = guests("d0", "d0", "d0", "d1", event=replace(EVENT, painters=1))
    begins = board.expected_s(event, 500.0)
    each = MENU[0].whole_s + 40
    assert begins["g1"] == 500.0
    assert begins["g3"] == pytest.approx(500.0 + 2 * each)
    turned = board.expected_s(event, 500.0, ("g4",))
    assert turned["g4"] == 500.0
    for name in ("g1", "g2", "g3"):
        event = board.ended(board.begun(event, name, 1000.0), name, 1300.0)
    assert board.face_s(event, MENU[0]) == 300.0, "three of a kind are done: they tell"
    assert board.face_s(event, None) > 0


def test_short_forms_are_called_out_when_the_line_is_long():
    event = guests(*["d1"] * 12, event=replace(EVENT, painters=1, limit_min=20))
    assert board.over_limit(event, 700.0)
    assert board.begun(event, "g1", 700.0).guest("g1").short
    calm = guests("d1")
    assert not board.over_limit(calm, 10.0)
    assert not board.begun(calm, "g1", 10.0).guest("g1").short


def test_grams_are_the_sum_of_all_loads():
    grams = grams_of(EVENT, 42.0)
    shares = sum(one.share for one in MENU)
    for name in ("cake 0", "cake 1", "cake 2", "white"):
        wanted = sum(42 * one.share / shares * used.grams for one in MENU for used in one.uses if used.name == name)
        assert grams[name] == pytest.approx(wanted)
    done = guests("d0", "d5", "d5")
    for name in ("g1", "g2", "g3"):
        done = board.ended(board.begun(done, name, 100.0), name, 400.0)
    assert dict(report(done).grams)["cake 2"] == pytest.approx(2 * 0.7)
    assert dict(report(done).grams)["white"] == pytest.approx(0.15)


def test_the_bag_knows_what_runs_out():
    cake = Cake("c0", "cake 0", (Stripe("p", 10.0), Stripe("q", 10.0)), depth_mm=1.0)
    kit = Kit().with_items(
        [
            KitItem(cake, Keeping(stock_g=2.0)),
            KitItem(replace(cake, id="c1", name="cake 1"), Keeping(expires=date(2026, 1, 1))),
            KitItem(replace(cake, id="c2", name="cake 2"), Keeping(retired=True, stock_g=1.0)),
        ]
    )
    found = in_kit(kit, date(2026, 11, 28))
    assert found.left["cake 0"] == 2.0
    assert found.left["cake 1"] == pytest.approx(20 * 45 * 1.0 / 1000 * 1.5)
    assert "cake 2" not in found.left
    things = {one.name: one for one in bag(EVENT, 60, found)}
    assert "take a second one" in things["cake 0"].caution
    lasts = things["cake 0"].lasts
    assert lasts is not None
    assert lasts < things["cake 0"].wanted
    assert "past its date" in things["cake 1"].caution
    assert len(to_buy(tuple(things.values()))) == 2
    assert things["glitter, gold"].kind == "glitter"
    sponges = next(one for one in things.values() if one.kind == "sponge")
    assert int(sponges.amount) >= 60 * sum(one.share * one.sponges for one in MENU) / sum(one.share for one in MENU)
    assert any("sponges" in line for line in to_wash(EVENT, 60))
    assert bag(Event("nothing"), 0)


def test_the_bag_tells_what_labels_do_not_allow():
    """A pan by its own label, a cake by those of its stripes; what is not for skin is to be bought anew."""
    white = Paint("white", "white", "#ffffff", eye_area=False, lips=False)
    plain = Paint("plain", "plain", "#ff0000")
    craft = Paint("craft", "craft blue", "#0000ff", skin=False)
    cakes = [Cake(f"c{n}", f"cake {n}", (Stripe(("white", "craft")[n], 20.0), Stripe("plain", 9.0))) for n in range(2)]
    found = in_kit(Kit().with_items([KitItem(one) for one in (white, plain, craft, *cakes)]), date(2026, 11, 28))
    things = {one.name: one for one in bag(EVENT, 10, found)}
    assert things["white"].label == "not near the eyes or on the lips by its label"
    assert things["cake 0"].label == things["white"].label
    assert things["cake 1"].caution == "not for skin by its label"
    assert not things["cake 1"].label
    assert "cake 1" in [line.split(":")[0] for line in to_buy(tuple(things.values()))]


def test_the_bag_holds_stencils_gems_and_what_one_adds():
    gems, stencil = Extra("gem, tear", 3.0), Extra("stencil, net")
    event = replace(EVENT, menu=(replace(MENU[0], extras=(gems, stencil)), MENU[1]), extras=("horns", "mirror"))
    things = {one.name: one for one in bag(event, 30)}
    share = MENU[0].share / (MENU[0].share + MENU[1].share)
    assert int(things["gem, tear"].amount) == math.ceil(30 * share * 3 * 1.15)
    assert things["stencil, net"].amount == "1"
    assert things["horns"].amount == "1"
    assert sum(one.name == "mirror" for one in bag(event, 30)) == 1


def test_single_cakes_have_prices_of_their_own():
    names = cakes_taken(EVENT)
    assert names == ("cake 0", "cake 1", "cake 2", "white")
    prices = parse_prices("cake 0 0.60; white = 0,45;", names)
    assert [(one.name, one.per_gram) for one in prices] == [("cake 0", 0.6), ("white", 0.45)]
    assert parse_prices(prices_text(prices)) == prices
    dear = replace(EVENT, prices=prices)
    assert material_of_face(dear, "d0") == pytest.approx(0.6 * 0.2 + 0.45 * 0.05)
    assert material_of_face(dear, "d1") == pytest.approx(0.3 * 0.3 + 0.45 * 0.05 + 0.15)
    for text, said in (("0.60", "price"), ("gold 1", "one that the menu takes"), ("white dear", "dear")):
        with pytest.raises(PennelloError, match=said):
            parse_prices(text, names)


def test_costs_add_up_and_break_even():
    money = costs(EVENT, 30)
    assert money.total == pytest.approx(money.material + 12 + 10 * 3 * 2)
    assert money.left == pytest.approx(7 * 30 - money.total)
    even = money.break_even_faces
    assert even is not None
    assert costs(EVENT, even).left >= -0.01 > costs(EVENT, even - 1).left - 0.02
    assert costs(replace(EVENT, per_face=0.0), 30).break_even_faces is None
    assert costs(replace(EVENT, per_face=0.0, per_hour=100.0), 30).break_even_faces == 0


def test_a_day_is_told_in_three_sentences():
    assert len(report(EVENT).next_time) == 3
    event = guests("d0", "d0", "d1")
    for name, took in (("g1", 200.0), ("g2", 220.0), ("g3", 170.0)):
        event = board.ended(board.begun(event, name, 100.0, short=False), name, 100.0 + took)
    found = report(event)
    assert found.faces == 3
    assert found.designs[0].took_s == 220.0
    assert "Design 0 took" in found.next_time[1]
    assert "2 of 3" in found.next_time[2]


def test_the_menu_is_edited():
    changed = with_item(EVENT, replace(MENU[0], title="Other"))
    assert changed.menu[0].title == "Other"
    assert len(changed.menu) == 6
    chosen = guests("d0", "d1")
    fewer = without_item(chosen, "d0")
    assert fewer.guest("g1").item == ""
    with pytest.raises(UnknownNameError):
        without_item(fewer, "d0")
