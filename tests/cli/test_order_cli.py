"""order, sheet, sequence, cautions and runs on the command line."""

import sqlite3
from datetime import UTC, datetime
from pathlib import Path

import pytest
from lantern_face import DEMO_NAME

from pennello.design.pace import StepKind
from pennello.errors import FileProblemError
from pennello.files.plan_json import read_plan
from pennello.order.run import begin
from pennello.order.steps import Step
from pennello.session import run_keeper
from pennello.session.notebook import notebook_path
from pennello.session.run_keeper import KeptRun, keep_run, run_path
from pennello.store.notebook import Notebook, RunNote, StepNote

SHIPPED = Path(__file__).parents[1] / "files/v7-saltmarsh.pennello"


@pytest.fixture
def plan(tmp_path):
    path = tmp_path / DEMO_NAME
    path.write_bytes(SHIPPED.read_bytes())
    return path


def test_an_order_is_told_as_asked(ask, plan):
    told = ask("order", plan, "--chart", "hand", "--json", "--reasons")
    assert set(told["steps"][0]) >= {"id", "kind", "start_s", "end_s", "waits_for"}
    assert told["total_s"] == pytest.approx(told["busy_s"] + told["waiting_s"], abs=0.2)
    assert {"loads", "rinses", "gap", "stop_here", "constraints", "reasons"} <= set(told)
    leaf = next(step for step in told["steps"] if step["id"] == "leaf-pair/leaf1")
    assert leaf["waits_for"] == ["petal-ring-3/petal1"]
    assert "in all" in ask("order", plan, "--chart", "hand", "--reasons")
    assert read_plan(plan) == read_plan(SHIPPED)  # asking changes nothing


def test_a_target_leaves_out_and_cp_sat_is_asked(ask, plan):
    told = ask("order", plan, "--chart", "forearm", "--target", 80, "--json")
    assert told["target"]["left_out"] == ["leaf-spray"]
    assert told["total_s"] <= 80
    assert "No part of it fits" in ask("order", plan, "--chart", "face", "--target", 5)
    tight = ask("order", plan, "--chart", "face", "--target", 60)
    assert "takes longer than your time" in tight
    assert "It fits without" in tight
    told = ask("order", plan, "--chart", "face", "--target", 60, "--json")["target"]
    assert not told["fits"]
    assert set(told["would_fit"]) < set(told["parts"])
    told = ask("order", plan, "--seconds", 2, "--json")
    assert told["total_s"] <= told["own_total_s"]
    assert 0 <= told["gap"] < 1


def test_wishes_for_the_order_are_written_into_the_plan(ask, plan, tmp_path):
    words = ("--priority", "wave=skip", "--worth", "wave=0.5", "--rule", "wave:any:petal-ring-2")
    schools = ("--sides", "regions", "--whites", "before", "--glitter", "last")
    ask("order", plan, "--chart", "forearm", *words, *schools, "--out", tmp_path / "o.pennello")
    kept = read_plan(tmp_path / "o.pennello").ordering
    assert dict(kept.priorities)["wave"].value == "skip"
    assert kept.rules[0].kind.value == "any"
    assert (kept.sides.value, kept.whites.value, kept.glitter.value) == (
        "region by region",
        "before black",
        "as the last touch",
    )
    ask("order", plan, "--chart", "forearm", "--move", "petal-ring-2/petal1", 2)
    assert read_plan(plan).ordering.sequence[1] == "petal-ring-2/petal1"
    assert "your own order" in ask("order", plan, "--chart", "forearm")
    assert "your own order" in ask("order", plan, "--chart", "forearm", "--own")
    ask("order", plan, "--automatic")
    assert read_plan(plan).ordering.sequence == ()


@pytest.mark.parametrize(
    ("words", "sentence"),
    [
        (("--move", "leaf-pair/leaf1", "1"), "cannot come before"),
        (("--move", "nothing", "1"), "no step 'nothing'"),
        (("--move", "leaf-pair/leaf1", "x"), "1 for the first"),
        (("--priority", "wave"), "PART=VALUE"),
        (("--priority", "wave=often"), "PART=must"),
        (("--worth", "wave=much"), "PART=NUMBER"),
        (("--worth", "nobody=1"), "no part 'nobody'"),
        (("--rule", "wave:often:feather"), "EARLIER:after:LATER"),
        (("--rule", "wave:dry:nobody"), "no part 'nobody'"),
        (("--seconds", "-1"), "0 to 3600"),
        (("--ics", "x.ics", "--start", "soon"), "a day and time"),
        (("--target", "1"), "5 to 36000 s"),
    ],
)
def test_a_bad_word_gets_one_sentence(ask, plan, words, sentence):
    assert sentence in ask("order", plan, "--chart", "hand", *words, code=2)


def test_paper_and_pictures(ask, plan, tmp_path):
    words = ("sheet", plan, "--chart", "hand", "--pdf", tmp_path / "s.pdf", "--age", "adult")
    few = ask(*words)
    assert "2 pages" in few or "3 pages" in few
    assert ask(*words, "--tiles") != few
    told = ask("sequence", plan, "--chart", "hand", "--out", tmp_path / "pics", "--px-per-mm", 1, "--json")
    assert [Path(one["file"]).exists() for one in told["pictures"]] == [True, True]
    assert "0.5 to 16" in ask("sequence", plan, "--out", tmp_path / "p", "--px-per-mm", 99, code=2)
    assert f"{plan}: there is a file of this name" in ask("sequence", plan, "--out", plan, code=2)
    ask("order", plan, "--chart", "hand", "--csv", tmp_path / "a.csv", "--ics", tmp_path / "a.ics")
    assert (tmp_path / "a.csv").exists()
    assert (tmp_path / "a.ics").exists()


def test_cautions_say_stop_with_their_exit_code(ask, plan):
    answers = ("--allergy", "no", "--asthma", "no", "--ill", "no", "--consent", "yes", "--skin-is", "sound")
    told = ask("cautions", plan, "--chart", "forearm", "--age", "adult", *answers, "--json")
    assert {one["level"] for one in told["cautions"]} == {"mind"}
    assert "certifies nothing" in told["decide"]
    told = ask("cautions", plan, "--chart", "face", "--age", "under-3", "--parent", "yes", *answers, "--json", code=1)
    assert told["cautions"][0]["code"] == "small_child"
    assert "do not paint" in ask("cautions", plan, "--skin-is", "broken", "--kit", code=1)


def test_recorded_runs_change_the_pace(ask, plan):
    assert "No run is recorded" in ask("runs")
    book = Notebook(notebook_path())
    steps = tuple(StepNote(str(n), StepKind.LOAD, "load", 5.0, 10.0) for n in range(3))
    book.add(RunNote("Plan", "hand", "2026-11-25T18:00:00+00:00", "", 30.0, 15.0, True, steps))
    book.close()
    assert ask("runs", "--json")["pace"] == [{"kind": "load", "factor": 2.0, "steps": 3}]
    assert "load takes you 100 % longer than the default, from 3 steps" in ask("runs")
    told = ask("order", plan, "--chart", "hand", "--json")
    load = next(step for step in told["steps"] if step["kind"] == "load")
    assert load["end_s"] - load["start_s"] == pytest.approx(24.0)  # the first load of a brush, 12 s


def test_what_people_said_is_forgotten_at_once_and_is_in_no_answer(ask):
    book = Notebook(notebook_path())
    begun = datetime.now(UTC).isoformat()
    answers = (("allergy", "yes: latex"), ("age", "adult"))
    run = RunNote("Plan", "hand", begun, "", 30.0, 15.0, True, (), answers, (("allergy", "ask"),))
    book.add(run)
    assert book.answers_kept() == 1
    book.close()
    assert "latex" not in str(ask("runs", "--json"))
    assert "latex" not in ask("runs")
    assert "1 run" in ask("runs", "--forget")
    book = Notebook(notebook_path())
    assert book.answers_kept() == 0
    assert len(book.runs()) == 1
    book.close()
    assert b"latex" not in notebook_path().read_bytes()
    assert notebook_path().stat().st_mode & 0o077 == 0
    assert notebook_path().parent.stat().st_mode & 0o077 == 0


def noted(answers=(("allergy", "yes: latex"),)):
    with Notebook(notebook_path()) as book:
        book.add(RunNote("Plan", "hand", datetime.now(UTC).isoformat(), "", 30.0, 15.0, True, (), answers))


def test_damaged_files_that_may_hold_answers_are_forgotten_too(ask):
    """A damaged run, and a damaged copy of an older notebook, were passed by; the answer was that nothing was kept."""
    noted(())
    run = run_path()
    run.parent.mkdir(parents=True, exist_ok=True)
    run.write_text('{"format": "pennello-run", "answers": {"allergy": "yes: latex"}')
    damaged, old = (notebook_path().with_name(f"notebook.sqlite.v{number}.bak") for number in (1, 5))
    damaged.write_bytes(b"SQLite format 3\0 and then latex" * 200)
    with sqlite3.connect(old) as copy:
        copy.executescript("CREATE TABLE answers (run, question, answer); INSERT INTO answers VALUES (1, 'a', 'latex')")
    copy.close()
    assert "1 run" in ask("runs", "--forget")
    kept = [path for folder in (run.parent, notebook_path().parent) for path in folder.iterdir() if path.is_file()]
    assert old in kept
    assert not [path for path in kept if b"latex" in path.read_bytes()]


def test_what_cannot_be_erased_is_said_and_the_rest_is_erased(ask, monkeypatch):
    noted()
    step = Step("p", StepKind.STROKES, "p", 0.0, 1.0)
    keep_run(KeptRun(begin([step], 0.0), "Plan", "", "hand", "2026-11-25T18:00:00", (("allergy", "yes"),)), 1.0, 0.0)

    def full(_, path, **_how):
        raise FileProblemError(path, "the disk is full; free some space or choose another place.")

    monkeypatch.setattr(run_keeper, "write_bytes", full)
    assert "run.json: the disk is full" in ask("runs", "--forget", code=2)
    with Notebook(notebook_path()) as book:
        assert book.answers_kept() == 0


def test_days_that_answers_are_kept_are_set(ask):
    assert "3 days" in ask("runs", "--keep-answers", "3")
    for bad in ("-1", "9999"):
        assert "--keep-answers" in ask("runs", "--keep-answers", bad, code=2)


def test_a_notebook_or_kit_that_is_named_keeps_its_rights_and_answers(ask, tmp_path):
    shared = tmp_path / "shared"
    shared.mkdir(mode=0o755)
    named, kit = shared / "old.sqlite", shared / "kit.sqlite"
    run = RunNote("Plan", "hand", "2020-01-01T18:00:00+00:00", "", 30.0, 15.0, True, (), (("allergy", "yes: latex"),))
    with Notebook(named) as book:
        book.add(run)
    ask("kit", "list", "--kit", kit)
    for file in (named, kit):
        file.chmod(0o644)
    ask("runs", "--notebook", named)
    ask("kit", "list", "--kit", kit)
    assert [path.stat().st_mode & 0o777 for path in (shared, named, kit)] == [0o755, 0o644, 0o644]
    with Notebook(named) as book:
        assert book.runs()[0].answers == run.answers
    ask("runs", "--notebook", named, "--forget")
    with Notebook(named) as book:
        assert book.runs()[0].answers == ()


def test_the_own_notebook_of_an_older_pennello_is_tightened(ask):
    with Notebook(notebook_path()):
        pass
    notebook_path().chmod(0o644)
    notebook_path().parent.chmod(0o755)
    ask("runs")
    assert notebook_path().stat().st_mode & 0o777 == 0o600
    assert notebook_path().parent.stat().st_mode & 0o777 == 0o700
