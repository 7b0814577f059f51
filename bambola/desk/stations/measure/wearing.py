"""What a part wears, edited bead by bead: functions on values."""

from __future__ import annotations

from collections.abc import Sequence

from bambola.core.bench import Bench
from bambola.core.facts import Fact
from bambola.core.figure import Figure, Fur, Garment, Part
from bambola.core.figure.graft import with_part
from bambola.core.figure.model import Stuff
from bambola.core.figure.places import Place, fur_all_over
from bambola.core.plan.making.dress import STRETCH, dress_plans, refuse_unwearable, worn_mm
from bambola.language import N_

HAIR, ROWS, OPENING, TAILS = "hair", "rows", "opening", "tails"
FURS = {
    "": N_("no fur"),
    "fleece": N_("straight fleece"),
    "locks": N_("curly locks"),
    "pile": N_("trimmed pile"),
}
PULLED_MM = 2.0
"""Hair shorter than this is no fur: pulled so far back it is gone."""
NEW_HAIR_MM, NEW_ROWS_MM = 18.0, 8.0
"""What fur begins with where nothing else is said."""


def next_of(of: Sequence[str], now: str, by: int = 1) -> str:
    """Return the option after ``now``, or so many places on; the first follows the last."""
    return of[(of.index(now) + by) % len(of)]


def way_worn(kind: str) -> Fact:
    """Return in words how a garment goes on; an empty kind is no garment."""
    return Fact(f"worn.{kind.replace(' ', '-') or 'not'}")


def fur_on(part: Part) -> Fur | None:
    """Return the fur of a part, the topmost if there are several."""
    return part.furs[-1].fur if part.furs else None


def with_fur(part: Part, fur: Fur | None) -> Part:
    """Return ``part`` with other fur: in place of its present fur, or all over; or without."""
    old = part.furs[-1] if part.furs else None
    if old is None:
        return part.replaced(places=(*part.places, fur_all_over(fur))) if fur else part
    left: tuple[Place, ...] = (old.replaced(fur=fur),) if fur or old.wool else ()
    at = part.places.index(old)
    return part.replaced(places=(*part.places[:at], *left, *part.places[at + 1 :]))


def fur_of(part: Part, kind: str = "", hair: float | None = None) -> Fur:
    """Return a part's fur in another kind or length (mm); new fur has the wool of its skin."""
    old = fur_on(part) or Fur(
        wool=part.coat.wool if part.coat else part.core,
        kind="fleece",
        hair=NEW_HAIR_MM,
        spacing=NEW_ROWS_MM,
        lie="tip",
    )
    changes: dict[str, object] = {"kind": kind} if kind else {}
    if hair is not None:
        changes["hair"] = hair
    return old.replaced(**changes)


def as_garment(part: Part, figure: Figure, kind: str) -> Part:
    """Return a part as a garment that goes on this way, or as none. A new garment is knitted, as wide as what
    it closes round."""
    if not kind:
        return part.replaced(garment=None, over=())
    if part.garment is not None:
        return part.replaced(garment=part.garment.replaced(kind=kind))
    passes = figure.datum.part or part.parent
    passes = part.parent if passes == part.id else passes
    hole = worn_mm(part, figure)
    made = Garment(opening=hole, stretch=STRETCH["knit"], kind=kind, passes=passes)
    return part.replaced(garment=made)


def of_stuff(part: Part, stuff: Stuff, material: str) -> Part:
    """Return a part made of a material other than wool: without coat, places and face."""
    bare = {"coat": None, "places": (), "face": False, "eye": False, "seam_wool": None}
    return part.replaced(**bare, stuff=stuff, core=material, hollow=False)


def of_wool(part: Part, bench: Bench) -> Part:
    """Return a part of wool again, the first on the bench."""
    bare = part.replaced(hollow=False)
    return bare.replaced(stuff=None, core=bench.wools[0].id) if part.stuff else bare


def stands_at(part: Part, bead: str) -> float:
    """Return the value of a bead of a part, mm."""
    fur, garment = fur_on(part), part.garment
    return {
        HAIR: fur.hair if fur else 0.0,
        ROWS: fur.spacing if fur else 0.0,
        OPENING: garment.opening if garment else 0.0,
        TAILS: garment.tails if garment else 0.0,
    }[bead]


def pulled_to(part: Part, bead: str, mm: float) -> Part | None:
    """Return a part with a bead dragged to ``mm``; None if it has no such bead."""
    if bead == HAIR:
        return with_fur(part, None if mm < PULLED_MM else fur_of(part, hair=mm))
    if bead == ROWS:
        fur = fur_on(part)
        return with_fur(part, fur.replaced(spacing=max(1.0, mm))) if fur else None
    if part.garment is None:
        return None
    changed = {"opening": max(1.0, mm)} if bead == OPENING else {"tails": mm}
    return part.replaced(garment=part.garment.replaced(**changed))


def dress_part(figure: Figure, part: Part) -> Figure:
    """Return the figure with a part so dressed. Raises ``ValueError`` in one sentence."""
    new = with_part(figure, part)
    refuse_unwearable(dress_plans(new), new)
    return new
