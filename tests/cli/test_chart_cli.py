"""motif, chart, render --chart and check on the command line."""

from argparse import ArgumentParser
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from lantern_face import DEMO_NAME, GIVEN
from PIL import Image

from pennello.chart.catalogue import CHARTS, chart
from pennello.chart.measures import Measures
from pennello.cli.asking import light_argument
from pennello.cli.plan_file import in_light
from pennello.colour.lights import Light
from pennello.files.demo import shipped_design
from pennello.files.plan_json import read_plan, write_plan
from pennello.files.svg import read_svg

SHIPPED = str(GIVEN)


@pytest.fixture
def demo_file(tmp_path):
    """A copy: what a verb writes over must not be the shipped plan."""
    path = tmp_path / DEMO_NAME
    write_plan(replace(read_plan(Path(SHIPPED)), motifs=(), overlays=(), parts=()), path)
    return path


def test_motifs_are_listed_made_and_written(ask, tmp_path, demo_file):
    listed = ask("motif", "--json")["motifs"]
    assert len(listed) >= 17
    assert {"key", "name", "words", "group", "parts", "parameters"} <= set(listed[0])
    assert "shell-flower" in ask("motif")
    assert "petal-ring" not in ask("motif"), "older ones are known, but not offered"
    made = ask("motif", "petal-ring", "--set", "petals=6", "--brush-mm", "12.7", "--svg", tmp_path / "a.svg", "--json")
    assert len(made["strokes"]) == 6
    assert "60 degrees apart" in made["says"][0]
    assert len(read_svg(tmp_path / "a.svg")) == 6
    assert "6 strokes" in ask("motif", "petal-ring", "--set", "petals=6")
    for words, told in (
        (("no-such",), "motif"),
        (("petal-ring", "--set", "petals"), "key=number"),
        (("petal-ring", "--set", "petals=99"), "2 to 40"),
        (("petal-ring", "--plan", demo_file, "--chart", "tail"), "chart"),
        (("petal-ring", "--plan", demo_file, "--load", "nobody"), "stroke"),
        (("petal-ring", "--plan", demo_file, "--scale", "99"), "0.1 to 10"),
    ):
        assert told in ask("motif", *words, code=2)


def test_lines_are_added_by_points_or_from_a_drawing(ask, demo_file, tmp_path):
    words = ("--points", "-30,-60 0,-70 30,-60", "--points", "0,-50", "--line-mm", "2.5", "--name", "edge")
    told = ask("piece", demo_file, "add", *words, "--colour", "#ffffff", "--taper", "thick to tip", "--json")["pieces"]
    (edge,) = told
    assert (edge["id"], edge["x_mm"], edge["y_mm"], edge["lines"]) == ("edge", 0.0, -60.0, 2)
    plan = read_plan(demo_file)
    load = plan.stroke(edge["loads"]["stroke"])
    assert plan.paint(load.recipe.pan_paints[0]).srgb == "#ffffff"
    assert plan.motifs[0].way.pressures[0].value > plan.motifs[0].way.pressures[1].value
    ask("motif", "petal-ring", "--svg", tmp_path / "ring.svg")
    ring = ("--svg", tmp_path / "ring.svg", "--chart", "hand", "--load", load.id, "--name", "ring")
    ask("piece", demo_file, "add", *ring)
    assert len(read_plan(demo_file).motifs[1].ways) == 5
    assert load.id in ask("contrast", demo_file)
    ask("piece", demo_file, "add", "--points", "0,20 400,20", "--load", load.id, "--chart", "leg", "--name", "stray")
    assert "leg, stray" in ask("check", demo_file, code=1)  # a chart with lines alone is looked at too
    assert "line" in ask("order", demo_file, "--chart", "face")
    ask("render", demo_file, "--chart", "face", "--png", tmp_path / "f.png")
    row = np.asarray(Image.open(tmp_path / "f.png")).reshape(-1, 3)
    assert (row.min(axis=1) >= 240).sum() > 50
    for wrong, sentence in (
        (("--colour", "#ffffff"), "--points"),
        (("--points", "1,2 3", "--colour", "#ffffff"), "X,Y in mm"),
        (("--points", "1,2", "--colour", "#ffffff", "--line-mm", "99"), "0.3 to 8 mm"),
        (("--points", "1,2", "--colour", "white"), "six hexadecimal digits"),
        (("--points", "1,2"), "--load LOAD"),
    ):
        assert sentence in ask("piece", demo_file, "add", *wrong, code=2)


def test_gems_and_stencils_are_turned(ask, demo_file, tmp_path):
    (tmp_path / "s.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0H10V6H0Z"/></svg>')
    ask(
        "layer",
        demo_file,
        "bar",
        "--add",
        "stencil",
        "--svg",
        tmp_path / "s.svg",
        "--at",
        "forehead",
        "--turn-deg",
        "90",
    )
    ask("layer", demo_file, "dust", "--add", "glitter", "--at", "chin")
    gem = ("--add", "gem", "--at", "forehead", "--gem", "drop", "--width-mm", "8")
    told = ask("layer", demo_file, "shine", *gem, "--json")["layers"]
    assert [(one["kind"], one.get("turn_deg"), one.get("shape")) for one in told] == [
        ("stencil", 90.0, None),
        ("glitter", None, None),
        ("gem", 0.0, "drop"),
    ]
    assert told[2]["width_mm"] == 8
    for words, sentence in (
        (("dust", "--turn-deg", "20"), "only stencils and gems are turned"),
        (("shine", "--turn-deg", "2000"), "-360 to 360 degrees"),
        (("shine", "--amount", "2"), "one gem"),
    ):
        assert sentence in ask("layer", demo_file, *words, code=2)
    ask("layer", demo_file, "shine", "--width-mm", "90")
    assert read_plan(demo_file).overlays[2].width_mm == 25
    order = ask("order", demo_file, "--chart", "face", "--json")
    kinds = [one["kind"] for one in order["steps"] if one["kind"] in ("stencil", "gem")]
    assert kinds == ["stencil", "gem"], "a gem is stuck on what lies below it"
    assert "gems" in [one["code"] for one in ask("cautions", demo_file, "--json")["cautions"]]


@pytest.mark.parametrize(
    ("said", "key"),
    [
        ("petal ring", "petal-ring"),
        ("Petal_Ring", "petal-ring"),
        ("rose outside-in", "rose-outside-in"),
        ("Rose, inside out", "rose-inside-out"),
        ("plume", "plume"),
        ("barbed", "barbed-feather"),
        ("dot cluster", "dots"),
        ("swirl with teardrops", "swirl-drops"),
        ("crown", "peaks"),
        ("fill", "fill"),
    ],
)
def test_motifs_are_known_by_key_name_or_enough_of_it(ask, said, key):
    assert ask("motif", said, "--json")["motif"] == key


def test_what_may_mean_several_is_asked_back(ask):
    assert "there is no motif 'rose'" in ask("motif", "rose", code=2)
    assert "there is no chart 'wearer'" in ask("order", SHIPPED, "--chart", "wearer", code=2)
    assert "petal" in ask("order", SHIPPED, "--chart", "Hand, wearer's right", "--seconds", "0")
    assert "wearer's left" in ask("chart", "hand left")


def test_a_motif_tells_its_arithmetic_as_numbers(ask, demo_file):
    """Seven petals on a ring of 30 mm: a step is the chord 2 r sin(pi / 7) at half a petal's height."""
    words = ("petal-ring", "--set", "petals=7", "--set", "radius_mm=30", "--set", "height_mm=10", "--brush-mm", "10")
    made = ask("motif", *words, "--per-load", "3", "--json")
    (space,) = made["spacings"]
    assert space["step_mm"] == pytest.approx(2 * 35 * np.sin(np.pi / 7))
    assert space["allows_mm"] == pytest.approx(12 + 10)
    assert space["overlap_mm"] == pytest.approx(22 - space["step_mm"])
    assert space["fit"] == int(np.ceil(np.pi / np.arcsin(22 / 70)))
    assert (made["loads"], made["per_load"]) == (3, 3)
    assert made["seconds"] > 12 + 2 * 4  # a first load and two more
    assert "gaps of 8.4 mm" in made["says"][0]
    placed = ask("motif", *words, "--per-load", "7", "--plan", demo_file, "--json")
    assert read_plan(demo_file).motifs[-1].id == placed["placed"]
    kept = read_plan(demo_file)
    assert {kept.stroke(load).reload_after for _, load in kept.motifs[-1].loads} == {7}
    assert "1 to 40" in ask("motif", *words, "--per-load", "0", code=2)


@pytest.mark.slow
def test_chart_is_written_and_painted(ask, tmp_path, demo_file):
    assert "forearm" in ask("chart")
    assert len(ask("chart", "--json")["charts"]) == len(CHARTS) == 22
    face = ask("chart", "face", "--age", "child", "--head-mm", "140", "--svg", tmp_path / "f.svg", "--json")
    assert face["landmarks"]["nose bridge"] == [0, 0]
    assert (tmp_path / "f.svg").read_text().startswith("<svg")
    assert "from memory" in ask("chart", "hand")
    assert "head breadth" in ask("chart", "face", "--head-mm", "1", code=2)
    plan = tmp_path / "p.pennello"
    said = ask(
        "motif",
        "petal-ring",
        "--plan",
        demo_file,
        "--out",
        plan,
        "--x-mm",
        "-30",
        "--y-mm",
        "5",
        "--twin",
        "--load",
        "beetle-scale",
        "--set",
        "radius_mm=8",
        "--set",
        "spread_mm=6",
        "--set",
        "height_mm=9",
    )
    assert "10 strokes" in said
    assert read_plan(plan).motifs[0].twin
    found = ask("render", plan, "--chart", "face", "--png", tmp_path / "f.png", "--px-per-mm", "1.5", "--json")
    assert found["strokes"] == 10
    with Image.open(tmp_path / "f.png") as picture:
        assert picture.size == (found["width_px"], found["height_px"])
        straight = np.array(picture)
    words = ("--mirror", "--skin", "60")
    ask("render", plan, "--chart", "face", "--png", tmp_path / "m.png", "--px-per-mm", "1.5", *words)
    with Image.open(tmp_path / "m.png") as picture:
        assert (np.array(picture) != straight).any()
    checked = ask("check", plan, "--json", code=1)
    assert {"keep_clear"} <= {one["code"] for one in checked["charts"]}
    assert "eye opening" in ask("check", plan, code=1)
    assert "chart" in ask("render", plan, "--chart", "tail", "--png", tmp_path / "x.png", code=2)


def test_layers_contrast_and_the_wish(ask, demo_file, tmp_path):
    ask("layer", demo_file, "horn", "--add", "place", "--at", "nose bridge", "--width-mm", 18)
    ask("layer", demo_file, "dust", "--add", "glitter", "--x-mm", 3, "--amount", 80, "--colour", "#ffffff")
    (tmp_path / "s.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0H10V10H0Z"/></svg>')
    ask("layer", demo_file, "cut", "--add", "stencil", "--svg", tmp_path / "s.svg", "--chart", "hand")
    listed = ask("layer", demo_file, "dust", "--y-mm", -20, "--json")["layers"]
    assert [one["kind"] for one in listed] == ["glitter", "stencil", "place"]
    assert listed[0]["at_mm"] == [3.0, -20.0]
    assert listed[2]["width_mm"] == 18
    ask("layer", demo_file, "dust", "--remove")
    assert "no layer 'dust'" in ask("layer", demo_file, "dust", "--remove", code=2)
    assert "no other one has" in ask("layer", demo_file, "horn", "--add", "place", code=2)
    assert "--svg" in ask("layer", demo_file, "x", "--add", "stencil", code=2)
    assert "place" in ask("layer", demo_file)
    found = ask("contrast", demo_file, "--skin", 60, "--json")["readings"]
    assert len(found) == 14
    assert all(1 <= one["rim"] <= 21 for one in found)
    assert "rim" in ask("contrast", demo_file)
    ask("motif", "bud", "--plan", demo_file, "--load", "beetle-scale")
    ask("render", demo_file, "--chart", "face", "--wish", "--px-per-mm", 1, "--png", tmp_path / "w.png")
    with Image.open(tmp_path / "w.png") as picture:
        assert picture.size[0] > 100


@pytest.mark.slow
def test_eyes_are_closed_with_all_that_lies_there(ask, tmp_path):
    path = tmp_path / "walk.pennello"
    ask("new", path, "--demo")
    before = read_plan(path)
    on_face = [one.id for one in before.motifs if one.chart == "face"]
    assert on_face
    out = tmp_path / "closed.pennello"
    ask("chart", "face", "--plan", path, "--eyes", "closed", "--out", out)
    assert read_plan(path) == before
    assert [one.id for one in read_plan(out).motifs if one.chart == "face-eyes-closed"] == on_face
    ask("chart", "face-eyes-closed", "--plan", out, "--eyes", "open")
    assert read_plan(out).motifs == before.motifs
    assert "eye" in ask("chart", "hand", "--plan", path, "--eyes", "closed", code=2)
    assert "--eyes" in ask("chart", "face", "--plan", path, code=2)


def test_a_plan_is_put_into_the_light_of_its_place(ask, tmp_path, demo_file):
    assert "light of the place: lantern" in ask("chart", "--plan", demo_file, "--light", "lantern", "--skin", "-20")
    plan = read_plan(demo_file)
    assert (plan.light, plan.skin.ita_deg) == (Light.LANTERN, -20.0)
    pictures = {}
    for light in ("daylight", "lantern"):
        where = tmp_path / f"{light}.png"
        more = ("--chart", "cheek-left", "--px-per-mm", "1", "--as-listed", "--json")
        told = ask("render", demo_file, "--png", where, "--light", light, *more)
        assert told["light"] == light
        pictures[light] = np.array(Image.open(where).convert("RGB")).astype(int)
    own = tmp_path / "own.png"
    ask("render", demo_file, "--png", own, "--chart", "cheek-left", "--px-per-mm", "1", "--as-listed")
    assert (np.array(Image.open(own).convert("RGB")) == pictures["lantern"]).all(), "the plan's own without --light"
    assert (pictures["lantern"] - pictures["daylight"])[..., 2].min() < -10
    day, lantern = (ask("contrast", demo_file, "--light", one, "--skin", "40", "--json") for one in pictures)
    assert (day["light"], lantern["light"]) == ("daylight", "lantern")
    assert day["readings"] != lantern["readings"]
    parser = ArgumentParser()
    light_argument(parser)
    typed = [one.name.lower() for one in Light]
    assert [parser.parse_args(["--light", one]).light for one in typed] == typed, "every light can be typed"
    assert [in_light(plan, one).light for one in typed] == list(Light)
    assert "the plan whose skin or light it is" in ask("chart", "--light", "dusk", code=2)


def test_a_close_view_is_written(ask, tmp_path, demo_file):
    told = ask("chart", "face")
    for listed in ("close views: eye, wearer's right", "landmarks: nose bridge; ", "frames: heart; mask", "; lips\n"):
        assert listed in told
    assert "zones: none" in ask("chart", "hand")
    eye = "eye, wearer's left"
    x, y, width = ask("chart", "face", "--json")["views"][eye]
    file = tmp_path / "eye.png"
    words = ("render", demo_file, "--chart", "face", "--px-per-mm", "2")
    pictures = []
    for view in ("", eye):
        ask(*words, "--view", view, "--png", file)
        with Image.open(file) as image:
            pictures.append(np.asarray(image))
    left, top, _, _ = chart("face", Measures()).bounds_mm
    row, column = (round(2 * (at - width / 2 - round(edge) + 6)) for at, edge in ((y, top), (x, left)))
    side = round(2 * width)
    assert np.array_equal(pictures[1], pictures[0][row : row + side, column : column + side])
    assert "horn" in ask(*words, "--view", "horn", "--png", file, code=2)
    assert "--chart" in ask("render", demo_file, "--view", eye, "--png", file, code=2)


def test_designs_are_listed_and_written(ask, tmp_path):
    listed = ask("designs", "--json")["designs"]
    assert len(listed) == 12
    assert "moth-mask" in ask("designs")
    file = tmp_path / "moth.pennello"
    assert "Moth mask, dusk" in ask("designs", "moth-mask", "--other", "--out", file)
    assert read_plan(file) == shipped_design("moth-mask").plan(other=True)
    assert "there already" in ask("designs", "moth-mask", "--out", file, code=2)
    assert "there is no design" in ask("designs", "horn", code=2)
    assert "which design" in ask("designs", "--out", file, code=2)


def test_a_photo_stands_for_a_chart(ask, tmp_path, demo_file):
    shot = Path(demo_file).parent / "shot.png"
    Image.fromarray(np.full((300, 400, 3), (10, 40, 230), np.uint8)).save(shot)
    marks = ("--mark", "pupil, wearer's right=130,150", "--mark", "pupil, wearer's left=270,150")
    told = ask("chart", "face", "--plan", demo_file, "--photo", shot, *marks, "--width-mm", "60", "--json")
    assert told["measures"]["head_breadth_mm"] == pytest.approx(60 / 0.43, abs=0.1)
    assert read_plan(demo_file).photos[0].file == "shot.png"
    pictures = []
    for more in ((), ("--drawn",)):
        ask("render", demo_file, "--chart", "face", "--px-per-mm", "1", "--png", tmp_path / "a.png", *more)
        with Image.open(tmp_path / "a.png") as image:
            pictures.append(np.asarray(image).reshape(-1, 3).astype(int))
    blue = [(np.abs(one - (10, 40, 230)).max(axis=1) < 10).mean() for one in pictures]
    assert blue[0] > 0.3 > blue[1]
    shot.unlink()
    assert "not there" in ask("render", demo_file, "--chart", "face", "--png", tmp_path / "a.png", code=2)
    assert "twice" in ask("chart", "face", "--plan", demo_file, "--photo", "x.png", code=2)
    assert "NAME=X,Y" in ask("chart", "face", "--plan", demo_file, "--photo", "x.png", "--mark", "nose", code=2)
    assert "drawn again" in ask("chart", "face", "--plan", demo_file, "--photo", "none")
    assert not read_plan(demo_file).photos


def test_without_a_place_a_motif_goes_where_there_is_room(ask, demo_file):
    ask("motif", "dip-flower", "--plan", demo_file)
    ask("motif", "dip-flower", "--plan", demo_file)
    ask("motif", "dip-flower", "--plan", demo_file, "--x-mm", "3")
    first, second, told = (one.place for one in read_plan(demo_file).motifs)
    assert (first.x_mm, first.y_mm) == pytest.approx(chart("face", Measures()).landmark("forehead"), abs=0.1)
    assert second.y_mm > 15, "the forehead is taken: a cheek"
    assert (told.x_mm, told.y_mm) == (3.0, 0.0)


def test_a_motif_with_a_mirror_image_does_not_lie_on_it(ask, demo_file):
    ask("motif", "dip-flower", "--plan", demo_file, "--twin")
    assert read_plan(demo_file).motifs[0].place.x_mm > 20


@pytest.mark.parametrize("verb", ["motif", "chart", "designs", "lessons", "strokes"])
def test_what_is_listed_by_the_verb_alone_is_listed_by_the_word_too(ask, verb):
    assert ask(verb, "list") == ask(verb)


def test_deed_or_plan_may_come_first(ask, demo_file):
    ask("motif", "dip-flower", "--plan", demo_file)
    assert ask("piece", "list", demo_file) == ask("piece", demo_file, "list")
    assert ask("part", "list", demo_file, "--json") == ask("part", demo_file, "list", "--json")
