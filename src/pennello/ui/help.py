"""Help: a painter's questions as pages with pictures and links that do things, the words, and last the keys."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache
from html import escape
from importlib.resources import files

from PySide6.QtCore import Qt, QUrl, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QPalette,
    QTextBlock,
    QTextBlockFormat,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from pennello.phrases import phrase
from pennello.session.glossary import found_words
from pennello.ui.station import Action, Keys
from pennello.ui.stations.registry import STATIONS
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme

_EVERYWHERE = (
    Keys(phrase("Tab"), phrase("from handle to handle and field to field")),
    Keys(phrase("arrows"), phrase("step the handle; with Shift fine, with Ctrl coarse")),
    Keys("Enter", phrase("type the handle's number; flips on the flip grip")),
)
WORDS, MARKS = phrase("Words"), phrase("Keys and marks")
_DO = "do"


@dataclass(frozen=True, slots=True)
class Topic:
    """A page by task: its file, what it answers, and its text in Markdown."""

    file: str
    title: str
    text: str


@cache
def topics() -> tuple[Topic, ...]:
    """Return the pages by task, in their order."""
    folder = files("pennello.ui") / "help_pages"
    found = []
    for one in sorted(folder.iterdir(), key=lambda one: one.name):
        if one.name.endswith(".md"):
            text = one.read_text("utf-8")
            found.append(Topic(one.name, text.splitlines()[0].removeprefix("# "), text))
    return tuple(found)


def found_topics(text: str) -> tuple[Topic, ...]:
    """Return the pages that hold all words of a text, those that have them in their question first."""
    wanted = text.lower().split()

    def rank(one: Topic) -> int:
        return sum(word not in one.title.lower() for word in wanted)

    held = [one for one in topics() if all(word in one.text.lower() for word in wanted)]
    return tuple(sorted(held, key=rank))


def help_words(actions: Sequence[Action]) -> str:
    """Return the page of keys and marks: words from its file, keys and gestures from those who take them."""
    with_keys = [Keys(one.keys, one.title.removesuffix(" ...")) for one in actions if one.keys]
    parts = ["<h3>Keys</h3>", _table([*_EVERYWHERE, *with_keys])]
    for one in STATIONS:
        own = [Keys(action.keys, action.title.removesuffix(" ...")) for action in one.actions if action.keys]
        parts += [f"<h3>{one.title} ({one.keys})</h3>", _table([*own, *one.help])]
    words = (files("pennello.ui") / "help_words.html").read_text("utf-8")
    return words.replace("<!-- keys -->", "\n".join(parts))


def _table(rows: Sequence[Keys]) -> str:
    cells = (f"<tr><td><b>{escape(one.keys)}</b></td><td>{escape(one.words)}</td></tr>" for one in rows)
    return f'<table cellpadding="3">{"".join(cells)}</table>'


def glossary_words(text: str) -> str:
    """Return the words that hold a text, as a page."""
    rows = (f"<p><b>{escape(word)}</b><br>{escape(told)}</p>" for word, told in found_words(text))
    return "<h2>Words</h2>" + ("".join(rows) or "<p>There is no such word here.</p>")


class _Pages(QTextBrowser):
    """Shows a page; its pictures come with the program."""

    def loadResource(self, kind: int, name: QUrl | str) -> object:
        """Read a picture of the help."""
        if kind == QTextDocument.ResourceType.ImageResource.value:
            file = files("pennello.ui") / "help_pages" / QUrl(name).fileName()
            return QImage.fromData(file.read_bytes() if file.is_file() else b"")
        return super().loadResource(kind, name)


class HelpPage(QDialog):
    """A quiet page that stays beside the work.

    Signals
    -------
    wanted(str)
        What a link of a page does: the name of an action.
    """

    wanted = Signal(str)

    def __init__(self, parent: QWidget, actions: Sequence[Action] = ()) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("How do I ..."))
        self._actions = actions
        self.search = QLineEdit()
        self.search.setPlaceholderText(phrase("What do you want to do, or which word?"))
        self.search.setAccessibleName(phrase("Search the help"))
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(lambda _: self._list())
        self.listed = QListWidget()
        self.listed.setAccessibleName(phrase("Pages of the help"))
        self.listed.setWordWrap(True)
        self.listed.currentItemChanged.connect(lambda *_: self._show())
        self.page = _Pages()
        self.page.setOpenLinks(False)
        self.page.document().setDocumentMargin(18)
        self.page.setAccessibleName(phrase("The page"))
        self.page.anchorClicked.connect(self._follow)
        left = QVBoxLayout()
        left.addWidget(self.search)
        left.addWidget(self.listed, 1)
        held = QWidget()
        held.setLayout(left)
        held.setFixedWidth(px(250))
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 10, 10, 10)
        row.addWidget(held)
        row.addWidget(self.page, 1)
        self.resize(920, 640)
        self._list()
        self.search.setFocus()

    def _list(self) -> None:
        """List what holds the words that are looked for."""
        text = self.search.text()
        self.listed.clear()
        for one in found_topics(text):
            self._add(one.title, one.file)
        if found_words(text):
            self._add(WORDS, WORDS)
        if not text.strip():
            self._add(MARKS, MARKS)
        self.listed.setCurrentRow(0)
        if not self.listed.count():
            self.page.setHtml("<p>Nothing here holds these words; try another one, or fewer.</p>")

    def _add(self, title: str, key: str) -> None:
        item = QListWidgetItem(title)
        item.setData(Qt.ItemDataRole.UserRole, key)
        self.listed.addItem(item)

    def show_topic(self, key: str) -> None:
        """Show a page by its file, or the words, or keys and marks."""
        self.search.clear()
        for at in range(self.listed.count()):
            if self.listed.item(at).data(Qt.ItemDataRole.UserRole) == key:
                self.listed.setCurrentRow(at)

    def _show(self) -> None:
        item = self.listed.currentItem()
        key = item.data(Qt.ItemDataRole.UserRole) if item is not None else ""
        shows: dict[str, Callable[[], object]] = {
            WORDS: lambda: self.page.setHtml(glossary_words(self.search.text())),
            MARKS: lambda: self.page.setHtml(help_words(self._actions)),
        }
        topic = next((one for one in topics() if one.file == key), None)
        self._wear()
        if topic is not None:
            self.page.setMarkdown(topic.text)
            self._air()
        elif key in shows:
            shows[key]()

    def _wear(self) -> None:
        """Have the colours of the theme."""
        inks, palette = theme(), self.page.palette()
        palette.setColor(QPalette.ColorRole.Base, QColor(inks.mat))
        palette.setColor(QPalette.ColorRole.Text, QColor(inks.ink))
        self.page.setPalette(palette)

    def _air(self) -> None:
        """Leave room between lines and paragraphs, and have links in the theme's colour."""
        cursor = QTextCursor(self.page.document())
        block = self.page.document().begin()
        while block.isValid():
            cursor.setPosition(block.position())
            form = QTextBlockFormat()
            form.setBottomMargin(7)
            form.setLineHeight(118, QTextBlockFormat.LineHeightTypes.ProportionalHeight.value)
            cursor.mergeBlockFormat(form)
            self._ink_links(block)
            block = block.next()

    def _ink_links(self, block: QTextBlock) -> None:
        cursor, each = QTextCursor(block), block.begin()
        while not each.atEnd():
            part = each.fragment()
            if part.charFormat().isAnchor():
                form = QTextCharFormat()
                form.setForeground(QColor(theme().accent))
                cursor.setPosition(part.position())
                cursor.setPosition(part.position() + part.length(), QTextCursor.MoveMode.KeepAnchor)
                cursor.mergeCharFormat(form)
            each += 1

    def _follow(self, link: QUrl) -> None:
        """Do what a link says: an action of the window, or another page."""
        if link.scheme() == _DO:
            self.wanted.emit(link.path())
        else:
            self.show_topic(link.fileName())
