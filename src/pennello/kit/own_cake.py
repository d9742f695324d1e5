"""A cake of one's own from what one sees: colours in their order, each so wide; its paints come with it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Sequence
from dataclasses import dataclass

from pennello.colour.families import families_of
from pennello.colour.lab import hex_to_lab
from pennello.errors import OutOfRangeError
from pennello.kit.cake import STRIPES, Cake, Stripe
from pennello.kit.paint import Paint
from pennello.kit.shelf import slug
from pennello.limits import fitted
from pennello.phrases import named, phrase


@dataclass(frozen=True, slots=True)
class SeenStripe:
    """A stripe as it is seen: its colour, "#rrggbb", its width, mm, and what its paint is called, "" for no name."""

    srgb: str
    width_mm: float
    name: str = ""


def own_cake(
    name: str, stripes: Sequence[SeenStripe], taken_paints: Collection[str] = (), taken_cakes: Collection[str] = ()
) -> tuple[tuple[Paint, ...], Cake]:
    """Return the paints of a cake and the cake, under ids of their own.

    A paint without a name is called after the cake and its colour; stripes of one colour share a paint.

    Parameters
    ----------
    taken_paints, taken_cakes
        Ids that are in use.

    Raises
    ------
    OutOfRangeError
        If there are fewer than 2 or more than 7 stripes, or one is too narrow or too wide.
    """
    called = fitted(name.strip()) or phrase("My cake")
    if not STRIPES[0] <= len(stripes) <= STRIPES[1]:
        raise OutOfRangeError(
            phrase("stripes of {called}", called=called),
            len(stripes),
            phrase("{stripes} to {stripes_2}", stripes=STRIPES[0], stripes_2=STRIPES[1]),
        )
    paints: dict[str, Paint] = {}
    ids, names = set(taken_paints), Counter[str]()
    for one in stripes:
        colour = one.srgb.lower()
        if colour in paints:
            continue
        word = one.name.strip() or f"{called}, {named(families_of(hex_to_lab(colour)[None])[0])}"
        names[word] += 1
        shown = word if names[word] == 1 else f"{word} {names[word]}"
        new = _free(slug(shown), ids)
        ids.add(new)
        paints[colour] = Paint(new, fitted(shown), colour)
    laid = tuple(Stripe(paints[one.srgb.lower()].id, round(one.width_mm, 2)) for one in stripes)
    return tuple(paints.values()), Cake(_free(slug(called), set(taken_cakes)), called, laid)


def _free(wanted: str, taken: set[str]) -> str:
    new, number = wanted, 1
    while new in taken:
        number += 1
        new = f"{wanted[:55]}-{number}"
    return new
