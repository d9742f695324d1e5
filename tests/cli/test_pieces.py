"""What lies on charts through the command line; and that every verb stands where the table says."""

from argparse import ArgumentParser
from importlib import import_module

import pytest
from lantern_face import demo_plan

from pennello.cli.asking import verb_named
from pennello.cli.main import make_parser
from pennello.cli.verbs_at import VERBS_AT
from pennello.files.plan_json import read_plan, write_plan


@pytest.fixture
def plan_file(tmp_path):
    path = tmp_path / "plan.pennello"
    write_plan(demo_plan(), path)
    return path


def test_a_piece_is_listed_changed_and_taken_away(ask, plan_file):
    first = demo_plan().motifs[0]
    told = ask("piece", plan_file, "--json")["pieces"]
    assert [one["id"] for one in told] == [one.id for one in demo_plan().motifs]
    part, load = first.loads[0]
    other = next(stroke.id for stroke in demo_plan().strokes if stroke.id != load)
    words = (
        "--x-mm",
        "12,5",
        "--twin",
        "no",
        "--one-sided",
        "yes",
        "--load",
        f"{part}={other}",
        "--name",
        "Left alone",
    )
    ask("piece", plan_file, first.id, *words)
    placed = read_plan(plan_file).motifs[0]
    assert (placed.place.x_mm, placed.place.y_mm) == (12.5, first.place.y_mm)
    assert (placed.one_sided, placed.twin, placed.name) == (True, False, "Left alone")
    assert placed.load_of[part] == other
    assert "on one side on purpose" in ask("piece", plan_file)
    ask("piece", plan_file, first.id, "--remove")
    assert first.id not in [one.id for one in read_plan(plan_file).motifs]


def test_a_stroke_is_pulled_as_a_hand_does(ask, plan_file):
    way = "0,0,0.3,10 10,-8 20,-12,0.8 flip 30,-8 40,0"
    ask("piece", plan_file, "add", "--load", "dahlia-petal", "--hold", "square", "--points", way)
    made = read_plan(plan_file).motifs[-1].way
    assert (made.pressures[0].value, made.pressures[-1].value) == (0.3, 0.8)
    assert made.nib.angle_deg == 100.0
    assert len(made.flips_mm) == 1
    name = read_plan(plan_file).motifs[-1].id
    ask("piece", plan_file, name, "--point", "0=-3,2", "--press", "0.6", "--hold", "heel")
    moved = read_plan(plan_file).motifs[-1]
    assert moved.place.stroke(moved.way).path.points_mm[0] == pytest.approx((-3, 2), abs=1e-3)
    assert max(key.value for key in moved.way.pressures) == pytest.approx(0.6)
    for deed, sentence in (
        ((name, "--point", "99=0,0"), "point of the way"),
        ((name, "--point", "x"), "N=X,Y"),
        ((name, "--point", "²=0,0"), "N=X,Y"),
        ((name, "--rib", f"{'9' * 5000}=3"), "N=DEG"),
        ((name, "--press", "3"), "0.05 to 1"),
        (("scale-field", "--press", "0.5"), "a single stroke"),
    ):
        assert sentence in ask("piece", plan_file, *deed, code=2)
    for wrong in ("0,0,0.5,10,3", "0", "flip", "0,0,x"):
        ask("piece", plan_file, "add", "--load", "dahlia-petal", "--points", wrong, code=2)


def test_a_piece_has_other_numbers_in_the_short_form(ask, plan_file):
    ask("piece", plan_file, "scale-field", "--short", "rows=1")
    placed = next(one for one in read_plan(plan_file).motifs if one.id == "scale-field")
    assert (dict(placed.short), dict(placed.values)["rows"]) == ({"rows": 1.0}, 3.0)
    minutes = [ask("order", plan_file, "--chart", "face", *short, "--json")["total_s"] for short in ((), ("--short",))]
    assert minutes[1] < minutes[0]
    ask("piece", plan_file, "scale-field", "--short", "rows=3")
    assert not next(one for one in read_plan(plan_file).motifs if one.id == "scale-field").short, "as usual"


def test_wrong_pieces_get_one_sentence(ask, plan_file):
    first = demo_plan().motifs[0].id
    assert "there is no piece 'x'" in ask("piece", plan_file, "x", code=2)
    assert "PART=STROKE" in ask("piece", plan_file, first, "--load", "petal", code=2)
    assert "0.1 to 10" in ask("piece", plan_file, first, "--scale", "90", code=2)
    assert read_plan(plan_file) == demo_plan()


@pytest.mark.parametrize("name", sorted(VERBS_AT))
def test_every_verb_stands_where_the_table_says(name):
    import_module(f"pennello.cli.{VERBS_AT[name]}")
    verb = verb_named(name)
    assert verb.run.__module__.endswith(VERBS_AT[name])
    assert verb.words[0].islower()
    assert "not known" not in verb.words
    verb.arguments(ArgumentParser())
    assert name in make_parser([name]).format_help()


def test_an_outline_a_ground_and_a_fill_are_worked_out(ask, plan_file):
    words = (
        "--of",
        "lantern-face",
        "--off-mm",
        "1.5",
        "--colour",
        "#182030",
        "--line-mm",
        "1.2",
        "--part",
        "lantern-face",
    )
    told = ask("compute", plan_file, "outline", *words, "--name", "Dark edge", "--json")
    assert (told["piece"], told["bare"]) == ("dark-edge", 0.0)
    assert told["strokes"] >= 3
    assert told["seconds"] > 10
    load = read_plan(plan_file).motifs[-1].load_of["stroke"]
    ring = "-20,60 20,60 20,90 -20,90"
    said = ask(
        "compute", plan_file, "fill", "--border", ring, "--load", load, "--large", "leaf-flat-1-2", "--name", "Chin"
    )
    assert "% of the place stays bare" in said
    assert float(said.split("\n")[1].split("%")[0]) < 2
    ground = ask("compute", plan_file, "ground", "--of", "petal-ring", "--margin-mm", "5", "--load", load, "--json")
    assert ground["bare"] < 0.005
    assert "dark-edge" in [one["id"] for one in ask("piece", plan_file, "--json")["pieces"]]
    for wrong, sentence in (
        (("outline", "--of", "nobody", "--load", load), "part or piece"),
        (("outline", "--load", load), "one part or piece at least"),
        (("fill", "--load", load), "a border"),
        (("fill", "--border", "0,0 1,1", "--load", load), "three points"),
        (("outline", "--of", "petal-ring"), "--load LOAD, or --colour HEX"),
        (("outline", "--of", "petal-ring", "--load", load, "--off-mm", "9"), "-5 to 5 mm"),
    ):
        assert sentence in ask("compute", plan_file, *wrong, code=2)


@pytest.mark.slow
def test_an_outline_becomes_one_stroke(ask, plan_file):
    outline = "0,0 20,-6 40,0 40,16 20,10 0,16"
    told = ask("fill-outline", plan_file, "--outline", outline, "--load", "dahlia-petal", "--json")
    assert told["found"][0]["overlap"] > 0.85
    assert not told["needs_two"]
    assert told["piece"] == ""
    count = len(read_plan(plan_file).motifs)
    said = ask("fill-outline", plan_file, "--outline", outline, "--load", "dahlia-petal", "--rim", "20,-8", "--take", 1)
    assert "shared (predicted)" in said
    made = read_plan(plan_file).motifs
    assert len(made) == count + 1
    assert made[-1].load_of["stroke"] == "dahlia-petal"
    assert "Say what is to be filled" in ask("fill-outline", plan_file, code=2)
    assert "1 to" in ask("fill-outline", plan_file, "--outline", outline, "--load", "dahlia-petal", "--take", 9, code=2)
    assert "--rim is x" in ask("fill-outline", plan_file, "--outline", outline, "--rim", "x", code=2)
    assert "it needs two" in ask(
        "fill-outline", plan_file, "--outline", "0,0 90,0 90,90 0,90", "--load", "dahlia-petal"
    )


def test_a_stroke_takes_the_place_of_the_line_that_it_fills(ask, plan_file):
    ring = "0,0 20,-6 40,0 40,16 20,10 0,16 0,0"
    ask("piece", plan_file, "add", "--colour", "#ffffff", "--points", ring, "--name", "Ring")
    name = read_plan(plan_file).motifs[-1].id
    count = len(read_plan(plan_file).motifs)
    ask("fill-outline", plan_file, "--piece", name, "--load", "dahlia-petal", "--take", 1)
    made = read_plan(plan_file).motifs
    assert len(made) == count
    assert name not in [one.id for one in made]
    assert "no single drawn line" in ask("fill-outline", plan_file, "--piece", made[0].id, code=2)
