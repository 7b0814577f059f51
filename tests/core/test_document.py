from __future__ import annotations

import copy
import json
from typing import Any

import jsonschema
import pytest
from hypothesis import given

from bambola.core.figure import (
    Bench,
    Document,
    DocumentError,
    Figure,
    check_wools,
    document_schema,
    dump_document,
    load_document,
)
from tests.figures import figures


@pytest.fixture
def raw(badger: Document) -> dict[str, Any]:
    found: dict[str, Any] = json.loads(dump_document(badger.figure, badger.brief))
    return found


@given(figures())
def test_a_saved_figure_reopens_as_it_was(figure: Figure) -> None:
    badger = Document(figure=figure)
    text = dump_document(figure, badger.brief)
    assert load_document(text, "f") == badger
    assert dump_document(*(lambda d: (d.figure, d.brief))(load_document(text, "f"))) == text


def test_the_document_meets_its_published_schema(raw: dict[str, Any]) -> None:
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
            ("parts › head › shape › width", "greater than 0", "found 0"),
        ),
        ("figure/parts/head/shape/width", -3.5, ("head › shape › width", "-3.5")),
        ("figure/parts/head/shape/width", 1e9, ("head › shape › width", "1000000")),
        ("figure/parts/head/shape/kind", "cube", ("head › shape", "cube")),
        ("figure/parts/head/parent", "nobody", ("head", "there is no part “nobody”")),
        ("figure/parts/body/parent", "nose", ("goes round in a circle", "body on nose on snout")),
        ("figure/parts/head/id", "body", ("“body” is used 2 times",)),
        ("figure/parts/head/firmness", "squashy", ("firmness", "squashy")),
        ("figure/parts/head/colour", "red", ("head › colour", "no field of that name")),
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
def test_a_fault_is_one_sentence_naming_file_and_field(
    raw: dict[str, Any], path: str, value: Any, says: tuple[str, ...]
) -> None:
    with pytest.raises(DocumentError) as error:
        load_document(json.dumps(_set(raw, path, value)), "owl.json")
    text = str(error.value)
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
    with pytest.raises(DocumentError, match=says):
        load_document(data, "owl.json")


def test_an_unknown_wool_is_named_with_its_part(badger: Document) -> None:
    with pytest.raises(
        DocumentError, match=r"parts › body › core: the bench has no wool “core-batt”"
    ):
        check_wools(badger.figure, Bench(wools=()), "owl.json")
