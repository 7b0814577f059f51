"""A cache of rendered figures, kept between starts, to show a design before it is rendered."""

from __future__ import annotations

import contextlib
import io
import json
from collections.abc import Mapping
from pathlib import Path

import numpy as np
from platformdirs import user_cache_path

from bambola.core.figure import Figure
from bambola.core.relief import Camera, Picture
from bambola.files import ExportError, read_regular, write_whole
from bambola.language import tr
from bambola.store.cache_keys import cache_key

_ROOMS = ("solids", "figure", "relief")
_MOST_BYTES = 40_000_000
_MOST_KEPT = 40
"""The newest so many pictures are kept: two for each of twenty designs. Judged."""


class KeptPictures:
    """A folder of pictures, by default in the user's cache."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or user_cache_path("bambola") / "figures"

    def of(self, figure: Figure, camera: Camera, colours: Mapping[str, str]) -> Picture | None:
        """Return the cached picture of ``figure`` from ``camera``, however fine, if any."""
        try:
            raw = read_regular(self._path(figure, camera, colours), _MOST_BYTES, tr("a picture"))
            with np.load(io.BytesIO(raw), allow_pickle=False) as kept:
                return _picture({name: kept[name] for name in kept.files})
        except Exception:  # whatever is wrong with a kept picture, it is cast anew
            return None

    def keep(
        self, figure: Figure, camera: Camera, colours: Mapping[str, str], picture: Picture
    ) -> None:
        """Cache a picture, if there is room and none is cached yet."""
        path = self._path(figure, camera, colours)
        if path.exists():
            return
        told = json.dumps([picture.parts, picture.left, picture.top, picture.step])
        file = io.BytesIO()
        np.savez_compressed(
            file,
            pixels=picture.pixels,
            owner=picture.owner,
            told=np.frombuffer(told.encode(), "u1"),
        )
        with contextlib.suppress(OSError, ExportError):
            path.parent.mkdir(parents=True, exist_ok=True)
            write_whole(path, file.getvalue())
            kept = sorted(self.folder.glob("*.npz"), key=lambda p: p.stat().st_mtime)
            for old in kept[:-_MOST_KEPT]:
                old.unlink()

    def _path(self, figure: Figure, camera: Camera, colours: Mapping[str, str]) -> Path:
        seen = f"{figure.model_dump_json()}{camera}{sorted(colours.items())}"
        return self.folder / f"{cache_key(seen, _ROOMS)}.npz"


def _picture(kept: Mapping[str, np.ndarray]) -> Picture:
    pixels, owner = kept["pixels"], kept["owner"]
    parts, left, top, step = json.loads(kept["told"].tobytes())
    picture = Picture(pixels, owner, tuple(map(str, parts)), float(left), float(top), float(step))
    sound = (
        pixels.dtype == np.uint8
        and owner.dtype == np.int16
        and pixels.shape == (*owner.shape, 4)
        and owner.max(initial=-1) < len(picture.parts)
        and picture.step > 0
        and bool(np.isfinite([picture.left, picture.top, picture.step]).all())
    )
    if not sound:
        raise ValueError(tr("no picture"))
    return picture
