"""The verb about how the window looks: looks."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import replace
from typing import Any

from pennello.cli.asking import json_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import whole
from pennello.phrases import phrase, told
from pennello.session.settings import SIZES_PERCENT, TEXTS_PERCENT, UNITS, load_settings, store_settings

_LIGHTS = {"linen": "linen", "lamp": "lamp", "desktop": ""}


def looks_arguments(parser: ArgumentParser) -> None:
    """Say what `looks` takes."""
    parser.add_argument("--words", type=whole, choices=TEXTS_PERCENT, help=phrase("how large words are, percent"))
    parser.add_argument("--all", type=whole, choices=SIZES_PERCENT, help=phrase("how large everything is, percent"))
    parser.add_argument("--light", choices=_LIGHTS, help=phrase("the light of the table, or as the desktop has it"))
    parser.add_argument("--contrast", choices=("usual", "more"), help=phrase("how strongly things stand out"))
    parser.add_argument("--motion", choices=("usual", "less"), help=phrase("whether things move by themselves"))
    parser.add_argument("--unit", choices=UNITS, help=phrase("lengths in"))
    json_argument(parser)


@verb("looks", phrase("how the window looks from its next start: words, sizes, light, motion"), looks_arguments)
def looks_verb(args: Namespace) -> int:
    """Keep what is asked for, and say how the window looks."""
    kept = load_settings()
    asked: dict[str, Any] = {
        "text_percent": args.words,
        "size_percent": args.all,
        "theme": _LIGHTS.get(args.light),
        "more_contrast": None if args.contrast is None else args.contrast == "more",
        "less_motion": None if args.motion is None else args.motion == "less",
        "unit": args.unit,
    }
    changes = {name: value for name, value in asked.items() if value is not None}
    now = replace(kept, **changes)
    if now != kept:
        store_settings(now)
    if args.json:
        write_json({name: getattr(now, name) for name in asked})
        return 0
    print(
        phrase(
            "Words {text} %, everything {size} %; light: {light}; contrast: {contrast}; motion: {motion}; "
            "lengths in {unit}.",
            text=now.text_percent,
            size=now.size_percent,
            light=told(now.theme) if now.theme else phrase("as the desktop has it"),
            contrast=phrase("more") if now.more_contrast else phrase("usual"),
            motion=phrase("less") if now.less_motion else phrase("usual"),
            unit=now.unit,
        )
    )
    return 0
