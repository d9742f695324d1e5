"""`python -m pennello` and `pennello`: the window without a verb, else the command line."""

from __future__ import annotations

import sys

from pennello.cli.main import run


def _open_window(path: str | None, demo: bool) -> int:  # noqa: FBT001
    from pennello.ui.app import open_window  # noqa: PLC0415 - Qt only when a window is wanted

    return open_window(path, demo=demo)


def main() -> int:
    """Run Pennello and return its exit code."""
    return run(sys.argv[1:], _open_window)


if __name__ == "__main__":
    sys.exit(main())
