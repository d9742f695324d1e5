"""The usual cautions (common practice, no published source): which answers and plans bring up which."""

from dataclasses import replace

import pytest
from lantern_face import demo_plan

from pennello.caution.person import QUESTIONS, AgeBand, Person, Said, SkinSays
from pennello.caution.rules import DECIDE, Level, cautions
from pennello.design.marks import Glitter
from pennello.design.on_chart import with_new_motif
from pennello.kit.paint import Finish, Near
from pennello.motif.place import Place

ASKED = Person(AgeBand.ADULT, Said.NO, Said.NO, Said.NO, SkinSays.SOUND, Said.YES)


def codes(plan, person=ASKED, **more):
    return {one.code: one.level for one in cautions(plan, person, **more)}


def test_what_is_always_kept_in_mind(demo):
    found = codes(demo)
    assert set(found) == {"clean_tools", "decant", "no_blowing", "removal"}
    assert set(found.values()) == {Level.MIND}
    assert "certifies nothing" in DECIDE


@pytest.mark.parametrize(
    ("changes", "code", "level"),
    [
        ({"allergy": Said.YES}, "allergy", Level.STOP),
        ({"asthma": Said.YES}, "asthma", Level.ASK),
        ({"ill": Said.YES}, "ill", Level.STOP),
        ({"skin": SkinSays.BROKEN}, "broken_skin", Level.STOP),
        ({"skin": SkinSays.SENSITIVE}, "sensitive", Level.ASK),
        ({"consent": Said.NO}, "consent", Level.STOP),
        ({"age": AgeBand.CHILD, "parent": Said.NO}, "consent", Level.STOP),
        ({"age": AgeBand.CHILD}, "ask_parent", Level.ASK),
        ({"age": AgeBand.SMALL, "parent": Said.YES}, "small_child", Level.STOP),
        ({"age": AgeBand.UNKNOWN}, "ask_age", Level.ASK),
        ({"allergy": Said.UNKNOWN}, "ask_allergy", Level.ASK),
    ],
)
def test_answers_bring_up_cautions(demo, changes, code, level):
    assert codes(demo, replace(ASKED, **changes))[code] is level


@pytest.mark.parametrize(
    ("chart", "level"),
    [
        ("face", Level.STOP),
        ("cheek-right", Level.STOP),
        ("shoulder", Level.STOP),
        ("leg", Level.STOP),
        ("forearm", Level.ASK),
        ("forearm-right", Level.ASK),
        ("hand", Level.ASK),
        ("hand-left", Level.ASK),
    ],
)
def test_small_children_are_painted_on_arm_or_hand_at_most(chart, level):
    """Common practice, no published source."""
    plan, _ = with_new_motif(demo_plan(), "bud", chart, Place(10.0, 10.0, 0.0, 0.4))
    small = replace(ASKED, age=AgeBand.SMALL, parent=Said.YES)
    assert codes(plan, small, chart=chart)["small_child"] is level


def test_products_and_labels(demo):
    paints = tuple(replace(paint, skin=paint.id != "foam-white") for paint in demo.paints)
    assert codes(replace(demo, paints=paints))["not_for_skin"] is Level.STOP
    assert codes(demo, expired=("Foam White",))["expired"] is Level.STOP
    near = tuple(replace(stroke, near=Near.LIPS) for stroke in demo.strokes if stroke.id == "poppy-petal")
    told = cautions(replace(demo, strokes=near), ASKED)
    assert [one.level for one in told if one.code == "label"] == [Level.STOP, Level.STOP]  # two reds, not for lips
    neon = tuple(replace(paint, finish=Finish.NEON) if paint.id == "foam-white" else paint for paint in demo.paints)
    assert codes(replace(demo, paints=neon))["neon"] is Level.ASK


def test_glitter_keeps_off_the_lash_line_and_lips(demo):
    def with_glitter(x, y):
        return replace(demo_plan(), overlays=(Glitter("dust", x, y, 14.0, 10.0),))

    assert "glitter_near" not in codes(with_glitter(0.0, -45.0))
    eye = codes(with_glitter(31.0, 0.0))
    assert (eye["glitter_near"], eye["glitter"]) == (Level.STOP, Level.ASK)


def test_the_heaviest_come_first_each_with_its_reason(demo):
    told = cautions(demo_plan(), Person())
    weights = [list(Level).index(one.level) for one in told]
    assert weights == sorted(weights)
    assert all(one.text.endswith((".", "?")) and one.reason for one in told)
    assert {field for field, _, _ in QUESTIONS} == set(Person.__slots__)
