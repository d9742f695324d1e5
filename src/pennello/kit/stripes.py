"""Making a cake: pure edits of its stripes."""

from __future__ import annotations

from dataclasses import replace

from pennello.errors import OutOfRangeError
from pennello.kit.cake import STRIPE_MM, STRIPES, Cake, Stripe
from pennello.phrases import phrase

LEAST_DRAGGED_STRIPE_MM = 1.0


def with_boundary(cake: Cake, boundary: int, at_mm: float) -> Cake:
    """Return the cake with an inner boundary moved; its two stripes trade width and keep at least 1 mm each.

    Parameters
    ----------
    boundary
        Which one: 1 is between the first and the second stripe.
    at_mm
        Where it should lie, mm from the left wall; clipped to what the two stripes allow.

    Raises
    ------
    OutOfRangeError
        If the cake has no such boundary.
    """
    edges = cake.edges_mm
    if not 1 <= boundary < len(edges) - 1:
        raise OutOfRangeError(phrase("number of a boundary"), boundary, phrase("1 to {count}", count=len(edges) - 2))
    low, high = edges[boundary - 1] + LEAST_DRAGGED_STRIPE_MM, edges[boundary + 1] - LEAST_DRAGGED_STRIPE_MM
    at = min(max(at_mm, low), high) if low <= high else edges[boundary]
    stripes = list(cake.stripes)
    stripes[boundary - 1] = replace(stripes[boundary - 1], width_mm=at - edges[boundary - 1])
    stripes[boundary] = replace(stripes[boundary], width_mm=edges[boundary + 1] - at)
    return replace(cake, stripes=tuple(stripes))


def stripe_at(cake: Cake, index: int) -> Stripe:
    """Return a stripe, counted from 0.

    Raises
    ------
    OutOfRangeError
        If the cake has no such stripe.
    """
    if not 0 <= index < len(cake.stripes):
        raise OutOfRangeError(
            phrase("number of a stripe of {cake}", cake=cake.name),
            index + 1,
            phrase("1 to {count}", count=len(cake.stripes)),
        )
    return cake.stripes[index]


def recoloured(cake: Cake, stripe: int, paint: str) -> Cake:
    """Return the cake with one stripe, counted from 0, filled afresh with another paint."""
    return _put(cake, stripe, Stripe(paint, stripe_at(cake, stripe).width_mm))


def with_width(cake: Cake, stripe: int, width_mm: float) -> Cake:
    """Return the cake with one stripe of another width, 0.5 to 120 mm; the cake grows or shrinks with it."""
    return _put(cake, stripe, replace(stripe_at(cake, stripe), width_mm=min(max(width_mm, STRIPE_MM[0]), STRIPE_MM[1])))


def with_inserted(cake: Cake, at: int, paint: str, width_mm: float | None = None) -> Cake:
    """Return the cake with a new stripe before the stripe `at` (or at the end).

    Without a width it takes half of the wider of its neighbours, so that the pan stays as it is.

    Raises
    ------
    OutOfRangeError
        If the cake has 7 stripes already.
    """
    if len(cake.stripes) >= STRIPES[1]:
        raise OutOfRangeError(phrase("number of stripes of {cake}", cake=cake.name), len(cake.stripes) + 1, "2 to 7")
    stripes = list(cake.stripes)
    if width_mm is None:
        beside = [index for index in (at - 1, at) if 0 <= index < len(stripes)]
        giver = max(beside, key=lambda index: stripes[index].width_mm)
        width_mm = stripes[giver].width_mm / 2
        stripes[giver] = replace(stripes[giver], width_mm=width_mm)
    stripes.insert(at, Stripe(paint, width_mm))
    return replace(cake, stripes=tuple(stripes))


def without(cake: Cake, stripe: int) -> Cake:
    """Return the cake without one stripe, its neighbour grown into the gap.

    Raises
    ------
    OutOfRangeError
        If only 2 stripes are there.
    """
    if len(cake.stripes) <= STRIPES[0]:
        raise OutOfRangeError(phrase("number of stripes of {cake}", cake=cake.name), len(cake.stripes) - 1, "2 to 7")
    stripes, gone = list(cake.stripes), stripe_at(cake, stripe)
    stripes.pop(stripe)
    heir = min(stripe, len(stripes) - 1)
    stripes[heir] = replace(stripes[heir], width_mm=min(stripes[heir].width_mm + gone.width_mm, STRIPE_MM[1]))
    return replace(cake, stripes=tuple(stripes))


def moved(cake: Cake, stripe: int, to: int) -> Cake:
    """Return the cake with one stripe taken out and put in again at a place."""
    stripes, taken = list(cake.stripes), stripe_at(cake, stripe)
    stripes.pop(stripe)
    stripes.insert(to, taken)
    return replace(cake, stripes=tuple(stripes))


def swapped(cake: Cake, one: int, other: int) -> Cake:
    """Return the cake with two stripes exchanged."""
    stripes = list(cake.stripes)
    stripes[one], stripes[other] = stripe_at(cake, other), stripe_at(cake, one)
    return replace(cake, stripes=tuple(stripes))


def scaled_to(cake: Cake, width_mm: float) -> Cake:
    """Return the cake with all stripes grown or shrunk alike to a width across, mm."""
    by = width_mm / cake.width_mm
    low, high = STRIPE_MM
    return replace(
        cake,
        stripes=tuple(replace(one, width_mm=min(max(round(one.width_mm * by, 3), low), high)) for one in cake.stripes),
    )


def _put(cake: Cake, index: int, stripe: Stripe) -> Cake:
    return replace(cake, stripes=(*cake.stripes[:index], stripe, *cake.stripes[index + 1 :]))
