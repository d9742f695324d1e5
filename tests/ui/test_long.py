"""The window in a language of 40 % longer sentences: at three sizes nothing is cut, nothing is no template."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

from pennello.files.demo import demo_plan
from pennello.kit import catalogue


@pytest.fixture(scope="module")
def walk(tmp_path_factory):
    """What the walk through all stations and pages tells; a program of its own, since it has a language of its own."""
    script = Path(__file__).parents[2] / "tools" / "long_walk.py"
    command = [sys.executable, str(script), str(tmp_path_factory.mktemp("walk"))]
    ended = subprocess.run(command, capture_output=True, text=True, check=False, timeout=400)
    assert ended.returncode == 0, ended.stderr[-2000:]
    assert "Traceback" not in ended.stderr, ended.stderr[-3000:]
    return json.loads(ended.stdout.splitlines()[-1])


def names():
    """Return what the demo, the shipped designs and the usual kit are called: names are their owners'."""
    plan = demo_plan()
    things = [*plan.strokes, *plan.cakes, *plan.paints, *plan.brushes, *plan.motifs, *plan.parts]
    return {plan.title, plan.place, *(one.name for one in things), *(one.name for one in catalogue.brushes().values())}


def test_much_is_seen(walk):
    assert walk["seen"] > 8000


def test_nothing_is_cut(walk):
    assert walk["cut"] == {}


def test_all_that_is_said_is_a_template(walk):
    known = names()
    odd = {text: where for text, where in walk["plain"].items() if text not in known and "DesignCard" not in where[0]}
    assert {text: where[0] for text, where in odd.items() if "MenuCard" not in where[0]} == {}
