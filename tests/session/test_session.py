"""Document, history, autosave, settings, jobs."""

import os
import subprocess
import sys
import threading
import time
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello.errors import FileProblemError, PennelloError
from pennello.files.plan_json import read_plan, write_plan
from pennello.session.autosave import Autosave, copy_path
from pennello.session.document import Document
from pennello.session.forecast import DRAG_PX_PER_MM, REST_PX_PER_MM, coarse, fine
from pennello.session.jobs import Job, Jobs
from pennello.session.settings import MOST_RECENT, Settings, load_settings, store_settings, with_recent
from pennello.units import LengthUnit


def titled(document, title):
    return replace(document.committed, title=title)


@pytest.fixture
def document(demo):
    return Document(demo)


def test_every_edit_can_be_undone_and_done_again(document, demo):
    for title in ("one", "two", "three"):
        document.edit(f"Title {title}", titled(document, title))
    assert document.undo_label == "Title three"
    for _ in range(5):
        document.undo()
    assert document.plan == demo
    assert not document.dirty
    for _ in range(5):
        document.redo()
    assert document.plan.title == "three"


@given(st.lists(st.sampled_from(["a", "b", "undo", "redo", "preview", "commit", "cancel"]), max_size=30))
def test_history_is_a_stack_whatever_happens(acts):
    from pennello.design.plan import Plan

    document = Document(Plan())
    stack, ahead, preview = [""], [], None
    for act in acts:
        if act == "undo":
            document.undo()
            if len(stack) > 1:
                ahead.append(stack.pop())
                preview = None
        elif act == "redo":
            document.redo()
            if ahead:
                stack.append(ahead.pop())
                preview = None
        elif act == "preview":
            preview = "p"
            document.preview(replace(document.committed, place="p"))
        elif act == "cancel":
            preview = None
            document.preview(None)
        else:
            new = preview if act == "commit" else act
            document.commit("x") if act == "commit" else document.edit("x", replace(document.committed, place=act))
            preview = None
            if new is not None and new != stack[-1]:
                stack.append(new)
                ahead.clear()
        assert document.committed.place == stack[-1]
        assert document.plan.place == (preview if preview is not None else stack[-1])


def test_quick_steps_of_one_kind_are_one(demo):
    now = [0.0]
    document = Document(demo, clock=lambda: now[0])
    for step in range(4):
        now[0] += 0.5
        document.edit("Slide", titled(document, str(step)), merge="slide")
    now[0] += 5
    document.edit("Slide", titled(document, "later"), merge="slide")
    document.undo()
    assert document.plan.title == "3"
    document.undo()
    assert document.plan == demo


def test_previews_leave_no_trace(document, demo):
    seen = []
    document.changed.connect(lambda: seen.append(document.plan.title))
    document.preview(titled(document, "preview"))
    document.preview(None)
    assert seen == ["preview", demo.title]
    assert document.undo_label is None
    document.preview(titled(document, "kept"))
    document.commit("Keep")
    assert document.undo_label == "Keep"


def test_saving_and_what_is_dirty(document, tmp_path):
    document.edit("Title", titled(document, "Mine"))
    assert document.dirty
    path = document.save(tmp_path / "mine")
    assert path.name == "mine.pennello"
    assert not document.dirty
    document.edit("Title", titled(document, "Other"))
    document.undo()
    assert not document.dirty
    with pytest.raises(FileProblemError):
        document.open(tmp_path / "none.pennello")
    assert document.plan.title == "Mine"
    document.open(path)
    assert document.undo_label is None


# --- autosave ---


def test_autosave_lies_beside_the_plan_and_goes_when_all_is_saved(document, tmp_path):
    keeper = Autosave(document, tmp_path / "state")
    keeper.keep()
    assert not (tmp_path / "state").exists()
    document.edit("Title", titled(document, "Unnamed"))
    keeper.keep()
    unnamed = copy_path(None, tmp_path / "state")
    assert read_plan(unnamed).title == "Unnamed"
    path = document.save(tmp_path / "mine.pennello")
    document.edit("Title", titled(document, "Again"))
    keeper.keep()
    assert not unnamed.exists()
    assert read_plan(copy_path(path, tmp_path)).title == "Again"
    document.save()
    keeper.keep()
    assert not copy_path(path, tmp_path).exists()


def test_only_newer_and_other_copies_are_offered(document, tmp_path):
    path = document.save(tmp_path / "mine.pennello")
    keeper = Autosave(document, tmp_path)
    copy = copy_path(path, tmp_path)
    assert keeper.recoverable(path) is None
    write_plan(document.plan, copy)
    os.utime(copy, (time.time() + 60,) * 2)
    assert keeper.recoverable(path) is None  # the same plan
    write_plan(titled(document, "Newer"), copy)
    os.utime(copy, (time.time() + 60,) * 2)
    found = keeper.recoverable(path)
    assert found is not None
    assert found.plan.title == "Newer"
    path.write_text("broken")
    os.utime(path, (time.time() - 60,) * 2)
    assert keeper.recoverable(path) is not None  # then the copy is all there is
    keeper.discard(found)
    assert not copy.exists()
    copy.write_text("broken too")
    assert keeper.recoverable(path) is None


KILLED = """
import os, sys, signal
from dataclasses import replace
from pathlib import Path
from pennello.files.demo import demo_plan
from pennello.session.autosave import Autosave
from pennello.session.document import Document
document = Document(demo_plan())
document.save(Path(sys.argv[1]))
keeper = Autosave(document, Path(sys.argv[1]).parent)
document.edit("Title", replace(document.committed, title="Before the kill"))
keeper.keep()
os.kill(os.getpid(), signal.SIGKILL)
"""


def test_a_kill_loses_nothing_older_than_the_last_autosave(tmp_path):
    path = tmp_path / "walk.pennello"
    ended = subprocess.run([sys.executable, "-c", KILLED, str(path)], check=False, timeout=60)
    assert ended.returncode == -9
    os.utime(path, (time.time() - 60,) * 2)
    found = Autosave(Document(), tmp_path).recoverable(path)
    assert found is not None
    assert found.plan.title == "Before the kill"
    assert read_plan(path).title == "Saltmarsh Lantern Walk"


# --- settings ---


def test_settings_there_and_back(tmp_path):
    settings = with_recent(Settings(theme="lamp", unit="in"), tmp_path / "a.pennello")
    store_settings(settings, tmp_path / "config")
    assert load_settings(tmp_path / "config") == settings
    assert settings.length_unit is LengthUnit.INCH
    for number in range(20):
        settings = with_recent(settings, tmp_path / f"{number % 10}")
    assert len(settings.recent) == MOST_RECENT
    assert settings.recent[0].endswith("9")


@pytest.mark.parametrize("text", ["", "{", "[]", '{"theme": "pink", "unit": 3, "recent": "x"}', "[" * 100_000])
def test_broken_settings_are_defaults(text, tmp_path):
    (tmp_path / "settings.json").write_text(text)
    assert load_settings(tmp_path) == Settings()


# --- jobs ---


@pytest.fixture
def jobs():
    made = Jobs()
    yield made
    made.close()


def test_a_job_reports_finds_and_finishes(jobs):
    heard, done = [], threading.Event()

    def work(job):
        job.report(0.5, "half way")
        job.found.emit("so far")
        return 42

    job = Job(work)
    job.progress.connect(lambda fraction, words: heard.append((fraction, words)))
    job.found.connect(heard.append)
    job.finished.connect(lambda result: (heard.append(result), done.set()))
    jobs.start("x", job)
    assert done.wait(5)
    assert heard == [(0.0, ""), (0.5, "half way"), "so far", 42]


def test_a_newer_job_silences_the_older(jobs):
    go, heard, done = threading.Event(), [], threading.Event()

    def slow(job):
        go.wait(5)
        job.report(0.5, "too late")
        return "old"

    old, new = Job(slow), Job(lambda job: "new")
    old.finished.connect(heard.append)
    new.finished.connect(lambda result: (heard.append(result), done.set()))
    jobs.start("x", old)
    jobs.start("x", new)
    go.set()
    assert done.wait(5)
    assert heard == ["new"]


@pytest.mark.parametrize(
    ("error", "words"), [(PennelloError("A sentence."), "A sentence."), (ZeroDivisionError("x"), "plan is unchanged")]
)
def test_a_failing_job_says_a_sentence(jobs, error, words):
    heard, done = [], threading.Event()

    def fail(job):
        raise error

    job = Job(fail)
    job.failed.connect(lambda sentence: (heard.append(sentence), done.set()))
    jobs.start("x", job)
    assert done.wait(5)
    assert words in heard[0]


# --- forecasts ---


def test_coarse_and_fine_agree(demo):
    for stroke in demo.strokes:
        quick, slow = coarse(demo, stroke.id), fine(demo, stroke.id, LengthUnit.MM)
        assert quick.laid.film.canvas.px_per_mm == DRAG_PX_PER_MM >= 2
        assert slow.laid.film.canvas.px_per_mm == REST_PX_PER_MM >= 4
        assert quick.verdict is None
        assert slow.verdict is not None
        assert quick.seen.mean_de00 == pytest.approx(slow.seen.mean_de00, abs=0.25)
        assert quick.state is slow.state
