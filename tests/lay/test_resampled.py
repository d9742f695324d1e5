"""Means over other pixels: nothing is lost or added; held against adding up whole blocks by NumPy."""

import numpy as np
import pytest

from pennello.lay.canvas import Canvas
from pennello.lay.resampled import resampled

FINE = Canvas(-3.0, 2.0, 90, 60, 3.0)


@pytest.mark.parametrize("channels", [(), (4,)])
def test_whole_blocks_are_their_means(channels):
    values = np.random.default_rng(3).random((60, 90, *channels)).astype(np.float32)
    coarse = resampled(values, FINE, Canvas(-3.0, 2.0, 30, 20, 1.0))
    assert coarse.dtype == values.dtype
    blocks = values.reshape(20, 3, 30, 3, *channels).mean(axis=(1, 3))
    assert np.allclose(coarse, blocks, atol=1e-6)


@pytest.mark.parametrize("px", [0.7, 2.0, 4.3])
def test_nothing_is_lost_or_added(px):
    values = np.random.default_rng(4).random((60, 90)).astype(np.float32)
    wide = Canvas(-5.0, 0.0, int(36 * px) + 2, int(26 * px) + 2, px)
    there = resampled(values, FINE, wide)
    assert there.sum() / px**2 == pytest.approx(values.sum() / 9, rel=1e-5)


def test_what_lies_beside_is_told():
    values = np.full((60, 90, 2), 5.0, np.float32)
    there = resampled(values, FINE, Canvas(-13.0, 2.0, 20, 10, 1.0), np.array([1.0, 2.0], np.float32))
    assert np.allclose(there[:, :10], (1.0, 2.0))
    assert np.allclose(there[:, 10:], 5.0)
