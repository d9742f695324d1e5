"""Two minutes of `make hard`, with fixed seeds: kills, damaged files, faults on purpose, monkeys at the window."""

import json
import os
import subprocess
import sys
import threading
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest

from hard.__main__ import plans
from hard.damage import damage, wrong
from hard.faults import FAULTS, NotPossibleHereError
from hard.held import at_work
from hard.kills import kills
from hard.long_run import MOST_HANDLES_MORE
from hard.tally import Tally, table
from pennello.errors import PennelloError

ROOT = Path(__file__).parents[2]


def nothing_failed(rows):
    assert not [problem for row in rows for problem in row.failed], table(rows)


def test_damaged_files_are_read_or_refused_with_a_sentence(tmp_path):
    rows = damage(tmp_path, plans(), 900, seed=11)
    nothing_failed(rows)
    assert sum(row.tried for row in rows) == 900
    assert len(rows) == 12


def test_a_killed_writer_leaves_the_old_or_the_new(tmp_path):
    rows = kills(tmp_path, 36, seed=5)
    nothing_failed(rows)
    assert len(rows) == 6


@pytest.mark.parametrize("fault", FAULTS, ids=lambda one: one.__name__)
def test_faults_are_said_and_nothing_is_lost(fault, tmp_path):
    tmp_path.chmod(0o755)
    try:
        assert fault(tmp_path) == ""
    except NotPossibleHereError:
        pytest.skip("this machine does not let it be made")


@pytest.mark.parametrize("seed", [pytest.param(2, marks=pytest.mark.slow), 3])
def test_a_monkey_at_the_window_breaks_nothing(tmp_path, seed):
    """With the compiled kernel and without; a program of its own, so that its end is seen."""
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONPATH": str(ROOT / "tools")}
    words = [str(seed), "130", "45", str(tmp_path / "m"), *map(str, plans())]
    ended = subprocess.run(
        [sys.executable, "-X", "faulthandler", "-m", "hard.monkey", *words],
        env=env,
        check=False,
        capture_output=True,
        timeout=300,
    )
    assert ended.returncode == 0, ended.stderr[-2000:]
    seen = json.loads((tmp_path / "m" / "seen.json").read_text())
    assert seen["events"] >= 30
    assert seen["exceptions"] == {}, seen["traces"]
    assert seen["broken"] == []


@pytest.mark.slow
def test_the_long_run_goes_through_all_stations(tmp_path):
    """A short one: that it still finds what it steers, and leaves no handles open."""
    ended = subprocess.run(
        [sys.executable, "-X", "faulthandler", "-m", "hard.long_run", str(tmp_path), "30"],
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONPATH": str(ROOT / "tools")},
        check=False,
        capture_output=True,
        timeout=300,
    )
    assert ended.returncode == 0, ended.stderr[-2000:]
    told = json.loads((tmp_path / "long.json").read_text())
    assert told["edits"] == 30
    assert told["handles_more"] <= MOST_HANDLES_MORE


def test_the_harness_itself_can_fail(tmp_path):
    def refuse(_):
        raise PennelloError("x" * 5000)

    def crash(_):
        raise KeyError("gone")

    assert wrong(refuse, tmp_path) == ""  # cut to size
    assert wrong(crash, tmp_path).startswith("KeyError")
    row = Tally("row")
    row.check("")
    row.check("broken")
    assert "broken" in table([row])
    assert (row.tried, len(row.failed)) == (2, 1)


def test_what_workers_do_is_told_while_they_do_it():
    """Their frames run on meanwhile: followed one by one from Python they ended programs."""
    stop = threading.Event()

    def deep(calls):
        return deep(calls - 1) if calls else sum(range(50))

    def work():
        while not stop.is_set():
            deep(20)

    with ThreadPoolExecutor(3) as pool:
        waits, *_ = [pool.submit(stop.wait), pool.submit(work), pool.submit(work)]
        seen = [at_work() for _ in range(40)]
        stop.set()
        waits.result(5)
    assert all(len(one) == 3 for one in seen[-20:])
    assert any("test_hard.deep" in told for one in seen for told in one)
    assert at_work() == []
