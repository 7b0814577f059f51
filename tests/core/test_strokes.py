"""Figures of one stroke a part: drawn by ourselves as ellipsoids, so that their volume is known."""

from __future__ import annotations

import json

import cv2
import manifold3d as m3
import numpy as np
import pytest
from numpy.typing import NDArray

from bambola.core.bench import Bench
from bambola.core.facts import Fact, RefusedError
from bambola.core.figure import Framing
from bambola.core.figure.survey import Sight
from bambola.core.plan.reading.proposing import propose_figure
from bambola.core.sight.blobs import DividedPicture
from bambola.core.sight.framing import find_framing, taken_apart
from bambola.core.sight.silhouette import separate_silhouette
from bambola.core.solids import place, solid_of
from bambola.core.strokes.document import PartStroke, check_strokes, load_strokes
from bambola.core.strokes.drawing import StrokedPicture, draw_figure
from bambola.core.strokes.grouping import StrokeLine, group_lines

Array = NDArray[np.float64]
Solid = tuple[str, tuple[float, float, float], tuple[float, float, float], tuple[int, int, int]]

PX_MM, MARGIN = 5.0, 60
MARMOT: tuple[Solid, ...] = (
    ("body", (0, 0, 42), (58, 52, 84), (150, 110, 70)),
    ("belly", (0, -20, 40), (36, 18, 50), (232, 220, 190)),
    ("head", (0, -6, 96), (46, 44, 40), (150, 110, 70)),
    ("snout", (0, -30, 92), (18, 24, 16), (214, 190, 150)),
    ("ear", (17, -2, 113), (14, 10, 18), (120, 80, 50)),
    ("ear", (-17, -2, 113), (14, 10, 18), (120, 80, 50)),
    ("arm", (32, -6, 60), (16, 18, 40), (120, 80, 50)),
    ("arm", (-32, -6, 60), (16, 18, 40), (120, 80, 50)),
    ("foot", (15, -16, 6), (20, 32, 12), (90, 70, 60)),
    ("foot", (-15, -16, 6), (20, 32, 12), (90, 70, 60)),
    ("tail", (0, 42, 24), (20, 60, 20), (120, 80, 50)),
)
"""Part, centre (mm; the figure looks towards -y), sizes, colour."""
STROKES: tuple[tuple[Sight, str, tuple[tuple[float, float], ...]], ...] = (
    ("front", "Body", ((0, 0), (0, 84))),
    ("side", "Body", ((0, 0), (0, 84))),
    ("front", "Belly", ((0, 15), (0, 65))),
    ("front", "Head", ((0, 76), (0, 116))),
    ("side", "Head", ((6, 76), (6, 116))),
    ("side", "Snout", ((18, 92), (42, 92))),
    ("front", "Ear", ((17, 104), (17, 122))),
    ("front", "Arm", ((32, 80), (32, 40))),
    ("side", "Foot", ((0, 6), (32, 6))),
    ("side", "Tail", ((-14, 24), (-72, 24))),
)
TALL = 122.0


def render(view: Sight, busy: bool) -> NDArray[np.uint8]:
    """The marmot as a far camera sees it, lit from above, before a wall or in a room full of things."""
    wide = 190.0
    columns, rows = int(wide * PX_MM), int(TALL * PX_MM) + 2 * MARGIN
    rng = np.random.default_rng(3)
    image = np.full((rows, columns, 3), (150, 165, 150), dtype=np.float64)
    if busy:
        for _ in range(14):  # boxes
            left, top = rng.integers(0, columns), rng.integers(0, rows)
            far = rng.integers(40, 160, 2)
            image[top : top + far[1], left : left + far[0]] = rng.integers(40, 230, 3)
        tiles = (np.indices((rows, columns)).sum(axis=0) // 50 % 2)[rows - MARGIN - 20 :]
        image[rows - MARGIN - 20 :] = 70 + 130 * tiles[..., None]
    u = (np.arange(columns) + 0.5 - columns / 2) / PX_MM
    v = (rows - MARGIN - np.arange(rows) - 0.5) / PX_MM
    nearest = np.full((rows, columns), -np.inf)
    for _, (x, y, z), size, colour in MARMOT:
        across, away = (
            ((x, size[0]), (y, size[1])) if view == "front" else ((-y, size[1]), (x, size[0]))
        )
        a = (u[None] - across[0]) / (across[1] / 2)
        b = (v[:, None] - z) / (size[2] / 2)
        inside = 1 - a**2 - b**2
        height = np.sqrt(inside.clip(0))
        depth = (-away[0] if view == "front" else away[0]) + height * away[1] / 2
        shown = (inside > 0) & (depth > nearest)
        nearest[shown] = depth[shown]
        light = 0.62 + 0.25 * height + 0.18 * b.repeat(columns, axis=1)
        image[shown] = (np.array(colour) * light[..., None])[shown]
    image += rng.normal(0, 5, image.shape)
    return np.asarray(cv2.GaussianBlur(image, (0, 0), 0.8).clip(0, 255), dtype=np.uint8)


def volume_mm3() -> float:
    """The volume of the marmot's ellipsoids together, by counting cells of a grid."""
    grid = np.stack(np.meshgrid(*[np.arange(-80, 130, 1.5)] * 3, indexing="ij"), axis=-1)
    whole = np.zeros(grid.shape[:3], dtype=bool)
    for _, centre, size, _ in MARMOT:
        whole |= (((grid - np.array(centre)) / (np.array(size) / 2)) ** 2).sum(axis=-1) <= 1
    return float(whole.sum()) * 1.5**3


def strokes(shake: float, dense: bool) -> list[PartStroke]:
    rng = np.random.default_rng(11)
    found = []
    for view, name, ends in STROKES:
        line = np.array(ends, dtype=np.float64)
        if dense:
            line = line[0] + np.linspace(0, 1, 30)[:, None] * (line[1] - line[0])
        columns, rows = int(190 * PX_MM), int(TALL * PX_MM) + 2 * MARGIN
        px = np.column_stack([columns / 2 + line[:, 0] * PX_MM, rows - MARGIN - line[:, 1] * PX_MM])
        px += rng.uniform(-shake, shake, px.shape)
        found.append(PartStroke(view=view, name=name, points=tuple(map(tuple, px.tolist()))))
    return found


@pytest.mark.parametrize(("busy", "dense", "most"), [(False, True, 0.08), (True, False, 0.12)])
def test_figure_of_strokes_has_volume_parts_and_pairs(
    bench: Bench, busy: bool, dense: bool, most: float
) -> None:
    pictures: dict[Sight, StrokedPicture] = {}
    views: tuple[Sight, ...] = ("front", "side")
    for view in views:
        pixels = render(view, busy)
        high, wide = pixels.shape[:2]
        framing = Framing(
            view=view, picture=view, width=wide, height=high, ground=high, midline=wide / 2
        )
        pictures[view] = StrokedPicture(framing, pixels, 1.0)
    found = draw_figure(pictures, strokes(3.0, dense), TALL, bench, [], "Marmot")
    placed = place(found.figure)
    assert placed.height == pytest.approx(TALL, rel=0.002)
    names = {part.name: part for part in found.figure.parts}
    assert names.keys() == {name for _, name, _ in STROKES}
    assert {n for n, part in names.items() if part.pair} == {"Ear", "Arm", "Foot"}
    on = {n: found.figure.by_id[p.parent].name for n, p in names.items() if p.parent}
    assert on["Snout"] == on["Ear"] == "Head" and on["Head"] == on["Tail"] == on["Arm"] == "Body"
    behind = {n: float(placed.copies_of(p.id)[0].point(0.5)[1]) for n, p in names.items()}
    assert behind["Snout"] < behind["Head"] < behind["Tail"]  # the side picture looks to the right
    solids = [solid_of(copy.shape).transform(copy.matrix[:3]) for copy in placed.copies]
    made = m3.Manifold.batch_boolean(solids, m3.OpType.Add).volume()
    assert made == pytest.approx(volume_mm3(), rel=most)


def line(view: Sight, name: str, *points: tuple[float, float]) -> StrokeLine:
    return StrokeLine(PartStroke(view=view, name=name, points=points), points)


def test_same_name_in_two_views_or_mirrored_is_one_part() -> None:
    lines = [
        line("front", "Leg", (10, 20), (10, 0)),
        line("front", "leg", (-10, 20), (-10, 0)),  # its twin
        line("side", "Leg", (30, 20), (30, 0)),
        line("side", "Horn", (0, 50), (0, 60)),
        line("side", "Leg", (-30, 20), (-30, 0)),  # another leg, behind the first
        line("side", "Horn", (1, 50), (1, 62)),  # drawn again
    ]
    parts = group_lines(lines)
    assert [(part.name, len(part.lines), part.pair) for part in parts] == [
        ("Leg", 3, True),
        ("Horn", 1, None),
        ("Leg", 1, None),
    ]
    assert parts[1].lines[0].points[1] == (1, 62)


def test_faulty_strokes_are_told_by_what_and_where() -> None:
    with pytest.raises(ValueError, match=r"strokes › #1 › points"):
        load_strokes(
            '{"strokes": [{"view": "front", "name": "Leg", "points": [[1, 2]]}]}', "s.json"
        )
    with pytest.raises(ValueError, match="view"):
        load_strokes(
            '{"strokes": [{"view": "below", "name": "Leg", "points": [[1, 2], [3, 4]]}]}', "s"
        )
    framing = Framing(view="front", picture="p", width=100, height=80, ground=80, midline=50)
    sheet = {"strokes": [{"view": "front", "name": "Leg", "points": [[1, 2], [30, 99]]}]}
    read = load_strokes(json.dumps(sheet), "s.json")
    given: dict[Sight, Framing] = {"front": framing}
    for framings, key in (({}, "strokes.no-picture"), (given, "strokes.outside")):
        with pytest.raises(RefusedError) as refused:
            check_strokes(read, framings)
        assert isinstance(refused.value.told, Fact) and refused.value.told.kind == key


def test_found_parts_are_named_rightly_or_not(bench: Bench) -> None:
    seen: dict[Sight, DividedPicture] = {}
    views: tuple[Sight, ...] = ("front", "side")
    for view in views:
        pixels = render(view, False)
        outline, (high, wide) = separate_silhouette(pixels), pixels.shape[:2]
        bare = Framing(
            view=view, picture=view, width=wide, height=high, ground=high, midline=wide / 2
        )
        front = seen["front"].framing.mm_px if seen else None
        seen[view] = taken_apart(find_framing(bare, outline, TALL, front), pixels, outline, 1.0)
    everything = propose_figure(seen, TALL, bench, "Marmot", lambda name: name or "?")
    found, nameless = everything.with_names_only("?")
    assert nameless and len(found.figure.parts) == len(everything.figure.parts) - nameless
    assert found.sure.keys() == {part.id for part in found.figure.parts}
    truth = {"body": None, "head": "body", "foot": "body", "arm": "body", "tail": "body"}
    for part in found.figure.parts:
        assert part.parent == truth[part.name] and part.pair == (part.name in ("arm", "foot"))
