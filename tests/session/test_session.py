"""Document, history, autosave, settings, forecasts."""

import errno
import os
import stat
import subprocess
import sys
import time
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello import disk
from pennello.errors import FileProblemError, PennelloError
from pennello.files.plan_json import read_plan, write_plan
from pennello.session.autosave import Autosave
from pennello.session.document import ChangedOnDiskError, Document
from pennello.session.forecast import DRAG_PX_PER_MM, REST_PX_PER_MM, coarse, fine, roughly_judged
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


def test_a_plan_gets_its_ending_whatever_its_name_has_in_it(document, tmp_path):
    """A dialog that lists plans did not list "rose v1.2"."""
    (tmp_path / "rose").mkdir()
    (tmp_path / "old.json").write_text("{}")
    for asked, written in (
        ("rose v1.2", "rose v1.2.pennello"),
        ("rose", "rose.pennello"),
        ("Rose.PENNELLO", "Rose.PENNELLO"),
        ("old.json", "old.json"),  # it was there, and was asked for
    ):
        assert document.save(tmp_path / asked) == document.path == tmp_path / written
        assert document.save() == tmp_path / written


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


@pytest.mark.parametrize("larger", [1, 6, 12])
def test_a_hand_waits_for_no_more_than_so_many_pixels(demo, larger):
    """One that is drawn over a back is laid coarser while it is dragged, but its mark is told as finely as before."""
    first = demo.strokes[0]
    points = tuple((larger * x, larger * y) for x, y in first.stroke.path.points_mm)
    drawn = replace(first.stroke, path=replace(first.stroke.path, points_mm=points), reload_mm=(), flips_mm=())
    plan = replace(demo, strokes=(replace(first, stroke=drawn),))
    canvas = coarse(plan, first.id).laid.film.canvas
    assert canvas.rows * canvas.columns <= 80_000
    assert (canvas.px_per_mm == DRAG_PX_PER_MM) == (larger == 1)
    if larger == 6:
        assert roughly_judged(plan, first.id) is fine(plan, first.id, LengthUnit.MM).state


@pytest.mark.slow
def test_coarse_and_fine_agree(demo):
    for stroke in demo.strokes:
        quick, slow = coarse(demo, stroke.id), fine(demo, stroke.id, LengthUnit.MM)
        assert 1 <= quick.laid.film.canvas.px_per_mm <= DRAG_PX_PER_MM  # a large one is laid coarser
        assert slow.laid.film.canvas.px_per_mm == REST_PX_PER_MM >= 4
        assert quick.verdict is None
        assert slow.verdict is not None
        assert quick.seen.mean_de00 == pytest.approx(slow.seen.mean_de00, abs=0.25)
        assert quick.state is slow.state
