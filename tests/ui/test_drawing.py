"""What is drawn: cards of the board, charts at any zoom and in the mirror, icons of motifs."""

import numpy as np
import pytest
import shapely
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter

from pennello.chart.catalogue import CHARTS, chart
from pennello.chart.chart import drawn
from pennello.chart.form import skin_light
from pennello.chart.measures import Measures
from pennello.colour.srgb import decode
from pennello.design.surface import Ink, draw_contours, draw_features, draw_skin, shaded, skin_outlines
from pennello.design.touch import skin_shape
from pennello.kit import catalogue
from pennello.load.recipe import PickUp
from pennello.ui.stations.bench.search.card import CARD_PX, BoardCard, ShownFind
from pennello.ui.widgets.chart_drawing import ink_of, surface_of, view_of

SKIN = QColor("#c69c7b")


def painted(width, height, draw):
    image = QImage(width, height, QImage.Format.Format_RGB32)
    image.fill(QColor("#ffffff"))
    painter = QPainter(image)
    draw(painter)
    painter.end()
    data = np.frombuffer(image.constBits(), np.uint8).reshape(height, width, 4)
    return data[..., 2::-1].copy()


@pytest.mark.parametrize("key", list(CHARTS))
@pytest.mark.parametrize("zoom", [1.0, 2.0])
def test_charts_fill_their_area_and_stay_sharp(qapp, key, zoom):
    made = chart(key, Measures())
    view = view_of(made, QRectF(0, 0, 400, 300), zoom)

    def draw(painter):
        surface = surface_of(painter, view)
        surface.fill(skin_outlines(made), ink_of(SKIN))
        draw_features(surface, made, ink_of(SKIN))
        draw_contours(surface, made, ink_of(SKIN))

    picture = painted(400, 300, draw)
    assert (np.abs(picture.astype(int) - (198, 156, 123)).max(axis=2) < 3).mean() > 0.1
    dark = picture.max(axis=2) < 90
    assert dark.any()
    # a line is as thin at 200 % as at 100 %: it is drawn anew, not blown up
    blocks = np.lib.stride_tricks.sliding_window_view(dark, (6, 6)).all(axis=(2, 3))
    assert not blocks.any()


def _mirrored_later(key):
    """The other side of a limb is its mirror image: drawn in make test-all."""
    return pytest.param(key, marks=pytest.mark.slow) if key.endswith("-right") else key


@pytest.mark.parametrize("key", [_mirrored_later(key) for key in CHARTS])
def test_form_reads_in_light_and_shade_of_the_skins_own_colour(qapp, key):
    """A neutral shade scales linear light alike in every channel: what is bare keeps its chromaticity."""
    made = chart(key, Measures())
    lit = skin_light(made)
    assert lit.factor.min() > 0.3
    assert lit.factor.max() < 1.2
    picture = decode(shaded(lit.factor, Ink(198, 156, 123))[..., :3] / 255)
    share = picture / picture.sum(axis=2, keepdims=True)
    skin = decode(np.array((198, 156, 123)) / 255)
    assert np.abs(share - skin / skin.sum()).max() <= 0.02
    inside = skin_shape(made).buffer(-0.25 * min(np.ptp(drawn(made.skin), axis=0)))
    outside = skin_shape(made).buffer(-1.0).difference(skin_shape(made).buffer(-3.0))
    rows, columns = np.indices(lit.factor.shape)
    at = [lit.left_mm + columns + 0.5, lit.top_mm + rows + 0.5]
    within, edge = (lit.factor[shapely.contains_xy(place, *at)] for place in (inside, outside))
    assert within.mean() > edge.mean() + 0.1  # it turns away at its outline


@pytest.mark.parametrize("mirror", [False, True])
def test_a_point_of_the_view_and_back(mirror):
    view = view_of(chart("face", Measures()), QRectF(10, 20, 300, 500), 1.3, mirror=mirror)
    for at in ((0.0, 0.0), (31.5, -40.0), (-60.0, 80.0)):
        assert view.to_mm(view.to_px(*at)) == pytest.approx(at)
        mapped = view.transform.map(QPointF(*at))
        assert (mapped.x(), mapped.y()) == pytest.approx((view.to_px(*at).x(), view.to_px(*at).y()))


def test_mirrored_chart_is_the_picture_mirrored(qapp):
    made = chart("cheek-left", Measures())
    views = [view_of(made, QRectF(0, 0, 301, 301), mirror=mirror) for mirror in (False, True)]
    both = [painted(301, 301, lambda p, v=view: draw_skin(surface_of(p, v), made, ink_of(SKIN))) for view in views]
    assert np.abs(both[0][:, ::-1].astype(int) - both[1]).mean() < 1.5


def test_a_card_shows_cake_brush_ribbons_and_words(qapp, qtbot):
    cakes, brushes = catalogue.cakes(), catalogue.brushes()
    card = BoardCard()
    qtbot.addWidget(card)
    assert not card.grab().isNull()
    ribbon = np.full((64, 3), (200, 30, 40), np.uint8)
    pickups = [(PickUp("dahlia-wrist", 2.0, flip=flip), brushes["flat-3-4"]) for flip in (False, True)]
    lines = [
        "as wished",
        "holds in 59% of tries",
        "a second visit, a second cake, and a very long word of thirty letters",
    ]
    card.show_find(
        ShownFind(
            "Dahlia Wrist",
            cakes["dahlia-wrist"],
            catalogue.paints(),
            pickups,
            (ribbon, ribbon),
            "close",
            "1.0 dE",
            lines,
        )
    )
    card.resize(CARD_PX)
    image = card.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    data = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.width(), 4)
    assert (np.abs(data[..., 2::-1].astype(int) - (200, 30, 40)).max(axis=2) < 4).sum() > 2000
    assert "Take Dahlia Wrist, close, 1.0 dE, as wished" in card.accessibleName()
    card.setFocus(Qt.FocusReason.TabFocusReason)
    assert card.focusPolicy() is Qt.FocusPolicy.StrongFocus
