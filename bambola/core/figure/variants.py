"""Another pose, expression, outfit or colouring of a figure: typed changes, with everything else shared."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from typing import Annotated, Literal

from pydantic import Field

from bambola.core.facts import Fact, fact
from bambola.core.figure.fields import Name, Slug
from bambola.core.figure.graft import check_figure, without_part
from bambola.core.figure.model import PoseBend, Seat, Tilt
from bambola.core.figure.places import Line, Place
from bambola.core.figure.shapes import Coordinate, Frozen, Length, at_most
from bambola.core.figure.whole import Figure

Stance = Literal["standing", "sitting", "hanging"]


class Shift(Frozen):
    """How far something is moved on its bearer (as a share of it) and turned (degrees)."""

    along: Annotated[float, Field(ge=-1, le=1)] = 0.0
    around: Coordinate = 0.0
    nod: Coordinate = 0.0
    lean: Coordinate = 0.0
    turn: Coordinate = 0.0


class Alteration(Frozen):
    """What differs from the figure as it was made. ``shifts`` move marks, fittings and parts, by their ids;
    ``pose`` (None: as made) replaces the made one; ``colours`` puts one wool in place of another; what is
    ``without`` is left off, with what sits on it."""

    shifts: Annotated[dict[Slug, Shift], Field(max_length=400)] = {}
    pose: Annotated[tuple[PoseBend, ...], at_most(400)] | None = None
    stance: Stance | None = None
    colours: Annotated[dict[Slug, Slug], Field(max_length=400)] = {}
    without: Annotated[tuple[Slug, ...], at_most(400)] = ()

    @property
    def is_nothing(self) -> bool:
        """Whether nothing differs."""
        return self == Alteration()

    @property
    def moves_solids(self) -> bool:
        """Whether parts move or are left out, so that the figure must be measured again."""
        return bool(self.shifts or self.without or self.pose is not None or self.stance)


class Variant(Frozen):
    """A named alteration, with its own wanted height (mm); None takes the height of the brief."""

    name: Name
    altered: Alteration = Alteration()
    height: Length | None = None


def altered(figure: Figure, change: Alteration) -> Figure:
    """Return ``figure`` with an alteration applied. Ids that the figure does not have are skipped."""
    if change.is_nothing:
        return figure
    for part in change.without:
        if part in figure.by_id and figure.by_id[part].parent is not None:
            figure = without_part(figure, part)
    shifts, wools = change.shifts, change.colours

    def dyed(wool: str) -> str:
        return wools.get(wool, wool)

    parts = tuple(
        part.replaced(
            seat=_shifted_seat(part.seat, shifts.get(part.id)),
            core=dyed(part.core),
            coat=part.coat and part.coat.replaced(wool=dyed(part.coat.wool)),
            places=tuple(_shifted_piece(place.dyed(dyed), shifts) for place in part.places),
            seam_wool=part.seam_wool and dyed(part.seam_wool),
        )
        for part in figure.parts
    )
    fittings = tuple(
        f.replaced(seat=_shifted_seat(f.seat, shifts.get(f.id))) for f in figure.fittings
    )
    marks = tuple(
        mark.replaced(along=_clamp_share(mark.along + by.along), around=mark.around + by.around)
        if (by := shifts.get(mark.id))
        else mark
        for mark in figure.marks
    )
    limbs = {part.id for part in parts}
    pose = figure.pose if change.pose is None else change.pose
    return check_figure(
        figure.replaced(
            parts=parts,
            fittings=fittings,
            marks=marks,
            pose=tuple(bend for bend in pose if bend.part in limbs),
            stance=change.stance or figure.stance,
        )
    )


def _shifted_piece(place: Place, shifts: Mapping[str, Shift]) -> Place:
    """Return a piece of the face moved; of a mouth only its corners rise or fall."""
    by, where = shifts.get(place.id), place.where
    if by is None or place.face is None or not isinstance(where, Line):
        return place
    last = len(where.way) - 1
    stays = range(1, last) if place.face == "mouth" and last > 1 else ()
    way = tuple(
        at if n in stays else (_clamp_share(at[0] + by.along), at[1] + by.around)
        for n, at in enumerate(where.way)
    )
    return place.replaced(where=where.replaced(way=way))


def _shifted_seat(seat: Seat, by: Shift | None) -> Seat:
    if by is None:
        return seat
    tilt = Tilt(
        nod=seat.tilt.nod + by.nod, lean=seat.tilt.lean + by.lean, turn=seat.tilt.turn + by.turn
    )
    return seat.replaced(
        along=_clamp_share(seat.along + by.along), around=seat.around + by.around, tilt=tilt
    )


def _clamp_share(share: float) -> float:
    return min(1.0, max(0.0, share))


def missing_names(figure: Figure, variant: Variant, wools: Collection[str]) -> Iterator[Fact]:
    """Yield a sentence for each name in a variant that neither the figure nor the shelf (``wools``) has any
    more."""
    known = {
        *figure.by_id,
        *(f.id for f in figure.fittings),
        *(m.id for m in figure.marks),
        *(place.id for part in figure.parts for place in part.places if place.face),
    }
    change = variant.altered
    named = [*change.shifts, *change.without, *(bend.part for bend in change.pose or ())]
    for id in dict.fromkeys(name for name in named if name not in known):
        yield fact("aside.variant", variant=variant.name, about=id)
    for wool in change.colours.values():
        if wool not in wools:
            yield fact("aside.wool", variant=variant.name, wool=wool)
