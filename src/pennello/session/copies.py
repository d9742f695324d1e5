"""Pictures and tables to be pasted elsewhere: each is made by a worker from what was there when it was asked for."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from pennello.design.plan import Plan, skin_bytes
from pennello.kit.shelf import KitItem
from pennello.phrases import phrase
from pennello.session.jobs import Job
from pennello.units import LengthUnit

if TYPE_CHECKING:
    from pennello.day.event import Event
    from pennello.order.arrange import Arranged
    from pennello.practice.records import LogPage
    from pennello.session.chart_photo import LaidPhoto

Picture = NDArray[np.uint8]
Table = tuple[tuple[str, ...], ...]

CHART_PX_PER_MM = 4.0
"""How finely a painted chart is drawn for pictures (a default)."""


def drawn_stroke(plan: Plan, stroke: str, unit: LengthUnit) -> Callable[[Job[Any]], tuple[Picture, float]]:
    """Return what draws a stroke with its ribbons, and tells the picture's px per mm."""

    def draw(job: Job[Any]) -> tuple[Picture, float]:
        from pennello.files.picture import bench_picture  # noqa: PLC0415 - Pillow only when asked for
        from pennello.session.forecast import fine  # noqa: PLC0415

        outcome = fine(plan, stroke, unit)
        job.report(0.6, phrase("drawing it"))
        scale = outcome.laid.film.canvas.px_per_mm
        return bench_picture(outcome.picture, outcome.seen, outcome.attempt.edge_mm, scale), scale

    return draw


def stroke_image(plan: Plan, stroke: str, unit: LengthUnit) -> Callable[[Job[Any]], Picture]:
    """Return what draws a stroke with its ribbons."""
    drawn = drawn_stroke(plan, stroke, unit)
    return lambda job: drawn(job)[0]


def chart_image(
    plan: Plan, key: str, photo: LaidPhoto | None = None, *, mirrored: bool = False, view: str = ""
) -> Callable[[Job[Any]], Picture]:
    """Return what draws a chart as painted in the order found, `CHART_PX_PER_MM`.

    Parameters
    ----------
    view
        A close view of the chart; "" for the whole.
    """

    def draw(job: Job[Any]) -> Picture:
        from pennello.design.on_chart import chart_of  # noqa: PLC0415 - what lays paint is needed only now
        from pennello.design.scene import MOST_PIXELS  # noqa: PLC0415
        from pennello.session.chart_scene import ChartScene, chart_picture  # noqa: PLC0415
        from pennello.session.chart_views import WHOLE  # noqa: PLC0415
        from pennello.session.order_pictures import order_found  # noqa: PLC0415

        order = order_found(plan, key, job.check)
        job.report(0.3, phrase("painting it"))
        painted = ChartScene(CHART_PX_PER_MM, MOST_PIXELS).paint(
            plan, key, check=job.check, order=order, light=plan.light
        )
        job.report(0.8, phrase("drawing it"))
        return chart_picture(
            chart_of(plan, key),
            painted,
            skin_bytes(plan.skin, plan.light),
            CHART_PX_PER_MM,
            mirrored=mirrored,
            view=view or WHOLE,
            photo=photo,
            light=plan.light,
        )

    return draw


def painted_chart(draw: Callable[[Job[Any]], Picture], path: Path) -> Callable[[Job[Any]], object]:
    """Return the work of writing a painted chart as PNG or JPEG, by the ending; it raises FileProblemError."""

    def work(job: Job[Any]) -> None:
        from pennello.files.picture import write_jpeg, write_png  # noqa: PLC0415 - Pillow only when asked for

        picture = draw(job)
        job.report(0.9, phrase("writing it"))
        write = write_jpeg if path.suffix.lower() in (".jpg", ".jpeg") else write_png
        write(picture, path, CHART_PX_PER_MM)

    return work


def chart_page(plan: Plan, key: str, draw: Callable[[Job[Any]], Picture], path: Path) -> Callable[[Job[Any]], object]:
    """Return the work of writing a painted chart on a page as PDF; it raises FileProblemError."""

    def work(job: Job[Any]) -> None:
        from pennello.chart.catalogue import CHARTS  # noqa: PLC0415 - not at the start
        from pennello.files.chart_pdf import write_chart  # noqa: PLC0415 - reportlab only when asked for

        below = " · ".join(part for part in (CHARTS[key][0], plan.place, plan.skin.name) if part)
        write_chart(draw(job), plan.title, below, path)

    return work


def step_rows(arranged: Arranged) -> Table:
    """Return the steps of an order with their times, the heads first."""
    from pennello.files.steps_out import steps_csv  # noqa: PLC0415

    return _rows(steps_csv(arranged))


def kit_rows(items: Iterable[KitItem]) -> Table:
    """Return what is in the kit, the heads first."""
    from pennello.files.kit_csv import csv_bytes  # noqa: PLC0415

    return _rows(csv_bytes(items).decode("utf-8-sig"))


def page_rows(pages: Sequence[LogPage]) -> Table:
    """Return pages of the notebook, the heads first; not what people asked for."""
    from pennello.files.log_out import log_csv  # noqa: PLC0415

    return _rows(log_csv(pages))


def day_rows(event: Event) -> Table:
    """Return the books of an event, the heads first; no names of people."""
    from pennello.files.day_out import day_csv  # noqa: PLC0415

    return _rows(day_csv(event))


def _rows(text: str) -> Table:
    """Return a table cell by cell, guarded as in the file: pasted, a cell is no formula either.

    >>> _rows("head,other\\n1,2\\n")
    (('head', 'other'), ('1', '2'))
    """
    return tuple(tuple(row) for row in csv.reader(io.StringIO(text)) if row)
