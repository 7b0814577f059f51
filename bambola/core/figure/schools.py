"""The choices that differ between makers, for the order and for how parts are made, and their schools.

A design keeps both as text; :func:`known_schools` reads it. For schools of laying the wire see
:mod:`bambola.core.armature.schools`.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal, cast

ChoiceId = Literal[
    "face", "colour", "insets", "ears", "neck", "clothes", "small", "limbs", "near wire", "legs",
    "mass", "firmness", "white", "eyes", "tape", "skin", "fur", "seat", "crease",
    "blank", "fur on parts", "stems",
]  # fmt: skip
SchoolId = Literal[
    "after", "before", "each part first", "after joining", "first", "on top", "pair first",
    "one by one", "eyes first", "on the pad", "by load", "scarf", "peg", "wire", "by opening",
    "head last", "clothes last", "soft", "firm", "back to back", "one at a time", "stout", "fine",
    "middle out", "body down", "parts", "one mass", "as drawn", "veil", "core", "glued", "sewn",
    "felted", "clay", "pins", "thin", "bare", "dry", "glue-soap", "fold", "middle", "locks", "dish",
    "bump", "crease", "bend", "within", "pushed in", "under a band",
]  # fmt: skip

SCHOOLS: dict[ChoiceId, tuple[SchoolId, ...]] = {
    "face": ("before", "eyes first", "after"),
    "colour": ("each part first", "after joining"),
    "insets": ("on top", "first"),
    "ears": ("one by one", "pair first"),
    "neck": ("by load", "scarf", "peg", "wire"),
    "clothes": ("by opening", "head last", "clothes last"),
    "small": ("soft", "firm"),
    "limbs": ("back to back", "one at a time"),
    "near wire": ("stout", "fine"),
    "legs": ("middle out", "body down"),
    "mass": ("parts", "one mass"),
    "firmness": ("as drawn", "firm", "soft"),
    "white": ("veil", "core"),
    "eyes": ("as drawn", "glued", "sewn", "felted", "clay", "pins"),
    "tape": ("thin", "bare"),
    "skin": ("dry", "glue-soap"),
    "fur": ("fold", "middle", "locks"),
    "seat": ("dish", "bump"),
    "crease": ("crease", "bend"),
    "blank": ("within", "on top"),
    "fur on parts": ("on the pad", "after joining"),
    "stems": ("pushed in", "under a band"),
}
"""The schools of every choice, the usual one first."""
RENAMED: Mapping[str, SchoolId] = {"as they meet": "pair first"}
"""Schools by names that designs of earlier versions know, and the nearest of today."""
OTHERWISE_BEFORE: tuple[ChoiceId, ...] = ("face", "insets", "ears", "fur on parts")
"""Choices of which another school was usual in the third version of the format of designs."""
WAYS: tuple[ChoiceId, ...] = ("mass", "firmness", "white", "eyes", "fur")
"""Choices of how parts are made, not of their order."""

Followed = Mapping[ChoiceId, SchoolId]


def known_schools(schools: Mapping[str, str]) -> dict[ChoiceId, SchoolId]:
    """Return the known ones of a maker's ``schools``, by choice; old names become the nearest current one."""
    now = {choice: RENAMED.get(school, school) for choice, school in schools.items()}
    return {
        cast(ChoiceId, choice): school
        for choice, school in now.items()
        if school in SCHOOLS.get(cast(ChoiceId, choice), ())
    }


def school_for(choice: ChoiceId, schools: Followed) -> SchoolId:
    """Return the maker's school for ``choice``, else the usual one."""
    return schools.get(choice, SCHOOLS[choice][0])
