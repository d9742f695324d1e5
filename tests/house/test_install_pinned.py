"""Setting up: what a lock file names is installed by the quicker installer, and by pip where that one cannot."""

from __future__ import annotations

import os
import subprocess
from pathlib import Path

import pytest

TOOLS = Path(__file__).parents[2] / "tools"
LOCK = "requirements.lock"


def installed_by(folder, *, uv, index="", **env):
    """Return what was asked of either installer, both of which only write down what they are asked."""
    said = folder / "said"
    said.touch()
    python = f'#!/bin/sh\ncase "$*" in *"config get"*) echo "{index}";; *) echo "pip $*" >> {said};; esac\n'
    quick = f'#!/bin/sh\necho "uv $* index=$UV_DEFAULT_INDEX" >> {said}\nexit {uv}\n'
    for name, script in (("python", python), ("uv", quick)):
        if name == "python" or uv is not None:
            (folder / name).write_text(script)
            (folder / name).chmod(0o755)
    where = {"PATH": os.environ["PATH"], **env}
    subprocess.run(["sh", TOOLS / "install_pinned.sh", folder / "python", LOCK], env=where, check=True)
    return said.read_text().splitlines()


def test_the_quicker_one_does_it_alone(tmp_path):
    (asked,) = installed_by(tmp_path, uv=0)
    assert asked.startswith("uv pip install")
    assert f"--require-hashes -r {LOCK}" in asked
    assert asked.endswith("index="), "it looks where it usually does"


@pytest.mark.parametrize(
    ("index", "env"),
    [("https://shelf.invalid/simple", {}), ("", {"PIP_INDEX_URL": "https://shelf.invalid/simple"})],
)
def test_it_looks_where_pip_was_told_to_look(tmp_path, index, env):
    (asked,) = installed_by(tmp_path, uv=0, index=index, **env)
    assert asked.endswith("index=https://shelf.invalid/simple")


def test_where_it_reaches_no_packages_pip_does_the_same(tmp_path):
    first, second = installed_by(tmp_path, uv=2)
    assert first.startswith("uv pip install")
    assert second == f"pip -m pip install --quiet --no-compile --require-hashes -r {LOCK}"


def test_where_it_cannot_be_had_pip_does_the_same(tmp_path):
    first, second = installed_by(tmp_path, uv=None)
    assert "requirements-uv.lock" in first
    assert second.endswith(f"--require-hashes -r {LOCK}")
