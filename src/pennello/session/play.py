"""A plan played: the brush moves over each stroke at the hand's speed, and paint appears under it."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from pennello.design.clock import seconds
from pennello.design.plan import Plan
from pennello.design.scene import MOST_SHOWN_PIXELS, Carrying, ReadyPull, fresh_film, pulls, skin_canvas, starts
from pennello.errors import OutOfRangeError
from pennello.lay.canvas import Canvas
from pennello.lay.drying import evaporation_um_s
from pennello.lay.engine import best
from pennello.lay.skin_film import Box, Engine, SkinFilm
from pennello.lay.track import Track
from pennello.load.look import edge_colours
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]
Report = Callable[[float, str], None]

REST_S = 0.35
"""How long the hand rests between two strokes of a playing: loads and waits are left out (a default)."""

FRAMES_S, EXPORT_FRAMES_S = 30, 15
MOST_FRAMES = 900
MOST_WRITTEN_PIXELS = 160_000
"""Of a frame of a moving picture: all frames are held in memory while it is written."""

HELD_S = 2.0
"""How long a moving picture holds the finished strokes before it begins again."""

_NOTHING = np.empty((0, 0, 3), np.uint8)
_FERRULE = (70, 66, 60)


@dataclass(frozen=True, slots=True)
class Beat:
    """When one stroke is played, s from the start, and of which stroke of the plan."""

    stroke: str
    name: str
    start_s: float
    end_s: float


class Playing:
    """A plan's strokes one after another: all are laid once, then any moment is there at once.

    Parameters
    ----------
    px_per_mm
        0.5 to 64; less if the picture would be larger than is kept for a screen.
    report
        Is told how far it is, 0 to 1, and may raise to stop.

    Raises
    ------
    OutOfRangeError
        If the plan has no stroke.
    """

    def __init__(
        self,
        plan: Plan,
        px_per_mm: float = 4.0,
        engine: Engine | None = None,
        most_pixels: int = MOST_SHOWN_PIXELS,
        report: Report = lambda *_: None,
    ) -> None:
        if not plan.strokes:
            raise OutOfRangeError(phrase("number of strokes to play"), 0, phrase("at least 1"))
        self.plan = plan
        self.canvas: Canvas = skin_canvas(plan, px_per_mm, most_pixels)
        self.beats = _beats(plan)
        doer = engine or best()
        self._pulls = pulls(plan, self.canvas.px_per_mm)
        self._colours = _colours(plan)
        film = fresh_film(plan, self.canvas)
        self._bare = doer.picture(film, Box(0, self.canvas.rows, 0, self.canvas.columns)).copy()
        self._patches = tuple(self._laid(film, doer, report))
        self._rewind()

    def _laid(self, film: SkinFilm, engine: Engine, report: Report) -> Iterator[tuple[Box, Picture]]:
        """Lay stroke after stroke; give the pixels that each changes, as they are after it."""
        carrying, rate, at = Carrying(), evaporation_um_s(self.plan.dry_after_s), starts(self.plan)
        for number, one in enumerate(self._pulls):
            report(number / len(self._pulls), phrase("laying"))
            box = carrying.lay(film, one, at[number], engine, rate)
            yield box, engine.picture(film, box).copy() if not box.empty else _NOTHING

    @property
    def seconds(self) -> float:
        """How long it all takes, s."""
        return self.beats[-1].end_s + REST_S

    def _rewind(self) -> None:
        self._before = self._after = self._bare
        self._at = -1
        self._swept: tuple[int, int, Image.Image] | None = None

    def beat_at(self, at_s: float) -> int:
        """Return the number of the stroke that is played at a time: the one begun last."""
        return max(sum(beat.start_s <= at_s for beat in self.beats) - 1, 0)

    def frame(self, at_s: float, *, brush: bool = True) -> Picture:
        """Return the picture at a time, s: sRGB bytes, shape (rows, columns, 3), with the brush on it or without."""
        number = self.beat_at(at_s)
        self._go_to(number)
        beat = self.beats[number]
        part = min(max((at_s - beat.start_s) / (beat.end_s - beat.start_s), 0.0), 1.0)
        track = self._pulls[number].track
        moment = int(track.at(np.array([part * track.s_mm[-1]]))[0]) if track.s_mm[-1] > 0 else 0
        if part >= 1.0:
            picture = self._after.copy()
        else:
            mask = np.asarray(self._mask(number, moment), bool)
            picture = np.where(mask[..., None], self._after, self._before)
        if brush and at_s < beat.end_s:
            self._draw_brush(picture, self._pulls[number], moment)
        return np.ascontiguousarray(picture)

    def _go_to(self, number: int) -> None:
        """Have the picture before a stroke and the one after it; from the start again where the playing went back."""
        if number == self._at:
            return
        if number < self._at:
            self._rewind()
        before = self._after.copy()
        for one in self._patches[self._at + 1 : number]:
            _put(before, *one)
        after = before.copy()
        _put(after, *self._patches[number])
        self._before, self._after, self._at, self._swept = before, after, number, None

    def _mask(self, number: int, moment: int) -> Image.Image:
        """Return what the edge has passed over up to a moment of a stroke."""
        if self._swept is None or self._swept[0] != number or self._swept[1] > moment:
            mask = Image.new("1", (self.canvas.columns, self.canvas.rows), 0)
            self._swept = (number, 0, mask)
        _, done, mask = self._swept
        draw = ImageDraw.Draw(mask)
        track = self._pulls[number].track
        for at in range(done, moment + 1):
            draw.polygon(self._contact(track, at), fill=1)
            if at and not track.jump[at - 1]:
                (a, b), (c, d) = self._edge(track, at - 1), self._edge(track, at)
                draw.polygon([tuple(a), tuple(b), tuple(d), tuple(c)], fill=1)
        self._swept = (number, moment, mask)
        return mask

    def _edge(self, track: Track, moment: int) -> Array:
        """Return both ends of what touches at a moment, px, shape (2, 2)."""
        low, high = (float(reach[moment]) for reach in track.reach)
        ends = track.points(np.array([moment]), np.array([low, max(high, low)]))[0]
        return np.asarray(self.pixels(ends))

    def pixels(self, mm: Array) -> Array:
        """Return places in mm as pixels of the picture, x and y."""
        return (mm - (self.canvas.left_mm, self.canvas.top_mm)) * self.canvas.px_per_mm

    def _contact(self, track: Track, moment: int) -> list[tuple[float, float]]:
        """Return the four corners of the contact, px; rounder tools are drawn a little larger."""
        ends = self._edge(track, moment)
        half = track.thicknesses_mm[moment] / 2 * self.canvas.px_per_mm + 1.0
        across, along = track.across[moment], track.edge[moment]
        return [
            tuple((ends[side] + sign * half * across + (2 * side - 1) * along).tolist())
            for side, sign in ((0, 1), (0, -1), (1, -1), (1, 1))
        ]

    def _draw_brush(self, picture: Picture, one: ReadyPull, moment: int) -> None:
        """Draw the loaded edge where it is, its colours on it, and how hard it is pressed as its ferrule's depth."""
        image = Image.fromarray(picture)
        draw = ImageDraw.Draw(image)
        track, px = one.track, self.canvas.px_per_mm
        whole = self.pixels(track.points(np.array([moment]), np.array([0.0, 1.0]))[0])
        across = track.across[moment]
        deep = (1.2 + 2.2 * float(track.pressure[moment])) * px
        draw.polygon(
            [
                tuple(point.tolist())
                for point in (whole[0], whole[1], whole[1] - deep * across, whole[0] - deep * across)
            ],
            outline=_FERRULE,
        )
        colours = self._colours[one.stroke]
        steps = np.linspace(0, 1, len(colours) + 1)
        ends = whole[0] + steps[:, None] * (whole[1] - whole[0])
        low, high = (float(reach[moment]) for reach in track.reach)
        for number, colour in enumerate(np.asarray(colours).tolist()):
            touches = low - 0.02 <= steps[number] <= high + 0.02
            start, end = tuple(ends[number].tolist()), tuple(ends[number + 1].tolist())
            draw.line(
                [start, end], fill=tuple(int(v) for v in colour), width=max(2, round((1.0 if touches else 0.4) * px))
            )
        draw.line([tuple(whole[0].tolist()), tuple(whole[1].tolist())], fill=_FERRULE, width=1)
        picture[...] = np.asarray(image)


def _put(picture: Picture, box: Box, patch: Picture) -> None:
    """Put the pixels of a box into a picture, in place."""
    if not box.empty:
        picture[box.top : box.bottom, box.left : box.right] = patch


def _colours(plan: Plan) -> dict[str, Picture]:
    """Return the colours along the edge of each stroke's load, by id; one that goes on has those of its load."""
    paints = plan.paints_by_id
    found: dict[str, Picture] = {}
    for one in plan.strokes:
        goes_on = not one.recipe.pickups and one.recipe.after in found
        found[one.id] = found[one.recipe.after] if goes_on else edge_colours(plan.edge(one.id), paints)
    return found


def alone(plan: Plan, name: str) -> Plan:
    """Return the plan with one of its strokes only, and those whose leftovers it goes on with."""
    wanted = [plan.stroke(name)]
    while wanted[-1].recipe.after:
        wanted.append(plan.stroke(wanted[-1].recipe.after))
    kept = {one.id for one in wanted}
    return replace(plan, strokes=tuple(one for one in plan.strokes if one.id in kept))


def _beats(plan: Plan) -> tuple[Beat, ...]:
    found, now = [], 0.0
    for stroke in plan.strokes:
        takes = seconds(stroke, plan.brush(stroke.brush))[1]
        found.append(Beat(stroke.id, stroke.name, now, now + takes))
        now += takes + REST_S
    return tuple(found)


def frames(playing: Playing, speed: float = 1.0, per_s: int = EXPORT_FRAMES_S) -> Iterator[Picture]:
    """Give the frames of a playing in order, evenly in time, the finished picture last.

    Raises
    ------
    OutOfRangeError
        If the speed is not 0.05 to 20, or there would be more than 900 frames.
    """
    if not 0.05 <= speed <= 20:
        raise OutOfRangeError(phrase("speed of a playing"), speed, phrase("0.05 to 20 times the hand's"))
    count = int(playing.seconds / speed * per_s) + 1
    if count > MOST_FRAMES:
        raise OutOfRangeError(
            phrase("number of frames"),
            count,
            phrase("at most {most_frames}; play it faster, or fewer strokes", most_frames=MOST_FRAMES),
        )
    for number in range(count):
        yield playing.frame(number * speed / per_s)
    yield playing.frame(playing.seconds, brush=False)


def animation(playing: Playing, kind: str = "apng", speed: float = 1.0, report: Report = lambda *_: None) -> bytes:
    """Return a playing as an animated PNG ("apng") or GIF ("gif"), played again and again.

    Parameters
    ----------
    report
        Is told how far it is, 0 to 1, and may raise to stop.

    Raises
    ------
    OutOfRangeError
        If the kind, the speed or the number of frames is outside its range.
    """
    if kind not in ("apng", "gif"):
        raise OutOfRangeError(phrase("kind of animation"), kind, phrase("apng or gif"))
    count = max(int(playing.seconds / speed * EXPORT_FRAMES_S) + 2, 2) if speed > 0 else 2

    def told() -> Iterator[Image.Image]:
        for number, frame in enumerate(frames(playing, speed)):
            report(min(number / count, 1.0), phrase("playing"))
            yield Image.fromarray(frame)

    drawn = told()
    first, out = next(drawn), io.BytesIO()
    rest = list(drawn)
    durations = [round(1000 / EXPORT_FRAMES_S)] * len(rest) + [round(1000 * HELD_S)]
    first.save(
        out,
        format="PNG" if kind == "apng" else "GIF",
        save_all=True,
        append_images=rest,
        duration=durations,
        loop=0,
        **({"default_image": False} if kind == "apng" else {"optimize": True}),
    )
    return out.getvalue()
