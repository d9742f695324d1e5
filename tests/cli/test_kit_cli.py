"""Loads and kit on the command line."""

from pathlib import Path

import numpy as np
import pytest
from lantern_face import GIVEN
from PIL import Image
from pypdf import PdfReader

from pennello.files.plan_json import read_plan
from pennello.kit.paint import masstones

DEMO = str(GIVEN)


@pytest.fixture
def kit(tmp_path):
    return ("--kit", tmp_path / "kit.sqlite")


def test_load_says_its_axis_and_every_kind_can_be_asked(ask, tmp_path):
    assert ask("load", DEMO, "kelp-leaf", "--json")["axis"] == "along"
    flat = ask("load", DEMO, "dahlia-petal", "--json")
    assert flat["axis"] == "across"
    out = tmp_path / "out.pennello"
    changed = ask("load", DEMO, "dahlia-petal", "--as", "halves", "--out", out, "--json")
    assert len(changed["boundaries"]) == 1
    assert len(read_plan(out).stroke("dahlia-petal").recipe.pickups) == 2
    assert "does not take" in ask("load", DEMO, "dahlia-petal", "--as", "tip", code=2)
    assert 0 < flat["scatter"]["widest"] < 0.95
    assert np.shape(flat["scatter"]["low"]) == (len(flat["paints"]), 64)


def test_kit_is_listed_searched_and_changed(ask, kit):
    assert "foam-white" in ask("kit", "list", *kit)
    found = ask("kit", "list", "--kind", "cake", "--neighbours", "white", "coral", "--json", *kit)
    assert [item["id"] for item in found["items"]] == ["poppy-brow"]
    ask("kit", "add", "paint", "Pine", "--srgb", "#3f7d2c", "--contrast", "0,8", "--eye-area", "no", *kit)
    ask("kit", "add", "cake", "Woods", "--stripes", "pine:8 foam-white:5", *kit)
    (pine,) = ask("kit", "list", "--search", "eye:no pine", "--json", *kit)["items"]
    assert (pine["contrast"], pine["eye_area"]) == (0.8, False)
    assert "no paint 'x'" in ask("kit", "add", "cake", "Bad", "--stripes", "x:8 pine:5", *kit, code=2)
    assert "Nothing in the kit" in ask("kit", "list", "--search", "zzz", *kit)


def test_kit_goes_out_and_in_with_a_preview(ask, kit, tmp_path):
    out = tmp_path / "kit.csv"
    ask("kit", "export", out, *kit)
    text = out.read_text().replace("Poppy Red", "Harbour Red")
    out.write_text(text + "paint,bad,Bad,pink\n")
    shown = ask("kit", "import", out, "--preview", "--json", *kit)
    assert shown["done"] is False
    assert shown["changed"] == {"poppy-red": ["name"]}
    assert "line" in shown["refused"][0]["problem"]
    assert "Nothing was changed" in ask("kit", "import", out, *kit, code=2)
    assert "1 changed" in ask("kit", "import", out, "--skip-bad", *kit)
    ask("kit", "export", tmp_path / "kit.gpl", *kit)
    assert "0 new" in ask("kit", "import", tmp_path / "kit.gpl", *kit)
    assert ".csv or .gpl" in ask("kit", "export", tmp_path / "kit.ods", *kit, code=2)


def test_paints_are_measured(ask, kit, tmp_path):
    read = ask("kit", "add", "paint", "Read", "--read", "kelp-green", "--json", *kit)["item"]
    assert len(read["reflectance"]) == 36
    curve = tmp_path / "r.csv"
    pairs = zip(range(380, 731, 10), read["reflectance"], strict=True)
    curve.write_text("nm,r\n" + "\n".join(f"{nm},{value}" for nm, value in pairs))
    again = ask("kit", "add", "paint", "Again", "--reflectance", curve, "--json", *kit)["item"]
    assert again["srgb"] == read["srgb"]
    picture = np.full((40, 80, 3), 230, np.uint8)
    picture[:, :40] = (100, 30, 60)
    Image.fromarray(picture).save(tmp_path / "s.png")
    words = ("--swatch", tmp_path / "s.png", "--area", "4,4,30,30", "--white", "44,4,30,30")
    assert ask("kit", "add", "paint", "Seen", *words, "--json", *kit)["item"]["srgb"].startswith("#6")
    assert "one way" in ask("kit", "add", "paint", "Two", "--read", "kelp-green", "--reflectance", curve, *kit, code=2)
    assert "no area" in ask("kit", "add", "paint", "X", "--swatch", tmp_path / "s.png", "--area", "1,2", *kit, code=2)


def test_ladder_cake_and_wear(ask, tmp_path):
    ladder = ask("ladder", DEMO, "tide-rainbow", "--steps", "4", "--brush", "flat-1-2", "--json")
    assert len(ladder["offsets_mm"]) == len(ladder["L"]) == 4
    steps = -np.diff(ladder["L"])
    assert np.ptp(steps) <= 0.6
    label = tmp_path / "label.pdf"
    cake = ask("cake", DEMO, "dahlia-wrist", "--pdf", label, "--json")
    assert cake["width_mm"] == 28
    assert [mix["word"] for mix in cake["mixes"]]
    assert "Dahlia Wrist" in PdfReader(label).pages[0].extract_text()
    out = tmp_path / "worn.pennello"
    worn = ask("wear", DEMO, "dahlia-petal", "--loads", "30", "--out", out, "--json")
    assert max(worn["dahlia-wrist"]["hollow_mm"]) > 0
    assert read_plan(out).cake("dahlia-wrist").stripes[1].hollow_mm > 0
    before = out.read_bytes()
    assert "Nothing was written" in ask("wear", out, "dahlia-petal", "--clean")
    assert out.read_bytes() == before
    ask("wear", out, "dahlia-petal", "--clean", "--apply")
    assert not any(stripe.dirt for stripe in read_plan(out).cake("dahlia-wrist").stripes)
    assert "1 to 10000" in ask("wear", DEMO, "dahlia-petal", "--loads", "0", "--out", out, code=2)


def test_calibrate(ask, tmp_path):
    out = tmp_path / "own.pennello"
    seen = ("--full-after", "9", "--petals", "4x60", "--blend-mm", "3", "--out", out)
    fits = ask("calibrate", DEMO, "flat-3-4", *seen, "--json")["fits"]
    assert fits[0]["value"] == pytest.approx(9 / np.log(20), rel=1e-3)
    assert set(read_plan(out).brush("flat-3-4").own) == {"fill_passes", "release_mm", "drift_mm"}
    assert "at least one" in ask("calibrate", DEMO, "flat-3-4", code=2)


def test_measured_paints_ride_in_plans(tmp_path):
    from dataclasses import replace

    from pennello.files.plan_json import write_plan

    plan = read_plan(Path(DEMO))
    curve = tuple(masstones((plan.paint("kelp-green"),))[0].tolist())
    plan = replace(plan, paints=(*plan.paints, replace(plan.paint("kelp-green"), id="m", reflectance=curve)))
    write_plan(plan, tmp_path / "m.pennello")
    assert read_plan(tmp_path / "m.pennello") == plan


def test_the_parser_names_all_ways():
    from pennello.cli.verbs import LOAD_KEYS
    from pennello.design.load_kinds import LOAD_KINDS

    assert tuple(kind.key for kind in LOAD_KINDS) == LOAD_KEYS
