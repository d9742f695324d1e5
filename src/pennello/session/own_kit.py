"""The kit entered by hand, cakes first: what a guided page or the command line puts into it."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import replace
from pathlib import Path

from pennello.kit import catalogue
from pennello.kit.own_cake import SeenStripe, own_cake
from pennello.kit.shelf import ItemKind, Kit, KitItem

MOST_STRIPES_SEEN = 7


def stripes_in(
    picture: Path, start: tuple[float, float], end: tuple[float, float], width_mm: float
) -> tuple[SeenStripe, ...]:
    """Return the stripes of a cake that a line across its photo crosses, as wide together as the cake is.

    Parameters
    ----------
    start, end
        The ends of the line, px from the left and top.
    width_mm
        From wall to wall.

    Raises
    ------
    FileProblemError
        If the file is no picture.
    OutOfRangeError
        If the line is too short or lies outside.
    """
    from pennello.aim.profile import stops_of  # noqa: PLC0415 - Pillow only for pictures
    from pennello.files.profile import line_colours  # noqa: PLC0415
    from pennello.files.swatch import read_picture  # noqa: PLC0415

    labs = line_colours(read_picture(picture), start, end)
    stops, begin, found = stops_of(labs, width_mm, MOST_STRIPES_SEEN), 0.0, []
    for stop in stops:
        found.append(SeenStripe(str(stop.srgb), (stop.to_u - begin) * width_mm))
        begin = stop.to_u
    return tuple(found)


def cake_items(kit: Kit, name: str, stripes: Sequence[SeenStripe]) -> tuple[KitItem, ...]:
    """Return a cake of one's own with its paints, as things for a kit; raises OutOfRangeError."""
    paints, cake = own_cake(name, stripes, kit.ids(ItemKind.PAINT), kit.ids(ItemKind.CAKE))
    return (*(KitItem(one) for one in paints), KitItem(cake))


def shipped_away(kit: Kit, brushes: Collection[str]) -> tuple[KitItem, ...]:
    """Return things that ship with Pennello out of use: all cakes, and the brushes that are not among these.

    Parameters
    ----------
    brushes
        Ids of those that are at hand; they come back into use.
    """
    found = []
    shipped = {(ItemKind.CAKE, name) for name in catalogue.cakes()} | {
        (ItemKind.BRUSH, name) for name in catalogue.brushes()
    }
    for item in kit:
        out = item.key in shipped and not (item.kind is ItemKind.BRUSH and item.id in brushes)
        if item.key in shipped and item.keeping.retired != out:
            found.append(replace(item, keeping=replace(item.keeping, retired=out)))
    return tuple(found)
