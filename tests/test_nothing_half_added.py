"""Every table that is keyed by the members of a type has each of them: half an addition is named."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator, Mapping
from enum import Enum
from types import ModuleType
from typing import Any, Literal, get_args, get_origin

import pytest

import bambola
from bambola.core.bench.materials import Glue
from bambola.core.figure import Firmness, Join, Metal
from bambola.core.figure.model import Fixing, StuffKind
from bambola.core.figure.places import LaidAnswer
from bambola.core.figure.schools import ChoiceId
from bambola.core.figure.shapes.base import StartForm
from bambola.core.figure.survey import Sight
from bambola.core.resize.laws import Made
from bambola.core.words import every_sentence


def _modules() -> Iterator[ModuleType]:
    for found in pkgutil.walk_packages(bambola.__path__, "bambola."):
        if not found.name.endswith("__main__"):
            yield importlib.import_module(found.name)


def _members(kind: Any) -> set[Any] | None:
    """The members of a literal type or an enumeration of ours; None for other types."""
    if get_origin(kind) is Literal:
        return set(get_args(kind))
    ours = getattr(kind, "__module__", "").startswith("bambola")
    if isinstance(kind, type) and issubclass(kind, Enum) and ours:
        return set(kind)
    return None


def _tables() -> Iterator[tuple[str, Mapping[Any, Any], set[Any]]]:
    """Every constant that is a mapping from such members: its name, itself, and the members."""
    for module in _modules():
        for name, told in vars(module).get("__annotations__", {}).items():
            try:
                kinds = get_args(eval(told, vars(module)))
            except NameError:  # a name for the type checker alone
                continue
            members = _members(kinds[0]) if kinds else None
            value = getattr(module, name, None)
            if members is not None and name.isupper() and isinstance(value, Mapping):
                yield f"{module.__name__}.{name}".removeprefix("bambola."), value, members


WITH_DEFAULT = {
    "core.notes.seating._RULES", "core.notes.sizing._ALSO", "core.notes.writing._ROLES",
    "core.resize.faces.LEAST_EYE_MM", "core.resize.faces.LEAST_FACE_MM",
    "desk.stations.measure.hands.dress.NAMED",
}  # fmt: skip
"""Tables that are read with a default for the members they leave out."""
TABLES = {name: (table, members) for name, table, members in _tables()}


def test_tables_are_found() -> None:
    assert {"core.armature.strength.PROPERTIES", *WITH_DEFAULT} <= set(TABLES)


@pytest.mark.parametrize("name", sorted(TABLES.keys() - WITH_DEFAULT))
def test_table_has_every_member_of_its_type(name: str) -> None:
    table, members = TABLES[name]
    assert not members - set(table), f"{name} lacks {members - set(table)}"


HEADS = [
    ("metal.", Metal), ("choose.", Metal), ("firmness.", Firmness), ("join.", Join), ("stuff.", StuffKind),
    ("step.", Fixing), ("view.", Sight), ("made.", Made), ("glue.", Glue), ("cure.until-", Glue),
    ("shape.start-", StartForm), ("choice.", ChoiceId), ("laid-as.", LaidAnswer),
]  # fmt: skip
"""What the kinds of facts begin with that end in a member of a type."""


@pytest.mark.parametrize("head, kind", HEADS)
def test_every_member_has_sentence(head: str, kind: Any) -> None:
    for member in get_args(kind):
        assert f"{head}{member.replace(' ', '-')}" in every_sentence(), (
            f"{member} has no sentence {head}…"
        )
