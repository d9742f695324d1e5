"""The kernel of the film in Numba: splat, pick-up, levelling, coverage, baking and compositing, all without the GIL.

Pixels are interleaved, [row, column, channel]: a drop then touches one run of memory for each of its four pixels, and
levelling still runs along memory. The channels are K at each band, S, and the solids themselves. Only imported in the
background: Numba costs a second. The NumPy functions in deposit, coverage and wet are the truth that it is held to.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit, prange

_LINES = 4
ALL_WET, ALL_DRY = np.float32(0.985), np.float32(0.015)
CHANNELS = 10
"""8 bands, S and the solids: what the pixel path runs on."""

_FAST = {"nogil": True, "cache": True, "fastmath": True, "boundscheck": False}


@njit(**_FAST)
def splat(out, pose, count, stretch, given, contents, sides, fine, left, top, px):
    """Add the drops of all events to out; contents is (stretches, bins, channels), per bin."""
    bins, channels = contents.shape[1], contents.shape[2]
    rows, columns = out.shape[0], out.shape[1]
    for k in range(pose.shape[0]):
        ex, ey, width, thick = pose[k, 2], pose[k, 3], pose[k, 4], pose[k, 5]
        shift = pose[k, 6] * width / (bins * fine)
        cx = (pose[k, 0] + shift * ex - left) * px - 0.5
        cy = (pose[k, 1] + shift * ey - top) * px - 0.5
        drops = count[k]
        for b in range(bins):
            share = np.float32(given[k, b] / (drops * fine))
            if share <= 0.0:
                continue
            held = contents[stretch[k], b]
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
                    if channels == CHANNELS:  # known when it is compiled, and so done without a loop
                        for ch in range(CHANNELS):
                            value = held[ch]
                            upper[0, ch] += w00 * value
                            upper[1, ch] += w10 * value
                            lower[0, ch] += w01 * value
                            lower[1, ch] += w11 * value
                        continue
                    for ch in range(channels):
                        value = held[ch]
                        upper[0, ch] += w00 * value
                        upper[1, ch] += w10 * value
                        lower[0, ch] += w01 * value
                        lower[1, ch] += w11 * value


@njit(**_FAST)
def splat_wet(
    out, below, pose, count, stretch, given, held, area, contents, sides, fine, place, rate, keeps, carried, surface
):
    """Add drops and take wet paint up: out gets what is left less what is taken, carried what is in the bins.

    below is what is wet, (rows, columns, channels), and loses what is taken; rate is how much of the film over the
    ground that a bin passes goes into it, at each pixel; keeps (stretches, bins) is what a reload leaves of it.
    """
    bins, channels = contents.shape[1], contents.shape[2]
    pixels, columns = out.shape[0] * out.shape[1], out.shape[1]
    most = bins * fine * max(1, count.max()) * 4
    taps, weights = np.empty(most, np.uint32), np.empty(most, np.float32)
    load, loss = np.zeros(pixels, np.float32), np.zeros(pixels, np.float32)
    film, result, rates = below.reshape(pixels, channels), out.reshape(pixels, channels), rate.reshape(pixels)
    now = -1
    for k in range(pose.shape[0]):
        if stretch[k] != now:
            now = stretch[k]
            for b in range(bins):
                for ch in range(channels):
                    carried[b, ch] *= keeps[now, b]
        per = count[k] * fine
        n = _find_taps(taps, weights, pose[k], count[k], sides, fine, place, out.shape[0], columns)
        ground = (area[k] / per * place[2] * place[2]).astype(np.float32)
        wet = _weigh(load, loss, taps, weights, ground, rates, per * 4)
        _exchange(
            film,
            result,
            taps,
            weights,
            ground,
            rates,
            loss,
            per,
            given[k],
            held[k],
            contents[now],
            carried,
            surface,
            wet,
        )
        if wet:
            _lose(film, result, load, loss, taps, n)


@njit(**_FAST)
def _lose(film, result, load, loss, taps, n):
    """Take from each pixel what has been taken up, once, and forget what was asked of it."""
    channels = film.shape[1]
    for t in range(n):
        at = taps[t]
        if load[at] > 0.0:
            lost = load[at] * loss[at]
            for ch in range(channels):
                taken = film[at, ch] * lost
                result[at, ch] -= taken
                film[at, ch] -= taken
            load[at], loss[at] = 0.0, 0.0


@njit(**_FAST)
def _find_taps(taps, weights, pose, drops, sides, fine, place, rows, columns):
    """Find the four pixels of each drop of an event and their weights; return how many there are."""
    left, top, px = place
    bins = sides.shape[1]
    ex, ey, width, thick = pose[2], pose[3], pose[4], pose[5]
    shift = pose[6] * width / (bins * fine)
    cx, cy = (pose[0] + shift * ex - left) * px - 0.5, (pose[1] + shift * ey - top) * px - 0.5
    n = 0
    for b in range(bins):
        for a in range(fine):
            u = ((b * fine + a + 0.5) / (bins * fine) - 0.5) * width * px
            for c in range(drops):
                v = (sides[0, b] + (c + 0.5) / drops * (sides[1, b] - sides[0, b])) * thick * px
                x, y = cx + u * ex - v * ey, cy + u * ey + v * ex
                ix, iy = int(math.floor(x)), int(math.floor(y))
                if ix < 0 or iy < 0 or ix >= columns - 1 or iy >= rows - 1:
                    for tap in range(4):
                        taps[n + tap], weights[n + tap] = 0, 0.0
                else:
                    fx, fy = x - ix, y - iy
                    first = iy * columns + ix
                    taps[n], taps[n + 1] = first, first + 1
                    taps[n + 2], taps[n + 3] = first + columns, first + columns + 1
                    weights[n + 3] = fx * fy
                    weights[n + 2] = fy - weights[n + 3]
                    weights[n + 1] = fx - weights[n + 3]
                    weights[n] = 1.0 - fy - weights[n + 1]
                n += 4
    return n


@njit(**_FAST)
def _weigh(load, loss, taps, weights, ground, rates, per_bin):
    """Add up what is asked of each pixel, and find what part of it each asker gets: a pixel keeps e^-load.

    Return whether anything is asked at all.
    """
    wet = False
    for b in range(ground.shape[0]):
        for t in range(b * per_bin, (b + 1) * per_bin):
            if rates[taps[t]] > 0.0:
                wet = True
                load[taps[t]] += weights[t] * ground[b] * rates[taps[t]]
    if not wet:
        return wet
    for t in range(ground.shape[0] * per_bin):
        at = taps[t]
        asked = load[at]
        if asked > 0.0 and loss[at] == 0.0:  # (1 - e^-x) / x, by its series where x is small
            if asked < 0.6:
                loss[at] = 1.0 - asked * (0.5 - asked * (1 / 6 - asked * (1 / 24 - asked * (1 / 120 - asked / 720))))
            else:
                loss[at] = (1.0 - math.exp(-asked)) / asked
    return wet


@njit(**_FAST)
def _exchange(film, result, taps, weights, ground, rates, loss, per, given, held, contents, carried, surface, wet):
    """Lay what each bin gives, its own and what it carries, and count what it gets; the pixels lose it afterwards."""
    channels = contents.shape[1]
    got = np.zeros(channels, np.float32)
    laid = np.zeros(channels, np.float32)
    for b in range(contents.shape[0]):
        own = min(given[b] / held[b], 1.0) if held[b] > 1e-12 else 0.0
        away = np.float32(1.0 - (1.0 - own) ** surface)
        for ch in range(channels):
            laid[ch] = (given[b] * contents[b, ch] + away * carried[b, ch]) / per
            got[ch] = 0.0
        for t in range(b * per * 4, (b + 1) * per * 4):
            at, weight = taps[t], weights[t]
            if not wet:
                for ch in range(channels):
                    result[at, ch] += weight * laid[ch]
                continue
            part = weight * ground[b] * rates[at] * loss[at]
            if channels == CHANNELS:  # known when it is compiled, and so done without a loop
                for ch in range(CHANNELS):
                    result[at, ch] += weight * laid[ch]
                    got[ch] += part * film[at, ch]
            else:
                for ch in range(channels):
                    result[at, ch] += weight * laid[ch]
                    got[ch] += part * film[at, ch]
        for ch in range(channels):
            carried[b, ch] += got[ch] - carried[b, ch] * away


@njit(**_FAST)
def level(change, coverage, weights):
    """Level interleaved channels inside the swept area, in place; weights is half a symmetric kernel."""
    rows, columns, channels = change.shape
    flat = change.reshape(rows, columns * channels)
    first, last = np.empty(rows, np.int64), np.empty(rows, np.int64)
    for r in range(rows):
        first[r], last[r] = columns, -1
        for c in range(columns):
            if coverage[r, c] > 0.0:
                first[r], last[r] = min(first[r], c), c
    reached = _blurred_plane(coverage, weights, first, last)
    for r in range(rows):
        for c in range(columns):
            factor = 1.0 / reached[r, c] if reached[r, c] > 1e-12 else 0.0
            for i in range(c * channels, (c + 1) * channels):
                flat[r, i] *= factor
    _level_lines(flat, coverage, weights, first, last, channels)


@njit(**_FAST)
def _level_lines(flat, coverage, weights, first, last, channels):
    """Blur along both axes what has been shared out, and give each pixel its covered part of it."""
    rows, line = flat.shape
    reach, columns = weights.shape[0] - 1, line // channels
    across = np.zeros((rows, line), np.float32)
    for r in range(rows):
        start, end = columns, -1
        for other in range(max(0, r - 2), min(rows, r + 3)):  # drops reach a little beyond what is covered
            start, end = min(start, first[other]), max(end, last[other])
        if end >= 0:
            low, high = max(0, start - reach) * channels, min(columns, end + reach + 1) * channels
            source = np.zeros(high - low + 2 * reach * channels, np.float32)
            inner = source[reach * channels : reach * channels + high - low]
            inner[:] = flat[r, low:high]
            target = across[r, low:high]
            _add(target, inner, weights[0])
            for j in range(1, reach + 1):
                middle = reach * channels
                before, after = source[middle - j * channels :], source[middle + j * channels :]
                _add_both(target, before, after, weights[j])
    for r in range(rows):
        flat[r, :] = 0.0
        if last[r] < 0:
            continue
        low, high = first[r] * channels, (last[r] + 1) * channels
        target = flat[r, low:high]
        _add(target, across[r, low:high], weights[0])
        for j in range(1, reach + 1):
            above, below = across[max(r - j, 0), low:high], across[min(r + j, rows - 1), low:high]
            if r - j >= 0 and r + j < rows:
                _add_both(target, above, below, weights[j])
            elif r - j >= 0:
                _add(target, above, weights[j])
            elif r + j < rows:
                _add(target, below, weights[j])
        for c in range(last[r] - first[r] + 1):
            part = coverage[r, first[r] + c]
            pixel = target[c * channels : (c + 1) * channels]
            for ch in range(channels):
                pixel[ch] *= part


@njit(**_FAST)
def _add(target, source, weight):
    for i in range(target.shape[0]):
        target[i] += weight * source[i]


@njit(**_FAST)
def _add_both(target, one, other, weight):
    for i in range(target.shape[0]):
        target[i] += weight * (one[i] + other[i])


@njit(**_FAST)
def _blurred_plane(plane, weights, first, last):
    rows, columns = plane.shape
    reach = weights.shape[0] - 1
    across, result = np.zeros((rows, columns), np.float32), np.zeros((rows, columns), np.float32)
    for r in range(rows):
        if last[r] < 0:
            continue
        for j in range(-reach, reach + 1):
            weight = weights[abs(j)]
            for c in range(max(0, first[r] - reach, -j), min(columns, last[r] + reach + 1, columns - j)):
                across[r, c] += weight * plane[r, c + j]
    for r in range(rows):
        for j in range(-reach, reach + 1):
            if 0 <= r + j < rows and last[r + j] >= 0:
                weight = weights[abs(j)]
                low, high = max(0, first[r + j] - reach), min(columns, last[r + j] + reach + 1)
                for c in range(low, high):
                    result[r, c] += weight * across[r + j, c]
    return result


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
def bake(wet, cover_wet, laid_s, ground, dry_um, swept, at_s, tau_per_um, most_depth):
    """Let what has dried by now become ground where a stroke comes (swept above 0); e^-age/tau of a film stays wet."""
    rows, columns, channels = wet.shape
    bands = channels - 2
    one, least = np.float32(1.0), np.float32(1e-3)
    for r in range(rows):
        for c in range(columns):
            part = cover_wet[r, c]
            if part <= 0.0 or swept[r, c] <= 0.0:
                continue
            here, below = wet[r, c], ground[r, c]
            tau = max(here[channels - 1], np.float32(3.0)) * tau_per_um
            stays = np.float32(math.exp(-max(at_s - laid_s[r, c], np.float32(0.0)) / tau))
            if stays > ALL_WET:
                continue
            if stays < ALL_DRY:
                stays = np.float32(0.0)
            dry = one - stays
            dry_um[r, c] += here[channels - 1] * dry
            inner = dry / max(part, least)
            s = min(here[bands] * inner, most_depth)
            for band in range(bands):
                k = min(here[band] * inner, most_depth)
                below[band] += part * (_film(k, s, below[band]) - below[band])
            for ch in range(channels):
                here[ch] *= stays
            if stays <= 0.0:
                cover_wet[r, c] = 0.0


@njit(**_FAST)
def settle(wet, cover_wet, laid_s, change, swept, at_s):
    """Add what a stroke changed to the wet film, in place: solids, what it covers, when it was laid."""
    rows, columns, channels = wet.shape
    for r in range(rows):
        for c in range(columns):
            part = swept[r, c]
            if part <= 0.0:
                continue
            here, more = wet[r, c], change[r, c]
            before, fresh = here[channels - 1], max(more[channels - 1], np.float32(0.0))
            for ch in range(channels):
                here[ch] = max(here[ch] + more[ch], np.float32(0.0))
            cover_wet[r, c] += part - cover_wet[r, c] * part
            if before + fresh > 1e-4:
                laid_s[r, c] += (at_s - laid_s[r, c]) * fresh / (before + fresh)


@njit(parallel=True, **_FAST)
def shown(wet, cover_wet, ground, to_rgb, table, most_depth):
    """Return the sRGB bytes of wet film on its ground, row by row on as many threads as there are."""
    rows, columns, channels = wet.shape
    bands, levels = channels - 2, table.shape[0] - 1
    result = np.empty((rows, columns, 3), np.uint8)
    for r in prange(rows):
        for c in range(columns):
            red, green, blue = 0.0, 0.0, 0.0
            part = cover_wet[r, c]
            inner = max(part, 1e-3)
            s = min(wet[r, c, bands] / inner, most_depth)
            for band in range(bands):
                value = ground[r, c, band]
                if part > 0.0:
                    k = min(wet[r, c, band] / inner, most_depth)
                    value += part * (_film(k, s, value) - value)
                red += value * to_rgb[band, 0]
                green += value * to_rgb[band, 1]
                blue += value * to_rgb[band, 2]
            result[r, c, 0] = table[int(min(max(red, 0.0), 1.0) * levels + 0.5)]
            result[r, c, 1] = table[int(min(max(green, 0.0), 1.0) * levels + 0.5)]
            result[r, c, 2] = table[int(min(max(blue, 0.0), 1.0) * levels + 0.5)]
    return result
