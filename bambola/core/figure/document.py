"""The file that a design is kept in: JSON with a version number, accepted as a whole or refused as a
whole."""

from __future__ import annotations

import json
import math
from collections.abc import Iterable
from typing import Annotated, Any

from pydantic import Field, StringConstraints, ValidationError, model_validator

from bambola.core.facts import Fact, RefusedError, fact
from bambola.core.figure.brief import Brief
from bambola.core.figure.fields import in_letters
from bambola.core.figure.shapes import Frozen
from bambola.core.figure.survey import Survey
from bambola.core.figure.whole import Figure

VERSION = 4
MAX_BYTES = 20_000_000
_MOST = {"{": 200_000, "[": 500_000, ",": 2_000_000}
"""More lists, objects and values than the largest figure the format allows can hold, with room to spare."""
_MOST_ITEMS = 4000
"""The longest list the format knows (what was measured)."""
_LAST_VERSION = 10_000
"""A version beyond it is no version of this format. Judged."""
SUFFIX = ".bambola.json"


class DocumentError(RefusedError):
    """Raised for a file that cannot be read; the message says which file, what is wrong, and where."""


def fault_in(file: str, fault: Fact) -> DocumentError:
    """Return an error for a fault in a file, to be raised."""
    return DocumentError(fact("document.in", file=file, fault=fault))


class Document(Frozen):
    """A figure, its brief and its survey, as they are saved."""

    bambola: int = Field(default=VERSION, description="version of this format")
    design: Annotated[str, StringConstraints(pattern=r"^([a-z0-9][a-z0-9-]{0,79})?$")] = Field(
        default="",
        description="tells this design from every other: what is made and weighed is kept under it",
    )
    figure: Figure
    brief: Brief = Brief()
    survey: Survey = Survey()

    @model_validator(mode="after")
    def _rules_name_measures(self) -> Document:
        for part_id, rules in self.brief.rules.items():
            part = self.figure.by_id.get(part_id)
            known = ("all", *part.shape.measure_names) if part else ()
            for rule in rules if part else ():
                if rule.measure not in known:
                    raise RefusedError(
                        fact(
                            "fault.rule-measure",
                            id=part_id,
                            measure=rule.measure,
                            known=", ".join(known),
                        )
                    )
        return self


def document_schema() -> dict[str, Any]:
    """Return the published JSON Schema of the document."""
    return Document.model_json_schema()


def dump_document(
    figure: Figure, brief: Brief, survey: Survey | None = None, design: str = ""
) -> str:
    """Return the document as text: UTF-8 JSON, indented, without fields left at their defaults."""
    now = brief.replaced(from_before=False)
    document = Document(design=design, figure=figure, brief=now, survey=survey or Survey())
    body = document.model_dump(mode="json", exclude_defaults=True)
    return (
        json.dumps({"bambola": VERSION, **_with_kinds(body, figure)}, ensure_ascii=False, indent=1)
        + "\n"
    )


def _with_kinds(body: dict[str, Any], figure: Figure) -> dict[str, Any]:
    """Put back the ``kind`` of shapes and places, which is a default of its class but needed to read it."""
    for part, saved in zip(figure.parts, body["figure"]["parts"], strict=True):
        saved["shape"] = {"kind": part.shape.kind, **saved["shape"]}
        for place, drawn in zip(part.places, saved.get("places", ()), strict=True):
            drawn["where"] = {"kind": place.where.kind, **drawn.get("where", {})}
    for fitting, saved in zip(figure.fittings, body["figure"].get("fittings", ()), strict=True):
        for piece, drawn in zip(fitting.pieces, saved["pieces"], strict=True):
            drawn["shape"] = {"kind": piece.shape.kind, **drawn["shape"]}
    return body


def load_document(data: str | bytes, file: str) -> Document:
    """Return the document in ``data``; ``file`` is named in errors. Raises :class:`DocumentError`."""
    found = read_json(data, file, Fact("document.figure"))
    version = found.get("bambola")
    if (
        not isinstance(version, int)
        or isinstance(version, bool)
        or not 1 <= version <= _LAST_VERSION
    ):
        raise fault_in(file, Fact("document.no-version"))
    if version > VERSION:
        raise fault_in(file, fact("document.newer", version=version, known=VERSION))
    if version == 1:
        _tell_eyes(found)
    if version <= 2:
        _place_skin(found)
    try:
        document = Document.model_validate(found)
    except ValidationError as error:
        raise fault_in(file, describe_fault(error, found)) from None
    if version < VERSION:
        return document.replaced(brief=document.brief.replaced(from_before=True))
    return document


def _tell_eyes(found: dict[str, Any]) -> None:
    """Mark eyes as such in a file of version 1, which knew them by their names."""
    figure = found.get("figure")
    if not isinstance(figure, dict):
        return
    for kind in ("parts", "marks"):
        rows = figure.get(kind)
        for row in rows if isinstance(rows, list) else ():
            if not isinstance(row, dict) or not (kind == "marks" or row.get("face")):
                continue
            if "eye" in str(row.get("id", "")).split("-"):
                row.setdefault("eye", True)


def _place_skin(found: dict[str, Any]) -> None:
    """Turn patches and fur of a file of version 2, which kept them apart, into places."""
    figure = found.get("figure")
    parts = figure.get("parts") if isinstance(figure, dict) else None
    for part in parts if isinstance(parts, list) else ():
        if not isinstance(part, dict):
            continue
        patches, fur = part.pop("insets", []), part.pop("fur", None)
        if not isinstance(patches, list):
            part["insets"] = patches  # it is refused as it stands
            continue
        places: list[Any] = []
        known: set[str] = set()
        for patch in patches:
            if isinstance(patch, dict):
                patch = {**patch, "id": _unused_name(patch.get("id"), known)}
                drawn = ("view", "outline", "mirrored")
                where = {name: patch[name] for name in drawn if name in patch}
                rest = {name: value for name, value in patch.items() if name not in drawn}
                patch = {**rest, "where": {"kind": "outline", **where}}
            places.append(patch)
        if fur is not None:
            places.append({"id": _unused_name("fur", known), "where": {"kind": "band"}, "fur": fur})
        if places:
            part["places"] = places


def _unused_name(name: Any, known: set[str]) -> Any:
    """Return a name that is not in ``known``; in version 2 two patches could have one name."""
    found, n = name, 1
    while isinstance(found, str) and found in known:
        n += 1
        found = f"{name}-{n}"
    if isinstance(found, str):
        known.add(found)
    return found


def read_json(data: str | bytes, file: str, what: Fact, times: int = 1) -> dict[str, Any]:
    """Return the JSON object in ``data``; ``what`` names it in errors, and it may hold ``times`` as much as
    one figure. Raises :class:`DocumentError`."""
    if len(data) > times * MAX_BYTES:
        raise fault_in(file, fact("document.large", most=times * MAX_BYTES // 1_000_000, what=what))
    try:
        text = data.decode("utf-8-sig") if isinstance(data, bytes) else data
        if any(text.count(mark) > times * most for mark, most in _MOST.items()):
            raise fault_in(file, fact("document.full", what=what))
        found = json.loads(text, parse_constant=_no_constant)
        if "\\ud" in text.lower():  # half a pair that stands for one letter cannot be written again
            found = json.loads(in_letters(json.dumps(found, ensure_ascii=False)))
    except UnicodeDecodeError as error:
        told = fact("document.no-text", byte=error.start, what=what)
        raise fault_in(file, told) from None
    except json.JSONDecodeError as error:
        told = fact("document.damaged", line=error.lineno, column=error.colno, told=error.msg)
        raise fault_in(file, told) from None
    except RecursionError:
        raise fault_in(file, fact("document.deep", what=what)) from None
    except DocumentError:
        raise
    except _NotFiniteError as error:
        raise fault_in(file, fact("document.not-finite", number=str(error))) from None
    except ValueError:  # what Python says of a whole number of thousands of digits
        raise fault_in(file, Fact("document.digits")) from None
    if not isinstance(found, dict):
        raise fault_in(file, fact("document.no-object", what=what))
    _check_lengths(found, file)
    return found


class _NotFiniteError(ValueError):
    """Raised for a number that is not finite."""


def _no_constant(name: str) -> float:
    raise _NotFiniteError(name)


def _check_lengths(found: dict[str, Any], file: str) -> None:
    """Refuse lists and objects longer than the format allows, before their items are validated."""
    waiting: list[tuple[Any, tuple[int | str, ...]]] = [(found, ())]
    while waiting:
        value, path = waiting.pop()
        items: Iterable[tuple[int | str, Any]]
        items = value.items() if isinstance(value, dict) else enumerate(value)
        if len(value) > _MOST_ITEMS:
            told = fact("document.long", n=len(value), most=_MOST_ITEMS)
            raise fault_in(file, _fault_with_place(path, found, told) if path else told)
        waiting += [(v, (*path, k)) for k, v in items if isinstance(v, dict | list)]


def describe_fault(error: ValidationError, source: Any) -> Fact:
    """Return the first fault of a pydantic error: field path, what is wrong, what is allowed."""
    first = error.errors(include_url=False)[0]
    told = _fault_of(dict(first), source)
    return _fault_with_place(first["loc"], source, told)


def _fault_of(error: dict[str, Any], source: Any) -> Fact:
    match error["type"]:
        case "missing":
            return Fact("document.missing")
        case "extra_forbidden":
            return Fact("document.unknown")
        case "value_error":
            raised = error["ctx"]["error"]
            if isinstance(raised, RefusedError) and isinstance(raised.told, Fact):
                return raised.told
            return fact("named", name=str(raised))
        case "too_long":
            most, found = error["ctx"]["max_length"], error["ctx"]["actual_length"]
            return fact("document.too-many", most=most, found=found or f"{most + 1}…")
        case kind if kind.startswith("union_tag"):
            kinds = error.get("ctx", {}).get("expected_tags", "").replace("'", "")
            found = _value_at(error["loc"], source)
            shape = found.get("kind") if isinstance(found, dict) else found
            return fact("document.no-shape", kinds=kinds, found=_value_text(shape))
        case _:
            told = error["msg"][:1].lower() + error["msg"][1:]
            return fact("document.found", told=told, found=_value_text(error.get("input")))


def _fault_with_place(path: Iterable[int | str], source: Any, told: Fact) -> Fact:
    """Return a fault with its place in the file."""
    where = " › ".join(_field_path(path, source))
    return fact("document.at", where=where, fault=told) if where else told


def _value_at(loc: Iterable[int | str], source: Any) -> Any:
    """Return the value at a field's path."""
    for step in loc:
        known = isinstance(source, dict) and step in source
        known = known or (isinstance(source, list) and isinstance(step, int) and step < len(source))
        source = source[step] if known else source
    return source


def _field_path(loc: Iterable[int | str], source: Any) -> Iterable[str]:
    """Yield the path of a field, with list items called by their own id where they have one."""
    at = source
    for step in loc:
        if isinstance(at, dict) and step in at:
            at = at[step]
            yield _shorten(str(step))
        elif isinstance(at, list | tuple) and isinstance(step, int) and step < len(at):
            at = at[step]
            name = at.get("id") if isinstance(at, dict) else None
            yield _shorten(name) if isinstance(name, str) else f"#{step + 1}"
        elif isinstance(at, dict) and step == at.get("kind"):
            continue
        else:
            yield _shorten(str(step))


def _shorten(text: str) -> str:
    line = " ".join(text.split())
    return line if len(line) <= 60 else f"{line[:57]}…"


def _value_text(value: Any) -> str | Fact:
    if isinstance(value, float) and not math.isfinite(value):
        return Fact("document.no-number")
    text = json.dumps(value, ensure_ascii=False, default=str)
    return _shorten(text)
