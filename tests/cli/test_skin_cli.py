"""Render, strokes and svg on the command line."""

import numpy as np
import pytest
from lantern_face import GIVEN
from PIL import Image

from pennello.files.plan_json import read_plan

DEMO = str(GIVEN)


def test_render_at_times_skins_and_threads(ask, tmp_path):
    first = ask("render", DEMO, "--png", tmp_path / "a.png", "--px-per-mm", "1.5", "--json")
    assert len(first["strokes"]) == 14
    assert first["engine"] == "kernel"
    with Image.open(tmp_path / "a.png") as picture:
        assert picture.size == (first["width_px"], first["height_px"])
        assert picture.info["dpi"][0] == pytest.approx(1.5 * 25.4, abs=0.1)
        one = np.array(picture)
    some = ask(
        "render", DEMO, "--png", tmp_path / "b.png", "--px-per-mm", "1.5", "--at", "12", "--skin", "-30", "--json"
    )
    assert some["strokes"] == first["strokes"][: len(some["strokes"])]
    assert len(some["strokes"]) < 11
    assert some["solids_mm3"] < first["solids_mm3"]
    ask("render", DEMO, "--png", tmp_path / "c.png", "--px-per-mm", "1.5", "--threads", "1")
    with Image.open(tmp_path / "c.png") as picture:
        assert (np.array(picture) == one).all()
    assert "threads" in ask("render", DEMO, "--png", tmp_path / "c.png", "--threads", "999", code=2)
    assert "resolution" in ask("render", DEMO, "--png", tmp_path / "c.png", "--px-per-mm", "900", code=2)


def test_families_are_listed_and_added(ask, tmp_path):
    listed = ask("strokes", "--list", "--json")["families"]
    assert {"key", "name", "words", "group", "applicator", "parameters"} <= set(listed[0])
    assert len(listed) >= 30
    assert "Fingernail" in ask("strokes")
    out = tmp_path / "out.pennello"
    ask("strokes", DEMO, "--add", "swirl", "--set", "turns=2", "--set", "radius_mm=20", "--out", out)
    assert read_plan(out).strokes[-1].name == "Swirl"
    assert "no family of strokes" in ask("strokes", DEMO, "--add", "zigzag", "--out", out, code=2)
    assert "key=number" in ask("strokes", DEMO, "--add", "swirl", "--set", "turns", "--out", out, code=2)
    assert "said with a plan" in ask("strokes", "--add", "swirl", "--out", out, code=2)
    assert "said with --add" in ask("strokes", DEMO, "--set", "turns=2", code=2)
    assert "said with --add" in ask("strokes", DEMO, "--out", out, code=2)
    assert "0.3 to 4" in ask("strokes", DEMO, "--add", "swirl", "--set", "turns=9", "--out", out, code=2)


def test_svg_out_and_in(ask, tmp_path):
    drawing, out = tmp_path / "x.svg", tmp_path / "out.pennello"
    assert "14 paths" in ask("svg", "export", DEMO, drawing)
    ask("svg", "import", DEMO, "dahlia-petal", drawing, "--number", "4", "--out", out)
    plan = read_plan(out)
    assert len(plan.stroke("dahlia-petal").stroke.path.points_mm) == len(
        plan.stroke("kelp-swoosh").stroke.path.points_mm
    )
    assert "1 to 14" in ask("svg", "import", DEMO, "dahlia-petal", drawing, "--number", "99", "--out", out, code=2)
