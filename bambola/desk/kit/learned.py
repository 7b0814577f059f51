"""What records have taught, in words: the time for each sort of work, and its uncertainty."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from bambola.core.book.came_out import HeldJoins
from bambola.core.wool.learning import Estimate
from bambola.core.wool.lessons import ChangedNumber
from bambola.language import N_, tr, trn

_SORTS = {
    "": N_("all work"),
    "core": N_("cores"),
    "coat": N_("coats"),
    "inset": N_("colours laid on"),
    "face": N_("the face"),
    "fur": N_("fur"),
    "join": N_("joins"),
    "pair": N_("pairs joined"),
    "blend": N_("blending joins"),
    "cut": N_("cutting wire"),
    "bend": N_("bending wire"),
    "fit": N_("setting eyes and the like"),
    "mark": N_("marking"),
    "check": N_("looking it over"),
    "finish": N_("smoothing"),
    "pattern": N_("cutting out"),
}


_NARROW = {
    "soft": N_("soft"),
    "medium": N_("medium"),
    "firm": N_("firm"),
    "hard": N_("hard"),
    "small": N_("small ones"),
    "middling": N_("middling ones"),
    "large": N_("large ones"),
}
"""Of what firmness and size."""


def hours_words(found: Estimate) -> str:
    """Return one learned number of the hours with its uncertainty and the number of steps or pieces behind
    it."""
    return trn(
        "{sort}: × {value:.2f} ({low:.2f} to {high:.2f}), from {n} at the clock",
        "{sort}: × {value:.2f} ({low:.2f} to {high:.2f}), from {n} at the clock",
        len(found.records),
        sort=_work_words(found),
        value=found.value,
        low=found.low,
        high=found.high,
    )


def _work_words(found: Estimate) -> str:
    """Return which work it is that an estimate of the hours is about."""
    sort, *narrow = found.what.split(":")[1:] or [""]
    named = [
        tr(_SORTS.get(sort, N_("other work"))),
        *(tr(_NARROW.get(word, word)) for word in narrow),
    ]
    return ", ".join(named)


LIKE = 0.01
"""What changes by less is not worth a line. Judged."""


def lesson_lines(changed: Iterable[ChangedNumber], wools: Mapping[str, str]) -> list[str]:
    """Return what numbers that are learned would change: each wool in a line of its own, all hours in one for
    more and one for less time. ``wools`` are the wools' names."""
    told = [lesson for lesson in changed if abs(lesson.times - 1) >= LIKE]
    hours = [lesson for lesson in told if lesson.found.what.partition(":")[0] == "pace"]
    lines = [_wool_words(lesson, wools) for lesson in told if lesson not in hours]
    more, less = (
        tr(", ").join(
            tr("{work} {n} %", work=_work_words(one.found), n=_percent(one)) for one in these
        )
        for these in ([h for h in hours if h.times > 1], [h for h in hours if h.times < 1])
    )
    if more:
        lines.append(tr("More time is planned: {works}.", works=more))
    if less:
        lines.append(tr("Less time is planned: {works}.", works=less))
    return list(dict.fromkeys(lines))


def _percent(lesson: ChangedNumber) -> int:
    return round(abs(lesson.times - 1) * 100)


def _wool_words(lesson: ChangedNumber, wools: Mapping[str, str]) -> str:
    found, n, more = lesson.found, _percent(lesson), lesson.times > 1
    kind, _, of = found.what.partition(":")
    wool = wools.get(found.wool, tr("All wool"))
    match kind:
        case "density":
            name = tr("{wool}, {firmness}", wool=wool, firmness=tr(_NARROW.get(of, of)))
            return (
                tr("{wool}: you felt it closer; its pieces weigh {n} % more.", wool=name, n=n)
                if more
                else tr("{wool}: you felt it looser; its pieces weigh {n} % less.", wool=name, n=n)
            )
        case "cover":
            return (
                tr("{wool}: you lay it thicker; its coats take {n} % more.", wool=wool, n=n)
                if more
                else tr("{wool}: you lay it thinner; its coats take {n} % less.", wool=wool, n=n)
            )
        case "loss":
            return (
                tr("{wool}: more of it is lost; {n} % more for that.", wool=wool, n=n)
                if more
                else tr("{wool}: less of it is lost; {n} % less for that.", wool=wool, n=n)
            )
        case _:
            return tr("{wool}: sizes of its loose bundles change.", wool=wool)


_JOINED = {
    "fringe": N_("Joins of wool alone"),
    "patch": N_("Joins under a patch"),
    "scarf": N_("Joins under a scarf of wool"),
    "peg": N_("Joins on a wire peg"),
    "wire": N_("Joins on wire"),
}


def held_words(found: HeldJoins) -> str:
    """Return how many joins of a kind held, and the credible share."""
    return tr(
        "{joins}: {held} of {of} held ({low:.0f} to {high:.0f} %)",
        joins=tr(_JOINED.get(found.kind, N_("Joins"))),
        held=found.held,
        of=found.of,
        low=found.low * 100,
        high=found.high * 100,
    )
