"""Pictures and paper as work for a job: each takes what it needs when it is asked for, and writes it later."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

from pennello.design.plan import Plan
from pennello.kit.cake import Cake
from pennello.phrases import phrase
from pennello.session.copies import drawn_stroke
from pennello.session.jobs import Job
from pennello.units import LengthUnit

if TYPE_CHECKING:
    from pennello.day.bag import Thing
    from pennello.day.event import Event
    from pennello.finding import Finding
    from pennello.order.arrange import Arranged
    from pennello.order.stages import SheetPictures
    from pennello.practice.card import Card
    from pennello.practice.records import LogPage
    from pennello.practice.sheet import Practised, TryPlace

Work = Callable[[Job[Any]], object]


def stroke_picture(plan: Plan, stroke: str, unit: LengthUnit, path: Path) -> Work:
    """Return the work of writing a stroke with its ribbons as PNG; it raises FileProblemError."""

    def work(job: Job[Any]) -> None:
        from pennello.files.picture import write_png  # noqa: PLC0415 - Pillow only when asked for

        page, scale = drawn_stroke(plan, stroke, unit)(job)
        job.report(0.8, phrase("writing it"))
        write_png(page, path, scale)

    return work


def load_card(plan: Plan, stroke: str, unit: LengthUnit, path: Path) -> Work:
    """Return the work of writing a stroke's load card as PDF; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.card_pdf import write_card  # noqa: PLC0415 - reportlab only when asked for

        write_card(plan, stroke, path, unit)

    return work


def cake_label(plan: Plan, cake: Cake | None, unit: LengthUnit, path: Path) -> Work:
    """Return the work of writing a cake's label as PDF; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.cake_pdf import write_cake_label  # noqa: PLC0415 - reportlab only when asked for

        if cake is not None:
            write_cake_label(plan, cake.id, path, unit)

    return work


def order_sheet(arranged: Arranged, plan: Plan, chart: str, path: Path, *, tiles: bool = False) -> Work:
    """Return the work of writing the sheet for the chair as PDF; it raises FileProblemError."""

    def work(job: Job[Any]) -> None:
        from pennello.files.sheet_pdf import write_sheet  # noqa: PLC0415 - reportlab only when asked for

        told, pictures = _told_and_painted(job, arranged, plan, chart)
        job.report(0.8, phrase("drawing it"))
        write_sheet(arranged, told, path, pictures=pictures, tiles=tiles)

    return work


def _told_and_painted(
    job: Job[Any], arranged: Arranged, plan: Plan, chart: str
) -> tuple[tuple[Finding, ...], SheetPictures]:
    """Return the cautions and the pictures of a sheet."""
    from pennello.caution.person import Person  # noqa: PLC0415 - not at the start
    from pennello.caution.rules import cautions  # noqa: PLC0415
    from pennello.session.order_pictures import sheet_pictures  # noqa: PLC0415

    told = cautions(plan, Person(), chart)
    job.report(0.2, phrase("painting it"))
    return told, sheet_pictures(arranged, check=job.check)


def hand_over(arranged: Arranged, plan: Plan, chart: str, unit: LengthUnit, path: Path) -> Work:
    """Return the work of writing all of a design as one PDF; it raises FileProblemError."""

    def work(job: Job[Any]) -> None:
        from pennello.files.hand_over_pdf import write_hand_over  # noqa: PLC0415 - reportlab only when asked for

        told, pictures = _told_and_painted(job, arranged, plan, chart)
        job.report(0.6, phrase("drawing it"))
        write_hand_over(arranged, told, path, pictures=pictures, unit=unit)

    return work


def order_steps(arranged: Arranged, path: Path, now: datetime) -> Work:
    """Return the work of writing the steps as a table or calendar, by the ending; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.steps_out import write_steps  # noqa: PLC0415

        write_steps(arranged, path, now.replace(microsecond=0))

    return work


def order_pictures(arranged: Arranged, folder: Path, px_per_mm: float = 3.0) -> Work:
    """Return the work of writing the design after each step as PNG; it raises FileProblemError."""

    def work(job: Job[Any]) -> int:
        from pennello.files.picture import write_png  # noqa: PLC0415
        from pennello.session.order_pictures import file_stem, sequence  # noqa: PLC0415

        count = 0
        for chart in dict.fromkeys(one.chart for one in arranged.jobs):
            for moment in sequence(arranged, chart, px_per_mm):
                job.report(count / len(arranged.jobs), moment.job)
                name = f"{chart}-{moment.number:03d}-{file_stem(moment.job)}.png"
                write_png(moment.picture, folder / name, px_per_mm)
                count += 1
        return count

    return work


# --- the notebook ---


def card_sheet(plan: Plan, load: str, card: Card, path: Path) -> Work:
    """Return the work of writing a load's calibration card as PDF; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.practice_pdf import write_card_sheet  # noqa: PLC0415 - reportlab only when asked for

        write_card_sheet(plan, load, card, path)

    return work


def practice_sheet(what: Practised, places: tuple[TryPlace, ...], path: Path, words: str) -> Work:
    """Return the work of writing a practice sheet as PDF, its load in words; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.practice_pdf import write_practice_sheet  # noqa: PLC0415 - reportlab only when asked for

        write_practice_sheet(what, places, path, load=words)

    return work


def notebook_page(page: LogPage, notebook: Path, path: Path, *, asked: bool) -> Work:
    """Return the work of writing a page of the notebook as PDF; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.log_out import write_log_page  # noqa: PLC0415 - reportlab only when asked for
        from pennello.session.log import picture_of, step_rows, steps_of  # noqa: PLC0415

        planned, painted = (picture_of(name, notebook) for name in (page.picture, page.photo))
        steps = step_rows(steps_of(page, notebook))
        write_log_page(page, path, planned, painted, steps, asked=asked)

    return work


def notebook_table(pages: tuple[LogPage, ...], path: Path, *, asked: bool) -> Work:
    """Return the work of writing pages as a table or calendar, by the ending; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.log_out import write_log  # noqa: PLC0415

        write_log(pages, path, asked=asked)

    return work


# --- the day ---


def menu_board(event: Event, size: str, path: Path) -> Work:
    """Return the work of writing an event's menu board as PDF, "" for the paper at hand; it raises FileProblemError."""

    def work(job: Job[Any]) -> None:
        from pennello.files.day_pdf import write_board  # noqa: PLC0415 - reportlab only when asked for
        from pennello.files.paper import paper_now  # noqa: PLC0415
        from pennello.session.day import pictures_of  # noqa: PLC0415

        job.report(0.1, phrase("painting it"))
        write_board(event, pictures_of(event, job.check), path, size=size or paper_now().size.value)

    return work


def pick_card(event: Event, path: Path) -> Work:
    """Return the work of writing an event's pick card as PDF; it raises FileProblemError."""

    def work(job: Job[Any]) -> None:
        from pennello.files.day_pdf import write_pick_card  # noqa: PLC0415 - reportlab only when asked for
        from pennello.session.day import pictures_of  # noqa: PLC0415

        job.report(0.1, phrase("painting it"))
        write_pick_card(event, pictures_of(event, job.check), path)

    return work


def packing_list(event: Event, faces: float, things: tuple[Thing, ...], path: Path) -> Work:
    """Return the work of writing an event's packing list as PDF; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.day.bag import to_buy  # noqa: PLC0415
        from pennello.files.day_pdf import write_bag  # noqa: PLC0415 - reportlab only when asked for

        write_bag(event, faces, things, to_buy(things), path)

    return work


def hygiene_list(event: Event, path: Path) -> Work:
    """Return the work of writing the hygiene list as PDF; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.day_pdf import write_hygiene  # noqa: PLC0415 - reportlab only when asked for

        write_hygiene(event, path)

    return work


def quote(event: Event, faces: float, path: Path) -> Work:
    """Return the work of writing a quote as PDF; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.day_pdf import write_quote  # noqa: PLC0415 - reportlab only when asked for

        write_quote(event, faces, path)

    return work


def day_table(event: Event, path: Path) -> Work:
    """Return the work of writing an event's books or calendar, by the ending; it raises FileProblemError."""

    def work(_: Job[Any]) -> None:
        from pennello.files.day_out import write_day_table  # noqa: PLC0415
        from pennello.session.day import begins_at  # noqa: PLC0415

        write_day_table(event, path, begins_at(event))

    return work
