"""The words that painters and Pennello use, each in a sentence: one meaning for each word, everywhere.

Words of the trade are common practice, with no published source; those of colour science name theirs.
"""

from __future__ import annotations

from collections.abc import Mapping

from pennello.phrases import phrase

GLOSSARY: Mapping[str, str] = {
    phrase("another colour"): phrase("A difference of 6 or more (dE): everybody sees two colours."),
    phrase("bag"): phrase(
        "What has to be packed for an event, held against the kit; lines that the kit covers tick themselves."
    ),
    phrase("base"): phrase("Paint that goes under everything else, mostly by a sponge."),
    phrase("blot"): phrase("Take wet paint off the brush on a towel before the next pick-up."),
    phrase("board"): phrase(
        "At the Day: the menu that hangs beside the table; today's board says who waits and who is painted."
    ),
    phrase("cake"): phrase(
        "A pan of parallel colour stripes (a split cake); a brush across it takes several colours at once."
    ),
    phrase("cannot be told apart"): phrase("A difference below 1 (dE): nobody sees it, not even side by side."),
    phrase("caution"): phrase(
        "What has to be asked, minded or left. Labels, local rules and licensed practice decide."
    ),
    phrase("chart"): phrase("The person as a drawing at true size, or your own photo, on which strokes lie."),
    phrase("chisel"): phrase("The working edge of a flat brush, from corner A to corner B."),
    phrase("coat"): phrase("How thick paint stands on the skin, in micrometres (µm)."),
    phrase("colourway"): phrase("The same design in other colours, light rims kept light."),
    phrase("corner"): phrase("An end of the chisel: A and B. Which of them is the rim is chosen on the Bench."),
    phrase("creamy"): phrase("As wet as paint should be: no bubbles, no drag."),
    phrase("dE"): phrase(
        "The figure of a colour difference (CIEDE2000, ISO/CIE 11664-6). The words before it say what it means."
    ),
    phrase("dip"): phrase("Touch paint with the tip alone, so that the tip has another colour than the belly."),
    phrase("drift"): phrase("How far the sweeps wander sideways on the cake; it blurs the boundaries."),
    phrase("echo"): phrase("A part laid again and again along a line, smaller, to the other side by turns."),
    phrase("ferrule"): phrase("The metal that holds the bristles."),
    phrase("film"): phrase("The paint on the skin, with its thickness, wet or dry."),
    phrase("flip"): phrase("Turn the brush half round, so that its corners change sides."),
    phrase("forgiving"): phrase("How many of 400 tries still hold when the hand slips as hands do."),
    phrase("guide"): phrase("A line that something goes along: a frame of the chart, or a line that you drew."),
    phrase("habit"): phrase("How the strokes of a part belong together: in one go, row by row, when dry, while wet."),
    phrase("heel"): phrase("The edge of a stroke near the pivot, away from the rim."),
    phrase("hold"): phrase(
        "How the brush is held and led: upright, round the heel, on the rim, chisel-push-chisel, square."
    ),
    phrase("ITA"): phrase(
        "Individual typology angle: how light a skin is, from very light (over 55°) to dark (below -30°)."
    ),
    phrase("kit"): phrase("The paints, cakes, brushes and sponges that you own: the Tray."),
    phrase("light of the place"): phrase(
        "Daylight, dusk, lantern or LED lamp: what paint and skin look like to an eye that is used to it (CIE; CAT16)."
    ),
    phrase("line work"): phrase("Thin strokes in one colour over the loaded strokes."),
    phrase("load"): phrase("What one visit to the cake puts on the brush."),
    phrase("mend"): phrase("One change that would make a stroke come nearer to what you want; a click makes it."),
    phrase("menu"): phrase("The designs that are offered at an event."),
    phrase("minutes"): phrase("How long a design takes as the Order says, at your pace once runs have told it."),
    phrase("motif"): phrase(
        "A flower, leaf, wing or the like that is made of strokes by its numbers: petals, size, spread."
    ),
    phrase("must, nice, skip"): phrase(
        "What of a design has to be there, adds to it, or goes first when the queue is long."
    ),
    phrase("only side by side"): phrase("A difference from 1 to 3 (dE): seen only with both beside each other."),
    phrase("own"): phrase("Your motifs, your hand, your pace: what Pennello learnt from you."),
    phrase("pace"): phrase("How fast you are, step by step, from runs at the chair; the default until then."),
    phrase("pale"): phrase("What a stroke is when the load runs out; time for the next load."),
    phrase("part"): phrase("What you would name in a design: the rose, the left wing. Pieces belong to parts."),
    phrase("pick-up"): phrase("One thing that is taken on the brush on the way to a load: a window, a dip, a touch."),
    phrase("piece"): phrase("One thing on a chart: a motif, a stroke, some lines."),
    phrase("plan"): phrase("The whole design with all that it is laid with; the file."),
    phrase("release"): phrase("How readily a brush gives its paint to the skin."),
    phrase("residue"): phrase("Paint that is left in the brush from before."),
    phrase("rib"): phrase("A thin line across a stroke that shows how the chisel lies there."),
    phrase("rim"): phrase("The edge of a stroke that lies away from the motif's centre."),
    phrase("run"): phrase("Painting by the cards at the chair, one step after another, with the clock."),
    phrase("seen"): phrase("A difference from 3 to 6 (dE): seen when one looks for it."),
    phrase("short form"): phrase(
        "The design as it is when the queue is long: fewer petals, no lights, without what may be skipped."
    ),
    phrase("stage"): phrase("A step of the sheet or of the run: what is laid before the next load or wait."),
    phrase("stripe"): phrase("One colour of a cake."),
    phrase("sweep"): phrase("One stroke of the brush over the cake, back or forth, to load it."),
    phrase("tacky"): phrase("Neither wet nor dry: when glitter sticks."),
    phrase("touch"): phrase("One or two last sweeps with one corner over a third colour."),
    phrase("turned"): phrase("How far the brush is twisted on the cake, in degrees."),
    phrase("twin"): phrase("The mirror image of a piece across the midline, painted with it and following it."),
    phrase("veil"): phrase("How widely 8 of 10 real loads hand one colour over to the next."),
    phrase("verdict"): phrase("The sentence that says whether a stroke holds, is close or misses, and why."),
    phrase("window"): phrase("The stretch of cake that the brush straddles."),
    phrase("wish"): phrase("The colours that a stroke should have from rim to heel; the verdict is held against it."),
    phrase("worn out"): phrase("A stripe so hollow that the brush reaches it no more."),
}
"""Words in the order of the alphabet."""


def found_words(text: str) -> tuple[tuple[str, str], ...]:
    """Return the words that hold a text, those that begin with it first; all of them for "".

    >>> [word for word, _ in found_words("side by side")]
    ['only side by side', 'cannot be told apart']
    """
    wanted = text.strip().lower()

    def rank(word: str) -> int:
        lower = word.lower()
        return 0 if lower.startswith(wanted) else 1 if wanted in lower else 2

    held = [(word, told) for word, told in GLOSSARY.items() if wanted in word.lower() or wanted in told.lower()]
    return tuple(sorted(held, key=lambda one: rank(one[0])))
