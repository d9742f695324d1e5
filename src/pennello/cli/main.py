"""The command line.

Exit codes: 0 done (for `check`: all holds or is close), 1 something misses, 2 it could not be done.
"""

from __future__ import annotations

import argparse
import io
import json
import os
import sys
from collections.abc import Callable
from importlib import import_module
from pathlib import Path
from typing import Any

from pennello.cli.parser import make_parser
from pennello.errors import PennelloError

OpenWindow = Callable[[str | None, bool], int]


def run(arguments: list[str], open_window: OpenWindow) -> int:
    """Run one command line and return its exit code."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="replace")  # a poor terminal shows less, and nothing stops
    parsed = make_parser().parse_args(arguments)
    try:
        return _carry_out(parsed, open_window)
    except PennelloError as error:
        words = str(error)
    except BrokenPipeError:  # the reader has seen enough
        _drop_output()
        return 0
    except OSError as error:
        _drop_output()
        words = f"the answer cannot be written: {error.strerror}."
    except MemoryError:
        words = "there is not enough memory for this; choose fewer pixels per mm."
    except KeyboardInterrupt:
        words = "stopped."
    print(f"pennello: {words}", file=sys.stderr)
    return 2


def _carry_out(parsed: argparse.Namespace, open_window: OpenWindow) -> int:
    if parsed.verb in (None, "window"):
        return open_window(getattr(parsed, "plan", None), getattr(parsed, "demo", False))
    if getattr(parsed, "chart", None):
        from pennello.cli.names import chart_key  # noqa: PLC0415 - most verbs know no charts

        parsed.chart = chart_key(parsed.chart)
    module, name = _MODULES.get(parsed.verb, ("verbs", parsed.verb))
    verb: Callable[[argparse.Namespace], int] = getattr(import_module(f"pennello.cli.{module}"), name)
    code = verb(parsed)
    sys.stdout.flush()
    return code


_MODULES = {
    "kit": ("kit_verbs", "kit"),
    "ladder": ("cake_verbs", "ladder"),
    "cake": ("cake_verbs", "cake"),
    "wear": ("cake_verbs", "wear"),
    "render": ("skin_verbs", "render"),
    "strokes": ("skin_verbs", "strokes"),
    "svg": ("skin_verbs", "svg"),
    "find-load": ("solve_verbs", "find_load_verb"),
    "design-cake": ("solve_verbs", "design_cake_verb"),
    "forgive": ("solve_verbs", "forgive_verb"),
    "loads": ("solve_verbs", "loads"),
    "colourways": ("solve_verbs", "colourways_verb"),
    "wish": ("solve_verbs", "wish_verb"),
    "hold": ("hold_verbs", "hold_verb"),
    "play": ("play_verb", "play_verb"),
    "motif": ("chart_verbs", "motif_verb"),
    "chart": ("chart_verbs", "chart_verb"),
    "layer": ("layer_verbs", "layer_verb"),
    "contrast": ("layer_verbs", "contrast_verb"),
    "order": ("order_verbs", "order_verb"),
    "sheet": ("order_verbs", "sheet_verb"),
    "sequence": ("order_verbs", "sequence_verb"),
    "cautions": ("order_verbs", "cautions_verb"),
    "runs": ("order_verbs", "runs_verb"),
}
"""Where a verb lives, imported only when it is asked for; all others are in `verbs`."""


def _drop_output() -> None:
    """Point standard output at nothing, so that what could not be written is not tried again at the end."""
    with Path(os.devnull).open("w") as nothing:
        os.dup2(nothing.fileno(), sys.stdout.fileno())


def write_json(answer: dict[str, Any]) -> None:
    """Print an answer as JSON; a number that is none would be a bug and is refused."""
    poor = (sys.stdout.encoding or "ascii").lower().replace("-", "") not in ("utf8", "utf16", "utf32")
    print(json.dumps(answer, allow_nan=False, ensure_ascii=poor))
