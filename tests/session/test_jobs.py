"""Work in the background: what is heard of it, where it is left, and for whom it stands back."""

import gc
import queue
import sys
import threading
import time
import weakref
from dataclasses import replace

import numpy as np
import pytest

from pennello.breath import Stopped, breathe, breathing
from pennello.design.on_chart import painted_plan, with_new_motif
from pennello.errors import PennelloError
from pennello.files.plan_json import read_plan, write_plan
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath
from pennello.session.courtesy import HAND, DrawingHand, GentleImports, WindowThread, load_library, main_thread_s
from pennello.session.forecast import coarse
from pennello.session.jobs import Job, Jobs


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
    ended, mail = [], queue.Queue()
    for number in range(5):
        told = lambda result, of=number: (result, of)  # noqa: E731 - a new one each time
        job = Job(lambda _: 42)
        job.finished.connect(told)
        job.on_over(mail.put)
        ended.append(weakref.ref(told))
        jobs.start(f"motif {number}", job)
        del job, told
    for _ in range(5):
        mail.get(timeout=5)()
    last, gone = Job(lambda _: 42), threading.Event()
    last.on_over(lambda _: gone.set())
    jobs.start("what the worker knows until it has other work", last)
    assert gone.wait(5)
    gc.collect()
    assert [one() for one in ended] == [None] * 5


def test_what_a_job_tells_is_let_go_of_without_a_collector():
    """One that ended, one that was cancelled before its turn, one that came too late; each tells what knows it."""
    jobs, held, mail = Jobs(), threading.Event(), queue.Queue()
    told = []

    def made(work):
        job = Job(work)
        tells = lambda _: job.cancelled  # noqa: E731 - the ring: it knows the job, and the job whom to tell
        job.finished.connect(tells)
        job.on_over(mail.put)
        told.append(weakref.ref(tells))
        return job

    assert not gc.isenabled(), "as in the program"
    jobs.start("first", made(lambda _: held.wait(5)))
    jobs.start("never", made(lambda _: 42))
    jobs.cancel("never")
    held.set()
    mail.get(timeout=5)()
    jobs.close()
    jobs.start("late", made(lambda _: 42))
    assert [one() for one in told] == [None] * 3


def test_a_job_that_ends_at_once_is_let_go_of_too(jobs):
    for number in range(200):
        jobs.start(f"motif {number % 7}", Job(lambda _: 42))
    until = time.monotonic() + 10.0
    while jobs._running and time.monotonic() < until:
        time.sleep(0.01)
    assert not jobs._running


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


def test_a_window_that_gets_a_fifth_of_the_time_beside_others_is_a_busy_one():
    clocks = Clocks(share=0.2)
    assert breathed(clocks, clocks.window()) > 1.0


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


def test_what_is_compiled_is_loaded_while_other_threads_run(monkeypatch):
    """By dlopen(3), which the import's own then finds done; what is no library is left to the import to say."""
    compiled = np._core._multiarray_umath
    assert load_library(compiled.__file__)
    assert not load_library(__file__)
    loaded = []
    monkeypatch.setattr("pennello.session.courtesy.load_library", loaded.append)
    finder = GentleImports(lambda _: None)
    finder.find_spec(compiled.__name__, np._core.__path__, None)
    assert loaded == [], "the window's own thread reads as Python does"
    names = ((compiled.__name__, np._core.__path__), ("json", None))
    reader = threading.Thread(target=lambda: [finder.find_spec(name, path, None) for name, path in names])
    reader.start()
    reader.join()
    assert loaded == [compiled.__file__]


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
