"""The Chart station: the person fills the height; motifs below, the chosen one at the right."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QPushButton,
    QSlider,
    QToolButton,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from pennello.chart.chart import Bounds
from pennello.design.free_room import room_on
from pennello.design.line_work import Taper
from pennello.design.on_chart import moved_in_order, placed_in, with_new_motif
from pennello.design.own import own_of, with_own
from pennello.design.parts import line_of, together_with
from pennello.design.photo_edits import photo_of, with_photo, without_photo
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan
from pennello.disk import whole_path
from pennello.errors import PennelloError
from pennello.files.motif_file import read_own
from pennello.lay.families.hold import Hold
from pennello.motif.catalogue import motif
from pennello.phrases import phrase
from pennello.session.catalogue import laid, own_plan, png_of
from pennello.session.chart_views import frame_of
from pennello.session.copies import Picture, chart_image, chart_page, painted_chart
from pennello.session.jobs import Job
from pennello.session.kit import kit_if_any
from pennello.session.motif_library import Kept, KeptAlreadyError, keep, own_motifs
from pennello.session.order_pictures import played_plan
from pennello.solve.suiting import with_loads_for
from pennello.ui.bench_model import BenchModel
from pennello.ui.copying import Copied
from pennello.ui.exporting import Exporter, Printed
from pennello.ui.gallery import Gallery
from pennello.ui.station import Station, Workplace
from pennello.ui.stations.chart.beads import Beads
from pennello.ui.stations.chart.board import ChartBoard
from pennello.ui.stations.chart.head import ChartHead
from pennello.ui.stations.chart.layers import LayersButton
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.stations.chart.motif_row import MotifRow
from pennello.ui.stations.chart.panel import SidePanel
from pennello.ui.stations.chart.putting import Putting
from pennello.ui.stations.chart.working_out import WorkingOut
from pennello.ui.theme.text import px
from pennello.ui.widgets.asking import ask_name, ask_source, ask_target, may_take_the_place
from pennello.ui.widgets.passing import goes_when_closed
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.two_parts import TwoParts
from pennello.units import LengthUnit

if TYPE_CHECKING:
    from pennello.ui.stations.chart.catalogue_page import CataloguePage

_PHOTOS = "Photos (*.jpg *.jpeg *.png *.tif *.tiff *.bmp *.webp)"


class ChartStation(QWidget, Station):
    """Motifs on a person.

    Signals
    -------
    said(str)
    """

    said = Signal(str)

    def __init__(self, model: ChartModel, bench: BenchModel, exporter: Exporter, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.model, self._bench, self._exporter = model, bench, exporter
        self._putting = Putting(model.document, self)
        self._putting.made.connect(self._take_in_hand)
        self._putting.said.connect(self.said)
        card = QFrame()
        card.setObjectName("mat")
        self.board = ChartBoard(model, card)
        self.head = ChartHead(model, self.board, self)
        self.side = SidePanel(model, bench)
        self.panel = self.side.hand
        self.gallery = Gallery("motifs", model.plan.skin, self)
        self.catalogue: CataloguePage | None = None
        self.row, self.beads = MotifRow(self.gallery), Beads(model)
        self.side.loads.pulled.connect(self.pull)
        self.working = WorkingOut(model, self.side.loads, self)
        self.working.said.connect(self.said)
        self.side.loads.is_drawing = lambda: self.board.drawing is not None
        self.side.loads.drawn.connect(self.draw)
        self.side.loads.put_down.connect(self.board.put_down)
        self.side.loads.drawn_on.connect(self.board.setFocus)
        self.board.taken_up.connect(self.side.loads.show_drawing)
        self.row.picked.connect(self.add_motif)
        self.row.own_picked.connect(self.add_own)
        self.row.catalogue_wanted.connect(self.show_catalogue)
        self.own = own_motifs().kept
        self.row.show_own(self.own)
        self.panel.kept.connect(self.keep_motif)
        self.side.parts.kept.connect(self.keep_part)
        self.beads.chosen.connect(model.choose)
        self.beads.moved.connect(self.move_bead)
        inner = QVBoxLayout(card)
        inner.setContentsMargins(10, 6, 10, 6)
        inner.addWidget(TwoParts(self.head.of, self._buttons()))
        inner.addWidget(self.board, 1)
        inner.addLayout(self._time())
        inner.addWidget(self.row)
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 4, 10, 10)
        row.setSpacing(8)
        row.addWidget(card, 1)
        row.addWidget(self.side)
        model.failed.connect(self.said)
        model.begun.connect(self._chart_first)
        model.ended.connect(self._show_gallery)
        self.head.refresh()

    @classmethod
    def at(cls, place: Workplace) -> Station:
        """Return the Chart, made for a window."""
        made = cls(ChartModel(place.document, place.window), place.bench, place.exporter)
        made.said.connect(place.say)
        made.show_unit(place.bench.unit)
        return made

    def get_ready(self) -> None:
        """List the parts."""
        self.side.refresh()

    def enter(self) -> None:
        """It is shown."""
        self.model.enter()
        self.board.setFocus()

    def show_design(self, plan: Plan) -> None:
        """Show the chart that a design lies on."""
        self.model.show_chart(plan.motifs[0].chart)

    def leave(self) -> None:
        """Another station is shown."""
        self.board.views.store()
        self.board.rest()
        self.model.leave()

    def _buttons(self) -> tuple[QWidget, ...]:
        """Return what the chart can be looked at by."""
        self.mirror = QToolButton()
        self.mirror.setText(phrase("Mirror"))
        self.mirror.setCheckable(True)
        self.mirror.setToolTip(phrase("As you see yourself when you paint your own face"))
        self.mirror.toggled.connect(self._set_mirror)
        self.layers = LayersButton(self.model, self)
        self.layers.drawing.connect(self.board.draw_by_hand)
        self.layers.working_out.connect(self.working.ask)
        self.layers.filling.connect(self.working.show_fillings)
        self.layers.filling_zone.connect(self.working.fill_zone)
        self.layers.filling_gaps.connect(self.working.fill_gaps)
        self.layers.tapering.connect(self.board.draw_tapered)
        self.layers.tapering.connect(self.side.loads.show_taper)
        self.skins, self.colours, self.svg = (
            QPushButton(words) for words in (phrase("Skins"), phrase("Colours"), phrase("SVG"))
        )
        for button, hint, act in (
            (self.skins, phrase("The same on very light to dark skin, with contrast ratios"), self.show_skins),
            (self.colours, phrase("The same design in other colours, side by side"), self.show_colours),
            (self.svg, phrase("The chart as a drawing, 1 unit = 1 mm"), self.ask_svg),
        ):
            button.setProperty("chip", True)
            button.setToolTip(hint)
            button.clicked.connect(lambda _=False, do=act: do())
        return self.head.light, self.mirror, self.head.eyes, self.layers, self.skins, self.colours, self.svg

    def _time(self) -> QHBoxLayout:
        """Return the beads, and when the chart is looked at."""
        row = QHBoxLayout()
        order = Label(phrase("painting order"))
        order.setObjectName("note")
        order.setBuddy(self.beads)
        row.addWidget(order)
        row.addWidget(self.beads, 1)
        self.when = QSlider(Qt.Orientation.Horizontal)
        self.when.setRange(0, 100)
        self.when.setValue(100)
        self.when.setMinimumWidth(px(70))
        self.when.setMaximumWidth(px(150))
        self.when.setAccessibleName(phrase("Only what is laid by then"))
        self.when.setToolTip(phrase("Only what is laid by then; at the right end everything"))
        self.when.valueChanged.connect(self._set_time)
        self.when_words = Label(phrase("all laid"))
        self.when_words.setObjectName("note")
        self.when_words.setMinimumWidth(px(56))
        self.wet = QToolButton()
        self.wet.setText(phrase("Wet"))
        self.wet.setCheckable(True)
        self.wet.setToolTip(phrase("Where it is still wet at that time"))
        self.wet.toggled.connect(self._set_wet)
        self.playing = QToolButton()
        self.playing.setText(phrase("Play"))
        self.playing.setToolTip(phrase("The brush moves over the strokes in the order of painting"))
        self.playing.clicked.connect(self.play)
        self.wish = QToolButton()
        self.wish.setText(phrase("Wish"))
        self.wish.setCheckable(True)
        self.wish.setToolTip(phrase("What you wish in the place of what is predicted: hold it against it, on and off"))
        self.wish.toggled.connect(lambda on: self.model.show_wish(on=on))
        self.listed = QToolButton()
        self.listed.setText(phrase("As listed"))
        self.listed.setCheckable(True)
        self.listed.setToolTip(phrase("Painted as the parts are listed, in the place of the order that Pennello finds"))
        self.listed.toggled.connect(lambda on: self.model.show_listed(on=on))
        for widget in (self.playing, self.when_words, self.when, self.wet, self.listed, self.wish):
            row.addWidget(widget)
        return row

    def _set_time(self, value: int) -> None:
        painted = self.model.painted
        ends = painted.ends_s if painted else 0.0
        at_s = None if value == 100 else value / 100 * ends
        self.when_words.setText(phrase("all laid") if at_s is None else phrase("by {at_s:.0f} s", at_s=at_s))
        self.model.show_at(at_s)

    def _set_wet(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        self.board.wet = on
        self.board.update()

    # --- own motifs ---

    def keep_motif(self) -> None:
        """Ask for a name and keep what is in the hand, with all of its part, for other plans."""
        chosen = self.model.chosen
        if chosen is not None:
            name = ask_name(self, phrase("Keep a motif"), phrase("Its name"), self._part_name(chosen))
            if name:
                self.keep_as(name)

    def _part_name(self, chosen: PlacedMotif) -> str:
        line = line_of(self.model.plan, chosen.part)
        return line[0].name if line else chosen.name

    def keep_as(self, name: str) -> None:
        """Keep what is in the hand, with all of its part and the loads of it, under a name."""
        chosen = self.model.chosen
        if chosen is None:
            return
        plan = self.model.document.committed
        self._keep([one.id for one in plan.motifs if one.id in together_with(plan, chosen.id)], name)

    def keep_part(self, part: str) -> None:
        """Keep a part, under its name."""
        self._keep([part], self.model.plan.parts_by_id[part].name)

    def _keep(self, together: list[str], name: str) -> None:
        plan = self.model.document.committed
        try:
            own = own_of(plan, together, name)
            picture = png_of(laid(own_plan(plan, own), "own", own.name))
            try:
                path = keep(own, picture)
            except KeptAlreadyError:
                if not may_take_the_place(self, own.name):
                    return
                path = keep(own, picture, over=True)
            self.said.emit(
                phrase("Kept as {path}; give the file to others, or put theirs into that folder.", path=path)
            )
        except PennelloError as error:
            self.said.emit(str(error))
        self.own = own_motifs().kept
        self.row.show_own(self.own)

    def add_own(
        self,
        kept: Kept,
        own_colours: bool = True,  # noqa: FBT001, FBT002 - a signal's own value
        then: str = "",
    ) -> None:
        """Put a motif of one's own on the chart, with the loads that it was kept with or with the plan's.

        Parameters
        ----------
        then
            What is said when it is there.
        """
        key, seen = self.model.key, self._looked_at()

        def make(plan: Plan) -> tuple[Plan, str]:
            made, ids = with_own(plan, kept.own, key, room_on(plan, key, seen), own_colours=own_colours)
            return made, ids[0]

        self._putting.put(key, make, then)

    def take_motif(self, path: Path) -> None:
        """Put a motif that somebody else kept on the chart, with the loads that it was kept with."""
        try:
            own = read_own(path)
        except PennelloError as error:
            self.said.emit(str(error))
            return
        there = phrase("{own} is on the chart; Keep ... in the hand keeps it for other plans.", own=own.name)
        self.add_own(Kept(own, b"", path), then=there)

    def take_lines(self, path: Path) -> None:
        """Put the lines of a drawing on the chart."""
        self.layers.add_lines(path)

    def show_catalogue(self) -> None:
        """Show all motifs as they are laid."""
        from pennello.ui.stations.chart.catalogue_page import CataloguePage  # noqa: PLC0415 - only when wanted

        self.catalogue = CataloguePage(self.model.document.committed, self.own, self.gallery, self)
        self.catalogue.picked.connect(self.add_motif)
        self.catalogue.own_picked.connect(self.add_own)
        self.catalogue.show()

    def play(self) -> None:
        """Play the strokes of the chart in the order of painting."""
        from pennello.ui.widgets.play_view import PlayPage  # noqa: PLC0415 - only when wanted

        plan, key = self.model.document.committed, self.model.key
        if not self.model.motifs:
            self.said.emit(phrase("There is nothing on this chart to play yet; put a motif on it first."))
            return
        self.played = PlayPage(self.model.chart.name, lambda: played_plan(plan, key), self)
        self.played.show()

    def show_skins(self) -> None:
        """Show the chart on five skins."""
        from pennello.ui.stations.chart.skins_page import SkinsPage  # noqa: PLC0415 - only when wanted

        self.page = SkinsPage(self.model.document.committed, self.model.key, self)
        goes_when_closed(self.page)
        self.page.show()

    def show_colours(self) -> None:
        """Show the design in other colours, beside what it is."""
        from pennello.ui.colourways_page import ColourwaysPage  # noqa: PLC0415 - only when wanted

        self.other = ColourwaysPage(self._bench, self)
        goes_when_closed(self.other)
        self.other.show()

    # --- edits ---

    def add_motif(self, key: str) -> None:
        """Put a motif where there is room and take it in the hand, once a worker has found that and loads for it."""
        chart_key, seen = self.model.key, self._looked_at()

        def make(plan: Plan) -> tuple[Plan, str]:
            place = room_on(plan, chart_key, seen)
            return with_new_motif(with_loads_for(plan, motif(key), kit_if_any()), key, chart_key, place)

        self._putting.put(chart_key, make)

    def _take_in_hand(self, plan: Plan, chart: str, new_id: str) -> None:
        """Take a plan with one thing more on a chart, and that in the hand."""
        self.model.edit(phrase("Put a motif on the chart"), lambda _: plan)
        if self.model.key == chart:
            self.model.choose(new_id)

    def pull(self, load: str, hold: Hold | None) -> None:
        """Pull strokes on the chart with a load in a hold, as pieces of the part that is drawn."""
        self.board.pull_by_hand(load, hold)

    def draw(self, load: str, taper: Taper) -> None:
        """Draw lines on the chart with a load, thick and thin so."""
        self.layers.draw_so(taper)
        if self.board.pen.on and self.board.pen.load == load:  # it goes on with the same piece
            self.board.setFocus()
        else:
            self.board.draw_by_hand(load)

    def ask_photo(self) -> None:
        """Ask for a photo of the painter's own, and where two landmarks of this chart lie in it."""
        path = ask_source(self, phrase("A photo for the chart"), "photos", _PHOTOS)
        if path is not None:
            self.show_photo(path)

    def show_photo(self, path: Path) -> None:
        """Show the page on which two landmarks are set on a photo."""
        from pennello.files.swatch import read_picture  # noqa: PLC0415 - Pillow only for photos
        from pennello.ui.stations.chart.photo_page import PhotoPage  # noqa: PLC0415 - only when wanted

        try:
            picture = read_picture(path)
        except PennelloError as error:
            self.said.emit(str(error))
            return
        self.photo_page = PhotoPage(whole_path(path), picture, self.model.chart, self.model.unit, self)
        goes_when_closed(self.photo_page)
        self.photo_page.accepted.connect(self._take_photo)
        self.photo_page.open()

    def _take_photo(self) -> None:
        photo, width_mm = self.photo_page.photo, self.photo_page.width_mm
        self.model.edit(phrase("A photo for the chart"), lambda plan: with_photo(plan, photo, width_mm))

    def draw_again(self) -> None:
        """Draw this chart in the place of its photo."""
        key = self.model.key
        if photo_of(self.model.plan, key) is None:
            self.said.emit(phrase("This chart is drawn; no photo stands for it."))
            return
        self.model.edit(phrase("Draw the chart again"), lambda plan: without_photo(plan, key))

    def _looked_at(self) -> Bounds:
        """Return left, top, right and bottom of what is seen of the chart, mm."""
        seen = self.board.seen
        x, y, wide, tall = frame_of(self.model.chart, seen.view)
        middle, half = (x + seen.right_mm, y + seen.down_mm), (wide / 2 / seen.zoom, tall / 2 / seen.zoom)
        return middle[0] - half[0], middle[1] - half[1], middle[0] + half[0], middle[1] + half[1]

    def move_bead(self, name: str, to: int) -> None:
        """Paint a motif at another time: its number among those of this chart."""
        if to >= len(self.model.motifs):
            return  # one has gone while the bead was held
        there = self.model.motifs[to].id

        def move(plan: Plan) -> Plan:
            return moved_in_order(plan, name, plan.motifs.index(placed_in(plan, there)))

        self.model.edit(phrase("Another order"), move)

    def _set_mirror(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        self.board.mirror = on
        self.board.refresh()

    def _image(self) -> Callable[[Job[Any]], Picture]:
        """Return what draws the chart as painted, as it is looked at."""
        model = self.model
        return chart_image(
            model.document.committed, model.key, model.photo, mirrored=self.board.mirror, view=self.board.seen.view
        )

    def copied(self) -> Copied:
        """The painted chart, as a picture."""
        return Copied(phrase("the painted chart as a picture"), self._image())

    def papers(self) -> tuple[Printed, ...]:
        """The painted chart."""
        plan, key = self.model.document.committed, self.model.key
        return (Printed(phrase("The painted chart"), partial(chart_page, plan, key, self._image()), key),)

    def ask_painted(self) -> None:
        """Ask where and write the painted chart as PNG or JPEG."""
        path = ask_target(
            self, phrase("The painted chart"), Path.home() / f"{self.model.key}.png", (".png", ".jpg", ".jpeg")
        )
        if path is not None:
            self._exporter.write(path.name, painted_chart(self._image(), path))

    def ask_svg(self) -> None:
        """Ask where and write the chart as SVG."""
        path = ask_target(self, phrase("The chart"), Path.home() / f"{self.model.key}.svg", (".svg",))
        if path is not None:
            self.write_svg(path)

    def write_svg(self, path: Path) -> None:
        """Write the chart as SVG."""
        from pennello.disk import write_bytes  # noqa: PLC0415
        from pennello.files.chart_svg import chart_svg  # noqa: PLC0415

        try:
            write_bytes(chart_svg(self.model.chart).encode(), path)
        except PennelloError as error:
            self.said.emit(str(error))
        else:
            self.said.emit(phrase("Wrote {path}.", path=path))

    def show_unit(self, unit: LengthUnit) -> None:
        """Show lengths in this unit."""
        self.model.unit = self.panel.unit = self.layers.unit = unit
        self.head.show_unit(unit)
        self.panel.refresh()

    def close_all(self) -> None:
        """Stop timers and work; the window closes."""
        self.board.views.store()
        self.gallery.close_all()
        self.side.loads.holds.close_all()
        self.panel.holds.close_all()
        self._putting.leave()
        self.model.close()

    # --- following ---

    def _chart_first(self) -> None:
        """Leave the motifs' pictures until the chart is painted."""
        page = self.catalogue
        if page is None or not isValid(page) or not page.isVisible():  # a page that was closed is gone
            self.gallery.wait()

    def _show_gallery(self) -> None:
        """Draw the motifs in the plan's colours, once the chart is painted: that comes first."""
        if self.isVisible() and not self.model.busy:
            self.gallery.show_plan(self.model.document.committed)
