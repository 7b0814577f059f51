"""What a new size or pose raises about rows of parts, folded wire and held props; and what is usual otherwise
since a figure was saved."""

from __future__ import annotations

import math
from collections.abc import Container, Iterator
from typing import Literal

from bambola.core.balance import WARN_DEG, Remedy
from bambola.core.facts import (
    NOTHING,
    Degrees,
    Exact,
    Fact,
    Grams,
    Mm,
    Share,
    Value,
    fact,
    together,
)
from bambola.core.figure import Brief, Fitting, Part
from bambola.core.figure.questions import (
    Folding,
    GrowsWithAnswer,
    KeptAnswer,
    LaidAnswer,
    PiecesAnswer,
    Reach,
    ReachedAnswer,
    Repeated,
    SitsOn,
    SmallFace,
)
from bambola.core.figure.schools import OTHERWISE_BEFORE, ChoiceId
from bambola.core.order.choices import CHOICE_BY_ID
from bambola.core.plan.judging.findings import Findings, answer_among
from bambola.core.plan.making.at_size import FOLDED_MM
from bambola.core.plan.making.jobs import LINES_MM
from bambola.core.plan.making.reaching import MOST_LONGER, TOUCHES_MM, prop_gap
from bambola.core.plan.making.values import Notice, Option
from bambola.core.resize.faces import too_small
from bambola.core.resize.laws import OWN_WAY, row_count
from bambola.core.resize.solve import keeps_with
from bambola.core.solids.forms import support_distances
from bambola.core.solids.placement import PlacedFitting

ROW_SHARE = 0.15
"""A row is asked about when the figure changes by more than this. Judged. See craft.md, 2."""
BELOW_MM = 2.0
"""A prop that comes lower than the ground by no more than this is pressed up a little. Judged.
See craft.md, 2."""


def small_notices(found: Findings) -> Iterator[Notice]:
    """Yield all of these notices."""
    yield from _kept_size_offers(found)
    yield from _face_notices(found)
    yield from _row_notices(found)
    yield from _folding_offer(found)
    yield from _reach_questions(found)
    yield from _below_ground(found)


def _kept_size_offers(found: Findings) -> Iterator[Notice]:
    """Yield the offer that what sits on a held part keeps its size, or grows with the figure."""
    figure = found.resized.figure
    for part in figure.parts:
        sized = found.resized.parts[part.id]
        off = min(mm / (sized.base * sized.from_mm[name]) for name, mm in sized.to_mm.items())
        question = SitsOn(part.id)
        said = found.brief.choices.sits_on.get(part.id)
        if (abs(off - 1) <= OWN_WAY or sized.carries == sized.base) and said is None:
            continue
        sitting = [f.name for f in figure.fittings if f.part == part.id and f.follows != "hold"]
        was = found.resized.was
        sitting += [p.name for p in was.parts if p.parent == part.id and keeps_with(p, was)]
        if not sitting:
            continue
        options = (
            Option(GrowsWithAnswer.WITH, Fact("sits-on.with"), Fact("sits-on.with.effect")),
            Option(
                GrowsWithAnswer.FIGURE,
                Fact("sits-on.figure"),
                fact("sits-on.figure.effect", times=1 / off),
            ),
        )
        how = fact("sits-on.how", part=part.name, off=Share(off), sitting=tuple(sitting))
        told = how if said else together(how, Fact("sits-on.planned"))
        answer = answer_among(said, options)
        title = fact("sits-on", part=part.name)
        yield Notice(question.code, "note", part.id, title, told, options, answer)


def _face_notices(found: Findings) -> Iterator[Notice]:
    """Yield pieces of a face that are too small to be made, and what a larger face gains."""
    figure, was = found.resized.figure, found.resized.was
    for part in figure.parts:
        if not was.by_id[part.id].places:
            continue
        drawn = was.by_id[part.id].replaced(shape=part.shape)
        gone = too_small(drawn, figure.fittings, figure.parts)
        if not gone:
            continue
        question, names = SmallFace(part.id), {p.id: p.display_name for p in drawn.places}
        options = (
            Option(
                PiecesAnswer.WITHOUT, Fact("small-face.without"), Fact("small-face.without.effect")
            ),
            Option(PiecesAnswer.KEPT, Fact("small-face.kept"), Fact("small-face.kept.effect")),
        )
        told = fact("small-face.how", part=part.name, pieces=tuple(names[id] for id in gone))
        answer = answer_among(found.brief.choices.small_faces.get(part.id), options)
        title = fact("small-face", part=part.name)
        yield Notice(question.code, "note", part.id, title, told, options, answer)


def _below_ground(found: Findings) -> Iterator[Notice]:
    """Yield props that would hang lower than the ground."""
    placement = found.solids.placement
    if placement.figure.stance == "hanging":
        return
    lowest: dict[str, tuple[float, Fitting]] = {}
    for placed in placement.fittings:
        fitting = placed.fitting
        if fitting.kind in ("prop", "bell") and _may_reach(placed, placement.ground - BELOW_MM):
            low = _lowest_point(placed)
            if low <= lowest.get(fitting.id, (low, fitting))[0]:
                lowest[fitting.id] = low, fitting
    for prop, (low, fitting) in lowest.items():
        deep = placement.ground - low
        if deep > BELOW_MM:
            title = fact("below-ground", prop=fitting.name)
            how = fact("below-ground.how", deep=Mm(deep))
            yield Notice(f"below-ground:{prop}", "note", fitting.part, title, how)


def _may_reach(placed: PlacedFitting, low: float) -> bool:
    """Return whether a placed fitting could reach that low (mm) in any rotation: a quick test."""
    up, at = float(placed.matrix[2, 2]), float(placed.matrix[2, 3])
    return any(
        at + piece.at * up - math.hypot(*piece.shape.measures().values()) < low
        for piece in placed.fitting.pieces
    )


def _lowest_point(placed: PlacedFitting) -> float:
    """Return the height of the lowest point of a placed fitting, mm in the figure's axes."""
    up, at = placed.matrix[2, :3], float(placed.matrix[2, 3])
    return min(
        at + piece.at * float(up[2]) - float(support_distances(piece.shape, -up[None])[0])
        for piece in placed.fitting.pieces
    )


def _row_notices(found: Findings) -> Iterator[Notice]:
    for part in found.resized.was.parts:
        s = found.resized.parts[part.id].base
        if part.row is None or abs(s - 1) < ROW_SHARE:
            continue
        question = Repeated(part.id)
        now = found.resized.figure.by_id[part.id].row
        sides = found.counts[part.id] // (now.count if now else 1)
        options = tuple(_row_options(part, part.row.count, s, sides))
        yield Notice(
            question.code,
            "choose",
            part.id,
            fact("row", part=part.plural or part.name),
            fact("row.how", n=part.row.count * sides, was=Mm(_longest_side(part)), times=s),
            options,
            answer_among(found.brief.choices.rows.get(part.id), options),
        )


def _row_options(part: Part, count: int, s: float, sides: int) -> Iterator[Option]:
    long, thin = _longest_side(part), part.shape.smallest_mm * s < LINES_MM
    for kept in KeptAnswer:
        if kept == KeptAnswer.FEWER and not thin:
            continue
        size = long if kept == KeptAnswer.SIZE else long * s
        effect = fact("row.effect", n=row_count(count, s, kept) * sides, size=Mm(size))
        yield Option(kept, Fact(f"row.{kept}"), effect)


def _longest_side(part: Part) -> float:
    return max(part.shape.extents())


def _folding_offer(found: Findings) -> Iterator[Notice]:
    """Yield the offer of one folded wire: the drawn ones can be made, only less easily."""
    if found.folds:
        question = Folding(found.resized.was.id)
        options = tuple(
            Option(laid, Fact(f"folding.{laid}"), Fact(f"folding.{laid}.effect"))
            for laid in LaidAnswer
        )
        told = fact("folding.how", under=Mm(FOLDED_MM))
        answer = answer_among(found.brief.choices.folding.get(found.resized.was.id), options)
        yield Notice(question.code, "note", None, Fact("folding"), told, options, answer)


def _reach_questions(found: Findings) -> Iterator[Notice]:
    """Yield a question for props that an arm held as made and no longer reaches."""
    placement = found.solids.placement
    if found.resized.even and all(f.follows == "scale" for f in placement.figure.fittings):
        return
    names = {fitting.id: fitting.name for fitting in placement.figure.fittings}
    for prop, parts in found.held.items():
        gap, part = max((prop_gap(placement, prop, part), part) for part in parts)
        question = Reach(prop)
        said = found.brief.choices.reaches.get(prop)
        if gap <= TOUCHES_MM and said is None:
            continue
        longer = fact("reach.longer.effect", times=MOST_LONGER)
        options = (
            Option(ReachedAnswer.LONGER, Fact("reach.longer"), longer),
            Option(ReachedAnswer.LEAVE, Fact("leave"), Fact("reach.leave.effect")),
        )
        name = placement.figure.by_id[part].name
        title = fact("reach", part=name, prop=names[prop])
        told = fact("reach.how", gap=Exact(gap))
        answer = answer_among(said, options)
        yield Notice(question.code, "choose", part, title, told, options, answer)


def changed_defaults(brief: Brief, choices: Container[ChoiceId]) -> Iterator[Notice]:
    """Return a note for an older figure on ``choices`` it left open whose usual way has changed since."""
    changed = [
        CHOICE_BY_ID[choice]
        for choice in OTHERWISE_BEFORE
        if brief.from_before and choice in choices and choice not in brief.schools
    ]
    if changed:
        ways = tuple(
            fact("now-usual.way", what=c.name, how=c.school_name(c.default)) for c in changed
        )
        yield Notice("now-usual", "note", None, Fact("now-usual"), fact("now-usual.how", ways=ways))


def standing_notices(found: Findings) -> Iterator[Notice]:
    """Yield at most one notice: it falls, barely stands, or is less steady than wished."""
    if found.resized.figure.stance == "hanging":
        return
    balance, angle = found.balance, found.balance.tip_angle_deg
    ways = [fact("remedy.sentence", remedy=remedy_fact(remedy)) for remedy in balance.remedies]
    over = fact("standing.over", side=balance.towards) if balance.towards else NOTHING
    slots: dict[str, Value] = {
        "over": over,
        "lean": Degrees(angle),
        "wished": Degrees(found.brief.steady),
    }
    if not balance.stands:
        level: Literal["stop", "note"] = "stop"
        kind = "standing.falls"
    elif angle < WARN_DEG:
        level, kind = "note", "standing.nudge"
    elif angle < found.brief.steady:
        level, kind = "note", "standing.less"
    else:
        return
    yield Notice("standing", level, None, Fact(kind), together(fact(f"{kind}.how", **slots), *ways))


def remedy_fact(remedy: Remedy) -> Fact:
    """Return the fact that says what would make it stand."""
    match remedy.kind:
        case "feet" | "underside":
            return fact(f"remedy.{remedy.kind}", times=remedy.value)
        case "ballast":
            return fact("remedy.ballast", weight=Grams(remedy.value))
        case "contact":
            return fact("remedy.contact", away=Mm(remedy.value))
        case "stand":
            return fact("remedy.stand", across=Mm(remedy.value))
