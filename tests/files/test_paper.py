"""Paper and tables of an order, read back by others: pypdf, icalendar, csv, Pillow."""

import csv
import io
import re
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
import pytest
from icalendar import Calendar
from lantern_face import demo_plan
from pypdf import PdfReader
from shapely import Polygon

from pennello.caution.person import Person
from pennello.caution.rules import DECIDE, cautions
from pennello.design.line_work import press_for, with_line_load, with_line_work
from pennello.design.on_chart import chart_of
from pennello.errors import FileProblemError
from pennello.files.page import MARGIN_MM, PAGE_HEIGHT_MM
from pennello.files.plan_json import read_plan
from pennello.files.sheet_pdf import kit_list, write_sheet
from pennello.files.steps_out import steps_csv, steps_ics, write_steps
from pennello.files.tiles import OVERLAP_MM, TILE_MM, TOP_MM, bounds_of, marked, tiles_of
from pennello.lay import engine
from pennello.order.arrange import arrange, design_of
from pennello.order.stages import loads_used, stages
from pennello.path.cubic import line
from pennello.session.order_pictures import _crop, file_stem, sequence, sheet_pictures, thumbnails

EVENING = Path(__file__).parent / "v7-saltmarsh.pennello"
POINTS_PER_MM = 72 / 25.4


@pytest.fixture(scope="module")
def hand():
    """The hand of the demo of version 7 in order: two motifs, one page of chart."""
    return arrange(design_of(read_plan(EVENING), "hand", engine=engine.kernel()), 0.1)


def lines_of(page):
    """All straight lines of a PDF page as ((x0, y0), (x1, y1)), points, by the operators m and l."""
    text = page.get_contents().get_data().decode("latin-1")
    number = r"(-?[\d.]+)"
    found = re.findall(rf"{number} {number} m {number} {number} l", text)
    return [((float(a), float(b)), (float(c), float(d))) for a, b, c, d in found]


def test_the_sheet_is_at_true_scale_in_its_own_coordinates(hand, tmp_path):
    plan = hand.design.work.plan
    pages = write_sheet(hand, cautions(plan, Person(), "hand"), tmp_path / "s.pdf", tiles=True)
    reader = PdfReader(tmp_path / "s.pdf")
    assert len(reader.pages) == pages
    for page in reader.pages:
        long = [abs(b[0] - a[0]) / POINTS_PER_MM for a, b in lines_of(page) if a[1] == b[1]]
        assert any(abs(one - 100.0) <= 0.1 for one in long), "a bar of 100.0 mm on every page"
    chart = reader.pages[-1].get_contents().get_data().decode("latin-1")
    moves = np.array(re.findall(r"(-?[\d.]+) (-?[\d.]+) m (?:-?[\d.]+ ){6}c", chart), float) / POINTS_PER_MM
    drawn = chart_of(plan, "hand")
    starts = np.array([line.path.points_mm[0] for line in drawn.lines])
    left, top, _, _ = bounds_of(plan, "hand", marked(hand, "hand"))
    expected = np.stack([starts[:, 0] + MARGIN_MM - left, PAGE_HEIGHT_MM - (starts[:, 1] + TOP_MM - top)], axis=1)
    apart = np.linalg.norm(moves[None] - expected[:, None], axis=2).min(axis=1)
    assert apart.max() < 0.1, "every line of the chart begins where it lies, in mm"


def test_line_work_lies_on_the_sheet_where_and_as_wide_as_it_is(hand, tmp_path):
    way = line((-20.0, 10.0), (15.0, 22.0))
    plan, load = with_line_load(hand.design.work.plan, "#f6f5f0", 3.0)
    press = press_for(plan.brush(plan.stroke(load).brush), 3.0)
    plan, name = with_line_work(plan, load, (way,), "hand", "edge", press=press)
    arranged = arrange(design_of(plan, "hand", engine=engine.kernel()), 0.0)
    number = arranged.order.index(f"{name}/stroke1") + 1
    (drawn,) = [one for one in marked(arranged, "hand") if one.number == number]
    assert Polygon(drawn.outline).area == pytest.approx(3.0 * 37.0, rel=0.01)  # 35 by 12 mm: 37 mm long
    assert drawn.middle[0] == pytest.approx((-20.0, 10.0), abs=0.1)
    assert drawn.middle[-1] == pytest.approx((15.0, 22.0), abs=0.7)
    write_sheet(arranged, (), tmp_path / "s.pdf", tiles=True)
    page = PdfReader(tmp_path / "s.pdf").pages[-1].get_contents().get_data().decode("latin-1")
    left, top, _, _ = bounds_of(plan, "hand", marked(arranged, "hand"))
    start = np.array([-20.0 + MARGIN_MM - left, PAGE_HEIGHT_MM - (10.0 + TOP_MM - top)])
    points = np.array([[float(x), float(y)] for x, y in re.findall(r"(-?[\d.]+) (-?[\d.]+) m\b", page)])
    assert np.linalg.norm(points / POINTS_PER_MM - start, axis=1).min() < 0.1


def test_the_sheet_says_steps_kit_and_cautions(hand, tmp_path):
    write_sheet(hand, cautions(hand.design.work.plan, Person(), "hand"), tmp_path / "s.pdf")
    text = "\n".join(page.extract_text() for page in PdfReader(tmp_path / "s.pdf").pages)
    told = ("One after another", "Dahlia Wrist", "Round 4", "Never blow on a face", DECIDE, "outside", "in all")
    for words in told:
        assert words in text
    assert "ask first" in text
    assert any("Flat 3/4 in" in line for line in kit_list(hand))
    with pytest.raises(FileProblemError):
        write_sheet(hand, (), tmp_path / "no" / "s.pdf")


def test_tiles_cover_all_and_share_their_edges():
    tiles = tiles_of((-200.0, -50.0, 200.0, 500.0))
    columns, rows = tiles[0].columns, tiles[0].rows
    assert len(tiles) == columns * rows > 4
    assert tiles[-1].left_mm + TILE_MM[0] >= 200
    assert tiles[-1].top_mm + TILE_MM[1] >= 500
    assert tiles[1].left_mm == pytest.approx(tiles[0].left_mm + TILE_MM[0] - OVERLAP_MM)
    assert tiles_of((0.0, 0.0, 10.0, 10.0))[0].name == "A1 of 1 × 1"


@pytest.mark.slow
def test_all_of_a_plan_has_a_chart_on_many_pages(tmp_path):
    arranged = arrange(design_of(demo_plan(), engine=engine.kernel()), 0.0)
    assert write_sheet(arranged, (), tmp_path / "s.pdf", tiles=True) >= 9
    plan = demo_plan()
    bench = replace(plan, strokes=plan.strokes[:3], motifs=(), overlays=())
    assert write_sheet(arrange(design_of(bench, engine=engine.kernel()), 0.0), (), tmp_path / "b.pdf") <= 3


def test_steps_as_a_table_and_a_calendar(hand, tmp_path):
    rows = list(csv.DictReader(io.StringIO(steps_csv(hand))))
    assert [row["id"] for row in rows] == [step.id for step in hand.steps]
    assert float(rows[-1]["end_s"]) == hand.sums.total_s
    assert not any(row["what"].startswith(("=", "+", "-", "@")) for row in rows)
    begins = datetime(2026, 11, 28, 18, 30)
    events = Calendar.from_ical(steps_ics(hand, begins)).walk("VEVENT")
    assert events[0]["dtstart"].dt == begins
    assert events[0]["dtend"].dt - begins == timedelta(seconds=round(hand.sums.total_s))  # type: ignore[operator]
    assert len(events) == 1 + sum(step.kind.paints for step in hand.steps)
    assert len({str(event["uid"]) for event in events}) == len(events)
    last = datetime.max.replace(microsecond=0)
    late = Calendar.from_ical(steps_ics(hand, last)).walk("VEVENT")
    assert {event["dtend"].dt for event in late} == {last}, "a year that was written wrong"
    write_steps(hand, tmp_path / "a.ics", begins)
    write_steps(hand, tmp_path / "a.csv", begins)
    assert (tmp_path / "a.ics").read_bytes().startswith(b"BEGIN:VCALENDAR")
    assert (tmp_path / "a.csv").read_text().startswith("number,")


def test_pictures_after_each_step_grow(hand):
    moments = list(sequence(hand, "hand", 1.0, engine.kernel()))
    assert [moment.job for moment in moments] == list(hand.order)
    assert [moment.number for moment in moments] == list(range(1, len(moments) + 1))
    changed = np.abs(moments[1].picture.astype(int) - moments[0].picture).sum(axis=2) > 30
    assert 20 < changed.sum() < changed.size / 4  # the leaves, and only they
    shots = thumbnails(hand.design, engine=engine.kernel())
    assert set(shots) == set(hand.order)
    assert all(shot[..., 3].max() == 255 for shot in shots.values())
    assert file_stem("a/b c/../d") == "a-b-c----d"


def test_a_design_is_told_on_three_pages_with_its_pictures(tmp_path):
    """The whole as painted, loads as cakes with the brush on them, each part as a picture with a sentence."""
    arranged = arrange(design_of(demo_plan(), "face", engine=engine.kernel()), 0.0)
    pictures = sheet_pictures(arranged, 2.0, engine.kernel())
    told = stages(arranged)
    assert list(pictures.whole) == ["face"]
    assert len(pictures.stages) == len(told) >= 3
    assert all(shown is not None for shown in pictures.stages)
    pages = write_sheet(arranged, cautions(demo_plan(), Person(), "face"), tmp_path / "s.pdf", pictures=pictures)
    reader = PdfReader(tmp_path / "s.pdf")
    assert pages == len(reader.pages) <= 3
    first = reader.pages[0]
    assert len(first.images) >= 1 + 2 * 2, "the face, and for each load its cake and its edge"
    text = first.extract_text()
    for load in loads_used(arranged):
        assert demo_plan().stroke(load).name in text
    rest = "\n".join(page.extract_text() for page in reader.pages[1:])
    for stage in told:
        assert stage.name in rest
        assert stage.words
    assert sum(len(stage.jobs) for stage in told) == len(arranged.jobs)


def test_what_a_part_lays_is_strong_and_the_rest_is_faint():
    before = np.full((60, 60, 3), 120, np.uint8)
    after = before.copy()
    after[20:40, 20:40] = (200, 30, 30)
    found = _crop(before, after, 1.0)
    assert found is not None
    picture, wide, tall = found
    assert (wide, tall) == (picture.shape[1], picture.shape[0])
    assert tuple(picture[picture.shape[0] // 2, picture.shape[1] // 2]) == (200, 30, 30)
    assert picture[0, 0, 0] > 200
    assert _crop(before, before, 1.0) is None
