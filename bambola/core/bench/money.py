"""How the maker reckons: wages, overheads and fees, in exact decimals."""

from __future__ import annotations

from decimal import ROUND_HALF_EVEN, ROUND_UP, Decimal
from typing import Annotated

from pydantic import Field

from bambola.core.figure.shapes import Frozen

Sum = Annotated[Decimal, Field(ge=0, le=1_000_000, allow_inf_nan=False)]
"""An amount of money."""


class Money(Frozen):
    """How the maker reckons: ``rate`` is an hour's pay (None: not told yet), ``small`` what goes into each
    figure of glue, thread and worn needles, ``packing`` what each is packed and sent in; ``overheads`` are
    per cent of stuff and work, ``fees`` per cent of the price it is sold at. ``coin`` is the smallest coin
    that is given out."""

    rate: Sum | None = None
    small: Sum = Decimal(0)
    packing: Sum = Decimal(0)
    overheads: Annotated[Decimal, Field(ge=0, le=1000, allow_inf_nan=False)] = Decimal(0)
    fees: Annotated[Decimal, Field(ge=0, lt=100, allow_inf_nan=False)] = Decimal(0)
    coin: Annotated[Decimal, Field(gt=0, le=1_000_000, allow_inf_nan=False)] = Decimal("0.01")

    def in_coins(self, amount: Decimal) -> Decimal:
        """Return the amount payable in coins nearest to ``amount``; of two equally near the even one."""
        return (amount / self.coin).quantize(Decimal(1), ROUND_HALF_EVEN) * self.coin

    def no_less(self, amount: Decimal) -> Decimal:
        """Return the least amount payable in coins that is at least ``amount``."""
        return (amount / self.coin).quantize(Decimal(1), ROUND_UP) * self.coin


def exact_decimal(amount: float) -> Decimal:
    """Return a price or weight as its shortest decimal: what was typed, not its nearest binary fraction."""
    return Decimal(repr(float(amount)))
