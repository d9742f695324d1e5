"""A run kept on disk after every tick of the hand, so that nothing is lost if the lid is shut in the middle.

Times within the file are on the run's own clock; `saved_at` is the time of day of the last writing. When it is taken
up again the paint has dried on for as long as the lid was shut, and the hand counts as having paused. A run that has
ended stays until the notebook has it. Each Pennello keeps its run under a token of its own. Only the owner may read
the file: it holds what a person said, which is let go of when the day is over.
"""

from __future__ import annotations

import contextlib
import math
from dataclasses import dataclass, replace
from datetime import date, datetime
from pathlib import Path
from typing import Annotated, Literal

import msgspec
from msgspec import Meta

from pennello.caution.person import is_personal
from pennello.chart.catalogue import CHARTS
from pennello.design.pace import Pace, StepKind
from pennello.disk import PRIVATE, file_problem, make_private_folder, read_bytes, write_bytes
from pennello.errors import FileProblemError, PennelloError, clipped
from pennello.files.json_text import sound_json
from pennello.limits import MOST_NAME
from pennello.order.job import Lag, Why
from pennello.order.run import Run, Took, pause, shifted
from pennello.order.steps import Step
from pennello.phrases import phrase
from pennello.session.owner import TOKEN_SIGNS, Owner
from pennello.session.settings import state_folder

MOST_BYTES = 80_000_000
"""Room for a thousand pieces that all lie on each other: half a million pairs of some 130 bytes."""

MOST_AWAY_S = 366 * 86_400.0
_STEM, _SUFFIX, _DAMAGED = "run", ".json", ".damaged"

Seconds = Annotated[float, Meta(ge=-1e10, le=1e10)]
Words = Annotated[str, Meta(max_length=20_000)]
Name = Annotated[str, Meta(max_length=16_384)]


class _StepFile(msgspec.Struct, forbid_unknown_fields=True, frozen=True):
    id: Name
    kind: StepKind
    name: Words
    start_s: Seconds
    end_s: Seconds
    waits_for: tuple[Name, ...]
    job: Name
    words: Words
    reloads_s: tuple[tuple[Seconds, Seconds], ...] = ()


class _TookFile(msgspec.Struct, forbid_unknown_fields=True, frozen=True):
    step: Name
    began_s: Seconds
    ended_s: Seconds
    paused_s: Seconds
    skipped: bool


class _LagFile(msgspec.Struct, forbid_unknown_fields=True, frozen=True):
    before: Name
    after: Name
    least_s: Seconds
    most_s: Seconds | None
    why: Why


class _FactorFile(msgspec.Struct, forbid_unknown_fields=True, frozen=True):
    kind: StepKind
    factor: Annotated[float, Meta(ge=0.01, le=100)]
    steps: Annotated[int, Meta(ge=0, le=1_000_000)]


class _RunFile(msgspec.Struct, forbid_unknown_fields=True, kw_only=True, frozen=True):
    format: Literal["pennello-run"] = "pennello-run"
    schema: Literal[1, 2, 3] = 3
    title: Annotated[str, Meta(max_length=MOST_NAME)]
    plan: Name
    chart: Name
    begun: Annotated[str, Meta(max_length=64)]
    saved_at: Seconds
    now_s: Seconds
    steps: Annotated[list[_StepFile], Meta(max_length=50_000)]
    took: Annotated[list[_TookFile], Meta(max_length=50_000)]
    began_s: Seconds
    paused_s: Seconds
    paused_at: Seconds | None
    answers: dict[str, str] = {}
    lags: Annotated[list[_LagFile], Meta(max_length=500_000)] = []
    cautions: Annotated[list[tuple[Name, Words]], Meta(max_length=1000)] = []  # since 2
    factors: Annotated[list[_FactorFile], Meta(max_length=100)] = []  # since 2
    ended: Annotated[str, Meta(max_length=64)] = ""  # since 2
    short: bool = False  # since 3


@dataclass(frozen=True, slots=True)
class KeptRun:
    """A run with what it is of.

    Attributes
    ----------
    plan
        The plan's file, "" for none.
    begun, ended
        Times of day as ISO 8601; "" while it goes on.
    answers, cautions
        What the person said, and what was shown, as pairs of code and words.
    lags
        What waits for what.
    factors
        The pace that the steps were planned at.
    short
        Whether it is of the plan's short form.
    """

    run: Run
    title: str
    plan: str
    chart: str
    begun: str
    answers: tuple[tuple[str, str], ...] = ()
    lags: tuple[Lag, ...] = ()
    cautions: tuple[tuple[str, str], ...] = ()
    factors: tuple[tuple[StepKind, float, int], ...] = ()
    ended: str = ""
    short: bool = False

    @property
    def over(self) -> bool:
        """Whether it has ended: all that is left is to write it into the notebook."""
        return bool(self.ended) or self.run.over

    @property
    def pace(self) -> Pace:
        """The pace that its steps were planned at."""
        return Pace(factors=self.factors)


def run_path(token: str = "") -> Path:
    """Return where the run in progress lies (XDG): under a token, or where Pennello 0.6 kept it."""
    return state_folder() / f"{_STEM}{'.' if token else ''}{token}{_SUFFIX}"


def keep_run(kept: KeptRun, now_s: float, wall_s: float, path: Path | None = None) -> None:
    """Write a run in progress: all of it or the old file; raises FileProblemError."""
    run, where = kept.run, path or run_path()
    make_private_folder(where.parent)
    file = _RunFile(
        title=kept.title[:MOST_NAME],
        plan=kept.plan,
        chart=kept.chart,
        begun=kept.begun,
        saved_at=wall_s,
        now_s=now_s,
        steps=[_StepFile(**{field: getattr(one, field) for field in _StepFile.__struct_fields__}) for one in run.steps],
        took=[_TookFile(one.step, one.began_s, one.ended_s, one.paused_s, one.skipped) for one in run.took],
        began_s=run.began_s,
        paused_s=run.paused_s,
        paused_at=run.paused_at,
        answers=dict(kept.answers),
        lags=[
            _LagFile(one.before, one.after, one.least_s, None if math.isinf(one.most_s) else one.most_s, one.why)
            for one in kept.lags
        ],
        cautions=list(kept.cautions),
        factors=[_FactorFile(*one) for one in kept.factors],
        ended=kept.ended,
        short=kept.short,
    )
    write_bytes(msgspec.json.encode(file), where, mode=PRIVATE, follow=False)


def read_run(path: Path, now_s: float, wall_s: float, today: date | None = None) -> KeptRun:
    """Return a run as it was kept, its paint dried on and its hand at rest.

    What a person said is left out once the day on which the run began is over.

    Raises
    ------
    FileProblemError
        If it cannot be read or cannot be a run; the sentence names the place.
    """
    data = sound_json(read_bytes(path, MOST_BYTES), path)
    try:
        file = msgspec.json.decode(data, type=_RunFile)
    except msgspec.DecodeError as error:
        raise FileProblemError(
            path,
            phrase(
                "this is no run that Pennello kept ({error}); it cannot be gone on with.",
                error=clipped(str(error), 160),
            ),
        ) from error
    except RecursionError as error:
        raise FileProblemError(path, phrase("the file is nested too deeply to be a run.")) from error
    try:
        kept = _kept(file, path)
    except FileProblemError:
        raise
    except PennelloError as error:
        raise FileProblemError(path, phrase("{error} It cannot be gone on with.", error=error)) from error
    if not kept.run.over:
        away_s = min(max(0.0, wall_s - file.saved_at), MOST_AWAY_S)
        kept = replace(kept, run=shifted(pause(kept.run, file.now_s), now_s - away_s - file.now_s))
    return kept if today is None or _day_of(kept.begun) >= today else without_answers(kept)


def _kept(file: _RunFile, path: Path) -> KeptRun:
    steps = tuple(Step(**msgspec.structs.asdict(one)) for one in file.steps)
    took = tuple(Took(one.step, one.began_s, one.ended_s, one.paused_s, one.skipped) for one in file.took)
    if not steps or [one.step for one in took] != [one.id for one in steps[: len(took)]]:
        raise FileProblemError(
            path, phrase("the steps that are done are not its first ones; it cannot be gone on with.")
        )
    if len({one.id for one in steps}) != len(steps):
        raise FileProblemError(path, phrase("a step stands in it twice; it cannot be gone on with."))
    if file.chart and file.chart not in CHARTS and file.chart != "skin":
        raise FileProblemError(
            path, phrase("there is no chart '{chart}'; it cannot be gone on with.", chart=clipped(file.chart, 40))
        )
    lags = tuple(
        Lag(one.before, one.after, one.least_s, math.inf if one.most_s is None else one.most_s, one.why)
        for one in file.lags
    )
    return KeptRun(
        Run(steps, file.began_s, took, file.paused_s, file.paused_at),
        file.title,
        file.plan,
        file.chart,
        file.begun,
        tuple(file.answers.items()),
        lags,
        tuple(file.cautions),
        tuple((one.kind, one.factor, one.steps) for one in file.factors),
        file.ended,
        file.short,
    )


def kept_run(now_s: float, wall_s: float, path: Path | None = None) -> KeptRun | None:
    """Return the run that was in progress; None where there is none, it is over, or it cannot be read."""
    try:
        kept = read_run(path or run_path(), now_s, wall_s)
    except FileProblemError:
        return None
    return None if kept.over else kept


@dataclass(frozen=True, slots=True)
class LeftRuns:
    """Runs whose Pennello is gone, each with its file; damaged ones were set aside, as sentences."""

    runs: tuple[tuple[KeptRun, Path], ...] = ()
    set_aside: tuple[str, ...] = ()


def run_files(owner: Owner | None = None) -> list[Path]:
    """Return the files of runs; with an owner only those that no living Pennello keeps."""
    found = []
    with contextlib.suppress(OSError):
        for path in sorted(state_folder().iterdir()):
            token = path.name.removeprefix(_STEM).removesuffix(_SUFFIX).lstrip(".")
            named = path.name in (f"{_STEM}{_SUFFIX}", f"{_STEM}.{token}{_SUFFIX}")
            if named and len(token) in (0, TOKEN_SIGNS) and (not token or owner is None or owner.left(token)):
                found.append(path)
    return found


def left_runs(owner: Owner, now_s: float, wall_s: float, today: date) -> LeftRuns:
    """Return runs that killed ones left; damaged ones are set aside."""
    runs, aside = [], []
    for path in run_files(owner):
        try:
            runs.append((read_run(path, now_s, wall_s, today), path))
        except FileProblemError as error:
            aside.append(
                phrase(
                    "A run that was under way is damaged and was set aside as {kept}: {problem}",
                    kept=_put_aside(path),
                    problem=error.problem,
                )
            )
    return LeftRuns(tuple(runs), tuple(aside))


def _put_aside(path: Path) -> str:
    """Put a damaged run out of the way; return what it is called there."""
    kept = path.with_name(f"{path.name}{_DAMAGED}")
    with contextlib.suppress(OSError):
        path.replace(kept)
    return kept.name


def forget_run(path: Path | None = None) -> None:
    """Remove a run: the notebook has it, or it is given up."""
    with contextlib.suppress(OSError):
        (path or run_path()).unlink(missing_ok=True)


def forget_answers_in_runs(before: date | None = None) -> int:
    """Take what people said out of the runs on disk, begun before a day or at all; return of how many.

    Damaged files go altogether: nobody can tell what they hold. Until all is to be forgotten they are only set aside,
    by who finds them.

    Raises
    ------
    FileProblemError
        If one cannot be written or erased; all others are.
    """
    count = 0
    problem: FileProblemError | None = None
    for path in run_files():
        try:
            kept = read_run(path, 0.0, 0.0)
        except FileProblemError:
            if before is None:
                _put_aside(path)
            continue
        said = bool(kept.answers) or any(is_personal(code) for code, _ in kept.cautions)
        if said and (before is None or _day_of(kept.begun) < before):
            try:
                write_bytes(_without_answers_on_disk(path), path, mode=PRIVATE, follow=False)
                count += 1
            except FileProblemError as error:
                problem = error
    for path in _damaged_runs():
        try:
            if before is None or _day_at(path.stat().st_mtime) < before:
                path.unlink()
                count += 1
        except OSError as error:
            problem = file_problem(path, error)
    if problem is not None:
        raise problem
    return count


def _damaged_runs() -> list[Path]:
    """Return the files of runs that were set aside; none where the folder may not be looked into."""
    with contextlib.suppress(OSError):
        return sorted(state_folder().glob(f"{_STEM}*{_SUFFIX}{_DAMAGED}"))
    return []


def _without_answers_on_disk(path: Path) -> bytes:
    """Return a run's file without what a person said, all else as it stands."""
    file = msgspec.json.decode(sound_json(read_bytes(path, MOST_BYTES), path), type=_RunFile)
    told = [one for one in file.cautions if not is_personal(one[0])]
    return msgspec.json.encode(msgspec.structs.replace(file, answers={}, cautions=told))


def without_answers(kept: KeptRun) -> KeptRun:
    """Return the same without what the person said, and without cautions that tell of it."""
    return replace(kept, answers=(), cautions=tuple(one for one in kept.cautions if not is_personal(one[0])))


def with_run(kept: KeptRun, run: Run) -> KeptRun:
    """Return the same with the run further on."""
    return replace(kept, run=run)


def _day_at(changed_s: float) -> date:
    """Return the day of a file's time; one that no calendar has was long ago."""
    try:
        return date.fromtimestamp(changed_s)
    except (OverflowError, ValueError, OSError):
        return date.min


def _day_of(begun: str) -> date:
    try:
        return datetime.fromisoformat(begun).date()
    except ValueError:
        return date.min
