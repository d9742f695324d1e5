"""What the Order station shows: the design's jobs with their films, and the best order so far, kept up by a worker."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from pennello.design.on_chart import charts_used
from pennello.design.ordering import Ordering
from pennello.design.pace import Pace
from pennello.design.part_edits import short_form
from pennello.design.plan import Plan
from pennello.errors import PennelloError
from pennello.lay.drying import DRY, evaporation_um_s
from pennello.order.arrange import Arranged, arrange, design_of, in_order, moved
from pennello.order.explain import Reason, reasons
from pennello.order.films import Films
from pennello.phrases import phrase
from pennello.session.chart_photo import with_photos_located
from pennello.session.document import Document
from pennello.session.jobs import Job, Jobs
from pennello.session.notebook import pace_of
from pennello.session.order_pictures import Moment, Picture, thumbnails
from pennello.store.database import SOON_MS
from pennello.ui.binding import follow
from pennello.ui.stations.order.after import paint_after
from pennello.ui.work import Newest

SETTLE_MS = 150
RESTARTS_S, IMPROVE_S = 1.0, 6.0
"""How long restarts, and then CP-SAT, look for a better order in the background."""

AFTER_PX_PER_MM = 1.5


@dataclass(frozen=True, slots=True)
class _Told:
    """An order and why it is so."""

    arranged: Arranged
    why: tuple[Reason, ...]


def drying(arranged: Arranged, name: str) -> tuple[float, float]:
    """Return how thick a step's paint lies, um, and after how long it is dry, s."""
    film = arranged.design.films.by_job.get(name)
    if film is None:
        return 0.0, 0.0
    return film.thick_um(), film.time_to(DRY, evaporation_um_s(arranged.design.work.plan.dry_after_s))


def _told_of(arranged: Arranged) -> _Told:
    """Return what is shown of an order; what drawing it asks for is worked out here, beside the window."""
    for name in {lag.before for lag in arranged.lags}:
        drying(arranged, name)
    return _Told(arranged, reasons(arranged))


class OrderModel(QObject):
    """Follows the document.

    Signals
    -------
    shown
        Another order, another step in the hand, or another picture of a step.
    told(float, str)
        How far the search is; 1 when it rests.
    failed(str)
    """

    shown = Signal()
    told = Signal(float, str)
    failed = Signal(str)

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.document = document
        self.chart = ""
        self.open = False
        self._looked = False
        self.arranged: Arranged | None = None
        self.why: tuple[Reason, ...] = ()
        self.pictures: dict[str, Picture] = {}
        self.after: dict[str, Picture] = {}
        self.chosen = ""
        self.pace = Pace()
        self.short = False
        self.busy = False
        self.seconds, self.improve_s = RESTARTS_S, IMPROVE_S
        self._asked: object = None
        self._films: tuple[object, Films] | None = None
        self._pictures_of: object = None
        self._dragged: Arranged | None = None
        self._after_of: Arranged | None = None
        self._jobs = Jobs()
        self._newest = Newest(self._jobs, "order", self)
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(SETTLE_MS)
        self._settle.timeout.connect(self._work)
        follow(self, document.changed, self.refresh)

    # --- what is shown ---

    @property
    def plan(self) -> Plan:
        """The plan as shown."""
        return self.document.plan

    @property
    def ordering(self) -> Ordering:
        """What the painter says about the order."""
        return self.document.committed.ordering

    @property
    def view(self) -> Arranged | None:
        """The order to draw: the one under the dragging hand, or the best so far."""
        return self._dragged or self.arranged

    @property
    def rests(self) -> bool:
        """Whether nothing is being worked out."""
        return not self.busy and not self._settle.isActive()

    def enter(self) -> None:
        """The station is shown."""
        self.open = True
        if not self._looked:  # at first one design, not all of them
            self._looked = True
            self.chart = self.chart or next(iter(charts_used(self.plan)), "")
        self.look_at_pace()

    def look_at_pace(self) -> None:
        """Take the painter's own pace from the notebook; one that is in use is read another time."""
        try:
            self.pace = pace_of(busy_ms=SOON_MS)
        except PennelloError as error:
            self.failed.emit(str(error))
        self.refresh()

    def show_short(self, *, on: bool) -> None:
        """Order the short form, for when the queue is long, or all of it."""
        self.short = on
        self.refresh()

    def leave(self) -> None:
        """Another station is shown."""
        self.open = False
        self.stop()

    def stop(self) -> None:
        """Stop the search; the best so far stays."""
        self._settle.stop()
        self._newest.stop()
        if self.busy:
            self._asked = None  # to be gone on with
        self.busy = False
        self.told.emit(1.0, "")

    def close(self) -> None:
        """Stop timers and work; the window closes."""
        self.stop()
        self._jobs.close()

    def show_chart(self, key: str) -> None:
        """Order another chart, or all ("")."""
        if key != self.chart:
            self.chart, self.chosen = key, ""
            self.refresh()

    def choose(self, name: str) -> None:
        """Take another step in the hand; "" for none."""
        if name != self.chosen:
            self.chosen = name
            self.shown.emit()

    def refresh(self) -> None:
        """Follow the plan."""
        if self.open:
            self._settle.start()

    # --- edits ---

    def set_ordering(self, label: str, change: Callable[[Ordering], Ordering], merge: str = "") -> None:
        """Change what the painter says about the order, as a step."""
        plan = self.document.committed
        try:
            self.document.edit(label, replace(plan, ordering=change(plan.ordering)), merge)
        except PennelloError as error:
            self.failed.emit(str(error))

    def drag(self, name: str, to: int) -> str:
        """Show the order with a step elsewhere; return why it cannot be there, or nothing."""
        if self.arranged is None:
            return ""
        order = moved(self.arranged, name, to)
        if isinstance(order, str):
            self._dragged = None
            self.shown.emit()
            return order
        self._dragged = in_order(self.arranged.design, order, self.arranged.choice)
        self.shown.emit()
        return ""

    def drop(self) -> None:
        """Take the order under the hand as the painter's own."""
        dragged, self._dragged = self._dragged, None
        if dragged is not None and self.arranged is not None and dragged.order != self.arranged.order:
            self.arranged = dragged
            self.set_ordering(phrase("Another order"), lambda one: replace(one, sequence=dragged.order))
        self.shown.emit()

    def give_back(self) -> None:
        """Leave the order as it was before the drag."""
        self._dragged = None
        self.shown.emit()

    # --- work ---

    def _work(self) -> None:
        plan = short_form(self.document.committed) if self.short else self.document.committed
        asked = (plan, self.chart, self.pace)
        if asked == self._asked:
            self.shown.emit()
            return
        self._asked = asked
        ground = (replace(plan, ordering=Ordering(), title="", place=""), self.chart)
        films = self._films[1] if self._films is not None and self._films[0] == ground else None
        wants_pictures = self._pictures_of != ground
        chart, pace, seconds, improve_s = self.chart, self.pace, self.seconds, self.improve_s
        path = self.document.path
        shown = with_photos_located(plan, path.parent if path is not None else None)

        def work(job: Job[Any]) -> None:
            design = design_of(shown, chart, pace, job.report, films=films)
            job.found.emit(design.films)
            first = arrange(design, 0.0)
            job.found.emit(_told_of(first))
            if wants_pictures:
                job.found.emit(thumbnails(design, job.report))
            if first.gap > 0 and not plan.ordering.sequence:
                most = phrase("looks for {seconds:.0f} s at most", seconds=seconds + improve_s)

                def tell(part: float, words: str) -> None:
                    job.report(part, f"{words}; {most}")

                def better(one: Arranged) -> None:
                    job.found.emit(_told_of(one))

                better(arrange(design, seconds, improve_s, report=tell, found=better))

        self.busy = True
        self._newest.run(
            work,
            found=lambda found: self._take(ground, found),
            progress=self.told.emit,
            finished=lambda _: self._rest(""),
            failed=self._rest,
        )

    def _take(self, ground: object, found: _Told | Films | dict[str, Picture]) -> None:
        """Take what the work has found so far: the films, an order, or pictures of its steps."""
        if isinstance(found, Films):
            self._films = (ground, found)
            return
        if isinstance(found, _Told):
            self.arranged, self.why = found.arranged, found.why
        else:
            self._pictures_of, self.pictures = ground, found
        self.shown.emit()

    def _rest(self, words: str) -> None:
        self.busy = False
        self.told.emit(1.0, "")
        if words:
            self._asked = None  # to be tried again
            self.failed.emit(words)
        self.shown.emit()
        self._paint_after()

    # --- the design after each step ---

    def _paint_after(self) -> None:
        """Paint the design after each step, in the background, once the order rests."""
        arranged = self.arranged
        if arranged is None or arranged is self._after_of or not self.open:
            return
        self._after_of, self.after = arranged, {}
        paint_after(
            self._jobs,
            "after",
            self,
            arranged,
            AFTER_PX_PER_MM,
            found=lambda moment: self._take_after(arranged, moment),
            failed=self.failed.emit,
        )

    def _take_after(self, arranged: Arranged, moment: Moment) -> None:
        if arranged is self._after_of:
            self.after[moment.job] = moment.picture
            self.shown.emit()
