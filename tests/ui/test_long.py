"""Longer sentences and larger words have room: window, paper, command line; and nothing said is no template."""

import json
import re
import subprocess
import sys
from pathlib import Path

import pytest

from pennello.files.demo import demo_plan, shipped_designs
from pennello.kit import catalogue

TOOLS = Path(__file__).parents[2] / "tools"


def told_by(script, folder, *more):
    """Return what a walk tells; a program of its own, since it has a language or a size of words of its own."""
    command = [sys.executable, str(TOOLS / script), str(folder), *more]
    ended = subprocess.run(command, capture_output=True, text=True, check=False, timeout=400)
    assert ended.returncode == 0, ended.stderr[-2000:]
    assert "Traceback" not in ended.stderr, ended.stderr[-3000:]
    return json.loads(ended.stdout.splitlines()[-1])


@pytest.fixture(scope="module")
def walk(tmp_path_factory):
    """What the walk through all stations and pages tells."""
    return told_by("long_walk.py", tmp_path_factory.mktemp("walk"))


def names():
    """Return what the demo, the shipped designs and the usual kit are called: names are their owners'."""
    plan = demo_plan()
    things = [*plan.strokes, *plan.cakes, *plan.paints, *plan.brushes, *plan.motifs, *plan.parts]
    kit = [*catalogue.brushes().values(), *catalogue.paints().values(), *catalogue.cakes().values()]
    designs = [one.plan().title for one in shipped_designs()]
    return {plan.title, plan.place, *designs, *(one.name for one in (*things, *kit))}


def nameless(plain):
    """Return what is no template and no name, and where; names may stand with a number, a width, one by another."""
    known = names()

    def is_name(text):
        bare = re.sub(r"^\d+  |, [\d.]+ mm$|\.$", "", text)
        return bare in known or all(part in known for part in bare.split(": "))

    return {text: where for text, where in plain.items() if not is_name(text)}


def test_much_is_seen(walk):
    assert walk["seen"] > 6000
    assert walk["drawn"] > 800


def test_nothing_is_cut(walk):
    assert walk["cut"] == {}


def test_what_is_painted_has_room(walk):
    """But the line that lists a load's colours: it ends in an ellipsis where there are many."""
    assert {words: where for words, where in walk["painted"].items() if " | " not in words} == {}


@pytest.mark.slow
def test_words_twice_as_large_have_room(tmp_path):
    """At all stations, their pages and folds, and in the dialogs; what does not fit beside is scrolled to."""
    told = told_by("long_walk.py", tmp_path, "200")
    assert told["seen"] > 2000
    assert told["drawn"] > 150
    assert told["cut"] == {}
    assert {words: where for words, where in told["painted"].items() if " | " not in words} == {}


def test_all_that_is_said_is_a_template(walk):
    odd = nameless(walk["plain"])
    assert {text: where[0] for text, where in odd.items() if not re.search("DesignCard|MenuCard", where[0])} == {}


@pytest.mark.slow
def test_paper_and_the_command_line_are_templates_and_have_room(tmp_path):
    """Sheet, outlines, hand-over, cards, labels, practice, a page, board, pick card, bag, quote; every help."""
    told = told_by("long_paper.py", tmp_path)
    assert told["failed"] == {}
    assert told["seen"] > 600
    odd = nameless(told["plain"])
    odd.pop("A page")  # what the walk calls it
    assert odd == {}
    assert told["help"] == {}
    assert told["beyond"] == {}, "words reach over the edge of the paper"
    assert told["over"] == {}, "words lie on words"
