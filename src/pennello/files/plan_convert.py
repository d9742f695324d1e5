"""Between the plan and its file, value by value. A value out of range says where it stands."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from msgspec import UNSET

from pennello.aim.attempt import Side
from pennello.aim.wish import Stop, Wanted
from pennello.design.plan import Plan, PlanStroke, Skin, check_references
from pennello.errors import PennelloError
from pennello.files.plan_schema import (
    BrushFile,
    CakeFile,
    LoadFile,
    NibFile,
    PaintFile,
    PathFile,
    PickUpFile,
    PlanFile,
    SkinFile,
    StopFile,
    StripeFile,
    StrokeFile,
    WantedFile,
    WiggleFile,
)
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Finish, Paint
from pennello.lay.stroke import Nib, NibMode, Stroke, Wiggle
from pennello.load.recipe import Before, PickUp, Recipe, Wetness
from pennello.path.cubic import CubicPath


class PlaceError(PennelloError):
    """A value in a file is out of range."""

    def __init__(self, where: str, problem: str) -> None:
        super().__init__(f"{where}: {problem}")
        self.where = where


@contextmanager
def _at(where: str) -> Iterator[None]:
    try:
        yield
    except PlaceError:
        raise
    except PennelloError as error:
        raise PlaceError(where, str(error)) from error


def to_plan(file: PlanFile) -> Plan:
    """Return the plan in a file's structure.

    Raises
    ------
    PennelloError
        If a value is out of range or a name points nowhere; the message names the place.
    """
    with _at("skin"):
        skin = Skin(file.skin.ita_deg, file.skin.srgb or None)
    plan = Plan(
        title=file.title,
        place=file.place,
        skin=skin,
        paints=tuple(_paint(one, f"paints[{i}]") for i, one in enumerate(file.paints)),
        cakes=tuple(_cake(one, f"cakes[{i}]") for i, one in enumerate(file.cakes)),
        brushes=tuple(_brush(one, f"brushes[{i}]") for i, one in enumerate(file.brushes)),
        strokes=tuple(_stroke(one, f"strokes[{i}]") for i, one in enumerate(file.strokes)),
    )
    check_references(plan)
    return plan


def _paint(file: PaintFile, where: str) -> Paint:
    with _at(where):
        return Paint(
            id=file.id,
            name=file.name or file.id,
            srgb=file.srgb,
            contrast=None if file.contrast is UNSET else file.contrast,
            contrast_film_um=file.contrast_film_um,
            tint=file.tint,
            finish=Finish(file.finish),
            eye_area=file.eye_area,
            lips=file.lips,
        )


def _cake(file: CakeFile, where: str) -> Cake:
    stripes = []
    for index, stripe in enumerate(file.stripes):
        with _at(f"{where}.stripes[{index}]"):
            stripes.append(Stripe(stripe.paint, stripe.width_mm))
    with _at(where):
        return Cake(file.id, file.name or file.id, tuple(stripes), file.softness_mm, file.length_mm)


def _brush(file: BrushFile, where: str) -> Applicator:
    with _at(where):
        return Applicator(
            id=file.id,
            name=file.name or file.id,
            width_mm=file.width_mm,
            kind=ApplicatorKind(file.kind),
            thickness_mm=file.thickness_mm,
            bristle_mm=file.bristle_mm,
            capacity_mm3_per_mm=file.capacity_mm3_per_mm,
            release_mm=file.release_mm,
            fill_passes=file.fill_passes,
            splay=file.splay,
        )


def _stroke(file: StrokeFile, where: str) -> PlanStroke:
    with _at(f"{where}.load"):
        recipe = Recipe(tuple(_pickup(one) for one in file.load.pickups))
    with _at(f"{where}.path"):
        path = CubicPath(tuple(file.path.points_mm))
    with _at(f"{where}.nib"):
        nib = Nib(NibMode(file.nib.mode), file.nib.angle_deg, file.nib.angle_end_deg, file.nib.pivot_u)
    with _at(f"{where}.wanted"):
        wanted = _wanted(file.wanted)
    with _at(where):
        wiggle = Wiggle(file.wiggle.count, file.wiggle.width_mm)
        stroke = Stroke(path, nib, file.pressure, wiggle, tuple(file.reload_mm))
        return PlanStroke(file.id, file.name or file.id, file.brush, recipe, stroke, wanted, Side(file.rim))


def _pickup(file: PickUpFile) -> PickUp:
    return PickUp(
        cake=file.cake,
        offset_mm=file.offset_mm,
        flip=file.flip,
        skew_deg=file.skew_deg,
        passes=file.passes,
        drift_mm=file.drift_mm,
        wetness=Wetness(file.wetness),
        before=Before(file.before),
    )


def _wanted(file: WantedFile) -> Wanted:
    stops = tuple(
        Stop(
            paint=None if stop.paint is UNSET else stop.paint,
            srgb=None if stop.srgb is UNSET else stop.srgb,
            to_u=stop.to_u,
            blend_mm=stop.blend_mm,
        )
        for stop in file.stops
    )
    return Wanted(stops, file.coat_um, file.tolerance_de00)


def from_plan(plan: Plan) -> PlanFile:
    """Return a plan in its file's structure."""
    return PlanFile(
        format="pennello-plan",
        schema=1,
        title=plan.title,
        place=plan.place,
        skin=SkinFile(ita_deg=plan.skin.ita_deg, srgb=plan.skin.srgb or UNSET),
        paints=[_paint_file(paint) for paint in plan.paints],
        cakes=[_cake_file(cake) for cake in plan.cakes],
        brushes=[_brush_file(brush) for brush in plan.brushes],
        strokes=[_stroke_file(stroke) for stroke in plan.strokes],
    )


def _paint_file(paint: Paint) -> PaintFile:
    return PaintFile(
        id=paint.id,
        name=paint.name,
        srgb=paint.srgb,
        contrast=UNSET if paint.contrast is None else paint.contrast,
        contrast_film_um=paint.contrast_film_um,
        tint=paint.tint,
        finish=paint.finish.value,
        eye_area=paint.eye_area,
        lips=paint.lips,
    )


def _cake_file(cake: Cake) -> CakeFile:
    stripes = [StripeFile(paint=stripe.paint, width_mm=stripe.width_mm) for stripe in cake.stripes]
    return CakeFile(id=cake.id, name=cake.name, stripes=stripes, softness_mm=cake.softness_mm, length_mm=cake.length_mm)


def _brush_file(brush: Applicator) -> BrushFile:
    return BrushFile(
        id=brush.id,
        name=brush.name,
        kind=brush.kind.value,
        width_mm=brush.width_mm,
        thickness_mm=brush.thickness_mm,
        bristle_mm=brush.bristle_mm,
        capacity_mm3_per_mm=brush.capacity_mm3_per_mm,
        release_mm=brush.release_mm,
        fill_passes=brush.fill_passes,
        splay=brush.splay,
    )


def _stroke_file(stroke: PlanStroke) -> StrokeFile:
    way = stroke.stroke
    return StrokeFile(
        id=stroke.id,
        name=stroke.name,
        brush=stroke.brush,
        rim=stroke.rim.value,
        load=LoadFile(pickups=[_pickup_file(pickup) for pickup in stroke.recipe.pickups]),
        path=PathFile(points_mm=list(way.path.points_mm)),
        nib=NibFile(
            mode=way.nib.mode.value,
            angle_deg=way.nib.angle_deg,
            angle_end_deg=way.nib.angle_end_deg,
            pivot_u=way.nib.pivot_u,
        ),
        pressure=way.pressure,
        wiggle=WiggleFile(count=way.wiggle.count, width_mm=way.wiggle.width_mm),
        reload_mm=list(way.reload_mm),
        wanted=WantedFile(
            stops=[_stop_file(stop) for stop in stroke.wanted.stops],
            coat_um=stroke.wanted.coat_um,
            tolerance_de00=stroke.wanted.tolerance_de00,
        ),
    )


def _pickup_file(pickup: PickUp) -> PickUpFile:
    return PickUpFile(
        cake=pickup.cake,
        offset_mm=pickup.offset_mm,
        flip=pickup.flip,
        skew_deg=pickup.skew_deg,
        passes=pickup.passes,
        drift_mm=pickup.drift_mm,
        wetness=pickup.wetness.value,
        before=pickup.before.value,
    )


def _stop_file(stop: Stop) -> StopFile:
    return StopFile(paint=stop.paint or UNSET, srgb=stop.srgb or UNSET, to_u=stop.to_u, blend_mm=stop.blend_mm)
