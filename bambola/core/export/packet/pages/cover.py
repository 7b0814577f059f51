"""The cover: both figures on one ground line, what changes, what it takes, hours and cautions."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.export.drawn import (
    FAINT,
    MADDER,
    QUIET,
    Face,
    Item,
    Page,
    Words,
    line,
    shifted,
    wrapped,
)
from bambola.core.export.fitting_sizes import fitting_size, fitting_stock
from bambola.core.export.on_ground import on_ground
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.sheet import sheet
from bambola.core.facts import Fact
from bambola.core.plan import Plan
from bambola.core.plan.reading.stuff import material_fact
from bambola.core.plan.reading.tools import tools
from bambola.core.quantities import show_bought, show_length, show_mass
from bambola.core.solids import place
from bambola.core.words import Words as Maker

_CAUTIONS = ("care.needle", "care.wire", "care.small")
_MOST_CHANGES = 9


def pages(job: Job) -> Iterator[Page]:
    """One page."""
    words, plan, paper = job.words, job.plan, job.paper
    wide, high = paper.room
    items: list[Item] = [Words(0, 11, plan.figure, 11, "title")]
    sizes = ", ".join(show_length(p.to_height_mm, words.units) for p in job.plans)
    lead = words.tr(
        "{before} becomes {sizes}, {datum}",
        before=show_length(plan.from_height_mm, words.units),
        sizes=sizes,
        datum=words.say(plan.datum),
    )
    items.append(Words(0, 18, lead, 4.4))
    y = 22.0
    for text in filter(None, (job.maker, job.licence, job.note)):
        for row in wrapped(text, 3.4, wide):
            items.append(Words(0, y + 2, row, 3.4, colour=QUIET))
            y += 4.6
    below, text_high = _text(job, wide)
    picture_high = max(60.0, high - y - text_high - 14)
    shown = [place(job.figure), *(each.solids.placement for each in job.plans)]
    items += on_ground(shown, job.bench, words, y, wide, picture_high)
    items += shifted(below, 0, y + picture_high + 9)
    yield sheet(paper, items, "cover", words.tr("cover"), words)


def _text(job: Job, wide: float) -> tuple[list[Item], float]:
    """What stands below the figures, from nought down, and how high it is."""
    words, plan = job.words, job.plan
    items: list[Item] = []
    half = wide / 2 - 4
    left = _list(items, 0, 0, half, words.tr("What it takes"), _taken(job))
    left = _list(items, 0, left + 3, half, words.tr("Time and weight"), _totals(job))
    changes = [words.say(c.text) for c in plan.changes[:_MOST_CHANGES]]
    if len(plan.changes) > _MOST_CHANGES:
        more = len(plan.changes) - _MOST_CHANGES
        changes.append(words.trn("and {n} more", "and {n} more", more))
    told = changes or [words.tr("It is made as before.")]
    right = _list(items, half + 8, 0, half, words.tr("What the new size changes"), told)
    open_ = [words.say(n.title) for n in plan.waiting]
    if open_:
        right = _list(items, half + 8, right + 3, half, words.tr("Not decided yet"), open_)
    laid_out = [words.say(tool) for tool in tools(plan, job.bench)]
    right = _list(items, half + 8, right + 3, half, words.tr("Lay out"), laid_out)
    y = max(left, right)
    if len(job.plans) > 1:
        y = _table(items, job, y + 4, wide)
    y += 5
    items.append(line(0, y, wide, y, colour=FAINT, width=0.3))
    for caution in _CAUTIONS:
        for told_line in wrapped(words.say(Fact(caution)), 3.1, wide):
            y += 4.2
            items.append(Words(0, y, told_line, 3.1, colour=MADDER))
    return items, y


def _list(
    items: list[Item], x: float, y: float, wide: float, title: str, lines: list[str]
) -> float:
    """A heading and its lines; returns where it ends."""
    items.append(Words(x, y + 5, title, 5.2, "title"))
    y += 8
    for text in lines:
        for i, told in enumerate(wrapped(text, 3.5, wide - 4)):
            face: Face = "text"
            items.append(Words(x + (0 if i == 0 else 3), y + 3.5, told, 3.5, face))
            y += 4.7
        y += 0.6
    return y


def _taken(job: Job) -> list[str]:
    words, plan = job.words, job.plan
    found = []
    for total in plan.wools:
        grams = show_mass(total.grams, words.units)
        told = words.tr("{wool}: {grams}", wool=total.name, grams=grams)
        if total.packs:
            pack = show_mass(job.bench.wool_by_id[total.wool].pack_g, words.units)
            told += words.tr(", buy {packs} × {pack}", packs=total.packs, pack=pack)
        found.append(told)
    for fitting in plan.fittings:
        size = fitting_size(plan, fitting, fitting.use_mm, words.units)
        stock = fitting_stock(fitting, words)
        found.append(f"{fitting.count} × {fitting.name}, {size}{stock}")
    for row in plan.materials:
        show = show_mass if row.kind == "clay" else show_length
        short = words.tr(", {much} to buy", much=show(row.buy, words.units)) if row.buy > 0 else ""
        found.append(words.say(material_fact(row)) + short)
    return [*found, *_wire(plan, words)]


def _wire(plan: Plan, words: Maker) -> Iterator[str]:
    """Of each kind how much, whatever stock it is cut from: others have other ends and stems."""
    by_id = {wire.id: wire for wire in plan.wires}
    kinds: dict[tuple[Fact, float], list[tuple[float, bool]]] = {}
    for cut in plan.cutting:  # of all the pieces that are made
        for mm, name in zip(cut.cuts, cut.wires, strict=True):
            kind = by_id[name].stock, by_id[name].diameter_mm
            kinds.setdefault(kind, []).append((mm, cut.to_buy))
    for (metal, thick), cuts in kinds.items():
        told = words.trn(
            "{metal:capital}, {thick}: {long}",
            "{metal:capital}, {thick}: {long} in {n} pieces",
            len(cuts),
            metal=metal,
            thick=show_bought(thick, words.units),
            long=show_length(sum(mm for mm, _ in cuts), words.units),
        )
        buy = any(to_buy for _, to_buy in cuts)
        yield words.tr("{wire}, to buy", wire=told) if buy else told


def _totals(job: Job) -> list[str]:
    words, plan = job.words, job.plan
    return [
        words.tr(
            "{wool} of wool, about {hours:.0f} h, {n} steps",
            wool=show_mass(plan.wool_g, words.units),
            hours=plan.minutes / 60,
            n=len(plan.steps),
        )
    ]


def _table(items: list[Item], job: Job, y: float, wide: float) -> float:
    """Every part's largest size at every height."""
    words = job.words
    items.append(Words(0, y + 5, words.tr("Sizes"), 5.2, "title"))
    y += 9
    columns = [wide * 0.4 + i * wide * 0.6 / len(job.plans) for i in range(len(job.plans))]
    for x, plan in zip(columns, job.plans, strict=True):
        items.append(Words(x, y, show_length(plan.to_height_mm, words.units), 3.5, "bold"))
    for part in job.plan.parts:
        y += 4.6
        items.append(Words(0, y, part.name, 3.4))
        for x, plan in zip(columns, job.plans, strict=True):
            sizes = plan.part(part.id).to_mm.values()
            told = " × ".join(show_length(mm, words.units, with_unit=False) for mm in sizes)
            items.append(Words(x, y, told, 3.2))
    return y + 3


def grey_safe(words: Maker) -> str:
    """What stands where colour alone would tell; lines differ by their dashes as well."""
    return words.tr("wire: heavy line · bends: dots · firm up to here: dashed")
