"""SVG in and out, with fontTools' parser of the path grammar as the independent reader."""

import numpy as np
import pytest
from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path import parse_path
from hypothesis import given
from hypothesis import strategies as st

from pennello.errors import FileProblemError
from pennello.files.svg import path_data, read_svg, svg_text, write_svg
from pennello.path.cubic import CubicPath, length_mm

number = st.floats(-4000, 4000).map(lambda x: round(x, 3))
points = st.tuples(number, number)


def read_by_fonttools(data):
    pen = RecordingPen()
    parse_path(data, pen)
    return [tuple(point) for name, args in pen.value for point in args if name in ("moveTo", "curveTo")]


@given(st.integers(1, 4).flatmap(lambda n: st.lists(points, min_size=3 * n + 1, max_size=3 * n + 1)))
def test_what_is_written_is_read_by_another_parser(path):
    seen = read_by_fonttools(path_data(CubicPath(tuple(path))))
    assert np.array(seen) == pytest.approx(np.array(path), rel=1e-5, abs=1e-3)


def test_a_plan_goes_out_and_in(demo, tmp_path):
    write_svg(demo, tmp_path / "all.svg")
    found = read_svg(tmp_path / "all.svg")
    assert len(found) == len(demo.strokes)
    for path, stroke in zip(found, demo.strokes, strict=True):
        assert np.array(path.points_mm) == pytest.approx(np.array(stroke.stroke.path.points_mm), abs=1e-3)
    assert 'viewBox="' in svg_text(demo)


def svg(tmp_path, body, head='xmlns="http://www.w3.org/2000/svg"'):
    (tmp_path / "x.svg").write_text(f"<svg {head}>{body}</svg>")
    return read_svg(tmp_path / "x.svg")


@pytest.mark.parametrize(
    ("data", "length"),
    [
        ("M0 0L30 40", 50),
        ("m10,10 l30,40", 50),
        ("M0 0h30v40", 70),
        ("M0,0l3e1,4e1", 50),
        ("M.5.5l30-40", 50),
        ("M0 0A10 10 0 0 1 20 0", 10 * np.pi),
        ("M0 0Q10 20 20 0", 29.58),
        ("M0 0C0 0 10 0 10 0S20 0 20 0", 20),
        ("M0 0L10 0L10 10Z", 20 + 10 * np.sqrt(2)),
    ],
)
def test_the_grammar(tmp_path, data, length):
    (path,) = svg(tmp_path, f'<path d="{data}"/>')
    assert length_mm(path) == pytest.approx(length, rel=2e-3)


def test_shapes_and_several_paths(tmp_path):
    found = svg(tmp_path, '<line x1="0" y1="0" x2="3" y2="4"/><path d="M0 0L1 0M5 5L9 5"/>')
    assert [round(length_mm(path), 3) for path in found] == [5, 1, 4]


@pytest.mark.parametrize(
    "text",
    [
        "",
        "no xml",
        '<?xml version="1.0" encoding="UTF-0"?><svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L1 1"/></svg>',
        "<html></html>",
        '<svg xmlns="http://www.w3.org/2000/svg"></svg>',
        '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L nonsense"/></svg>',
        '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L9e9 0"/></svg>',
        '<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L1 1"/>&a;</svg>',
    ],
)
def test_bad_drawings_are_one_sentence(tmp_path, text):
    (tmp_path / "x.svg").write_text(text)
    with pytest.raises(FileProblemError, match=r"x\.svg"):
        read_svg(tmp_path / "x.svg")
