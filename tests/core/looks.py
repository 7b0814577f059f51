"""A sheet of small pictures as they are drawn: figures from two sides, bundles loose and felted.

``make snapshots`` draws it anew, after somebody has looked at what changed and meant it.
"""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.relief import Camera, portrait, stage_of
from bambola.core.relief.growing import bundle_picture
from bambola.core.solids import place
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench

SHEET = Path(__file__).with_name("looks.png")
_SIDE = 150


def looks() -> NDArray[np.uint8]:
    """The pictures side by side, (2 sides, 6 sides, 4) RGBA."""
    colours = default_bench().colours
    cells = []
    for path, smooth in ((BADGER, 2), (HERON, 1), (TOAD, 1)):
        stage = stage_of(place(load_demo(path).figure))
        for camera in (Camera(), Camera(turn=115.0, tip=25.0)):
            left, right, low, high = stage.bounds(camera)
            step = max(right - left, high - low) / (_SIDE - 10)
            cells.append(_celled(portrait(stage, camera, step, colours, smooth).pixels))
    cells += [
        _celled(cv2.resize(bundle_picture(colour, loose), (_SIDE, _SIDE), interpolation=cv2.INTER_AREA))
        for colour in ("#2E6E73", "#F4EBD9")
        for loose in (True, False)
    ]  # fmt: skip
    cells += [np.zeros((_SIDE, _SIDE, 4), dtype=np.uint8)] * (12 - len(cells))
    return np.vstack([np.hstack(cells[:6]), np.hstack(cells[6:])])


def _celled(pixels: NDArray[np.uint8]) -> NDArray[np.uint8]:
    cell = np.zeros((_SIDE, _SIDE, 4), dtype=np.uint8)
    rows, columns = min(_SIDE, pixels.shape[0]), min(_SIDE, pixels.shape[1])
    cell[:rows, :columns] = pixels[:rows, :columns]
    return cell


def kept() -> NDArray[np.uint8]:
    """The sheet as it was looked at."""
    read = cv2.imread(str(SHEET), cv2.IMREAD_UNCHANGED)
    assert read is not None
    return np.asarray(cv2.cvtColor(read, cv2.COLOR_BGRA2RGBA), dtype=np.uint8)


if __name__ == "__main__":
    cv2.imwrite(str(SHEET), cv2.cvtColor(looks(), cv2.COLOR_RGBA2BGRA))
