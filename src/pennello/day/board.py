"""The live board: who waits, who is painted, what comes next; every change is a new event, so that undo and saving are
those of every record."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import count
from statistics import median

from pennello.day.event import BETWEEN_S, FREE_CHOICE_S, MOST_GUESTS, Event, Guest, GuestState, MenuItem
from pennello.errors import OutOfRangeError, PennelloError
from pennello.limits import check_name
from pennello.phrases import phrase
from pennello.record import range_of


class BoardError(PennelloError):
    """What is asked of the board cannot be."""


def came(
    event: Event, name: str, item: str, now_s: float, *, colours: str = "", age: str = "", consent: bool = False
) -> tuple[Event, Guest]:
    """Return the event with somebody who has come, and who that is.

    Parameters
    ----------
    name
        First name or number; "" for the next number.
    item
        Id of the design that was chosen, "" for none yet.
    colours, age, consent
        What they asked for, their age band, and whether somebody who may say so has said yes.

    Raises
    ------
    UnknownNameError
        If the menu has no such design.
    OutOfRangeError
        If there are as many guests as an event holds, or the name is too long.
    """
    if len(event.guests) >= MOST_GUESTS:
        raise OutOfRangeError(
            phrase("number of guests"), len(event.guests) + 1, phrase("at most {most_guests}", most_guests=MOST_GUESTS)
        )
    if item:
        event.item(item)
    taken = {one.id for one in event.guests}
    number = next(at for at in count(len(taken) + 1) if f"g{at}" not in taken)
    low, high = range_of(Guest, "came_s")
    number_or_name = name.strip() or str(number)
    check_name(phrase("the name of who has come"), number_or_name)
    moment = min(max(now_s, low), high)
    guest = Guest(f"g{number}", number_or_name, item, moment, colours=colours, age=age, consent=consent)
    return replace(event, guests=(*event.guests, guest)), guest


def with_guest(event: Event, guest: Guest) -> Event:
    """Return the event with a guest changed; raises UnknownNameError."""
    event.guest(guest.id)
    return replace(event, guests=tuple(guest if one.id == guest.id else one for one in event.guests))


def begun(event: Event, name: str, now_s: float, painter: int = 1, *, short: bool | None = None) -> Event:
    """Return the event with somebody at the chair.

    Parameters
    ----------
    short
        Whether it is painted in its short form; None for: where the line is over the limit.

    Raises
    ------
    BoardError
        If nothing was chosen, nobody said yes for them, or they do not wait.
    """
    guest = event.guest(name)
    if guest.state is not GuestState.WAITING:
        raise BoardError(phrase("{guest} does not wait any more.", guest=guest.name))
    if not guest.item:
        raise BoardError(phrase("{guest} has not chosen a design yet; choose one first.", guest=guest.name))
    if not guest.consent:
        raise BoardError(phrase("Nobody has said yes for {guest} yet; ask, and tick it.", guest=guest.name))
    called = over_limit(event, now_s) if short is None else short
    short_form = called and event.item(guest.item).short_s > 0
    changed = replace(guest, state=GuestState.PAINTING, began_s=now_s, painter=painter, short=short_form)
    return with_guest(event, changed)


def ended(event: Event, name: str, now_s: float) -> Event:
    """Return the event with somebody done; raises BoardError if they are not at the chair."""
    guest = event.guest(name)
    if guest.state is not GuestState.PAINTING:
        raise BoardError(phrase("{guest} is not at the chair.", guest=guest.name))
    return with_guest(event, replace(guest, state=GuestState.DONE, ended_s=max(now_s, guest.began_s or now_s)))


def gone(event: Event, name: str, now_s: float) -> Event:
    """Return the event with somebody who did not come back; raises BoardError if they are painted already."""
    guest = event.guest(name)
    if guest.state in (GuestState.DONE, GuestState.GONE):
        raise BoardError(phrase("{guest} is not waiting any more.", guest=guest.name))
    return with_guest(event, replace(guest, state=GuestState.GONE, ended_s=now_s))


def back(event: Event, name: str) -> Event:
    """Return the event with somebody waiting again: a slip of the finger."""
    guest = event.guest(name)
    return with_guest(event, replace(guest, state=GuestState.WAITING, began_s=None, ended_s=None, painter=0))


def waiting(event: Event) -> tuple[Guest, ...]:
    """Return who waits, who came first first."""
    return tuple(sorted((one for one in event.guests if one.state is GuestState.WAITING), key=lambda one: one.came_s))


def painting(event: Event) -> tuple[Guest, ...]:
    """Return who is at a chair."""
    return tuple(one for one in event.guests if one.state is GuestState.PAINTING)


def face_s(event: Event, item: MenuItem | None, *, short: bool = False) -> float:
    """Return how long a face takes: as it took so far today where three of a design are done, else as predicted, s."""
    if item is None:
        items = event.on_menu
        return sum(one.whole_s for one in items) / len(items) if items else FREE_CHOICE_S
    took = [
        one.ended_s - one.began_s
        for one in event.guests
        if one.item == item.id
        and one.state is GuestState.DONE
        and one.short == short
        and one.began_s is not None
        and one.ended_s is not None
    ]
    return float(median(took)) if len(took) >= 3 else item.seconds(short=short)


def in_order(event: Event, order: Sequence[str] = ()) -> tuple[Guest, ...]:
    """Return who waits in an order that was chosen, by their ids; who is not in it comes last, who came first first."""
    rank = {name: number for number, name in enumerate(order)}
    return tuple(sorted(waiting(event), key=lambda one: rank.get(one.id, len(rank))))


def expected_s(event: Event, now_s: float, order: Sequence[str] = ()) -> dict[str, float]:
    """Return when each who waits is begun, s after the event began, by the line or an order that was chosen."""
    found, long = {}, faces_s(event)
    taken = painting(event)[: event.painters]
    free = [max(now_s, (one.began_s or now_s) + long[one.item, one.short] + BETWEEN_S) for one in taken]
    free += [now_s] * (event.painters - len(taken))
    for guest in in_order(event, order):
        chair = min(range(len(free)), key=lambda number: free[number])
        found[guest.id] = free[chair]
        free[chair] += long[guest.item, guest.short] + BETWEEN_S
    return found


def faces_s(event: Event) -> dict[tuple[str, bool], float]:
    """Return how long a face of each design takes, whole and short, by its id; "" stands for one not chosen yet."""
    items = [None, *event.menu]
    return {
        (one.id if one is not None else "", short): face_s(event, one, short=short)
        for one in items
        for short in (False, True)
    }


def over_limit(event: Event, now_s: float) -> bool:
    """Return whether the last in the line waits longer than the painter wants: then short forms are called out."""
    line = waiting(event)
    if not line:
        return False
    begins = expected_s(event, now_s)
    return max(begins[one.id] - one.came_s for one in line) > 60 * event.limit_min


@dataclass(frozen=True, slots=True)
class Now:
    """How the day stands: faces so far, money so far, who waits, seconds left, and how many of those who wait are done
    by the end."""

    faces: int
    money: float
    waits: int
    left_s: float
    still: int

    @property
    def all_done(self) -> bool:
        """Whether all who wait are painted by the end."""
        return self.still >= self.waits


def now_of(event: Event, now_s: float) -> Now:
    """Return how the day stands."""
    faces = sum(one.state is GuestState.DONE for one in event.guests)
    left = max(event.length_s - now_s, 0.0)
    begins, long = expected_s(event, now_s), faces_s(event)
    still = sum(begins[one.id] + long[one.item, one.short] <= event.length_s for one in waiting(event))
    money = faces * event.per_face + event.per_hour * min(max(now_s, 0.0), event.length_s) / 3600
    return Now(faces, money, len(begins), left, still)
