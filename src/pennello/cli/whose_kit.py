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
from pennello.session.kit import KitSession, kit_path, kit_there


def kit_of(args: Namespace) -> Kit | None:
    """Return the kit that is asked for; the painter's own without a word where there is one; None for "none".

    Raises
    ------
    FileProblemError
        If it is not there, or cannot be read.
    """
    if args.kit == NO_KIT:
        return None
    if args.kit is not None:
        with closing(KitSession(kit_file(args.kit))) as session:
            return session.kit
    try:
        return kit_there()
    except FileProblemError as error:
        words = phrase(
            "{problem} With --kit {no_kit} the plan alone is looked through.", problem=error.problem, no_kit=NO_KIT
        )
        raise FileProblemError(kit_path(), words) from error


def kit_file(said: str | None) -> Path | None:
    """Return the file of the kit that is said; None for the painter's own.

    Raises
    ------
    FileProblemError
        If there is none of that name.
    """
    path = Path(said) if said else None
    if path is not None and not exists(path):
        raise FileProblemError(
            path, phrase("this kit is not there; name the file of a kit, or leave the name out for your own.")
        )
    return path
