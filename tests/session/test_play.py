"""Strokes played: what is under the brush at a moment, how long it takes, and the moving picture that is written."""

import io
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image

from pennello.design.clock import seconds
from pennello.design.scene import paint_all
from pennello.errors import OutOfRangeError
from pennello.lay.engine import kernel
from pennello.lay.skin_film import Box
from pennello.session import play
from pennello.session.play import REST_S, Playing, alone, animation, frames


@pytest.fixture
def two(demo):
    return replace(demo, strokes=demo.strokes[:2])


@pytest.fixture
def playing(two):
    return Playing(two, 3.0, kernel())


def painted(playing, at_s):
    """How many pixels are not the skin's at a time."""
    bare = playing.frame(0.0, brush=False)[0, 0].astype(int)
    picture = playing.frame(at_s, brush=False).astype(int)
    return int((np.abs(picture - bare).max(axis=2) > 2).sum())


def test_it_takes_as_long_as_the_hand(two, playing):
    hand = [seconds(stroke, two.brush(stroke.brush))[1] for stroke in two.strokes]
    assert playing.seconds == pytest.approx(sum(hand) + 2 * REST_S)
    assert [beat.stroke for beat in playing.beats] == [stroke.id for stroke in two.strokes]
    assert playing.beats[1].start_s == pytest.approx(hand[0] + REST_S)
    assert playing.beat_at(playing.beats[1].start_s + 0.01) == 1


def test_paint_appears_under_the_brush(playing):
    """More and more of the skin is painted; at the end it is what the plan lays, to the last pixel."""
    grows = [painted(playing, at) for at in np.linspace(0, playing.seconds, 9)]
    assert grows == sorted(grows)
    assert grows[1] < grows[-1] / 2
    film = paint_all(playing.plan, playing.canvas.px_per_mm, kernel())
    whole = kernel().picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns))
    last = playing.frame(playing.seconds, brush=False)
    assert last.shape == whole.shape
    assert np.abs(last.astype(int) - whole).max() <= 1


def test_it_goes_back(playing):
    early = playing.frame(0.3)
    playing.frame(playing.seconds)
    assert (playing.frame(0.3) == early).all()


def test_the_brush_is_seen_only_while_it_is_on_the_skin(playing):
    middle = (playing.beats[0].start_s + playing.beats[0].end_s) / 2
    assert (playing.frame(middle) != playing.frame(middle, brush=False)).any()
    rest = playing.beats[0].end_s + REST_S / 2
    assert (playing.frame(rest) == playing.frame(rest, brush=False)).all()


def test_one_stroke_alone_brings_what_it_goes_on_with(two):
    first, second = two.strokes
    after = replace(two, strokes=(first, replace(second, recipe=replace(first.recipe, pickups=(), after=first.id))))
    assert [one.id for one in alone(after, second.id).strokes] == [first.id, second.id]
    assert [one.id for one in alone(two, second.id).strokes] == [second.id]


@pytest.mark.parametrize(("kind", "form"), [("apng", "PNG"), ("gif", "GIF")])
def test_a_moving_picture_can_be_read_back(two, kind, form):
    """Pillow reads it back: as many frames as were given, at the hand's speed, and the finished one last."""
    playing = Playing(alone(two, two.strokes[0].id), 2.0, kernel())
    told = []
    data = animation(playing, kind, 4.0, lambda part, _: told.append(part))
    with Image.open(io.BytesIO(data)) as image:
        assert image.format == form
        assert image.n_frames > 3
        image.seek(image.n_frames - 1)
        last = np.asarray(image.convert("RGB")).astype(int)
        took = 0.0
        for number in range(image.n_frames):
            image.seek(number)
            took += image.info["duration"] / 1000
    assert took == pytest.approx(playing.seconds / 4 + play.HELD_S, abs=0.2)
    finished = playing.frame(playing.seconds, brush=False).astype(int)
    assert np.abs(last - finished).mean() < (0.01 if kind == "apng" else 6)
    assert told == sorted(told)
    assert told[-1] <= 1


def test_what_cannot_be_played_is_one_sentence(two, playing):
    with pytest.raises(OutOfRangeError, match="strokes to play"):
        Playing(replace(two, strokes=()))
    with pytest.raises(OutOfRangeError, match="speed"):
        next(frames(playing, 0.0))
    with pytest.raises(OutOfRangeError, match="play it faster"):
        next(frames(playing, 0.05, 600))
    with pytest.raises(OutOfRangeError, match="apng or gif"):
        animation(playing, "mp4")


def test_a_job_that_is_given_up_stops(playing):
    class GivenUpError(Exception):
        pass

    def report(part, _):
        if part > 0.2:
            raise GivenUpError

    with pytest.raises(GivenUpError):
        animation(playing, "apng", 4.0, report)
