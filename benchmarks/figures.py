"""A made-up figure of forty parts, to measure with."""

from __future__ import annotations

from bambola.core.figure import (
    Ball,
    Bone,
    Coat,
    Datum,
    Figure,
    Fitting,
    Joint,
    Leaf,
    Limb,
    Node,
    Part,
    Piece,
    Place,
    Rope,
    Seat,
    SizeRule,
    Tilt,
    Wire,
)
from bambola.core.figure.places import Outline


def forty_parts(more: int = 0) -> Figure:
    """Return a crawling beast: a body, a head, six pairs of wired legs with feet, knobs, fins and dress;
    ``more`` knobs sit in rings round the body."""
    coat = Coat(wool="lichen")
    body = Part(
        id="body",
        name="Body",
        shape=Ball(width=60, depth=50, height=150),
        core="core-batt",
        coat=coat,
    )
    head = Part(
        id="head",
        name="Head",
        parent="body",
        seat=Seat(sink=8),
        core="core-batt",
        coat=coat,
        shape=Ball(width=46, depth=44, height=42),
        places=(
            Place(
                id="mask",
                wool="cream",
                where=Outline(outline=((-0.6, -0.3), (0.6, -0.3), (0.5, 0.4), (-0.5, 0.4))),
            ),
        ),
    )
    parts, nodes, bones, wires = [body, head], [], [], []
    for i in range(6):
        along = 0.10 + 0.14 * i
        joints = (
            Joint(x=0, y=0, z=0, diameter=9),
            Joint(x=14, y=-3, z=-6, diameter=8),
            Joint(x=20, y=-4, z=-13, diameter=7),
        )
        leg, foot = f"leg-{i}", f"foot-{i}"
        parts += [
            Part(
                id=leg,
                name=f"Leg {i}",
                parent="body",
                pair=True,
                shape=Limb(joints=joints),
                core="core-batt",
                coat=coat,
                seat=Seat(along=along, around=80, out=0.9),
                join="wire",
            ),
            Part(
                id=foot,
                name=f"Foot {i}",
                parent=leg,
                seat=Seat(along=1, out=0, sink=4),
                core="walnut",
                shape=Ball(width=9, depth=12, height=8),
            ),
        ]
        nodes.append(Node(id=f"spine-{i}", part="body", along=along))
        route = [f"spine-{i}"]
        for name, where in (("hip", 0.0), ("knee", 0.5), ("toe", 1.0)):
            nodes.append(Node(id=f"{name}-{i}", part=leg, side="left", along=where))
            bones.append(Bone(a=route[-1], b=f"{name}-{i}"))
            route.append(f"{name}-{i}")
        wires.append(
            Wire(
                id=f"leg-{i}",
                name=f"Leg wire {i}",
                metal="soft steel",
                diameter=0.8,
                route=tuple(route),
            )
        )
    for i in range(14):
        parts.append(
            Part(
                id=f"knob-{i}",
                name=f"Knob {i}",
                parent="head",
                core="madder",
                made="apart",
                seat=Seat(along=0.45 + 0.035 * i, around=(77.0 * i) % 360, sink=3),
                shape=Ball(width=9, depth=9, height=9),
            )
        )
    for i in range(more):
        parts.append(
            Part(
                id=f"stud-{i}",
                name=f"Stud {i}",
                parent="body",
                core="woad",
                made="apart",
                seat=Seat(
                    along=0.15 + 0.07 * (i // 8 % 11),
                    around=22.0 + 45 * (i % 8) + 5 * (i // 88),
                    sink=2,
                ),
                shape=Ball(width=7, depth=7, height=7),
            )
        )
    for i in range(8):
        parts.append(
            Part(
                id=f"fin-{i}",
                name=f"Fin {i}",
                parent="body",
                core="weld",
                coat=None,
                firmness="firm",
                seat=Seat(
                    along=0.16 + 0.09 * i, around=180 if i % 2 else 150, sink=4, tilt=Tilt(nod=-80)
                ),
                shape=Leaf(length=22, width=18, thickness=4),
            )
        )
    parts += [
        Part(
            id="tail",
            name="Tail",
            parent="body",
            core="core-batt",
            coat=coat,
            seat=Seat(along=0.03, around=180, sink=4, tilt=Tilt(nod=-110)),
            shape=Rope(points=((0, 0, 0), (0, 4, 20), (0, 0, 44)), thickness=14, tip=0.4),
        ),
        Part(
            id="collar",
            name="Collar",
            parent="body",
            core="madder",
            seat=Seat(along=0.97, out=0),
            shape=Ball(width=44, depth=42, height=14),
        ),
        Part(
            id="snout",
            name="Snout",
            parent="head",
            core="core-batt",
            coat=Coat(wool="cream"),
            seat=Seat(along=0.4, sink=7, tilt=Tilt(nod=90)),
            shape=Ball(width=20, depth=18, height=22),
        ),
        Part(
            id="nose",
            name="Nose",
            parent="snout",
            core="black",
            face=True,
            made="apart",
            seat=Seat(sink=3),
            shape=Ball(width=9, depth=9, height=9),
        ),
    ]
    eye = Fitting(
        id="eye",
        name="Eyes",
        kind="eye",
        part="head",
        pair=True,
        glued=True,
        size=5,
        mass=0.15,
        seat=Seat(along=0.6, around=28, sink=2),
        follows="ready-made",
        pieces=(Piece(shape=Ball(width=5, depth=5, height=5), finish="glass"),),
    )
    return Figure(
        id="forty-parts",
        name="Forty parts",
        datum=Datum(part="head"),
        parts=tuple(parts),
        fittings=(eye,),
        nodes=tuple(nodes),
        bones=tuple(bones),
        wires=tuple(wires),
    )


HELD_COLLAR = (SizeRule(rule="hold"),)
