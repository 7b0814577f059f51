"""Lengths, masses and sums of money as makers write them.

Inside the core a length is a float in millimetres, a mass a float in grams and money an exact decimal. This
module is the only place where text becomes such a number and where such a number becomes text again.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal, InvalidOperation
from fractions import Fraction
from typing import Literal

from bambola.core.facts import Fact, RefusedError, fact
from bambola.core.frozen import frozen

LengthUnit = Literal["mm", "cm", "in"]
MassUnit = Literal["g", "oz"]

GRAVITY = 9.81
"""Metres a second squared: N per kg, mN per g."""

MM_PER: dict[str, float] = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8}
G_PER: dict[str, float] = {"mg": 0.001, "g": 1.0, "kg": 1000.0, "oz": 28.349523125, "lb": 453.59237}

_SPELLINGS = {
    "millimetre": "mm",
    "millimetres": "mm",
    "millimeter": "mm",
    "millimeters": "mm",
    "centimetre": "cm",
    "centimetres": "cm",
    "centimeter": "cm",
    "centimeters": "cm",
    "metre": "m",
    "metres": "m",
    "meter": "m",
    "meters": "m",
    "inch": "in",
    "inches": "in",
    '"': "in",
    "″": "in",
    "”": "in",
    "''": "in",
    "foot": "ft",
    "feet": "ft",
    "'": "ft",
    "′": "ft",
    "’": "ft",
    "gram": "g",
    "grams": "g",
    "gr": "g",
    "gramme": "g",
    "grammes": "g",
    "ounce": "oz",
    "ounces": "oz",
    "pound": "lb",
    "pounds": "lb",
    "lbs": "lb",
    "kilo": "kg",
    "kilogram": "kg",
    "kilograms": "kg",
    "milligram": "mg",
    "milligrams": "mg",
}

_VULGAR = {
    "½": "1/2",
    "⅓": "1/3",
    "⅔": "2/3",
    "¼": "1/4",
    "¾": "3/4",
    "⅕": "1/5",
    "⅖": "2/5",
    "⅗": "3/5",
    "⅘": "4/5",
    "⅙": "1/6",
    "⅚": "5/6",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
}
_GLYPH = {Fraction(_VULGAR[glyph]): glyph for glyph in "½¼¾"}
"""Those that every face has; others would be holes on paper."""

_NUMBER = r"(?:(?:\d+\s+)?\d+\s*/\s*\d+|\d+(?:\.\d+)?|\.\d+)"
_TERM = re.compile(rf"\s*(?P<number>{_NUMBER})\s*(?P<unit>[^\d\s.,/+-]+)?")


MOST_CHARACTERS = 60
"""No length or weight takes more to write."""


class QuantityError(RefusedError):
    """A text that is not a length or mass."""


@frozen
class Units:
    """How a maker reads lengths and masses.

    ``inch_fraction`` is the finest denominator shown for inches (a power of two), ``decimal`` the sign
    between the whole and its parts, ``wisp`` what is told of a weight that no scale shows.
    """

    length: LengthUnit = "mm"
    mass: MassUnit = "g"
    inch_fraction: int = 16
    decimal: str = "."
    wisp: str = "<0.01 g"

    @property
    def grain_mm(self) -> float:
        """The finest step of a length by hand: a millimetre, or the finest fraction of an inch."""
        return MM_PER["in"] / self.inch_fraction if self.length == "in" else 1.0


def parse_length(text: str, unit: LengthUnit = "mm") -> float:
    """Return millimetres in ``text``; a bare number is read in ``unit``.

    Accepts ``22cm``, ``8 1/2 in``, ``8½"``, ``12,5 mm``, ``1 ft 3 in``. Raises
    :class:`QuantityError` saying what was understood and what was expected.
    """
    example = {"mm": "220 mm", "cm": "22 cm", "in": "8 1/2 in"}[unit]
    return _parse_amount(text, unit, MM_PER, "length", example)


def parse_sides(text: str, unit: LengthUnit = "mm") -> tuple[float, ...]:
    """Return millimetres of each side in a size such as ``60 × 40 × 40``, each as :func:`parse_length` reads
    it."""
    sides = text.replace("x", "×").split("×")
    return tuple(parse_length(side, unit) for side in sides if side.strip())


def parse_mass(text: str, unit: MassUnit = "g") -> float:
    """Return grams in ``text``; a bare number is read in ``unit``. Raises :class:`QuantityError`."""
    return _parse_amount(text, unit, G_PER, "weight", {"g": "12.5 g", "oz": "0.35 oz"}[unit])


def parse_amount(text: str, unit: str, units: Units) -> float:
    """Return what is typed of something that is counted in ``unit``: g, mm or whole pieces. Raises
    :class:`QuantityError`."""
    if unit == "g":
        return parse_mass(text, units.mass)
    if unit == "mm":
        return parse_length(text, units.length)
    plain = text.strip()
    if not plain.isdecimal() or len(plain) > MOST_CHARACTERS:
        raise QuantityError(fact("typed.pieces", text=plain[:20], example="3"))
    return float(plain)


def show_amount(amount: float, unit: str, units: Units) -> str:
    """Return the same as it is read."""
    if unit == "g":
        return show_mass(amount, units)
    return show_length(amount, units) if unit == "mm" else str(round(amount))


def _parse_amount(text: str, unit: str, table: dict[str, float], what: str, example: str) -> float:
    expected = fact(f"typed.{what}", example=example)
    plain = text.strip()
    if len(plain) > MOST_CHARACTERS:
        raise QuantityError(fact("typed.long", text=plain[:20], expected=expected))
    for glyph, fraction in _VULGAR.items():
        plain = plain.replace(glyph, f" {fraction}")
    plain = re.sub(r"(\d),(\d)", r"\1.\2", plain).strip()
    if not plain:
        raise QuantityError(fact("typed.empty", expected=expected))
    understood: list[str] = []
    total, at = 0.0, 0
    while at < len(plain):
        term = _TERM.match(plain, at)
        if term is None:
            rest, said = plain[at:].strip(), text.strip()
            if not understood:
                raise QuantityError(fact("typed.cannot", text=said, rest=rest, expected=expected))
            so_far = " ".join(understood)
            raise QuantityError(
                fact("typed.partly", text=said, so_far=so_far, rest=rest, expected=expected)
            )
        spelled = (term["unit"] or unit).lower()
        name = _SPELLINGS.get(spelled, spelled)
        if name not in table:
            raise QuantityError(
                fact(
                    f"typed.no-{what}-unit",
                    text=text.strip(),
                    number=term["number"],
                    unit=term["unit"],
                    known=", ".join(table),
                )
            )
        total += _parse_number(term["number"], text, expected) * table[name]
        understood.append(term[0].strip())
        at = term.end()
    if not math.isfinite(total):
        raise QuantityError(fact("typed.large", text=text.strip(), expected=expected))
    return total


def _parse_number(digits: str, text: str, expected: Fact) -> float:
    try:
        return float(sum(Fraction(piece) for piece in re.sub(r"\s*/\s*", "/", digits).split()))
    except ZeroDivisionError:
        raise QuantityError(
            fact("typed.by-nothing", text=text.strip(), expected=expected)
        ) from None


def parse_money(text: str, currency: str) -> Decimal:
    """Return the amount in ``text``, with the sign of the ``currency`` or without. Raises
    :class:`QuantityError`."""
    plain = text.strip()
    number = (plain.replace(currency, "") if currency else plain).replace(",", ".").strip()
    try:
        amount = Decimal(number[:MOST_CHARACTERS])
        if 0 <= amount <= MOST_MONEY:
            return amount
    except InvalidOperation:  # no number, or one that compares with nothing
        pass
    raise QuantityError(fact("typed.price", text=plain[:20], example="4.50"))


def show_money(amount: Decimal, currency: str, coin: Decimal, units: Units | None = None) -> str:
    """Return ``amount`` with as many decimals as the smallest ``coin`` has, and the sign of the
    ``currency``."""
    exponent = coin.normalize().as_tuple().exponent
    places = max(0, -exponent) if isinstance(exponent, int) else 0
    number = f"{amount:.{places}f}".replace(".", (units or Units()).decimal)
    return f"{number} {currency}".strip()


def show_length(mm: float, units: Units | None = None, with_unit: bool = True) -> str:
    """Return ``mm`` in the maker's unit: whole millimetres from 20 up, tenths below; inches as fractions."""
    units = units or Units()
    if units.length == "in":
        number = _show_inches(mm, units.inch_fraction)
    elif units.length == "cm":
        number = _show_decimal(mm / 10.0, 1 if abs(mm) >= 100 else 2, units)
    else:
        number = _show_decimal(mm, 0 if abs(mm) >= 20 else 1, units)
    return f"{number} {units.length}" if with_unit else number


def show_read(mm: float, units: Units | None = None) -> str:
    """Return ``mm`` as a caliper reads it: to a hundredth of a millimetre, or a thousandth of an inch."""
    units = units or Units()
    places = {"mm": 2, "cm": 3, "in": 3}[units.length]
    return f"{_show_decimal(mm / MM_PER[units.length], places, units)} {units.length}"


MOST_MONEY = 1_000_000
"""No price is higher."""
_FINEST = 128
"""Parts of an inch: no rule has finer ones. Judged."""
LEAST_G, LEAST_OZ = 0.005, 0.1
"""Less is not told in grams, and not in ounces. Judged."""


def show_mass(grams: float, units: Units | None = None) -> str:
    """Return ``grams`` in the maker's unit, to about three figures and never finer than 0.01 g.

    Under a tenth of an ounce grams are told, which small scales show; under a hundredth of a gram a wisp.
    """
    units = units or Units()
    if 0 < grams < LEAST_G:
        return units.wisp
    if units.mass == "oz" and 0 < grams < LEAST_OZ * G_PER["oz"]:
        units = replace(units, mass="g")
    value = grams / G_PER[units.mass]
    size = abs(value)
    places = 0 if size >= 99.95 else 1 if size >= 9.995 else 2
    return f"{_show_decimal(value, places, units)} {units.mass}"


LONG_MM = 2000.0
"""From here on metres or feet are told. Judged."""


def show_hand(mm: float, units: Units | None = None) -> str:
    """Return ``mm`` as a hand can work to it: whole millimetres from 20 up, halves below (tenths under 2)."""
    units = units or Units()
    if abs(mm) >= LONG_MM:
        unit, places = ("ft", 1) if units.length == "in" else ("m", 2)
        return f"{_show_decimal(mm / MM_PER[unit], places, units)} {unit}"
    if units.length == "in" or not 2 <= abs(mm) < 20:
        return show_length(mm, units)
    return show_length(round(mm * 2) / 2, units)


def show_sizes(sides: Sequence[float], units: Units | None = None) -> str:
    """Return several sides (mm) as a hand can work to them, with their unit once."""
    units = units or Units()
    shown = [show_hand(mm, units).rpartition(" ") for mm in sides]
    if len({unit for _, _, unit in shown}) > 1:
        return " × ".join(show_hand(mm, units) for mm in sides)
    return f"{' × '.join(number for number, _, _ in shown)} {shown[0][2]}"


FINE_INCH = 64
"""What is compared is told in inches this fine, below an inch."""


def show_exact(mm: float, units: Units | None = None) -> str:
    """Return ``mm`` to be compared with another length: tenths of a millimetre below 30, 64ths of an inch
    below an inch."""
    units = units or Units()
    if units.length == "in" and abs(mm) < MM_PER["in"]:
        return show_length(mm, replace(units, inch_fraction=FINE_INCH))
    if units.length == "mm" and 20 <= abs(mm) < 30:
        return f"{_show_decimal(mm, 1, units)} mm"
    return show_length(mm, units)


def show_bought(mm: float, units: Units | None = None) -> str:
    """Return a size as it is sold: millimetres, for those who think in inches with the inches beside."""
    units = units or Units()
    sold = f"{_show_decimal(mm, 2, units)} mm"
    if units.length != "in":
        return sold
    return f"{sold} ({show_length(mm, replace(units, inch_fraction=FINE_INCH))})"


SQ_IN_CM2 = 2.54**2


def show_area(cm2: float, units: Units | None = None) -> str:
    """Return a surface in cm², or square inches."""
    units = units or Units()
    if units.length == "in":
        return f"{_two_digits(cm2 / SQ_IN_CM2, 1, units)} sq in"
    return f"{_two_digits(cm2, 1, units)} cm²"


def show_volume(cm3: float, units: Units | None = None) -> str:
    """Return a volume in cm³, or cubic inches."""
    units = units or Units()
    if units.length == "in":
        return f"{_two_digits(cm3 / 2.54**3, 2, units)} cu in"
    return f"{_two_digits(cm3, 2, units)} cm³"


def _show_per_size(grams: float, units: Units, size: float, metric: str, imperial: str) -> str:
    if units.length == "in" or units.mass == "oz":
        return f"{show_number(grams * size / G_PER['oz'], units)} oz/{imperial}"
    return f"{_show_decimal(grams, 3, units)} g/{metric}"


def show_cover(g_cm2: float, units: Units | None = None) -> str:
    """Return wool on a surface: g/cm², or ounces a square inch."""
    return _show_per_size(g_cm2, units or Units(), SQ_IN_CM2, "cm²", "sq in")


def show_density(g_cm3: float, units: Units | None = None) -> str:
    """Return how close wool is packed: g/cm³, or ounces a cubic inch."""
    return _show_per_size(g_cm3, units or Units(), 2.54**3, "cm³", "cu in")


OZ_IN_NMM = G_PER["oz"] * GRAVITY * MM_PER["in"] / 1000
"""N·mm in an inch-ounce."""


def show_moment(nmm: float, units: Units | None = None) -> str:
    """Return a moment, where a number comes from: N·mm, or inch-ounces."""
    units = units or Units()
    if units.length == "in" or units.mass == "oz":
        return f"{show_number(nmm / OZ_IN_NMM, units)} oz·in"
    return f"{show_number(nmm, units)} N·mm"


def show_number(value: float, units: Units | None = None, digits: int = 3) -> str:
    """Return a bare number to so many digits, with the maker's decimal sign."""
    return f"{value:.{digits}g}".replace(".", (units or Units()).decimal)


def _two_digits(value: float, places: int, units: Units) -> str:
    """Return a copy with so many decimals, and more where less than two digits would be left of something."""
    if 1e-4 <= value < 1:
        places = max(places, 1 - math.floor(math.log10(value)))
    return _show_decimal(value, places, units)


def _show_decimal(value: float, places: int, units: Units) -> str:
    text = f"{value:.{places}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text == "-0" else text.replace(".", units.decimal)


def _show_inches(mm: float, denominator: int) -> str:
    # A size is never told as nothing while a rule can show it.
    while 0 < abs(mm) / MM_PER["in"] * denominator <= 0.5 and denominator < _FINEST:
        denominator *= 2
    parts = round(abs(mm) / MM_PER["in"] * denominator)
    whole, rest = divmod(parts, denominator)
    sign = "-" if mm < 0 and parts else ""
    if not rest:
        return f"{sign}{whole}"
    fraction = Fraction(rest, denominator)
    glyph = _GLYPH.get(fraction)
    if glyph:
        return f"{sign}{whole or ''}{glyph}"
    # Not to be parted at the end of a line.
    return f"{sign}{whole}\u00a0{fraction}" if whole else f"{sign}{fraction}"
