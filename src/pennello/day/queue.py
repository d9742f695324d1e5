"""The queue of a day, simulated with SimPy: who comes, waits, is painted or leaves; many seeded days at once.

People come as a Poisson stream whose rate follows the event's curve. Each chooses a design by its share; a face takes
its predicted seconds times a spread, and small children longer. Who waits longer than the patience leaves. Sizes that
the trade does not state are defaults. Held against Little's law and the closed forms of M/M/c and M/D/1 (Kleinrock1975)
in tests/day/test_queue.py.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.breath import breathe
from pennello.day.event import BETWEEN_S, Arrivals, Event, clock_text
from pennello.errors import PennelloError
from pennello.phrases import phrase, plural

Array = NDArray[np.floating[Any]]
Say = Callable[[float, str], None]

DAYS = 200
GRID_S = 300.0
"""The number waiting is looked at every so many seconds."""

SPREAD = 0.25
"""Standard deviation of a face's time against its mean (a default)."""

CHILD_LONGER = 1.15
"""By how much longer a small child takes (a default)."""

PATIENCE = 2.0
"""After so many times the longest wait that is wanted people leave (a default)."""

RUSH = (3.0, 2.0, 1.2, 0.8, 0.6, 0.5, 0.5, 0.4)
WAVES = (1.8, 0.4, 1.8, 0.4, 1.8, 0.4, 1.8, 0.4)


class EmptyMenuError(PennelloError):
    """There is nothing to paint."""

    def __init__(self) -> None:
        super().__init__(phrase("No design is on the menu; put one on it first."))


@dataclass(frozen=True, slots=True)
class Rules:
    """How a day is simulated.

    Attributes
    ----------
    spread
        Standard deviation of a face's time against its mean, 0 for none.
    between_s
        From one face to the next, s.
    patience_s
        Who has waited so long leaves; None for who waits for ever.
    short
        Whether everybody is painted in the short form; None for: when the line is over the limit.
    fixed_s
        The same time for every face, without spread and children; None for those of the menu.
    exponential
        Whether times are exponential, for the closed forms.
    together
        Two designs whose people are painted one after another with the same loads, which saves `saved_s`.
    """

    spread: float = SPREAD
    between_s: float = BETWEEN_S
    patience_s: float | None = None
    short: bool | None = False
    fixed_s: float | None = None
    exponential: bool = False
    together: tuple[str, ...] = ()
    saved_s: float = 0.0


@dataclass(frozen=True, slots=True, eq=False)
class Day:
    """One simulated day.

    Attributes
    ----------
    came_s, began_s, left_s
        Of each who came, in order: when they came, when painting began (nan for who left), when they left or were done.
    served
        Whether each was painted.
    """

    came_s: Array
    began_s: Array
    left_s: Array
    served: NDArray[np.bool_]

    @property
    def waits_s(self) -> Array:
        """How long each waited, until painting began or they left."""
        return np.where(self.served, self.began_s, self.left_s) - self.came_s


@dataclass(frozen=True, slots=True, eq=False)
class Evening:
    """Many days of one event.

    Attributes
    ----------
    at_s
        Moments, s after the event begins, shape (n,).
    median, low, high
        People waiting then: median, and 10 and 90 % of the days, shape (n,).
    served, came, left
        Means of a day, so that they add up; `left` are those who went unpainted.
    wait_min
        For each hour: median and 90 % of the waits of who came in it, minutes; nan where nobody came.
    close_s
        When to close the line; None where nearly every evening everybody is done by the end.
    busy
        Share of the painting time in which a painter paints, mean.
    """

    at_s: Array
    median: Array
    low: Array
    high: Array
    served: float
    came: float
    left: float
    wait_min: tuple[tuple[float, float], ...]
    close_s: float | None
    busy: float


def curve_of(event: Event) -> tuple[float, ...]:
    """Return how many come in each equal part of the time, against the others."""
    if event.arrivals is Arrivals.CURVE and sum(event.curve) > 0:
        return event.curve
    return {Arrivals.RUSH: RUSH, Arrivals.WAVES: WAVES}.get(event.arrivals, (1.0,))


def arrivals_of(event: Event, rng: np.random.Generator) -> Array:
    """Return when people come on a day, s after it begins, ascending: a Poisson number of them by the curve."""
    curve = np.array(curve_of(event))
    count = rng.poisson(event.people)
    part = rng.choice(len(curve), count, p=curve / curve.sum())
    return np.sort((part + rng.random(count)) * event.length_s / len(curve))


def simulated_day(event: Event, seed: int, rules: Rules | None = None, came: Array | None = None) -> Day:
    """Return one day.

    Parameters
    ----------
    seed
        The same seed is the same day.
    came
        When people come, s, ascending; by the event's curve if left out.

    Raises
    ------
    EmptyMenuError
        If no design is on the menu and no time is fixed.
    """
    import simpy  # noqa: PLC0415 - only when a day is looked at

    how = rules or Rules()
    if not event.on_menu and how.fixed_s is None:
        raise EmptyMenuError
    rng = np.random.default_rng(seed)
    times = arrivals_of(event, rng) if came is None else came
    count = len(times)
    service = _services(event, how, rng, count)
    began, left, served = np.full(count, np.nan), np.full(count, np.nan), np.zeros(count, np.bool_)
    env = simpy.Environment()
    chairs = simpy.Resource(env, event.painters)
    ends = event.length_s if how.patience_s is not None or how.fixed_s is None else np.inf
    rests = event.breaks_s
    most = _over(event, service[0])

    def guest(number: int) -> Any:
        breathe()
        with chairs.request() as turn:
            if not turn.triggered:
                yield turn if how.patience_s is None else turn | env.timeout(how.patience_s)
            if not turn.triggered:
                left[number] = env.now
                return
            pause = _until_after(env.now, rests)
            if pause > env.now:
                yield env.timeout(pause - env.now)
            if env.now >= ends:
                left[number] = env.now
                return
            began[number] = env.now
            short = len(chairs.queue) > most if how.short is None else how.short
            yield env.timeout(float(service[1 if short else 0][number]))
            left[number], served[number] = env.now, True

    def door() -> Any:
        for number in range(count):
            yield env.timeout(float(times[number]) - env.now)
            env.process(guest(number))

    env.process(door())
    env.run()
    return Day(times, began, left, served)


def _over(event: Event, whole: Array) -> float:
    """Return how many may wait before the short form is called out: as many as the limit holds."""
    mean = float(whole.mean()) if len(whole) else 1.0
    return event.limit_min * 60 * event.painters / max(mean, 1.0)


def _until_after(now: float, rests: Sequence[tuple[float, float]]) -> float:
    return next((end for begin, end in rests if begin <= now < end), now)


def _services(event: Event, how: Rules, rng: np.random.Generator, count: int) -> tuple[Array, Array]:
    """Return how long each takes at the chair, whole and in short form, s, shape (count,) each."""
    if how.fixed_s is not None:
        same = rng.exponential(how.fixed_s, count) if how.exponential else np.full(count, how.fixed_s)
        return same, same
    items = event.on_menu
    shares = np.array([one.share for one in items])
    shares = shares / shares.sum() if shares.sum() > 0 else np.full(len(items), 1 / len(items))
    chosen = rng.choice(len(items), count, p=shares)
    sd = np.sqrt(np.log1p(how.spread**2))
    slower = np.exp(rng.normal(-0.5 * sd**2, sd, count)) * np.where(
        rng.random(count) < event.children, CHILD_LONGER, 1.0
    )
    saves = np.array([how.saved_s if one.id in how.together else 0.0 for one in items])
    both = []
    for short in (False, True):
        seconds = np.array([one.seconds(short=short) for one in items]) - saves
        both.append(np.maximum(seconds[chosen], 5.0) * slower + how.between_s)
    return both[0], both[1]


def evening(
    event: Event, rules: Rules | None = None, days: int = DAYS, say: Say | None = None, seed: int = 1
) -> Evening:
    """Return what many days of an event come to.

    Parameters
    ----------
    days
        How many, at least 1.
    say
        Is told how far the work is, 0 to 1, and may raise to stop it.

    Raises
    ------
    EmptyMenuError
        If no design is on the menu.
    """
    how = rules or usual_rules(event)
    found = []
    for number in range(days):
        if say is not None and number % 10 == 0:
            say(number / days, phrase("evening {number} of {days}", number=number + 1, days=days))
        found.append(simulated_day(event, seed + number, how))
    return summed(event, found)


def usual_rules(event: Event) -> Rules:
    """Return the usual rules of an event: people leave after twice the longest wait that is wanted."""
    return Rules(patience_s=PATIENCE * event.limit_min * 60)


def summed(event: Event, days: Sequence[Day]) -> Evening:
    """Return what days come to."""
    at = np.arange(0.0, event.length_s + GRID_S / 2, GRID_S)
    waiting = np.array([waiting_at(one, at) for one in days])
    low, median, high = np.quantile(waiting, (0.1, 0.5, 0.9), axis=0) if len(days) else np.zeros((3, len(at)))
    painted = sum(float((one.left_s - one.began_s)[one.served].sum()) for one in days)
    available = max(event.painting_s * event.painters * max(len(days), 1), 1.0)
    return Evening(
        at,
        median,
        low,
        high,
        float(np.mean([one.served.sum() for one in days])),
        float(np.mean([len(one.came_s) for one in days])),
        float(np.mean([(~one.served).sum() for one in days])),
        tuple(_waits(event, days)),
        _close(event, days),
        painted / available,
    )


def waiting_at(day: Day, at_s: Array) -> Array:
    """Return how many wait at moments, shape (n,)."""
    until = np.where(day.served, day.began_s, day.left_s)
    come, go = (np.searchsorted(np.sort(one), at_s, side="right") for one in (day.came_s, until))
    return np.asarray(come - go, np.float64)


def _waits(event: Event, days: Sequence[Day]) -> list[tuple[float, float]]:
    hours = int(np.ceil(event.hours))
    found = []
    came = np.concatenate([one.came_s for one in days]) if days else np.zeros(0)
    waits = np.concatenate([one.waits_s for one in days]) if days else np.zeros(0)
    for hour in range(hours):
        inside = waits[(came >= 3600 * hour) & (came < 3600 * (hour + 1))]
        low, high = np.quantile(inside, (0.5, 0.9)) if len(inside) else (np.nan, np.nan)
        found.append((float(low) / 60, float(high) / 60))
    return found


def _close(event: Event, days: Sequence[Day]) -> float | None:
    """Return when to close the line: on nine days in ten somebody who came as late as that was still done."""
    last = []
    for one in days:
        done = one.served & (one.left_s <= event.length_s + GRACE_S)
        if not done.all():
            last.append(float(one.came_s[done].max(initial=0.0)))
    if len(last) < CLOSE_SHARE * len(days):
        return None
    return float(np.floor(np.quantile(last, 0.1) / 60) * 60)


GRACE_S = 300.0
"""Who was begun before the end is painted; so much later is still in time (a default)."""

CLOSE_SHARE = 0.2
"""The line need not be closed while less than this share of the evenings leave anybody unpainted (a default)."""


# --- what if ---


@dataclass(frozen=True, slots=True)
class WhatIf:
    """One change and what it brings: faces more, and minutes less of the worst hour's median wait."""

    words: str
    faces: float
    wait_min: float


def what_if(event: Event, days: int = DAYS, say: Say | None = None) -> tuple[WhatIf, ...]:
    """Return what the short form, one more painter and batching the two designs most asked for would bring."""
    usual = usual_rules(event)
    base = evening(event, usual, days)
    changes: list[tuple[str, Event, Rules]] = [
        (phrase("everybody in the short form"), event, replace(usual, short=True)),
        (phrase("the short form when the line is over your limit"), event, replace(usual, short=None)),
    ]
    if event.painters < 50:
        changes.append((phrase("one more painter"), replace(event, painters=event.painters + 1), usual))
    most = sorted(event.on_menu, key=lambda one: -one.share)[:2]
    if len(most) == 2:
        words = phrase(
            "{most} and {most_2} in batches, the same loads one after another", most=most[0].title, most_2=most[1].title
        )
        changes.append((words, event, replace(usual, together=tuple(one.id for one in most), saved_s=LOADED_S)))
    found = []
    for number, (words, changed, rules) in enumerate(changes):
        if say is not None:
            say(number / len(changes), words)
        other = evening(changed, rules, days)
        found.append(WhatIf(words, other.served - base.served, _worst(base) - _worst(other)))
    return tuple(found)


LOADED_S = 15.0
"""Seconds that a face is sooner done where the brushes are loaded as for the one before (a default)."""


def _worst(one: Evening) -> float:
    waits = [median for median, _ in one.wait_min if np.isfinite(median)]
    return max(waits, default=0.0)


def sentences(event: Event, found: Evening) -> tuple[str, ...]:
    """Return three sentences: who is painted, how long they wait, when to close the line."""
    gone = round(found.came) - round(found.served)
    told = {"served": found.served, "came": found.came}
    first = phrase("{served:.0f} of {came:.0f} people are painted; nobody leaves unpainted.", **told)
    if gone:
        first = plural(
            gone,
            "{served:.0f} of {came:.0f} people are painted; {count} leaves unpainted.",
            "{served:.0f} of {came:.0f} people are painted; {count} leave unpainted.",
            **told,
        )
    waits = [(high, median, hour) for hour, (median, high) in enumerate(found.wait_min) if np.isfinite(median)]
    if waits:
        high, median, hour = max(waits)
        at = clock_text(event.begins_min + 60 * hour)
        second = phrase(
            "The longest wait is for who comes from {at} on: {median:.0f} min for one in two, up to {high:.0f} min.",
            at=at,
            median=median,
            high=high,
        )
    else:
        second = phrase("Nobody comes, so nobody waits.")
    if found.close_s is None:
        third = phrase("The line can stay open until the end.")
    else:
        third = phrase(
            "Close the line at {clock}: who comes later is not done.",
            clock=clock_text(event.begins_min + found.close_s / 60),
        )
    return first, second, third
