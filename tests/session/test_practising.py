"""With which load something is practised."""

import pytest

from pennello.design.on_chart import with_new_motif
from pennello.design.plan import Plan
from pennello.errors import UnknownNameError
from pennello.motif.place import Place
from pennello.session.practising import load_of


def test_a_load_is_practised_with_itself_and_a_piece_with_its_own(demo):
    other = demo.strokes[3].id
    assert load_of(demo, other) == other
    plan, name = with_new_motif(demo, "petal-ring", "face", Place(), "beetle-scale")
    assert load_of(plan, name) == "beetle-scale"
    assert load_of(demo, "") == demo.strokes[0].id


def test_without_any_load_there_is_nothing_to_practise():
    with pytest.raises(UnknownNameError, match="no load"):
        load_of(Plan(), "")
