"""The rules of the order, as data with a little code behind each.

A rule has a name and a function that yields the pairs of task keys it orders; its sentence stands in
``core/words``. Hard rules keep the figure possible; preferences (:mod:`.preferences`) are kept unless a hard
rule forbids them. A new rule is one more entry in ``RULES``.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from bambola.core.order import preferences
from bambola.core.order.book import ON_SKIN, Book, Pairs, each_before, in_turn
from bambola.core.order.keys import FINISH, GROUND, SKIN, STAND, TaskKey, key_of
from bambola.core.order.tasks import is_furred_on_the_pad
from bambola.core.order.work import in_blank


@dataclass(frozen=True)
class Rule:
    """A rule of the order. Its sentence, ``rule.ID``, tells the maker what would go wrong without it."""

    id: str
    hard: bool
    pairs: Callable[[Book], Pairs]


def wire_before_wool(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for wire in book.work.wires:
        if wire.pegs:
            yield from each_before([key_of("cut", wire.id)], book.tasks_of(wire.pegs, "join")[:1])
        else:
            yield key_of("cut", wire.id), key_of("bend", wire.id)
            yield from each_before(
                (key_of("bend", w) for w in wire.onto), [key_of("bend", wire.id)]
            )
    for part in book.work.parts:
        if part.made == "on wire":
            tape, core = book.tasks_of(part.id, "tape"), book.tasks_of(part.id, "core")
            yield from each_before((key_of("bend", w) for w in part.wires), [*tape, *core])
            yield from each_before(tape, core[:1])


def layers_inside_out(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        yield from in_turn(book.tasks_of(part.id, "hard", "core"))
        yield from each_before(book.built(part.id), book.surface(part.id))
        yield from each_before(book.surface(part.id), book.tasks_of(part.id, "furrow", "fur")[:2])
        yield from each_before(book.tasks_of(part.id, "furrow"), book.tasks_of(part.id, "fur")[:1])
        if not book.surface(part.id):
            yield from each_before(book.built(part.id), book.tasks_of(part.id, "furrow", "fur"))


def lower_place_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield the pairs that lay the lower of two overlapping places first, and furrows before eyes."""
    for part in book.work.parts:
        keys = {
            patch.id: key_of("face" if patch.face else "inset", part.id, patch.id)
            for patch in part.insets
        }
        faces = {patch.id for patch in part.insets if patch.face}
        for patch in part.insets:
            for below in patch.over:
                both = keys[below], keys[patch.id]
                # Pieces of a face have a turn of their own.
                if not {below, patch.id} <= faces and all(key in book.tasks for key in both):
                    yield both
        eyes = [f for f in book.work.fittings if f.part == part.id and f.kind == "eye"]
        first = (key_of("fit" if f.how == "felted" else "socket", f.id) for f in eyes)
        yield from each_before(book.tasks_of(part.id, "furrow"), first)


def mixed_before_laid(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for wool, _ in book.work.mixes:
        laid = [key for key, task in book.tasks.items() if task.wool == wool]
        for part in book.work.parts:
            within = in_blank(book.work, part)
            if any(patch.wool == wool for patch in part.insets if patch.id in within):
                laid += book.tasks_of(part.id, "core")
        yield from each_before([key_of("mix", wool)], laid)


def coat_under_clothes(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if part.garment and part.parent and not part.built_round:
            yield from each_before(book.surface(part.parent), book.tasks_of(part.id, "join"))


def parent_firm(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if part.parent:
            core = book.tasks_of(part.parent, "core")
            # One that is drawn out needs its parent soft.
            soft = core if part.drawn else core[:-1]
            firm = soft if part.drawn or part.built_round else book.built(part.parent)
            yield from each_before(firm, book.seated(part.id)[:1])


def apart_then_joined(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    coat_first = book.work.school("colour") == "each part first"
    for part in book.work.parts:
        if part.made in ("apart", "on wire", "cut"):
            yield from each_before(book.built(part.id), book.tasks_of(part.id, "join", "blend")[:1])
            yield from in_turn(book.tasks_of(part.id, "join", "blend"))
        if (part.made == "apart" or part.stem) and coat_first:
            yield from each_before(book.surface(part.id), book.tasks_of(part.id, "join")[:1])
        if part.made in ("in place", "detail") and part.parent and not part.drawn:
            yield from each_before(book.surface(part.parent), book.seated(part.id)[:1])


def sockets_before_glue(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for fitting in book.work.fittings:
        if fitting.kind == "eye" and fitting.how != "felted":
            yield from each_before(
                book.surface(fitting.part) or book.built(fitting.part),
                [key_of("socket", fitting.id)],
            )
            yield key_of("socket", fitting.id), key_of("fit", fitting.id)
            if fitting.how == "clay":
                yield key_of("pattern", fitting.id), key_of("socket", fitting.id)
        else:
            yield from each_before(
                book.surface(fitting.part) or book.built(fitting.part), [key_of("fit", fitting.id)]
            )
        for child in book.children(fitting.part):
            if child.face and child.made in ("in place", "detail") and fitting.kind == "eye":
                yield from each_before([key_of("fit", fitting.id)], book.seated(child.id)[:1])


def over_before_wide(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        late = (part.passes,) if part.must_precede and part.passes else part.before
        for past in late:
            # On a wire the end grows wide where it is; made apart it is wide once it is joined.
            grows = book.parts[past].made == "on wire"
            wide = book.tasks_of(past, "core") if grows else book.seated(past)
            yield from each_before(book.tasks_of(part.id, "join"), wide[:1])
        if part.parent and part.built_round:
            yield from each_before(
                book.tasks_of(part.id, "join"), book.tasks_of(part.parent, "core")[-1:]
            )


def enclosed_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        for inner in part.over:
            last = book.seated(inner) or book.surface(inner) or book.built(inner)
            closes = (
                book.tasks_of(part.id, "core") if part.made == "on wire" else book.seated(part.id)
            )
            yield from each_before(last[-1:] + book.surface(inner), closes[:1])


def fur_from_the_edge(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        rows = book.tasks_of(part.id, "fur")
        if not rows:
            continue
        yield from in_turn(rows)
        on_the_pad = book.work.school("fur on parts") == "on the pad"
        if part.parent and on_the_pad and is_furred_on_the_pad(book.work, part):
            # The last row hides the join and waits; where the hair hangs over the join, the first is there.
            lies = {fur.place: fur.lie for fur in part.furs}
            waits = [
                row
                for keys in _by_place(rows)
                for row in (keys[-1:] if lies[keys[0].place] == "tip" else keys)
            ]
            yield from each_before(
                [r for r in rows if r not in waits], book.tasks_of(part.id, "join")[:1]
            )
            yield from each_before(book.seated(part.id)[-1:], waits)
        elif part.parent:
            yield from each_before(book.seated(part.id)[-1:], rows[:1])
        for child in book.children(part.id):
            if child.made not in ("bought", "cut"):
                seated = book.seated(child.id) or book.surface(child.id) or book.built(child.id)
                yield from each_before(seated[-1:], rows[:1])
            else:
                yield from each_before(rows[-1:], book.seated(child.id)[:1])
        fitted = [f.id for f in book.work.fittings if f.part == part.id and f.kind in ON_SKIN]
        yield from each_before((key_of("fit", id) for id in fitted), rows[:1])
        for worn in book.work.parts:
            free = not (worn.built_round or worn.must_precede)
            if worn.garment and free and part.id in worn.over:
                yield from each_before(rows[-1:], book.seated(worn.id)[:1])


def _by_place(rows: list[TaskKey]) -> list[list[TaskKey]]:
    """Return the rows of fur by the place they cover, each in its order."""
    found: dict[str, list[TaskKey]] = {}
    for row in rows:
        found.setdefault(row.place, []).append(row)
    return list(found.values())


def glue_cures(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if part.fixed == "glued":
            yield from each_before(book.tasks_of(part.id, "join"), book.tasks_of(part.id, "dry"))
            yield from each_before(book.tasks_of(part.id, "dry"), [STAND])
        if part.is_pegged and not part.wound:
            dry = book.tasks_of(part.id, "dry")
            yield from each_before(book.tasks_of(part.id, "join"), dry)
            yield from each_before(
                dry, [*book.tasks_of(part.id, "blend"), *book.tasks_of(part.id, "fur")[:1], STAND]
            )
        if part.wound:
            yield from each_before(book.tasks_of(part.id, "core"), book.tasks_of(part.id, "dry"))
            later = book.tasks_of(part.id, "join", "blend", "coat")
            yield from each_before(book.tasks_of(part.id, "dry"), [*later, GROUND])
    for fitting in book.work.fittings:
        if fitting.glued:
            wait = key_of("wait", fitting.id)
            yield key_of("fit", fitting.id), wait
            later = [
                key
                for child in book.children(fitting.part)
                if child.face and child.made in ("in place", "detail") and fitting.kind == "eye"
                for key in book.seated(child.id)[:1]
            ]
            yield from each_before([wait], [*later, *book.tasks_of(fitting.part, "fur")[:1], STAND])


def pair_before_joined(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        pair = book.tasks_of(part.id, "pair")
        yield from each_before(book.built(part.id) if pair else [], pair)
        yield from each_before(pair, book.tasks_of(part.id, "join")[:1])


def marks_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        hole = book.tasks_of(part.id, "peg")
        both = [*book.built(part.id), *book.built(part.parent)] if part.parent and hole else []
        yield from each_before(both, hole)
        yield from each_before(hole, book.tasks_of(part.id, "join")[:1])
        marks = book.tasks_of(part.id, "mark")
        yield from each_before(book.surface(part.id) or book.built(part.id) if marks else [], marks)
        if part.face:
            yield from each_before(book.marks_for(part), book.seated(part.id)[:1])
        yield from each_before(marks, book.tasks_of(part.id, "fur")[:1])
        yield from each_before(marks, book.tasks_of(part.id, "socket"))
        felted = [f.id for f in book.work.fittings if f.part == part.id and f.how == "felted"]
        yield from each_before(marks, (key_of("fit", name) for name in felted))
        face = [
            f.id for f in book.work.fittings if f.part == part.id and f.kind in ("nose", "whisker")
        ]
        yield from each_before(marks, (key_of("fit", name) for name in face))


_ABOUT_EYES = ("lid", "rim", "lash", "white", "pupil", "highlight")


_IN_TURN = (("nose", "nostril", "nose-line", "mouth", "cheek"), ("white", "pupil", "highlight"))


def face_pieces_in_turn(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield the pairs that order the pieces of a face: on finished skin; lids after eyes; the mouth after the
    nose; hair and garments later."""
    for part in book.work.parts:
        kinds = {key_of("face", part.id, p.id): p.face for p in part.insets if p.face}
        if not kinds or part.made == "detail":
            continue
        skin = book.surface(part.id) or book.built(part.id)
        yield from each_before(
            [*skin, *book.tasks_of(part.id, "mark"), *book.marks_for(part)], kinds
        )
        eyes = [f.id for f in book.work.fittings if f.part == part.id and f.kind == "eye"]
        fitted = [
            k for id in eyes for k in (key_of("fit", id), key_of("wait", id)) if k in book.tasks
        ]
        yield from each_before(fitted, (k for k, kind in kinds.items() if kind in _ABOUT_EYES))
        for turn in _IN_TURN:
            laid = [[k for k, kind in kinds.items() if kind == what] for what in turn]
            for first, second in itertools.combinations(laid, 2):
                yield from each_before(first, second)
        brows = [key for key, kind in kinds.items() if kind == "brow"]
        yield from each_before((k for k, kind in kinds.items() if kind != "brow"), brows)
        yield from each_before(kinds, book.tasks_of(part.id, "fur")[:1])


def all_done_at_the_end(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    rest = [key for key in book.tasks if key not in (STAND, FINISH, SKIN)]
    yield from each_before(rest, [FINISH])
    yield FINISH, SKIN
    yield from each_before([FINISH, SKIN], [STAND])


def creased_when_joined(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield the pairs that felt a fold after the limb and its skin, and before fur and clothes hide it."""
    for part in book.work.parts:
        crease = book.tasks_of(part.id, "crease")
        done = book.tasks_of(part.id, "core", "coat", "inset", "join", "blend", "dry")
        yield from each_before(done if crease else [], crease)
        yield from each_before(crease, book.tasks_of(part.id, "fur")[:1])
        if crease and GROUND in book.tasks:
            yield crease[0], GROUND


def stood_on_its_feet(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if GROUND in book.tasks:
        feet = [key for foot in book.work.feet for key in book.comes_on(foot)]
        yield from each_before(feet, [GROUND])


RULES: tuple[Rule, ...] = (
    Rule("wire-before-wool", True, wire_before_wool),
    Rule("mixed-before-laid", True, mixed_before_laid),
    Rule("layers-inside-out", True, layers_inside_out),
    Rule("lower-place-first", True, lower_place_first),
    Rule("coat-under-clothes", True, coat_under_clothes),
    Rule("stood-on-its-feet", True, stood_on_its_feet),
    Rule("parent-firm", True, parent_firm),
    Rule("apart-then-joined", True, apart_then_joined),
    Rule("sockets-before-glue", True, sockets_before_glue),
    Rule("over-before-wide", True, over_before_wide),
    Rule("enclosed-first", True, enclosed_first),
    Rule("fur-from-the-edge", True, fur_from_the_edge),
    Rule("glue-cures", True, glue_cures),
    Rule("marks-first", True, marks_first),
    Rule("face-in-turn", True, face_pieces_in_turn),
    Rule("pair-before-joined", True, pair_before_joined),
    Rule("creased-when-joined", True, creased_when_joined),
    Rule("check-the-whole", True, all_done_at_the_end),
    Rule("own-move", False, preferences.no_pairs),
    Rule("hard-things-first", False, preferences.hard_things_first),
    Rule("face-and-head", False, preferences.face_and_head),
    Rule("relief-and-marks", False, preferences.relief_before_marks),
    Rule("coat-over-the-wound", False, preferences.coat_over_what_is_wound),
    Rule("wound-from-where", False, preferences.wound_from_where),
    Rule("blend-over-coats", False, preferences.blend_over_coats),
    Rule("coat-under-parts", False, preferences.coat_under_parts),
    Rule("stood-early", False, preferences.stood_while_it_can_be_mended),
    Rule("whiskers-late", False, preferences.whiskers_on_the_whole),
    Rule("loop-late", False, preferences.loop_on_the_whole),
    Rule("inset-and-coat", False, preferences.inset_first),
    Rule("coat-after-joining", False, preferences.coat_after_joining),
    Rule("stitches-hidden", False, preferences.stitches_hidden),
    Rule("whole-before-joined", False, preferences.whole_before_joined),
    Rule("needlework-first", False, preferences.needlework_before_glue),
    Rule("joined-under-clothes", False, preferences.joined_under_clothes),
    Rule("clothes-before-head", False, preferences.clothes_before_head),
    Rule("one-limb-at-a-time", False, preferences.one_limb_at_a_time),
    Rule("clothes-last", False, preferences.clothes_last),
    Rule("props-last", False, preferences.props_last),
)


RULE_BY_ID = {rule.id: rule for rule in RULES}
