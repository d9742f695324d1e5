"""What the Chart shows: a chart of the person, the motif in the hand, and what is painted, kept up by a worker."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from pennello.chart.chart import Chart
from pennello.colour.lights import Light
from pennello.design.as_wished import as_wished
from pennello.design.chart_checks import odd_on
from pennello.design.on_chart import chart_of, painted_plan, pieces_on, seat, with_motif
from pennello.design.part_edits import short_form, with_new_part, without_seen
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan
from pennello.design.reach import BASE, hidden_edges
from pennello.errors import PennelloError
from pennello.finding import Finding
from pennello.kept import room_for
from pennello.lay.skin_film import SkinFilm
from pennello.motif.place import Place
from pennello.phrases import phrase
from pennello.session.chart_photo import LaidPhoto, Picture, PlacedPhoto, placed_photo, read_photo
from pennello.session.chart_scene import ChartScene, Lifted, Painted, lift
from pennello.session.document import Document
from pennello.session.jobs import Job, Jobs
from pennello.session.last_pictures import LastPictures
from pennello.session.order_pictures import order_found
from pennello.session.sketch import sketched
from pennello.ui.binding import follow
from pennello.ui.work import Newest, begin, guarded
from pennello.units import LengthUnit

SETTLE_MS, AT_ONCE_MS = 120, 1
"""How long the hand rests before the chart is painted anew: while it drags, and once something is changed, ms."""

_Done = tuple[object, Light]
"""What was painted, so that it is not painted twice, and in which light it is seen."""

_Painted = tuple[_Done, tuple[Finding, ...], dict[str, tuple[float, float]]]
"""What was painted; what is odd about it; what is hidden of a base's edges."""

PlanChange = Callable[[Plan], Plan]
"""Makes another plan of the committed one."""


SKETCH_FROM = 40
"""A chart that was not painted yet is shown as a sketch first, where it has so many strokes."""


class ChartModel(QObject):
    """Follows the document.

    Signals
    -------
    shown
        The plan, the chart or the motif in the hand is another one.
    painted_anew
        Another picture is there, or what is odd about it.
    begun, ended
        The chart is being painted; nothing is painted any more.
    chosen_anew
        Another motif is in the hand.
    failed(str)
    """

    shown = Signal()
    painted_anew = Signal()
    begun = Signal()
    ended = Signal()
    chosen_anew = Signal()
    failed = Signal(str)

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.document = document
        self.key = "face"
        self.unit = LengthUnit.MM
        self.painted: Painted | None = None
        self.odd: tuple[Finding, ...] = ()
        self.edges: dict[str, tuple[float, float]] = {}
        self.lifted: Lifted | None = None
        self._painted_places: dict[str, Place] = {}
        self.at_s: float | None = None
        self.wished = False
        self.listed = self.short = False
        self.hidden: frozenset[str] = frozenset()
        self._chosen = self._part = ""
        self._jobs = Jobs()
        self._scene = ChartScene()
        self._newest = Newest(self._jobs, "paint", self)
        self._question: _Asked | None = None
        self._done: _Done | None = None
        self._telling = Jobs()
        self.open = False
        self._no_photo = ""
        self._photo: tuple[tuple[Path, int], Picture | None] | None = None
        self._kept: Painted | None = None
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(SETTLE_MS)
        self._settle.timeout.connect(self._paint)
        follow(self, document.changed, self.refresh)
        follow(self, document.state_changed, self._keep_last)

    # --- what is shown ---

    @property
    def jobs(self) -> Jobs:
        """Work in the background of what is shown; it ends with the window."""
        return self._jobs

    @property
    def plan(self) -> Plan:
        """The plan as shown."""
        return self.document.plan

    @property
    def chart(self) -> Chart:
        """The chart, drawn for the plan's person."""
        return chart_of(self.plan, self.key)

    @property
    def photo(self) -> LaidPhoto | None:
        """The photo that stands for this chart; None where it is drawn, still read, or cannot be read (said once)."""
        path = self.document.path
        try:
            placed = placed_photo(self.plan, self.key, path.parent if path is not None else None)
        except PennelloError as error:
            self._refuse_photo(str(error))
            return None
        if placed is None:
            self._no_photo = ""
            return None
        if self._photo is None or self._photo[0] != placed.file:
            self._read_photo(placed)
            return None
        picture = self._photo[1]
        return None if picture is None else LaidPhoto(picture, placed.onto)

    def _read_photo(self, placed: PlacedPhoto) -> None:
        """Let a worker read the photo; while it does, and where it cannot, the chart is drawn."""
        self._photo = (placed.file, None)

        def show(picture: Picture) -> None:
            if self._photo is not None and self._photo[0] == placed.file:
                self._photo, self._no_photo = (placed.file, picture), ""
                self.painted_anew.emit()

        begin(
            self._telling,
            "photo",
            self,
            lambda _: read_photo(*placed.file),
            finished=show,
            failed=self._refuse_photo,
        )

    def _refuse_photo(self, why: str) -> None:
        """Say once why a photo cannot be shown."""
        if self._no_photo != why:
            self._no_photo = why
            QTimer.singleShot(0, self, lambda: self.failed.emit(self._no_photo))

    @property
    def motifs(self) -> tuple[PlacedMotif, ...]:
        """The motifs on this chart, in the order of painting."""
        return tuple(one for one in self.plan.motifs if one.chart == self.key)

    @property
    def chosen_id(self) -> str:
        """Which motif is in the hand."""
        return self._chosen

    @property
    def chosen(self) -> PlacedMotif | None:
        """The motif in the hand."""
        return next((one for one in self.motifs if one.id == self._chosen), None)

    @property
    def seated(self) -> PlacedMotif | None:
        """The motif in the hand where it comes to lie: with its stripe on its landmark, at the angle that it keeps."""
        chosen = self.chosen
        return None if chosen is None else seat(self.plan, chosen)

    @property
    def committed(self) -> PlacedMotif | None:
        """The motif in the hand as it is without a preview."""
        return next((one for one in self.document.committed.motifs if one.id == self._chosen), None)

    @property
    def committed_seated(self) -> PlacedMotif | None:
        """The same where it comes to lie."""
        here = self.committed
        return None if here is None else seat(self.document.committed, here)

    @property
    def busy(self) -> bool:
        """Whether the picture is behind the plan."""
        return self._newest.busy or self._settle.isActive()

    @property
    def film(self) -> SkinFilm | None:
        """What is painted on this chart, as it is at the end; only to be read, and only while nothing is painted."""
        whole = self.painted is not None and self.painted.chart == self.key and self.at_s is None
        return self._scene.film if whole else None

    def choose(self, name: str) -> None:
        """Take another motif in the hand; "" for none."""
        if name != self._chosen:
            self.document.preview(None)
            self._chosen = name
            self.chosen_anew.emit()
            self.shown.emit()
            self._lift()

    def show_chart(self, key: str) -> None:
        """Show another chart."""
        if key != self.key:
            self.document.preview(None)
            self.key, self.painted, self._question, self._done = key, None, None, None
            self._chosen = self.motifs[0].id if self.motifs else ""
            self.refresh()
            self.chosen_anew.emit()

    def show_at(self, at_s: float | None) -> None:
        """Show only what is laid by a time, s, or everything."""
        if at_s != self.at_s:
            self.at_s = at_s
            self._settle.start()

    def show_wish(self, *, on: bool) -> None:
        """Show what is wished in the place of what is predicted."""
        if on != self.wished:
            self.wished = on
            self._settle.start()

    def show_short(self, *, on: bool) -> None:
        """Show the design in its short form, and let numbers be those of it."""
        if on != self.short:
            self.short = on
            self.shown.emit()
            self._settle.start()

    def enter(self) -> None:
        """The station is shown."""
        self.open = True
        if not self.motifs:
            used = [one.chart for one in self.plan.motifs]
            if used:
                self.show_chart(used[0])
        self.refresh()

    def leave(self) -> None:
        """Another station is shown: the film, which is large, is let go of; the picture stays."""
        self.open = False
        self._scene, self._question, self._done = ChartScene(), None, None

    def refresh(self) -> None:
        """Follow the plan."""
        if not self.open:
            return
        self.shown.emit()
        self._settle.start(AT_ONCE_MS if self.plan is self.document.committed else SETTLE_MS)

    def close(self) -> None:
        """Stop timers and work; the window closes."""
        self._settle.stop()
        self._newest.stop()
        self._telling.leave()
        self._jobs.close()

    # --- edits ---

    @property
    def part(self) -> str:
        """The part that strokes and lines drawn by hand become pieces of, "" for none."""
        return self._part if self._part in self.document.committed.parts_by_id else ""

    def draw_into(self, part: str) -> None:
        """Let what is drawn by hand from now on belong to a part, or with "" to none."""
        if part != self._part:
            self._part = part
            self.shown.emit()

    def make_part(self, name: str, members: Sequence[str] = (), within: str = "") -> None:
        """Make a part of pieces and parts, as a step; what is drawn by hand from now on belongs to it."""

        made: list[str] = []

        def change(plan: Plan) -> Plan:
            plan, part = with_new_part(plan, name, members, within)
            made.append(part)
            return plan

        self.edit(phrase("New part"), change)
        if made:
            self.draw_into(made[-1])

    def edit(self, label: str, change: PlanChange, merge: str = "") -> None:
        """Make a change a step."""
        guarded(lambda: self.document.edit(label, change(self.document.committed), merge), self.failed.emit)

    def preview(self, change: PlanChange) -> None:
        """Show what a change of the committed plan would give."""
        guarded(lambda: self.document.preview(change(self.document.committed)), self.failed.emit)

    def motif_change(self, make: Callable[[PlacedMotif], PlacedMotif]) -> PlanChange:
        """Return the change that makes another of the motif in the hand; none where there is none."""
        here = self.committed
        return (lambda plan: with_motif(plan, make(here))) if here is not None else (lambda plan: plan)

    def edit_motif(self, label: str, make: Callable[[PlacedMotif], PlacedMotif], merge: str = "") -> None:
        """Change the motif in the hand, as a step."""
        if self.committed is not None:
            self.edit(label, self.motif_change(make), merge)

    def commit(self, label: str) -> None:
        """Make what is previewed a step."""
        self.document.commit(label)

    def cancel(self) -> None:
        """Give back what was there before the preview."""
        self.document.preview(None)

    # --- painting ---

    def tell(self, about: str, owner: QObject, work: Callable[[], str], take: Callable[[str], object]) -> None:
        """Let a worker find words about something, and give the newest of them to `take`."""
        begin(self._telling, about, owner, lambda _: work(), finished=take, failed=take)

    def _paint(self) -> None:
        plan = without_seen(self.plan, self.hidden)
        asked = _Asked(short_form(plan) if self.short else plan, self.key, self.at_s, self.wished, self.listed)
        if asked == self._question:
            if not self._newest.busy and self.lifted is None:
                self._lift()
            return
        self._question = asked
        places = {one.id: one.place for one in asked.plan.motifs}
        scene, done, last = self._scene, self._done, self.painted
        first: _First = _sketch
        self._done = None  # until it is known what is there: a painting that is broken off may have been shown
        if self.painted is not None and self.painted.chart == self.key and _alike(self.painted.plan, asked.plan):
            first = _none
        elif self._as_kept:
            first = _last_or_sketch
        self.begun.emit()
        self._newest.run(
            lambda job: _painting(job, asked, scene, done, first, last),
            finished=lambda found: self._take(found, done),
            failed=self._give_up,
            found=lambda one: self._show(one, places),
        )

    def _give_up(self, why: str) -> None:
        self.failed.emit(why)
        self.ended.emit()

    def hide(self, names: frozenset[str]) -> None:
        """Leave parts and pieces out of the picture, for a look at the rest."""
        if names != self.hidden:
            self.hidden = names
            self.shown.emit()
            self._settle.start()

    def show_listed(self, *, on: bool) -> None:
        """Show it painted as the plan lists it, in the place of the order found."""
        if on != self.listed:
            self.listed = on
            self._settle.start()

    def _show(self, painted: Painted | None, places: dict[str, Place]) -> None:
        """Show a picture as soon as it is there; what is odd about it comes after."""
        self.painted, self._painted_places = painted, places
        self.painted_anew.emit()

    def _take(self, found: _Painted | None, done: _Done | None) -> None:
        if found is None:
            self._done = done
        else:
            self._done, self.odd, self.edges = found
            self.painted_anew.emit()
            self._keep_last()
        if found is not None or self.lifted is None:
            self._lift()
        self.ended.emit()

    @property
    def _as_kept(self) -> bool:
        """Whether what is shown is a saved plan, all of it, in the order found: pictures of such are kept."""
        asked = self.at_s is not None or self.wished or self.listed or self.short or self.hidden
        return not asked and self.document.path is not None and not self.document.dirty

    def _keep_last(self) -> None:
        """Keep the picture of a saved plan, so that it is there at once when the plan is opened again."""
        painted = self.painted
        if painted is None or painted is self._kept or painted.wetness is None or painted.strokes < SKETCH_FROM:
            return
        if self._as_kept and not self.busy and painted.plan == self.document.committed:
            self._kept = painted
            begin(
                self._telling,
                "last",
                self,
                lambda _: LastPictures().keep(painted),
                finished=lambda _: None,
                failed=self.failed.emit,
                to_the_end=True,
            )

    def _lift(self) -> None:
        """Get ready to carry the motif in the hand: paint it apart, in the background."""
        self.lifted = None
        plan, key, name = self.document.committed, self.key, self._chosen
        if not self.open or self.wished or self.at_s is not None or self.committed is None:
            return
        begin(
            self._jobs,
            "lift",
            self,
            lambda job: lift(plan, key, name, job.check),
            finished=self._take_lifted,
            failed=self.failed.emit,
        )

    def _take_lifted(self, found: Lifted | None) -> None:
        here = self.committed
        if found is not None and here is not None and (found.motif, found.place) == (here.id, here.place):
            self.lifted = found

    @property
    def carried(self) -> Lifted | None:
        """What is carried: the motif in the hand, where its picture lags behind its place and nothing else changed."""
        lifted, here = self.lifted, self.chosen
        if lifted is None or here is None or here.id != lifted.motif:
            return None
        if here.place in (lifted.place, self._painted_places.get(here.id)):
            return None
        turned = (here.place.scale, here.place.mirrored) != (lifted.place.scale, lifted.place.mirrored)
        apart = len(lifted.group) > 1 and here.place.turn_deg != lifted.place.turn_deg
        return None if turned or apart else lifted


@dataclass(frozen=True, slots=True)
class _Asked:
    """What is to be painted: a plan on a chart, by a time, s, and how."""

    plan: Plan
    key: str
    at_s: float | None
    wished: bool
    listed: bool


_First = Callable[[Plan, str, Job[Any]], Painted | None]
"""What is shown of a plan on a chart before it is painted; None for nothing."""


def _none(_plan: Plan, _key: str, _job: Job[Any]) -> Painted | None:
    """Return nothing: what is there shows most of it."""
    return None


def _sketch(plan: Plan, key: str, job: Job[Any]) -> Painted | None:
    """Return a crowded chart as a sketch, as listed."""
    return sketched(plan, key, job.check) if len(pieces_on(plan, key)) >= SKETCH_FROM else None


def _last_or_sketch(plan: Plan, key: str, job: Job[Any]) -> Painted | None:
    """Return the chart as it was last seen, if it was."""
    return LastPictures().find(plan, key) or _sketch(plan, key, job)


def _painting(
    job: Job[Any], asked: _Asked, scene: ChartScene, done: _Done | None, first: _First, last: Painted | None
) -> _Painted | None:
    """Paint a chart, and find what is odd about it; None where it is as it was done."""
    shown = as_wished(asked.plan) if asked.wished else asked.plan
    before = first(shown, asked.key, job)
    if before is not None:
        job.found.emit(before)
    strokes = painted_plan(shown, asked.key).strokes  # how long loads last is worked out here
    plan = asked.plan
    said = (plan.ordering, plan.parts, asked.listed, asked.key, asked.at_s)
    now = (strokes, plan.skin, plan.measures, plan.reserved, plan.overlays, said)
    lit = (now, plan.light)
    if lit == done:
        return None
    if done is not None and done[0] == now and last is not None:  # another light, and nothing else
        again = scene.relit(last, shown, plan.light)
        if again is not None:
            job.found.emit(again)
            return lit, odd_on(plan, asked.key), _edges(plan, asked.key)
    room_for(len(strokes))
    order = None if asked.listed or asked.wished else order_found(shown, asked.key, job.check)
    job.found.emit(scene.paint(shown, asked.key, at_s=asked.at_s, check=job.check, order=order, light=plan.light))
    return lit, odd_on(plan, asked.key), _edges(plan, asked.key)


def _alike(one: Plan, other: Plan) -> bool:
    """Return whether most of what a plan has on its charts is in another one too."""
    there = {piece.id for piece in one.motifs} & {piece.id for piece in other.motifs}
    return 2 * len(there) >= len(other.motifs)


Edges = dict[str, tuple[float, float]]
"""Shares of edges A and B of bases that are hidden, by motif."""


def _edges(plan: Plan, key: str) -> Edges:
    found = {}
    for placed in plan.motifs:
        if placed.chart == key and BASE in placed.load_of:
            shares = hidden_edges(plan, placed)
            if shares is not None:
                found[placed.id] = shares
    return found
