"""A motif of one's own as a JSON file to share: what it is made of, its loads with their wishes, its picture."""

from __future__ import annotations

import base64
import binascii
from dataclasses import replace
from pathlib import Path
from typing import Annotated, Literal

import msgspec
from msgspec import Meta

from pennello.design.own import Own, own_of
from pennello.design.placed import PlacedMotif
from pennello.design.suiting import suiting_loads
from pennello.disk import read_bytes, write_bytes
from pennello.errors import FileProblemError, PennelloError, clipped
from pennello.files.demo import demo_plan
from pennello.files.json_text import sound_json
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.limits import MOST_NAME, MOST_PLAN_BYTES
from pennello.motif.catalogue import motif
from pennello.phrases import phrase

SUFFIX = ".pennello-motif"
MOST_PICTURE = 400_000
MOST_BYTES = MOST_PLAN_BYTES + MOST_PICTURE
"""200 pieces of many points each are as large as a plan."""


class OldFile(msgspec.Struct, forbid_unknown_fields=True, kw_only=True, frozen=True):
    """A file of version 1: one motif and its numbers, no loads."""

    format: Literal["pennello-motif"] = "pennello-motif"
    schema: Literal[1] = 1
    name: Annotated[str, Meta(min_length=1, max_length=80)]
    motif: Annotated[str, Meta(min_length=1, max_length=64)]
    set: dict[str, float] = {}
    twin: bool = False
    per_load: Annotated[int, Meta(ge=1, le=40)] = 1


class MotifOfOnesOwn(msgspec.Struct, forbid_unknown_fields=True, kw_only=True, frozen=True):
    """A file of version 2: a plan of just what the motif takes, and its picture as PNG in base64."""

    format: Literal["pennello-motif"] = "pennello-motif"
    schema: Literal[2] = 2
    name: Annotated[str, Meta(min_length=1, max_length=MOST_NAME)]
    parts: msgspec.Raw
    picture: Annotated[str, Meta(max_length=MOST_PICTURE)] = ""


class MotifHeader(msgspec.Struct):
    """What tells the versions apart."""

    schema: int = 1


def write_own(own: Own, path: Path, picture: bytes = b"") -> None:
    """Write a motif of one's own with its picture, PNG.

    Raises
    ------
    FileProblemError
        If it cannot be written, or could not be read again.
    """
    shown = base64.b64encode(picture).decode() if len(picture) < MOST_PICTURE * 3 // 4 else ""
    file = MotifOfOnesOwn(name=own.name, parts=msgspec.Raw(plan_bytes(own.parts)), picture=shown)
    data = msgspec.json.format(msgspec.json.encode(file), indent=1) + b"\n"
    if len(data) > MOST_BYTES:
        raise FileProblemError(
            path, phrase("{name} is too large for one file; keep less of it at a time.", name=clipped(own.name))
        )
    _parsed(data, path)  # what could not be read again is not written
    write_bytes(data, path)


def read_own(path: Path) -> Own:
    """Return the motif in a file.

    Raises
    ------
    FileProblemError
        If it is none, or one whose numbers cannot be.
    """
    return with_picture(path)[0]


def picture_of(path: Path) -> bytes:
    """Return the picture in a file, PNG; empty if it has none. Raises FileProblemError."""
    return with_picture(path)[1]


def with_picture(path: Path) -> tuple[Own, bytes]:
    """Return the motif in a file, and its picture; see `read_own`."""
    return _parsed(read_bytes(path, MOST_BYTES), path)


def _parsed(data: bytes, path: Path) -> tuple[Own, bytes]:
    try:
        text = sound_json(data, path)
        if msgspec.json.decode(text, type=MotifHeader).schema == 1:
            return _as_own(msgspec.json.decode(text, type=OldFile)), b""
        file = msgspec.json.decode(text, type=MotifOfOnesOwn)
        own = Own(file.name, parse_plan(bytes(file.parts), path))
        if not own.parts.motifs:
            raise FileProblemError(path, phrase("there is nothing in it; choose another file."))
        return own, base64.b64decode(file.picture, validate=True)
    except (msgspec.DecodeError, UnicodeDecodeError, binascii.Error) as error:
        raise FileProblemError(
            path,
            phrase(
                "this is not a motif that Pennello wrote ({error}); choose another file.",
                error=clipped(str(error), 200),
            ),
        ) from error
    except FileProblemError:
        raise
    except PennelloError as error:
        raise FileProblemError(path, phrase("{error} Correct that number and open it again.", error=error)) from error


def _as_own(old: OldFile) -> Own:
    """Return what a file of version 1 holds, laid with the demo's loads, since it has none."""
    kind, plan = motif(old.motif), demo_plan()
    kind.values(old.set)
    placed = PlacedMotif(
        old.motif[:60],
        old.name,
        old.motif,
        suiting_loads(plan, kind),
        values=tuple(old.set.items()),
        twin=old.twin,
    )
    return own_of(replace(plan, motifs=(placed,)), [placed.id], old.name)
