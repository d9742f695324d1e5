"""Full disks, locked files, links, clocks, locales, poor terminals: each said in one sentence, and nothing lost."""

from __future__ import annotations

import errno
import json
import os
import sqlite3
import stat
import subprocess
import sys
import time
from collections.abc import Callable
from contextlib import closing
from dataclasses import replace
from datetime import date, timedelta
from pathlib import Path

from hard.tally import Tally
from pennello.design.pace import StepKind
from pennello.disk import kept_path, path_of, sweep, write_bytes
from pennello.errors import PennelloError
from pennello.files.demo import demo_plan
from pennello.files.kit_csv import csv_bytes, preview_csv
from pennello.files.plan_json import plan_bytes, read_plan, write_plan
from pennello.files.svg import svg_text
from pennello.kit.shelf import Keeping, KitItem
from pennello.order.run import begin, done
from pennello.order.steps import Step
from pennello.session.autosave import Autosave
from pennello.session.document import ChangedOnDiskError, Document
from pennello.session.kit import KitSession, expired_names, shipped_kit
from pennello.session.notebook import forget_answers, let_go_of_answers, note_run, notebook_path
from pennello.session.run_keeper import KeptRun, keep_run, left_runs, run_path
from pennello.store.kit_store import KitChangedError, KitStore
from pennello.store.notebook import Notebook
from pennello.units import NumberTextError, parse_length, parse_number

NOBODY = 65534
_STEPS = [Step(str(n), StepKind.STROKES, str(n), n, n + 1) for n in range(4)]


class NotPossibleHereError(Exception):
    """This machine does not let a fault be made."""


def _words(act: Callable[[], object]) -> str:
    """Return the sentence that something is refused with; "" where it is not refused."""
    try:
        act()
    except PennelloError as error:
        return str(error)
    return ""


def _same(wanted: str, words: str) -> str:
    return "" if wanted in words else f"wanted '{wanted}', got '{words[:160]}'"


def disk_full(folder: Path) -> str:
    """A file system without room: said as that, the old file stays; with room again it is written."""
    place = folder / "small"
    place.mkdir()
    mounted = subprocess.run(["mount", "-t", "tmpfs", "-o", "size=2048k", "none", str(place)], check=False)
    if mounted.returncode:
        raise NotPossibleHereError
    try:
        path, plan = place / "p.pennello", demo_plan()
        write_plan(plan, path)
        ballast = place / "ballast"
        handle = os.open(ballast, os.O_WRONLY | os.O_CREAT)
        try:
            while os.write(handle, b"x" * 512):
                continue
        except OSError as error:
            assert error.errno == errno.ENOSPC
        finally:
            os.close(handle)
        document = Document()
        document.open(path)
        keeper = Autosave(document, place / "state")
        document.edit("Title", replace(plan, title="New"))
        told = [_words(document.save), _words(keeper.keep), _words(lambda: KitSession(place / "kit.sqlite"))]
        if wrong := [one for one in told if "disk is full" not in one]:
            return f"not said: {wrong}"
        if read_plan(path) != plan:
            return "the plan has changed"
        ballast.unlink()
        keeper.keep()
        document.save()
        return "" if read_plan(path).title == "New" else "not written when there is room again"
    finally:
        subprocess.run(["umount", "-l", str(place)], check=False)


def not_allowed(folder: Path) -> str:
    """Somebody without rights: every writer says so in a sentence."""
    if os.geteuid() != 0:
        raise NotPossibleHereError
    place = folder / "locked"
    place.mkdir()
    path = place / "p.pennello"
    write_plan(demo_plan(), path)
    place.chmod(0o555)
    code = (
        "import os, sys\n"
        "from pathlib import Path\n"
        "from pennello.files.demo import demo_plan\n"
        "from pennello.session.document import Document\n"
        "from pennello.session.kit import KitSession, expired_names\n"
        "from pennello.session.motif_library import own_motifs\n"
        "from pennello.session.settings import Settings, load_settings, store_settings\n"
        "from pennello.errors import PennelloError\n"
        "place = Path(sys.argv[1]); document = Document(demo_plan()); document.open(place / 'p.pennello')\n"
        "os.setuid(65534)\n"
        "acts = [document.save, lambda: KitSession(place / 'kit.sqlite'), lambda: document.open(place / 'no' / 'x')]\n"
        "said = 0\n"
        "for act in acts:\n"
        "    try: act()\n"
        "    except PennelloError as error: said += 1; print(error)\n"
        "expired_names(place / 'none'); own_motifs(place); store_settings(Settings(), place); load_settings(place)\n"
        "sys.exit(0 if said == 3 else 4)\n"
    )
    folder.chmod(0o755)
    ended = subprocess.run(
        [sys.executable, "-c", code, str(place)], check=False, capture_output=True, text=True, timeout=120
    )
    place.chmod(0o755)
    if "ModuleNotFoundError" in ended.stderr:
        raise NotPossibleHereError  # the program itself lies where nobody may look
    return "" if ended.returncode == 0 else f"code {ended.returncode}: {ended.stdout[-200:]} {ended.stderr[-300:]}"


def locked_kit(folder: Path) -> str:
    """A kit that another one is writing: said soon, and nothing is changed."""
    path = folder / "kit.sqlite"
    session = KitSession(path, busy_ms=60)
    with closing(sqlite3.connect(path, isolation_level=None)) as other:
        other.execute("BEGIN EXCLUSIVE")
        item = next(iter(session.kit))
        began = time.monotonic()
        words = _words(lambda: session.put("Rename", [KitItem(replace(item.thing, name="New"), item.keeping)]))
        took = time.monotonic() - began
        other.execute("ROLLBACK")
    session.close()
    return _same("in use by another Pennello", words) or ("" if took < 1.0 else f"took {took:.1f} s")


def two_on_one_kit(folder: Path) -> str:
    """Two windows on one kit: both their changes stay, and the same thing changed twice is said."""
    path = folder / "two.sqlite"
    one, other = KitSession(path), KitSession(path)
    first, second = list(one.kit)[:2]
    one.put("Rename", [KitItem(replace(first.thing, name="By one"), first.keeping)])
    other.put("Rename", [KitItem(replace(second.thing, name="By the other"), second.keeping)])
    try:
        other.put("Rename", [KitItem(replace(first.thing, name="Again"), first.keeping)])
        if other.kit.items[first.key].name != "Again":
            return "what is shown is not what was put"
    except KitChangedError:
        return "a row that had been read anew is refused"
    stale = _words(lambda: one.put("Rename", [KitItem(replace(first.thing, name="Stale"), first.keeping)]))
    names = {one.kit.items[first.key].name, one.kit.items[second.key].name}
    one.close()
    other.close()
    with closing(KitStore(path)) as store:
        there = store.read()
    kept = {there.items[first.key].name, there.items[second.key].name}
    if kept != {"Again", "By the other"} or names != kept:
        return f"lost: {kept}, shown {names}"
    return _same("changed by another Pennello", stale)


def two_on_one_plan(folder: Path) -> str:
    """Two windows on one plan: what the other one saved is not written over."""
    path = folder / "shared.pennello"
    write_plan(demo_plan(), path)
    one, other = Document(), Document()
    one.open(path)
    other.open(path)
    one.edit("Title", replace(one.committed, title="One"))
    one.save()
    other.edit("Title", replace(other.committed, title="Other"))
    try:
        other.save()
    except ChangedOnDiskError:
        return "" if read_plan(path).title == "One" else "the file has changed"
    return "written over"


def links(folder: Path) -> str:
    """Links that go round in a circle, and links planted where copies and runs go."""
    ring = folder / "ring"
    ring.symlink_to(folder / "gnir")
    (folder / "gnir").symlink_to(ring)
    words = _words(lambda: read_plan(ring)) + _words(lambda: write_plan(demo_plan(), ring))
    if words.count("circle") != 2:
        return f"not said: {words}"
    victim = folder / "victim"
    victim.write_text("mine")
    document = Document(demo_plan())
    document.save(folder / "l.pennello")
    keeper = Autosave(document, folder)
    (folder / f".l.pennello.{keeper.owner.token}.autosave").symlink_to(victim)
    document.edit("Title", replace(document.committed, title="New"))
    keeper.keep()
    run_path().parent.mkdir(parents=True, exist_ok=True)
    run_path("12345678").symlink_to(victim)
    keep_run(KeptRun(begin(_STEPS, 0.0), "P", "", "face", ""), 0.0, 0.0, run_path("12345678"))
    run_path("12345678").unlink()
    keeper.close()
    return "" if victim.read_text() == "mine" else "written through a link"


def clock_goes_back(folder: Path) -> str:
    """A copy that looks older than its file is offered all the same."""
    path = folder / "clock.pennello"
    write_plan(demo_plan(), path)
    copy = folder / ".clock.pennello.autosave"
    write_plan(replace(demo_plan(), title="Not saved"), copy)
    os.utime(copy, (0, 0))
    found = Autosave(Document(), folder).recoverable(path)
    return "" if found is not None and found.plan.title == "Not saved" else "hidden"


def damaged_copy(folder: Path) -> str:
    """A damaged copy is set aside with a sentence, and the sound plan opens."""
    path = folder / "sound.pennello"
    write_plan(demo_plan(), path)
    copy = folder / ".sound.pennello.autosave"
    copy.write_bytes(plan_bytes(demo_plan()).replace(b"Saltmarsh", b"Salt\xedarsh"))
    left = Autosave(Document(), folder).left(path)
    document = Document()
    document.open(path)
    aside = copy.with_name(copy.name + ".damaged").exists()
    return "" if len(left.set_aside) == 1 and aside and document.plan == demo_plan() else str(left)


def private_files(folder: Path) -> str:
    """What people said: only the owner may read it, and only until the day is over."""
    del folder
    told = (("allergy", "yes"), ("age", "adult"))
    today = date.today()
    for days, token in ((0, "aaaaaaaa"), (3, "bbbbbbbb")):
        begun = f"{today - timedelta(days=days)}T10:00:00+00:00"
        kept = KeptRun(done(begin(_STEPS, 0.0), 1.0), "P", "", "face", begun, told, (), (("allergy", "words"),))
        keep_run(kept, 1.0, time.time(), run_path(token))
        note_run(replace(kept, ended=begun))
    places = [run_path("aaaaaaaa"), notebook_path()]
    open_to_others = [p for p in (*places, *(p.parent for p in places)) if stat.S_IMODE(p.stat().st_mode) & 0o077]
    if open_to_others:
        return f"others may read {open_to_others}"
    let_go_of_answers(today)
    with Notebook(notebook_path()) as book:
        kept_answers = [bool(run.answers) for run in book.runs()]
    if sorted(kept_answers) != [False, True] or "yes" in run_path("bbbbbbbb").read_text():
        return f"kept beyond the day: {kept_answers}"
    forget_answers()
    data = notebook_path().read_bytes() + run_path("aaaaaaaa").read_bytes()
    return "" if b"allergy" not in data else "not erased"


def run_after_a_kill(folder: Path) -> str:
    """A run that ended while the notebook was locked stays on disk until it is in."""
    from pennello.session.owner import Owner  # noqa: PLC0415 - beside what uses it

    ended = KeptRun(done(begin(_STEPS, 0.0), 1.0), "Q", "", "face", "2026-11-27T09:00:00+00:00", ended="2026-11-27T10")
    keep_run(ended, 1.0, time.time(), run_path("cccccccc"))
    book = folder / "locked.sqlite"
    Notebook(book).close()
    with closing(sqlite3.connect(book, isolation_level=None)) as other:
        other.execute("BEGIN EXCLUSIVE")
        words = _words(lambda: note_run(ended, book, busy_ms=50))
        other.execute("ROLLBACK")
    left = left_runs(Owner(folder), 0.0, time.time(), date.today())
    there = [one for one, path in left.runs if one.title == "Q" and one.over and path.exists()]
    run_path("cccccccc").unlink()
    return _same("in use", words) or ("" if there else "the run is lost")


def far_dates(folder: Path) -> str:
    """The last day that there is, and times far off."""
    path = folder / "dates.sqlite"
    with closing(KitStore(path)) as store:
        item = next(iter(shipped_kit()))
        store.write([KitItem(item.thing, Keeping(expires=date.max, opened=date.min))])
    if expired_names(path, date.max):
        return "expired on its last day"
    copy = folder / ".far.pennello.autosave"
    write_plan(demo_plan(), folder / "far.pennello")
    write_plan(replace(demo_plan(), title="Far"), copy)
    os.utime(copy, (253402300799, 253402300799))  # 9999-12-31
    found = Autosave(Document(), folder).recoverable(folder / "far.pennello")
    return "" if found is not None else "hidden"


def strays(folder: Path) -> str:
    """Temporary files that a kill left are swept, others stay."""
    old, new, other = folder / ".p.pennello.0a1b2c3d.tmp", folder / ".p.pennello.0a1b2c3e.tmp", folder / "notes.tmp"
    for path in (old, new, other):
        path.write_text("x")
    os.utime(old, (0, 0))
    sweep(folder)
    return "" if not old.exists() and new.exists() and other.exists() else "swept wrongly"


def numbers(folder: Path) -> str:
    """Numbers as people write them; nothing else passes."""
    del folder
    right = [parse_number("12,5") == 12.5, parse_length("3/4 in") == 19.05, parse_length('1 1/8"') == 28.575]
    for text in ("nan", "inf", "1_9", "\u0663", "1e999", "", "12,5,5", "1/0", "0x10", "one"):
        try:
            parse_number(text)
            return f"'{text}' passes"
        except NumberTextError:
            continue
    return "" if all(right) else str(right)


def names_stay_words(folder: Path) -> str:
    """Names that look like formulas, markup or control signs."""
    plan = replace(demo_plan(), title="a\x00<b>&\x1f")
    from xml.etree.ElementTree import fromstring  # noqa: PLC0415 - our own text

    fromstring(svg_text(plan))
    item = next(iter(shipped_kit()))
    evil = KitItem(replace(item.thing, id="=1+1", name="@SUM(1)"), item.keeping)
    table = csv_bytes([evil]).decode()
    if ",=1" in table or ",@S" in table or "'=1+1" not in table:
        return f"a formula: {table[-200:]}"
    path = folder / "evil.csv"
    path.write_bytes(csv_bytes([evil]))
    back = preview_csv(path, shipped_kit())
    return "" if back.added and back.added[0].id == "=1+1" else f"not the same: {back.words}"


def command_lines(folder: Path) -> str:
    """The command line at an ASCII terminal, with foreign locales and with words that mean nothing."""
    plan = folder / "c.pennello"
    few = tuple(replace(one, part="") for one in demo_plan().motifs[:3])
    write_plan(replace(demo_plan(), title="Salzwiese \u00b5\u2192", motifs=few, parts=(), overlays=()), plan)
    bad = folder / "bad.pennello"
    bad.write_bytes(b'{"format":"pennello-plan","schema":6,"title":"\xff"}')
    ring = folder / "kreis"
    ring.symlink_to(ring)
    tries: tuple[tuple[list[str], int], ...] = (
        (["lay", str(plan), "dahlia-petal"], 0),
        (["order", str(plan), "--seconds", "0"], 0),
        (["check", str(bad)], 2),
        (["check", str(ring)], 2),
        (["lay", str(plan), "dahlia-petal", "--px-per-mm", "nan"], 2),
        (["runs", "--notebook", str(bad)], 2),
        (["kit", "list", "--kit", str(bad)], 2),
        (["svg", "import", str(plan), "dahlia-petal", str(bad)], 2),
    )
    for number, (words, code) in enumerate(tries):
        poor = {"LC_ALL": "C", "PYTHONIOENCODING": "ascii", "PYTHONUTF8": "0", "PYTHONCOERCECLOCALE": "0"}
        other = {"LC_ALL": "de_DE.UTF-8"}
        ended = subprocess.run(
            [sys.executable, "-m", "pennello", *words],
            check=False,
            capture_output=True,
            timeout=120,
            env={**os.environ, **(other if number % 3 == 2 else poor)},
        )
        if ended.returncode != code or b"Traceback" in ended.stderr or ended.stderr.count(b"\n") > 1:
            return f"{words[:2]}: code {ended.returncode}, {ended.stderr[-300:]!r}"
    return ""


def big_words(folder: Path) -> str:
    """Messages never repeat megabytes of a key."""
    path = folder / "big.pennello"
    path.write_text(json.dumps({"format": "pennello-plan", "schema": 6, "k" * 3_000_000: 1}))
    words = _words(lambda: read_plan(path))
    return "" if words and len(words) < 1000 else f"{len(words)} signs"


def marks(folder: Path) -> str:
    """A byte-order mark is read past; the folder's list is flushed; permissions stay."""
    path = folder / "mark.pennello"
    path.write_bytes(b"\xef\xbb\xbf" + plan_bytes(demo_plan()))
    path.chmod(0o640)
    plan = read_plan(path)
    write_bytes(plan_bytes(plan), path)
    return "" if plan == demo_plan() and stat.S_IMODE(path.stat().st_mode) == 0o640 else "not kept"


def names_of_any_bytes(folder: Path) -> str:
    """A plan may be called anything: its name in Latin-1, in a folder with brackets, is saved, copied and run."""
    where = folder / 'old (stick) "a"'
    where.mkdir()
    path = Path(os.fsdecode(os.fsencode(where) + b"/caf\xe9.pennello"))
    document = Document(demo_plan())
    document.save(path)
    document.edit("Title", replace(document.plan, title="Other"))
    keeper, taker = Autosave(document, folder), Autosave(Document(), folder)
    keeper.keep()
    keeper.owner.release()
    left = taker.left(path).copies
    keep_run(KeptRun(begin(_STEPS, 0.0), "Old", kept_path(path), "face", date.today().isoformat()), 1.0, 0.0)
    (run,) = (one for one, where in left_runs(taker.owner, 1.0, 0.0, date.today()).runs if where == run_path())
    run_path().unlink()
    found = (read_plan(path) == demo_plan(), [one.plan.title for one in left], path_of(run.plan))
    return "" if found == (True, ["Other"], path) else f"found {found!a}"


FAULTS: tuple[Callable[[Path], str], ...] = (
    disk_full,
    not_allowed,
    locked_kit,
    two_on_one_kit,
    two_on_one_plan,
    links,
    clock_goes_back,
    damaged_copy,
    private_files,
    run_after_a_kill,
    far_dates,
    strays,
    numbers,
    names_stay_words,
    command_lines,
    big_words,
    marks,
    names_of_any_bytes,
)


def faults(folder: Path) -> list[Tally]:
    """Make every fault once; return a row for each."""
    rows = []
    for fault in FAULTS:
        mine = folder / fault.__name__
        mine.mkdir()
        row = Tally(fault.__name__.replace("_", " "))
        try:
            row.check(fault(mine))
        except NotPossibleHereError:
            row.note = "not possible here"
        except Exception as error:  # noqa: BLE001 - the very thing that is looked for
            row.check(f"{type(error).__name__}: {str(error)[:200]}")
        rows.append(row)
    return rows
