"""The actions on a piece, in order: first needle work, then hiding, then cutting; adding comes last."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from bambola.core.bench import Bench
from bambola.core.facts import Exact, Fact, Grams, Mm, RefusedError, Value, fact
from bambola.core.frozen import frozen
from bambola.core.plan import Plan
from bambola.core.rescue.piece import (
    HARDEST,
    Action,
    Do,
    MeasuredPiece,
    PieceReading,
    WantedPiece,
    apply_action,
    piece_of,
    wanted_of,
)
from bambola.core.rescue.symptoms import Symptom
from bambola.core.wool.pan import CLOSE_MM

SINKS_MM = 5.0
"""A base hides no more than this of a length. See craft.md, 7."""
LEAST_MM = CLOSE_MM
"""Less than what is close enough is not worked off by itself: what is too large is then made as wanted."""
LAYER_MM = 3.0
"""Wool is added in layers no thicker than this. See craft.md, 7."""
BENT_MM = 3.0
"""What was felted so little beside its place is bent over to it, not cut off. See craft.md, 7."""
ROOTS_MM = (8.0, 12.0)
"""How deep the roots of hair that sheds are stabbed again, at least and at most. See craft.md, 7."""
_NUMBERS: dict[str, dict[str, Value]] = {
    "rescue.too-thin.2": {"thick": Mm(LAYER_MM)},
    "rescue.wrong-place.2": {"off": Mm(BENT_MM)},
    "rescue.hair-sheds.2": {"shallow": Mm(ROOTS_MM[0]), "deep": Mm(ROOTS_MM[1])},
}
"""What a remedy's sentence says in numbers."""
REMAKE = 0.4
"""A piece farther off than by this share is made again sooner than mended. Judged. See craft.md, 7."""
SOFTER = 0.85
"""A piece less dense than this share of what it should be is too soft. Judged. See craft.md, 7."""


class ReadingMissingError(RefusedError):
    """Raised for a symptom that cannot be judged without a measurement."""


@frozen
class Advice:
    """The advice on a symptom: whether the piece is right already, the actions in order, the piece before and
    after them, remedies in words if there is nothing to measure, and what ``follows``."""

    symptom: str
    part: str
    within: bool
    actions: tuple[Action, ...]
    wanted: WantedPiece
    now: MeasuredPiece
    after: MeasuredPiece
    words: tuple[Fact, ...]
    follows: tuple[Fact, ...]


def advise(
    plan: Plan,
    part: str,
    symptom: Symptom,
    reading: PieceReading,
    bench: Bench,
    piece: WantedPiece | None = None,
) -> Advice:
    """Return what to do with a part of a plan that shows a symptom, or with a ``piece`` of it on the pad.
    Raises :class:`ReadingMissingError`."""
    wanted = piece or wanted_of(plan, part, bench)
    if symptom.pair:
        wanted = _like_twin(wanted, reading, symptom)
    weighed = None not in (reading.length, reading.thickness, reading.grams)
    for name in symptom.needs:
        if getattr(reading, name) is None and not (name == "firmness" and weighed):
            told = fact("rescue.needs", symptom=Fact(f"symptom.{symptom.id}"),
                        reading=Fact(f"reading.{name}"))  # fmt: skip
            raise ReadingMissingError(told)
    row = plan.part(part)
    planned_g = (
        piece.grams if piece else sum(p.grams for p in row.portions if p.role in ("core", "coat"))
    )
    now = piece_of(wanted, reading, planned_g)
    actions: tuple[Action, ...] = ()
    within, after = True, now
    if symptom.sized:
        felt_known = reading.grams is not None or reading.firmness is not None
        within = wanted.has_size(now) and not (felt_known and _is_soft(now, wanted))
        actions = () if within else tuple(_list_actions(now, wanted, felt_known))
        for action in actions:
            after = apply_action(after, action)
    words = remedies(symptom)
    shown = (Fact("rescue.enough"),) if symptom.sized and within else words
    follows = tuple(_consequences(plan, part, actions, bench))
    return Advice(symptom.id, part, within, actions, wanted, now, after, shown, follows)


def remedies(symptom: Symptom) -> tuple[Fact, ...]:
    """Return the remedies for a symptom, the mildest first."""
    kinds = (f"rescue.{symptom.id}.{n}" for n in range(1, symptom.remedies + 1))
    return tuple(fact(kind, **_NUMBERS.get(kind, {})) for kind in kinds)


def _like_twin(wanted: WantedPiece, reading: PieceReading, symptom: Symptom) -> WantedPiece:
    """Return the wanted piece with the size of its twin."""
    length = reading.twin_length or wanted.length
    thick = reading.twin_thickness or wanted.thick
    return replace(wanted, length=length, thick=thick)


def _is_soft(piece: MeasuredPiece, wanted: WantedPiece) -> bool:
    return piece.density < SOFTER * wanted.density


def _list_actions(now: MeasuredPiece, wanted: WantedPiece, felt_known: bool) -> Iterator[Action]:
    """Return the actions in the order of making, each computed from the result of the one before.

    If the firmness is known, a soft piece is first firmed, which makes it smaller all round: nothing is
    shortened that would then have to be lengthened.
    """
    off = max(abs(now.length / wanted.length - 1), abs(now.thick / wanted.thick - 1) / 1.5)
    is_large_sheet = now.flat and now.length >= wanted.length  # its base is peeled and tucked under
    if off > REMAKE and not is_large_sheet:
        yield Action("remake", "all", 0.0, 0.0, fact("rescue.remake", off=off))
        return
    piece = now
    firm = (_firm_actions,) if felt_known else ()
    for way in (
        *firm,
        _shorten_actions,
        _narrow_actions,
        *firm,
        _lengthen_actions,
        _thicken_actions,
    ):
        for action in way(piece, wanted):
            piece = apply_action(piece, action)
            yield action


def _reachable_size(piece: MeasuredPiece, wanted: WantedPiece) -> tuple[float, float]:
    """Return the length and thickness to reach with the needle: the wanted ones, or slightly larger ones if
    the felt would get too hard, as long as that is close enough. Sizes that are not too large stay."""
    most_long, most_thick = wanted.lengths[1], wanted.thicknesses[1]
    long = wanted.length if piece.length > most_long else piece.length
    thick = wanted.thick if piece.thick > most_thick else piece.thick
    top_long, top_thick = min(piece.length, most_long), min(piece.thick, most_thick)
    least = piece.grams / (HARDEST * piece.fill)
    low, high = 0.0, 1.0
    for _ in range(40):
        share = (low + high) / 2
        a, b = long + share * (top_long - long), thick + share * (top_thick - thick)
        low, high = (low, share) if a * b**piece.power >= least else (share, high)
    a, b = long + high * (top_long - long), thick + high * (top_thick - thick)
    # Where even the largest that is right would be too hard, wool has to go: then it is made as wanted.
    return (a, b) if a * b**piece.power >= least * (1 - 1e-6) else (long, thick)


def _needle_share(now: float, aim: float, wanted: float, hard: float) -> tuple[float, float]:
    """Return by how much the needle reduces a size to ``aim`` and by how much another way must, or to
    ``wanted`` if the needle's part is too little for a hand; ``hard`` is the size at which the felt is
    hard."""
    needled = min(now - aim, max(0.0, now - max(hard, aim)))
    if needled < LEAST_MM:
        return 0.0, now - wanted
    rest = now - needled - aim
    if 0 < rest < LEAST_MM:
        rest = now - needled - wanted
    return needled, rest if rest >= LEAST_MM else 0.0


def _shorten_actions(piece: MeasuredPiece, wanted: WantedPiece) -> Iterator[Action]:
    """Return the actions for too long: from the tip while it is not hard; sunk at the base; cut there. A wire
    ending there is turned back first, and a part on a wire is cut at its tip."""
    if piece.length <= wanted.lengths[1]:
        return
    aim = _reachable_size(piece, wanted)[0]
    hard = piece.length * piece.density / HARDEST
    by, over = _needle_share(piece.length, aim, wanted.length, hard)
    if wanted.wire == "ends":
        yield _make_action("turn-wire", "tip", by + over, 0.0)
    if by > 0:
        yield _make_action("needle-tip", "tip", by, 0.0)
    if over <= 0:
        return
    grams = piece.grams * over / (piece.length - by)
    if wanted.wire != "none":
        yield _make_action("cut-tip", "tip", over, grams)
    elif wanted.joined and over <= SINKS_MM:
        yield _make_action("sink-base", "base", over, 0.0)
    else:
        yield _make_action("cut-base", "base", over, grams)


def _narrow_actions(piece: MeasuredPiece, wanted: WantedPiece) -> Iterator[Action]:
    """Return the actions for too thick: from the sides while it is not hard; then peeled."""
    if piece.thick <= wanted.thicknesses[1]:
        return
    aim = _reachable_size(piece, wanted)[1]
    hard = piece.thick * (piece.density / HARDEST) ** (1 / piece.power)
    by, over = _needle_share(piece.thick, aim, wanted.thick, hard)
    if by > 0:
        yield _make_action("needle-sides", "sides", by, 0.0, piece.flat)
        piece = apply_action(piece, _make_action("needle-sides", "sides", by, 0.0))
    if over > 0:
        left = (1 - over / piece.thick) ** piece.power
        yield _make_action("peel", "sides", over, piece.grams * (1 - left))


def _firm_actions(piece: MeasuredPiece, wanted: WantedPiece) -> Iterator[Action]:
    """Return the actions for too soft: felted all round, which makes it smaller, then made up with wool. A
    flat piece is felted square to its face, and only gets thinner."""
    if not _is_soft(piece, wanted):
        return
    share = (piece.density / wanted.density) ** (1.0 if piece.flat else 1 / 3)
    yield _make_action("needle-all", "all", piece.thick * (1 - share), 0.0, piece.flat)


def _lengthen_actions(piece: MeasuredPiece, wanted: WantedPiece) -> Iterator[Action]:
    """Return the actions for too short: wool laid over the tip."""
    if piece.length >= wanted.lengths[0]:
        return
    lacks = wanted.length - piece.length
    more = replace(piece, length=wanted.length).volume - piece.volume
    grams = _added_density(piece, wanted) * more
    yield _make_action("add-tip", "tip", lacks, grams)


def _thicken_actions(piece: MeasuredPiece, wanted: WantedPiece) -> Iterator[Action]:
    """Return the actions for too thin: thin layers all round."""
    if piece.thick >= wanted.thicknesses[0]:
        return
    lacks, layers = wanted.thick - piece.thick, 1
    while lacks / layers > 2 * LAYER_MM:  # a layer lies on both sides
        layers += 1
    for _ in range(layers):
        by = lacks / layers
        more = replace(piece, thick=piece.thick + by).volume - piece.volume
        grams = _added_density(piece, wanted) * more
        action = _make_action("add-sides", "sides", by, grams, piece.flat)
        piece = apply_action(piece, action)
        yield action


def _added_density(piece: MeasuredPiece, wanted: WantedPiece) -> float:
    """Return the density of added wool: that of the piece, within sensible limits."""
    return min(HARDEST, max(piece.density, SOFTER * wanted.density))


def _make_action(do: Do, where: str, mm: float, grams: float, flat: bool = False) -> Action:
    kind = f"do.{do}.flat" if flat else f"do.{do}"
    return Action(do, where, mm, grams, fact(kind, mm=Exact(mm), grams=Grams(grams)))


def _consequences(
    plan: Plan, part: str, actions: tuple[Action, ...], bench: Bench
) -> Iterator[Fact]:
    """Yield the consequences of mending a part: for its twin, its wool, its standing, its eyes."""
    row = plan.part(part)
    figure = plan.resized.figure
    if not actions:
        return
    if row.count == 2:
        yield fact("follows.twin", part=row.name)
    core = next((p for p in row.portions if p.role == "core" and p.take_g > 0), None)
    added = sum(a.grams for a in actions if a.do.startswith("add"))
    if core is not None and added > 0:
        wool = bench.wool_by_id[core.wool]
        left = core.keep_by_g - added
        more = {"left": Grams(left)} if left > 0 else {"short": Grams(-left)}
        kind = "follows.wool" if left > 0 else "follows.wool-short"
        yield fact(kind, grams=Grams(added), wool=wool.name, **more)
    weighs = sum(p.grams for p in row.portions) * row.count
    if weighs > 0.15 * plan.wool_g:
        yield Fact("follows.stand")
    if any(f.part == part and f.kind == "eye" for f in figure.fittings):
        yield Fact("follows.eyes")
    coat = next((p for p in row.portions if p.role == "coat" and p.take_g > 0), None)
    if coat is not None and any(a.do in ("peel", "cut-base", "cut-tip") for a in actions):
        yield fact("follows.coat", wool=bench.wool_by_id[coat.wool].name)
