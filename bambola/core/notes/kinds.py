"""The names of parts, and what each implies: a shape, a bearer, a place, whether it is a pair, and its usual
size relative to its bearer.

A new name is one more line of the table ``kinds.txt``. Names are given as singular/plural, those of one
language separated by commas; all languages are read, whatever the window's.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator, Mapping
from functools import cache
from pathlib import Path
from typing import Literal, cast, get_args

from bambola.core.frozen import frozen

Form = Literal["ball", "pad", "cone", "limb", "leaf", "sausage", "ring", "eyes"]
Site = Literal[
    "root", "top", "cap", "front", "snout", "nose", "muzzle", "back", "rump", "spine", "shoulder", "hip",
    "foot", "end", "ear", "horn", "eye", "cheek", "belly", "wing", "fin", "fluke", "flipper", "beard",
    "round", "handle", "spout", "under", "brim", "neck", "side", "held",
]  # fmt: skip


@frozen
class PartKind:
    """A sort of part. ``bearers`` are the kinds that it may sit on, the likeliest first, else the root;
    ``shares`` its usual sizes beside the width of what it sits on, in the order of its form: width, depth
    and height of a ball or pad, length and thickness of a limb or sausage, length, base and tip of a cone,
    length, width and thickness of a leaf, thickness of a ring, width of eyes."""

    id: str
    form: Form
    bearers: tuple[str, ...]
    site: Site
    is_pair: bool
    is_wired: bool
    is_face: bool
    is_worn: bool
    shares: tuple[float, ...]


_TABLE = Path(__file__).with_name("kinds.txt")


def _read_kinds() -> Iterator[tuple[PartKind, list[tuple[str, str]]]]:
    for line in _TABLE.read_text(encoding="utf-8").splitlines():
        if not line or line.startswith("#"):
            continue
        head, *languages = line.split(":")
        id, form, bearers, site, flags, *shares = head.split()
        names = [
            cast("tuple[str, str]", tuple(pair.strip().split("/")))
            for told in languages
            for pair in told.split(",")
            if "/" in pair
        ]
        yield (
            PartKind(
                id,
                cast(Form, form),
                () if bearers == "-" else tuple(bearers.split(",")),
                cast(Site, site),
                "p" in flags,
                "w" in flags,
                "f" in flags,
                "g" in flags,
                tuple(map(float, shares)),
            ),
            names,
        )


def checked_kinds(kinds: Mapping[str, PartKind]) -> Mapping[str, PartKind]:
    """Return ``kinds`` as they are. Raises :class:`ValueError` with the row of the table that names a form, a
    place or a bearer which does not exist."""
    known = {"form": get_args(Form), "site": get_args(Site), "bearer": tuple(kinds)}
    for kind in kinds.values():
        bearers = (("bearer", bearer) for bearer in kind.bearers)
        for what, name in (("form", kind.form), ("site", kind.site), *bearers):
            if name not in known[what]:
                raise ValueError(_TABLE.name, kind.id, what, name)
    return kinds


KINDS: Mapping[str, PartKind] = checked_kinds({kind.id: kind for kind, _ in _read_kinds()})
"""Every sort of part by its id. Shares are judged by our own figures. See craft.md, 9."""

_OTHER_END: Mapping[str, str] = {
    "hindfoot": "foreleg", "forefoot": "hindleg", "hindhoof": "foreleg", "forehoof": "hindleg",
}  # fmt: skip
"""A foot of one end of a figure and the leg of the other."""
_LIKE: Mapping[str, tuple[str, ...]] = {
    "leg": ("leg", "foreleg", "hindleg"),
    "arm": ("arm", "foreleg"),
    "body": ("body", "dress", "vessel"),
}
"""Kinds that stand for a kind that bears."""


def bearers_of(kind: PartKind) -> tuple[str, ...]:
    """Return the kinds that a part of ``kind`` may sit on, the likeliest first."""
    other = _OTHER_END.get(kind.id)
    like = (each for bearer in kind.bearers for each in _LIKE.get(bearer, (bearer,)))
    return tuple(each for each in like if each != other)


@frozen
class NamedKind:
    """A name in the table: its kind, singular and plural."""

    kind: str
    one: str
    many: str
    is_many: bool


def normalise_word(word: str) -> str:
    """Return a word normalised for comparison: lower case, without accents and umlauts."""
    bare = unicodedata.normalize("NFKD", word.casefold())
    return "".join(c for c in bare if not unicodedata.combining(c)).strip()


@cache
def names() -> Mapping[str, tuple[NamedKind, ...]]:
    """Return the possible kinds of every known name, in all languages, singular and plural, the usual kind
    first; keys are normalised by :func:`normalise_word`."""
    found: dict[str, tuple[NamedKind, ...]] = {}
    for kind, pairs in _read_kinds():
        for one, many in pairs:
            for name, is_many in dict.fromkeys(
                ((normalise_word(one), one == many), (normalise_word(many), True))
            ):
                known = found.get(name, ())
                if kind.id not in {called.kind for called in known}:
                    found[name] = (*known, NamedKind(kind.id, one, many, is_many))
    return found
