"""PNG and PDF, read back with independent readers."""

import re

import numpy as np
import pytest
from PIL import Image
from pypdf import PdfReader

from pennello.aim.comparison import compare
from pennello.design.edits import with_stroke
from pennello.errors import FileProblemError
from pennello.files.card_pdf import write_card
from pennello.files.picture import bench_picture, lab_bytes, ribbons, write_png
from pennello.lay.render import render
from pennello.lay.stroke import Stroke
from pennello.path.cubic import line

MM = 72 / 25.4


def test_png_knows_its_true_size(tmp_path, demo):
    tried = demo.attempt("dahlia-petal")
    laid = tried.lay(4.0)
    path = tmp_path / "stroke.png"
    write_png(render(laid.film, tried.skin), path, 4.0)
    with Image.open(path) as picture:
        assert picture.size == (laid.film.canvas.columns, laid.film.canvas.rows)
        assert picture.info["dpi"][0] == pytest.approx(4 * 25.4, abs=0.1)


def test_bench_picture_holds_stroke_and_ribbons(demo):
    tried = demo.attempt("dahlia-petal")
    laid = tried.lay(4.0)
    seen = compare(laid, tried)
    stroke = render(laid.film, tried.skin)
    page = bench_picture(stroke, seen, 19.05, 4.0)
    assert (page[: stroke.shape[0], : stroke.shape[1]] == stroke).all()
    wanted, early, late = ribbons(seen)
    assert wanted.shape == early.shape == late.shape == (64, 3)
    row = page[stroke.shape[0] + 20, 8 : 8 + 76]
    assert np.abs(row[[4, 40, 70]].astype(int) - wanted[[3, 33, 58]].astype(int)).max() < 40
    assert lab_bytes(np.array([100.0, 0, 0])).tolist() == [255, 255, 255]


def rectangles(page):
    """Widths and heights of all rectangles and images placed on a page, mm."""
    stream = page.get_contents().get_data().decode("latin1")
    found = [
        tuple(float(part) for part in one) for one in re.findall(r"([\d.-]+) ([\d.-]+) ([\d.-]+) ([\d.-]+) re", stream)
    ]
    images = [
        tuple(float(part) for part in one) for one in re.findall(r"([\d.]+) 0 0 ([\d.]+) [\d.]+ [\d.]+ cm", stream)
    ]
    return [(w / MM, h / MM) for _, _, w, h in found], [(w / MM, h / MM) for w, h in images]


def ruler_mm(page):
    """Longest distance between upright marks of one ruler at the foot of the page, mm."""
    stream = page.get_contents().get_data().decode("latin1")
    marks = [
        [float(part) / MM for part in one] for one in re.findall(r"([\d.]+) ([\d.]+) m ([\d.]+) ([\d.]+) l", stream)
    ]
    foot = [x0 for x0, y0, x1, _ in marks if x0 == x1 and y0 < 30]
    return max(foot) - min(foot)


def test_card_is_one_page_at_true_scale(tmp_path, demo):
    path = tmp_path / "card.pdf"
    write_card(demo, "dahlia-petal", path)
    reader = PdfReader(path)
    assert len(reader.pages) == 1
    page = reader.pages[0]
    assert float(page.mediabox.width) / MM == pytest.approx(210, abs=0.1)
    boxes, images = rectangles(page)
    assert any(width == pytest.approx(28.0, abs=0.01) for width, _ in boxes)  # the cake
    assert any(width == pytest.approx(19.05, abs=0.01) for width, _ in boxes)  # the chisel on it
    assert any(width == pytest.approx(28.0, abs=0.01) for width, _ in images)
    assert sum(width == pytest.approx(19.05, abs=0.01) for width, _ in images) == 4  # loaded, wanted, early, late
    canvas = demo.attempt("dahlia-petal").lay(6.0).film.canvas
    assert any(width == pytest.approx(canvas.columns / 6, abs=0.01) for width, _ in images)
    assert ruler_mm(page) == pytest.approx(100.0, abs=0.01)
    words = " ".join(page.extract_text().split())
    for expected in ("Dahlia wrist", "corner A 2.1 mm", "Holds", "Labels, local rules", "true scale"):
        assert expected in words


def test_a_stroke_too_large_for_the_page_says_so(tmp_path, demo):
    from dataclasses import replace

    stroke = demo.stroke("dahlia-petal")
    plan = with_stroke(demo, replace(stroke, stroke=Stroke(line((0, 0), (400, 40)))))
    path = tmp_path / "card.pdf"
    write_card(plan, "dahlia-petal", path)
    assert "too large for the page" in PdfReader(path).pages[0].extract_text()


def test_card_on_a_place_that_cannot_be_written(tmp_path, demo):
    with pytest.raises(FileProblemError):
        write_card(demo, "dahlia-petal", tmp_path / "none" / "card.pdf")
