"""What the wire asks of the maker: limbs too thin, stock too weak, bones left bare."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.armature import (
    ENOUGH,
    Gauge,
    ThinLimb,
    diameter_bearing,
    loose_wires,
    missing_strands,
    will_do,
)
from bambola.core.armature.strength import HIDE_MM, RESERVE, YIELD_MPA, capacity_nmm
from bambola.core.figure import Metal
from bambola.core.plan.judging.findings import Findings, answer_among
from bambola.core.plan.making.values import Notice, Option
from bambola.core.words import held_words

HOLDS = ENOUGH - 3e-3
"""A wire is not called weak for a third of a percent: stock is no rounder than that."""
STAND = Option("stand", "Give it a stand", "a rod from its base bears what the wire cannot")
LEAVE = Option("leave", "Leave it", "pose it with care")


def wire_notices(found: Findings) -> Iterator[Notice]:
    """All of them, questions first."""
    yield from _limbs(found)
    yield from _stock(found)
    yield from _routes(found)
    yield from _loose(found)
    yield from _shopping(found)


def _limbs(found: Findings) -> Iterator[Notice]:
    still = {thin.part: thin for thin in found.thin}
    for thin in found.asked:
        part = found.resized.figure.by_id[thin.part]
        code = f"thin-limb:{thin.part}"
        options = list(_ways_out(found, thin))
        answer = answer_among(found.brief, code, options)
        text = f"It would be {thin.limb_mm:.1f} mm; wire and the wool to hide it need {thin.needs_mm:.1f} mm."
        hides_at = _height_that_hides(found, thin)
        if hides_at is not None and answer is None:
            text += f" From {hides_at:.0f} mm up the figure would hide it."
        if answer is not None:
            text = {
                "thinner-wire": "Its wire is thinner, hides in it, and holds less.",
                "fewer-strands": "One strand less runs in it.",
                "stronger-metal": "Its wire is of a stronger metal, and thinner.",
                "no-wire": "It is made without wire: felt it firm.",
                "stouter-limb": "It is made stouter, so that wool hides the wire.",
                "slim-and-stouter": "It has the thinnest wire and is made just stout enough to hide it.",
            }[answer]
            if thin.part in still:
                left = still[thin.part]
                text += (
                    f" Even so it is {left.limb_mm:.1f} mm where {left.needs_mm:.1f} mm are needed."
                )
        yield Notice(
            code,
            "choose",
            thin.part,
            f"{part.name}: too thin for its wire",
            text,
            tuple(options),
            answer,
        )


def _ways_out(found: Findings, thin: ThinLimb) -> Iterator[Option]:
    """Every workable answer, with what it costs."""
    if thin.fits_diameter:
        told = f"{thin.fits_diameter:g} mm hides in it and {_bears(thin.fits_bears)}"
        yield Option("thinner-wire", "Thinner wire", told)
    if thin.stronger:
        metal, size = thin.stronger
        yield Option("stronger-metal", metal.capitalize(), f"{size:g} mm hides in it and holds")
    if thin.fewer and not found.drawn:
        yield Option("fewer-strands", "One strand less", "thinner bundle, holds less")
    yield Option("no-wire", "No wire", "felt it firm; it cannot be posed")
    yield Option("stouter-limb", "Stouter limb", _stouter(found, thin, thin.needs_mm))
    if not thin.fits_diameter and thin.slim_mm < thin.needs_mm - 0.05:
        told = f"{_stouter(found, thin, thin.slim_mm)}; {_bears(thin.slim_bears)}"
        yield Option("slim-and-stouter", f"{thin.slim_diameter:g} mm wire, less stout", told)


def _bears(times: float) -> str:
    """What a thinner wire does, as a maker asks it: does it hold, and does it stay as posed."""
    if times < 1:
        return "sags under its own weight"
    if times < RESERVE:
        return "just bears its weight: leave it as posed"
    return "bears its weight, but bends more easily in the hand"


def _stouter(found: Findings, thin: ThinLimb, mm: float) -> str:
    """A stouter limb in words: its wool goes with the square of its thickness."""
    grams = found.wool[thin.part].grams * found.counts[thin.part]
    more = grams * ((mm / thin.limb_mm) ** 2 - 1)
    return f"{mm:.1f} mm thick, {more:.1f} g more wool"


def _height_that_hides(found: Findings, thin: ThinLimb) -> float | None:
    """The finished height (mm) from about which the limb hides its wire, if all scales."""
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


def _stock(found: Findings) -> Iterator[Notice]:
    """Wires that hold less than they should: by choice a note, for want of stouter stock a question."""
    by_answer = {thin.wire for thin in found.asked}
    for wire in found.wires:
        if wire.holds >= HOLDS:
            continue
        gauge, code = found.gauges[wire.id], f"stock:{wire.id}"
        told = (
            f"For {wire.governed_by} it takes {wire.needed_mm:.1f} mm; {wire.diameter_mm:g} mm holds "
            f"{held_words(wire.holds)}."
        )
        stoutest = found.bench.wire_sizes[-1]
        if wire.id in by_answer or gauge.cores > 1 or wire.diameter_mm < stoutest:
            yield Notice(
                f"gauge:{wire.id}",
                "note",
                None,
                f"{wire.name}: thinner than it should be",
                f"{told} More strands, a stronger metal or a stand help.",
            )
            continue
        options = [
            Option(f"metal:{metal}", metal.capitalize(), f"{size:g} mm holds")
            for metal, size in _stronger(gauge, found)
        ]
        options += [STAND, LEAVE]
        yield Notice(
            code,
            "choose",
            None,
            f"{wire.name}: no stock is stout enough",
            told,
            tuple(options),
            answer_among(found.brief, code, options),
        )
    yield from _settled(found)


def _settled(found: Findings) -> Iterator[Notice]:
    """A wire that is stout enough since another metal was chosen for it; that can be taken back."""
    for wire in found.wires:
        answer = found.brief.answers.get(f"stock:{wire.id}", "")
        if wire.holds >= HOLDS and answer.startswith("metal:"):
            metal = answer.removeprefix("metal:")
            options = (Option(answer, metal.capitalize(), "holds"), STAND, LEAVE)
            yield Notice(
                f"stock:{wire.id}",
                "choose",
                None,
                f"{wire.name}: no stock is stout enough",
                f"It is made of {metal} instead.",
                options,
                answer,
            )


def _stronger(gauge: Gauge, found: Findings) -> Iterator[tuple[Metal, float]]:
    moment = capacity_nmm(gauge.metal, gauge.needed)
    for metal in YIELD_MPA:
        size = will_do(diameter_bearing(moment, metal), found.bench.wire_sizes)
        if size is not None and metal != gauge.metal:
            yield metal, size


def _routes(found: Findings) -> Iterator[Notice]:
    """Drawn routes are kept and only checked."""
    figure = found.resized.figure
    if not figure.wires:
        return
    nodes = {node.id: node.part for node in figure.nodes}
    told: dict[str, list[str]] = {}
    bare = {
        t.part for t in found.asked if found.brief.answers.get(f"thin-limb:{t.part}") == "no-wire"
    }
    parts = {frozenset((b.a, b.b)): b.part or nodes[b.b] for b in figure.bones}
    for bone, (there, asked) in missing_strands(figure).items():
        part = parts[bone]
        if part in bare:
            continue
        told.setdefault(part, []).append(f"{there} of {asked}" if there else "none")
    for part, lacking in told.items():
        name = figure.by_id[part].name
        yield Notice(
            f"strands:{part}",
            "note",
            part,
            f"{name}: a bone lacks wire",
            f"The drawn wires give {', '.join(lacking)} of the strands asked there. Choose a school "
            f"to have it routed anew, or ask for fewer strands.",
        )


def _loose(found: Findings) -> Iterator[Notice]:
    """Wires that cross the others and are twisted on to none of them."""
    figure = found.resized.figure
    names = {wire.id: wire.name for wire in figure.wires}
    for wire in loose_wires(figure):
        yield Notice(
            f"loose:{wire}",
            "note",
            None,
            f"{names[wire]} is bound to nothing",
            "It meets the other wires and is twisted on to none: it will turn in the wool. Choose a "
            "school to have it bound, or draw it on from where they meet.",
        )


def _shopping(found: Findings) -> Iterator[Notice]:
    """Wire that is not on the shelf, in stems or metres."""
    if not found.bench.wire_stock:
        return
    short: dict[str, tuple[float, int, float]] = {}
    for cut in found.cutting:
        if cut.to_buy:
            mm, stems, length = short.get(cut.stock, (0.0, 0, 0.0))
            stem = cut.form == "stem"
            short[cut.stock] = (
                mm + (0.0 if stem else cut.length_mm),
                stems + stem,
                cut.length_mm if stem else length,
            )
    for stock, (mm, stems, length) in short.items():
        what = f"{stems} × {length:.0f} mm of {stock}" if stems else f"{mm / 1000:.2f} m of {stock}"
        yield Notice(
            f"buy-wire:{stock}",
            "note",
            None,
            f"Wire to buy: {what}",
            f"The shelf lacks it: {what}.",
        )
    for wire in found.wires:
        if not all(piece.clear for piece in wire.pieces):
            text = "No plain run is long enough for the splice; bind it well, or use longer stock."
            yield Notice(f"splice:{wire.id}", "note", None, f"{wire.name}: spliced at a bend", text)
