"""The packet: lengths measured in the PDF's own strokes, sheets that meet, pages counted, bad input told."""

from __future__ import annotations

import io
import math
import re
from collections import Counter
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import Any
from xml.etree import ElementTree as ET

import numpy as np
import pytest
from pypdf import PdfReader
from pypdf.generic import ContentStream
from shapely import LinearRing, affinity

from bambola.cli import main
from bambola.core.bench import Bench
from bambola.core.export.drawn import (
    Clip,
    DrawnPicture,
    DrawnStroke,
    DrawnText,
    Item,
    PaperPage,
    text_wide,
    wrap_text,
)
from bambola.core.export.packet import (
    PAPERS,
    Job,
    UnknownPageError,
    packet_pages,
    packet_pdf,
)
from bambola.core.export.packet.build import attached_name, pdf_of
from bambola.core.export.packet.kinds import SHORT, WHOLE
from bambola.core.export.packet.pages.templates import ALIKE_MM, ENLARGED, SMALL_MM
from bambola.core.export.packet.papers import LABEL_SHEETS, LabelSheet, label_sheets
from bambola.core.export.packet.sheet import (
    FOOT_MM,
    MARGIN_MM,
    OVERLAP_MM,
    Block,
    number_pages,
    pack_blocks,
    tile_sheets,
)
from bambola.core.export.packet.sheet import box_of as edges_of
from bambola.core.export.paper import BODY, OTHER_BOLD, TITLE, font_with_letters
from bambola.core.export.strips import letter_of, rows_of
from bambola.core.export.svg import true_size_svgs
from bambola.core.figure import Brief, DocumentError, load_document
from bambola.core.figure.places import Outline
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.weighing import blanks_of, split_wishes, weighings
from bambola.core.quantities import Units
from bambola.core.solids import Copy, outline_of_copy
from bambola.core.solids.forms import box_of
from bambola.core.wool.splitting import split_plan
from bambola.core.words import ENGLISH
from bambola.core.words import Words as Maker
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench
from bambola.store.designs import design_of
from tests.core.as_kept import PAPER, assert_as_kept
from tests.core.kept_paper import other_packets, read, whole_packet
from tests.effort import THOROUGH, some, thorough
from tests.figures import one_ball
from tests.pseudo import Pseudo
from tests.said import IMPERIAL, METRIC, SOLD_OR_SMALL, said

coarse = pytest.mark.usefixtures("coarse_felt")

POINT = 25.4 / 72
ENGLISH_WORDS = {
    "with",
    "from",
    "page",
    "true",
    "size",
    "each",
    "wool",
    "wire",
    "round",
    "height",
    "print",
}


def badger(bench: Bench, height: float = 220.0) -> Job:
    demo = load_demo(BADGER)
    plan = make_plan(demo.figure, demo.brief.at_height(height), bench)
    return Job((plan,), demo.figure, bench, date(2026, 11, 2))


def only(job: Job, *pages: str) -> Job:
    return Job(job.plans, job.figure, job.bench, job.today, job.paper, pages, job.words)


def strokes(page: PaperPage) -> list[DrawnStroke]:
    """All strokes of a page, those seen through a box as well."""

    def within(items: tuple[Item, ...]) -> list[DrawnStroke]:
        found: list[DrawnStroke] = []
        for item in items:
            found += within(item.items) if isinstance(item, Clip) else []
            found += [item] if isinstance(item, DrawnStroke) else []
        return found

    return within(page.items)


def drawn_mm(pdf: bytes, page: int) -> list[np.ndarray]:
    """The paths of a PDF's page as they are stroked, in mm of the sheet: read off its own operators."""
    found: list[np.ndarray] = []
    matrix, stack, run = np.eye(3), [], []
    for operands, operator in PdfReader(io.BytesIO(pdf)).pages[page].get_contents().operations:  # type: ignore[union-attr]
        o = operator.decode()
        v = [float(x) for x in operands if isinstance(x, int | float)]
        if o == "q":
            stack.append(matrix)
        elif o == "Q":
            matrix = stack.pop()
        elif o == "cm":
            a, b, c, d, e, f = v
            matrix = np.array([[a, b, 0], [c, d, 0], [e, f, 1]]) @ matrix
        elif o == "m":
            run = [v]
        elif o == "l":
            run.append(v)
        elif o in ("S", "s", "B", "b"):
            points = np.column_stack([np.array(run), np.ones(len(run))]) @ matrix
            found.append(points[:, :2] * POINT)
            run = []
        elif o in ("n", "f"):
            run = []
    return found


@coarse
def test_templates_are_as_large_on_paper_as_in_plan(bench: Bench) -> None:
    job = only(badger(bench), "templates")
    pages = packet_pages(job)
    pdf = pdf_of(pages, "templates")
    measured = 0
    for n, page in enumerate(pages):
        boxes = {tuple(np.round(np.ptp(run, axis=0), 1)) for run in drawn_mm(pdf, n)}
        for stroke in strokes(page):
            if not stroke.what.startswith("template-"):
                continue
            part = stroke.what.removeprefix("template-")
            want = sorted(job.plan.part(part).to_mm.values())
            wide, high = np.ptp(stroke.points, axis=0)
            assert any(math.dist(box, (wide, high)) < 0.15 for box in boxes), part
            shape = job.plan.resized.figure.by_id[part].shape
            if shape.kind in (
                "ball",
                "cone",
                "pad",
                "turned",
            ):  # as they stand: no bend, no thickness
                sizes = shape.extents()
                assert (high, wide) == pytest.approx((sizes[0], sizes[1]), abs=0.2), part
                assert max(wide, high) <= max(want) + 0.2
                measured += 1
    assert measured >= 6


def test_part_with_other_side_view_is_drawn_twice(bench: Bench) -> None:
    """The badger's leg, as wide and as high from both sides, was drawn once, though it is bent by 1.7 mm."""
    job = only(badger(bench), "templates")
    drawn = {stroke.what for page in packet_pages(job) for stroke in strokes(page)}
    assert "side-leg" in drawn
    for part in job.plan.resized.figure.parts:
        if f"template-{part.id}" not in drawn:
            continue
        copy = Copy(part, None, part.shape, np.eye(4))
        front, side = (LinearRing(outline_of_copy(copy, view)) for view in ("front", "side"))
        turned = affinity.scale(side, -1.0)
        off = min(
            front.hausdorff_distance(affinity.translate(run, *shift))
            for run in (side, turned)
            for shift in [
                np.subtract(front.envelope.centroid.coords[0], run.envelope.centroid.coords[0])
            ]
        )
        if abs(off - ALIKE_MM) > 0.15:  # outlines are of many corners, not of all
            assert (f"side-{part.id}" in drawn) == (off > ALIKE_MM), (part.id, off)


def test_figure_is_as_high_on_paper_as_it_will_be(bench: Bench) -> None:
    job = only(badger(bench), "figure")
    pages = packet_pages(job)
    pdf = pdf_of(pages, "figure")
    for n, page in enumerate(pages[:2]):
        outline = next(s for s in strokes(page) if s.what == "outline")
        tall = float(np.ptp(outline.points[:, 1]))
        ears = max(c.reach(np.array([0.0, 0.0, 1.0])) for c in job.plan.solids.placement.copies)
        assert tall == pytest.approx(ears - job.plan.solids.placement.ground, abs=0.2)
        runs = drawn_mm(pdf, n)
        assert any(abs(float(np.ptp(run[:, 1])) - tall) < 0.05 for run in runs)
        assert {"wire", "firm", "part", "ground", "dot"} <= {s.what for s in strokes(page)}


def test_every_true_size_page_can_be_checked(bench: Bench) -> None:
    for page in packet_pages(only(badger(bench), "figure", "templates", "face", "wires")):
        ruler = next(s for s in strokes(page) if s.what == "ruler")
        assert float(np.ptp(ruler.points[:, 0])) == pytest.approx(100.0)
        corners = np.vstack([s.points for s in strokes(page) if s.what == "square"])
        assert np.ptp(corners, axis=0) == pytest.approx((50.0, 50.0))


@pytest.mark.parametrize("paper", PAPERS)
def test_sheets_of_what_is_too_large_overlap_exactly(paper: str) -> None:
    sheet = PAPERS[paper]
    circle = np.linspace(0, 2 * np.pi, 400)
    ring = np.column_stack([260 + 250 * np.cos(circle), 260 + 250 * np.sin(circle)])
    block = Block(520.0, 520.0, (DrawnStroke(ring, closed=True, what="ring"),))
    pages = list(tile_sheets(block, sheet, "figure", "ring", ENGLISH))
    wide, high = sheet.room
    columns = math.ceil((520 - OVERLAP_MM) / (wide - OVERLAP_MM))
    assert len(pages) == columns * math.ceil((520 - OVERLAP_MM) / (high - OVERLAP_MM))
    first, second = (next(s for s in strokes(p) if s.what == "ring").points for p in pages[:2])
    shift = np.unique(np.round(first - second, 6), axis=0)
    # Every point lies one room less the overlap further left, and the cuts fall on one another.
    assert shift == pytest.approx(np.array([[wide - OVERLAP_MM, 0.0]]))
    cuts = [
        {
            round(float(s.points[0, 0]), 3)
            for s in strokes(p)
            if s.what == "cut" and np.ptp(s.points[:, 0]) == 0
        }
        for p in pages[:2]
    ]
    right, left = max(cuts[0]), min(cuts[1])
    assert right - left == pytest.approx(wide - OVERLAP_MM)
    assert all(page.wide == sheet.wide for page in pages)


SMALLEST = ("a5", BADGER, (160.0, 220.0))
"""Most runs over the edge of the smallest paper, and where several heights share a sheet."""
ON_PAPER = [
    (paper, *laid)
    for paper in PAPERS
    for laid in ((BADGER, (160.0, 220.0)), (HERON, (300.0,)), (TOAD, (60.0,)))
]


@pytest.mark.parametrize(
    ("paper", "demo", "heights"),
    [SMALLEST, *(one for one in ON_PAPER if THOROUGH and one != SMALLEST)],
)
def test_nothing_of_packet_lies_where_printers_do_not_print(
    demo: Path, heights: tuple[float, ...], paper: str
) -> None:
    figure, bench = load_demo(demo).figure, default_bench()
    plans = tuple(make_plan(figure, Brief(height=height), bench) for height in heights)
    job = Job(plans, figure, bench, date(2026, 3, 1), PAPERS[paper])
    for page in packet_pages(job):
        for item in page.items:
            if isinstance(item, DrawnStroke | DrawnText):
                left, top, right, low = edges_of(item)
            else:
                left, top, right, low = item.x, item.y, item.x + item.wide, item.y + item.high
            assert min(left, top, page.wide - right, page.high - low) >= 3.0, (page.told, item)


def test_blocks_are_packed_without_lying_on_each_other() -> None:
    rng = np.random.default_rng(3)
    sizes = rng.uniform(8, 90, (40, 2))
    blocks = [
        Block(
            w,
            h,
            (DrawnStroke(np.array([(0, 0), (w, 0), (w, h), (0, h)]), closed=True, what=str(i)),),
        )
        for i, (w, h) in enumerate(sizes)
    ]
    pages = list(pack_blocks(blocks, PAPERS["a4"], "templates", "x", ENGLISH, true_size=False))
    seen = 0
    for page in pages:
        boxes = [
            (s.points.min(axis=0), s.points.max(axis=0)) for s in strokes(page) if s.what.isdigit()
        ]
        seen += len(boxes)
        for i, (low, high) in enumerate(boxes):
            assert low.min() >= MARGIN_MM - 0.01 and high[1] <= 297 - FOOT_MM + 0.2
            for other_low, other_high in boxes[:i]:
                assert (low >= other_high - 0.01).any() or (other_low >= high - 0.01).any()
    area = float((sizes[:, 0] * sizes[:, 1]).sum())
    assert seen == 40 and len(pages) <= math.ceil(area / (188 * 271) / 0.6)


def test_badger_takes_few_sheets_and_little_room() -> None:
    job = whole_packet()
    pages = packet_pages(job)
    steps = sum(page.kind == "steps" for page in pages)
    assert len(pages) <= 40 and len(pages) - steps <= 24
    assert [kind for kind in WHOLE if kind != "patterns"] == list(
        dict.fromkeys(page.kind for page in pages)
    )
    short = packet_pages(replace(job, pages=SHORT))
    assert len(short) <= 4 and {page.kind for page in short} == set(SHORT)
    told = " ".join(
        item.text for page in short for item in page.items if isinstance(item, DrawnText)
    )
    for step in job.plan.steps:
        assert said(step.text).split()[0] in told
    for part in job.plan.parts:
        assert part.name in told
    for wire in job.plan.wires:
        assert said(wire.name) in told
    made = packet_pdf(job)
    assert len(made) < 3_000_000
    assert_as_kept("packet", read(made), PAPER)
    feet = [item.text for item in pages[-1].items if isinstance(item, DrawnText)]
    assert any(text.endswith(f"page {len(pages)} of {len(pages)}") for text in feet)
    # Every step has its box to tick.
    texts = [t for p in pages if p.kind == "steps" for t in p.items if isinstance(t, DrawnText)]
    boxes = {t.text for t in texts if t.text.isdigit() and t.size == 3.6}
    assert boxes == {str(step.n) for step in job.plan.steps}


def test_packets_match_kept_ones() -> None:
    made = {name: read(packet_pdf(job)) for name, job in other_packets().items()}
    assert_as_kept("packets", made, PAPER)


def test_cover_tells_wire_of_all_pieces_that_are_made(bench: Bench) -> None:
    demo = load_demo(BADGER)
    plan = make_plan(demo.figure, demo.brief.at_height(220.0).replaced(count=3), bench)
    job = Job((plan,), demo.figure, bench, date(2026, 11, 2), pages=("cover",))
    legs = next(wire for wire in plan.wires if wire.id == "legs")
    told = [item.text for item in packet_pages(job)[0].items if isinstance(item, DrawnText)]
    assert f"Soft steel, 1.5 mm: {3 * legs.cut_mm:.0f} mm in 3 pieces" in told


def test_wire_rows_add_up_to_cut_length(bench: Bench) -> None:
    """In print and in the SVG of each, over the splices of a long one and of twisted strands."""
    demo, heron = load_demo(BADGER), load_demo(HERON)
    for figure, brief in (
        (demo.figure, Brief(height=220)),
        (demo.figure, Brief(height=700, schools={"wire": "continuous"})),
        (heron.figure, Brief(height=420, schools={"wire-stock": "chenille"})),
    ):
        plan = make_plan(figure, brief, bench)
        job = Job((plan,), figure, bench, date(2026, 11, 2), pages=("wires",))
        drawn = [s for page in packet_pages(job) for s in strokes(page)]
        long = sum(float(np.ptp(s.points[:, 0])) for s in drawn if s.what == "wire")
        assert long == pytest.approx(sum(wire.cut_mm for wire in plan.wires), abs=0.2)
        svgs = true_size_svgs(plan, bench)
        for wire in plan.wires:
            root = ET.fromstring(svgs[f"wire-{wire.id}.svg"])
            assert root.get("width") == f"{float(root.get('viewBox', '').split()[2]):.2f}mm"
            runs = {
                what: [
                    [float(x) for x in re.findall(r"[ML](-?[\d.]+),", e.get("d", ""))]
                    for e in root.iter() if e.get("class") == what
                ]
                for what in ("wire", "bend")
            }  # fmt: skip
            assert sum(b - a for a, b in runs["wire"]) == pytest.approx(wire.cut_mm, abs=0.2)
            assert len(runs["wire"]) == len(wire.pieces)
            if len(wire.pieces) == 1:
                at = sorted(x - runs["wire"][0][0] for x, _ in runs["bend"])
                assert at == pytest.approx([bend.at_mm for bend in wire.bends], abs=0.01)


def test_rows_meet_at_their_match_marks() -> None:
    rows = rows_of(700.0, 250.0)
    assert [(r.before, r.after) for r in rows] == [("", "A"), ("A", "B"), ("B", "")]
    assert rows[0].end_mm == rows[1].start_mm and rows[-1].end_mm == 700.0
    assert [letter_of(i) for i in (0, 25, 26, 27)] == ["A", "Z", "AA", "AB"]
    assert len(rows_of(10.0, 250.0)) == 1


def test_wool_is_printed_at_true_size_completely(bench: Bench) -> None:
    demo, ounces = load_demo(BADGER), Maker(Units(mass="oz"))
    plan = make_plan(demo.figure, Brief(height=120, count=2), bench)
    split = split_plan(split_wishes(plan, "woad", bench))
    job = Job((plan,), demo.figure, bench, date(2026, 11, 2), pages=("wool", "bundles", "labels"),
              words=ounces, splits={"woad": split})  # fmt: skip
    pages = packet_pages(job)
    drawn = [s for page in pages for s in strokes(page)]
    for part in plan.parts:
        sizes = [np.ptp(s.points, axis=0) for s in drawn if s.what == f"bundle-{part.id}"]
        for heap in (h for h in part.heaps if h.take_g > 0 and h.form not in ("sheet", "cone")):
            loose = heap.loose_mm
            want = sorted((loose.get("along", loose.get("across", 0.0)), loose["across"]))
            assert min(np.abs(np.sort(size) - want).max() for size in sizes) < 0.2, part.id
    blank = blanks_of(plan, bench)["ear"]
    (outline,) = (s for s in drawn if s.what == "blank-ear")
    assert np.ptp(outline.points, axis=0) == pytest.approx(np.ptp(blank.outline, axis=0))
    texts = [item.text for page in pages for item in page.items if isinstance(item, DrawnText)]
    text = " ".join(texts)
    for w in weighings(plan):
        assert said(w.title).split()[0] in text
    ticks = [i for p in pages if p.kind == "wool" for i in p.items if isinstance(i, DrawnStroke)]
    boxes = [s for s in ticks if np.ptp(s.points, axis=0) == pytest.approx((3.2, 3.2))]
    assert len(boxes) == len(weighings(plan))
    assert "2 of 2" in text and "Woad teal" in text and "oz" in text and "buy" in text
    assert re.search(rf"\b{split.splits}\.\s+Tear", text)


EXTREMES = [(20.0, "legal"), (800.0, "a5"), *([(20.0, "a5"), (800.0, "legal")] if THOROUGH else [])]


@coarse
@pytest.mark.parametrize(("height", "paper"), EXTREMES)
def test_tiny_and_huge_figures_fit_their_paper(height: float, paper: str, bench: Bench) -> None:
    demo = load_demo(TOAD if height < 100 else HERON)
    plan = make_plan(demo.figure, demo.brief.at_height(height), bench)
    pages = packet_pages(Job((plan,), demo.figure, bench, date(2026, 11, 2), PAPERS[paper]))
    for page in pages:
        for item in page.items:
            if isinstance(item, Clip | DrawnPicture):
                assert item.x + item.wide <= page.wide + 0.1 and item.y + item.high <= page.high
    whats = {s.what for page in pages for s in strokes(page)}
    assert ("enlarged" in whats) == (height == 20.0) and ("cut" in whats) == (height == 800.0)


@coarse
@pytest.mark.parametrize("units", some([Units("in", "oz"), Units()], 1))
def test_paper_speaks_in_maker_s_units(units: Units, bench: Bench) -> None:
    demo = load_demo(HERON)
    plan = make_plan(demo.figure, demo.brief.at_height(127.0), bench)
    job = Job((plan,), demo.figure, bench, date(2026, 11, 2), words=Maker(units))
    stray = IMPERIAL if units.length == "mm" else METRIC
    for page in packet_pages(job):
        text = " ".join(item.text for item in page.items if isinstance(item, DrawnText))
        text = re.sub(r"needles of \d+ in", "", SOLD_OR_SMALL.sub("", text))
        found = stray.search(text)
        assert not found, (page.kind, text[max(0, found.start() - 60) : found.end() + 20])


@coarse
@thorough
def test_paper_speaks_another_language_and_its_words_stay_on_sheet(bench: Bench) -> None:
    job = badger(bench)
    own = {p.name for p in job.plan.parts} | {f.name for f in job.plan.fittings}
    own |= {w.name for w in job.plan.wools} | {job.plan.figure}
    pages = packet_pages(replace(job, words=Maker(catalogue=Pseudo())))
    told = [(p, i) for p in pages for i in p.items if isinstance(i, DrawnText)]
    for page, item in told:
        wide = text_wide(item.text, item.size, item.face)
        left = item.x - {"left": 0.0, "middle": wide / 2, "right": wide}[item.at]
        assert left >= -0.1 and left + wide <= page.wide + 0.1, (page.kind, item.text)
    # A line broken in two is whole again when its lines are put together.
    text = re.sub(r"⟦[^⟦⟧]*⟧", "", " ".join(item.text for _, item in told))
    for name in sorted(own, key=len, reverse=True):
        text = re.sub(re.escape(name), "", text, flags=re.IGNORECASE)
    plain = set(re.findall(r"[A-Za-z]{4,}", text))
    assert not plain & ENGLISH_WORDS, plain & ENGLISH_WORDS


@coarse
def test_only_what_is_bought_comes_in_sizes_of_its_own(bench: Bench) -> None:
    texts = [i.text for p in packet_pages(only(badger(bench), "cover", "labels")) for i in p.items
             if isinstance(i, DrawnText)]  # fmt: skip
    assert "2 × Eyes, 8 mm" in texts and "1 × Lantern, 48 mm" in texts


@coarse
def test_pattern_of_several_sizes_nests_them_by_other_lines(bench: Bench) -> None:
    plans = tuple(badger(bench, mm).plan for mm in (140.0, 180.0, 220.0))
    demo = load_demo(BADGER)
    job = Job(plans, demo.figure, bench, date(2026, 11, 2), pages=("cover", "figure", "templates"),
              maker="A maker", licence="For your own making", note="Try the small one first")  # fmt: skip
    pages = packet_pages(job)
    text = " ".join(i.text for p in pages for i in p.items if isinstance(i, DrawnText))
    assert all(word in text for word in ("A maker", "For your own making", "140 mm", "180 mm"))
    front = next(page for page in pages if page.kind == "figure")
    outlines_ = [s for s in strokes(front) if s.what == "outline"]
    assert len({s.dash for s in outlines_}) == 3
    grounds = {
        round(float(s.points[:, 1].max()), 1) for s in outlines_ if np.ptp(s.points[:, 1]) > 100
    }
    assert len(grounds) == 1  # all stand on one line


def test_tiny_outlines_are_enlarged_at_all_heights(bench: Bench) -> None:
    demo = load_demo(TOAD)
    heights = (20.0, 60.0)
    plans = tuple(make_plan(demo.figure, demo.brief.at_height(mm), bench) for mm in heights)
    job = Job(plans, demo.figure, bench, date(2026, 11, 2), pages=("templates",))
    drawn = [s for page in packet_pages(job) for s in strokes(page)]
    tiny = {p.id for p in plans[0].parts if min(p.to_mm.values()) < SMALL_MM}
    assert {p.id for p in plans[1].parts if min(p.to_mm.values()) < SMALL_MM} != tiny
    ways = [np.ptp(s.points, axis=0) for s in drawn if s.what == "enlarged"]
    # Beside each, every height, so many times as large as at true size.
    for kind in ("template-", "other"):
        for s in drawn:
            if s.what == f"{kind}lower-wart" or (kind == "other" and s.what == "other"):
                near = min(np.abs(np.ptp(s.points, axis=0) * ENLARGED - way).max() for way in ways)
                assert kind == "other" or near < 1e-6
    assert len(ways) == 2 * sum(s.what.removeprefix("template-") in tiny for s in drawn)


@pytest.mark.parametrize("sheet", LABEL_SHEETS, ids=lambda sheet: f"{sheet.paper}-{sheet.id}")
def test_labels_fill_their_sheet(sheet: LabelSheet) -> None:
    """As much is left at the right as at the left, and at the foot as at the top."""
    paper = PAPERS[sheet.paper]
    last = sheet.corner(int(sheet.id) - 1)
    assert paper.wide - last[0] - sheet.wide == pytest.approx(sheet.left, abs=0.35)
    assert paper.high - last[1] - sheet.high == pytest.approx(sheet.top, abs=0.35)
    assert sheet.corner(0) == (sheet.left, sheet.top)
    assert sheet.corner(sheet.columns)[0] == sheet.left


@pytest.mark.parametrize(("paper", "count"), [("a4", "21"), ("a4", "8"), ("letter", "30")])
def test_labels_stay_on_their_labels(paper: str, count: str, bench: Bench) -> None:
    sheet = label_sheets(PAPERS[paper])[count]
    plain = only(badger(bench), "labels")
    job = replace(plain, paper=PAPERS[paper], labels=sheet)
    pages = packet_pages(job)
    corners = [sheet.corner(n) for n in range(sheet.columns * sheet.rows)]
    right, low = corners[-1][0] + sheet.wide, corners[-1][1] + sheet.high
    assert right <= job.paper.wide + 0.01 and low <= job.paper.high + 0.6
    told = [i for page in pages for i in page.items if isinstance(i, DrawnText)]
    for item in told:
        x, y = next(
            (x, y)
            for x, y in corners
            if x <= item.x < x + sheet.wide and y < item.y <= y + sheet.high
        )
        assert item.y - item.size >= y + 0.5
        assert item.x + text_wide(item.text, item.size, item.face) <= x + sheet.wide - 1.0, (
            item.text
        )
    # Nothing of what goes into the bags is lost, and no page number is printed on a label.
    lost = Counter(word for page in packet_pages(plain) for word in words_on(page, foot=False))
    lost.subtract(word for page in pages for word in words_on(page))
    assert not +lost and not any("page" in item.text for item in told)


def words_on(page: PaperPage, foot: bool = True) -> list[str]:
    items = page.items if foot else page.items[:-1]
    return [word for i in items if isinstance(i, DrawnText) for word in i.text.split()]


@coarse
def test_design_travels_within_and_opens_from_it(
    bench: Bench, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    where = tmp_path / "badger.pdf"
    command = [
        "packet",
        str(BADGER),
        "--height",
        "180mm",
        "--pages",
        "cover,happened",
        "-o",
        str(where),
    ]
    assert main(command) == 0
    (name,) = PdfReader(where).attachments
    data = design_of(where.read_bytes(), where.name)
    assert name == BADGER.name and load_document(data, name).figure == load_demo(BADGER).figure
    assert main(["plan", str(where), "--height", "180mm"]) == 0
    assert "Lamplighter badger" in capsys.readouterr().out
    plain = pdf_of([PaperPage(100, 100, ())], "nothing")
    with pytest.raises(DocumentError, match=r"^x: There is no design of Bambola within"):
        design_of(plain, "x")


@pytest.mark.parametrize(
    ("more", "told"),
    [
        (["--paper", "b7"], "--paper: “b7” is not known; use a4, a5, letter, legal"),
        (["--pages", "cover,moon"], "There are no pages “moon”; there are cover"),
        (["--height", "0mm"], "--height: 0mm is not allowed"),
    ],
)
def test_what_cannot_be_printed_is_told_in_one_sentence(
    more: list[str], told: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    where = tmp_path / "p.pdf"
    assert main(["packet", str(BADGER), *more, "-o", str(where)]) == 2
    error = capsys.readouterr().err
    assert told in error and error.count("\n") == 1 and not where.exists()
    nowhere = tmp_path / "no" / "p.pdf"
    assert main(["packet", str(BADGER), "--pages", "happened", "-o", str(nowhere)]) == 2


@coarse
def test_numbers_run_on_over_what_is_left(bench: Bench) -> None:
    plan: Plan = make_plan(one_ball(), load_demo(TOAD).brief.at_height(60.0), bench)
    pages = packet_pages(Job((plan,), one_ball(), bench, date(2026, 11, 2)))
    assert not {"face", "wires"} & {page.kind for page in pages}
    again = number_pages(
        [PaperPage(p.wide, p.high, p.items[:-1], p.told, p.kind) for p in pages[:2]],
        "Ball",
        ENGLISH,
    )
    assert isinstance(again[1].items[-1], DrawnText) and again[1].items[-1].text.endswith(
        "page 2 of 2"
    )
    with pytest.raises(UnknownPageError):
        packet_pages(Job((plan,), one_ball(), bench, date(2026, 11, 2), pages=("steps", "nothing")))


@pytest.mark.parametrize(
    ("file", "name"),
    [
        ("badger.bambola.json", "badger.bambola.json"),
        ("badger.json", "badger.bambola.json"),
        ("my.badger.txt", "my.bambola.json"),
        ("badger", "badger.bambola.json"),
    ],
)
def test_design_travels_under_name_it_is_known_by(file: str, name: str) -> None:
    assert attached_name(file) == name


def test_masks_show_places_at_true_size(bench: Bench) -> None:
    """The badger's stripes on its head and, from behind, on its snout: outlines in a box."""
    job = only(badger(bench), "templates")
    figure = job.plan.resized.figure
    strokes = [
        item for page in packet_pages(job) for item in page.items if isinstance(item, DrawnStroke)
    ]
    for part, place in (("head", "face-stripes"), ("snout", "snout-stripes")):
        body = figure.by_id[part]
        drawn = next(p for p in body.patches if p.id == place)
        assert isinstance(drawn.where, Outline)
        _, half = box_of(body.shape)
        wide, high = np.ptp(np.array(drawn.where.outline), axis=0) * [half[0], half[2]]
        found = [s for s in strokes if s.what == f"place-{place}"]
        assert len(found) == 2  # it is mirrored
        for stroke in found:
            assert np.ptp(stroke.points, axis=0) == pytest.approx([wide, high], abs=0.05)
        near = [s for s in strokes if s.what == "mask" and np.ptp(s.points[:, 0]) > wide]
        assert any(
            np.ptp(s.points, axis=0) == pytest.approx([2 * half[0], 2 * half[2]], rel=0.02)
            for s in near
        )


def test_greek_and_cyrillic_names_get_embedded_fonts() -> None:
    figure = load_demo(TOAD).figure.replaced(name="Жаба Βάτραχος")
    plan = make_plan(figure, Brief(height=95.0), default_bench())
    job = Job((plan,), figure, default_bench(), date(2026, 3, 1), pages=("cover", "order"))
    reader = PdfReader(io.BytesIO(packet_pdf(job)))
    assert reader.trailer["/Root"]["/Lang"] == "en"  # type: ignore[index]
    for page in reader.pages:
        assert "Жаба Βάτραχος" in page.extract_text()
        for font in page["/Resources"]["/Font"].values():  # type: ignore[index]
            assert "/FontFile2" in font.get_object()["/FontDescriptor"]
    assert (
        font_with_letters(BODY, "23 × 4 mm – ½ „ß“") == BODY
        and font_with_letters(TITLE, "ж") == OTHER_BOLD
    )
    assert (
        sum(text_wide(line, 4.0) > 50.0 for line in wrap_text("Жаба сидит и ждёт " * 9, 4.0, 50.0))
        == 0
    )


def test_text_and_pictures_on_paper_are_tagged() -> None:
    bench = default_bench()
    figure = load_demo(TOAD).figure
    plan = make_plan(figure, Brief(height=95.0), bench)
    job = Job((plan,), figure, bench, date(2026, 3, 1), pages=("cover", "figure", "steps"))
    reader = PdfReader(io.BytesIO(packet_pdf(job)))
    root: Any = reader.trailer["/Root"]
    assert root["/MarkInfo"]["/Marked"]
    (whole,) = [root["/StructTreeRoot"]["/K"]]
    by_page: Any = root["/StructTreeRoot"]["/ParentTree"]["/Nums"]
    assert len(whole["/K"]) == len(reader.pages) == len(by_page) / 2
    for n, page in enumerate(reader.pages):
        inside, marks = [], []
        for given, does in ContentStream(page["/Contents"], reader).operations:
            if does == b"BDC":
                marks.append(given[1]["/MCID"])
            if does in (b"BDC", b"BMC"):
                assert not inside  # never one within another
                inside.append(given[0])
            elif does == b"EMC":
                inside.pop()
            elif does in (b"Tj", b"TJ"):
                assert inside[-1] in ("/P", "/H1")
            elif does == b"Do":
                assert inside == ["/Figure"]
        read = [one.get_object() for one in whole["/K"][n]["/K"]]
        assert [mark for one in read for mark in one["/K"]] == marks == list(range(len(marks)))
        of_mark = [up.get_object()["/K"] for up in by_page[2 * n + 1]]
        assert page["/StructParents"] == n and len(of_mark) == len(marks)
        assert all(mark in of for mark, of in enumerate(of_mark))
        assert all(one["/Alt"] for one in read if one["/S"] == "/Figure")
    assert any(one.get_object()["/S"] == "/H1" for one in whole["/K"][0]["/K"])
