"""The Tray, driven as a painter drives it."""

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QColorDialog, QDialog, QFileDialog

from pennello.design.plan import Plan
from pennello.kit.paint import Finish
from pennello.kit.shelf import ItemKind
from pennello.session.settings import load_settings
from pennello.ui.stations.tray.calibrate_page import CalibratePage
from pennello.ui.stations.tray.import_page import ImportPage
from pennello.ui.stations.tray.reader_page import ReaderPage
from pennello.ui.stations.tray.ruler_page import CARD_MM, RulerPage
from pennello.ui.stations.tray.swatch_page import SwatchPage


@pytest.fixture
def tray(window):
    window.rail.buttons["tray"].click()
    assert window.station("tray").station.isVisible()
    return window.station("tray")


def choose(tray, kind, name):
    tray.station.kinds.button(list(ItemKind).index(kind)).click()
    tray.model.choose((kind, name))


def thing(tray):
    return tray.model.item.thing


def answer(monkeypatch, kind, path):
    monkeypatch.setattr(QFileDialog, kind, lambda *a, **k: (str(path), ""))


def accept(monkeypatch, page_class, work):
    """Let a page do its work as the painter would, then take it."""

    def run(page):
        page.show()
        work(page)
        page.grab()
        page.close()
        return QDialog.DialogCode.Accepted

    monkeypatch.setattr(page_class, "exec", run)


# --- shelf and search ---


def test_search_narrows_the_shelf_and_says_when_nothing_is_like_that(tray):
    station = tray.station
    QTest.keyClicks(station.search, "sea")
    assert {item.id for item in tray.model.items} == {"sea-lavender", "sea-plum"}
    station.kinds.button(1).click()
    station.search.setText("white + plum")
    assert tray.model.items == []
    assert station.first.isVisible()
    station.first.click()
    assert len(tray.model.items) == 12
    station.search.setText("white + pink")
    assert [item.id for item in tray.model.items] == ["dahlia-wrist"]
    assert station.count.text() == "1 here"


def test_arrows_go_along_the_shelf(tray):
    shelf = tray.station.shelf
    shelf.setFocus()
    first = tray.model.item.id
    QTest.keyClick(shelf, Qt.Key.Key_Right)
    assert tray.model.item.id != first
    assert tray.station.detail.name.text() == tray.model.item.name
    index = shelf.currentIndex()
    assert "matte" in index.data(Qt.ItemDataRole.AccessibleDescriptionRole)


@pytest.mark.parametrize("kind", list(ItemKind))
@pytest.mark.parametrize("theme", ["linen", "lamp"])
def test_every_thing_is_drawn(tray, window, kind, theme):
    window.clothes.choose_theme(theme)
    tray.station.kinds.button(list(ItemKind).index(kind)).click()
    for item in tray.model.items:
        tray.model.choose(item.key)
        assert not tray.station.grab().isNull()


# --- edits ---


def test_a_paint_is_changed_and_undo_goes_through_the_kit(tray, window, monkeypatch):
    choose(tray, ItemKind.PAINT, "poppy-red")
    detail = tray.station.detail
    detail.name.setText("Harbour Red")
    detail.name.editingFinished.emit()
    detail.hex.setText("c01820")
    detail.hex.editingFinished.emit()
    detail.paint_numbers.fields["contrast"].edited.emit(0.0)
    detail.paint_numbers.fields["tint"].edited.emit(2.0)
    detail.finish.setCurrentIndex(2)
    detail.finish.activated.emit(2)
    detail.flags["eye_area"].click()
    paint = thing(tray)
    assert (paint.name, paint.srgb, paint.contrast, paint.tint) == ("Harbour Red", "#c01820", None, 2.0)
    assert paint.finish is Finish.METALLIC
    assert paint.eye_area is False
    assert window.document.undo_label is None
    assert window.bar.undo.isEnabled()
    while tray.model.session.undo_label:
        window.bar.undo.click()
    assert thing(tray).name == "Poppy Red"
    window.redo()
    assert thing(tray).name == "Harbour Red"
    monkeypatch.setattr(QColorDialog, "getColor", lambda start, *a: start.darker())
    detail.pick.click()
    assert thing(tray).srgb != "#c8161d"


def test_bad_colours_and_dates_are_one_sentence(tray, window):
    choose(tray, ItemKind.PAINT, "poppy-red")
    detail = tray.station.detail
    detail.hex.setText("pink")
    detail.hex.editingFinished.emit()
    assert "pink" in window.banner.words.text()
    assert detail.hex.text() == "#c8161d"
    detail.expires.setText("next year")
    detail.expires.editingFinished.emit()
    assert "not a date" in window.banner.words.text()
    detail.expires.setText("2020-01-31")
    detail.expires.editingFinished.emit()
    detail.stock.edited.emit(12.0)
    detail.notes.setText("from the drawer")
    detail.notes.editingFinished.emit()
    keeping = tray.model.item.keeping
    assert (keeping.expires.year, keeping.stock_g, keeping.notes) == (2020, 12.0, "from the drawer")
    assert "Past its date" in detail.expires.toolTip()


def test_things_are_added_copied_retired_and_removed(tray, window):
    station, detail = tray.station, tray.station.detail
    for kind in range(3):
        station.kinds.button(kind).click()
        before = len(tray.model.items)
        station.add.click()
        assert len(tray.model.items) == before + 1
        detail.buttons["Copy"].click()
        assert len(tray.model.items) == before + 2
        assert tray.model.item.name.endswith("copy")
        detail.buttons["Retire"].click()
        assert len(tray.model.items) == before + 1
        station.retired.setChecked(True)
        assert len(tray.model.items) == before + 2
        station.retired.setChecked(False)
    choose(tray, ItemKind.PAINT, "foam-white")
    detail.buttons["Remove"].click()
    assert "retire it instead" in window.banner.words.text()
    choose(tray, ItemKind.CAKE, "moth-mask")
    detail.buttons["Remove"].click()
    assert tray.model.session.kit.get(ItemKind.CAKE, "moth-mask") is None
    window.undo()
    assert tray.model.session.kit.get(ItemKind.CAKE, "moth-mask") is not None


def test_a_brush_says_what_is_yours_and_what_is_a_default(tray):
    choose(tray, ItemKind.BRUSH, "flat-3-4")
    numbers = tray.station.detail.brush_numbers
    assert numbers.marks["fill_passes"].text() == "default"
    numbers.fields["fill_passes"].edited.emit(6.0)
    assert numbers.marks["fill_passes"].text() == "yours"
    assert thing(tray).own == ("fill_passes",)


def test_the_kit_is_there_again_after_closing(tray, window, open_window, demo):
    choose(tray, ItemKind.PAINT, "poppy-red")
    tray.station.detail.name.setText("Kept Red")
    tray.station.detail.name.editingFinished.emit()
    window.close()
    again = open_window(demo, at="tray")
    assert again.station("tray").model.session.kit.paints["poppy-red"].name == "Kept Red"


def test_a_broken_kit_is_one_sentence(window, own_folders):
    from pennello.session.kit import kit_path

    kit_path().parent.mkdir(parents=True, exist_ok=True)
    kit_path().write_bytes(b"no database at all" * 99)
    window.go_to("tray")
    assert "not a kit of Pennello" in window.banner.words.text()
    window.go_to("bench")
    assert window.station("bench").isVisible()


# --- to the Bench ---


def test_things_go_to_the_bench(tray, window, open_window):
    choose(tray, ItemKind.CAKE, "kelp-swoosh")
    tray.station.detail.bench.click()
    assert window.station("bench").isVisible()
    assert window.model.pickup.cake == "kelp-swoosh"
    window.go_to("tray")
    choose(tray, ItemKind.BRUSH, "filbert-1-2")
    tray.station.detail.bench.click()
    assert window.model.brush.id == "filbert-1-2"
    window.go_to("tray")
    choose(tray, ItemKind.PAINT, "buoy-lime")
    tray.station.detail.paint_numbers.fields["tint"].edited.emit(3.0)
    tray.station.detail.bench.click()
    assert window.document.plan.paint("buoy-lime").tint == 3.0
    window.undo()
    window.undo()
    window.undo()
    assert window.document.undo_label is None


def test_an_empty_plan_takes_a_cake(open_window):
    window = open_window(Plan(), at="tray")
    choose(window.station("tray"), ItemKind.CAKE, "kelp-swoosh")
    window.station("tray").station.detail.bench.click()
    assert [cake.id for cake in window.document.plan.cakes] == ["kelp-swoosh"]


# --- lists ---


def test_a_table_is_previewed_and_taken_in(tray, window, monkeypatch, tmp_path):
    path = tmp_path / "more.csv"
    path.write_text("name;srgb\nPine;#3f7d2c\nPoppy Red;#ff0000\nBad;pink\n")
    answer(monkeypatch, "getOpenFileName", path)
    seen = []
    accept(
        monkeypatch, ImportPage, lambda page: seen.extend(page.lines.item(i).text() for i in range(page.lines.count()))
    )
    tray.station.import_wanted.emit()
    assert [line.split()[0] for line in seen] == ["refused", "changed", "new"]
    assert tray.model.session.kit.paints["pine"].srgb == "#3f7d2c"
    assert "1 new" in window.banner.words.text()
    window.undo()
    assert "pine" not in tray.model.session.kit.paints
    for name in ("kit.csv", "kit.gpl"):
        answer(monkeypatch, "getSaveFileName", tmp_path / name)
        tray.station.export_wanted.emit()
        assert (tmp_path / name).stat().st_size > 100
        answer(monkeypatch, "getOpenFileName", tmp_path / name)
        accept(monkeypatch, ImportPage, lambda page: seen.append(page.take.text()))
        tray.station.import_wanted.emit()
        assert seen[-1] == "Nothing to take in"
    answer(monkeypatch, "getSaveFileName", tmp_path / "kit.xls")
    tray.station.export_wanted.emit()
    assert (tmp_path / "kit.xls.csv").exists()


# --- measuring ---


def test_a_paint_from_a_photo(tray, monkeypatch, tmp_path):
    picture = np.full((60, 100, 3), 240, np.uint8)
    picture[:, :50] = (120, 20, 40)
    Image.fromarray(picture).save(tmp_path / "s.png")
    choose(tray, ItemKind.PAINT, "poppy-red")
    answer(monkeypatch, "getOpenFileName", tmp_path / "s.png")

    def work(page):
        pad = page.pad
        scale, corner = pad._view()

        def at(x, y):
            return QPoint(round(corner.x() + x * scale), round(corner.y() + y * scale))

        for button, start, end in ((0, (5, 5), (40, 50)), (1, (60, 5), (95, 50))):
            page.which.buttons()[button].click()
            QTest.mousePress(pad, Qt.MouseButton.LeftButton, pos=at(*start))
            QTest.mouseMove(pad, at(*end))
            QTest.mouseRelease(pad, Qt.MouseButton.LeftButton, pos=at(*end))
        assert "Without a white" not in page.words.text()
        QTest.keyClick(pad, Qt.Key.Key_Left)
        QTest.keyClick(pad, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)

    accept(monkeypatch, SwatchPage, work)
    tray.station.detail.swatch_wanted.emit()
    assert thing(tray).srgb != "#c8161d"
    assert thing(tray).srgb[1:3] > "70"


def test_a_paint_from_the_simulated_reader_and_a_file(tray, window, monkeypatch, tmp_path):
    choose(tray, ItemKind.PAINT, "poppy-red")

    def work(page):
        page.read.click()
        assert "white tile" in page.words.text()
        page.tile.click()
        page.read.click()
        assert "choose a patch" in page.words.text()
        at = page.patch.findData("kelp-green")
        page.patch.setCurrentIndex(at)
        page.patch.activated.emit(at)
        page.read.click()

    accept(monkeypatch, ReaderPage, work)
    tray.station.detail.reader_wanted.emit()
    measured = thing(tray).reflectance
    assert len(measured) == 36
    answer(monkeypatch, "getSaveFileName", tmp_path / "curve.csv")
    tray.station.detail.curve_wanted.emit()
    choose(tray, ItemKind.PAINT, "foam-white")
    answer(monkeypatch, "getOpenFileName", tmp_path / "curve.csv")
    tray.station.detail.measurement_wanted.emit()
    assert thing(tray).reflectance == pytest.approx(measured, abs=0.002)
    (tmp_path / "curve.csv").write_text("nothing")
    tray.station.detail.measurement_wanted.emit()
    assert "curve.csv" in window.banner.words.text()


def test_a_brush_is_measured_on_a_ruler_set_by_a_card(tray, monkeypatch):
    choose(tray, ItemKind.BRUSH, "flat-3-4")

    def work(page):
        page.card_size.setValue(4000)
        page.take.click()
        assert page.scale == 4.0
        QTest.keyClick(page.mark, Qt.Key.Key_Right)
        page.set_length(17.5)
        assert page.mark.geometry().center().x() == pytest.approx(20 + 17.5 * 4, abs=1.5)

    accept(monkeypatch, RulerPage, work)
    tray.station.detail.ruler_wanted.emit()
    assert thing(tray).width_mm == 17.5
    assert "width_mm" in thing(tray).own
    assert load_settings().screen_px_per_mm == 4.0
    assert CARD_MM == (85.60, 53.98)  # ISO/IEC 7810, ID-1


def test_calibration_in_a_minute(tray, monkeypatch):
    choose(tray, ItemKind.BRUSH, "flat-3-4")

    def work(page):
        page.sweeps.setValue(18)
        for say in page.says:
            say.click()
        assert page.seen.count() == 3

    accept(monkeypatch, CalibratePage, work)
    tray.station.detail.calibrate_wanted.emit()
    brush = thing(tray)
    assert brush.fill_passes == pytest.approx(18 / np.log(20), rel=1e-3)
    assert set(brush.own) == {"fill_passes", "release_mm", "drift_mm"}
    assert tray.station.detail.brush_numbers.marks["release_mm"].text() == "yours"
