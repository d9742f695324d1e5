"""`python -m pennello` and `pennello`: the window without a verb, else the command line."""

from __future__ import annotations

import gc
import os
import signal
import sys
from importlib import import_module
from types import TracebackType

from pennello.cli.main import is_somewhere, run
from pennello.phrases import phrase


def _open_window(path: str | None, demo: bool) -> int:  # noqa: FBT001
    signal.signal(signal.SIGINT, signal.SIG_DFL)  # an exception amid the imports of Qt would be lost in them
    if not is_somewhere():
        os.chdir(os.sep)  # parts of what is imported ask where they are
    gc.disable()  # nothing is thrown away until the window is there; it is turned on again then
    # The core first: Qt's import hook reads the source of every module that is imported after it.
    for name in ("files.demo", "session.autosave", "session.forecast", "session.settings"):
        import_module(f"pennello.{name}")
    from pennello.ui.app import open_window  # noqa: PLC0415 - Qt only when a window is wanted

    return open_window(path, demo=demo)


def _one_line(kind: type[BaseException], error: BaseException, _trace: TracebackType | None) -> None:
    sys.stderr.write(
        phrase(
            "pennello: this should not have happened ({kind}: {error}); nothing was changed.\n",
            kind=kind.__name__,
            error=error,
        )
    )


def main() -> int:
    """Run Pennello and return its exit code."""
    if "PENNELLO_DEBUG" not in os.environ:
        sys.excepthook = _one_line
    return run(sys.argv[1:], _open_window)


if __name__ == "__main__":
    sys.exit(main())
