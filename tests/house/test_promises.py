"""What a newcomer wants to add, and in how many files: each is really added to a copy of the program, and used there.

The promises: a field of a stroke 4 files, a finding with a mend 3, a motif 2, a station 2 and its package.
"""

import filecmp
import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]


class Copy:
    """A copy of the program, and what was changed in it."""

    def __init__(self, folder):
        self.root = folder
        ignored = shutil.ignore_patterns("screenshots", "*.egg-info")  # what is compiled comes along, with its times
        for name in ("src", "docs", "tools"):
            shutil.copytree(ROOT / name, folder / name, ignore=ignored)

    def change(self, path, *pairs):
        """Replace text in a file of the program, each once."""
        file = self.root / "src" / "pennello" / path
        text = file.read_text("utf-8")
        for old, new in pairs:
            assert text.count(old) == 1, (path, old, text.count(old))
            text = text.replace(old, new)
        file.write_text(text, "utf-8")

    def add(self, path, text):
        """Write a new file of the program."""
        file = self.root / "src" / "pennello" / path
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(text, "utf-8")

    def run(self, *arguments):
        """Run Python on the copy and return what it prints."""
        here = {**os.environ, "PYTHONPATH": str(self.root / "src"), "QT_QPA_PLATFORM": "offscreen"}
        here |= {name: str(self.root / "home") for name in ("XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CONFIG_HOME")}
        done = subprocess.run(
            [sys.executable, *map(str, arguments)], env=here, capture_output=True, text=True, cwd=self.root, check=False
        )
        assert done.returncode == 0, done.stderr[-3000:]
        return done.stdout

    def make_documents(self):
        """Do what `make schema` does."""
        schema = self.run("-m", "pennello", "schema")
        (self.root / "docs" / "pennello.schema.json").write_text(schema, "utf-8")
        self.run("tools/make_format.py")

    @property
    def changed(self):
        """Paths of the files that are others than in the program, or new."""
        found = set()
        for name in ("src", "docs", "tools"):
            for file in (self.root / name).rglob("*"):
                old = ROOT / file.relative_to(self.root)
                ours = file.is_file() and "__pycache__" not in file.parts
                if ours and not (old.exists() and filecmp.cmp(file, old, shallow=False)):
                    found.add(str(file.relative_to(self.root)))
        return found


@pytest.fixture
def copy(tmp_path):
    return Copy(tmp_path)


def test_the_documents_are_as_they_are_made(copy):
    copy.make_documents()
    assert copy.changed == set()


def test_a_field_of_a_stroke_takes_four_files(copy):
    field = 'Told("how long the brush rests at the end", "s", within=(0.0, 60.0), since=14)'
    copy.change(
        "lay/stroke.py",
        ("    pats: Annotated[\n", f"    rest_s: Annotated[float, {field}] = 0.0\n    pats: Annotated[\n"),
    )
    copy.change("files/plan_schema.py", ("VERSION = 13\n", "VERSION = 14\n"))
    copy.make_documents()
    told = copy.run(
        "-c",
        "import json\n"
        "from dataclasses import replace\n"
        "from pennello.errors import PennelloError\n"
        "from pennello.files.demo import demo_plan\n"
        "from pennello.files.plan_json import parse_plan, plan_bytes\n"
        "plan = demo_plan()\n"
        "stroke = plan.strokes[0]\n"
        "rests = replace(plan, strokes=(replace(stroke, stroke=replace(stroke.stroke, rest_s=2.5)),))\n"
        "data = plan_bytes(replace(rests, motifs=()))\n"
        "assert parse_plan(data, 'x').strokes[0].stroke.rest_s == 2.5\n"
        "for text in (data.replace(b'2.5', b'99', 1), data.replace(b'\"schema\": 14', b'\"schema\": 13')):\n"
        "    try:\n"
        "        parse_plan(text, 'x')\n"
        "    except PennelloError as error:\n"
        "        print(error)\n",
    )
    assert "strokes[0].rest_s: rest is 99.0; it must be 0 to 60 s" in told or "must be 0 to 60 s" in told
    assert "'strokes[0].rest_s' came with schema 14" in told
    schema = json.loads((copy.root / "docs" / "pennello.schema.json").read_text("utf-8"))
    assert schema["$defs"]["StrokeFile"]["properties"]["rest_s"] == {
        "type": "number",
        "minimum": 0,
        "maximum": 60,
        "default": 0.0,
    }
    assert "| `rest_s` (since 14) | how long the brush rests at the end | 0 to 60 s, default 0 |" in (
        copy.root / "docs" / "format.md"
    ).read_text("utf-8")
    assert copy.changed == {
        "src/pennello/lay/stroke.py",
        "src/pennello/files/plan_schema.py",
        "docs/pennello.schema.json",
        "docs/format.md",
    }


def test_a_finding_with_a_mend_takes_three_files(copy):
    copy.change(
        "finding.py",
        ("    # a load as it is", '    HEAVY = "heavy", Level.WRONG, "the hand presses hard"\n\n    # a load as it is'),
    )
    copy.change(
        "aim/faults.py",
        (
            "    return tuple(sorted(found, ",
            "    found += _heavy(attempt)\n    return tuple(sorted(found, ",
        ),
        (
            "def with_sound_mends(",
            "def _heavy(attempt: Attempt) -> Iterator[Finding]:\n"
            "    if attempt.stroke.most_pressure > 0.4:\n"
            '        mend = SetWay("press", replace(attempt.stroke, pressure=0.3), attempt.brush, "press 30%")\n'
            '        yield Finding(Code.HEAVY, "You press hard; press lighter.", at_mm=0.0, mends=(RatedMend(mend),))\n'
            "\n\ndef with_sound_mends(",
        ),
    )
    copy.make_documents()
    found = json.loads(copy.run("-m", "pennello", "lay", ROOT / "examples" / "minimal.pennello", "line", "--json"))
    assert "heavy" in [one["code"] for one in found["findings"]]
    mended = copy.run(
        "-c",
        "from pathlib import Path\n"
        "from pennello.aim.comparison import compare\n"
        "from pennello.aim.faults import find_faults\n"
        "from pennello.files.plan_json import read_plan\n"
        f"plan = read_plan(Path({str(ROOT / 'examples' / 'minimal.pennello')!r}))\n"
        "attempt = plan.attempt('line')\n"
        "laid = attempt.lay(2.0)\n"
        "heavy = next(one for one in find_faults(laid, attempt, compare(laid, attempt)) if one.code == 'heavy')\n"
        "print(heavy.level.value, heavy.mends[0].mend.mended(attempt).stroke.pressure)\n",
    )
    assert mended.split() == ["comes", "out", "otherwise", "than", "wished", "0.3"]
    assert "| `heavy` | the hand presses hard |" in (copy.root / "docs" / "findings.md").read_text("utf-8")
    assert copy.changed == {"src/pennello/finding.py", "src/pennello/aim/faults.py", "docs/findings.md"}


@pytest.mark.slow
def test_a_motif_takes_two_files(copy):
    """The second file is docs/motifs.md, which `make catalogue` makes with its sheets; it takes a minute and more."""
    file = copy.root / "src" / "pennello" / "motif" / "signs.py"
    text = file.read_text("utf-8")
    file.write_text(
        text.replace("from random import Random\n", "from dataclasses import replace\nfrom random import Random\n", 1)
        + '\nSIGNS = (*SIGNS, replace(SIGNS[0], key="dummy", name="Dummy sign", words="a sign to try with"))\n',
        "utf-8",
    )
    told = json.loads(copy.run("-m", "pennello", "motif", "dummy", "--json"))
    assert told["strokes"]
    plan = copy.root / "plan.pennello"
    copy.run("-m", "pennello", "new", plan, "--demo")
    copy.run("-m", "pennello", "motif", "dummy", "--plan", plan)
    pieces = json.loads(copy.run("-m", "pennello", "piece", plan, "--json"))["pieces"]
    assert pieces[-1]["motif"] == "dummy"
    assert pieces[-1]["loads"]
    assert "Dummy sign" in copy.run("-m", "pennello", "motif")
    assert copy.changed == {"src/pennello/motif/signs.py"}


STATION = '''"""A station to try with."""

from PySide6.QtWidgets import QLabel

from pennello.ui.station import Station, Workplace


class LedgerStation(QLabel, Station):
    """Says how many strokes there are."""

    def __init__(self, place: Workplace) -> None:
        super().__init__()
        self._place, self.seen = place, []

    @classmethod
    def at(cls, place: Workplace) -> Station:
        """Return it, made for a window."""
        return cls(place)

    def enter(self) -> None:
        """It is shown."""
        self.seen.append("enter")
        self.setText(f"{len(self._place.document.plan.strokes)} strokes")

    def leave(self) -> None:
        """Another one is shown."""
        self.seen.append("leave")

    def show_unit(self, unit) -> None:
        """Show lengths in a unit."""
        self.seen.append(unit.value)

    def close_all(self) -> None:
        """The window closes."""
        self.seen.append("close")

    def count(self) -> None:
        """Say it across the top."""
        self._place.say(f"{len(self._place.document.plan.strokes)} strokes in all.")
'''
PACKAGE = '''"""A station to try with."""

from pennello.ui.station import Action, Keys

ACTIONS = (Action("count", "Count the strokes", "Ctrl+Shift+C", "out"),)
HELP = (Keys("wheel", "turns the page"),)
'''
WINDOW = """
from PySide6.QtWidgets import QApplication
from pennello.files.demo import demo_plan
from pennello.session.document import Document
from pennello.session.settings import Settings
from pennello.ui.app import make_application
from pennello.ui.help import help_words
from pennello.ui.window import ACTIONS, MainWindow
app = make_application([])
window = MainWindow(Document(demo_plan()), Settings())
window.show()
window.rail.buttons["ledger"].click()
ledger = window.station("ledger")
assert window.stations.currentWidget() is ledger
count = f"{len(demo_plan().strokes)} strokes"
assert ledger.text() == count, ledger.text()
window._choose_unit("in")
window.go_to("bench")
window.actions_by_id["count"].trigger()
assert f"{count} in all." in window.banner.words.text(), window.banner.words.text()
words = help_words(ACTIONS)
assert "Ledger" in words and "turns the page" in words and "Ctrl+Shift+C" in words
assert "Count the strokes" in [action.text() for action in window.bar.menu.actions()]
window.close()
print(ledger.seen)
"""


def test_a_station_takes_two_files_and_its_package(copy):
    copy.add("ui/stations/ledger/__init__.py", PACKAGE)
    copy.add("ui/stations/ledger/station.py", STATION)
    row = '    StationRow("ledger", "Ledger", "Alt+5", f"{_AT}.ledger.station:LedgerStation"),\n'
    copy.change("ui/stations/registry.py", (")\nFIRST = ", f"{row})\nFIRST = "))
    icon = (ROOT / "src" / "pennello" / "ui" / "theme" / "icons" / "order.svg").read_text("utf-8")
    copy.add("ui/theme/icons/ledger.svg", icon)
    assert "['enter', 'in', 'leave', 'close']" in copy.run("-c", WINDOW)
    assert copy.changed == {
        "src/pennello/ui/stations/ledger/__init__.py",
        "src/pennello/ui/stations/ledger/station.py",
        "src/pennello/ui/stations/registry.py",
        "src/pennello/ui/theme/icons/ledger.svg",
    }
