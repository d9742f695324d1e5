"""Damaged files of every kind that is read: each is read, or refused with one sentence, and nothing else happens."""

from __future__ import annotations

import io
import json
import random
import shutil
import sqlite3
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import numpy as np
from PIL import Image

from hard.tally import Tally
from pennello.design.pace import StepKind
from pennello.errors import PennelloError
from pennello.files.day_json import demo_event, read_day, write_day
from pennello.files.demo import demo_plan
from pennello.files.kit_csv import csv_bytes, preview_csv
from pennello.files.motif_file import read_own
from pennello.files.palette import read_palette, write_palette
from pennello.files.plan_json import parse_plan, plan_bytes, read_plan, sound_bytes
from pennello.files.reflectance_csv import read_reflectance, write_reflectance
from pennello.files.svg import read_svg, svg_text
from pennello.files.swatch import read_picture
from pennello.kit import catalogue
from pennello.kit.paint import masstones
from pennello.order.run import begin, done
from pennello.order.steps import Step
from pennello.session.kit import shipped_kit
from pennello.session.run_keeper import KeptRun, keep_run, read_run
from pennello.session.settings import Settings, load_settings, store_settings
from pennello.store.kit_store import KitStore
from pennello.store.log import Log
from pennello.store.notebook import Notebook, RunNote, StepNote

Reader = Callable[[Path], object]
MOST_WORDS = 1000
_TOKENS = (b"1e999", b"-1", b"NaN", b"null", b'""', b"99999999999999999999", b"true", b"[]", b"{}", b"1e-300", b"0")
_WORDS = (b"\x00", b"\xff\xfe", b"\xed\xa0\x80", b"<b>", b"=1+1", b"\xe2\x80\xae", b"..", b"9999-12-31", b"inf", b"'")


def corpus(folder: Path, plans: list[Path]) -> dict[str, tuple[Path, Reader]]:
    """Write one sound file of each kind into a folder; return each with what reads it."""
    found: dict[str, tuple[Path, Reader]] = {}
    for number, path in enumerate(plans):
        copy = folder / f"plan-{number}.pennello"
        shutil.copy(path, copy)
        found[f"plan {number}"] = (copy, read_there_and_back)
    (folder / "now.pennello").write_bytes(plan_bytes(demo_plan()))
    found["plan"] = (folder / "now.pennello", read_there_and_back)
    found["motif"] = (folder / "own.pennello-motif", read_own)
    own = {"format": "pennello-motif", "schema": 1, "name": "Mine", "motif": "petal-ring", "set": {"petals": 6}}
    found["motif"][0].write_text(json.dumps(own))
    steps = [Step(f"s{n}", StepKind.STROKES, f"s{n}", n, n + 1) for n in range(6)]
    told = (("allergy", "no"),)
    kept = KeptRun(done(begin(steps, 0.0), 2.0), "Plan", "", "face", "2026-11-27T10:00:00+00:00", told, (), told)
    keep_run(kept, 3.0, 1e9, folder / "run.json")
    write_day(demo_event(), folder / "event.pennello-day")
    found["event"] = (folder / "event.pennello-day", read_day)
    found["run"] = (folder / "run.json", lambda path: read_run(path, 0.0, 2e9))
    store_settings(Settings(), folder / "config")
    found["settings"] = (folder / "config" / "settings.json", lambda path: load_settings(path.parent))
    found["kit"] = (folder / "kit.sqlite", _read_kit)
    with closing(KitStore(folder / "kit.sqlite")) as store:
        store.write(shipped_kit())
    found["notebook"] = (folder / "notebook.sqlite", _read_notebook)
    with Notebook(folder / "notebook.sqlite") as book:
        for at in range(4):
            notes = tuple(StepNote(f"s{n}", StepKind.LOAD, "load", 5.0, 6.0 + n) for n in range(5))
            begun = f"2026-11-2{at}T10:00:00+00:00"
            book.add(
                RunNote("Plan", "face", begun, begun, 9.0, 8.0, finished=True, steps=notes, answers=told, cautions=told)
            )
    for path in (folder / "kit.sqlite", folder / "notebook.sqlite"):
        with closing(sqlite3.connect(path)) as base:
            base.execute("PRAGMA journal_mode = DELETE")
    paint = next(iter(catalogue.paints().values()))
    write_reflectance(tuple(masstones((paint,))[0].tolist()), folder / "r.csv")
    found["reflectance"] = (folder / "r.csv", read_reflectance)
    (folder / "kit.csv").write_bytes(csv_bytes(shipped_kit()))
    found["table"] = (folder / "kit.csv", lambda path: preview_csv(path, shipped_kit()))
    write_palette(catalogue.paints().values(), folder / "p.gpl")
    found["palette"] = (folder / "p.gpl", read_palette)
    (folder / "s.svg").write_text(svg_text(demo_plan()))
    found["svg"] = (folder / "s.svg", read_svg)
    noise = (np.random.default_rng(1).random((24, 32, 3)) * 255).astype("uint8")
    for ending in ("png", "jpeg", "gif", "bmp", "tiff", "webp"):
        file = io.BytesIO()
        Image.fromarray(noise).save(file, ending.upper())
        (folder / f"i.{ending}").write_bytes(file.getvalue())
        found[f"picture {ending}"] = (folder / f"i.{ending}", read_picture)
    return found


def read_there_and_back(path: Path) -> None:
    """Read a plan; one that can be read can be written, and comes back the same."""
    plan = read_plan(path)
    if parse_plan(sound_bytes(plan, path), path) != plan:
        raise AssertionError("the plan does not come back the same")


def _read_kit(path: Path) -> None:
    with closing(KitStore(path)) as store:
        store.read()


def _read_notebook(path: Path) -> None:
    with Notebook(path) as book:
        book.records()
    with Log(path) as log:
        log.pages()
        log.tries()
        log.learnt()


def mutated(data: bytes, rng: random.Random) -> bytes:
    """Return bytes with one to four things done to them."""
    for _ in range(rng.choice((1, 1, 1, 2, 4))):
        data = rng.choice((_bit, _bytes, _cut, _lost, _twice, _token, _word, _number))(data, rng)
    return data


def _bit(data: bytes, rng: random.Random) -> bytes:
    at = rng.randrange(len(data)) if data else 0
    return data[:at] + bytes([data[at] ^ (1 << rng.randrange(8))]) + data[at + 1 :] if data else data


def _bytes(data: bytes, rng: random.Random) -> bytes:
    at, count = rng.randrange(len(data) + 1), rng.randrange(1, 40)
    return data[:at] + rng.randbytes(count) + data[at + count :]


def _cut(data: bytes, rng: random.Random) -> bytes:
    return data[: rng.randrange(len(data) + 1)]


def _lost(data: bytes, rng: random.Random) -> bytes:
    at = rng.randrange(len(data) + 1)
    return data[:at] + data[at + rng.randrange(1, 200) :]


def _twice(data: bytes, rng: random.Random) -> bytes:
    at = rng.randrange(len(data) + 1)
    return data[: at + rng.randrange(1, 400)] + data[at:]


def _token(data: bytes, rng: random.Random) -> bytes:
    """Put something else in the place of what stands between two separators."""
    marks = [at for at, sign in enumerate(data) if sign in b':,[] ;\n"=']
    if len(marks) < 2:
        return data
    at = rng.randrange(len(marks) - 1)
    return data[: marks[at] + 1] + rng.choice(_TOKENS) + data[marks[at + 1] :]


def _word(data: bytes, rng: random.Random) -> bytes:
    at = rng.randrange(len(data) + 1)
    return data[:at] + rng.choice(_WORDS) * rng.choice((1, 1, 300)) + data[at:]


def _number(data: bytes, rng: random.Random) -> bytes:
    digits = [at for at, sign in enumerate(data) if 48 <= sign <= 57]
    if not digits:
        return data
    at = rng.choice(digits)
    return data[:at] + rng.choice((b"9", b"0", b"-", b".", b"e9", b"99999")) + data[at + 1 :]


def wrong(read: Reader, path: Path) -> str:
    """Read a file; return what should not have happened, or ""."""
    try:
        read(path)
    except PennelloError as error:
        words = str(error)
        if len(words) > MOST_WORDS:
            return f"{len(words)} signs of words"
        return "" if words.strip() else "no words"
    except Exception as error:  # noqa: BLE001 - the very thing that is looked for
        return f"{type(error).__name__}: {str(error)[:120]}"
    return ""


def damage(folder: Path, plans: list[Path], count: int, seed: int) -> list[Tally]:
    """Damage files so many times in all; return a row for each kind."""
    rng = random.Random(seed)
    files = corpus(folder, plans)
    rows = {kind: Tally(f"damaged {kind.split()[0]}") for kind in {kind.split()[0] for kind in files}}
    sound = {kind: path.read_bytes() for kind, (path, _) in files.items()}
    kinds = sorted(files)
    for number in range(count):
        kind = kinds[number % len(kinds)]
        path, read = files[kind]
        bad = mutated(sound[kind], rng)
        victim = path.with_name(f"bad-{path.name}")
        if kind == "settings":
            victim = path
        victim.write_bytes(bad)
        problem = wrong(read, victim)
        if problem:
            keep = folder / f"failed-{seed}-{number}-{path.name}"
            shutil.copy(victim, keep)
            problem = f"{problem} ({keep})"
        rows[kind.split()[0]].check(problem)
        for beside in folder.glob(f"{victim.name}-*"):
            beside.unlink()
        victim.unlink(missing_ok=True)
    return list(rows.values())
