"""A helper process, limited in time and memory, that decodes one picture.

Its arguments are the kind (``svg`` or ``photograph``), the file's name and the wanted pixels along the longer
side; the file comes on standard input. Writes one JSON line, ``{"width", "height", "columns", "rows",
"lens_mm"}``, followed by the RGB bytes, or ``{"refused": sentence}``.
"""

from __future__ import annotations

import io
import json
import os
import sys
import warnings
from typing import TYPE_CHECKING
from xml.etree import ElementTree

from bambola.files.limited import limit_self
from bambola.language import choose_language, tr

if TYPE_CHECKING:
    from PIL import Image

KINDS = ("PNG", "JPEG", "WEBP")
MOST_PIXELS = 60_000_000
LEAST_PX = 32
CPU_S = 15
MEMORY_BYTES = 3_000_000_000
"""A photograph of 60 megapixels over its paper takes about 900 MB while it is flattened."""
_SVG_PX = 2000
_LENS = "lens_mm"
_EXIF, _FOCAL_LENGTH_ON_FILM = 0x8769, 41989


class PictureError(ValueError):
    """Raised for a picture that cannot be used; the message is one sentence."""


def main() -> None:
    """Handle one request."""
    limit_self(CPU_S, MEMORY_BYTES)
    choose_language()
    kind, name, most = sys.argv[1:4]
    data = sys.stdin.buffer.read()
    try:
        whole = (from_svg if kind == "svg" else from_photograph)(data, name)
        shown = _no_finer(whole, int(most))
    except PictureError as error:
        _print_line({"refused": str(error)})
    except MemoryError:
        _print_line(
            {
                "refused": tr(
                    "{name}: the picture takes too much memory; nothing was opened.", name=name
                )
            }
        )
    else:
        _print_line(
            {
                "width": whole.width,
                "height": whole.height,
                "columns": shown.width,
                "rows": shown.height,
                "lens_mm": whole.info.get(_LENS),
            }
        )
        sys.stdout.buffer.write(shown.tobytes())
        sys.stdout.buffer.flush()


def _print_line(line: dict[str, object]) -> None:
    sys.stdout.buffer.write(json.dumps(line).encode() + b"\n")
    sys.stdout.buffer.flush()


def from_photograph(data: bytes, name: str) -> Image.Image:
    """Return a photograph, upright, RGB. Raises :class:`PictureError`."""
    from PIL import Image, ImageOps, UnidentifiedImageError

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(data), formats=KINDS) as image:
                _check_size(name, image.width, image.height)
                lens_mm = _lens_mm(image)
                flat = _over_white(ImageOps.exif_transpose(image))
                flat.info[_LENS] = lens_mm
    except UnidentifiedImageError:
        raise PictureError(
            tr(
                "{name}: Bambola cannot read this picture; use PNG, JPEG, WebP or SVG.",
                name=name,
            )
        ) from None
    except Image.DecompressionBombError:
        raise PictureError(
            tr(
                "{name}: it has too many pixels; use a picture of up to {most_pixels} megapixels.",
                name=name,
                most_pixels=MOST_PIXELS // 1000000,
            )
        ) from None
    except (PictureError, MemoryError):
        raise
    except OSError:
        raise PictureError(
            tr("{name}: it cannot be read (the picture is damaged or cut off).", name=name)
        ) from None
    except Exception:  # whatever a decoder stumbles over in a damaged file
        raise PictureError(
            tr("{name}: the picture is damaged; nothing was opened.", name=name)
        ) from None
    return flat


def _lens_mm(image: Image.Image) -> float | None:
    """Return the camera's 35 mm equivalent focal length from the picture (Exif tag 41989); None if
    missing."""
    written = image.getexif().get_ifd(_EXIF).get(_FOCAL_LENGTH_ON_FILM)
    return float(written) if isinstance(written, int) and 8 <= written <= 600 else None


def _no_finer(whole: Image.Image, most: int) -> Image.Image:
    """Return a picture reduced to at most ``most`` pixels along its longer side, by averaging."""
    from PIL import Image

    share = most / max(whole.size)
    if share >= 1:
        return whole
    size = (max(1, round(whole.width * share)), max(1, round(whole.height * share)))
    return whole.resize(size, Image.Resampling.BOX)


def _over_white(image: Image.Image) -> Image.Image:
    from PIL import Image

    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        shown = image.convert("RGBA")
        paper = Image.new("RGBA", shown.size, (255, 255, 255, 255))
        paper.alpha_composite(shown)
        return paper.convert("RGB")
    if image.mode in _DEEP:
        image = _in_eight_bits(image)
    return image.convert("RGB")


_DEEP = ("I", "I;16", "I;16B", "I;16L", "I;16N", "F")
"""Greys of more than eight bits: converted as they are, all of them would be white."""


def _in_eight_bits(image: Image.Image) -> Image.Image:
    """Return a picture with deep greys in 8 bits: 16 bits by their upper eight, others between their darkest
    and lightest value."""
    import numpy as np
    from PIL import Image

    deep = np.asarray(image).astype(np.float64)
    low, high = float(deep.min()), float(deep.max())
    if image.mode.startswith("I") and low >= 0 and high <= 65535:
        low, high = 0.0, 65535.0
    shown = (deep - low) * (255 / (high - low) if high > low else 0.0)
    return Image.fromarray(shown.astype(np.uint8))


def _check_size(name: str, width: int, height: int) -> None:
    if width * height > MOST_PIXELS:
        raise PictureError(
            tr(
                "{name}: {width} × {height} pixels are too many; use a picture of up to {most_pixels} "
                "megapixels.",
                name=name,
                width=width,
                height=height,
                most_pixels=MOST_PIXELS // 1000000,
            )
        )
    if min(width, height) < LEAST_PX:
        raise PictureError(
            tr(
                "{name}: {width} × {height} pixels are too few to measure on; use {least_px} or more "
                "each way.",
                name=name,
                width=width,
                height=height,
                least_px=LEAST_PX,
            )
        )


def from_svg(data: bytes, name: str) -> Image.Image:
    """Return a drawing rendered as RGB. Raises :class:`PictureError`."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from PIL import Image
    from PyQt6.QtCore import QRectF
    from PyQt6.QtGui import QColor, QGuiApplication, QImage, QPainter
    from PyQt6.QtSvg import QSvgRenderer

    # Writing in a drawing needs fonts, and fonts an application.
    app = QGuiApplication.instance() or QGuiApplication(["bambola"])
    renderer = QSvgRenderer(self_contained(data, name))
    size = renderer.defaultSize()
    if not renderer.isValid() or size.isEmpty():
        raise PictureError(
            tr("{name}: the SVG is damaged or empty; nothing was opened.", name=name)
        )
    grow = _SVG_PX / max(size.width(), size.height())
    width, height = round(size.width() * grow), round(size.height() * grow)
    _check_size(name, width, height)
    image = QImage(width, height, QImage.Format.Format_RGB888)
    image.fill(QColor("white"))
    painter = QPainter(image)
    renderer.render(painter, QRectF(0, 0, width, height))
    painter.end()
    del app
    bits = image.constBits()
    assert bits is not None
    raw = bytes(bits.asarray(image.sizeInBytes()))
    return Image.frombytes("RGB", (width, height), raw, "raw", "RGB", image.bytesPerLine())


def self_contained(data: bytes, name: str) -> bytes:
    """Return the drawing without references to files or the network."""
    try:
        root = ElementTree.fromstring(data)
    except (ElementTree.ParseError, ValueError, LookupError):
        raise PictureError(
            tr("{name}: the SVG is damaged or empty; nothing was opened.", name=name)
        ) from None
    # The painter knows these by their usual names only.
    ElementTree.register_namespace("", "http://www.w3.org/2000/svg")
    ElementTree.register_namespace("xlink", "http://www.w3.org/1999/xlink")
    for element in root.iter():
        for key in [k for k in element.attrib if k.rpartition("}")[2] == "href"]:
            if not element.attrib[key].lstrip().startswith(("#", "data:image/")):
                del element.attrib[key]
    return ElementTree.tostring(root)


if __name__ == "__main__":
    main()
