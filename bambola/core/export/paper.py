"""Paper's type and colours: the shipped faces, embedded, so that every printer shows the same."""

from __future__ import annotations

from importlib.resources import files
from typing import Any

from reportlab import rl_config
from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

from bambola.core.quantities import show_bought
from bambola.core.words import Words

BODY, BODY_BOLD, TITLE = "Bambola-Text", "Bambola-Text-Bold", "Bambola-Title"
INK, QUIET, MADDER, WELD, WOAD = (
    HexColor(c) for c in ("#2E2A2C", "#6B635B", "#9C4232", "#C99A2E", "#3F6475")
)


RULER_MM = 100
"""The ruler on every sheet, by which it is seen whether a printer has kept true size."""


# Files may hold any bytes; written in letters alone they take a quarter more room, and a third more time.
rl_config.useA85 = 0


def register_fonts() -> None:
    """Make the shipped faces known to reportlab."""
    if BODY in pdfmetrics.getRegisteredFontNames():
        return
    folder = files("bambola") / "shipped" / "fonts"
    for name, file in (
        (BODY, "AtkinsonHyperlegibleNext-Regular.ttf"),
        (BODY_BOLD, "AtkinsonHyperlegibleNext-Bold.ttf"),
        (TITLE, "Fraunces-SemiBold.ttf"),
    ):
        pdfmetrics.registerFont(TTFont(name, str(folder / file)))
    pdfmetrics.registerFontFamily(
        BODY, normal=BODY, bold=BODY_BOLD, italic=BODY, boldItalic=BODY_BOLD
    )


def _style(name: str, font: str, size: float, leading: float, **more: Any) -> ParagraphStyle:
    return ParagraphStyle(
        name, fontName=font, fontSize=size, leading=leading, textColor=INK, **more
    )


STYLES = {
    "title": _style("title", TITLE, 26, 32),
    "lead": _style("lead", BODY, 13, 18, spaceAfter=6),
    "heading": _style("heading", TITLE, 17, 22, spaceBefore=12, spaceAfter=5, keepWithNext=1),
    "part": _style("part", BODY, 12.5, 17),
    "body": _style("body", BODY, 12, 16),
    "small": _style("small", BODY, 10.5, 14, spaceAfter=4),
    "slip": _style(
        "slip",
        BODY,
        11.5,
        15.5,
        borderColor=WELD,
        borderWidth=0.8,
        borderPadding=5,
        spaceBefore=8,
        spaceAfter=8,
    ),
}


def ruler_words(words: Words) -> str:
    """What stands under the ruler by which a print is checked."""
    return words.tr(
        "{ruler_mm}: if this is not so, print at 100 %", ruler_mm=show_bought(RULER_MM, words.units)
    )
