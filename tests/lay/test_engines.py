"""Which engine does the work: a window is never kept waiting, a command line waits."""

import numpy as np
import pytest

from pennello.cli import words_verb
from pennello.cli.main import run
from pennello.design.plan import Plan
from pennello.design.scene import Carrying, fresh_film, pulls, skin_canvas
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


@pytest.mark.parametrize("bands", [10])
def test_a_film_of_other_bands_is_no_work_for_the_kernel(demo, bands):
    """It is compiled for 12 channels, and looks at no bound: more would be read from beside the film."""
    plan = Plan(paints=demo.paints, cakes=demo.cakes, brushes=demo.brushes, strokes=demo.strokes[:1])
    canvas = skin_canvas(plan, 1.0)
    film, one = fresh_film(plan, canvas, bands), pulls(plan, canvas.px_per_mm, bands)[0]
    with pytest.raises(ValueError, match="8 bands"):
        Carrying().lay(film, one, 0.0, kernel())
    Carrying().lay(film, one, 0.0, REFERENCE)
    assert np.isfinite(film.ground).all()
    assert film.volume_mm3() > 0
