"""What measuring a figure's solids came to, kept from one start to the next (a cache, as others call it).

Measuring is most of what opening a design takes. Its numbers are few and depend on the figure and on how it
is measured alone; they are kept under a name made of both, so that nothing old is ever taken for new.
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
    """Reads and writes measures; whatever is no finite number of the right kind is refused."""
    sound = ConfigDict(allow_inf_nan=False, strict=True)
    return TypeAdapter(tuple[CopySolid, ...], config=sound)


class KeptMeasures:
    """A folder of measures, by default in the user's cache."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or user_cache_path("bambola") / "measures"

    def of(self, figure: Figure) -> tuple[CopySolid, ...] | None:
        """Return what ``figure`` measures, copy by copy, if that is known."""
        try:
            kept = read_regular(self._path(figure), _MOST_BYTES, tr("what was measured"))
            return _adapter().validate_json(kept)
        except (FileRefusedError, OSError, ValueError):
            return None

    def keep(self, figure: Figure, measured: tuple[CopySolid, ...]) -> None:
        """Keep what ``figure`` measures, if there is room for it."""
        path = self._path(figure)
        with contextlib.suppress(OSError, ExportError):
            path.parent.mkdir(parents=True, exist_ok=True)
            write_whole(path, _adapter().dump_json(measured))
            kept = sorted(self.folder.glob("*.json"), key=lambda p: p.stat().st_mtime)
            for old in kept[:-_MOST_KEPT]:
                old.unlink()

    def _path(self, figure: Figure) -> Path:
        return self.folder / f"{cache_key(figure.model_dump_json(), _ROOMS)}.json"
