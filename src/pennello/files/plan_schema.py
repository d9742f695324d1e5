"""The .pennello file, version 7, as it stands on disk.

A file of an older version is one with none of the keys and values marked as since a later one; where a default has
changed, `plan_steps` writes the old one in.

Structure and types only; ranges belong to the values themselves.
"""

from __future__ import annotations

from inspect import cleandoc
from typing import Annotated, Any, Literal

import msgspec
from msgspec import UNSET, Meta, Struct, UnsetType

from pennello import limits
from pennello.aim.hand import Steadiness
from pennello.design.ordering import GlitterWhen, Priority, RuleKind, Sides, Whites
from pennello.kit.applicator import ApplicatorKind
from pennello.kit.paint import Near
from pennello.lay.stroke import MOST_KEYS, Exit, Over
from pennello.load.recipe import MOST_IN_PAN, MOST_PICKUPS, WHOLE_EDGE, Before, Face, Way, Wetness

FORMAT = "pennello-plan"
VERSION = 7


def since(version: int) -> Meta:
    """Return the mark of a key that files before a version do not have."""
    return Meta(extra={"since": version})


def later_values(versions: dict[str, int]) -> Meta:
    """Return the mark of values that files before a version do not have."""
    return Meta(extra={"values": versions})


_NOT_FLAT = {one.value: 2 for one in ApplicatorKind if one is not ApplicatorKind.FLAT}

Id = Annotated[str, Meta(min_length=1, max_length=limits.MOST_ID)]
Name = Annotated[str, Meta(max_length=limits.MOST_NAME)]
LongName = Annotated[str, Meta(max_length=limits.MOST_STEP_NAME)]
Hex = Annotated[str, Meta(pattern="^#[0-9a-fA-F]{6}$")]
Positive = Annotated[float, Meta(gt=0)]
NotNegative = Annotated[float, Meta(ge=0)]
Share = Annotated[float, Meta(ge=0, le=1)]


class Strict(Struct, forbid_unknown_fields=True, omit_defaults=False):
    """A table of the file: a key that is not known is refused, so that a slip of the pen is not lost."""


class SkinFile(Strict, kw_only=True):
    """Skin: an ITA angle in degrees, or an own sample as sRGB."""

    ita_deg: float = 40.0
    srgb: Hex | UnsetType = UNSET


class PaintFile(Strict, kw_only=True):
    """A paint: masstone, and contrast ratio over black and white at a film thickness."""

    id: Id
    name: Name = ""
    srgb: Hex
    contrast: Share | UnsetType = UNSET
    contrast_film_um: Positive = 20.0
    tint: Positive = 1.0
    finish: Literal["matte", "pearl", "metallic", "neon"] = "matte"
    eye_area: bool = True
    lips: bool = True
    skin: Annotated[bool, since(2)] = True
    reflectance: Annotated[Annotated[list[Share], Meta(min_length=36, max_length=36)] | UnsetType, since(2)] = UNSET
    scatter_exponent: Annotated[NotNegative, since(7)] = 0.0


class PortionFile(Strict, kw_only=True):
    """A paint in a pan, by parts; 0 parts, which 0.6 wrote, are none. Since 2."""

    paint: Id
    parts: NotNegative = 1.0


class DirtFile(Strict, kw_only=True):
    """Another paint on top of a stripe. Since 2."""

    paint: Id
    mm3: NotNegative


class StripeFile(Strict, kw_only=True):
    """A stripe of a cake."""

    paint: Id
    width_mm: Positive
    hollow_mm: Annotated[NotNegative, since(2)] = 0.0
    dirt: Annotated[list[DirtFile], Meta(max_length=limits.MOST_DIRT), since(2)] = msgspec.field(default_factory=list)


class CakeFile(Strict, kw_only=True):
    """A split cake, stripes left to right."""

    id: Id
    name: Name = ""
    stripes: Annotated[list[StripeFile], Meta(min_length=2, max_length=7)]
    softness_mm: NotNegative = 0.3
    length_mm: Positive = 45.0
    depth_mm: Annotated[Positive, since(2)] = 8.0
    ombre: Annotated[bool, since(2)] = False


class BrushFile(Strict, kw_only=True):
    """A brush, sponge or dauber; what is not named in `own` is a default that can be calibrated."""

    id: Id
    name: Name = ""
    kind: Annotated[ApplicatorKind, later_values({one.value: 2 for one in ApplicatorKind if one.value != "flat"})] = (
        ApplicatorKind.FLAT
    )
    width_mm: Positive
    thickness_mm: Positive = 2.0
    bristle_mm: Positive = 17.0
    capacity_mm3_per_mm: Positive = 4.2
    release_mm: Positive = 150.0
    fill_passes: Positive = 4.0
    splay: Share = 0.16
    cut_deg: Annotated[NotNegative, since(2)] = 25.0
    tip_mm: Annotated[Positive, since(2)] = 0.6
    print_mm: Annotated[Positive, since(2)] = 18.0
    drift_mm: Annotated[NotNegative, since(2)] = 0.8
    root_share: Annotated[Share, since(7)] = 0.03
    own: Annotated[list[str], Meta(max_length=limits.MOST_OWN), since(2)] = msgspec.field(default_factory=list)


class PickUpFile(Strict, kw_only=True):
    """One visit to a cake, or to a pan (since 2)."""

    cake: Id | UnsetType = UNSET
    pan: Annotated[Annotated[list[PortionFile], Meta(max_length=MOST_IN_PAN)] | UnsetType, since(2)] = UNSET
    offset_mm: float = 0.0
    flip: bool = False
    skew_deg: float = 0.0
    passes: NotNegative = 12.0
    drift_mm: NotNegative = 0.8
    wetness: Wetness = Wetness.CREAMY
    before: Annotated[Before, later_values({"blot": 2, "rinse twice": 7})] = Before.KEEP
    way: Annotated[Way, since(2)] = Way.SWEEP
    part: Annotated[tuple[Share, Share], since(2)] = WHOLE_EDGE
    face: Annotated[Face, since(2)] = Face.FRONT


class LoadFile(Strict, kw_only=True):
    """A load: its pick-ups in order, onto a clean brush or the leftover of an earlier stroke."""

    pickups: Annotated[list[PickUpFile], Meta(max_length=MOST_PICKUPS)]
    after: Annotated[str, Meta(max_length=limits.MOST_ID), since(2)] = ""
    lays: Annotated[Face, since(2)] = Face.FRONT


class PathFile(Strict, kw_only=True):
    """A chain of cubic curves: start, then two handles and an end for each curve."""

    points_mm: Annotated[list[tuple[float, float]], Meta(min_length=4, max_length=12001)]


class KeyFile(Strict, kw_only=True):
    """A value at a place along the stroke, 0 (start) to 1 (end). Since 3."""

    at: Share
    value: float


Keys = Annotated[list[KeyFile], Meta(max_length=MOST_KEYS)]


class PartKeyFile(Strict, kw_only=True):
    """The part of the edge on the skin at a place along the stroke. Since 7."""

    at: Share
    from_u: Share
    to_u: Share


class PatsFile(Strict, kw_only=True):
    """One contact set down again and again: over the way, or over the place that it encloses. Since 7."""

    overlap: Share = 0.35
    turn_deg: NotNegative = 20.0
    over: Over = Over.WAY
    seed: int = 1
    mirrored: bool = False


Parts = Annotated[list[PartKeyFile], Meta(max_length=MOST_KEYS)]


class NibFile(Strict, kw_only=True):
    """How the chisel is held."""

    mode: Annotated[Literal["fixed", "following", "pivoting", "keyed"], later_values({"keyed": 3})] = "following"
    angle_deg: float = 90.0
    angle_end_deg: float = 90.0
    pivot_u: Share = 0.0
    keys: Annotated[Keys, since(3)] = []


class WiggleFile(Strict, kw_only=True):
    """Sideways waves along the stroke."""

    count: NotNegative = 0.0
    width_mm: NotNegative = 0.0
    fades: Annotated[Share, since(7)] = 0.0


class StopFile(Strict, kw_only=True):
    """A wanted colour, by paint or by sRGB."""

    paint: Id | UnsetType = UNSET
    srgb: Hex | UnsetType = UNSET
    to_u: Share = 1.0
    blend_mm: NotNegative = 2.5


class WantedFile(Strict, kw_only=True):
    """The wanted gradient, from A to B."""

    stops: Annotated[list[StopFile], Meta(min_length=1, max_length=9)]
    end: Annotated[list[StopFile], Meta(max_length=9), since(4)] = []
    coat_um: Positive = 20.0
    tolerance_de00: Positive = 3.0


class WayFile(Strict, kw_only=True):
    """A stroke's way over the skin, of a motif that was broken apart. Since 4."""

    path: PathFile
    nib: NibFile = msgspec.field(default_factory=NibFile)
    pressure: Share = 0.5
    wiggle: WiggleFile = msgspec.field(default_factory=WiggleFile)
    reload_mm: Annotated[list[NotNegative], Meta(max_length=50)] = []
    pressures: Keys = []
    flips_mm: Annotated[list[NotNegative], Meta(max_length=50)] = []
    part: tuple[Share, Share] = WHOLE_EDGE
    lift_mm: NotNegative = 0.0
    exit: Exit = Exit.EDGE
    leans: Annotated[Keys, since(7)] = []
    tilts: Annotated[Keys, since(7)] = []
    parts: Annotated[Parts, since(7)] = []
    on_part: Annotated[bool, since(7)] = False
    pats: Annotated[PatsFile | UnsetType, since(7)] = UNSET


class PlaceFile(Strict, kw_only=True):
    """Where a motif lies on its chart. Since 4."""

    x_mm: float = 0.0
    y_mm: float = 0.0
    turn_deg: float = 0.0
    scale: Positive = 1.0
    mirrored: bool = False


class MotifFile(Strict, kw_only=True):
    """A motif on a chart, or one stroke of its own way. Since 4."""

    id: Id
    name: Name = ""
    motif: Annotated[str, Meta(max_length=limits.MOST_ID)] = ""
    set: dict[str, float] = msgspec.field(default_factory=dict)
    loads: dict[str, Id] = msgspec.field(default_factory=dict)
    chart: Id = "face"
    place: PlaceFile = msgspec.field(default_factory=PlaceFile)
    twin: bool = False
    per_load: Annotated[int, Meta(ge=1, le=40)] = 1
    group: Name = ""
    way: WayFile | UnsetType = UNSET


class ReservedFile(Strict, kw_only=True):
    """A round place that is kept for what comes later. Since 4."""

    name: Name = ""
    x_mm: float = 0.0
    y_mm: float = 0.0
    radius_mm: Positive = 10.0
    chart: Id = "face"
    for_motif: Name = ""


class OverlayFile(Strict, kw_only=True):
    """Glitter over an oval, a sponge through a stencil's outlines, or lines. Since 4; lines since 6."""

    name: Name = ""
    kind: Annotated[Literal["glitter", "stencil", "lines"], later_values({"lines": 6})] = "glitter"
    x_mm: float = 0.0
    y_mm: float = 0.0
    width_mm: Positive = 30.0
    height_mm: Positive = 20.0
    srgb: Hex = "#f5e6a8"
    amount: Positive = 60.0
    chart: Id = "face"
    seed: int = 1
    outlines: Annotated[list[PathFile], Meta(max_length=limits.MOST_OUTLINES)] = []
    line_mm: Annotated[Positive, since(6)] = 1.5


class MeasuresFile(Strict, kw_only=True):
    """The person that charts are drawn for. Since 4."""

    head_breadth_mm: Positive = 145.0
    face_height_mm: Positive = 114.0
    stature_mm: Positive = 1640.0


class StrokeFile(Strict, kw_only=True):
    """A stroke: brush, load, way over the skin, and the wish."""

    id: Id
    name: Name = ""
    brush: Id
    rim: Literal["A", "B"] = "A"
    load: LoadFile
    path: PathFile
    nib: NibFile = msgspec.field(default_factory=NibFile)
    pressure: Share = 0.5
    wiggle: WiggleFile = msgspec.field(default_factory=WiggleFile)
    reload_mm: Annotated[list[NotNegative], Meta(max_length=50)] = []
    pressures: Annotated[Keys, since(3)] = []
    flips_mm: Annotated[list[NotNegative], Meta(max_length=50), since(3)] = msgspec.field(default_factory=list)
    part: Annotated[tuple[Share, Share], since(3)] = WHOLE_EDGE
    lift_mm: Annotated[NotNegative, since(3)] = 0.0
    exit: Annotated[Exit, since(3)] = Exit.EDGE
    leans: Annotated[Keys, since(7)] = []
    tilts: Annotated[Keys, since(7)] = []
    parts: Annotated[Parts, since(7)] = []
    on_part: Annotated[bool, since(7)] = False
    pats: Annotated[PatsFile | UnsetType, since(7)] = UNSET
    wait_s: Annotated[NotNegative, since(3)] = 0.0
    near: Annotated[Near, since(4)] = Near.SKIN
    wanted: WantedFile


class HandFile(Strict, kw_only=True):
    """Standard deviations of the hand's slips. Since 4."""

    steadiness: Steadiness = Steadiness.NORMAL
    offset_mm: NotNegative = 0.8
    skew_deg: NotNegative = 3.0
    angle_deg: NotNegative = 6.0
    drift_share: NotNegative = 0.25
    passes: NotNegative = 1.5


class RuleFile(Strict, kw_only=True):
    """A rule of the painter's own between two parts. Since 5."""

    earlier: Name
    later: Name
    kind: RuleKind = RuleKind.AFTER


class OrderingFile(Strict, kw_only=True):
    """What the painter says about the order of painting. Since 5."""

    sequence: Annotated[list[LongName], Meta(max_length=limits.MOST_SEQUENCE)] = []
    priorities: dict[str, Priority] = msgspec.field(default_factory=dict)
    worth: dict[str, Positive] = msgspec.field(default_factory=dict)
    rules: Annotated[list[RuleFile], Meta(max_length=limits.MOST_RULES)] = []
    sides: Sides = Sides.FREE
    whites: Whites = Whites.FREE
    glitter: GlitterWhen = GlitterWhen.TACKY
    nose_last: bool = True
    target_s: Positive | UnsetType = UNSET


class PlanFile(Strict, kw_only=True):
    """A whole plan."""

    format: Literal["pennello-plan"]
    schema: Literal[1, 2, 3, 4, 5, 6, 7]
    title: Name = "Untitled"
    place: Name = ""
    skin: SkinFile = msgspec.field(default_factory=SkinFile)
    paints: Annotated[list[PaintFile], Meta(max_length=limits.MOST_PAINTS)] = []
    cakes: Annotated[list[CakeFile], Meta(max_length=limits.MOST_CAKES)] = []
    brushes: Annotated[list[BrushFile], Meta(max_length=limits.MOST_BRUSHES)] = []
    strokes: Annotated[list[StrokeFile], Meta(max_length=limits.MOST_STROKES)] = []
    dry_after_s: Annotated[Positive, since(3)] = 40.0
    hand: Annotated[HandFile, since(4)] = msgspec.field(default_factory=HandFile)
    measures: Annotated[MeasuresFile, since(4)] = msgspec.field(default_factory=MeasuresFile)
    motifs: Annotated[list[MotifFile], Meta(max_length=limits.MOST_MOTIFS), since(4)] = msgspec.field(
        default_factory=list
    )
    reserved: Annotated[list[ReservedFile], Meta(max_length=limits.MOST_RESERVED), since(4)] = msgspec.field(
        default_factory=list
    )
    overlays: Annotated[list[OverlayFile], Meta(max_length=limits.MOST_OVERLAYS), since(4)] = msgspec.field(
        default_factory=list
    )
    ordering: Annotated[OrderingFile, since(5)] = msgspec.field(default_factory=OrderingFile)


class Header(Struct):
    """What is read first: does this file speak our language, and which version of it."""

    format: str = ""
    schema: int = 0


def _unindented(value: Any) -> Any:
    """Return a schema with its descriptions unindented, as Python 3.13 has docstrings and earlier ones do not."""
    if isinstance(value, list):
        return [_unindented(one) for one in value]
    if not isinstance(value, dict):
        return value
    return {
        key: cleandoc(one) if key == "description" and isinstance(one, str) else _unindented(one)
        for key, one in value.items()
    }


def json_schema() -> dict[str, Any]:
    """Return the JSON Schema (2020-12) of a plan file."""
    schema: dict[str, Any] = _unindented(msgspec.json.schema(PlanFile))
    head = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"Pennello plan, version {VERSION}",
        "description": "Lengths in mm, films in um, angles in degrees; x to the right, y down. See format.md.",
    }
    return head | schema
