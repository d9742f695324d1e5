"""The verb `thumbnail`: the picture of a file for a file manager."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path

from pennello.cli.asking import verb
from pennello.cli.numbers import whole
from pennello.phrases import phrase
from pennello.session.thumbnail import write_thumbnail


def thumbnail_arguments(parser: ArgumentParser) -> None:
    """Say what `thumbnail` takes."""
    parser.add_argument("file", type=Path, help=phrase("a plan, an event or a motif"))
    parser.add_argument("picture", type=Path, help=phrase("the PNG to write"))
    parser.add_argument(
        "--size", type=whole, default=256, metavar="PX", help=phrase("its longer side at most, default 256")
    )


@verb("thumbnail", phrase("the picture of a plan, event or motif, as file managers show it"), thumbnail_arguments)
def thumbnail_verb(args: Namespace) -> int:
    """Write the picture."""
    write_thumbnail(args.file, args.picture, args.size)
    return 0
