"""Searches in a worker: what they say comes back in order, and nothing of one that was stopped."""

import threading
import time

import pytest

from pennello.errors import PennelloError
from pennello.session.jobs import Jobs
from pennello.ui.work import Runner


@pytest.fixture
def runner(qapp, qtbot):
    jobs = Jobs()
    made = Runner(jobs, "test", qapp)
    made.heard = []
    made.told.connect(lambda part, words: made.heard.append(("told", part, words)))
    made.found.connect(lambda value: made.heard.append(("found", value)))
    made.ended.connect(lambda value: made.heard.append(("ended", value)))
    made.failed.connect(lambda words: made.heard.append(("failed", words)))
    yield made
    made.stop()
    jobs.close()
    made.deleteLater()


def test_progress_finds_and_end_in_order(runner, qtbot):
    def work(job):
        job.report(0.5, "half")
        job.found.emit("so far")
        return "all"

    runner.run(work)
    qtbot.waitUntil(lambda: not runner.busy)
    assert runner.heard[-3:] == [("told", 0.5, "half"), ("found", "so far"), ("ended", "all")]


def test_of_many_words_only_the_last_are_told(runner, qtbot):
    def work(job):
        for number in range(200):
            job.report(number / 200, str(number))
        return "all"

    runner.run(work)
    time.sleep(0.2)  # the window has other things to do
    qtbot.waitUntil(lambda: not runner.busy)
    assert runner.heard == [("told", 0.995, "199"), ("ended", "all")]


def test_a_stopped_search_says_nothing_more(runner, qtbot):
    go = threading.Event()

    def slow(job):
        go.wait(5)
        job.report(0.9, "late")
        return "late"

    runner.run(slow)
    runner.stop()
    go.set()
    runner.run(lambda job: "new")
    qtbot.waitUntil(lambda: ("ended", "new") in runner.heard)
    assert not [one for one in runner.heard if "late" in one]


@pytest.mark.parametrize(
    ("error", "words"),
    [(PennelloError("The shelf fell down."), "The shelf fell down."), (ValueError("oh"), "could not be worked out")],
)
def test_a_broken_search_gives_a_sentence(runner, qtbot, error, words):
    def work(job):
        raise error

    runner.run(work)
    qtbot.waitUntil(lambda: not runner.busy)
    assert words in runner.heard[-1][1]
