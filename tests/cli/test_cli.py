"""The command line as a stranger would use it."""

import json
import math
import os
import subprocess
import sys
from contextlib import suppress
from pathlib import Path

import numpy as np
import pytest
from lantern_face import GIVEN
from PIL import Image

import colour
from pennello import __version__
from pennello.cli.main import run
from pennello.cli.mixing import parse_portion
from pennello.colour.difference import ciede2000
from pennello.colour.lab import hex_to_lab
from pennello.errors import PennelloError
from pennello.files.plan_json import read_plan
from pennello.session.kit import kit_path

ROOT = Path(__file__).parents[2]
MINIMAL = str(ROOT / "examples" / "minimal.pennello")
DEMO = str(GIVEN)


def no_window(path, demo):
    raise AssertionError("the window was opened")


def ask(capsys, *words):
    code = run(list(words), no_window)
    out, err = capsys.readouterr()
    return code, out, err


def ask_json(capsys, *words):
    code, out, err = ask(capsys, *words, "--json")
    assert code in (0, 1), err
    return json.loads(out)


# --- mix ---


def test_mix_of_one_paint_is_its_masstone(capsys):
    answer = ask_json(capsys, "mix", "--paint", "#c8702e@0.8")
    assert answer["srgb"] == "#c8702e"
    assert float(ciede2000(answer["lab"], hex_to_lab("#c8702e"))) < 1e-3
    assert answer["reflectance"]["wavelength_nm"] == list(range(380, 731, 10))
    assert len(answer["reflectance"]["r"]) == 36


def test_mix_by_hand(capsys):
    """Two paints by parts, worked out again from the answers for each alone: K/S and S mix by volume."""
    white, red, both = (
        ask_json(capsys, "mix", *words)
        for words in (
            ("--paint", "#f6f5f0@0.9"),
            ("--paint", "#c8161d@0.84"),
            ("--paint", "#f6f5f0@0.9:2", "--paint", "c8161d@84%:1"),
        )
    )
    s = np.array([white["scattering_per_um"], red["scattering_per_um"]]) * [2 / 3, 1 / 3]
    r = np.array([white["reflectance"]["r"], red["reflectance"]["r"]])
    ratio = (s[:, None] * (1 - r) ** 2 / (2 * r)).sum(axis=0) / s.sum()
    assert both["reflectance"]["r"] == pytest.approx(1 + ratio - np.sqrt(ratio**2 + 2 * ratio), abs=1e-7)


def test_mix_as_a_film(capsys):
    thin, none, thick = (
        ask_json(capsys, "mix", "--paint", "#c8161d@0.84", "--film-um", film, "--over", "#808080")
        for film in ("8", "0", "5000")
    )
    assert float(ciede2000(none["lab"], hex_to_lab("#808080"))) < 1e-3
    assert float(ciede2000(thick["lab"], hex_to_lab("#c8161d"))) < 1e-3
    assert 1 < float(ciede2000(thin["lab"], hex_to_lab("#c8161d"))) < 40
    theirs = colour.XYZ_to_Lab(colour.sRGB_to_XYZ([0x80 / 255] * 3))
    assert none["lab"] == pytest.approx(theirs, abs=0.05)


@pytest.mark.parametrize(
    "text", ["red", "#12345", "#123456@x", "#123456:", "#123456@0.5:1:2", "#123456@2", "#123456:-1"]
)
def test_bad_paints_are_one_line(capsys, text):
    code, out, err = ask(capsys, "mix", "--paint", text)
    assert (code, out) == (2, "")
    assert err.count("\n") == 1


def test_portions():
    portion = parse_portion("AbCdEf@0.5:2.5")
    assert (portion.paint.srgb, portion.paint.contrast, portion.parts) == ("#abcdef", 0.5, 2.5)
    with pytest.raises(PennelloError, match="above 0"):
        from pennello.cli.mixing import mix_answer

        mix_answer([parse_portion("#abcdef:0")], None, "#ffffff")


# --- load, lay, check, mend ---


def test_load_answers_with_the_error_function(capsys):
    answer = ask_json(capsys, "load", MINIMAL, "line")
    assert set(answer) >= {"stroke", "applicator", "u", "paints", "share", "volume_mm3_per_mm", "boundaries"}
    assert answer["applicator"]["kind"] == "flat"
    sd = math.hypot(0.8, 0.4)
    expected = [0.5 * math.erfc((u * 19.05 - 6) / sd / math.sqrt(2)) for u in answer["u"]]
    assert answer["share"][0] == pytest.approx(expected, abs=5e-3)  # a bin's mean, not its middle
    assert answer["boundaries"] == [
        {
            "from": "white",
            "to": "red",
            "at_mm": pytest.approx(6.0, abs=1e-6),
            "width_10_90_mm": pytest.approx(2.563 * sd, rel=1e-3),
        }
    ]
    assert answer["volume_mm3_per_mm"] == pytest.approx([3 * (1 - math.exp(-3))] * 64)


def test_lay_answers_with_stations_and_a_verdict(capsys, tmp_path):
    picture = tmp_path / "line.png"
    answer = ask_json(capsys, "lay", MINIMAL, "line", "--png", str(picture), "--px-per-mm", "6")
    assert answer["length_mm"] == pytest.approx(60)
    volume = answer["volume"]
    assert volume["laid_mm3"] + volume["left_mm3"] == pytest.approx(volume["loaded_mm3"], rel=1e-6)
    station = answer["stations"][3]
    assert station["width_mm"] == pytest.approx(19.05)
    assert len(station["u"]) == len(station["lab"]) == len(station["film_um"]) == 64
    assert answer["verdict"]["state"] == "holds"
    with Image.open(picture) as image:
        assert image.width / 6 == pytest.approx(60 + 2 + 2 * 1.2, abs=0.5)


def test_check_judges_every_stroke(capsys):
    assert ask(capsys, "check", MINIMAL)[0] == 0
    code, out, _ = ask(capsys, "check", DEMO, "--json")
    answer = json.loads(out)
    assert code == 1
    states = {name: verdict["state"] for name, verdict in answer["strokes"].items()}
    assert states["beetle-scale"] == "misses"
    assert states["dahlia-petal"] == "holds"
    first = answer["strokes"]["beetle-scale"]["causes"][0]
    assert first["code"] == "wrong_way"
    assert first["mend"]["flip"] is False
    assert first["mend"]["mean_de00_after"] < first["mend"]["mean_de00_before"]
    assert all(set(problem) == {"code", "where", "text"} for problem in answer["problems"])


def test_mend_applies_the_best_and_writes(capsys, tmp_path):
    target = tmp_path / "mended.pennello"
    answer = ask_json(capsys, "mend", DEMO, "beetle-scale", "--out", str(target))
    assert answer["applied"] == "flip the brush"
    assert answer["verdict"]["state"] == "holds"
    assert read_plan(target).stroke("beetle-scale").recipe.pickups[0].flip is False
    assert ask(capsys, "mend", str(target), "beetle-scale", "--cause", "pale")[0] == 2
    assert "Nothing to mend" in ask(capsys, "mend", MINIMAL, "line")[1]


@pytest.mark.parametrize("words", [("load", MINIMAL, "line"), ("lay", DEMO, "kelp-swoosh"), ("check", DEMO)])
def test_words_for_people(capsys, words):
    _, out, err = ask(capsys, *words)
    assert "predicted" in out
    assert "mm" in out
    assert err == ""


def test_card_new_schema_version(capsys, tmp_path):
    card, plan = tmp_path / "card.pdf", tmp_path / "new.pennello"
    assert ask(capsys, "card", MINIMAL, "line", "--pdf", str(card))[0] == 0
    assert card.read_bytes().startswith(b"%PDF")
    assert ask(capsys, "new", str(plan), "--demo")[0] == 0
    assert ask(capsys, "new", str(plan))[0] == 2
    schema = json.loads(ask(capsys, "schema")[1])
    assert schema["$schema"].endswith("2020-12/schema")
    with pytest.raises(SystemExit) as ended:
        run(["--version"], no_window)
    assert ended.value.code == 0
    assert __version__ in capsys.readouterr().out


@pytest.mark.parametrize(
    "words",
    [
        ("lay", MINIMAL, "nope"),
        ("lay", "/nonexistent.pennello", "x"),
        ("check", str(ROOT)),
        ("lay", MINIMAL, "line", "--px-per-mm", "1e9"),
        ("card", MINIMAL, "line", "--pdf", "/nonexistent/x.pdf"),
    ],
)
def test_what_cannot_be_done_is_one_line_and_exit_2(capsys, words):
    code, out, err = ask(capsys, *words)
    assert (code, out) == (2, "")
    assert err.startswith("pennello: ")
    assert err.count("\n") == 1


@pytest.mark.parametrize(
    "words",
    [
        ["lay"],
        ["lay", MINIMAL, "line", "--px-per-mm", "x"],
        ["mix"],
        ["mix", "--paint", "#ffffff", "--film-um", "nan"],
        ["mix", "--paint", "#ffffff", "--film-um", "1_9"],
        ["motif", "petal ring", "--x-mm", "\u0663"],
        ["ladder", MINIMAL, "x", "--steps", "inf"],
    ],
)
def test_wrong_words_are_one_line_and_exit_2(capsys, words):
    with pytest.raises(SystemExit) as ended:
        run(words, no_window)
    assert ended.value.code == 2
    assert capsys.readouterr().err.count("\n") == 1


def test_the_module_runs_and_starts_without_slow_libraries():
    probe = (
        "import sys, pennello.ui.app; slow = {'scipy', 'numba', 'ortools', 'reportlab', 'PIL', 'matplotlib'};"
        "print(sorted(slow & set(sys.modules)))"
    )
    loaded = subprocess.run([sys.executable, "-c", probe], capture_output=True, text=True, check=True, timeout=300)
    assert loaded.stdout.strip() == "[]"
    ran = subprocess.run(
        [sys.executable, "-m", "pennello", "check", MINIMAL], capture_output=True, text=True, timeout=300, check=False
    )
    assert ran.returncode == 0
    assert "Holds" in ran.stdout


def test_no_page_of_the_window_brings_a_slow_library():
    """They come with the work that needs them, on a worker: SciPy alone costs a second."""
    probe = (
        "import sys; from pennello.ui.stations.registry import fetch; fetch().join();"
        "slow = {'scipy', 'numba', 'ortools', 'reportlab', 'matplotlib', 'pypdfium2'};"
        "print(sorted(slow & set(sys.modules)), 'pennello.ui.colourways_page' in sys.modules)"
    )
    loaded = subprocess.run([sys.executable, "-c", probe], capture_output=True, text=True, check=True, timeout=300)
    assert loaded.stdout.strip() == "[] True"


def test_no_verb_opens_the_window():
    opened = []
    assert run([], lambda path, demo: opened.append((path, demo)) or 0) == 0
    assert run(["window", "x.pennello", "--demo"], lambda path, demo: opened.append((path, demo)) or 0) == 0
    assert opened == [(None, False), ("x.pennello", True)]


def test_a_file_alone_opens_the_window(tmp_path):
    opened = []
    for name in ("walk.pennello", "walk.pennello-day"):
        assert run([name, "--demo"], lambda path, demo: opened.append((path, demo)) or 0) == 0
    there = tmp_path / "plan"
    there.write_text("{}")
    assert run([str(there)], lambda path, demo: opened.append((path, demo)) or 0) == 0
    assert opened == [("walk.pennello", True), ("walk.pennello-day", True), (str(there), False)]


@pytest.mark.parametrize(("word", "meant"), [("chek", "check"), ("ordr", "order"), ("qqqq", "--help")])
def test_a_word_that_is_no_verb_is_told_with_those_that_are_alike(capsys, word, meant):
    assert run([word], lambda *_: pytest.fail("the window was opened")) == 2
    said = capsys.readouterr().err
    assert meant in said
    assert len(said) < 200


@pytest.mark.parametrize(
    "words",
    [
        ("forgive", DEMO, "dahlia-petal", "--seed=-1"),
        ("day", "simulate", "walk.pennello-day", "--seed=-1"),
        ("card-sheet", DEMO, "dahlia-petal", "--simulate=-3"),
        ("practise", DEMO, "dahlia-petal", "--simulate=-3"),
    ],
)
def test_chance_begins_with_a_whole_number_from_0_on(capsys, words):
    with pytest.raises(SystemExit, match="2"):
        run([str(word) for word in words], lambda *_: pytest.fail("the window was opened"))
    assert "'-" in (said := capsys.readouterr().err)
    assert "write a whole number from 0 on" in said


@pytest.mark.parametrize(
    "words",
    [
        ("order", DEMO, "--notebook"),
        ("runs", "--notebook"),
        ("log", "list", "--notebook"),
        ("own", "--notebook"),
        ("cautions", DEMO, "--kit"),
        ("day", "kit", "walk.pennello-day", "--kit"),
        ("day", "report", "walk.pennello-day", "--book", "--kit"),
    ],
)
def test_a_notebook_or_kit_that_is_not_there_is_not_taken_for_an_empty_one(capsys, tmp_path, words):
    """Nothing was past its date, and all times were the defaults, where a name was mistyped."""
    with suppress(SystemExit):
        assert run([*map(str, words), str(tmp_path / "typo.sqlite")], lambda *_: pytest.fail("a window")) == 2
    assert "name" in (said := capsys.readouterr().err)
    assert "typo.sqlite" in said
    assert not (tmp_path / "typo.sqlite").exists()


def test_an_own_kit_that_is_damaged_is_no_reason_to_search_without_a_word(capsys, tmp_path):
    kit_path().parent.mkdir(parents=True)
    kit_path().write_bytes(b"no kit at all" * 400)
    code, _, told = ask(capsys, "find-load", DEMO, "poppy-petal", "--out", str(tmp_path / "x.pennello"))
    assert code == 2
    assert "kit of Pennello's" in told
    assert "--kit none" in told
    assert kit_path().read_bytes().startswith(b"no kit")


def in_shell(line):
    ours = ("DISPLAY", "QT_QPA_PLATFORM", "PYTHONPATH")  # Python itself does not start where a relative path has gone
    kept = {name: value for name, value in os.environ.items() if name not in ours}
    return subprocess.run(["sh", "-c", line], capture_output=True, text=True, timeout=300, env=kept, check=False)


@pytest.mark.parametrize(
    ("line", "code", "words"),
    [
        (f"{sys.executable} -m pennello schema > /dev/full", 2, "cannot be written: No space left"),
        (f"{sys.executable} -m pennello schema | head -c 5 > /dev/null", 0, ""),
        (f"{sys.executable} -m pennello schema >&- <&-", 0, ""),
        (f"d=$(mktemp -d); cd $d; rmdir $d; {sys.executable} -m pennello new x.pennello", 2, "is there no more"),
        (f"{sys.executable} -m pennello window", 2, "no display can be reached"),
        (f"d=$(mktemp -d); cd $d; rmdir $d; {sys.executable} -m pennello", 2, "no display can be reached"),
        (f"DISPLAY=:789 {sys.executable} -m pennello", 2, "no display can be reached"),
        (f"DISPLAY=:789 QT_QPA_PLATFORM=xcb {sys.executable} -m pennello window", 2, "no display can be reached"),
        (f"DISPLAY=nowhere:² QT_QPA_PLATFORM=xcb {sys.executable} -m pennello", 2, "no display can be reached"),
        (f"DISPLAY=nowhere QT_QPA_PLATFORM=xcb {sys.executable} -m pennello", 2, "no display can be reached"),
    ],
)
def test_ends_with_one_line_whatever_is_around(line, code, words):
    ended = in_shell(line)
    assert ended.returncode == code
    assert words in ended.stderr
    assert ended.stderr.count("\n") == bool(words)
    assert "Traceback" not in ended.stderr
