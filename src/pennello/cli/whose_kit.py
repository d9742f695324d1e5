"""Which kit a search looks through, by what --kit says."""

from __future__ import annotations

from argparse import Namespace
from contextlib import closing
from pathlib import Path

from pennello.cli.asking import NO_KIT
from pennello.disk import exists
from pennello.errors import FileProblemError
from pennello.kit.shelf import Kit
from pennello.phrases import phrase
from pennello.session.kit import KitSession, kit_if_any


def kit_of(args: Namespace) -> Kit | None:
    """Return the kit that is asked for; the painter's own without a word where there is one; None for "none"."""
    if args.kit is None:
        return kit_if_any()
    if args.kit == NO_KIT:
        return None
    path = None if args.kit == "" else Path(args.kit)
    if path is not None and not exists(path):
        raise FileProblemError(
            path, phrase("this kit is not there; name the file of a kit, or leave the name out for your own.")
        )
    with closing(KitSession(path)) as session:
        return session.kit
