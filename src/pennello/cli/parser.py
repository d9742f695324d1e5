"""What may be said on the command line."""

from __future__ import annotations

import argparse
import re
from pathlib import Path
from typing import Any, NoReturn

from pennello import __version__
from pennello.cli.numbers import length_mm, number, whole
from pennello.cli.order_parser import add_order_verbs
from pennello.errors import clipped


class _Parser(argparse.ArgumentParser):
    """Says one line and where help is, and exits with 2; -12,5 and -3/4 are numbers and no options."""

    def __init__(self, *given: Any, **named: Any) -> None:
        super().__init__(*given, **named)
        self._negative_number_matcher = re.compile(r"-[0-9.,]")

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"{self.prog}: {clipped(message, 500)}; see '{self.prog} --help'.\n")


def make_parser() -> argparse.ArgumentParser:
    """Return the parser of all verbs."""
    parser = _Parser(
        prog="pennello", description="Predicts what a loaded brush lays. Without a verb it opens the window."
    )
    parser.add_argument("--version", action="version", version=f"pennello {__version__}")
    verbs = parser.add_subparsers(dest="verb", metavar="VERB")

    window = verbs.add_parser("window", help="open the window")
    window.add_argument("plan", nargs="?", help="a .pennello file")
    window.add_argument("--demo", action="store_true", help="with the Saltmarsh Lantern Walk")

    mix = verbs.add_parser("mix", help="mix paints and see the colour")
    mix.add_argument("--paint", action="append", required=True, metavar="HEX[@CONTRAST][:PARTS]")
    mix.add_argument("--film-um", type=number, metavar="T", help="film thickness; without it thick enough to hide")
    mix.add_argument("--over", default="#ffffff", metavar="HEX", help="what the film lies on (default white)")
    _json(mix)

    load = _plan_verb(verbs, "load", "what one load puts on the brush", stroke=True)
    load.add_argument("--as", dest="kind", metavar="WAY", help=f"load it another way: {', '.join(LOAD_KEYS)}")
    load.add_argument("--out", type=Path, metavar="FILE", help="with --as: write the changed plan here")
    _json(load)

    lay = _plan_verb(verbs, "lay", "what one stroke lays, and the verdict", stroke=True)
    lay.add_argument("--png", type=Path, metavar="FILE", help="write the stroke as a picture")
    lay.add_argument("--px-per-mm", type=number, default=4.0, metavar="N", help="resolution, default 4")
    _json(lay)

    check = _plan_verb(verbs, "check", "the verdict on every stroke of a plan", stroke=False)
    _json(check)

    mend = _plan_verb(verbs, "mend", "apply the best mend of a stroke, or of one cause", stroke=True)
    mend.add_argument("--cause", metavar="CODE", help="the cause to mend, as `lay` names it (default: the first)")
    mend.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(mend)

    card = _plan_verb(verbs, "card", "the load card as a PDF at true scale", stroke=True)
    card.add_argument("--pdf", type=Path, required=True, metavar="FILE")

    _skin_verbs(verbs)
    _solve_verbs(verbs)
    _chart_verbs(verbs)
    add_order_verbs(verbs, _plan_verb, _json)
    _cake_verbs(verbs)
    _kit_verb(verbs)

    new = verbs.add_parser("new", help="write a new plan")
    new.add_argument("plan", type=Path, help="the file to write; it must not exist")
    new.add_argument("--demo", action="store_true", help="the Saltmarsh Lantern Walk")

    verbs.add_parser("schema", help="print the JSON Schema of plan files")
    return parser


def _json(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--json", action="store_true", help="answer as JSON")


def _plan_verb(verbs: Any, name: str, words: str, *, stroke: bool) -> argparse.ArgumentParser:
    parser: argparse.ArgumentParser = verbs.add_parser(name, help=words)
    parser.add_argument("plan", type=Path, help="a .pennello file")
    if stroke:
        parser.add_argument("stroke", help="the stroke's id")
    return parser


def _skin_verbs(verbs: Any) -> None:
    render = _plan_verb(verbs, "render", "all strokes on one skin, wet over wet, as a picture", stroke=False)
    render.add_argument("--png", type=Path, required=True, metavar="FILE")
    render.add_argument("--px-per-mm", type=number, default=4.0, metavar="N", help="resolution, default 4")
    render.add_argument("--skin", type=number, metavar="ITA", help="another skin, by its angle in degrees")
    render.add_argument("--at", type=number, metavar="SECONDS", help="only what is laid by then")
    render.add_argument("--threads", type=whole, metavar="N", help="threads for the picture")
    render.add_argument("--chart", metavar="NAME", help="a chart with its motifs instead of the strokes")
    render.add_argument("--wish", action="store_true", help="with --chart: what is wished in its place")
    render.add_argument("--mirror", action="store_true", help="with --chart: as seen in a mirror")
    render.add_argument("--reference", action="store_true", help="with the slow NumPy reference")
    _json(render)

    play = _plan_verb(verbs, "play", "strokes as a moving picture: the brush moves over them", stroke=False)
    play.add_argument("stroke", nargs="?", help="one stroke; without it all")
    play.add_argument("--chart", metavar="NAME", help="all that lies on this chart, in the order of painting")
    play.add_argument("--motif", metavar="KEY", help="a motif, laid with the plan's loads")
    play.add_argument("--out", type=Path, required=True, metavar="FILE", help="ends with .png (APNG) or .gif")
    play.add_argument("--speed", type=number, default=1.0, metavar="N", help="times the hand's speed, default 1")
    play.add_argument("--px-per-mm", type=number, default=4.0, metavar="N", help="resolution, default 4")
    _json(play)

    strokes = verbs.add_parser("strokes", help="the families of strokes")
    strokes.add_argument("plan", nargs="?", type=Path, help="with --add: the plan")
    strokes.add_argument("--list", action="store_true", help="list them (also without)")
    strokes.add_argument("--add", metavar="FAMILY", help="put one into the plan")
    strokes.add_argument("--set", action="append", metavar="KEY=NUMBER", help="a parameter of it")
    strokes.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(strokes)

    svg = verbs.add_parser("svg", help="paths of strokes as SVG, 1 unit = 1 mm")
    actions = svg.add_subparsers(dest="action", metavar="ACTION", required=True)
    out = _plan_verb(actions, "export", "write the paths of all strokes", stroke=False)
    out.add_argument("file", type=Path)
    taken = _plan_verb(actions, "import", "let a stroke follow a path", stroke=True)
    taken.add_argument("file", type=Path)
    taken.add_argument("--number", type=whole, default=1, metavar="N", help="which path of the file, default 1")
    taken.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")


def _chart_verbs(verbs: Any) -> None:
    motif = verbs.add_parser("motif", help="motifs: list them, what one comes to, put one on a chart")
    motif.add_argument("name", nargs="?", help="a motif, or a file of an own one; without it they are listed")
    motif.add_argument("--set", action="append", metavar="KEY=NUMBER", help="a number of it")
    motif.add_argument("--brush-mm", type=length_mm, metavar="MM", help="width of its brushes, default 19.05")
    motif.add_argument("--per-load", type=whole, metavar="N", help="strokes from one load, else as its parts usually")
    motif.add_argument(
        "--keep", action="append", metavar="ID", help="keep this motif or stroke of the plan as your own, under NAME"
    )
    motif.add_argument(
        "--plan-colours", action="store_true", help="lay an own one with the plan's loads that are most like its own"
    )
    motif.add_argument("--kit", nargs="?", const="", metavar="FILE", help="find loads in this kit too; bare: your own")
    motif.add_argument("--svg", type=Path, metavar="FILE", help="write its paths, 1 unit = 1 mm")
    motif.add_argument("--plan", type=Path, metavar="PLAN", help="put it on a chart of this plan")
    motif.add_argument("--chart", default="face", metavar="NAME", help="which chart, default face")
    motif.add_argument(
        "--x-mm", type=length_mm, default=0.0, metavar="MM", help="where, from the chart's origin to the right"
    )
    motif.add_argument("--y-mm", type=length_mm, default=0.0, metavar="MM", help="and down")
    motif.add_argument("--turn-deg", type=number, default=0.0, metavar="DEG")
    motif.add_argument("--scale", type=number, default=1.0, metavar="N")
    motif.add_argument("--twin", action="store_true", help="and its mirror image across the midline")
    motif.add_argument("--load", metavar="STROKE", help="lay all of it with this stroke's load")
    motif.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(motif)

    _piece_verb(verbs)
    _layer_verb(verbs)
    read = _plan_verb(verbs, "contrast", "how a plan's loads stand out from light and dark skin", stroke=False)
    read.add_argument(
        "--skin", type=number, action="append", metavar="ITA", help="a skin (default: five, light to dark)"
    )
    _json(read)

    chart = verbs.add_parser("chart", help="body charts: list them, or write one as SVG")
    chart.add_argument("name", nargs="?", help="a chart; without it they are listed")
    chart.add_argument("--svg", type=Path, metavar="FILE", help="write it, 1 unit = 1 mm")
    chart.add_argument("--age", choices=("small-child", "child", "older-child", "adult", "broad-adult"))
    chart.add_argument("--head-mm", type=length_mm, metavar="MM", help="head breadth")
    chart.add_argument("--face-mm", type=length_mm, metavar="MM", help="root of the nose to chin")
    chart.add_argument("--plan", type=Path, metavar="PLAN", help="with --eyes: the plan whose chart it is")
    chart.add_argument("--eyes", choices=("open", "closed"), help="paint it with open eyes or closed ones")
    chart.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(chart)


def _piece_verb(verbs: Any) -> None:
    piece = _plan_verb(verbs, "piece", "what lies on charts: list it, move it, change it, take it away", stroke=False)
    piece.add_argument("id", nargs="?", metavar="ID", help="a motif or stroke on a chart; without it they are listed")
    piece.add_argument("--name", help="what it is called")
    piece.add_argument("--x-mm", type=length_mm, metavar="MM", help="where, from the chart's origin to the right")
    piece.add_argument("--y-mm", type=length_mm, metavar="MM", help="and down")
    piece.add_argument("--turn-deg", type=number, metavar="DEG")
    piece.add_argument("--scale", type=number, metavar="N")
    piece.add_argument("--twin", choices=("yes", "no"), help="its mirror image across the midline, too")
    piece.add_argument("--one-sided", choices=("yes", "no"), help="it differs left and right on purpose")
    piece.add_argument("--per-load", type=whole, metavar="N", help="strokes from one load")
    piece.add_argument("--set", action="append", default=[], metavar="KEY=VALUE", help="a number of the motif")
    piece.add_argument("--load", action="append", default=[], metavar="PART=STROKE", help="the load of a part")
    piece.add_argument("--remove", action="store_true", help="take it off the chart")
    piece.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(piece)


def _layer_verb(verbs: Any) -> None:
    layer = _plan_verb(verbs, "layer", "lines, glitter, stencils, places kept free: list, add, change", stroke=False)
    layer.add_argument("name", nargs="?", help="what to add, change or take away; without it they are listed")
    layer.add_argument("--add", choices=("lines", "glitter", "stencil", "place"), help="add one of that name")
    layer.add_argument("--svg", type=Path, metavar="FILE", help="outlines of a stencil, or lines, to add")
    layer.add_argument("--chart", default="face", metavar="NAME", help="which chart, default face")
    layer.add_argument("--at", metavar="LANDMARK", help="at a landmark of the chart")
    layer.add_argument("--x-mm", type=length_mm, metavar="MM", help="or where, from the chart's origin to the right")
    layer.add_argument("--y-mm", type=length_mm, metavar="MM", help="and down")
    layer.add_argument("--width-mm", type=length_mm, metavar="MM", help="its width")
    layer.add_argument("--points", action="append", metavar="'X,Y X,Y ...'", help="a line, mm; one point is a dot")
    layer.add_argument("--line-mm", type=length_mm, metavar="MM", help="width of lines, 0.2 to 30")
    layer.add_argument("--amount", type=number, metavar="N", help="grains a cm², 1 to 400; or cover, 0.05 to 1")
    layer.add_argument("--colour", metavar="HEX")
    layer.add_argument("--remove", action="store_true", help="take it away")
    layer.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(layer)


def _solve_verbs(verbs: Any) -> None:
    find = _plan_verb(verbs, "find-load", "which load lays what a stroke should look like", stroke=True)
    find.add_argument("--cakes", metavar="IDS", help="only these, with commas between")
    find.add_argument("--top", type=whole, default=8, metavar="N", help="how many, default 8")
    find.add_argument("--one-visit", action="store_true", help="no touches with a corner")
    find.add_argument("--keep-brush", action="store_true", help="with the stroke's own brush only")
    find.add_argument(
        "--near", choices=("skin", "eye", "lips"), help="obey labels for this place (default: the stroke's)"
    )
    find.add_argument("--take", type=whole, metavar="N", help="take the N-th load for the stroke and write the plan")
    _searched(find)

    make = _plan_verb(verbs, "design-cake", "which cake to make for a stroke, or one for several", stroke=False)
    make.add_argument("stroke", metavar="STROKE[,STROKE]", help="ids of strokes, with commas between")
    make.add_argument("--stripes", type=whole, metavar="N", help="just so many, 2 to 7 (default: as many as it takes)")
    make.add_argument("--paints", metavar="IDS", help="only of these, with commas between")
    make.add_argument("--keep", metavar="IDS", help="these must be in it")
    make.add_argument("--pan-mm", type=length_mm, metavar="MM", help="width of the pan (default: what the brush needs)")
    make.add_argument("--weights", metavar="N,N", help="how much each stroke counts")
    make.add_argument("--seconds", type=number, default=6.0, metavar="T", help="when to be done, default 6")
    make.add_argument("--add", action="store_true", help="put the best cake into the plan and load the strokes from it")
    _searched(make)

    forgive = _plan_verb(verbs, "forgive", "how often a load still holds with a hand's slips", stroke=True)
    forgive.add_argument("--tries", type=whole, default=400, metavar="N", help="default 400")
    forgive.add_argument("--seed", type=whole, default=1, metavar="S", help="default 1")
    forgive.add_argument("--hand", choices=("steady", "normal", "bumpy"), help="default: the plan's")
    forgive.add_argument("--laid", action="store_true", help="lay every try as a film: slower")
    _json(forgive)

    loads = _plan_verb(verbs, "loads", "the fewest loads for all strokes of a plan", stroke=False)
    loads.add_argument(
        "--quality", type=number, default=6.0, metavar="DE", help="how far each may be off, default 6 dE"
    )
    loads.add_argument("--seconds", type=number, default=5.0, metavar="T", help="how long to look for fewer, default 5")
    loads.add_argument("--apply", action="store_true", help="take them")
    _searched(loads)

    ways = _plan_verb(verbs, "colourways", "other colours for a design that keep its relations", stroke=False)
    ways.add_argument("--colour", choices=COLOURS, metavar="COLOUR", help=f"what it should be: {', '.join(COLOURS)}")
    ways.add_argument("--strokes", metavar="ID,...", help="only the loads of these strokes; default all")
    ways.add_argument("--take", type=whole, metavar="N", help="take the N-th and write the plan")
    _searched(ways)

    _wish_verb(verbs)
    _hold_verb(verbs)


def _wish_verb(verbs: Any) -> None:
    wish = _plan_verb(verbs, "wish", "say what a stroke should look like", stroke=True)
    wish.add_argument("--stops", metavar="NAME:END:BLEND,...", help="paints or #rrggbb, where each ends (0 to 1), mm")
    wish.add_argument("--usual", action="store_true", help="light rim, dark heel, of the stroke's cakes")
    wish.add_argument("--like", metavar="STROKE", help="as another stroke")
    wish.add_argument("--load", action="store_true", help="what its load lays")
    wish.add_argument("--picture", type=Path, metavar="FILE", help="as in a picture, along --line")
    wish.add_argument("--line", metavar="X,Y,X,Y", help="ends of a line across the petal, px, from A to B")
    wish.add_argument("--rim-mm", type=length_mm, metavar="MM", help="a rim at least so wide")
    wish.add_argument("--at-end", action="store_true", help="for the end of the stroke only; it changes towards it")
    wish.add_argument("--near", choices=("skin", "eye", "lips"), help="what the stroke lies near")
    wish.add_argument("--tolerance", type=number, metavar="DE", help="mean dE up to which it holds")
    wish.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(wish)


COLOURS = (
    *("red", "orange", "yellow", "green", "turquoise", "blue", "purple", "pink", "brown"),
    *("white", "grey", "black"),
)
HOLDS = ("upright", "heel", "rim", "push", "square")


def _hold_verb(verbs: Any) -> None:
    hold = _plan_verb(verbs, "hold", "how the hand holds and leads a stroke", stroke=True)
    along = "one value, or AT:VALUE,AT:VALUE with AT from 0 (start) to 1 (end)"
    hold.add_argument("--way", choices=HOLDS, help="which of the five holds")
    hold.add_argument(
        "--number", action="append", metavar="KEY=NUMBER", help="a number of the hold, as --json lists them: angle=80"
    )
    hold.add_argument("--pressure", metavar="KEYS", help=f"0.05 to 1; {along}")
    hold.add_argument("--lean", metavar="KEYS", help=f"0 (upright) to 70 degrees; {along}")
    hold.add_argument("--tilt", metavar="KEYS", help=f"-1 (on corner A) to 1 (on corner B); {along}")
    hold.add_argument("--part", metavar="KEYS", help="the part of the edge on the skin: FROM-TO, or AT:FROM-TO,...")
    hold.add_argument("--on-part", action="store_true", default=None, help="the path is that of the part that touches")
    hold.add_argument("--whole-edge", dest="on_part", action="store_false", help="the path is that of the whole edge")
    hold.add_argument("--lift", type=length_mm, metavar="MM", help="over how much of its end the brush lifts off")
    hold.add_argument("--exit", choices=("edge", "corner A", "corner B"), help="what leaves the skin last")
    hold.add_argument("--pats", choices=("way", "place", "no"), help="set down again and again, from one load")
    hold.add_argument("--overlap", type=number, metavar="SHARE", help="of pats, 0 to 0.9")
    hold.add_argument("--turn", type=number, metavar="DEG", help="of pats to and fro, 0 to 180")
    hold.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(hold)


def _searched(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--kit", nargs="?", const="", metavar="FILE", help="look through this kit too; bare: your own")
    parser.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(parser)


def _cake_verbs(verbs: Any) -> None:
    ladder = _plan_verb(verbs, "ladder", "one window slid by equal steps of lightness", stroke=False)
    ladder.add_argument("cake", help="the cake's id")
    ladder.add_argument("--steps", type=whole, default=5, metavar="N", help="how many flowers, default 5")
    ladder.add_argument("--brush", metavar="ID", help="the brush (default: one that loads from this cake, or fits)")
    _json(ladder)

    cake = _plan_verb(verbs, "cake", "a cake's cut list, mixes and label", stroke=False)
    cake.add_argument("cake", help="the cake's id")
    cake.add_argument("--pdf", type=Path, metavar="FILE", help="write the label at true scale")
    _json(cake)

    wear = _plan_verb(verbs, "wear", "what loads would do: the cakes hollow and get dirty", stroke=True)
    wear.add_argument("--loads", type=whole, default=1, metavar="N", help="how often the stroke is loaded, default 1")
    wear.add_argument("--clean", action="store_true", help="take the dirty layer off those cakes afterwards")
    wear.add_argument("--apply", action="store_true", help="count them: write it into the plan")
    wear.add_argument("--out", type=Path, metavar="FILE", help="write it here, and leave the plan as it is")
    _json(wear)

    fit = _plan_verb(verbs, "calibrate", "fit a brush to what you saw", stroke=False)
    fit.add_argument("brush", help="the brush's id")
    fit.add_argument("--full-after", type=number, action="append", metavar="SWEEPS", help="sweeps until full")
    fit.add_argument("--petals", action="append", metavar="COUNTxMM", help="petals of one load before one is pale")
    fit.add_argument(
        "--blend-mm", type=length_mm, action="append", metavar="MM", help="width of a blend on a test swatch"
    )
    fit.add_argument(
        "--softness-mm", type=length_mm, default=0.3, metavar="MM", help="softness of that cake, default 0.3"
    )
    fit.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    _json(fit)


def _kit_verb(verbs: Any) -> None:
    kit = verbs.add_parser("kit", help="the kit: paints, cakes, brushes of your own")
    actions = kit.add_subparsers(dest="action", metavar="ACTION", required=True)
    kinds = ("paint", "cake", "brush")

    listed = actions.add_parser("list", help="what is in it")
    listed.add_argument("--kind", choices=kinds)
    listed.add_argument("--search", default="", metavar="WORDS", help="words, eye:yes, or 'white + red' for neighbours")
    listed.add_argument("--neighbours", nargs=2, metavar="COLOUR", help="cakes with these two side by side")
    listed.add_argument("--retired", action="store_true", help="those out of use too")
    _kit_file(listed)
    _json(listed)

    out = actions.add_parser("export", help="write it as CSV, or its paints as GPL palette, by the file's ending")
    out.add_argument("file", type=Path)
    out.add_argument("--kind", choices=kinds)
    _kit_file(out)

    taken = actions.add_parser("import", help="take in a CSV table or a GPL palette")
    taken.add_argument("file", type=Path)
    taken.add_argument("--preview", action="store_true", help="only say what would change")
    taken.add_argument("--skip-bad", action="store_true", help="leave out the lines that cannot be taken")
    _kit_file(taken)
    _json(taken)

    add = actions.add_parser("add", help="add one thing, or change it")
    add.add_argument("kind", choices=kinds)
    add.add_argument("name")
    for column in ADDED:
        add.add_argument(f"--{column.replace('_', '-')}", metavar="VALUE")
    add.add_argument("--reflectance", type=Path, metavar="CSV", help="a paint as measured")
    add.add_argument("--swatch", type=Path, metavar="PICTURE", help="a paint as photographed or scanned")
    add.add_argument("--area", metavar="X,Y,W,H", help="the paint in the picture, px")
    add.add_argument("--white", metavar="X,Y,W,H", help="the white reference in the picture, px")
    add.add_argument("--read", metavar="PATCH", help="a paint as the simulated reader sees a patch of its card")
    _kit_file(add)
    _json(add)


LOAD_KEYS = ("window", "third", "second", "single", "halves", "mixed", "tip", "side", "roll", "faces")
"""Ways to load that `load --as` takes; the keys of `design.load_kinds`."""

ADDED = (
    "id",
    "srgb",
    "contrast",
    "contrast_film_um",
    "tint",
    "finish",
    "eye_area",
    "lips",
    "skin",
    "stripes",
    "softness_mm",
    "length_mm",
    "depth_mm",
    "ombre",
    "applicator",
    "width_mm",
    "thickness_mm",
    "bristle_mm",
    "capacity_mm3_per_mm",
    "release_mm",
    "fill_passes",
    "splay",
    "cut_deg",
    "tip_mm",
    "print_mm",
    "drift_mm",
    "opened",
    "expires",
    "retired",
    "stock_g",
    "notes",
)
"""Columns of the kit's table that `kit add` takes as options."""


def _kit_file(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--kit", type=Path, metavar="FILE", help="the kit's file (default: your own)")
