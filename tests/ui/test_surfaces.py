"""One drawing on three backs: window, picture and paper show the same chart, and nothing where there is no skin."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from lantern_face import demo_plan
from pypdf import PdfReader
from PySide6.QtGui import QColor, QImage, QPainter, QTransform

from pennello.aim.contrast import contrast_ratio
from pennello.chart.catalogue import CHARTS, chart
from pennello.chart.chart import Feature
from pennello.chart.measures import Measures
from pennello.design.laid_marks import SeenMark
from pennello.design.marks import Gem, GemShape, Glitter, Stencil, paths_of
from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan, Skin, skin_bytes
from pennello.design.surface import (
    CONTOUR_WEIGHT,
    Ink,
    contour_ink,
    draw_contours,
    draw_edges,
    draw_features,
    draw_mark,
    draw_skin,
    skin_outlines,
)
from pennello.design.touch import skin_shape
from pennello.files.page import write_page
from pennello.files.page_surface import PageSurface
from pennello.lay.canvas import Canvas
from pennello.lay.families.shapes import smooth
from pennello.session.chart_scene import ChartScene, Painted, chart_picture
from pennello.ui.widgets.qt_surface import QtSurface

PX_PER_MM = 3.0
ONE_SIDE = [key for key, (name, _) in CHARTS.items() if "right" not in name]
"""Charts of the right side are mirror images of these, see tests/chart."""
SKINS = {"light": 55.0, "dark": -45.0}
RING = smooth([(10, 0), (0, 10), (-10, 0), (0, -10), (10, 0)])
MARKS = (
    Stencil("moon", 0, -30, 20, 20, "#2050c0", cover=0.6, outlines=(RING,)),
    Gem("shine", 0, 20, 14, 14, "#f4f3ee", shape=GemShape.STAR),
    Glitter("dust", 5, -60, 24, 14, "#ffe9a0", seed=4),
)


def in_window(made, skin, marks):
    """Return the chart as Qt draws it, where and as large as `chart_picture` does."""
    left, top, right, bottom = (
        round(edge) + margin for edge, margin in zip(made.bounds_mm, (-6, -6, 6, 6), strict=True)
    )
    image = QImage(round((right - left) * PX_PER_MM), round((bottom - top) * PX_PER_MM), QImage.Format.Format_RGB32)
    image.fill(QColor("#F7F6F4"))
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    surface = QtSurface(painter, QTransform(PX_PER_MM, 0, 0, PX_PER_MM, -left * PX_PER_MM, -top * PX_PER_MM), PX_PER_MM)
    draw_skin(surface, made, Ink(*skin))
    draw_features(surface, made, Ink(*skin))
    with surface.within(skin_outlines(made)):
        for mark in marks:
            draw_mark(surface, mark)
    draw_contours(surface, made, Ink(*skin))
    painter.end()
    data = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.width(), 4)
    return data[..., 2::-1].astype(int)


@pytest.mark.parametrize("key", ONE_SIDE)
@pytest.mark.parametrize("ita", list(SKINS.values()), ids=list(SKINS))
def test_window_and_picture_are_one_drawing(qapp, key, ita):
    """Both smooth their edges their own way: they may differ there, by no more than a part of a line's width."""
    made, skin = chart(key, Measures()), skin_bytes(Skin(ita))
    marks = tuple(replace(mark, chart=key) for mark in MARKS[1:])  # a stencil is paint of the film
    nothing = np.zeros((1, 1, 4), np.uint8)
    bare = Painted(Plan(), key, Canvas(0, 0, 1, 1, 1.0), nothing, 0, marks=tuple(map(SeenMark, marks)))
    shown, written = in_window(made, skin, marks), chart_picture(made, bare, skin, PX_PER_MM).astype(int)
    apart = np.abs(shown - written).max(axis=2)
    assert apart.mean() < 2.5
    assert (apart > 60).mean() < 0.012
    blocks = [picture[: len(picture) // 12 * 12, : picture.shape[1] // 12 * 12] for picture in (shown, written)]
    seen = [one.reshape(len(one) // 12, 12, -1, 12, 3).mean(axis=(1, 3)) for one in blocks]
    assert np.abs(seen[0] - seen[1]).max() < 22  # no square of 4 mm looks otherwise


def test_lines_of_a_chart_read_on_every_skin():
    """WCAG 2.1 contrast ratio; thin lines on dark skin used to vanish in exported pictures."""
    for ita in (60.0, 40.0, 20.0, 0.0, -20.0, -45.0, -60.0):
        skin = Ink(*skin_bytes(Skin(ita)))
        for weight in (0.3, 0.5, 0.7):
            ink = contour_ink(weight, skin)
            mixed = [ink.cover * a + (1 - ink.cover) * b for a, b in zip(ink.rgb, skin.rgb, strict=True)]
            assert contrast_ratio(np.array(mixed) / 255, np.array(skin.rgb) / 255) > 1.25


def test_nothing_is_drawn_where_there_is_no_skin():
    demo = demo_plan()
    placed = demo.motifs[0]
    face = chart_of(demo, "face")
    left = face.bounds_mm[0]
    beyond = replace(placed, place=replace(placed.place, x_mm=left, y_mm=0.0), twin=False)
    dust = Glitter("dust", left, 20.0, 30.0, 20.0, "#ff00ff")
    plan = replace(demo, motifs=(beyond,), overlays=(dust,))
    painted = ChartScene().paint(plan, "face")
    assert painted is not None
    assert [one.mark for one in painted.marks] == [dust]
    pictures = [chart_picture(face, one, (198, 156, 123), PX_PER_MM).astype(int) for one in (None, painted)]
    rows, columns = np.nonzero(np.abs(pictures[0] - pictures[1]).max(axis=2) > 8)
    assert len(rows) > 500
    corner = np.round([face.bounds_mm[0], face.bounds_mm[1]]) - 6
    reach = skin_shape(face).buffer(1.0)  # the width of a contour
    at = np.column_stack([columns, rows]) / PX_PER_MM + corner
    assert shapely.contains_xy(reach, at[:, 0], at[:, 1]).all()


def test_paper_shows_the_same_lines_where_they_lie(tmp_path):
    """Read back with pypdf: every point of the chart's lines and marks is on the page, mm from its top left."""
    made = chart("face", Measures())
    shift = np.array([105.0, 140.0])

    def draw(page):
        surface = PageSurface(page, shift)
        draw_features(surface, made, Ink(255, 255, 255))
        draw_edges(surface, made, Ink(255, 255, 255))
        draw_contours(surface, made, Ink(255, 255, 255))
        with surface.within(skin_outlines(made)):
            for mark in MARKS:
                draw_mark(surface, mark)

    write_page(tmp_path / "face.pdf", "Face", draw)
    words = PdfReader(tmp_path / "face.pdf").pages[0].get_contents().get_data().decode("latin-1").split()
    numbers = {word for word in words if word.replace(".", "").replace("-", "").isdigit()}
    assert "W" in words and "n" in words  # clipped to the skin
    brow = next(area.outline for area in made.areas if area.feature is Feature.BROW)
    for path in (made.skin, brow, paths_of(MARKS[0])[0], paths_of(MARKS[1])[0]):
        x, y = np.array(path.points_mm[0]) + shift
        pt = (x * 72 / 25.4, (297 - y) * 72 / 25.4)
        for value in pt:
            assert any(abs(float(number) - value) < 0.02 for number in numbers)


def test_paint_lies_over_brows_and_lips_and_under_nothing_but_the_outline():
    """Lines within the skin are drawn under what covers them; where the skin ends nothing covers the line."""
    made = chart("face", Measures())
    x, y = next(line for line in made.lines if 0.4 < line.weight < CONTOUR_WEIGHT).path.points_mm[0]
    rgba = np.zeros((40, 40, 4), np.uint8)
    rgba[...] = (200, 30, 30, 255)
    patch = Painted(Plan(), "face", Canvas(x - 5, y - 5, 40, 40, 4.0), rgba, 1)
    picture = chart_picture(made, patch, (198, 156, 123), PX_PER_MM)
    left, top = round(made.bounds_mm[0]) - 6, round(made.bounds_mm[1]) - 6
    row, column = round((y - top) * PX_PER_MM), round((x - left) * PX_PER_MM)
    seen = picture[row - 3 : row + 4, column - 3 : column + 4].astype(int)
    assert np.abs(seen - (200, 30, 30)).max() <= 2
