"""The design after each step of an order, painted in the background."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QObject

from pennello.order.arrange import Arranged
from pennello.session.jobs import Job, Jobs
from pennello.session.order_pictures import sequence
from pennello.ui.theme.tokens import theme
from pennello.ui.work import Slot, begin


def paint_after(
    jobs: Jobs, key: str, owner: QObject, arranged: Arranged, px_per_mm: float, *, found: Slot, failed: Slot
) -> None:
    """Paint all charts of an order after each of its steps, in place of the job before with the same key.

    Parameters
    ----------
    found
        Called on the window's thread with each Moment.
    failed
        Called there with a sentence.
    """
    surround = theme().mat

    def work(job: Job[Any]) -> None:
        for chart in dict.fromkeys(one.chart for one in arranged.jobs):
            for moment in sequence(arranged, chart, px_per_mm, surround=surround):
                job.report(0.5, "")
                job.found.emit(moment)

    begin(jobs, key, owner, work, found=found, finished=lambda _: None, failed=failed)
