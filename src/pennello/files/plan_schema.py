"""The .pennello file, version 13, as it stands on disk: made from what the fields of the core tell of themselves.

A file of an older version is one with none of the keys and values marked as since a later one; where a default has
changed, `plan_steps` writes the old one in. Tables check structure and types; ranges belong to the records.
"""

from __future__ import annotations

from dataclasses import fields
from inspect import cleandoc
from typing import Annotated, Any, Literal, TypeAlias

import msgspec
from msgspec import Meta, Struct

from pennello import limits
from pennello.aim.hand import Hand
from pennello.aim.wish import Stop, Wanted
from pennello.chart.measures import Measures
from pennello.design.bound import Sign, StripeOn
from pennello.design.computing import Computed
from pennello.design.marks import MARKS, Gem, GemShape, Glitter, Mark, Reserved, Stencil
from pennello.design.ordering import Ordering, Rule
from pennello.design.part import PlanPart
from pennello.design.photo import Photo
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan, PlanStroke, Skin
from pennello.design.soundness import check_plan
from pennello.files.records import FileForm, Strict, columns, read_record, register, table_of, write_record, written
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Portion, Stripe
from pennello.kit.paint import Paint
from pennello.lay.stroke import Key, Nib, PartKey, Pats, Stroke, Wiggle
from pennello.load.recipe import PickUp, Recipe
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath

FORMAT = "pennello-plan"
VERSION = 13


_PATH = FileForm("PathFile", "A chain of cubic curves: start, then two handles and an end for each curve.")
register({CubicPath: _PATH})
PathFile: TypeAlias = table_of(CubicPath)  # type: ignore[valid-type]
_SIZE = {"minimum": 1, "maximum": 500}


class OverlayFile(Strict, kw_only=True):
    """Glitter over an oval, a sponge through a stencil's outlines, or a gem. Since 4; gems since 10."""

    name: Annotated[str, Meta(max_length=limits.MOST_NAME)] = ""
    kind: Annotated[Literal["glitter", "stencil", "gem"], Meta(extra={"values": {"gem": 10}})] = "glitter"
    x_mm: float = 0.0
    y_mm: float = 0.0
    width_mm: Annotated[float, Meta(extra_json_schema=_SIZE)] = 30.0
    height_mm: Annotated[float, Meta(extra_json_schema=_SIZE)] = 20.0
    srgb: Annotated[str, Meta(pattern="^#[0-9a-fA-F]{6}$")] = "#f5e6a8"
    amount: Annotated[float, Meta(extra_json_schema={"exclusiveMinimum": 0, "maximum": 400})] = 60.0
    chart: Annotated[str, Meta(min_length=1, max_length=limits.MOST_ID)] = "face"
    seed: int = 1
    outlines: Annotated[list[PathFile], Meta(max_length=limits.MOST_OUTLINES)] = msgspec.field(default_factory=list)
    turn_deg: Annotated[float, Meta(extra={"since": 10}, extra_json_schema={"minimum": -360, "maximum": 360})] = 0.0
    gem: Annotated[GemShape, Meta(extra={"since": 10})] = GemShape.ROUND


def _mark(file: OverlayFile) -> Mark:
    made = next(kind for kind in MARKS if kind.word == file.kind)
    outlines = tuple(read_record(CubicPath, one, f"outlines[{number}]") for number, one in enumerate(file.outlines))
    amount = {"grains_cm2" if made is Glitter else "cover": file.amount, "outlines": outlines}
    given = {**msgspec.structs.asdict(file), **amount, "shape": file.gem}
    return made(**{one.name: given[one.name] for one in fields(made)})


def _mark_file(mark: Mark) -> OverlayFile:
    given = {one.name: getattr(mark, one.name) for one in fields(mark)}
    if isinstance(mark, Gem):
        given["gem"] = given.pop("shape")
    else:
        given["amount"] = given.pop("grains_cm2") if isinstance(mark, Glitter) else given.pop("cover")
    if isinstance(mark, Stencil):
        given["outlines"] = [write_record(path) for path in mark.outlines]
    return OverlayFile(kind=mark.word, **given)


FORMS: dict[Any, FileForm] = {
    Skin: FileForm("SkinFile", "Skin: an ITA angle in degrees, or an own sample as sRGB."),
    Paint: FileForm("PaintFile", "A paint: masstone, and contrast ratio over black and white at a film thickness."),
    Portion: FileForm(
        "PortionFile",
        "A paint and how much of it: parts in a pan, mm3 of dirt on a stripe. Since 2.",
        renamed={"parts": "PortionFile", "mm3": "DirtFile"},
    ),
    Stripe: FileForm("StripeFile", "A stripe of a cake."),
    Cake: FileForm("CakeFile", "A split cake, stripes left to right."),
    Applicator: FileForm(
        "BrushFile", "A brush, sponge or dauber; what is not named in `own` is a default that can be calibrated."
    ),
    PickUp: FileForm("PickUpFile", "One visit to a cake, or to a pan (since 2)."),
    Recipe: FileForm(
        "LoadFile", "A load: its pick-ups in order, onto a clean brush or the leftover of an earlier stroke."
    ),
    CubicPath: _PATH,
    Key: FileForm("KeyFile", "A value at a place along the stroke, 0 (start) to 1 (end). Since 3."),
    PartKey: FileForm("PartKeyFile", "The part of the edge on the skin at a place along the stroke. Since 7."),
    Pats: FileForm(
        "PatsFile", "One contact set down again and again: over the way, or over the place that it encloses. Since 7."
    ),
    Nib: FileForm("NibFile", "How the chisel is held."),
    Wiggle: FileForm("WiggleFile", "Sideways waves along the stroke."),
    Stop: FileForm("StopFile", "A wanted colour, by paint or by sRGB."),
    Wanted: FileForm("WantedFile", "The wanted gradient, from A to B."),
    Stroke: FileForm("WayFile", "A stroke's way over the skin, of a motif that was broken apart. Since 4."),
    Place: FileForm("PlaceFile", "Where a motif lies on its chart. Since 4."),
    StripeOn: FileForm("StripeOnFile", "A stripe of a load that stays on a landmark. Since 11."),
    Sign: FileForm("SignFile", "What a sign says. Since 11."),
    Computed: FileForm("ComputedFile", "What a piece is worked out from. Since 10."),
    PlacedMotif: FileForm("MotifFile", "A motif on a chart, or one stroke of its own way. Since 4."),
    Reserved: FileForm("ReservedFile", "A round place that is kept for what comes later. Since 4."),
    Photo: FileForm("PhotoFile", "A photo in the place of a drawn chart. Since 11."),
    Measures: FileForm("MeasuresFile", "The person that charts are drawn for. Since 4."),
    PlanStroke: FileForm("StrokeFile", "A stroke: brush, load, way over the skin, and the wish.", flat=("stroke",)),
    PlanPart: FileForm("PartFile", "A part of a design. Since 9."),
    Hand: FileForm("HandFile", "Standard deviations of the hand's slips. Since 4."),
    Rule: FileForm("RuleFile", "A rule of the painter's own between two parts. Since 5."),
    Ordering: FileForm("OrderingFile", "What the painter says about the order of painting. Since 5."),
    Mark: FileForm("OverlayFile", OverlayFile.__doc__ or "", table=OverlayFile, reads=_mark, writes=_mark_file),
    Plan: FileForm("PlanTable", "A whole plan."),
}
register(FORMS)

PlanFile: Any = msgspec.defstruct(
    "PlanFile",
    [("format", Literal["pennello-plan"]), ("schema", Literal[tuple(range(1, VERSION + 1))]), *columns(Plan, {}, {})],
    bases=(Strict,),
    kw_only=True,
    namespace={"__doc__": "A whole plan."},
)
"""The table of a whole file."""


def to_plan(file: Any) -> Plan:
    """Return the plan in a file's table.

    Raises
    ------
    PennelloError
        If a value is out of range or a name points nowhere; the message names the place.
    """
    plan: Plan = read_record(Plan, file)
    check_plan(plan)
    return plan


def from_plan(plan: Plan) -> Any:
    """Return a plan as a file's table."""
    return PlanFile(format=FORMAT, schema=VERSION, **written(plan, Plan))


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
