"""Figures that sit for their picture: drawn by the relief as a telephone would see them, their truth
known."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import cv2
import numpy as np
from embreex.mesh_construction import TriangleMesh
from embreex.rtcore_scene import EmbreeScene

from bambola.core.bench import Bench
from bambola.core.figure import Figure, Sight
from bambola.core.plan.reading.starting import start_from
from bambola.core.relief import Camera, Picture, Stage, portrait, stage_of
from bambola.core.sight.silhouette import Pixels
from bambola.core.solids import place
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans, default_bench

CAMERAS: dict[Sight, Camera] = {
    "front": Camera(),
    "side": Camera(90.0),
    "back": Camera(180.0),
    "top": Camera(tip=90.0),
}
HEIGHT_MM = 180.0
STRAYS = (0.9, 1.12)
"""Between what each part, and each of its measures besides, is multiplied."""
HEIGHT_PX = 900
"""Of the longer side of a figure in its picture."""
AWAY_MM = 600.0


@dataclass(frozen=True)
class PartThings:
    """How a figure is photographed; the ground behind it by name, and what goes wrong with the camera."""

    ground: str = "plain"
    shadow: bool = False
    askew_deg: float = 0.0
    off_deg: float = 0.0
    near: bool = False
    blur_px: float = 0.0
    quality: int = 90
    drawn: str = ""


SETTINGS: dict[str, PartThings] = {
    "plain": PartThings(),
    "shadow": PartThings(shadow=True),
    "blurred": PartThings(blur_px=2.5),
    "JPEG 60": PartThings(quality=60),
    "5° askew": PartThings(askew_deg=5.0),
    "8° off": PartThings(off_deg=8.0),
    "0.6 m away": PartThings(near=True),
    "ink": PartThings(ground="paper", drawn="ink"),
    "flat colour": PartThings(ground="paper", drawn="flat"),
    "busy": PartThings(ground="busy"),
    "patterned": PartThings(ground="patterned"),
    "badly lit": PartThings(ground="badly lit", shadow=True),
}
BAD = ("busy", "patterned", "badly lit")


def sitters(bench: Bench | None = None) -> dict[str, Figure]:
    """Return every sitter by its name, all of one height; see :func:`sitter`."""
    names = [load_demo(name).figure.name for name in (BADGER, HERON, TOAD)]
    names += [plan.figure.name for plan in body_plans()]
    return {name: sitter(name, bench) for name in names}


def sitter(name: str, bench: Bench | None = None) -> Figure:
    """Return the sitter of a name: a demo, or a body plan with proportions of its own and every measure of
    every part another (always the same)."""
    for path in (BADGER, HERON, TOAD):
        if (figure := load_demo(path).figure).name == name:
            return figure
    n, plan = next((n, p) for n, p in enumerate(body_plans()) if p.figure.name == name)
    dice = np.random.default_rng(n)
    settings = {p.id: float(dice.uniform(0.85, 1.2)) for p in plan.proportions}
    return _strayed(start_from(plan, HEIGHT_MM, settings, bench or default_bench()), dice)


def _strayed(figure: Figure, dice: np.random.Generator) -> Figure:
    """``figure`` as another maker would have made it: each measure off by up to a quarter."""
    parts = []
    for part in figure.parts:
        whole = float(dice.uniform(*STRAYS))
        sizes = {
            m: mm * whole * float(dice.uniform(*STRAYS)) for m, mm in part.shape.measures().items()
        }
        parts.append(part.replaced(shape=part.shape.resized(sizes)))
    return figure.replaced(parts=tuple(parts))


def whole_height(figure: Figure) -> float:
    """Return how tall it is from the ground to what reaches highest, mm: what a picture shows of it."""
    reach = place(figure).down_up
    return float(reach[:, 0].max() + reach[:, 1].max())


@dataclass(frozen=True)
class Photograph:
    """One view of a sitter: what the camera gives, what each of its pixels shows (as drawn, before the
    camera was askew), and by which parts."""

    pixels: Pixels
    seen: Picture


def photographed(
    figure: Figure, view: Sight, setting: PartThings, bench: Bench, seed: int = 0
) -> Photograph:
    """``figure`` from ``view``, as ``setting`` has it."""
    dice = np.random.default_rng(seed)
    camera = CAMERAS[view]
    if view != "front":
        camera = replace(camera, turn=camera.turn + setting.off_deg)
    stage = stage_of(place(figure))
    stage = _from_near(stage, camera) if setting.near else stage
    left, right, low, high = stage.bounds(camera)
    step = max(right - left, high - low) / HEIGHT_PX
    colours = {wool.id: wool.colour for wool in bench.wools}
    seen = portrait(stage, camera, step, colours)
    rgba = _DRAWN[setting.drawn](seen, colours, figure)
    rows, columns = rgba.shape[0] + 240, rgba.shape[1] + 320
    whole = np.zeros((rows, columns, 4), dtype=np.float32)
    whole[130 : 130 + rgba.shape[0], 160 : 160 + rgba.shape[1]] = rgba
    behind = _GROUNDS[setting.ground](rows, columns, dice)
    alpha = whole[..., 3:]
    if setting.shadow:
        behind = behind * (1 - 0.35 * _shadow(alpha[..., 0]))[..., None]
    made = whole[..., :3] * alpha + behind * (1 - alpha)
    if setting.ground == "badly lit":
        x = np.linspace(0, 1, columns)[None, :, None]
        made = made * (1.1 - 0.75 * x) * np.array([1.05, 0.95, 0.75])
    if setting.askew_deg:
        turn = cv2.getRotationMatrix2D((columns / 2, rows / 2), setting.askew_deg, 1.0)
        made = cv2.warpAffine(made, turn, (columns, rows), borderMode=cv2.BORDER_REPLICATE)
    if setting.blur_px:
        made = cv2.GaussianBlur(made, (0, 0), setting.blur_px)
    made = made + dice.normal(0, 0.012, made.shape)
    flat = (np.clip(made, 0, 1) * 255).astype(np.uint8)
    _, coded = cv2.imencode(".jpg", flat[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, setting.quality])
    found = cv2.imdecode(coded, cv2.IMREAD_COLOR)
    assert found is not None
    return Photograph(np.asarray(found[..., ::-1], dtype=np.uint8).copy(), seen)


def _from_near(stage: Stage, camera: Camera) -> Stage:
    """Return the stage as a camera ``AWAY_MM`` from it sees it: a projective map of it, so straight stays
    straight."""
    axes = camera.axes()
    seen = stage.corners @ axes.T
    middle = (seen.min(axis=0) + seen.max(axis=0)) / 2
    off = seen - middle
    moved = off * (AWAY_MM / (AWAY_MM - off[:, 2]))[:, None] + middle
    corners = moved @ axes
    scene, first = EmbreeScene(), 0
    for actor in stage.actors:
        count = len(actor.mesh.vertices)
        own = corners[first : first + count].astype(np.float32)
        TriangleMesh(scene, own, actor.mesh.faces.astype(np.int32))
        first += count
    return replace(stage, scene=scene, corners=corners)


def _felt(seen: Picture, colours: Mapping[str, str], figure: Figure) -> np.ndarray:
    return seen.pixels.astype(np.float32) / 255


def _flat(seen: Picture, colours: Mapping[str, str], figure: Figure) -> np.ndarray:
    """Return each part in its wool's colour with a thin dark line around it."""
    made = np.ones((*seen.owner.shape, 4), dtype=np.float32)
    for i, part in enumerate(seen.parts):
        body = figure.by_id[part]
        said = colours.get(body.coat.wool if body.coat else body.core, "#888888")
        made[seen.owner == i, :3] = [int(said[k : k + 2], 16) / 255 for k in (1, 3, 5)]
    made[_lines(seen), :3] = 0.12
    made[..., 3] = (seen.owner >= 0) | _lines(seen)
    return made


def _ink(seen: Picture, colours: Mapping[str, str], figure: Figure) -> np.ndarray:
    """Return the outlines of the parts alone, in ink."""
    made = np.ones((*seen.owner.shape, 4), dtype=np.float32)
    made[..., :3] = 0.1
    made[..., 3] = _lines(seen)
    return made


def _lines(seen: Picture) -> np.ndarray:
    own = seen.owner.astype(np.float32)
    kernel = np.ones((5, 5), np.uint8)
    return np.asarray(cv2.dilate(own, kernel) != cv2.erode(own, kernel))


def _shadow(alpha: np.ndarray) -> np.ndarray:
    moved = cv2.warpAffine(alpha, np.array([[1.0, 0, 46], [0, 1, 18]]), alpha.shape[::-1])
    return cv2.GaussianBlur(moved, (0, 0), 14)


def _plain(rows: int, columns: int, dice: np.random.Generator) -> np.ndarray:
    y = np.linspace(0, 1, rows)[:, None, None]
    return np.broadcast_to(np.array([0.86, 0.85, 0.84]) - 0.08 * y, (rows, columns, 3)).copy()


def _paper(rows: int, columns: int, dice: np.random.Generator) -> np.ndarray:
    return np.full((rows, columns, 3), 0.96)


def _busy(rows: int, columns: int, dice: np.random.Generator) -> np.ndarray:
    """Return a shelf out of focus: boxes and rounds of all colours."""
    made = np.full((rows, columns, 3), 0.62)
    for _ in range(70):
        colour = dice.uniform(0.25, 0.9, 3)
        at = tuple(int(v) for v in dice.uniform((0, 0), (columns, rows)))
        size = int(dice.uniform(20, 110))
        if dice.random() < 0.5:
            cv2.circle(made, at, size // 2, colour.tolist(), -1)
        else:
            cv2.rectangle(made, at, (at[0] + size, at[1] + size), colour.tolist(), -1)
    return cv2.GaussianBlur(made, (0, 0), 7)


def _patterned(rows: int, columns: int, dice: np.random.Generator) -> np.ndarray:
    """Return a checked cloth."""
    y, x = np.mgrid[0:rows, 0:columns]
    share = 0.5 * ((x // 40) % 2) + 0.5 * ((y // 40) % 2)
    a, b = np.array([0.93, 0.92, 0.9]), np.array([0.62, 0.36, 0.62])
    return np.asarray(a * (1 - share[..., None]) + b * share[..., None])


_Drawn = Callable[[Picture, Mapping[str, str], Figure], np.ndarray]
_DRAWN: dict[str, _Drawn] = {"": _felt, "flat": _flat, "ink": _ink}
_GROUNDS: dict[str, Callable[[int, int, np.random.Generator], np.ndarray]] = {
    "plain": _plain,
    "paper": _paper,
    "busy": _busy,
    "patterned": _patterned,
    "badly lit": _plain,
}
