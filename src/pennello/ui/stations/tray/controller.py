"""The Tray at work: its station with the pages that it opens, files in and out, and the way to the Bench."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from pennello.design.edits import with_brush, with_brush_taken, with_cake, with_paint, with_stroke
from pennello.design.plan import Plan, PlanStroke
from pennello.files.kit_csv import ImportPreview, preview_csv, preview_items, recoloured_items, write_csv
from pennello.files.palette import read_palette, write_palette
from pennello.files.reflectance_csv import read_reflectance, srgb_of, write_reflectance
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint, masstones
from pennello.kit.shelf import KitItem
from pennello.kit.stripes import scaled_to
from pennello.load.recipe import PickUp
from pennello.phrases import phrase, plural
from pennello.session.copies import kit_rows
from pennello.ui.bench_model import BenchModel
from pennello.ui.copying import Copied
from pennello.ui.station import Station, UndoRedo, Workplace
from pennello.ui.stations.tray.import_page import ImportPage
from pennello.ui.stations.tray.model import TrayModel
from pennello.ui.stations.tray.station import TrayStation
from pennello.ui.widgets.asking import ask_source, ask_target
from pennello.ui.widgets.passing import goes_when_closed, taken
from pennello.ui.work import guarded

_LISTS = phrase("Tables and palettes (*.csv *.gpl *.tsv *.txt)")
_PICTURES = "Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.bmp *.webp)"


class TrayController(QObject, Station):
    """Joins kit and Bench.

    Signals
    -------
    said(str)
        A sentence for the painter.
    bench_wanted
        The painter should see the Bench.
    """

    said = Signal(str)
    bench_wanted = Signal()

    def __init__(
        self, bench: BenchModel, screen_px_per_mm: float, settled: Callable[[float], None], parent: QWidget
    ) -> None:
        super().__init__(parent)
        self._bench, self._window = bench, parent
        self._screen_px_per_mm, self._settled = screen_px_per_mm, settled
        self.model = TrayModel(self)
        self.model.failed.connect(self.said)
        self.model.show_unit(bench.unit)
        bench.unit_changed.connect(lambda: self.model.show_unit(bench.unit))
        self.station = TrayStation(self.model)
        detail = self.station.detail
        for signal, act in (
            (self.station.import_wanted, self.ask_import),
            (self.station.export_wanted, self.ask_export),
            (detail.bench_wanted, self.put_on_bench),
            (detail.calibrate_wanted, self.calibrate),
            (detail.ruler_wanted, self.measure),
            (detail.reader_wanted, self.read_colour),
            (detail.swatch_wanted, self.ask_swatch),
            (detail.measurement_wanted, self.ask_measurement),
            (detail.curve_wanted, self.ask_curve),
        ):
            signal.connect(lambda *_, do=act: self._guarded(do))

    @classmethod
    def at(cls, place: Workplace) -> Station:
        """Return the Tray, made for a window."""

        def settle(px_per_mm: float) -> None:
            place.settle(replace(place.settings(), screen_px_per_mm=px_per_mm))

        made = cls(place.bench, place.settings().screen_px_per_mm, settle, place.window)
        made.said.connect(place.say)
        made.bench_wanted.connect(lambda: place.go_to("bench"))
        made.model.listed.connect(place.kit_changed)
        return made

    @property
    def widget(self) -> QWidget:
        """What the window shows."""
        return self.station

    @property
    def history(self) -> UndoRedo | None:
        """The kit's own history."""
        return self.model.session

    def enter(self) -> None:
        """It is shown: the kit is opened."""
        self.model.open()
        self.station.setFocus()

    def close_all(self) -> None:
        """Let go of the kit."""
        self.model.close()

    def _guarded(self, act: Callable[[], object]) -> None:
        guarded(act, self.said.emit)

    @property
    def _item(self) -> KitItem | None:
        return self.model.item

    # --- to the Bench and back ---

    def put_on_bench(self) -> None:
        """Bring the chosen thing into the plan, under or into the hand."""
        item, session = self._item, self.model.session
        if item is None or session is None:
            return
        thing, paints = item.thing, session.kit.paints
        document = self._bench.document
        stroke = self._bench.stroke

        def taken(plan: Plan, there: PlanStroke | None) -> Plan:
            if isinstance(thing, Paint):
                return with_paint(plan, thing)
            if isinstance(thing, Cake):
                for name in thing.paints:
                    plan = with_paint(plan, paints[name])
                return _under_brush(with_cake(plan, thing), there, self._bench, thing)
            plan = with_brush(plan, thing)
            return with_brush_taken(plan, there.id, thing.id) if there else plan

        committed = document.committed
        there = committed.stroke(stroke.id) if stroke else None
        document.edit(phrase("Put {item} on the Bench", item=item.name), taken(committed, there))
        self.said.emit(phrase("{item} is in the plan.", item=item.name))
        self.bench_wanted.emit()

    def keep_cake(self, cake: str) -> None:
        """Put a cake of the plan and its paints into the kit."""
        if not self.model.open() or self.model.session is None:
            return
        plan, kit = self._bench.document.committed, self.model.session.kit
        pan = plan.cake(cake)
        new = [KitItem(plan.paint(name)) for name in pan.paints if name not in kit.paints]
        old = kit.items.get(KitItem(pan).key)
        item = replace(old, thing=pan) if old else KitItem(pan)
        self.model.put(phrase("Keep {pan}", pan=pan.name), *new, item)
        self.model.show_kind(item.kind)
        self.model.choose(item.key)
        self.said.emit(phrase("{pan} is in the kit.", pan=pan.name))

    # --- files ---

    def show_guide(self) -> None:
        """Show the page on which one's own cakes and brushes are entered."""
        from pennello.ui.stations.tray.guide_page import KitGuide  # noqa: PLC0415 - only when wanted

        if not self.model.open() or self.model.session is None:
            return
        self.guide = KitGuide(self.model.session.kit, self.model.unit, self._window)
        goes_when_closed(self.guide)
        self.guide.entered.connect(self._take_kit)
        self.guide.open()

    def _take_kit(self, items: tuple[KitItem, ...]) -> None:
        if self.model.guarded(lambda: self.model.put(phrase("Enter my kit"), *items)):
            cakes = sum(isinstance(item.thing, Cake) and not item.keeping.retired for item in items)
            self.said.emit(
                plural(
                    cakes,
                    "{count} cake of yours in the kit; undo takes all of it back.",
                    "{count} cakes of yours in the kit; undo takes all of it back.",
                )
            )

    def ask_import(self) -> None:
        """Ask for a table or palette, show what it would change, and take it in."""
        path = ask_source(self._window, phrase("Take in"), "tables", _LISTS)
        if path is not None:
            self.take_in(path)

    def take_in(self, path: Path) -> None:
        """Show what a table or palette would change, and take it in."""
        session = self.model.session
        if session is None:
            return
        preview = self.preview(path)
        page = ImportPage(path.name, preview, self._window)
        if taken(page):
            self.model.put(phrase("Take in {path}", path=path.name), *preview.items)
            self.said.emit(phrase("Took in {path}: {preview}.", path=path.name, preview=preview.words))

    def preview(self, path: Path) -> ImportPreview:
        """Return what a file would change; raises FileProblemError."""
        session = self.model.session
        if session is None:
            return ImportPreview()
        if path.suffix.lower() == ".gpl":
            return preview_items(recoloured_items(read_palette(path), session.kit), session.kit)
        return preview_csv(path, session.kit)

    def copied(self) -> Copied | None:
        """What is in the kit, as a table."""
        session = self.model.session
        if session is None:
            return None
        items = tuple(session.kit)
        return Copied(phrase("the kit as a table"), table=lambda _: kit_rows(items))

    def ask_export(self) -> None:
        """Ask where and write the kit."""
        path = ask_target(self._window, phrase("Write the kit"), Path.home() / "kit.csv", (".csv", ".gpl"))
        session = self.model.session
        if path is None or session is None:
            return
        items = list(session.kit)
        if path.suffix.lower() == ".gpl":
            write_palette([item.thing for item in items if isinstance(item.thing, Paint)], path)
        else:
            write_csv(items, path)
        self.said.emit(phrase("Wrote {path}.", path=path))

    def ask_measurement(self) -> None:
        """Ask for a measured reflectance and give it to the chosen paint."""
        path = ask_source(self._window, phrase("A measured reflectance"), "tables", "Reflectances (*.csv *.txt)")
        if path:
            self._take_reading(read_reflectance(path))

    def ask_curve(self) -> None:
        """Ask where and write the chosen paint's reflectance."""
        item = self._item
        if item is None or not isinstance(item.thing, Paint):
            return
        path = ask_target(self._window, phrase("Write its reflectance"), Path.home() / f"{item.id}.csv", (".csv",))
        if path is not None:
            write_reflectance(tuple(masstones((item.thing,))[0].tolist()), path)
            self.said.emit(phrase("Wrote {path}.", path=path))

    def _take_reading(self, reading: tuple[float, ...]) -> None:
        self.model.change_thing(phrase("Measure the paint"), srgb=srgb_of(np.array(reading)), reflectance=reading)

    # --- pages ---

    def ask_swatch(self) -> None:
        """Ask for a picture and pick the paint's colour from it."""
        path = ask_source(self._window, phrase("A photo or scan of the swatch"), "photos", _PICTURES)
        if path:
            self.pick_swatch(path)

    def pick_swatch(self, path: Path) -> None:
        """Pick the chosen paint's colour from a picture."""
        from pennello.files.swatch import read_picture  # noqa: PLC0415 - Pillow only when asked for
        from pennello.ui.stations.tray.swatch_page import SwatchPage  # noqa: PLC0415

        item = self._item
        if item is None:
            return
        page = SwatchPage(phrase("Swatch of {item}", item=item.name), read_picture(path), self._window)
        if taken(page) and page.found:
            self.model.change_thing(phrase("Colour from a swatch"), srgb=page.found.srgb, reflectance=None)

    def read_colour(self) -> None:
        """Read the chosen paint with the simulated reader."""
        from pennello.ui.stations.tray.reader_page import ReaderPage  # noqa: PLC0415

        item = self._item
        if item is not None:
            page = ReaderPage(item.name, self._window)
            if taken(page) and page.reading:
                self._take_reading(page.reading)

    def measure(self) -> None:
        """Measure the chosen brush, or the width of the chosen cake, on the screen."""
        from pennello.ui.stations.tray.ruler_page import RulerPage  # noqa: PLC0415

        item = self._item
        if item is None or isinstance(item.thing, Paint):
            return
        page = RulerPage(item.name, self._screen_px_per_mm, self._bench.unit, self._settle_screen, self._window)
        if not taken(page):
            return
        if isinstance(item.thing, Cake):
            self.model.change_thing(phrase("Measure the cake"), stripes=scaled_to(item.thing, page.length_mm).stripes)
        else:
            own = tuple(dict.fromkeys([*item.thing.own, "width_mm"]))
            self.model.change_thing(phrase("Measure the brush"), width_mm=page.length_mm, own=own)

    def _settle_screen(self, px_per_mm: float) -> None:
        self._screen_px_per_mm = px_per_mm
        self._settled(px_per_mm)

    def calibrate(self) -> None:
        """Fit the chosen brush to what the painter saw."""
        from pennello.ui.stations.tray.calibrate_page import CalibratePage  # noqa: PLC0415

        item = self._item
        if item is None or not isinstance(item.thing, Applicator):
            return
        page = CalibratePage(item.thing, self._bench.unit, self._window)
        if taken(page):
            self.model.put(phrase("Calibrate {item}", item=item.name), replace(item, thing=page.result_brush()))


def _under_brush(plan: Plan, stroke: PlanStroke | None, bench: BenchModel, cake: Cake) -> Plan:
    """Return the plan with a cake under the brush of the stroke on the Bench."""
    if stroke is None or not stroke.recipe.pickups:
        return plan
    at = bench.pickup_index
    pickups = list(stroke.recipe.pickups)
    old: PickUp = pickups[at]
    offset = round(max(0.0, (cake.width_mm - plan.brush(stroke.brush).width_mm) / 2), 1)
    pickups[at] = replace(old, cake=cake.id, pan=(), offset_mm=offset)
    return with_stroke(plan, replace(stroke, recipe=replace(stroke.recipe, pickups=tuple(pickups))))
