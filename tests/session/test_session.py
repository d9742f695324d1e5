"""Document, history, autosave, settings, jobs."""

import errno
import gc
import os
import queue
import stat
import subprocess
import sys
import threading
import time
import weakref
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello import disk
from pennello.breath import Stopped, breathe, breathing
from pennello.design.on_chart import painted_plan, with_new_motif
from pennello.errors import FileProblemError, PennelloError
from pennello.files.plan_json import read_plan, write_plan
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath
from pennello.session.autosave import Autosave
from pennello.session.courtesy import HAND, DrawingHand, GentleImports, WindowThread, main_thread_s
from pennello.session.document import ChangedOnDiskError, Document
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


def copies(folder):
    return sorted(path for path in folder.glob(".*.autosave")) + sorted(folder.glob("untitled*.autosave"))


def test_autosave_lies_beside_the_plan_and_goes_when_all_is_saved(document, tmp_path):
    state = tmp_path / "state"
    keeper = Autosave(document, state)
    keeper.keep()
    assert not state.exists()
    document.edit("Title", titled(document, "Unnamed"))
    keeper.keep()
    (unnamed,) = copies(state)
    assert read_plan(unnamed).title == "Unnamed"
    assert stat.S_IMODE(unnamed.stat().st_mode) == 0o600
    document.save(tmp_path / "mine.pennello")
    document.edit("Title", titled(document, "Again"))
    keeper.keep()
    assert not unnamed.exists()
    (beside,) = copies(tmp_path)
    assert read_plan(beside).title == "Again"
    document.save()
    keeper.keep()
    assert not copies(tmp_path)


def test_copies_that_were_left_are_offered_by_what_they_hold(document, tmp_path):
    path = document.save(tmp_path / "mine.pennello")
    keeper = Autosave(document, tmp_path)
    copy = tmp_path / ".mine.pennello.autosave"  # as Pennello 0.6 named it
    assert keeper.recoverable(path) is None
    write_plan(document.plan, copy)
    assert keeper.recoverable(path) is None  # the same plan
    assert not copy.exists()
    write_plan(titled(document, "Other"), copy)
    os.utime(copy, (time.time() - 9000,) * 2)  # a clock that went back hides nothing
    found = keeper.recoverable(path)
    assert found is not None
    assert found.plan.title == "Other"
    path.write_text("broken")
    assert keeper.recoverable(path) is not None  # then the copy is all there is
    keeper.discard(found)
    assert not copy.exists()
    copy.write_bytes(b'{"format": "pennello-plan", "title": "\xff"}')
    left = keeper.left(path)
    assert not left.copies
    assert "damaged" in left.set_aside[0]
    assert (tmp_path / ".mine.pennello.autosave.damaged").exists()


def test_no_copy_of_a_living_one_is_touched(document, tmp_path):
    path = document.save(tmp_path / "mine.pennello")
    one, other = Autosave(document, tmp_path), Autosave(Document(), tmp_path)
    document.edit("Title", titled(document, "Of the first"))
    one.keep()
    other._document.open(path)
    other._document.edit("Title", titled(other._document, "Of the second"))
    other.keep()
    assert len(copies(tmp_path)) == 2
    assert one.recoverable(path) is None
    other.forget()
    assert [read_plan(copy).title for copy in copies(tmp_path)] == ["Of the first"]
    one.owner.release()  # as a kill does
    assert other.recoverable(path).plan.title == "Of the first"


def test_an_offered_copy_stays_until_what_it_held_is_kept(document, tmp_path, monkeypatch):
    path = document.save(tmp_path / "mine.pennello")
    copy = tmp_path / ".mine.pennello.autosave"
    write_plan(titled(document, "Left"), copy)
    keeper = Autosave(document, tmp_path)
    found = keeper.recoverable(path)
    document.replace(found.plan, path, saved=False)

    def full(*_, **__):
        raise OSError(errno.ENOSPC, "full")

    with monkeypatch.context() as patched:
        patched.setattr(os, "fsync", full)
        with pytest.raises(FileProblemError, match="disk is full"):
            keeper.adopt(found)
    assert read_plan(copy).title == "Left"
    keeper.adopt(found)  # there is room again
    assert not copy.exists()
    assert [read_plan(one).title for one in copies(tmp_path)] == ["Left"]


def test_an_autosave_never_writes_through_a_link(document, tmp_path):
    document.save(tmp_path / "mine.pennello")
    keeper = Autosave(document, tmp_path)
    victim = tmp_path / "victim"
    victim.write_text("mine")
    (tmp_path / f".mine.pennello.{keeper.owner.token}.autosave").symlink_to(victim)
    document.edit("Title", titled(document, "Again"))
    keeper.keep()
    assert victim.read_text() == "mine"
    assert not copies(tmp_path)[0].is_symlink()


def test_where_nothing_can_be_written_beside_it_goes_into_the_state_folder(document, tmp_path, monkeypatch):
    path = document.save(tmp_path / "plans.pennello")
    keeper = Autosave(document, tmp_path / "state")
    document.edit("Title", titled(document, "Kept far"))
    real = disk._fresh

    def refused(target, mode):
        if target.parent == tmp_path:
            raise OSError(errno.EROFS, "read only")
        return real(target, mode)

    with monkeypatch.context() as patched:
        patched.setattr(disk, "_fresh", refused)
        keeper.keep()
    keeper.owner.release()
    found = Autosave(Document(), tmp_path / "state").recoverable(path)
    assert found.plan.title == "Kept far"


def test_what_another_one_saved_is_not_written_over(document, tmp_path):
    path = document.save(tmp_path / "mine.pennello")
    other = Document()
    other.open(path)
    other.edit("Title", titled(other, "Theirs"))
    other.save()
    document.edit("Title", titled(document, "Mine"))
    with pytest.raises(ChangedOnDiskError, match="another program"):
        document.save()
    assert read_plan(path).title == "Theirs"
    document.take_from_disk()
    assert (document.plan.title, document.dirty) == ("Theirs", False)
    document.undo()
    assert document.plan.title == "Mine"
    document.save()
    assert read_plan(path).title == "Mine"
    other.edit("Title", titled(other, "Again"))
    other.save(over=True)
    assert read_plan(path).title == "Again"


def test_an_edit_that_could_not_be_opened_again_is_refused(document):
    before = document.committed
    for plan in (
        titled(document, "x" * 201),
        titled(document, "half a sign \ud800"),
        replace(before, strokes=before.strokes * 300),
        replace(before, paints=(*before.paints, replace(before.paints[0], id="i" * 65))),
    ):
        with pytest.raises(PennelloError):
            document.edit("Too much", plan)
        assert document.committed is before


KILLED = """
import os, sys, signal
from dataclasses import replace
from pathlib import Path
from pennello.files.demo import demo_plan
from pennello.session.autosave import Autosave
from pennello.session.document import ChangedOnDiskError, Document
document = Document(demo_plan())
document.save(Path(sys.argv[1]))
keeper = Autosave(document, Path(sys.argv[1]).parent)
document.edit("Title", replace(document.committed, title="Before the kill"))
keeper.keep()
os.kill(os.getpid(), signal.SIGKILL)
"""


def test_a_kill_loses_nothing_older_than_the_last_autosave(tmp_path):
    path = tmp_path / "walk.pennello"
    ended = subprocess.run([sys.executable, "-c", KILLED, str(path)], check=False, timeout=300)
    assert ended.returncode == -9
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


def test_a_job_that_ended_is_let_go_of_with_all_that_it_tells(jobs):
    ended, done = [], threading.Event()

    def take_back(let_go):
        let_go()
        done.set()

    for number in range(5):
        told = lambda result, of=titled: (result, of)  # noqa: E731 - a new one each time
        job = Job(lambda _: 42)
        job.finished.connect(told)
        job.on_over(take_back)
        ended.append(weakref.ref(told))
        jobs.start(f"motif {number}", job)
        assert done.wait(5)
        done.clear()
        del job, told
    gc.collect()
    assert [one() for one in ended[:4]] == [None] * 4


def test_a_job_can_be_cancelled_until_all_of_it_was_heard(jobs):
    """Its result may still lie in the window's mailbox when another one starts and its page closes."""
    mail = queue.Queue()
    first = Job(lambda _: 42)
    first.on_over(mail.put)
    jobs.start("page", first)
    assert mail.get(timeout=5) is not None
    jobs.start("another", Job(lambda _: 1))
    jobs.cancel("page")
    assert first.cancelled


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


def test_a_job_is_left_deep_within_its_work_whatever_the_work_takes_errors_for(jobs):
    begun, heard, done = threading.Event(), [], threading.Event()

    def deep():
        begun.set()
        for _ in range(1000):
            try:
                breathe()
            except Exception:  # noqa: BLE001 - as work does that takes any error for one of the plan's
                heard.append("taken for an error")
            time.sleep(0.005)

    job = Job(lambda _: deep())
    job.finished.connect(heard.append)
    job.failed.connect(heard.append)
    job.on_over(lambda _: done.set())
    jobs.start("x", job)
    assert begun.wait(5)
    job.cancel()
    assert done.wait(3)
    assert heard == []
    breathe()  # nobody began this thread's work


@pytest.mark.parametrize("to_the_end", [True, False])
def test_work_that_writes_is_brought_to_its_end(jobs, demo, tmp_path, to_the_end):
    """An autosave that is asked for again meanwhile is not left half done: one that never ends would keep nothing."""
    began, go, done, kept = threading.Event(), threading.Event(), threading.Event(), []

    def work(_):
        began.set()
        go.wait(5)
        write_plan(demo, tmp_path / "kept.pennello")
        kept.append(read_plan(tmp_path / "kept.pennello"))

    job = Job(work, to_the_end=to_the_end)
    job.on_over(lambda _: done.set())
    jobs.start("keep", job)
    assert began.wait(5)
    job.cancel()
    go.set()
    assert done.wait(10)
    assert kept == ([demo] if to_the_end else [])


def test_laying_a_stroke_breathes(demo):
    def stop():
        raise Stopped

    with breathing(stop), pytest.raises(Stopped):
        painted_plan(with_new_motif(demo, "petal-ring", "face", Place(3.1, 4.7), "beetle-scale")[0], "face")
        coarse(replace(demo, strokes=tuple(moved_by(one, 0.37) for one in demo.strokes)), demo.strokes[0].id)


def moved_by(stroke, by):
    points = tuple((x * (1 + by), y) for x, y in stroke.stroke.path.points_mm)
    return replace(stroke, stroke=replace(stroke.stroke, path=CubicPath(points)))


def test_a_job_waits_while_a_hand_draws(jobs, monkeypatch):
    went, done = [], threading.Event()

    def work(job):
        job.check()
        went.append(HAND.draws)
        return 1

    monkeypatch.setattr(HAND, "_rests_s", 3600.0)
    HAND.moves()
    try:
        job, other = Job(work), Job(work)
        job.finished.connect(lambda _: done.set())
        jobs.start("x", job)
        assert not done.wait(0.3)
        assert went == []
    finally:
        HAND.lift()
    assert done.wait(5)
    assert went == [False]
    HAND.moves()
    try:
        jobs.start("y", other)
        other.cancel()
        ended = threading.Thread(target=jobs.close)
        ended.start()
        ended.join(5)
        assert not ended.is_alive(), "nobody waits for the hand when the window closes"
    finally:
        HAND.lift()


def test_a_hand_that_rests_is_not_waited_for():
    """Also one that was never lifted: the window showed another station meanwhile."""
    now = [10.0]
    hand = DrawingHand(rests_s=1.0, now_s=lambda: now[0])
    assert not hand.draws
    hand.moves()
    now[0] += 0.9
    assert hand.draws
    hand.moves()
    now[0] += 0.9
    assert hand.draws
    now[0] += 0.2
    assert not hand.draws
    hand.wait_for(lambda: False)
    hand.moves()
    hand.wait_for(lambda: True)
    hand.lift()
    assert not hand.draws


# --- forecasts ---


@pytest.mark.slow
def test_coarse_and_fine_agree(demo):
    for stroke in demo.strokes:
        quick, slow = coarse(demo, stroke.id), fine(demo, stroke.id, LengthUnit.MM)
        assert quick.laid.film.canvas.px_per_mm == DRAG_PX_PER_MM >= 2
        assert slow.laid.film.canvas.px_per_mm == REST_PX_PER_MM >= 4
        assert quick.verdict is None
        assert slow.verdict is not None
        assert quick.seen.mean_de00 == pytest.approx(slow.seen.mean_de00, abs=0.25)
        assert quick.state is slow.state


def test_a_job_that_comes_after_its_page_has_gone_is_cancelled():
    """A page may be closed while its file dialog is open."""
    jobs = Jobs()
    jobs.leave()
    job = Job(lambda _: pytest.fail("it ran"))
    jobs.start("late", job)
    assert job.cancelled
    jobs.close()


# --- who goes first ---


class Clocks:
    """Time as a worker sees it: while it sleeps, the window's thread works for a share of the time."""

    def __init__(self, share):
        self.now, self.worked, self.share, self.slept = 100.0, 5.0, share, 0.0

    def sleep(self, seconds):
        self.slept += seconds
        self.pass_by(seconds)

    def pass_by(self, seconds):
        self.now += seconds
        self.worked += self.share * seconds

    def window(self, **how):
        return WindowThread(worked_s=lambda: self.worked, now_s=lambda: self.now, sleep=self.sleep, **how)


def breathed(clocks, window, given_up=lambda: False):
    """Return how long a worker waits in a second of work, breathing all the time."""
    for _ in range(250):
        window.goes_first(given_up)
        clocks.pass_by(0.004)
    return clocks.slept


def test_a_worker_stands_back_for_a_busy_window_and_not_for_an_idle_one():
    busy, idle = Clocks(share=0.9), Clocks(share=0.05)
    assert breathed(idle, idle.window()) == 0.0
    waited = breathed(busy, busy.window(most_s=0.15, then_s=0.03))
    assert 3.0 < waited < 0.16 / 0.03 + 2.0, "five times as long as it works, and no longer"


def test_a_worker_goes_on_as_soon_as_the_window_rests():
    clocks = Clocks(share=0.9)
    window = clocks.window()
    window.goes_first(lambda: False)
    clocks.pass_by(0.004)
    clocks.share = 0.0
    window.goes_first(lambda: False)
    assert clocks.slept == pytest.approx(WindowThread.STEP_S)


def test_a_worker_that_is_given_up_waits_for_nobody():
    clocks = Clocks(share=1.0)
    assert breathed(clocks, clocks.window(), lambda: True) == 0.0


def test_the_windows_thread_is_the_programs_first():
    before, told = main_thread_s(), []
    thread = threading.Thread(target=lambda: told.append(main_thread_s()))
    thread.start()
    thread.join()
    assert before <= told[0] <= main_thread_s()


def test_a_worker_lets_the_window_go_first_before_each_module_that_it_reads(tmp_path, monkeypatch):
    for name, code in (("salt", "import marsh"), ("marsh", "import reed"), ("reed", "")):
        (tmp_path / f"gentle_{name}.py").write_text(code.replace("import ", "import gentle_"))
    waited, names = [], [f"gentle_{name}" for name in ("salt", "marsh", "reed")]

    def goes_first(given_up):
        assert not given_up(), "reading is never left half way"
        waited.append(sum(name in sys.modules for name in names))

    monkeypatch.syspath_prepend(tmp_path)
    finder = GentleImports(goes_first)
    monkeypatch.setattr(sys, "meta_path", [finder, *(one for one in sys.meta_path if type(one) is not type(finder))])
    __import__("gentle_reed")
    assert not waited, "the window's own thread waits for nobody"
    del sys.modules["gentle_reed"]
    reader = threading.Thread(target=__import__, args=("gentle_salt",))
    reader.start()
    reader.join()
    assert set(waited) == {0, 1, 2}, "before each; other finders may ask it twice"
    for name in names:
        assert sys.modules.pop(name).__name__ == name
