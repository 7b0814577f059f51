"""One file for each way of doing a step; here they are entered, the first that fits a step is taken."""

from __future__ import annotations

from importlib import import_module

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

METHODS: tuple[Method, ...] = tuple(
    import_module(f"{__name__}.{name}").METHOD for name in _IN_ORDER
)
