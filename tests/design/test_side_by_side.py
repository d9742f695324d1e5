"""Things done side by side: each once, never before what it waits for, whatever the threads do."""

import threading
import time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello.breath import Stopped, breathe, breathing
from pennello.design.side_by_side import side_by_side


@st.composite
def waits(draw):
    count = draw(st.integers(0, 24))
    return [
        draw(st.lists(st.integers(0, number - 1), max_size=4, unique=True)) if number else [] for number in range(count)
    ]


@given(waits(), st.integers(1, 4))
def test_each_is_done_once_after_what_it_waits_for(waits_for, threads):
    begun, ended = [], []

    def do(number):
        begun.append((number, tuple(ended)))
        ended.append(number)

    side_by_side(waits_for, do, threads)
    assert sorted(ended) == list(range(len(waits_for)))
    for number, before in begun:
        assert set(waits_for[number]) <= set(before)


def test_one_thread_alone_does_them_in_their_order():
    done = []
    side_by_side([[], [0], [], [2], [1]], done.append, 1)
    assert done == [0, 1, 2, 3, 4]


def test_two_are_at_work_at_the_same_time():
    both = threading.Barrier(2, timeout=60)
    side_by_side([[], []], lambda _: both.wait())


@pytest.mark.parametrize("threads", [1, 2, 3])
@pytest.mark.parametrize("kind", [ValueError, Stopped, KeyboardInterrupt])
def test_a_failure_comes_to_whoever_asks_and_nothing_more_is_begun(kind, threads):
    done, here = [], threading.active_count()

    def do(number):
        if number == 3:
            raise kind
        time.sleep(0.002)
        done.append(number)

    with pytest.raises(kind):
        side_by_side([[] if number == 0 else [number - 1] for number in range(20)], do, threads)
    assert done == [0, 1, 2]
    assert threading.active_count() == here, "nobody is left waiting"


def test_others_breathe_as_the_one_that_asks():
    breaths = []
    with breathing(lambda: breaths.append(threading.get_ident())):
        both = threading.Barrier(2, timeout=60)
        side_by_side([[], []], lambda _: (both.wait(), breathe()))
    assert len(set(breaths)) == 2
