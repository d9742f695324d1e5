"""Which engine does the work: a window is never kept waiting, a command line waits."""

from pennello.cli import words_verb
from pennello.cli.main import run
from pennello.lay import engine
from pennello.lay.engine import REFERENCE, best, kernel, waiting_for_kernel


def test_a_command_line_waits_for_the_kernel_and_a_window_does_not(monkeypatch, capsys):
    monkeypatch.setattr(engine, "_serving", [])
    assert best() is REFERENCE
    with waiting_for_kernel():
        with waiting_for_kernel():
            assert best() is kernel()
        assert best() is kernel()
    assert best() is REFERENCE

    used = []
    monkeypatch.setattr(words_verb, "found_words", lambda _: [("rim", used.append(best()))])
    assert run(["glossary"], lambda *_: 0) == 0
    assert used == [kernel()]
    assert best() is REFERENCE
    assert "rim" in capsys.readouterr().out
    shown = []
    assert run(["window"], lambda *_: shown.append(best()) or 0) == 0
    assert shown == [REFERENCE]
