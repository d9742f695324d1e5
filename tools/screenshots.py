"""Remakes docs/screenshots from the demo plan, without a display.  make screenshots"""

from __future__ import annotations

import math
import os
import re
import sys
import tempfile
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image
from PySide6.QtCore import QEventLoop, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from pennello.colour.lights import Light
from pennello.design.pace import StepKind
from pennello.design.plan import Plan
from pennello.files.demo import demo_plan, shipped_design
from pennello.lay.engine import kernel
from pennello.lay.families.hold import Hold
from pennello.lay.warming import warm_up
from pennello.motif.catalogue import MOTIFS
from pennello.order.arrange import arrange, design_of
from pennello.practice.records import LogPage, PageFault
from pennello.practice.trouble import Trouble, mend_of
from pennello.session.design_pictures import laid_plan
from pennello.session.document import Document
from pennello.session.log import keep_picture, open_log
from pennello.session.notebook import notebook_path
from pennello.session.settings import Settings
from pennello.store.notebook import Notebook, RunNote, StepNote
from pennello.ui.app import make_application
from pennello.ui.first_steps import WAYS
from pennello.ui.stations.bench.family_page import FamilyPage
from pennello.ui.theme.style import apply_theme, dress
from pennello.ui.window import MainWindow

SHOTS = Path(__file__).parents[1] / "docs" / "screenshots"
HELP = Path(__file__).parents[1] / "src" / "pennello" / "ui" / "help_pages"
HELP_PX = 560
TRAY_VIEWS = (
    ("tray-cakes", 1, "dahlia-wrist", "lamp"),
    ("tray-brushes", 2, "petal-brush", "linen"),
)
VIEWS: tuple[tuple[str, str, str, tuple[int, int]], ...] = (
    ("bench", "poppy-petal", "linen", (1280, 800)),
    ("bench-wish", "dahlia-petal", "linen", (1280, 800)),
    ("bench-find", "beetle-scale", "linen", (1280, 800)),
    ("bench-design", "dahlia-petal", "lamp", (1280, 800)),
    ("bench-forgive", "dahlia-petal", "linen", (1280, 800)),
)

SEARCHES = {"bench-wish": "wish", "bench-find": "find", "bench-design": "design", "bench-forgive": "forgive"}


def there(window: MainWindow, key: str) -> Any:
    """Return a station with all that it has."""
    return window.station(key)


def wait(window: MainWindow, milliseconds: int) -> None:
    """Let the window work until the verdict is there."""
    loop = QEventLoop()
    window.model.judged.connect(loop.quit)
    QTimer.singleShot(milliseconds, loop.quit)
    loop.exec()
    QApplication.processEvents()


def shoot(name: str, stroke: str, theme: str, size: tuple[int, int], folder: Path) -> None:
    """Write one picture of the window."""
    window = MainWindow(Document(demo_plan()), Settings(theme=theme))
    window.resize(*size)
    window.show()
    window.model.choose(stroke)
    wait(window, 4000)
    wait(window, 900)
    if name in SEARCHES:
        show_search(window, SEARCHES[name])
    QApplication.processEvents()
    window.grab().save(str(folder / f"{name}.png"))
    while window.document.undo_label:  # a plan with changes would ask before it closes
        window.document.undo()
    window.close()


def show_search(window: MainWindow, name: str) -> None:
    """Show one of the read-out's pages, searched to its end."""
    there(window, "bench").show_page(name)
    page = there(window, "bench").page_of(name)
    if name == "design":
        page.again.click()
    for _ in range(40):
        wait(window, 400)
        if not getattr(page, "busy", False):
            break


def opened(key: str, theme: str = "linen") -> MainWindow:
    """Return a window of the demo at a station."""
    window = MainWindow(Document(demo_plan()), Settings(theme=theme))
    window.resize(1280, 800)
    window.show()
    window.go_to(key)
    return window


def wait_for_chart(window: MainWindow) -> None:
    """Let the window work until the chart is painted and all motifs have their pictures."""
    station = there(window, "chart")
    for _ in range(100):
        wait(window, 300)
        if not station.model.busy and len(station.gallery.pictures) == len(MOTIFS):
            break


def shoot_chart(name: str, theme: str, folder: Path) -> None:
    """Write a picture of the Chart."""
    window = opened("chart", theme)
    station = there(window, "chart")
    if theme == "lamp":
        station.model.show_chart("forearm")
        station.model.choose(station.model.motifs[1].id)
        station.model.edit("Light", lambda plan: replace(plan, light=Light.LANTERN))
    else:
        station.model.choose("")
        tree = station.side.parts.tree
        tree.setCurrentItem(tree.topLevelItem(0))
    wait_for_chart(window)
    window.grab().save(str(folder / f"{name}.png"))
    leave(window)


def leave(window: MainWindow) -> None:
    """Take back what was changed, so that closing asks nothing, and close."""
    while window.document.undo_label:
        window.document.undo()
    window.close()


def shoot_pulling(folder: Path) -> None:
    """Write a picture of a stroke under the hand, the shelf of loads beside it."""
    window = opened("chart")
    station = there(window, "chart")
    wait_for_chart(window)
    board, page = station.board, station.side.loads
    station.side.show_page(1)
    page.list.setCurrentRow(4)
    page.holds.buttons[Hold.SQUARE].click()
    wait(window, 1500)  # pictures of the holds wait for a hand that draws
    page.pull.click()
    way = [(54 - 8 * math.sin(n / 30 * math.pi), -34 + 62 * n / 30) for n in range(28)]
    at = [board.view.to_px(*point).toPoint() for point in way]
    QTest.mousePress(board, Qt.MouseButton.LeftButton, pos=at[0])
    for one in at[1:]:
        QTest.mouseMove(board, one)
        board.repaint()
    wait(window, 600)
    window.grab().save(str(folder / "pulling.png"))
    QTest.keyClick(board, Qt.Key.Key_Escape)
    QTest.mouseRelease(board, Qt.MouseButton.LeftButton, pos=at[-1])
    board.put_down()
    leave(window)


def shoot_catalogue(folder: Path) -> None:
    """Write a picture of the catalogue of motifs, one of them played half way."""
    window = opened("chart")
    there(window, "chart").show_catalogue()
    page = there(window, "chart").catalogue
    page.resize(1280, 800)
    for _ in range(100):
        wait(window, 300)
        if len(there(window, "chart").gallery.pictures) == len(MOTIFS):
            break
    page.motifs.choose("rose-open")
    for _ in range(20):
        wait(window, 300)
        if page.view.playing is not None:
            page.view.seek(page.view.playing.seconds * 0.45)
            break
    QApplication.processEvents()
    page.grab().save(str(folder / "catalogue.png"))
    window.close()


def shoot_designs(folder: Path) -> None:
    """Write a picture of the page of designs."""
    window = opened("tray")
    window.show_designs()
    page = window.designs
    page.resize(1280, 800)
    for _ in range(300):
        wait(window, 300)
        if not page.busy:
            break
    page.grab().save(str(folder / "designs.png"))
    page.close()
    window.close()


def shoot_order(folder: Path) -> None:
    """Write pictures of the Order, of what is asked before a run, and of a card of the run."""
    window = opened("order")
    station = there(window, "order")
    for _ in range(60):
        wait(window, 300)
        arranged = station.model.arranged
        if station.model.rests and arranged is not None and len(station.model.after) == len(arranged.order):
            break
    station.model.choose(station.model.arranged.order[2] if station.model.arranged else "")
    QApplication.processEvents()
    window.grab().save(str(folder / "order.png"))
    now = station.controller.clock()
    station.controller.clock = lambda: now  # a card shows the same time however long it takes to paint
    station.controller.ask()
    page = station.controller.page
    if page is not None:
        page.answers["age"].setCurrentIndex(2)
        page.answers["allergy"].setCurrentIndex(1)
        wait(window, 600)
        page.grab().save(str(folder / "cautions.png"))
        page.go.click()
    run = station.controller.window
    if run is not None:
        run.showNormal()
        run.resize(1280, 800)
        for _ in range(8):
            run.do_done()
        coarse = station.model.after  # of the Order: they serve until the card's own are painted
        for _ in range(100):
            wait(window, 300)
            if all(run.place.after.get(job) is not picture for job, picture in coarse.items()):
                break
        run.grab().save(str(folder / "run.png"))
        station.controller.close()  # ended, it would write its page into the notebook that is pictured later
    window.close()


def shoot_colourways(folder: Path) -> None:
    """Write a picture of the plan in other colours."""
    window = MainWindow(Document(demo_plan()), Settings())
    window.resize(1280, 800)
    window.show()
    there(window, "bench").strokes.show_colourways()
    page = there(window, "bench").strokes.page
    for _ in range(60):
        wait(window, 400)
        if not getattr(page, "busy", False):
            break
    page.grab().save(str(folder / "colourways.png"))
    page.close()
    window.close()


def shoot_families(folder: Path) -> None:
    """Write a picture of the page of families."""
    parent = QWidget()
    page = FamilyPage(demo_plan(), parent)
    dress(page, apply_theme(make_application(), "linen"))
    page.show()
    loop = QEventLoop()
    QTimer.singleShot(6000, loop.quit)
    loop.exec()
    page.strokes.choose("wave-crest")
    QApplication.processEvents()
    page.grab().save(str(folder / "families.png"))
    page.done(0)


def shoot_tray(name: str, kind: int, chosen: str, theme: str, folder: Path) -> None:
    """Write one picture of the Tray."""
    window = opened("tray", theme)
    there(window, "tray").station.kinds.button(kind).click()
    for item in there(window, "tray").model.items:
        if item.id == chosen:
            there(window, "tray").model.choose(item.key)
    there(window, "tray").station.shelf.setFocus()
    wait(window, 600)
    window.grab().save(str(folder / f"{name}.png"))
    window.close()


def of_a_run(page: LogPage, plan: Plan, rng: np.random.Generator) -> LogPage:
    """Return a page as that of a run, whose steps took a stand-in's time."""
    steps = arrange(design_of(plan, plan.motifs[0].chart, engine=kernel()), 0.0).steps
    took = [one.seconds * rng.lognormal(0.05, 0.25) for one in steps]
    notes = tuple(
        StepNote(
            one.id, one.kind, one.name, one.seconds, round(seconds, 1), one.kind is StepKind.WAIT, 0.0, one.seconds
        )
        for one, seconds in zip(steps, took, strict=True)
    )
    page = replace(page, painted_s=round(sum(took)))
    with Notebook(notebook_path()) as book:
        number = book.add(
            RunNote(page.title, "face", page.day, page.day, sum(took), page.planned_s, finished=True, steps=notes)
        )
    with open_log() as log:
        there = next(one for one in log.pages() if one.run == number)
    return replace(page, id=there.id, run=number)


def shoot_notebook(folder: Path) -> None:
    """Write a picture of the Notebook with some evenings in it; photos are stand-ins, laid and seen by lamplight."""
    rng = np.random.default_rng(1)
    days = (("2026-11-20", "poppy-brow"), ("2026-11-13", "moth-mask"), ("2026-10-30", "marsh-fox"))
    for day, key in days:
        plan = shipped_design(key).plan()
        laid = laid_plan(plan, plan.motifs[0].chart)
        lit = laid.picture * np.array([1.02, 0.94, 0.84]) + rng.normal(0, 4, laid.picture.shape)
        fault = PageFault(Trouble.MUDDY, "", "Poppy, outer petals", mend_of(Trouble.MUDDY))
        page = LogPage(
            f"{day}T19:10:00+00:00",
            plan.title,
            planned_s=round(laid.seconds),
            note="She sat still. The second flower went over wet paint." if key == "poppy-brow" else "",
            light="lamp, warm",
            photo=keep_picture(np.clip(lit, 0, 255).astype(np.uint8)),
            picture=keep_picture(laid.picture),
            asked="something red",
            colours=laid.colours,
            faults=(fault,) if key == "poppy-brow" else (),
        )
        with open_log() as log:
            log.put(of_a_run(page, plan, rng))
    window = opened("notebook")
    wait(window, 1500)
    window.grab().save(str(folder / "notebook.png"))
    window.close()


def shoot_day(folder: Path) -> None:
    """Write a picture of the Day once its evenings and pictures are there."""
    window = opened("day")
    model = there(window, "day").model
    for _ in range(120):
        wait(window, 500)
        if len(model.pictures) == len(model.day.menu):
            break
    wait(window, 1500)
    window.grab().save(str(folder / "day.png"))
    window.close()


def shots(folder: Path) -> dict[str, Callable[[], None]]:
    """Return what writes each view, by its name."""
    return {
        **{view[0]: partial(shoot, *view, folder) for view in VIEWS},
        "families": partial(shoot_families, folder),
        "chart": partial(shoot_chart, "chart", "linen", folder),
        "chart-lamp": partial(shoot_chart, "chart-lamp", "lamp", folder),
        "pulling": partial(shoot_pulling, folder),
        "catalogue": partial(shoot_catalogue, folder),
        "designs": partial(shoot_designs, folder),
        "order": partial(shoot_order, folder),
        "colourways": partial(shoot_colourways, folder),
        "day": partial(shoot_day, folder),  # before there are runs that tell of another pace
        "notebook": partial(shoot_notebook, folder),
        **{view[0]: partial(shoot_tray, *view, folder) for view in TRAY_VIEWS},
    }


def shrink_for_help(folder: Path) -> None:
    """Write the pictures that pages of the help show, from those that were just made."""
    pages = "\n".join(page.read_text("utf-8") for page in HELP.glob("*.md"))
    for name in {*re.findall(r"^!\[.+]\((.+)\)$", pages, re.MULTILINE), *(picture for *_, picture in WAYS)}:
        if (folder / name).is_file():
            with Image.open(folder / name) as picture:
                small = picture.convert("RGB")
            small.thumbnail((HELP_PX, HELP_PX), Image.Resampling.LANCZOS)
            small.quantize(128).save(HELP / name, optimize=True)


def main() -> None:
    """Write all views, or those named, into docs/screenshots or the folder after --to."""
    arguments = sys.argv[1:]
    folder = SHOTS
    if "--to" in arguments:
        at = arguments.index("--to")
        folder = Path(arguments[at + 1])
        del arguments[at : at + 2]
    folder.mkdir(parents=True, exist_ok=True)
    os.environ["XDG_CACHE_HOME"] = tempfile.mkdtemp()  # pictures of the catalogue are laid anew
    app = make_application()
    app.setCursorFlashTime(0)  # else a picture shows it or not, as it happens
    warm_up().join()  # the whole skin would take the reference too long
    for name, shot in shots(folder).items():
        if not arguments or name in arguments:
            shot()
    if folder == SHOTS:
        shrink_for_help(folder)
    app.quit()


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as home:  # the pictures show the shipped kit, not the user's own
        os.environ["XDG_DATA_HOME"] = os.environ["XDG_STATE_HOME"] = os.environ["XDG_CONFIG_HOME"] = home
        main()
