"""Help: pages by task whose buttons are there, pictures that show, links that do; the words; keys last."""

import ast
import re
from importlib.resources import files
from pathlib import Path

import pytest
from lantern_face import demo_plan
from PySide6.QtCore import QUrl

import pennello.ui
from pennello.session.glossary import GLOSSARY, found_words
from pennello.ui.help import MARKS, WORDS, found_topics, glossary_words, help_words, topics
from pennello.ui.window import ACTIONS

FOLDER = Path(pennello.ui.__file__).parent
QUESTIONS = {
    "my cakes": "02-my-kit.md",
    "which of my cakes": "04-which-cake.md",
    "rose leaves cheek": "05-rose-on-a-cheek.md",
    "other cheek": "06-other-cheek.md",
    "darker skin": "07-darker-skin.md",
    "print": "12-print.md",
    "two minutes": "08-two-minutes.md",
    "run": "09-at-the-chair.md",
    "went wrong": "10-what-went-wrong.md",
    "brushes": "02-my-kit.md",
    "blue": "11-blue-version.md",
    "give friend": "13-hand-over.md",
}
"""Twelve everyday tasks in a painter's words, and the page that answers them."""


def said_in_the_window():
    """Return all that the window's own code says."""
    nodes = (node for path in FOLDER.rglob("*.py") for node in ast.walk(ast.parse(path.read_text("utf-8"))))
    return "\n".join(node.value for node in nodes if isinstance(node, ast.Constant) and isinstance(node.value, str))


@pytest.mark.parametrize(("asked", "file"), QUESTIONS.items())
def test_a_painters_question_finds_its_answer(asked, file):
    assert file in [one.file for one in found_topics(asked)][:2]


def test_what_a_page_names_stands_in_the_window():
    said = said_in_the_window()
    missing = [
        f"{topic.file}: {name}"
        for topic in topics()
        for bold in re.findall(r"\*\*(.+?)\*\*", topic.text)
        for name in bold.split(" ▸ ")
        if name.strip().removesuffix(" ...").removesuffix(" than ...") not in said
        and name.strip().lower() not in said.lower()
    ]
    assert not missing


def test_pictures_and_links_of_pages_are_there(open_window):
    window = open_window(demo_plan())
    names = {one.file for one in topics()}
    for topic in topics():
        for target in re.findall(r"\]\((.+?)\)", topic.text):
            if target.startswith("do:"):
                assert target.removeprefix("do:") in window.actions_by_id, f"{topic.file}: {target}"
            elif target.endswith(".md"):
                assert target in names, f"{topic.file}: {target}"
            else:
                assert (files("pennello.ui") / "help_pages" / target).read_bytes()[:4] == b"\x89PNG"


def test_the_page_is_searched_followed_and_does_things(open_window):
    window = open_window(demo_plan())
    window.actions_by_id["show_help"].trigger()
    page = window._help
    titles = [page.listed.item(at).text() for at in range(page.listed.count())]
    assert titles[0] == "Make my first petal"
    assert titles[-2:] == [WORDS, MARKS]
    assert "Pull the first petal" in page.page.toPlainText()
    page.search.setText("blue")
    assert page.listed.item(0).text() == "The same in blue"
    page.page.anchorClicked.emit(QUrl("04-which-cake.md"))
    assert "Find a load" in page.page.toPlainText()
    page.page.anchorClicked.emit(QUrl("do:order"))
    assert window.rail.buttons["order"].isChecked()
    page.show_topic(MARKS)
    assert "Ctrl+Z" in page.page.toPlainText()
    page.search.setText("xyzzy")
    assert "Nothing here" in page.page.toPlainText()
    page.search.setText("tacky")
    page.listed.setCurrentRow(page.listed.count() - 1)
    assert "glitter sticks" in page.page.toPlainText()
    page.close()


def test_words_stand_in_order_and_are_found():
    assert list(GLOSSARY) == sorted(GLOSSARY, key=str.lower)
    assert found_words("veil")[0][0] == "veil"
    assert found_words("xyzzy") == ()
    assert "no such word" in glossary_words("xyzzy")
    assert all(told.endswith(".") and 15 < len(told) < 150 for told in GLOSSARY.values())
    assert "Undo" in help_words(ACTIONS)
