"""What a painter types for a chart or a motif: its key, its name, or as much of it as tells it from the others."""

from __future__ import annotations

import re
from collections.abc import Mapping

from pennello.chart.catalogue import CHARTS
from pennello.motif.catalogue import KNOWN, MOTIFS


def meant(said: str, names: Mapping[str, str]) -> str:
    """Return the key that is meant, or what was said where none is or several are.

    Parameters
    ----------
    names
        By key what it is called.

    >>> meant("Rose, outside in", {"rose-outside-in": "Rose, outside in", "bud": "Bud"})
    'rose-outside-in'
    >>> meant("plume", {"feather": "Feather, plume", "fin": "Fin"})
    'feather'
    """
    word = _plain(said)
    if said in names or not word:
        return said
    known = {key: (_plain(key), _plain(name)) for key, name in names.items()}
    for fits in (_is, _begins, _holds):
        found = [key for key, told in known.items() if any(fits(one, word) for one in told)]
        if found:
            return found[0] if len(found) == 1 else said
    return said


def chart_key(said: str) -> str:
    """Return the key of a chart."""
    return meant(said, {key: name for key, (name, _) in CHARTS.items()})


def motif_key(said: str) -> str:
    """Return the key of a motif."""
    key = meant(said, {key: kind.name for key, kind in MOTIFS.items()})
    return key if key in MOTIFS else meant(said, {key: kind.name for key, kind in KNOWN.items()})


def _plain(text: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", text.lower()).strip("-")


def _is(name: str, word: str) -> bool:
    return name == word


def _begins(name: str, word: str) -> bool:
    return name.startswith(word)


def _holds(name: str, word: str) -> bool:
    return f"-{word}-" in f"-{name}-"
