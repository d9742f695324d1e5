"""Making a cake: mixing words against hue angles, hints, stripes, cut list, search, outlines; the tone ladder."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

import colour
from pennello.aim.ladder import NoLadderError, tone_ladder
from pennello.colour.skin import skin_reflectance
from pennello.errors import OutOfRangeError
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.cake import Cake, Stripe
from pennello.kit.cut_list import DENSITY_G_PER_CM3, cut_list
from pennello.kit.neighbours import MixWord, cake_mixes, hints, neighbour_mix
from pennello.kit.outline import ferrule_mm, side_outline
from pennello.kit.paint import Paint
from pennello.kit.search import found, neighbours
from pennello.kit.shelf import ItemKind, retired, slug
from pennello.kit.stripes import moved, recoloured, scaled_to, swapped, with_inserted, with_width, without
from pennello.session.kit import shipped_kit

PAINTS = catalogue.paints()


@pytest.mark.parametrize(
    ("one", "other", "words"),
    [  # common practice, no published source
        ("foam-white", "poppy-red", {MixWord.SOFT, MixWord.CLEAN}),
        ("lantern-yellow", "skylark-blue", {MixWord.CLEAN, MixWord.MUTES}),
        ("poppy-red", "kelp-green", {MixWord.MUD}),
        ("mallow-magenta", "lantern-yellow", {MixWord.CLEAN, MixWord.MUTES}),
        ("thrift-pink", "kelp-green", {MixWord.MUTES, MixWord.MUD}),
    ],
)
def test_words_for_neighbours(one, other, words):
    assert neighbour_mix(PAINTS[one], PAINTS[other]).word in words


def test_fuchsia_beside_yellow_gives_orange_and_red_beside_white_pink():
    """Common practice, no published source; the hue angle is taken by colour-science from the predicted sRGB."""
    for pair, low, high in ((("mallow-magenta", "lantern-yellow"), 20, 75), (("poppy-red", "foam-white"), 0, 50)):
        mix = neighbour_mix(*(PAINTS[name] for name in pair))
        rgb = np.array([int(mix.srgb[i : i + 2], 16) / 255 for i in (1, 3, 5)])
        lab = colour.XYZ_to_Lab(
            colour.sRGB_to_XYZ(rgb), colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
        )
        lch = colour.models.Lab_to_LCHab(lab)
        assert mix.hue_deg == pytest.approx(lch[2], abs=1.5)
        assert mix.chroma == pytest.approx(lch[1], abs=1.0)
        assert low <= mix.hue_deg <= high


@given(st.sampled_from(sorted(PAINTS)), st.sampled_from(sorted(PAINTS)))
def test_mixing_is_symmetric(one, other):
    ab, ba = neighbour_mix(PAINTS[one], PAINTS[other]), neighbour_mix(PAINTS[other], PAINTS[one])
    assert ab.word is ba.word
    assert ab.srgb == ba.srgb
    assert 0 <= ab.hue_apart_deg <= 180


def cake(*names, width=8.0):
    return Cake("c", "C", tuple(Stripe(name, width) for name in names))


def test_hints_are_rules_of_thumb():
    assert any("one end is light" in hint for hint in hints(cake("poppy-red", "ember-orange"), PAINTS))
    assert any("lighter and one darker green" in hint for hint in hints(cake("kelp-green", "kelp-green"), PAINTS))
    assert any("mud" in hint for hint in hints(cake("poppy-red", "kelp-green"), PAINTS))
    assert any("2.5 mm" in hint for hint in hints(cake("foam-white", "poppy-red", width=2.0), PAINTS))
    assert hints(catalogue.cakes()["dahlia-wrist"], PAINTS) == ()
    assert len(cake_mixes(cake("poppy-red", "foam-white", "peat-black"), PAINTS)) == 2


def test_cut_list_weighs_what_it_measures():
    cuts = cut_list(Cake("c", "C", (Stripe("a", 10.0), Stripe("b", 5.0)), length_mm=40, depth_mm=5))
    assert [cut.from_mm for cut in cuts] == [0, 10]
    assert cuts[0].grams == pytest.approx(10 * 40 * 5 / 1000 * DENSITY_G_PER_CM3)


def test_stripes_are_made_swapped_and_taken_out():
    three = cake("a", "b", "c")
    assert [s.paint for s in moved(three, 0, 2).stripes] == ["b", "c", "a"]
    assert swapped(swapped(three, 0, 2), 0, 2) == three
    inserted = with_inserted(three, 1, "x")
    assert [s.paint for s in inserted.stripes] == ["a", "x", "b", "c"]
    assert inserted.width_mm == three.width_mm
    assert without(inserted, 1).width_mm == three.width_mm
    assert with_width(three, 1, 3.0).width_mm == three.width_mm - 5
    assert scaled_to(three, 30.0).width_mm == pytest.approx(30)
    assert recoloured(three, 2, "z").stripes[2].paint == "z"
    full = with_inserted(with_inserted(with_inserted(with_inserted(three, 0, "x"), 0, "x"), 0, "x"), 0, "x")
    with pytest.raises(OutOfRangeError):
        with_inserted(full, 0, "x")
    with pytest.raises(OutOfRangeError):
        without(cake("a", "b"), 0)


@pytest.mark.parametrize("kind", list(ApplicatorKind))
def test_side_outlines_have_the_true_width(kind):
    brush = Applicator("x", "X", 12.0, kind, 9.0)
    outline = side_outline(brush)
    assert np.ptp(outline[:, 0]) == pytest.approx(12.0, rel=0.02)
    assert outline[:, 1].min() == pytest.approx(0, abs=1e-9)
    assert 0 < ferrule_mm(brush) <= 12


# --- the kit ---


def test_search_finds_words_labels_and_neighbours():
    kit = shipped_kit()
    assert {item.id for item in found(kit, ItemKind.CAKE, "white + red")} == neighbours(kit, "white", "red")
    assert "poppy-brow" not in neighbours(kit, "white", "crimson")
    assert "poppy-brow" in neighbours(kit, "#f08a73", "#c8161d")
    assert {item.id for item in found(kit, ItemKind.PAINT, "lips:no neon")} == {"buoy-lime", "signal-rose"}
    assert [item.id for item in found(kit, ItemKind.BRUSH, "petal sponge")] == ["sponge-petal"]
    assert found(kit, ItemKind.CAKE, "no such thing") == []
    out = kit.with_items([retired(kit.items[(ItemKind.CAKE, "moth-mask")], out=True)])
    assert not [item for item in found(out, ItemKind.CAKE, "moth") if item.id == "moth-mask"]
    assert len(found(out, ItemKind.CAKE, "", with_retired=True)) == len(kit.of(ItemKind.CAKE))
    assert slug("Größe 3 / klein") == "groe-3-klein"


# --- ladder ---

OMBRE = Cake(
    "o", "Ombre", (Stripe("foam-white", 15.0), Stripe("mussel-blue", 15.0), Stripe("deep-channel", 15.0)), ombre=True
)


@pytest.mark.parametrize("steps", [2, 3, 5, 9])
@pytest.mark.parametrize("pan", [OMBRE, catalogue.cakes()["dahlia-wrist"], catalogue.cakes()["lantern-glow"]])
@pytest.mark.parametrize("ita", [-20.0, 45.0])
def test_a_ladder_has_even_steps_of_lightness(pan, steps, ita):
    ladder = tone_ladder(pan, Applicator("b", "B", 9.5), PAINTS, skin_reflectance(ita), steps)
    assert len(ladder.offsets_mm) == steps
    assert ladder.worst <= 0.3  # asked: at most 0.3 L* off
    assert np.abs(np.diff(ladder.lightness) + ladder.step).max() <= 0.3
    assert min(ladder.offsets_mm) >= 0
    assert max(ladder.offsets_mm) <= pan.width_mm - 9.5


def test_no_ladder_where_there_is_nothing_to_climb():
    skin = skin_reflectance(40.0)
    with pytest.raises(NoLadderError, match="narrower brush"):
        tone_ladder(OMBRE, Applicator("b", "B", 45.0), PAINTS, skin, 3)
    same = {"p": Paint("p", "P", "#808080"), "q": Paint("q", "Q", "#808080")}
    flat = Cake("f", "F", (Stripe("p", 20.0), Stripe("q", 20.0)))
    with pytest.raises(NoLadderError, match="equally light"):
        tone_ladder(flat, Applicator("b", "B", 9.5), same, skin, 3)
    with pytest.raises(OutOfRangeError):
        tone_ladder(OMBRE, Applicator("b", "B", 9.5), PAINTS, skin, 1)
