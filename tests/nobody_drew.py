"""Figures that nobody drew: every kind of root, part, fitting, place and school, from a seed."""

from __future__ import annotations

import itertools
import math
import random
from collections.abc import Callable

from bambola.core.figure import (
    Ball,
    Bone,
    Brief,
    Coat,
    Cone,
    Datum,
    FaceMark,
    Figure,
    Fitting,
    Fur,
    Garment,
    Joint,
    Leaf,
    Limb,
    Node,
    Pad,
    Part,
    Piece,
    Place,
    Rope,
    Row,
    Sausage,
    Seat,
    Shape,
    Tilt,
    Wire,
)
from bambola.core.figure.model import FIXINGS, Stuff
from bambola.core.figure.places import Band, FaceKind, Line, Near, Outline
from bambola.core.figure.schools import SCHOOLS
from bambola.core.figure.shapes import Station, Turned

COLOURS = ("cream", "charcoal", "black", "woad", "madder", "weld", "walnut", "lichen")
FIBRES = ("reed", "mist")
LEAST_MM, MOST_MM = 8.0, 900.0
_KINDS = ("eye", "bead", "nose", "whisker", "prop", "bell", "core")
_PIECES: tuple[FaceKind, ...] = (
    "mouth", "nose", "nose-line", "nostril", "lid", "rim", "lash", "cheek", "brow", "white", "pupil",
    "highlight",
)  # fmt: skip


def nobody_drew(seed: str) -> tuple[Figure, Brief]:
    """Return a figure and what is asked of it. Raises ``ValueError`` where they do not fit together."""
    return _Maker(random.Random(seed)).make()


class _Maker:
    def __init__(self, rng: random.Random) -> None:
        self.rng, self.by = rng, rng.uniform
        self.parts: list[Part] = []
        self.sizes: dict[str, float] = {}
        self.fittings: list[Fitting] = []
        self.nodes: list[Node] = []
        self.bones: list[Bone] = []
        self.wires: list[Wire] = []

    def make(self) -> tuple[Figure, Brief]:
        rng = self.rng
        size = self.by(25, 90)
        self.parts.append(self._root(size))
        self.sizes["root"] = size
        for n in range(rng.randrange(9)):
            self._add_part(f"part-{n}")
        for n in range(rng.randrange(4)):
            self._add_fitting(f"thing-{n}")
        self._lay_places()
        if rng.random() < 0.4:
            self._lay_wire()
        marks = [
            FaceMark(id="eye-line", name="Eyes", part=part.id, along=0.6, eye=True)
            for part in self.parts
            if part.face and part.parent and rng.random() < 0.3
        ][:1]
        figure = Figure.model_validate(
            {
                "id": "nobody-drew", "name": "Nobody", "datum": Datum(), "parts": tuple(self.parts),
                "stance": rng.choice(("standing", "standing", "sitting", "hanging")),
                "fittings": tuple(self.fittings), "nodes": tuple(self.nodes), "bones": tuple(self.bones),
                "wires": tuple(self.wires), "marks": tuple(marks),
            }
        )  # fmt: skip
        return figure, self._brief()

    def _brief(self) -> Brief:
        rng = self.rng
        height = math.exp(self.by(math.log(LEAST_MM), math.log(MOST_MM)))
        chosen = rng.sample(sorted(SCHOOLS), rng.choice((0, 0, 1, 2, 4)))
        schools = {str(choice): rng.choice(SCHOOLS[choice]) for choice in chosen}
        return Brief(height=round(height, 1), schools=schools, count=rng.choice((1, 1, 1, 3)))

    # Forms

    def _root(self, size: float) -> Part:
        rng = self.rng
        form = rng.choice(
            (self._round, self._round, self._cone, self._limb, self._leaf, self._ring)
        )
        nod = rng.choice((0.0, 0.0, 90.0))
        return Part(
            id="root", name="Root", shape=form(size), core="core-batt", coat=self._coat(),
            seat=Seat(tilt=Tilt(nod=nod)), firmness=rng.choice(("soft", "medium", "firm")),
        )  # fmt: skip

    def _round(self, size: float) -> Shape:
        wide, deep, high = (size * self.by(0.6, 1.4) for _ in range(3))
        return self.rng.choice((
            Ball(width=wide, depth=deep, height=high, taper=self.by(0, 0.4)),
            Pad(width=wide, depth=deep, height=high / 2),
            Sausage(length=wide + high, diameter=wide),
            Turned(
                length=high,
                stations=tuple(
                    Station(along=t, width=wide * w, depth=deep * w)
                    for t, w in ((0, 0.3), (0.4, self.by(0.7, 1)), (0.7, self.by(0.4, 1)), (1, 0.1))
                ),
            ),
        ))  # fmt: skip

    def _cone(self, size: float) -> Shape:
        return Cone(
            length=size * self.by(0.6, 1.6),
            base=size * self.by(0.3, 0.8),
            tip=size * self.by(0.05, 0.3),
        )

    def _limb(self, size: float) -> Shape:
        thick, bend = size * self.by(0.12, 0.4), size * self.by(-0.4, 0.4)
        widths = (thick, thick * self.by(0.6, 1.4), thick * self.by(0.4, 1.0))
        places = ((0.0, 0.0), (bend, size * 0.7), (0.0, size * 1.4))
        return Limb(
            joints=tuple(
                Joint(x=0, y=y, z=z, diameter=d) for (y, z), d in zip(places, widths, strict=True)
            )
        )

    def _leaf(self, size: float) -> Shape:
        curl = self.rng.choice((0.0, self.by(10, 60)))
        return Leaf(
            length=size * self.by(0.6, 1.4),
            width=size * self.by(0.3, 1),
            thickness=size * 0.12,
            curl=curl,
        )

    def _ring(self, size: float) -> Shape:
        far, thick = size / 2, size * self.by(0.08, 0.25)
        turns = (math.tau * k / 8 for k in range(8))
        return Rope(points=tuple((far * math.cos(t), far * math.sin(t), 0.0) for t in turns),
                    thickness=thick, closed=True)  # fmt: skip

    def _tail(self, size: float) -> Shape:
        points = (
            (0.0, 0.0, 0.0),
            (0.0, size * self.by(-0.3, 0.3), size * 0.6),
            (0.0, 0.0, size * 1.2),
        )
        return Rope(points=points, thickness=size * self.by(0.1, 0.3), tip=self.by(0.2, 1))

    def _coat(self) -> Coat | None:
        wool = self.rng.choice(COLOURS)
        return self.rng.choice(
            (None, Coat(wool=wool), Coat(wool=wool, cover=self.rng.choice(("like", "contrast"))))
        )

    # Parts

    def _add_part(self, id: str) -> None:
        rng = self.rng
        parent = rng.choice([p for p in self.parts if not (p.row or p.stuff)])
        size = self.sizes[parent.id] * self.by(0.12, 0.9)
        self.sizes[id] = size
        forms: tuple[Callable[[float], Shape], ...] = (
            self._round, self._round, self._limb, self._limb, self._cone, self._leaf, self._tail, self._ring,
        )  # fmt: skip
        shape = rng.choice(forms)(size)
        seat = Seat(
            along=self.by(0, 1), around=rng.choice((0.0, 180.0, self.by(-170, 170))),
            sink=size * self.by(0, 0.3),
            out=rng.choice((1.0, 1.0, 0.0)), tilt=Tilt(nod=self.by(-180, 180), lean=self.by(-60, 60)),
        )  # fmt: skip
        self.parts.append(
            Part(
                id=id, name=f"Part {id[-1]}", parent=parent.id, shape=shape, seat=seat,
                made=rng.choice(("auto", "auto", "auto", "apart", "in place", "detail")),
                join=rng.choice(("fringe", "fringe", "patch", "scarf", "peg", "wire")),
                firmness=rng.choice(("soft", "medium", "firm")), furrows=rng.choice((0, 0, 0, 2, 3)),
                **self._number(), **self._matter(size, shape),  # type: ignore[arg-type]
            )
        )  # fmt: skip

    def _number(self) -> dict[str, object]:
        rng, share = self.rng, self.rng.random()
        if share < 0.4:
            return {"pair": True, "on": rng.choice(("both", "both", "left"))}
        if share < 0.5:
            return {
                "row": Row(count=rng.randint(2, 6), along=self.by(0, 1), around=self.by(-90, 90))
            }
        return {}

    def _matter(self, size: float, shape: Shape) -> dict[str, object]:
        """What it is of: wool, dress, or something that is not felted."""
        rng, share = self.rng, self.rng.random()
        wool = {"core": rng.choice(("core-batt", *COLOURS)), "coat": self._coat()}
        if share < 0.12:
            ends = [p.id for p in self.parts]
            garment = Garment(
                opening=size * self.by(1.5, 4), passes=rng.choice(ends), bought=rng.random() < 0.2, mass=1.0,
                kind=rng.choice(("pulled over", "wrap", "sash", "skirt")),
            )  # fmt: skip
            over = tuple(p for p in rng.sample(ends, min(len(ends), 2)) if p != "root")
            return {**wool, "garment": garment, "over": over}
        if share < 0.2:
            kind = rng.choice(sorted(FIXINGS))
            return {"core": "linen", "stuff": Stuff(kind=kind, fixed=rng.choice(FIXINGS[kind]))}
        if share < 0.25 and not shape.flat:
            return {**wool, "hollow": True}
        return {**wool, "face": rng.random() < 0.3}

    def _lay_places(self) -> None:
        for n, part in enumerate(self.parts):
            if part.stuff or part.hollow:
                continue
            children = [p.id for p in self.parts if p.parent == part.id]
            places = [
                self._place(f"place-{k}", part, children)
                for k in range(self.rng.choice((0, 0, 0, 1, 2, 3)))
            ]
            self.parts[n] = part.replaced(places=tuple(places))

    def _place(self, id: str, part: Part, children: list[str]) -> Place:
        rng, size = self.rng, self.sizes[part.id]
        begin = self.by(0, 0.7)
        where: Outline | Band | Line | Near = rng.choice((
            Outline(outline=((-0.6, -0.5), (0.6, -0.4), (0.1, 0.7)), mirrored=rng.random() < 0.3),
            Band(begin=begin, end=begin + self.by(0.05, 0.3)),
            Band(around=180.0, wide=self.by(60, 220)),
            Line(way=((0.3, -30.0), (0.4, 0.0), (0.3, 30.0)), wide=size * self.by(0.02, 0.2)),
            Line(way=((self.by(0, 1), self.by(-180, 180)),), wide=size * self.by(0.05, 0.4)),
            *(Near(part=child, within=size * self.by(0.1, 0.6)) for child in children[:1]),
        ))  # fmt: skip
        way = rng.random()
        if way < 0.35:
            kind = rng.choice(("locks", "fleece", "pile"))
            hair = self.by(4, 40)
            fur = Fur(
                wool=rng.choice(FIBRES),
                kind=kind,
                hair=hair,
                spacing=self.by(3, 9),
                lie=rng.choice(("base", "tip")),
            )
            return Place(id=id, where=where, fur=fur)
        if way < 0.6 and isinstance(where, Line):
            return Place(id=id, where=where, wool=rng.choice(COLOURS), face=rng.choice(_PIECES))
        return Place(
            id=id,
            where=where,
            wool=rng.choice(COLOURS),
            cover=rng.choice(("like", "over", "contrast")),
        )

    # What is not wool

    def _add_fitting(self, id: str) -> None:
        rng = self.rng
        part, kind = (
            rng.choice([p for p in self.parts if not (p.row or p.stuff)]),
            rng.choice(_KINDS),
        )
        size = self.sizes[part.id] * self.by(0.05, 0.3)
        self.fittings.append(
            Fitting(
                id=id, name=id.title(), kind=kind, part=part.id, size=size, mass=self.by(0, 2),
                pair=kind in ("eye", "whisker"), glued=rng.random() < 0.5,
                follows=rng.choice(("ready-made", "scale", "hold")),
                seat=Seat(
                    along=self.by(0.3, 0.9), around=self.by(10, 50), sink=size / 3,
                    out=0.0 if kind == "core" else 1.0,
                ),
                pieces=(Piece(shape=Ball(width=size, depth=size, height=size)),),
                fixed=rng.choice((None, None, "sewn", "felted")) if kind == "eye" else None,
            )
        )  # fmt: skip

    def _lay_wire(self) -> None:
        """One wire through the root, and on into limbs that are wound on it."""
        rng = self.rng
        self.nodes = [
            Node(id="low", part="root", along=0.1),
            Node(id="high", part="root", along=0.9),
        ]
        self.bones = [Bone(a="low", b="high")]
        metal, wide = "soft steel", rng.choice((0.6, 0.8, 1.0, 1.5))
        self.wires = [
            Wire(id="spine", name="Spine", metal=metal, diameter=wide, route=("low", "high"))
        ]
        for part in [
            p for p in self.parts if p.parent == "root" and isinstance(p.shape, Limb | Rope)
        ]:
            if part.row or part.stuff or part.garment or rng.random() < 0.4:
                continue
            side = "left" if part.pair else None
            ends = [
                Node(id=f"{part.id}-{n}", part=part.id, side=side, along=along)
                for n, along in enumerate((0.0, 0.5, 0.97))
            ]
            route = ("high", *(node.id for node in ends))
            self.nodes += ends
            self.bones += [Bone(a=a, b=b) for a, b in itertools.pairwise(route)]
            self.wires.append(
                Wire(
                    id=f"wire-{part.id}", name=f"Wire {part.id}", metal=metal, diameter=wide,
                    route=route, binds=("high",),
                )
            )  # fmt: skip
