"""What a brush meets on a cake: the stripes under each bin of its edge, blurred by drift and soft boundaries.

Model: the mean over one bin of the stripes seen through a normal blur of variance drift^2 + softness^2 (+ the
chisel's thickness turned by the skew, + mixing in wet bristles), in closed form; the pan's walls reflect.
Common practice, no published source, for the mechanism; the closed form is Abramowitz & Stegun 7.1.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kept import kept
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS, bin_places
from pennello.load.gaussian import phi_integral, phi_integral_twice
from pennello.load.recipe import PickUp, Way

Array = NDArray[np.floating[Any]]

REACH_MM = 0.5
"""A stripe with less paint than this left is reached only in part (a default)."""

_FAR = 9.0
_WHOLE = np.ones(BINS)
_WHOLE.flags.writeable = False


def bin_centres() -> Array:
    """Return u of the bin centres, from A to B (or from tip to belly), shape (64,)."""
    return bin_places()


def blur_mm(pickup: PickUp, cake: Cake, brush: Applicator) -> float:
    """Return the standard deviation of the blur across the stripes, mm."""
    turned = brush.thickness_mm * math.sin(math.radians(pickup.skew_deg))
    mixing = pickup.wetness.mixing_mm**2 * pickup.passes
    return math.sqrt(pickup.drift_mm**2 + cake.softness_mm**2 + turned**2 / 12 + mixing)


def bin_edges_mm(pickup: PickUp, brush: Applicator) -> Array:
    """Return where the bins' edges lie on the cake, mm from its left wall, ascending, shape (65,)."""
    across = brush.width_mm * math.cos(math.radians(pickup.skew_deg))
    middle = pickup.offset_mm + brush.width_mm / 2
    return middle + across * (np.arange(BINS + 1) / BINS - 0.5)


def met_shares(
    pickup: PickUp, cake: Cake, brush: Applicator, axis: GradientAxis = GradientAxis.ACROSS
) -> tuple[Array, Array]:
    """Return what each bin would meet if all of the edge lay down.

    A roll, and any pick-up of an edge that runs along the print, meets in every bin the mean of what lies under the
    brush.

    Returns
    -------
    Shares of the cake's stripes in [0, 1], shape (stripes, 64) in the order A to B, which sum to 1 over the
    stripes in every bin; and the part of each bin that is over the cake at all, in [0, 1], shape (64,).
    """
    bins = bin_edges_mm(pickup, brush)
    inside = np.minimum(np.maximum(bins, 0.0), cake.width_mm)
    over = (inside[1:] - inside[:-1]) / (bins[1] - bins[0])
    shares = blurred_stripes(cake, bins, blur_mm(pickup, cake, brush))
    if axis is GradientAxis.ALONG or pickup.way is Way.ROLL:
        reached = over.sum()
        mean = (shares * over).sum(axis=1) / reached if reached > 0 else shares.mean(axis=1)
        return np.repeat(mean[:, None], BINS, axis=1), np.full(BINS, over.mean())
    return (shares[:, ::-1], over[::-1]) if pickup.flip else (shares, over)


def part_met(pickup: PickUp, brush: Applicator, axis: GradientAxis) -> Array:
    """Return which part of each bin meets the paint by the pick-up's own choice, in [0, 1], shape (64,).

    Parts are rounded to whole bins, at least one, so that disjoint parts never share a bin. A side load fades
    evenly from its side to the end of its part; a dip's upper end is a normal blur up the bristles.
    """
    low = min(int(pickup.part[0] * BINS + 0.5), BINS - 1)
    high = max(int(pickup.part[1] * BINS + 0.5), low + 1)
    if pickup.way is Way.DIP and axis is GradientAxis.ALONG:
        return _dipped(pickup, brush.edge_mm(axis))
    if pickup.whole and pickup.way is not Way.SIDE:
        return _WHOLE
    mask = np.zeros(BINS)
    mask[low:high] = 1.0
    if pickup.way is Way.SIDE:
        falling = 1 - (np.arange(high - low) + 0.5) / (high - low)
        mask[low:high] = falling if low <= BINS - high else falling[::-1]
    return mask


def _dipped(pickup: PickUp, length_mm: float) -> Array:
    edges = np.arange(BINS + 1) * length_mm / BINS
    low, high = (end * length_mm for end in pickup.part)
    up_to_high, up_to_low = (
        -np.diff(phi_integral(end - edges, pickup.wetness.wick_mm)) * BINS / length_mm for end in (high, low)
    )
    wet = np.ones(BINS) if pickup.part[1] >= 1 else up_to_high
    return np.asarray(np.clip(wet if pickup.part[0] <= 0 else wet - up_to_low, 0, 1))


def stripes_reached(cake: Cake) -> Array:
    """Return how well each stripe is reached, in [0, 1]: 0 when it is worn out, shape (stripes,)."""
    return np.array([min(max((cake.depth_mm - stripe.hollow_mm) / REACH_MM, 0.0), 1.0) for stripe in cake.stripes])


def blurred_stripes(cake: Cake, bins_mm: Array, sd: float) -> Array:
    """Return the mean share of each stripe over bins.

    Parameters
    ----------
    bins_mm
        Edges of the bins, ascending, mm from the left wall, shape (n + 1,). Beyond a wall the cake's mirror
        image goes on.
    sd
        Standard deviation of the blur, mm, >= 0.

    Returns
    -------
    Shares in [0, 1], shape (stripes, n), summing to 1 in every bin.
    """
    images = 1 + math.ceil(8 * sd / cake.width_mm)
    pieces, stripe = _ramps(cake, bins_mm, sd, images) if cake.ombre else _steps(cake, bins_mm, sd, images)
    whose = (stripe == np.arange(len(cake.stripes))[:, None]).astype(float)
    return np.asarray(np.minimum(np.maximum(whose @ pieces, 0), 1))


def _steps(cake: Cake, bins_mm: Array, sd: float, images: int) -> tuple[Array, NDArray[np.intp]]:
    """Return pieces of plain stripes, with only those edges that the blur reaches from the bins."""
    edges, stripe = _reflected(tuple(one.width_mm for one in cake.stripes), images)
    inner = edges[1:-1]
    first = int(inner.searchsorted(bins_mm[0] - _FAR * sd))
    last = max(first, int(inner.searchsorted(bins_mm[-1] + _FAR * sd)))
    reached = phi_integral(inner[first:last, None] - bins_mm, sd)
    left_of = np.zeros((last - first + 2, len(bins_mm) - 1))
    # mean over the bin of Phi((edge - x) / sd): how much of it lies left of that edge
    left_of[1:-1] = (reached[:, :-1] - reached[:, 1:]) / (bins_mm[1:] - bins_mm[:-1])
    left_of[-1] = 1.0
    return left_of[1:] - left_of[:-1], stripe[first : last + 1]


@kept
def _reflected(widths: tuple[float, ...], images: int) -> tuple[Array, NDArray[np.intp]]:
    """Return edges in mm and stripe indices of a cake with mirror images on both sides, far enough for the blur."""
    order = [
        index if image % 2 == 0 else len(widths) - 1 - index
        for image in range(-images, images + 1)
        for index in range(len(widths))
    ]
    total = sum(widths)
    edges = -images * total + np.concatenate([[0.0], np.cumsum([widths[index] for index in order])])
    return edges, np.array(order)


def _ramps(cake: Cake, bins_mm: Array, sd: float, images: int) -> tuple[Array, NDArray[np.intp]]:
    """Return pieces of an ombre cake: tones that rise and fall evenly between the middles of their stripes."""
    middles = np.array(cake.middles_mm)
    width, count = cake.width_mm, len(middles)
    knots: list[float] = []
    tones: list[int] = []
    for image in range(-images, images + 1):
        forward = image % 2 == 0
        knots.extend((middles if forward else width - middles[::-1]) + image * width)
        tones.extend(range(count) if forward else range(count - 1, -1, -1))
    places, which = np.array(knots), np.array(tones)
    keep = np.concatenate([[True], np.diff(places) > 1e-9])  # tones meet at a wall in one knot
    places, which = places[keep], which[keep]
    ramp = np.diff(phi_integral_twice(bins_mm - places[:, None], sd), axis=1) / np.diff(bins_mm)
    risen = np.clip((ramp[:-1] - ramp[1:]) / np.diff(places)[:, None], 0, 1)  # 0 before a pair of knots, 1 behind it
    ones = np.ones((1, len(bins_mm) - 1))
    return np.diff(np.concatenate([ones, risen, 0 * ones]), axis=0) * -1, which
