"""Lay the fibres of the felt that every picture shows: ``python scripts/fibre_tile.py``."""

from __future__ import annotations

import math
import zlib
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bambola.core.relief.picture import TILE, TILE_LEVELS, blur_image

SHIPPED = Path(__file__).parents[1] / "bambola/shipped/fibres.z"
COUNT, LENGTH = 5200, 46
COARSE = 4
"""How many pixels of the tile a cloud's grid is wide."""


def lay_fibres() -> NDArray[np.int8]:
    """Matted fibres, light and dark, in clouds: (512, 512), repeating."""
    rng = np.random.default_rng(20)
    start = rng.uniform(0, TILE, (COUNT, 2))
    heading = rng.uniform(0, 2 * math.pi, COUNT)
    bend = rng.normal(0, 0.035, COUNT)
    t = np.arange(LENGTH)
    angle = heading[:, None] + bend[:, None] * t
    x = start[:, :1] + np.cumsum(np.cos(angle), axis=1)
    y = start[:, 1:] + np.cumsum(np.sin(angle), axis=1)
    weight = rng.normal(0, 1, (COUNT, 1)) * np.sin(math.pi * (t + 0.5) / LENGTH)
    places = (y.astype(np.int32) % TILE) * TILE + x.astype(np.int32) % TILE
    tile = np.bincount(places.ravel(), weight.ravel(), TILE**2).reshape(TILE, TILE)
    # Clouds show nothing finer than a coarse grid does; the blur that rounds the fibres rounds its steps too.
    cloud = rng.normal(0, 1, (TILE // COARSE, TILE // COARSE))
    cloud = blur_image(blur_image(cloud, 3), 3)
    clouds = np.repeat(np.repeat(cloud / cloud.std(), COARSE, axis=0), COARSE, axis=1)
    mix = blur_image(tile / tile.std() + 0.24 * clouds, 1)
    found: NDArray[np.int8] = np.round(np.tanh(mix / mix.std() * 0.6) * TILE_LEVELS).astype(np.int8)
    return found


if __name__ == "__main__":
    SHIPPED.write_bytes(zlib.compress(lay_fibres().tobytes(), 9))
