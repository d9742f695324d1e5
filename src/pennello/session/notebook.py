"""Where the notebook lies, the painter's own pace from it, and how long it keeps what people said."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from pathlib import Path

import platformdirs

from pennello.design.pace import Pace, StepKind, own_pace
from pennello.disk import exists, make_private_folder, tighten
from pennello.errors import FileProblemError
from pennello.order.run import Took, defaults_of
from pennello.order.steps import Step
from pennello.session.kit import kit_path
from pennello.session.run_keeper import KeptRun, forget_answers_in_runs, run_files
from pennello.session.settings import load_settings
from pennello.store.database import BUSY_MS, companions
from pennello.store.notebook import Notebook, RunNote, StepNote


def notebook_path() -> Path:
    """Return where the notebook lies (XDG)."""
    return Path(platformdirs.user_data_path("pennello")) / "notebook.sqlite"


def pace_of(path: Path | None = None, busy_ms: int = BUSY_MS) -> Pace:
    """Return the painter's own pace: medians of recorded runs, defaults where there are too few.

    Raises
    ------
    FileProblemError
        If there is a notebook that cannot be read.
    """
    where = path or notebook_path()
    if not exists(where):
        return Pace()
    with Notebook(where, busy_ms) as book:
        return own_pace(book.records())


def note_run(kept: KeptRun, path: Path | None = None, busy_ms: int = BUSY_MS) -> RunNote:
    """Write a run that has ended into the notebook, and return what was written.

    Raises
    ------
    FileProblemError
        If it cannot be written: the run's own file must stay.
    """
    note = note_of(kept)
    where = path or notebook_path()
    with Notebook(where, busy_ms) as book:
        book.add(note, kept.plan[:MOST_PATH], short=kept.short)
    return note


MOST_PATH = 4096


def note_of(kept: KeptRun) -> RunNote:
    """Return a run as the notebook keeps it."""
    run, pace = kept.run, kept.pace
    by_id = {step.id: step for step in run.steps}
    return RunNote(
        kept.title,
        kept.chart,
        kept.begun,
        kept.ended or datetime.now().astimezone().isoformat(timespec="seconds"),
        round(sum(one.seconds for one in run.took), 2),
        round(run.steps[-1].end_s, 2),
        run.over,
        tuple(_noted(by_id[one.step], one, pace) for one in run.took),
        kept.answers,
        kept.cautions,
    )


def _noted(step: Step, took: Took, pace: Pace) -> StepNote:
    whole, within = defaults_of(step, pace)
    left_out = took.skipped or step.kind is StepKind.WAIT
    actual, within = round(max(took.seconds, 0.0), 2), round(within, 2)
    name = step.name if step.name != step.kind.value else step.words.split(". ")[0].rstrip(".") or step.name
    return StepNote(
        step.id, step.kind, name, round(whole, 2), actual, left_out, within, planned_s=round(step.seconds, 2)
    )


def let_go_of_answers(today: date | None = None, path: Path | None = None) -> int:
    """Erase what people said on days that are over for longer than the settings keep it; return of how many runs.

    By default that is what was said before today.

    Raises
    ------
    FileProblemError
        If the notebook cannot be written.
    """
    day = (today or date.today()) - timedelta(days=load_settings().answers_days)
    return forget_answers(day, path)


def forget_answers(before: date | None = None, path: Path | None = None) -> int:
    """Erase what people said, in the notebook and in runs on disk; return of how many runs.

    Parameters
    ----------
    before
        Only of runs begun before this day; None for all.

    Raises
    ------
    FileProblemError
        If the notebook, or a run on disk, cannot be written; what can be is.
    """
    count, problem = 0, None
    try:
        count = forget_answers_in_runs(before)
    except FileProblemError as error:
        problem = error
    where = path or notebook_path()
    if exists(where):
        with Notebook(where) as book:
            count += book.forget_answers(before)
    if problem is not None:
        raise problem
    return count


def tighten_private_files() -> None:
    """Let only their owner read the own notebook and kit, their journals, copies and folders, and runs on disk.

    Older Pennellos did not. What the painter keeps elsewhere stays as it is.

    Raises
    ------
    FileProblemError
        If a folder's permissions cannot be changed.
    """
    for path in (notebook_path(), kit_path()):
        if exists(path.parent):
            make_private_folder(path.parent)
        for one in companions(path):
            tighten(one)
    for one in run_files():
        tighten(one)
