"""Speeds of the searches, by pytest-benchmark: `make bench`. Ratios come from the same run."""

from __future__ import annotations

import time
from dataclasses import replace

import numpy as np
import pytest
from lantern_face import demo_plan
from PySide6.QtCore import QElapsedTimer

from pennello.colour.difference import ciede2000
from pennello.colour.kubelka_munk import film
from pennello.design.plan import skin_spectrum
from pennello.kept import forget_kept
from pennello.kit import catalogue
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import optics
from pennello.load.pickup import blurred_stripes
from pennello.solve import candidates
from pennello.solve.cake_space import Look
from pennello.solve.coats import Goal, coat_lab, goal_for
from pennello.solve.design_cake import design_cake
from pennello.solve.forgiveness import forgive

PAINTS = catalogue.paints()
NAMES = sorted(PAINTS)
SKIN = skin_spectrum(demo_plan().skin)


def big_kit(seed=1):
    """Forty cakes of 2 to 5 stripes, 22 to 46 mm across."""
    rng = np.random.default_rng(seed)
    cakes = []
    for number in range(40):
        count = int(rng.integers(2, 6))
        widths = rng.uniform(4, 10, count)
        widths *= rng.uniform(24, 46) / widths.sum()
        picked = rng.choice(len(NAMES), count, replace=False)
        stripes = (Stripe(NAMES[int(p)], float(w)) for p, w in zip(picked, widths, strict=True))
        cakes.append(Cake(f"c{number}", f"C{number}", tuple(stripes)))
    return cakes


def brushes(wanted, count=8):
    flat = catalogue.brushes()["flat-3-4"]
    sizes = [replace(flat, id=f"b{n}", width_mm=10.0 + 1.5 * n) for n in range(count)]
    return [candidates.Tried(one, goal_for(wanted, one.width_mm, PAINTS, SKIN), 15.0) for one in sizes]


@pytest.fixture(scope="module")
def wanted():
    return demo_plan().stroke("dahlia-petal").wanted


@pytest.mark.parametrize("threads", [1, 2])
def test_first_pass_of_a_big_kit(benchmark, wanted, threads):
    cakes, tried = big_kit(), brushes(wanted)

    def cold():
        forget_kept()

    def run():
        blocks = candidates._estimates(cakes, tried, PAINTS, SKIN, threads, lambda _: None)
        return sum(block.estimate.size for block in blocks)

    searched = benchmark.pedantic(run, setup=cold, rounds=7, warmup_rounds=1)
    benchmark.extra_info["candidates"] = searched
    benchmark.extra_info["wanted, ms, for 272 000"] = 400 if threads == 1 else 200


def test_whole_search_of_a_big_kit(benchmark, wanted):
    cakes, tried = big_kit(), brushes(wanted)

    def cold():
        forget_kept()

    benchmark.pedantic(lambda: candidates.search(cakes, tried, PAINTS, SKIN), setup=cold, rounds=7, warmup_rounds=1)
    benchmark.extra_info["wanted, ms"] = 500


@pytest.mark.parametrize(("laid", "wanted_ms"), [(False, 500), (True, 3000)])
def test_forgiveness_of_400_tries(benchmark, laid, wanted_ms):
    from pennello.lay.warming import warm_up

    warm_up().join()
    plan = demo_plan()
    attempt = plan.attempt("dahlia-petal")
    benchmark.pedantic(lambda: forgive(attempt, plan.hand, every_laid=laid), rounds=2 if laid else 5, warmup_rounds=1)
    benchmark.extra_info["wanted, ms"] = wanted_ms


def hidden(seed):
    """What a cake of 2 to 5 stripes lays through a window of 19.05 mm."""
    rng = np.random.default_rng(seed)
    count = int(rng.integers(2, 6))
    widths = rng.uniform(3, 9, count)
    widths *= max(1.0, 22.0 / widths.sum())
    picked = rng.choice(24, count, replace=False)
    cake = Cake("h", "H", tuple(Stripe(NAMES[int(p)], float(w)) for p, w in zip(picked, widths, strict=True)))
    offset, blur = float(rng.uniform(0, cake.width_mm - 19.05)), float(np.hypot(0.8, 0.3))
    shares = blurred_stripes(cake, offset + np.arange(33) / 32 * 19.05, blur).T
    lab = coat_lab(shares, optics(tuple(PAINTS[stripe.paint] for stripe in cake.stripes)), 15.0, SKIN)
    return Look(19.05, Goal(lab[None]), 15.0, blur)


def test_twelve_hidden_cakes(benchmark):
    stock = [PAINTS[name] for name in NAMES[:24]]
    found, first = [], []

    def all_of_them():
        for seed in range(12):
            began, seen = time.perf_counter(), []

            def show(_, began=began, seen=seen):
                seen.append(time.perf_counter() - began)

            found.append(design_cake(stock, [hidden(seed)], SKIN, seconds=6.0, show=show)[0].mean_de00)
            first.append(seen[0])

    benchmark.pedantic(all_of_them, rounds=1)
    benchmark.extra_info["found within 1.0 dE (wanted 11 of 12)"] = sum(value < 1.0 for value in found)
    benchmark.extra_info["first answer after, s (wanted 0.5)"] = round(max(first), 2)
    benchmark.extra_info["seconds each (wanted 6)"] = "see the median / 12"


def test_interface_thread_while_a_cake_is_designed(benchmark, qapp_bench):
    """Turns of the event loop while a cake is designed in a worker, beside the same with nothing to do."""
    from concurrent.futures import ThreadPoolExecutor

    stock = [PAINTS[name] for name in NAMES[:24]]

    def turns(work):
        with ThreadPoolExecutor(1) as pool:
            job = pool.submit(work)
            clock, gaps = QElapsedTimer(), []
            while not job.done():
                clock.restart()
                qapp_bench.processEvents()
                time.sleep(0.004)
                gaps.append(clock.nsecsElapsed() / 1e6 - 4.0)
        return f"99 % {np.percentile(gaps, 99):.1f}, longest {max(gaps):.1f}"

    idle = turns(lambda: time.sleep(2.0))
    found = []
    benchmark.pedantic(lambda: found.append(turns(lambda: design_cake(stock, [hidden(2)], SKIN, None, 2.0))), rounds=2)
    benchmark.extra_info["turns, ms (wanted <= 33)"] = f"{found[-1]}; with nothing to do {idle}"


def test_baseline_of_ciede2000_and_film(benchmark):
    """What the search rests on, for ratios: 272 000 x 32 films of 10 bands and differences would take this much."""
    rng = np.random.default_rng(0)
    depth, lab = rng.uniform(0, 5, (20_000, 10)), rng.uniform(0, 60, (20_000, 3))

    def one():
        film(depth, depth, depth / 10)
        ciede2000(lab, lab[::-1])

    benchmark(one)
