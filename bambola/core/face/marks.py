"""The marks of a face and their positions: from the crown, from the midline, along a thread at their
level."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np

from bambola.core.face.over_surface import Place, over_surface
from bambola.core.facts import Fact, fact
from bambola.core.figure import Leaf, Part
from bambola.core.figure.places import Line
from bambola.core.figure.shapes import ProfileShape
from bambola.core.frozen import frozen
from bambola.core.solids import Copy, Placement, nearest_seat, own_copy
from bambola.core.solids.forms import Array, curl_sheet, leaf_outline, seat_point
from bambola.core.solids.inside import Mask, points_within
from bambola.core.solids.outlines import level_arc

MIDLINE_DEG = 2.0
"""A mark nearer to the midline than this is one mark on it; others are on both sides. Judged.
See craft.md, 9."""
LEVEL_SHARE = 0.04
"""Marks whose heights differ by less than this share of the part lie on one thread. Judged.
See craft.md, 9."""
LYING = 0.5
"""A part whose axis rises by less than this share of its length lies: its crown is its highest point, not its
end. Judged. See craft.md, 9."""
FORWARD = 0.8
"""A mark under a snout is told on it only where it comes out beyond this share of its length: the level of
the eyes stays a level of the head. Judged. See craft.md, 9."""
NEAR_SHARE = 0.15
"""An end of an ear within this share of the part of another mark needs no thread of its own. Judged.
See craft.md, 9."""
SAME_MM = 0.5
"""Marks nearer to each other than this are one prick. Judged. See craft.md, 9."""
EAR_SHARE = 0.5
"""Flat parts farther from the eyes than this share of the part are no ears but flukes or fins. Judged.
See craft.md, 9."""
_MIDLINE: tuple[Place, ...] = tuple(
    (share, around) for share in np.linspace(0.0, 1.0, 61).tolist() for around in (0.0, 180.0)
)
"""Places on a part's midline among which the highest and the lowest are looked for."""
_STEPS = 20
"""Into so many pieces each side of an outline is cut to find where it leaves what it sits on. Judged."""


@frozen
class Mark:
    """A mark of a face, the left one of a pair. ``about`` is the id of the mark, fitting or part it stands
    for, ``kind`` which of these; ``is_of_eyes`` for an eye or a mark for one. Distances are over the surface
    of the part, mm."""

    id: str
    name: Fact
    kind: str
    about: str
    along: float
    around: float
    both: bool
    from_crown_mm: float
    from_midline_mm: float
    is_of_eyes: bool


@frozen
class Thread:
    """A thread round the head at one level: its length, and the distance of each mark from the midline,
    mm."""

    along: float
    round_mm: float
    ticks: tuple[tuple[str, float], ...]


@frozen
class Face:
    """The marks on one part. ``crown`` is where the strip begins; ``strip_mm`` how long it is down the front
    to the chin. A snout or a brow, which sits on another face, is no head: it has no chin."""

    part: str
    name: str
    crown: Place
    strip_mm: float
    marks: tuple[Mark, ...]
    threads: tuple[Thread, ...]
    is_head: bool

    @property
    def named_marks(self) -> tuple[Mark, ...]:
        """Its marks from the crown down; a mark at the place of something that sits there is named after
        that."""
        sits = [mark for mark in self.marks if mark.kind != "mark"]
        return tuple(
            mark
            for mark in self.marks
            if mark.kind != "mark" or not any(_is_same(mark, other) for other in sits)
        )

    @property
    def thread(self) -> tuple[Thread, Mark] | None:
        """The thread that shows whether left and right are level, at the eyes, or else at the lowest pair;
        None if no mark is on both sides."""
        by_id = {mark.id: mark for mark in self.marks}
        laid = [(thread, by_id[id]) for thread in self.threads for id, _ in thread.ticks]
        return next((row for row in laid if row[1].is_of_eyes), laid[-1] if laid else None)


def _is_same(a: Mark, b: Mark) -> bool:
    down, aside = a.from_crown_mm - b.from_crown_mm, a.from_midline_mm - b.from_midline_mm
    return abs(down) < SAME_MM and abs(aside) < SAME_MM


@frozen
class _Raw:
    id: str
    name: Fact
    kind: str
    about: str
    part: str
    place: Place
    of_eyes: bool = False


def faces_of(placement: Placement) -> tuple[Face, ...]:
    """Return every face of a placed figure, in the order of its parts; none if nothing is marked."""
    raw = list(_in_sight(placement, _raw_marks(placement)))
    marked = {mark.part for mark in raw}
    return tuple(
        _face_on(copy, [mark for mark in raw if mark.part == part.id], part.parent not in marked)
        for part in placement.figure.parts
        if part.id in marked and (copy := own_copy(placement, part.id))
    )


def _face_on(copy: Copy, raw: list[_Raw], is_head: bool) -> Face:
    way = _down_the_front(copy)
    crown = way[0]
    places = [mark.place for mark in raw]
    n = len(places)
    across = [(place, (place[0], -place[1])) for place in places]
    far = over_surface(copy.shape, [*((crown, at) for at in places), *across, *pairwise(way)])
    down, aside, strip = far[:n], far[n : 2 * n] / 2, float(far[2 * n :].sum())
    marks = tuple(
        Mark(
            mark.id,
            mark.name,
            mark.kind,
            mark.about,
            *mark.place,
            copy.side is None and MIDLINE_DEG < abs(mark.place[1]) < 180 - MIDLINE_DEG,
            float(a),
            float(b),
            mark.of_eyes,
        )
        for mark, a, b in zip(raw, down, aside, strict=True)
    )
    in_order = tuple(sorted(marks, key=lambda mark: mark.from_crown_mm))
    return Face(
        copy.part.id, copy.part.name, crown, strip, in_order, _threads_for(copy, in_order), is_head
    )


def _just_inside(place: Place) -> Place:
    """Return an end of a part just inside its outline from the front, so that a path to it runs down the
    front."""
    return min(max(place[0], 1e-4), 1 - 1e-4), place[1]


def _down_the_front(copy: Copy) -> list[Place]:
    """Return the ends of the strip from crown to chin: the ends of the part's axis; for a lying part from the
    highest to the lowest point of its midline, over its front end."""
    rise = float(copy.matrix[2, 2])
    if abs(rise) >= LYING:
        top, foot = (1.0, 0.0) if rise > 0 else (0.0, 1.0)
        return [(top, 0.0), _just_inside((foot, 0.0))]
    heights = {at: float(copy.point(*at, 1.0)[2]) for at in _MIDLINE}
    front = 1.0 if copy.matrix[1, 2] < 0 else 0.0
    crown, chin = max(_MIDLINE, key=heights.__getitem__), min(_MIDLINE, key=heights.__getitem__)
    return [crown, _just_inside((front, 0.0)), chin]


def _raw_marks(placement: Placement) -> Iterator[_Raw]:
    figure = placement.figure
    for mark in figure.marks:
        name = fact("named", name=mark.name)
        place = (mark.along, mark.around)
        yield _Raw(mark.id, name, "mark", mark.id, mark.part, place, mark.eye)
    for fitting in figure.fittings:
        if fitting.kind in ("eye", "nose"):
            place = (fitting.seat.along, fitting.seat.around)
            name = fact("face.middle", name=fitting.name)
            is_eye = fitting.kind == "eye"
            yield _Raw(
                f"eye:{fitting.id}", name, "fitting", fitting.id, fitting.part, place, is_eye
            )
    for part in figure.parts:
        yield from _of_pieces(part)
        if part.parent is None or part.garment is not None or not _on_a_face(part, placement):
            continue
        if isinstance(part.shape, Leaf):
            yield from _base_ends(placement, part)
        elif part.face:
            place = (part.seat.along, part.seat.around)
            name = fact("face.middle", name=part.name)
            yield _Raw(f"part:{part.id}", name, "part", part.id, part.parent, place, part.eye)


BY_ENDS = ("mouth", "nose-line")
"""Pieces of a face of which both ends are marked; of others the middle says enough."""


def _of_pieces(part: Part) -> Iterator[_Raw]:
    """Yield the positions of the pieces of a face, the left ones of pairs."""
    for place in part.patches:
        if place.face is None or not isinstance(place.where, Line):
            continue
        way = place.where.way
        told = range(len(way)) if place.face in BY_ENDS else (len(way) // 2,)
        for n in told:
            if not place.where.mirrored and twin_of(way, n) is not None and way[n][1] < 0:
                continue
            called = place.display_name.capitalize()
            if len(told) > 1 and n in (0, len(way) - 1):
                name = fact("face.end", name=called)
            elif n == len(way) // 2:
                name = fact("face.middle", name=called)
            else:
                name = fact("face.bend", name=called, n=n)
            about = f"{part.id}/{place.id}:{n}"
            yield _Raw(f"piece:{about}", name, "piece", about, part.id, way[n])


def piece_of(about: str) -> tuple[str, str, int]:
    """Return the part, the piece of the face, and the point of its line that a mark is ``about``."""
    where, _, n = about.rpartition(":")
    part, _, piece = where.partition("/")
    return part, piece, int(n)


def twin_of(way: tuple[Place, ...], n: int) -> int | None:
    """Return the index of the mirror image of point ``n`` of a line; None if there is none."""
    along, around = way[n]
    if abs(around) < MIDLINE_DEG:
        return None
    for i, (a, b) in enumerate(way):
        if abs(a - along) < 1e-6 and abs(b + around) < 1e-6:
            return i
    return None


def _on_a_face(part: Part, placement: Placement) -> bool:
    """Return whether a part belongs to the face, or is an ear: one of a flat pair above the eyes."""
    if part.face or not (part.pair and isinstance(part.shape, Leaf)):
        return part.face
    eyes = [
        p for p in placement.fittings if p.fitting.kind == "eye" and p.fitting.part == part.parent
    ]
    copy = own_copy(placement, part.id)
    near = any(abs(p.fitting.seat.along - part.seat.along) < EAR_SHARE for p in eyes)
    return bool(near and copy and copy.matrix[2, 3] > max(p.matrix[2, 3] for p in eyes))


def _base_ends(placement: Placement, part: Part) -> Iterator[_Raw]:
    """Yield the two ends of the base of a flat part: where its outline leaves what it sits on."""
    copy, bearer = own_copy(placement, part.id), own_copy(placement, str(part.parent))
    assert copy is not None and bearer is not None and isinstance(copy.shape, Leaf)
    outline = leaf_outline(copy.shape)
    turns = np.arange(len(outline) + 1)
    fine = np.linspace(0, len(outline), math.ceil(len(outline) * _STEPS))
    x, y = (np.interp(fine, turns, np.append(run, run[0])) for run in outline.T)
    bent = curl_sheet(copy.shape, np.column_stack([x, np.zeros_like(x), y]))
    points = bent @ copy.matrix[:3, :3].T + copy.matrix[:3, 3]
    # What only touches is held by its very base.
    inside = _holds_points(bearer, points) | (y <= 0.02 * copy.shape.length)
    rim = np.flatnonzero(inside != np.roll(inside, 1))
    if not len(rim):
        return
    own = np.linalg.inv(bearer.matrix)
    ends = []
    for at in (rim[np.argmin(x[rim])], rim[np.argmax(x[rim])]):
        along, around, _ = nearest_seat(bearer.shape, own[:3, :3] @ points[at] + own[:3, 3])
        ends.append((along, around))
    ends.sort(key=lambda end: abs(end[1]) * math.sin(math.pi * end[0]))
    for end, which in zip(ends, ("inner", "outer"), strict=True):
        name = fact(f"face.{which}-end", name=part.name)
        yield _Raw(f"{which}:{part.id}", name, "part", part.id, str(part.parent), end)


def _in_sight(placement: Placement, raw: Iterator[_Raw]) -> Iterator[_Raw]:
    """Yield the marks, those covered by another part of the face moved on to that: the nose on to the
    snout."""
    figure = placement.figure
    for mark in raw:
        copy = own_copy(placement, mark.part)
        assert copy is not None
        over = [
            other
            for part in figure.parts
            if part.parent == mark.part and not isinstance(part.shape, Leaf) and not part.garment
            if part.id != mark.about and (other := own_copy(placement, part.id))
        ]
        point = copy.point(*mark.place, 1.0)
        cover = next((other for other in over if _holds_points(other, point[None])[0]), None)
        stays = mark.kind in ("part", "piece")
        if cover is None or stays or _is_its_place(cover.part, mark.place):
            yield mark
            continue
        along, around = _exit_point(copy, cover, point)
        if along < FORWARD:
            yield mark
        else:
            yield replace(mark, part=cover.part.id, place=(along, around))


def _exit_point(copy: Copy, cover: Copy, point: Array) -> Place:
    """Return where the ray from a part's middle through ``point`` leaves what covers it."""
    middle = copy.matrix[:3, :3] @ _middle_of(copy) + copy.matrix[:3, 3]
    reach = np.linspace(1.0, 3.0, 200)[:, None]
    ray = middle + (point - middle) * reach
    held = ray[_holds_points(cover, ray)]
    out = held[-1] if len(held) else point
    own = np.linalg.inv(cover.matrix)
    along, around, _ = nearest_seat(cover.shape, own[:3, :3] @ out + own[:3, 3])
    return along, around


def seen_on(placement: Placement, part: str, way: Sequence[Place]) -> tuple[str, tuple[Place, ...]]:
    """Return the visible part for a line over ``part``, and its points there: a snout, if the line's middle
    lies under it."""
    copy = own_copy(placement, part)
    assert copy is not None
    point = copy.point(*way[len(way) // 2], 1.0)
    for other in placement.figure.parts:
        cover = own_copy(placement, other.id) if other.parent == part else None
        if cover is None or other.garment or isinstance(other.shape, Leaf) or other.pair:
            continue
        if _holds_points(cover, point[None])[0]:
            return other.id, tuple(_exit_point(copy, cover, copy.point(*at, 1.0)) for at in way)
    return part, tuple(way)


def _is_its_place(part: Part, place: Place) -> bool:
    """Return whether a mark marks the place of a part, and is hidden by that very part."""
    return (
        abs(part.seat.along - place[0]) < LEVEL_SHARE
        and abs(part.seat.around - place[1]) < MIDLINE_DEG
    )


def _holds_points(copy: Copy, points: Array) -> Mask:
    own = np.linalg.inv(copy.matrix)
    return points_within(copy.shape, points @ own[:3, :3].T + own[:3, 3])


def _middle_of(copy: Copy) -> Array:
    return seat_point(copy.shape, 0.5, 0.0, 0.0)


def _threads_for(copy: Copy, marks: tuple[Mark, ...]) -> tuple[Thread, ...]:
    """Return a thread for every level with a pair of marks, highest first."""
    if not isinstance(copy.shape, ProfileShape):
        return ()
    levels: list[list[Mark]] = []
    aside = [m for m in marks if m.both]
    # The two ends of an ear have a level each; one thread at what lies between them is enough.
    whole = [m for m in aside if not _is_end(m)]
    ends = [m for m in aside if _is_end(m) and m.id.startswith("outer")]
    rest = [m for m in ends if all(abs(w.along - m.along) > NEAR_SHARE for w in whole)]
    for mark in sorted((*whole, *rest), key=lambda m: -m.along):
        if levels and abs(levels[-1][0].along - mark.along) <= LEVEL_SHARE:
            levels[-1].append(mark)
        else:
            levels.append([mark])
    return tuple(_thread_at(copy.shape, level) for level in levels)


def _is_end(mark: Mark) -> bool:
    return mark.id.startswith(("inner:", "outer:"))


def _thread_at(shape: ProfileShape, level: list[Mark]) -> Thread:
    along = sum(mark.along for mark in level) / len(level)
    ticks = tuple((mark.id, level_arc(shape, along, mark.around)) for mark in level)
    return Thread(along, 2 * level_arc(shape, along, 180.0), ticks)
