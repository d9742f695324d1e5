"""Edits of the loads of a plan as things of their own: when they are made anew, who is laid with them."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace

from pennello.design.edits import free_id, slug
from pennello.design.plan import MOST_PER_LOAD, Plan, Reload
from pennello.errors import OutOfRangeError, PennelloError
from pennello.phrases import phrase, plural
from pennello.units import is_count


class LoadProblemError(PennelloError):
    """Something cannot be done with a load."""


def with_habit(plan: Plan, loads: Collection[str], habit: Reload, count: int = 1) -> Plan:
    """Return the plan with loads made anew when they run pale, after each, after so many, or never.

    Raises
    ------
    OutOfRangeError
        If the count is not 1 to 40.
    UnknownNameError
        If there is no such load.
    """
    for name in loads:
        plan.stroke(name)
    changed = (replace(one, reload=habit, reload_after=count) if one.id in loads else one for one in plan.strokes)
    return replace(plan, strokes=tuple(changed))


def reloading(plan: Plan, loads: Collection[str], count: int) -> Plan:
    """Return the plan with loads made anew after so many strokes, 1 to 40."""
    return with_habit(plan, loads, Reload.EACH if count == 1 else Reload.COUNT, count)


def used_by(plan: Plan, name: str) -> tuple[str, ...]:
    """Return the ids of the pieces that are laid with a load."""
    return tuple(one.id for one in plan.motifs if name in one.load_of.values())


def followers(plan: Plan, name: str) -> tuple[str, ...]:
    """Return the loads that go on with what a load leaves."""
    return tuple(one.id for one in plan.strokes if one.recipe.after == name)


def with_copy_of(plan: Plan, name: str, called: str = "") -> tuple[Plan, str]:
    """Return the plan with a copy of a load just after it, and its id."""
    load = plan.stroke(name)
    new_id = free_id(slug(called) if called else load.id, [one.id for one in plan.strokes])
    at = plan.strokes.index(load) + 1
    new = replace(load, id=new_id, name=called or load.name)
    return replace(plan, strokes=(*plan.strokes[:at], new, *plan.strokes[at:])), new_id


def without_load(plan: Plan, name: str) -> Plan:
    """Return the plan without a load.

    Raises
    ------
    LoadProblemError
        If something is laid with it, or goes on with what it leaves.
    """
    load = plan.stroke(name)
    users = (*used_by(plan, name), *followers(plan, name))
    if users:
        raise LoadProblemError(
            phrase(
                "{load} is in use ({users}); lay that with another load first.",
                load=load.name,
                users=", ".join(users[:4]),
            )
        )
    return replace(plan, strokes=tuple(one for one in plan.strokes if one.id != name))


def words_of(reload: Reload, count: int) -> str:
    """Return a habit in words.

    >>> words_of(Reload.COUNT, 5)
    'after 5 strokes'
    """
    return plural(count, "after {count} stroke", "after {count} strokes") if reload is Reload.COUNT else reload.value


def habit_in(words: str) -> tuple[Reload, int]:
    """Return a habit from "pale", "each", "never" or a number of strokes.

    Raises
    ------
    OutOfRangeError
        If it is none of these.

    >>> habit_in("5")
    (<Reload.COUNT: 'after so many strokes'>, 5)
    """
    named = {"pale": Reload.PALE, "each": Reload.EACH, "never": Reload.NEVER}
    if words in named:
        return named[words], 1
    if not is_count(words) or not 1 <= int(words) <= MOST_PER_LOAD:
        raise OutOfRangeError(
            "reload", words, phrase("pale, each, never, or 1 to {most_per_load} strokes", most_per_load=MOST_PER_LOAD)
        )
    return (Reload.EACH, 1) if int(words) == 1 else (Reload.COUNT, int(words))
