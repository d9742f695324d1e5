"""A cake from what one sees: its paints, its names, its widths; from a photo, against the picture that was drawn."""

import numpy as np
import pytest
from PIL import Image

from pennello.colour.difference import ciede2000
from pennello.colour.lab import hex_to_lab
from pennello.errors import OutOfRangeError
from pennello.kit.own_cake import SeenStripe, own_cake
from pennello.kit.shelf import ItemKind
from pennello.session.kit import shipped_kit
from pennello.session.own_kit import cake_items, shipped_away, stripes_in

ROSE = (SeenStripe("#F6F5F0", 8.0), SeenStripe("#d8435a", 12.0, "Poppy"), SeenStripe("#f6f5f0", 6.0))


def test_paints_come_with_the_cake_and_stripes_of_one_colour_share_one():
    paints, cake = own_cake("My rose", ROSE)
    assert [(one.id, one.name, one.srgb) for one in paints] == [
        ("my-rose-white", "My rose, white", "#f6f5f0"),
        ("poppy", "Poppy", "#d8435a"),
    ]
    assert [(one.paint, one.width_mm) for one in cake.stripes] == [
        ("my-rose-white", 8.0),
        ("poppy", 12.0),
        ("my-rose-white", 6.0),
    ]
    assert (cake.id, cake.name, cake.width_mm) == ("my-rose", "My rose", 26.0)


def test_ids_that_are_in_use_stay_whose_they_are():
    paints, cake = own_cake("My rose", ROSE, ["poppy", "poppy-2"], ["my-rose"])
    assert [one.id for one in paints] == ["my-rose-white", "poppy-3"]
    assert cake.id == "my-rose-2"


def test_two_reds_have_two_names():
    paints, _ = own_cake("Flame", [SeenStripe("#c01010", 5), SeenStripe("#d82020", 5)])
    assert [one.name for one in paints] == ["Flame, red", "Flame, red 2"]


@pytest.mark.parametrize("count", [1, 8])
def test_a_cake_has_two_to_seven_stripes(count):
    with pytest.raises(OutOfRangeError, match="2 to 7"):
        own_cake("X", [SeenStripe("#c01010", 5)] * count)


def test_stripes_are_read_off_a_photo(tmp_path):
    """Three stripes of 200, 300 and 100 px, drawn: their colours and shares come back."""
    colours = ("#f0e8d8", "#2f6fb0", "#10202a")
    picture = np.zeros((80, 600, 3), np.uint8)
    for colour, (start, end) in zip(colours, ((0, 200), (200, 500), (500, 600)), strict=True):
        picture[:, start:end] = [int(colour[at : at + 2], 16) for at in (1, 3, 5)]
    Image.fromarray(picture).save(tmp_path / "cake.png")
    seen = stripes_in(tmp_path / "cake.png", (2, 40), (597, 40), 30.0)
    assert [one.width_mm for one in seen] == pytest.approx([10, 15, 5], abs=0.8)
    for one, colour in zip(seen, colours, strict=True):
        assert ciede2000(hex_to_lab(one.srgb), hex_to_lab(colour)) < 1


def test_what_ships_goes_out_of_use_but_for_the_brushes_that_one_has():
    kit = shipped_kit()
    kit = kit.with_items(cake_items(kit, "My rose", ROSE))
    kit = kit.with_items(shipped_away(kit, ["flat-1", "round-3"]))
    assert [item.id for item in kit.of(ItemKind.CAKE)] == ["my-rose"]
    assert {item.id for item in kit.of(ItemKind.BRUSH)} == {"flat-1", "round-3"}
    assert shipped_away(kit, ["flat-1", "round-3"]) == ()
    back = kit.with_items(shipped_away(kit, ["liner-1"]))
    assert {item.id for item in back.of(ItemKind.BRUSH)} == {"liner-1"}
