"""Walks the window as a screen reader does, over the real AT-SPI bus.  make access

Needs root or at-spi2-core, dbus and xvfb. The window runs on a virtual display with a session bus of its own; each
station, and each page that opens from it, is walked, and every widget that can be worked with must have a name and a
role. Prints what it found; ends with 1 where something is nameless or without a role.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from jeepney import DBusAddress, Properties, new_method_call
from jeepney.io.blocking import DBusConnection, open_dbus_connection
from PySide6.QtCore import QEventLoop, QSocketNotifier, QTimer
from PySide6.QtWidgets import QApplication, QDialog

from pennello.files.demo import demo_plan
from pennello.session.document import Document
from pennello.ui.app import make_application
from pennello.ui.window import MainWindow

ACCESSIBLE = "org.a11y.atspi.Accessible"
ROOT = "/org/a11y/atspi/accessible/root"
_VISIBLE, _SHOWING = 30, 25
"""Bits of AtspiStateType (AT-SPI 2.0)."""

WORKED = {
    "push button", "toggle button", "check box", "radio button", "combo box", "text", "spin button", "slider", "list",
    "list item", "tree", "table", "menu item", "page tab", "button",
}  # fmt: skip
"""Roles of what can be worked with: nameless, nobody knows what it does."""

NO_ROLE = {"invalid", "unknown", "unknown role", ""}
STEPS = ("tray", "bench", "chart", "order", "day", "notebook", "help", "first steps", "designs", "print", "kit")
_SHOWN_S, _LONGEST_S = 3.0, 480.0


@dataclass(frozen=True)
class Found:
    """A widget as the bus tells of it."""

    role: str
    name: str
    path: tuple[str, ...]
    said: str


class Bus:
    """The accessibility bus."""

    def __init__(self) -> None:
        with open_dbus_connection("SESSION") as session:
            where = DBusAddress("/org/a11y/bus", bus_name="org.a11y.Bus", interface="org.a11y.Bus")
            (address,) = session.send_and_get_reply(new_method_call(where, "GetAddress")).body
        self.at: DBusConnection = open_dbus_connection(address)

    def ask(self, bus: str, path: str, method: str) -> Any:
        """Ask something of an accessible object."""
        call = new_method_call(DBusAddress(path, bus_name=bus, interface=ACCESSIBLE), method)
        (answer,) = self.at.send_and_get_reply(call, timeout=20).body
        return answer

    def told(self, bus: str, path: str, name: str) -> str:
        """Return a property in words."""
        call = Properties(DBusAddress(path, bus_name=bus, interface=ACCESSIBLE)).get(name)
        ((_, value),) = self.at.send_and_get_reply(call, timeout=20).body
        return str(value)

    def application(self, name: str) -> tuple[str, str]:
        """Return an application's root; waits for it."""
        until = time.monotonic() + 60
        while time.monotonic() < until:
            for bus, path in self.ask("org.a11y.atspi.Registry", ROOT, "GetChildren"):
                if self.told(bus, path, "Name").lower() == name:
                    return str(bus), str(path)
            time.sleep(0.5)
        raise SystemExit(f"{name} did not come to the accessibility bus.")

    def shown(self, bus: str, path: str) -> bool:
        """Return whether it is shown."""
        low, _ = self.ask(bus, path, "GetState")
        return bool(low >> _SHOWING & 1 and low >> _VISIBLE & 1)

    def walk(self, bus: str, path: str, above: tuple[str, ...] = ()) -> Iterator[Found]:
        """Yield what is shown below an object."""
        for child_bus, child in self.ask(bus, path, "GetChildren"):
            if not self.shown(child_bus, child):
                continue
            role = str(self.ask(child_bus, child, "GetRoleName"))
            name = self.told(child_bus, child, "Name")
            yield Found(role, name, above, self.told(child_bus, child, "Description"))
            yield from self.walk(child_bus, child, (*above, f"{role} '{name}'"))


def odd(found: Found) -> str:
    """Return what is wrong with a widget, "" for nothing."""
    if found.role in NO_ROLE:
        return "has no role"
    if found.role in WORKED and not found.name.strip():
        return f"is a {found.role} without a name"
    return ""


def walk_all() -> int:
    """Start the window, walk all of its stations and pages, and say what is odd."""
    app = subprocess.Popen([sys.executable, __file__, "app"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    assert app.stdin is not None
    assert app.stdout is not None
    wrong, roles, sliders = [], Counter[str](), 0
    try:
        bus = Bus()
        root = bus.application("pennello")
        for step in STEPS:
            print(step, file=app.stdin, flush=True)
            if app.stdout.readline().strip() != step:
                raise SystemExit(f"The window did not come to show: {step}.")
            every = list(bus.walk(*root))
            roles.update(one.role for one in every)
            sliders += sum(one.role == "slider" for one in every)
            wrong += [f"{step}: {' > '.join(one.path[-3:])} > '{one.name}' {odd(one)}" for one in every if odd(one)]
            print(f"{step}: {len(every)} widgets shown")
    finally:
        app.kill()
        app.wait()
    print(", ".join(f"{count} {role}" for role, count in roles.most_common()))
    for line in dict.fromkeys(wrong):
        print(f"ODD {line}")
    if not sliders:
        print("ODD no handle is a slider")
    return 1 if wrong or not sliders else 0


def run_app() -> int:
    """Show the window and, line by line, what is asked for."""
    home = tempfile.mkdtemp()
    for name in ("CONFIG", "STATE", "DATA", "CACHE"):
        os.environ[f"XDG_{name}_HOME"] = f"{home}/{name}"
    app = make_application(["pennello"])
    window = MainWindow(Document(demo_plan()))
    window.show()

    def wait(seconds: float) -> None:
        loop = QEventLoop()
        QTimer.singleShot(round(seconds * 1000), loop.quit)
        loop.exec()

    def print_bench() -> None:
        window.go_to("bench")
        window.print_shown()

    acts = {
        "help": window.show_help,
        "first steps": window.show_first_steps,
        "designs": window.show_designs,
        "print": print_bench,
        "kit": window.actions_by_id["show_guide"].trigger,
    }

    def follow() -> None:
        step = sys.stdin.readline().strip()
        for page in QApplication.topLevelWidgets():
            if isinstance(page, QDialog) and page.isVisible():
                page.close()
        if step in acts:
            acts[step]()
        elif step:
            window.go_to(step)
        wait(_SHOWN_S)
        print(step, flush=True)

    listening = QSocketNotifier(0, QSocketNotifier.Type.Read)
    listening.activated.connect(follow)
    return app.exec()


def main() -> int:
    """Walk within a session bus and on a display of its own."""
    if sys.argv[1:] == ["app"]:
        return run_app()
    if sys.argv[1:] == ["walk"]:
        return walk_all()
    where = {key: value for key, value in os.environ.items() if key not in ("DBUS_SESSION_BUS_ADDRESS", "DISPLAY")}
    where |= {"QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1", "QT_QPA_PLATFORM": "xcb", "GTK_MODULES": ""}
    words = [
        "xvfb-run",
        "-a",
        "-s",
        "-screen 0 1280x800x24",
        "dbus-run-session",
        "--",
        sys.executable,
        __file__,
        "walk",
    ]
    return subprocess.run(words, env=where, check=False, timeout=_LONGEST_S).returncode


if __name__ == "__main__":
    sys.exit(main())
