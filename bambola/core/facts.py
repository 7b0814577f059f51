"""Facts: a kind and plain values, before they are put into words.

The core tells facts. :mod:`bambola.core.words` has a sentence for every kind and formats it in a maker's
units. Facts are made in every plan, so they are cheap; words are made only for what is looked at.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, TypeAlias

from bambola.core.frozen import frozen

if TYPE_CHECKING:
    from pydantic import GetCoreSchemaHandler
    from pydantic_core import CoreSchema


@frozen
class Mm:
    """A length (mm) as a hand can work to it."""

    value: float


@frozen
class Sizes:
    """The sides (mm) of something, as a hand can work to them."""

    values: tuple[float, ...]


@frozen
class Exact:
    """A length (mm) that is compared with another: told more finely than a hand works."""

    value: float


@frozen
class SoldSize:
    """A size (mm) as it is sold: of eyes, beads, wire."""

    value: float


@frozen
class Grams:
    """A weight, g."""

    value: float


@frozen
class Degrees:
    """An angle."""

    value: float


@frozen
class Area:
    """A surface, cm²."""

    value: float


@frozen
class Volume:
    """A volume, cm³."""

    value: float


@frozen
class Cover:
    """Wool laid on a surface, g/cm²."""

    value: float


@frozen
class Density:
    """How close wool is packed, g/cm³."""

    value: float


@frozen
class Share:
    """A part of a whole, told in per cent."""

    value: float


@frozen
class Holds:
    """How many times over something holds its load."""

    value: float


Value: TypeAlias = (
    "str | int | float | Mm | Sizes | Exact | SoldSize | Grams | Degrees | Area | Volume | Cover"
    " | Density | Share | Holds | Fact | tuple[Fact, ...] | tuple[str, ...]"
)


@frozen
class Fact:
    """One thing that is so: its kind, and what it is about by name. A text is what people have written
    themselves, such as a part's name."""

    kind: str
    slots: tuple[tuple[str, Value], ...] = ()

    def __format__(self, _: str) -> str:
        raise TypeError(f"the fact {self.kind} is to be said, not written as it is")

    @classmethod
    def __get_pydantic_core_schema__(cls, _: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        """Return where a plan is written out, a fact is its sentence: ``say`` is given by who writes."""
        from pydantic_core import core_schema

        return core_schema.is_instance_schema(
            cls,
            serialization=core_schema.plain_serializer_function_ser_schema(
                lambda fact, info: info.context["say"](fact),
                info_arg=True,
                return_schema=core_schema.str_schema(),
            ),
        )


def fact(kind: str, /, **slots: Value) -> Fact:
    """Return the fact of a kind about ``slots``."""
    return Fact(kind, tuple(slots.items()))


NOTHING = Fact("nothing")
"""Where there is nothing to say."""


def together(*facts: Fact) -> Fact:
    """Return sentences that are said one after the other."""
    return facts[0] if len(facts) == 1 else Fact("together", (("of", facts),))


class RefusedError(ValueError):
    """What cannot be, told by a fact; who shows it puts it into words. A text is one that has been said."""

    def __init__(self, told: Fact | str) -> None:
        super().__init__(told)
        self.told = told

    def __str__(self) -> str:
        if isinstance(self.told, str):
            return self.told
        return f"{self.told.kind} {dict(self.told.slots)}"
