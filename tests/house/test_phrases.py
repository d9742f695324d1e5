"""Sentences are whole templates: collected by Babel, looked up by gettext; no f-string is read by a user."""

import ast
import json
import os
import re
import subprocess
import sys

import pytest
from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo
from tests.house.sources import ROOT, SOURCES, nodes_of, tree_of

from pennello.phrases import lengthened, places_of, plural, told
from phrases import collected

WORDED = re.compile(r"[A-Za-z]{2,}[ ,.:;?!]|[ ][A-Za-z°µ%]+")
MARKUP = re.compile(
    r"</|^<|/>|px[; ]|px$|=\"|^ id=\0|excluded\.|^id = |\b(SELECT|INSERT|UPDATE|DELETE|PRAGMA|BEGIN|WHERE|ORDER BY)\b"
)
CODES = re.compile(
    r"wearer's|^[a-z]*\0?[.\[]|@pennello|^[a-z]+:\0|^Line, \0$|^\0 mm \0$|^pennello\.|^Name: \0$|, version \0$"
)
"""Names that files hold, and places in them: the same in every language."""

DEVELOPERS = {"plan_schema.py", "record.py", "registry.py"}
"""Files whose sentences are for developers: the schema, a mistake in a record, where a station's code lies."""

FILES = {"plan_steps.py", "autosave.py", "jobs.py"}
"""Where such words are parts of codes and of files' names."""

SETTERS = {
    *("setText", "setToolTip", "setAccessibleName", "setAccessibleDescription", "setPlaceholderText"),
    *("setWindowTitle", "QPushButton", "QCheckBox", "QRadioButton", "QLabel", "Label", "addAction", "addMenu"),
}


def calls(name):
    for path in SOURCES:
        body = tree_of(path).body
        if not any(isinstance(one, ast.ImportFrom) and name in [at.name for at in one.names] for one in body):
            continue  # another function of that name
        for node in nodes_of(path):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == name:
                yield path, node


def text_of(node):
    return "".join(str(part.value) if isinstance(part, ast.Constant) else "\0" for part in node.values)


def test_no_f_string_is_read_by_a_user():
    found = []
    for path in SOURCES:
        inner = {id(part) for node in nodes_of(path) if isinstance(node, ast.FormattedValue) for part in ast.walk(node)}
        for node in nodes_of(path):
            if isinstance(node, ast.JoinedStr) and id(node) not in inner and path.name not in DEVELOPERS:
                text = text_of(node)
                if WORDED.search(text) and not MARKUP.search(text) and not CODES.search(text):
                    found.append(f"{path.name}:{node.lineno}: {text}")
    assert found == []


def unspoken(value):
    """Yield the words in an f-string's place that are chosen there, and values of enumerations: no templates."""
    told = set()
    for node in ast.walk(value):
        named = ast.unparse(node.func).rpartition(".")[2] if isinstance(node, ast.Call) else ""
        if named in {"phrase", "plural", "told", "named", "getattr"} or isinstance(node, ast.Compare):
            told |= {id(part) for part in ast.walk(node)}
        if isinstance(node, ast.Subscript):
            told |= {id(part) for part in ast.walk(node.slice)}
    for node in ast.walk(value):
        if id(node) not in told and isinstance(node, ast.Constant) and isinstance(node.value, str):
            yield from [node.value] if re.search("[A-Za-z]{3}", node.value) else []


def test_no_word_is_chosen_within_an_f_string():
    """As in f"{count} {'page' if count == 1 else 'pages'}": Babel collects neither."""
    found = {
        f"{path.name}: {word}"
        for path in SOURCES
        for node in nodes_of(path)
        if isinstance(node, ast.FormattedValue) and path.name not in DEVELOPERS | FILES
        for word in unspoken(node.value)
    }
    assert found == set()


@pytest.mark.parametrize(("name", "first"), [("phrase", 0), ("plural", 1), ("mark", 0)])
def test_templates_are_written_where_they_are_used(name, first):
    """Babel collects constants alone: a template that is a variable would never be translated."""
    assert [
        f"{path.name}:{node.lineno}"
        for path, node in calls(name)
        if not all(isinstance(one, ast.Constant) and isinstance(one.value, str) for one in node.args[first:])
    ] == []


def test_every_place_is_given_and_no_other():
    wrong = []
    for name, first in (("phrase", 0), ("plural", 1)):
        for path, node in calls(name):
            given = {one.arg for one in node.keywords}
            if None in given or (name == "phrase" and not given):  # spread out, or a sentence without places
                continue
            for one in node.args[first:]:
                wanted = set(places_of(one.value)) - ({"count"} if name == "plural" else set())
                if wanted - given or given - {place for two in node.args[first:] for place in places_of(two.value)}:
                    wrong.append(f"{path.name}:{node.lineno}: {one.value}")
    assert wrong == []


def test_what_is_shown_by_qt_is_a_template():
    found = [
        f"{path.name}:{node.lineno}: {part.value}"
        for path in SOURCES
        for node in nodes_of(path)
        if isinstance(node, ast.Call)
        and (node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")) in SETTERS
        for part in node.args
        if isinstance(part, ast.Constant) and isinstance(part.value, str) and re.search(r"[A-Za-z]{3,}", part.value)
    ]
    assert found == []


NAMED = {"Part": 1, "Parameter": 1, "Family": 1, "Motif": 1, "Role": 1, "Lesson": 1, "LoadKind": 1, "Curve": 1}
"""Where in a call the name stands that a user reads."""


def test_names_of_what_is_chosen_are_templates():
    plain = [
        f"{path.name}:{node.lineno}: {name.value}"
        for path in SOURCES
        for node in nodes_of(path)
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in NAMED
        for name in node.args[NAMED[node.func.id] : NAMED[node.func.id] + 1]
        if isinstance(name, ast.Constant) and isinstance(name.value, str) and re.search("[A-Za-z]{2}", name.value)
    ]
    assert plain == []


def test_babel_collects_them_all():
    """GNU gettext's template, by Babel: each has its places in the singular as in the plural."""
    catalogue = collected()
    assert len(catalogue) > 4000
    plurals = [message for message in catalogue if isinstance(message.id, tuple)]
    assert len(plurals) > 60
    for message in plurals:
        one, more = (set(places_of(text)) - {"count"} for text in message.id)
        assert one == more, message.id


def test_a_catalogue_translates_with_its_own_plural_forms(tmp_path):
    """Polish has three forms (Unicode CLDR 44, cardinal rules): 1, 2 to 4, 5 and more."""
    catalogue = Catalog(locale="pl")
    catalogue.add(("{count} petal", "{count} petals"), ("{count} płatek", "{count} płatki", "{count} płatków"))
    catalogue.add("{cake} is worn out.", "Zużyte: {cake}.")
    catalogue.add("{brush} is wet.", "Mokry: {pędzel}.")  # a slip of whoever translates
    folder = tmp_path / "pl" / "LC_MESSAGES"
    folder.mkdir(parents=True)
    with (folder / "pennello.mo").open("wb") as file:
        write_mo(file, catalogue)
    code = (
        "import sys, pathlib; import pennello.phrases as p; p.FOLDER = pathlib.Path(sys.argv[1]);"
        "print([p.plural(n, '{count} petal', '{count} petals') for n in (1, 3, 5, 22)],"
        " p.phrase('{cake} is worn out.', cake='Dusk'), p.phrase('Save'), p.phrase('{brush} is wet.', brush='Flat'),"
        " p.language())"
    )
    said = subprocess.run(
        [sys.executable, "-c", code, str(tmp_path)],
        env={**os.environ, "PENNELLO_LANGUAGE": "pl", "PYTHONIOENCODING": "utf-8"},
        capture_output=True,
        text=True,
        check=True,
    ).stdout
    assert said.strip() == "['1 płatek', '3 płatki', '5 płatków', '22 płatki'] Zużyte: Dusk. Save Flat is wet. pl"


def test_sentences_grow_by_two_fifths_and_keep_their_places():
    for text in ("Save {name} as ...", "{count:.1f} petals, all of them laid", "Press lighter, or blot the load."):
        longer = lengthened(text)
        assert places_of(longer) == places_of(text)
        assert 1.3 < len(longer) / len(text) < 1.7


def test_in_english_sentences_are_as_they_are_written():
    assert plural(2, "{count} petal of {cake}", "{count} petals of {cake}", cake="Dusk") == "2 petals of Dusk"
    assert told("nose tip") == "nose tip"
    assert told("") == ""


_STORED = """
import sys, json
from pathlib import Path
from pennello.files.demo import demo_plan
from pennello.files.plan_json import plan_bytes, read_plan
from pennello.chart.catalogue import CHARTS, chart
plans = [demo_plan(), *(read_plan(Path(name)) for name in sys.argv[1:])]
charts = [chart(key, plans[0].measures) for key in CHARTS]
from pennello.day.bag import bag
from pennello.files.day_json import day_bytes, day_schema, demo_event
from pennello.files.kit_csv import csv_bytes
from pennello.files.palette import write_palette
from pennello.kit.shelf import KitItem
event = demo_event()
write_palette(plans[0].paints, Path("palette.gpl"), "walk")
shelf = tuple(KitItem(one) for one in (*plans[0].paints, *plans[0].cakes, *plans[0].brushes))
tables = [csv_bytes(shelf).decode(), Path("palette.gpl").read_text(), day_bytes(event).decode(), day_schema()]
names = [[*(n for n, _ in c.landmarks), *(n for n, _ in c.frames), *(z.name for z in c.zones), *(n for n, _ in c.views)]
         for c in charts]
from pennello.order.arrange import arrange, design_of
found = arrange(design_of(plans[0], "face"), 0.0)
order = [[step.id for step in found.steps], [name for name, _ in found.sums.where], found.by]
packed = [one.name for one in bag(event, 40.0)]
print(json.dumps([[plan_bytes(plan).decode() for plan in plans], names, tables, packed, order]))
"""


def test_files_hold_codes_in_whatever_language(tmp_path):
    """What is kept in one language is the same in any other: plans of all versions, places, tables, ticks, steps."""
    plans = sorted(str(path) for path in (ROOT / "tests" / "files").glob("v*.pennello"))
    told_by = {
        language: subprocess.run(
            [sys.executable, "-c", _STORED, *plans],
            env={**os.environ, "PENNELLO_LANGUAGE": language},
            cwd=tmp_path,
            capture_output=True,
            text=True,
            check=True,
        ).stdout
        for language in ("", "long")
    }
    here, there = (json.loads(one) for one in told_by.values())
    assert here == there
    assert len(here[0]) > 10
