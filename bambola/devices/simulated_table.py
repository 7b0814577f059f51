"""Simulated pictures of tables: pieces of felt on wood, slate, linen or checked cloth beside a card or a
printed square, in soft light, with their true sizes."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Picture = NDArray[np.uint8]
Colour = tuple[int, int, int]

SURFACES = ("white", "wood", "slate", "linen", "checked")
FORMS = ("ball", "egg", "cone", "capsule", "taper", "ear", "ring", "disc")
_FINE = 6.0
"""Pixels to a millimetre of the table before the camera sees it."""
_TABLE_MM = (440.0, 340.0)
_LIGHTS = 24


@dataclass
class PhoneCamera:
    """A camera ``high`` mm above a place of the table, tilted by some degrees, with a lens of ``lens`` mm (35
    mm equivalent)."""

    at: tuple[float, float] = (90.0, 70.0)
    high: float = 420.0
    lean: float = 0.0
    turn: float = 0.0
    columns: int = 1600
    rows: int = 1200
    lens: float = 26.0

    def matrix(self) -> Array:
        """Return the projection (3, 4) from the world (mm, z up) to the picture."""
        focal = self.lens / math.hypot(36, 24) * math.hypot(self.rows, self.columns)
        inner = np.array([[focal, 0, self.columns / 2], [0, focal, self.rows / 2], [0, 0, 1.0]])
        c, s = math.cos(math.radians(self.lean)), math.sin(math.radians(self.lean))
        ct, st = math.cos(math.radians(self.turn)), math.sin(math.radians(self.turn))
        # Looking straight down: x to the right, y down, z away from the camera.
        down = np.array([[1.0, 0, 0], [0, 1, 0], [0, 0, -1]])
        tilt = np.array([[1, 0, 0], [0, c, -s], [0, s, c]])
        roll = np.array([[ct, -st, 0], [st, ct, 0], [0, 0, 1]])
        turn = roll @ tilt @ down
        centre = np.array([*self.at, self.high])
        # It looks at the place, from where it leans to.
        centre = centre - np.array([0.0, math.tan(math.radians(self.lean)) * self.high, 0.0])
        return np.asarray(inner @ np.column_stack([turn, -turn @ centre]))

    def px(self, places: Array) -> Array:
        """Return the pixels of places (n, 3) in mm."""
        seen = np.column_stack([places, np.ones(len(places))]) @ self.matrix().T
        return np.asarray(seen[:, :2] / seen[:, 2:])


@dataclass(frozen=True)
class FeltPiece:
    """A piece of felt: its form, length, width and thickness (mm), centre, rotation and colour."""

    form: str
    long: float
    wide: float
    high: float
    at: tuple[float, float]
    degrees: float
    colour: Colour

    def skin(self) -> Array:
        """Return its skin as a grid of points (n, m, 3), mm, on the table."""
        u = np.linspace(0, 1, 61)[:, None]
        v = np.linspace(0, 2 * np.pi, 49)[None]
        if self.form == "ring":
            thin = self.high / 2
            ring = self.long / 2 - thin
            x = (ring + thin * np.cos(v)) * np.cos(2 * np.pi * u)
            y = (ring + thin * np.cos(v)) * np.sin(2 * np.pi * u) * self.wide / self.long
            z = thin * np.sin(v) + 0 * u
        else:
            along, half = _form_profile(self.form, u, self.wide / self.long)
            x = self.long * (along - 0.5) + 0 * v
            y = self.wide / 2 * half * np.cos(v)
            z = self.high / 2 * half * np.sin(v)
            if self.form in ("ear", "disc"):  # flat above and below
                z = self.high / 2 * np.sign(np.sin(v)) * np.abs(np.sin(v)) ** 0.7 * half**0.5
        c, s = math.cos(math.radians(self.degrees)), math.sin(math.radians(self.degrees))
        net = np.stack(
            np.broadcast_arrays(x * c - y * s, x * s + y * c, z + self.high / 2), axis=-1
        )
        return np.asarray(net + np.array([*self.at, 0.0]))


def _form_profile(form: str, u: Array, slim: float) -> tuple[Array, Array]:
    """Return the places of sections along a form, 0 to 1, and their relative widths; ``slim`` is width over
    length."""
    round_ = 0.5 - 0.5 * np.cos(np.pi * u)
    ellipse = np.sin(np.pi * u)
    if form == "egg":
        return round_, ellipse * (1 - 0.22 * (round_ - 0.42))
    if form == "cone":
        # A blunt base with a rounded rim, a tip that is no needle.
        rim, tip = np.minimum(round_ / 0.05, 1.0), np.minimum((1 - round_) / 0.02, 1.0)
        ends = np.sqrt((1 - (1 - rim) ** 2) * (1 - (1 - tip) ** 2))
        return round_, ends * (1 - 0.85 * round_)
    if form in ("capsule", "taper"):
        cap = slim / 2
        ends = np.minimum(np.minimum(round_, 1 - round_) / cap, 1.0)
        shrink = 1 - 0.45 * round_ if form == "taper" else 1.0
        return round_, np.sqrt(1 - (1 - ends) ** 2) * shrink
    if form == "ear":
        return round_, np.sin(np.pi * round_**0.62) ** 0.9
    return round_, ellipse


@dataclass(frozen=True)
class Scene:
    """The scene: pieces on a surface, a card or printed square (its first corner and rotation), the direction
    and softness of the light, and the camera."""

    pieces: tuple[FeltPiece, ...]
    surface: str = "white"
    known: str = "card"
    known_at: tuple[float, float] = (270.0, 150.0)
    known_degrees: float = 0.0
    card_colour: Colour = (60, 92, 74)
    light_degrees: float = 40.0
    softness: float = 0.35
    fuzz: int = 160
    camera: PhoneCamera = field(default_factory=PhoneCamera)
    seed: int = 1


def photograph(scene: Scene) -> Picture:
    """Return the picture (rows, columns, 3)."""
    random = np.random.default_rng(scene.seed)
    table = _table_surface(scene.surface, random)
    _lay_known(table, scene)
    nets = [piece.skin() for piece in scene.pieces]
    table *= _light_on_table(nets, scene, random)[..., None]
    rows, columns = scene.camera.rows, scene.camera.columns
    plane = scene.camera.matrix()[:, [0, 1, 3]] @ np.diag([1 / _FINE, 1 / _FINE, 1.0])
    seen = cv2.warpPerspective(
        table, plane, (columns, rows), flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REFLECT
    )
    view = np.asarray(seen, dtype=np.float32)
    for piece, net in zip(scene.pieces, nets, strict=True):
        _lay_piece(view, piece, net, scene, random)
    away = np.hypot(*np.meshgrid(np.linspace(-1, 1, columns), np.linspace(-0.75, 0.75, rows)))
    view *= (1.04 - 0.16 * away**2).astype(np.float32)[..., None]
    soft = cv2.GaussianBlur(view, (0, 0), 0.7) + random.normal(0, 1.6, view.shape)
    coded = cv2.imencode(
        ".jpg", np.clip(soft, 0, 255).astype(np.uint8), [cv2.IMWRITE_JPEG_QUALITY, 90]
    )
    return np.asarray(cv2.imdecode(coded[1], cv2.IMREAD_COLOR), dtype=np.uint8)


def _smooth_noise(
    random: np.random.Generator, size: tuple[int, int], across: float, down: float
) -> Array:
    """Return smooth noise (rows, columns) of spread 1."""
    small = max(1, round(min(across, down) / 2))
    rough = random.normal(0, 1, (size[0] // small + 2, size[1] // small + 2)).astype(np.float32)
    smooth = cv2.GaussianBlur(
        rough, (0, 0), max(0.4, across / small), sigmaY=max(0.4, down / small)
    )
    whole = cv2.resize(smooth, (size[1], size[0]), interpolation=cv2.INTER_CUBIC)
    return np.asarray(whole / (whole.std() + 1e-6), dtype=np.float64)


def _table_surface(kind: str, random: np.random.Generator) -> NDArray[np.float32]:
    """Return the colours of a table (rows, columns, 3), seen straight and evenly lit."""
    columns, rows = (round(side * _FINE) for side in _TABLE_MM)
    size = rows, columns
    colour = {
        "white": (222, 221, 217), "wood": (176, 126, 80), "slate": (82, 90, 102),
        "linen": (196, 190, 176), "checked": (228, 228, 232),
    }[kind]  # fmt: skip
    table = np.empty((*size, 3), np.float64)
    table[:] = colour
    if kind == "wood":
        grain = _smooth_noise(random, size, 260, 5) + 0.6 * _smooth_noise(random, size, 90, 2)
        table *= (1 + 0.045 * grain)[..., None]
        for row in range(random.integers(100, 400), rows, round(95 * _FINE)):
            table[row : row + 3] *= 0.55
    elif kind == "slate":
        table *= (
            1
            + 0.05 * _smooth_noise(random, size, 3, 3)
            + 0.03 * _smooth_noise(random, size, 60, 60)
        )[..., None]
    elif kind == "linen":
        x, y = np.arange(columns) / _FINE, np.arange(rows)[:, None] / _FINE
        weave = np.sin(2 * np.pi * x / 0.9) * np.sin(2 * np.pi * y / 0.9)
        threads = _smooth_noise(random, size, 2, 90) + _smooth_noise(random, size, 90, 2)
        table *= (1 + 0.02 * weave + 0.015 * threads)[..., None]
    elif kind == "checked":
        side = random.uniform(11, 17)
        turn = random.uniform(-0.15, 0.15)
        x, y = np.meshgrid(np.arange(columns) / _FINE, np.arange(rows) / _FINE)
        u, v = x * math.cos(turn) + y * math.sin(turn), y * math.cos(turn) - x * math.sin(turn)
        dyed = ((u // side) % 2 + (v // side) % 2)[..., None] / 2
        table = table * (1 - dyed) + np.array(_DYES[random.integers(len(_DYES))]) * dyed
    else:
        table *= (1 + 0.008 * _smooth_noise(random, size, 8, 8))[..., None]
    return table.astype(np.float32)


_DYES = ((160, 52, 50), (58, 96, 66), (52, 92, 150))


def _lay_known(table: NDArray[np.float32], scene: Scene) -> None:
    """Draw a card, or the page with a square printed as ticks, with its shadow."""
    turn = math.radians(scene.known_degrees)
    way = np.array([[math.cos(turn), math.sin(turn)], [-math.sin(turn), math.cos(turn)]])

    def px(places: Array) -> NDArray[np.int32]:
        laid = (places @ way + scene.known_at) * _FINE
        return np.asarray(np.round(laid * 16), dtype=np.int32)

    def fill(places: Array, colour: Colour) -> None:
        cv2.fillPoly(table, [px(places)], colour, cv2.LINE_AA, 4)

    wide, high = (85.6, 53.98) if scene.known == "card" else (105.0, 148.0)
    rim = _rounded_rectangle(wide, high, 3.2 if scene.known == "card" else 0.0)
    shade = np.zeros(table.shape[:2], np.float32)
    cv2.fillPoly(shade, [px(rim + 0.5)], 1.0, cv2.LINE_AA, 4)
    table *= (1 - 0.4 * cv2.GaussianBlur(shade, (0, 0), 0.7 * _FINE))[..., None]
    if scene.known == "card":
        fill(rim, scene.card_colour)
        fill(_rounded_rectangle(11, 9, 1.5, (10, 20)), (196, 170, 96))
        for k in range(4):
            fill(_rounded_rectangle(13, 3, 0.5, (10 + 17 * k, 34)), (214, 214, 210))
        return
    fill(rim, (240, 239, 235))
    for x, y in ((0, 0), (50, 0), (50, 50), (0, 50)):
        at = np.array([28.0 + x, 40.0 + y])
        inward = np.array([1.0 if x == 0 else -1.0, 1.0 if y == 0 else -1.0])
        for arm in (np.array([4.0, 0.0]), np.array([0.0, 4.0])):
            ends = px(np.array([at, at + arm * inward]))
            cv2.line(table, ends[0], ends[1], (120, 120, 120), 2, cv2.LINE_AA, 4)


def _rounded_rectangle(
    wide: float, high: float, radius: float, at: tuple[float, float] = (0.0, 0.0)
) -> Array:
    """Return the outline (n, 2) of a rectangle with rounded corners, from its first corner."""
    arcs = [
        (cx + radius * math.cos(a), cy + radius * math.sin(a))
        for cx, cy, start in (
            (wide - radius, high - radius, 0), (radius, high - radius, 90),
            (radius, radius, 180), (wide - radius, radius, 270),
        )
        for a in np.radians(np.linspace(start, start + 90, 8))
    ]  # fmt: skip
    return np.asarray(np.array(arcs) + np.array(at), dtype=np.float64)


def _light_on_table(
    nets: list[Array], scene: Scene, random: np.random.Generator
) -> NDArray[np.float32]:
    """Return the light on the table (rows, columns) from a broad lamp and from all around."""
    rows, columns = (round(side * _FINE / 4) for side in _TABLE_MM[::-1])
    dark = np.zeros((rows, columns), np.float32)
    angle = math.radians(scene.light_degrees)
    for _ in range(_LIGHTS):
        lean = np.array([math.cos(angle), math.sin(angle)]) * 0.8 + random.normal(
            0, scene.softness, 2
        )
        one = np.zeros_like(dark)
        for net in nets:
            _fill_net(one, (net[..., :2] + lean * net[..., 2:]) * _FINE / 4, 1.0)
        dark += one / _LIGHTS
    near = np.zeros_like(dark)
    for net in nets:
        _fill_net(near, net[..., :2] * _FINE / 4, 1.0)
    left = (1 - 0.45 * dark) * (1 - 0.3 * cv2.GaussianBlur(near, (0, 0), 4.0))
    return np.asarray(
        cv2.resize(
            left, tuple(round(side * _FINE) for side in _TABLE_MM), interpolation=cv2.INTER_CUBIC
        )
    )


def _fill_net(canvas: NDArray[np.float32], px: Array, colour: float) -> None:
    """Fill the area of a grid of points (n, m, 2)."""
    fixed = np.round(px * 16).astype(np.int32)
    cells = np.stack([fixed[:-1, :-1], fixed[:-1, 1:], fixed[1:, 1:], fixed[1:, :-1]], axis=2)
    for cell in cells.reshape(-1, 4, 2):
        cv2.fillConvexPoly(canvas, cell, colour, cv2.LINE_8, 4)


def _lay_piece(
    seen: NDArray[np.float32],
    piece: FeltPiece,
    net: Array,
    scene: Scene,
    random: np.random.Generator,
) -> None:
    """Draw a piece as the camera sees it: lit from one side, matt, hairy."""
    px = scene.camera.px(net.reshape(-1, 3)).reshape(*net.shape[:2], 2)
    low = np.floor(px.reshape(-1, 2).min(axis=0) - 40).astype(int)
    high = np.ceil(px.reshape(-1, 2).max(axis=0) + 40).astype(int)
    low, high = np.maximum(low, 0), np.minimum(high, [seen.shape[1], seen.shape[0]])
    wide, tall = high - low
    fine = np.zeros((tall * 3, wide * 3), np.float32)
    _fill_net(fine, (px - low) * 3 + 1, 1.0)
    cover = cv2.resize(fine, (int(wide), int(tall)), interpolation=cv2.INTER_AREA)
    light = _skin_brightness(px - low, net, cover.shape, scene)
    wool = _smooth_noise(random, (int(tall), int(wide)), 1.6, 1.6)
    felt = np.array(piece.colour) * (light * (1 + 0.06 * wool))[..., None]
    area = seen[low[1] : high[1], low[0] : high[0]]
    contours, _ = cv2.findContours(
        (cover > 0.5).astype(np.uint8), cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE
    )
    rim = np.concatenate([c.reshape(-1, 2) for c in contours])
    hairs = np.zeros_like(cover)
    for _ in range(scene.fuzz):
        start = rim[random.integers(len(rim))].astype(float)
        way = random.normal(0, 1, 2)
        bend = start + way * random.uniform(2, 8)
        end = bend + (way + random.normal(0, 0.8, 2)) * random.uniform(1, 6)
        line = np.round(np.array([start, bend, end]) * 16).astype(np.int32)
        cv2.polylines(hairs, [line], False, random.uniform(0.25, 0.6), 1, cv2.LINE_AA, 4)
    cover = np.maximum(cover, hairs)[..., None]
    area[:] = area * (1 - cover) + felt * cover


def _skin_brightness(px: Array, net: Array, shape: tuple[int, ...], scene: Scene) -> Array:
    """Return the brightness of visible skin (rows, columns) by its angle to the lamp."""
    a, b = np.gradient(net, axis=0), np.gradient(net, axis=1)
    facing = np.cross(a, b)
    facing /= np.linalg.norm(facing, axis=2, keepdims=True) + 1e-9
    middle = net.reshape(-1, 3).mean(axis=0)
    if float((facing * (net - middle)).sum()) < 0:
        facing = -facing
    angle = math.radians(scene.light_degrees)
    lamp = np.array([-math.cos(angle), -math.sin(angle), 1.25]) / math.hypot(1.0, 1.25)
    bright = 0.62 + 0.5 * np.clip(facing @ lamp, 0, 1)
    canvas = np.full(shape, 0.8, np.float32)
    order = np.argsort(net[:-1, :-1, 2].ravel())
    fixed = np.round(px * 16).astype(np.int32)
    cells = np.stack([fixed[:-1, :-1], fixed[:-1, 1:], fixed[1:, 1:], fixed[1:, :-1]], axis=2)
    cells, tones = cells.reshape(-1, 4, 2), bright[:-1, :-1].ravel()
    for n in order:
        cv2.fillConvexPoly(canvas, cells[n], float(tones[n]), cv2.LINE_8, 4)
    return np.asarray(cv2.GaussianBlur(canvas, (0, 0), 2.0), dtype=np.float64)
