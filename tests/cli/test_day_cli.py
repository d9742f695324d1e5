"""The day from the command line: from the enquiry to the books; files read back, kills survived."""

from __future__ import annotations

import csv
import json
import os
import random
import signal
import stat
import subprocess
import sys
import time
from pathlib import Path

import icalendar
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from pennello.day.event import Event
from pennello.design.pace import StepKind
from pennello.errors import FileProblemError
from pennello.files.day_json import day_bytes, day_schema, demo_event, parse_day, read_day
from pennello.files.demo import shipped_design
from pennello.session.day import SHIPPED, designed
from pennello.session.kit import KitSession
from pennello.store.notebook import Notebook, RunNote, StepNote

ROOT = Path(__file__).parents[2]


@pytest.fixture
def walk(ask, tmp_path):
    path = tmp_path / "walk.pennello-day"
    ask("day", "new", path, "--demo")
    return path


def test_an_event_is_made_and_changed(ask, tmp_path):
    path = tmp_path / "fair"
    told = ask("day", "new", path, "--name", "Reed fair", "--hours", "14:00-17:00", "--people", "30", "--json")
    assert told["begins_min"] == 840
    file = path.with_name("fair.pennello-day")
    assert stat.S_IMODE(file.stat().st_mode) == 0o600
    ask("day", "set", file, "--break", "15:00-15:20", "--painters", "2", "--per-face", "6,5", "--curve", "3,1,1")
    event = read_day(file)
    assert (event.name, event.painters, event.per_face, event.curve) == ("Reed fair", 2, 6.5, (3.0, 1.0, 1.0))
    assert event.arrivals.value == "curve"
    assert event.breaks[0].begins_min == 900
    assert "already" in ask("day", "new", file, code=2)
    for words, said in (
        (("--hours", "soon"), "18:30-21:30"),
        (("--painters", "0"), "1 to 50"),
        (("--day", "tomorrow"), "2026-11-28"),
        (("--break", "16:00-15:00"), "after it begins"),
        (("--people", "6000"), "5000"),
    ):
        assert said in ask("day", "set", file, *words, code=2)
    assert "menu" in ask("day", "simulate", file, code=2)


def test_the_menu_is_weighed_printed_and_added_to(ask, tmp_path, walk):
    told = ask(
        "day", "menu", walk, "--weigh", "8", "--take", "--off", "heron-shoulder", "--share", "moth-mask=3", "--json"
    )
    assert len(told["weighed"]["items"]) == 8
    event = read_day(walk)
    assert {one.id for one in event.on_menu} == set(told["weighed"]["items"])
    assert event.item("moth-mask").share == 3
    board, pick = tmp_path / "board.pdf", tmp_path / "pick.pdf"
    off = [word for one in event.on_menu[2:] for word in ("--off", one.id)]
    ask("day", "menu", walk, *off)
    event = read_day(walk)
    ask("day", "menu", walk, "--board", board, "--size", "A3", "--pick", pick)
    page = PdfReader(board).pages[0]
    assert float(page.mediabox.width) == pytest.approx(420 * 72 / 25.4, abs=1)
    text = page.extract_text()
    assert all(one.title in text for one in event.on_menu)
    assert "€" not in text, "no prices unless they are wanted"
    assert "Choose by colour" in PdfReader(pick).pages[0].extract_text()
    added = ask("day", "menu", walk, "--add", "frost-reeds", "--other", "--json")["menu"]
    assert [one["id"] for one in added][-1] == "frost-reeds-2"
    assert "moth-masks" in ask("day", "menu", walk, "--remove", "moth-masks", code=2)
    assert "A4" in ask("day", "menu", walk, "--board", board, "--size", "A9", code=2)


def test_times_are_worked_out_again_at_the_own_pace(ask, tmp_path, walk):
    """A painter who loads half as fast: what the menu says follows once it is asked for."""
    book = tmp_path / "own" / "notebook.sqlite"
    steps = tuple(StepNote(str(n), StepKind.LOAD, "Load", 12.0, 24.0, planned_s=12.0) for n in range(4))
    with Notebook(book) as notes:
        notes.add(RunNote("Walk", "face", "2026-11-28T18:00:00", "", 96.0, 48.0, True, steps))
    off = [word for one in read_day(walk).menu[2:] for word in ("--remove", one.id)]
    before = {one["id"]: one for one in ask("day", "menu", walk, *off, "--share", "dahlia-crown=4", "--json")["menu"]}
    after = {one["id"]: one for one in ask("day", "menu", walk, "--again", "--notebook", book, "--json")["menu"]}
    for key, one in after.items():
        assert one["whole_s"] > before[key]["whole_s"] + 12
        assert (one["title"], one["share"]) == (before[key]["title"], before[key]["share"])
        assert one["pace"] == "load 2.00"


def test_events_stand_side_by_side(ask, tmp_path, walk, own_folders):
    ask("day", "set", walk, "--day", "2026-12-05")
    told = ask("day", "list", walk, "--json")
    assert [one["name"] for one in told["events"]] == ["Saltmarsh Lantern Walk"]
    other = tmp_path / "fair.pennello-day"
    ask("day", "new", other, "--name", "Harbour fair", "--day", "2026-11-30", "--per-hour", "60")
    bad = tmp_path / "bad.pennello-day"
    bad.write_text("{")
    told = ask("day", "list", walk, other, bad, "--json")
    assert [one["day"] for one in told["events"]] == ["2026-11-30", "2026-12-05"]
    assert told["events"][0]["left"] == 180.0
    assert "bad.pennello-day" in told["unreadable"][0]
    words = ask("day", "list", walk, other)
    assert words.splitlines()[0].split()[0] == "event"
    assert "Harbour fair" in words.splitlines()[1]


def test_prices_and_what_else_to_pack_are_set(ask, walk):
    cake = read_day(walk).menu[0].uses[0].name
    ask("day", "set", walk, "--price", f"{cake} 1.50", "--extra", "horns", "--extra", "ribbon")
    event = read_day(walk)
    assert event.gram_costs(cake) == 1.5
    assert event.extras == ("horns", "ribbon")
    assert "[ ] ribbon: 1" in ask("day", "kit", walk)
    assert "one that the menu takes" in ask("day", "set", walk, "--price", "gold dust 3", code=2)
    ask("day", "set", walk, "--price", "", "--extra", "none")
    assert not read_day(walk).prices
    assert not read_day(walk).extras


def test_figures_of_the_demo_are_those_of_its_designs():
    """One design is worked out anew: what ships is what the tool makes."""
    event = demo_event()
    assert len(event.menu) == 12
    item = event.item("moth-mask")
    found = designed(shipped_design("moth-mask").plan(), SHIPPED + "moth-mask", "moth-mask").item
    assert found == item
    assert 0 < item.short_s < item.whole_s
    assert sum(used.grams for used in item.uses) > 0.1


def test_the_queue_is_simulated(ask, walk):
    told = ask("day", "simulate", walk, "--days", "40", "--what-if", "--json")
    assert told["served"] + told["left"] == pytest.approx(told["came"], abs=2)
    assert len(told["sentences"]) == 3
    assert len(told["what_if"]) == 4
    assert len(told["waiting"]["at_s"]) == len(told["waiting"]["median"])
    assert ask("day", "simulate", walk, "--days", "40", "--json")["served"] == told["served"]
    assert "painted" in ask("day", "simulate", walk, "--days", "5")
    assert "5000" in ask("day", "simulate", walk, "--days", "0", code=2)


def test_an_evening_of_thirty_people(ask, walk, tmp_path):
    """Each comes, is begun and done in the order of the line; then the books, the kit and the notebook have it."""
    event = read_day(walk)
    names = [one.id for one in event.on_menu]
    minute = 1115
    for number in range(30):
        at = f"{minute // 60}:{minute % 60:02d}"
        words = ("--came", f"Guest {number}", "--item", names[number % len(names)], "--consent", "--at", at)
        told = ask("day", "board", walk, *words, "--json")
        assert told["waits"] == 1
        guest = told["guests"][-1]["id"]
        ask("day", "board", walk, "--begin", guest, "--at", at)
        minute += 4
        told = ask("day", "board", walk, "--done", guest, "--at", f"{minute // 60}:{minute % 60:02d}", "--json")
        assert told["faces"] == number + 1
    table, day, quote = tmp_path / "d.csv", tmp_path / "d.ics", tmp_path / "q.pdf"
    kit, book = tmp_path / "kit.sqlite", tmp_path / "n.sqlite"
    wishes = ("--csv", table, "--ics", day, "--quote", quote, "--book", "--kit", kit, "--keep", "--notebook", book)
    session = KitSession(kit)
    before = {item.name: item.keeping.stock_g for item in session.kit}
    session.close()
    told = ask("day", "report", walk, *wishes, "--json")
    assert told["faces"] == 30
    assert told["costs"]["income"] == 30 * event.per_face
    assert told["booked"]
    assert sum(told["grams"].values()) == pytest.approx(
        sum(used.grams for number in range(30) for used in event.item(names[number % len(names)]).uses), rel=1e-6
    )
    rows = list(csv.DictReader(table.read_text().splitlines()))
    assert len(rows) == 30
    assert "Guest" not in table.read_text(), "no names unless they are wanted"
    assert len(icalendar.Calendar.from_ical(day.read_bytes()).walk("VEVENT")) == 2
    assert "Quote" in PdfReader(quote).pages[0].extract_text()
    session = KitSession(kit)
    after = {item.name: item.keeping.stock_g for item in session.kit}
    session.close()
    assert any(after[name] != before[name] for name in after)
    assert "30 faces" in ask("log", "list", "--notebook", book, "--json")["pages"][0]["note"]
    assert "booked already" in ask("day", "report", walk, "--book", "--kit", kit, code=2)


def test_batches_and_refusals_on_the_board(ask, walk):
    for name, item in (("Ada", "moth-mask"), ("Bo", "poppy-brow"), ("Kim", "moth-mask")):
        ask("day", "board", walk, "--came", name, "--item", item, "--consent", "--at", "18:40")
    told = ask("day", "board", walk, "--batch", "--at", "18:45", "--json")
    assert told["batch"]["order"] == ["g1", "g3", "g2"]
    assert told["batch"]["saved_s"] > 0
    told = ask("day", "board", walk, "--came", "--at", "18:50", "--json")
    assert told["guests"][-1]["name"] == "4"
    assert "chosen" in ask("day", "board", walk, "--begin", "g4", code=2)
    ask("day", "board", walk, "--guest", "g4", "--item", "frost-reeds", "--at", "18:51")
    assert "said yes" in ask("day", "board", walk, "--begin", "g4", code=2)
    ask("day", "board", walk, "--guest", "g4", "--consent", "--at", "18:52")
    assert "at chair 1: g4" in ask("day", "board", walk, "--begin", "g4", "--at", "18:53")
    ask("day", "board", walk, "--back", "g4", "--at", "18:54")
    ask("day", "board", walk, "--gone", "g4", "--at", "18:55")
    assert "g9" in ask("day", "board", walk, "--done", "g9", code=2)


def test_the_bag_is_ticked_and_printed(ask, walk, tmp_path):
    bag, hygiene = tmp_path / "bag.pdf", tmp_path / "hygiene.pdf"
    told = ask("day", "kit", walk, "--faces", "50", "--tick", "mirror", "--pdf", bag, "--hygiene", hygiene, "--json")
    assert [one["name"] for one in told["things"] if one["packed"]] == ["mirror"]
    assert read_day(walk).packed == ("mirror",)
    ask("day", "kit", walk, "--untick", "mirror")
    assert read_day(walk).packed == ()
    assert "unicorn" in ask("day", "kit", walk, "--tick", "unicorn", code=2)
    assert "The bag" in PdfReader(bag).pages[0].extract_text()
    text = PdfReader(hygiene).pages[0].extract_text()
    assert "certifies nothing" in " ".join(text.split())


def test_an_event_is_found_without_its_ending_too(ask, tmp_path):
    told = ask("day", "new", tmp_path / "fair", "--name", "Reed fair")
    assert (tmp_path / "fair.pennello-day").exists(), told
    assert ", 30 people" in ask("day", "set", tmp_path / "fair", "--people", "30")
    assert "Reed fair" in ask("day", "list", tmp_path / "fair")
    (tmp_path / "fair").write_text("a file of that very name")
    assert str(tmp_path / "fair:") in ask("day", "report", tmp_path / "fair", code=2)


def test_an_event_is_called_as_its_file_even_where_that_is_no_utf_8(ask, tmp_path):
    file = Path(os.fsdecode(os.fsencode(tmp_path) + b"/caf\xe9.pennello-day"))
    ask("day", "new", file)
    assert read_day(file).name == "caf\ufffd"


def test_what_cannot_be_read_or_written_is_said_and_changes_nothing(ask, walk):
    before = walk.read_bytes()
    for words, said in (
        (("set", walk, "--curve", "3,often"), "'often' is not understood"),
        (("set", walk, "--curve", "3,nan"), "'nan' is not understood"),
        (("menu", walk, "--share", "moth-mask=much"), "'much' is not understood"),
        (("set", walk, "--hours", "10:00-12:00"), "break is 20:00-20:10"),
        (("new", ""), "choose another name"),
        (("new", "/"), "choose another name"),
    ):
        assert said in ask("day", *words, code=2)
        assert walk.read_bytes() == before
    with pytest.raises(SystemExit, match="2"):
        ask("day", "board", walk, "--came", "\udcff")
    assert walk.read_bytes() == before


def test_the_published_schema_is_the_one_of_the_program(ask):
    told = ask("day", "schema", "--json")
    assert told == json.loads((ROOT / "docs" / "pennello-day.schema.json").read_text())
    table = json.loads(day_bytes(demo_event()))
    assert set(told["$defs"]["Event"]["properties"]) == set(table["event"])


def test_a_file_of_an_event_is_read_back_or_refused():
    event = demo_event()
    data = day_bytes(event)
    assert parse_day(data, "x") == event
    assert "MenuItem" in json.dumps(day_schema())
    for change, said in (
        (lambda text: text.replace('"pennello-day"', '"pennello"', 1), "no event"),
        (lambda text: text.replace('"schema": 1', '"schema": 9', 1), "newer"),
        (lambda text: text.replace('"painters": 2', '"painters": 0', 1), "painters"),
        (lambda text: text.replace('"painters": 2', '"painter": 2', 1), "can be read"),
        (lambda text: text[:-40], "can be read"),
        (lambda text: text.replace("412.4", "-3"), "Dahlia"),
    ):
        with pytest.raises(FileProblemError, match=said):
            parse_day(change(data.decode()).encode(), "x.pennello-day")


@settings(max_examples=60, deadline=None)
@given(st.integers(0, 10**9))
def test_a_damaged_event_is_read_or_refused_with_a_sentence(seed):
    rng = random.Random(seed)
    data = bytearray(day_bytes(demo_event()))
    for _ in range(rng.randrange(1, 6)):
        data[rng.randrange(len(data))] = rng.randrange(256)
    try:
        assert isinstance(parse_day(bytes(data), "x.pennello-day"), Event)
    except FileProblemError as error:
        assert len(str(error)) < 600


WRITER = """
import sys
from pathlib import Path
from pennello.day import board
from pennello.files.day_json import demo_event
from pennello.session.day import DaySession
session = DaySession(demo_event())
session.keep_as(Path(sys.argv[1]))
for number in range(5000):
    session.edit("came", board.came(session.event, f"Guest {number}", "moth-mask", float(number))[0])
    print(number, flush=True)
"""


@pytest.mark.parametrize("kills", [4, pytest.param(100, marks=pytest.mark.slow)])
def test_a_killed_board_loses_nobody_who_was_said_to_be_there(tmp_path, kills):
    rng = random.Random(3)
    for run in range(kills):
        path = tmp_path / f"e{run}.pennello-day"
        writer = subprocess.Popen([sys.executable, "-c", WRITER, str(path)], stdout=subprocess.PIPE, text=True)
        assert writer.stdout is not None
        last = -1
        for _ in range(rng.randrange(2, 30)):
            last = int(writer.stdout.readline())
        time.sleep(rng.random() * 0.02)
        os.kill(writer.pid, signal.SIGKILL)
        rest = writer.stdout.read().split()
        last = int(rest[-1]) if rest else last
        writer.wait()
        writer.stdout.close()
        names = [one.name for one in read_day(path).guests]
        assert names[: last + 1] == [f"Guest {number}" for number in range(last + 1)]
        assert len(names) <= last + 2
