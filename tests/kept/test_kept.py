"""Results that are kept: bounded by what they weigh, and what a thing weighs."""

import pickle
import tracemalloc
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import pytest

from pennello import kept as kept_module
from pennello.files.demo import demo_plan
from pennello.kept import (
    MOST_BYTES_OF_SMALL,
    ResultShelf,
    SmallShelf,
    forget_all,
    forget_kept,
    kept,
    kept_aside,
    kept_bytes,
    kept_small,
    remembered,
    room_for,
    shelf_for,
    weight_of,
)


@dataclass(frozen=True, eq=False)
class Heavy:
    values: np.ndarray


def test_kept_results_are_bounded_by_what_they_weigh(monkeypatch):
    monkeypatch.setattr(kept_module._shelf, "most", 1_000_000)
    forget_kept()
    made = []

    @kept
    def heavy(which):
        made.append(which)
        return Heavy(np.zeros(25_000))  # 200 kB

    assert heavy(1) is heavy(1)
    for which in range(20):
        heavy(which)
    assert kept_bytes() <= 1_000_000
    assert weight_of(Heavy(np.zeros(25_000))) == pytest.approx(200_000, rel=0.05)
    before = len(made)
    heavy(19)
    assert len(made) == before  # the newest are there
    heavy(0)
    assert len(made) == before + 1  # the oldest went
    forget_kept()
    assert kept_bytes() == 0


def test_what_is_kept_aside_crowds_nothing_out_and_is_bounded_too():
    forget_kept()
    made, aside = [], ResultShelf(1_000_000)

    @kept
    def heavy(which):
        made.append(which)
        return Heavy(np.zeros(25_000))  # 200 kB

    first = heavy(0)
    before = kept_bytes()
    with kept_aside(aside):
        assert heavy(0) is first
        for which in range(1, 20):
            heavy(which)
        assert heavy(19) is heavy(19)
    assert kept_bytes() == before
    assert 0 < aside.bytes <= 1_000_000
    assert made == list(range(20))
    heavy(19)
    assert made[-2:] == [19, 19], "it comes but once"
    forget_kept()


def test_what_is_remembered_is_counted_and_all_of_it_can_be_forgotten():
    made, pictures = [], shelf_for(1000)

    @remembered(2)
    def doubled(number):
        made.append(number)
        return 2 * number

    assert [doubled(number) for number in (1, 2, 1, 3, 1, 2)] == [2, 4, 2, 6, 2, 4]
    assert made == [1, 2, 3, 2], "the last two are there"
    pictures.put("one", np.zeros(9))
    forget_all()
    assert pictures.get("one") is None
    doubled(2)
    assert made[-2:] == [2, 2]


def test_small_results_go_by_what_they_weigh_with_what_they_were_asked_for():
    made = []

    @kept_small
    def line_of(number, points):
        made.append(number)
        return (number, *points)

    forget_kept()
    points = tuple((float(n), 1.0) for n in range(10_000))
    for number in range(40):
        line_of(number, points)
    assert kept_bytes() <= MOST_BYTES_OF_SMALL
    line_of(39, points)
    assert len(made) == 40, "the last ones are there"
    line_of(0, points)
    assert made[-1] == 0, "the first went: what all of them weigh is bounded, not how many they are"
    forget_all()
    assert kept_bytes() == 0


def test_a_row_of_rows_is_not_taken_for_points():
    long = tuple(float(n) for n in range(1000))
    assert weight_of(((0.0,), long)) > 20_000
    assert weight_of(((0.0, 1.0), ("a" * 9000, 1.0), long)) > 29_000


def test_a_small_result_that_is_asked_for_again_stays_while_others_go():
    made, forty = [], SmallShelf(100_000)

    def ask(number):
        return forty.again(("row", number), lambda: made.append(number) or tuple(float(n) for n in range(100)))

    for number in range(200):
        ask(number)
        ask(0)
        assert forty.bytes <= 100_000
    assert made == list(range(200)), "the first is still there"
    ask(1)
    assert made[-1] == 1, "those that nobody asked for again are not"
    forty.clear()
    assert forty.bytes == 0


def test_a_large_plan_has_room_for_what_its_strokes_come_to():
    points = tuple((float(n), 1.0) for n in range(400))

    @kept_small
    def moved(number, where):
        made.append(number)
        return (*where, number)

    made = []
    room_for(2000)
    for _ in range(2):
        for number in range(600):
            moved(number, points)
    assert len(made) == 600, "no plan crowds out what it asks for again at once"
    room_for(1)
    forget_kept()


def test_only_a_few_of_a_kind_may_be_counted():
    with pytest.raises(AssertionError, match="kept_small"):
        remembered(64)


@pytest.mark.parametrize("what", ["stroke", "cake", "numbers", "names", "array"])
def test_what_a_thing_weighs_is_about_what_python_says_that_it_takes(what):
    """Against `tracemalloc`, the interpreter's own count of all that was allocated for a copy of the thing."""
    plan = demo_plan()
    things = {
        "stroke": lambda: copied(plan.strokes[0].stroke),
        "cake": lambda: copied(plan.cakes[0]),
        "numbers": lambda: [float(n) + 0.5 for n in range(500)],
        "names": lambda: {f"name {n}": (n + 1000, f"value {n}") for n in range(300)},
        "array": lambda: np.zeros((40, 36)),
    }
    make = things[what]
    copy = make()
    tracemalloc.start()
    copies = [make() for _ in range(20)]
    took = tracemalloc.get_traced_memory()[0] / 20
    tracemalloc.stop()
    assert len(copies) == 20
    assert 0.6 * took < weight_of(copy) < 1.7 * took


def copied(thing):
    return pickle.loads(pickle.dumps(thing))


class Pair(NamedTuple):
    one: np.ndarray
    many: dict[str, np.ndarray]


def test_arrays_are_found_wherever_they_lie():
    found = weight_of(Pair(np.zeros(1000), {"more": np.zeros((10, 100))}))
    assert found == pytest.approx(16_000, rel=0.06)
    assert weight_of(np.broadcast_to(np.zeros(1), (1000, 1000))) < 1000, "one value shown many times"


def test_arrays_that_are_shared_weigh_once():
    shared = np.zeros(10_000)
    assert weight_of((shared, shared, shared[:10])) < 1.2 * weight_of((shared,))
