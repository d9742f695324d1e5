"""The run at the chair: its clock, its cards, what is kept when the lid is shut, and what the notebook learns."""

import json
import math
import os
import subprocess
import sys
from pathlib import Path

import pytest

from pennello.design.pace import Pace, StepKind
from pennello.disk import kept_path, path_of
from pennello.errors import FileProblemError
from pennello.order.job import Lag, Why
from pennello.order.run import (
    RunOverError,
    begin,
    defaults_of,
    done,
    drying,
    hand_s,
    left_s,
    pause,
    ready_in_s,
    resume,
    skip,
    step_s,
    undo,
)
from pennello.order.steps import Step
from pennello.session.log import apart_words, open_log, step_rows
from pennello.session.notebook import note_run, pace_of
from pennello.session.run_keeper import KeptRun, forget_run, keep_run, kept_run, read_run, run_path, with_run
from pennello.store import notebook as notebook_store
from pennello.store.notebook import Notebook, RunNote, StepNote

STEPS = (
    Step("load:a", StepKind.LOAD, "load", 0.0, 5.0, (), "a", "Load."),
    Step("a", StepKind.STROKES, "petals", 5.0, 20.0, (), "a", "Petals."),
    Step("wait:b", StepKind.WAIT, "wait", 20.0, 60.0, ("a",), "b", "Wait."),
    Step("b", StepKind.LINE, "line", 60.0, 70.0, ("a",), "b", "Line."),
)
LAGS = (Lag("a", "b", 40.0, 90.0, Why.TACKY),)


def test_a_run_goes_through_its_steps_and_times_them():
    run = done(begin(STEPS, 100.0), 107.0)
    assert run.step.id == "a"
    assert run.next_step.id == "wait:b"
    run = done(run, 120.0)
    assert [took.seconds for took in run.took] == [7.0, 13.0]
    assert hand_s(run, 125.0) == 25.0
    assert left_s(run, 125.0) == pytest.approx(45.0)
    (dries,) = drying(run, LAGS, 130.0)
    assert (dries.ready_s, dries.closes_s) == (30.0, 80.0)
    assert ready_in_s(run, LAGS, 130.0) == 30.0
    assert ready_in_s(run, LAGS, 200.0) == 0.0
    run = done(done(run, 160.0), 170.0)
    assert run.over
    assert run.step is None
    with pytest.raises(RunOverError):
        done(run, 180.0)


def test_pauses_are_not_the_hands_but_paint_dries_on():
    run = done(done(begin(STEPS, 0.0), 5.0), 20.0)
    run = pause(run, 25.0)
    assert step_s(run, 300.0) == 5.0
    assert ready_in_s(run, LAGS, 45.0) == 15.0
    assert pause(run, 40.0) == run
    run = resume(run, 55.0)
    assert step_s(run, 56.0) == 6.0
    assert done(run, 60.0).took[-1].seconds == 10.0


def test_steps_are_left_out_and_taken_back():
    run = skip(begin(STEPS, 0.0), 1.0)
    assert run.step.id == "wait:b"  # what only led up to it went too
    assert drying(run, LAGS, 5.0) == ()
    assert undo(run).step.id == "a"
    assert undo(undo(run)) == begin(STEPS, 0.0)
    with pytest.raises(RunOverError):
        undo(begin(STEPS, 0.0))


def test_ten_minutes_of_ticks_do_not_drift():
    """The clock is asked, never counted up: after 6000 ticks of 0.1 s the time is that of the clock to 0.1 s."""
    now = [1234.5]
    run = begin(STEPS, now[0])
    for _ in range(6000):
        now[0] += 0.1
        shown = step_s(run, now[0])
    assert shown == pytest.approx(600.0, abs=0.1)


def test_times_become_the_painters_own_pace(tmp_path):
    book = Notebook(tmp_path / "n.sqlite")
    for seconds in (8.0, 6.0, 7.0):
        run = done(done(begin(STEPS, 0.0), seconds), seconds + 15)
        notes = tuple(StepNote(took.step, StepKind.LOAD, "load", 5.0, took.seconds) for took in run.took[:1])
        note = RunNote("Plan", "face", "2026-11-25T18:00:00", "2026-11-25T18:03:00", seconds, 5.0, True, notes)
        assert book.add(note) > 0
    assert book.runs()[0].steps[0].actual_s == 7.0
    assert len(book.records()) == 3
    book.close()
    assert pace_of(tmp_path / "n.sqlite").own(StepKind.LOAD) == (1.4, 3)
    assert pace_of(tmp_path / "none.sqlite") == Pace()


def test_loads_within_a_step_do_not_slow_the_strokes_down(tmp_path):
    """A painter who loads half as fast and pulls as fast as the defaults: five petals, four loads among them."""
    petals = Step("p", StepKind.STROKES, "petals", 5.0, 29.0, reloads_s=((6, 11), (12, 17), (18, 23), (24, 29)))
    assert defaults_of(petals, Pace()) == (24.0, 20.0)
    slow = Pace(factors=((StepKind.LOAD, 2.0, 3),))
    twice = Step("p", StepKind.STROKES, "petals", 10.0, 54.0, reloads_s=((12, 22), (23, 33), (34, 44), (44, 54)))
    assert defaults_of(twice, slow) == (24.0, 20.0)
    book = Notebook(tmp_path / "n.sqlite")
    notes = (
        StepNote("load:p", StepKind.LOAD, "load", 5.0, 10.0),
        StepNote("p", StepKind.STROKES, "petals", 24.0, 44.0, within_s=20.0),
    )
    for ended in "abc":
        book.add(RunNote("P", "face", "b", ended, 54.0, 29.0, True, notes))
        book.add(RunNote("P", "face", "b", ended, 54.0, 29.0, True, notes))  # written once, however often it is tried
    assert book.runs()[0].steps == notes
    book.close()
    pace = pace_of(tmp_path / "n.sqlite")
    assert pace.own(StepKind.LOAD)[0] == pytest.approx(2.0)
    assert pace.own(StepKind.STROKES)[0] == pytest.approx(1.0)


def test_a_notebook_of_before_is_read(tmp_path, monkeypatch):
    """The first version's tables, as they were shipped; the new column is added with nothing in it."""
    with monkeypatch.context() as patch:
        patch.setattr(notebook_store, "STEPS", notebook_store.STEPS[:1])
        old = Notebook(tmp_path / "n.sqlite")
        with old._connection:
            old._connection.execute("INSERT INTO runs VALUES (1, 'P', 'face', 'b', 'e', 9.0, 8.0, 1)")
            old._connection.execute("INSERT INTO run_steps VALUES (1, 0, 'p', 'strokes', 'petals', 8.0, 9.0, 0)")
        old.close()
    book = Notebook(tmp_path / "n.sqlite")
    assert book.runs()[0].steps == (StepNote("p", StepKind.STROKES, "petals", 8.0, 9.0, planned_s=8.0),)
    assert [one.actual_s for one in book.records()] == [9.0]
    book.close()


def test_answers_and_cautions_are_recorded(tmp_path):
    book = Notebook(tmp_path / "n.sqlite")
    note = RunNote("P", "", "b", "e", 1.0, 2.0, False, (), (("allergy", "no"),), (("glitter", "Ask before glitter."),))
    book.add(note)
    assert book.runs() == (note,)
    book.close()


def test_a_notebook_that_is_none_or_newer_is_refused(tmp_path):
    (tmp_path / "bad.sqlite").write_bytes(b"this is no database at all, not even nearly" * 40)
    with pytest.raises(FileProblemError, match="notebook"):
        Notebook(tmp_path / "bad.sqlite")
    book = Notebook(tmp_path / "new.sqlite")
    book._connection.execute("PRAGMA user_version = 99")
    book.close()
    with pytest.raises(FileProblemError, match="newer Pennello"):
        Notebook(tmp_path / "new.sqlite")


def test_a_run_is_taken_up_again_with_its_paint_dried_on():
    run = done(done(begin(STEPS, 100.0), 105.0), 120.0)
    kept = KeptRun(run, "Plan", "/some/plan.pennello", "face", "2026-11-25T18:00:00+00:00", (("allergy", "no"),), LAGS)
    keep_run(kept, 130.0, 1_000_000.0)
    again = kept_run(7.0, 1_000_020.0)  # another clock, 20 s later
    assert (again.title, again.chart, again.answers, again.lags) == ("Plan", "face", (("allergy", "no"),), LAGS)
    assert again.run.paused
    assert step_s(again.run, 7.0) == pytest.approx(10.0)
    assert ready_in_s(again.run, LAGS, 7.0) == pytest.approx(10.0)  # 40 s less the 10 before and the 20 away
    assert hand_s(resume(again.run, 7.0), 9.0) == pytest.approx(32.0)
    forget_run()
    assert kept_run(0.0, 0.0) is None


def test_a_run_has_a_page_with_its_file_its_form_and_its_minutes_by_step(tmp_path):
    """What was predicted at the pace of that day stands beside what was; a wait is a wait, what was skipped is not."""
    run = skip(done(done(done(begin(STEPS, 0.0), 12.0), 28.0), 68.0), 70.0)
    kept = KeptRun(run, "Walk", "/some/walk.pennello", "face", "2026-11-25T18:00:00+00:00", short=True)
    keep_run(kept, 70.0, 0.0)
    again = read_run(run_path(), 70.0, 0.0)
    assert again.short
    note_run(again, tmp_path / "n.sqlite")
    with open_log(tmp_path / "n.sqlite") as log:
        (page,) = log.pages()
        assert (page.plan, page.short) == ("/some/walk.pennello", True)
        steps = log.steps_of_run(page.run)
    assert [one.planned_s for one in steps] == [5.0, 15.0, 40.0, 10.0]
    rows = step_rows(steps)
    assert rows[0] == ("Load", "0:05", "0:12", "0:07 longer")
    assert rows[1] == ("petals", "0:15", "0:16", "")
    assert rows[2][2] == "0:40"
    assert rows[3][2:] == ("left out", "")
    assert apart_words(steps) == "By step: Load 0:12 instead of 0:05 min; 1 step left out."
    assert apart_words(()) == ""


def test_a_run_of_a_plan_whose_folder_is_no_utf_8_is_kept_and_noted(tmp_path):
    """A folder from an older disk, its name in Latin-1: JSON and SQLite take only UTF-8."""
    plan = Path(os.fsdecode(os.fsencode(tmp_path) + b"/caf\xe9")) / "walk.pennello"
    kept = KeptRun(done(begin(STEPS, 0.0), 5.0), "Walk", kept_path(plan), "face", "2026-11-25T18:00:00+00:00")
    keep_run(kept, 70.0, 0.0)
    note_run(read_run(run_path(), 70.0, 0.0), tmp_path / "n.sqlite")
    with open_log(tmp_path / "n.sqlite") as log:
        (page,) = log.pages()
    assert path_of(page.plan) == plan


def test_a_run_of_a_large_design_far_down_in_folders_is_taken_up_again():
    """Of 250 pieces that all lie on each other every pair waits: more than 31,000, over 5 MB; it counted as damaged."""
    names = [f"{number}{'x' * 56}" for number in range(250)]
    steps = tuple(Step(name, StepKind.STROKES, name, at, at + 1.0, words="w" * 3000) for at, name in enumerate(names))
    lags = tuple(Lag(a, b, 20.0, math.inf, Why.DRY) for at, b in enumerate(names) for a in names[:at])
    place = kept_path(Path("/" + "/".join(["\udce9" * 200] * 20)))
    kept = KeptRun(begin(steps, 0.0), "Walk", place, "face", "2026-11-25T18:00:00+00:00", lags=lags)
    keep_run(kept, 70.0, 0.0)
    assert run_path().stat().st_size > 5_000_000
    again = read_run(run_path(), 70.0, 0.0)
    assert (again.lags, again.plan, len(again.run.steps)) == (lags, place, 250)


def test_a_run_that_is_over_or_broken_counts_as_none():
    run = begin(STEPS, 0.0)
    for at in (5.0, 20.0, 60.0, 70.0):
        run = done(run, at)
    keep_run(with_run(KeptRun(begin(STEPS, 0.0), "P", "", "", ""), run), 70.0, 0.0)
    assert kept_run(0.0, 0.0) is None
    run_path().write_text("{not json")
    assert kept_run(0.0, 0.0) is None


def test_a_kill_in_the_middle_loses_nothing(tmp_path, own_folders):
    """A program of its own ticks two steps off and is killed as hard as can be."""
    code = (
        "import os, signal, time\n"
        "from pennello.design.pace import StepKind\n"
        "from pennello.order.steps import Step\n"
        "from pennello.order.run import begin, done\n"
        "from pennello.session.run_keeper import KeptRun, keep_run\n"
        "steps = [Step(str(n), StepKind.STROKES, str(n), n, n + 1) for n in range(4)]\n"
        "run = begin(steps, 0.0)\n"
        "for at in (1.0, 2.0):\n"
        "    run = done(run, at)\n"
        "    keep_run(KeptRun(run, 'Plan', '', 'face', ''), at, time.time())\n"
        "os.kill(os.getpid(), signal.SIGKILL)\n"
    )
    ended = subprocess.run([sys.executable, "-c", code], check=False, timeout=300)
    assert ended.returncode == -9
    assert json.loads(run_path().read_text())["format"] == "pennello-run"
    assert [took.step for took in kept_run(0.0, 0.0).run.took] == ["0", "1"]
