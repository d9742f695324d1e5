"""What threads are at: of those that work, and of all where a window does not answer for long."""

from __future__ import annotations

import faulthandler
import re
import threading
import time
from pathlib import Path
from tempfile import TemporaryFile

HELD_S = 8.0
_CALL = re.compile(r'File "(.*)", line (\d+) in (.+)')


def frames() -> list[list[str]]:
    """Return the calls that each thread is within, the first one first, as "module.function:line".

    They are read in one go while this thread has the interpreter. Frames that run on between two looks at them, from
    Python or by `faulthandler.dump_traceback_later`, ended programs of ours with signal 11.
    """
    with TemporaryFile() as file:
        faulthandler.dump_traceback(file, all_threads=True)
        file.seek(0)
        threads = file.read().decode(errors="replace").split("hread 0x")[1:]
    return [[f"{Path(path).stem}.{name}:{line}" for path, line, name in _CALL.findall(one)][::-1] for one in threads]


def at_work() -> list[str]:
    """Return what each worker is doing, innermost last; those that wait for work are left out."""
    found = []
    for stack in frames():
        workers = [number for number, call in enumerate(stack) if call.startswith("thread._worker")]
        if workers and workers[-1] < len(stack) - 1:
            found.append(" > ".join(stack[-6:]))
    return found


class Held:
    """Tells what every thread is at once the window has been held for long, from a thread of its own."""

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
            told = "\n".join("\n  ".join(["a thread", *stack]) for stack in frames())
            with self._path.open("a") as file:
                file.write(f"held for {HELD_S:g} s\n{told}\n")
