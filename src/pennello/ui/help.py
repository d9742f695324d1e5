"""Keys and handles on one page."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QLabel, QScrollArea, QVBoxLayout, QWidget

_WORDS = """
<h3>Hands</h3>
<p><b>Drag</b> the brush along the cake, the stripes' boundaries above it, the points of the path, the turning
grips of the chisel, the
pressure at the right. <b>Double click</b> types a number:
12.5, 12,5, 3/4 in or 19 mm. <b>Esc</b> while dragging gives the old value back.</p>
<p><b>Play</b> moves the brush over a stroke: <b>space</b> plays and pauses, <b>left</b> and <b>right</b> go from
stroke to stroke. On the Chart a click takes a motif; <b>Motifs ...</b> shows all as they
are laid; its handles move, turn and size it; Ctrl and the wheel zoom. <b>Over it</b> draws
lines: a pull is a line, a tap is a dot, Esc ends. On the Order drag a step where it may hang.</p>
<h3>Keys</h3>
<table cellpadding="3">
<tr><td><b>Tab</b></td><td>from handle to handle and field to field</td></tr>
<tr><td><b>Arrows</b></td><td>step the handle; with Shift fine, with Ctrl coarse</td></tr>
<tr><td><b>Enter</b></td><td>type the handle's number; flips on the flip grip</td></tr>
<tr><td><b>F</b></td><td>at the Bench: flip the brush</td></tr>
<tr><td><b>Ctrl+arrows, Del</b></td><td>on a card of the load: another place, take it out</td></tr>
<tr><td><b>Alt+1 to Alt+4</b></td><td>Tray, Bench, Chart, Order</td></tr>
<tr><td><b>arrows, Ctrl+arrows</b></td><td>on the line of steps: choose one, move it</td></tr>
<tr><td><b>Space, Backspace, S, P, V, Esc</b></td>
<td>at the chair: done, back, leave out, pause, watch, end (it asks)</td></tr>
<tr><td><b>Ctrl+Z, Ctrl+Shift+Z</b></td><td>undo, redo</td></tr>
<tr><td><b>Ctrl+N, O, S</b></td><td>new, open, save</td></tr>
<tr><td><b>Ctrl+E, Ctrl+P</b></td><td>picture of the stroke, load card</td></tr>
</table>
<p>On the strip of the hand page <b>double click</b> puts a pressure key; double click on a key or a flip takes it
out. On a rib's grip it puts another rib to turn.</p>
<h3>Marks</h3>
<p>On the edge a veil shows where 8 of 10 real loads hand over. On a cake a shade is a hollow, specks are
dirt, a stroke through a stripe says that it is worn out.</p>
<p>On the skin a crescent marks the rim, a dot the heel, a ring the start; thin ribs show the chisel every 5
mm. Filled disc: holds.
Half disc: close. Open ring: misses. dE is the colour difference CIEDE2000; about 1 can just be seen side by side.</p>
<h3>What this is</h3>
<p>A prediction from the paints' colours, not a measurement. How much a brush holds, how fast it runs dry and
how opaque a paint is are
defaults until you measure yours; they stand in the plan file.</p>
<p>Use only products made for skin and inside their date. Ask about allergies and skin trouble; clean tools
for each person; nothing on
broken skin. Labels, local rules and licensed practice decide.</p>
"""


class HelpPage(QDialog):
    """A quiet page that stays beside the work."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys and handles")
        words = QLabel(_WORDS)
        words.setWordWrap(True)
        words.setTextFormat(Qt.TextFormat.RichText)
        words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        words.setContentsMargins(20, 12, 20, 16)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(words)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(scroll)
        self.resize(600, 620)
