"""Holds, own motifs and playing on the command line."""

from pathlib import Path

import pytest
from lantern_face import GIVEN
from PIL import Image

from pennello.design.holds import hold_of
from pennello.files.motif_file import read_own
from pennello.files.plan_json import read_plan
from pennello.lay.families.hold import Hold
from pennello.motif.catalogue import MOTIFS

DEMO = str(GIVEN)


@pytest.fixture
def plan(ask, tmp_path):
    """A new plan with one rosebud and one leaf put on its face."""
    path = tmp_path / "plan.pennello"
    ask("new", path)
    for name in ("rosebud", "whole-leaf"):
        ask("motif", name, "--plan", path, "--chart", "face", "--x", "10", "--y", "5")
    return path


# --- holds ---


@pytest.mark.parametrize(
    ("way", "hold"),
    [
        ("upright", Hold.UPRIGHT),
        ("heel", Hold.HEEL),
        ("rim", Hold.RIM),
        ("push", Hold.PUSH),
        ("square", Hold.SQUARE),
    ],
)
def test_a_stroke_is_held_another_way(ask, tmp_path, way, hold):
    out = tmp_path / "out.pennello"
    said = ask("hold", DEMO, "dahlia-petal", "--way", way, "--out", out)
    assert f"held {hold.value}" in said
    assert hold_of(read_plan(out).stroke("dahlia-petal").stroke) is hold


def test_numbers_of_a_hold_are_set_by_name(ask, tmp_path):
    out = tmp_path / "out.pennello"
    ask("hold", DEMO, "dahlia-petal", "--way", "heel", "--number", "from=-150", "--number", "to=30", "--out", out)
    nib = read_plan(out).stroke("dahlia-petal").stroke.nib
    assert (nib.angle_deg, nib.angle_end_deg) == (-150, 30)
    answer = ask("hold", out, "dahlia-petal", "--json")
    assert answer["hold"] == "round the heel"
    assert answer["numbers"]["from"] == -150
    said = ask("hold", out, "dahlia-petal", "--number", "across=20", code=2)
    assert "has these numbers: from, to, waves, wave_mm" in said
    assert "-720 to 720" in ask("hold", out, "dahlia-petal", "--number", "to=900", code=2)


# --- motifs take loads ---


def test_every_motif_says_its_parts_and_what_loads_them(ask):
    for key in MOTIFS:
        answer = ask("motif", key, "--json")
        assert answer["parts"], key
        assert all(part["load"] and part["brush"] and part["wet"] for part in answer["parts"].values())
        assert answer["per_load"] >= 1


def test_a_motif_brings_loads_by_the_wish_of_its_parts(plan):
    """A leaf put on a plan without green gets a green load; a bud a light rim."""
    made = read_plan(plan)
    loads = [name for one in made.motifs for _, name in one.loads]
    assert len(set(loads)) >= 2
    greens = {paint for cake in made.cakes for paint in cake.paints if "green" in paint or "reed" in paint}
    leaf = next(one for one in made.motifs if one.motif == "whole-leaf")
    cake = next(cake for cake in made.cakes if cake.id in made.stroke(leaf.loads[0][1]).recipe.cakes)
    assert greens & set(cake.paints)


# --- own motifs ---


def test_what_lies_on_a_chart_is_kept_and_comes_back(ask, plan, tmp_path):
    mine = tmp_path / "mine.pennello-motif"
    ids = [one.id for one in read_plan(plan).motifs]
    keep = [word for name in ids for word in ("--keep", name)]
    assert "Kept as" in ask("motif", "Bud and leaf", *keep, "--plan", plan, "--out", mine)
    own = read_own(mine)
    assert own.name == "Bud and leaf"
    assert len(own.parts.motifs) == 2
    told = ask("motif", mine, "--json")
    assert len(told["things"]) == 2
    other = tmp_path / "other.pennello"
    ask("new", other)
    placed = ask("motif", mine, "--plan", other, "--json")["placed"]
    assert len(placed) == 2
    back = read_plan(other)
    assert [one.name for one in back.parts] == ["Bud and leaf"]
    assert {one.part for one in back.motifs} == {back.parts[0].id}
    ask("motif", mine, "--plan", other, "--plan-colours")
    assert len(read_plan(other).strokes) == len(back.strokes), "with the plan's own loads nothing new is loaded"
    assert "no-such" in ask("motif", mine, "--plan", other, "--load", "no-such", code=2)


def test_without_a_file_it_is_kept_among_ones_own(ask, plan):
    kept = ask("motif", "My bud", "--keep", read_plan(plan).motifs[0].id, "--plan", plan, "--json")
    assert Path(kept["kept"]).exists()
    assert "--plan" in ask("motif", "My bud", "--keep", "rosebud", code=2)
    assert "Nothing on the chart is chosen" in ask("motif", "X", "--keep", "no-such", "--plan", plan, code=2)


# --- played ---


@pytest.mark.parametrize("name", ["stroke.png", "stroke.gif"])
def test_a_stroke_is_written_as_a_moving_picture(ask, tmp_path, name):
    out = tmp_path / name
    said = ask("play", DEMO, "dahlia-petal", "--out", out, "--speed", "8", "--px-per-mm", "2")
    assert "1 strokes" not in said
    with Image.open(out) as image:
        assert image.n_frames > 1


def test_a_chart_and_a_motif_are_played(ask, plan, tmp_path):
    out = tmp_path / "moving.png"
    answer = ask("play", plan, "--chart", "face", "--out", out, "--speed", "20", "--px-per-mm", "1", "--json")
    assert len(answer["strokes"]) > 4
    assert answer["seconds"] > answer["strokes"][-1]["start_s"]
    leaf = ask("play", plan, "--motif", "whole-leaf", "--out", out, "--speed", "20", "--px-per-mm", "1", "--json")
    assert 2 <= len(leaf["strokes"]) <= 4


def test_what_cannot_be_played_is_said(ask, plan, tmp_path):
    assert "nothing to play on the forearm chart" in ask(
        "play", plan, "--chart", "forearm", "--out", tmp_path / "film.gif", code=2
    )
    assert ".png (APNG) or .gif" in ask("play", DEMO, "--out", tmp_path / "film.mp4", code=2)
    assert "no-such" in ask("play", DEMO, "no-such", "--out", tmp_path / "film.gif", code=2)
