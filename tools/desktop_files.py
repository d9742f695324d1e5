"""Makes what is worked out for a desktop: icons of all sizes, the man page, completions.  desktop_files.py SHARE"""

from __future__ import annotations

import gzip
import re
import sys
from argparse import ArgumentParser
from pathlib import Path

import shtab
from argparse_manpage.manpage import Manpage
from PySide6.QtGui import QGuiApplication

from pennello import __version__
from pennello.cli.main import make_parser
from pennello.ui.theme.icons import app_picture

SIZES = (16, 22, 24, 32, 48, 64, 96, 128, 256, 512)
COMPLETIONS = (
    ("bash", "bash-completion/completions/pennello"),
    ("zsh", "zsh/site-functions/_pennello"),
    ("tcsh", "tcsh/completions/pennello.csh"),
)


def write_icons(share: Path) -> None:
    """Draw the icon at all sizes."""
    for size in SIZES:
        target = share / "icons" / "hicolor" / f"{size}x{size}" / "apps" / "pennello.png"
        target.parent.mkdir(parents=True, exist_ok=True)
        if not app_picture(size).save(str(target)):
            sys.exit(f"{target} cannot be written")


def man_page(parser: ArgumentParser) -> bytes:
    """Return the man page of all verbs, packed."""
    data = {
        "project_name": "pennello",
        "prog": "pennello",
        "version": __version__,
        "authors": ["The Pennello developers"],
        "description": "Predicts what a loaded brush lays, for face painters",
        "long_description": parser.description,
        "url": "",
        "manual_section": 1,
        "manual_title": "Pennello",
        "format": "single-commands-section",
    }
    page = re.sub(r"^'", r"\\(aq", str(Manpage(parser, data)), flags=re.MULTILINE)  # a line that begins so is a macro
    return gzip.compress(page.encode(), 9, mtime=0)


def main() -> None:
    """Write all of it."""
    share = Path(sys.argv[1])
    app = QGuiApplication(["desktop_files", "-platform", "offscreen"])
    write_icons(share)
    parser = make_parser()
    page = share / "man" / "man1" / "pennello.1.gz"
    page.parent.mkdir(parents=True, exist_ok=True)
    page.write_bytes(man_page(parser))
    for shell, place in COMPLETIONS:
        target = share / place
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_text(shtab.complete(parser, shell=shell))
    app.quit()


if __name__ == "__main__":
    main()
