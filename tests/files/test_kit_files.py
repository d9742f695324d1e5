"""Tables that spreadsheets write, palettes, measured reflectances, photographed swatches."""

import csv
import io

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from pennello.colour.difference import ciede2000
from pennello.colour.lab import hex_to_lab
from pennello.errors import FileProblemError, PennelloError
from pennello.files.kit_csv import COLUMNS, preview_csv, recoloured_items, write_csv
from pennello.files.palette import read_palette, write_palette
from pennello.files.reflectance_csv import measured_paint, read_reflectance, srgb_of, write_reflectance
from pennello.files.swatch import PAPER_WHITE, Area, read_picture, read_swatch
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Paint, masstones
from pennello.kit.shelf import ItemKind, Kit, KitItem
from pennello.session.kit import shipped_kit

KIT = shipped_kit()


def preview(tmp_path, text, kit=KIT, encoding="utf-8"):
    path = tmp_path / "kit.csv"
    path.write_bytes(text.encode(encoding) if isinstance(text, str) else text)
    return preview_csv(path, kit)


def test_what_is_written_comes_back_unchanged(tmp_path):
    write_csv(KIT, tmp_path / "all.csv")
    again = preview_csv(tmp_path / "all.csv", KIT)
    assert again.unchanged == len(KIT)
    assert not (again.added or again.changed or again.refused)
    fresh = preview_csv(tmp_path / "all.csv", Kit())
    assert Kit().with_items(fresh.added).items == KIT.items


SPREADSHEETS = [
    ("name,srgb,contrast\nPine,#3f7d2c,0.85\n", "utf-8"),
    ("\ufeffname,srgb,contrast\r\nPine,#3f7d2c,0.85\r\n", "utf-8"),
    ("name;srgb;contrast\nPine;#3F7D2C;0,85\n", "utf-8"),
    ('"Name"\t"SRGB"\t"Contrast"\n"Pine"\t"3f7d2c"\t"0.85"\n', "utf-8"),
    ("name;srgb;contrast\nPine;#3f7d2c;0,85\n", "utf-16"),
    ('name,srgb,contrast,notes\nPine,#3f7d2c,.85,"a ""dark"" one, new\nline"\n', "utf-8"),
    ("\n\nname,srgb,contrast\n\n Pine , #3f7d2c , 0.85 \n\n", "utf-8"),
]


@pytest.mark.parametrize(("text", "encoding"), SPREADSHEETS)
def test_spreadsheets_are_read(tmp_path, text, encoding):
    found = preview(tmp_path, text, encoding=encoding)
    (item,) = found.added
    assert (item.id, item.thing.srgb, item.thing.contrast) == ("pine", "#3f7d2c", 0.85)
    if "notes" in text:
        assert item.keeping.notes == 'a "dark" one, new\nline'


def test_umlauts_of_old_spreadsheets(tmp_path):
    assert preview(tmp_path, "name;srgb\nGrün;#3f7d2c\n", encoding="cp1252").added[0].name == "Grün"


def test_changes_name_what_they_change_and_keep_the_rest(tmp_path):
    found = preview(tmp_path, "kind,id,name,tint,stock_g\npaint,poppy-red,Poppy Red,1.5,20\n")
    (change,) = found.changed
    assert change.what == ("tint", "stock_g")
    assert change.item.thing.contrast == KIT.paints["poppy-red"].contrast


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ("paint,x,X,pink,", "srgb: .*pink"),
        ("paint,x,X,,", "srgb is missing"),
        ("potion,x,X,#ffffff,", "none of paint, cake, brush"),
        ("cake,x,X,,", "stripes are missing"),
        ("cake,x,X,,no-such:5 foam-white:6", "no paint 'no-such'"),
        ("cake,x,X,,foam-white", "no stripe"),
        ("cake,x,X,,foam-white:wide poppy-red:3", "not a number"),
        (",,,,", ""),
        ("paint,,,#ffffff,", "neither id nor name"),
    ],
)
def test_bad_rows_are_refused_with_their_line(tmp_path, row, words):
    import re

    found = preview(tmp_path, f"kind,id,name,srgb,stripes\npaint,good,Good,#112233,\n{row}\n")
    assert [item.id for item in found.added] == ["good"]
    if words:
        (refused,) = found.refused
        assert re.search(words, refused.problem)
        assert "line 3" in refused.problem or "cake 'x'" in refused.problem


@pytest.mark.parametrize("text", ["", "   \n", "a,b\n1,2\n", b"\x00\x01\x02" * 50])
def test_what_is_no_table_is_one_sentence(tmp_path, text):
    with pytest.raises(FileProblemError, match=r"kit\.csv"):
        preview(tmp_path, text)


@pytest.mark.slow
def test_fifty_thousand_rows(tmp_path):
    rows = "\n".join(f"paint;Shade {n};#{n % 0xFFFFFF:06x};0,{n % 9 + 1}" for n in range(50_000))
    found = preview(tmp_path, "kind;name;srgb;contrast\n" + rows, Kit())
    assert len(found.added) == 50_000
    assert found.added[-1].name == "Shade 49999"


names = (
    st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc")), min_size=1, max_size=30)
    .map(str.strip)
    .filter(bool)
)


@given(
    names,
    st.integers(0, 0xFFFFFF),
    st.text(st.characters(codec="utf-8", exclude_characters="\r\x00", exclude_categories=("Cs", "Cc")), max_size=40),
)
def test_any_name_and_note_survive_the_table(tmp_path_factory, name, code, notes):
    text = io.StringIO()
    writer = csv.DictWriter(text, COLUMNS)
    writer.writeheader()
    writer.writerow({"kind": "paint", "id": "x", "name": name, "srgb": f"#{code:06x}", "notes": notes.strip()})
    path = tmp_path_factory.mktemp("any") / "kit.csv"
    path.write_text(text.getvalue(), "utf-8", newline="")
    (item,) = preview_csv(path, Kit()).added
    assert (item.name, item.thing.srgb, item.keeping.notes) == (name, f"#{code:06x}", notes.strip())


# --- palettes ---


def test_a_cake_of_paints_with_odd_ids_survives_the_table(tmp_path):
    """A plan's ids may be of any signs, and its cakes come into the kit."""
    paints = [Paint(name, name, "#3f7d2c") for name in ("pine green", "50 % white", "a:5", "leaf")]
    cake = Cake("odd", "Odd", tuple(Stripe(paint.id, 5.0) for paint in paints))
    write_csv([KitItem(thing) for thing in (*paints, cake)], tmp_path / "odd.csv")
    fresh = preview_csv(tmp_path / "odd.csv", Kit())
    assert not fresh.refused
    assert [item.thing for item in fresh.added] == [*paints, cake]


def test_palettes_go_out_and_in(tmp_path):
    path = tmp_path / "kit.gpl"
    write_palette(KIT.paints.values(), path)
    again = read_palette(path)
    assert [(p.name, p.srgb) for p in again] == [(p.name, p.srgb) for p in KIT.paints.values()]
    items = recoloured_items(again, KIT)
    assert [item.thing for item in items] == [KIT.paints[paint.id] for paint in again]
    path.write_text("GIMP Palette\n# hi\n255 0 0 Red\n255 0 0 Red\n0 255 0\n")
    assert [paint.id for paint in read_palette(path)] == ["red", "red-2", "00ff00"]


@pytest.mark.parametrize("text", ["", "nothing", "GIMP Palette\n300 0 0 x\n", "GIMP Palette\nred\n"])
def test_bad_palettes(tmp_path, text):
    (tmp_path / "x.gpl").write_text(text)
    with pytest.raises(FileProblemError):
        read_palette(tmp_path / "x.gpl")


# --- reflectances ---


def test_reflectance_round_trip(tmp_path):
    curve = tuple(masstones((KIT.paints["kelp-green"],))[0].tolist())
    write_reflectance(curve, tmp_path / "r.csv")
    again = read_reflectance(tmp_path / "r.csv")
    assert again == pytest.approx(curve, abs=1e-9)
    paint = measured_paint("Kelp", again)
    assert ciede2000(hex_to_lab(paint.srgb), hex_to_lab("#3f7d2c")) < 1.0
    assert (masstones((paint,))[0] == np.clip(again, 0.002, 0.985)).all()


@pytest.mark.parametrize(
    "text",
    [
        "nm;R\n" + "\n".join(f"{nm};{50 + nm / 100:.2f}".replace(".", ",") for nm in range(400, 701, 10)),
        "# percent\n" + "\n".join(f"{nm} {50 + nm / 100}" for nm in range(360, 781, 5)),
        "\n".join(f"{nm},{(50 + nm / 100) / 100}" for nm in range(780, 379, -20)),
    ],
)
def test_measurements_in_other_shapes(tmp_path, text):
    (tmp_path / "r.csv").write_text(text)
    found = read_reflectance(tmp_path / "r.csv")
    assert len(found) == 36
    assert found[10] == pytest.approx((50 + 4.8) / 100, abs=1e-3)


@pytest.mark.parametrize(
    "text",
    ["", "hello", "400,0.5\n500,0.5\n600,0.5\n650,0.5", "400,1\n400,1\n500,1\n700,1", "400,-3\n500,1\n600,1\n700,1"],
)
def test_bad_measurements(tmp_path, text):
    (tmp_path / "r.csv").write_text(text)
    with pytest.raises(FileProblemError):
        read_reflectance(tmp_path / "r.csv")


# --- swatches ---


def photo(path, lamp=(1.0, 1.0, 1.0)):
    """A picture of a paint (left) beside paper (right) under a coloured lamp, made in linear light."""
    from pennello.colour.srgb import decode, encode, parse_hex

    linear = np.empty((60, 100, 3))
    linear[:, :50] = decode(parse_hex("#7d1026"))
    linear[:, 50:] = PAPER_WHITE
    seen = encode(np.clip(linear * np.array(lamp) * 0.9, 0, 1))
    Image.fromarray(np.rint(seen * 255).astype(np.uint8)).save(path)


@pytest.mark.parametrize("lamp", [(1, 1, 1), (1.0, 0.85, 0.6), (0.7, 0.9, 1.0)])
def test_a_white_beside_the_paint_takes_the_lamp_out(tmp_path, lamp):
    photo(tmp_path / "s.png", lamp)
    picture = read_picture(tmp_path / "s.png")
    found = read_swatch(picture, Area(5, 5, 40, 50), Area(60, 5, 30, 50))
    assert ciede2000(hex_to_lab(found.srgb), hex_to_lab("#7d1026")) < 1.5
    assert found.spread_de00 < 0.5


def test_bad_pictures_and_areas(tmp_path):
    photo(tmp_path / "s.png")
    picture = read_picture(tmp_path / "s.png")
    for paint, white in ((Area(200, 5, 4, 4), None), (Area(0, 0, 1, 1), None), (Area(5, 5, 20, 20), Area(0, 0, 1, 1))):
        with pytest.raises(PennelloError):
            read_swatch(picture, paint, white)
    (tmp_path / "x.png").write_bytes(b"no picture")
    with pytest.raises(FileProblemError):
        read_picture(tmp_path / "x.png")


def test_srgb_of_a_flat_reflectance_is_grey():
    assert srgb_of(np.full(36, 1.0)) == "#ffffff"
    assert KitItem(Paint("p", "P", "#ffffff")).kind is ItemKind.PAINT
