"""Judges a piece, or the finished figure, by a picture: what is off, by how much, and what to do."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Literal

import numpy as np
from numpy.typing import NDArray

from bambola.core.bench import Bench
from bambola.core.facts import Fact, Mm, RefusedError, Share, fact
from bambola.core.frozen import frozen
from bambola.core.methods import sheet_for
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.rescue.advice import Advice, advise
from bambola.core.rescue.piece import PieceReading, WantedPiece, wanted_at
from bambola.core.rescue.symptoms import SYMPTOM_BY_ID
from bambola.core.wool.pan import PAIR_SIZE, right_size_range

if TYPE_CHECKING:
    from bambola.core.sight.ground import Ground

Array = NDArray[np.float64]
Pixels = NDArray[np.uint8]
SORTS = ("core", "coat", "inset", "face", "fur", "crease", "furrow")
"""Sorts of steps after which a piece can be laid on the table."""
DOUBTED_MM, DOUBTED_SHARE = 1.0, 0.02
"""So far off, mm or of its length, a size is told to be doubtful. Judged. See craft.md, 9."""


@frozen
class FoundMeasure:
    """A ``wanted`` and a ``found`` measure, mm, and whether they are near enough."""

    what: Literal["length", "width"]
    wanted: float
    found: float

    @property
    def is_right(self) -> bool:
        """Whether it is within the tolerance."""
        low, high = right_size_range(self.wanted)
        return low <= self.found <= high

    @property
    def as_fact(self) -> Fact:
        """The comparison as a fact."""
        off = self.found - self.wanted
        kind = "right" if self.is_right else "more" if off > 0 else "less"
        slots = {"found": Mm(self.found), "wanted": Mm(self.wanted), "off": Mm(abs(off))}
        return fact(f"judged.{self.what}-{kind}", **slots)


@frozen
class Judged:
    """What a picture tells of a piece: its measures, its widths, the outlines (n, 2) of all pieces on the
    table in mm; for a pair how far they ``differ``, as a share; what to do; and how the scale was found."""

    part: str
    known: str
    measures: tuple[FoundMeasure, ...]
    widths: tuple[float, float, float]
    outlines: tuple[Array, ...]
    differ: float | None
    reading: PieceReading
    advice: Advice | None
    doubt: Fact | None = None

    @property
    def is_right(self) -> bool:
        """Whether the piece can stay as it is."""
        return all(one.is_right for one in self.measures) and (self.differ or 0) <= PAIR_SIZE

    @property
    def findings(self) -> tuple[Fact, ...]:
        """What is off, as facts."""
        found = [one.as_fact for one in self.measures]
        if self.differ is not None:
            kind = "pair-differs" if self.differ > PAIR_SIZE else "pair-alike"
            found.append(fact(f"judged.{kind}", off=Share(self.differ)))
        return tuple(found) if self.doubt is None else (self.doubt, *found)

    @property
    def as_facts(self) -> tuple[Fact, ...]:
        """What is off and what to do about it, as facts."""
        actions = self.advice.actions if self.advice is not None else ()
        return (*self.findings, *(action.told for action in actions))


def judge_piece(
    plan: Plan,
    step: Step,
    bench: Bench,
    picture: Pixels,
    lens_mm: float | None = None,
    progress: Callable[[float], bool] = lambda share: True,
) -> Judged:
    """Return the judgement of the piece of ``step``, or of its pair, on the table of ``picture`` (rows,
    columns, 3). ``lens_mm`` is the camera's focal length (35 mm equivalent) if known.

    Raises :class:`RefusedError` with what to do about the picture.
    """
    from bambola.core.sight.ground import find_ground, picture_faults
    from bambola.core.sight.lying import pieces_on

    wanted = wanted_at(plan, step, bench)
    if wanted is None or step.part is None or step.key.sort not in SORTS:
        raise RefusedError(fact("judge.no-piece", step=step.text))
    doubt = picture_faults(picture)
    if doubt is not None:
        raise RefusedError(doubt)
    longest, broad, through = sorted(_wanted_sizes(plan, step, bench), reverse=True)
    ground = find_ground(picture, lens_mm)
    pieces = pieces_on(picture, ground, through, progress)
    if len(pieces) > min(2, plan.part(step.part).count):
        raise RefusedError(fact("judge.count", n=len(pieces)))
    first = pieces[0]
    length = sum(p.length for p in pieces) / len(pieces)
    width = sum(p.width for p in pieces) / len(pieces)
    measures = FoundMeasure("length", longest, length), FoundMeasure("width", broad, width)
    differ = None
    if len(pieces) == 2:
        one, other = pieces
        pairs = (one.length, other.length), (one.width, other.width)
        differ = max(abs(a - b) / max(a, b) for a, b in pairs)
    thick = None if wanted.flat else wanted.thick * width / broad
    reading = PieceReading(wanted.length * length / longest, thick)
    return Judged(
        step.part,
        ground.known,
        measures,
        first.widths,
        tuple(piece.outline for piece in pieces),
        differ,
        reading,
        _advise_on_worst(plan, step.part, measures, reading, bench, wanted),
        _camera_doubt(ground, through, length),
    )


def _camera_doubt(ground: Ground, through: float, length: float) -> Fact | None:
    """Return a warning if the camera's height is so uncertain that sizes may be wrong by more than
    :data:`DOUBTED_MM` or :data:`DOUBTED_SHARE`: what lies ``through`` mm high looks larger to a nearer
    camera."""
    off = length * through / 2 / ground.high * ground.high_off
    if off <= max(DOUBTED_MM, DOUBTED_SHARE * length):
        return None
    return fact("judge.camera-height", off=Mm(off))


def _wanted_sizes(plan: Plan, step: Step, bench: Bench) -> tuple[float, float, float]:
    """Return length, width and thickness of the piece after the step (mm); of a core, those to stop at."""
    assert step.part is not None
    along, across, through = plan.part(step.part).piece
    if step.key.sort == "core":
        stops = sheet_for(plan, step, bench).card.sizes
        along = stops.get("length", along)
        across = stops.get("width", stops.get("thickness", across))
        through = stops.get("thickness", through)
    return along, across, through


def _advise_on_worst(
    plan: Plan,
    part: str,
    measures: tuple[FoundMeasure, FoundMeasure],
    reading: PieceReading,
    bench: Bench,
    wanted: WantedPiece,
) -> Advice | None:
    """Return the advice on the measure that is farthest off; None if all are right."""
    wrong = [
        one for one in measures if not one.is_right and not (wanted.flat and one.what == "width")
    ]
    if not wrong:
        return None
    worst = max(wrong, key=lambda one: abs(one.found / one.wanted - 1))
    names = {
        ("length", True): "too-long",
        ("length", False): "too-short",
        ("width", True): "too-thick",
        ("width", False): "too-thin",
    }
    symptom = SYMPTOM_BY_ID[names[worst.what, worst.found > worst.wanted]]
    return advise(plan, part, symptom, reading, bench, wanted)
