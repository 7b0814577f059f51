"""The pictures of the guide, small ones of the screenshots: ``scripts/guide_pictures.py SHOTS PICTURES``."""

from __future__ import annotations

import sys
from pathlib import Path

from PIL import Image

WIDE = 760
OF = {
    "resize": "resize-front", "measure": "measure-picture", "heights": "heights", "wire": "wire-walk",
    "wool": "wool-table", "face": "face", "order": "order", "make": "make", "print": "print", "book": "book",
}  # fmt: skip

if __name__ == "__main__":
    source, target = Path(sys.argv[1]), Path(sys.argv[2])
    target.mkdir(exist_ok=True)
    for name, shot in OF.items():
        with Image.open(source / f"{shot}.png") as image:
            small = image.convert("RGB")
            small.thumbnail((WIDE, WIDE))
            small.save(target / f"{name}.jpg", quality=78, optimize=True)
