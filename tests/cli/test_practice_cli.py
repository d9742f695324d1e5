"""Practice from the command line: card, sheet, log and what is one's own, from the first print to the way back."""

from __future__ import annotations

import csv
import json
import os
import re
import stat
from pathlib import Path

import icalendar
import pytest
from PIL import Image
from pypdf import PdfReader

from pennello.design.pace import StepKind
from pennello.files.demo import demo_plan
from pennello.files.plan_json import read_plan, write_plan
from pennello.practice.card import HEIGHT_MM, WIDTH_MM
from pennello.practice.lessons import lesson, lesson_plan
from pennello.practice.sheet import practised
from pennello.session.log import photo_folder
from pennello.session.practising import simulated_sheet, write_photo
from pennello.store.notebook import Notebook, RunNote, StepNote


@pytest.fixture
def demo_file(tmp_path):
    """A copy: what a verb writes over must not be the shipped plan."""
    path = tmp_path / "walk.pennello"
    write_plan(demo_plan(), path)
    return path


@pytest.fixture
def book(tmp_path):
    return tmp_path / "book" / "notebook.sqlite"


def flags(marks):
    return [word for x, y in marks for word in ("--mark", f"{x},{y}")]


def test_a_plan_may_lie_in_a_folder_whose_name_is_no_utf_8_and_words_may_not_be_so(ask, capsys, tmp_path, book):
    folder = Path(os.fsdecode(os.fsencode(tmp_path) + b"/caf\xe9"))
    folder.mkdir()
    write_plan(demo_plan(), folder / "walk.pennello")
    ask("log", "add", "Walk", "--plan", folder / "walk.pennello", "--notebook", book)
    (page,) = ask("log", "list", "--notebook", book, "--json")["pages"]
    assert page["plan"].endswith("/caf%E9/walk.pennello")
    words = ("log", "change", page["id"], "--notebook", book, "--wrong")
    assert "piece or load of the plan" in ask(*words, "gap:nowhere", code=2), "the plan is found again"
    with pytest.raises(SystemExit, match="2"):
        ask("log", "change", page["id"], "--note", "caf\udce9", "--notebook", book)
    assert "cannot be written as UTF-8; leave it out" in capsys.readouterr().err


def test_a_card_is_printed_painted_fitted_and_given_back(ask, tmp_path, demo_file, book):
    card, photo, out = tmp_path / "card.pdf", tmp_path / "card.jpg", tmp_path / "own.pennello"
    made = ask("card-sheet", demo_file, "dahlia-petal", "--pdf", card, "--simulate", "3", "--photo", photo, "--json")
    assert len(made["fields"]) == 10
    text = PdfReader(card).pages[0].extract_text()
    for part in ("Calibration card", "12 sweeps, 90 mm", "pressed hard", "1:", "Sea Plum"):
        assert part in text
    words = ("fit-card", demo_file, "dahlia-petal", "--photo", photo, *flags(made["marks"]), "--notebook", book)
    looked = ask(*words, "--look", "--json")
    assert looked["after_de00"] < 1.5 < looked["before_de00"]
    assert read_plan(demo_file) == read_plan(demo_file)
    told = ask(*words, "--only", "flat-3-4", "--only", "sea-plum", "--out", out)
    assert "cannot be told apart" in told or "only side by side" in told
    before, after = read_plan(demo_file), read_plan(out)
    assert after.brush("flat-3-4").own
    assert after.brush("flat-3-4").release_mm < before.brush("flat-3-4").release_mm
    assert after.paint("sea-plum") != before.paint("sea-plum")
    drift = after.brush("flat-3-4").drift_mm
    assert drift != before.brush("flat-3-4").drift_mm
    assert after.stroke("dahlia-petal").recipe.pickups[0].drift_mm == drift, "its loads drift as the brush does now"
    assert after.stroke("poppy-petal") == before.stroke("poppy-petal"), "another brush's do not"
    assert after.paint("foam-white") == before.paint("foam-white"), "it was not asked for"
    own = ask("own", "--notebook", book, "--json")
    assert {one["item"] for one in own["learnt"]} == {"flat-3-4", "sea-plum"}
    for item in ("flat-3-4", "sea-plum"):
        ask("own", out, "--default", item, "--notebook", book)
    assert read_plan(out).paints == before.paints
    assert read_plan(out).strokes == before.strokes
    assert read_plan(out).brush("flat-3-4") == before.brush("flat-3-4")
    assert "flat-2" in ask(*words, "--only", "flat-2", code=2)


def test_the_card_is_at_true_scale(ask, tmp_path, demo_file):
    """Read back from the PDF: the card's frame is A6 on its side, its fields lie where the geometry has them."""
    card = tmp_path / "card.pdf"
    fields = ask("card-sheet", demo_file, "poppy-petal", "--pdf", card, "--json")["fields"]
    content = PdfReader(card).pages[0].get_contents().get_data().decode("latin-1")
    mm = 25.4 / 72
    numbers = re.findall(r"(-?[\d.]+) (-?[\d.]+) (-?[\d.]+) (-?[\d.]+) re", content)
    boxes = [tuple(float(one) * mm for one in four) for four in numbers]
    frame = next(box for box in boxes if abs(box[2] - WIDTH_MM) < 0.05 and abs(box[3] - HEIGHT_MM) < 0.05)
    for field in fields:
        left, top = frame[0] + field["x"], frame[1] + frame[3] - field["y"]
        assert any(
            abs(x - left) < 0.05
            and abs(y + height - top) < 0.05
            and abs(width - field["width"]) < 0.05
            and abs(height - field["height"]) < 0.05
            for x, y, width, height in boxes
        ), field


def test_a_sheet_is_printed_painted_and_scored(ask, tmp_path, demo_file, book):
    sheet, photo = tmp_path / "sheet.pdf", tmp_path / "sheet.jpg"
    made = ask("practise", demo_file, "beetle-scale", "--pdf", sheet, "--simulate", "5", "--photo", photo, "--json")
    assert "Practice sheet" in PdfReader(sheet).pages[0].extract_text()
    scored = ask("score", demo_file, "beetle-scale", "--photo", photo, "--notebook", book, "--json")
    assert len(scored["tries"]) == len(made["places"]) == len(made["slips"])
    for one, slip in zip(scored["tries"], made["slips"], strict=True):
        assert one["slip"]["turned_deg"] == pytest.approx(slip["turned_deg"], abs=1.5)
        assert one["words"].endswith(".")
    own = ask("own", "--notebook", book, "--json")
    assert own["hand"]["tries"] == len(made["places"])
    plan = read_plan(demo_file)
    ask("own", demo_file, "--take-hand", "--notebook", book)
    assert read_plan(demo_file).hand.angle_deg == pytest.approx(own["hand"]["angle_deg"], abs=0.01)
    assert read_plan(demo_file).hand != plan.hand
    assert ask("own", "--forget-tries", "--notebook", book, "--json")["forgotten"] == len(made["places"])
    assert "6 more tries" in ask("own", demo_file, "--take-hand", "--notebook", book, code=2)


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("fit-card", "PLAN", "dahlia-petal", "--photo", "PLAN"), "no picture"),
        (("fit-card", "PLAN", "dahlia-petal", "--photo", "GREY"), "corner marks"),
        (("fit-card", "PLAN", "dahlia-petal", "--photo", "GREY", "--mark", "1,2"), "4, clockwise"),
        (("fit-card", "PLAN", "dahlia-petal", "--photo", "GREY", *["--mark", "12"] * 4), "X,Y"),
        (("card-sheet", "PLAN", "lantern-cheek"), "flat"),
        (("card-sheet", "PLAN", "ink"), "pans"),
        (("card-sheet", "PLAN", "poppy-petal", "--simulate", "1"), "--photo"),
        (("practise", "PLAN", "kelp-swoosh"), "sheet holds"),
        (("practise", "PLAN", "nobody"), "load, piece or part"),
        (("own", "--take-hand"), "say which"),
        (("log", "show", "12"), "12"),
        (("log", "add"), "title"),
        (("log", "add", "x", "--day", "soon"), "2026-11-28T19:30"),
        (("log", "add", "x", "--wrong", "ugly"), "muddy"),
        (("log", "add", "--plan", "PLAN", "--wrong", "gap:nobody"), "id of a piece"),
        (("log", "list", "--colour", "sky"), "turquoise"),
    ],
)
def test_what_cannot_be_is_said(ask, tmp_path, demo_file, book, words, said):
    grey = tmp_path / "grey.png"
    Image.new("RGB", (400, 300), (128, 128, 128)).save(grey)
    given = [{"PLAN": demo_file, "GREY": grey}.get(word, word) for word in words]
    if words[0] in {"fit-card", "own", "log"}:
        with Notebook(book):
            given += ["--notebook", book]
    assert said in ask(*given, code=2)


def test_pages_are_kept_found_compared_and_exported(ask, tmp_path, demo_file, book):
    photo = tmp_path / "face.jpg"
    exif = Image.Exif()
    exif[0x010F] = "A camera that tells"
    Image.new("RGB", (3000, 1500), (180, 120, 90)).save(photo, exif=exif)
    at = ("--notebook", book, "--json")
    first = ask(
        *("log", "add", "--plan", demo_file, "--note", "it rained, = held", "--photo", photo, "--light", "lamp"),
        *("--wrong", "muddy", "--seconds", "300", "--asked-for", "a dragon", "--day", "2026-10-30T18:00", *at),
    )
    second = ask("log", "add", "=Sea star", "--short", "yes", "--wrong", "gap", "--day", "2026-11-02T18:00", *at)
    assert first["colours"]
    assert first["planned_s"] > 60
    assert [one["id"] for one in ask("log", "list", *at)["pages"]] == [second["id"], first["id"]]
    for words, found in (
        (("--words", "RAINED lantern"), [first]),
        (("--words", "dragon"), [first]),
        (("--trouble", "gap"), [second]),
        (("--since", "2026-11-01"), [second]),
        (("--until", "2026-10-31"), [first]),
        (("--colour", first["colours"][0]), [first]),
        (("--words", "unicorn"), []),
    ):
        assert ask("log", "list", *words, *at)["pages"] == found
    rows = {
        row["what"]: (row["one"], row["other"])
        for row in ask("log", "compare", str(first["id"]), str(second["id"]), *at)["differs"]
    }
    assert rows["form"] == ("whole", "short form")
    assert rows["went wrong"] == ("muddy", "gap")
    assert [one["month"] for one in ask("log", "months", *at)["months"]] == ["2026-11", "2026-10"]
    folder = photo_folder(book)
    kept = folder / first["photo"]
    with Image.open(kept) as image:
        assert max(image.size) == 2000
        assert not image.getexif()
    assert stat.S_IMODE(kept.stat().st_mode) == 0o600
    assert stat.S_IMODE(folder.stat().st_mode) == 0o700
    table, day = tmp_path / "log.csv", tmp_path / "log.ics"
    ask("log", "export", table, *at)
    ask("log", "export", day, *at)
    cells = list(csv.DictReader(table.read_text().splitlines()))
    assert cells[0]["title"] == "'=Sea star"
    assert "dragon" not in table.read_text()
    assert b"dragon" not in day.read_bytes()
    assert len(icalendar.Calendar.from_ical(day.read_bytes()).walk("VEVENT")) == 2
    ask("log", "export", table, "--asked", *at)
    assert "dragon" in table.read_text()
    page = tmp_path / "page.pdf"
    ask("log", "show", str(first["id"]), "--pdf", page, *at)
    text = PdfReader(page).pages[0].extract_text()
    assert "5:00 min" in text
    assert "dragon" not in text
    assert ask("log", "show", str(first["id"]), *at)["steps"] == []
    changed = ask("log", "change", str(first["id"]), "--kept", "the blue one", "--wrong", "", *at)
    assert (changed["kept"], changed["faults"], changed["note"]) == ("the blue one", [], first["note"])
    ask("log", "remove", str(first["id"]), *at)
    assert not kept.exists(), "a photo that no page shows is erased"
    json.dumps(ask("log", "list", *at))


def test_a_runs_page_tells_its_minutes_by_step(ask, tmp_path, book):
    steps = [StepNote(str(n), StepKind.STROKES, f"petal {n}", 10.0, 10.0 + 5 * n, planned_s=10.0) for n in range(70)]
    with Notebook(book) as notes:
        notes.add(RunNote("Walk", "face", "2026-11-28T18:00:00", "", 90.0, 60.0, True, tuple(steps)), short=True)
    page, at = tmp_path / "page.pdf", ("--notebook", book)
    told = ask("log", "show", "1", "--pdf", page, *at, "--json")
    assert told["short"]
    assert told["steps"][2] == {
        **{"kind": "strokes", "name": "petal 2", "planned_s": 10.0, "took_s": 20.0},
        "left_out": False,
    }
    (only,) = PdfReader(page).pages
    text = only.extract_text()
    assert "petal 2" in text
    assert "short form" in text
    shown = len(re.findall(r"petal \d+", text))
    assert 20 < shown < 70
    assert f"... and {70 - shown} more" in text, "what has no room on the page is counted"
    assert "0:10     0:20  petal 2, 0:10 longer" in ask("log", "show", "1", *at)


def test_lessons_open_one_after_another(ask, tmp_path, book):
    at = ("--notebook", book, "--json")
    assert [one["open"] for one in ask("lessons", *at)["lessons"]] == [True] + [False] * 11
    sheet = tmp_path / "sheet.pdf"
    assert ask("lessons", "straight", "--pdf", sheet, *at)["tries"] == []
    assert "A straight sweep" in PdfReader(sheet).pages[0].extract_text()
    plan, name = lesson_plan(lesson("straight"), demo_plan())
    picture, corners, _ = simulated_sheet(plan, practised(plan, name), name, 2)
    photo = tmp_path / "sheet.png"
    write_photo(picture, photo)
    tries = ask("lessons", "straight", "--photo", photo, *flags(corners), *at)["tries"]
    good = sum(one["points"] >= 75 for one in tries)
    told = ask("lessons", *at)["lessons"]
    assert told[0]["tries"] == len(tries)
    assert told[0]["best"] == max(one["points"] for one in tries)
    assert told[1]["open"] == (good >= 3)
    assert "c" in ask("lessons", "juggling", "--notebook", book, code=2)
    assert "1  straight" in ask("lessons", "--notebook", book)
