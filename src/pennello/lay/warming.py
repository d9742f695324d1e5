"""A small rehearsal of the kernel, so that it is compiled for the usual arrays before it is needed."""

from __future__ import annotations

import threading

import numpy as np

from pennello.colour.basis import small_basis
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.contact import BINS
from pennello.lay import channels
from pennello.lay.canvas import canvas_for
from pennello.lay.engine import kernel, serve
from pennello.lay.laying import pull
from pennello.lay.motion import motion_of
from pennello.lay.skin_film import Box, Engine, Pulling, bare_skin, pull_over
from pennello.lay.stroke import Stroke
from pennello.path.cubic import line


def rehearse(engine: Engine) -> None:
    """Pull a short stroke twice over a small skin, wet and then dry, and look at it."""
    basis = small_basis(8)
    way = pull(Stroke(line((0, 0), (6, 0))), Applicator("x", "X", 6.0), GradientAxis.ACROSS)
    canvas = canvas_for(way.track, 2.0)
    many = channels.count(len(basis.weights))
    pulling = Pulling(np.full((1, BINS, many), 0.01), np.ones((1, BINS)), np.zeros((BINS, many)), 1)
    film = bare_skin(canvas, basis, np.full(36, 0.4))
    motion = motion_of(way.track, way.stretches)
    for at_s in (0.0, 10.0, 900.0):
        pull_over(film, way.track, motion, canvas, pulling, at_s, engine)
    engine.picture(film, Box(0, canvas.rows, 0, canvas.columns))


def warm_up() -> threading.Thread:
    """Start importing the kernel and compiling it for the usual arrays in the background; return the thread."""
    thread = threading.Thread(target=_warm, name="pennello-kernel", daemon=True)
    thread.start()
    return thread


def _warm() -> None:
    made = kernel()
    rehearse(made)
    serve(made)  # only now: nobody waits for it to be compiled
