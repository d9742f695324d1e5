"""An event: when and where, who comes and how, what is on the menu, what is paid, and who has come so far.

Times of day are minutes after midnight, moments of a live board seconds after the event begins. What the trade does not
state is a marked default.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from enum import Enum
from itertools import pairwise
from typing import Annotated

from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.phrases import phrase
from pennello.record import Told, check
from pennello.units import NumberTextError, is_count, parse_number

BETWEEN_S = 40.0
"""From one face to the next, s: the chair, the choice, the mirror (a default)."""

FREE_CHOICE_S = 180.0
"""A face of no design yet where the menu is empty, s (a default)."""

MOST_GUESTS, MOST_MENU, MOST_BREAKS = 5000, 60, 12
_MONEY = (0.0, 1e7)


class Arrivals(Enum):
    """How people come."""

    EVEN = "even"
    RUSH = "rush"
    WAVES = "waves"
    CURVE = "curve"


class GuestState(Enum):
    """Where a guest is."""

    WAITING = "waiting"
    PAINTING = "painting"
    DONE = "done"
    GONE = "gone"


@dataclass(frozen=True, slots=True)
class Break:
    """A rest: from when to when."""

    begins_min: Annotated[float, Told("when it begins", "min", within=(0.0, 2880.0), called="begin of a break")]
    ends_min: Annotated[float, Told("when it ends", "min", within=(0.0, 2880.0), called="end of a break")]

    def __post_init__(self) -> None:
        check(self)
        if self.ends_min <= self.begins_min:
            raise OutOfRangeError(
                phrase("end of a break"), clock_text(self.ends_min), phrase("after it begins"), "ends_min"
            )


@dataclass(frozen=True, slots=True)
class Used:
    """How many grams of a cake or pan one face takes."""

    name: Annotated[str, Told("what it is called", text="name")]
    grams: Annotated[float, Told("how much", "g", within=(0.0, 1000.0), called="grams of {name}")]

    def __post_init__(self) -> None:
        check(self)


@dataclass(frozen=True, slots=True)
class Extra:
    """A stencil, gems, a head piece: what a design takes beside paint."""

    name: Annotated[str, Told("what it is called", text="name")]
    each: Annotated[
        float, Told("how many stay on one face; 0 for one that is packed once", within=(0.0, 500.0), called="{name}")
    ] = 0.0

    def __post_init__(self) -> None:
        check(self)


@dataclass(frozen=True, slots=True)
class Price:
    """What a gram of one cake or pan costs."""

    name: Annotated[str, Told("the cake or pan", text="name")]
    per_gram: Annotated[float, Told("price of a gram", within=_MONEY, called="price of {name}")]

    def __post_init__(self) -> None:
        check(self)


@dataclass(frozen=True, slots=True)
class MenuItem:
    """A design on the menu, with what it takes."""

    id: Annotated[str, Told("key within the event", text="id")]
    title: Annotated[str, Told("what the board calls it", text="name")]
    whole_s: Annotated[float, Told("seconds of the whole design", "s", within=(5.0, 36000.0), called="time of {title}")]
    short_s: Annotated[
        float, Told("seconds of its short form; 0 for none", "s", within=(0.0, 36000.0), called="short time of {title}")
    ] = 0.0
    plan: Annotated[str, Told("the plan's file, or `design:KEY` for one that ships", text="")] = ""
    loads: Annotated[tuple[str, ...], Told("loads that it takes, by name", text="name", count=(0, 200))] = ()
    uses: Annotated[tuple[Used, ...], Told("grams for one face", count=(0, 60))] = ()
    brushes: Annotated[tuple[str, ...], Told("brushes that it takes, by name", text="name", count=(0, 60))] = ()
    sponges: Annotated[float, Told("sponges for one face", within=(0.0, 20.0), called="sponges of {title}")] = 0.0
    glitter: Annotated[tuple[str, ...], Told("glitters, by colour", text="name", count=(0, 20))] = ()
    colours: Annotated[tuple[str, ...], Told("colour families that it shows", text="name", count=(0, 12))] = ()
    share: Annotated[float, Told("how often it is asked for, against the others", within=(0.0, 100.0))] = 1.0
    on: Annotated[bool, Told("whether it is on the menu today")] = True
    extras: Annotated[tuple[Extra, ...], Told("stencils, gems, what stands on kept places", count=(0, 60))] = ()
    pace: Annotated[str, Told("the painter's pace that its times were worked out at; empty for defaults", text="")] = ""

    def __post_init__(self) -> None:
        check(self)

    def seconds(self, *, short: bool) -> float:
        """Return how long it takes, in its short form if there is one and it is asked for, s."""
        return self.short_s if short and self.short_s > 0 else self.whole_s


@dataclass(frozen=True, slots=True)
class Guest:
    """Somebody who waits or was painted; a first name or a number is enough."""

    id: Annotated[str, Told("key within the event", text="id")]
    name: Annotated[str, Told("first name or number", text="name")]
    item: Annotated[str, Told("id of the design that was chosen", text="maybe id")] = ""
    came_s: Annotated[float, Told("when they came, after the event began", "s", within=(-86400.0, 172800.0))] = 0.0
    state: Annotated[GuestState, Told("`waiting`, `painting`, `done`, `gone`")] = GuestState.WAITING
    short: Annotated[bool, Told("whether it is painted in its short form")] = False
    colours: Annotated[str, Told("colours asked for", text="")] = ""
    age: Annotated[str, Told("age band: `small`, `child`, `adult`, or empty where nobody asked", text="")] = ""
    consent: Annotated[bool, Told("whether somebody who may say so has said yes")] = False
    began_s: Annotated[float | None, Told("when painting began", "s", left_out=True)] = None
    ended_s: Annotated[float | None, Told("when it ended, or they left", "s", left_out=True)] = None
    painter: Annotated[int, Told("which painter, from 1; 0 for none yet", within=(0.0, 50.0))] = 0

    def __post_init__(self) -> None:
        check(self)


@dataclass(frozen=True, slots=True)
class Event:
    """An event."""

    name: Annotated[str, Told("what it is called", text="name")]
    place: Annotated[str, Told("where", text="long name")] = ""
    day: Annotated[str, Told("the day, `2026-11-28`; empty where it is not fixed", text="")] = ""
    begins_min: Annotated[float, Told("begin, minutes after midnight", "min", within=(0.0, 1439.0), called="begin")] = (
        840.0
    )
    ends_min: Annotated[float, Told("end; over midnight above 1440", "min", within=(1.0, 2880.0), called="end")] = (
        1020.0
    )
    breaks: Annotated[tuple[Break, ...], Told("rests", count=(0, MOST_BREAKS))] = ()
    painters: Annotated[int, Told("how many paint", within=(1.0, 50.0), called="number of painters")] = 1
    people: Annotated[int, Told("people expected", within=(0.0, 5000.0), called="number of people")] = 40
    arrivals: Annotated[Arrivals, Told("how they come: `even`, `rush` at the start, `waves`, an own `curve`")] = (
        Arrivals.EVEN
    )
    curve: Annotated[
        tuple[float, ...], Told("how many come in each equal part of the time, against the others", count=(0, 96))
    ] = ()
    children: Annotated[float, Told("share of small children, who take longer", within=(0.0, 1.0))] = 0.5
    limit_min: Annotated[
        float, Told("longest wait that you want", "min", within=(1.0, 600.0), called="longest wait")
    ] = 20.0
    per_face: Annotated[float, Told("price of a face; 0 where the hour is paid", within=_MONEY)] = 0.0
    per_hour: Annotated[float, Told("price of an hour", within=_MONEY)] = 0.0
    currency: Annotated[str, Told("its sign or letters", text="name")] = "€"
    travel: Annotated[float, Told("what the way there and back costs", within=_MONEY)] = 0.0
    other_costs: Annotated[float, Told("fee of the place, helpers and the like", within=_MONEY)] = 0.0
    own_hour: Annotated[float, Told("what an hour of yours is worth to you", within=_MONEY)] = 0.0
    per_gram: Annotated[float, Told("price of a gram of cake paint", within=_MONEY)] = 0.30
    per_sponge: Annotated[float, Told("price of a sponge, if it is thrown away", within=_MONEY)] = 0.15
    prices: Annotated[tuple[Price, ...], Told("of cakes and pans that cost another price", count=(0, 200))] = ()
    extras: Annotated[tuple[str, ...], Told("what else to pack", text="name", count=(0, 100))] = ()
    menu: Annotated[tuple[MenuItem, ...], Told("designs", count=(0, MOST_MENU))] = ()
    packed: Annotated[tuple[str, ...], Told("what of the bag is ticked off", text="long name", count=(0, 500))] = ()
    guests: Annotated[tuple[Guest, ...], Told("who has come so far", count=(0, MOST_GUESTS))] = ()
    booked: Annotated[bool, Told("whether the cakes' wear was booked after the day")] = False

    def __post_init__(self) -> None:
        check(self)
        if self.ends_min <= self.begins_min:
            raise OutOfRangeError(
                "end", clock_text(self.ends_min), phrase("after {clock}", clock=clock_text(self.begins_min)), "ends_min"
            )
        if self.day:
            _check_day(self.day)
        if any(one < 0 for one in self.curve):
            raise OutOfRangeError(phrase("curve of arrivals"), min(self.curve), phrase("0 or more"), "curve")
        ordered = sorted(self.breaks, key=lambda one: one.begins_min)
        if any(two.begins_min < one.ends_min for one, two in pairwise(ordered)):
            raise OutOfRangeError("breaks", phrase("one within another"), phrase("one after another"), "breaks")

    @property
    def hours(self) -> float:
        """Hours from begin to end, breaks included."""
        return (self.ends_min - self.begins_min) / 60

    @property
    def length_s(self) -> float:
        """Seconds from begin to end."""
        return (self.ends_min - self.begins_min) * 60

    @property
    def painting_s(self) -> float:
        """Seconds from begin to end in which one painter paints: without breaks."""
        rests = sum(
            max(0.0, min(one.ends_min, self.ends_min) - max(one.begins_min, self.begins_min)) for one in self.breaks
        )
        return max(self.length_s - 60 * rests, 0.0)

    @property
    def breaks_s(self) -> tuple[tuple[float, float], ...]:
        """Breaks as seconds after the event begins, in order."""
        found = [
            ((one.begins_min - self.begins_min) * 60, (one.ends_min - self.begins_min) * 60) for one in self.breaks
        ]
        return tuple(sorted(found))

    @property
    def on_menu(self) -> tuple[MenuItem, ...]:
        """The designs that are on the menu today."""
        return tuple(one for one in self.menu if one.on)

    def item(self, name: str) -> MenuItem:
        """Return a design of the menu; raises UnknownNameError."""
        for one in self.menu:
            if one.id == name:
                return one
        raise UnknownNameError(phrase("design on the menu"), name, [one.id for one in self.menu])

    def gram_costs(self, name: str) -> float:
        """Return what a gram of a cake or pan costs: its own price, or the one for all."""
        return next((one.per_gram for one in self.prices if one.name == name), self.per_gram)

    def guest(self, name: str) -> Guest:
        """Return a guest; raises UnknownNameError."""
        for one in self.guests:
            if one.id == name:
                return one
        raise UnknownNameError(phrase("guest"), name, [one.id for one in self.guests])


def _check_day(text: str) -> None:
    try:
        date.fromisoformat(text)
    except ValueError:
        raise OutOfRangeError("day", text, phrase("a day, as in 2026-11-28"), "day") from None


def clock_text(minutes: float) -> str:
    """Return a time of day as on a clock.

    >>> clock_text(1110), clock_text(1500)
    ('18:30', '1:00')
    """
    whole = round(minutes) % 1440
    return f"{whole // 60}:{whole % 60:02d}"


def parse_clock(text: str) -> float:
    """Return minutes after midnight of a time of day, "18:30" or "9".

    Raises
    ------
    OutOfRangeError
        If it is no time of day.
    """
    hours, _, rest = text.strip().replace(".", ":").partition(":")
    if not (is_count(hours) and (not rest or is_count(rest))):
        raise OutOfRangeError(phrase("time of day"), text, phrase("as in 18:30"))
    value = 60 * int(hours) + int(rest or 0)
    if not (0 <= int(hours) <= 24 and int(rest or 0) < 60 and value <= 1440):
        raise OutOfRangeError(phrase("time of day"), text, "0:00 to 24:00")
    return float(value)


def with_hours(event: Event, begins: float, ends: float) -> Event:
    """Return the event at other hours; one that ends before it begins goes over midnight.

    Raises
    ------
    OutOfRangeError
        If a break of it would lie outside.
    """
    moved = replace(event, breaks=(), begins_min=begins, ends_min=ends if ends > begins else ends + 1440)
    rests = (rest_of(moved, one.begins_min % 1440, one.ends_min % 1440 or 1440.0) for one in event.breaks)
    return replace(moved, breaks=tuple(rests))


def rest_of(event: Event, begins: float, ends: float) -> Break:
    """Return a rest from one time of day to another; over midnight, or on the day after, as the event has it.

    Parameters
    ----------
    begins, ends
        Minutes after midnight, as on a clock.

    Raises
    ------
    OutOfRangeError
        If it ends before it begins, or does not lie within the event.
    """
    over = 1440.0 if event.ends_min > 1440 else 0.0
    start = begins if begins >= event.begins_min else begins + over
    rest = Break(start, ends if ends > start else ends + over)
    if not event.begins_min <= rest.begins_min < rest.ends_min <= event.ends_min:
        raise OutOfRangeError(
            "break",
            f"{clock_text(begins)}-{clock_text(ends)}",
            phrase(
                "within the event, {begins} to {ends}",
                begins=clock_text(event.begins_min),
                ends=clock_text(event.ends_min),
            ),
            "breaks",
        )
    return rest


def parse_curve(text: str) -> tuple[float, ...]:
    """Return how many come in each equal part of the time; raises NumberTextError.

    >>> parse_curve("3, 2, 1,5")
    (3.0, 2.0, 1.0, 5.0)
    """
    try:
        return tuple(parse_number(part) for part in map(str.strip, text.split(",")) if part)
    except NumberTextError as error:
        raise NumberTextError(error.text, phrase("a curve is numbers between commas, as in 3, 2, 1, 1")) from None


def parse_prices(text: str, known: Sequence[str] = ()) -> tuple[Price, ...]:
    """Return own prices of a gram, as in "Dahlia wrist 0.60; White 0,45".

    Parameters
    ----------
    known
        Cakes and pans that the menu takes; all if left out.

    Raises
    ------
    OutOfRangeError
        If one has no price, or the menu takes nothing of that name.
    """
    found: dict[str, Price] = {}
    for part in filter(None, (one.strip() for one in text.split(";"))):
        name, _, amount = (one.strip(" :=") for one in part.rpartition(" "))
        if not name:
            raise OutOfRangeError(
                "price", part, phrase("a cake or pan with what a gram of it costs: White 0.45"), "prices"
            )
        if known and name not in known:
            raise OutOfRangeError(
                "price", name, phrase("one that the menu takes: {known}", known=", ".join(known[:8])), "prices"
            )
        found[name] = Price(name, parse_number(amount))
    return tuple(found.values())


def prices_text(prices: Sequence[Price]) -> str:
    """Return own prices as `parse_prices` reads them."""
    return "; ".join(f"{one.name} {_money_text(one.per_gram)}" for one in prices)


def _money_text(amount: float) -> str:
    """Return an amount with two places, with more where it has more.

    >>> _money_text(0.3), _money_text(0.455)
    ('0.30', '0.455')
    """
    return f"{amount:.2f}" if round(amount, 2) == amount else f"{amount:.12g}"


def cakes_taken(event: Event) -> tuple[str, ...]:
    """Return the cakes and pans that the menu takes, by name."""
    return tuple(sorted({used.name for item in event.menu for used in item.uses}))


# --- the menu ---


def with_item(event: Event, item: MenuItem) -> Event:
    """Return the event with a design on its menu, in the place of one of the same id."""
    known = any(one.id == item.id for one in event.menu)
    kept = tuple(item if one.id == item.id else one for one in event.menu)
    return replace(event, menu=kept if known else (*kept, item))


def without_item(event: Event, name: str) -> Event:
    """Return the event without a design; who chose it has chosen nothing yet."""
    event.item(name)
    guests = tuple(replace(one, item="") if one.item == name else one for one in event.guests)
    return replace(event, menu=tuple(one for one in event.menu if one.id != name), guests=guests)
