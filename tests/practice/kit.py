"""A brush, a cake and its paints for the tests of practice; all invented."""

from __future__ import annotations

from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Paint
from pennello.load.recipe import PickUp, Recipe
from pennello.practice.simulated import SimulatedPainter

BRUSH = Applicator("flat", "Flat", 19.05)
PAINTS = (
    Paint("white", "White", "#f6f4ef", scatter_exponent=1.0),
    Paint("coral", "Coral", "#ef8372"),
    Paint("plum", "Plum", "#4b1e57"),
)
CAKE = Cake("cake", "Cake", (Stripe("white", 8.0), Stripe("coral", 9.0), Stripe("plum", 9.0)))


def recipe(offset_mm=3.0, passes=12.0):
    return Recipe((PickUp("cake", offset_mm=offset_mm, passes=passes),))


def painter(seed):
    return SimulatedPainter(BRUSH, {"cake": CAKE}, PAINTS, seed)
