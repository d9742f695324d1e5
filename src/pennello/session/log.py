"""The log's services: keeping pages with their photos, finding and comparing them, and the hand that tries tell of."""

from __future__ import annotations

import contextlib
import hashlib
import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from pathlib import Path

import numpy as np
import platformdirs
from numpy.typing import NDArray
from PIL import Image

from pennello.aim.hand import Hand
from pennello.design.pace import StepKind
from pennello.design.plan import Plan
from pennello.disk import PRIVATE, exists, make_private_folder, read_bytes, write_bytes
from pennello.errors import FileProblemError
from pennello.files.swatch import read_picture
from pennello.phrases import mark, named, phrase, plural
from pennello.practice.records import KeptTry, LogPage
from pennello.practice.tries import TryScore
from pennello.practice.trouble import Trouble
from pennello.session.notebook import notebook_path
from pennello.store.database import BUSY_MS
from pennello.store.log import Log
from pennello.store.notebook import StepNote
from pennello.units import clock

LONGEST_PX = 2000
"""Photos are shrunk to so many pixels on their longer side."""

LEAST_TRIES = 6
"""From so many tries on the hand is the painter's own (a default)."""

_STEADIEST = {"angle_deg": 0.5, "offset_mm": 0.1}
_PHOTO_BYTES = 40_000_000


def photo_folder(path: Path | None = None) -> Path:
    """Return where the notebook's photos lie: beside it, for its owner alone."""
    return (path.parent if path is not None else Path(platformdirs.user_data_path("pennello"))) / "photos"


@contextlib.contextmanager
def open_log(path: Path | None = None, busy_ms: int = BUSY_MS) -> Iterator[Log]:
    """Give the log, and let go of it; raises FileProblemError."""
    with Log(path or notebook_path(), busy_ms) as log:
        yield log


def now_text() -> str:
    """Return this moment as the log keeps it."""
    return datetime.now().astimezone().isoformat(timespec="seconds")


# --- photos ---


def keep_photo(source: Path, path: Path | None = None) -> str:
    """Copy a photo beside the notebook, shrunk and without what its camera wrote into it; return its name there.

    Raises
    ------
    FileProblemError
        If it is no picture, or cannot be written.
    """
    return keep_picture(read_picture(source), path)


def keep_picture(picture: NDArray[np.uint8], path: Path | None = None) -> str:
    """Keep a picture, sRGB bytes of shape (rows, columns, 3), beside the notebook; return its name there."""
    image = Image.fromarray(picture)
    image.thumbnail((LONGEST_PX, LONGEST_PX), Image.Resampling.LANCZOS)
    file = io.BytesIO()
    image.save(file, "JPEG", quality=90)
    data = file.getvalue()
    name = f"{hashlib.sha256(data).hexdigest()[:20]}.jpg"
    folder = photo_folder(path)
    make_private_folder(folder)
    if not exists(folder / name):
        write_bytes(data, folder / name, mode=PRIVATE)
    return name


def photo_bytes(name: str, path: Path | None = None) -> bytes | None:
    """Return a kept photo, or None where it is gone."""
    if not name or Path(name).name != name:
        return None
    try:
        return read_bytes(photo_folder(path) / name, _PHOTO_BYTES)
    except FileProblemError:
        return None


def picture_of(name: str, path: Path | None = None) -> NDArray[np.uint8] | None:
    """Return a kept photo as sRGB bytes, or None where it is gone or damaged."""
    if photo_bytes(name, path) is None:
        return None
    try:
        return read_picture(photo_folder(path) / name)
    except FileProblemError:
        return None


def sweep_photos(path: Path | None = None) -> int:
    """Erase photos that no page shows any more; return how many."""
    with open_log(path) as log:
        used = {name for page in log.pages() for name in (page.photo, page.picture) if name}
    folder, count = photo_folder(path), 0
    if exists(folder):
        for one in folder.glob("*.jpg"):
            if one.name not in used:
                with contextlib.suppress(OSError):  # one that may not be erased stays; the next sweep tries again
                    one.unlink(missing_ok=True)
                    count += 1
    return count


# --- finding ---


@dataclass(frozen=True, slots=True)
class LookedFor:
    """What is looked for: words anywhere on a page, a colour, a trouble, days from and to (ISO); "" for any."""

    words: str = ""
    colour: str = ""
    trouble: Trouble | None = None
    since: str = ""
    until: str = ""


def found(pages: Sequence[LogPage], wanted: LookedFor) -> tuple[LogPage, ...]:
    """Return the pages that are looked for, in their order; every word has to stand somewhere on a page."""
    words = wanted.words.casefold().split()
    return tuple(page for page in pages if _matches(page, wanted) and _says(page, words))


def _matches(page: LogPage, wanted: LookedFor) -> bool:
    day = page.day[:10]
    return (
        (not wanted.colour or wanted.colour in page.colours)
        and (wanted.trouble is None or any(one.trouble is wanted.trouble for one in page.faults))
        and (not wanted.since or day >= wanted.since)
        and (not wanted.until or day <= wanted.until)
    )


def _says(page: LogPage, words: list[str]) -> bool:
    if not words:
        return True
    told = [page.title, page.part, page.note, page.asked, page.kept, page.light, page.day[:10], *page.colours]
    told += [f"{named(one.trouble)} {one.name}" for one in page.faults]
    text = " ".join(told).casefold()
    return all(word in text for word in words)


@dataclass(frozen=True, slots=True)
class MonthSum:
    """A month in the log: pages, seconds of the hand, those predicted for the same pages, and how often what."""

    month: str
    pages: int
    painted_s: float
    planned_s: float
    troubles: tuple[tuple[Trouble, int], ...]


def months(pages: Sequence[LogPage]) -> tuple[MonthSum, ...]:
    """Return the sums of each month, the latest first."""
    by_month: dict[str, list[LogPage]] = {}
    for page in pages:
        by_month.setdefault(page.day[:7], []).append(page)
    return tuple(_sum(month, those) for month, those in sorted(by_month.items(), reverse=True))


def _sum(month: str, pages: list[LogPage]) -> MonthSum:
    timed = [page for page in pages if page.painted_s > 0 and page.planned_s > 0]
    counts = {one: sum(fault.trouble is one for page in pages for fault in page.faults) for one in Trouble}
    troubles = tuple((one, count) for one, count in counts.items() if count)
    return MonthSum(month, len(pages), sum(p.painted_s for p in timed), sum(p.planned_s for p in timed), troubles)


def compared(one: LogPage, other: LogPage) -> tuple[tuple[str, str, str], ...]:
    """Return what differs between two pages: what it is, a code to be `told`, and how it stands on each."""
    rows = [
        (mark("day"), one.day[:10], other.day[:10]),
        (mark("what"), one.title, other.title),
        (mark("part"), one.part or phrase("all of it"), other.part or phrase("all of it")),
        (mark("form"), _form(one), _form(other)),
        (mark("painted in"), _time(one.painted_s), _time(other.painted_s)),
        (mark("predicted"), _time(one.planned_s), _time(other.planned_s)),
        (mark("went wrong"), _faults(one), _faults(other)),
        (mark("light"), one.light, other.light),
        (mark("asked for"), one.asked, other.asked),
        (mark("kept"), one.kept, other.kept),
        (mark("colours"), ", ".join(one.colours), ", ".join(other.colours)),
        (mark("note"), one.note, other.note),
    ]
    return tuple(row for row in rows if row[1] != row[2])


def _form(page: LogPage) -> str:
    return phrase("short form") if page.short else phrase("whole")


def _time(seconds: float) -> str:
    return phrase("{seconds} min", seconds=clock(seconds)) if seconds > 0 else phrase("not timed")


def _faults(page: LogPage) -> str:
    return ", ".join(f"{named(one.trouble)}{f' ({one.name})' if one.name else ''}" for one in page.faults) or phrase(
        "nothing"
    )


# --- minutes by step ---


def steps_of(page: LogPage, path: Path | None = None) -> tuple[StepNote, ...]:
    """Return the steps of the run that a page is of; none where it is a note without one.

    Raises
    ------
    FileProblemError
        If they cannot be read.
    """
    if page.run is None:
        return ()
    with open_log(path) as log:
        return log.steps_of_run(page.run)


def step_rows(steps: Sequence[StepNote]) -> tuple[tuple[str, str, str, str], ...]:
    """Return each step in words: what it was, how long it was to take, how long it took, and how far that is apart."""
    return tuple((one.name, clock(one.planned_s), _took(one), _apart(one)) for one in steps)


def _took(one: StepNote) -> str:
    return phrase("left out") if _left_out(one) else clock(one.actual_s)


def _left_out(one: StepNote) -> bool:
    return one.skipped and one.kind is not StepKind.WAIT


def _apart(one: StepNote) -> str:
    apart = one.actual_s - one.planned_s
    if _left_out(one) or not _tells(one):
        return ""
    by = clock(abs(apart))
    return phrase("{by} longer", by=by) if apart > 0 else phrase("{by} less", by=by)


def _tells(one: StepNote) -> bool:
    """Return whether a step took another time than was predicted, beyond what a tick of the hand tells."""
    return abs(one.actual_s - one.planned_s) >= max(_LEAST_APART_S, 0.1 * one.planned_s)


_LEAST_APART_S = 3.0
"""Less than so much apart is the ticking itself (a default)."""


def apart_words(steps: Sequence[StepNote], most: int = 3) -> str:
    """Return which steps took another time than was predicted, the widest apart first; "" where none did."""
    told = sorted(
        (one for one in steps if _tells(one) and not _left_out(one)),
        key=lambda one: -abs(one.actual_s - one.planned_s),
    )
    parts = [
        phrase(
            "{one} {actual_s} instead of {planned_s} min",
            one=one.name,
            actual_s=clock(one.actual_s),
            planned_s=clock(one.planned_s),
        )
        for one in told[:most]
    ]
    left = sum(_left_out(one) for one in steps)
    parts += [plural(left, "{count} step left out", "{count} steps left out")] if left else []
    return phrase("By step: {parts}.", parts="; ".join(parts)) if parts else ""


# --- the hand ---


@dataclass(frozen=True, slots=True)
class OwnHand:
    """What tries tell of the hand: sizes of its slips, from how many tries; None where there are too few."""

    tries: int
    angle_deg: float | None
    offset_mm: float | None

    @property
    def words(self) -> str:
        """One sentence."""
        if self.angle_deg is None:
            lacking = LEAST_TRIES - self.tries
            return plural(
                lacking,
                "Your hand is a usual one until it has painted {count} more try.",
                "Your hand is a usual one until it has painted {count} more tries.",
            )
        if self.offset_mm is None:
            return plural(
                self.tries,
                "Your hand: the chisel is off by {angle_deg:.0f} degrees, from {tries} try.",
                "Your hand: the chisel is off by {angle_deg:.0f} degrees, from {tries} tries.",
                angle_deg=self.angle_deg,
                tries=self.tries,
            )
        return plural(
            self.tries,
            "Your hand: the chisel is off by {angle_deg:.0f} degrees, {offset_mm:.1f} mm beside on the cake, "
            "from {tries} try.",
            "Your hand: the chisel is off by {angle_deg:.0f} degrees, {offset_mm:.1f} mm beside on the cake, "
            "from {tries} tries.",
            angle_deg=self.angle_deg,
            offset_mm=self.offset_mm,
            tries=self.tries,
        )


def own_hand(tries: Sequence[KeptTry]) -> OwnHand:
    """Return what painted tries tell of the hand: root mean squares of its slips.

    How wide the rim comes out from try to try is how far beside the brush lay on the cake.
    """
    scores = [one.score for one in tries if not one.traced]
    if len(scores) < LEAST_TRIES:
        return OwnHand(len(scores), None, None)
    angle = float(np.sqrt(np.mean([one.slip.chisel_deg**2 for one in scores])))
    spreads = [spread for _, spread in _rim_spreads(tries)]
    offset = float(np.sqrt(np.mean(np.square(spreads)))) if spreads else None
    return OwnHand(
        len(scores),
        max(angle, _STEADIEST["angle_deg"]),
        None if offset is None else max(offset, _STEADIEST["offset_mm"]),
    )


def hand_of(path: Path | None = None, busy_ms: int = BUSY_MS) -> OwnHand:
    """Return what the notebook's tries tell of the hand; of no tries where there is no notebook yet.

    Raises
    ------
    FileProblemError
        If it cannot be read.
    """
    if not exists(path or notebook_path()):
        return own_hand(())
    with open_log(path, busy_ms) as log:
        return own_hand(log.tries())


def hand_brief(hand: Hand, own: OwnHand) -> str:
    """Return the same as `hand_words` where there is little room."""
    if own.angle_deg is None:
        return phrase("Sizes are defaults, or the plan's.")
    return (
        plural(own.tries, "Your hand, from {tries} try.", "Your hand, from {tries} tries.", tries=own.tries)
        if hand_with(hand, own) == hand
        else plural(own.tries, "{tries} try tell others.", "{tries} tries tell others.", tries=own.tries)
    )


def hand_words(hand: Hand, own: OwnHand) -> str:
    """Return whose the sizes of a hand's slips are: a plan's own, those that tries tell, or defaults."""
    if own.angle_deg is None:
        return phrase("Sizes are the plan's or defaults. {own}", own=own.words)
    if hand_with(hand, own) == hand:
        return own.words
    return phrase("Sizes are the plan's or defaults; tries tell of others. {own}", own=own.words)


def _rim_spreads(tries: Sequence[KeptTry]) -> Iterator[tuple[str, float]]:
    """Give, for each thing practised, how widely its rims spread, mm."""
    rims: dict[str, list[float]] = {}
    for one in tries:
        if not one.traced and one.score.rim_mm is not None:
            rims.setdefault(f"{one.plan}/{one.what}", []).append(one.score.rim_mm)
    for name, widths in rims.items():
        if len(widths) >= LEAST_TRIES // 2:
            yield name, float(np.std(widths, ddof=1))


def hand_with(hand: Hand, own: OwnHand) -> Hand:
    """Return a hand with what tries tell of it."""
    found: dict[str, float] = {}
    if own.angle_deg is not None:
        found["angle_deg"] = round(min(own.angle_deg, 90.0), 2)
    if own.offset_mm is not None:
        found["offset_mm"] = round(min(own.offset_mm, 20.0), 2)
    angle, offset = found.get("angle_deg", hand.angle_deg), found.get("offset_mm", hand.offset_mm)
    return replace(hand, angle_deg=angle, offset_mm=offset)


def kept_tries(
    scores: Sequence[TryScore], plan: Plan, what: str, name: str, *, lesson: str = "", traced: bool = False
) -> tuple[KeptTry, ...]:
    """Return scores as the log keeps them."""
    taken = now_text()
    return tuple(KeptTry(taken, plan.title, what, name, one, lesson, traced) for one in scores)
