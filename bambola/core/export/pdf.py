"""The work sheet: the plan on paper, to be read at arm's length beside the felting pad."""

from __future__ import annotations

import io
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

import numpy as np
from PIL import Image as PillowImage
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    KeepTogether,
    PageTemplate,
    Paragraph,
    Spacer,
    Table,
    TableStyle,
)

from bambola.core.armature import StockCut
from bambola.core.armature.curves import by_hand
from bambola.core.bench import Bench
from bambola.core.export.felt import felt
from bambola.core.export.fitting_sizes import fitting_size
from bambola.core.export.paper import (
    BODY,
    BODY_BOLD,
    INK,
    MADDER,
    QUIET,
    RULER_MM,
    STYLES,
    WELD,
    register_fonts,
    ruler_words,
)
from bambola.core.facts import Fact
from bambola.core.figure import Figure
from bambola.core.order import Step
from bambola.core.plan import PartPlan, Plan
from bambola.core.quantities import show_bought, show_length, show_mass
from bambola.core.relief import Camera
from bambola.core.solids import place
from bambola.core.wool import amount, called, kept_by, made_ready
from bambola.core.words import ENGLISH, Words, kind

PAPER_DOTS_PER_MM = 6.0


def work_sheet(plan: Plan, original: Figure, bench: Bench, words: Words = ENGLISH) -> bytes:
    """The work sheet of ``plan`` as a PDF; ``original`` is the figure as made, drawn beside it."""
    register_fonts()
    out = io.BytesIO()
    page = BaseDocTemplate(
        out,
        pagesize=A4,
        leftMargin=18 * mm,
        rightMargin=18 * mm,
        topMargin=20 * mm,
        bottomMargin=24 * mm,
        title=f"{plan.figure}, {show_length(plan.to_height_mm, words.units)}",
        author="Bambola",
        creator="Bambola",
        invariant=1,
    )
    frame = Frame(
        page.leftMargin,
        page.bottomMargin,
        page.width,
        page.height,
        id="page",
        leftPadding=0,
        rightPadding=0,
        topPadding=0,
        bottomPadding=0,
    )
    page.addPageTemplates(
        PageTemplate(
            id="page", frames=[frame], onPage=lambda canvas, doc: _edge(canvas, doc, plan, words)
        )
    )
    page.build(list(_story(plan, original, bench, words)))
    return out.getvalue()


def _edge(canvas: Canvas, doc: BaseDocTemplate, plan: Plan, words: Words) -> None:
    """Foot of each page: name, page number and a ruler to check the print against."""
    canvas.saveState()
    canvas.setFont(BODY, 9)
    canvas.setFillColor(QUIET)
    canvas.drawString(
        18 * mm, 9 * mm, words.tr("{figure} · page {page}", figure=plan.figure, page=doc.page)
    )
    x, y = A4[0] - (18 + RULER_MM) * mm, 12 * mm
    canvas.setStrokeColor(INK)
    canvas.setLineWidth(0.5)
    canvas.line(x, y, x + RULER_MM * mm, y)
    for i in range(RULER_MM // 10 + 1):
        canvas.line(x + i * 10 * mm, y, x + i * 10 * mm, y + (3 if i % 5 == 0 else 2) * mm)
    canvas.drawRightString(x + RULER_MM * mm, 8 * mm, ruler_words(words))
    canvas.restoreState()


def _story(plan: Plan, original: Figure, bench: Bench, words: Words) -> Iterable[Flowable]:
    yield from _head(plan, original, bench, words)
    yield from _parts(plan, bench, words)
    yield from _wires(plan, words)
    if plan.fittings:
        yield Paragraph(words.tr("Fittings"), STYLES["heading"])
        yield _grid(
            (words.tr("fitting"), words.tr("use"), words.tr("would match"), words.tr("pieces")),
            [
                (
                    f.name,
                    fitting_size(plan, f, f.use_mm, words.units),
                    fitting_size(plan, f, f.wanted_mm, words.units),
                    str(f.count),
                )
                for f in plan.fittings
            ],
            (70, 34, 34, 34),
        )
    if plan.changes:
        yield Paragraph(words.tr("What the new size changes"), STYLES["heading"])
        for change in plan.changes:
            told = f"{words.say(change.text)}. {words.say(change.cause)}"
            yield Paragraph(_text(told), STYLES["body"])
    yield from _order(plan, words)


def _head(plan: Plan, original: Figure, bench: Bench, words: Words) -> Iterable[Flowable]:
    yield Paragraph(_text(plan.figure), STYLES["title"])
    yield Paragraph(
        words.tr(
            "{from_height} becomes <b>{height}</b>, {datum} · every length × {scale:.3f} · {wool} "
            "of wool · about {minutes:.0f} h",
            from_height=show_length(plan.from_height_mm, words.units),
            height=show_length(plan.to_height_mm, words.units),
            datum=words.say(plan.datum),
            scale=plan.scale,
            wool=show_mass(plan.wool_g, words.units),
            minutes=plan.minutes / 60,
        ),
        STYLES["lead"],
    )
    yield _Figures(original, plan.resized.figure, bench, words)
    for notice in plan.notices:
        if notice.level == "note":
            continue
        answer = next(
            (words.say(o.label) for o in notice.options if o.id == notice.answer),
            words.tr("not decided yet"),
        )
        title, text = words.say(notice.title), words.say(notice.text)
        yield Paragraph(
            f"<b>{_text(title)}.</b> {_text(text)} <b>{_text(answer)}.</b>", STYLES["slip"]
        )


def _parts(plan: Plan, bench: Bench, words: Words) -> Iterable[Flowable]:
    yield Paragraph(words.tr("Parts and their wool"), STYLES["heading"])
    yield Paragraph(
        words.tr(
            "Each for one piece. Take the first weight, and keep the second at hand until the size is "
            "reached."
        ),
        STYLES["body"],
    )
    names = {wool: known.name for wool, known in bench.wool_by_id.items()}
    for part in plan.parts:
        yield KeepTogether(_part(part, names, words))
    yield Paragraph(words.tr("Wool to lay ready"), STYLES["heading"])
    yield _grid(
        (words.tr("wool"), words.tr("in the figure"), words.tr("buy"), words.tr("packs")),
        [
            (w.name, show_mass(w.grams, words.units), show_mass(w.buy_g, words.units), str(w.packs))
            for w in plan.wools
        ],
        (70, 34, 34, 34),
    )


def _wires(plan: Plan, words: Words) -> Iterable[Flowable]:
    if plan.wires:
        yield Paragraph(words.tr("Wire"), STYLES["heading"])
    for wire in plan.wires:
        extra = ", ".join(
            f"{_text(words.say(a.why))} {show_length(a.mm, words.units)}" for a in wire.allowances
        )
        bends = "; ".join(words.say(bend.told) for bend in by_hand(wire.bends))
        cut = words.tr(
            "<b>{name}: cut {cut}</b> of {stock}, {diameter}",
            name=_text(words.say(wire.name)),
            cut=show_length(wire.cut_mm, words.units),
            stock=_text(words.say(wire.stock)),
            diameter=show_bought(wire.diameter_mm, words.units),
        )
        told = words.tr(
            "Path {path}; {extra}.", path=show_length(wire.path_mm, words.units), extra=extra
        )
        if bends:
            told += " " + words.tr("From the first end: {bends}.", bends=bends)
        yield KeepTogether(
            [
                Paragraph(cut, STYLES["body"]),
                Paragraph(told, STYLES["small"]),
            ]
        )
    if plan.cutting:
        yield Paragraph(words.tr("Cut from"), STYLES["heading"])
        yield _grid(
            (words.tr("stock"), words.tr("length"), words.tr("cuts"), words.tr("left")),
            [_cut_row(c, words) for c in plan.cutting],
            (62, 28, 58, 24),
        )


def _cut_row(cut: StockCut, words: Words) -> tuple[str, str, str, str]:
    stock = words.say(cut.stock)
    return (
        words.tr("buy {stock}", stock=stock) if cut.to_buy else stock,
        show_length(cut.length_mm, words.units),
        ", ".join(show_length(mm, words.units, with_unit=False) for mm in cut.cuts),
        show_length(cut.waste_mm, words.units) if cut.form != "coil" else "",
    )


def _order(plan: Plan, words: Words) -> Iterable[Flowable]:
    yield Paragraph(words.tr("Order of making"), STYLES["heading"])
    told: tuple[Fact, ...] = ()
    for step in plan.steps:
        # A caution stands at its step; where the next steps share it, once is enough.
        yield _step(step, [care for care in step.cautions if care not in told], words)
        told = step.cautions or told
    yield Paragraph(words.tr("With care"), STYLES["heading"])
    for caution in dict.fromkeys(c for step in plan.steps for c in step.cautions):
        yield Paragraph(_text(words.say(caution)), STYLES["body"])
    yield Paragraph(
        words.tr(
            "A barb in the hand: clean it, and see a doctor if it is deep or does not settle. Keep needles "
            "from children and pets. Local rules come first."
        ),
        STYLES["body"],
    )


def _part(part: PartPlan, wools: Mapping[str, str], words: Words) -> list[Flowable]:
    sizes = " × ".join(show_length(v, words.units, with_unit=False) for v in part.to_mm.values())
    was = " × ".join(show_length(v, words.units, with_unit=False) for v in part.from_mm.values())
    count = f"{part.count} × " if part.count > 1 else ""
    told = [words.say(kind("made", part.made))]
    if part.rounds > 1:
        told.append(words.tr("{rounds} rounds", rounds=part.rounds))
    if part.portions:
        told.append(words.say(kind("firmness", part.firmness)))
    measures = " × ".join(words.say(kind("measure", name)) for name in part.to_mm)
    head = Paragraph(
        f"<b>{count}{_text(part.name)}</b> &nbsp; {sizes} {words.units.length} "
        f"<font color='#6B635B' size='10'>{measures}, {words.tr('was {was}', was=was)} · "
        f"{' · '.join(told)}</font>",
        STYLES["part"],
    )
    rows = [
        (
            f"{wools[p.wool]}, {words.say(called(p))}",
            words.tr("take {amount}", amount=words.say(amount(p))),
            words.say(kept_by(p)),
            words.say(made_ready(p)),
        )
        for p in part.heaps
        if p.grams > 0
    ]
    portions = [_grid(None, rows, (52, 36, 30, 56))] if rows else []
    return [head, *portions, Spacer(0, 2 * mm)]


def _step(step: Step, cautions: Iterable[Fact], words: Words) -> Flowable:
    told = [
        words.tr("needle {needle}", needle=step.needle) if step.needle else "",
        words.tr("{minutes:.0f} min", minutes=step.minutes)
        if step.minutes
        else words.tr("overnight"),
    ]
    told += [words.tr("check: {check}", check=words.say(check)) for check in step.checks]
    line = " · ".join(word for word in told if word)
    care = "".join(
        f" <font size='9' color='#9C4232'>{_text(words.say(c))}</font>" for c in cautions
    )
    cell = Paragraph(
        f"<b>{step.n}</b> &nbsp; {_text(words.say(step.text))} "
        f"<font size='9' color='#6B635B'>{_text(line)}</font>{care}",
        STYLES["body"],
    )
    box = Table([[""]], colWidths=[4.2 * mm], rowHeights=[4.2 * mm])
    box.setStyle(TableStyle([("BOX", (0, 0), (-1, -1), 0.8, INK)]))
    table = Table([[box, cell]], colWidths=[8 * mm, 166 * mm])
    table.setStyle(
        TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LEFTPADDING", (0, 0), (-1, -1), 0),
                ("TOPPADDING", (0, 0), (-1, -1), 1.5),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 2.5),
            ]
        )
    )
    return table


def _grid(
    head: tuple[str, ...] | None, rows: Sequence[tuple[str, ...]], widths: tuple[int, ...]
) -> Flowable:
    table = Table(([head] if head else []) + list(rows), colWidths=[w * mm for w in widths])
    first_line: list[Any] = (
        [("FONT", (0, 0), (-1, 0), BODY, 9), ("TEXTCOLOR", (0, 0), (-1, 0), QUIET)]
        if head
        else [("FONT", (1, 0), (1, -1), BODY_BOLD, 11), ("TEXTCOLOR", (1, 0), (1, -1), MADDER)]
    )
    table.setStyle(
        TableStyle(
            [
                ("FONT", (0, 0), (-1, -1), BODY, 11),
                ("TEXTCOLOR", (0, 0), (-1, -1), INK),
                ("LINEBELOW", (0, 0), (-1, -1), 0.25, colors.HexColor("#D9CFBE")),
                ("TOPPADDING", (0, 0), (-1, -1), 2),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 2.5),
                ("LEFTPADDING", (0, 0), (0, -1), 0),
                *first_line,
            ]
        )
    )
    return table


def _text(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")


class _Figures(Flowable):
    """The figure as made and as it will be, at one scale, on one ground line."""

    def __init__(self, old: Figure, new: Figure, bench: Bench, words: Words) -> None:
        super().__init__()
        self.pictures = [_picture(figure, bench) for figure in (old, new)]
        self.words = words
        self.width, self.height = 174 * mm, 128 * mm

    def draw(self) -> None:
        # Sizes in mm of the figures themselves, then the share of them that fits the paper.
        sizes = [(image.width * step, image.height * step) for image, step, _ in self.pictures]
        base, gap = 8 * mm, 18 * mm
        share = min(
            1.0,
            (self.height - base) / (max(tall for _, tall in sizes) * mm),
            (self.width - 3 * gap) / (sum(wide for wide, _ in sizes) * mm),
        )
        x = (self.width - gap - sum(wide for wide, _ in sizes) * share * mm) / 2
        for (image, step, height), (wide, tall) in zip(self.pictures, sizes, strict=True):
            w, h = wide * share * mm, tall * share * mm
            self.canv.drawImage(
                ImageReader(image), x, base - 4 * step * share * mm, w, h, mask="auto"
            )
            self.canv.setFont(BODY_BOLD, 12)
            self.canv.setFillColor(INK)
            self.canv.drawCentredString(x + w / 2, 1 * mm, show_length(height, self.words.units))
            x += w + gap
        self.canv.setStrokeColor(WELD)
        self.canv.line(0, base, self.width, base)
        self.canv.setFont(BODY, 9)
        self.canv.setFillColor(QUIET)
        told = (
            self.words.tr("drawn at true size")
            if share == 1.0
            else self.words.tr("drawn at {share:.0f} % of true size", share=share * 100)
        )
        self.canv.drawRightString(self.width, 1 * mm, told)


def _picture(figure: Figure, bench: Bench) -> tuple[PillowImage.Image, float, float]:
    """A figure's picture, how many mm a dot of it is, and how tall the figure is (mm)."""
    height = place(figure).height
    step = max(1 / PAPER_DOTS_PER_MM, height / 900)
    pixels = felt(figure, Camera(turn=18, tip=4), step, bench).pixels
    return PillowImage.fromarray(np.ascontiguousarray(pixels)), step, height
