"""Twelve everyday tasks, by mouse and by keys alone, on what is seen: at most ten clicks each; none needs a mouse.

A click is a press of the mouse on a button, a field, a row or an item of a menu; opening a menu or a choice is one
too. By keys, focus goes by Tab to what is wanted, menus and choices by arrows. What the desktop asks (a file, a
colour, a printer) is answered without being counted.
"""

from __future__ import annotations

from dataclasses import replace

import pytest
from lantern_face import demo_plan
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QColor
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QCheckBox,
    QColorDialog,
    QComboBox,
    QFileDialog,
    QInputDialog,
    QLineEdit,
    QListWidget,
    QMenu,
    QTreeWidget,
    QWidget,
)

from pennello.chart.catalogue import CHARTS
from pennello.colour.families import ColourFamily
from pennello.design.part_edits import with_new_part
from pennello.kit.shelf import ItemKind
from pennello.session.kit import KitSession
from pennello.ui.printing import STAND_IN

MOST_CLICKS = 10
_LEFT = Qt.MouseButton.LeftButton


class Mouse:
    """Clicks on what is seen, and counts."""

    def __init__(self, qtbot):
        self.clicks, self._bot = 0, qtbot

    def ready(self, widget):
        self._bot.waitUntil(lambda: widget.isVisible() and widget.isEnabled())
        return widget

    def press(self, widget: QWidget) -> None:
        self.ready(widget)
        self.clicks += 1
        at = QPoint(8, widget.height() // 2) if isinstance(widget, QCheckBox) else widget.rect().center()
        QTest.mouseClick(widget, _LEFT, pos=at)

    def row(self, listed, at) -> None:
        item = listed.item(at) if isinstance(listed, QListWidget) else listed.topLevelItem(at)
        listed.scrollToItem(item)
        self.ready(listed)
        self.clicks += 1
        QTest.mouseClick(listed.viewport(), _LEFT, pos=listed.visualItemRect(item).center())

    def tick(self, listed: QListWidget, at: int) -> None:
        listed.scrollToItem(listed.item(at))
        self.clicks += 1
        box = listed.visualItemRect(listed.item(at))
        QTest.mouseClick(listed.viewport(), _LEFT, pos=QPoint(box.left() + 12, box.center().y()))

    def choose(self, box: QComboBox, words: str) -> None:
        self.press(box)
        view = box.view()
        self._bot.waitUntil(view.isVisible)
        QTest.qWait(QApplication.doubleClickInterval() + 50)  # a second press sooner than that is not for the list
        index = box.model().index(box.findText(words), 0)
        view.scrollTo(index)
        self.clicks += 1
        QTest.mouseClick(view.viewport(), _LEFT, pos=view.visualRect(index).center())

    def menu(self, button: QAbstractButton, *path: str) -> None:
        self.ready(button)
        self.clicks += 1
        menu = opened(button)
        for words in path:
            action = action_of(menu, words)
            self.clicks += 1
            QTest.mouseClick(menu, _LEFT, pos=menu.actionGeometry(action).center())
            menu = inner_of(self._bot, action, menu)

    def write(self, field: QLineEdit, words: str) -> None:
        self.press(field)
        QTest.keyClicks(field, words)
        QTest.keyClick(field, Qt.Key.Key_Tab)


def opened(button):
    """Open the menu of a button: its own, which would hold the test up if it were pressed open, or the one it makes."""
    menu = button.menu() if hasattr(button, "menu") else None
    if menu is not None:
        menu.popup(button.mapToGlobal(button.rect().bottomLeft()))
    else:
        button.click()
        menu = QApplication.activePopupWidget()
    assert isinstance(menu, QMenu)
    return menu


def action_of(menu, words):
    """Return what a menu offers under these words."""
    return next(one for one in menu.actions() if one.text().replace("&&", "&") == words)


def inner_of(bot, action, menu):
    """Return the menu that an item has opened, or the same one, gone by now, where it has done something."""
    if action.menu() is not None:
        bot.waitUntil(action.menu().isVisible)
        return action.menu()
    return menu


class Keys:
    """The same by keys alone: Tab to what is wanted, Space, arrows, Enter."""

    MOST_TABS = 400

    def __init__(self, qtbot):
        self.clicks, self._bot = 0, qtbot

    def reach(self, widget: QWidget) -> None:
        self._bot.waitUntil(lambda: widget.isVisible() and widget.isEnabled())
        window = widget.window()
        window.activateWindow()
        for _ in range(self.MOST_TABS):
            here = window.focusWidget()
            if here is not None and (here is widget or widget.focusProxy() is here):
                return
            QTest.keyClick(here or window, Qt.Key.Key_Tab)
        pytest.fail(f"Tab does not lead to {widget.accessibleName() or widget.property('text')}")

    def press(self, widget: QWidget) -> None:
        window = widget.window()
        if widget in getattr(getattr(window, "rail", None), "buttons", {}).values():  # stations have keys of their own
            number = list(window.rail.buttons.values()).index(widget)
            window.activateWindow()
            QTest.keyClick(window, Qt.Key(Qt.Key.Key_1.value + number), Qt.KeyboardModifier.AltModifier)
            assert widget.isChecked()
            return
        if widget.focusPolicy() is Qt.FocusPolicy.NoFocus:  # at the chair Space is done, wherever one looks
            QTest.keyClick(window, Qt.Key.Key_Space)
            return
        self.reach(widget)
        QTest.keyClick(widget, Qt.Key.Key_Space)

    def row(self, listed: QListWidget | QTreeWidget, at: int) -> None:
        self.reach(listed)
        QTest.keyClick(listed, Qt.Key.Key_Home)
        for _ in range(at):
            QTest.keyClick(listed, Qt.Key.Key_Down)

    def tick(self, listed: QListWidget, at: int) -> None:
        self.row(listed, at)
        QTest.keyClick(listed, Qt.Key.Key_Space)

    def choose(self, box: QComboBox, words: str) -> None:
        self.reach(box)
        QTest.keyClick(box, Qt.Key.Key_Home)
        while box.currentText() != words and box.currentIndex() < box.count() - 1:
            QTest.keyClick(box, Qt.Key.Key_Down)
        assert box.currentText() == words

    def menu(self, button: QAbstractButton, *path: str) -> None:
        self.reach(button)
        menu = opened(button)
        for words in path:
            action = action_of(menu, words)
            for _ in menu.actions():
                if menu.activeAction() is action:
                    break
                QTest.keyClick(menu, Qt.Key.Key_Down)
            assert menu.activeAction() is action
            QTest.keyClick(menu, Qt.Key.Key_Right if action.menu() is not None else Qt.Key.Key_Return)
            menu = inner_of(self._bot, action, menu)

    def write(self, field: QLineEdit, words: str) -> None:
        self.reach(field)
        QTest.keyClicks(field, words)
        QTest.keyClick(field, Qt.Key.Key_Tab)


# --- the tasks ---


def own_cake(window, hand, wait):
    """Enter a cake of one's own."""
    hand.menu(window.bar.plan_button, "Enter my kit ...")
    guide = window.station("tray").guide
    hand.write(guide.name, "Tide")
    hand.press(guide.more)
    hand.press(guide.keep)
    hand.press(guide.next)
    hand.press(guide.next)
    assert "Tide" in [item.name for item in window.station("tray").model.session.kit.of(ItemKind.CAKE)]


def which_of_my_cakes(window, hand, wait):
    """Find which cake lays a stroke best."""
    bench = window.station("bench")
    hand.press(bench.readout.page_buttons["find"])
    page = bench.page_of("find")
    wait(lambda: not page.busy and bool(page.board.cards))
    before = window.document.committed
    hand.press(page.board.cards[-1])
    assert window.document.committed != before


def rose_with_leaves_on_a_cheek(window, hand, wait):
    """Put a rose and two leaves on a cheek."""
    hand.press(window.rail.buttons["chart"])
    chart = window.station("chart")
    hand.choose(chart.head.chart, CHARTS["cheek-left"][0])
    count = len(chart.model.motifs)
    for number, key in enumerate(("rose-open", "whole-leaf", "whole-leaf"), 1):
        hand.press(chart.row.buttons[key])
        wait(lambda wanted=count + number: len(chart.model.motifs) == wanted)


def the_other_cheek(window, hand, wait):
    """Have a part of one cheek on the other one too."""
    hand.press(window.rail.buttons["chart"])
    chart = window.station("chart")
    hand.choose(chart.head.chart, CHARTS["cheek-left"][0])
    hand.press(chart.side.switches[0])
    parts = chart.side.parts
    names = [parts.tree.topLevelItem(at).text(0) for at in range(parts.tree.topLevelItemCount())]
    hand.row(parts.tree, names.index(window.document.committed.parts[0].name))
    hand.menu(parts.more, "Copy it to", CHARTS["cheek-right"][0])
    assert any(one.chart == "cheek-right" for one in window.document.committed.motifs)


def darker_skin(window, hand, wait):
    """See it on a darker skin."""
    before = window.document.committed.skin
    hand.choose(window.bar.skin, window.bar.skin.itemText(3))
    assert window.document.committed.skin != before


def print_it(window, hand, wait):
    """Print a load card."""
    hand.menu(window.bar.plan_button, "Print ...")
    page = window.printing
    wait(lambda: bool(page.pages))
    hand.press(page.print)
    wait(lambda: not window.exporter.busy)
    assert "Wrote" in window.banner.words.text()


def two_minutes(window, hand, wait):
    """Have what fits into two minutes."""
    hand.press(window.rail.buttons["order"])
    hand.press(window.station("order").times["2:00"])
    assert window.document.committed.ordering.target_s == 120


def run_it(window, hand, wait):
    """Begin a run and do its first step."""
    hand.press(window.rail.buttons["order"])
    order = window.station("order")
    hand.press(order.run)
    wait(lambda: order.controller.page is not None and order.controller.page.isVisible())
    page = order.controller.page
    wait(lambda: page.go.isEnabled() or page.seen.isVisible())
    if page.seen.isVisible():
        hand.press(page.seen)
    hand.press(page.go)
    run = order.controller.window
    wait(lambda: order.controller.window is not None)
    run = order.controller.window
    hand.press(run.buttons["Done"])
    assert len(run.run.took) == 1
    run.end()


def what_went_wrong(window, hand, wait):
    """Note what went wrong."""
    hand.press(window.rail.buttons["notebook"])
    notebook = window.station("notebook")
    hand.press(notebook.write)
    form = notebook.page
    hand.choose(form.trouble, form.trouble.itemText(1))
    hand.press(next(one for one in form.findChildren(QAbstractButton) if one.text() == "It went wrong so"))
    hand.press(form.take)
    wait(lambda: bool(notebook.model.pages))
    assert notebook.model.pages[0].faults


def my_brushes(window, hand, wait):
    """Tick the brushes that one has."""
    hand.menu(window.bar.plan_button, "Enter my kit ...")
    guide = window.station("tray").guide
    hand.press(guide.next)
    hand.tick(guide.brushes, 0)
    hand.tick(guide.brushes, 2)
    hand.press(guide.next)
    kit = window.station("tray").model.session.kit
    assert [item.id for item in kit.of(ItemKind.BRUSH)] == ["flat-1-2", "flat-1"]


def blue_version(window, hand, wait):
    """Have the design in blue."""
    bench = window.station("bench")
    hand.menu(bench.strokes.whole, "Colourways ...")
    page = bench.strokes.page
    hand.choose(page.colour, ColourFamily.BLUE.value)
    wait(lambda: not page.busy and page.takes[0].isEnabled())
    before = window.document.committed
    hand.press(page.takes[0])
    assert window.document.committed != before


def hand_over(window, hand, wait):
    """Give all of it to a friend."""
    hand.press(window.rail.buttons["order"])
    order = window.station("order")
    wait(lambda: order.model.arranged is not None)
    hand.menu(order.paper, "All of it, to hand over (PDF) ...")
    wait(lambda: not window.exporter.busy)
    assert "Wrote" in window.banner.words.text()


TASKS = {
    own_cake: 7,
    which_of_my_cakes: 2,
    rose_with_leaves_on_a_cheek: 6,
    the_other_cheek: 8,
    darker_skin: 2,
    print_it: 3,
    two_minutes: 2,
    run_it: 4,
    what_went_wrong: 6,
    my_brushes: 6,
    blue_version: 5,
    hand_over: 3,
}
"""Each with its clicks."""


@pytest.fixture
def window(open_window, tmp_path, monkeypatch):
    KitSession().close()
    monkeypatch.setattr(QColorDialog, "getColor", lambda *_: QColor("#1f6fb5"))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "out.pdf"), ""))
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: pytest.fail("a text was asked for"))
    monkeypatch.setenv(STAND_IN, str(tmp_path / "printed.pdf"))
    plan = demo_plan()
    few = tuple(one for one in plan.motifs if one.chart == "cheek-left")[:4]
    bare = replace(plan, motifs=tuple(replace(one, part="") for one in few), overlays=(), parts=())
    return open_window(with_new_part(bare, "Garland", [one.id for one in few])[0])


@pytest.mark.parametrize("task", TASKS, ids=lambda task: task.__name__)
@pytest.mark.parametrize("kind", [Mouse, Keys], ids=["mouse", "keys"])
def test_it_is_done_in_few_clicks_and_by_keys_alone(window, qtbot, kind, task):
    hand = kind(qtbot)
    task(window, hand, qtbot.waitUntil)
    assert hand.clicks == (TASKS[task] if kind is Mouse else 0)
    assert hand.clicks <= MOST_CLICKS
