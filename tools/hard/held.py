"""What holds a window that does not answer for long."""

from __future__ import annotations

import sys
import threading
import time
import traceback
from pathlib import Path

HELD_S = 8.0


class Held:
    """Tells what every thread is at once the window has been held for long, from a thread of its own.

    It holds the interpreter for that: `faulthandler.dump_traceback_later` does not, reads frames that run on meanwhile,
    and ended two programs so, without a word since its thread takes no signals.
    """

    def __init__(self, path: Path) -> None:
        self.beat_s: float | None = None
        self._path, self._told_s = path, 0.0
        threading.Thread(target=self._look, daemon=True).start()

    def _look(self) -> None:
        while True:
            time.sleep(HELD_S / 8)
            beat = self.beat_s
            if beat is None or beat == self._told_s or time.perf_counter() - beat < HELD_S:
                continue
            self._told_s = beat
            names = {one.ident: one.name for one in threading.enumerate()}
            frames = sys._current_frames().items()
            told = [f"{names.get(number)}\n{''.join(traceback.format_stack(frame)[-40:])}" for number, frame in frames]
            with self._path.open("a") as file:
                file.write(f"held for {HELD_S:g} s\n" + "\n".join(told) + "\n")
