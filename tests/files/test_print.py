"""What is written for paper: sizes by ISO 216 and ANSI/ASME Y14.1, what the PDF says of itself, read by pypdf."""

import sys
from datetime import UTC, datetime

import numpy as np
import pytest
from lantern_face import demo_plan
from pypdf import PdfReader

from pennello.errors import FileProblemError
from pennello.files.card_pdf import write_card
from pennello.files.chart_pdf import write_chart
from pennello.files.pages_seen import pages_seen
from pennello.files.paper import Paper, PaperSize, on_paper, paper_now

SIZES_MM = {PaperSize.A4: (210, 297), PaperSize.A3: (297, 420), PaperSize.LETTER: (215.9, 279.4)}
"""ISO 216:2007; Letter is 8 1/2 by 11 inches (ANSI/ASME Y14.1)."""


@pytest.mark.parametrize("size", list(PaperSize))
def test_pages_have_the_size_of_the_paper_and_the_ruler_is_true(size, tmp_path):
    with on_paper(Paper(size)):
        write_card(demo_plan(), "poppy-petal", tmp_path / "card.pdf")
    (page,) = PdfReader(tmp_path / "card.pdf").pages
    assert (page.mediabox.width / 72 * 25.4, page.mediabox.height / 72 * 25.4) == pytest.approx(SIZES_MM[size], abs=0.1)
    words = page.extract_text()
    assert "this ruler is 100 mm long when printed at 100 %" in words
    assert "licensed practice decide" in words


def _ink_mm(path):
    """Return the box of all that is drawn on the first page, mm from its left and top."""
    picture, wide, high = next(pages_seen(path.read_bytes(), 72.0))
    rows, columns = np.nonzero((picture < 200).any(axis=2))
    across, down = wide / picture.shape[1], high / picture.shape[0]
    return columns.min() * across, rows.min() * down, columns.max() * across, rows.max() * down


@pytest.mark.parametrize("size", list(PaperSize))
def test_nothing_comes_so_near_the_edge_that_printers_leave_it_out(size, tmp_path):
    """5 mm is what office printers need at most (common practice, no published source)."""
    with on_paper(Paper(size)):
        write_card(demo_plan(), "poppy-petal", tmp_path / "card.pdf")
    left, top, right, bottom = _ink_mm(tmp_path / "card.pdf")
    wide, high = SIZES_MM[size]
    assert min(left, top, wide - right, high - bottom) > 4.9


def test_true_scale_stays_and_a_picture_may_grow(tmp_path):
    picture = np.full((297, 210, 3), 60, np.uint8)
    boxes = {}
    for size in (PaperSize.A4, PaperSize.A3):
        with on_paper(Paper(size)):
            write_card(demo_plan(), "poppy-petal", tmp_path / "card.pdf")
            write_chart(picture, "Chart", "face", tmp_path / "chart.pdf")
        boxes[size] = [_ink_mm(tmp_path / name) for name in ("card.pdf", "chart.pdf")]
    (card, chart), (card_a3, chart_a3) = boxes[PaperSize.A4], boxes[PaperSize.A3]
    assert card_a3[3] - card_a3[1] == pytest.approx(card[3] - card[1], abs=0.8)
    assert (chart_a3[3] - chart_a3[1]) / (chart[3] - chart[1]) == pytest.approx(2**0.5, abs=0.01)
    assert "ruler" not in PdfReader(tmp_path / "chart.pdf").pages[0].extract_text()  # nothing there is at true scale


def test_a_pdf_says_what_it_is_who_made_it_when_and_in_which_language(tmp_path):
    before = datetime.now(UTC).replace(microsecond=0)
    with on_paper(Paper(maker="Tide Painter")):
        write_card(demo_plan(), "poppy-petal", tmp_path / "card.pdf")
    reader = PdfReader(tmp_path / "card.pdf")
    told = reader.metadata
    assert (told.title, told.author, told.creator) == (
        "Saltmarsh Lantern Walk: Poppy brow, wiggle petal",
        "Tide Painter",
        "Pennello",
    )
    assert (told.creation_date.astimezone(UTC) - before).total_seconds() < 60
    root = (tmp_path / "card.pdf").read_bytes()
    assert b"/Lang (en)" in root
    assert b"/PrintScaling /None" in root  # ISO 32000-1, table 150


def test_nobody_is_named_unasked_and_a_paper_ends_with_its_block(tmp_path):
    with on_paper(Paper(PaperSize.A3, "Tide Painter")):
        assert paper_now().size is PaperSize.A3
    assert paper_now() == Paper()
    write_card(demo_plan(), "poppy-petal", tmp_path / "card.pdf")
    assert PdfReader(tmp_path / "card.pdf").metadata.author in (None, "", "anonymous", "(anonymous)")


def test_pages_are_seen_as_they_are(tmp_path):
    write_card(demo_plan(), "poppy-petal", tmp_path / "card.pdf")
    ((picture, wide, high),) = pages_seen((tmp_path / "card.pdf").read_bytes(), 96.0)
    assert (wide, high) == pytest.approx((210, 297), abs=0.1)
    assert picture.shape == pytest.approx((297 / 25.4 * 96, 210 / 25.4 * 96, 3), abs=1.5)
    assert picture.mean() > 200
    with pytest.raises(FileProblemError, match="no PDF"):
        list(pages_seen(b"no", 96.0))
    assert "pypdfium2" in sys.modules
