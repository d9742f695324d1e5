"""Plans on disk: round trip, the published schema, bad files, all-or-nothing writing."""

import errno
import itertools
import json
import os
import re
import stat
from dataclasses import replace
from pathlib import Path

import msgspec
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from lantern_face import demo_plan

from pennello.aim.attempt import Side
from pennello.aim.wish import Stop, Wanted
from pennello.design.ordering import Priority
from pennello.design.part import Habit
from pennello.design.plan import Plan, PlanStroke, Reload, Skin
from pennello.errors import FileProblemError
from pennello.files.plan_json import parse_plan, plan_bytes, read_plan, write_plan
from pennello.files.plan_schema import VERSION, json_schema
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Stripe
from pennello.kit.contact import contact_width_mm
from pennello.kit.paint import Finish, Paint
from pennello.lay.stroke import Exit, Key, Nib, NibMode, Over, PartKey, Pats, Stroke, Wiggle
from pennello.load.recipe import Before, PickUp, Recipe, Wetness
from pennello.path.cubic import CubicPath

ROOT = Path(__file__).parents[2]
MINIMAL = ROOT / "examples" / "minimal.pennello"

number = st.floats(-100, 100)
keys = st.lists(st.tuples(st.floats(0, 1), st.floats(0.05, 1)), min_size=1, max_size=3).map(
    lambda pairs: tuple(Key(at, value) for at, value in sorted(pairs))
)
plans = st.builds(
    lambda title, ita, paint, widths, brush, pickup, stroke, wanted, rim: Plan(
        title,
        "",
        Skin(ita),
        (paint, replace(paint, id="other")),
        (Cake("cake", "Cake", tuple(Stripe(paint.id, width) for width in widths)),),
        (brush,),
        (PlanStroke("s", "S", brush.id, Recipe((pickup,)), stroke, wanted, rim),),
    ),
    st.text(max_size=30).filter(lambda text: text.isprintable()),
    st.floats(-60, 70),
    st.builds(
        Paint,
        st.just("p"),
        st.just("P"),
        st.just("#aa1133"),
        st.none() | st.floats(0.01, 0.999),
        st.floats(1, 100),
        st.floats(0.1, 5),
        st.sampled_from(Finish),
        st.booleans(),
        st.booleans(),
    ),
    st.lists(st.floats(0.5, 60), min_size=2, max_size=7),
    st.builds(Applicator, st.just("b"), st.just("B"), st.floats(2, 60)),
    st.builds(
        PickUp,
        st.just("cake"),
        st.floats(-100, 400),
        st.booleans(),
        st.floats(-60, 60),
        st.floats(0, 100),
        st.floats(0, 20),
        st.sampled_from(Wetness),
        st.sampled_from(Before),
    ),
    st.builds(
        Stroke,
        st.lists(st.tuples(number, number), min_size=4, max_size=4).map(lambda p: CubicPath(tuple(p))),
        st.builds(Nib, st.sampled_from(NibMode), number, number, st.floats(0, 1), keys),
        st.floats(0.05, 1),
        st.builds(Wiggle, st.floats(0, 10), st.floats(0, 10)),
        st.lists(st.floats(0, 100), max_size=3).map(lambda at: tuple(sorted(at))),
        keys,
        st.lists(st.floats(0, 100), max_size=3).map(lambda at: tuple(sorted(at))),
        st.just((0.25, 0.75)),
        st.floats(0, 100),
        st.sampled_from(Exit),
    ),
    st.just(Wanted((Stop("p", to_u=0.4), Stop(srgb="#102030", blend_mm=0.5)))),
    st.sampled_from(Side),
)


@given(plans)
def test_what_is_written_is_read(plan):
    assert parse_plan(plan_bytes(plan), "x") == plan


def test_numbers_from_arrays_are_saved_as_numbers(demo):
    import numpy as np

    odd = replace(demo, skin=Skin(np.float64(12.5)))
    assert parse_plan(plan_bytes(odd), "x") == odd


def test_demo_and_example_read(demo):
    assert parse_plan(plan_bytes(demo), "x") == demo
    assert read_plan(MINIMAL).stroke("line").brush == "flat"


def test_published_schema_is_the_one_in_use():
    published = json.loads((ROOT / "docs" / "pennello.schema.json").read_text("utf-8"))
    assert published == json.loads(msgspec.json.encode(json_schema()))


# --- bad files: one sentence with the place, nothing changed ---

GOOD = MINIMAL.read_text("utf-8")
BAD = {
    "cut off": (GOOD[: len(GOOD) // 2], "breaks off after"),
    "empty": ("", "is empty"),
    "no json": ("hello", "not valid JSON"),
    "a list": ("[]", "expected a table"),
    "other json": ('{"a": 1}', "not a Pennello plan"),
    "newer": (GOOD.replace('"schema": 1', '"schema": 99'), "newer Pennello"),
    "older": (GOOD.replace('"schema": 1', '"schema": 0'), "schema"),
    "negative width": (GOOD.replace('"width_mm": 12', '"width_mm": -12'), "cakes[0].stripes[0].width_mm"),
    "zero width": (GOOD.replace('"width_mm": 12', '"width_mm": 0'), "cakes[0].stripes[0].width_mm"),
    "wrong type": (GOOD.replace('"width_mm": 12', '"width_mm": "12"'), "expected a number, got text"),
    "nan": (GOOD.replace('"width_mm": 12', '"width_mm": NaN'), "not valid JSON at line"),
    "infinite": (GOOD.replace('"width_mm": 12', '"width_mm": 1e999'), "cakes[0].stripes[0].width_mm"),
    "huge": (GOOD.replace('"width_mm": 12', '"width_mm": 1e9'), "0.5 to 120 mm"),
    "typing slip": (GOOD.replace('"drift_mm"', '"drft_mm"'), "unknown field 'drft_mm'"),
    "unknown paint": (GOOD.replace('"paint": "red", "width', '"paint": "rde", "width'), "cakes[0].stripes[1].paint"),
    "unknown cake": (GOOD.replace('"cake": "two"', '"cake": "too"'), "strokes[0].load.pickups[0].cake"),
    "same id twice": (GOOD.replace('"id": "red"', '"id": "white"', 1), "used twice"),
    "too few points": (GOOD.replace("[[0, 0], [20, 0], [40, 0], [60, 0]]", "[[0, 0], [60, 0]]"), "strokes[0].path"),
    "far point": (GOOD.replace("[60, 0]]", "[6e9, 0]]"), "strokes[0].path"),
    "bad colour": (GOOD.replace("#c8161d", "scarlet"), "paints[1].srgb"),
    "missing wish": (GOOD.replace('"wanted"', '"wnated"'), "wnated"),
    "deep": ('{"format": "pennello-plan", "schema": 1, "cakes": ' + "[" * 100_000, "nested too deeply"),
    "bytes": (b"\xff\xfe\x00", "no UTF-8"),
    "one bit": (GOOD.replace("Red", "R\udce5d").encode("utf-8", "surrogateescape"), "holds a damaged sign"),
    "twice": (GOOD.replace('"width_mm": 12', '"width_mm": 12, "width_mm": 13'), "'width_mm' stands twice"),
    "later key": (GOOD.replace('"width_mm": 12', '"width_mm": 12, "hollow_mm": 1'), "came with schema 2"),
    "no schema": (GOOD.replace('"schema": 1', '"schema": -5'), "there is no schema -5"),
    "long key": (GOOD.replace('"drift_mm"', '"' + "k" * 3_000_000 + '"'), "unknown field"),
}


@pytest.mark.parametrize("name", BAD)
def test_bad_files_get_one_sentence(name, tmp_path):
    content, words = BAD[name]
    path = tmp_path / "plan.pennello"
    path.write_bytes(content if isinstance(content, bytes) else content.encode())
    before = path.read_bytes()
    with pytest.raises(FileProblemError) as caught:
        read_plan(path)
    sentence = str(caught.value)
    assert words in sentence
    assert sentence.startswith(str(path))
    assert "\n" not in sentence
    assert sentence.endswith(".")
    assert path.read_bytes() == before


def test_ten_thousand_stripes(tmp_path):
    data = json.loads(GOOD)
    data["cakes"][0]["stripes"] = [{"paint": "white", "width_mm": 1}] * 10_000
    with pytest.raises(FileProblemError, match=r"cakes\[0\].stripes"):
        parse_plan(json.dumps(data).encode(), "x")


def test_places_that_are_no_files(tmp_path, demo):
    for path in (tmp_path, tmp_path / "none" / "x.pennello", tmp_path / "none.pennello"):
        with pytest.raises(FileProblemError):
            read_plan(path)
    for path in (tmp_path, tmp_path / "none" / "x.pennello", tmp_path / ("x" * 300), Path("/dev/full")):
        with pytest.raises(FileProblemError) as caught:
            write_plan(demo, path)
        assert str(caught.value).endswith(".")
    assert list(tmp_path.iterdir()) == []
    assert stat.S_ISCHR(Path("/dev/full").stat().st_mode)


def test_too_large_a_file_is_not_read(tmp_path, monkeypatch):
    path = tmp_path / "big.pennello"
    path.write_bytes(b" " * 2_000_001)
    monkeypatch.setattr("pennello.files.plan_json.MOST_PLAN_BYTES", 2_000_000)
    with pytest.raises(FileProblemError, match="larger than 2 MB"):
        read_plan(path)


@pytest.mark.parametrize("code", [errno.ENOSPC, errno.EACCES, errno.EROFS, errno.EIO])
@pytest.mark.parametrize("step", ["fsync", "replace", "open"])
def test_a_failed_write_leaves_the_old_file(code, step, tmp_path, monkeypatch, demo):
    path = tmp_path / "plan.pennello"
    path.write_text("old")

    def fail(*_, **__):
        raise OSError(code, os.strerror(code))

    target = {"fsync": (os, "fsync"), "open": (os, "open"), "replace": (Path, "replace")}[step]
    monkeypatch.setattr(*target, fail)
    with pytest.raises(FileProblemError):
        write_plan(demo, path)
    monkeypatch.undo()
    assert path.read_text() == "old"
    assert [file.name for file in tmp_path.iterdir()] == ["plan.pennello"]


def test_writing_keeps_permissions_and_links(tmp_path, demo):
    path, link = tmp_path / "plan.pennello", tmp_path / "link.pennello"
    write_plan(demo, path)
    path.chmod(0o600)
    link.symlink_to(path)
    write_plan(replace(demo, title="Other"), link)
    assert link.is_symlink()
    assert stat.S_IMODE(path.stat().st_mode) == 0o600
    assert read_plan(path).title == "Other"


@pytest.mark.parametrize("version", list(range(1, VERSION)))
def test_files_of_every_version_are_read_and_written_back(version, tmp_path):
    old = Path(__file__).parent / f"v{version}-saltmarsh.pennello"
    assert f'"schema": {version}' in old.read_text()[:200]
    plan = read_plan(old)
    assert plan.title == "Saltmarsh Lantern Walk"
    write_plan(plan, tmp_path / "new.pennello")
    assert f'"schema": {VERSION}' in (tmp_path / "new.pennello").read_text()[:200]
    assert read_plan(tmp_path / "new.pennello") == plan


def test_a_file_of_version_6_keeps_the_numbers_that_it_left_out(tmp_path):
    """Defaults changed with 7: the usual coat, how long it takes, what a load holds."""
    old = json.loads((Path(__file__).parent / "v6-saltmarsh.pennello").read_text())
    old.pop("dry_after_s", None)
    old["strokes"][0]["wanted"].pop("coat_um", None)
    old["brushes"][0].pop("capacity_mm3_per_mm", None)
    plan = parse_plan(json.dumps(old).encode(), "x")
    assert plan.dry_after_s == 57.6
    assert plan.strokes[0].wanted.coat_um == 15
    assert plan.brushes[0].capacity_mm3_per_mm == 3
    new = parse_plan(json.dumps({**old, "schema": 7}).encode(), "x")
    assert (new.dry_after_s, new.strokes[0].wanted.coat_um, new.brushes[0].capacity_mm3_per_mm) == (40, 20, 4.2)


def test_all_that_a_hand_can_do_is_kept():
    plan = demo_plan()
    stroke = plan.strokes[0]
    way = replace(
        stroke.stroke,
        leans=(Key(0, 0), Key(1, 60)),
        tilts=(Key(0.2, -1),),
        parts=(PartKey(0, 0, 0.5), PartKey(1, 0.25, 1)),
        on_part=True,
        pats=Pats(0.5, 30, Over.PLACE, 7, mirrored=True),
    )
    held = replace(plan, strokes=(replace(stroke, stroke=way), *plan.strokes[1:]))
    assert parse_plan(plan_bytes(held), "x") == held


OLD = Path(__file__).parent / "v8-saltmarsh.pennello"


def older(**changes):
    """The sample of version 8 with other pieces, loads or rules."""
    table = json.loads(OLD.read_text())
    table["ordering"] = changes.pop("ordering", {})
    for motif, more in changes.pop("motifs", {}).items():
        next(one for one in table["motifs"] if one["id"] == motif).update(more)
    assert not changes
    return parse_plan(json.dumps(table).encode(), "x")


def test_groups_become_parts_with_the_same_strokes_in_the_same_places():
    grouped = {name: {"group": "Lantern face"} for name in ("peak-crown", "scale-field", "petal-ring")}
    plan, before = older(motifs=grouped), json.loads(OLD.read_text())
    assert [(one.id, one.name) for one in plan.parts] == [("lantern-face", "Lantern face")]
    assert [one.part for one in plan.motifs[:3]] == ["lantern-face"] * 3
    assert [(one.id, one.place.x_mm, one.place.y_mm) for one in plan.motifs if not one.more] == [
        (one["id"], one["place"]["x_mm"], one["place"]["y_mm"]) for one in before["motifs"]
    ]
    assert len(plan.strokes) == len(before["strokes"]) + 1  # and a load for lines


BEFORE_10 = Path(__file__).parent / "v9-saltmarsh.pennello"


def with_lines(layers=(), **ordering):
    """The sample of version 9 with other layers of lines, and the layers as they were."""
    table = json.loads(BEFORE_10.read_text())
    (old,) = (one for one in table["overlays"] if one["kind"] == "lines")
    table["overlays"] += [{**old, **changes} for changes in layers]
    table["ordering"].update(ordering)
    return parse_plan(json.dumps(table).encode(), "x"), [one for one in table["overlays"] if one["kind"] == "lines"]


def test_layers_of_lines_become_pieces_with_loads_of_their_colour_and_width():
    dark = {"name": "dark dots", "srgb": "#102030", "line_mm": 0.7, "amount": 0.5, "x_mm": 12.0}
    plan, before = with_lines([dark, {"name": "foam lights", "line_mm": 1.8}])
    pieces = [one for one in plan.motifs if one.more]
    assert [one.name for one in pieces] == ["foam lights", "dark dots", "foam lights"]
    assert len({one.id for one in pieces}) == 3
    for piece, layer in zip(pieces, before, strict=True):
        load = plan.stroke(piece.load_of["stroke"])
        (paint,) = load.recipe.pan_paints
        brush = plan.brush(load.brush)
        assert plan.paint(paint).srgb == layer["srgb"]
        assert float(contact_width_mm(brush, piece.way.pressure)) == pytest.approx(layer["line_mm"])
        at = np.array([piece.place.x_mm, piece.place.y_mm])
        for way, outline in zip(piece.ways, layer["outlines"], strict=True):
            there = np.array(outline["points_mm"]) + np.array([layer["x_mm"], layer["y_mm"]])
            assert np.array(way.path.points_mm) + at == pytest.approx(there, abs=0.3)
    assert pieces[0].loads == pieces[2].loads  # one paint, one width: one load
    full, thin = (plan.edge(one.load_of["stroke"]) for one in pieces[:2])
    assert thin.total_mm3 / thin.width_mm < 0.62 * full.total_mm3 / full.width_mm
    assert parse_plan(plan_bytes(plan), "x") == plan


def test_what_an_order_says_of_a_layer_it_says_of_the_piece():
    rule = {"earlier": "foam lights", "later": "feather", "kind": "after"}
    said = {"rules": [rule], "priorities": {"foam lights": "must"}, "sequence": ["cheek-left/foam lights", "x"]}
    plan, _ = with_lines(**said)
    assert plan.ordering.rules[0].earlier == "foam-lights"
    assert dict(plan.ordering.priorities) == {"foam-lights": Priority.MUST}
    assert plan.ordering.sequence == ("foam-lights/stroke1", "x")


@pytest.mark.parametrize(
    ("changes", "version", "told"),
    [
        ({"line_mm": 99}, 9, "overlays[1].line_mm"),
        ({"srgb": "white"}, 9, "overlays[1].srgb"),
        ({"outlines": [{"points_mm": [[0, 0]]}]}, 9, "overlays[1].outlines[0].points_mm"),
        ({}, 5, "came with schema"),
        ({}, 10, "overlays[0]: this table contains unknown field"),
    ],
)
def test_bad_lines_of_an_old_file_are_told_with_their_place(changes, version, told):
    table = json.loads(BEFORE_10.read_text())
    table["overlays"][1].update(changes)
    table["schema"] = version
    with pytest.raises(FileProblemError, match=re.escape(told)):
        parse_plan(json.dumps(table).encode(), "x")


def test_a_group_painted_however_wet_it_is_becomes_a_part_in_one_go():
    three = ("peak-crown", "scale-field", "petal-ring")
    grouped = {name: {"group": "face"} for name in three}
    rules = [{"earlier": one, "later": other, "kind": "any"} for one, other in itertools.combinations(three, 2)]
    other = {"earlier": "peak-crown", "later": "wave", "kind": "dry"}
    plan = older(motifs=grouped, ordering={"rules": [*rules, other]})
    assert plan.parts[0].habit is Habit.ONE_GO
    assert [(rule.earlier, rule.later) for rule in plan.ordering.rules] == [("peak-crown", "wave")]
    some = older(motifs=grouped, ordering={"rules": rules[:1]})
    assert some.parts[0].habit is Habit.USUAL
    assert len(some.ordering.rules) == 1


def test_priorities_and_worth_of_pieces_become_those_of_their_part():
    grouped = {name: {"group": "face"} for name in ("peak-crown", "scale-field")}
    ordering = {
        "priorities": {"peak-crown": "skip", "scale-field": "nice", "wave": "nice"},
        "worth": {"peak-crown": 3.0},
    }
    plan = older(motifs=grouped, ordering=ordering)
    assert {name: one.value for name, one in plan.ordering.priorities} == {"face": "nice", "wave": "nice"}
    assert dict(plan.ordering.worth) == {"face": 3.0}


def test_strokes_from_one_load_become_a_habit_of_the_load():
    """One stroke from a load was the default of a single stroke that nobody chose: it runs pale first."""
    plan = older(motifs={"feather": {"per_load": 5}, "leaf-spray": {"per_load": 4}})
    habits = {one.id: (one.reload, one.reload_after) for one in plan.strokes}
    used = {load for one in plan.motifs for _, load in one.loads}
    assert habits["reed-line"][0] is Reload.COUNT
    assert {habits[name][0] for name in habits if name not in used} == {Reload.PALE}
    free = json.loads(OLD.read_text())
    way = {"path": {"points_mm": [[0, 0], [5, 0], [10, 0], [15, 0]]}}
    free["motifs"] = [{"id": "one", "motif": "", "loads": {"stroke": "dahlia-petal"}, "per_load": 1, "way": way}]
    alone = parse_plan(json.dumps(free).encode(), "x")
    assert alone.stroke("dahlia-petal").reload is Reload.PALE


@pytest.mark.parametrize(
    ("changes", "told"),
    [
        ({"per_load": 0}, "motifs[0].per_load"),
        ({"per_load": "x"}, "motifs[0].per_load"),
        ({"group": 3}, "motifs[0].group"),
        ({"part": "x"}, "came with schema 9"),
        ({"groups": "x"}, "motifs[0]"),
    ],
)
def test_former_keys_are_checked_in_files_that_have_them(changes, told):
    with pytest.raises(FileProblemError, match=re.escape(told)):
        older(motifs={"peak-crown": changes})


def test_former_keys_are_unknown_in_newer_files():
    table = json.loads(plan_bytes(demo_plan()))
    table["motifs"][0]["group"] = "x"
    with pytest.raises(FileProblemError, match="unknown field 'group'"):
        parse_plan(json.dumps(table).encode(), "x")


def test_an_old_file_that_was_full_opens_with_its_lines():
    """500 pieces and 200 layers of lines, each in a colour and a width of its own."""
    table = json.loads(BEFORE_10.read_text())
    (old,) = (one for one in table["overlays"] if one["kind"] == "lines")
    piece = next(one for one in table["motifs"] if one["id"] == "feather")
    table["motifs"] = [{**piece, "id": f"p{n}", "part": ""} for n in range(500)]
    short = {**old, "outlines": old["outlines"][1:2]}
    table["overlays"] = [
        {**short, "name": f"line {n}", "srgb": f"#{n:02x}40{255 - n:02x}", "line_mm": 1 + n / 100} for n in range(200)
    ]
    plan = parse_plan(json.dumps(table).encode(), "x")
    assert len(plan.motifs) == 700
    assert parse_plan(plan_bytes(plan), "x") == plan
