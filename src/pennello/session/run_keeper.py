"""A run kept on disk after every tick of the hand, so that nothing is lost if the lid is shut in the middle.

Times within the file are on the run's own clock; `saved_at` is the time of day of the last writing. When it is taken
up again the paint has dried on for as long as the lid was shut, and the hand counts as having paused.
"""

from __future__ import annotations

import contextlib
import math
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Annotated, Literal

import msgspec
from msgspec import Meta

from pennello.errors import FileProblemError
from pennello.files.atomic import read_bytes, write_bytes
from pennello.order.job import Lag, Why
from pennello.order.pace import StepKind
from pennello.order.run import Run, Took, pause, shifted
from pennello.order.steps import Step
from pennello.session.settings import state_folder

MOST_BYTES = 5_000_000


class _StepFile(msgspec.Struct, forbid_unknown_fields=True, frozen=True):
    id: str
    kind: StepKind
    name: str
    start_s: float
    end_s: float
    waits_for: tuple[str, ...]
    job: str
    words: str
    reloads_s: tuple[tuple[float, float], ...] = ()


class _TookFile(msgspec.Struct, forbid_unknown_fields=True, frozen=True):
    step: str
    began_s: float
    ended_s: float
    paused_s: float
    skipped: bool


class _LagFile(msgspec.Struct, forbid_unknown_fields=True, frozen=True):
    before: str
    after: str
    least_s: float
    most_s: float | None
    why: Why


class _RunFile(msgspec.Struct, forbid_unknown_fields=True, kw_only=True, frozen=True):
    format: Literal["pennello-run"] = "pennello-run"
    schema: Literal[1] = 1
    title: str
    plan: str
    chart: str
    begun: str
    saved_at: float
    now_s: float
    steps: Annotated[list[_StepFile], Meta(max_length=5000)]
    took: list[_TookFile]
    began_s: float
    paused_s: float
    paused_at: float | None
    answers: dict[str, str] = {}
    lags: list[_LagFile] = []


@dataclass(frozen=True, slots=True)
class KeptRun:
    """A run with what it is of: the plan's title and file ("" for none), the chart, when begun, answers, and waits."""

    run: Run
    title: str
    plan: str
    chart: str
    begun: str
    answers: tuple[tuple[str, str], ...] = ()
    lags: tuple[Lag, ...] = ()


def run_path() -> Path:
    """Return where the run in progress lies (XDG)."""
    return state_folder() / "run.json"


def keep_run(kept: KeptRun, now_s: float, wall_s: float, path: Path | None = None) -> None:
    """Write a run in progress: all of it or the old file; raises FileProblemError."""
    run, where = kept.run, path or run_path()
    where.parent.mkdir(parents=True, exist_ok=True)
    file = _RunFile(
        title=kept.title,
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
    )
    write_bytes(msgspec.json.encode(file), where)


def kept_run(now_s: float, wall_s: float, path: Path | None = None) -> KeptRun | None:
    """Return the run that was in progress, its paint dried on and its hand at rest; None where there is none.

    A file that cannot be read counts as none.
    """
    where = path or run_path()
    try:
        file = msgspec.json.decode(read_bytes(where, MOST_BYTES), type=_RunFile)
    except (FileProblemError, msgspec.DecodeError, UnicodeDecodeError):
        return None
    steps = tuple(Step(**msgspec.structs.asdict(one)) for one in file.steps)
    took = tuple(Took(one.step, one.began_s, one.ended_s, one.paused_s, one.skipped) for one in file.took)
    run = Run(steps, file.began_s, took, file.paused_s, file.paused_at)
    if run.over or not steps:
        return None
    away_s = max(0.0, wall_s - file.saved_at)
    run = shifted(pause(run, file.now_s), now_s - away_s - file.now_s)
    lags = tuple(
        Lag(one.before, one.after, one.least_s, math.inf if one.most_s is None else one.most_s, one.why)
        for one in file.lags
    )
    return KeptRun(run, file.title, file.plan, file.chart, file.begun, tuple(file.answers.items()), lags)


def forget_run(path: Path | None = None) -> None:
    """Remove the run in progress: it is over, or given up."""
    with contextlib.suppress(OSError):
        (path or run_path()).unlink(missing_ok=True)


def with_run(kept: KeptRun, run: Run) -> KeptRun:
    """Return the same with the run further on."""
    return replace(kept, run=run)
