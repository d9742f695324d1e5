"""From each version of the plan file to the next: what an older one leaves out and meant otherwise."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Annotated, Any

import msgspec
from msgspec import Meta

from pennello.limits import MOST_NAME
from pennello.phrases import phrase

Table = dict[str, Any]


def six_to_seven(table: Table) -> None:
    """Write in what changed its default: the usual coat was 15 um, and dry after 57.6 s; a load held 3 mm3 a mm."""
    table.setdefault("dry_after_s", 57.6)
    for brush in _tables(table.get("brushes")):
        brush.setdefault("capacity_mm3_per_mm", 3.0)
    for stroke in _tables(table.get("strokes")):
        if isinstance(wanted := stroke.get("wanted"), dict):
            wanted.setdefault("coat_um", 15.0)


def seven_to_eight(table: Table) -> None:
    """Leave out parts of 0 in a pan: 0.6 wrote them, and they are none."""
    for stroke in _tables(table.get("strokes")):
        load = stroke.get("load")
        for pickup in _tables(load.get("pickups")) if isinstance(load, dict) else []:
            if isinstance(pan := pickup.get("pan"), list):
                pickup["pan"] = [one for one in pan if not (isinstance(one, dict) and one.get("parts") == 0)]


def eight_to_nine(table: Table) -> None:
    """Make parts of groups, and habits of loads of how many strokes a motif took from one.

    A group whose pieces were all named in rules "any" among themselves was painted in one go. One stroke from a load
    was the default of a single stroke, which nobody chose: it is loaded when it runs pale.
    """
    motifs = _tables(table.get("motifs"))
    taken = {str(one.get("id")) for one in motifs}
    known: dict[str, str] = {}
    for one in motifs:
        group = one.pop("group", "")
        if group:
            if group not in known:
                known[group] = _free(_slug(group), taken)
                taken.add(known[group])
            one["part"] = known[group]
    if known:
        table["parts"] = [{"id": name, "name": group} for group, name in known.items()]
    ordering = table.get("ordering")
    if isinstance(ordering, dict):
        _habits_of_rules(table, ordering, motifs)
        _weights_of_pieces(ordering, motifs)
    _habits_of_loads(table, motifs)


def _habits_of_rules(table: Table, ordering: Table, motifs: list[Table]) -> None:
    part = {str(one.get("id")): str(one.get("part", "")) for one in motifs}
    named: dict[str, set[str]] = {}
    kept = []
    inside: list[tuple[str, Table]] = []
    for rule in _tables(ordering.get("rules")):
        one, other = str(rule.get("earlier")), str(rule.get("later"))
        home = part.get(one, "")
        if rule.get("kind") == "any" and home and home == part.get(other) and one != other:
            named.setdefault(home, set()).update((one, other))
            inside.append((home, rule))
        else:
            kept.append(rule)
    whole = {name for name, ones in named.items() if len(ones) == list(part.values()).count(name)}
    for made in _tables(table.get("parts")):
        if made["id"] in whole:
            made["habit"] = "in one go"
    if whole:
        ordering["rules"] = [*kept, *(rule for home, rule in inside if home not in whole)]


def _weights_of_pieces(ordering: Table, motifs: list[Table]) -> None:
    """Give a part the highest priority and worth that its pieces were given."""
    rank = {"skip": 0, "nice": 1, "must": 2}
    pieces = [(str(one.get("id")), one["part"]) for one in motifs if one.get("part")]
    for key, least in (("priorities", lambda value: rank.get(value, 0)), ("worth", float)):
        given = ordering.get(key)
        if not isinstance(given, dict):
            continue
        for piece, part in pieces:
            if piece in given:
                value = given.pop(piece)
                given[part] = max(given.get(part, value), value, key=least)


def _habits_of_loads(table: Table, motifs: list[Table]) -> None:
    counts: dict[str, set[int]] = {}
    for one in motifs:
        count = one.pop("per_load", 1)
        loads = one.get("loads")
        if isinstance(loads, dict) and (one.get("motif") or count > 1):
            for load in loads.values():
                counts.setdefault(str(load), set()).add(count)
    for stroke in _tables(table.get("strokes")):
        said = counts.get(str(stroke.get("id")), {0})
        count = min((one for one in said if one > 1), default=min(said))
        if count == 1:
            stroke["reload"] = "after every stroke"
        elif count > 1:
            stroke["reload"], stroke["reload_after"] = "after so many strokes", count


def _slug(name: str) -> str:
    """Return a name as an id."""
    kept = "".join(letter.lower() if letter.isalnum() and letter.isascii() else "-" for letter in name)
    return "-".join(word for word in kept.split("-") if word)[:50] or "part"


def _free(name: str, taken: set[str]) -> str:
    number, found = 2, name
    while found in taken:
        found, number = f"{name}-{number}", number + 1
    return found


def nine_to_ten(table: Table) -> None:
    """Make pieces of lines and dots, each layer of them one piece, and loads of their colours and widths.

    What an order said about such a layer by its name it says about the piece. A layer that covered only in part is
    drawn with a thinner load.
    """
    overlays = _tables(table.get("overlays"))
    layers = [one for one in overlays if one.get("kind") == "lines" and one.get("outlines")]
    if "overlays" in table:
        table["overlays"] = [one for one in overlays if one.get("kind") != "lines"]
    for one in _tables(table.get("overlays")):
        one.pop("line_mm", None)
    taken = {str(one.get("id")) for key in ("motifs", "parts") for one in _tables(table.get(key))}
    called: dict[str, str] = {}
    for layer in layers:
        name = str(layer.get("name") or "lines")
        made = _free(_slug(name), taken)
        taken.add(made)
        called[name] = made
        called[f"{layer.get('chart', 'face')}/{name}"] = f"{made}/stroke1"
        table.setdefault("motifs", []).append(_line_piece(made, name, layer, _line_load(table, layer)))
    if called and isinstance(ordering := table.get("ordering"), dict):
        _renamed_in_order(ordering, called)


def _line_piece(made: str, name: str, layer: Table, load: str) -> Table:
    ways = [_line_way(outline) for outline in layer["outlines"]]
    place = {"x_mm": layer.get("x_mm", 0.0), "y_mm": layer.get("y_mm", 0.0)}
    piece = {"id": made, "name": name, "motif": "", "loads": {"stroke": load}, "chart": layer.get("chart", "face")}
    return {**piece, "place": place, "way": ways[0], "more": ways[1:]}


def _line_way(outline: Table) -> Table:
    """Return the stroke of a line, or of a dot: the tip turned in place."""
    points = outline["points_mm"]
    spread = max(max(one[axis] for one in points) - min(one[axis] for one in points) for axis in (0, 1))
    if spread >= 0.5:
        return {"path": outline}
    x, y = (sum(one[axis] for one in points) / len(points) for axis in (0, 1))
    nib = {"mode": "pivoting", "angle_deg": 0.0, "angle_end_deg": 180.0, "pivot_u": 0.5}
    return {"path": {"points_mm": [[x, y]] * 4}, "nib": nib}


def _line_load(table: Table, layer: Table) -> str:
    """Return the id of a load that draws a layer's lines: one made before, or a new one."""
    colour, wide = str(layer.get("srgb", "#f5e6a8")).lower(), float(layer.get("line_mm", 1.5))
    paint, brush = _line_paint(table, colour), _line_brush(table, wide)
    cover = min(float(layer.get("amount", 1.0)), 1.0)
    passes = round(-4.0 * math.log(1 - 0.95 * max(cover, 0.05)), 2)  # a load that is so full
    load = {"pickups": [{"pan": [{"paint": paint, "parts": 1.0}], "passes": passes}]}
    strokes = table.setdefault("strokes", [])
    for one in _tables(strokes):
        if one.get("brush") == brush and one.get("load") == load:
            return str(one["id"])
    made = _free(f"line-{paint}"[:50], {str(one.get("id")) for one in _tables(strokes)})
    way = {"path": {"points_mm": [[0.0, -60.0], [13.3, -60.0], [26.7, -60.0], [40.0, -60.0]]}}
    wanted = {"stops": [{"paint": paint}]}
    new = {
        "id": made,
        "name": f"Line, {paint}",
        "brush": brush,
        "load": load,
        **way,
        "wanted": wanted,
    }
    strokes.append({**new, "reload": "when it runs pale"})
    return made


def _line_paint(table: Table, colour: str) -> str:
    paints = table.setdefault("paints", [])
    own = next((one for one in _tables(paints) if str(one.get("srgb", "")).lower() == colour), None)
    if own is None:
        made = _free(f"paint-{colour.lstrip('#')}", {str(one.get("id")) for one in _tables(paints)})
        own = {"id": made, "name": colour, "srgb": colour}
        paints.append(own)
    return str(own["id"])


def _line_brush(table: Table, wide: float) -> str:
    """Return the id of a round or liner that draws so wide under medium pressure, as the lines were."""
    brushes = table.setdefault("brushes", [])
    wide = max(wide, 0.5)
    for one in _tables(brushes):
        if one.get("kind") in ("round", "liner") and one.get("width_mm") == wide:
            return str(one["id"])
    kind = "liner" if wide <= 1.5 else "round"
    made = _free(f"{kind}-{wide:g}mm".replace(".", "-"), {str(one.get("id")) for one in _tables(brushes)})
    sizes = {"thickness_mm": round(1.1 * wide, 2), "tip_mm": round(max(0.15 * wide, 0.1), 2)}
    brushes.append(
        {
            "id": made,
            "name": f"{wide:g} mm {kind}",
            "width_mm": wide,
            "kind": kind,
            **sizes,
        }
    )
    return made


def _renamed_in_order(ordering: Table, called: dict[str, str]) -> None:
    for rule in _tables(ordering.get("rules")):
        for end in ("earlier", "later"):
            rule[end] = called.get(str(rule.get(end)), rule.get(end))
    for key in ("priorities", "worth"):
        if isinstance(given := ordering.get(key), dict):
            ordering[key] = {called.get(name, name): value for name, value in given.items()}
    if isinstance(steps := ordering.get("sequence"), list):
        ordering["sequence"] = [called.get(one, one) if isinstance(one, str) else one for one in steps]


STEPS: dict[int, Callable[[Table], None]] = {
    6: six_to_seven,
    7: seven_to_eight,
    8: eight_to_nine,
    9: nine_to_ten,
}
"""By the version that a step starts from; versions 1 to 6 only added keys."""


class _MotifBefore9(msgspec.Struct):
    group: Annotated[str, Meta(max_length=MOST_NAME)] = ""
    per_load: Annotated[int, Meta(ge=1, le=40)] = 1


class _OutlineBefore10(msgspec.Struct, forbid_unknown_fields=True):
    points_mm: Annotated[list[tuple[float, float]], Meta(min_length=4)]


class _LinesBefore10(msgspec.Struct):
    line_mm: Annotated[float, Meta(ge=0.2, le=30)] = 1.5
    amount: float = 1.0
    srgb: Annotated[str, Meta(pattern="^#[0-9a-fA-F]{6}$")] = "#f5e6a8"
    outlines: list[_OutlineBefore10] = msgspec.field(default_factory=list)


class Former(msgspec.Struct):
    """The keys that files had until version 8, and of layers until version 9."""

    motifs: list[_MotifBefore9] = msgspec.field(default_factory=list)
    overlays: list[_LinesBefore10] = msgspec.field(default_factory=list)


def without_former(table: Table, version: int) -> Table:
    """Return a file's table without the keys and layers that only its version, and older ones, had."""
    if version < 9 and isinstance(motifs := table.get("motifs"), list):
        table = {**table, "motifs": [_without(one, _MotifBefore9.__struct_fields__) for one in motifs]}
    if version < 10 and isinstance(overlays := table.get("overlays"), list):
        kept = [one for one in overlays if not (isinstance(one, dict) and one.get("kind") == "lines")]
        table = {**table, "overlays": [_without(one, ("line_mm",)) for one in kept]}
    return table


def _without(one: Any, gone: tuple[str, ...]) -> Any:
    return {key: value for key, value in one.items() if key not in gone} if isinstance(one, dict) else one


def former_later(table: Table, version: int) -> str:
    """Return what of the former keys of a file came only after its version, in words; "" where nothing did."""
    for number, one in enumerate(_tables(table.get("overlays"))):
        if version < 6 and one.get("kind") == "lines":
            return phrase("'overlays[{number}].kind': 'lines' came with schema 6", number=number)
    return ""


def brought_up(table: Table, version: int) -> Table:
    """Return a file's table as the newest version would have it; changes the table."""
    for number in range(version, max(STEPS) + 1):
        if number in STEPS:
            STEPS[number](table)
    return table


def _tables(value: object) -> list[Table]:
    return [one for one in value if isinstance(one, dict)] if isinstance(value, list) else []
