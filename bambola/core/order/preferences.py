"""What makers prefer in an order: kept unless a hard rule forbids it, and depending on their schools."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.order.book import ON_SKIN, Book, each_before
from bambola.core.order.keys import GROUND, LOOP, Sort, TaskKey, key_of
from bambola.core.order.work import PartJob


def hard_things_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield the pairs that put parts of clay first: they must dry before they are tried."""
    clay = [key_of("pattern", f.id) for f in book.work.fittings if f.how == "clay"]
    clay += [
        k
        for part in book.work.parts
        if part.stuff == "clay"
        for k in book.tasks_of(part.id, "pattern")
    ]
    others: tuple[Sort, ...] = ("cut", "bend", "hard", "core", "pattern")
    rest = [key for key, task in book.tasks.items() if task.sort in others and key not in clay]
    yield from each_before(clay, rest)


def joined_under_clothes(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if not part.garment or part.built_round:
            continue
        for inner in dict.fromkeys((*part.over, *((part.parent,) if part.parent else ()))):
            yield from each_before(book.tasks_of(inner, "blend"), book.seated(part.id)[:1])
        for inner in part.over:
            for child in book.children(inner):
                if not child.garment and child.id not in (part.id, part.passes):
                    yield from each_before(book.seated(child.id), book.seated(part.id)[:1])


def one_limb_at_a_time(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        second = f"{part.id}.2"
        if second in book.parts:
            own = book.tasks_of(part.id, "core", "blend", "inset", "coat")
            yield from each_before(
                own[-1:] + book.tasks_of(part.id, "coat"), book.tasks_of(second, "core")[:1]
            )


def clothes_before_head(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if book.work.school("clothes") == "head last":
        for part in book.work.parts:
            if part.garment and part.passes and not part.must_precede:
                yield from each_before(book.tasks_of(part.id, "join"), book.seated(part.passes)[:1])


def no_pairs(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield nothing: the maker's own moves are laid over the finished order."""
    yield from ()


def face_and_head(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield the pairs that place the face by school: all of it with the head in the hand; or eyes, muzzle and
    nose there and the rest once the head is on; or all of it then."""
    school = book.work.school("face")
    for part in book.work.parts:
        joined, marks = book.tasks_of(part.id, "join", "blend"), book.tasks_of(part.id, "mark")
        solid, drawn = _of_face(book, part)
        if not (part.parent and joined and (marks or solid or drawn)):
            continue
        if school == "after":
            yield from each_before(joined[-1:], [*marks, *solid, *drawn])
            continue
        yield from each_before([*marks, *solid], joined[:1])
        yield from (
            each_before(drawn, joined[:1])
            if school == "before"
            else each_before(joined[-1:], drawn)
        )


def _of_face(book: Book, head: PartJob) -> tuple[list[TaskKey], list[TaskKey]]:
    """Return the tasks of a face: those of separate things (muzzle, nose, eyes), and those drawn or laid on
    the skin (mouth, lids, cheeks), including what sits on the head."""
    solid: list[TaskKey] = []
    fitted = [f.id for f in book.work.fittings if f.part == head.id and f.kind in ON_SKIN]
    sorts: tuple[Sort, ...] = ("socket", "fit", "wait")
    for sort in sorts:
        solid += [key for id in fitted if (key := key_of(sort, id)) in book.tasks]
    drawn = book.tasks_of(head.id, "face", "furrow")
    for child in book.children(head.id):
        if child.face:
            under = _of_face(book, child)
            solid += [*book.seated(child.id), *under[0]]
            drawn += under[1]
    return solid, drawn


def relief_before_marks(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        marks = book.tasks_of(part.id, "mark")
        for child in book.children(part.id):
            if child.face or child.garment:
                continue
            seated = book.seated(child.id)
            yield from (
                each_before(seated[-1:], marks)
                if child.count == 1
                else each_before(marks, seated[:1])
            )


def coat_over_what_is_wound(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        if part.made == "on wire" and part.parent and not part.stem:
            yield from each_before(book.built(part.id), book.surface(part.parent))


def wound_from_where(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    through = book.work.school("legs") == "middle out"
    for part in book.work.parts:
        if part.made == "on wire" and part.limb and part.parent and not part.stem:
            bearer = book.tasks_of(part.parent, "core")
            if through:  # the winding begins within what is wound over it then
                yield from each_before(book.built(part.id), bearer[:1])
            else:
                yield from each_before(bearer[-1:], book.tasks_of(part.id, "core")[:1])


def blend_over_coats(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for part in book.work.parts:
        meet = book.surface(part.id) + (book.surface(part.parent) if part.parent else [])
        yield from each_before(meet, book.tasks_of(part.id, "blend"))


def coat_under_parts(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if book.work.school("colour") != "each part first":
        return
    for part in book.work.parts:
        if (part.made == "apart" or part.stem) and part.parent and not part.garment:
            yield from each_before(book.surface(part.parent), book.tasks_of(part.id, "join")[:1])


def stood_while_it_can_be_mended(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if GROUND not in book.tasks:
        return
    for part in book.work.parts:
        dressed = book.tasks_of(part.id, "join")[:1] if part.garment else []
        yield from each_before([GROUND], book.tasks_of(part.id, "fur")[:1] + dressed)
    yield from each_before([GROUND], (key_of("fit", fitting.id) for fitting in book.work.fittings))


def whiskers_on_the_whole(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for fitting in book.work.fittings:
        if fitting.kind == "whisker":
            yield from each_before(book.comes_on(fitting.part), [key_of("fit", fitting.id)])


def loop_on_the_whole(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if LOOP in book.tasks:
        made = [k for k, task in book.tasks.items() if task.kind in ("join", "blend", "coat")]
        yield from each_before(made, [LOOP])


def inset_first(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    first = book.work.school("insets") == "first"
    for part in book.work.parts:
        pair = (book.tasks_of(part.id, "inset"), book.tasks_of(part.id, "coat"))
        yield from each_before(*pair) if first else each_before(pair[1], pair[0])


def coat_after_joining(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield the pairs that lay one coat over everything of one colour, after the part and what sits on it are
    joined."""
    if book.work.school("colour") != "after joining":
        return
    for part in book.work.parts:
        surface = book.surface(part.id)
        yield from each_before(book.tasks_of(part.id, "join"), surface)
        for child in book.children(part.id):
            if child.skin == part.skin and not child.garment:
                yield from each_before(book.tasks_of(child.id, "join"), surface)


def stitches_hidden(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield the pairs that put ears after sewn eyes, whose thread comes out where an ear will sit."""
    for fitting in book.work.fittings:
        if fitting.kind == "eye" and fitting.how == "sewn":
            ears = [job for job in book.children(fitting.part) if job.flat and job.count == 2]
            for ear in ears:
                yield from each_before(
                    [key_of("fit", fitting.id)], book.tasks_of(ear.id, "join")[:1]
                )


def whole_before_joined(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield the pairs that join whatever sits on a part, except its face, before the part is joined."""
    for part in book.work.parts:
        if part.parent is None or not part.grandparent or part.garment:
            continue
        if part.made == "apart" and not part.face and book.parts[part.parent].made == "apart":
            yield from each_before(
                book.seated(part.id)[-1:], book.tasks_of(part.parent, "join")[:1]
            )


def needlework_before_glue(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    """Yield the pairs that finish what sits on a part before the part is glued to its bearer."""
    for part in book.work.parts:
        if not part.is_pegged:
            continue
        done = [key for child in book.children(part.id) for key in book.seated(child.id)[-1:]]
        done += book.tasks_of(part.id, "mark", "face", "socket", "furrow")
        fitted = [f.id for f in book.work.fittings if f.part == part.id]
        done += [
            k for id in fitted for k in (key_of("fit", id), key_of("wait", id)) if k in book.tasks
        ]
        yield from each_before(done, book.tasks_of(part.id, "join")[:1])


def clothes_last(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    if book.work.school("clothes") == "head last":
        return
    for part in book.work.parts:
        if part.garment and part.passes and not part.must_precede:
            yield from each_before(book.seated(part.passes)[-1:], book.tasks_of(part.id, "join"))


def props_last(book: Book) -> Iterator[tuple[TaskKey, TaskKey]]:
    for fitting in book.work.fittings:
        if fitting.kind in ("prop", "bell"):
            eyes = ("socket", "fit", "wait")
            rest = [k for k, t in book.tasks.items() if t.part and k.sort not in eyes]
            yield from each_before(rest, [key_of("fit", fitting.id)])
