"""One file for each method, with its sentences. They are listed here in order of precedence: the first that
fits a step is used."""

from __future__ import annotations

from importlib import import_module

from bambola.core.marked import Plural
from bambola.core.methods.values import Method

_IN_ORDER = (
    "cut_wire",
    "bend_wire",
    "tape",
    "mix",
    "clay_eye",
    "cut_out",
    "hard_core",
    "hollow",
    "detail",
    "one_mass",
    "drawn_out",
    "in_place",
    "shell",
    "glue_wound",
    "rounds",
    "wrap_limb",
    "wrap_body",
    "flat",
    "shape",
    "lines",
    "inset",
    "coat",
    "face_piece",
    "furrow",
    "fur",
    "pair",
    "put_on",
    "peg",
    "garment",
    "bump",
    "stem_band",
    "join",
    "seam",
    "blend",
    "crease",
    "mark",
    "socket",
    "eye",
    "sewn_eye",
    "felted_eye",
    "thing",
    "fit",
    "loop",
    "cure",
    "ground",
    "final",
    "skin",
    "finish",
)

_FILES = tuple(import_module(f"{__name__}.{name}") for name in _IN_ORDER)
METHODS: tuple[Method, ...] = tuple(file.METHOD for file in _FILES)
SENTENCES: dict[str, str | Plural] = {
    kind: sentence for file in _FILES for kind, sentence in getattr(file, "SENTENCES", {}).items()
}
