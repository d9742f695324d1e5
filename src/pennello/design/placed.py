"""Motifs placed on a chart: what they are made of, where they lie, and the strokes that they come to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Annotated

from pennello.aim.attempt import Side
from pennello.design.bound import LEVEL_DEG, Sign, StripeOn
from pennello.design.computing import Computed
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.kept import kept_small
from pennello.lay.stroke import Stroke
from pennello.limits import MOST_OUTLINES
from pennello.motif.catalogue import motif
from pennello.motif.motif import Made, Piece
from pennello.motif.place import Place
from pennello.phrases import phrase
from pennello.record import Told, check

SINGLE = "stroke"
"""The one part of a single stroke."""

FREE = ""
"""The motif of a single stroke that was broken off one: it has a way of its own."""


@dataclass(frozen=True, slots=True)
class PlacedMotif:
    """A motif on a chart, or with `motif` left empty strokes with ways of their own, of one load."""

    id: Annotated[str, Told("key within a plan", text="id")]
    name: Annotated[str, Told("the name shown", text="name", in_file="", default="the id")]
    motif: Annotated[
        str,
        Told(
            "key of its constructor (`pennello motif` lists them); empty for one stroke",
            text="maybe id",
            in_file="",
        ),
    ]
    loads: Annotated[
        tuple[tuple[str, str], ...],
        Told(
            "for each part the id of the stroke whose brush, load and wish it is laid with; the one part of a single "
            "stroke is `stroke`",
            text="id",
            in_file=(),
        ),
    ]
    values: Annotated[tuple[tuple[str, float], ...], Told("numbers that are not at their defaults", key="set")] = ()
    place: Annotated[Place, Told("where it lies, below")] = field(default_factory=Place)
    chart: Annotated[str, Told("key of the chart that it lies on", text="id")] = "face"
    twin: Annotated[bool, Told("its mirror image across the midline is painted with it")] = False
    part: Annotated[str, Told("id of the part of the design that it belongs to", text="maybe id", since=9)] = ""
    way: Annotated[
        Stroke | None, Told("the way of a single stroke: the keys of a stroke's way", default="left out")
    ] = None
    more: Annotated[
        tuple[Stroke, ...],
        Told(
            "further strokes of it, with the same load, as line work and dots have them",
            since=10,
            count=(0, MOST_OUTLINES),
            called="further strokes of {name}",
        ),
    ] = ()
    computed: Annotated[
        Computed | None, Told("what it is worked out from, in the place of a way", default="left out", since=10)
    ] = None
    one_sided: Annotated[bool, Told("it differs left and right on purpose: no mirror image is missed", since=8)] = False
    short: Annotated[
        tuple[tuple[str, float], ...],
        Told("numbers that are otherwise in the short form, for when the queue is long", key="short_set", since=10),
    ] = ()
    stripe: Annotated[
        StripeOn | None, Told("the stripe of its load that stays on a landmark", default="left out", since=11)
    ] = None
    level_deg: Annotated[
        float | None,
        Told(
            "the angle that its first stroke keeps from start to end, against the level, up to the right above 0",
            "degrees",
            within=LEVEL_DEG,
            called="angle of {name} to the level",
            default="left out: as it is turned",
            since=11,
        ),
    ] = None
    sign: Annotated[Sign | None, Told("what it says, if it is a sign", default="left out", since=11)] = None

    def __post_init__(self) -> None:
        check(self)
        if self.computed is not None and not (self.stripe is None and self.level_deg is None):
            raise OutOfRangeError(
                phrase("what {name} keeps", name=self.name),
                phrase("a landmark or an angle"),
                phrase("nothing: it is worked out"),
            )
        if (self.motif == FREE) != (self.way is not None or self.computed is not None):
            raise OutOfRangeError(
                phrase("the way of {name}", name=self.name),
                self.motif,
                phrase("a motif, or one stroke with its own way"),
            )
        if self.computed is not None and self.way is not None:
            raise OutOfRangeError(
                phrase("the way of {name}", name=self.name),
                "two",
                phrase("either one of its own or one that is worked out"),
            )
        if self.more and self.way is None:
            raise OutOfRangeError(
                phrase("further strokes of {name}", name=self.name), self.motif, phrase("none for a motif")
            )
        if self.motif != FREE:
            made = motif(self.motif)
            made.values({**dict(self.values), **dict(self.short)})
            made.values(dict(self.values))
            known = [part.key for part in made.parts]
            for part, _ in self.loads:
                if part not in known:
                    raise UnknownNameError(phrase("part"), part, known, self.name)

    @property
    def ways(self) -> tuple[Stroke, ...]:
        """The strokes of what is no motif, in the order of painting."""
        return () if self.way is None else (self.way, *self.more)

    @property
    def load_of(self) -> Mapping[str, str]:
        """Stroke by part."""
        return dict(self.loads)

    def moved(self, by: Place) -> PlacedMotif:
        """Return it placed once more by a place: what it is worked out within goes along."""
        made = None if self.computed is None else self.computed.moved(by)
        return replace(self, place=self.place.then(by), computed=made)

    def renamed(self, ids: Mapping[str, str]) -> PlacedMotif:
        """Return it as a copy, by new ids of the old ones, going round copies where it is worked out from others."""
        made = None if self.computed is None else self.computed.renamed(ids)
        return replace(self, id=ids[self.id], computed=made)

    def mirrored(self, midline_mm: float) -> PlacedMotif:
        """Return it as its mirror image across a vertical line, mm."""
        return self.moved(_across(midline_mm))

    def with_loads(self, loads: Mapping[str, str]) -> PlacedMotif:
        """Return the motif with other loads of some of its parts."""
        return replace(self, loads=tuple({**dict(self.loads), **loads}.items()))

    def with_value(self, key: str, value: float) -> PlacedMotif:
        """Return the motif with another number."""
        return replace(self, values=tuple({**dict(self.values), key: value}.items()))

    def with_short(self, key: str, value: float) -> PlacedMotif:
        """Return the motif with another number in its short form; one that is as usual is not kept."""
        usual = motif(self.motif).values(dict(self.values)).get(key)
        kept = {one: other for one, other in self.short if one != key}
        return replace(self, short=tuple(kept.items()) if value == usual else (*kept.items(), (key, value)))

    @property
    def in_short(self) -> PlacedMotif:
        """The motif as it is in the short form."""
        return (
            self if not self.short else replace(self, values=tuple({**dict(self.values), **dict(self.short)}.items()))
        )


def made_of(placed: PlacedMotif, prints: tuple[tuple[str, float], ...]) -> Made:
    """Return what a placed motif comes to in its own mm; prints are widths of the brushes by part."""
    if placed.motif == FREE:
        return Made(tuple(Piece(SINGLE, way) for way in placed.ways))
    return _made(placed.motif, placed.values, prints)


@kept_small
def _made(key: str, values: tuple[tuple[str, float], ...], prints: tuple[tuple[str, float], ...]) -> Made:
    """Return what a motif comes to, wherever it lies: a drag makes nothing anew."""
    return motif(key).made(dict(values), dict(prints))


@dataclass(frozen=True, slots=True)
class LaidPiece:
    """A stroke of a placed motif where it lies, with the load that it is laid with and whether it is of the twin."""

    motif: str
    part: str
    row: int
    load: str
    stroke: Stroke
    twin: bool
    rim: Side = Side.A


def pieces_of(
    placed: PlacedMotif, prints: tuple[tuple[str, float], ...], midline_mm: float | None
) -> tuple[LaidPiece, ...]:
    """Return the strokes of a placed motif on its chart, and of its mirror image if it has one."""
    made, loads = made_of(placed, prints), placed.load_of
    places = [(placed.place, False)]
    if placed.twin and midline_mm is not None:
        places.append((twin_place(placed.place, midline_mm), True))
    return tuple(
        LaidPiece(placed.id, piece.part, piece.row, loads[piece.part], _at(place, piece.stroke), twin)
        for row in sorted({piece.row for piece in made.pieces})
        for place, twin in places
        for piece in made.pieces
        if piece.row == row and piece.part in loads
    )


@kept_small
def _at(place: Place, stroke: Stroke) -> Stroke:
    return place.stroke(stroke)


def twin_place(place: Place, midline_mm: float) -> Place:
    """Return the place of a mirror image across a vertical line."""
    return place.then(_across(midline_mm))


def _across(midline_mm: float) -> Place:
    return Place(2 * midline_mm, 0.0, 0.0, 1.0, mirrored=True)
