"""Pictures of all motifs and families as they are laid with the loads of a plan; kept in the cache folder."""

from __future__ import annotations

import hashlib
import io
import shutil
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, replace
from functools import cache, partial
from pathlib import Path

import msgspec
import numpy as np
import platformdirs
from numpy.typing import NDArray
from PIL import Image, PngImagePlugin

import pennello
from pennello.aim.wish import Stop, Wanted
from pennello.design.fresh import fresh_plan, with_family_stroke
from pennello.design.on_chart import painted_plan, with_new_motif
from pennello.design.own import Own, with_own
from pennello.design.plan import Plan, PlanStroke, skin_bytes
from pennello.design.scene import Check, go_on, paint_all
from pennello.disk import make_folder
from pennello.errors import FileProblemError
from pennello.files.plan_schema import from_plan
from pennello.lay.engine import kernel
from pennello.lay.families.catalogue import FAMILIES
from pennello.lay.skin_film import Box
from pennello.lay.stroke import Stroke
from pennello.motif.catalogue import MOTIFS, motif
from pennello.motif.place import HERE
from pennello.path.cubic import line
from pennello.phrases import phrase
from pennello.session.chart_scene import covered_bytes
from pennello.solve.suiting import with_loads_for

Picture = NDArray[np.uint8]
Report = Callable[[float, str], None]

PX_PER_MM = 2.5
SIZE_PX = (232, 184)
MOST_KEPT = 12
_ROW_DRIES_S = 12.0
_SEEN = 4
_NO_WAY, _NO_WISH = Stroke(line((0.0, 0.0), (1.0, 0.0))), Wanted((Stop(srgb="#ffffff"),))


@dataclass(frozen=True, slots=True, eq=False)
class CataloguePicture:
    """A picture of the catalogue.

    Attributes
    ----------
    key, name
        Of the motif or family.
    width_mm, height_mm
        What it covers.
    picture
        sRGB bytes on the plan's skin, shape (rows, columns, 3), at most 232 x 184; four channels where it is clear.
    """

    key: str
    name: str
    width_mm: float
    height_mm: float
    picture: Picture


def motif_plan(plan: Plan, key: str) -> Plan:
    """Return a plan whose strokes are those of one motif, laid with the plan's loads or ones of the kit that suit."""
    kind = motif(key)
    alone = replace(plan, motifs=(), overlays=(), reserved=())
    alone, _ = with_new_motif(with_loads_for(alone if alone.strokes else _with_any(alone), kind), key, "face", HERE)
    return _dried(painted_plan(alone, "face"), in_one_go=kind.in_one_go)


def _with_any(plan: Plan) -> Plan:
    return with_family_stroke(plan if plan.cakes else fresh_plan(), "shell")[0]


def _dried(plan: Plan, *, in_one_go: bool) -> Plan:
    """Return a plan whose strokes wait for each other, unless all is painted in one go."""
    wait = 0.0 if in_one_go else _ROW_DRIES_S
    return replace(plan, strokes=tuple(replace(one, wait_s=wait) for one in plan.strokes))


def own_plan(plan: Plan, own: Own, *, own_colours: bool = True) -> Plan:
    """Return a plan whose strokes are those of a motif of one's own, in its own colours or with the plan's loads."""
    if own_colours:
        alone = Plan(skin=plan.skin, dry_after_s=plan.dry_after_s)
    else:
        alone = replace(plan, motifs=(), overlays=(), reserved=())
    made, _ = with_own(alone, own, "face", HERE, own_colours=own_colours)
    return _dried(painted_plan(made, "face"), in_one_go=False)


def family_plan(plan: Plan, key: str) -> Plan:
    """Return a plan with one stroke of a family, pulled with its usual brush over the cakes of a plan."""
    made, name = with_family_stroke(replace(plan, strokes=(), motifs=(), overlays=(), reserved=()), key)
    return replace(made, strokes=(made.stroke(name),))


def laid(
    plan: Plan,
    key: str,
    name: str,
    px_per_mm: float = PX_PER_MM,
    size: tuple[int, int] = SIZE_PX,
    check: Check = go_on,
    *,
    clear: bool = False,
) -> CataloguePicture:
    """Return a plan's strokes as they are laid, cut to what they cover and no larger than a size, px.

    Parameters
    ----------
    check
        Called after each stroke; what it raises ends the work.
    clear
        Whether bare skin is clear.
    """
    engine = kernel()
    film = paint_all(plan, px_per_mm, engine, check=check)
    all_of_it = engine.picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns))
    differs = np.abs(all_of_it.astype(np.int16) - skin_bytes(plan.skin)).max(axis=2)  # a dry part of a sponge lays none
    rows, columns = np.nonzero(differs > _SEEN)
    whole = (0, film.canvas.rows, 0, film.canvas.columns)
    if len(rows):
        whole = (int(rows.min()), int(rows.max()) + 1, int(columns.min()), int(columns.max()) + 1)
    top, bottom, left, right = whole
    margin = max(round(1.5 * px_per_mm), 1)
    box = Box(
        max(top - margin, 0),
        min(bottom + margin, film.canvas.rows),
        max(left - margin, 0),
        min(right + margin, film.canvas.columns),
    )
    seen = engine.picture(film, box)
    image = Image.fromarray(np.dstack([seen, covered_bytes(film.part(box))]) if clear else np.ascontiguousarray(seen))
    image.thumbnail(size, Image.Resampling.LANCZOS)
    px = film.canvas.px_per_mm
    return CataloguePicture(key, name, round((right - left) / px, 1), round((bottom - top) / px, 1), np.asarray(image))


def png_of(one: CataloguePicture) -> bytes:
    """Return a picture as PNG, with what it covers noted in it."""
    told, out = PngImagePlugin.PngInfo(), io.BytesIO()
    told.add_text("width_mm", f"{one.width_mm:g}")
    told.add_text("height_mm", f"{one.height_mm:g}")
    Image.fromarray(one.picture).save(out, "PNG", pnginfo=told)
    return out.getvalue()


# --- kept ---


def cache_folder() -> Path:
    """Return where pictures are kept."""
    return Path(platformdirs.user_cache_path("pennello")) / "catalogue"


def of_plan(plan: Plan) -> str:
    """Return a name for what pictures depend on: the plan's loads, cakes, paints, skin, and how shapes are made."""
    data: bytes = msgspec.json.encode(from_plan(rests_on(plan)))
    return hashlib.sha256(data + _shapes_made()).hexdigest()[:24]


def rests_on(plan: Plan) -> Plan:
    """Return what of a plan pictures depend on: its loads, not the ways that its strokes take nor what is wished.

    Where a stroke goes on with a leftover, how much is left hangs on the way before, which is kept then.
    """
    strokes = plan.strokes
    if not any(one.recipe.after for one in strokes):
        strokes = tuple(PlanStroke(one.id, "", one.brush, one.recipe, _NO_WAY, _NO_WISH) for one in strokes)
    return Plan(
        skin=plan.skin,
        paints=plan.paints,
        cakes=plan.cakes,
        brushes=plan.brushes,
        strokes=strokes,
        dry_after_s=plan.dry_after_s,
    )


@cache
def _shapes_made() -> bytes:
    """Return what tells one way of making shapes from another: the version, and the modules that they are made by."""
    told = [pennello.__version__]
    for folder in ("motif", "lay", "lay/families"):
        with suppress(OSError):  # nothing to be looked at in a packed program: its version tells
            for module in sorted((Path(__file__).parents[1] / folder).glob("*.py")):
                about = module.stat()
                told.append(f"{module.name} {about.st_size} {about.st_mtime_ns}")
    return "\n".join(told).encode()


class Pictures:
    """Pictures for the loads of a plan: from the cache folder, or laid anew and kept there."""

    def __init__(self, plan: Plan, folder: Path | None = None) -> None:
        self._plan = plan
        self._folder = (folder or cache_folder()) / of_plan(plan)

    def all(
        self,
        what: str = "motifs",
        report: Report = lambda *_: None,
        found: Callable[[CataloguePicture], None] = lambda _: None,
    ) -> dict[str, CataloguePicture]:
        """Return the pictures of all "motifs" or "strokes" by key.

        Parameters
        ----------
        report, found
            Are told how far it is, and each picture as it is there; both may raise to stop.
        """
        names = {key: one.name for key, one in (MOTIFS if what == "motifs" else FAMILIES).items()}
        shown: dict[str, CataloguePicture] = {}
        for number, (key, name) in enumerate(names.items()):
            say = partial(report, number / len(names), phrase("laying {name}", name=name))
            say()
            shown[key] = self.one(what, key, name, say)
            found(shown[key])
        self._tidy()
        return shown

    def one(self, what: str, key: str, name: str, check: Check = go_on) -> CataloguePicture:
        """Return the picture of one of the "motifs" or "strokes", by its key; `check` as for `laid`."""
        kept = self._read(what, key, name)
        if kept is not None:
            return kept
        plan = motif_plan(self._plan, key) if what == "motifs" else family_plan(self._plan, key)
        made = laid(plan, key, name, check=check)
        self._keep(what, made)
        return made

    def _path(self, what: str, key: str) -> Path:
        return self._folder / f"{what}-{key}.png"

    def _read(self, what: str, key: str, name: str) -> CataloguePicture | None:
        try:
            with Image.open(self._path(what, key)) as image:
                wide, tall = (float(image.info[side]) for side in ("width_mm", "height_mm"))
                return CataloguePicture(key, name, wide, tall, np.asarray(image.convert("RGB")))
        except (OSError, KeyError, ValueError, SyntaxError):
            return None  # not there, or damaged: it is laid anew

    def _keep(self, what: str, one: CataloguePicture) -> None:
        """Write a picture; where that cannot be, it is only slower the next time."""
        with suppress(OSError, FileProblemError):
            make_folder(self._folder)
            self._path(what, one.key).write_bytes(png_of(one))

    def _tidy(self) -> None:
        """Take the folders of the plans away that were looked at longest ago."""
        with suppress(OSError):
            self._folder.touch()
            kept = sorted(self._folder.parent.iterdir(), key=lambda one: one.stat().st_mtime, reverse=True)
            for old in kept[MOST_KEPT:]:
                if old.is_dir() and not old.is_symlink():
                    shutil.rmtree(old, ignore_errors=True)
