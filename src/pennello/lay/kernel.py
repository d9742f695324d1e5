"""The kernel of the film in Numba: splat, uptake, levelling, coverage, baking and compositing, all without the GIL.

Pixels are interleaved, [row, column, channel]: a drop then touches one run of memory for each of its four pixels, and
levelling still runs along memory. The channels are those of `channels`: K at each band, S in two parts, water, and the
solids themselves, last. Only imported in the background: Numba costs a second. The NumPy functions in deposit, coverage
and reference are the truth that it is held to.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit, prange

from pennello.lay.drying import DRY, MIXING
from pennello.lay.skin_film import LEAST_COVER, THIN_UM, TIE

_LINES = 4
CHANNELS = 12
"""8 bands, S even and falling, water and solids: what the pixel path runs on."""

_BESIDES_K = 4
_DRY, _MIXING = np.float32(DRY), np.float32(MIXING)
_THIN_UM = np.float32(THIN_UM)
_LEAST_COVER = np.float32(LEAST_COVER)

_FAST = {"nogil": True, "cache": True, "fastmath": True, "boundscheck": False}


@njit(**_FAST)
def _all(px):
    """Return the channels of a pixel as one value: read before anything is written, whatever lies where."""
    return (px[0], px[1], px[2], px[3], px[4], px[5], px[6], px[7], px[8], px[9], px[10], px[11])


@njit(**_FAST)
def _plus(px, share, channels):
    """Add a share of another pixel's channels to a pixel's, in place."""
    px[0] += share * channels[0]
    px[1] += share * channels[1]
    px[2] += share * channels[2]
    px[3] += share * channels[3]
    px[4] += share * channels[4]
    px[5] += share * channels[5]
    px[6] += share * channels[6]
    px[7] += share * channels[7]
    px[8] += share * channels[8]
    px[9] += share * channels[9]
    px[10] += share * channels[10]
    px[11] += share * channels[11]


@njit(**_FAST)
def splat(out, pose, count, stretch, given, contents, sides, fine, place):
    """Add the drops of all events to out; contents is (stretches, bins, channels), per bin."""
    bins, channels, last = contents.shape[1], contents.shape[2], sides.shape[0] - 1
    amounts = np.empty((bins, channels), np.float32)
    for k in range(pose.shape[0]):
        for b in range(bins):
            for ch in range(channels):
                amounts[b, ch] = given[k, b] * contents[stretch[k], b, ch]
        _drop(out, pose[k], count[k], sides[min(k, last)], fine, place, amounts)


@njit(**_FAST)
def _drop(out, pose, drops, sides, fine, place, amounts):
    """Share out what each bin gives in one event over its drops, each over four pixels."""
    left, top, px = place
    bins, rows, columns = amounts.shape[0], out.shape[0], out.shape[1]
    ex, ey, width, thick = pose[2], pose[3], pose[4], pose[5]
    shift = pose[6] * width / (bins * fine)
    cx, cy = (pose[0] + shift * ex - left) * px - 0.5, (pose[1] + shift * ey - top) * px - 0.5
    share = np.float32(1.0 / (drops * fine))
    for b in range(bins):
        if amounts[b, CHANNELS - 1] <= 0.0:
            continue
        for a in range(fine):
            u = ((b * fine + a + 0.5) / (bins * fine) - 0.5) * width * px
            for c in range(drops):
                v = (sides[0, b] + (c + 0.5) / drops * (sides[1, b] - sides[0, b])) * thick * px
                x, y = cx + u * ex - v * ey, cy + u * ey + v * ex
                ix, iy = int(math.floor(x)), int(math.floor(y))
                if ix < 0 or iy < 0 or ix >= columns - 1 or iy >= rows - 1:
                    continue
                fx, fy = np.float32(x - ix), np.float32(y - iy)
                w11 = share * fx * fy
                w01 = share * fy - w11
                w10 = share * fx - w11
                w00 = share - share * fy - w10
                upper, lower = out[iy, ix : ix + 2], out[iy + 1, ix : ix + 2]
                held = _all(amounts[b])  # read here it comes in three pieces; before the loops it would lie in twelve
                _plus(upper[0], w00, held)
                _plus(upper[1], w10, held)
                _plus(lower[0], w01, held)
                _plus(lower[1], w11, held)


@njit(**_FAST)
def splat_wet(
    out, below, swept, pose, count, stretch, given, held, passes, contents, sides, fine, place, taking, keeps, carried
):
    """Add drops and take wet paint up: out gets what is laid less what is taken, carried what is in the bins.

    below is the wet film, (rows, columns, channels), and stays as it is; passes (events, bins) is how often a bin
    passes over the ground under it; taking is the share of a film that one pass takes, the least film, um, and how
    many times faster what was taken is given than a bin's own; keeps (stretches, bins) is what a reload leaves of it.
    """
    bins, channels, last = contents.shape[1], contents.shape[2], sides.shape[0] - 1
    uptake, least_um, surface, block = taking
    cells = _pooled(below, swept, block)
    kept = np.ones(cells.shape[:2], np.float32)
    least = np.float32(least_um * block * block)
    amounts = np.empty((bins, channels), np.float32)
    got, part = np.zeros((bins, channels), np.float32), np.empty(bins, np.float32)
    now = -1
    for k in range(pose.shape[0]):
        if stretch[k] != now:
            now = stretch[k]
            for b in range(bins):
                for ch in range(channels):
                    carried[b, ch] *= keeps[now, b]
        part[:] = -1.0
        under = (pose[k], sides[min(k, last)], passes[k])
        took = _take(cells, kept, under, place, block, part, uptake, least, got)
        for b in range(bins):
            for ch in range(channels):
                amounts[b, ch] = given[k, b] * contents[now, b, ch]
            if carried[b, channels - 1] > 0.0:
                own = min(given[k, b] / held[k, b], 1.0) if held[k, b] > 1e-12 else 0.0
                away = np.float32(1.0 - (1.0 - own) ** surface)
                before = _all(carried[b])
                _plus(amounts[b], away, before)
                _plus(carried[b], -away, before)
        if took:
            _share_got(got, carried, pose[k, 4] / bins * place[2] / block)
        _drop(out, pose[k], count[k], sides[min(k, last)], fine, place, amounts)
    _lose(out, below, swept, kept, block)


@njit(**_FAST)
def _pooled(below, swept, block):
    """Return the film that a stroke comes over, added up in cells of some pixels a side."""
    rows, columns, channels = below.shape
    cells = np.zeros(((rows + block - 1) // block, (columns + block - 1) // block, channels), np.float32)
    for r in range(rows):
        for c in range(columns):
            if swept[r, c] > 0.0 and below[r, c, channels - 1] > 0.0:
                _plus(cells[r // block, c // block], np.float32(1.0), _all(below[r, c]))
    return cells


@njit(**_FAST)
def _take(cells, kept, under, place, block, part, uptake, least, got):
    """Take up a part of what lies in the cells under each bin, once; got (bins, channels) gets it.

    part (bins) is the share that a bin takes, below 0 where no cell has asked for it.
    """
    pose, sides, passes = under
    left, top, px = place
    rows, columns, channels = cells.shape
    bins = part.shape[0]
    ex, ey, width, thick = pose[2], pose[3], pose[4], pose[5]
    cell = block / px
    near, far = sides[0].min() * thick, sides[1].max() * thick
    reach_y = abs(ey) * width / 2 + max(abs(near), abs(far)) * abs(ex)
    low = max(0, int(math.floor((pose[1] - reach_y - top) / cell)))
    high = min(rows - 1, int(math.floor((pose[1] + reach_y - top) / cell)) + 1)
    took = False
    for r in range(low, high + 1):
        y = top + (r + 0.5) * cell - pose[1]
        # u = x ex + y ey lies within the width, v = y ex - x ey within the thickness: both bound x
        start, end = -1e9, 1e9
        if abs(ex) > 1e-9:
            one, other = (-width / 2 - y * ey) / ex, (width / 2 - y * ey) / ex
            start, end = max(start, min(one, other)), min(end, max(one, other))
        if abs(ey) > 1e-9:
            one, other = (y * ex - near) / ey, (y * ex - far) / ey
            start, end = max(start, min(one, other)), min(end, max(one, other))
        first = max(0, int(math.floor((pose[0] + start - left) / cell - 0.5)))
        last = min(columns - 1, int(math.ceil((pose[0] + end - left) / cell - 0.5)))
        for c in range(first, last + 1):
            if cells[r, c, channels - 1] <= least:
                continue
            x = left + (c + 0.5) * cell - pose[0]
            b = int(math.floor(((x * ex + y * ey) / width + 0.5) * bins + TIE))
            if b < 0 or b >= bins or passes[b] <= 0.0:
                continue
            v = y * ex - x * ey
            if v < sides[0, b] * thick - TIE or v > sides[1, b] * thick + TIE:
                continue
            took = True
            if part[b] < 0.0:
                part[b] = np.float32(1.0 - math.exp(-passes[b] * uptake))
            kept[r, c] *= np.float32(1.0) - part[b]
            before = _all(cells[r, c])
            _plus(got[b], part[b], before)
            _plus(cells[r, c], -part[b], before)
    return took


@njit(**_FAST)
def _share_got(got, carried, bins_of_cell):
    """Give what was taken to the bins that a cell is wide, and forget it; what hangs over is given to the end."""
    bins, channels = got.shape
    half = int(0.5 / max(bins_of_cell, 1e-9) + 0.5)
    part = np.float32(1.0 / (2 * half + 1))
    for b in range(bins):
        if got[b, channels - 1] == 0.0:
            continue
        for other in range(b - half, b + half + 1):
            to = min(max(other, 0), bins - 1)
            _plus(carried[to], part, _all(got[b]))
        for ch in range(channels):
            got[b, ch] = 0.0


@njit(**_FAST)
def _lose(out, below, swept, kept, block):
    """Take from each pixel the share that its cell has lost."""
    rows, columns, _ = below.shape
    for r in range(rows):
        for c in range(columns):
            lost = np.float32(1.0) - kept[r // block, c // block]
            if lost > 0.0 and swept[r, c] > 0.0:
                _plus(out[r, c], -lost, _all(below[r, c]))


@njit(**_FAST)
def level(change, coverage, weights):
    """Level interleaved channels inside the swept area, in place; weights is half a symmetric kernel."""
    rows, columns, channels = change.shape
    first, last = np.empty(rows, np.int64), np.empty(rows, np.int64)
    for r in range(rows):
        first[r], last[r] = columns, -1
        for c in range(columns):
            if coverage[r, c] > 0.0:
                first[r], last[r] = min(first[r], c), c
    _share_out(change, coverage, weights, first, last)
    flat = change.reshape(rows, columns * channels)
    across = _across(flat, weights, first, last, channels)
    for r in range(rows):
        flat[r, :] = 0.0
        if last[r] >= 0:
            _down(across, r, first[r] * channels, flat[r, first[r] * channels : (last[r] + 1) * channels], weights)
            _scale(change[r, first[r] : last[r] + 1], coverage[r, first[r] : last[r] + 1])


@njit(**_FAST)
def _share_out(change, coverage, weights, first, last):
    """Divide what lies on each pixel by how much of its neighbourhood is covered, and so will get it."""
    rows, columns, _ = change.shape
    across = _across(coverage, weights, first, last, 1)
    reached, factor = np.empty(columns, np.float32), np.empty(columns, np.float32)
    for r in range(rows):
        reached[:] = 0.0
        _down(across, r, 0, reached, weights)
        for c in range(columns):
            factor[c] = np.float32(1.0) / reached[c] if reached[c] > 1e-12 else np.float32(0.0)
        _scale(change[r], factor)


@njit(**_FAST)
def _scale(pixels, factors):
    """Multiply all channels of each pixel, in place."""
    for c in range(pixels.shape[0]):
        for ch in range(pixels.shape[1]):
            pixels[c, ch] *= factors[c]


@njit(**_FAST)
def _across(flat, weights, first, last, channels):
    """Return the rows blurred along themselves, with as many empty rows before and after as the blur reaches."""
    rows, line = flat.shape
    reach, columns = weights.shape[0] - 1, line // channels
    across = np.zeros((rows + 2 * reach, line), np.float32)
    source = np.empty(line + 2 * reach * channels, np.float32)
    for r in range(rows):
        start, end = columns, -1
        for other in range(max(0, r - 2), min(rows, r + 3)):  # drops reach a little beyond what is covered
            start, end = min(start, first[other]), max(end, last[other])
        if end < 0:
            continue
        low, high = max(0, start - reach) * channels, min(columns, end + reach + 1) * channels
        margin, span = reach * channels, high - low
        source[:margin] = 0.0
        source[margin : margin + span] = flat[r, low:high]
        source[margin + span : 2 * margin + span] = 0.0
        target = across[r + reach, low:high]
        _add(target, source[margin:], weights[0])
        for j in range(1, reach + 1, 2):
            near, far = j * channels, min(j + 1, reach) * channels
            before, after = source[margin - near :], source[margin + near :]
            further = np.float32(0.0) if j == reach else weights[j + 1]
            _add_pairs(target, before, after, source[margin - far :], source[margin + far :], weights[j], further)
    return across


@njit(**_FAST)
def _down(across, r, low, target, weights):
    """Add to a row what comes to it from above and below."""
    reach, high = weights.shape[0] - 1, low + target.shape[0]
    at = r + reach
    _add(target, across[at, low:high], weights[0])
    for j in range(1, reach + 1, 2):
        far = min(j + 1, reach)
        above, below = across[at - j, low:high], across[at + j, low:high]
        further = np.float32(0.0) if j == reach else weights[j + 1]
        _add_pairs(target, above, below, across[at - far, low:high], across[at + far, low:high], weights[j], further)


@njit(**_FAST)
def _add(target, source, weight):
    for i in range(target.shape[0]):
        target[i] += weight * source[i]


@njit(**_FAST)
def _add_pairs(target, one, other, third, fourth, near, far):
    """Add two pairs at once: target is read and written half as often."""
    for i in range(target.shape[0]):
        target[i] += near * (one[i] + other[i]) + far * (third[i] + fourth[i])


@njit(**_FAST)
def cover(quads, rows, columns):
    """Return which part of each pixel a set of quadrilaterals covers: 4 lines of 64 places in each."""
    lines = rows * _LINES
    mask = np.zeros((lines, columns), np.uint64)
    for q in range(quads.shape[0]):
        low, high = 1e30, -1e30
        for side in range(4):
            y = quads[q, side, 1] * _LINES - 0.5
            low, high = min(low, y), max(high, y)
        for line in range(max(0, int(math.ceil(low))), min(lines - 1, int(math.floor(high))) + 1):
            start, end = 1e30, -1e30
            for side in range(4):
                x0, y0 = quads[q, side, 0], quads[q, side, 1] * _LINES - 0.5
                other = (side + 1) & 3
                x1, y1 = quads[q, other, 0], quads[q, other, 1] * _LINES - 0.5
                if abs(y1 - y0) < 1e-9 or line < min(y0, y1) or line > max(y0, y1):
                    continue
                x = x0 + (line - y0) * (x1 - x0) / (y1 - y0)
                start, end = min(start, x), max(end, x)
            if end >= start:
                _mark(mask[line], start, end, columns)
    result = np.zeros((rows, columns), np.float32)
    for line in range(lines):
        for c in range(columns):
            if mask[line, c]:
                result[line // _LINES, c] += _ones(mask[line, c]) * np.float32(1.0 / 64 / _LINES)
    return result


@njit(**_FAST)
def _mark(row, start, end, columns):
    low, high = int(math.floor(start * 64.0 + 0.5)), int(math.floor(end * 64.0 + 0.5))
    low, high = max(low, 0), min(high, columns * 64)
    if high <= low:
        return
    first, last = low >> 6, (high - 1) >> 6
    full = np.uint64(0xFFFFFFFFFFFFFFFF)
    from_low, to_high = full << np.uint64(low & 63), full >> np.uint64(63 - ((high - 1) & 63))
    if first == last:
        row[first] |= from_low & to_high
        return
    row[first] |= from_low
    for c in range(first + 1, last):
        row[c] = full
    row[last] |= to_high


@njit(**_FAST)
def _ones(bits):
    bits = bits - ((bits >> np.uint64(1)) & np.uint64(0x5555555555555555))
    bits = (bits & np.uint64(0x3333333333333333)) + ((bits >> np.uint64(2)) & np.uint64(0x3333333333333333))
    bits = (bits + (bits >> np.uint64(4))) & np.uint64(0x0F0F0F0F0F0F0F0F)
    return (bits * np.uint64(0x0101010101010101)) >> np.uint64(56)


@njit(**_FAST)
def _film(depth_k, depth_s, below):
    """Return the reflectance of a film on a ground (Kubelka & Munk in the form that never overflows).

    tanh(x) / x in q = x^2 by its Pade approximant [7/6], within 1e-4 up to x = 5, and 1 / x beyond.
    """
    q = depth_k * (depth_k + np.float32(2.0) * depth_s)
    if q < np.float32(25.0):
        above = np.float32(135135.0) + q * (np.float32(17325.0) + q * (np.float32(378.0) + q))
        under = np.float32(135135.0) + q * (np.float32(62370.0) + q * (np.float32(3150.0) + np.float32(28.0) * q))
        t = above / under
    else:
        t = np.float32(1.0) / np.float32(math.sqrt(q))
    total = depth_k + depth_s
    return (below + t * (depth_s - below * total)) / (np.float32(1.0) + t * (total - below * depth_s))


@njit(**_FAST)
def bake(wet, cover_wet, as_of_s, body_um, ground, dry_um, swept, at_s, rate_um_s, fall, most_depth):
    """Let what has set by now become ground where a stroke comes (swept above 0); see Reference.bake."""
    rows, columns, channels = wet.shape
    bands, one, none = channels - _BESIDES_K, np.float32(1.0), np.float32(0.0)
    for r in range(rows):
        for c in range(columns):
            part = cover_wet[r, c]
            if part <= none or swept[r, c] <= none or wet[r, c, channels - 1] <= none:
                continue
            here, below, body = wet[r, c], ground[r, c], body_um[r, c]
            solids = here[channels - 1]
            water = here[channels - 2] / solids if solids > _THIN_UM else none
            left = max(water * body - rate_um_s * max(at_s - as_of_s[r, c], none), none) / body
            above = max(left - _DRY, none) / (one - _DRY)
            stays = min(min(_MIXING * above * above, one) * body / solids, one)
            as_of_s[r, c] = at_s
            sets = one - stays
            if sets > none:
                dry_um[r, c] += solids * sets
                inner = sets / max(part, _LEAST_COVER)
                even, falling = here[bands] * inner, here[bands + 1] * inner
                for band in range(bands):
                    k, s = min(here[band] * inner, most_depth), min(even + falling * fall[band], most_depth)
                    below[band] += part * (_film(k, s, below[band]) - below[band])
                for ch in range(channels):
                    here[ch] *= stays
            here[channels - 2] = here[channels - 1] * left
            if stays <= none:
                cover_wet[r, c], body_um[r, c] = none, none


@njit(**_FAST)
def settle(wet, cover_wet, as_of_s, body_um, change, swept, at_s):
    """Add what a stroke changed to the wet film, in place: solids, water, what it covers; see Reference.settle."""
    rows, columns, channels = wet.shape
    none = np.float32(0.0)
    for r in range(rows):
        for c in range(columns):
            part = swept[r, c]
            if part <= none:
                continue
            here, more = wet[r, c], change[r, c]
            before = here[channels - 1]
            set_um = max(body_um[r, c] - before, none)
            ratio = here[channels - 2] / before if before > _THIN_UM else none
            for ch in range(channels):
                here[ch] = max(here[ch] + more[ch], none)
            body = set_um + here[channels - 1]
            if body > _THIN_UM:
                here[channels - 2] = (here[channels - 2] + ratio * set_um) * here[channels - 1] / body
            else:
                here[channels - 2] = none
            body_um[r, c], as_of_s[r, c] = body, at_s
            cover_wet[r, c] += part - cover_wet[r, c] * part


@njit(parallel=True, **_FAST)
def shown(wet, cover_wet, ground, to_rgb, table, fall, most_depth):
    """Return the sRGB bytes of wet film on its ground, row by row on as many threads as there are."""
    rows, columns, channels = wet.shape
    bands, levels = channels - _BESIDES_K, table.shape[0] - 1
    result = np.empty((rows, columns, 3), np.uint8)
    for r in prange(rows):
        for c in range(columns):
            red, green, blue = 0.0, 0.0, 0.0
            part = cover_wet[r, c]
            inner = max(part, _LEAST_COVER)
            even, falling = wet[r, c, bands] / inner, wet[r, c, bands + 1] / inner
            for band in range(bands):
                value = ground[r, c, band]
                if part > 0.0:
                    k, s = min(wet[r, c, band] / inner, most_depth), min(even + falling * fall[band], most_depth)
                    value += part * (_film(k, s, value) - value)
                red += value * to_rgb[band, 0]
                green += value * to_rgb[band, 1]
                blue += value * to_rgb[band, 2]
            result[r, c, 0] = table[int(min(max(red, 0.0), 1.0) * levels + 0.5)]
            result[r, c, 1] = table[int(min(max(green, 0.0), 1.0) * levels + 0.5)]
            result[r, c, 2] = table[int(min(max(blue, 0.0), 1.0) * levels + 0.5)]
    return result
