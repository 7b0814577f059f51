"""The simulated phone ``bambola-camera``: draws felt beside a card on a table, and saves the picture into the
watched folder."""

from __future__ import annotations

import argparse
import math
import time
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.devices.simulated_table import SURFACES, FeltPiece, PhoneCamera, Scene, photograph
from bambola.language import tr

Array = NDArray[np.float64]


class Felt(NamedTuple):
    """An egg-shaped piece: its centre, half length, width and height (mm), rotation and colour."""

    x: float
    y: float
    long: float
    wide: float
    high: float
    degrees: float
    colour: tuple[int, int, int]


@dataclass
class Table:
    """The scene: pieces of felt, and a card of some size, or none."""

    pieces: list[Felt]
    camera: PhoneCamera = field(default_factory=PhoneCamera)
    ground: tuple[int, int, int] = (168, 140, 104)
    card: tuple[float, float] | None = (10.0, 15.0)
    card_colour: tuple[int, int, int] = (232, 234, 240)
    card_mm: tuple[float, float] = (85.6, 53.98)
    seed: int = 1
    grain: float = 7.0
    blur: float = 0.8
    light: float = 1.0

    def photograph(self) -> NDArray[np.uint8]:
        """Return the picture of the table, RGB."""
        random, cam = np.random.default_rng(self.seed), self.camera
        image = np.full((cam.rows, cam.columns, 3), self.ground, np.float32)
        streaks = cv2.GaussianBlur(
            random.normal(0, 1, (cam.rows, cam.columns)).astype(np.float32), (0, 0), 40, sigmaY=2
        )
        image += 160 * streaks[..., None]
        for piece in self.pieces:
            shade = np.zeros((cam.rows, cam.columns), np.float32)
            flat = _ellipsoid_points(piece) * [1, 1, 0] + [piece.high * 0.35, piece.high * 0.25, 0]
            cv2.fillConvexPoly(shade, _hull_px(cam.px(flat)), 1.0)
            soft = cv2.GaussianBlur(shade, (0, 0), 9)
            image = np.asarray(image * (1 - 0.3 * soft[..., None]), np.float32)
        if self.card is not None:
            image = self._with_card(image)
        for piece in self.pieces:
            image = self._with_piece(image, piece, random)
        lit = cv2.GaussianBlur(image, (0, 0), self.blur) * self.light
        slope = np.linspace(0.88, 1.1, cam.columns)[None, :, None]
        grainy = (lit + random.normal(0, self.grain / 2, image.shape)) * slope
        return np.asarray(np.clip(grainy, 0, 255), dtype=np.uint8)

    def _with_card(self, image: NDArray[np.float32]) -> NDArray[np.float32]:
        assert self.card is not None
        (x, y), (wide, high), r = self.card, self.card_mm, 3.2
        rounds = [
            (x + cx + r * math.cos(a), y + cy + r * math.sin(a), 0.0)
            for cx, cy, start in (
                (wide - r, high - r, 0), (r, high - r, 90), (r, r, 180), (wide - r, r, 270),
            )
            for a in np.radians(np.linspace(start, start + 90, 9))
        ]  # fmt: skip
        px = cv2.convexHull(np.round(self.camera.px(np.array(rounds)) * 16).astype(np.int32))
        cv2.fillConvexPoly(image, px, self.card_colour, cv2.LINE_AA, 4)
        strip = np.array(
            [(x, y + 8, 0), (x + wide, y + 8, 0), (x + wide, y + 18, 0), (x, y + 18, 0.0)]
        )
        if self.card_mm[0] > 80:
            cv2.fillConvexPoly(image, _hull_px(self.camera.px(strip)), (40, 42, 48))
        return image

    def _with_piece(
        self,
        image: NDArray[np.float32],
        piece: Felt,
        random: np.random.Generator,
    ) -> NDArray[np.float32]:
        cam, colour = self.camera, np.array(piece.colour, np.float32)
        px = cam.px(_ellipsoid_points(piece))
        cover = np.zeros((cam.rows, cam.columns), np.float32)
        hull = cv2.convexHull(np.round(px * 16).astype(np.int32))
        cv2.fillConvexPoly(cover, hull, 1.0, cv2.LINE_AA, 4)
        outline = hull.reshape(-1, 2) / 16
        middle = outline.mean(axis=0)
        for _ in range(150):  # hairs that stand out
            start = outline[random.integers(len(outline))]
            way = (start - middle) / np.linalg.norm(start - middle) + random.normal(0, 0.6, 2)
            end = start + way * random.uniform(3, 14)
            cv2.line(
                cover, np.round(start).astype(int), np.round(end).astype(int), 0.5, 1, cv2.LINE_AA
            )
        wool = cv2.GaussianBlur(random.normal(0, 1, cover.shape).astype(np.float32), (0, 0), 1.6)
        shade = np.linspace(1.08, 0.86, cam.rows)[:, None]
        felt = colour * shade[..., None] + 22 * wool[..., None]
        return np.asarray(image * (1 - cover[..., None]) + felt * cover[..., None], np.float32)


def _ellipsoid_points(piece: Felt) -> Array:
    """Return points (n, 3) on the skin of a piece lying on the table."""
    u, v = np.meshgrid(np.linspace(0, 2 * np.pi, 90), np.linspace(-np.pi / 2, np.pi / 2, 45))
    own = np.stack(
        [
            piece.long * np.cos(v) * np.cos(u),
            piece.wide * np.cos(v) * np.sin(u),
            piece.high * (1 + np.sin(v)),
        ],
        -1,
    ).reshape(-1, 3)
    c, s = math.cos(math.radians(piece.degrees)), math.sin(math.radians(piece.degrees))
    return np.asarray(own @ np.array([[c, s, 0], [-s, c, 0], [0, 0, 1]]) + [piece.x, piece.y, 0])


def _hull_px(px: Array) -> NDArray[np.int32]:
    return np.asarray(cv2.convexHull(np.round(px).astype(np.int32)))


def upright(
    figure: NDArray[np.bool_],
    mm_px: float,
    lean: float = 0.0,
    seed: int = 1,
    aslant: float = 3.0,
    eyes: NDArray[np.bool_] | None = None,
) -> NDArray[np.uint8]:
    """Return a picture of a standing figure made from its front outline (rows, columns), leaning to the right
    by so many degrees, before a wall with a card beside it, from a camera slightly off axis. ``eyes`` are
    black."""
    random = np.random.default_rng(seed)
    px_mm, wide, high = 4.0, 330, 290
    image = np.empty((round(high * px_mm), round(wide * px_mm), 3), np.float32)
    image[:] = (176, 190, 182)
    image += random.normal(0, 4, image.shape)
    foot = np.array([110.0, high - 18.0]) * px_mm
    rows, columns = figure.shape
    scale = mm_px * px_mm
    c, s = math.cos(math.radians(lean)) * scale, math.sin(math.radians(lean)) * scale
    turn = np.array([[c, -s, 0.0], [s, c, 0.0]])
    turn[:, 2] = foot - turn[:, :2] @ [columns / 2, rows]
    size = image.shape[1], image.shape[0]
    cover = cv2.warpAffine(figure.astype(np.float32), turn, size)
    noise = np.asarray(random.normal(0, 1, image.shape[:2]), np.float32)
    wool = cv2.GaussianBlur(noise, (0, 0), 1.6)
    felt = np.array((120, 74, 60), np.float32) + 18 * wool[..., None]
    image = image * (1 - cover[..., None]) + felt * cover[..., None]
    if eyes is not None:
        dark = cv2.warpAffine(eyes.astype(np.float32), turn, size)[..., None]
        image = image * (1 - dark) + np.array((24, 22, 26), np.float32) * dark
    left, top = 225.0 * px_mm, (high - 18 - 85.6) * px_mm
    card = np.array([[0, 0], [53.98, 0], [53.98, 85.6], [0, 85.6]]) * px_mm + [left, top]
    cv2.fillConvexPoly(image, np.round(card).astype(np.int32), (40, 60, 120), cv2.LINE_AA)
    corners = np.array([[0, 0], [size[0], 0], [size[0], size[1]], [0, size[1]]], np.float32)
    moved = corners + random.uniform(-aslant, aslant, (4, 2)).astype(np.float32) * px_mm * 2
    whole = cv2.warpPerspective(
        image, cv2.getPerspectiveTransform(corners, np.asarray(moved, np.float32)), size,
        borderMode=cv2.BORDER_REFLECT,
    )  # fmt: skip
    return np.asarray(np.clip(cv2.GaussianBlur(whole, (0, 0), 0.8), 0, 255), dtype=np.uint8)


def parser() -> argparse.ArgumentParser:
    """Return the parser of the command line."""
    parser = argparse.ArgumentParser(
        prog="bambola-camera",
        description=tr("A simulated telephone: pictures of a piece of felt beside a card."),
    )
    parser.add_argument("folder", type=Path, help=tr("where the pictures are put"))
    parser.add_argument("--length", type=float, default=60.0, help=tr("of the piece, mm"))
    parser.add_argument("--width", type=float, default=30.0, help=tr("of the piece, mm"))
    parser.add_argument("--count", type=int, default=1, help=tr("how many pictures"))
    parser.add_argument("--every", type=float, default=2.0, help=tr("seconds between two of them"))
    parser.add_argument("--surface", choices=SURFACES, help=tr("what the table is of"))
    return parser


def _simulated_picture(
    length: float, width: float, surface: str | None, n: int
) -> NDArray[np.uint8]:
    """Return the ``n``-th picture of a piece (mm) on a table of ``surface``, or a plain one."""
    if surface is None:
        piece = Felt(95.0, 120.0, length / 2, width / 2, width / 2, 15.0 * n, (60, 120, 130))
        return Table([piece], PhoneCamera(at=(95.0, 85.0), turn=5.0 * n), seed=n).photograph()
    laid = FeltPiece("egg", length, width, width, (120.0, 165.0), 15.0 * n, (178, 60, 70))
    camera = PhoneCamera(at=(200.0, 165.0), high=500.0, lean=10.0, turn=5.0 * n, lens=60.0)
    return photograph(Scene((laid,), surface, known_at=(205.0, 140.0), camera=camera, seed=n))


def main(argv: Sequence[str] | None = None) -> int:
    """Take the requested number of pictures."""
    from PIL import Image

    known = parser()
    args = known.parse_args(argv)
    if not (2 <= args.width <= args.length <= 150 and 1 <= args.count <= 1000 and args.every >= 0):
        known.error(tr("a piece is 2 to 150 mm wide, no wider than long; 1 to 1000 pictures"))
    if not args.folder.is_dir():
        known.error(tr("{folder} is not a folder", folder=args.folder))
    for n in range(args.count):
        time.sleep(args.every if n else 0)
        picture = _simulated_picture(args.length, args.width, args.surface, n)
        path = args.folder / f"table-{time.time_ns()}.jpg"
        Image.fromarray(picture).save(path, quality=88)
        print(path, flush=True)
    return 0
