"""Photographs of figures made: copied beside the database, reduced to the size they are viewed at."""

from __future__ import annotations

import hashlib
import io
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bambola.files import ExportError, write_whole
from bambola.files.writing import make_private_folder
from bambola.language import tr

MOST_PX = 1600
"""Pixels along the longer side of what is kept."""


class Photographs:
    """A folder of photographs named by their contents, so that each is stored once."""

    def __init__(self, book: Path | None) -> None:
        self.folder = book.parent / "photographs" if book else None

    def save(self, pixels: NDArray[np.uint8]) -> str:
        """Save a picture (rows, columns, 3) RGB and return its name. Raises :class:`ExportError`."""
        from PIL import Image

        if self.folder is None:
            raise ExportError(tr("There is no bench book to keep a photograph beside."))
        picture = Image.fromarray(pixels)
        picture.thumbnail((MOST_PX, MOST_PX))
        file = io.BytesIO()
        picture.save(file, "JPEG", quality=88)
        data = file.getvalue()
        name = f"{hashlib.sha256(data).hexdigest()[:24]}.jpg"
        if not (self.folder / name).exists():
            make_private_folder(self.folder)
            write_whole(self.folder / name, data)
        return name

    def path(self, name: str) -> Path | None:
        """Return the path of a photograph; None if it is missing, or ``name`` is not one of ours."""
        if self.folder is None or Path(name).name != name:
            return None
        found = self.folder / name
        return found if found.is_file() else None
