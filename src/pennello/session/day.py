"""The day's services: figures of a design for the menu, the demo evening, the bag from the kit, an event on disk."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, datetime
from pathlib import Path

import numpy as np
import platformdirs
from numpy.typing import NDArray
from psygnal import Signal

from pennello.day.bag import InKit, Thing, bag, in_kit
from pennello.day.board import BoardError
from pennello.day.books import Costs, costs, report
from pennello.day.event import BETWEEN_S, Arrivals, Break, Event, Extra, MenuItem, Used, clock_text, with_item
from pennello.day.queue import Evening
from pennello.design.marks import Gem, Glitter, Stencil
from pennello.design.ordering import Priority
from pennello.design.pace import Pace, StepKind
from pennello.design.part_edits import short_form
from pennello.design.plan import Plan
from pennello.design.scene import Check, go_on
from pennello.disk import exists, make_private_folder, path_of
from pennello.errors import FileProblemError
from pennello.files.day_json import SUFFIX, day_path, read_day, write_day
from pennello.files.demo import shipped_design, shipped_designs
from pennello.files.plan_json import read_plan
from pennello.kit.cut_list import DENSITY_G_PER_CM3
from pennello.kit.paint import Paint
from pennello.kit.shelf import Thing as KitThing
from pennello.lay.engine import kernel
from pennello.limits import MOST_NAME
from pennello.moments import later, of_the_place
from pennello.order.arrange import Arranged, arrange, design_of
from pennello.phrases import named, phrase, plural
from pennello.practice.records import LogPage
from pennello.session.design_pictures import LaidPlan, laid_plan
from pennello.session.history import History, Undoable
from pennello.session.kit import KitSession, kit_there

SHIPPED = "design:"


@dataclass(frozen=True, slots=True, eq=False)
class Designed:
    """A design with its figures and its picture."""

    item: MenuItem
    picture: NDArray[np.uint8]


def plan_of(item: MenuItem) -> Plan | None:
    """Return the plan of a design on the menu, or None where it is not there any more."""
    if item.plan.startswith(SHIPPED):
        key, _, other = item.plan.removeprefix(SHIPPED).partition("/")
        return shipped_design(key).plan(other=bool(other))
    if not item.plan or not exists(path_of(item.plan)):
        return None
    try:
        return read_plan(path_of(item.plan))
    except FileProblemError:
        return None


@dataclass(frozen=True, slots=True, eq=False)
class PackedThings:
    """Cakes, pans and brushes by the names that the bag has for them, and the paints that cakes are made of."""

    by_name: dict[str, KitThing]
    paints: dict[str, Paint]


def things_of(plan: Plan) -> PackedThings:
    """Return what a plan holds copies of, for pictures of the bag."""
    things: list[KitThing] = [*plan.paints, *plan.cakes, *plan.brushes]
    return PackedThings({one.name: one for one in things}, {one.id: one for one in plan.paints})


def pictures_of(event: Event, check: Check = go_on) -> dict[str, NDArray[np.uint8]]:
    """Return pictures for paper of the designs on the menu whose plans are there, by id.

    Parameters
    ----------
    check
        Called before each; what it raises ends the work.
    """
    found = {}
    for item in event.on_menu:
        check()
        plan = plan_of(item)
        if plan is not None and plan.motifs:
            found[item.id] = laid_plan(plan, plan.motifs[0].chart, surround="#FFFFFF").picture
    return found


def designed(plan: Plan, where: str, name: str = "", pace: Pace | None = None) -> Designed:
    """Return a design for the menu: true minutes, whole and short, loads, grams, tools and its picture.

    Parameters
    ----------
    where
        The plan's file, or `design:KEY`.
    name
        Its id on the menu; from the title if left out.
    pace
        The painter's own.
    """
    chart = plan.motifs[0].chart if plan.motifs else "face"
    whole = arrange(design_of(plan, chart, pace, engine=kernel()), 0.0)
    short_s = _short_s(plan, chart, pace, whole.sums.total_s)
    laid = laid_plan(plan, chart)
    item = _item(plan, whole, short_s, laid, where, name)
    return Designed(replace(item, extras=_extras(plan, chart), pace=pace_key(pace)), laid.picture)


def pace_key(pace: Pace | None) -> str:
    """Return a painter's own pace as a menu keeps it, so that one that has changed is seen; "" for defaults."""
    factors = pace.factors if pace is not None else ()
    return ", ".join(f"{named(kind)} {factor:.2f}" for kind, factor, _ in factors)


def of_another_pace(event: Event, pace: Pace) -> tuple[MenuItem, ...]:
    """Return the designs whose times were worked out at another pace than the painter's is now."""
    key = pace_key(pace)
    return tuple(one for one in event.menu if one.pace != key and one.plan)


def worked_out_again(item: MenuItem, pace: Pace | None) -> MenuItem:
    """Return a design of the menu with the figures of its plan as that is now; as it was where the plan is gone."""
    plan = plan_of(item)
    if plan is None or not plan.motifs:
        return item
    found = designed(plan, item.plan, item.id, pace).item
    return replace(found, title=item.title, share=item.share, on=item.on)


def _extras(plan: Plan, chart: str) -> tuple[Extra, ...]:
    """Return a plan's stencils, its gems by their name, and what stands on places that are kept for something."""
    counts: dict[str, float] = {}
    for one in plan.overlays:
        if one.chart == chart and isinstance(one, Stencil | Gem):
            key = f"{one.word}, {one.name}"[:MOST_NAME]
            counts[key] = counts.get(key, 0.0) + (1.0 if isinstance(one, Gem) else 0.0)
    kept = (one for one in plan.reserved if one.chart == chart and not one.for_motif)
    counts |= {phrase("for the place kept: {one}", one=one.name)[:MOST_NAME]: 0.0 for one in kept}
    return tuple(Extra(name, count) for name, count in list(counts.items())[:_MOST_EXTRAS])


_MOST_EXTRAS = 60


def _short_s(plan: Plan, chart: str, pace: Pace | None, whole_s: float) -> float:
    """Return how long the short form takes, s: the plan's, or what must be there alone; 0 where neither is less."""
    must = tuple(one for one in plan.motifs if plan.ordering.priority(one.id) is Priority.MUST)
    found = [0.0]
    for brief in (short_form(plan), replace(plan, motifs=must, overlays=())):
        if brief != plan and brief.motifs:
            seconds = arrange(design_of(brief, chart, pace, engine=kernel()), 0.0).sums.total_s
            if seconds < _SHORTER * whole_s:
                found.append(seconds)
    return min(found[1:], default=0.0)


_SHORTER = 0.95
"""A short form that takes more of the whole's time is none."""


def _item(plan: Plan, whole: Arranged, short_s: float, laid: LaidPlan, where: str, name: str) -> MenuItem:
    times = times_loaded(whole)
    loads = [plan.stroke(key) for key in times]
    brushes = [plan.brush(one.brush) for one in loads]
    sponges = sum(one.kind.two_faced for one in brushes)
    glitter = tuple(
        dict.fromkeys(one.name for one in plan.overlays if isinstance(one, Glitter) and one.chart == laid.chart)
    )
    total = max(whole.sums.total_s, 5.0)
    return MenuItem(
        name or _key(plan.title),
        plan.title,
        round(total, 1),
        round(short_s, 1) if 5.0 <= short_s < total else 0.0,
        where,
        tuple(one.name for one in loads),
        _used(plan, times),
        tuple(dict.fromkeys(one.name for one in brushes)),
        float(sponges),
        glitter,
        laid.colours,
    )


def times_loaded(found: Arranged) -> dict[str, int]:
    """Return how often each load is loaded in an order, by its id, in the order of first use."""
    load_of = {job.id: job.load for job in found.jobs if job.load}
    times: dict[str, int] = {}
    for step in found.steps:
        load = load_of.get(step.job, "")
        if not load:
            continue
        times.setdefault(load, 0)
        times[load] += len(step.reloads_s) + (step.kind is StepKind.LOAD)
    return {load: max(count, 1) for load, count in times.items()}


def _used(plan: Plan, times: dict[str, int]) -> tuple[Used, ...]:
    """Return what one face takes of each cake and pan, g: what each load holds, shared out among what it comes from."""
    grams: dict[str, float] = {}
    for load, count in times.items():
        recipe = plan.stroke(load).recipe
        held = plan.edge(load).total_mm3 * count * DENSITY_G_PER_CM3 / 1000
        sources = [plan.cake(key).name for key in recipe.cakes] + [plan.paint(key).name for key in recipe.pan_paints]
        for source in sources:
            grams[source] = grams.get(source, 0.0) + held / len(sources)
    return tuple(Used(name, round(amount, 4)) for name, amount in grams.items())


def _key(title: str) -> str:
    words = "".join(sign if sign.isascii() and sign.isalnum() else "-" for sign in title.lower())
    return "-".join(part for part in words.split("-") if part)[:60] or "design"


def free_key(event: Event, name: str) -> str:
    """Return a key that the event's menu does not have yet."""
    known = {one.id for one in event.menu}
    return next(key for key in (name, *(f"{name}-{number}" for number in range(2, 100))) if key not in known)


def worked_out_demo() -> Event:
    """Return the Saltmarsh Lantern Walk as an evening, its figures worked out from the designs that ship."""
    event = Event(
        phrase("Saltmarsh Lantern Walk"),
        phrase("tidal causeway"),
        begins_min=1110,
        ends_min=1290,
        breaks=(Break(1200, 1210),),
        painters=2,
        people=60,
        arrivals=Arrivals.RUSH,
        children=0.6,
        limit_min=25,
        per_face=7.0,
        own_hour=18.0,
        travel=12.0,
    )
    for one in shipped_designs():
        event = with_item(event, designed(one.plan(), SHIPPED + one.key, one.key).item)
    return event


def bag_of(event: Event, faces: float, kit: Path | None = None, today: date | None = None) -> tuple[Thing, ...]:
    """Return what to pack for so many faces, held against the painter's kit where there is one."""
    return bag(event, faces, known_of_kit(kit, today))


def known_of_kit(kit: Path | None = None, today: date | None = None) -> InKit | None:
    """Return what the painter's kit knows of cakes and pans; None where there is none.

    Raises
    ------
    FileProblemError
        If it cannot be read.
    """
    found = kit_there(kit)
    return in_kit(found, today or date.today()) if found is not None else None


def faces_expected(event: Event, evening: Evening | None) -> float:
    """Return for how many faces to pack: as many as are served, else as many as there is time for."""
    if evening is not None:
        return evening.served
    items = event.on_menu
    if not items:
        return 0.0
    mean = sum(one.whole_s for one in items) / len(items) + BETWEEN_S
    return min(float(event.people), event.painters * event.painting_s / mean)


def begins_at(event: Event, now: datetime | None = None) -> datetime:
    """Return when an event begins, in the time of the place; today where no day is fixed."""
    day = date.fromisoformat(event.day) if event.day else (now or datetime.now()).date()
    return of_the_place(later(datetime.combine(day, datetime.min.time()), 60 * event.begins_min))


def booked(kit: KitSession, event: Event) -> tuple[Event, dict[str, float]]:
    """Book what a day took from the cakes and pans of the kit, as one step of the kit's history.

    Return the event, booked, and the grams by name.

    Raises
    ------
    BoardError
        If it was booked before.
    FileProblemError
        If the kit cannot be written.
    """
    if event.booked:
        raise BoardError(phrase("What this day took is booked already; undo in the Tray takes it back."))
    left = in_kit(kit.kit, date.today()).left
    grams = {name: amount for name, amount in report(event).grams if name in left}
    changed = [
        replace(item, keeping=replace(item.keeping, stock_g=round(max(left[item.name] - grams[item.name], 0.0), 2)))
        for item in kit.kit
        if item.name in grams and not item.keeping.retired
    ]
    if changed:
        kit.put(phrase("What {event} took", event=event.name), changed)
    return replace(event, booked=True), grams


def noted(event: Event) -> LogPage:
    """Return a day as a page of the notebook: faces, minutes planned and as they were, and what to do next time."""
    found = report(event)
    painted = sum(one.faces * (one.took_s or one.planned_s) for one in found.designs)
    planned = sum(one.faces * one.planned_s for one in found.designs)
    colours = tuple(dict.fromkeys(colour for one in event.on_menu for colour in one.colours[:1]))
    note = " ".join(
        (
            plural(
                found.faces,
                "{faces} face, {gone} left.",
                "{faces} faces, {gone} left.",
                faces=found.faces,
                gone=found.gone,
            ),
            *found.next_time,
        )
    )
    begins = begins_at(event).isoformat(timespec="seconds")
    timed = LogPage(begins, event.name, painted_s=round(painted, 1), planned_s=round(planned, 1))
    return replace(timed, note=note, colours=colours)


def own_file(event: Event) -> Path:
    """Return where an event is kept that was not given a file: in the data folder, under its name and day."""
    folder = Path(platformdirs.user_data_path("pennello")) / "events"
    make_private_folder(folder)
    stem = _key(f"{event.name} {event.day or date.today().isoformat()}")
    names = (f"{stem}{SUFFIX}", *(f"{stem}-{number}{SUFFIX}" for number in range(2, 1000)))
    return next(folder / name for name in names if not exists(folder / name))


@dataclass(frozen=True, slots=True)
class KnownEvent:
    """An event on disk, and what it comes to with as many faces as there is time for."""

    path: Path
    event: Event
    faces: float
    money: Costs


def known_events(others: Iterable[Path] = ()) -> tuple[tuple[KnownEvent, ...], tuple[str, ...]]:
    """Return the events of the data folder and some others, by day, and a sentence for each that cannot be read."""
    folder = Path(platformdirs.user_data_path("pennello")) / "events"
    paths = [*(folder.glob(f"*{SUFFIX}") if exists(folder) else ()), *(one for one in others if exists(one))]
    found, wrong = [], []
    for path in dict.fromkeys(one.absolute() for one in paths):
        try:
            event = read_day(path)
        except FileProblemError as error:
            wrong.append(str(error))
            continue
        faces = faces_expected(event, None)
        found.append(KnownEvent(path, event, faces, costs(event, faces)))
    found.sort(key=lambda one: (one.event.day or "9999", one.event.begins_min, one.event.name))
    return tuple(found), tuple(wrong)


def event_rows(known: Iterable[KnownEvent]) -> tuple[tuple[str, ...], ...]:
    """Return events side by side in words, under `EVENT_COLUMNS`."""
    return tuple(_event_row(one) for one in known)


EVENT_COLUMNS = (
    phrase("event"),
    phrase("day"),
    phrase("hours"),
    phrase("painting"),
    phrase("people"),
    phrase("designs"),
    phrase("time for"),
    phrase("out"),
    phrase("left"),
)


def _event_row(one: KnownEvent) -> tuple[str, ...]:
    event, sign = one.event, one.event.currency
    hours = phrase("{clock} to {clock_2}", clock=clock_text(event.begins_min), clock_2=clock_text(event.ends_min))
    counts = (
        str(event.painters),
        str(event.people),
        str(len(event.on_menu)),
        plural(round(one.faces), "{faces:.0f} face", "{faces:.0f} faces", faces=one.faces),
    )
    money = (f"{one.money.total:.0f} {sign}", f"{one.money.left:.0f} {sign}")
    return (event.name, event.day or phrase("not fixed"), hours, *counts, *money)


class DaySession(Undoable):
    """An event as it is open: each change is a step of its history and is written at once.

    One without a file gets one of its own in the data folder with its first change, so that nothing of it is lost.

    Signals
    -------
    changed

    Parameters
    ----------
    path
        Its file; None for one that is not kept yet.
    """

    changed = Signal()

    def __init__(self, event: Event, path: Path | None = None) -> None:
        self.event, self.path = event, path
        self._history: History[Event] = History()

    def edit(self, label: str, event: Event, merge: str = "") -> None:
        """Take a change, and write it; raises FileProblemError, and takes nothing then."""
        if event == self.event:
            return
        self.path = self.path or own_file(event)
        self._write(event)
        before, self.event = self.event, event
        self._history.add(label, before, event, merge)
        self.changed.emit()

    def open(self, path: Path) -> None:
        """Open another event; raises FileProblemError."""
        self.event, self.path = read_day(path), path
        self._history.clear()
        self.changed.emit()

    def take(self, event: Event, path: Path | None = None) -> None:
        """Take another event that has no file yet."""
        self.event, self.path = event, path
        self._history.clear()
        self.changed.emit()

    def keep_as(self, path: Path) -> Path:
        """Write it into a file, and from now on every change; return the file. Raises FileProblemError."""
        target = day_path(path)
        write_day(self.event, target)
        self.path = target
        self.changed.emit()
        return target

    def undo(self) -> None:
        """Take back the last change; raises FileProblemError."""
        self._history.take_back(self._show)

    def redo(self) -> None:
        """Do it again; raises FileProblemError."""
        self._history.do_again(self._show)

    def _show(self, _: Event, wanted: Event) -> None:
        self._write(wanted)
        self.event = wanted
        self.changed.emit()

    def _write(self, event: Event) -> None:
        if self.path is not None:
            write_day(event, self.path)
