"""What the rehearsal compiles is all that is ever compiled: later nobody's window waits for it."""

from __future__ import annotations

import subprocess
import sys

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
