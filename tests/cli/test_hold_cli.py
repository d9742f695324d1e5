"""hold on the command line: what the window's hand can do, a script can do."""

from pathlib import Path

import pytest
from lantern_face import GIVEN

from pennello.files.plan_json import read_plan
from pennello.lay.stroke import Exit, Key, Over, PartKey

DEMO = str(GIVEN)


def test_a_stroke_is_held_as_wished(ask, tmp_path):
    out = tmp_path / "out.pennello"
    said = ask("hold", DEMO, "dahlia-petal", "--lean", "0:0,1:40", "--tilt", "0:-1,0.5:0", "--out", out)
    assert "lean 0° to 40°" in said
    assert "100% to corner A" in said
    more = ("--part", "0:0-1,1:0.2-0.6", "--on-part", "--lift", "12 mm", "--exit", "corner A", "--pressure", "0.3")
    answer = ask("hold", out, "dahlia-petal", *more, "--json")
    assert answer["to"] == [[0.0, 1.0], [1.0, 0.6]]
    way = read_plan(out).stroke("dahlia-petal").stroke
    assert way.leans == (Key(0, 0), Key(1, 40))
    assert way.tilts == (Key(0, -1), Key(0.5, 0))
    assert way.parts == (PartKey(0, 0, 1), PartKey(1, 0.2, 0.6))
    assert (way.on_part, way.lift_mm, way.exit, way.pressure) == (True, 12, Exit.A, 0.3)
    ask("hold", out, "dahlia-petal", "--part", "0-1", "--whole-edge", "--lean", "0", "--tilt", "0")
    plain = read_plan(out).stroke("dahlia-petal").stroke
    assert (plain.leans, plain.tilts, plain.parts, plain.part, plain.on_part) == ((), (), (), (0.0, 1.0), False)


def test_a_stroke_is_patted_and_pulled_again(ask, tmp_path):
    out = tmp_path / "out.pennello"
    said = ask("hold", DEMO, "lantern-cheek", "--pats", "place", "--overlap", "0.5", "--turn", "30", "--out", out)
    assert "patted over the place, 50% overlap" in said
    pats = read_plan(out).stroke("lantern-cheek").stroke.pats
    assert (pats.over, pats.overlap, pats.turn_deg) == (Over.PLACE, 0.5, 30)
    ask("hold", out, "lantern-cheek", "--pats", "no")
    assert read_plan(out).stroke("lantern-cheek").stroke.pats is None


def test_without_a_wish_it_only_says(ask, tmp_path):
    before = Path(DEMO).read_bytes()
    assert "pressure 50%" in ask("hold", DEMO, "dahlia-petal")
    assert Path(DEMO).read_bytes() == before


@pytest.mark.parametrize(
    ("words", "told"),
    [
        (("--lean", "90"), "0 to 70"),
        (("--lean", "10,20"), "AT:VALUE"),
        (("--tilt", "x"), "not understood"),
        (("--part", "0.2"), "FROM-TO"),
        (("--overlap", "0.2"), "--pats"),
    ],
)
def test_what_cannot_be_held_is_one_sentence(ask, words, told):
    said = ask("hold", DEMO, "dahlia-petal", *words, code=2)
    assert told in said
    assert "Traceback" not in said
