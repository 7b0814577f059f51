"""A cache of measured solids, kept between starts.

Measuring is most of the time of opening a design. The results are few numbers that depend only on the figure
and the code that measures; the cache key is made of both.
"""

from __future__ import annotations

import contextlib
from pathlib import Path

from platformdirs import user_cache_path
from pydantic import ConfigDict, TypeAdapter

from bambola.core.figure import Figure
from bambola.core.memo import remembered
from bambola.core.solids import CopySolid
from bambola.files import ExportError, FileRefusedError, read_regular, write_whole
from bambola.language import tr
from bambola.store.cache_keys import cache_key

_ROOMS = ("solids", "figure")
_MOST_BYTES = 1_000_000
_MOST_KEPT = 100
"""The newest so many figures are kept."""


@remembered(1)
def _adapter() -> TypeAdapter[tuple[CopySolid, ...]]:
    """Return the (de)serialiser of measures, which refuses anything but finite numbers of the right kind."""
    sound = ConfigDict(allow_inf_nan=False, strict=True)
    return TypeAdapter(tuple[CopySolid, ...], config=sound)


class KeptMeasures:
    """A folder of measures, by default in the user's cache."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or user_cache_path("bambola") / "measures"

    def of(self, figure: Figure) -> tuple[CopySolid, ...] | None:
        """Return the cached measures of ``figure``, copy by copy, if any."""
        try:
            kept = read_regular(self._path(figure), _MOST_BYTES, tr("what was measured"))
            return _adapter().validate_json(kept)
        except (FileRefusedError, OSError, ValueError):
            return None

    def keep(self, figure: Figure, measured: tuple[CopySolid, ...]) -> None:
        """Cache the measures of ``figure``, if there is room."""
        path = self._path(figure)
        with contextlib.suppress(OSError, ExportError):
            path.parent.mkdir(parents=True, exist_ok=True)
            write_whole(path, _adapter().dump_json(measured))
            kept = sorted(self.folder.glob("*.json"), key=lambda p: p.stat().st_mtime)
            for old in kept[:-_MOST_KEPT]:
                old.unlink()

    def _path(self, figure: Figure) -> Path:
        return self.folder / f"{cache_key(figure.model_dump_json(), _ROOMS)}.json"
