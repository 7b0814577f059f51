"""The fonts on paper, embedded so that every printer shows the same."""

from __future__ import annotations

from importlib.resources import files

from reportlab import rl_config
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

BODY, BODY_BOLD, TITLE = "Bambola-Text", "Bambola-Text-Bold", "Bambola-Title"
OTHER, OTHER_BOLD = "Bambola-Other", "Bambola-Other-Bold"
FILES = {
    BODY: "AtkinsonHyperlegibleNext-Regular.ttf",
    BODY_BOLD: "AtkinsonHyperlegibleNext-Bold.ttf",
    TITLE: "Fraunces-SemiBold.ttf",
    OTHER: "NotoSans-Regular.ttf",
    OTHER_BOLD: "NotoSans-Bold.ttf",
}
"""Each face and its file; the last two have Greek and Cyrillic, which the others lack."""
# Files may hold any bytes; written in letters alone they take a quarter more room, and a third more time.
rl_config.useA85 = 0


def register_fonts() -> None:
    """Register the shipped fonts with reportlab."""
    if BODY in pdfmetrics.getRegisteredFontNames():
        return
    folder = files("bambola") / "shipped" / "fonts"
    for name, file in FILES.items():
        pdfmetrics.registerFont(TTFont(name, str(folder / file)))


def font_with_letters(face: str, text: str) -> str:
    """Return the wished font, or another if that lacks letters of ``text``."""
    if text.isascii():
        return face
    register_fonts()
    known = pdfmetrics.getFont(face).face.charToGlyph  # type: ignore[attr-defined]
    if all(ord(letter) in known or not letter.isprintable() for letter in text):
        return face
    return OTHER if face == BODY else OTHER_BOLD
