"""Sentences as whole templates, in the language of the painter.

A sentence is written once, where it is made: a template in English with named places, and its plural beside it where
something is counted. Nothing is put together from parts of sentences, since other languages order them otherwise.

    phrase("{cake} holds {banned}, whose label does not allow {place}.", cake=..., banned=..., place=...)
    plural(len(files), "Took {first}; drop the other file.", "Took {first}; drop the other {count} files.", first=...)

Templates are collected by Babel (`make phrases`) and looked up by gettext. The language is the desktop's, or
`PENNELLO_LANGUAGE`; it is chosen once, when Pennello starts. `PENNELLO_LANGUAGE=long` makes every sentence 40 %
longer and marks it, so that what is cut, and what is no template, is seen.
"""

from __future__ import annotations

import gettext
import os
import re
import string
from collections.abc import Mapping
from enum import Enum
from functools import cache
from pathlib import Path

DOMAIN = "pennello"
LONG = "long"
"""The language that shows what is not translated and what has no room."""

FOLDER = Path(__file__).parent / "languages"
_GROWS = 0.4
_PLACE = re.compile(r"(\{[^{}]*(?:\{[^{}]*\}[^{}]*)*\}|\{\{|\}\}|<[^>]*>)")
_ACCENTS = str.maketrans("aeiouAEIOUncs", "áéíóúÁÉÍÓÚñçš")
_FILL = "äöüß"


def lengthened(template: str) -> str:
    """Return a template as a language with longer words might have it: marked at both ends, its places as they were.

    >>> lengthened("Save {name} as ...")
    '[Sávé {name} áš ... äöüß]'
    """
    parts = _PLACE.split(template)
    told = "".join(part if number % 2 else part.translate(_ACCENTS) for number, part in enumerate(parts))
    letters = sum(len(part) for part in parts[::2])
    more = max(round(letters * _GROWS) - 1, 1)
    head, tail = ("", told) if not told[:1].isspace() else (told[:1], told[1:])
    return f"{head}[{tail} {(_FILL * (more // len(_FILL) + 1))[:more]}]"


class _Long(gettext.NullTranslations):
    def gettext(self, message: str) -> str:
        return lengthened(message) if message.strip() else message

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return self.gettext(msgid1 if n == 1 else msgid2)


@cache
def _language() -> gettext.NullTranslations:
    wanted = os.environ.get("PENNELLO_LANGUAGE", "")
    if wanted == LONG:
        return _Long()
    return gettext.translation(DOMAIN, FOLDER, [wanted] if wanted else None, fallback=True)


def language() -> str:
    """Return the language of the sentences, as BCP 47 has it.

    >>> language()
    'en'
    """
    return str(_language().info().get("language", "en")).replace("_", "-")


def phrase(template: str, /, **places: object) -> str:
    """Return a sentence.

    Parameters
    ----------
    template
        The sentence in English, whole, with its places as `str.format` has them.
    places
        What stands in them.

    >>> phrase("{cake} is {wide:.1f} mm wide.", cake="Dusk", wide=40)
    'Dusk is 40.0 mm wide.'
    """
    told = _language().gettext(template)
    return _filled(told, template, places) if places else told


def plural(count: int, one: str, more: str, /, **places: object) -> str:
    """Return a sentence in which something is counted, in the form that the number asks for.

    Parameters
    ----------
    count
        How many; it stands at `{count}`.
    one, more
        The sentence in English for one and for any other number.

    >>> plural(1, "{count} petal", "{count} petals"), plural(5, "{count} petal", "{count} petals")
    ('1 petal', '5 petals')
    """
    written = one if count == 1 else more
    return _filled(_language().ngettext(one, more, count), written, {"count": count, **places})


def _filled(told: str, written: str, places: Mapping[str, object]) -> str:
    """Return a sentence with its places filled; as it is written where a translation names others."""
    try:
        return told.format(**places)
    except (KeyError, IndexError, ValueError):
        return written.format(**places)


def mark(text: str) -> str:
    """Return a name that is a code where it stands, as files have it, and that `told` translates where it is shown.

    >>> mark("nose tip")
    'nose tip'
    """
    return text


def told(name: str) -> str:
    """Return what a marked name is called.

    >>> told("nose tip")
    'nose tip'
    """
    return _language().gettext(name) if name else name


def named(one: Enum) -> str:
    """Return what a member of an enumeration is called; its value is a code, and in English its name.

    >>> class Way(Enum):
    ...     BACK = "back again"
    >>> named(Way.BACK)
    'back again'
    """
    return told(str(one.value))


def places_of(template: str) -> tuple[str, ...]:
    """Return the names of a template's places.

    >>> places_of("{cake} is {wide:.{digits}f} mm wide.")
    ('cake', 'wide', 'digits')
    """
    found: list[str] = []
    for _, name, spec, _ in string.Formatter().parse(template):
        if name:
            found.append(name.partition(".")[0].partition("[")[0])
        found += places_of(spec) if spec else ()
    return tuple(found)
