"""Paper's type: the shipped faces, embedded, so that every printer shows the same."""

from __future__ import annotations

from importlib.resources import files

from reportlab import rl_config
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

BODY, BODY_BOLD, TITLE = "Bambola-Text", "Bambola-Text-Bold", "Bambola-Title"
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
