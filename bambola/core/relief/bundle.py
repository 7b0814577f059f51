"""Pictures of a bundle of wool: loose before felting, close after."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from bambola.core.memo import remembered
from bambola.core.relief.camera import Float32
from bambola.core.relief.picture import LIGHT, blur_image, fibre_tile, rgb

SIDE = 220


@remembered(128)
def bundle_picture(colour: str, loose: bool) -> NDArray[np.uint8]:
    """Return a round bundle filling a (220, 220, 4) RGBA picture; stretch it to the bundle's sides."""
    lit, rim, alpha = _light_on(loose)
    base = np.array(rgb(colour), dtype=np.float32)
    whiten = np.float32(0.10 if loose else 0.0)
    shade = (base * (1 - whiten) + whiten) * lit + rim * (
        np.float32(0.35) + np.float32(0.65) * base
    )
    out = np.empty((SIDE, SIDE, 4), dtype=np.uint8)
    out[..., :3] = np.clip(shade, 0, 1) * 255
    out[..., 3] = alpha * 255
    return out


@remembered(2)
def _light_on(loose: bool) -> tuple[Float32, Float32, Float32]:
    """Return what does not depend on the colour: the light on a bundle and at its rim, (220, 220, 1), and the
    coverage of each pixel, (220, 220)."""
    tile = fibre_tile()
    line = ((np.arange(SIDE) + 0.5) / SIDE * 2 - 1).astype(np.float32)
    x, y = np.meshgrid(line, -line)
    radius = np.hypot(x, y)
    inner = np.float32(0.86 if loose else 0.93)
    z = np.sqrt(np.maximum(1 - (radius / inner) ** 2, 0))
    offset = 40 if loose else 280
    nap = [part[offset : offset + SIDE, 60 : 60 + SIDE] for part in tile]
    if loose:  # loose wool is cloudy: its fibres lie apart
        nap = [
            np.float32(0.45) * part + np.float32(2.2) * blur_image(part, 5).astype(np.float32)
            for part in nap
        ]
    depth = np.float32(0.16 if loose else 0.20)
    across, up, out = x / inner + nap[1] * depth, y / inner + nap[2] * depth, z + np.float32(0.15)
    facing = (across * LIGHT[0] + up * LIGHT[1] + out * LIGHT[2]) / np.sqrt(
        across * across + up * up + out * out
    )
    lit = 0.46 + 0.60 * np.clip((facing + np.float32(0.3)) / np.float32(1.3), 0, 1)
    lit *= 1 + np.float32(0.16 if loose else 0.12) * nap[0]
    rim = (0.22 * np.clip(radius / inner, 0, 1) ** 4)[..., None]
    stray = blur_image(nap[0], 1 if loose else 0)
    edge = 0.20 if loose else 0.05
    alpha = np.clip((inner - radius + edge * stray * 0.32 + edge * 0.35) / edge, 0, 1)
    return lit[..., None].astype(np.float32), rim.astype(np.float32), alpha.astype(np.float32)
