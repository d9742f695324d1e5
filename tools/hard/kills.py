"""Writers killed at random moments: what was there before or what was being written is there, and nothing between."""

from __future__ import annotations

import os
import random
import signal
import time
from collections.abc import Callable
from contextlib import closing
from dataclasses import replace
from pathlib import Path

from hard.tally import Tally
from pennello.design.pace import StepKind
from pennello.disk import sweep
from pennello.errors import PennelloError
from pennello.files.demo import demo_plan
from pennello.files.plan_json import read_plan, write_plan
from pennello.kit.shelf import KitItem
from pennello.order.run import begin, done
from pennello.order.steps import Step
from pennello.session.autosave import Autosave
from pennello.session.document import Document
from pennello.session.kit import shipped_kit
from pennello.session.run_keeper import KeptRun, keep_run, read_run
from pennello.session.settings import Settings, load_settings, store_settings
from pennello.store.kit_store import KitStore
from pennello.store.notebook import Notebook, RunNote, StepNote

LONGEST_S = 0.12
_STEPS = [Step(str(n), StepKind.STROKES, str(n), n, n + 1) for n in range(8)]


def _plan_writer(folder: Path) -> tuple[Callable[[int], None], Callable[[], str]]:
    path, plan = folder / "p.pennello", demo_plan()
    write_plan(replace(plan, title="0"), path)

    def look() -> str:
        return "" if read_plan(path).title.isdigit() else "another plan"

    return lambda n: write_plan(replace(plan, title=str(n)), path), look


def _copy_writer(folder: Path) -> tuple[Callable[[int], None], Callable[[], str]]:
    path, plan = folder / "c.pennello", demo_plan()
    write_plan(plan, path)
    holder: list[tuple[Document, Autosave]] = []

    def write(number: int) -> None:
        if not holder:
            document = Document()
            document.open(path)
            holder.append((document, Autosave(document, folder)))
        document, keeper = holder[0]
        document.edit("Title", replace(document.committed, title=str(number)))
        keeper.keep()

    def look() -> str:
        left = Autosave(Document(), folder).left(path)
        if left.set_aside:
            return left.set_aside[0]
        for one in left.copies:
            one.copy.unlink()
            if not one.plan.title.isdigit():
                return "another plan"
        return "" if read_plan(path) == plan else "the plan itself has changed"

    return write, look


def _kit_writer(folder: Path) -> tuple[Callable[[int], None], Callable[[], str]]:
    path, kit = folder / "k.sqlite", shipped_kit()
    with closing(KitStore(path)) as store:
        store.write(kit)
    count = len(kit)
    items = list(kit)[:12]

    def write(number: int) -> None:
        with closing(KitStore(path)) as store:
            store.write([KitItem(replace(item.thing, name=str(number)), item.keeping) for item in items])

    def look() -> str:
        with closing(KitStore(path)) as store:
            there = store.read()
        names = {there.items[item.key].name for item in items}
        return "" if len(there) == count and (len(names) == 1 or not any(n.isdigit() for n in names)) else "half a kit"

    return write, look


def _note_writer(folder: Path) -> tuple[Callable[[int], None], Callable[[], str]]:
    path = folder / "n.sqlite"
    notes = tuple(StepNote(str(n), StepKind.LOAD, "load", 5.0, 6.0) for n in range(20))

    def write(number: int) -> None:
        with Notebook(path) as book:
            begun = f"2026-11-27T10:00:{number % 60:02d}"
            book.add(RunNote("P", "face", begun, str(number), number, 5.0, finished=True, steps=notes))

    def look() -> str:
        with Notebook(path) as book:
            return "" if all(len(run.steps) == len(notes) for run in book.runs()) else "half a run"

    return write, look


def _run_writer(folder: Path) -> tuple[Callable[[int], None], Callable[[], str]]:
    path = folder / "r.json"
    keep_run(KeptRun(begin(_STEPS, 0.0), "P", "", "face", ""), 0.0, 0.0, path)

    def write(number: int) -> None:
        run = begin(_STEPS, 0.0)
        for at in range(number % 7):
            run = done(run, float(at))
        keep_run(KeptRun(run, "P", "", "face", ""), 9.0, 0.0, path)

    def look() -> str:
        return "" if len(read_run(path, 0.0, 0.0).run.steps) == len(_STEPS) else "half a run"

    return write, look


def _settings_writer(folder: Path) -> tuple[Callable[[int], None], Callable[[], str]]:
    def look() -> str:
        there = load_settings(folder)
        return "" if there.theme == "lamp" else "settings are lost"

    store_settings(Settings(theme="lamp"), folder)
    return lambda n: store_settings(Settings(theme="lamp", recent=tuple(str(n) for _ in range(8))), folder), look


WRITERS = {
    "plan": _plan_writer,
    "copy": _copy_writer,
    "kit": _kit_writer,
    "notebook": _note_writer,
    "run": _run_writer,
    "settings": _settings_writer,
}


def kills(folder: Path, count: int, seed: int) -> list[Tally]:
    """Kill each writer in turn, so many times in all; return a row for each."""
    rng = random.Random(seed)
    rows = []
    for number, (name, make) in enumerate(WRITERS.items()):
        mine = folder / name
        mine.mkdir()
        write, look = make(mine)
        row = Tally(f"killed writer of the {name}")
        for _ in range(count // len(WRITERS) + (number < count % len(WRITERS))):
            _killed(write, rng.uniform(0.0, LONGEST_S))
            row.check(_looked(look))
        sweep(mine, older_than_s=-1.0)
        row.check("" if not list(mine.glob(".*.tmp")) else "stray files stay")
        rows.append(row)
    return rows


def _killed(write: Callable[[int], None], after_s: float) -> None:
    """Let a child write on and on, and kill it as hard as can be."""
    child = os.fork()
    if child == 0:
        try:
            number = 1
            while True:
                write(number)
                number += 1
        finally:
            os._exit(3)
    time.sleep(after_s)
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)


def _looked(look: Callable[[], str]) -> str:
    try:
        return look()
    except PennelloError as error:
        return str(error)
