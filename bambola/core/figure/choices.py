"""The maker's choices: every answer and school of a brief, read once into a typed value."""

from __future__ import annotations

from collections.abc import Mapping

from bambola.core.figure.questions import (
    BoughtGarment,
    Centre,
    Cored,
    Eyes,
    EyeSize,
    Floating,
    Folding,
    GrowsWith,
    HardCore,
    Impossible,
    InMetal,
    Joined,
    Kept,
    Laid,
    Left,
    Pieces,
    Reach,
    Reached,
    Repeated,
    Shaped,
    SitsOn,
    Sized,
    SmallFace,
    SoftCentre,
    Stocked,
    StoutestWire,
    Thin,
    TooThin,
    WeakJoin,
    WireGauge,
    Worn,
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

    thin_limbs: Mapping[str, Thin]
    weak_joins: Mapping[str, Joined]
    garments: Mapping[str, Worn]
    eye_sizes: Mapping[str, Eyes | Sized]
    impossible_shapes: Mapping[str, Shaped]
    soft_centres: Mapping[str, Centre]
    floating: Mapping[str, Left]
    wire_gauges: Mapping[str, Sized]
    wire_stocks: Mapping[str, Stocked | InMetal]
    rows: Mapping[str, Kept]
    folding: Mapping[str, Laid]
    hard_cores: Mapping[str, Cored]
    sits_on: Mapping[str, GrowsWith]
    reaches: Mapping[str, Reached]
    small_faces: Mapping[str, Pieces]
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
