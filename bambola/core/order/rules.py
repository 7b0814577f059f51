"""The rules of the order, as data with a little code behind each.

A rule has a name and a function that yields the pairs of task keys it orders; its sentence stands with the
words. Hard rules keep the figure possible; preferences are schools, kept where no hard rule forbids them. A
new rule is one more entry in ``RULES``.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

from bambola.core.order.book import Book
from bambola.core.order.keys import FINISH, GROUND, LOOP, SKIN, STAND, Sort, TaskKey, key_of
from bambola.core.order.tasks import is_furred_on_the_pad
from bambola.core.order.work import PartJob

Pairs = Iterable[tuple[TaskKey, TaskKey]]


@dataclass(frozen=True)
class Rule:
    """A rule of the order. Its sentence, ``rule.ID``, says to the maker what would go wrong without it."""

    id: str
    hard: bool
    pairs: Callable[[Book], Pairs]


def _in_turn(keys: list[TaskKey]) -> Pairs:
    return itertools.pairwise(keys)


def _each(before: Iterable[TaskKey], after: Iterable[TaskKey]) -> Pairs:
    after = list(after)
    return ((b, a) for b in before for a in after if b != a)


def wire_before_wool(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for wire in book.work.wires:
        if wire.pegs:
            yield from _each([key_of("cut", wire.id)], book.of(wire.pegs, "join")[:1])
        else:
            yield key_of("cut", wire.id), key_of("bend", wire.id)
            yield from _each((key_of("bend", w) for w in wire.onto), [key_of("bend", wire.id)])
    for part in book.work.parts:
        if part.made == "on wire":
            tape, core = book.of(part.id, "tape"), book.of(part.id, "core")
            yield from _each((key_of("bend", w) for w in part.wires), [*tape, *core])
            yield from _each(tape, core[:1])


def layers_inside_out(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        yield from _in_turn(book.of(part.id, "hard", "core"))
        yield from _each(book.built(part.id), book.surface(part.id))
        yield from _each(book.surface(part.id), book.of(part.id, "furrow", "fur")[:2])
        yield from _each(book.of(part.id, "furrow"), book.of(part.id, "fur")[:1])
        if not book.surface(part.id):
            yield from _each(book.built(part.id), book.of(part.id, "furrow"))


def hard_things_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """What is of clay is made before all else, and is dry when it is tried."""
    clay = [key_of("pattern", f.id) for f in book.work.fittings if f.how == "clay"]
    clay += [
        k for part in book.work.parts if part.stuff == "clay" for k in book.of(part.id, "pattern")
    ]
    others: tuple[Sort, ...] = ("cut", "bend", "hard", "core", "pattern")
    rest = [key for key, task in book.tasks.items() if task.sort in others and key not in clay]
    yield from _each(clay, rest)


def lower_place_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Of two places that overlap the one that is drawn below is laid first, and furrows before eyes."""
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
        yield from _each(book.of(part.id, "furrow"), first)


def coat_under_clothes(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if part.garment and part.parent and not part.built_round:
            yield from _each(book.surface(part.parent), book.of(part.id, "join"))


def parent_firm(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if part.parent:
            core = book.of(part.parent, "core")
            firm = core[:-1] if part.built_round else book.built(part.parent)
            yield from _each(firm, book.seated(part.id)[:1])


def apart_then_joined(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    coat_first = book.work.school("colour") == "each part first"
    for part in book.work.parts:
        if part.made in ("apart", "on wire", "cut"):
            yield from _each(book.built(part.id), book.of(part.id, "join", "blend")[:1])
            yield from _in_turn(book.of(part.id, "join", "blend"))
        if (part.made == "apart" or part.stem) and coat_first:
            yield from _each(book.surface(part.id), book.of(part.id, "join")[:1])
        if part.made in ("in place", "detail") and part.parent:
            yield from _each(book.surface(part.parent), book.seated(part.id)[:1])


def sockets_before_glue(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for fitting in book.work.fittings:
        if fitting.kind == "eye" and fitting.how != "felted":
            yield from _each(
                book.surface(fitting.part) or book.built(fitting.part),
                [key_of("socket", fitting.id)],
            )
            yield key_of("socket", fitting.id), key_of("fit", fitting.id)
            if fitting.how == "clay":
                yield key_of("pattern", fitting.id), key_of("socket", fitting.id)
        else:
            yield from _each(
                book.surface(fitting.part) or book.built(fitting.part), [key_of("fit", fitting.id)]
            )
        for child in book.children(fitting.part):
            if child.face and child.made in ("in place", "detail") and fitting.kind == "eye":
                yield from _each([key_of("fit", fitting.id)], book.seated(child.id)[:1])


def over_before_wide(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        late = (part.passes,) if part.must_precede and part.passes else part.before
        for past in late:
            # On a wire the end grows wide where it is; made apart it is wide once it is joined.
            grows = book.parts[past].made == "on wire"
            wide = book.of(past, "core") if grows else book.seated(past)
            yield from _each(book.of(part.id, "join"), wide[:1])
        if part.parent and part.built_round:
            yield from _each(book.of(part.id, "join"), book.of(part.parent, "core")[-1:])


def enclosed_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        for inner in part.over:
            last = book.seated(inner) or book.surface(inner) or book.built(inner)
            closes = book.of(part.id, "core") if part.made == "on wire" else book.seated(part.id)
            yield from _each(last[-1:] + book.surface(inner), closes[:1])


def joined_under_clothes(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if not part.garment or part.built_round:
            continue
        for inner in dict.fromkeys((*part.over, *((part.parent,) if part.parent else ()))):
            yield from _each(book.of(inner, "blend"), book.seated(part.id)[:1])
        for inner in part.over:
            for child in book.children(inner):
                if not child.garment and child.id not in (part.id, part.passes):
                    yield from _each(book.seated(child.id), book.seated(part.id)[:1])


def fur_from_the_edge(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        rows = book.of(part.id, "fur")
        yield from _in_turn(rows)
        on_the_pad = book.work.school("fur on parts") == "on the pad"
        if part.parent and on_the_pad and is_furred_on_the_pad(book.work, part):
            # The last row hides the join and waits; where the hair hangs over the join, the first is there.
            lies = {fur.place: fur.lie for fur in part.furs}
            waits = [
                row
                for keys in _by_place(rows)
                for row in (keys[-1:] if lies[keys[0].place] == "tip" else keys)
            ]
            yield from _each([r for r in rows if r not in waits], book.of(part.id, "join")[:1])
            yield from _each(book.seated(part.id)[-1:], waits)
        elif part.parent:
            yield from _each(book.seated(part.id)[-1:], rows[:1])
        for child in book.children(part.id):
            if rows and child.made not in ("bought", "cut"):
                seated = book.seated(child.id) or book.surface(child.id) or book.built(child.id)
                yield from _each(seated[-1:], rows[:1])
            elif rows:
                yield from _each(rows[-1:], book.seated(child.id)[:1])
        fitted = [f.id for f in book.work.fittings if f.part == part.id and f.kind in _ON_SKIN]
        yield from _each((key_of("fit", id) for id in fitted), rows[:1])


def _by_place(rows: list[TaskKey]) -> list[list[TaskKey]]:
    """Rows of fur by the place they cover, those of each in their order."""
    found: dict[str, list[TaskKey]] = {}
    for row in rows:
        found.setdefault(row.place, []).append(row)
    return list(found.values())


def glue_cures(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if part.fixed == "glued":
            yield from _each(book.of(part.id, "join"), book.of(part.id, "dry"))
            yield from _each(book.of(part.id, "dry"), [STAND])
        if part.is_pegged and not part.wound:
            dry = book.of(part.id, "dry")
            yield from _each(book.of(part.id, "join"), dry)
            yield from _each(dry, [*book.of(part.id, "blend"), *book.of(part.id, "fur")[:1], STAND])
        if part.wound:
            yield from _each(book.of(part.id, "core"), book.of(part.id, "dry"))
            later = book.of(part.id, "join", "blend", "coat")
            yield from _each(book.of(part.id, "dry"), [*later, GROUND])
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
            yield from _each([wait], [*later, *book.of(fitting.part, "fur")[:1], STAND])


def pair_before_joined(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        pair = book.of(part.id, "pair")
        yield from _each(book.built(part.id) if pair else [], pair)
        yield from _each(pair, book.of(part.id, "join")[:1])


def one_limb_at_a_time(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        second = f"{part.id}.2"
        if second in book.parts:
            own = book.of(part.id, "core", "blend", "inset", "coat")
            yield from _each(own[-1:] + book.of(part.id, "coat"), book.of(second, "core")[:1])


def clothes_before_head(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if book.work.school("clothes") == "head last":
        for part in book.work.parts:
            if part.garment and part.passes and not part.must_precede:
                yield from _each(book.of(part.id, "join"), book.seated(part.passes)[:1])


def marks_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        hole = book.of(part.id, "peg")
        both = [*book.built(part.id), *book.built(part.parent)] if part.parent and hole else []
        yield from _each(both, hole)
        yield from _each(hole, book.of(part.id, "join")[:1])
        marks = book.of(part.id, "mark")
        yield from _each(book.surface(part.id) or book.built(part.id) if marks else [], marks)
        if part.face:
            yield from _each(book.marks_for(part), book.seated(part.id)[:1])
        yield from _each(marks, book.of(part.id, "fur")[:1])
        yield from _each(marks, book.of(part.id, "socket"))
        felted = [f.id for f in book.work.fittings if f.part == part.id and f.how == "felted"]
        yield from _each(marks, (key_of("fit", name) for name in felted))
        face = [
            f.id for f in book.work.fittings if f.part == part.id and f.kind in ("nose", "whisker")
        ]
        yield from _each(marks, (key_of("fit", name) for name in face))


_ABOUT_EYES = ("lid", "rim", "lash", "white", "pupil", "highlight")
_IN_TURN = (("nose", "nostril", "nose-line", "mouth", "cheek"), ("white", "pupil", "highlight"))


def face_pieces_in_turn(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Pieces of a face: on finished skin where a line says, what is about the eyes when those are in, the
    mouth from the nose down; hair and garments come later."""
    for part in book.work.parts:
        kinds = {key_of("face", part.id, p.id): p.face for p in part.insets if p.face}
        if not kinds or part.made == "detail":
            continue
        skin = book.surface(part.id) or book.built(part.id)
        yield from _each([*skin, *book.of(part.id, "mark"), *book.marks_for(part)], kinds)
        eyes = [f.id for f in book.work.fittings if f.part == part.id and f.kind == "eye"]
        fitted = [
            k for id in eyes for k in (key_of("fit", id), key_of("wait", id)) if k in book.tasks
        ]
        yield from _each(fitted, (k for k, kind in kinds.items() if kind in _ABOUT_EYES))
        for turn in _IN_TURN:
            laid = [[k for k, kind in kinds.items() if kind == what] for what in turn]
            for first, second in itertools.combinations(laid, 2):
                yield from _each(first, second)
        brows = [key for key, kind in kinds.items() if kind == "brow"]
        yield from _each((k for k, kind in kinds.items() if kind != "brow"), brows)
        yield from _each(kinds, book.of(part.id, "fur")[:1])


def all_done_at_the_end(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    rest = [key for key in book.tasks if key not in (STAND, FINISH, SKIN)]
    yield from _each(rest, [FINISH])
    yield FINISH, SKIN
    yield from _each([FINISH, SKIN], [STAND])


def creased_when_joined(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """A fold is felted when the limb and its skin are done, and before fur and clothes hide it."""
    for part in book.work.parts:
        crease = book.of(part.id, "crease")
        done = book.of(part.id, "core", "coat", "inset", "join", "blend", "dry")
        yield from _each(done if crease else [], crease)
        yield from _each(crease, book.of(part.id, "fur")[:1])
        if crease and GROUND in book.tasks:
            yield crease[0], GROUND


def no_pairs(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """The maker's own moves are laid over the finished order, not found by a rule."""
    yield from ()


def face_and_head(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """What sits on the front of a head: all of it in the hand; or eyes, muzzle and nose there and the rest
    when it is on; or all of it then."""
    school = book.work.school("face")
    for part in book.work.parts:
        joined, marks = book.of(part.id, "join", "blend"), book.of(part.id, "mark")
        solid, drawn = _of_face(book, part)
        if not (part.parent and joined and (marks or solid or drawn)):
            continue
        if school == "after":
            yield from _each(joined[-1:], [*marks, *solid, *drawn])
            continue
        yield from _each([*marks, *solid], joined[:1])
        yield from _each(drawn, joined[:1]) if school == "before" else _each(joined[-1:], drawn)


def _of_face(book: Book, head: PartJob) -> tuple[list[TaskKey], list[TaskKey]]:
    """The tasks of a face that are things of their own (muzzle, nose, eyes), and those drawn or laid on the
    skin (mouth, lids, cheeks), also on what sits on the head."""
    solid: list[TaskKey] = []
    fitted = [f.id for f in book.work.fittings if f.part == head.id and f.kind in _ON_SKIN]
    sorts: tuple[Sort, ...] = ("socket", "fit", "wait")
    for sort in sorts:
        solid += [key for id in fitted if (key := key_of(sort, id)) in book.tasks]
    drawn = book.of(head.id, "face", "furrow")
    for child in book.children(head.id):
        if child.face:
            under = _of_face(book, child)
            solid += [*book.seated(child.id), *under[0]]
            drawn += under[1]
    return solid, drawn


_ON_SKIN = ("eye", "nose")


def relief_before_marks(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        marks = book.of(part.id, "mark")
        for child in book.children(part.id):
            if child.face or child.garment:
                continue
            seated = book.seated(child.id)
            yield from _each(seated[-1:], marks) if child.count == 1 else _each(marks, seated[:1])


def coat_over_what_is_wound(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if part.made == "on wire" and part.parent and not part.stem:
            yield from _each(book.built(part.id), book.surface(part.parent))


def wound_from_where(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    through = book.work.school("legs") == "middle out"
    for part in book.work.parts:
        if part.made == "on wire" and part.limb and part.parent and not part.stem:
            bearer = book.of(part.parent, "core")
            if through:  # the winding begins within what is wound over it then
                yield from _each(book.built(part.id), bearer[:1])
            else:
                yield from _each(bearer[-1:], book.of(part.id, "core")[:1])


def blend_over_coats(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        meet = book.surface(part.id) + (book.surface(part.parent) if part.parent else [])
        yield from _each(meet, book.of(part.id, "blend"))


def coat_under_parts(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if book.work.school("colour") != "each part first":
        return
    for part in book.work.parts:
        if (part.made == "apart" or part.stem) and part.parent and not part.garment:
            yield from _each(book.surface(part.parent), book.of(part.id, "join")[:1])


def stood_on_its_feet(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if GROUND in book.tasks:
        feet = [key for foot in book.work.feet for key in book.comes_on(foot)]
        yield from _each(feet, [GROUND])


def stood_while_it_can_be_mended(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if GROUND not in book.tasks:
        return
    for part in book.work.parts:
        dressed = book.of(part.id, "join")[:1] if part.garment else []
        yield from _each([GROUND], book.of(part.id, "fur")[:1] + dressed)
    yield from _each([GROUND], (key_of("fit", fitting.id) for fitting in book.work.fittings))


def whiskers_on_the_whole(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for fitting in book.work.fittings:
        if fitting.kind == "whisker":
            yield from _each(book.comes_on(fitting.part), [key_of("fit", fitting.id)])


def loop_on_the_whole(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if LOOP in book.tasks:
        made = [k for k, task in book.tasks.items() if task.kind in ("join", "blend", "coat")]
        yield from _each(made, [LOOP])


def inset_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    first = book.work.school("insets") == "first"
    for part in book.work.parts:
        pair = (book.of(part.id, "inset"), book.of(part.id, "coat"))
        yield from _each(*pair) if first else _each(pair[1], pair[0])


def coat_after_joining(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """One coat over all that is of one colour: when the part is joined, and what of its colour sits on it."""
    if book.work.school("colour") != "after joining":
        return
    for part in book.work.parts:
        surface = book.surface(part.id)
        yield from _each(book.of(part.id, "join"), surface)
        for child in book.children(part.id):
            if child.skin == part.skin and not child.garment:
                yield from _each(book.of(child.id, "join"), surface)


def stitches_hidden(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """The thread of sewn eyes comes out where an ear will sit: the ears go on after them."""
    for fitting in book.work.fittings:
        if fitting.kind == "eye" and fitting.how == "sewn":
            ears = [job for job in book.children(fitting.part) if job.flat and job.count == 2]
            for ear in ears:
                yield from _each([key_of("fit", fitting.id)], book.of(ear.id, "join")[:1])


def whole_before_joined(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """What sits on a part and is no face is joined to it before the part itself is joined."""
    for part in book.work.parts:
        if part.parent is None or not part.grandparent:
            continue
        if part.made == "apart" and not part.face and book.parts[part.parent].made == "apart":
            yield from _each(book.seated(part.id)[-1:], book.of(part.parent, "join")[:1])


def needlework_before_glue(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """What sits on a part is done before the part is glued to what bears it."""
    for part in book.work.parts:
        if not part.is_pegged:
            continue
        done = [key for child in book.children(part.id) for key in book.seated(child.id)[-1:]]
        done += book.of(part.id, "mark", "face", "socket", "furrow")
        fitted = [f.id for f in book.work.fittings if f.part == part.id]
        done += [
            k for id in fitted for k in (key_of("fit", id), key_of("wait", id)) if k in book.tasks
        ]
        yield from _each(done, book.of(part.id, "join")[:1])


def clothes_last(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if book.work.school("clothes") == "head last":
        return
    for part in book.work.parts:
        if part.garment and part.passes and not part.must_precede:
            yield from _each(book.seated(part.passes)[-1:], book.of(part.id, "join"))


def props_last(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for fitting in book.work.fittings:
        if fitting.kind in ("prop", "bell"):
            eyes = ("socket", "fit", "wait")
            rest = [k for k, t in book.tasks.items() if t.part and k.sort not in eyes]
            yield from _each(rest, [key_of("fit", fitting.id)])


RULES: tuple[Rule, ...] = (
    Rule("wire-before-wool", True, wire_before_wool),
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
    Rule("own-move", False, no_pairs),
    Rule("hard-things-first", False, hard_things_first),
    Rule("face-and-head", False, face_and_head),
    Rule("relief-and-marks", False, relief_before_marks),
    Rule("coat-over-the-wound", False, coat_over_what_is_wound),
    Rule("wound-from-where", False, wound_from_where),
    Rule("blend-over-coats", False, blend_over_coats),
    Rule("coat-under-parts", False, coat_under_parts),
    Rule("stood-early", False, stood_while_it_can_be_mended),
    Rule("whiskers-late", False, whiskers_on_the_whole),
    Rule("loop-late", False, loop_on_the_whole),
    Rule("inset-and-coat", False, inset_first),
    Rule("coat-after-joining", False, coat_after_joining),
    Rule("stitches-hidden", False, stitches_hidden),
    Rule("whole-before-joined", False, whole_before_joined),
    Rule("needlework-first", False, needlework_before_glue),
    Rule("joined-under-clothes", False, joined_under_clothes),
    Rule("clothes-before-head", False, clothes_before_head),
    Rule("one-limb-at-a-time", False, one_limb_at_a_time),
    Rule("clothes-last", False, clothes_last),
    Rule("props-last", False, props_last),
)
RULE_BY_ID = {rule.id: rule for rule in RULES}
