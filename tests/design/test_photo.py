"""A photo in the place of a chart: its landmarks lie on the chart's, turned and sized, in the file, in pictures."""

import math
from dataclasses import replace

import numpy as np
import pypdfium2 as pdfium
import pytest
from lantern_face import demo_plan
from PIL import Image

from pennello.chart.catalogue import chart
from pennello.chart.face import PUPILS
from pennello.design.on_chart import chart_of
from pennello.design.photo import Photo
from pennello.design.photo_edits import photo_of, with_photo, without_photo
from pennello.design.plan import skin_bytes
from pennello.errors import FileProblemError, OutOfRangeError, PennelloError, UnknownNameError
from pennello.files.page import MARGIN_MM
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.files.sheet_pdf import write_sheet
from pennello.files.tiles import OVERLAP_MM, TILE_MM, TOP_MM, bounds_of, marked, tiles_of
from pennello.lay import engine
from pennello.order.arrange import arrange, design_of
from pennello.session.chart_photo import laid_photo, named_from, with_photos_located
from pennello.session.chart_scene import chart_picture, corner_of
from pennello.session.order_pictures import sequence, sheet_pictures

RIGHT, LEFT = "pupil, wearer's right", "pupil, wearer's left"
MARKS = ((210.0, 330.0), (450.0, 290.0))
"""Where the pupils lie in the simulated photo: the head is tilted."""
PX_PER_MM = 4.0


@pytest.fixture
def shot(tmp_path):
    """A simulated camera's picture: grey, a green spot on each pupil."""
    picture = np.full((700, 640, 3), 120, np.uint8)
    rows, columns = np.indices(picture.shape[:2])
    for x, y in MARKS:
        picture[np.hypot(columns - x, rows - y) < 7] = (10, 230, 10)
    path = tmp_path / "shot.png"
    Image.fromarray(picture).save(path)
    return path


def photo(path, key="face", one=RIGHT, other=LEFT, marks=MARKS):
    return Photo(key, str(path), one, other, *marks[0], *marks[1])


@pytest.mark.parametrize("marks", [MARKS, ((0, 0), (100, 0)), ((50, 10), (50, 300)), ((300, 200), (100, 260))])
def test_both_landmarks_come_to_lie_where_the_chart_has_them(marks):
    face = chart("face", demo_plan().measures)
    onto = photo("x", marks=marks).onto(face)
    for name, (x, y) in zip((RIGHT, LEFT), marks, strict=True):
        assert onto @ [x, y, 1] == pytest.approx(face.landmark(name))
    turned = onto[:, :2]
    scale = math.dist(face.landmark(RIGHT), face.landmark(LEFT)) / math.dist(*marks)
    assert turned @ turned.T == pytest.approx(np.eye(2) * scale**2)  # a similarity, and no mirror image
    assert np.linalg.det(turned) > 0


def test_a_width_draws_the_chart_for_the_person():
    """Pupils 56 mm apart: the head is 56 / 0.43 mm broad, as the survey has it (see chart.face)."""
    plan = with_photo(demo_plan(), photo("x"), 56.0)
    assert plan.measures.head_breadth_mm == pytest.approx(56 / PUPILS, abs=0.1)
    face = chart_of(plan, "face")
    assert math.dist(face.landmark(RIGHT), face.landmark(LEFT)) == pytest.approx(56, abs=0.05)
    arm = photo("x", "forearm", "elbow", "wrist")
    plan = with_photo(demo_plan(), arm, 200.0)
    assert math.dist(*(chart_of(plan, "forearm").landmark(name) for name in ("elbow", "wrist"))) == pytest.approx(
        200, 0.01
    )
    assert plan.measures.head_breadth_mm == demo_plan().measures.head_breadth_mm


def test_what_cannot_be_is_refused():
    for wrong in ({"other": RIGHT}, {"marks": ((10, 10), (12, 10))}):
        with pytest.raises(OutOfRangeError, match="landmarks of a photo"):
            photo("x", **wrong)
    with pytest.raises(UnknownNameError, match="horn"):
        with_photo(demo_plan(), photo("x", one="horn"))
    with pytest.raises(OutOfRangeError, match="head breadth"):
        with_photo(demo_plan(), photo("x"), 300.0)
    broken = replace(demo_plan(), photos=(photo("x", one="horn"),))
    with pytest.raises(PennelloError, match=r"photos\[0\].one"):
        parse_plan(plan_bytes(broken), "x")


def test_one_photo_a_chart_kept_in_the_file_and_taken_away(shot):
    plan = with_photo(with_photo(demo_plan(), photo("old.png")), photo(shot))
    assert [one.file for one in plan.photos] == [str(shot)]
    assert parse_plan(plan_bytes(plan), "x") == plan
    assert b"shot.png" in plan_bytes(plan)
    assert len(plan_bytes(plan)) < len(plan_bytes(demo_plan())) + 1000  # its name alone
    assert photo_of(without_photo(plan, "face"), "face") is None


def test_the_picture_shows_the_photo_where_it_lies(shot, tmp_path):
    plan = with_photo(demo_plan(), photo(shot.name))
    laid = laid_photo(plan, "face", tmp_path)
    face, scale = chart_of(plan, "face"), 4.0
    seen = chart_picture(face, None, skin_bytes(plan.skin), scale, photo=laid)
    left, top = corner_of(face)
    for name in (RIGHT, LEFT):
        x, y = face.landmark(name)
        row, column = round((y - top) * scale), round((x - left) * scale)
        assert seen[row, column, 1] > 200
        assert seen[row, column, 0] < 60
    green = np.argwhere((seen[..., 1] > 180) & (seen[..., 0] < 80))
    assert len(green) == pytest.approx(2 * math.pi * (7 * scale * laid.onto[0, 0]) ** 2, rel=0.25)
    drawn = chart_picture(face, None, skin_bytes(plan.skin), scale)
    assert np.abs(seen.astype(int) - drawn).mean() > 10


def test_paper_and_steps_show_the_photo_too(shot, tmp_path):
    """The sheet's whole picture is green where the photo's marks lie; where the photo is gone the chart is drawn."""
    plan = with_photo(demo_plan(), photo(shot.name))
    plan = replace(plan, motifs=tuple(one for one in plan.motifs if one.chart == "face")[:1], overlays=(), parts=())

    def green(shown):
        arranged = arrange(design_of(shown, "face"), 0.0)
        whole = sheet_pictures(arranged, 2.0).whole["face"]
        (*_, last) = sequence(arranged, "face", 2.0)
        return [int(((one[..., 1] > 180) & (one[..., 0] < 80)).sum()) for one in (whole, last.picture)]

    assert min(green(with_photos_located(plan, tmp_path))) > 50
    assert max(green(with_photos_located(plan, tmp_path / "elsewhere"))) < 20
    assert with_photos_located(demo_plan(), tmp_path) == demo_plan()
    nameless = replace(plan, photos=(replace(plan.photos[0], file="a\0b"),))
    assert with_photos_located(nameless, tmp_path).photos[0].file.endswith("a\0b"), "no file can be called so"


def test_a_photo_that_is_gone_or_none_is_said(tmp_path):
    plan = with_photo(demo_plan(), photo("gone.png"))
    with pytest.raises(FileProblemError, match="not there"):
        laid_photo(plan, "face", tmp_path)
    (tmp_path / "gone.png").write_text("no picture")
    with pytest.raises(FileProblemError, match="no picture"):
        laid_photo(plan, "face", tmp_path)
    assert laid_photo(plan, "hand", tmp_path) is None
    for name in ("a\0b.png", "x" * 400, "/dev/zero", "."):
        with pytest.raises(FileProblemError):
            laid_photo(with_photo(demo_plan(), photo(name)), "face", tmp_path)


def test_files_are_named_from_the_plans_folder(tmp_path):
    inside = tmp_path / "photos" / "a.png"
    assert named_from(inside, tmp_path) == "photos/a.png"
    assert named_from(inside, None) == str(inside)
    assert named_from(inside, tmp_path / "plans") == str(inside)


def test_outlines_at_true_scale_lie_on_the_photo(shot, tmp_path):
    """Rendered by PDFium: the green pupils of the photo lie on the tiles where the chart has its pupils, in mm."""
    plan = with_photo(demo_plan(), photo(shot), None)
    arranged = arrange(design_of(plan, "face", engine=engine.kernel()), 0.0)
    pictures = sheet_pictures(arranged, 2.0, engine.kernel())
    assert set(pictures.under) == {"face"}
    file = tmp_path / "s.pdf"
    pages = write_sheet(arranged, (), file, pictures=pictures, tiles=True)
    tiles = tiles_of(bounds_of(plan, "face", marked(arranged, "face")))
    seen = 0
    with pdfium.PdfDocument(file) as paper:
        for number, tile in zip(range(pages - len(tiles), pages), tiles, strict=True):
            page = paper[number].render(scale=PX_PER_MM / (72 / 25.4)).to_numpy()[..., :3].astype(int)
            green = page[..., 1] - page[..., [0, 2]].max(axis=2) > 40
            for name in (RIGHT, LEFT):
                at = np.array(chart_of(plan, "face").landmark(name)) - (tile.left_mm, tile.top_mm)
                if (at > OVERLAP_MM).all() and (at < np.array(TILE_MM) - OVERLAP_MM).all():
                    x, y = at + np.array([MARGIN_MM, TOP_MM])
                    rows, columns = np.nonzero(green)
                    near = np.hypot(columns / PX_PER_MM - x, rows / PX_PER_MM - y)
                    assert near.min() < 1.0
                    spot = near < 6.0
                    middle = columns[spot].mean() / PX_PER_MM, rows[spot].mean() / PX_PER_MM
                    assert math.dist(middle, (x, y)) < 0.7
                    seen += 1
    assert seen == 2
    plain = sheet_pictures(arrange(design_of(demo_plan(), "face", engine=engine.kernel()), 0.0), 2.0, engine.kernel())
    assert plain.under == {}
