"""Materials other than wool, and how they are fixed."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from bambola.core.facts import RefusedError, fact
from bambola.core.figure.shapes import Frozen

StuffKind = Literal[
    "cloth", "felt sheet", "ribbon", "net", "yarn", "thread", "chenille", "paper", "clay"
]
SHEETS: frozenset[StuffKind] = frozenset({"cloth", "felt sheet", "net", "paper"})
"""What is cut out of a sheet to a pattern; the others are cut to a length, but for clay, which is shaped."""
NOT_FELTED = frozenset({"bought", "cut"})
"""Ways of making that take neither wool nor needle: clothes that are bought, and what is not of wool."""
Fixing = Literal["tied", "knotted", "wrapped", "gathered", "sewn", "glued", "threaded"]

_SHEET: tuple[Fixing, ...] = ("sewn", "gathered", "tied", "knotted", "wrapped", "glued")
FIXINGS: dict[StuffKind, tuple[Fixing, ...]] = {
    "cloth": _SHEET,
    "felt sheet": ("sewn", "tied", "knotted", "wrapped", "glued"),
    "ribbon": ("tied", "wrapped", "sewn", "glued"),
    "net": ("gathered", "sewn", "tied", "knotted", "wrapped"),
    "yarn": ("sewn", "wrapped", "tied", "threaded", "glued"),
    "thread": ("sewn", "threaded", "wrapped", "tied"),
    "chenille": ("glued", "threaded", "wrapped"),
    "paper": ("glued", "sewn"),
    "clay": ("glued", "threaded"),
}
"""How each can be fixed, the usual way first. Judged. See craft.md, 6."""


class Stuff(Frozen):
    """What is not wool, for a part whose ``core`` names it on the bench: its ``kind``, how it is ``fixed``,
    in how many ``pieces`` it is cut, and how many ``layers`` of it lie on each other."""

    kind: StuffKind
    fixed: Fixing = "sewn"
    pieces: Annotated[int, Field(ge=1, le=12)] = 1
    layers: Annotated[int, Field(ge=1, le=6)] = 1

    @model_validator(mode="after")
    def _fixed_as_it_can_be(self) -> Stuff:
        ways = FIXINGS[self.kind]
        if self.fixed not in ways:
            told = fact("fault.fixing", fixed=self.fixed, kind=self.kind, known=", ".join(ways))
            raise RefusedError(told)
        return self
