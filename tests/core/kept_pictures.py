"""The toad's work cards and the pictures of its steps, as they were looked at: on paper by how light they are
in each place, as lines by what they are made of."""

from __future__ import annotations

import io
import xml.etree.ElementTree as ET
from collections import Counter
from typing import Any

from PIL import Image
from pypdf import PdfReader

from bambola.core.export.step_drawn import step_svg
from bambola.core.plan import make_plan
from bambola.demo import TOAD, load_demo
from bambola.shipped import default_bench
from tests.core.kept_paper import NUMBER

GRID = (8, 6)


def pictures_now(cards: bytes) -> dict[str, Any]:
    """What is kept of both."""
    pages = PdfReader(io.BytesIO(cards)).pages
    # In a file they are named by a sum of all their bytes, which another version of a library changes.
    shown = [sorted(_lightness(found.image) for found in page.images) for page in pages]
    toad, bench = load_demo(TOAD), default_bench()
    plan = make_plan(toad.figure, toad.brief, bench)
    return {
        "cards": shown,
        "steps": {step.key: _made_of(step_svg(plan, step, bench)) for step in plan.steps},
    }


def _lightness(picture: Image.Image | None) -> list[int]:
    """How large, and on white from 0 to 255 in each place of a grid, row by row."""
    assert picture is not None
    white = Image.new("RGBA", picture.size, "white")
    grid = (
        Image.alpha_composite(white, picture.convert("RGBA"))
        .convert("L")
        .resize(GRID, Image.Resampling.BOX)
    )
    return [*picture.size, *grid.tobytes()]


def _made_of(svg: str) -> dict[str, list[float]]:
    """How many there are of each kind of element and of each of its attributes, and the sum of the numbers
    in them."""
    count: Counter[str] = Counter()
    total: Counter[str] = Counter()
    for element in ET.fromstring(svg).iter():
        kind = element.tag.rpartition("}")[2]
        for name, value in (("", element.text or ""), *element.items()):
            about = f"{kind} {name}".strip()
            count[about] += 1
            total[about] += sum(abs(float(n)) for n in NUMBER.findall(value.encode()))
    return {about: [n, round(total[about], 1)] for about, n in sorted(count.items())}
