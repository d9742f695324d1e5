"""The usual cautions of the trade over a plan and a person's answers (common practice, no published source).

They are shown and recorded, each with its reason. They certify nothing: labels, local rules and licensed practice
decide.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence

from pennello.caution.person import AgeBand, Person, Said, SkinSays
from pennello.design.chart_checks import odd_on
from pennello.design.marks import Gem, Glitter
from pennello.design.odd import NEAR_MM, ZONE_NEAR
from pennello.design.on_chart import chart_of, charts_used
from pennello.design.plan import Plan
from pennello.design.touch import layer_shape, zone_shape
from pennello.finding import Code, Finding, Level
from pennello.kit.paint import Finish, Near, Paint
from pennello.phrases import phrase

DECIDE = phrase("Labels, local rules and licensed practice decide; Pennello certifies nothing.")

ARMS = ("forearm", "forearm-right", "hand", "hand-left")
"""Charts that are no place for paint on a small child (common practice: arm or hand at most, or none)."""


def cautions(plan: Plan, person: Person, chart: str = "", expired: Sequence[str] = ()) -> tuple[Finding, ...]:
    """Return the cautions for a chart of a plan, or all of it (""), and a person; the heaviest first.

    Parameters
    ----------
    expired
        Names of products of the painter's kit that are past their date.
    """
    return weighed(cautions_of_plan(plan, chart, expired), cautions_of_person(person, charts_painted(plan, chart)))


def charts_painted(plan: Plan, chart: str = "") -> tuple[str, ...]:
    """Return the charts of a plan that are painted: the one that is asked for, or all of them ("")."""
    return tuple(key for key in charts_used(plan) if not chart or key == chart)


def cautions_of_plan(plan: Plan, chart: str = "", expired: Sequence[str] = ()) -> tuple[Finding, ...]:
    """Return what a plan asks for, whoever is painted; all that it touches is looked at, which takes a while."""
    charts = charts_painted(plan, chart)
    return (*_products(plan, charts, expired), *_glitter(plan, charts))


def cautions_of_person(person: Person, charts: Sequence[str]) -> tuple[Finding, ...]:
    """Return what a person's answers ask for where these charts are painted, and what is always asked."""
    return (*_person(person, charts), *_always())


def weighed(*found: Iterable[Finding]) -> tuple[Finding, ...]:
    """Return cautions together, the heaviest first."""
    weight = list(Level)
    return tuple(sorted((one for ones in found for one in ones), key=lambda one: weight.index(one.level)))


def _used(plan: Plan, charts: Sequence[str]) -> list[str]:
    """Return the strokes whose loads are used: those of the motifs, or all of a plan without motifs."""
    if not plan.motifs:
        return [stroke.id for stroke in plan.strokes]
    return list(dict.fromkeys(name for placed in plan.motifs if placed.chart in charts for _, name in placed.loads))


def _products(plan: Plan, charts: Sequence[str], expired: Sequence[str]) -> Iterator[Finding]:
    used = _used(plan, charts)
    paints = {name: plan.paint(name) for stroke in used for name in plan.edge(stroke).paints}
    yield from _unfit(paints.values(), expired)
    yield from _where_labels_matter(plan, charts, used, paints)
    neon = [paint.name for paint in paints.values() if paint.finish is Finish.NEON]
    if neon:
        yield _told(
            Code.NEON,
            phrase("Look at the label of {neon} before it goes near an eye or lips.", neon=", ".join(neon)),
            phrase("Many neon colours are not permitted there."),
        )


def _unfit(paints: Iterable[Paint], expired: Sequence[str]) -> Iterator[Finding]:
    """Tell which paints are not for skin, or past their date."""
    for paint in paints:
        if not paint.skin:
            yield _told(
                Code.NOT_FOR_SKIN,
                phrase("{paint} is not marked for skin; take another.", paint=paint.name),
                phrase("Only cosmetic products made for skin go on skin; no craft paint."),
                paint.id,
            )
        elif paint.name in expired or paint.id in expired:
            yield _told(
                Code.EXPIRED,
                phrase("{paint} is past its date; take a fresh one.", paint=paint.name),
                phrase("Old products may carry germs or have changed."),
                paint.id,
            )


def _where_labels_matter(
    plan: Plan, charts: Sequence[str], used: Iterable[str], paints: Mapping[str, Paint]
) -> Iterator[Finding]:
    """Tell what comes near eyes or lips that its label does not allow there."""
    for name in used:
        stroke = plan.stroke(name)
        if stroke.near is Near.SKIN:
            continue
        place = phrase("the eye area") if stroke.near is Near.EYE else phrase("lips")
        for paint in (paints[one] for one in plan.edge(name).paints if not paints[one].allowed(stroke.near)):
            yield _label(phrase("{paint} in {stroke}", paint=paint.name, stroke=stroke.name), place, name)
    for key in charts:
        for odd in odd_on(plan, key):
            if odd.code is Code.LABEL:
                yield _told(
                    Code.LABEL,
                    odd.text,
                    phrase("Near eyes and lips only what its label allows there."),
                    odd.piece,
                )


def _label(what: str, place: str, about: str) -> Finding:
    return _told(
        Code.LABEL,
        phrase(
            "{what} is not marked for {place}; take another, its label and local rules decide.", what=what, place=place
        ),
        phrase("Near eyes and lips only what its label allows there."),
        about,
    )


def _glitter(plan: Plan, charts: Sequence[str]) -> Iterator[Finding]:
    loose = [one for one in plan.overlays if isinstance(one, Glitter | Gem) and one.chart in charts]
    for one in loose:
        for zone in chart_of(plan, one.chart).zones:
            if zone.kind in ZONE_NEAR and layer_shape(one).distance(zone_shape(zone)) <= NEAR_MM:
                place = phrase("the lips") if zone.kind == "lips" else phrase("an eye")
                yield _told(
                    Code.GLITTER_NEAR,
                    phrase(
                        "{one} comes within {near_mm:.0f} mm of {place}; move it or leave it out.",
                        one=one.name,
                        near_mm=NEAR_MM,
                        place=place,
                    ),
                    phrase("Neither glitter nor gems go to the lash line or on lips."),
                    one.name,
                )
                break
    if any(isinstance(one, Gem) for one in loose):
        yield _told(
            Code.GEMS,
            phrase("Ask before gems, and stick them on only with what their label names for skin."),
            phrase("Glue can irritate skin, and small children put small parts into the mouth."),
        )
    if any(isinstance(one, Glitter) for one in loose):
        yield _told(
            Code.GLITTER,
            phrase("Ask before glitter, and use cosmetic-grade glitter only."),
            phrase("Craft and plastic craft glitter can scratch an eye; not everybody wants glitter."),
        )


def _person(person: Person, charts: Sequence[str]) -> Iterator[Finding]:
    asks = {
        "age": (person.age is AgeBand.UNKNOWN, phrase("how old the person is")),
        "allergy": (person.allergy is Said.UNKNOWN, phrase("about allergies")),
        "asthma": (person.asthma is Said.UNKNOWN, phrase("about asthma")),
        "ill": (person.ill is Said.UNKNOWN, phrase("about recent illness")),
        "skin": (person.skin is SkinSays.UNKNOWN, phrase("about the skin, and look at it")),
        "consent": (person.consent is Said.UNKNOWN, phrase("whether the person agrees")),
        "parent": (person.age.minor and person.parent is Said.UNKNOWN, phrase("a parent")),
    }
    for code, (open_, words) in asks.items():
        if open_:
            yield _told(
                Code[f"ASK_{code}".upper()],
                phrase("Ask {words}.", words=words),
                phrase("What is not asked is not known."),
            )
    if person.consent is Said.NO or (person.age.minor and person.parent is Said.NO):
        who = phrase("The person") if person.consent is Said.NO else phrase("The parent")
        yield _told(
            Code.CONSENT, phrase("{who} does not agree: no paint.", who=who), phrase("Nobody is painted against a no.")
        )
    yield from _what_the_person_has(person)
    if person.age is AgeBand.SMALL:
        elsewhere = not charts or any(chart not in ARMS for chart in charts)
        yield Finding(
            Code.SMALL_CHILD,
            phrase("Arm or hand at most, or none.") if elsewhere else phrase("Keep it small and quick, or leave it."),
            reason=phrase("Skin of small children is thin, and hands go to eyes and mouth."),
            weighs=Level.STOP if elsewhere else Level.ASK,
        )


def _what_the_person_has(person: Person) -> Iterator[Finding]:
    """Tell what broken or sensitive skin, allergies, asthma and an illness ask for."""
    if person.skin is SkinSays.BROKEN:
        yield _told(
            Code.BROKEN_SKIN,
            phrase("No paint on broken or infected skin, cold sores or stitches."),
            phrase("Paint and tools carry infection in and on."),
        )
    if person.skin is SkinSays.SENSITIVE:
        yield _told(
            Code.SENSITIVE, phrase("Try a patch first, well ahead, or leave it."), phrase("Skin that reacts reacts.")
        )
    if person.allergy is Said.YES:
        yield _told(
            Code.ALLERGY,
            phrase("Read the label together and leave out what it names; if unsure, do not paint."),
            phrase("A patch test well ahead tells more; another place on the body is no remedy for an allergy."),
        )
    if person.asthma is Said.YES:
        yield _told(
            Code.ASTHMA, phrase("No loose glitter or powder near the face."), phrase("Dust in the air can set it off.")
        )
    if person.ill is Said.YES:
        yield _told(Code.ILL, phrase("Paint another day."), phrase("An illness may be passed on."))


def _always() -> Iterator[Finding]:
    for code, text, reason in (
        (
            "clean_tools",
            phrase(
                "One clean sponge and swab a person, then the wash bag; clean brushes, fresh rinse water, clean hands."
            ),
            phrase("Nothing goes from one face to the next."),
        ),
        (
            "decant",
            phrase("Decant what goes on lips."),
            phrase("A brush that was at a mouth does not go back into the pan."),
        ),
        (
            "no_blowing",
            phrase("Never blow on a face: wait, work elsewhere, use clean moving air."),
            phrase("Breath carries germs."),
        ),
        (
            "removal",
            phrase("Say how it comes off: soap, water, a soft cloth."),
            phrase("Taking it off is part of the plan."),
        ),
    ):
        yield _told(Code[code.upper()], text, reason)


def _told(code: Code, text: str, reason: str, about: str = "") -> Finding:
    return Finding(code, text, piece=about, reason=reason)
