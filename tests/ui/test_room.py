"""Every station has room: nothing lies over its neighbour, no words are cut, at every size of window."""

import itertools

import pytest
from lantern_face import demo_plan
from PySide6.QtCore import QDeadlineTimer, QEvent, QObject, Qt
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QLabel, QScrollArea, QWidget

from pennello.session.document import Document
from pennello.session.settings import Settings
from pennello.ui.stations.registry import STATIONS
from pennello.ui.widgets.two_parts import TwoParts
from pennello.ui.window import MainWindow

SIZES = [(1024, 700), (1280, 800), (2560, 1440)]
DIRECT = Qt.FindChildOption.FindDirectChildrenOnly


def shown(widget, options=Qt.FindChildOption.FindChildrenRecursively):
    return [child for child in widget.findChildren(QWidget, options=options) if child.isVisible()]


def told(widget):
    return f"{type(widget).__name__} '{widget.property('text') or widget.accessibleName() or widget.objectName()}'"


def cut(widget):
    """Whether a button's or label's words need more room than it has."""
    if isinstance(widget, QLabel) and (widget.wordWrap() or not widget.text()):
        return False
    return isinstance(widget, (QLabel, QAbstractButton)) and widget.width() < widget.sizeHint().width() - 1


def wrongs(page):
    """What lies over its neighbour, what its layout pushes out of sight, and what is cut."""
    for parent in (page, *shown(page)):
        if parent.layout() is None:
            continue
        children = shown(parent, DIRECT)
        for one, other in itertools.combinations(children, 2):
            if one.geometry().intersects(other.geometry()):
                yield f"{told(one)} lies over {told(other)}"
        for one in children:
            if not parent.rect().contains(one.geometry()):
                yield f"{told(one)} leaves {told(parent)}"
    for one in shown(page):
        if cut(one):
            yield f"{told(one)} is cut"


def settled(qtbot, window):
    """Wait until the layout rests without a fault; say which fault stays."""
    deadline = QDeadlineTimer(60_000)
    while list(wrongs(window.centralWidget())) and not deadline.hasExpired():
        qtbot.wait(30)
    assert list(wrongs(window.centralWidget())) == []


@pytest.mark.parametrize("theme", ["linen", "lamp"])
def test_every_station_has_room(open_window, qtbot, theme):
    window = open_window(demo_plan(), Settings(theme=theme))
    for size in SIZES:
        window.resize(*size)
        for station in ("tray", "bench", "chart", "order"):
            window.go_to(station)
            settled(qtbot, window)
        qtbot.waitUntil(lambda: window.station("order").model.arranged is not None)
        for chart in ("face", "hand"):
            window.station("order").model.show_chart(chart)
            settled(qtbot, window)


def beside_the_edge(window):
    """How much wider what a station shows is than the window has room for, px; to be reached by scrolling only."""
    pages = [one for one in window.centralWidget().findChildren(QScrollArea) if one.isVisible() and one.widget()]
    widest = max(pages, key=lambda one: one.width())
    return widest.widget().width() - widest.viewport().width()


@pytest.mark.parametrize(
    ("size", "stations"),
    [((1024, 700), [row.key for row in STATIONS]), ((960, 540), ["tray", "chart", "notebook"])],
)
def test_nothing_lies_beside_the_edge_of_a_small_screen(open_window, qtbot, size, stations):
    window = open_window(demo_plan())
    window.resize(*size)
    for station in stations:
        window.go_to(station)
        if station == "chart":
            model = window.station("chart").model
            model.choose(model.motifs[0].id)
            qtbot.waitUntil(lambda model=model: not model.busy)
        settled(qtbot, window)
        assert beside_the_edge(window) <= 0, station


def test_the_look_for_room_can_fail(qtbot):
    page = QWidget()
    qtbot.addWidget(page)
    row = QHBoxLayout(page)
    for words in ("one long label", "another long label"):
        label = QLabel(words)
        label.setMinimumWidth(label.sizeHint().width())
        row.addWidget(label)
    page.setMinimumWidth(60)
    page.resize(60, 30)
    page.show()
    assert any("lies over" in wrong or "leaves" in wrong for wrong in wrongs(page))


def test_two_parts_stand_side_by_side_where_there_is_room(qtbot):
    first, second = QLabel("x" * 30), QLabel("y" * 30)
    for label in (first, second):
        label.setMinimumWidth(200)
    page = QWidget()
    qtbot.addWidget(page)
    page.resize(600, 100)
    parts = TwoParts([first], [second], page)
    page.show()
    for wide, beside in ((420, True), (300, False), (420, True)):
        parts.resize(wide, 80)
        qtbot.wait(10)
        assert (first.y() == second.y()) is beside
    second.setMinimumWidth(260)  # it comes to need more room
    qtbot.waitUntil(lambda: second.y() > first.y())
    assert parts.minimumSizeHint().width() == 260


@pytest.mark.parametrize("station", [row.key for row in STATIONS])
def test_a_station_that_rests_lays_nothing_out(station, qapp, qtbot, open_window):
    """A layout that answers each request with another one takes a whole core for as long as it is shown."""
    window = open_window(demo_plan(), at=station)
    qtbot.wait(50)

    class Ear(QObject):
        heard = 0

        def eventFilter(self, _watched, event):
            self.heard += event.type() == QEvent.Type.LayoutRequest
            return False

    settled(qtbot, window)
    for _ in range(40):  # what comes once, as a font or a first picture, is soon over
        ear = Ear()
        qapp.installEventFilter(ear)
        qtbot.wait(100)
        qapp.removeEventFilter(ear)
        if ear.heard < 4:
            break
    assert ear.heard < 4


class Sizes(QObject):
    """Writes down each size that a widget is given."""

    def __init__(self, of):
        super().__init__(of)
        self.seen = []
        of.installEventFilter(self)

    def eventFilter(self, watched, event):
        if event.type() == QEvent.Type.Resize:
            self.seen.append(watched.size())
        return False


def test_a_window_that_opens_is_laid_out_at_one_size(qapp, qtbot, demo):
    """Bars that come and go change it, and all of it is drawn twice."""
    window = MainWindow(Document(demo), Settings())
    sizes = Sizes(window.room.viewport())
    window.show()
    qtbot.waitExposed(window)
    qtbot.wait(300)
    window.close()
    window.deleteLater()
    assert sizes.seen == [window.room.viewport().size()]
