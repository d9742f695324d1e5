"""Names of a plan in files of other kinds: no control signs, and nothing that a table takes for a formula."""

from __future__ import annotations

from xml.sax.saxutils import escape

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def printable(text: str) -> str:
    """Return text without signs that XML 1.0 and paper cannot hold; line breaks become blanks.

    >>> printable("a\\x00b\\nc")
    'ab c'
    """
    return "".join(
        " " if sign in "\t\r\n" else sign
        for sign in text
        if sign in "\t\r\n" or (sign >= " " and sign not in "\x7f\ufffe\uffff" and not "\ud800" <= sign <= "\udfff")
    )


def xml_text(text: str) -> str:
    """Return text for between two tags.

    >>> xml_text("<b>\\x00&")
    '&lt;b&gt;&amp;'
    """
    return escape(printable(text))


def guarded(cell: str) -> str:
    """Return a cell of a table; one that a table program would take for a formula gets a quote before it.

    >>> guarded("=1+1"), guarded("rose")
    ("'=1+1", 'rose')
    """
    return f"'{cell}" if _alone(cell).startswith(_FORMULA) else cell


def unguarded(cell: str) -> str:
    """Return a cell without the quote that `guarded` put before it.

    >>> unguarded("'=1+1"), unguarded("'tis"), unguarded(guarded("'-'"))
    ('=1+1', "'tis", "'-'")
    """
    return cell[1:] if cell.startswith("'") and _alone(cell).startswith(_FORMULA) else cell


def _alone(cell: str) -> str:
    """Return a cell without any quote before it: one that has quotes of its own gets one more, and comes back too."""
    return cell.lstrip("'")
