"""Materials on the bench other than wool: cloth, ribbon, yarn and the like. Starting values are ours."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import Field

from bambola.core.bench.wools import ShelfItem
from bambola.core.facts import Fact, fact
from bambola.core.figure.fields import Colour, Name, Slug
from bambola.core.figure.model import SHEETS, StuffKind
from bambola.core.figure.shapes import Length

Amount = Annotated[float, Field(ge=0, le=1_000_000)]


class Material(ShelfItem):
    """A stuff that is not wool. Its ``thickness`` (mm) is the same at every height; ``wide`` (mm) is how wide
    it comes: the bolt, the sheet, the ribbon; what has no width is as wide as it is thick. It ``stretches``
    by a share, and ``frays`` at a cut edge or does not. ``weighs`` is g/m² of a sheet, g/m of what comes by
    length, g/cm³ of clay. ``price`` is that of a metre, or of 100 g of clay; ``left`` is what there is, in
    mm or g (None: not counted)."""

    id: Slug
    name: Name | None = None
    kind: StuffKind
    colour: Colour
    thickness: Length
    wide: Length
    stretches: Annotated[float, Field(ge=0, le=2)] = 0.0
    frays: bool = False
    weighs: Annotated[float, Field(ge=0, le=10_000)]
    left: Amount | None = None

    @property
    def display_name(self) -> Fact:
        """Its name: the maker's, else its kind."""
        if self.name:
            return fact("named", name=self.name)
        return Fact(f"stuff.{self.kind.replace(' ', '-')}")

    @property
    def is_sheet(self) -> bool:
        """Whether it is cut to a pattern."""
        return self.kind in SHEETS


COMMON = (
    Material(id="cotton", kind="cloth", colour="#7C8FA3", thickness=0.3,
             wide=1400, stretches=0.02, frays=True, weighs=130),
    Material(id="felt-sheet", kind="felt sheet", colour="#A7553F", thickness=1.5,
             wide=300, stretches=0.05, weighs=250),
    Material(id="satin-ribbon", kind="ribbon", colour="#8C5A7A", thickness=0.3,
             wide=6, stretches=0.02, frays=True, weighs=1.2),
    Material(id="soft-net", kind="net", colour="#D9C9CF", thickness=0.2,
             wide=1400, stretches=0.1, weighs=20),
    Material(id="wool-yarn", kind="yarn", colour="#C9A24B", thickness=2,
             wide=2, stretches=0.1, weighs=0.5),
    Material(id="strong-thread", kind="thread", colour="#2E2A2C", thickness=0.4,
             wide=0.4, weighs=0.1),
    Material(id="chenille-stem", kind="chenille", colour="#8A6F52", thickness=6,
             wide=6, weighs=4),
    Material(id="stiff-paper", kind="paper", colour="#E8E0CF", thickness=0.3,
             wide=210, weighs=250),
    Material(id="air-clay", kind="clay", colour="#B98E6F", thickness=1,
             wide=1, weighs=1.6),
)  # fmt: skip
"""What a bench begins with, one of each kind: thickness, width, stretch and weight are judged, but for the
stretch of felt and woven cloth. See craft.md, 6."""


Glue = Literal["instant", "hot", "clear", "white"]
GLUES: tuple[Glue, ...] = get_args(Glue)
CURE_MIN: dict[Glue, float] = {"instant": 2.0, "hot": 3.0, "clear": 30.0, "white": 480.0}
"""Minutes until the place may be pressed again; white and tacky glue wants a night. See craft.md, 5."""
