"""Pictures from files: PNG, JPEG, WebP and SVG, refused in one sentence where they cannot be used."""

from __future__ import annotations

import warnings
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    from PIL import Image

Pixels = NDArray[np.uint8]
KINDS = ("PNG", "JPEG", "WEBP")
FILTER = "Pictures (*.png *.jpg *.jpeg *.webp *.svg)"
MOST_BYTES = 80_000_000
MOST_PIXELS = 60_000_000
LEAST_PX = 32
_SVG_PX = 2000


class PictureError(ValueError):
    """A picture that cannot be used; the message is one sentence."""


def read_picture(path: Path) -> Pixels:
    """The picture at ``path``, upright, as (rows, columns, 3) RGB. Raises :class:`PictureError`."""
    try:
        if path.stat().st_size > MOST_BYTES:
            raise PictureError(
                f"{path.name}: the file is over {MOST_BYTES // 1_000_000} MB, too large for a picture."
            )
        if path.suffix.lower() == ".svg":
            return _read_svg(path)
        return _read_photograph(path)
    except OSError as error:
        reason = error.strerror or "the picture is damaged or cut off"
        raise PictureError(f"{path.name}: it cannot be read ({reason}).") from None


def _read_photograph(path: Path) -> Pixels:
    from PIL import Image, ImageOps, UnidentifiedImageError

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(path, formats=KINDS) as image:
                _check_size(path, image.width, image.height)
                upright = ImageOps.exif_transpose(image)
                flat = _over_white(upright)
    except UnidentifiedImageError:
        raise PictureError(
            f"{path.name}: this is no picture Bambola can read; use PNG, JPEG, WebP or SVG."
        ) from None
    except Image.DecompressionBombError:
        raise PictureError(
            f"{path.name}: it has too many pixels; use a picture of up to "
            f"{MOST_PIXELS // 1_000_000} megapixels."
        ) from None
    except (PictureError, OSError):
        raise
    except Exception:  # whatever a decoder stumbles over in a damaged file
        raise PictureError(f"{path.name}: the picture is damaged; nothing was opened.") from None
    return np.asarray(flat, dtype=np.uint8)


def _over_white(image: Image.Image) -> Image.Image:
    from PIL import Image

    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        shown = image.convert("RGBA")
        paper = Image.new("RGBA", shown.size, (255, 255, 255, 255))
        paper.alpha_composite(shown)
        return paper.convert("RGB")
    return image.convert("RGB")


def _check_size(path: Path, width: int, height: int) -> None:
    if width * height > MOST_PIXELS:
        raise PictureError(
            f"{path.name}: {width} × {height} pixels are too many; use a picture of up to "
            f"{MOST_PIXELS // 1_000_000} megapixels."
        )
    if min(width, height) < LEAST_PX:
        raise PictureError(
            f"{path.name}: {width} × {height} pixels are too few to measure on; use {LEAST_PX} or more "
            f"each way."
        )


def _read_svg(path: Path) -> Pixels:
    from PyQt6.QtCore import QRectF
    from PyQt6.QtGui import QColor, QImage, QPainter
    from PyQt6.QtSvg import QSvgRenderer

    renderer = QSvgRenderer(path.read_bytes())
    size = renderer.defaultSize()
    if not renderer.isValid() or size.isEmpty():
        raise PictureError(f"{path.name}: the SVG is damaged or empty; nothing was opened.")
    grow = _SVG_PX / max(size.width(), size.height())
    width, height = round(size.width() * grow), round(size.height() * grow)
    _check_size(path, width, height)
    image = QImage(width, height, QImage.Format.Format_RGB888)
    image.fill(QColor("white"))
    painter = QPainter(image)
    renderer.render(painter, QRectF(0, 0, width, height))
    painter.end()
    bits = image.constBits()
    assert bits is not None
    rows = np.frombuffer(bytes(bits.asarray(image.sizeInBytes())), dtype=np.uint8)
    upright: Pixels = rows.reshape(height, image.bytesPerLine())[:, : 3 * width]
    return upright.reshape(height, width, 3).copy()
