"""The wool of felted eyes. They are fittings, so no part takes this wool."""

from __future__ import annotations

from collections.abc import Iterable

from bambola.core.bench import Bench
from bambola.core.facts import NOTHING
from bambola.core.figure import Figure
from bambola.core.frozen import frozen
from bambola.core.order import FittingJob
from bambola.core.wool import Portion
from bambola.core.wool.face_pieces import felted_eye_cm3
from bambola.core.wool.portion import portion_of
from bambola.core.wool.shelf import like_colour


@frozen
class EyesOfWool:
    """``count`` eyes of one fitting, with the wool of each."""

    count: int
    portions: tuple[Portion, ...]
    coat_mm: float = 0.0


def eye_portion(figure: Figure, fitting: str, bench: Bench) -> Portion:
    """Return the wool of one eye: the wool nearest to the eye's colour, felted firm to half an egg."""
    eye = next(f for f in figure.fittings if f.id == fitting)
    wool = like_colour(eye.pieces[0].colour, bench)
    grams = felted_eye_cm3(eye.size) * wool.density("firm")
    return portion_of(wool, "inset", grams, "ball", {}, {}, NOTHING, firmness="firm")


def eyes_of_wool(
    figure: Figure, fittings: Iterable[FittingJob], bench: Bench
) -> dict[str, EyesOfWool]:
    """Return the eyes of ``figure`` that are felted, by the id of their fitting."""
    return {
        job.id: EyesOfWool(job.count, (eye_portion(figure, job.id, bench),))
        for job in fittings
        if job.how == "felted"
    }
