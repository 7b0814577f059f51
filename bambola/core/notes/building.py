"""Builds a figure from a maker's notes: shapes from the typed sizes, places from the names."""

from __future__ import annotations

import math
from collections.abc import Container, Iterator, Mapping, Sequence
from dataclasses import replace

from bambola.core.bench import Bench
from bambola.core.facts import Fact, fact
from bambola.core.figure import Coat, Datum, Figure, Garment, Part, Row
from bambola.core.figure.additions import with_eyes
from bambola.core.figure.graft import free_id
from bambola.core.figure.shapes import Shape
from bambola.core.frozen import frozen
from bambola.core.notes.kinds import KINDS, Form, PartKind, bearers_of, names, normalise_word
from bambola.core.notes.reading import COLOURS, MOST_EYE_MM, Entry, Fault, Notes
from bambola.core.notes.seating import PlacedPart, add_wires, place_item, placed_as
from bambola.core.notes.sizing import size_item
from bambola.core.solids import place
from bambola.core.wool.shelf import like_colour

ROOT_MM = 60.0
"""A body of which no size is told is so wide. Judged. See craft.md, 9."""
MANY_LEGS = 6
"""On so many legs a figure crawls: they stand out from its sides."""
LEVEL = frozenset({
    "foreleg", "hindleg", "forefoot", "hindfoot", "forehoof", "hindhoof", "fluke", "flipper", "hoof", "hump",
})  # fmt: skip
"""What only a figure has whose body lies level."""


@frozen
class LineRemark:
    """A remark on a line: what was assumed, or what is doubtful."""

    line: int
    what: Fact


@frozen
class ListedFigure:
    """A figure built from notes. ``height_mm`` is the height by the typed sizes, ``scale`` the factor on all
    of them to reach a wanted height."""

    figure: Figure
    height_mm: float
    scale: float
    taken: tuple[LineRemark, ...]
    doubts: tuple[LineRemark, ...]
    faults: tuple[Fault, ...]
    lines: Mapping[str, int]
    """The line that each part, or fitting, comes from, by its id."""


@frozen
class Item:
    """An entry while the figure is built."""

    entry: Entry
    kind: PartKind
    id: str
    count: int
    pair: bool


def colour_words(bench: Bench) -> frozenset[str]:
    """Return the words that stand for a wool: colours, and one-word names of wools on the shelf."""
    wools = (normalise_word(wool.name) for wool in bench.wools)
    return frozenset(COLOURS) | {name for name in wools if " " not in name}


def figure_of(
    notes: Notes,
    bench: Bench,
    plans: Sequence[Figure] = (),
    height: float | None = None,
    name: str = "",
) -> ListedFigure | None:
    """Return the figure that ``notes`` describe; None if they name no felted part. Missing sizes are taken in
    proportion from the most similar of ``plans``. A ``height`` (mm), or one in the notes, scales
    everything."""
    items, doubts = _items_to_build(notes.entries)
    if all(item.kind.form == "eyes" for item in items):
        return None
    items = _root_first(items)
    wanted = height or notes.height_mm
    made = _figure_at_scale(notes, items, bench, plans, 1.0, name)
    own = place(made.figure).height
    scale = wanted / own if wanted else 1.0
    if abs(scale - 1) > 1e-6:
        made = _figure_at_scale(notes, items, bench, plans, scale, name)
    return replace(
        made, height_mm=own, doubts=(*doubts, *made.doubts), faults=notes.faults, scale=scale
    )


def _items_to_build(entries: Sequence[Entry]) -> tuple[list[Item], list[LineRemark]]:
    """Return the items to build, each with its kind and count."""
    items: list[Item] = []
    doubts: list[LineRemark] = []
    taken: set[str] = set()
    listed = {entry.kind for entry in entries}
    for entry in entries:
        kind = meant_kind(entry, listed)
        if kind is None:
            kind, doubt = _guess_kind(entry)
            doubts += [] if entry.form else [LineRemark(entry.line, doubt)]
        if entry.form and entry.form != kind.form:
            kind = replace(kind, form=entry.form, shares=KINDS[f"other-{entry.form}"].shares)
        for count, pair, only in _shared_out(entry, kind):
            id = free_id(only or _id_from_name(entry.name) or kind.id, frozenset(taken))
            taken.add(id)
            own = replace(KINDS[only], shares=kind.shares) if only else kind
            items.append(Item(entry, own, id, count, pair))
    return items, doubts


def meant_kind(entry: Entry, listed: Container[str]) -> PartKind | None:
    """Return the kind a name means here: if several, the first with a possible bearer in the list."""
    kinds = [KINDS[kind] for kind in entry.kinds]
    fits = (kind for kind in kinds if any(bearer in listed for bearer in kind.bearers))
    return next(fits, kinds[0] if kinds else None)


def _guess_kind(entry: Entry) -> tuple[PartKind, Fact]:
    """Return the likeliest kind of an unknown name, and the remark on it."""
    if entry.likely:
        likely = names()[normalise_word(entry.likely[0])][0]
        return KINDS[likely.kind], fact("notes.likely", name=entry.name, likely=likely.one)
    form = entry.form or _form_of(entry)
    kind = KINDS[f"other-{form}"]
    return kind, fact("notes.unknown", name=entry.name, form=Fact(f"notes.form.{form}"))


def _form_of(entry: Entry) -> Form:
    """Return the form that the sizes suggest."""
    roles = {size.role for size in entry.sizes}
    if "to" in roles:
        return "cone"
    mm = sorted(size.mm for size in entry.sizes)
    if "length" in roles or (len(mm) == 2 and mm[1] >= 2 * mm[0]):
        return "limb"
    return "ball"


def _shared_out(entry: Entry, kind: PartKind) -> Iterator[tuple[int, bool, str]]:
    """Yield for an entry the count and kind of each part of the figure, and whether it is a pair; four legs
    are two pairs of two kinds."""
    n, legs = entry.count, kind.id in ("leg", "paw", "foot", "hoof", "shoe")
    if entry.side or (n == 1 and kind.is_pair):
        yield 1, True, ""
    elif n == 4 and kind.id == "leg":
        yield 1, True, "foreleg"
        yield 1, True, "hindleg"
    elif n == 4 and legs:
        yield 1, True, ""
        yield 1, True, ""
    elif n is not None and n >= 4 and n % 2 == 0 and kind.is_pair:
        yield n // 2, True, ""
    elif n == 2 and kind.site not in ("spine", "belly", "round"):
        yield 1, True, ""
    elif n is None or n <= 1:
        yield 1, kind.is_pair, ""
    else:
        yield n, False, ""


def _root_first(items: list[Item]) -> list[Item]:
    """Return the items with the root first: a body, else the largest that cannot sit on any other. Eyes are
    no felted part and bear nothing."""
    listed = {item.kind.id for item in items}
    felted = [item for item in items if item.kind.form != "eyes"]
    roots = [item for item in felted if item.kind.site == "root"]
    free = [item for item in felted if not listed & set(item.kind.bearers)]
    root = roots[0] if roots else max(free or felted, key=lambda item: _box_volume(item.entry))
    rest = (item for item in items if item is not root)
    return [replace(root, pair=False, count=1), *rest]


def _box_volume(entry: Entry) -> float:
    """Return the volume of a part's typed sizes as a box, mm³."""
    mm = [size.mm for size in entry.sizes] or [1.0]
    return math.prod(mm) ** (3 / len(mm))


def _id_from_name(name: str) -> str:
    """Return a name as an id: ``hind-leg``."""
    bare = "".join(c if c.isascii() and c.isalnum() else "-" for c in normalise_word(name))
    return "-".join(filter(None, bare.split("-")))[:40]


def _figure_at_scale(
    notes: Notes,
    items: Sequence[Item],
    bench: Bench,
    plans: Sequence[Figure],
    scale: float,
    name: str,
) -> ListedFigure:
    """Return the figure with all typed sizes multiplied by ``scale``."""
    level = _is_lying(notes, items)
    alike = _usual_proportions(plans, items)
    by_kind: dict[str, list[str]] = {}
    placed: dict[str, PlacedPart] = {}
    parts: list[Part] = []
    taken: list[LineRemark] = []
    doubts: list[LineRemark] = []
    eyes: list[tuple[Item, str, float]] = []
    for item in _parents_first(items):
        bearer = _find_bearer(item, items[0], by_kind, placed)
        wide = placed[bearer].bearer.wide if bearer else ROOT_MM * scale
        shares = alike.get(item.kind.id, item.kind.shares)
        sized = size_item(item.kind, item.entry, shares, wide, level and bearer is None, scale)
        taken += [LineRemark(item.entry.line, what) for what in sized.taken]
        doubts += [LineRemark(item.entry.line, what) for what in sized.doubts]
        if item.kind.form == "eyes":
            eyes.append((item, bearer or items[0].id, min(MOST_EYE_MM, sized.sizes[0])))
            continue
        on = placed[bearer].bearer if bearer else None
        doubled = bearer is not None and placed[bearer].is_double
        item = _on_both(item) if doubled else item
        many = (each for each in items if each.kind.id in ("leg", "tentacle"))
        crawls = any(each.count * 2 >= MANY_LEGS for each in many)
        seated = place_item(
            item.kind, item.entry, sized, on, level, crawls, item.count, item.pair, doubled
        )
        placed[item.id] = replace(seated, bearer=replace(seated.bearer, id=item.id))
        if item.count == 1:  # a row bears nothing
            by_kind.setdefault(item.kind.id, []).append(item.id)
        head = next(iter(by_kind.get("head", ())), None)
        parts.append(_make_part(item, seated, bearer, bench, parts, head))
    figure = Figure(
        id="new-figure",
        name=name or notes.name.strip().capitalize() or items[0].entry.name.capitalize(),
        datum=Datum(),
        stance=notes.stance or "standing",
        parts=tuple(parts),
    )
    for item, bearer, size in eyes:
        along, around = (0.86, 125.0) if placed[bearer].bearer.lies else (0.6, 25.0)
        figure = with_eyes(figure, bearer, along, around, size, item.entry.name.capitalize())
    figure = add_wires(figure, ((item.id, item.kind) for item in items if item.kind.form != "eyes"))
    lines = {item.id: item.entry.line for item in items}
    return ListedFigure(figure, 0.0, scale, tuple(taken), tuple(doubts), (), lines)


def part_added(figure: Figure, entry: Entry, bench: Bench, plans: Sequence[Figure]) -> Figure:
    """Return ``figure`` with the part that a line describes, on its likeliest bearer."""
    items, _ = _items_to_build([entry])
    by_kind: dict[str, list[str]] = {}
    placed: dict[str, PlacedPart] = {}
    for part in figure.parents_first:
        if part.row is None:
            by_kind.setdefault(_kind_of(part), []).append(part.id)
        placed[part.id] = placed_as(
            part, figure.by_id[part.parent or part.id].pair and part.parent is not None
        )
    root = figure.parents_first[0]
    for item in items:
        kind = meant_kind(entry, set(by_kind)) or item.kind
        kind = replace(kind, form=item.kind.form, shares=item.kind.shares) if entry.form else kind
        own = replace(item, kind=kind, id=free_id(item.id, frozenset(figure.by_id)))
        bearer = _find_bearer(own, replace(own, id=root.id), by_kind, placed) or root.id
        doubled = placed[bearer].is_double
        own = _on_both(own) if doubled else own
        shares = _usual_proportions(plans, [own]).get(kind.id, kind.shares)
        sized = size_item(kind, entry, shares, placed[bearer].bearer.wide, False, 1.0)
        if kind.form == "eyes":
            size = min(MOST_EYE_MM, sized.sizes[0])
            figure = with_eyes(figure, bearer, 0.6, 25.0, size, entry.name.capitalize())
            continue
        on = placed[bearer].bearer
        seated = place_item(kind, entry, sized, on, False, False, own.count, own.pair, doubled)
        head = next(iter(by_kind.get("head", ())), None)
        part = _make_part(own, seated, bearer, bench, figure.parts, head)
        figure = figure.replaced(parts=(*figure.parts, part))
    return figure


def _is_lying(notes: Notes, items: Sequence[Item]) -> bool:
    """Return whether the body is horizontal: it has a length, or the figure has parts only such bodies have;
    not if it sits, or the body has a height and no length."""
    roles = {size.role for size in items[0].entry.sizes}
    if notes.stance == "sitting" or ("height" in roles and "length" not in roles):
        return False
    is_long = items[0].kind.form == "ball" and "length" in roles
    return is_long or bool(LEVEL & {item.kind.id for item in items})


def _on_both(item: Item) -> Item:
    """Return an item on a pair, with half the count on each."""
    if item.pair and item.count == 1:
        return replace(item, pair=False)
    if item.count > 1 and item.count % 2 == 0 and not item.pair:
        return replace(item, count=item.count // 2)
    return item


def _parents_first(items: Sequence[Item]) -> list[Item]:
    """Return the items so that what bears others comes before them; the root stays first."""
    root, *rest = items
    order = [root]
    while rest:
        waiting = {item.kind.id for item in rest}
        ready = (item for item in rest if not waiting & ({*_bearers_of(item)} - {item.kind.id}))
        item = next(ready, rest[0])
        order.append(item)
        rest.remove(item)
    return order


def _bearers_of(item: Item) -> tuple[str, ...]:
    """Return the kinds an item may sit on, the likeliest first, beginning with the one its line names."""
    named = (item.entry.on,) if item.entry.on else ()
    return tuple(dict.fromkeys((*named, *bearers_of(item.kind))))


def _find_bearer(
    item: Item, root: Item, by_kind: Mapping[str, list[str]], placed: Mapping[str, PlacedPart]
) -> str | None:
    """Return the id of an item's bearer: the likeliest that exists; of two equal ones the one that bears no
    such item yet."""
    if item.id == root.id:
        return None
    borne = {each.parent for each in placed.values() if each.kind == item.kind.id}
    last = None
    for kind in _bearers_of(item):
        found = by_kind.get(kind, ())
        free = next((id for id in found if id not in borne), None)
        if free is not None:
            return free
        last = last or next(iter(found), None)
    return last or root.id


def _make_part(
    item: Item,
    seated: PlacedPart,
    bearer: str | None,
    bench: Bench,
    parts: Sequence[Part],
    head: str | None,
) -> Part:
    """Return the part for an item; wool and firmness it does not name are those of its ``bearer``."""
    entry = item.entry
    core = next((w.id for w in bench.wools if w.form == "core"), bench.wools[0].id)
    known = next((part for part in parts if part.id == bearer), None)
    usual = (
        known.coat.wool
        if known and known.coat
        else next((w.id for w in bench.wools if w.form != "core"), core)
    )
    wool = _wool_for_word(entry.colour, bench) or usual
    name = (entry.name[:1].upper() + entry.name[1:])[:60]
    row = None
    if item.count > 1:
        row = Row(count=item.count, along=seated.last.along, around=seated.last.around)
    garment = None
    if seated.opening and head and head != bearer:
        garment = Garment(opening=seated.opening, passes=head)
    return Part(
        id=item.id,
        name=name,
        plural=_plural_name(entry, item),
        shape=seated.shape,
        parent=bearer,
        seat=seated.seat,
        pair=item.pair,
        on=entry.side or ("left" if seated.is_one_of_two else "both"),
        row=row,
        firmness=entry.firmness or "medium",
        core=core,
        coat=Coat(wool=wool),
        face=item.kind.is_face,
        garment=garment,
    )


def _plural_name(entry: Entry, item: Item) -> str | None:
    """Return the plural name of a part; None if there is one part, or the name is unknown."""
    called = names().get(normalise_word(entry.name), ())
    if not called or not (item.pair or item.count > 1 or item.kind.is_pair):
        return None
    mine = next((each for each in called if each.kind == item.kind.id), called[0])
    return mine.many[:1].upper() + mine.many[1:]


def _wool_for_word(colour: str, bench: Bench) -> str | None:
    """Return the wool for a word: by name, else the nearest to the colour."""
    if not colour:
        return None
    named = next((w.id for w in bench.wools if normalise_word(w.name) == colour), None)
    code = COLOURS.get(colour)
    return named or (like_colour(code, bench).id if code else None)


def _usual_proportions(
    plans: Sequence[Figure], items: Sequence[Item]
) -> Mapping[str, tuple[float, ...]]:
    """Return the sizes of each kind in the most similar of ``plans``, relative to the bearer's width."""
    wanted = {item.kind.id for item in items}
    best: dict[str, Part] = {}
    score, figure = 0.0, None
    for plan in plans:
        found = {_kind_of(part): part for part in plan.parts}
        found.pop("", None)
        shared = len(wanted & set(found)) / max(1, len(wanted | set(found)))
        if shared > score:
            score, best, figure = shared, found, plan
    if figure is None:
        return {}
    forms = {item.kind.id: item.kind.form for item in items}
    return {
        kind: shares
        for kind, part in best.items()
        if part.parent is not None and kind in forms
        if (shares := _shares_of(part, figure.by_id[part.parent].shape, forms[kind]))
    }


def _kind_of(part: Part) -> str:
    """Return the kind of an existing part by its name or id; empty if unknown."""
    called = names().get(normalise_word(part.name), ()) or names().get(
        part.id.replace("-", " "), ()
    )
    return called[0].kind if called else ""


def _shares_of(part: Part, bearer: Shape, form: Form) -> tuple[float, ...]:
    """Return the sizes of a part relative to its bearer's width, in the order of a form; empty if it has
    another form."""
    sizes, wide = part.shape.measures(), bearer.extents()[1]
    asked: Mapping[Form, tuple[str, ...]] = {
        "ball": ("width", "depth", "height"), "pad": ("width", "depth", "height"),
        "cone": ("length", "base", "tip"), "limb": ("length", "thickness"),
        "leaf": ("length", "width", "thickness"), "sausage": ("length", "diameter"),
    }  # fmt: skip
    named = asked.get(form, ())
    return tuple(sizes[name] / wide for name in named) if set(named) <= set(sizes) else ()
