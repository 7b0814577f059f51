"""What the wire asks of the maker: limbs too thin, stock too weak, bones without wire."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator

from bambola.core.armature import (
    ENOUGH,
    CutWire,
    Gauge,
    ThinLimb,
    bone_part,
    diameter_bearing,
    loose_wires,
    missing_strands,
    strands_on,
    will_do,
)
from bambola.core.armature.strength import (
    PROPERTIES,
    RESERVE,
    bundle_mm,
    capacity_nmm,
    hidden_mm,
)
from bambola.core.bench.wools import HIDE_MM
from bambola.core.facts import Exact, Fact, Grams, Holds, Mm, SoldSize, fact, together
from bambola.core.figure import Metal
from bambola.core.figure.questions import (
    Answer,
    MetalAnswer,
    StockedAnswer,
    StoutestWire,
    ThinAnswer,
    TooThin,
    WireGauge,
)
from bambola.core.plan.judging.findings import Findings, answer_among
from bambola.core.plan.making.values import Notice, Option

HOLDS = ENOUGH - 3e-3
"""A wire is not called weak for a third of a percent: stock is no rounder than that."""
FLOPS_MM = 40.0
"""A thin limb that is only felted holds itself up to this length. Judged. See craft.md, 3."""
STAND = Option(StockedAnswer.STAND, Fact("stock.stand"), Fact("stock.stand.effect"))
LEFT = Option(StockedAnswer.LEAVE, Fact("leave"), Fact("stock.leave.effect"))


def wire_notices(found: Findings) -> Iterator[Notice]:
    """Yield all of these notices, questions first."""
    yield from _thin_limb_notices(found)
    yield from _stock_notices(found)
    yield from _route_notices(found)
    yield from _loose_wire_notices(found)
    yield from _shopping_notices(found)


def _thin_limb_notices(found: Findings) -> Iterator[Notice]:
    still = {thin.part: thin for thin in found.thin}
    for thin in found.asked:
        part = found.resized.figure.by_id[thin.part]
        question = TooThin(thin.part)
        options = list(_ways_out(found, thin))
        answer = answer_among(found.brief.choices.thin_limbs.get(thin.part), options)
        needs = {"limb": Exact(thin.limb_mm), "needs": Exact(thin.needs_mm)}
        told = [fact("thin-limb.how", **needs)]
        hides_at = _height_that_hides(found, thin) if answer is None else None
        if hides_at is not None:
            told.append(fact("thin-limb.from", height=Mm(hides_at)))
        if answer is not None:
            told = [Fact(f"thin-limb.{answer}.told")]
            if thin.part in still:
                left = still[thin.part]
                told.append(
                    fact("thin-limb.even-so", limb=Exact(left.limb_mm), needs=Exact(left.needs_mm))
                )
        yield Notice(
            question.code,
            "choose",
            thin.part,
            fact("thin-limb", part=part.name),
            together(*told),
            tuple(options),
            answer,
        )


def _ways_out(found: Findings, thin: ThinLimb) -> Iterator[Option]:
    """Yield every workable answer with its effect."""
    if thin.stronger:
        metal, size = thin.stronger
        told = fact("thin-limb.stronger-metal.effect", size=SoldSize(size))
        yield Option(ThinAnswer.STRONGER, metal_fact(metal), told)
    if thin.fits_diameter:
        told = fact(
            "thin-limb.thinner-wire.effect",
            size=SoldSize(thin.fits_diameter),
            bears=_bearing_fact(thin.fits_bears),
        )
        yield Option(ThinAnswer.THINNER, Fact("thin-limb.thinner-wire"), told)
    if thin.fewer and not found.drawn:
        yield Option(ThinAnswer.FEWER, *_answer_labels("fewer-strands"))
    if thin.wound:
        size, bears = thin.wound
        told = fact("thin-limb.glue-wound.effect", size=SoldSize(size), bears=_bearing_fact(bears))
        yield Option(ThinAnswer.WOUND, Fact("thin-limb.glue-wound"), told)
    if thin.chenille is not None:
        told = fact("thin-limb.chenille.effect", bears=_bearing_fact(thin.chenille))
        yield Option(ThinAnswer.CHENILLE, Fact("thin-limb.chenille"), told)
    yield Option(
        ThinAnswer.STOUTER,
        Fact("thin-limb.stouter-limb"),
        _stouter_option(found, thin, thin.needs_mm),
    )
    if not thin.fits_diameter and thin.slim_mm < thin.needs_mm - 0.05:
        label = fact("thin-limb.slim-and-stouter", size=SoldSize(thin.slim_diameter))
        told = fact(
            "thin-limb.slim-and-stouter.effect",
            stouter=_stouter_option(found, thin, thin.slim_mm),
            bears=_bearing_fact(thin.slim_bears),
        )
        yield Option(ThinAnswer.SLIM, label, told)
    yield Option(ThinAnswer.BARE, Fact("thin-limb.no-wire"), _without_wire(found, thin))


def _without_wire(found: Findings, thin: ThinLimb) -> Fact:
    """Return what happens to a limb without wire, the worst first, so that nobody answers into a worse
    question."""
    part = found.resized.figure.by_id[thin.part]
    if thin.part in found.stood_on:
        return Fact("thin-limb.no-wire.folds")
    longest = max(part.shape.measures().values())
    if longest > FLOPS_MM:
        return fact("thin-limb.no-wire.flops", long=Mm(longest), most=Mm(FLOPS_MM))
    return Fact("thin-limb.no-wire.effect")


def _answer_labels(answer: str) -> tuple[Fact, Fact]:
    return Fact(f"thin-limb.{answer}"), Fact(f"thin-limb.{answer}.effect")


def metal_fact(metal: Metal) -> Fact:
    """Return a metal as the label of an answer."""
    return Fact(f"choose.{metal.replace(' ', '-')}")


def _bearing_fact(times: float) -> Fact:
    """Return what a thinner wire does in the maker's terms: whether it holds, and whether it stays as
    posed."""
    if math.isinf(times):
        return Fact("thin-limb.holds")
    if times < 1:
        return Fact("thin-limb.sags")
    return Fact("thin-limb.just-bears" if times < RESERVE else "thin-limb.bears")


def _stouter_option(found: Findings, thin: ThinLimb, mm: float) -> Fact:
    """Return the option of a stouter limb; its wool grows with the square of its thickness."""
    grams = found.wool[thin.part].grams * found.counts[thin.part]
    more = grams * ((mm / thin.limb_mm) ** 2 - 1)
    return fact("thin-limb.stouter", thick=Exact(mm), more=Grams(more))


def _height_that_hides(found: Findings, thin: ThinLimb) -> float | None:
    """Return the finished height (mm) from which the limb hides its wire, if everything scales."""
    gauge = found.gauges.get(thin.wire)
    if gauge is None or found.brief.height is None:
        return None
    height, bundle = found.resized.to_height, (thin.needs_mm - 2 * HIDE_MM) / gauge.diameter
    for step in range(1, 400):
        s = 1.01**step
        size = will_do(gauge.needed * s, found.bench.wire_sizes)
        if size is None:
            return None
        if thin.limb_mm * s >= bundle * size + 2 * HIDE_MM:
            return height * s
    return None


def _stock_notices(found: Findings) -> Iterator[Notice]:
    """Yield wires that bear less than they should: a note if chosen so, a question if no stouter stock
    exists."""
    by_answer = {thin.wire for thin in found.asked}
    for wire in found.wires:
        if wire.holds >= HOLDS:
            continue
        gauge = found.gauges[wire.id]
        told = fact(
            "stock.how",
            cause=wire.governed_by,
            needs=SoldSize(round(wire.needed_mm, 1)),
            size=SoldSize(wire.diameter_mm),
            holds=Holds(wire.holds),
        )
        stoutest = found.bench.wire_sizes[-1]
        if wire.id in by_answer or gauge.cores > 1 or wire.diameter_mm < stoutest:
            yield Notice(
                WireGauge(wire.id).code,
                "note",
                None,
                fact("gauge.thin", wire=wire.name),
                together(told, Fact("gauge.help")),
            )
            continue
        options = list(_second_strand(found, gauge, wire.id))
        options += [
            Option(
                MetalAnswer.answer_for(metal),
                metal_fact(metal),
                fact("stock.metal.effect", size=SoldSize(size)),
            )
            for metal, size in _stronger_metals(gauge, found)
        ]
        options += [STAND, LEFT]
        answer = answer_among(found.brief.choices.wire_stocks.get(wire.id), options)
        yield _asked_of(wire, told, tuple(options), answer)
    yield from _metal_notices(found)


def _metal_notices(found: Findings) -> Iterator[Notice]:
    """Yield a note on a wire that is stout enough in another metal that was chosen; it can be taken back."""
    for wire in found.wires:
        answer = found.brief.choices.wire_stocks.get(wire.id)
        if wire.holds < HOLDS:
            continue
        if isinstance(answer, MetalAnswer):
            label = metal_fact(answer.metal)
            told = fact("stock.instead", metal=label)
        elif answer is StockedAnswer.SECOND:
            label, told = Fact("stock.second-strand"), Fact("stock.doubled")
        else:
            continue
        options = (Option(answer, label, Fact("stock.holds")), STAND, LEFT)
        yield _asked_of(wire, told, options, answer)


def _asked_of(
    wire: CutWire, told: Fact, options: tuple[Option, ...], answer: Answer | None
) -> Notice:
    title = fact("stock", wire=wire.name)
    return Notice(StoutestWire(wire.id).code, "choose", None, title, told, options, answer)


def _second_strand(found: Findings, gauge: Gauge, wire: str) -> Iterator[Option]:
    """Yield the option of a second strand, if it stays hidden in every limb it passes."""
    figure = found.resized.figure
    if any(known.id == f"{wire}-second" for known in figure.wires):
        return
    alone = gauge.needed / 2 ** (1 / 3)
    size = will_do(alone, found.bench.wire_sizes)
    strands, where = strands_on(figure), bone_part(figure)
    route = next(known.route for known in figure.wires if known.id == wire)
    hidden = all(
        figure.by_id[where[bone]].shape.thinnest_mm
        >= hidden_mm(bundle_mm(size or 0.0, strands[bone] + 1))
        for bone in map(frozenset, itertools.pairwise(route))
        if bone in where
    )
    if size is not None and hidden:
        told = fact("stock.second-strand.effect", size=SoldSize(size))
        yield Option(StockedAnswer.SECOND, Fact("stock.second-strand"), told)


def _stronger_metals(gauge: Gauge, found: Findings) -> Iterator[tuple[Metal, float]]:
    moment = capacity_nmm(gauge.metal, gauge.needed)
    for metal in PROPERTIES:
        size = will_do(diameter_bearing(moment, metal), found.bench.wire_sizes)
        if size is not None and metal != gauge.metal:
            yield metal, size


def _route_notices(found: Findings) -> Iterator[Notice]:
    """Yield faults of drawn routes, which are kept and only checked."""
    figure = found.resized.figure
    if not figure.wires:
        return
    nodes = {node.id: node.part for node in figure.nodes}
    told: dict[str, list[Fact]] = {}
    bare = {
        t.part for t in found.asked if found.brief.choices.thin_limbs.get(t.part) == ThinAnswer.BARE
    }
    parts = {frozenset((b.a, b.b)): b.part or nodes[b.b] for b in figure.bones}
    for bone, (there, asked) in missing_strands(figure).items():
        part = parts[bone]
        if part in bare:
            continue
        lacks = fact("strands.some", there=there, asked=asked) if there else Fact("strands.none")
        told.setdefault(part, []).append(lacks)
    for part, lacking in told.items():
        name = figure.by_id[part].name
        yield Notice(
            f"strands:{part}",
            "note",
            part,
            fact("strands", part=name),
            fact("strands.how", lacking=tuple(lacking)),
        )


def _loose_wire_notices(found: Findings) -> Iterator[Notice]:
    """Yield wires that cross others and are twisted on to none."""
    figure = found.resized.figure
    names = {wire.id: wire.display_name for wire in figure.wires}
    for wire in loose_wires(figure):
        yield Notice(
            f"loose:{wire}",
            "note",
            None,
            fact("loose", wire=names[wire]),
            Fact("loose.how"),
        )


def _shopping_notices(found: Findings) -> Iterator[Notice]:
    """Yield notes on wire that is not on the shelf, in stems or metres."""
    if not found.bench.wire_stock:
        return
    short: dict[Fact, tuple[float, int, float]] = {}
    for cut in found.cutting:
        if cut.to_buy:
            mm, stems, length = short.get(cut.stock, (0.0, 0, 0.0))
            stem = cut.form == "stem"
            short[cut.stock] = (
                mm + (0.0 if stem else cut.length_mm),
                stems + stem,
                cut.length_mm if stem else length,
            )
    for n, (stock, (mm, stems, length)) in enumerate(short.items(), 1):
        what = (
            fact("buy-wire.stems", n=stems, length=Mm(length), stock=stock)
            if stems
            else fact("buy-wire.coil", length=Mm(mm), stock=stock)
        )
        title, text = fact("buy-wire", what=what), fact("buy-wire.how", what=what)
        yield Notice(f"buy-wire:{n}", "note", None, title, text)
    for wire in found.wires:
        if not all(piece.clear for piece in wire.pieces):
            title, text = fact("splice", wire=wire.name), Fact("splice.how")
            yield Notice(f"splice:{wire.id}", "note", None, title, text)
