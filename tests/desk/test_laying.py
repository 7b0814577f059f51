"""How the table is laid: everything at one scale, nothing over anything else, as large as the room allows."""

from __future__ import annotations

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPointF

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Document
from bambola.core.plan import make_plan
from bambola.core.plan.counter.weighing import blanks_of
from bambola.desk.stations.wool.laying import (
    PartThings,
    Room,
    TableThing,
    fitting_scale,
    lay_out,
    setting_of,
    thing_at,
)

ROOM = Room(9.0, 62.0, 26.0, 42.0, 170.0)

sizes = st.tuples(st.floats(4, 220), st.floats(4, 220))
settings_of = st.lists(
    st.lists(sizes, min_size=1, max_size=4).map(
        lambda many: tuple(TableThing("bundle", s, i) for i, s in enumerate(many))
    ),
    min_size=1, max_size=12,
).map(lambda many: tuple(
    PartThings(f"p{i}", (*things, TableThing("part", things[0].size))) for i, things in enumerate(many)
))  # fmt: skip


@given(settings_of, st.floats(300, 1800), st.floats(0.1, 4.0))
def test_nothing_lies_over_anything_else(
    things: tuple[PartThings, ...], wide: float, scale: float
) -> None:
    laid, high = lay_out(things, wide, scale, ROOM)
    assert [place.setting for place in laid] == list(things)
    for a, b in itertools.combinations(laid, 2):
        assert not a.box.intersects(b.box)
    for place in laid:
        assert place.box.bottom() <= high
        for thing, box in zip(place.setting.things, place.boxes, strict=True):
            assert box.width() == pytest.approx(thing.size[0] * scale)
            assert box.height() == pytest.approx(thing.size[1] * scale)
            assert place.box.top() + ROOM.head - 1e-6 <= box.top()
            assert box.bottom() <= place.box.bottom() - ROOM.foot + 1e-6
        for one, then in itertools.pairwise(place.boxes):
            assert one.right() <= then.left() + 1e-6
        for box, thing in zip(place.boxes, place.setting.things, strict=True):
            found = thing_at(laid, QPointF(box.center().x(), place.box.center().y()))
            assert found == (place.setting.part, thing.portion)


@given(settings_of, st.floats(500, 1800), st.floats(300, 1200))
def test_it_is_laid_as_large_as_room_allows(
    things: tuple[PartThings, ...], wide: float, tall: float
) -> None:
    scale = fitting_scale(things, wide, tall, ROOM, 0.05, 5.0)
    assert 0.05 <= scale <= 5.0
    if scale > 0.051:
        laid, high = lay_out(things, wide, scale, ROOM)
        assert high <= tall and all(place.box.right() <= wide + 1e-6 for place in laid)
    smaller, high = lay_out(things, wide, 0.05, ROOM)
    assert len(smaller) == len(things) and high > 0


def test_setting_holds_every_heap_and_part(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, Brief(height=220), bench)
    blanks = blanks_of(plan, bench)
    for part in plan.parts:
        setting = setting_of(part, blanks.get(part.id), (10.0, 20.0))
        assert setting.things[-1].kind == "part" and setting.things[-1].size == (10.0, 20.0)
        kinds = {t.portion: t.kind for t in setting.things[:-1] if t.portion is not None}
        for i, portion in enumerate(part.heaps):
            if portion.take_g <= 0:
                assert i not in kinds
            elif portion.role == "core":
                assert kinds[i] == ("blank" if part.id in blanks else "bundle")
            else:
                assert kinds[i] == "heap"
    assert thing_at((), QPointF(1, 1)) is None
