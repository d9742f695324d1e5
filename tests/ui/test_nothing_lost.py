"""Nothing lost: copies, offers, files that others write, names, folders; at the real window."""

from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QCheckBox, QFileDialog, QMessageBox

from pennello.files.plan_json import plan_bytes, read_plan, write_plan
from pennello.session.motif_library import library_folder
from pennello.ui.theme.icons import icon_file
from pennello.ui.theme.style import apply_theme, dress
from pennello.ui.theme.tokens import theme


def test_a_damaged_copy_keeps_no_plan_from_opening(open_window, demo, tmp_path):
    path = tmp_path / "walk.pennello"
    write_plan(replace(demo, title="Sound"), path)
    copy = tmp_path / ".walk.pennello.autosave"
    copy.write_bytes(plan_bytes(demo).replace(b"Foam", b"F\xefam", 1))
    window = open_window(demo)
    window.open_path(path)
    assert window.document.plan.title == "Sound"
    assert "set aside" in window.banner.words.text()
    assert not copy.exists()


def test_what_waits_for_an_answer_comes_back_below_what_is_said_later(window):
    """At a start after a kill a run that was under way put the copy of the plan out of sight, as any sentence did."""
    done, last, banner = [], [True], window.banner
    banner.say("A copy is there.", ("Take it", lambda: done.append("copy")))
    banner.say("A run is there.", ("Go on", lambda: done.append("run")), holds=lambda: last[0])
    banner.say("A run is there.", ("Go on", lambda: done.append("run")), holds=lambda: last[0])
    banner.say("Twelve and a half is no width.")
    seen = []
    for _ in range(3):
        seen.append(banner.words.text())
        banner.buttons[0].click()
    assert seen == ["Twelve and a half is no width.", "A run is there.", "A copy is there."]
    assert done == ["run", "copy"]
    assert not banner.isVisible()
    banner.say("Another run is there.", ("Go on", lambda: done.append("late")), holds=lambda: last[0])
    last[0] = False  # what it was about has gone
    banner.buttons[0].click()
    assert done == ["run", "copy"]


def copied(path, plan):
    write_plan(plan, path)
    write_plan(replace(plan, title="From the copy"), path.with_name(f".{path.name}.autosave"))
    return path


def test_what_was_done_before_a_copy_is_taken_comes_back_by_undo(window, demo, tmp_path):
    window.open_path(copied(tmp_path / "walk.pennello", demo))
    window.document.edit("Title", replace(demo, title="Done since"))
    window.banner.buttons[0].click()
    assert (window.document.plan.title, window.document.dirty) == ("From the copy", True)
    (kept,) = tmp_path.glob(".*.autosave")
    assert window.files.autosave.owner.token in kept.name, "it is this window's own now"
    window.undo()
    assert window.document.plan.title == "Done since"


def test_a_copy_of_one_plan_is_not_taken_over_what_is_done_to_another(window, demo, tmp_path, monkeypatch):
    path, other = copied(tmp_path / "walk.pennello", demo), tmp_path / "other.pennello"
    write_plan(replace(demo, title="Other"), other)
    window.open_path(path)
    window.open_path(other)
    window.document.edit("Title", replace(demo, title="Done since"))
    answers = [QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Discard]
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: answers.pop(0))
    window.banner.buttons[0].click()
    assert window.document.plan.title == "Done since"
    window.banner.buttons[0].click()
    assert (window.document.plan.title, window.document.path, answers) == ("From the copy", path, [])


def test_mine_is_not_kept_over_a_file_of_another_plan(window, demo, tmp_path):
    path, other = tmp_path / "walk.pennello", tmp_path / "other.pennello"
    for one in (path, other):
        write_plan(replace(demo, title=one.stem), one)
    window.open_path(path)
    write_plan(replace(demo, title="Theirs"), path)
    assert not window.save()
    window.open_path(other)
    window.banner.buttons[0].click()
    assert read_plan(path).title == "Theirs"
    assert not window.banner.isVisible()


def test_many_motifs_that_cannot_be_read_are_said_in_few_words(window, qtbot):
    library_folder().mkdir(parents=True)
    for number in range(5):
        (library_folder() / f"{number}.pennello-motif").write_text("no motif")
    window.tidy()
    qtbot.waitUntil(lambda: "So it is with 2 more." in window.banner.words.text())
    assert window.banner.words.text().count("cannot be read") == 3


def test_what_another_program_saved_is_asked_about(open_window, demo, tmp_path):
    path = tmp_path / "walk.pennello"
    write_plan(demo, path)
    window = open_window(demo)
    window.open_path(path)
    write_plan(replace(demo, title="Theirs"), path)
    window.document.edit("Title", replace(demo, title="Mine"))
    assert not window.save()
    assert [button.text() for button in window.banner.buttons] == ["Keep mine", "Take theirs", "Save as ...", "Not now"]
    window.banner.buttons[1].click()
    assert (window.document.plan.title, window.document.dirty) == ("Theirs", False)
    window.undo()
    assert window.document.plan.title == "Mine"
    assert window.save()
    write_plan(replace(demo, title="Theirs again"), path)
    window.document.edit("Title", replace(demo, title="Mine again"))
    window.save()
    window.banner.buttons[0].click()
    assert read_plan(path).title == "Mine again"


def test_a_plan_that_is_open_elsewhere_is_said(open_window, demo, tmp_path):
    path = tmp_path / "walk.pennello"
    write_plan(demo, path)
    first, second = open_window(demo), open_window(demo)
    first.open_path(path)
    second.open_path(path)
    assert "open in another Pennello" in second.banner.words.text()


def test_an_ending_that_was_added_writes_over_nothing(window, tmp_path, monkeypatch):
    there = tmp_path / "evening.pennello"
    there.write_text("mine")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "evening"), ""))
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: QMessageBox.StandardButton.Cancel)
    assert not window.files.save_as()
    assert there.read_text() == "mine"
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: QMessageBox.StandardButton.Yes)
    assert window.files.save_as()
    assert read_plan(there).title == window.document.plan.title


def test_icons_are_never_written_through_a_link(qapp, own_folders, tmp_path):
    icon_file.cache_clear()
    folder = Path(icon_file("check", "#123456")).parent
    assert own_folders in folder.parents
    assert folder.stat().st_mode & 0o077 == 0
    victim = tmp_path / "victim"
    victim.write_text("mine")
    (folder / "down-654321.svg").symlink_to(victim)
    made = Path(icon_file("down", "#654321"))
    assert victim.read_text() == "mine"
    assert "<svg" in made.read_text()
    icon_file.cache_clear()


@pytest.mark.parametrize("called", ['cache (of "mine") \\ \u00fc', "/proc/nowhere"])
def test_the_window_is_dressed_wherever_its_icons_lie(qapp, qtbot, qtlog, monkeypatch, tmp_path, called):
    """With a bracket in it the whole sheet was thrown away, and ticks looked like another program's."""
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / called))
    icon_file.cache_clear()
    box = QCheckBox("Ticked")
    qtbot.addWidget(box)
    box.setChecked(True)
    dress(box, apply_theme(qapp, "linen"))
    seen = box.grab().toImage()
    icon_file.cache_clear()
    inks = {seen.pixelColor(x, y).name() for x in range(seen.width()) for y in range(seen.height())}
    assert QColor(theme().accent).name() in inks
    assert not [one.message for one in qtlog.records if "parse" in one.message or "No file" in one.message]
