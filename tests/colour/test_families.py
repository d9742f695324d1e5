"""Colour words: the space against a reference library, the borders against the colour names of CSS."""

import numpy as np
import pytest
from PySide6.QtGui import QColor

from pennello.colour.families import ColourFamily, chroma_of, families_of, oklab
from pennello.colour.lab import hex_to_lab

_FAMILIES = {
    **{family.value: family for family in ColourFamily if family is not ColourFamily.GREY},
    "gray": ColourFamily.GREY,
}
_OTHERWISE = {  # CSS names whose last word is another family's here; all lie at a border
    *("cadetblue", "powderblue", "lightseagreen", "mediumvioletred", "palevioletred", "sandybrown", "rosybrown"),
    *("brown", "aliceblue", "greenyellow", "navajowhite"),
}


def test_oklab_against_colour_science():
    """Oracle: colour-science, XYZ_to_Oklab [Ottosson2020]; its white differs from ours in the fourth place."""
    colour = pytest.importorskip("colour")
    rng = np.random.default_rng(3)
    for text in (f"#{r:02x}{g:02x}{b:02x}" for r, g, b in rng.integers(0, 256, (40, 3))):
        rgb = np.array(QColor(text).getRgbF()[:3])  # type: ignore[index]
        theirs = colour.XYZ_to_Oklab(colour.sRGB_to_XYZ(rgb))
        assert oklab(hex_to_lab(text)) == pytest.approx(theirs, abs=2e-3)


def test_css_names_end_in_their_family():
    """Source: the named colours of CSS [CSSColor4], as Qt carries them."""
    names = [name for name in QColor.colorNames() if any(name.endswith(word) for word in _FAMILIES)]
    wrong = [
        name
        for name in names
        if not any(
            name.endswith(word) and families_of(hex_to_lab(QColor(name).name())[None])[0] is family
            for word, family in _FAMILIES.items()
        )
    ]
    assert len(names) > 60
    assert set(wrong) <= _OTHERWISE


def test_greys_have_no_hue():
    greys = np.array([[light, 0.0, 0.0] for light in (0, 10, 50, 95, 100)])
    assert chroma_of(greys) == pytest.approx(0, abs=2e-3)
    assert families_of(greys) == (
        ColourFamily.BLACK,
        ColourFamily.BLACK,
        ColourFamily.GREY,
        ColourFamily.WHITE,
        ColourFamily.WHITE,
    )
    assert all(family.neutral for family in families_of(greys))
    assert not ColourFamily.BLUE.neutral
