"""What a pure function found, remembered by its arguments."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import ParamSpec, Protocol, TypeVar, cast

P = ParamSpec("P")
R_co = TypeVar("R_co", covariant=True)


class Remembered(Protocol[P, R_co]):
    """A function that looks first whether it was asked the same before."""

    def __call__(self, *args: P.args, **kwargs: P.kwargs) -> R_co: ...

    def cache_clear(self) -> None:
        """Forget everything."""


def remembered(most: int) -> Callable[[Callable[P, R_co]], Remembered[P, R_co]]:
    """Keep the last ``most`` results. As ``functools.lru_cache``, but callers stay checked: that takes any
    hashable arguments, so that a shape it has no answer for would fail at run time only."""

    def kept(function: Callable[P, R_co]) -> Remembered[P, R_co]:
        return cast(Remembered[P, R_co], lru_cache(maxsize=most)(function))

    return kept
