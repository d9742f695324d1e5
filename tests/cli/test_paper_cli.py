"""Paper by the command line: its size, its author, and all of a design in one file."""

from dataclasses import replace

import pytest
from lantern_face import demo_plan
from pypdf import PdfReader

from pennello.files.plan_json import write_plan
from pennello.kit.shelf import KitItem
from pennello.session.kit import KitSession
from pennello.session.settings import load_settings


@pytest.fixture
def plan(tmp_path):
    write_plan(demo_plan(), tmp_path / "plan.pennello")
    return tmp_path / "plan.pennello"


def test_a_card_is_written_for_letter_paper(ask, plan, tmp_path):
    ask("card", plan, "poppy-petal", "--pdf", tmp_path / "c.pdf", "--paper", "Letter", "--made-by", "Tide Painter")
    reader = PdfReader(tmp_path / "c.pdf")
    assert (reader.pages[0].mediabox.width, reader.pages[0].mediabox.height) == (612, 792)
    assert reader.metadata.author == "Tide Painter"
    with pytest.raises(SystemExit):
        ask("card", plan, "poppy-petal", "--pdf", tmp_path / "c.pdf", "--paper", "B5")


def test_a_name_for_the_pdf_is_taken_whole_or_refused(ask, plan, tmp_path):
    card = ("card", plan, "poppy-petal", "--pdf", tmp_path / "c.pdf", "--made-by")
    assert "at most 80 signs" in ask(*card, "x" * 81, code=2)
    with pytest.raises(SystemExit):
        ask(*card, "\udcff")
    assert not (tmp_path / "c.pdf").exists()


def test_all_of_a_design_is_handed_over(ask, plan, tmp_path):
    """The sheet, a card for each load, a label for each cake, the outlines: all that is needed without Pennello."""
    words = ask("hand-over", plan, "--chart", "hand", "--pdf", tmp_path / "all.pdf", "--age", "adult", "--seconds", 0)
    reader = PdfReader(tmp_path / "all.pdf")
    assert f"{len(reader.pages)} pages" in words
    text = "\n".join(page.extract_text() for page in reader.pages)
    placed = [one for one in demo_plan().motifs if one.chart == "hand"]
    for load in {load for one in placed for _, load in one.loads}:
        assert demo_plan().stroke(load).name in text
    assert "The pan from above" in text
    assert "A1 of" in text
    assert text.count("Cautions") >= 1


def test_words_are_told(ask):
    assert ask("glossary", "veil").startswith("veil: How widely")
    assert ask("glossary", "--json")["words"]["ITA"].startswith("Individual typology angle")
    assert "no word" in ask("glossary", "xyzzy", code=1)


def test_how_the_window_looks_is_asked_and_kept(ask):
    assert "Words 100 %, everything 100 %; light: as the desktop has it" in ask("looks")
    told = ask("looks", "--words", "150", "--light", "lamp", "--contrast", "more", "--motion", "less", "--unit", "in")
    assert "Words 150 %, everything 100 %; light: lamp; contrast: more; motion: less; lengths in in." in told
    kept = load_settings()
    assert (kept.text_percent, kept.theme, kept.more_contrast, kept.less_motion) == (150, "lamp", True, True)
    looks = ask("looks", "--light", "desktop", "--contrast", "usual", "--json")
    assert looks["theme"] == ""
    assert (looks["text_percent"], looks["more_contrast"], looks["less_motion"]) == (150, False, True)
    assert load_settings().theme == ""


def test_ones_own_kit_is_looked_through_once_there_is_one(ask, plan):
    """Cakes of the demo plan alone first; with a kit those of the kit as well, unless it is said that none shall be."""
    words = ("find-load", plan, "dahlia-petal", "--json")
    alone = ask(*words)
    session = KitSession()
    session.put("A cake of mine", [KitItem(replace(demo_plan().cakes[0], id="mine", name="Mine"))])
    session.close()
    with_kit, without = ask(*words), ask(*words, "--kit", "none")
    for told in (alone, with_kit, without):
        told.pop("seconds")
    assert without == alone
    assert with_kit["searched"] > alone["searched"]


def test_a_cake_of_ones_own_is_entered_by_its_stripes(ask, tmp_path):
    told = ask("kit", "cake", "Tide", "--stripe", "#f6f5f0=8=Foam of mine", "--stripe", "#1f6fb5=12", "--json")
    assert told["cake"]["id"] == "tide"
    assert [one["name"] for one in told["paints"]] == ["Foam of mine", "Tide, blue"]
    assert "HEX=MM" in ask("kit", "cake", "Tide", "--stripe", "red", code=2)
    assert "--stripe" in ask("kit", "cake", "Tide", code=2)
    assert "four numbers" in ask("kit", "cake", "Tide", "--picture", tmp_path / "x.png", code=2)
    ask("kit", "mine", "--brush", "flat-1")
    assert [one["id"] for one in ask("kit", "list", "--kind", "brush", "--json")["items"]] == ["flat-1"]
    assert [one["id"] for one in ask("kit", "list", "--kind", "cake", "--json")["items"]] == ["tide"]
    assert "no-such" in ask("kit", "mine", "--brush", "no-such", code=2)
