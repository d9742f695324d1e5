"""find-load, design-cake, forgive, loads, colourways and wish on the command line."""

import numpy as np
import pytest
from lantern_face import GIVEN
from PIL import Image

from pennello.files.plan_json import read_plan

DEMO = str(GIVEN)


def test_find_load_answers_and_takes(ask, tmp_path):
    found = ask("find-load", DEMO, "beetle-scale", "--json", "--top", "3")
    assert set(found) >= {"candidates", "searched", "seconds"}
    first = found["candidates"][0]
    assert set(first) >= {
        "cake",
        "applicator",
        "offset_mm",
        "flipped",
        "drift_mm",
        "mean_de00",
        "p95_de00",
        "holds_share",
    }
    assert len(found["candidates"]) == 3
    assert [one["mean_de00"] for one in found["candidates"]] == sorted(one["mean_de00"] for one in found["candidates"])
    out = tmp_path / "out.pennello"
    words = ask("find-load", DEMO, "beetle-scale", "--take", "1", "--out", out)
    assert "places looked at" in words
    laid = ask("lay", out, "beetle-scale", "--json")
    assert laid["verdict"]["mean_de00"] == pytest.approx(first["mean_de00"], abs=0.25)
    only = ask("find-load", DEMO, "beetle-scale", "--cakes", "mackerel-back,heron-fur", "--one-visit", "--json")
    assert {one["cake"] for one in only["candidates"]} <= {"mackerel-back", "heron-fur"}
    kept = ask("find-load", DEMO, "beetle-scale", "--kit", "--keep-brush", "--top", "2", "--json")
    assert {one["applicator"] for one in kept["candidates"]} == {"flat-1-2"}


@pytest.mark.parametrize(
    ("words", "told"),
    [
        (("find-load", DEMO, "nobody"), "stroke"),
        (("find-load", DEMO, "beetle-scale", "--cakes", "none-such"), "cake"),
        (("find-load", DEMO, "beetle-scale", "--top", "0"), "1 to 40"),
        (("find-load", DEMO, "beetle-scale", "--kit", "/nowhere/kit.sqlite"), "not there"),
        (("find-load", DEMO, "beetle-scale", "--top", "2", "--take", "9"), "--take"),
        (("design-cake", DEMO, "dahlia-petal", "--stripes", "9"), "2 to 7"),
        (("design-cake", DEMO, "dahlia-petal", "--paints", "foam-white"), "at least two paints"),
        (("design-cake", DEMO, "dahlia-petal", "--paints", "none-such"), "paint"),
        (("design-cake", DEMO, "dahlia-petal", "--seconds", "0"), "seconds"),
        (("design-cake", DEMO, "dahlia-petal", "--weights", "1,2"), "weights"),
        (("design-cake", DEMO, "dahlia-petal", "--pan-mm", "9"), "narrower than the brush"),
        (("forgive", DEMO, "dahlia-petal", "--tries", "3"), "number of tries"),
        (("loads", DEMO, "--quality", "99"), "quality"),
        (("wish", DEMO, "dahlia-petal"), "Say what is wanted"),
        (("wish", DEMO, "dahlia-petal", "--usual", "--load"), "one way only"),
        (("wish", DEMO, "dahlia-petal", "--stops", "none-such"), "paint"),
        (("wish", DEMO, "dahlia-petal", "--stops", "foam-white:x"), "PAINT:END:BLEND"),
        (("wish", DEMO, "dahlia-petal", "--picture", "x.png"), "--line"),
    ],
)
def test_wrong_wishes_get_one_sentence(ask, words, told):
    said = ask(*words, code=2)
    assert told in said
    assert "Traceback" not in said


def test_design_cake_answers_and_adds(ask, tmp_path):
    out = tmp_path / "out.pennello"
    words = ("design-cake", DEMO, "dahlia-petal,plume-eye", "--seconds", "1.5", "--keep", "samphire")
    found = ask(*words, "--json", "--add", "--out", out)
    first = found["cakes"][0]
    assert set(first) >= {"stripes", "offset_mm", "mean_de00", "holds_share", "strokes"}
    assert "samphire" in {stripe["paint"] for stripe in first["stripes"]}
    assert min(stripe["width_mm"] for stripe in first["stripes"]) >= 2.49
    plan = read_plan(out)
    assert plan.stroke("plume-eye").recipe.cakes == plan.stroke("dahlia-petal").recipe.cakes
    three = ask("design-cake", DEMO, "dahlia-petal", "--stripes", "3", "--pan-mm", "24", "--seconds", "1", "--json")
    assert all(len(cake["stripes"]) == 3 for cake in three["cakes"])
    assert all(cake["width_mm"] == pytest.approx(24, abs=0.05) for cake in three["cakes"])
    dark = ask("design-cake", DEMO, "dahlia-petal", "--paints", "sea-plum,bladderwrack", "--seconds", "0.5")
    assert "No order of stripes can do it" in dark


def test_forgive_answers(ask):
    found = ask("forgive", DEMO, "dahlia-petal", "--tries", "50", "--seed", "3", "--json")
    assert found == ask("forgive", DEMO, "dahlia-petal", "--tries", "50", "--seed", "3", "--json")
    assert found["interval"][0] <= found["holds_share"] <= found["interval"][1]
    assert found["minds_most"] in found["minds"]
    words = ask("forgive", DEMO, "dahlia-petal", "--tries", "50", "--hand", "bumpy")
    assert "bumpy hand" in words
    assert "It minds" in words


def test_a_dip_and_a_colour_are_asked_for(ask, tmp_path):
    out = tmp_path / "out.pennello"
    found = ask("find-load", DEMO, "kelp-leaf", "--json", "--top", "2", "--take", "1", "--out", out)["candidates"]
    assert [one["way"] for one in found[0]["pickups"]] == ["dip"] * len(found[0]["pickups"])
    assert read_plan(out).stroke("kelp-leaf").recipe.pan_paints == tuple(
        dict.fromkeys(name for one in found[0]["pickups"] for name in one["pan"])
    )
    assert "dip in" in ask("find-load", DEMO, "kelp-leaf", "--top", "1")
    ways = ask("colourways", DEMO, "--kit", "--colour", "blue", "--strokes", "dahlia-petal", "--json")["colourways"]
    assert all("blue" in way["name"] and list(way["cakes"]) == ["dahlia-wrist"] for way in ways)


@pytest.mark.slow
def test_loads_and_colourways(ask, tmp_path):
    out = tmp_path / "out.pennello"
    found = ask("loads", DEMO, "--json", "--apply", "--out", out, "--seconds", "1")
    assert found["loads"] <= found["before"]
    assert sum(len(one["strokes"]) for one in found["served"]) == 14
    assert len(read_plan(out).strokes) == 14
    assert "instead of" in ask("loads", DEMO, "--seconds", "1")
    ways = ask("colourways", DEMO, "--json", "--kit", "--take", "1", "--out", out)["colourways"]
    assert read_plan(out).stroke("dahlia-petal").recipe.cakes == (ways[0]["cakes"]["dahlia-wrist"],)
    assert all(one["own"] or one["mean_de00"] <= 6 for served in found["served"] for one in served["strokes"])
    assert "->" in ask("colourways", DEMO, "--kit")


def test_wish_is_written(ask, tmp_path):
    out = tmp_path / "out.pennello"
    said = ask("wish", DEMO, "kelp-swoosh", "--usual", "--rim-mm", "8", "--near", "eye", "--out", out, "--json")
    assert said["stops"][0]["to_u"] == pytest.approx(8 / 25.4, abs=1e-3)
    plan = read_plan(out)
    assert plan.stroke("kelp-swoosh").near.value == "eye"
    ask("wish", out, "kelp-swoosh", "--stops", "#ffffff:0.5:2,samphire", "--at-end")
    assert len(read_plan(out).stroke("kelp-swoosh").wanted.end) == 2
    assert "Foam White" in ask("wish", out, "kelp-swoosh", "--like", "dahlia-petal")
    ask("wish", out, "kelp-swoosh", "--load", "--tolerance", "4")
    assert read_plan(out).stroke("kelp-swoosh").wanted.tolerance_de00 == 4
    picture = np.full((20, 60, 3), 250, np.uint8)
    picture[:, 30:] = 20
    Image.fromarray(picture).save(tmp_path / "petal.png")
    said = ask("wish", out, "kelp-swoosh", "--picture", tmp_path / "petal.png", "--line", "2,10,57,10", "--json")
    assert [stop["srgb"] for stop in said["stops"]] == ["#fafafa", "#141414"]
    assert "within the picture" in ask(
        "wish", out, "kelp-swoosh", "--picture", tmp_path / "petal.png", "--line", "2,10,570,10", code=2
    )
