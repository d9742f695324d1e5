"""What a day costs and brings, and what it came to afterwards. No taxes and no payments."""

from __future__ import annotations

from dataclasses import dataclass

from pennello.day.bag import faces_by_item
from pennello.day.event import Event, Guest, GuestState
from pennello.phrases import phrase


@dataclass(frozen=True, slots=True)
class Costs:
    """A day in money.

    Attributes
    ----------
    material, travel, other, own_time
        What it costs: paint and sponges, the way, fees, and what the own hours are worth.
    income
        From faces or hours.
    break_even_faces
        Faces from which on it pays, None where no number of faces does or faces are not paid for.
    """

    material: float
    travel: float
    other: float
    own_time: float
    income: float
    break_even_faces: int | None

    @property
    def total(self) -> float:
        """All costs."""
        return self.material + self.travel + self.other + self.own_time

    @property
    def left(self) -> float:
        """What is left."""
        return self.income - self.total


def material_of_face(event: Event, item: str) -> float:
    """Return what the paint and sponges of one face of a design cost."""
    one = event.item(item)
    paint = sum(event.gram_costs(used.name) * used.grams for used in one.uses)
    return paint + event.per_sponge * one.sponges


def costs(event: Event, faces: float) -> Costs:
    """Return what a day of so many faces comes to."""
    material = sum(material_of_face(event, name) * count for name, count in faces_by_item(event, faces).items())
    own = event.own_hour * event.hours * event.painters
    income = event.per_face * faces + event.per_hour * event.hours
    fixed = event.travel + event.other_costs + own - event.per_hour * event.hours
    each = event.per_face - (material / faces if faces > 0 else 0.0)
    even: int | None = None
    if fixed <= 0:
        even = 0
    elif event.per_face > 0 and each > 0:
        even = int(-(-fixed // each))
    return Costs(material, event.travel, event.other_costs, own, income, even)


@dataclass(frozen=True, slots=True)
class DesignDay:
    """A design of a day: faces, minutes a face as predicted and as it was (None where none was timed)."""

    title: str
    faces: int
    planned_s: float
    took_s: float | None


@dataclass(frozen=True, slots=True)
class Report:
    """What a day came to.

    Attributes
    ----------
    faces, gone
        Painted, and those who left.
    wait_s
        Median wait of those painted; None where nobody was.
    designs
        Of each design that was painted.
    grams
        By cake or pan.
    money
        What it brought.
    next_time
        Three sentences.
    """

    faces: int
    gone: int
    wait_s: float | None
    designs: tuple[DesignDay, ...]
    grams: tuple[tuple[str, float], ...]
    money: Costs
    next_time: tuple[str, ...]


def report(event: Event) -> Report:
    """Return what a day came to, from its board."""
    done = [one for one in event.guests if one.state is GuestState.DONE]
    left = sum(one.state is GuestState.GONE for one in event.guests)
    waits = sorted(one.began_s - one.came_s for one in done if one.began_s is not None)
    wait = waits[len(waits) // 2] if waits else None
    designs = tuple(_design(event, item.id, done) for item in event.menu if any(one.item == item.id for one in done))
    grams: dict[str, float] = {}
    for one in done:
        if one.item:
            for used in event.item(one.item).uses:
                grams[used.name] = grams.get(used.name, 0.0) + used.grams
    money = _money(event, done)
    return Report(
        len(done), left, wait, designs, tuple(sorted(grams.items())), money, _next(event, designs, wait, left)
    )


def _design(event: Event, name: str, done: list[Guest]) -> DesignDay:
    item = event.item(name)
    those = [one for one in done if one.item == name]
    took = sorted(one.ended_s - one.began_s for one in those if one.began_s is not None and one.ended_s is not None)
    planned = sum(item.seconds(short=one.short) for one in those) / len(those)
    return DesignDay(item.title, len(those), planned, took[len(took) // 2] if took else None)


def _money(event: Event, done: list[Guest]) -> Costs:
    paint = sum(material_of_face(event, one.item) for one in done if one.item)
    planned = costs(event, len(done))
    income = event.per_face * len(done) + event.per_hour * event.hours
    return Costs(paint, planned.travel, planned.other, planned.own_time, income, planned.break_even_faces)


def _next(event: Event, designs: tuple[DesignDay, ...], wait_s: float | None, left: int) -> tuple[str, ...]:
    """Return three sentences for next time: the line, the design that took longest against its time, the favourite."""
    if not designs:
        return (
            phrase("Nobody was painted yet."),
            phrase("Open the board when the first guest comes."),
            phrase("Prices and menu can stay."),
        )
    if left or (wait_s is not None and wait_s > 60 * event.limit_min):
        first = phrase(
            "The line was too long ({left} left): begin with short forms, or leave out the longest design.", left=left
        )
    else:
        first = phrase("The line was short enough; the menu fits the hours.")
    timed = [one for one in designs if one.took_s is not None]
    slow = max(timed, key=lambda one: (one.took_s or 0) / one.planned_s, default=None)
    if slow is not None and slow.took_s is not None and slow.took_s > 1.15 * slow.planned_s:
        over = slow.took_s / slow.planned_s - 1
        second = phrase(
            "{slow} took {over:.0%} longer than predicted: plan it so, or practise it.", slow=slow.title, over=over
        )
    else:
        second = phrase("Every design took about as long as predicted.")
    most = max(designs, key=lambda one: one.faces)
    third = phrase(
        "{most} was asked for most ({faces} of {listed}): pack for more of it.",
        most=most.title,
        faces=most.faces,
        listed=sum(one.faces for one in designs),
    )
    return first, second, third
