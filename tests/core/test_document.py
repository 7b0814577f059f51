from __future__ import annotations

import copy
import json
import tracemalloc
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from hypothesis import given

import bambola.core
from bambola.cli.schema import published_schema
from bambola.core.bench import Bench, check_wools
from bambola.core.bench.model import bench_schema
from bambola.core.figure import (
    Brief,
    Document,
    DocumentError,
    Figure,
    document_schema,
    dump_document,
    load_document,
)
from bambola.core.figure.graft import MOST_PARTS
from bambola.core.words import error_words
from bambola.demo import BADGER, HERON, TOAD, load_demo
from tests.figures import figures
from tests.said import refused


@pytest.fixture
def raw(badger: Document) -> dict[str, Any]:
    found: dict[str, Any] = json.loads(dump_document(badger.figure, badger.brief))
    return found


@given(figures())
def test_saved_figure_reopens_as_it_was(figure: Figure) -> None:
    badger = Document(figure=figure)
    text = dump_document(figure, badger.brief)
    assert load_document(text, "f") == badger
    assert dump_document(*(lambda d: (d.figure, d.brief))(load_document(text, "f"))) == text


@pytest.mark.parametrize("demo", [BADGER, HERON, TOAD], ids=lambda path: path.stem)
def test_version_one_design_is_migrated(demo: Path) -> None:
    """Eyes went by their names, patches lay beside fur, and fur on all of a part's bare skin."""
    now = load_demo(demo)
    first = json.loads(dump_document(now.figure, now.brief))
    first["bambola"] = 1
    for row in [*first["figure"]["parts"], *first["figure"]["marks"]]:
        row.pop("eye", None)
        for place in row.pop("places", []):
            if "fur" in place:
                row["fur"] = place["fur"]
            else:
                row.setdefault("insets", []).append({**place, **place.pop("where")})
                row["insets"][-1].pop("kind")
    opened = load_document(json.dumps(first), "first.json")
    assert opened.brief.from_before  # what is usual was otherwise then
    assert (opened.figure, opened.brief.replaced(from_before=False)) == (now.figure, now.brief)
    assert json.loads(dump_document(opened.figure, opened.brief))["bambola"] > 1


def test_published_schemas_are_current() -> None:
    """Every field, limit and word of help of what is read and written: `make schemas` writes them anew."""
    core = Path(bambola.core.__file__).parent
    for name, room in (
        ("figure", "figure"),
        ("plan", "export"),
        ("heights", "export"),
        ("bench", "bench"),
        ("strokes", "strokes"),
    ):
        shipped = core / room / f"{name}.schema.json"
        assert json.loads(shipped.read_text(encoding="utf-8")) == published_schema(name)
        assert published_schema(name)["$id"].startswith(f"urn:bambola:schema:{name}:")


def test_default_bench_meets_its_published_schema(bench: Bench) -> None:
    jsonschema.validate(json.loads(bench.model_dump_json()), bench_schema())


def test_document_meets_its_published_schema(raw: dict[str, Any]) -> None:
    jsonschema.validate(raw, document_schema())


def _set(raw: dict[str, Any], path: str, value: Any) -> dict[str, Any]:
    changed = copy.deepcopy(raw)
    at: Any = changed
    *steps, last = path.split("/")
    for step in steps:
        at = next(x for x in at if x.get("id") == step) if isinstance(at, list) else at[step]
    at[last] = value
    return changed


@pytest.mark.parametrize(
    ("path", "value", "says"),
    [
        ("bambola", 99, ("version 99", "newer")),
        ("bambola", "x", ("bambola", "version number")),
        (
            "figure/parts/head/shape/width",
            0,
            ("parts › head › shape › width", "greater than or equal to 0.001", "found 0"),
        ),
        ("figure/parts/head/shape/width", -3.5, ("head › shape › width", "-3.5")),
        ("figure/parts/head/shape/width", 1e9, ("head › shape › width", "1000000")),
        ("figure/parts/head/shape/kind", "cube", ("head › shape", "cube")),
        ("figure/parts/head/parent", "nobody", ("head", "there is no part “nobody”")),
        ("figure/parts/body/parent", "nose", ("goes round in a circle", "body › nose › snout")),
        ("figure/parts/head/id", "body", ("“body” is used 2 times",)),
        ("figure/parts/head/firmness", "squashy", ("firmness", "squashy")),
        ("figure/parts/head/colour", "red", ("head › colour", "no field of this name")),
        ("figure/nodes/chest/part", "wing", ("nodes, chest, part", "wing")),
        (
            "figure/wires/spine/route",
            ["pelvis", "hip-l", "chest"],
            ("wires, spine, route", "no bone joins"),
        ),
        ("figure/datum", {"part": "halo"}, ("datum, part", "halo")),
        ("brief/height", -1, ("brief › height", "-1")),
    ],
)
def test_fault_is_one_sentence_naming_file_and_field(
    raw: dict[str, Any], path: str, value: Any, says: tuple[str, ...]
) -> None:
    with pytest.raises(DocumentError) as error:
        load_document(json.dumps(_set(raw, path, value)), "owl.json")
    text = error_words(error.value)
    assert text.startswith("owl.json: ") and text.endswith(".") and "\n" not in text
    assert all(word in text for word in says), text


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "damaged"),
        (b'{"bambola": 1, ', "line 1"),
        (b"[1]", "not one"),
        (b"\xff\xfe\x00", "UTF-8"),
        (b'{"bambola": 1, "x": NaN}', "NaN"),
        (b"[" * 100_000, "nested"),
        (b" " * 20_000_001, "20 MB"),
    ],
)
def test_what_is_no_document_is_refused_in_words(data: bytes, says: str) -> None:
    with refused(DocumentError, says):
        load_document(data, "owl.json")


def test_unknown_wool_is_named_with_its_part(badger: Document) -> None:
    with refused(DocumentError, r"parts › body › core: the bench has no wool “core-batt”"):
        check_wools(badger.figure, Bench(wools=()), "owl.json")


def test_one_part_too_many_is_told_with_its_limit(badger: Document) -> None:
    body = badger.figure.parts[0].model_dump(mode="json")
    parts = [body, *({**body, "id": f"p{n}", "parent": body["id"]} for n in range(MOST_PARTS))]
    data = {"bambola": 1, "figure": {"id": "a", "name": "A", "datum": {}, "parts": parts}}
    with refused(DocumentError, "figure › parts: at most 400 are allowed, but found 401"):
        load_document(json.dumps(data), "many.json")


@pytest.mark.parametrize(
    ("parts", "says"),
    [
        ("{}," * 300_000 + "{}", "more in the file than"),
        ("{}," * 5000 + "{}", "figure › parts: it holds 5001 things"),
        ('{"insets":[' + "{}," * 3000 + "{}]},{}", "#1 › id: this field is missing"),
    ],
)
def test_file_with_too_many_items_is_refused_early(parts: str, says: str) -> None:
    text = '{"bambola":1,"figure":{"id":"a","name":"A","datum":{},"parts":[' + parts + "]}}"
    tracemalloc.start()
    try:
        with refused(DocumentError, says):
            load_document(text, "many.json")
        assert tracemalloc.get_traced_memory()[1] < 30_000_000
    finally:
        tracemalloc.stop()


def test_number_of_thousands_of_digits_is_refused() -> None:
    with refused(DocumentError, "thousands of digits"):
        load_document('{"bambola":1,"figure":' + "9" * 5000 + "}", "digits.json")


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (lambda f: f["wires"][0].update(stub="moon"), "stub: there is no part “moon”"),
        (lambda f: f["bones"][0].update(part="moon"), "part: there is no part “moon”"),
        (lambda f: f["fittings"][0].update(on="left", part="ear", pair=False), ""),
        (lambda f: f["parts"][1]["shape"].update(joints=[]), "at least 2 items"),
        (lambda f: f["parts"][0]["shape"].update(width=1e-12), "0.001"),
        (
            lambda f: f["parts"].append(
                {"id": "x", "name": "X", "parent": "lost", "on": "right", "core": "cream",
                 "shape": {"kind": "sausage", "length": 9, "diameter": 3}}
            ),
            "there is no “lost” on the right",
        ),
    ],
)  # fmt: skip
def test_what_names_nothing_or_cannot_be_is_refused(
    raw: dict[str, Any], spoil: Any, says: str
) -> None:
    raw["figure"]["parts"].append(
        {"id": "lost", "name": "Lost", "parent": "ear", "on": "left", "core": "cream",
         "shape": {"kind": "sausage", "length": 9, "diameter": 3}}
    )  # fmt: skip
    load_document(json.dumps(raw), "sound.json")
    spoil(raw["figure"])
    if not says:
        load_document(json.dumps(raw), "sound.json")
        return
    with refused(DocumentError, says):
        load_document(json.dumps(raw), "spoilt.json")


def test_rule_for_measure_that_part_has_not_is_refused(raw: dict[str, Any]) -> None:
    raw["brief"]["rules"] = {"leg": [{"rule": "hold", "measure": "width"}]}
    with refused(DocumentError, "leg: it has no measure “width”"):
        load_document(json.dumps(raw), "rules.json")


def test_names_stand_on_one_line(raw: dict[str, Any]) -> None:
    raw["figure"]["parts"][0]["name"] = "Body\nof\u0000 evidence "
    assert load_document(json.dumps(raw), "a.json").figure.parts[0].name == "Body of evidence"
    raw["figure"]["parts"][0]["name"] = "\n\t"
    with refused(DocumentError, "name"):
        load_document(json.dumps(raw), "a.json")


def test_half_letter_in_note_is_taken_and_can_be_saved(raw: dict[str, Any]) -> None:
    raw["figure"]["note"] = "caf\ud800"
    raw["brief"]["answers"] = {"no such": "\udc00"}
    document = load_document(json.dumps(raw), "a.json")
    assert document.figure.note == "caf?"
    assert dump_document(document.figure, document.brief).encode()


def test_eyes_of_first_version_are_those_that_were_called_so(raw: dict[str, Any]) -> None:
    """A part of the face or a mark whose name has the word; in later versions they say it themselves."""
    part = {**raw["figure"]["parts"][1], "parent": raw["figure"]["parts"][0]["id"], "pair": False}
    names = {"left-eye": True, "eye": True, "eyebrow": False, "keyed": False}
    parts = [raw["figure"]["parts"][0], *({**part, "id": id, "face": True} for id in names)]
    parts.append({**part, "id": "eye-of-glass", "face": False})
    marks = [{"id": f"{id}-line", "name": "X", "part": id, "along": 0.5} for id in names]
    figure = {"id": "a", "name": "A", "datum": {}, "parts": parts, "marks": marks}
    first, now = (
        load_document(json.dumps({"bambola": n, "figure": figure}), "a.json").figure for n in (1, 2)
    )
    assert {p.id for p in first.parts if p.eye} == {id for id, is_eye in names.items() if is_eye}
    assert {m.part for m in first.marks if m.eye} == {id for id, is_eye in names.items() if is_eye}
    assert not any(part.eye for part in now.parts) and not any(mark.eye for mark in now.marks)
    again = load_document(dump_document(first, Brief()), "a.json").figure
    assert again == first


def test_version_of_thousands_of_digits_is_none(raw: dict[str, Any]) -> None:
    text = json.dumps({**raw, "bambola": 0}).replace('"bambola": 0', '"bambola": ' + "9" * 4000, 1)
    with pytest.raises(DocumentError) as refused:
        load_document(text, "a.json")
    assert len(error_words(refused.value)) < 200
