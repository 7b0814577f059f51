"""Small figures for the tests: built by hand where a closed form is known, at random otherwise."""

from __future__ import annotations

import random
from collections.abc import Sequence

from hypothesis import strategies as st

from bambola.core.figure import (
    Ball,
    Bone,
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
    Sausage,
    Seat,
    Shape,
    Tilt,
    Wire,
)
from bambola.core.figure.fields import View
from bambola.core.figure.places import Band, Line, Outline, fur_all_over
from bambola.core.solids import Solids, mesh_of


def ball(diameter: float) -> Ball:
    return Ball(width=diameter, depth=diameter, height=diameter)


def figure_of(*parts: Part, **more: object) -> Figure:
    return Figure.model_validate(
        {"id": "test", "name": "Test figure", "datum": Datum(), "parts": parts, **more}
    )


def one_ball(diameter: float = 40.0, **part: object) -> Figure:
    return figure_of(Part(id="body", name="Body", shape=ball(diameter), core="core-batt", **part))  # type: ignore[arg-type]


def arm_on_post(length: float = 60.0, diameter: float = 12.0) -> Figure:
    """A post with one level arm on a wire: a cantilever."""
    body = Part(id="body", name="Body", shape=ball(50), core="core-batt")
    arm = Part(
        id="arm",
        name="Arm",
        parent="body",
        seat=Seat(along=0.5, around=90, out=1.0),
        shape=Limb(
            joints=(
                Joint(x=0, y=0, z=0, diameter=diameter),
                Joint(x=length, y=0, z=0, diameter=diameter),
            )
        ),
        core="core-batt",
        coat=Coat(wool="woad"),
    )
    nodes = (
        Node(id="heart", part="body", along=0.5),
        Node(id="shoulder", part="arm", along=0.0),
        Node(id="hand", part="arm", along=1.0),
    )
    bones = (Bone(a="heart", b="shoulder", part="body"), Bone(a="shoulder", b="hand"))
    wire = Wire(
        id="arm",
        name="Arm wire",
        metal="soft steel",
        diameter=1.0,
        route=("heart", "shoulder", "hand"),
    )
    return figure_of(body, arm, nodes=nodes, bones=bones, wires=(wire,))


def wired_snake() -> Figure:
    """A body that is a limb wound on a wire of its own, with a head."""
    joints = tuple(Joint(x=x, y=0, z=0, diameter=d) for x, d in ((0, 14), (60, 20), (120, 8)))
    body = Part(id="body", name="Snake", shape=Limb(joints=joints), core="core-batt")
    head = Part(id="head", name="Head", parent="body", shape=ball(24), core="core-batt",
                seat=Seat(along=1.0, out=1.0, sink=4.0))  # fmt: skip
    nodes = tuple(Node(id=f"n{n}", part="body", along=0.05 + 0.45 * n) for n in range(3))
    bones = (Bone(a="n0", b="n1"), Bone(a="n1", b="n2"))
    spine = Wire(
        id="spine", name="Spine", metal="soft steel", diameter=1.0, route=("n0", "n1", "n2")
    )
    return figure_of(body, head, nodes=nodes, bones=bones, wires=(spine,))


def head_with_a_face(*more: Part, marks: tuple[FaceMark, ...] = ()) -> Figure:
    """A round head on a body, with eyes at 45 degrees and a mouth below."""
    body = Part(id="body", name="Body", shape=ball(80.0), core="core-batt")
    head = Part(id="head", name="Head", parent="body", shape=ball(60.0), core="core-batt",
                seat=Seat(along=1.0, out=1.0, sink=6.0))  # fmt: skip
    eye = Fitting(
        id="eye", name="Eye", kind="eye", part="head", pair=True, size=5.0, pieces=(Piece(shape=ball(5.0)),),
        seat=Seat(along=0.6, around=45.0),
    )  # fmt: skip
    mouth = FaceMark(id="mouth", name="Mouth", part="head", along=0.3)
    return figure_of(body, head, *more, fittings=(eye,), marks=(mouth, *marks))


def skin_in_skin(solids: Solids) -> bool:
    """Whether some copy is buried in others: its surface is then nobody's or anybody's."""
    return any(
        solid.net_mm3 < 0.05 * mesh_of(copy.shape).volume
        for solid, copy in zip(solids.measured, solids.placement.copies, strict=True)
    )


lengths = st.floats(6.0, 60.0).map(lambda x: round(x, 2))


REED_FUR = Fur(wool="reed", hair=20, spacing=9)


def patch(
    name: str,
    wool: str,
    outline: Sequence[tuple[float, float]],
    view: View = "front",
    mirrored: bool = False,
) -> Place:
    """A patch of another wool within an outline."""
    where = Outline(view=view, outline=tuple(outline), mirrored=mirrored)
    return Place(id=name, wool=wool, where=where)


CUFF = Place(id="cuff", wool="cream", where=Band(begin=0.6, end=0.85))
LINE = Place(id="stripe", wool="weld", where=Line(way=((0.2, 150.0), (0.8, 180.0)), wide=4.0))
SMILE = Place(
    id="mouth", wool="charcoal", face="mouth",
    where=Line(way=((0.3, -30.0), (0.25, 0.0), (0.3, 30.0)), wide=1.2),
)  # fmt: skip
LIDS = Place(
    id="lid", wool="woad", face="lid",
    where=Line(way=((0.6, 20.0), (0.65, 28.0), (0.6, 36.0)), wide=3.0, mirrored=True),
)  # fmt: skip
BACK = Place(
    id="back", where=Band(around=180.0, wide=200.0), fur=Fur(wool="reed", hair=12, spacing=7)
)
BARE = Place(id="bare", where=Band(begin=0.9), bare=True)
SPOT = patch("patch", "madder", ((-0.5, -0.5), (0.5, -0.5), (0, 0.6)))


@st.composite
def shapes(draw: st.DrawFn) -> Shape:
    a, b, c = draw(lengths), draw(lengths), draw(lengths)
    return draw(
        st.sampled_from(
            [
                Ball(width=a, depth=b, height=c, taper=0.2),
                Sausage(length=a + b, diameter=b),
                Cone(length=a + b + c, base=b, tip=c),
                Pad(width=a, depth=b, height=c),
                Leaf(length=a, width=b, thickness=min(a, b) / 5, curl=30),
                Limb(
                    joints=(
                        Joint(x=0, y=0, z=0, diameter=a / 2),
                        Joint(x=b, y=0, z=c, diameter=a / 3),
                    )
                ),
                Rope(
                    points=((0, 0, 0), (0, a, b), (0, a + b, b + c)),
                    thickness=min(a, b) / 3,
                    tip=0.7,
                ),
            ]
        )
    )


@st.composite
def figures(draw: st.DrawFn) -> Figure:
    """A random figure: a tree of parts, some wired, dressed, furred, with eyes and insets."""
    names = [f"part-{i}" for i in range(draw(st.integers(1, 6)))]
    parts = [
        Part(
            id="root",
            name="Root",
            shape=ball(draw(st.floats(30, 90))),
            core="core-batt",
            coat=draw(st.sampled_from([None, Coat(wool="woad")])),
        )
    ]
    for i, name in enumerate(names):
        parent = draw(st.sampled_from(parts))
        dressed = draw(st.booleans()) and draw(st.booleans())
        chain = {parent.id}
        while above := next(
            (p.parent for p in parts if p.id in chain and p.parent not in chain), None
        ):
            chain.add(above)
        # What it sits on it need not pass over, but for one in a while.
        ends = [p for p in parts if p.id not in chain] or parts
        over = draw(st.lists(st.sampled_from(parts), max_size=1)) if dressed else []
        parts.append(
            Part(
                id=name,
                name=name.title(),
                parent=parent.id,
                shape=draw(shapes()),
                core="core-batt",
                seat=Seat(
                    along=draw(st.floats(0.1, 0.9)),
                    around=draw(st.floats(-30, 30)) + 61.0 * i,
                    sink=3.0,
                    tilt=Tilt(nod=draw(st.floats(-90, 90))),
                ),
                pair=draw(st.booleans()),
                coat=draw(
                    st.sampled_from(
                        [None, Coat(wool="cream"), Coat(wool="charcoal", cover="contrast")]
                    )
                ),
                places=(
                    *draw(st.sampled_from([(), (SPOT,), (CUFF,), (SPOT, LINE), (SMILE, LIDS)])),
                    *draw(st.sampled_from([(), (), (fur_all_over(REED_FUR),), (BACK,)])),
                    *draw(st.sampled_from([(), (), (BARE,)])),
                ),
                join=draw(st.sampled_from(["fringe", "patch", "scarf", "peg"])),
                face=draw(st.booleans()),
                over=tuple(p.id for p in over if p.id != "root"),
                garment=Garment(
                    opening=80,
                    passes=draw(st.sampled_from(ends)).id,
                    bought=draw(st.booleans()),
                    mass=2.0,
                )
                if dressed
                else None,
            )
        )
    eyed = draw(st.sampled_from(parts))
    eye = Fitting(
        id="eye",
        name="Eyes",
        kind="eye",
        part=eyed.id,
        pair=True,
        glued=draw(st.booleans()),
        seat=Seat(along=0.6, around=25),
        size=4,
        follows="ready-made",
        pieces=(Piece(shape=ball(4), finish="glass"),),
    )
    prop = Fitting(
        id="prop",
        name="Bell",
        kind="prop",
        part="root",
        seat=Seat(),
        size=5,
        mass=2,
        pieces=(Piece(shape=ball(5)),),
    )
    wired = parts[1]
    nodes = (
        Node(id="a", part="root", along=0.3),
        Node(id="b", part="root", along=0.7),
        Node(id="c", part=wired.id, along=0.6, side="left"),
    )
    wires = (Wire(id="w", name="Wire", metal="soft copper", diameter=0.8, route=("a", "b", "c")),)
    if not draw(st.booleans()):
        nodes, wires = (), ()
    bones = (Bone(a="a", b="b"), Bone(a="b", b="c")) if wires else ()
    return figure_of(*parts, fittings=(eye, prop), nodes=nodes, bones=bones, wires=wires)


def made_up_animal(seed: int) -> Figure:
    """An animal of random proportions that stands as animals do: a body, a head on a neck or without one, two
    or four legs, perhaps arms, ears, a snout and a tail, some with a coat of their own."""
    rng = random.Random(seed)
    by = rng.uniform
    parts: list[Part] = []

    def add(id: str, shape: Shape, on: str | None, seat: Seat, pair: bool = False) -> None:
        coat = Coat(wool=rng.choice(["cream", "charcoal", "woad"])) if rng.random() < 0.7 else None
        more = {"parent": on, "seat": seat, "pair": pair, "core": "core-batt", "coat": coat}
        parts.append(Part(id=id, name=id.title(), shape=shape, **more))

    def limb(run: float, thick: float, taper: float) -> Limb:
        bend = by(-0.15, 0.15) * run
        middle = thick * (1 + taper) / 2
        joints = (0.0, 0.0, thick), (bend, run / 2, middle), (0.0, run, thick * taper)
        return Limb(joints=tuple(Joint(x=0, y=y, z=z, diameter=d) for y, z, d in joints))

    is_upright = rng.random() < 0.5
    wide = by(35, 60)
    egg = Ball(width=wide, depth=wide * by(0.8, 1.1), height=by(45, 90), taper=by(0, 0.3))
    add("body", egg, None, Seat(tilt=Tilt(nod=0 if is_upright else 90)))
    head, end = by(0.5, 0.9) * wide, 1.0 if is_upright else 0.9
    skull = Ball(width=head, depth=head, height=head * by(0.9, 1.2))
    level = Tilt(nod=0 if is_upright else -90)
    if rng.random() < 0.4:
        neck = limb(by(15, 40), head * 0.4, by(0.7, 1.0))
        add("neck", neck, "body", Seat(along=end, sink=6, tilt=Tilt(nod=0 if is_upright else -50)))
        add("head", skull, "neck", Seat(along=1.0, sink=head * 0.15))
    else:
        add("head", skull, "body", Seat(along=end, sink=head * by(0.15, 0.3), tilt=level))
    run, thick = by(30, 70), by(9, 20)
    down, at = (Tilt(nod=180), by(60, 100)) if is_upright else (Tilt(nod=90), by(30, 60))
    legs = {"leg": 0.2} if is_upright else {"hindleg": 0.25, "foreleg": 0.75}
    for name, along in legs.items():
        seat = Seat(along=along, around=at, sink=thick / 2, tilt=down)
        add(name, limb(run, thick, by(0.6, 1.0)), "body", seat, pair=True)
    if is_upright and rng.random() < 0.7:
        seat = Seat(along=by(0.65, 0.85), around=90, sink=4, tilt=Tilt(lean=by(100, 170)))
        add("arm", limb(by(25, 50), by(8, 15), by(0.6, 1.0)), "body", seat, pair=True)
    if rng.random() < 0.7:
        seat = Seat(along=0.45, sink=head * by(0.1, 0.3), tilt=Tilt(nod=90))
        add("snout", ball(head * by(0.3, 0.6)), "head", seat)
    if rng.random() < 0.7:
        seat = Seat(along=0.85, around=70, sink=3, tilt=Tilt(lean=by(10, 50)))
        sheet = Leaf(length=by(12, 35), width=by(8, 16), thickness=by(3, 5))
        add("ear", sheet, "head", seat, pair=True)
    if rng.random() < 0.7:
        nod = by(-140, -60) if is_upright else by(120, 200)
        seat = Seat(along=0.12, around=180, sink=4, tilt=Tilt(nod=nod))
        add("tail", limb(by(15, 60), by(6, 16), by(0.4, 1.0)), "body", seat)
    return figure_of(*parts)
