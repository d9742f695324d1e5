"""What a desktop reads: entry, MIME types, metainfo, icons, man page, completions; pictures of files; a whole install.

Formats: Desktop Entry Specification 1.4, Shared MIME-info, AppStream 1.0, the thumbnailer files of GNOME (from memory);
their validators look at the same files in `make package`.
"""

from __future__ import annotations

import configparser
import gzip
import re
import subprocess
import sys
from pathlib import Path

import numpy as np
from defusedxml import ElementTree
from PIL import Image

import pennello
from pennello.cli.verbs_at import VERBS_AT
from pennello.design.plan import Plan
from pennello.files.day_json import day_bytes, demo_event
from pennello.files.demo import demo_plan, shipped_design
from pennello.files.motif_file import read_own, write_own
from pennello.files.plan_json import plan_bytes, write_plan

ROOT = Path(__file__).parents[2]
PACKAGING = ROOT / "packaging"
MIME = "{http://www.freedesktop.org/standards/shared-mime-info}"
TYPES = {"application/x-pennello-plan+json", "application/x-pennello-day+json", "application/x-pennello-motif+json"}


class Entry(configparser.ConfigParser):
    """Keys of a desktop entry are told apart by their case."""

    def optionxform(self, optionstr):
        return optionstr


def entry(name, section):
    found = Entry(interpolation=None, delimiters=("=",))
    found.read(PACKAGING / name)
    return found[section]


def test_the_desktop_entry_starts_the_program():
    here = entry("pennello.desktop", "Desktop Entry")
    assert here["Exec"] == "pennello window %f"
    assert here["Icon"] == here["StartupWMClass"] == "pennello"
    assert set(here["MimeType"].split(";")) - {""} < TYPES
    demo = entry("pennello.desktop", "Desktop Action demo")
    assert demo["Exec"] == "pennello window --demo"


def test_files_are_known_by_ending_and_by_what_is_in_them():
    """The magic of each type stands where this program writes it, and in no file of another type."""
    tree = ElementTree.parse(PACKAGING / "pennello-mime.xml").getroot()
    made = {"plan": plan_bytes(demo_plan()), "day": day_bytes(demo_event())}
    seen = set()
    for kind in tree.iter(f"{MIME}mime-type"):
        name = re.fullmatch(r"application/x-pennello-(.*)\+json", kind.get("type")).group(1)
        seen.add(kind.get("type"))
        ending = "*.pennello" if name == "plan" else f"*.pennello-{name}"
        assert [one.get("pattern") for one in kind.iter(f"{MIME}glob")] == [ending]
        for match in kind.iter(f"{MIME}match"):
            low, high = map(int, match.get("offset").split(":"))
            length = high - low + len(match.get("value"))
            for other, data in made.items():
                told = match.get("value").encode() in data[low:length]
                assert not told or other == name
        if name in made:
            values = [match.get("value").encode() for match in kind.iter(f"{MIME}match")]
            assert any(value in made[name][:64] for value in values)
    assert seen == TYPES


def test_the_metainfo_is_of_this_version_with_pictures_that_are_there():
    tree = ElementTree.parse(PACKAGING / "pennello.metainfo.xml").getroot()
    assert tree.find("releases/release").get("version") == pennello.__version__
    assert tree.find("launchable").text == "pennello.desktop"
    assert {one.text for one in tree.iter("mediatype")} == TYPES
    for one in tree.iter("image"):
        with Image.open(ROOT / "docs" / "screenshots" / one.text.rpartition("/")[2]) as shot:
            assert shot.size == (int(one.get("width")), int(one.get("height")))
    first = (PACKAGING / "changelog").read_text().splitlines()[0]
    assert f"({pennello.__version__})" in first


def test_icons_man_page_and_completions_are_made(tmp_path):
    subprocess.run([sys.executable, ROOT / "tools" / "desktop_files.py", tmp_path], check=True, timeout=300)
    for size in (16, 48, 512):
        with Image.open(tmp_path / "icons" / "hicolor" / f"{size}x{size}" / "apps" / "pennello.png") as icon:
            assert icon.size == (size, size)
            assert icon.convert("RGBA").getchannel("A").getextrema() == (0, 255)
    page = gzip.decompress((tmp_path / "man" / "man1" / "pennello.1.gz").read_bytes()).decode()
    assert page.startswith(".TH PENNELLO")
    missing = [verb for verb in VERBS_AT if verb.replace("-", r"\-") not in page and verb not in page]
    assert not missing
    bash = tmp_path / "bash-completion" / "completions" / "pennello"
    subprocess.run(["bash", "-n", bash], check=True)
    script = f'source {bash}; COMP_WORDS=(pennello thumb); COMP_CWORD=1; _shtab_pennello; echo "${{COMPREPLY[@]}}"'
    told = subprocess.run(["bash", "-c", script], check=True, capture_output=True, text=True).stdout
    assert told.split() == ["thumbnail"]


def test_a_plan_is_shown_as_it_is_painted(ask, tmp_path):
    path, shown = tmp_path / "poppy.pennello", tmp_path / "a.png"
    write_plan(shipped_design("poppy-brow").plan(), path)
    ask("thumbnail", path, shown, "--size", "128")
    with Image.open(shown) as image:
        assert max(image.size) == 128
        pixels = np.asarray(image.convert("RGB"))
    assert np.count_nonzero((pixels[..., 0] > 150) & (pixels[..., 1] < 70)) > 100, "the poppies are seen"


def test_an_event_is_shown_by_its_menu_and_a_motif_by_its_picture(ask, tmp_path):
    shown = tmp_path / "a.png"
    walk = tmp_path / "walk.pennello-day"
    ask("day", "new", walk, "--demo")
    for one in demo_event().menu[2:]:
        ask("day", "menu", walk, "--remove", one.id)
    ask("thumbnail", walk, shown)
    with Image.open(shown) as image:
        assert image.size[0] == 256
    own = tmp_path / "own.pennello-motif"
    plan = tmp_path / "plan.pennello"
    write_plan(shipped_design("poppy-brow").plan(), plan)
    ask("motif", "own poppy", "--plan", plan, "--keep", "poppy", "--out", own)
    bare = tmp_path / "bare.pennello-motif"
    write_own(read_own(own), bare)
    broken = tmp_path / "broken.pennello-motif"
    write_own(read_own(own), broken, b"no picture at all")
    assert "no picture that can be read" in ask("thumbnail", broken, shown, code=2)
    for path in (own, bare):
        ask("thumbnail", path, shown, "--size", "96")
        with Image.open(shown) as image:
            assert max(image.size) <= 96


def test_what_cannot_be_shown_is_said(ask, tmp_path):
    empty, shown = tmp_path / "empty.pennello", tmp_path / "a.png"
    write_plan(Plan("Empty"), empty)
    assert "nothing in it" in ask("thumbnail", empty, shown, code=2)
    assert not shown.exists()
    assert "16 to 1024" in ask("thumbnail", empty, shown, "--size", "9", code=2)
    assert "gone" in ask("thumbnail", tmp_path / "gone.pennello", shown, code=2)


def test_libraries_of_the_package_are_those_that_setup_installs():
    script = ["sh", str(ROOT / "tools" / "system_packages.sh"), "list"]
    told = subprocess.run(script, check=True, capture_output=True, text=True).stdout.split()
    assert {"libegl1", "libxcb-cursor0", "libwayland-cursor0"} < set(told)
    assert "xvfb" not in told, "a painter has a screen"
