"""Reads a bench from its file, and checks a figure against its wools."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from bambola.core.bench.model import Bench
from bambola.core.facts import Fact, fact
from bambola.core.figure.document import describe_fault, fault_in, read_json
from bambola.core.figure.whole import Figure


def bench_schema() -> dict[str, Any]:
    """Return the published JSON Schema of a bench's file."""
    return Bench.model_json_schema()


def load_bench(data: str | bytes, file: str) -> Bench:
    """Return the bench in ``data``. Raises :class:`DocumentError`."""
    found = read_json(data, file, Fact("document.bench"))
    try:
        return Bench.model_validate(found)
    except ValidationError as error:
        raise fault_in(file, describe_fault(error, found)) from None


def check_wools(figure: Figure, bench: Bench, file: str) -> None:
    """Raise :class:`DocumentError` for the first wool of ``figure`` that the bench does not have."""
    known = bench.wool_by_id
    for part in figure.parts:
        # What is not wool and lacks on the bench is told as what is common of its kind.
        named = [("core", part.core)] if part.stuff is None else []
        if part.coat:
            named.append(("coat", part.coat.wool))
        named += [(f"places › {place.id}", place.wool) for place in part.places if place.wool]
        named += [(f"places › {p.id} › fur", p.fur.wool) for p in part.places if p.fur]
        if part.seam_wool:
            named.append(("seam_wool", part.seam_wool))
        for field, wool in named:
            if wool not in known:
                raise fault_in(
                    file,
                    fact(
                        "fault.no-wool",
                        id=part.id,
                        field=field,
                        wool=wool,
                        known=", ".join(sorted(known)),
                    ),
                )


def with_wools_of(figure: Figure, bench: Bench) -> Figure:
    """Return ``figure`` in wools the bench has: a missing one is replaced by the bench's first."""
    known, first = bench.wool_by_id, bench.wools[0].id

    def has(wool: str) -> str:
        return wool if wool in known else first

    parts = []
    for part in figure.parts:
        other = bench.material_of(part)
        changes: dict[str, object] = {"core": other.id if other else has(part.core)}
        if part.coat:
            changes["coat"] = part.coat.replaced(wool=has(part.coat.wool))
        if part.seam_wool:
            changes["seam_wool"] = has(part.seam_wool)
        changes["places"] = tuple(place.dyed(has) for place in part.places)
        parts.append(part.replaced(**changes))
    return figure.replaced(parts=tuple(parts))
