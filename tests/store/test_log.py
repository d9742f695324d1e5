"""The log in the notebook's file: what is written is read back, older notebooks are taken along, kills lose nothing."""

from __future__ import annotations

import os
import random
import signal
import sqlite3
import subprocess
import sys
import time

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pennello.errors import FileProblemError, OutOfRangeError, UnknownNameError
from pennello.practice.records import KeptConstant, KeptTry, LogPage, PageFault
from pennello.practice.tries import TryScore, TrySlip
from pennello.practice.trouble import Trouble
from pennello.store.log import Log
from pennello.store.notebook import STEPS, Notebook, RunNote

DAY = "2026-11-20T19:30:00+01:00"
PAGE = LogPage(
    DAY,
    "Poppy brow",
    plan="/tmp/walk.pennello",
    part="left brow",
    short=True,
    painted_s=182.5,
    planned_s=160.0,
    note="it rained",
    light="lamp",
    photo="a.jpg",
    picture="b.jpg",
    asked="something red",
    kept="the blue one",
    colours=("red", "white"),
    faults=(PageFault(Trouble.MUDDY, "p1", "Poppy", "Let it dry."), PageFault(Trouble.GAP)),
)
SCORE = TryScore(3, 0.91, 1.2, 2.1, None, 0.8, 0.4, None, 0.2, TrySlip(1, 2, 3, 0.1, 5, 6, 0.07), "Nearly.")


def test_a_page_is_read_back(tmp_path):
    with Log(tmp_path / "n.sqlite") as log:
        kept = log.put(PAGE)
        assert kept.id > 0
        assert log.page(kept.id) == kept
        assert log.put(kept) == kept
        assert log.pages() == (kept,)
        log.remove(kept.id)
        assert log.pages() == ()
        with pytest.raises(UnknownNameError):
            log.page(kept.id)
        with pytest.raises(UnknownNameError):
            log.put(kept)


def test_tries_and_constants_are_read_back(tmp_path):
    one = KeptTry(DAY, "Walk", "petal", "Petal", SCORE, "petals", traced=True)
    told = KeptConstant(DAY, "Walk", "flat", "release_mm", 120.0, 150.0, 0.2, "a card", '{"a": 1}')
    with Log(tmp_path / "n.sqlite") as log:
        log.add_tries([one, one])
        log.add_learnt([told])
        assert log.tries() == (one, one)
        assert log.learnt() == (told,)
        assert log.forget_tries() == 2
        assert log.tries() == ()


@pytest.mark.parametrize("version", range(1, len(STEPS)))
def test_older_notebooks_are_taken_along(tmp_path, version):
    """From every older version: each run that is there gets a page, and a copy of the old file stays."""
    path = tmp_path / "n.sqlite"
    with sqlite3.connect(path) as old:
        for number in range(version):
            old.executescript(f"{STEPS[number]} PRAGMA user_version = {number + 1};")
        old.execute(
            "INSERT INTO runs (plan, chart, begun, ended, hand_s, planned_s, finished) VALUES (?,?,?,?,?,?,?)",
            ("Moth", "face", DAY, DAY, 100.0, 90.0, 1),
        )
        within = "" if version == 1 else ", 0"
        old.execute(f"INSERT INTO run_steps VALUES (1, 0, 'p', 'strokes', 'petals', 8.0, 9.0, 0{within})")
        if version >= 3:  # from then on a run came with its page
            words = "INSERT INTO pages (day, title, run, painted_s, planned_s) VALUES (?,?,?,?,?)"
            old.execute(words, (DAY, "Moth", 1, 100.0, 90.0))
    old.close()
    with Log(path) as log:
        (page,) = log.pages()
        assert (page.title, page.day, page.painted_s, page.planned_s) == ("Moth", DAY, 100.0, 90.0)
        assert [(one.planned_s, one.actual_s) for one in log.steps_of_run(page.run)] == [(8.0, 9.0)]
    assert path.with_name(f"n.sqlite.v{version}.bak").exists()


def test_a_new_run_has_its_page(tmp_path):
    run = RunNote("Moth", "face", DAY, DAY, 75.0, 80.0, finished=True)
    with Notebook(tmp_path / "n.sqlite") as book:
        number = book.add(run)
        assert book.add(run) == number, "one that is there is not written twice"
    with Log(tmp_path / "n.sqlite") as log:
        assert [(page.run, page.painted_s) for page in log.pages()] == [(number, 75.0)]


def test_what_is_too_long_is_said():
    with pytest.raises(OutOfRangeError, match="title"):
        LogPage(DAY, "x" * 201)
    with pytest.raises(OutOfRangeError, match="note"):
        LogPage(DAY, "x", note="y" * 4001)
    with pytest.raises(OutOfRangeError, match="faults"):
        LogPage(DAY, "x", faults=(PageFault(Trouble.GAP),) * 51)


def test_half_a_sign_is_said(tmp_path):
    with pytest.raises(OutOfRangeError, match="note of a page"):
        LogPage(DAY, "x", note="a\udcff")
    with Log(tmp_path / "n.sqlite") as log:
        with pytest.raises(FileProblemError, match="half a sign"):
            log.put(LogPage(DAY, "x", plan="a\udcff"))
        assert log.pages() == ()


def test_a_damaged_page_is_named(tmp_path):
    path = tmp_path / "n.sqlite"
    with Log(path) as log:
        log.put(PAGE)
    with sqlite3.connect(path) as hand:
        hand.execute("UPDATE pages SET painted_s = 'soon'")
    hand.close()
    with Log(path) as log, pytest.raises(FileProblemError, match="painted_s"):
        log.pages()


WRITER = """
import sys
from pathlib import Path
from pennello.practice.records import LogPage, PageFault
from pennello.practice.trouble import Trouble
from pennello.store.log import Log
with Log(Path(sys.argv[1])) as log:
    for number in range(100000):
        log.put(LogPage("2026-11-20T19:30:00", str(number), faults=(PageFault(Trouble.GAP, str(number)),) * 3))
        print(number, flush=True)
"""


def test_a_kill_loses_nothing_that_was_said_to_be_kept(tmp_path):
    """Killed at random moments: all pages that were reported are there and whole, at most one more is."""
    path, rng, expected = tmp_path / "n.sqlite", random.Random(7), 0
    for _ in range(4):
        writer = subprocess.Popen([sys.executable, "-c", WRITER, str(path)], stdout=subprocess.PIPE, text=True)
        assert writer.stdout is not None
        for _ in range(rng.randrange(3, 40)):
            writer.stdout.readline()
        time.sleep(rng.random() * 0.01)
        os.kill(writer.pid, signal.SIGKILL)
        said = [int(line) for line in writer.stdout.read().split()]
        writer.wait()
        writer.stdout.close()
        with Log(path) as log:
            pages = log.pages()
        assert all(len(page.faults) == 3 and page.faults[0].piece == page.title for page in pages)
        assert len(pages) > expected
        if said:
            assert len(pages) - expected - 1 in {said[-1], said[-1] + 1}
        expected = len(pages)


@settings(max_examples=40, deadline=None)
@given(
    st.text(st.characters(exclude_categories=("Cs",)), max_size=80), st.sets(st.sampled_from(["red", "blue", "grey"]))
)
def test_any_text_is_kept_as_it_is(tmp_path_factory, text, colours):
    page = LogPage(DAY, text, note=text, colours=tuple(sorted(colours)))
    with Log(tmp_path_factory.mktemp("log") / "n.sqlite") as log:
        assert log.page(log.put(page).id).note == text
