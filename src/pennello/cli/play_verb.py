"""The verb that writes strokes as a moving picture."""

from __future__ import annotations

from argparse import Namespace

from pennello.cli.main import write_json
from pennello.cli.names import chart_key
from pennello.cli.plan_file import read_plan
from pennello.design.on_chart import painted_plan
from pennello.disk import write_bytes
from pennello.errors import PennelloError
from pennello.motif.motif import counted
from pennello.session.catalogue import motif_plan
from pennello.session.play import MOST_WRITTEN_PIXELS, Playing, alone, animation


class NothingToPlayError(PennelloError):
    """It cannot be told what to play, or how to write it."""


def play_verb(wish: Namespace) -> int:
    """Write a stroke, all strokes, a chart or a motif as APNG or GIF, played at the hand's speed."""
    kind = {".gif": "gif", ".png": "apng", ".apng": "apng"}.get(wish.out.suffix.lower())
    if kind is None:
        raise NothingToPlayError(f"A moving picture ends with .png (APNG) or .gif, not {wish.out.suffix or 'nothing'}.")
    plan = read_plan(wish.plan)
    if wish.motif:
        shown = motif_plan(plan, wish.motif)
    elif wish.chart:
        shown = painted_plan(plan, chart_key(wish.chart))
    else:
        shown = alone(plan, wish.stroke) if wish.stroke else plan
    if not shown.strokes:
        what = f"the {wish.chart} chart; put a motif on it first" if wish.chart else "this plan; add a stroke first"
        raise NothingToPlayError(f"There is nothing to play on {what}.")
    playing = Playing(shown, wish.px_per_mm, most_pixels=MOST_WRITTEN_PIXELS)
    write_bytes(animation(playing, kind, wish.speed), wish.out)
    if wish.json:
        beats = [{"stroke": one.stroke, "start_s": one.start_s, "end_s": one.end_s} for one in playing.beats]
        write_json({"file": str(wish.out), "seconds": round(playing.seconds, 2), "strokes": beats})
    else:
        print(f"Wrote {wish.out}: {counted(len(playing.beats), 'stroke')}, {playing.seconds:.1f} s of pulling.")
    return 0
