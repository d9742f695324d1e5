"""Asking the command line as a painter would, within this process."""

import json

import pytest

from pennello.cli.main import run


@pytest.fixture
def ask(capsys):
    """Say words, expect an exit code, and get the answer: what --json says, or all that is printed."""

    def say(*words, code=0):
        got = run([str(word) for word in words], lambda *_: pytest.fail("the window was opened"))
        out, err = capsys.readouterr()
        assert got == code, err
        return json.loads(out) if "--json" in words and out.startswith("{") else out + err

    return say
