"""Writes a figure as a list of its parts, and applies an edited list."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from bambola.core.bench import Bench
from bambola.core.facts import RefusedError, fact
from bambola.core.figure import Figure, Part
from bambola.core.figure.graft import check_figure, descendants, with_part, without_part
from bambola.core.notes.building import colour_words, part_added
from bambola.core.notes.kinds import normalise_word
from bambola.core.notes.reading import Entry, Role, read_notes
from bambola.core.quantities import MM_PER, LengthUnit
from bambola.core.solids.edit import stretch_part

_WORDS: Mapping[str, str] = {
    "length": "long", "width": "wide", "depth": "deep", "height": "high", "thickness": "thick",
    "diameter": "thick",
}  # fmt: skip
"""The word by which a list tells a measure; a cone's ends are told as ``20 to 8``."""
_ROLES: Mapping[Role, tuple[str, ...]] = {
    "length": ("length", "height"), "height": ("height", "length"), "width": ("width", "diameter"),
    "depth": ("depth", "thickness"), "thickness": ("thickness", "diameter", "base", "depth"),
    "to": ("tip",),
}  # fmt: skip
"""The measures that a word of a list may mean, the likeliest first."""


def list_of(figure: Figure, unit: LengthUnit = "mm") -> str:
    """Return the parts of a figure as a list that can be read back, sizes in ``unit``."""
    lines = [f"{figure.name}"]
    lines += [_part_line(figure, part, unit) for part in figure.parents_first]
    return "\n".join(lines) + "\n"


def _part_line(figure: Figure, part: Part, unit: LengthUnit) -> str:
    count = (part.row.count if part.row else 1) * (2 if part.pair and part.on == "both" else 1)
    many = count > 1 or (part.pair and part.on == "both")
    name = (part.plural if many and part.plural else part.name).lower()
    told = f"{count} {name}" if count > 1 else name
    if part.on != "both":
        told = f"{part.on} {name}"
    on = f", on {figure.by_id[part.parent].name.lower()}" if part.parent else ""
    return f"{told}: {_sizes_text(part, unit)}{on}"


def _sizes_text(part: Part, unit: LengthUnit) -> str:
    """Return the sizes of a part with a word for each."""
    shown = {name: f"{mm / MM_PER[unit]:.4g}" for name, mm in part.shape.measures().items()}
    if part.shape.kind == "cone":
        return f"{shown['length']} long {shown['base']} to {shown['tip']}"
    if part.shape.kind in ("ball", "pad"):
        return f"{shown['width']} x {shown['depth']} x {shown['height']}"
    return " ".join(f"{number} {_WORDS[name]}" for name, number in shown.items())


def with_list(
    figure: Figure, text: str, bench: Bench, plans: Sequence[Figure], unit: LengthUnit = "mm"
) -> Figure:
    """Return ``figure`` with the changes of its edited list: sizes, new parts, and deleted lines; everything
    a list does not mention stays. Raises :class:`RefusedError` with the line that cannot be applied."""
    notes = read_notes(text, unit, colour_words(bench))
    if notes.faults:
        first = notes.faults[0]
        raise RefusedError(fact("notes.at", line=first.line, why=first.why))
    was = read_notes(list_of(figure, unit), unit, colour_words(bench))
    known = dict(zip((part.id for part in figure.parents_first), was.entries, strict=True))
    matched = dict(_match_entries(figure, notes.entries))
    gone = [part.id for part in figure.parts if part.id not in matched.values()]
    for id in gone:
        if id in figure.by_id:
            figure = _remove_part(figure, id, set(matched.values()))
    for n, entry in enumerate(notes.entries):
        id = matched.get(n, "")
        if not id:
            figure = part_added(figure, entry, bench, plans)
        elif entry.sizes != known[id].sizes:
            figure = stretch_part(figure, id, _changed_measures(figure.by_id[id], entry, known[id]))
        if id and entry.count and (row := figure.by_id[id].row):
            each = 2 if figure.by_id[id].pair else 1
            new = row.replaced(count=max(2, entry.count // each))
            figure = with_part(figure, figure.by_id[id].replaced(row=new))
    name = notes.name if notes.name and notes.name != was.name else figure.name
    return check_figure(figure.replaced(name=name))


def _match_entries(figure: Figure, entries: Sequence[Entry]) -> Iterator[tuple[int, str]]:
    """Yield the index of each entry that is an existing part, with the part's id: by name, in order."""
    free = list(figure.parents_first)
    for n, entry in enumerate(entries):
        typed = normalise_word(entry.text)
        names = {normalise_word(entry.name)}
        found = next(
            (
                part
                for part in free
                if normalise_word(part.name) in names
                or typed.startswith(normalise_word(part.name))
                or (part.plural and normalise_word(part.plural) in typed)
                or normalise_word(part.name) in typed.split(":")[0]
            ),
            None,
        )
        if found is not None:
            free.remove(found)
            yield n, found.id


def _remove_part(figure: Figure, id: str, listed: set[str]) -> Figure:
    """Return the figure without a part. Raises :class:`RefusedError` if other listed parts sit on it."""
    borne = descendants(figure, id) - {id}
    if kept := borne & listed:
        on = figure.by_id[next(iter(sorted(kept)))].name
        raise RefusedError(fact("notes.bears", part=figure.by_id[id].name, on=on))
    return without_part(figure, id)


def _changed_measures(part: Part, entry: Entry, was: Entry) -> dict[str, float]:
    """Return the measures of a part that its line changes."""
    own = part.shape.measures()
    found: dict[str, float] = {}
    loose = [name for name in own if name not in ("tip",)]
    if len(entry.sizes) == 1 and not entry.sizes[0].role and part.shape.kind in ("ball", "pad"):
        return dict.fromkeys(own, entry.sizes[0].mm)
    for size in entry.sizes:
        names = [name for name in _ROLES.get(size.role, ()) if name in own and name not in found]
        name = next(iter(names), None) or next((n for n in loose if n not in found), None)
        if name is not None:
            found[name] = size.mm
    old = {size.mm for size in was.sizes}
    return {
        name: mm
        for name, mm in found.items()
        if mm not in old or abs(own[name] - mm) > 0.01 * own[name]
    }
