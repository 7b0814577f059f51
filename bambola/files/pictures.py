"""Reads pictures (PNG, JPEG, WebP, SVG), or refuses them in one sentence. They are decoded in a helper
process (``picture_job``) that is ended if it takes too long."""

from __future__ import annotations

import json
import threading
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bambola.files import FileRefusedError, read_regular
from bambola.files.limited import BusyError, run_helper
from bambola.files.picture_job import PictureError
from bambola.language import N_, tr

Pixels = NDArray[np.uint8]
ENDINGS = frozenset({".png", ".jpg", ".jpeg", ".webp", ".svg"})
FILTER = N_("Pictures (*.png *.jpg *.jpeg *.webp *.svg)")
MOST_BYTES = 80_000_000
FINEST_PX = 2000
"""Longest side of what is read: finer than felt has an edge."""
PATIENCE_S = 25.0
"""Of work: its own program gives up after 15 s."""
_JOB = "bambola.files.picture_job"


@dataclass(frozen=True, eq=False)
class ReadPicture:
    """A picture that was read: ``pixels`` (rows, columns, 3) RGB, upright, no finer than silhouettes are
    found, how many pixels ``width`` and ``height`` the file has, and the camera's focal length as on film of
    36 × 24 mm (``lens_mm``), where the file tells it."""

    pixels: Pixels
    width: int
    height: int
    lens_mm: float | None = None

    @property
    def scale(self) -> float:
        """The scale of its pixels relative to the file's."""
        rows, columns, _ = self.pixels.shape
        return float(max(rows, columns) / max(self.width, self.height))


def is_picture(path: Path) -> bool:
    """Return whether a file name is that of a readable kind of picture."""
    return path.suffix.lower() in ENDINGS


def read_picture(
    path: Path, stop: threading.Event | None = None, finest_px: int = FINEST_PX
) -> ReadPicture:
    """Return the picture at ``path``, its longest side no longer than ``finest_px``. Raises
    :class:`PictureError`, and :class:`StoppedError` once ``stop`` is set."""
    try:
        data = read_regular(path, MOST_BYTES, tr("a picture"))
    except FileRefusedError as error:
        raise PictureError(str(error)) from None
    kind = "svg" if path.suffix.lower() == ".svg" else "photograph"
    name = " ".join(path.name.split())
    try:
        answer = run_helper(_JOB, [kind, name, str(finest_px)], data, PATIENCE_S, stop)
    except BusyError as error:
        raise PictureError(str(error)) from None
    line, _, pixels = answer.partition(b"\n")
    try:
        said = json.loads(line)
        if "refused" in said:
            raise PictureError(said["refused"])
        shape = (said["rows"], said["columns"], 3)
        shown = np.frombuffer(pixels, dtype=np.uint8).reshape(shape)
        return ReadPicture(shown, said["width"], said["height"], said.get("lens_mm"))
    except (ValueError, KeyError, TypeError) as error:
        if isinstance(error, PictureError):
            raise
        raise PictureError(
            tr(
                "{name}: the picture takes too long or too much memory; nothing was opened.",
                name=name,
            )
        ) from None
