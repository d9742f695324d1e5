"""Why a stroke is off: each cause is looked for by trying the change that would mend it.

Every search returns suspects; a suspect becomes a cause when its mend, laid for real, brings the stroke nearer
to the wish.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.attempt import Attempt, Side
from pennello.aim.comparison import Comparison, compare
from pennello.aim.mend import Mend, Recolour, SetPickUp, SetRecipe, SetReloads, Shorten
from pennello.aim.quick import Forecast
from pennello.aim.wish import Stop, Wanted, edge_lab, stop_labs
from pennello.colour.basis import small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.lab import hex_to_lab
from pennello.finding import Code, Finding, RatedMend
from pennello.kit.applicator import GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.lay.deposit import LEVELLING_MM
from pennello.lay.laying import Laid
from pennello.load.gaussian import WIDTH_10_90
from pennello.load.pickup import blur_mm, met_shares
from pennello.load.recipe import LEAST_HAND_DRIFT_MM, PickUp, Wetness
from pennello.phrases import named, phrase
from pennello.units import LengthUnit, length_text

Array = NDArray[np.floating[Any]]

SLIDE_STEP_MM = 0.25
MISSING_DE00 = 10.0
"""A wanted colour is missing when no stripe comes nearer than this (a default)."""

WORTH_DE00 = 0.25
"""A mend must gain this much mean dE00 to be proposed (a default)."""

_THIN = 0.75  # of the wanted coat
_ENOUGH_SWEEPS = 3.0  # times the brush's fill constant: 95 % full


@dataclass(frozen=True, slots=True)
class _Suspect:
    code: Code
    text: str
    mends: tuple[Mend, ...]
    at_mm: float | None = None
    certain: bool = False  # said even when no mend helps


@dataclass(frozen=True, slots=True, eq=False)
class Case:
    """A laid attempt under examination.

    `stock` holds further paints that a mend may propose, `unit` is what lengths are said in.
    """

    attempt: Attempt
    laid: Laid
    seen: Comparison
    stock: tuple[Paint, ...]
    unit: LengthUnit = LengthUnit.MM

    def say(self, length_mm: float) -> str:
        """Return a length in the painter's unit."""
        return length_text(abs(length_mm), self.unit)


def find_causes(case: Case) -> tuple[Finding, ...]:
    """Return the causes that matter, the one whose mend gains most first."""
    causes = [cause for suspect in _suspects(case) if (cause := _confirmed(case, suspect))]
    return tuple(sorted(causes, key=_gain))


def _gain(cause: Finding) -> float:
    best = cause.mends[0].mean_de00 if cause.mends else None
    return math.inf if best is None else best


def _suspects(case: Case) -> Iterator[_Suspect]:
    main = case.attempt.recipe.main
    if case.attempt.axis is GradientAxis.ALONG:
        yield from _ends_wrong(case)
    elif main >= 0 and case.attempt.recipe.pickups[main].cake:
        yield from _placed_wrong(case)
    if main >= 0:
        if case.attempt.recipe.pickups[main].cake:
            yield from _blended_wrong(case)
        yield from _wetness_wrong(case)
    yield from _strayed(case)
    yield from _pale(case)
    if case.attempt.recipe.pickups:
        yield from _missing(case)


def _confirmed(case: Case, suspect: _Suspect) -> Finding | None:
    rated = []
    for mend in suspect.mends:
        mended = mend.mended(case.attempt)
        after = compare(mended.lay(2.0, small_basis(10)), mended).mean_de00
        if after <= case.seen.mean_de00 - WORTH_DE00:
            rated.append(RatedMend(mend, after))
    if not rated and not suspect.certain:
        return None
    rated.sort(key=lambda one: one.mean_de00 or 0.0)
    return Finding(suspect.code, suspect.text, at_mm=suspect.at_mm, mends=tuple(rated))


# --- where the brush lies ----------------------------------------


def _placed_wrong(case: Case) -> Iterator[_Suspect]:
    """Look along the cake, both ways round, for a better place of the pick-up that lays the window."""
    forecast = Forecast(case.attempt, case.laid.edge, case.seen)
    index = case.attempt.recipe.main
    now = case.attempt.recipe.pickups[index]
    here = _best_place(case, forecast, index, now)
    turned = _best_place(case, forecast, index, replace(now, flip=not now.flip))
    flipped = turned[0] < 0.85 * here[0] - WORTH_DE00
    moved = here[1].offset_mm - now.offset_mm
    if flipped:
        yield _wrong_way(case, index, now, turned[1])
    elif abs(moved) >= SLIDE_STEP_MM:
        yield _slid(case, index, here[1], moved)


def _slid(case: Case, index: int, better: PickUp, moved: float) -> _Suspect:
    cake = case.attempt.cakes[better.cake]
    way, other = (_end_name(case, cake, sign * moved) for sign in (1, -1))
    mend = SetPickUp("slide", index, better, phrase("slide {moved} to {way}", moved=case.say(moved), way=way))
    now = case.attempt.recipe.pickups[index]
    _, over = met_shares(now, cake, case.attempt.brush)
    if over.min() < 0.98:
        bare = float((1 - over).mean()) * case.attempt.brush.width_mm
        text = phrase(
            "{bare} of the brush hangs over the edge of {cake} and picks up nothing.",
            bare=case.say(bare),
            cake=cake.name,
        )
        return _Suspect(Code.HANGS_OVER, text, (mend,), certain=True)
    rim = _rim_of(case)
    if rim is None:
        text = phrase("The brush lies {moved} too far to {other}.", moved=case.say(moved), other=other)
    else:
        name, got, wanted = rim
        text = phrase(
            "The brush lies {moved} too far to {other}: the {name} rim is {got}, you asked for {wanted}.",
            moved=case.say(moved),
            other=other,
            name=name,
            got=got,
            wanted=wanted,
        )
    return _Suspect(Code.SLID, text, (mend,))


def _rim_of(case: Case) -> tuple[str, str, str] | None:
    """Return the rim's colour, how wide it is and how wide it should be, where its boundary can be told."""
    checks = case.seen.boundaries
    on_a = case.attempt.rim is Side.A
    check = (checks[0] if on_a else checks[-1]) if checks else None
    if check is None or check.laid is None or abs(check.shift_mm or 0.0) < SLIDE_STEP_MM:
        return None
    width = case.attempt.brush.width_mm
    got, wanted = (at if on_a else width - at for at in (check.laid.at_mm, check.wanted_at_mm))
    name = case.attempt.paints[check.laid.from_paint if on_a else check.laid.to_paint].name
    return name, case.say(got), case.say(wanted)


def _wrong_way(case: Case, index: int, now: PickUp, better: PickUp) -> _Suspect:
    flip_only = replace(now, flip=not now.flip)
    moved = better.offset_mm - now.offset_mm
    mends = [SetPickUp("flip", index, flip_only, phrase("flip the brush"))]
    if abs(moved) >= 2 * SLIDE_STEP_MM:
        way = _end_name(case, case.attempt.cakes[now.cake], moved)
        mends.append(
            SetPickUp("flip", index, better, phrase("flip and slide {moved} to {way}", moved=case.say(moved), way=way))
        )
    return _Suspect(
        Code.WRONG_WAY, phrase("The brush is the wrong way round: its edge colours have changed sides."), tuple(mends)
    )


def _ends_wrong(case: Case) -> Iterator[_Suspect]:
    """Look whether tip and belly have changed places: what is dipped first goes to the tip instead."""
    pickups = case.attempt.recipe.pickups
    if len(pickups) < 2:
        return
    sources = [(one.cake, one.pan, one.offset_mm) for one in reversed(pickups)]
    turned = tuple(
        replace(one, cake=cake, pan=pan, offset_mm=offset)
        for one, (cake, pan, offset) in zip(pickups, sources, strict=True)
    )
    forecast = Forecast(case.attempt, case.laid.edge, case.seen)
    recipe = replace(case.attempt.recipe, pickups=turned)
    if forecast.mean_de00(recipe) < 0.85 * forecast.mean_de00(case.attempt.recipe) - WORTH_DE00:
        mend = SetRecipe("swap", recipe, phrase("take for the tip what went to the belly, and the other way round"))
        yield _Suspect(Code.WRONG_WAY, phrase("Tip and belly have changed places."), (mend,))


def _strayed(case: Case) -> Iterator[_Suspect]:
    """Look whether the stroke is nearer to the wish without one of several pick-ups."""
    pickups = case.attempt.recipe.pickups
    if len(case.attempt.recipe.laid) < 2:
        return
    forecast = Forecast(case.attempt, case.laid.edge, case.seen)
    now = forecast.mean_de00(case.attempt.recipe)
    for index, pickup in enumerate(pickups):
        recipe = replace(case.attempt.recipe, pickups=(*pickups[:index], *pickups[index + 1 :]))
        same_axis = recipe.axis(case.attempt.brush) is case.attempt.axis
        if pickup.face is not recipe.lays or not same_axis or forecast.mean_de00(recipe) > 0.85 * now - WORTH_DE00:
            continue
        text = phrase("Pick-up {index} leads away from what you want.", index=index + 1)
        yield _Suspect(
            Code.STRAY_PICKUP,
            text,
            (SetRecipe("leave_out", recipe, phrase("leave pick-up {index} out", index=index + 1)),),
        )


def _end_name(case: Case, cake: Cake, direction: float) -> str:
    return case.attempt.paints[cake.stripes[-1 if direction > 0 else 0].paint].name


def _best_place(case: Case, forecast: Forecast, index: int, start: PickUp) -> tuple[float, PickUp]:
    """Return the least mean dE00 and the pick-up that gives it: a coarse pass over the cake, then two finer ones."""
    cake, brush = case.attempt.cakes[start.cake], case.attempt.brush
    low, high = sorted((0.0, cake.width_mm - brush.width_mm))
    steps = np.arange(math.floor(low), math.ceil(high) + 1.0)
    offsets = {start.offset_mm, *(float(at) for at in steps)}
    best = min((_place_de00(case, forecast, index, start, at), at) for at in sorted(offsets))
    for step in (0.5, SLIDE_STEP_MM):
        tries = (round((best[1] + way * step) / SLIDE_STEP_MM) * SLIDE_STEP_MM for way in (-1, 1))
        best = min([best, *((_place_de00(case, forecast, index, start, at), at) for at in tries)])
    return best[0], replace(start, offset_mm=best[1])


def _place_de00(case: Case, forecast: Forecast, index: int, start: PickUp, at_mm: float) -> float:
    return forecast.mean_de00(
        SetPickUp("slide", index, replace(start, offset_mm=at_mm), "").mended(case.attempt).recipe
    )


# --- how softly colours hand over ----------------------------------------


def _blended_wrong(case: Case) -> Iterator[_Suspect]:
    pairs = [(check, check.laid) for check in case.seen.boundaries if check.laid is not None]
    if not pairs:
        return
    wanted = float(np.mean([check.wanted_width_mm for check, _ in pairs]))
    got = float(np.mean([laid.width_10_90_mm for _, laid in pairs]))
    if abs(got - wanted) < max(0.5, 0.2 * wanted):
        return
    soft = got > wanted
    check, laid = max(pairs, key=lambda pair: abs(pair[1].width_10_90_mm - pair[0].wanted_width_mm))
    names = " and ".join(case.attempt.paints[name].name for name in (laid.from_paint, laid.to_paint))
    text = (
        phrase(
            "The blend between {names} is too soft: {width_10_90_mm} wide, you asked for {wanted_width_mm}.",
            names=names,
            width_10_90_mm=case.say(laid.width_10_90_mm),
            wanted_width_mm=case.say(check.wanted_width_mm),
        )
        if soft
        else phrase(
            "The blend between {names} is too hard: {width_10_90_mm} wide, you asked for {wanted_width_mm}.",
            names=names,
            width_10_90_mm=case.say(laid.width_10_90_mm),
            wanted_width_mm=case.say(check.wanted_width_mm),
        )
    )
    yield _Suspect(Code.TOO_SOFT if soft else Code.TOO_HARD, text, _blend_mends(case, wanted, soft), None)


def _blend_mends(case: Case, wanted_width_mm: float, soft: bool) -> tuple[Mend, ...]:  # noqa: FBT001
    index = case.attempt.recipe.main
    now = case.attempt.recipe.pickups[index]
    cake, brush = case.attempt.cakes[now.cake], case.attempt.brush
    start = now
    if soft and now.wetness.mixing_mm > 0:
        start = replace(now, wetness=Wetness.CREAMY)
    fixed = blur_mm(replace(start, drift_mm=0.0), cake, brush) ** 2 + LEVELLING_MM**2
    wanted = (wanted_width_mm / WIDTH_10_90) ** 2 - fixed
    drift = round(max(LEAST_HAND_DRIFT_MM, math.sqrt(max(wanted, 0.0))), 2)
    better = replace(start, drift_mm=drift)
    if better == now:
        return ()
    words = phrase(
        "let the sweeps drift {drift}, not {drift_mm}", drift=case.say(drift), drift_mm=case.say(now.drift_mm)
    )
    if start is not now:
        words = phrase("blot to creamy and {words}", words=words)
    return (SetPickUp("blend", index, better, words),)


def _wetness_wrong(case: Case) -> Iterator[_Suspect]:
    """Look whether the load is too wet or too dry for the stroke."""
    index = case.attempt.recipe.main
    now = case.attempt.recipe.pickups[index]
    if now.wetness is Wetness.CREAMY:
        return
    wet = now.wetness in {Wetness.WET, Wetness.TOO_WET}
    enough = float(math.ceil(_ENOUGH_SWEEPS * case.attempt.brush.fill_passes))
    creamy = replace(now, wetness=Wetness.CREAMY, passes=max(now.passes, enough))
    told = {"wetness": named(now.wetness), "sign": now.wetness.sign, "solids": now.wetness.solids}
    text = phrase("The load is {wetness}: {sign}; it holds {solids:.0%} of a creamy load.", **told)
    if wet:
        text = phrase(
            "The load is {wetness}: {sign}; it holds {solids:.0%} of a creamy load and blurs by {blur}.",
            blur=case.say(now.wetness.mixing_mm * math.sqrt(now.passes)),
            **told,
        )
    mend = SetPickUp("wetness", index, creamy, now.wetness.mend)
    yield _Suspect(Code.TOO_WET if wet else Code.TOO_DRY, text, (mend,))


# --- how much paint there is ----------------------------------------


def _pale(case: Case) -> Iterator[_Suspect]:
    begins, length = case.seen.pale_from_mm, case.laid.track.length_mm
    from_the_start = begins is not None and begins < 0.12 * length
    if from_the_start or case.seen.film_um[0].mean() < _THIN * case.attempt.wanted.coat_um:
        yield _thin_load(case, certain=from_the_start)
    if begins is None or from_the_start:
        return
    thin = float(case.seen.film_um[-1].mean())
    text = phrase(
        "It runs pale from {begins} on: {thin:.0f} µm of paint at the end, {coat_um:.0f} µm make a good coat.",
        begins=case.say(begins),
        thin=thin,
        coat_um=case.attempt.wanted.coat_um,
    )
    runs = math.ceil(length / begins)
    places = tuple(round(length * k / runs, 1) for k in range(1, runs))
    mends: list[Mend] = [
        SetReloads("reload", places, phrase("reload at {listed}", listed=", ".join(case.say(at) for at in places)))
    ]
    short = min(begins, length - 1.0)
    if short > 5:
        mends.append(Shorten("shorten", round(short, 1), phrase("end the stroke at {short}", short=case.say(short))))
    yield _Suspect(Code.PALE, text, tuple(mends), begins, certain=True)


def _thin_load(case: Case, *, certain: bool) -> _Suspect:
    index = case.attempt.recipe.main
    if index < 0:
        return _thin_leftover(case, certain=certain)
    now = case.attempt.recipe.pickups[index]
    enough = math.ceil(_ENOUGH_SWEEPS * case.attempt.brush.fill_passes)
    mends: list[Mend] = []
    if now.passes < enough:
        mends.append(
            SetPickUp(
                "sweeps",
                index,
                replace(now, passes=float(enough)),
                phrase("{way} {enough} times", way=named(now.way), enough=enough),
            )
        )
    text = phrase(
        "The load is thin: the stroke begins with {mean:.0f} µm of paint, {coat_um:.0f} µm make a good coat.",
        mean=case.seen.film_um[0].mean(),
        coat_um=case.attempt.wanted.coat_um,
    )
    return _Suspect(Code.THIN_LOAD, text, tuple(mends), 0.0, certain=certain)


def _thin_leftover(case: Case, *, certain: bool) -> _Suspect:
    text = phrase(
        "The leftover is thin: the stroke begins with {mean:.0f} µm of paint, "
        "{coat_um:.0f} µm make a good coat; load again before it.",
        mean=case.seen.film_um[0].mean(),
        coat_um=case.attempt.wanted.coat_um,
    )
    return _Suspect(Code.THIN_LOAD, text, (), 0.0, certain=certain)


# --- which colours are there ----------------------------------------


def _missing(case: Case) -> Iterator[_Suspect]:
    wanted = case.attempt.wanted
    goals = stop_labs(wanted, case.attempt.paints, case.attempt.skin)
    now = case.attempt.recipe.pickups[case.attempt.recipe.main]
    cake = case.attempt.cakes.get(now.cake)
    on_cakes = [case.attempt.paints[name] for name in case.laid.edge.paints]
    looks = _coat_labs(case, on_cakes)
    mixed = edge_lab(case.laid.edge, case.attempt.paints, case.attempt.skin, wanted.coat_um)
    for index, (stop, goal) in enumerate(zip(wanted.stops, goals, strict=True)):
        apart = ciede2000(looks, goal)
        nearest = int(apart.argmin())
        if min(apart[nearest], ciede2000(mixed, goal).min()) <= MISSING_DE00:
            continue
        text = phrase(
            "{stop_name} is not on {cake}; the nearest, {on_cakes}, is {apart:.0f} dE away.",
            stop_name=_stop_name(stop, case),
            cake=cake.name if cake else "what is picked up",
            on_cakes=on_cakes[nearest].name,
            apart=apart[nearest],
        )
        mends = _recolours(case, cake, now, index, goal) if cake else ()
        yield _Suspect(Code.MISSING_COLOUR, text, mends, certain=True)


def _stop_name(stop: Stop, case: Case) -> str:
    return (
        case.attempt.paints[stop.paint].name if stop.paint is not None else phrase("The wanted {srgb}", srgb=stop.srgb)
    )


def _coat_labs(case: Case, paints: list[Paint]) -> Array:
    coats = {paint.id: paint for paint in paints}
    return np.array(
        [
            stop_labs(Wanted((Stop(paint=paint.id),), coat_um=case.attempt.wanted.coat_um), coats, case.attempt.skin)[0]
            for paint in paints
        ]
    )


def _recolours(case: Case, cake: Cake, now: PickUp, stop: int, goal: Array) -> tuple[Mend, ...]:
    """Offer to fill the stripe that lies most under this part of the edge with the nearest paint of the stock."""
    known = {paint.id: paint for paint in (*case.stock, *case.attempt.paints.values())}
    likely = sorted(known.values(), key=lambda paint: float(ciede2000(hex_to_lab(paint.srgb), goal)))[:8]
    if not likely:
        return ()
    best = likely[int(ciede2000(_coat_labs(case, likely), goal).argmin())]
    ends = [0.0, *(one.to_u for one in case.attempt.wanted.stops)]
    shares, over = met_shares(now, cake, case.attempt.brush, case.attempt.axis)
    bins = np.arange(shares.shape[1]) + 0.5
    mine = (bins >= ends[stop] * len(bins)) & (bins <= ends[stop + 1] * len(bins))
    under = (shares * over)[:, mine].sum(axis=1)
    stripe = int(under.argmax())
    if not under.any() or cake.stripes[stripe].paint == best.id:
        return ()
    old = case.attempt.paints[cake.stripes[stripe].paint].name
    return (
        Recolour("recolour", cake.id, stripe, best, phrase("fill {best} in place of {old}", best=best.name, old=old)),
    )
