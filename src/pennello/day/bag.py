"""What to pack, buy and wash: sponges, brushes, water, wipes, cakes by the gram, glitter, and what else a stand needs.

One sponge for each person and colour family, clean water every so many faces and the like are common practice, no
published source; their sizes are marked defaults.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

from pennello.day.event import Event
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.cut_list import DENSITY_G_PER_CM3
from pennello.kit.paint import Near, Paint
from pennello.kit.shelf import Keeping, Kit
from pennello.phrases import mark, phrase, plural, told

FACES_A_WATER, SWABS, WIPES = 6, 2, 2
"""Faces until the water is changed, swabs and wipes a face (defaults)."""

SPARE = 1.15
"""What runs out is packed for so many times the faces (a default)."""

EXTRAS = (
    mark("mirror"),
    mark("lamp"),
    mark("towel for the table"),
    mark("waste bags"),
    mark("hand cleaner"),
    mark("menu board"),
    mark("pick card"),
    mark("first aid kit"),
)
_GLITTER = "glitter, "


@dataclass(frozen=True, slots=True)
class Thing:
    """Something to pack.

    Attributes
    ----------
    name, amount
        What it is, as it is ticked off in files; and how much of it, in words.
    kind
        cake, brush, sponge, water, glitter, or extra.
    caution
        What is wrong with it: runs out, past its date, not for skin; "" for nothing.
    label
        What its label does not allow, though it may be packed: near the eyes, on the lips.
    lasts
        Of a cake: for how many of the faces that want it; None where it is not known what is left.
    wanted
        Of a cake: how many faces want it.
    """

    name: str
    amount: str
    kind: str
    caution: str = ""
    label: str = ""
    lasts: int | None = None
    wanted: int = 0

    @property
    def words(self) -> str:
        """What it is called."""
        if self.kind == "glitter":
            return phrase("glitter, {colour}", colour=self.name.removeprefix(_GLITTER))
        return told(self.name)


def faces_by_item(event: Event, faces: float) -> dict[str, float]:
    """Return how many faces of each design there are among so many, by how often each is asked for."""
    items = event.on_menu
    total = sum(one.share for one in items)
    if not items:
        return {}
    return {one.id: faces * (one.share / total if total > 0 else 1 / len(items)) for one in items}


def grams_of(event: Event, faces: float) -> dict[str, float]:
    """Return how many grams of each cake or pan so many faces take."""
    found: dict[str, float] = {}
    for name, count in faces_by_item(event, faces).items():
        for used in event.item(name).uses:
            found[used.name] = found.get(used.name, 0.0) + used.grams * count
    return found


@dataclass(frozen=True, slots=True)
class InKit:
    """What the kit knows of cakes and pans, by name: grams left, what is wrong with them, what labels do not allow."""

    left: Mapping[str, float] = field(default_factory=dict)
    wrong: Mapping[str, str] = field(default_factory=dict)
    labels: Mapping[str, str] = field(default_factory=dict)


def in_kit(kit: Kit, today: date) -> InKit:
    """Return what the kit knows of its cakes and pans; what is out of use is left out."""
    left: dict[str, float] = {}
    wrong: dict[str, str] = {}
    labels: dict[str, str] = {}
    paints = kit.paints
    for item in kit:
        thing, about = item.thing, item.keeping
        if about.retired or isinstance(thing, Applicator):
            continue
        if about.stock_g is not None:
            left[thing.name] = about.stock_g
        elif isinstance(thing, Cake):
            deep = [max(thing.depth_mm - one.hollow_mm, 0.0) * one.width_mm for one in thing.stripes]
            left[thing.name] = sum(deep) * thing.length_mm / 1000 * DENSITY_G_PER_CM3
        used = [thing] if isinstance(thing, Paint) else [paints[key] for key in thing.paints if key in paints]
        wrong[thing.name], labels[thing.name] = _fault_words(used, about, today), _label_words(used)
    return InKit(left, wrong, labels)


def _fault_words(paints: Sequence[Paint], about: Keeping, today: date) -> str:
    """Return why a cake or pan is left at home; "" for no reason."""
    faults = [] if all(one.skin for one in paints) else [phrase("not for skin by its label")]
    if about.expires and about.expires < today:
        faults.append(phrase("past its date, {expires}", expires=about.expires.isoformat()))
    return "; ".join(faults)


def _label_words(paints: Sequence[Paint]) -> str:
    """Return what labels do not allow, as they are written down in the kit."""
    eyes, lips = (any(not one.allowed(near) for one in paints if one.skin) for near in (Near.EYE, Near.LIPS))
    places = [
        words for words, forbidden in ((phrase("near the eyes"), eyes), (phrase("on the lips"), lips)) if forbidden
    ]
    return phrase("not {places} by its label", places=" or ".join(places)) if places else ""


def bag(event: Event, faces: float, kit: InKit | None = None) -> tuple[Thing, ...]:
    """Return what to pack for so many faces, held against what the kit knows."""
    return (
        *_cakes(event, faces, kit or InKit()),
        *_brushes(event),
        *_used_up(event, faces),
        *_extras(event, faces),
        *(Thing(name, "1", "extra") for name in dict.fromkeys((*EXTRAS, *event.extras))),
    )


def _extras(event: Event, faces: float) -> list[Thing]:
    """Return stencils, gems and the like of the designs: once, or as many as the faces take."""
    by_item = faces_by_item(event, faces)
    counts: dict[str, float] = {}
    for item in event.on_menu:
        for one in item.extras:
            counts[one.name] = counts.get(one.name, 0.0) + one.each * by_item[item.id] * SPARE
    return [Thing(name, f"{math.ceil(count) or 1}", "extra") for name, count in sorted(counts.items())]


def _cakes(event: Event, faces: float, kit: InKit) -> list[Thing]:
    left, by_item, found = kit.left, faces_by_item(event, faces), []
    for name, grams in sorted(grams_of(event, faces).items()):
        wanted = sum(count for key, count in by_item.items() if any(used.name == name for used in event.item(key).uses))
        caution, lasts = kit.wrong.get(name, ""), None
        if name in left and grams > 0:
            lasts = min(int(left[name] / grams * wanted + 1e-9), math.ceil(wanted))
            if left[name] < grams:
                short = plural(
                    math.ceil(wanted),
                    "lasts for {lasts} of {faces} face: take a second one",
                    "lasts for {lasts} of {faces} faces: take a second one",
                    lasts=lasts,
                    faces=math.ceil(wanted),
                )
                caution = f"{caution}; {short}" if caution else short
        amount = (
            phrase("{grams:.1f} g of {left:.0f} g", grams=grams, left=left[name])
            if name in left
            else phrase("{grams:.1f} g", grams=grams)
        )
        found.append(Thing(name, amount, "cake", caution, kit.labels.get(name, ""), lasts, math.ceil(wanted)))
    return found


def _brushes(event: Event) -> list[Thing]:
    names: dict[str, int] = {}
    for one in event.on_menu:
        for brush in one.brushes:
            names[brush] = max(names.get(brush, 0), 1)
    return [Thing(name, f"{event.painters}", "brush") for name in sorted(names)]


def _used_up(event: Event, faces: float) -> list[Thing]:
    by_item = faces_by_item(event, faces)
    sponges = sum(event.item(name).sponges * count for name, count in by_item.items())
    glitter = sorted({colour for one in event.on_menu for colour in one.glitter})
    packed = math.ceil(faces * SPARE)
    things = [Thing(_GLITTER + colour, phrase("1 pot"), "glitter") for colour in glitter]
    if sponges > 0:
        things.append(
            Thing(mark("sponges, one for each person and colour family"), f"{math.ceil(sponges * SPARE)}", "sponge")
        )
    return [
        *things,
        Thing(
            mark("clean water, changed"),
            plural(math.ceil(max(faces, 1) / FACES_A_WATER), "{count} time", "{count} times"),
            "water",
        ),
        Thing(mark("cotton swabs"), f"{packed * SWABS}", "water"),
        Thing(mark("wipes"), f"{packed * WIPES}", "water"),
    ]


def to_buy(things: Sequence[Thing]) -> tuple[str, ...]:
    """Return what runs out or is past its date, as a shopping list."""
    return tuple(f"{one.words}: {one.caution}" for one in things if one.caution)


def to_wash(event: Event, faces: int) -> tuple[str, ...]:
    """Return what is washed in the evening."""
    sponges = sum(event.item(name).sponges * count for name, count in faces_by_item(event, faces).items())
    brushes = sorted({brush for one in event.on_menu for brush in one.brushes})
    found = [phrase("{brush}: with soap until the water stays clear, dried lying", brush=brush) for brush in brushes]
    if sponges > 0:
        found.append(
            plural(
                math.ceil(sponges),
                "{sponges} sponge: washed hot, dried through; the torn ones thrown away",
                "{sponges} sponges: washed hot, dried through; the torn ones thrown away",
                sponges=math.ceil(sponges),
            )
        )
    return (
        *found,
        phrase("cakes: the tops wiped with a clean damp cloth, dried open"),
        phrase("table, chair and mirror: wiped down"),
    )
