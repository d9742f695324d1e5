"""Lessons: a path of practice sheets from straight sweeps to a rose, each with what to watch for.

The order is common practice, no published source; the points that open the next are a default.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from pennello.design.edits import with_stroke
from pennello.design.fresh import with_family_stroke, with_fresh_stroke
from pennello.design.on_chart import with_new_motif
from pennello.design.plan import Plan
from pennello.errors import UnknownNameError
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.motif.place import Place
from pennello.path.cubic import line
from pennello.phrases import phrase
from pennello.practice.records import KeptTry

OPENS_AT, OPENS_WITH = 75, 3
"""So many points in so many tries of a lesson open the next one."""

_CHART = "leg"


@dataclass(frozen=True, slots=True)
class Lesson:
    """A lesson.

    Attributes
    ----------
    watch
        What to watch for, a sentence or two.
    family, values
        The family of strokes that it is of, with its numbers; or
    motif, straight_mm
        the motif, or the length of a straight sweep of a flat brush.
    """

    key: str
    title: str
    watch: str
    family: str = ""
    values: tuple[tuple[str, float], ...] = ()
    motif: str = ""
    straight_mm: float = 0.0


LESSONS: tuple[Lesson, ...] = (
    Lesson(
        "straight",
        phrase("A straight sweep"),
        phrase("The chisel square to the way all along, the pressure even. Both edges straight, both ends square."),
        straight_mm=60.0,
    ),
    Lesson(
        "c",
        phrase("A C"),
        phrase("Start on the edge, turn, press in the middle, back onto the edge: both ends thin, the light outside."),
        "c-curve",
    ),
    Lesson(
        "s",
        phrase("An S"),
        phrase("As the C, then the other way round without a stop. The hand moves, not the fingers."),
        "s-curve",
    ),
    Lesson(
        "drop",
        phrase("A flat teardrop"),
        phrase(
            "Round the heel for the head, then the chisel runs out to nothing. Corner B stands still while A swings."
        ),
        "square-drop",
    ),
    Lesson(
        "comma",
        phrase("A comma"),
        phrase("Broad at the start, out to nothing: lift while you turn onto the edge."),
        "comma-stroke",
    ),
    Lesson(
        "nail",
        phrase("A fingernail"),
        phrase("The chisel keeps its direction; up and over, both feet come to a point."),
        "fingernail",
    ),
    Lesson(
        "fan",
        phrase("A plain petal"),
        phrase("Corner B creeps along a few mm, corner A swings round it. The rim unbroken."),
        "fan",
    ),
    Lesson(
        "shell",
        phrase("A shell petal"),
        phrase("As the plain petal, with the rim in and out two to four times while the heel keeps still."),
        "shell",
    ),
    Lesson(
        "leaf",
        phrase("A leaf half"),
        phrase("B on the midrib, the rim in and out, more than a shell needs. The second half is its mirror image."),
        "leaf-half",
    ),
    Lesson(
        "swoosh",
        phrase("A swoosh"),
        phrase("Long and in one breath: on the edge, turned and pressed in the middle, back onto the edge."),
        "long-swoosh",
    ),
    Lesson(
        "flower",
        phrase("A five-petal flower"),
        phrase("Each petal as the first. Turn the paper, not the wrist; the heels meet in the middle."),
        motif="shell-flower",
    ),
    Lesson(
        "rose",
        phrase("A rose"),
        phrase("Outer petals first, then the bud, then the cups that join them. Rinse nothing, let the brush run."),
        motif="tea-rose",
    ),
)


def lesson(key: str) -> Lesson:
    """Return a lesson by its key; raises UnknownNameError."""
    for one in LESSONS:
        if one.key == key:
            return one
    raise UnknownNameError(phrase("lesson"), key, [one.key for one in LESSONS])


def lesson_plan(one: Lesson, plan: Plan) -> tuple[Plan, str]:
    """Return a plan with what a lesson practises in it, and the id of that; the plan given is not changed.

    Parameters
    ----------
    plan
        Whose cakes and paints are practised with.
    """
    if one.family:
        return with_family_stroke(plan, one.family, dict(one.values))
    if one.motif:
        return with_new_motif(plan, one.motif, _CHART, Place(0.0, 0.0))
    plan, name = with_fresh_stroke(plan)
    way = Stroke(line((0.0, 0.0), (one.straight_mm, 0.0)), Nib(NibMode.FOLLOWING, 90.0))
    return with_stroke(plan, replace(plan.stroke(name), stroke=way, name=one.title)), name


@dataclass(frozen=True, slots=True)
class Progress:
    """How far a lesson is: whether it is open, how many tries it has had, the best of them, and how many more good
    ones open the next."""

    lesson: Lesson
    open: bool
    tries: int
    best: int
    lacking: int

    @property
    def words(self) -> str:
        """One sentence."""
        if not self.open:
            return phrase("Opens with the lesson before it.")
        if not self.tries:
            return phrase("Not tried yet.")
        more = (
            phrase("{lacking} more of {opens_at} points open the next", lacking=self.lacking, opens_at=OPENS_AT)
            if self.lacking
            else phrase("done")
        )
        return phrase("Best of {tries}: {best} points; {more}.", tries=self.tries, best=self.best, more=more)


def progress(tries: Sequence[KeptTry]) -> tuple[Progress, ...]:
    """Return how far each lesson is; the first is always open."""
    found, opened = [], True
    for one in LESSONS:
        points = [kept.score.points for kept in tries if kept.lesson == one.key]
        good = sum(value >= OPENS_AT for value in points)
        lacking = max(0, OPENS_WITH - good)
        found.append(Progress(one, opened or bool(points), len(points), max(points, default=0), lacking))
        opened = lacking == 0
    return tuple(found)
