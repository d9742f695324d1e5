"""The steps of an order as the painter takes them: waits, changes, rinses, loads, cues, strokes, with their seconds."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from pennello.design.ordering import Priority
from pennello.design.pace import Pace, StepKind
from pennello.order.job import Lag, PaintJob
from pennello.order.problem import TURN, Setup, Timing, setups
from pennello.phrases import mark, phrase, plural

CHECK_ID = "check"
_LEAST_S = 0.05
WHERE = (mark("painting"), mark("loading"), mark("waiting"), mark("changing"), mark("words and looks"))
_WHERE = {
    StepKind.WAIT: "waiting",
    StepKind.LOAD: "loading",
    StepKind.RINSE: "loading",
    StepKind.CHANGE: "changing",
    StepKind.MOVE: "changing",
    StepKind.CUE: "words and looks",
    StepKind.CHECK: "words and looks",
}


@dataclass(frozen=True, slots=True)
class Step:
    """One step of the hand.

    Attributes
    ----------
    id
        "load:", "wait:" ... and the job's id; the job's id alone for what is laid.
    waits_for
        Ids of the steps whose paint must be dry, tacky or wet, or that simply come first.
    words
        One sentence that says what to do.
    reloads_s
        When within it the brush is loaded anew, starts and ends on the clock, s.
    """

    id: str
    kind: StepKind
    name: str
    start_s: float
    end_s: float
    waits_for: tuple[str, ...] = ()
    job: str = ""
    words: str = ""
    reloads_s: tuple[tuple[float, float], ...] = ()

    @property
    def seconds(self) -> float:
        """How long it takes, s."""
        return self.end_s - self.start_s


@dataclass(frozen=True, slots=True)
class Sums:
    """What an order comes to, and where its time goes: seconds of painting, loading, waiting, changing, words."""

    total_s: float
    busy_s: float
    waiting_s: float
    loads: int
    rinses: int
    changes: int
    where: tuple[tuple[str, float], ...] = ()

    @property
    def changes_words(self) -> str:
        """How often the brush is loaded, rinsed and changed."""
        return phrase(
            "{loads}, {rinses}, {changes} of tool",
            loads=plural(self.loads, "{count} load", "{count} loads"),
            rinses=plural(self.rinses, "{count} rinse", "{count} rinses"),
            changes=plural(self.changes, "{count} change", "{count} changes"),
        )


def steps_of(
    jobs: Sequence[PaintJob], lags: Iterable[Lag], timing: Timing, pace: Pace, cues: Mapping[str, str]
) -> tuple[Step, ...]:
    """Return the steps of an order; timings are of these jobs, by number."""
    waits_for: dict[str, list[str]] = {}
    for lag in lags:
        waits_for.setdefault(lag.after, []).append(lag.before)
    found: list[Step] = []
    there = {job.id for job in jobs}
    now, before = 0.0, None
    for number in timing.order:
        job = jobs[number]
        start = timing.starts[number] / 10
        before_it = setups(before, job, pace, cues)
        idle = start - now - sum(part.seconds for part in before_it)
        if idle > _LEAST_S:
            held = _held_by(job, lags, jobs, timing)
            words = phrase("Wait until {names} is ready.", names=_names(held, jobs)) if held else phrase("Wait.")
            found.append(Step(f"wait:{job.id}", StepKind.WAIT, "wait", now, now + idle, held, job.id, words))
            now += idle
        for part in before_it:
            found.append(_setup_step(part, job, now, before))
            now += part.seconds
        now = start
        needs = tuple(name for name in waits_for.get(job.id, ()) if name in there)
        again = tuple((round(start + one, 1), round(start + other, 1)) for one, other in job.reloads_s)
        lays = Step(job.id, job.kind, job.name, start, start + job.pull_s, needs, job.id, _lay_words(job), again)
        found.append(lays)
        now, before = start + job.pull_s, job
    tail = pace.seconds(StepKind.CHECK, pace.check_s)
    if found and tail > 0:
        words = phrase("Look at it whole: mirror pieces there, gaps closed, edges clean.")
        found.append(Step(CHECK_ID, StepKind.CHECK, phrase("look at the whole"), now, now + tail, (), "", words))
    return tuple(_rounded(step) for step in found)


def _names(ids: Sequence[str], jobs: Sequence[PaintJob]) -> str:
    return ", ".join(job.name for job in jobs if job.id in ids)


def _rounded(step: Step) -> Step:
    return replace(step, start_s=round(step.start_s, 1), end_s=round(step.end_s, 1))


def _held_by(job: PaintJob, lags: Iterable[Lag], jobs: Sequence[PaintJob], timing: Timing) -> tuple[str, ...]:
    """Return the jobs whose paint a wait is for: those that are ready last."""
    number = {one.id: place for place, one in enumerate(jobs)}
    ready = {}
    for lag in lags:
        if lag.after == job.id and lag.before in number and lag.least_s > 0:
            place = number[lag.before]
            ready[lag.before] = timing.starts[place] / 10 + jobs[place].pull_s + lag.least_s
    latest = max(ready.values(), default=0.0)
    return tuple(name for name, when in ready.items() if when > latest - 0.2)


def _setup_step(part: Setup, job: PaintJob, now: float, before: PaintJob | None) -> Step:
    names = {
        StepKind.LOAD: "load",
        StepKind.RINSE: "rinse",
        StepKind.CHANGE: "brush",
        StepKind.MOVE: "go over",
        StepKind.CUE: "say",
    }
    words = {
        StepKind.RINSE: phrase("Rinse the brush and dry it."),
        StepKind.CHANGE: phrase("Take the {tool}.", tool=job.tool)
        if before is None
        else phrase("Put that into the pot, take the {tool}.", tool=job.tool),
        StepKind.LOAD: phrase("Load for {job}.", job=job.name),
        StepKind.CUE: part.words,
        StepKind.MOVE: phrase("Go {part}.", part=part.words),
    }
    kind = part.kind
    told = phrase("Turn the sponge over.") if part.words == TURN else words[kind]
    return Step(f"{names[kind]}:{job.id}", kind, part.words, now, now + part.seconds, (), job.id, told)


def _lay_words(job: PaintJob) -> str:
    words = [f"{job.name}."]
    if job.anew:
        words.append(phrase("Load again before {listed}.", listed=", ".join(str(number) for number in job.anew)))
    return " ".join([*words, *([job.sign] if job.sign else [])])


def sums_of(steps: Sequence[Step], jobs: Sequence[PaintJob]) -> Sums:
    """Return what the steps of an order come to; loads within a group of strokes are counted too."""
    spent = dict.fromkeys(WHERE, 0.0)
    for step in steps:
        within = sum(end - start for start, end in step.reloads_s)
        spent[_WHERE.get(step.kind, "painting")] += step.seconds - within
        spent["loading"] += within
    kinds = Counter(step.kind for step in steps)
    total, waiting = steps[-1].end_s if steps else 0.0, spent["waiting"]
    return Sums(
        round(total, 1),
        round(total - waiting, 1),
        round(waiting, 1),
        sum(job.loads for job in jobs),
        sum(job.rinses for job in jobs) + kinds[StepKind.RINSE],
        sum(step.kind is StepKind.CHANGE and step.name != TURN for step in steps),
        tuple((name, round(seconds, 1)) for name, seconds in spent.items()),
    )


@dataclass(frozen=True, slots=True)
class StopPoint:
    """A moment at which the design is complete as it is: after which step, when, and what would still come."""

    after: str
    at_s: float
    left: tuple[str, ...]


def stop_points(steps: Sequence[Step], jobs: Sequence[PaintJob]) -> tuple[StopPoint, ...]:
    """Return where a painter may stop: all musts are laid, and no part that was begun is half done."""
    laid: set[str] = set()
    by_id = {job.id: job for job in jobs}
    parts: dict[str, set[str]] = {}
    for job in jobs:
        parts.setdefault(job.part, set()).add(job.id)
    musts = {job.id for job in jobs if job.priority is Priority.MUST}
    found = []
    for step in steps:
        if not step.kind.paints:
            continue
        laid.add(step.id)
        begun = {by_id[name].part for name in laid}
        if musts <= laid and all(parts[part] <= laid for part in begun):
            left = tuple(dict.fromkeys(job.part for job in jobs if job.id not in laid))
            found.append(StopPoint(step.id, step.end_s, left))
    return tuple(found)
