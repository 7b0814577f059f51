"""The maker's choices: every answer and school of a brief, read once into a typed value."""

from __future__ import annotations

from collections.abc import Mapping

from bambola.core.figure.questions import (
    BoughtGarment,
    CentreAnswer,
    CoredAnswer,
    EyesAnswer,
    EyeSize,
    Floating,
    Folding,
    GrowsWithAnswer,
    HardCore,
    Impossible,
    JoinedAnswer,
    KeptAnswer,
    LaidAnswer,
    LeftAnswer,
    MetalAnswer,
    PiecesAnswer,
    Reach,
    ReachedAnswer,
    Repeated,
    ShapedAnswer,
    SitsOn,
    SizeAnswer,
    SmallFace,
    SoftCentre,
    StockedAnswer,
    StoutestWire,
    ThinAnswer,
    TooThin,
    WeakJoin,
    WireGauge,
    WornAnswer,
    iterate_answers,
)
from bambola.core.figure.schools import ChoiceId, SchoolId, known_schools
from bambola.core.frozen import frozen


@frozen
class MakerChoices:
    """What a maker chose. Answers are kept by the id of the part, fitting or wire they are about; questions
    without a valid answer are absent.

    ``schools`` are the known ways of making. ``wire_school`` and ``wire_stock`` are named by the designs
    themselves, and are None if the maker chose none.
    """

    thin_limbs: Mapping[str, ThinAnswer]
    weak_joins: Mapping[str, JoinedAnswer]
    garments: Mapping[str, WornAnswer]
    eye_sizes: Mapping[str, EyesAnswer | SizeAnswer]
    impossible_shapes: Mapping[str, ShapedAnswer]
    soft_centres: Mapping[str, CentreAnswer]
    floating: Mapping[str, LeftAnswer]
    wire_gauges: Mapping[str, SizeAnswer]
    wire_stocks: Mapping[str, StockedAnswer | MetalAnswer]
    rows: Mapping[str, KeptAnswer]
    folding: Mapping[str, LaidAnswer]
    hard_cores: Mapping[str, CoredAnswer]
    sits_on: Mapping[str, GrowsWithAnswer]
    reaches: Mapping[str, ReachedAnswer]
    small_faces: Mapping[str, PiecesAnswer]
    schools: Mapping[ChoiceId, SchoolId]
    wire_school: str | None
    wire_stock: str | None


def read_choices(answers: Mapping[str, str], schools: Mapping[str, str]) -> MakerChoices:
    """Return the typed choices for the ``answers`` and ``schools`` that a design keeps as text."""
    return MakerChoices(
        thin_limbs=dict(iterate_answers(answers, TooThin)),
        weak_joins=dict(iterate_answers(answers, WeakJoin)),
        garments=dict(iterate_answers(answers, BoughtGarment)),
        eye_sizes=dict(iterate_answers(answers, EyeSize)),
        impossible_shapes=dict(iterate_answers(answers, Impossible)),
        soft_centres=dict(iterate_answers(answers, SoftCentre)),
        floating=dict(iterate_answers(answers, Floating)),
        wire_gauges=dict(iterate_answers(answers, WireGauge)),
        wire_stocks=dict(iterate_answers(answers, StoutestWire)),
        rows=dict(iterate_answers(answers, Repeated)),
        folding=dict(iterate_answers(answers, Folding)),
        hard_cores=dict(iterate_answers(answers, HardCore)),
        sits_on=dict(iterate_answers(answers, SitsOn)),
        reaches=dict(iterate_answers(answers, Reach)),
        small_faces=dict(iterate_answers(answers, SmallFace)),
        schools=known_schools(schools),
        wire_school=schools.get("wire"),
        wire_stock=schools.get("wire-stock"),
    )
