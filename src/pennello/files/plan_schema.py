"""The .pennello file, version 5, as it stands on disk.

A file of an older version is one with none of the keys marked "since" a later one.

Structure and types only; ranges belong to the values themselves.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

import msgspec
from msgspec import UNSET, Meta, Struct, UnsetType

from pennello.aim.hand import Steadiness
from pennello.design.ordering import GlitterWhen, Priority, RuleKind, Sides, Whites
from pennello.kit.applicator import ApplicatorKind
from pennello.kit.paint import Near
from pennello.lay.stroke import Exit
from pennello.load.recipe import WHOLE_EDGE, Before, Face, Way, Wetness

FORMAT = "pennello-plan"
VERSION = 6

Id = Annotated[str, Meta(min_length=1, max_length=64)]
Name = Annotated[str, Meta(max_length=200)]
LongName = Annotated[str, Meta(max_length=400)]
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
    skin: bool = True  # since 2
    reflectance: Annotated[list[Share], Meta(min_length=36, max_length=36)] | UnsetType = UNSET  # since 2


class PortionFile(Strict, kw_only=True):
    """A paint in a pan, by parts. Since 2."""

    paint: Id
    parts: Positive = 1.0


class DirtFile(Strict, kw_only=True):
    """Another paint on top of a stripe. Since 2."""

    paint: Id
    mm3: NotNegative


class StripeFile(Strict, kw_only=True):
    """A stripe of a cake."""

    paint: Id
    width_mm: Positive
    hollow_mm: NotNegative = 0.0  # since 2
    dirt: Annotated[list[DirtFile], Meta(max_length=2000)] = msgspec.field(default_factory=list)  # since 2


class CakeFile(Strict, kw_only=True):
    """A split cake, stripes left to right."""

    id: Id
    name: Name = ""
    stripes: Annotated[list[StripeFile], Meta(min_length=2, max_length=7)]
    softness_mm: NotNegative = 0.3
    length_mm: Positive = 45.0
    depth_mm: Positive = 8.0  # since 2
    ombre: bool = False  # since 2


class BrushFile(Strict, kw_only=True):
    """A brush, sponge or dauber; what is not named in `own` is a default that can be calibrated."""

    id: Id
    name: Name = ""
    kind: ApplicatorKind = ApplicatorKind.FLAT  # since 2 others than flat
    width_mm: Positive
    thickness_mm: Positive = 2.0
    bristle_mm: Positive = 17.0
    capacity_mm3_per_mm: Positive = 3.0
    release_mm: Positive = 150.0
    fill_passes: Positive = 4.0
    splay: Share = 0.16
    cut_deg: NotNegative = 25.0  # since 2
    tip_mm: Positive = 0.6  # since 2
    print_mm: Positive = 18.0  # since 2
    drift_mm: NotNegative = 0.8  # since 2
    own: Annotated[list[str], Meta(max_length=20)] = msgspec.field(default_factory=list)  # since 2


class PickUpFile(Strict, kw_only=True):
    """One visit to a cake, or to a pan (since 2)."""

    cake: Id | UnsetType = UNSET
    pan: Annotated[list[PortionFile], Meta(max_length=6)] | UnsetType = UNSET  # since 2
    offset_mm: float = 0.0
    flip: bool = False
    skew_deg: float = 0.0
    passes: NotNegative = 12.0
    drift_mm: NotNegative = 0.8
    wetness: Wetness = Wetness.CREAMY
    before: Before = Before.KEEP  # since 2 blot
    way: Way = Way.SWEEP  # since 2
    part: tuple[Share, Share] = WHOLE_EDGE  # since 2
    face: Face = Face.FRONT  # since 2


class LoadFile(Strict, kw_only=True):
    """A load: its pick-ups in order, onto a clean brush or the leftover of an earlier stroke."""

    pickups: Annotated[list[PickUpFile], Meta(max_length=20)]
    after: Annotated[str, Meta(max_length=64)] = ""  # since 2
    lays: Face = Face.FRONT  # since 2


class PathFile(Strict, kw_only=True):
    """A chain of cubic curves: start, then two handles and an end for each curve."""

    points_mm: Annotated[list[tuple[float, float]], Meta(min_length=4, max_length=12001)]


class KeyFile(Strict, kw_only=True):
    """A value at a place along the stroke, 0 (start) to 1 (end). Since 3."""

    at: Share
    value: float


Keys = Annotated[list[KeyFile], Meta(max_length=64)]


class NibFile(Strict, kw_only=True):
    """How the chisel is held."""

    mode: Literal["fixed", "following", "pivoting", "keyed"] = "following"  # since 3 keyed
    angle_deg: float = 90.0
    angle_end_deg: float = 90.0
    pivot_u: Share = 0.0
    keys: Keys = msgspec.field(default_factory=list)  # since 3


class WiggleFile(Strict, kw_only=True):
    """Sideways waves along the stroke."""

    count: NotNegative = 0.0
    width_mm: NotNegative = 0.0


class StopFile(Strict, kw_only=True):
    """A wanted colour, by paint or by sRGB."""

    paint: Id | UnsetType = UNSET
    srgb: Hex | UnsetType = UNSET
    to_u: Share = 1.0
    blend_mm: NotNegative = 2.5


class WantedFile(Strict, kw_only=True):
    """The wanted gradient, from A to B."""

    stops: Annotated[list[StopFile], Meta(min_length=1, max_length=9)]
    end: Annotated[list[StopFile], Meta(max_length=9)] = msgspec.field(default_factory=list)  # since 4
    coat_um: Positive = 15.0
    tolerance_de00: Positive = 3.0


class WayFile(Strict, kw_only=True):
    """A stroke's way over the skin, of a motif that was broken apart. Since 4."""

    path: PathFile
    nib: NibFile = msgspec.field(default_factory=NibFile)
    pressure: Share = 0.5
    wiggle: WiggleFile = msgspec.field(default_factory=WiggleFile)
    reload_mm: Annotated[list[NotNegative], Meta(max_length=50)] = msgspec.field(default_factory=list)
    pressures: Keys = msgspec.field(default_factory=list)
    flips_mm: Annotated[list[NotNegative], Meta(max_length=50)] = msgspec.field(default_factory=list)
    part: tuple[Share, Share] = WHOLE_EDGE
    lift_mm: NotNegative = 0.0
    exit: Exit = Exit.EDGE


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
    motif: Annotated[str, Meta(max_length=64)] = ""
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
    kind: Literal["glitter", "stencil", "lines"] = "glitter"
    x_mm: float = 0.0
    y_mm: float = 0.0
    width_mm: Positive = 30.0
    height_mm: Positive = 20.0
    srgb: Hex = "#f5e6a8"
    amount: Positive = 60.0
    chart: Id = "face"
    seed: int = 1
    outlines: Annotated[list[PathFile], Meta(max_length=200)] = msgspec.field(default_factory=list)
    line_mm: Positive = 1.5  # since 6


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
    reload_mm: Annotated[list[NotNegative], Meta(max_length=50)] = msgspec.field(default_factory=list)
    pressures: Keys = msgspec.field(default_factory=list)  # since 3
    flips_mm: Annotated[list[NotNegative], Meta(max_length=50)] = msgspec.field(default_factory=list)  # since 3
    part: tuple[Share, Share] = WHOLE_EDGE  # since 3
    lift_mm: NotNegative = 0.0  # since 3
    exit: Exit = Exit.EDGE  # since 3
    wait_s: NotNegative = 0.0  # since 3
    near: Near = Near.SKIN  # since 4
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

    sequence: Annotated[list[LongName], Meta(max_length=2000)] = msgspec.field(default_factory=list)
    priorities: dict[str, Priority] = msgspec.field(default_factory=dict)
    worth: dict[str, Positive] = msgspec.field(default_factory=dict)
    rules: Annotated[list[RuleFile], Meta(max_length=500)] = msgspec.field(default_factory=list)
    sides: Sides = Sides.FREE
    whites: Whites = Whites.FREE
    glitter: GlitterWhen = GlitterWhen.TACKY
    nose_last: bool = True
    target_s: Positive | UnsetType = UNSET


class PlanFile(Strict, kw_only=True):
    """A whole plan."""

    format: Literal["pennello-plan"]
    schema: Literal[1, 2, 3, 4, 5, 6]
    title: Name = "Untitled"
    place: Name = ""
    skin: SkinFile = msgspec.field(default_factory=SkinFile)
    paints: Annotated[list[PaintFile], Meta(max_length=2000)] = msgspec.field(default_factory=list)
    cakes: Annotated[list[CakeFile], Meta(max_length=1000)] = msgspec.field(default_factory=list)
    brushes: Annotated[list[BrushFile], Meta(max_length=500)] = msgspec.field(default_factory=list)
    strokes: Annotated[list[StrokeFile], Meta(max_length=2000)] = msgspec.field(default_factory=list)
    dry_after_s: Positive = 57.6  # since 3
    hand: HandFile = msgspec.field(default_factory=HandFile)  # since 4
    measures: MeasuresFile = msgspec.field(default_factory=MeasuresFile)  # since 4
    motifs: Annotated[list[MotifFile], Meta(max_length=500)] = msgspec.field(default_factory=list)  # since 4
    reserved: Annotated[list[ReservedFile], Meta(max_length=100)] = msgspec.field(default_factory=list)  # since 4
    overlays: Annotated[list[OverlayFile], Meta(max_length=200)] = msgspec.field(default_factory=list)  # since 4
    ordering: OrderingFile = msgspec.field(default_factory=OrderingFile)  # since 5


class Header(Struct):
    """What is read first: does this file speak our language, and which version of it."""

    format: str = ""
    schema: int = 0


def json_schema() -> dict[str, Any]:
    """Return the JSON Schema (2020-12) of a plan file."""
    schema = msgspec.json.schema(PlanFile)
    head = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Pennello plan, version 5",
        "description": "Lengths in mm, films in um, angles in degrees; x to the right, y down. See format.md.",
    }
    return head | schema
