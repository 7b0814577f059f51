"""Sizes from a spreadsheet: whatever parts its columns and however its numbers are written."""

from __future__ import annotations

import pytest

from bambola.core.facts import RefusedError
from bambola.core.figure import Survey
from bambola.core.plan.reading.sizes_table import read_columns, read_sizes, with_sizes
from bambola.demo import BADGER, load_demo
from tests.said import refused

WRITTEN = (
    "part,length,width\nTail,34,17.5\nHead,,60\n",
    "\ufeffPart;Length (mm);Width (mm)\r\nTail;34,0;17,5\r\nHead;;60\r\n",
    "Part;Length (mm);Width (mm)\rTail;34,0;17,5\rHead;;60\r",
    "my badger\n\nname\tlength cm\twidth cm\tnote\nTail\t3.4\t1.75\tsoft\nHead\t\t6\t\n",
    'part,"how long, in mm",wide\n"Tail",34 mm,1.75 cm\nHead,,6 cm\nsum,,\n',
)


@pytest.mark.parametrize("text", WRITTEN)
def test_columns_and_numbers_are_understood_as_they_are_written(text: str) -> None:
    tail, head = read_sizes(text, "mm")
    assert tail.name == "Tail" and sorted(tail.sizes.values()) == pytest.approx([17.5, 34.0])
    assert head.name == "Head" and list(head.sizes.values()) == pytest.approx([60.0])


def test_table_sizes_go_to_named_parts() -> None:
    figure = load_demo(BADGER).figure
    lines = read_sizes("part,length,thickness,base\nTAIL,40,20,\nhorn,9,9,\nhead,,,12\n", "mm")
    found = with_sizes(figure, Survey(), lines)
    measures = found.figure.by_id["tail"].shape.measures()
    assert measures["length"] == pytest.approx(40.0) and measures["thickness"] == pytest.approx(
        20.0
    )
    assert (found.unknown == ("horn",) and found.unfit == ("head, base")) or found.unfit == (
        "head, base",
    )
    assert found.taken == 2 and found.survey.how_taken("tail", "length") == "straight"
    others = [p for p in figure.parts if p.id != "tail"]
    assert [found.figure.by_id[p.id].shape for p in others] == [p.shape for p in others]
    # In the maker's own language, and in inches.
    (line,) = read_sizes("Teil;Länge\nTail;1 1/2\n", "in", {"teil": "part", "länge": "length"})
    assert line.sizes == {"length": pytest.approx(38.1)}


def test_columns_are_what_their_maker_says_where_no_head_tells() -> None:
    text = "Stück;Maß;grün\nTail;3,4 cm;x\nHead;60;y\n"
    tail, head = read_columns(text, "mm", ["part", "length", ""])
    assert tail.sizes == {"length": pytest.approx(34.0)} and head.sizes == {"length": 60.0}
    with refused(RefusedError, "No size stands under"):
        read_columns(text, "mm", ["part", "", "width"])


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "No column"), ("a,b\n1,2\n", "No column"), ("part,colour\nTail,red\n", "No column"),
        ("part,length\n", "No size stands under"), ("part,length\nTail,long\n", "Row 2, Tail: “long”"),
        ("part,length\nTail,-4\n", "not a size"), ("part,length\nTail,1e99\n", "not a size"),
    ],
)  # fmt: skip
def test_what_is_no_table_of_sizes_is_told(text: str, says: str) -> None:
    with refused(RefusedError, says):
        read_sizes(text, "mm")
