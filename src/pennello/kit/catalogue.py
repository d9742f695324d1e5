"""The paints, cakes and brushes that Pennello ships. All are invented; their constants are plausible defaults."""

from __future__ import annotations

import csv
from functools import cache
from importlib.resources import files
from typing import Any

from pennello.errors import UnknownNameError
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Finish, Paint
from pennello.phrases import phrase


def _rows(name: str) -> list[dict[str, str]]:
    text = (files("pennello.kit") / "data" / name).read_text("utf-8")
    return list(csv.DictReader(text.splitlines()))


@cache
def paints() -> dict[str, Paint]:
    """Return the shipped paints by id."""
    return {
        row["id"]: Paint(
            id=row["id"],
            name=row["name"],
            srgb=row["srgb"],
            contrast=float(row["contrast"]) if row["contrast"] else None,
            tint=float(row["tint"]),
            scatter_exponent=float(row["scatter_exponent"]),
            finish=Finish(row["finish"]),
            eye_area=row["eye_area"] == "yes",
            lips=row["lips"] == "yes",
        )
        for row in _rows("paints.csv")
    }


@cache
def cakes() -> dict[str, Cake]:
    """Return the shipped cakes by id."""
    return {row["id"]: _cake(row) for row in _rows("cakes.csv")}


def _cake(row: dict[str, str]) -> Cake:
    stripes = []
    for part in row["stripes"].split(" "):
        paint, width = part.split(":")
        if paint not in paints():
            raise UnknownNameError(phrase("paint"), paint, sorted(paints()), phrase("cake {row}", row=row["id"]))
        stripes.append(Stripe(paint, float(width)))
    return Cake(row["id"], row["name"], tuple(stripes), float(row["softness_mm"]), float(row["length_mm"]))


@cache
def brushes() -> dict[str, Applicator]:
    """Return the shipped brushes, sponges and daubers by id."""
    return {row["id"]: _applicator(row) for row in _rows("brushes.csv")}


def _applicator(row: dict[str, str]) -> Applicator:
    sizes: dict[str, Any] = {name: float(value) for name, value in row.items() if name not in {"id", "name", "kind"}}
    return Applicator(id=row["id"], name=row["name"], kind=ApplicatorKind(row["kind"]), **sizes)
