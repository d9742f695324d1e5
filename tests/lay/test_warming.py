"""What the rehearsal compiles is all that is ever compiled, and beside the window: nobody's window waits for it."""

from __future__ import annotations

import subprocess
import sys

import pytest

from pennello.lay import warming

_TOUR = """
from pennello.files.demo import demo_plan
from pennello.lay.engine import kernel, serve
from pennello.lay.warming import rehearse
from pennello.order.arrange import design_of
from pennello.session.chart_scene import ChartScene
from pennello.session.forecast import coarse, fine
from pennello.units import LengthUnit

made = kernel()
rehearse(made)
serve(made)
from pennello.lay import kernel as jitted

def compiled():
    return {name: len(one.signatures) for name, one in vars(jitted).items() if hasattr(one, "signatures")}

before, plan = compiled(), demo_plan()
stroke = plan.strokes[0]
coarse(plan, stroke.id)
fine(plan, stroke.id, LengthUnit.MM)
for chart in sorted({one.chart for one in plan.motifs})[:2]:
    ChartScene().paint(plan, chart, made)
design_of(plan)
told = {name: (before[name], now) for name, now in compiled().items() if now != before[name]}
print("compiled later:", told, "of", sum(before.values()))
"""


def test_nothing_is_compiled_after_the_rehearsal():
    told = subprocess.run([sys.executable, "-c", _TOUR], capture_output=True, text=True, check=True, timeout=300).stdout
    assert told.startswith("compiled later: {} of "), told
    assert int(told.split()[-1]) >= 10


_COUNTS = """
import sys
from pathlib import Path
tried = Path({tried!r})
tried.write_text(tried.read_text() + "x" if tried.exists() else "x")
sys.exit({code})
"""


@pytest.fixture
def beside(tmp_path, monkeypatch):
    """Let a script of the test's be what compiles; return what says how often it ran."""

    def compiling(code):
        script = _COUNTS.format(tried=str(tmp_path / "tried"), code=code)
        monkeypatch.setattr(warming, "_BESIDE", script)
        monkeypatch.setattr(warming, "_mark_and_key", lambda: (tmp_path / "mark", b"this kernel"))
        return lambda: len((tmp_path / "tried").read_text())

    return compiling


def test_what_was_compiled_beside_the_window_is_not_compiled_again(beside, tmp_path):
    tried = beside(0)
    warming._have_it_compiled()
    warming._have_it_compiled()
    assert tried() == 1
    (tmp_path / "mark").write_bytes(b"an older kernel")
    warming._have_it_compiled()
    assert tried() == 2


def test_where_it_cannot_be_compiled_beside_the_window_goes_on_and_tries_at_the_next_start(beside, tmp_path):
    tried = beside(1)
    warming._have_it_compiled()
    warming._have_it_compiled()
    assert tried() == 2
    assert not (tmp_path / "mark").exists()


def test_no_interpreter_to_compile_with_is_no_fault(beside, monkeypatch):
    beside(0)
    monkeypatch.setattr(sys, "executable", "/nowhere/python")
    warming._have_it_compiled()


def _real(**given):
    return subprocess.Popen([sys.executable, "-I", "-c", warming._BESIDE, *sys.path], stdin=subprocess.PIPE, **given)


def test_the_program_beside_compiles_and_ends_well():
    with _real(stderr=subprocess.PIPE) as beside:
        assert beside.wait(300) == 0, beside.stderr.read()


def test_the_program_beside_ends_with_the_one_that_began_it():
    with _real() as beside:
        beside.stdin.close()  # as the system does for one that was killed
        assert beside.wait(300) == 1


@pytest.mark.slow
def test_the_first_start_on_a_machine_compiles_nothing_in_the_window(tmp_path, monkeypatch):
    monkeypatch.setenv("NUMBA_CACHE_DIR", str(tmp_path))
    told = subprocess.run([sys.executable, "-c", _FIRST_START], capture_output=True, text=True, check=True, timeout=600)
    assert told.stdout.split() == ["True", "0"]


_FIRST_START = """
from pennello.lay.warming import warm_up
warm_up().join()
from pennello.lay import kernel as jitted
made = [one for one in vars(jitted).values() if hasattr(one, "signatures")]
print(len(made) > 9, sum(sum(one.stats.cache_misses.values()) for one in made))
"""
