"""Files that were opened, said to the desktop: its list of recent files, `recently-used.xbel` of the XDG data folder.

The form is that of the Desktop Bookmark Specification of freedesktop.org (bookmarks in XBEL 1.0, the mime type and the
applications in its metadata), from memory; what others wrote there stays as it is.
"""

from __future__ import annotations

import os
from datetime import UTC, datetime
from pathlib import Path
from xml.etree.ElementTree import Element, ParseError, SubElement, register_namespace, tostring

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import fromstring

from pennello.disk import PRIVATE, exists, make_folder, read_bytes, write_bytes
from pennello.errors import FileProblemError
from pennello.phrases import phrase
from pennello.units import is_count

MIME = {
    ".pennello": "application/x-pennello-plan+json",
    ".pennello-day": "application/x-pennello-day+json",
    ".pennello-motif": "application/x-pennello-motif+json",
}
MOST_BYTES, MOST_OWN = 8_000_000, 30
"""Beyond that size the list is left alone; of Pennello's own files the newest so many stay in it."""

_BOOKMARK = "http://www.freedesktop.org/standards/desktop-bookmarks"
_MIME = "http://www.freedesktop.org/standards/shared-mime-info"
_OWNER, _NAME = "http://freedesktop.org", "pennello"


def recent_list() -> Path:
    """Return where the desktop keeps its list of recent files."""
    given = os.environ.get("XDG_DATA_HOME", "")
    return (Path(given) if given else Path.home() / ".local" / "share") / "recently-used.xbel"


def note_recent(path: Path, now: datetime, where: Path | None = None) -> bool:
    """Put a file of Pennello's first in the desktop's list; return whether that was done.

    A list that cannot be read, or not be written, is left as it is: it belongs to everybody.

    Parameters
    ----------
    now
        The time, with its zone.
    where
        The list; that of the desktop without it.
    """
    kind = MIME.get(path.suffix)
    target = where or recent_list()
    if kind is None:
        return False
    try:
        root = _read(target)
        if root is None:
            return False
        make_folder(target.parent)
        _put(root, path.resolve().as_uri(), kind, now)
        words = tostring(root, encoding="UTF-8", xml_declaration=True)
        write_bytes(words + b"\n", target, mode=PRIVATE)
    except (OSError, ValueError, FileProblemError):
        return False
    return True


def _read(target: Path) -> Element | None:
    """Return the list, an empty one where there is none; None where what is there is no such list."""
    try:
        there = exists(target) and target.stat().st_size > 0
        if not there:
            return Element("xbel", version="1.0")
        root: Element = fromstring(read_bytes(target, MOST_BYTES))
    except (ParseError, DefusedXmlException, OSError, FileProblemError, ValueError):
        return None
    return root if root.tag == "xbel" else None


def _put(root: Element, address: str, kind: str, now: datetime) -> None:
    register_namespace("bookmark", _BOOKMARK)
    register_namespace("mime", _MIME)
    stamp = now.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%S.%fZ")
    own = [one for one in root.findall("bookmark") if _is_own(one)]
    entry = next((one for one in root.findall("bookmark") if one.get("href") == address), None)
    if entry is None:
        entry = SubElement(root, "bookmark", href=address, added=stamp)
        for old in sorted(own, key=lambda one: one.get("visited", ""))[: max(len(own) + 1 - MOST_OWN, 0)]:
            root.remove(old)
    entry.set("modified", stamp)
    entry.set("visited", stamp)
    data = _child(_child(entry, "info"), "metadata", owner=_OWNER)
    _child(data, f"{{{_MIME}}}mime-type").set("type", kind)
    every = _child(data, f"{{{_BOOKMARK}}}applications")
    mine = _child(every, f"{{{_BOOKMARK}}}application", name=_NAME)
    count = mine.get("count", "0")
    mine.set("exec", phrase("'{name} %u'", name=_NAME))
    mine.set("modified", stamp)
    mine.set("count", str(int(count) + 1 if is_count(count) else 1))


def _child(parent: Element, tag: str, **known: str) -> Element:
    """Return the child of a tag with these attributes, made where there is none."""
    for one in parent.findall(tag):
        if all(one.get(key) == value for key, value in known.items()):
            return one
    return SubElement(parent, tag, known)


def _is_own(entry: Element) -> bool:
    names = {one.get("name") for one in entry.iter(f"{{{_BOOKMARK}}}application")}
    return names == {_NAME}
