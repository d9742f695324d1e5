"""What the user chose: theme, units, recent plans. A broken file means defaults, never an error."""

from __future__ import annotations

import contextlib
import json
import os
from dataclasses import asdict, dataclass, fields, replace
from pathlib import Path
from typing import Any

import platformdirs

from pennello.disk import make_private_folder, read_bytes, write_bytes
from pennello.errors import FileProblemError
from pennello.units import LengthUnit

MOST_RECENT, MOST_EVENTS, MOST_WINDOW, MOST_FOLDERS = 8, 24, 2000, 24
MOST_MAKER, MOST_TOUR = 80, 99
SIZES_PERCENT = TEXTS_PERCENT = (100, 125, 150, 175, 200)
UNITS = ("mm", "in")
PAPERS = ("A4", "Letter", "A3")
MOST_ANSWERS_DAYS = 366
_APP = "pennello"


def config_folder() -> Path:
    """Return where settings lie (XDG)."""
    return Path(platformdirs.user_config_path(_APP))


def state_folder() -> Path:
    """Return where copies of unnamed plans lie (XDG)."""
    return Path(platformdirs.user_state_path(_APP))


@dataclass(frozen=True, slots=True)
class Settings:
    """The user's choices. `theme` is linen or lamp, "" as the desktop has it; `more_contrast` makes either stronger.

    `size_percent` is how large everything is, `text_percent` how large words are beside all else, both from the next
    start on; `unit` mm or in; `recent` paths, newest first.

    `screen_px_per_mm` is what the on-screen ruler was set to with a card, 0 where it was not. `answers_days` is how
    many days after the day of a run what a person said is kept, 0 to 366. `less_motion` is whether
    nothing shall move by itself. `event` is the event that was open last, "" for none, `events` those that were
    open, newest first. `folders` are those last used, by kind of file. `unfolded` are folds that stand open. `paper`
    is what is printed on, `maker` the author that files for paper name. `welcomed` is whether the first steps were
    offered, `tour` the step of the tour at which it was left, 0 for none. `window` is where the window stood, as Qt
    keeps it.
    """

    theme: str = ""
    more_contrast: bool = False
    size_percent: int = 100
    text_percent: int = 100
    unit: str = "mm"
    recent: tuple[str, ...] = ()
    screen_px_per_mm: float = 0.0
    answers_days: int = 0
    less_motion: bool = False
    event: str = ""
    events: tuple[str, ...] = ()
    window: str = ""
    folders: tuple[tuple[str, str], ...] = ()
    unfolded: tuple[str, ...] = ()
    paper: str = "A4"
    maker: str = ""
    welcomed: bool = False
    tour: int = 0

    @property
    def follows_desktop(self) -> bool:
        """Whether the light of the table is as the desktop has it."""
        return not self.theme

    @property
    def length_unit(self) -> LengthUnit:
        """The unit lengths are shown in."""
        return LengthUnit(self.unit)


def with_recent(settings: Settings, path: Path) -> Settings:
    """Return the settings with a plan first among the recent ones."""
    name = os.path.realpath(path)  # a circle of links is no reason to forget the others
    others = tuple(other for other in settings.recent if other != name)
    return replace(settings, recent=(name, *others)[:MOST_RECENT])


def with_event(settings: Settings, path: str) -> Settings:
    """Return the settings with an event as the one that is open; "" for one without a file."""
    others = tuple(other for other in settings.events if other != path)
    return replace(settings, event=path, events=((path, *others) if path else others)[:MOST_EVENTS])


def load_settings(folder: Path | None = None) -> Settings:
    """Return the stored settings; whatever of them cannot be read is at its default."""
    try:
        stored = json.loads(read_bytes(_file(folder), 1_000_000))
    except (FileProblemError, ValueError, RecursionError):
        return Settings()
    return _sound(stored) if isinstance(stored, dict) else Settings()


def _sound(stored: dict[str, Any]) -> Settings:
    known = {field.name for field in fields(Settings)}
    values = {name: value for name, value in stored.items() if name in known}
    return Settings(
        theme=values["theme"] if values.get("theme") in ("linen", "lamp") else "",
        more_contrast=values.get("more_contrast") is True,
        size_percent=values["size_percent"] if values.get("size_percent") in SIZES_PERCENT else 100,
        text_percent=values["text_percent"] if values.get("text_percent") in TEXTS_PERCENT else 100,
        unit=values["unit"] if values.get("unit") in UNITS else UNITS[0],
        recent=_names(values.get("recent"))[:MOST_RECENT],
        screen_px_per_mm=_scale(values.get("screen_px_per_mm")),
        answers_days=_days(values.get("answers_days")),
        less_motion=values.get("less_motion") is True,
        event=values["event"] if isinstance(values.get("event"), str) else "",
        events=_names(values.get("events"))[:MOST_EVENTS],
        window=_short(values.get("window")),
        paper=values["paper"] if values.get("paper") in PAPERS else PAPERS[0],
        maker=_short(values.get("maker"))[:MOST_MAKER],
        welcomed=values.get("welcomed") is True,
        tour=_count(values.get("tour")),
        unfolded=_names(values.get("unfolded"))[:MOST_FOLDERS],
        folders=_pairs(values.get("folders"))[:MOST_FOLDERS],
    )


def _short(value: Any) -> str:
    return value if isinstance(value, str) and len(value) < MOST_WINDOW else ""


def _names(value: Any) -> tuple[str, ...]:
    return tuple(name for name in value if isinstance(name, str)) if isinstance(value, list) else ()


def _count(value: Any) -> int:
    return value if isinstance(value, int) and not isinstance(value, bool) and 0 <= value <= MOST_TOUR else 0


def _pairs(value: Any) -> tuple[tuple[str, str], ...]:
    given = [_names(one) for one in value] if isinstance(value, list) else []
    return tuple((one[0], one[1]) for one in given if len(one) == 2)


def _days(value: Any) -> int:
    sound = isinstance(value, int) and not isinstance(value, bool) and 0 <= value <= MOST_ANSWERS_DAYS
    return value if sound else 0


def _scale(value: Any) -> float:
    sound = isinstance(value, int | float) and not isinstance(value, bool) and 0.5 <= value <= 60
    return float(value) if sound else 0.0


def store_settings(settings: Settings, folder: Path | None = None) -> None:
    """Write the settings; a disk that refuses is no reason to stop a painter."""
    file = _file(folder)
    with contextlib.suppress(OSError, FileProblemError):
        make_private_folder(file.parent)
        write_bytes(json.dumps(asdict(settings), indent=1).encode(), file)


def _file(folder: Path | None) -> Path:
    return (folder or config_folder()) / "settings.json"
