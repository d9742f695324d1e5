"""A small rehearsal of the kernel, so that it is compiled for the usual arrays before it is needed."""

from __future__ import annotations

import threading

import numpy as np

from pennello.colour.basis import small_basis
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.contact import BINS
from pennello.lay import channels
from pennello.lay.canvas import Canvas, canvas_for
from pennello.lay.engine import kernel, serve
from pennello.lay.laying import pull
from pennello.lay.motion import motion_of
from pennello.lay.skin_film import Engine, Pulling, bare_skin, box_of, pull_over
from pennello.lay.stroke import Stroke
from pennello.path.cubic import line

_MUCH_MM3 = 0.05
"""So much in a bin that the film is wet after ten seconds."""


def rehearse(engine: Engine) -> None:
    """Pull a stroke over a small skin, over its own wet paint and over dry one, and look at it.

    On a skin as large as the stroke and on a larger one: the arrays lie differently in memory, and the kernel is
    compiled for both.
    """
    basis = small_basis(8)
    way = pull(Stroke(line((0, 0), (6, 0))), Applicator("x", "X", 6.0), GradientAxis.ACROSS)
    canvas = canvas_for(way.track, 2.0)
    many = channels.count(len(basis.weights))
    pulling = Pulling(np.full((1, BINS, many), _MUCH_MM3), np.ones((1, BINS)), np.zeros((BINS, many)), 1)
    motion = motion_of(way.track, way.stretches)
    larger = Canvas(canvas.left_mm - 1, canvas.top_mm - 1, canvas.columns + 4, canvas.rows + 4, canvas.px_per_mm)
    for skin in (canvas, larger):
        film = bare_skin(skin, basis, np.full(36, 0.4))
        for at_s in (0.0, 10.0, 900.0):
            pull_over(film, way.track, motion, canvas, pulling, at_s, engine)
        engine.picture(film, box_of(canvas, skin)[0])


def warm_up() -> threading.Thread:
    """Start importing the kernel and compiling it for the usual arrays in the background; return the thread."""
    thread = threading.Thread(target=_warm, name="pennello-kernel", daemon=True)
    thread.start()
    return thread


def _warm() -> None:
    made = kernel()
    rehearse(made)
    serve(made)  # only now: nobody waits for it to be compiled
