"""The run at the chair: which card is up, how long each step took, and how long paint still has to dry.

A run is a value; time comes from outside, on one clock in seconds. Paint goes on drying while the hand pauses.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from pennello.design.pace import Pace, StepKind
from pennello.errors import PennelloError
from pennello.order.job import Lag
from pennello.order.steps import Step
from pennello.phrases import phrase


class RunOverError(PennelloError):
    """There is no step left to do, or none to take back."""


@dataclass(frozen=True, slots=True)
class Took:
    """A step that is over: from when to when, how long the hand paused in it, s, and whether it was left out."""

    step: str
    began_s: float
    ended_s: float
    paused_s: float = 0.0
    skipped: bool = False

    @property
    def seconds(self) -> float:
        """How long the hand was at it, s."""
        return self.ended_s - self.began_s - self.paused_s


@dataclass(frozen=True, slots=True)
class Run:
    """A run in progress.

    Attributes
    ----------
    took
        The steps that are over, in order; the next one is on the card.
    began_s
        When the step on the card began.
    paused_s
        How long the hand has paused in it so far; `paused_at` since when it pauses now, or None.
    """

    steps: tuple[Step, ...]
    began_s: float
    took: tuple[Took, ...] = ()
    paused_s: float = 0.0
    paused_at: float | None = None

    @property
    def over(self) -> bool:
        """Whether all steps are over."""
        return len(self.took) >= len(self.steps)

    @property
    def step(self) -> Step | None:
        """The step on the card."""
        return None if self.over else self.steps[len(self.took)]

    @property
    def next_step(self) -> Step | None:
        """The one after it."""
        at = len(self.took) + 1
        return self.steps[at] if at < len(self.steps) else None

    @property
    def paused(self) -> bool:
        """Whether the hand pauses."""
        return self.paused_at is not None


def begin(steps: Iterable[Step], now_s: float) -> Run:
    """Return a run with its first card up."""
    return Run(tuple(steps), now_s)


def done(run: Run, now_s: float, *, skipped: bool = False) -> Run:
    """Return the run with the step on the card over and the next one up.

    Raises
    ------
    RunOverError
        If there is none.
    """
    if run.step is None:
        raise RunOverError(phrase("All steps are done; there is none left to tick off."))
    run = resume(run, now_s)
    took = Took(run.steps[len(run.took)].id, run.began_s, now_s, run.paused_s, skipped)
    return replace(run, took=(*run.took, took), began_s=now_s, paused_s=0.0)


def skip(run: Run, now_s: float) -> Run:
    """Return the run with the step on the card left out, and with it what only leads up to a step left out."""
    step = run.step
    run = done(run, now_s, skipped=True)
    job = step.job if step is not None else ""
    while job and run.step is not None and run.step.job == job:
        run = done(run, now_s, skipped=True)
    return run


def undo(run: Run) -> Run:
    """Return the run with the last step back on the card, its time running on.

    Raises
    ------
    RunOverError
        If none is over yet.
    """
    if not run.took:
        raise RunOverError(phrase("This is the first step; there is nothing to take back."))
    last = run.took[-1]
    return replace(run, took=run.took[:-1], began_s=last.began_s, paused_s=last.paused_s)


def pause(run: Run, now_s: float) -> Run:
    """Return the run with the hand at rest."""
    return run if run.paused or run.over else replace(run, paused_at=now_s)


def resume(run: Run, now_s: float) -> Run:
    """Return the run with the hand at work again."""
    if run.paused_at is None:
        return run
    return replace(run, paused_s=run.paused_s + max(0.0, now_s - run.paused_at), paused_at=None)


def shifted(run: Run, by_s: float) -> Run:
    """Return the run on a clock that is set so much later."""
    return replace(
        run,
        began_s=run.began_s + by_s,
        paused_at=None if run.paused_at is None else run.paused_at + by_s,
        took=tuple(replace(one, began_s=one.began_s + by_s, ended_s=one.ended_s + by_s) for one in run.took),
    )


def step_s(run: Run, now_s: float) -> float:
    """Return how long the hand has been at the step on the card, s."""
    until = run.paused_at if run.paused_at is not None else now_s
    return 0.0 if run.over else until - run.began_s - run.paused_s


def hand_s(run: Run, now_s: float) -> float:
    """Return how long the hand has been at it in all, pauses left out, s."""
    return sum(one.seconds for one in run.took) + step_s(run, now_s)


def left_s(run: Run, now_s: float) -> float:
    """Return how long the rest will take as planned, s."""
    rest = sum(step.seconds for step in run.steps[len(run.took) :])
    step = run.step
    return rest - min(step_s(run, now_s), step.seconds) if step is not None else 0.0


@dataclass(frozen=True, slots=True)
class Drying:
    """Paint that a later step waits for: of which job, and in how many seconds it is ready; 0 or less for ready now.

    `closes_s` is in how many seconds a window shuts, None where there is none.
    """

    job: str
    waiting: str
    ready_s: float
    closes_s: float | None = None


def drying(run: Run, lags: Iterable[Lag], now_s: float) -> tuple[Drying, ...]:
    """Return what dries while the run goes on, by the clock and not by the hand; soonest ready first."""
    ended = {one.step: one.ended_s for one in run.took if not one.skipped}
    to_come = {step.id for step in run.steps[len(run.took) :]}
    found = []
    for lag in lags:
        windowed = lag.most_s < 1e8
        if lag.before in ended and lag.after in to_come and (lag.least_s > 0 or windowed):
            since = now_s - ended[lag.before]
            closes = lag.most_s - since if windowed else None
            found.append(Drying(lag.before, lag.after, lag.least_s - since, closes))
    return tuple(sorted(found, key=lambda one: one.ready_s))


def ready_in_s(run: Run, lags: Iterable[Lag], now_s: float) -> float:
    """Return in how many seconds what the step on the card waits for is ready; 0 where it waits for nothing."""
    step = run.step
    if step is None:
        return 0.0
    mine = [one.ready_s for one in drying(run, lags, now_s) if one.waiting == step.job]
    return max(0.0, *mine) if mine else 0.0


def defaults_of(step: Step, pace: Pace) -> tuple[float, float]:
    """Return how long a step takes by the defaults, and how much of that is loads within it, s."""
    within = sum(end - start for start, end in step.reloads_s) / pace.own(StepKind.LOAD)[0]
    laying = step.seconds - sum(end - start for start, end in step.reloads_s)
    return laying / pace.own(step.kind)[0] + within, within
