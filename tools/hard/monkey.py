"""A monkey at the real window: clicks, drags, keys, words, wheels anywhere, with a seed.

Run as a program of its own (`python -m hard.monkey SEED EVENTS SECONDS FOLDER`), so that the end of the program
is seen; where HARD_UNWEIGHED is set it does not rest to be weighed. It writes one JSON file. Invariants: undo to the
start and redo to the end are exact; the plan saved and opened again is the same; no exception reaches the hook; memory
and handles do not run away.

Its watchdog holds no frame of the window's thread: whoever holds one keeps the painters in it alive and ends them on
his own thread, which Qt does not survive.
"""

from __future__ import annotations

import ctypes
import faulthandler
import gc
import json
import linecache
import os
import random
import shutil
import sys
import threading
import time
import traceback
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from importlib import import_module
from pathlib import Path
from types import TracebackType
from typing import Any

import numpy as np
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt, QThread, QTimer
from PySide6.QtGui import QColor, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QColorDialog,
    QFileDialog,
    QInputDialog,
    QLineEdit,
    QMenu,
    QMessageBox,
    QWidget,
)

from hard.held import Held, at_work
from pennello.design.fresh import fresh_plan
from pennello.errors import PennelloError
from pennello.files.demo import demo_plan
from pennello.files.plan_json import read_plan, write_plan
from pennello.kept import forget_all
from pennello.lay.warming import warm_up
from pennello.session.document import Document
from pennello.ui.app import make_application
from pennello.ui.collector import Collector
from pennello.ui.memory import give_back, resident_mb
from pennello.ui.widgets.pending import settle_typing
from pennello.ui.window import MainWindow

STALL_S = 1.0
LOOK_EVERY, SAMPLE_EVERY, HOME_FROM, LEAVE_S = 1000, 500, 1000, 60.0
_WORDS = (
    "3",
    "-5",
    "3/4 in",
    "1 1/8",
    "19 mm",
    "1e308",
    "nan",
    "",
    "0",
    "12,5",
    "#ff00aa",
    "<b>x</b>",
    "x" * 300,
    "red",
)
_KEYS = (
    *("Left", "Right", "Up", "Down", "Return", "Escape", "Tab", "Space", "Delete", "Backspace", "Home", "End"),
    *("F2", "F1", "F", "S", "P", "Plus", "A", "M", "D"),
)


@dataclass(slots=True)
class Seen:
    """What happened."""

    seed: int
    events: int = 0
    exceptions: Counter[str] = field(default_factory=Counter)
    traces: dict[str, str] = field(default_factory=dict)
    broken: list[str] = field(default_factory=list)
    stalls: list[float] = field(default_factory=list)
    samples: list[tuple[int, float, int, int]] = field(default_factory=list)
    at_home: list[tuple[int, float, int, float]] = field(default_factory=list)
    held: list[tuple[float, str]] = field(default_factory=list)
    at_work: list[str] = field(default_factory=list)
    windows: dict[str, int] = field(default_factory=dict)


def private_folders(folder: Path) -> None:
    """Give this process folders of its own."""
    shutil.rmtree(folder, ignore_errors=True)
    for name in ("data", "config", "state", "cache"):
        (folder / name).mkdir(parents=True)
        os.environ[f"XDG_{name.upper()}_HOME"] = str(folder / name)
    (folder / "out").mkdir()
    os.environ["HOME"] = str(folder)


class _Malloc(ctypes.Structure):
    _fields_ = tuple(
        (name, ctypes.c_size_t) for name in ("arena", "o", "s", "hblks", "mapped", "u", "f", "used", "free", "k")
    )


def in_use_mb() -> float:
    """Return what is in use of the memory that the C library gave out, MB: without what it keeps back in pieces.

    All that Python holds is in it where PYTHONMALLOC is malloc. NaN with another C library.
    """
    try:
        told = ctypes.CDLL(None).mallinfo2
    except AttributeError:
        return float("nan")
    told.restype = _Malloc
    found = told()
    return float(found.used + found.mapped) / 1e6


class Monkey:
    """One seed."""

    def __init__(self, seed: int, folder: Path, plans: list[Path]) -> None:

        self.rng, self.folder, self.seen = random.Random(seed), folder, Seen(seed)
        self.app = make_application(["monkey"])
        self.files = [str(shutil.copy(path, folder / f"p{n}.pennello")) for n, path in enumerate(plans)]
        (folder / "bad.pennello").write_bytes(b'{"format":"pennello-plan","schema":6,"title":"\xff"}')
        self.files += [str(folder / "bad.pennello"), "/nowhere/x.pennello", ""]
        self._answer_for_people()
        self.document = Document(demo_plan())
        self.start = self.document.committed
        replaced = self.document.replace

        def replace(plan: Any, *given: Any, **named: Any) -> None:
            self.start = plan
            replaced(plan, *given, **named)

        self.document.replace = replace  # type: ignore[method-assign]
        edited, self.looking = self.document.edit, False

        def edit(label: str, *given: Any, **named: Any) -> None:
            if self.looking:  # what answers to undo with a step of its own takes away what could be done again
                calls = "".join(traceback.format_stack(limit=30)[:-1])
                self.seen.broken.append(f"'{label}' was done within undo or redo at {self.seen.events}\n{calls}")
            edited(label, *given, **named)

        self.document.edit = edit  # type: ignore[method-assign]
        sys.excepthook = self.hook
        threading.excepthook = lambda told: self.hook(told.exc_type, told.exc_value or Exception(), told.exc_traceback)
        self.window = MainWindow(self.document)
        self.window.closeEvent = lambda event: event.ignore()  # type: ignore[method-assign]
        self.collector = Collector(self.app)
        self.collector.start()
        self.window.show()
        self.last, self.resting = "", False

    def hook(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        """Count what nobody caught; a sentence that is said on purpose is fine."""

        if isinstance(error, PennelloError):
            return
        where = traceback.extract_tb(trace)[-1:]
        place = f"{where[0].filename[-40:]}:{where[0].lineno}" if where else "?"
        key = f"{kind.__name__}: {str(error)[:100]} @ {place}"
        self.seen.exceptions[key] += 1
        self.seen.traces.setdefault(
            key, f"after {self.last}\n{''.join(traceback.format_exception(kind, error, trace))[-2500:]}"
        )

    def _answer_for_people(self) -> None:
        """Answer what the window asks in dialogs of the system's own."""

        rng, out = self.rng, self.folder / "out"
        endings = ("", ".pennello", ".png", ".pdf", ".svg", ".csv", ".ics", ".gpl")

        def to_save(*_: object, **__: object) -> tuple[str, str]:
            places = ["", str(out / f"f{rng.randrange(6)}{rng.choice(endings)}"), "/proc/nope/x", "/dev/full"]
            return rng.choice([places[1], places[1], *places]), ""

        buttons = QMessageBox.StandardButton
        said = [buttons.Discard, buttons.Cancel, buttons.Save, buttons.Yes]
        answers: list[tuple[type, str, Callable[..., object]]] = [
            (QFileDialog, "getOpenFileName", lambda *_, **__: (rng.choice(self.files), "")),
            (QFileDialog, "getSaveFileName", to_save),
            (QFileDialog, "getExistingDirectory", lambda *_, **__: rng.choice([str(out), ""])),
            (QMessageBox, "question", lambda *_, **__: rng.choice(said)),
            (QInputDialog, "getText", lambda *_, **__: (rng.choice(_WORDS), rng.random() < 0.7)),
            (QColorDialog, "getColor", lambda *_, **__: _colour(rng)),
        ]
        for kind, name, answer in answers:
            setattr(kind, name, staticmethod(answer))

    # --- events ---

    def one(self) -> None:
        """Do one thing."""

        root = self._root()
        part = self._part_of(root)
        label = part.text()[:20] if isinstance(part, QAbstractButton) else ""
        if label in ("linen", "lamp") and self.rng.random() < 0.9:
            return
        acts = (self._click, self._drag, self._double, self._wheel, self._key, self._type, self._shortcut, self._resize)
        act = self.rng.choices(acts, (38, 17, 5, 7, 16, 7, 8, 2))[0]
        self.last = f"{act.__name__} {type(part).__name__} {label}"
        act(root, part)

    def _part_of(self, root: Any) -> Any:
        """Return any part that can be reached, each as likely."""
        parts = self._parts(root)
        return self.rng.choice(parts) if parts else root

    def _parts(self, root: Any) -> list[Any]:
        """Return all that can be reached, each after what it lies in.

        Each is asked for its own parts: what the window is asked for (`findChildren`) it remembers for as long as it
        lives, and dead parts are taken for a leak of the program.
        """
        found = []
        for one in root.children():
            if isinstance(one, QWidget) and one.isVisible() and not one.isWindow():
                if one.isEnabled() and one.width() > 3 < one.height():
                    found.append(one)
                found += self._parts(one)
        return found

    def _root(self) -> Any:

        app, rng = self.app, self.rng
        popup, modal = app.activePopupWidget(), app.activeModalWidget()
        if popup is not None:
            if rng.random() < 0.15:
                popup.close()
                return self.window
            return popup
        if modal is not None:
            if rng.random() < 0.08:
                modal.close()
            return modal
        others = [
            w for w in app.topLevelWidgets() if w.isVisible() and w is not self.window and not isinstance(w, QMenu)
        ]
        others = [w for w in others if w.metaObject().className() not in ("QTipLabel", "QComboBoxPrivateContainer")]
        if others and rng.random() < 0.6:
            other = rng.choice(others)
            if rng.random() < 0.02:
                other.close()
                return self.window
            return other
        return self.window

    def _point(self, part: Any) -> Any:

        return QPoint(self.rng.randrange(max(part.width(), 1)), self.rng.randrange(max(part.height(), 1)))

    def _held(self) -> Any:

        none = Qt.KeyboardModifier.NoModifier
        kinds = (
            Qt.KeyboardModifier.ShiftModifier,
            Qt.KeyboardModifier.ControlModifier,
            Qt.KeyboardModifier.AltModifier,
        )
        return self.rng.choice((none, none, none, *kinds))

    def _click(self, root: Any, part: Any) -> None:

        del root
        button = Qt.MouseButton.RightButton if self.rng.random() < 0.06 else Qt.MouseButton.LeftButton
        QTest.mouseClick(part, button, self._held(), self._point(part))

    def _drag(self, root: Any, part: Any) -> None:

        del root
        left = Qt.MouseButton.LeftButton
        QTest.mousePress(part, left, self._held(), self._point(part))
        for _ in range(self.rng.randrange(1, 6)):
            QTest.mouseMove(part, self._point(part))
        QTest.mouseRelease(part, left, self._held(), self._point(part))

    def _double(self, root: Any, part: Any) -> None:

        del root
        QTest.mouseDClick(part, Qt.MouseButton.LeftButton, self._held(), self._point(part))

    def _wheel(self, root: Any, part: Any) -> None:

        del root
        at, turn = QPointF(self._point(part)), QPoint(0, self.rng.choice((120, -120, 1200)))
        there = QPointF(part.mapToGlobal(at.toPoint()))
        none, phase = Qt.MouseButton.NoButton, Qt.ScrollPhase.NoScrollPhase
        self.app.sendEvent(part, QWheelEvent(at, there, QPoint(), turn, none, self._held(), phase, False))  # noqa: FBT003 - Qt's own

    def _key(self, root: Any, part: Any) -> None:

        del root
        focus = self.app.focusWidget() if self.rng.random() < 0.7 else None
        QTest.keyClick(focus or part, getattr(Qt.Key, f"Key_{self.rng.choice(_KEYS)}"), self._held())

    def _type(self, root: Any, part: Any) -> None:

        lines = [one for one in self._parts(root) if isinstance(one, QLineEdit)]
        target = self.rng.choice(lines) if lines else (self.app.focusWidget() or part)
        target.setFocus()
        if isinstance(target, QLineEdit):
            target.selectAll()
        QTest.keyClicks(target, self.rng.choice(_WORDS))
        if self.rng.random() < 0.7:
            QTest.keyClick(self.app.focusWidget() or target, Qt.Key.Key_Return)

    def _shortcut(self, root: Any, part: Any) -> None:

        del root, part
        if self.app.activeModalWidget() is not None:
            return
        kinds = Qt.KeyboardModifier
        keys = [("Z", kinds.ControlModifier), ("Y", kinds.ControlModifier)] * 3
        keys += [(digit, kinds.AltModifier) for digit in "12343434"]
        keys += [(letter, kinds.ControlModifier) for letter in "NSOEPCVD"]
        letter, held = self.rng.choice(keys)
        QTest.keyClick(self.window, getattr(Qt.Key, f"Key_{letter}"), held)

    def _resize(self, root: Any, part: Any) -> None:
        del root, part
        self.window.resize(self.rng.randrange(980, 1900), self.rng.randrange(640, 1200))

    # --- invariants ---

    def look(self) -> None:
        """Look whether undo, redo and the file are exact."""
        settle_typing()  # as the window does before it undoes
        document, self.looking = self.document, True
        snap, undone = document.committed, document.steps[1]
        self._redo_all()
        top, full = document.committed, document.steps[0] >= 499
        while document.undo_label:
            document.undo()
        if not full and document.committed != self.start:
            self.seen.broken.append(f"undo to the start differs at {self.seen.events}")
        self._redo_all()
        if document.committed != top:
            self.seen.broken.append(f"redo to the end differs at {self.seen.events}")
        for _ in range(undone):
            document.undo()
        self.looking = False
        if document.committed != snap:
            self.seen.broken.append(f"not back where it was at {self.seen.events}")
        path = self.folder / "out" / "look.pennello"
        try:
            write_plan(document.committed, path)
            if read_plan(path) != document.committed:
                self.seen.broken.append(f"saved and opened differs at {self.seen.events}")
        except Exception as error:  # noqa: BLE001 - whatever it is, the plan cannot be kept
            self.seen.broken.append(f"cannot be saved: {type(error).__name__}: {str(error)[:200]}")

    def _redo_all(self) -> None:
        while self.document.redo_label:
            self.document.redo()

    def _let_work_end(self, most_s: float = 6.0) -> None:
        """Do nothing until the workers have no more to do, or for some seconds."""
        self.resting, until = True, time.monotonic() + most_s
        while time.monotonic() < until:
            used, began = time.process_time(), time.monotonic()
            while time.monotonic() < began + 0.3:
                self.app.processEvents()
                time.sleep(0.01)
            if time.process_time() - used < 0.1 * (time.monotonic() - began):
                break
        self.resting = False

    def go_home(self) -> None:
        """Show an empty plan at the Bench with nothing kept; write down what is in use: what is more is a leak."""
        for widget in self.app.topLevelWidgets():
            if widget is not self.window and widget.isVisible():
                widget.close()
        self.document.replace(fresh_plan())
        self.window.resize(1280, 800)
        for station in ("tray", "chart", "order", "day", "bench"):  # each lets go of the films it held then
            self.window.go_to(station)
            self._let_work_end(20.0)
        until = time.monotonic() + 600.0
        while at_work() and time.monotonic() < until:  # what is at work holds its films: it is no leak
            self._let_work_end()
        self._bury()
        gc.unfreeze()  # what the collector set aside is looked through too: in a ring it is found late, but no leak
        for _ in range(2):
            self._let_work_end()
            forget_all()
            gc.collect()
        linecache.clearcache()
        give_back()
        handles = sum(1 for _ in Path("/proc/self/fd").iterdir())
        self.seen.held = large_arrays()
        self.seen.at_work = at_work()
        self.seen.windows = windows_there(self.app)
        self.seen.at_home.append((self.seen.events, round(in_use_mb(), 1), handles, round(resident_mb(), 1)))

    def _bury(self) -> None:
        """Delete what was thrown away, as the program's own loop does: nothing of it goes while this is within a turn.

        A look undoes and does again all there is in one turn, and each step throws parts away.
        """
        if _within_nothing():
            self.app.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)

    def sample(self) -> None:
        """Write down memory, threads and handles, once what nobody holds is given back."""
        self._let_work_end()
        gc.collect()
        linecache.clearcache()
        give_back()
        handles = sum(1 for _ in Path("/proc/self/fd").iterdir())
        self.seen.samples.append((self.seen.events, round(resident_mb(), 1), threading.active_count(), handles))


def large_arrays(least_mb: float = 4.0, most: int = 12) -> list[tuple[float, str]]:
    """Return the largest arrays that something holds, MB, with the kinds of what holds them, nearest first."""
    found: dict[int, tuple[float, str]] = {}
    for holder in gc.get_objects():
        for one in gc.get_referents(holder):
            if isinstance(one, np.ndarray) and one.base is None and one.nbytes > least_mb * 1e6:
                found[id(one)] = (round(one.nbytes / 1e6, 1), _chain(holder))
    return sorted(found.values(), reverse=True)[:most]


def windows_there(app: Any) -> dict[str, int]:
    """Return how many windows of each kind are there, shown or not, and how many parts in all."""
    every = app.allWidgets()
    found = Counter(type(one).__name__ for one in every if one.isWindow())
    return {**dict(found.most_common(12)), "parts": len(every)}


def _chain(holder: object, deep: int = 4) -> str:
    names = [type(holder).__name__]
    for _ in range(deep):
        frames = (type(sys._getframe()), list)
        above = [one for one in gc.get_referrers(holder) if not isinstance(one, frames)]
        if not above:
            break
        holder = above[0]
        names.append(type(holder).__name__)
    return " < ".join(names)


def _import_what_comes_once() -> None:
    """Have all large packages, which come with the first search, order or sheet, so that they are no growth."""
    for name in ("ortools.sat.python.cp_model", "reportlab.pdfgen.canvas", "PIL.Image", "scipy.optimize"):
        import_module(name)


def _within_nothing() -> bool:
    """Whether no page runs its own loop: one that was closed is there until that has returned."""
    return QThread.currentThread().loopLevel() <= 1


def _colour(rng: random.Random) -> Any:

    return QColor(rng.randrange(256), rng.randrange(256), rng.randrange(256)) if rng.random() < 0.7 else QColor()


class Watch:
    """Lets a monkey do one thing after the other, looks at it between, and ends it."""

    def __init__(self, monkey: Monkey, events: int, until_s: float, folder: Path) -> None:
        self.monkey, self.events, self.until_s, self.folder = monkey, events, until_s, folder
        self.ended, self.weighed = False, not os.environ.get("HARD_UNWEIGHED")
        self._beat = time.perf_counter()
        self._held = Held(folder / "held.txt")

    def one(self) -> None:
        """Let it do one thing."""
        monkey, seen = self.monkey, self.monkey.seen
        if seen.events >= self.events or time.monotonic() > self.until_s:
            self._leave()
            return
        seen.events += 1
        try:
            monkey.one()
        except RuntimeError as error:
            if "already deleted" not in str(error):
                monkey.hook(type(error), error, error.__traceback__)
        if self.weighed and seen.events % SAMPLE_EVERY == 0:
            monkey.sample()
        free = _within_nothing()
        if self.weighed and free and seen.events >= HOME_FROM and not seen.at_home:
            self._unwatched(monkey.go_home)
        if free and seen.events % LOOK_EVERY == 0:
            self._unwatched(monkey.look)

    def heart(self) -> None:
        """Beat on the window's thread; a beat that comes late is a stall."""
        now = time.perf_counter()
        if now - self._beat > STALL_S:
            self.monkey.seen.stalls.append(round(now - self._beat, 2))
        self._beat = self._held.beat_s = now

    def _unwatched(self, act: Callable[[], object]) -> None:
        """Do what takes long and is nobody's hand."""
        self._held.beat_s = None
        act()
        self._beat = self._held.beat_s = time.perf_counter()

    def _leave(self) -> None:
        """End once no page waits for its answer any more: what one holds until then is no leak."""
        app = self.monkey.app
        page = app.activePopupWidget() or app.activeModalWidget()
        if page is not None:
            page.close()
        elif _within_nothing() or time.monotonic() > self.until_s + LEAVE_S:
            self._end()

    def _end(self) -> None:
        monkey = self.monkey
        self.ended = True
        self._unwatched(monkey.look)
        gc.collect()
        monkey.sample()
        if monkey.seen.at_home:
            monkey.go_home()
        finish(monkey.seen, self.folder)


def run(seed: int, events: int, seconds: float, folder: Path, plans: list[Path], *, compiled: bool) -> None:
    """Let one monkey play, in this process."""

    monkey = Monkey(seed, folder, plans)
    _import_what_comes_once()
    if compiled:
        warm_up().join()
    watch = Watch(monkey, events, time.monotonic() + seconds, folder)

    def tick() -> None:
        if watch.ended:
            return
        QTimer.singleShot(20 if monkey.resting else 0, tick)
        for _ in range(0 if monkey.resting else 5):
            watch.one()

    pulse = QTimer()
    pulse.timeout.connect(watch.heart)
    pulse.start(50)
    QTimer.singleShot(0, tick)
    monkey.app.exec()


def finish(seen: Seen, folder: Path) -> None:
    """Write down what happened and end at once: what Qt does at the very end is not the question."""
    told = {
        "seed": seen.seed,
        "events": seen.events,
        "exceptions": dict(seen.exceptions),
        "traces": seen.traces,
        "broken": seen.broken,
        "stalls": seen.stalls,
        "samples": seen.samples,
        "at_home": seen.at_home,
        "held": seen.held,
        "at_work": seen.at_work,
        "windows": seen.windows,
    }
    (folder / "seen.json").write_text(json.dumps(told, indent=1))
    os._exit(0)


def main(words: list[str]) -> None:
    """Play: SEED EVENTS SECONDS FOLDER [PLAN ...]."""
    faulthandler.enable()
    seed, events, seconds, folder = int(words[0]), int(words[1]), float(words[2]), Path(words[3])
    private_folders(folder)
    run(seed, events, seconds, folder, [Path(word) for word in words[4:]], compiled=seed % 2 == 0)


if __name__ == "__main__":
    main(sys.argv[1:])
