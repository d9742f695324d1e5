"""The Bench station: strokes above, three mats left to right as the hand moves, the read-out below."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedLayout, QStackedWidget, QVBoxLayout, QWidget

from pennello.design.plan import Plan
from pennello.phrases import phrase
from pennello.session.copies import stroke_image
from pennello.session.exports import Work, cake_label, load_card, stroke_picture
from pennello.ui.copying import Copied
from pennello.ui.exporting import Printed
from pennello.ui.station import Station, Workplace
from pennello.ui.stations.bench.cake_mat import CakeMat
from pennello.ui.stations.bench.edge_mat import EdgeMat
from pennello.ui.stations.bench.first_petal import FirstPetal
from pennello.ui.stations.bench.load_row import LoadRow
from pennello.ui.stations.bench.pages import make_page
from pennello.ui.stations.bench.readout import Readout
from pennello.ui.stations.bench.readout_page import ReadoutPage
from pennello.ui.stations.bench.skin_mat import SkinMat
from pennello.ui.stations.bench.strokes_bar import StrokesBar
from pennello.ui.theme.text import px
from pennello.ui.widgets.asking import ask_target
from pennello.ui.widgets.passing import goes_when_closed
from pennello.units import LengthUnit

if TYPE_CHECKING:
    from pennello.ui.stations.bench.hand_page import HandPage
    from pennello.ui.stations.bench.workshop import Workshop


class BenchStation(QWidget, Station):
    """The heart of the window."""

    def __init__(self, place: Workplace) -> None:
        super().__init__()
        model = place.bench
        self.model, self._place = model, place
        self._load: object = None
        self.strokes = StrokesBar(model)
        self.cake, self.edge, self.skin = CakeMat(model), EdgeMat(model), SkinMat(model)
        self.readout = Readout(model)
        self.load = LoadRow(model, self.cake.numbers.brush_choice)
        mats = QHBoxLayout()
        mats.setSpacing(8)
        mats.addWidget(self.cake, 300)
        mats.addWidget(self.edge, 220)
        mats.addWidget(self.skin, 620)
        self.cake.setMinimumWidth(max(px(264), self.cake.minimumSizeHint().width()))
        self.edge.setMinimumWidth(max(px(206), self.edge.minimumSizeHint().width()))
        self._page_by_name: dict[str, ReadoutPage] = {}
        self.below = self._pages()
        bench = QWidget()
        column = QVBoxLayout(bench)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.load)
        column.addLayout(mats, 9)
        column.addWidget(self.below, 4)
        body = QWidget()
        self._stack = QStackedLayout(body)
        self._stack.addWidget(bench)
        self._first = FirstPetal(model)
        self._first.button.clicked.connect(self.strokes.add_stroke)
        self._stack.addWidget(self._first)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(10, 4, 10, 10)
        outer.setSpacing(6)
        outer.addWidget(self.strokes)
        outer.addWidget(body, 1)
        model.shown.connect(self.refresh)
        model.unit_changed.connect(self.refresh)
        model.pickup_chosen.connect(self._show_pickup)
        model.boundary_hovered.connect(self._mark_boundary)
        self.refresh()

    @classmethod
    def at(cls, place: Workplace) -> Station:
        """Return the Bench, made for a window."""
        return cls(place)

    def enter(self) -> None:
        """It is shown."""
        (self.cake.brush if self.model.stroke else self.first).setFocus()

    def _pages(self) -> QStackedWidget:
        """Return what lies below the mats: the read-out; the workshop and the hand's page come when they are wanted."""
        pages = QStackedWidget()
        pages.addWidget(self.readout)
        self.readout.page_wanted.connect(self.show_page)
        pages.setMinimumHeight(px(186))
        pages.setMaximumHeight(px(232))
        self.cake.make.toggled.connect(self._make)
        self.skin.lead.toggled.connect(self._lead)
        return pages

    @cached_property
    def workshop(self) -> Workshop:
        """Where a cake is made."""
        from pennello.ui.stations.bench.workshop import Workshop  # noqa: PLC0415 - not before it is wanted

        page = Workshop(self.model)
        page.label_wanted.connect(lambda _: self.ask_label())
        page.ladder_wanted.connect(self.show_ladder)
        page.kept.connect(self.keep_cake)
        page.left.connect(lambda: self.cake.make.setChecked(False))
        self.below.addWidget(page)
        return page

    @cached_property
    def hand(self) -> HandPage:
        """How the hand leads."""
        from pennello.ui.stations.bench.hand_page import HandPage  # noqa: PLC0415 - not before it is wanted

        page = HandPage(self.model)
        page.left.connect(lambda: self.skin.lead.setChecked(False))
        page.said.connect(self.model.failed)
        page.backdrop_wanted.connect(self.skin.show_backdrop)
        self.below.addWidget(page)
        return page

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """F flips the brush, where nothing that has the focus wants the key for itself."""
        plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
        if event.key() == Qt.Key.Key_F and plain and self.model.stroke is not None and self.model.pickup is not None:
            self.cake.numbers.do_flip()
        else:
            super().keyPressEvent(event)

    def _show_below(self) -> None:
        """Show the page that is switched on, or the read-out."""
        page: QWidget = self.readout
        if self.cake.make.isChecked():
            page = self.workshop
        elif self.skin.lead.isChecked():
            page = self.hand
        self.below.setCurrentWidget(page)

    @property
    def first(self) -> QPushButton:
        """The button that an empty plan shows."""
        return self._first.button

    def refresh(self) -> None:
        """Follow the model."""
        self._stack.setCurrentIndex(0 if self.model.stroke else 1)
        self.strokes.refresh()
        load = self._load_shown()
        if load != self._load:  # a drag on the skin leaves cake and edge as they are
            self._load = load
            self.load.refresh()
            self.cake.refresh()
            self.edge.refresh()
            self._refresh_workshop()
        self.skin.refresh()
        if self.skin.lead.isChecked() and self.model.stroke:
            self.hand.refresh()
        self.readout.refresh()
        self._refresh_door()

    def _refresh_door(self) -> None:
        page = self.below.currentWidget()
        for shown in self._page_by_name.values():
            if shown is page and self.model.stroke:
                shown.refresh()

    def page_of(self, name: str) -> ReadoutPage:
        """Return a page of the read-out's pages, made when it is first wanted."""
        if name not in self._page_by_name:
            page = make_page(name, self.model)
            page.left.connect(lambda: self.show_page(""))
            self._page_by_name[name] = page
            self.below.addWidget(page)
        return self._page_by_name[name]

    def show_page(self, name: str) -> None:
        """Show a page of the read-out's pages below the mats, or with "" the read-out itself."""
        self.cake.make.setChecked(False)
        self.skin.lead.setChecked(False)
        page = self.page_of(name) if name else None
        for other in self._page_by_name.values():
            if other is not page:
                other.stop()
        self.below.setCurrentWidget(page or self.readout)
        if page is not None and self.model.stroke:
            page.refresh()
            page.setFocus()

    def _load_shown(self) -> object:
        plan, stroke, outcome = self.model.plan, self.model.stroke, self.model.outcome
        here = (stroke.id, stroke.recipe, stroke.brush, stroke.rim) if stroke else None
        return (
            plan.cakes,
            plan.paints,
            plan.brushes,
            here,
            self.model.unit,
            outcome is None,
            outcome.band if outcome else None,
        )

    def _show_pickup(self) -> None:
        if self.model.stroke:
            self.load.refresh()
            self.cake.refresh()
            self._refresh_workshop()

    def _make(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        if on:
            self.skin.lead.setChecked(False)
        self._show_below()
        self._refresh_workshop()

    def _lead(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        if on:
            self.cake.make.setChecked(False)
        self._show_below()
        if on and self.model.stroke:
            self.hand.refresh()

    def _refresh_workshop(self) -> None:
        if self.cake.make.isChecked() and self.model.stroke:
            self.workshop.refresh()

    def _mark_boundary(self) -> None:
        for surface in (self.cake.surface, self.edge.surface, self.skin.surface, self.readout.surface):
            surface.update()

    def close_all(self) -> None:
        """Stop what is laid for pictures; the window closes."""
        self.hand.holds.close_all()

    # --- out ---

    def copied(self) -> Copied | None:
        """The stroke with its ribbons, as a picture."""
        stroke = self.model.stroke
        if stroke is None:
            return None
        return Copied(phrase("the stroke as a picture"), stroke_image(self.model.plan, stroke.id, self.model.unit))

    def papers(self) -> tuple[Printed, ...]:
        """The load card, and the label of the cake."""
        stroke, plan, unit = self.model.stroke, self.model.plan, self.model.unit
        if stroke is None:
            return ()
        found = [Printed(phrase("Load card"), partial(load_card, plan, stroke.id, unit), stroke.id)]
        if self.model.cake is not None:
            found.append(
                Printed(phrase("Label of the cake"), partial(cake_label, plan, self.model.cake, unit), "label")
            )
        return tuple(found)

    def follow_drawing(self, path: Path) -> None:
        """Lead the stroke along the first path of a drawing."""
        self.hand.follow_drawing(path)

    def wish_from(self, path: Path) -> None:
        """Take the colours that are wished for from a line across a photo."""
        self.show_page("wish")
        page: Any = self.page_of("wish")
        page.open_picture(path)

    def ask_picture(self) -> None:
        """Ask where and write the stroke with its ribbons as PNG."""
        self._ask_out(phrase("Picture of the stroke"), ".png", stroke_picture)

    def ask_card(self) -> None:
        """Ask where and write the load card."""
        self._ask_out(phrase("Load card"), ".pdf", load_card)

    def ask_label(self) -> None:
        """Ask where and write the label of the cake on the Bench."""
        cake = self.model.cake if self.model.stroke is not None else None
        if self.model.stroke is not None and cake is None:
            self._place.say(phrase("Nothing on the Bench comes from a cake; choose a pick-up that does."))
            return
        self._ask_out(
            phrase("Label of the cake"), ".pdf", lambda plan, _, unit, path: cake_label(plan, cake, unit, path)
        )

    def _ask_out(self, words: str, ending: str, make: Callable[[Plan, str, LengthUnit, Path], Work]) -> None:
        stroke, place = self.model.stroke, self._place
        if stroke is None:
            place.say(phrase("There is no stroke yet; begin with a petal."))
            return
        path = ask_target(place.window, words, place.folder() / f"{stroke.id}{ending}", (ending,))
        if path is not None:
            place.exporter.write(str(path), make(self.model.plan, stroke.id, self.model.unit, path))

    def show_ladder(self, cake: str) -> None:
        """Show the tones of a cake."""
        from pennello.ui.stations.bench.ladder_page import LadderPage  # noqa: PLC0415 - only when wanted

        page = LadderPage(self.model, cake, self._place.window)
        goes_when_closed(page)
        page.show()

    def keep_cake(self, cake: str) -> None:
        """Put a cake of the plan into one's own kit."""
        from pennello.ui.stations.tray.controller import TrayController  # noqa: PLC0415 - not before it is wanted

        tray = self._place.station("tray")
        assert isinstance(tray, TrayController)
        tray.keep_cake(cake)
