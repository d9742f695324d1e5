"""Between the plan and its file, value by value. A value out of range says where it stands."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict, fields, replace
from typing import Any

import msgspec
from msgspec import UNSET

from pennello.aim.attempt import Side
from pennello.aim.hand import Hand
from pennello.aim.wish import Stop, Wanted
from pennello.chart.measures import Measures
from pennello.design.marks import MARKS, Glitter, Lines, Mark, Reserved, Stencil
from pennello.design.ordering import Ordering, Rule
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan, PlanStroke, Skin
from pennello.design.soundness import check_plan
from pennello.errors import PennelloError
from pennello.files.plan_schema import (
    BrushFile,
    CakeFile,
    DirtFile,
    HandFile,
    KeyFile,
    LoadFile,
    MeasuresFile,
    MotifFile,
    NibFile,
    OrderingFile,
    OverlayFile,
    PaintFile,
    PartKeyFile,
    PathFile,
    PatsFile,
    PickUpFile,
    PlaceFile,
    PlanFile,
    PortionFile,
    ReservedFile,
    RuleFile,
    SkinFile,
    StopFile,
    StripeFile,
    StrokeFile,
    WantedFile,
    WayFile,
    WiggleFile,
)
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Portion, Stripe
from pennello.kit.paint import Finish, Paint
from pennello.lay.stroke import Key, Nib, NibMode, PartKey, Pats, Stroke, Wiggle
from pennello.load.recipe import PickUp, Recipe
from pennello.motif.place import Place
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
    with _at("dry_after_s"):
        plan = replace(plan, dry_after_s=file.dry_after_s)
    with _at("hand"):
        plan = replace(plan, hand=Hand(**msgspec.structs.asdict(file.hand)))
    with _at("measures"):
        plan = replace(plan, measures=Measures(**msgspec.structs.asdict(file.measures)))
    with _at("reserved"):
        kept = tuple(Reserved(**msgspec.structs.asdict(one)) for one in file.reserved)
    overlays = tuple(_mark(one, f"overlays[{i}]") for i, one in enumerate(file.overlays))
    plan = replace(plan, reserved=kept, overlays=overlays)
    plan = replace(plan, motifs=tuple(_motif(one, f"motifs[{i}]") for i, one in enumerate(file.motifs)))
    with _at("ordering"):
        plan = replace(plan, ordering=_ordering(file.ordering))
    check_plan(plan)
    return plan


def _ordering(file: OrderingFile) -> Ordering:
    return Ordering(
        sequence=tuple(file.sequence),
        priorities=tuple(file.priorities.items()),
        worth=tuple(file.worth.items()),
        rules=tuple(Rule(one.earlier, one.later, one.kind) for one in file.rules),
        sides=file.sides,
        whites=file.whites,
        glitter=file.glitter,
        nose_last=file.nose_last,
        target_s=None if file.target_s is UNSET else file.target_s,
    )


def _ordering_file(ordering: Ordering) -> OrderingFile:
    return OrderingFile(
        sequence=list(ordering.sequence),
        priorities=dict(ordering.priorities),
        worth=dict(ordering.worth),
        rules=[RuleFile(earlier=one.earlier, later=one.later, kind=one.kind) for one in ordering.rules],
        sides=ordering.sides,
        whites=ordering.whites,
        glitter=ordering.glitter,
        nose_last=ordering.nose_last,
        target_s=UNSET if ordering.target_s is None else ordering.target_s,
    )


def _paint(file: PaintFile, where: str) -> Paint:
    with _at(where):
        return Paint(
            id=file.id,
            name=file.name or file.id,
            srgb=file.srgb,
            contrast=None if file.contrast is UNSET else file.contrast,
            contrast_film_um=file.contrast_film_um,
            tint=file.tint,
            scatter_exponent=file.scatter_exponent,
            finish=Finish(file.finish),
            eye_area=file.eye_area,
            lips=file.lips,
            skin=file.skin,
            reflectance=None if file.reflectance is UNSET else tuple(file.reflectance),
        )


def _cake(file: CakeFile, where: str) -> Cake:
    stripes = []
    for index, stripe in enumerate(file.stripes):
        with _at(f"{where}.stripes[{index}]"):
            dirt = tuple(Portion(one.paint, one.mm3) for one in stripe.dirt)
            stripes.append(Stripe(stripe.paint, stripe.width_mm, stripe.hollow_mm, dirt))
    with _at(where):
        return Cake(
            file.id,
            file.name or file.id,
            tuple(stripes),
            file.softness_mm,
            file.length_mm,
            file.depth_mm,
            file.ombre,
        )


def _brush(file: BrushFile, where: str) -> Applicator:
    with _at(where):
        return Applicator(
            id=file.id,
            name=file.name or file.id,
            width_mm=file.width_mm,
            kind=file.kind,
            thickness_mm=file.thickness_mm,
            bristle_mm=file.bristle_mm,
            capacity_mm3_per_mm=file.capacity_mm3_per_mm,
            release_mm=file.release_mm,
            fill_passes=file.fill_passes,
            splay=file.splay,
            cut_deg=file.cut_deg,
            tip_mm=file.tip_mm,
            print_mm=file.print_mm,
            drift_mm=file.drift_mm,
            root_share=file.root_share,
            own=tuple(file.own),
        )


def _stroke(file: StrokeFile, where: str) -> PlanStroke:
    pickups = tuple(_pickup(one, f"{where}.load.pickups[{i}]") for i, one in enumerate(file.load.pickups))
    with _at(f"{where}.load"):
        recipe = Recipe(pickups, file.load.after, file.load.lays)
    with _at(f"{where}.wanted"):
        wanted = _wanted(file.wanted)
    way = _way(file, where)
    with _at(where):
        name = file.name or file.id
        return PlanStroke(file.id, name, file.brush, recipe, way, wanted, Side(file.rim), file.wait_s, file.near)


def _way(file: StrokeFile | WayFile, where: str) -> Stroke:
    with _at(f"{where}.path"):
        path = CubicPath(tuple(file.path.points_mm))
    with _at(f"{where}.nib"):
        mode, keys = NibMode(file.nib.mode), _keys(file.nib.keys)
        nib = Nib(mode, file.nib.angle_deg, file.nib.angle_end_deg, file.nib.pivot_u, keys)
    with _at(where):
        return Stroke(
            path,
            nib,
            file.pressure,
            Wiggle(file.wiggle.count, file.wiggle.width_mm, file.wiggle.fades),
            tuple(file.reload_mm),
            _keys(file.pressures),
            tuple(file.flips_mm),
            file.part,
            file.lift_mm,
            file.exit,
            _keys(file.leans),
            _keys(file.tilts),
            tuple(PartKey(key.at, key.from_u, key.to_u) for key in file.parts),
            file.on_part,
            None if file.pats is UNSET else Pats(**msgspec.structs.asdict(file.pats)),
        )


def _mark(file: OverlayFile, where: str) -> Mark:
    with _at(where):
        made = next(kind for kind in MARKS if kind.word == file.kind)
        outlines = tuple(CubicPath(tuple(one.points_mm)) for one in file.outlines)
        amount = {"grains_cm2" if made is Glitter else "cover": file.amount, "outlines": outlines}
        given = {**msgspec.structs.asdict(file), **amount}
        return made(**{one.name: given[one.name] for one in fields(made)})


def _motif(file: MotifFile, where: str) -> PlacedMotif:
    with _at(where):
        return PlacedMotif(
            id=file.id,
            name=file.name or file.id,
            motif=file.motif,
            loads=tuple(file.loads.items()),
            values=tuple(file.set.items()),
            place=Place(**msgspec.structs.asdict(file.place)),
            chart=file.chart,
            twin=file.twin,
            per_load=file.per_load,
            group=file.group,
            way=None if file.way is UNSET else _way(file.way, f"{where}.way"),
        )


def _pickup(file: PickUpFile, where: str) -> PickUp:
    pan = [] if file.pan is UNSET else file.pan
    with _at(where):
        return PickUp(
            cake="" if file.cake is UNSET else file.cake,
            offset_mm=file.offset_mm,
            flip=file.flip,
            skew_deg=file.skew_deg,
            passes=file.passes,
            drift_mm=file.drift_mm,
            wetness=file.wetness,
            before=file.before,
            way=file.way,
            part=file.part,
            pan=tuple(Portion(one.paint, one.parts) for one in pan if one.parts),
            face=file.face,
        )


def _wanted(file: WantedFile) -> Wanted:
    return Wanted(_stops(file.stops), file.coat_um, file.tolerance_de00, _stops(file.end))


def _stops(stops: list[StopFile]) -> tuple[Stop, ...]:
    return tuple(
        Stop(
            paint=None if stop.paint is UNSET else stop.paint,
            srgb=None if stop.srgb is UNSET else stop.srgb,
            to_u=stop.to_u,
            blend_mm=stop.blend_mm,
        )
        for stop in stops
    )


def from_plan(plan: Plan) -> PlanFile:
    """Return a plan in its file's structure."""
    return PlanFile(
        format="pennello-plan",
        schema=7,
        title=plan.title,
        place=plan.place,
        skin=SkinFile(ita_deg=plan.skin.ita_deg, srgb=plan.skin.srgb or UNSET),
        paints=[_paint_file(paint) for paint in plan.paints],
        cakes=[_cake_file(cake) for cake in plan.cakes],
        brushes=[_brush_file(brush) for brush in plan.brushes],
        strokes=[_stroke_file(stroke) for stroke in plan.strokes],
        dry_after_s=plan.dry_after_s,
        hand=HandFile(**asdict(plan.hand)),
        measures=MeasuresFile(**asdict(plan.measures)),
        motifs=[_motif_file(placed) for placed in plan.motifs],
        reserved=[ReservedFile(**asdict(kept)) for kept in plan.reserved],
        overlays=[_mark_file(overlay) for overlay in plan.overlays],
        ordering=_ordering_file(plan.ordering),
    )


def _paint_file(paint: Paint) -> PaintFile:
    return PaintFile(
        id=paint.id,
        name=paint.name,
        srgb=paint.srgb,
        contrast=UNSET if paint.contrast is None else paint.contrast,
        contrast_film_um=paint.contrast_film_um,
        tint=paint.tint,
        scatter_exponent=paint.scatter_exponent,
        finish=paint.finish.value,
        eye_area=paint.eye_area,
        lips=paint.lips,
        skin=paint.skin,
        reflectance=UNSET if paint.reflectance is None else list(paint.reflectance),
    )


def _cake_file(cake: Cake) -> CakeFile:
    return CakeFile(
        id=cake.id,
        name=cake.name,
        stripes=[_stripe_file(stripe) for stripe in cake.stripes],
        softness_mm=cake.softness_mm,
        length_mm=cake.length_mm,
        depth_mm=cake.depth_mm,
        ombre=cake.ombre,
    )


def _stripe_file(stripe: Stripe) -> StripeFile:
    dirt = [DirtFile(paint=portion.paint, mm3=portion.amount) for portion in stripe.dirt]
    return StripeFile(paint=stripe.paint, width_mm=stripe.width_mm, hollow_mm=stripe.hollow_mm, dirt=dirt)


def _brush_file(brush: Applicator) -> BrushFile:
    return BrushFile(
        id=brush.id,
        name=brush.name,
        kind=brush.kind,
        width_mm=brush.width_mm,
        thickness_mm=brush.thickness_mm,
        bristle_mm=brush.bristle_mm,
        capacity_mm3_per_mm=brush.capacity_mm3_per_mm,
        release_mm=brush.release_mm,
        fill_passes=brush.fill_passes,
        splay=brush.splay,
        cut_deg=brush.cut_deg,
        tip_mm=brush.tip_mm,
        print_mm=brush.print_mm,
        drift_mm=brush.drift_mm,
        root_share=brush.root_share,
        own=list(brush.own),
    )


def _way_parts(way: Stroke) -> dict[str, Any]:
    """Return what a file says of a stroke's way, by key."""
    return {
        "path": PathFile(points_mm=list(way.path.points_mm)),
        "nib": NibFile(
            mode=way.nib.mode.value,
            angle_deg=way.nib.angle_deg,
            angle_end_deg=way.nib.angle_end_deg,
            pivot_u=way.nib.pivot_u,
            keys=_key_files(way.nib.keys),
        ),
        "pressure": way.pressure,
        "wiggle": WiggleFile(count=way.wiggle.count, width_mm=way.wiggle.width_mm, fades=way.wiggle.fades),
        "reload_mm": list(way.reload_mm),
        "pressures": _key_files(way.pressures),
        "flips_mm": list(way.flips_mm),
        "part": way.part,
        "lift_mm": way.lift_mm,
        "exit": way.exit,
        "leans": _key_files(way.leans),
        "tilts": _key_files(way.tilts),
        "parts": [PartKeyFile(at=key.at, from_u=key.from_u, to_u=key.to_u) for key in way.parts],
        "on_part": way.on_part,
        "pats": UNSET if way.pats is None else PatsFile(**asdict(way.pats)),
    }


def _mark_file(mark: Mark) -> OverlayFile:
    given = {one.name: getattr(mark, one.name) for one in fields(mark)}
    given["amount"] = given.pop("grains_cm2") if isinstance(mark, Glitter) else given.pop("cover")
    if isinstance(mark, Lines | Stencil):
        given["outlines"] = [PathFile(points_mm=list(path.points_mm)) for path in mark.outlines]
    return OverlayFile(kind=mark.word, **given)


def _motif_file(placed: PlacedMotif) -> MotifFile:
    return MotifFile(
        id=placed.id,
        name=placed.name,
        motif=placed.motif,
        set=dict(placed.values),
        loads=dict(placed.loads),
        chart=placed.chart,
        place=PlaceFile(**asdict(placed.place)),
        twin=placed.twin,
        per_load=placed.per_load,
        group=placed.group,
        way=UNSET if placed.way is None else WayFile(**_way_parts(placed.way)),
    )


def _stroke_file(stroke: PlanStroke) -> StrokeFile:
    return StrokeFile(
        id=stroke.id,
        name=stroke.name,
        brush=stroke.brush,
        rim=stroke.rim.value,
        load=LoadFile(
            pickups=[_pickup_file(pickup) for pickup in stroke.recipe.pickups],
            after=stroke.recipe.after,
            lays=stroke.recipe.lays,
        ),
        **_way_parts(stroke.stroke),
        wait_s=stroke.wait_s,
        near=stroke.near,
        wanted=WantedFile(
            stops=[_stop_file(stop) for stop in stroke.wanted.stops],
            end=[_stop_file(stop) for stop in stroke.wanted.end],
            coat_um=stroke.wanted.coat_um,
            tolerance_de00=stroke.wanted.tolerance_de00,
        ),
    )


def _keys(keys: list[KeyFile]) -> tuple[Key, ...]:
    return tuple(Key(key.at, key.value) for key in keys)


def _key_files(keys: tuple[Key, ...]) -> list[KeyFile]:
    return [KeyFile(at=key.at, value=key.value) for key in keys]


def _pickup_file(pickup: PickUp) -> PickUpFile:
    return PickUpFile(
        cake=pickup.cake or UNSET,
        pan=[PortionFile(paint=one.paint, parts=one.amount) for one in pickup.pan] or UNSET,
        offset_mm=pickup.offset_mm,
        flip=pickup.flip,
        skew_deg=pickup.skew_deg,
        passes=pickup.passes,
        drift_mm=pickup.drift_mm,
        wetness=pickup.wetness,
        before=pickup.before,
        way=pickup.way,
        part=pickup.part,
        face=pickup.face,
    )


def _stop_file(stop: Stop) -> StopFile:
    return StopFile(paint=stop.paint or UNSET, srgb=stop.srgb or UNSET, to_u=stop.to_u, blend_mm=stop.blend_mm)
