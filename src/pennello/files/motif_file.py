"""A motif of one's own as a small JSON file to share: its kind, its numbers, its name."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Literal

import msgspec
from msgspec import Meta

from pennello.design.placed import PlacedMotif
from pennello.disk import read_bytes, write_bytes
from pennello.errors import FileProblemError, PennelloError
from pennello.motif.catalogue import motif

SUFFIX = ".pennello-motif"
MOST_BYTES = 100_000


class OwnMotif(msgspec.Struct, forbid_unknown_fields=True, kw_only=True, frozen=True):
    """What the file holds: numbers that are not at their defaults, and how many strokes a load lasts for."""

    format: Literal["pennello-motif"] = "pennello-motif"
    schema: Literal[1] = 1
    name: Annotated[str, Meta(min_length=1, max_length=80)]
    motif: Annotated[str, Meta(min_length=1, max_length=64)]
    set: dict[str, float] = {}
    twin: bool = False
    per_load: Annotated[int, Meta(ge=1, le=40)] = 1


class NotKeptError(PennelloError):
    """A single stroke is no motif to keep."""


def own_of(placed: PlacedMotif, name: str) -> OwnMotif:
    """Return a placed motif as one's own under a name."""
    if not placed.motif:
        raise NotKeptError("A single stroke is no motif to keep; keep the motif before you break it apart.")
    return OwnMotif(
        name=name.strip()[:80] or placed.name,
        motif=placed.motif,
        set=dict(placed.values),
        twin=placed.twin,
        per_load=placed.per_load,
    )


def write_own(own: OwnMotif, path: Path) -> None:
    """Write a motif of one's own; raises FileProblemError."""
    write_bytes(msgspec.json.format(msgspec.json.encode(own), indent=1) + b"\n", path)


def read_own(path: Path) -> OwnMotif:
    """Return the motif in a file.

    Raises
    ------
    FileProblemError
        If it is none, or one whose numbers cannot be.
    """
    try:
        own = msgspec.json.decode(read_bytes(path, MOST_BYTES), type=OwnMotif)
        motif(own.motif).values(own.set)
    except (msgspec.DecodeError, UnicodeDecodeError) as error:
        raise FileProblemError(
            path, f"this is not a motif that Pennello wrote ({error}); choose another file."
        ) from error
    except FileProblemError:
        raise
    except PennelloError as error:
        raise FileProblemError(path, f"{error} Correct that number and open it again.") from error
    return own
