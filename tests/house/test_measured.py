"""The share of lines that the tests ran is counted over all workers, and too small a share fails the run."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

TOOLS = Path(__file__).resolve().parents[2] / "tools"


@pytest.fixture
def small_house(tmp_path):
    """A project of one module, half of which each of two test files runs."""
    (tmp_path / "src" / "small").mkdir(parents=True)
    (tmp_path / "src" / "small" / "halves.py").write_text(
        "def left():\n    return 1\n\n\ndef right():\n    return 2\n\n\ndef neither():\n    return 3\n"
    )
    for half in ("left", "right"):
        (tmp_path / f"test_{half}.py").write_text(
            f"from small.halves import {half}\n\n\ndef test_{half}():\n    assert {half}()\n"
        )
    return tmp_path


def _run(house, percent, *words):
    (house / "pyproject.toml").write_text(
        f'[tool.measured]\nsource = ["src"]\nomit = []\nat_least_percent = {percent}\n'
        '[tool.pytest.ini_options]\npythonpath = ["src"]\n'
    )
    where = dict(os.environ, PYTHONPATH=str(TOOLS), PYTEST_PLUGINS="measured", PYTEST_DISABLE_PLUGIN_AUTOLOAD="1")
    command = [sys.executable, "-m", "pytest", "-q", "-p", "xdist", *words]
    return subprocess.run(command, cwd=house, env=where, capture_output=True, text=True, check=False, timeout=300)


@pytest.mark.parametrize("workers", ["0", "2"])
def test_lines_are_counted_over_all_workers(small_house, workers):
    """Five of six lines: three heads of functions and two of their bodies."""
    ran = _run(small_house, 80, "--measure", "-n", workers, "--dist", "loadfile")
    assert ran.returncode == 0, ran.stdout + ran.stderr
    assert "83.3 % of the core's lines were run, 80 % are asked" in ran.stdout
    assert "halves.py" in ran.stdout


def test_too_few_lines_fail_the_run(small_house):
    ran = _run(small_house, 90, "--measure", "-n", "2")
    assert ran.returncode == 1
    assert "2 passed" in ran.stdout
    assert "TOO FEW" in ran.stdout


def test_without_the_switch_nothing_is_counted(small_house):
    ran = _run(small_house, 90, "-n", "0")
    assert ran.returncode == 0
    assert "lines were run" not in ran.stdout
