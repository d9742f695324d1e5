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

from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.load.gaussian import phi_integral
from pennello.load.recipe import PickUp

Array = NDArray[np.floating[Any]]

BINS = 64


def bin_centres() -> Array:
    """Return u of the bin centres, from A to B, shape (64,)."""
    return (np.arange(BINS) + 0.5) / BINS


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


def met_shares(pickup: PickUp, cake: Cake, brush: Applicator) -> tuple[Array, Array]:
    """Return what each bin meets.

    Returns
    -------
    Shares of the cake's stripes in [0, 1], shape (stripes, 64) in the order A to B, which sum to 1 over the
    stripes in every bin; and the part of each bin that is over the cake at all, in [0, 1], shape (64,).
    """
    bins = bin_edges_mm(pickup, brush)
    inside = np.clip(bins, 0, cake.width_mm)
    over = np.diff(inside) / np.diff(bins)
    shares = blurred_stripes(cake, bins, blur_mm(pickup, cake, brush))
    return (shares[:, ::-1], over[::-1]) if pickup.flip else (shares, over)


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
    edges, stripe = _reflected(cake, sd)
    span = np.diff(bins_mm)
    # mean over the bin of Phi((edge - x) / sd): how much of it lies left of that edge
    left_of = [-np.diff(phi_integral(edge - bins_mm, sd)) / span for edge in edges[1:-1]]
    pieces = np.diff(np.array([np.zeros_like(span), *left_of, np.ones_like(span)]), axis=0)
    shares = np.zeros((len(cake.stripes), len(span)))
    np.add.at(shares, stripe, pieces)
    return np.clip(shares, 0, 1)


def _reflected(cake: Cake, sd: float) -> tuple[list[float], list[int]]:
    """Return edges in mm and stripe indices of the cake with mirror images on both sides, far enough for the blur."""
    images = 1 + math.ceil(8 * sd / cake.width_mm)
    edges, stripe = [-images * cake.width_mm], []
    widths = [one.width_mm for one in cake.stripes]
    for image in range(-images, images + 1):
        order = range(len(widths)) if image % 2 == 0 else range(len(widths) - 1, -1, -1)
        for index in order:
            edges.append(edges[-1] + widths[index])
            stripe.append(index)
    return edges, stripe
