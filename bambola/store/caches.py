"""A cache of rendered figures, kept between starts, to show a design before it is rendered."""

from __future__ import annotations

import contextlib
import hashlib
import io
import json
from collections.abc import Mapping
from functools import lru_cache
from importlib.metadata import version
from pathlib import Path

import numpy as np
from platformdirs import user_cache_path
from pydantic import ConfigDict, TypeAdapter

import bambola.core
from bambola.core.figure import Figure
from bambola.core.memo import remembered
from bambola.core.relief import Camera, Picture
from bambola.core.solids import CopySolid
from bambola.files import ExportError, FileRefusedError, read_regular, write_whole
from bambola.language import tr


def cache_key(what: str, rooms: tuple[str, ...]) -> str:
    """Return a file name derived from ``what`` was computed and the code that computed it: ``rooms`` of the
    core, and the geometry library where they use it."""
    return hashlib.sha256(_code_of(rooms) + what.encode()).hexdigest()[:32]


@lru_cache(maxsize=8)
def _code_of(rooms: tuple[str, ...]) -> bytes:
    told = hashlib.sha256(version("manifold3d").encode())
    for module in modules_of(rooms):
        told.update(module.read_bytes())
    return told.digest()


def modules_of(rooms: tuple[str, ...]) -> list[Path]:
    """Return every module of these rooms of the core, including nested ones."""
    core = Path(bambola.core.__path__[0])
    return sorted(module for room in rooms for module in (core / room).rglob("*.py"))


_PICTURE_ROOMS = ("solids", "figure", "relief")
_MOST_BYTES = 40_000_000
_MOST_KEPT = 40
"""The newest so many pictures are kept: two for each of twenty designs. Judged."""


class KeptPictures:
    """A folder of pictures, by default in the user's cache."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or user_cache_path("bambola") / "figures"

    def find(self, figure: Figure, camera: Camera, colours: Mapping[str, str]) -> Picture | None:
        """Return the cached picture of ``figure`` from ``camera``, however fine, if any."""
        try:
            raw = read_regular(
                self._picture_path(figure, camera, colours), _MOST_BYTES, tr("a picture")
            )
            with np.load(io.BytesIO(raw), allow_pickle=False) as kept:
                return _picture({name: kept[name] for name in kept.files})
        except Exception:  # whatever is wrong with a kept picture, it is cast anew
            return None

    def add(
        self, figure: Figure, camera: Camera, colours: Mapping[str, str], picture: Picture
    ) -> None:
        """Cache a picture, if there is room and none is cached yet."""
        path = self._picture_path(figure, camera, colours)
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
            write_whole(path, file.getvalue(), can_be_lost=True)
            kept = sorted(self.folder.glob("*.npz"), key=lambda p: p.stat().st_mtime)
            for old in kept[:-_MOST_KEPT]:
                old.unlink()

    def _picture_path(self, figure: Figure, camera: Camera, colours: Mapping[str, str]) -> Path:
        seen = f"{figure.model_dump_json()}{camera}{sorted(colours.items())}"
        return self.folder / f"{cache_key(seen, _PICTURE_ROOMS)}.npz"


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


_SOLID_ROOMS = ("solids", "figure")
_MOST_SOLID_BYTES = 1_000_000
_MOST_SOLIDS_KEPT = 100
"""The newest so many figures are kept."""


@remembered(1)
def _solids_adapter() -> TypeAdapter[tuple[CopySolid, ...]]:
    """Return the (de)serialiser of measures, which refuses anything but finite numbers of the right kind."""
    sound = ConfigDict(allow_inf_nan=False, strict=True)
    return TypeAdapter(tuple[CopySolid, ...], config=sound)


class KeptMeasures:
    """A folder of measures, by default in the user's cache."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or user_cache_path("bambola") / "measures"

    def find(self, figure: Figure) -> tuple[CopySolid, ...] | None:
        """Return the cached measures of ``figure``, copy by copy, if any."""
        try:
            kept = read_regular(
                self._solids_path(figure), _MOST_SOLID_BYTES, tr("what was measured")
            )
            return _solids_adapter().validate_json(kept)
        except (FileRefusedError, OSError, ValueError):
            return None

    def add(self, figure: Figure, measured: tuple[CopySolid, ...]) -> None:
        """Cache the measures of ``figure``, if there is room."""
        path = self._solids_path(figure)
        with contextlib.suppress(OSError, ExportError):
            path.parent.mkdir(parents=True, exist_ok=True)
            write_whole(path, _solids_adapter().dump_json(measured), can_be_lost=True)
            kept = sorted(self.folder.glob("*.json"), key=lambda p: p.stat().st_mtime)
            for old in kept[:-_MOST_SOLIDS_KEPT]:
                old.unlink()

    def _solids_path(self, figure: Figure) -> Path:
        return self.folder / f"{cache_key(figure.model_dump_json(), _SOLID_ROOMS)}.json"
