"""An order as a painter tells it: one thing after another, with what, how long, and what to wait for."""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import groupby

import numpy as np
from numpy.typing import NDArray

from pennello.design.pace import StepKind
from pennello.design.plan import Plan
from pennello.design.words import side_paints
from pennello.order.arrange import Arranged
from pennello.order.job import PaintJob
from pennello.order.jobs import part_names
from pennello.phrases import phrase, plural
from pennello.units import about_seconds_text, clock


@dataclass(frozen=True, slots=True)
class Stage:
    """Jobs of one part that follow each other on one chart.

    Attributes
    ----------
    words
        Sentences: what to wait for and to say, what to take, what to lay, which edge is outside.
    """

    number: int
    part: str
    name: str
    chart: str
    jobs: tuple[str, ...]
    start_s: float
    end_s: float
    words: tuple[str, ...]


@dataclass(frozen=True, slots=True, eq=False)
class Under:
    """What lies under the outlines of a chart, sRGB bytes, shape (rows, columns, 3): its left, top and scale, mm."""

    picture: NDArray[np.uint8]
    left_mm: float
    top_mm: float
    px_per_mm: float


@dataclass(frozen=True, slots=True, eq=False)
class SheetPictures:
    """What a sheet shows: each chart as painted at the end, and a crop for each stage, with its width and height, mm.

    Pictures are sRGB bytes, shape (rows, columns, 3). In a crop what the stage lays is strong, what is there faint.
    Where a photo stands for a chart, `under` is that photo, faint, to draw outlines on.
    """

    whole: dict[str, NDArray[np.uint8]]
    stages: tuple[tuple[NDArray[np.uint8], float, float] | None, ...]
    under: dict[str, Under] = field(default_factory=dict)


def loads_used(arranged: Arranged) -> tuple[str, ...]:
    """Return the loads of an order in the order in which they are needed."""
    jobs = (arranged.jobs[place] for place in arranged.timing.order)
    return tuple(dict.fromkeys(job.load for job in jobs if job.load))


def stages(arranged: Arranged) -> tuple[Stage, ...]:
    """Return the parts of a design in the order of painting; one that is taken up again comes again."""
    plan = arranged.design.work.plan
    names = part_names(plan)
    loads = {name: number for number, name in enumerate(loads_used(arranged), 1)}
    jobs = [arranged.jobs[place] for place in arranged.timing.order]
    found = []
    for number, ((part, chart), group) in enumerate(groupby(jobs, _key), 1):
        mine = list(group)
        words = (*_before(arranged, mine), *_taken(mine, loads), *_laid(plan, mine))
        begins, ends = arranged.step(mine[0].id).start_s, arranged.step(mine[-1].id).end_s
        of = names.get(mine[0].part, "") if mine[0].part != part else ""
        called = f"{of}: {names.get(part, part)}" if of else names.get(part, part)
        found.append(Stage(number, part, called, chart, tuple(job.id for job in mine), begins, ends, words))
    return tuple(found)


def _key(job: PaintJob) -> tuple[str, str]:
    """Return what a job is shown with: a part that is painted in one go, or its piece; on one chart."""
    whole = job.unit.removesuffix("/twin") == job.part
    return (job.part if whole or not job.piece else job.piece), job.chart


def _before(arranged: Arranged, jobs: list[PaintJob]) -> list[str]:
    """Return what to wait for and to say."""
    found = []
    mine = {job.id for job in jobs}
    for step in arranged.steps:
        if step.job not in mine:
            continue
        if step.kind is StepKind.WAIT:
            held = ", ".join(dict.fromkeys(arranged.job(name).name for name in step.waits_for))
            found.append(
                phrase("Wait {seconds} for {held}.", seconds=about_seconds_text(step.seconds), held=held)
                if held
                else phrase("Wait {seconds}.", seconds=about_seconds_text(step.seconds))
            )
        elif step.kind is StepKind.CUE:
            found.append(phrase("Say: {step}", step=step.words))
        elif step.kind is StepKind.RINSE:
            found.append(phrase("Rinse first."))
    return list(dict.fromkeys(found))


def _taken(jobs: list[PaintJob], loads: dict[str, int]) -> list[str]:
    """Return which loads and tools to take."""
    found = []
    for job in jobs:
        if job.load:
            told = {"load": loads[job.load], "tool": job.tool}
            strokes = ", ".join(map(str, job.anew))
            if job.goes_on and job.anew:
                words = phrase(
                    "Go on with load {load} ({tool}), again before stroke {strokes}.", strokes=strokes, **told
                )
            elif job.goes_on:
                words = phrase("Go on with load {load} ({tool}).", **told)
            elif job.anew:
                words = phrase("Take load {load} ({tool}), again before stroke {strokes}.", strokes=strokes, **told)
            else:
                words = phrase("Take load {load} ({tool}).", **told)
            found.append(words)
        else:
            found.append(phrase("Take the {tool}.", tool=job.tool))
    return list(dict.fromkeys(found))


def _laid(plan: Plan, jobs: list[PaintJob]) -> list[str]:
    """Return what to lay, and which colour is outside."""
    strokes = sum(len(job.strokes) for job in jobs)
    named = [job.name.split(": ")[-1] for job in jobs]
    told = named if len(named) <= 4 else [*named[:3], phrase("and {count} more", count=len(named) - 3)]
    found = [
        plural(
            strokes, "{strokes} stroke: {told}.", "{strokes} strokes: {told}.", strokes=strokes, told="; ".join(told)
        )
        if strokes > 1
        else f"{'; '.join(told)}."
    ]
    found += dict.fromkeys(job.sign for job in jobs if job.sign)
    for load in dict.fromkeys(job.load for job in jobs if job.load and job.kind is StepKind.STROKES):
        rim, heel = side_paints(plan, plan.stroke(load))
        if rim != heel:
            found.append(phrase("{rim} outside, {heel} inside.", rim=rim, heel=heel))
    return found


def when_words(stage: Stage) -> str:
    """Return when a stage is painted, as in "from 0:15, 34 s"."""
    return phrase("from {start_s}, {end_s:.0f} s", start_s=clock(stage.start_s), end_s=stage.end_s - stage.start_s)
