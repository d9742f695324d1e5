"""part, piece add, load --reload and render in the order found on the command line."""

import re
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from lantern_face import demo_plan
from PIL import Image

from pennello.design.computing import LaidBy
from pennello.design.part import Habit
from pennello.design.plan import Reload
from pennello.files.plan_json import read_plan, write_plan


@pytest.fixture
def plan(tmp_path):
    path = tmp_path / "plan.pennello"
    write_plan(demo_plan(), path)
    return path


def test_parts_are_made_filled_moved_and_taken_away(ask, plan):
    made = ask("part", plan, "add", "Crown & rose", "--piece", "peak-crown", "--json")
    assert made["part"] == "crown-rose"
    ask("part", plan, "put", "crown-rose", "--piece", "petal-ring")
    ask("part", plan, "put", "crown-rose", "--in", "lantern-face")
    told = {one["id"]: one for one in ask("part", plan, "list", "--json")["parts"]}
    assert told["crown-rose"]["pieces"] == ["peak-crown", "petal-ring"]
    assert told["crown-rose"]["within"] == "lantern-face"
    assert told["lantern-face"]["loads"][0]["reload"] == "when it runs pale"
    ask("part", plan, "move", "crown-rose")
    assert [one.id for one in read_plan(plan).motifs][-2:] == ["peak-crown", "petal-ring"]
    ask("part", plan, "move", "crown-rose", "--before", "wave")
    assert "Crown & rose" in ask("part", plan)
    ask("part", plan, "add", "Both", "--piece", "crown-rose", "--piece", "wave")
    told = {one["id"]: one for one in ask("part", plan, "list", "--json")["parts"]}
    assert told["crown-rose"]["within"] == "both"
    assert set(told["both"]["pieces"]) == {"peak-crown", "petal-ring", "wave"}
    ask("part", plan, "put", "crown-rose", "--in", "lantern-face")
    ask("part", plan, "remove", "both")
    assert "no motif 'rose'" in ask("part", plan, "put", "lantern-face", "--piece", "rose", code=2)
    ask("part", plan, "remove", "crown-rose")
    assert "crown-rose" not in [one.id for one in read_plan(plan).parts]
    ask("part", plan, "remove", "lantern-face", "--pieces-too")
    assert "peak-crown" not in [one.id for one in read_plan(plan).motifs]


def test_what_is_said_of_parts_is_kept(ask, plan):
    name = "wrist-flower"
    ask("part", plan, "habit", name, "--habit", "one-go")
    ask("part", plan, "rename", name, "--name", "Dahlia")
    ask("part", plan, "twin", name, "--off")
    ask("part", plan, "one-sided", name)
    ask("part", plan, "short", name)
    ask("part", plan, "weigh", name, "--priority", "nice", "--worth", "2")
    kept = read_plan(plan)
    part = kept.parts_by_id[name]
    assert (part.habit, part.name, part.one_sided, part.long_only) == (Habit.ONE_GO, "Dahlia", True, True)
    assert dict(kept.ordering.worth)[name] == 2
    assert "one go" in ask("part", plan)
    whole = ask("order", plan, "--chart", "hand", "--seconds", 0, "--json")
    short = ask("order", plan, "--chart", "hand", "--seconds", 0, "--short", "--json")
    assert short["total_s"] < whole["total_s"]
    assert sum(whole["where_s"].values()) == pytest.approx(whole["total_s"], abs=0.3)
    slow = ask("order", plan, "--chart", "hand", "--seconds", 0, "--tempo", "teaching", "--json")
    assert slow["total_s"] > whole["total_s"] + 25


def test_copies_mirrors_and_other_loads(ask, plan):
    ask("part", plan, "copy", "lantern-face", "--x-mm", "3")
    assert len(read_plan(plan).motifs) == 13
    ask("part", plan, "mirror", "lantern-face-2")
    ask("part", plan, "recolour", "lantern-face-2", "--load", "shell-scale=poppy-petal")
    copied = [one for one in read_plan(plan).motifs if one.part == "lantern-face-2"]
    assert {load for one in copied for _, load in one.loads} == {"poppy-petal", "lantern-peak"}
    ask("part", plan, "copy", "lantern-face", "--chart", "cheek-left")
    assert read_plan(plan).motifs[-1].chart == "cheek-left"


def test_a_part_is_repeated_along_a_line(ask, plan):
    before = read_plan(plan)
    ask(
        "part", plan, "echo", "lantern-face", "--along", "0,0 30,-10 60,0", "--times", 2, "--smaller", "0.8", "--copies"
    )
    after = read_plan(plan)
    count = len([one for one in before.motifs if one.part == "lantern-face"])
    copies = [one for one in after.motifs if one.part.startswith("lantern-face-")]
    assert len(copies) == 2 * count
    assert {round(one.place.scale, 3) for one in copies[:count]} == {
        round(0.8 * one.place.scale, 3) for one in before.motifs if one.part == "lantern-face"
    }
    ask("piece", plan, "add", "--load", "dahlia-petal", "--points", "0,0 20,-4 40,0", "--name", "Stem")
    ask("part", plan, "echo", copies[0].id, "--guide", "stem", "--times", 1, "--same-side", "--copies")
    assert len(read_plan(plan).motifs) == len(after.motifs) + 2


def test_a_part_is_laid_again_along_a_line_and_its_numbers_are_changed(ask, plan):
    ask("piece", plan, "add", "--load", "dahlia-petal", "--points", "0,0 20,-4 40,0", "--name", "Stem")
    ask("part", plan, "echo", "lantern-face", "--guide", "stem", "--times", 2, "--smaller", "0.8")
    made = read_plan(plan).motifs[-1]
    told = ask("piece", plan, made.id, "--set", "times=5", "--set", "by_turns=0", "--json")["pieces"][-1]["computed"]
    assert told == {
        "kind": "echo",
        "of": ["lantern-face"],
        "times": 5,
        "smaller": 0.8,
        "along": "stem",
        "by_turns": False,
    }
    ask("piece", plan, "stem", "--remove")
    left = read_plan(plan).motifs[-1].computed
    assert (left.along, left.border is None) == ("", False)  # the line is kept
    ask("compute", plan, "outline", "--of", "lantern-face", "--colour", "#101010", "--name", "Rim")
    told = ask("piece", plan, "rim", "--set", "off_mm=2.5", "--json")["pieces"][-1]["computed"]
    assert told == {"kind": "outline", "of": ["lantern-face"], "off_mm": 2.5}


@pytest.mark.parametrize(
    ("words", "told"),
    [
        (("add",), "needs a name"),
        (("echo", "lantern-face"), "--along"),
        (("echo", "lantern-face", "--guide", "nobody"), "nobody"),
        (("echo", "lantern-face", "--along", "0,0 9,0", "--times", "0"), "1 to 24"),
        (("echo", "lantern-face", "--along", "0,0"), "shorter than 1 mm"),
        (("echo", "lantern-face", "--along", "0,0 9,0", "--smaller", "0.5", "--times", "24"), "size of the last one"),
        (("habit", "wrist-flower"), "needs --habit"),
        (("weigh", "wrist-flower"), "--priority or --worth"),
        (("put", "wrist-flower"), "needs --within"),
        (("recolour", "wrist-flower", "--load", "x"), "OLD=NEW"),
        (("habit", "no-such", "--habit", "dry"), "there is no part 'no-such'"),
        (("move", "wave", "--before", "no-such"), "no-such"),
        (("add", "X", "--piece", "no-such"), "no-such"),
        (("mirror", "tide-on-the-arm"), "no midline"),
    ],
)
def test_what_cannot_be_done_is_said(ask, plan, words, told):
    before = plan.read_bytes()
    assert told in ask("part", plan, *words, code=2)
    assert plan.read_bytes() == before


def test_a_stroke_is_pulled_on_a_chart(ask, plan):
    words = ("--load", "dahlia-petal", "--points", "0,0 10,-12 24,-4", "--hold", "heel", "--name", "Brow petal")
    assert "Added brow-petal" in ask("piece", plan, "add", *words, "--part", "lantern-face", "--twin", "yes")
    made = next(one for one in read_plan(plan).motifs if one.id == "brow-petal")
    assert (made.part, made.twin, made.load_of) == ("lantern-face", True, {"stroke": "dahlia-petal"})
    assert made.way.path.points_mm[-1] == (24, -4)
    ask("piece", plan, "brow-petal", "--part", "")
    assert next(one for one in read_plan(plan).motifs if one.id == "brow-petal").part == ""
    for bad, told in (
        (("--load", "dahlia-petal"), "--points"),
        (("--load", "dahlia-petal", "--points", "0;0"), "X,Y in mm"),
        (("--load", "no-such", "--points", "0,0 1,1"), "no-such"),
    ):
        assert told in ask("piece", plan, "add", *bad, code=2)


def test_loads_are_edited_copied_and_taken_out(ask, plan):
    ask("load", plan, "dahlia-petal", "--reload", "3", "--name", "Pink")
    load = read_plan(plan).stroke("dahlia-petal")
    assert (load.reload, load.reload_after, load.name) == (Reload.COUNT, 3, "Pink")
    words = ("--add", "Other pink", "--offset-mm", "4", "--passes", "9", "--flip", "yes", "--brush", "flat-1")
    ask("load", plan, "dahlia-petal", *words)
    new = read_plan(plan).stroke("other-pink")
    first = new.recipe.pickups[0]
    assert (first.offset_mm, first.passes, first.flip, new.brush) == (4, 9, True, "flat-1")
    assert "in use" in ask("load", plan, "dahlia-petal", "--remove", code=2)
    assert "Took out" in ask("load", plan, "other-pink", "--remove")
    assert "pale, each, never" in ask("load", plan, "dahlia-petal", "--reload", "often", code=2)
    assert "not taken from a cake" in ask("load", plan, "reed-line", "--offset-mm", "4", code=2)


def test_a_chart_is_painted_in_the_order_found_or_as_listed(ask, plan, tmp_path):
    """The end of the order is the last picture of the sequence, to the pixel."""
    found, listed = tmp_path / "found.png", tmp_path / "listed.png"
    common = ("--px-per-mm", "1.5", "--seconds", "0", "--chart", "forearm")
    ask("render", plan, *common, "--png", found)
    ask("render", plan, *common, "--png", listed, "--as-listed")
    last = ask("sequence", plan, *common, "--out", tmp_path / "steps", "--json")["pictures"][-1]
    with Image.open(found) as one, Image.open(last["file"]) as other, Image.open(listed) as third:
        whole = np.asarray(one)
        assert np.array_equal(whole, np.asarray(other))
        assert whole.shape == np.asarray(third).shape
    early = ask("render", plan, *common, "--png", tmp_path / "early.png", "--at", "40", "--json")
    assert 0 < early["strokes"] < ask("render", plan, *common, "--png", found, "--json")["strokes"]


def documented(verb):
    """Keys of the first level that docs/answers.md names for a verb."""
    text = (Path(__file__).parents[2] / "docs/answers.md").read_text()
    part = text.split(f"## `pennello {verb} PLAN")[1].split("## ")[0]
    rows = re.findall(r"^\| (`[^|]*`) \|", part, re.MULTILINE)
    return {key for row in rows for key in re.findall(r"`([^`]*)`", row)}


def test_answers_are_as_documented(ask, plan, tmp_path):
    chart = ("--chart", "hand", "--seconds", "0")
    answers = {
        "order": ask("order", plan, *chart, "--target", "60", "--reasons", "--json"),
        "part": ask("part", plan, "--json"),
        "piece": ask("piece", plan, "--json"),
        "load": ask("load", plan, "dahlia-petal", "--json"),
        "render": ask("render", plan, *chart, "--px-per-mm", "1", "--png", tmp_path / "r.png", "--json"),
        "sequence": ask("sequence", plan, *chart, "--px-per-mm", "1", "--out", tmp_path, "--json"),
        "compute": ask("compute", plan, "outline", "--of", "lantern-face", "--colour", "#ffffff", "--json"),
        "fill-outline": ask(
            "fill-outline", plan, "--outline", "0,0 30,0 30,14 0,14", "--load", "dahlia-petal", "--json"
        ),
    }
    for verb, answer in answers.items():
        assert set(answer) == documented(verb), verb
    text = (Path(__file__).parents[2] / "docs/answers.md").read_text()
    for answer, key in ((answers["part"], "parts"), (answers["piece"], "pieces"), (answers["order"], "steps")):
        for inner in answer[key][0]:
            assert f"`{inner}`" in text, inner


def test_a_stripe_an_angle_and_a_sign_are_said(ask, tmp_path):
    plan = tmp_path / "p.pennello"
    write_plan(replace(demo_plan(), motifs=(), parts=(), overlays=()), plan)
    ask("piece", plan, "add", "--load", "poppy-petal", "--points", "-30,6 0,0 30,-6", "--name", "Band")
    words = ("--stripe", "foam-white", "--on", "pupil line", "--level-deg", "20", "--says", "FOX", "--json")
    (told,) = ask("piece", plan, "band", *words)["pieces"]
    assert (told["stripe"], told["on"], told["level_deg"]) == ("foam-white", "pupil line", 20)
    assert (told["says"], told["checked"]) == ("FOX", False)
    assert "let somebody read it" in ask("check", plan, code=1)
    (told,) = ask("piece", plan, "band", "--checked", "yes", "--level-deg", "free", "--stripe", "none", "--json")[
        "pieces"
    ]
    assert told["checked"]
    assert not {"stripe", "level_deg"} & told.keys()
    assert "let somebody read it" not in ask("check", plan, code=1)  # one side without a twin is left
    assert "there is no place for a stripe 'horn'" in ask(
        "piece", plan, "band", "--stripe", "foam-white", "--on", "horn", code=2
    )
    assert "no Peat Black" in ask("piece", plan, "band", "--stripe", "peat-black", "--on", "midline", code=2)
    ask("piece", plan, "band", "--says", "")
    assert "--says" in ask("piece", plan, "band", "--checked", "yes", code=2)


def test_a_cluster_of_dots_is_drawn(ask, tmp_path):
    """Its dots lie within the radius that is pulled out, the largest in the middle."""
    plan = tmp_path / "p.pennello"
    write_plan(replace(demo_plan(), motifs=(), parts=(), overlays=()), plan)
    ask(
        "piece",
        plan,
        "add",
        "--colour",
        "#f6f5f0",
        "--points",
        "0,-40 12,-40",
        "--taper",
        "a cluster of dots",
        "--name",
        "Foam",
    )
    (placed,) = read_plan(plan).motifs
    points = np.array(placed.place.stroke(placed.way).path.points_mm)
    away = np.hypot(points[:, 0], points[:, 1] + 40)
    assert away.max() < 13
    assert placed.way.pats is not None
    assert placed.way.pressures[0].value > placed.way.pressures[-1].value


def test_a_zone_is_patted_and_a_shadow_drawn(ask, plan):
    told = ask(
        "compute", plan, "fill", "--zone", "mask", "--by", "patted", "--colour", "#205080", "--line-mm", "5", "--json"
    )
    assert told["bare"] < 0.05
    placed = next(one for one in read_plan(plan).motifs if one.id == told["piece"])
    assert placed.computed.by is LaidBy.PATTED
    words = ("compute", plan, "shadow", "--of", "lantern-face", "--colour", "#182030", "--off-mm", "-1.5")
    told = ask(*words, "--light-deg", "-90", "--json")
    assert told["strokes"] > 3
    assert told["bare"] == 0
    assert "no zone or frame 'horn'" in ask("compute", plan, "fill", "--zone", "horn", "--colour", "#205080", code=2)


def test_gaps_are_listed_and_filled(ask, tmp_path):
    plan = tmp_path / "crown.pennello"
    ask("designs", "dahlia-crown", "--out", plan)
    listed = ask("compute", plan, "gaps", "--json")
    assert listed["piece"] == ""
    assert len(listed["gaps"]) >= 6
    assert "--colour HEX fills them" in ask("compute", plan, "gaps")
    made = ask("compute", plan, "gaps", "--colour", "#f6f5f0", "--line-mm", "2", "--json")
    assert read_plan(plan).motifs[-1].id == made["piece"]
    assert "no gaps" in ask("compute", plan, "gaps", "--chart", "hand")


def test_numbers_of_a_pulled_stroke_are_said(ask, plan):
    ask("piece", plan, "add", "--load", "poppy-petal", "--points", "-30,60 0,54 30,60", "--name", "Band")
    ask("piece", plan, "band", "--set", "waves=3", "--set", "wave_mm=4", "--set", "lift_mm=8", "--set", "flip_mm=20")
    way = next(one for one in read_plan(plan).motifs if one.id == "band").way
    assert (way.wiggle.count, way.wiggle.width_mm, way.lift_mm, way.flips_mm) == (3, 4, 8, (20,))
    assert "there is no number 'petals'" in ask("piece", plan, "band", "--set", "petals=3", code=2)
    assert "0 to 30" in ask("piece", plan, "band", "--set", "waves=99", code=2)


def test_a_rib_of_a_pulled_stroke_is_turned(ask, plan):
    ask("piece", plan, "add", "--load", "dahlia-petal", "--points", "0,0 20,-14 40,0", "--name", "Arch")
    before = read_plan(plan).motifs[-1].way.nib
    ask("piece", plan, "arch", "--rib", "0=-20")
    assert read_plan(plan).motifs[-1].way.nib != before
    assert "N=DEG" in ask("piece", plan, "arch", "--rib", "first", code=2)
    assert "rib of Arch" in ask("piece", plan, "arch", "--rib", "40=5", code=2)
