"""Painted charts of saved plans: the same to the pixel, for one plan only, bounded, and none where they are damaged."""

import os
from dataclasses import replace

import numpy as np
import pytest

from pennello.design.marks import Glitter
from pennello.design.on_chart import with_new_motif
from pennello.files.plan_json import read_plan, write_plan
from pennello.motif.place import Place
from pennello.session import last_pictures
from pennello.session.chart_scene import ChartScene
from pennello.session.last_pictures import LastPictures
from pennello.session.order_pictures import order_found


@pytest.fixture
def plan(demo):
    made, _ = with_new_motif(demo, "petal-ring", "face", Place(), "beetle-scale")
    return replace(made, overlays=(Glitter("dust", 5.0, 0.0, 30.0, 20.0, "#ffe9a0", seed=4),))


@pytest.fixture
def painted(plan):
    return ChartScene().paint(plan, "face", order=order_found(plan, "face"))


def test_a_picture_is_what_was_painted_for_a_plan_that_was_read_again(plan, painted, tmp_path):
    LastPictures(tmp_path / "kept").keep(painted)
    write_plan(plan, tmp_path / "a.pennello")
    again = LastPictures(tmp_path / "kept").find(read_plan(tmp_path / "a.pennello"), painted.chart)
    assert np.array_equal(again.rgba, painted.rgba)
    assert (again.canvas, again.strokes, again.ends_s) == (painted.canvas, painted.strokes, painted.ends_s)
    assert [one.mark for one in again.marks] == [one.mark for one in painted.marks]
    for one, other in zip(again.marks, painted.marks, strict=True):
        assert (one.shows is None) == (other.shows is None)
        assert one.shows is None or np.array_equal(one.shows, other.shows)
    assert painted.marks[0].shows is not None
    (file,) = (tmp_path / "kept").iterdir()
    assert file.stat().st_mode & 0o077 == 0, "nobody else's business"


def test_another_plan_chart_or_program_has_another_picture(plan, painted, tmp_path, monkeypatch):
    kept = LastPictures(tmp_path)
    kept.keep(painted)
    assert kept.find(replace(plan, dry_after_s=plan.dry_after_s + 1), painted.chart) is None
    assert kept.find(plan, "shoulder") is None
    monkeypatch.setattr(last_pictures, "_painted_by", lambda: b"another")
    assert kept.find(plan, painted.chart) is None


DAMAGES = (lambda data: data[:60], lambda data: b"no picture", lambda data: data.replace(b"px_per", b"px:per"))


@pytest.mark.parametrize("damage", DAMAGES)
def test_a_damaged_picture_is_none(plan, painted, tmp_path, damage):
    kept = LastPictures(tmp_path)
    kept.keep(painted)
    (file,) = tmp_path.iterdir()
    file.write_bytes(damage(file.read_bytes()))
    assert kept.find(plan, painted.chart) is None


def test_only_so_many_are_kept_and_those_looked_at_last(plan, painted, tmp_path, monkeypatch):
    monkeypatch.setattr(last_pictures, "MOST_KEPT", 3)
    kept = LastPictures(tmp_path)
    plans = [replace(plan, dry_after_s=60.0 + number) for number in range(5)]
    for number, one in enumerate(plans):
        kept.keep(replace(painted, plan=one))
        for age, file in enumerate(sorted(tmp_path.iterdir(), key=lambda path: path.stat().st_mtime)):
            os.utime(file, (1000 + 10 * number + age, 1000 + 10 * number + age))
        assert kept.find(plans[0], painted.chart) is not None, "it was looked at each time"
    assert len(list(tmp_path.iterdir())) == 3
    assert kept.find(plans[1], painted.chart) is None
    assert kept.find(plans[4], painted.chart) is not None


def test_where_nothing_can_be_written_nothing_is_said(plan, painted, tmp_path):
    (tmp_path / "file").write_text("in the way")
    kept = LastPictures(tmp_path / "file" / "folder")
    kept.keep(painted)
    assert kept.find(plan, painted.chart) is None
