"""A small rehearsal of the kernel, so that it is compiled for the usual arrays before it is needed.

To compile it takes half a minute once on a machine, holds a window again and again meanwhile and leaves 110 MB behind
(measured): a program beside the window does that, and the window takes what it left on the disk.
"""

from __future__ import annotations

import hashlib
import os
import platform
import subprocess
import sys
import threading
from pathlib import Path

import numpy as np

from pennello.colour.basis import small_basis
from pennello.disk import read_bytes, write_bytes
from pennello.errors import PennelloError
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

_MARK = "pennello.compiled"
_MOST_MARK_BYTES, _MOST_S = 200, 600.0

_BESIDE = """
import sys
sys.path[:] = sys.argv[1:]
from pennello.lay.warming import compile_beside
compile_beside()
"""


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


def compile_beside() -> None:
    """Compile the kernel onto the disk in this process, which ends with the one that began it and makes way for it."""
    os.nice(5)
    threading.Thread(target=_end_with_it, daemon=True).start()
    rehearse(kernel())


def _warm() -> None:
    made = kernel()
    _have_it_compiled()
    rehearse(made)
    serve(made)  # only now: nobody waits for it to be compiled


def _have_it_compiled() -> None:
    """See to it that the kernel lies compiled on the disk; where that fails, this process compiles what it needs."""
    mark, key = _mark_and_key()
    try:
        if read_bytes(mark, _MOST_MARK_BYTES) == key:
            return
    except PennelloError:
        pass  # not compiled yet
    command, quiet = [sys.executable, "-I", "-c", _BESIDE, *sys.path], subprocess.DEVNULL
    try:
        with subprocess.Popen(command, stdin=subprocess.PIPE, stdout=quiet, stderr=quiet) as beside:
            try:
                ended = beside.wait(_MOST_S)
            finally:
                beside.kill()
        if not ended:
            write_bytes(key, mark)
    except (OSError, subprocess.SubprocessError, PennelloError):
        return


def _mark_and_key() -> tuple[Path, bytes]:
    """Return the file that says what lies compiled beside it, and what it must say."""
    import numba  # noqa: PLC0415 - Numba costs a second: never at start-up

    from pennello.lay import kernel as source  # noqa: PLC0415

    file = Path(source.__file__)
    told = (numba.__version__, sys.version, platform.machine(), str(file.stat().st_mtime_ns))
    known = hashlib.sha256(file.read_bytes() + "\n".join(told).encode())
    return Path(source.cover.stats.cache_path) / _MARK, known.hexdigest().encode()


def _end_with_it() -> None:
    """End this process as soon as the one that began it is gone: that held the other end of what is read."""
    os.read(0, 1)
    os._exit(1)
