"""Numbers as people write them, names as words in files of other kinds, and limits."""

import csv
import io
from argparse import ArgumentTypeError

import pytest
from defusedxml.ElementTree import fromstring
from hypothesis import given
from hypothesis import strategies as st

from pennello.cli.numbers import length_mm, number, numbers, whole
from pennello.errors import FileProblemError, OutOfRangeError, PennelloError, clipped
from pennello.files.json_text import sound_json
from pennello.files.words import guarded, printable, unguarded, xml_text
from pennello.limits import MOST_ID, MOST_NAME, check_count, check_id, check_name, fitted
from pennello.units import LengthUnit, NumberTextError, brush_size_text, parse_amount, parse_length, parse_number

INCH = 25.4  # mm: international yard and pound agreement, 1959

# --- numbers ---


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("12.5", 12.5),
        ("12,5", 12.5),
        (" 5,6 ", 5.6),
        ("3/4", 0.75),
        ("1 1/8", 1.125),
        ("1-1/8", 1.125),
        ("\u00be", 0.75),
        ("1\u00bd", 1.5),
        ("\u22122", -2.0),
        (".5", 0.5),
        ("1e2", 100.0),
    ],
)
def test_numbers_are_read_with_either_sign_and_as_fractions(text, value):
    assert parse_number(text) == value
    assert number(text) == value


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("19 mm", "in", 19.0),
        ("19mm", "mm", 19.0),
        ("3/4 in", "mm", 0.75 * INCH),
        ('1 1/8"', "mm", 1.125 * INCH),
        ("1 1/8\u2033", "mm", 1.125 * INCH),
        ("3/4", "in", 0.75 * INCH),
        ("1,9 cm", "mm", 19.0),
        ("20 um", "mm", 0.02),
        ("0.05 m", "in", 50.0),
    ],
)
def test_lengths_are_read_with_their_own_unit(text, unit, mm):
    assert parse_length(text, LengthUnit(unit)) == pytest.approx(mm)


@given(st.integers(1, 40))
def test_a_brush_is_read_as_its_size_is_said(eighths):
    assert parse_length(brush_size_text(eighths / 8 * INCH)) == pytest.approx(eighths / 8 * INCH)


@given(st.floats(-1e6, 1e6))
def test_a_number_is_read_as_it_is_written(value):
    assert parse_number(repr(value)) == value
    assert parse_number(repr(value).replace(".", ",")) == value


@pytest.mark.parametrize(
    "text",
    [
        "",
        "nan",
        "inf",
        "-inf",
        "1_9",
        "abc",
        "1/0",
        "1,2,3",
        "1.2.3",
        "\u0661\u0662",
        "\uff11",
        "0x10",
        "1e999",
        "--2",
        "3/4/5",
    ],
)
@pytest.mark.parametrize("read", [parse_number, parse_length, number, length_mm])
def test_what_is_no_number_is_a_sentence(read, text):
    with pytest.raises((NumberTextError, ArgumentTypeError), match="is not understood; write a"):
        read(text)


def test_another_unit_is_not_taken_for_the_one_asked():
    assert parse_amount("45 deg", "\u00b0") == 45
    assert parse_amount("30", " s") == 30
    for text, unit in (("12 kg", " g"), ("3 in", "\u00b0"), ("5 mm", " s")):
        with pytest.raises(NumberTextError, match="not understood"):
            parse_amount(text, unit)


def test_numbers_in_a_row_and_whole_ones():
    assert numbers("1,5", 2, "a place") == (1.0, 5.0)
    assert whole("12") == 12
    for text in ("1.5", "a", "1_0"):
        with pytest.raises(ArgumentTypeError, match=r".+"):
            whole(text)


# --- words ---

any_text = st.text(st.characters(), max_size=40)


@given(any_text)
def test_any_name_makes_sound_xml(text):
    assert fromstring(f"<a>{xml_text(text)}</a>").text in (printable(text), printable(text) or None)


@given(st.one_of(any_text, st.text("'=+-@\t", max_size=6)))
def test_no_cell_is_a_formula_and_each_comes_back(text):
    out = io.StringIO()
    csv.writer(out).writerow([guarded(text)])
    (row,) = csv.reader(io.StringIO(out.getvalue(), newline=""))
    assert not row[0].startswith(("=", "+", "-", "@", "\t", "\r"))
    assert unguarded(row[0]) == text


def test_a_sentence_never_repeats_megabytes():
    error = OutOfRangeError("x" * 2_000_000, "y" * 2_000_000, "less")
    assert len(str(error)) < 2000
    assert len(clipped("z" * 10_000)) < 200


# --- JSON ---


def test_a_mark_is_read_past_and_a_key_that_stands_twice_is_refused():
    assert sound_json(b"\xef\xbb\xbf{}", "x") == b"{}"
    with pytest.raises(FileProblemError, match=r"line 3.*'a'|'a'.*line 3"):
        sound_json(b'{\n"a": 1,\n"a": 2}', "x")
    with pytest.raises(FileProblemError, match="UTF-8"):
        sound_json(b'{"a": "\xef"}', "x")


# --- limits ---


@given(st.text("ab ", max_size=400), st.text("cd", max_size=40))
def test_a_fitted_name_is_never_too_long_and_keeps_its_tail(name, tail):
    got = fitted(name, tail)
    assert len(got) <= MOST_NAME
    assert got.endswith(tail)


def test_limits_say_what_and_how_much():
    check_id("paint", "x" * MOST_ID)
    check_name("the title", "x" * MOST_NAME)
    check_count("paints", 5, 5)
    for refused, words in (
        (lambda: check_id("paint", "x" * (MOST_ID + 1)), "65"),
        (lambda: check_id("paint", ""), "1 to 64"),
        (lambda: check_name("the title", "x" * 201), "201"),
        (lambda: check_name("the title", "a\ud800"), "the title"),
        (lambda: check_count("paints", 6, 5), "6"),
    ):
        with pytest.raises(PennelloError, match=words):
            refused()
