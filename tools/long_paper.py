"""Writes every paper in the language whose sentences are 40 % longer, and tells what is no template and what is cut.

A program of its own, since a language is chosen once: python long_paper.py FOLDER. It prints JSON. The words of the
command line's own help are looked at too.
"""

import argparse
import contextlib
import io
import json
import os
import re
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

os.environ["PENNELLO_LANGUAGE"] = "long"
FOLDER = Path(sys.argv[1])
for kind in ("DATA", "CONFIG", "STATE", "CACHE"):
    os.environ[f"XDG_{kind}_HOME"] = str(FOLDER / kind.lower())

from reportlab.lib.units import mm  # noqa: E402

from pennello.cli.main import make_parser, run  # noqa: E402
from pennello.files.demo import demo_plan  # noqa: E402
from pennello.files.page import PAGE_WIDTH_MM, Page  # noqa: E402
from pennello.files.plan_json import plan_bytes  # noqa: E402

EDGE_MM = 6.0
"""So near to the paper's edge printers do not print."""
OVER_MM = 0.6
"""Rows of letters may touch by so much: the boxes of descenders."""
_LETTERS = re.compile(r"[A-Za-z]{3,}")
_PT_MM = 25.4 / 72


class Papers:
    """What was written on paper."""

    def __init__(self) -> None:
        self.plain: dict[str, str] = {}
        self.beyond: dict[str, str] = {}
        self.over: dict[str, str] = {}
        self.seen = 0
        self.here = ""
        self._within = False
        self._canvas: Any = None
        self._boxes: dict[int, list[tuple[str, tuple[float, float, float, float]]]] = {}

    def watch(self) -> None:
        """Look at all words that are written from now on."""
        write, paragraph = Page.text, Page.paragraph

        def text(page: Page, x: float, y: float, words: str, size: float = 10, **how: Any) -> None:
            self._look(page, x, y, words, size, bold=bool(how.get("bold")))
            write(page, x, y, words, size, **how)

        def told(page: Page, x: float, y: float, words: str, width: float, size: float = 10, **how: Any) -> float:
            self._said(words)
            self._within = True
            try:
                return paragraph(page, x, y, words, width, size, **how)
            finally:
                self._within = False

        setattr(Page, "text", text)  # noqa: B010 - type checkers mind an assignment
        setattr(Page, "paragraph", told)  # noqa: B010

    def _said(self, words: str) -> None:
        self.seen += 1
        if _LETTERS.search(words) and "[" not in words:
            self.plain.setdefault(words, self.here)

    def _look(self, page: Page, x: float, y: float, words: str, size: float, *, bold: bool) -> None:
        if not self._within:
            self._said(words)
        wide = page.canvas.stringWidth(words, page.bold if bold else page.regular, size) / mm
        paper = PAGE_WIDTH_MM if type(page) is Page else page.canvas._pagesize[0] / mm
        if x + wide > paper - EDGE_MM and _LETTERS.search(words):
            self.beyond.setdefault(words, f"{self.here}: {x + wide:.0f} mm")
        box = (x, y - 0.72 * size * _PT_MM, x + wide, y + 0.1 * size * _PT_MM)
        if self._canvas is not page.canvas:
            self._canvas, self._boxes = page.canvas, {}
        there = self._boxes.setdefault(page.canvas.getPageNumber(), [])
        for other, place in there:
            across = min(box[2], place[2]) - max(box[0], place[0])
            down = min(box[3], place[3]) - max(box[1], place[1])
            if across > OVER_MM and down > OVER_MM and _LETTERS.search(words + other):
                self.over.setdefault(f"{words[:60]} | {other[:60]}", self.here)
        there.append((words, box))


def commands() -> Iterator[list[str]]:
    """Yield what writes each paper, and what these need."""
    plan = demo_plan()
    here = FOLDER / "plan.pennello"
    here.write_bytes(plan_bytes(plan))
    event = str(FOLDER / "walk.pennello-day")
    pdf = str(FOLDER / "paper.pdf")
    quick = ["--chart", "hand", "--seconds", "0", "--pdf", pdf]
    yield ["sheet", str(here), "--tiles", "--made-by", "Somebody", *quick]
    yield ["hand-over", str(here), "--paper", "Letter", *quick]
    for stroke in plan.strokes[:6]:
        yield ["card", str(here), stroke.id, "--pdf", pdf]
    for cake in plan.cakes[:3]:
        yield ["cake", str(here), cake.id, "--pdf", pdf]
    yield ["card-sheet", str(here), plan.strokes[0].id, "--pdf", pdf]
    yield ["practise", str(here), plan.strokes[0].id, "--pdf", pdf]
    for lesson in ("straight", "rose"):
        yield ["lessons", lesson, "--pdf", pdf]
    yield ["log", "add", "A page", "--plan", str(here)]
    yield ["log", "show", "1", "--pdf", pdf]
    yield ["day", "new", event, "--name", "A page", "--per-face", "5"]
    yield ["day", "menu", event, "--add", "poppy-brow", "--board", pdf, "--pick", str(FOLDER / "pick.pdf")]
    yield ["day", "kit", event, "--pdf", pdf, "--hygiene", str(FOLDER / "hygiene.pdf")]
    yield ["day", "report", event, "--quote", pdf]


def helps(parser: argparse.ArgumentParser, verb: str) -> Iterator[tuple[str, str]]:
    """Yield the words of a parser's own help and those of its actions', with their verb."""
    for words in (parser.description, parser.epilog):
        if words:
            yield verb, words
    for action in parser._actions:
        if action.help not in (None, argparse.SUPPRESS) and not isinstance(action, argparse._HelpAction):
            yield verb, str(action.help)
        if isinstance(action, argparse._SubParsersAction):
            for one in action._choices_actions:
                yield f"{verb} {one.dest}", str(one.help)
            for name, below in action.choices.items():
                yield from helps(below, f"{verb} {name}")


def main() -> None:
    """Write all, look, and tell."""
    papers = Papers()
    papers.watch()
    failed = {}
    for command in commands():
        papers.here = " ".join(command[:2] if command[0] == "day" else command[:1])
        out = io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(out):
            try:
                code = run(command, lambda *_: 0)
            except SystemExit as ended:  # argparse does not know a word of it
                code = 2 if ended.code else 0
        if code:
            failed[" ".join(command)] = out.getvalue()
    plain_help = {words: verb for verb, words in helps(make_parser(), "pennello") if "[" not in words}
    told = {
        "seen": papers.seen,
        "failed": failed,
        "plain": papers.plain,
        "beyond": papers.beyond,
        "over": papers.over,
        "help": plain_help,
    }
    sys.stdout.write(json.dumps(told) + "\n")


if __name__ == "__main__":
    main()
