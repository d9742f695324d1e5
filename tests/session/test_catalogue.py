"""Pictures of the catalogue: laid with loads that suit, kept in a folder, laid anew where that is damaged or old."""

import numpy as np
import pytest

from pennello.design.plan import Plan
from pennello.lay.stroke import Stroke
from pennello.motif.catalogue import MOTIFS
from pennello.path.cubic import line
from pennello.session import catalogue
from pennello.session.catalogue import MOST_KEPT, Pictures, laid, motif_plan, of_plan

PRESSED = Stroke(line((3.0, 4.0), (50.0, 6.0)), pressure=0.8)


@pytest.fixture
def few(monkeypatch):
    kept = {key: MOTIFS[key] for key in ("whole-heart", "dot-set")}
    monkeypatch.setattr(catalogue, "MOTIFS", kept)
    return kept


def test_a_picture_says_what_it_covers(demo):
    one = laid(motif_plan(demo, "whole-heart"), "whole-heart", "Heart")
    assert one.picture.shape[2] == 3
    assert one.picture.shape[0] <= 184
    assert one.picture.shape[1] <= 232
    assert 20 < one.width_mm < 60
    assert 20 < one.height_mm < 60


def test_an_empty_plan_has_pictures_too():
    assert motif_plan(Plan(), "dot-set").strokes


def test_pictures_are_kept_and_a_damaged_one_is_laid_anew(demo, few, tmp_path):
    first = Pictures(demo, tmp_path).all()
    files = sorted((tmp_path / of_plan(demo)).iterdir())
    assert [path.name for path in files] == ["motifs-dot-set.png", "motifs-whole-heart.png"]
    before = [path.stat().st_mtime_ns for path in files]
    again = Pictures(demo, tmp_path).all()
    assert [path.stat().st_mtime_ns for path in files] == before, "read, not laid"
    for key in few:
        assert (again[key].picture == first[key].picture).all()
        assert again[key].width_mm == first[key].width_mm
    files[0].write_bytes(files[0].read_bytes()[:40])
    mended = Pictures(demo, tmp_path).all()
    assert (mended["dot-set"].picture == first["dot-set"].picture).all()
    assert files[0].stat().st_size > 100


def test_other_loads_or_another_way_of_making_shapes_are_other_pictures(demo, few, tmp_path, monkeypatch):
    from dataclasses import replace

    from pennello.design.plan import Skin

    here = of_plan(demo)
    assert of_plan(replace(demo, title="Another evening")) == here, "a title changes no picture"
    assert of_plan(replace(demo, skin=Skin(-40.0))) != here
    moved = replace(demo, strokes=tuple(replace(one, stroke=PRESSED, wait_s=9.0) for one in demo.strokes))
    assert of_plan(moved) == here, "pictures rest on loads, not on the ways of the strokes on the Bench"
    assert of_plan(replace(demo, strokes=demo.strokes[1:])) != here
    monkeypatch.setattr(catalogue, "_shapes_made", lambda: b"other")
    assert of_plan(demo) != here


def test_a_folder_that_cannot_be_written_only_makes_it_slower(demo, few, tmp_path):
    (tmp_path / of_plan(demo)).write_text("a file where a folder should be")
    assert set(Pictures(demo, tmp_path).all()) == set(few)


def test_folders_of_old_plans_are_taken_away(demo, few, tmp_path):
    for number in range(MOST_KEPT + 3):
        (tmp_path / f"{number:024d}").mkdir()
    Pictures(demo, tmp_path).all()
    assert len(list(tmp_path.iterdir())) <= MOST_KEPT
    assert (tmp_path / of_plan(demo)).exists()


def test_it_can_be_given_up(demo, few, tmp_path):
    def stop(*_):
        raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        Pictures(demo, tmp_path).all("motifs", stop)


def test_families_have_pictures_that_differ(demo, tmp_path):
    shown = Pictures(demo, tmp_path).all("strokes")
    assert len(shown) > 40
    spread = {key: float(np.std(one.picture)) for key, one in shown.items()}
    assert min(spread.values()) > 1, min(spread, key=spread.get)
