"""What devices say, however spoilt, late or chopped it comes."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.devices.protocol import (
    MOST_BYTES,
    Alive,
    Hello,
    LineSplitter,
    Reading,
    Repeats,
    UnreadableLine,
    checksum,
    parse_message,
    reading_line,
)
from tests.effort import examples


@given(st.integers(0, 999_999_999), st.floats(0, 1999))
def test_reading_is_understood_as_it_was_sent(number: int, mm: float) -> None:
    said = parse_message(reading_line(number, mm).strip().encode())
    assert isinstance(said, Reading) and said.number == number
    assert said.value == pytest.approx(mm, abs=0.0051)


def test_documented_lines_mean_what_document_says() -> None:
    assert parse_message(b"HELLO caliper 1") == Hello("caliper", 1)
    assert parse_message(b"ALIVE") == Alive()
    text = "READ 17 23.41 mm"
    assert parse_message(f"{text} {checksum(text)}".encode()) == Reading(17, 23.41, "mm")
    inch = "READ 3 1.0 in"
    assert parse_message(f"{inch} {checksum(inch)}".encode()) == Reading(3, 25.4, "mm")
    with open("docs/devices.md", encoding="utf-8") as page:
        assert f"{text} {checksum(text)}" in page.read()


@pytest.mark.parametrize(
    ("line", "why"),
    [
        (b"READ 17 23.41 mm 00", "checksum"),
        (b"READ 17 23.41 mm", "not a reading"),
        (b"\xff\xfe", "not text"),
        (b"READ 1 -5.00 mm " + checksum("READ 1 -5.00 mm").encode(), "out of range"),
        (b"READ 1 9999.00 mm " + checksum("READ 1 9999.00 mm").encode(), "out of range"),
        (b"x" * (MOST_BYTES + 1), "too long"),
        (b"", "not a reading"),
    ],
)
def test_line_that_is_no_reading_says_why(line: bytes, why: str) -> None:
    said = parse_message(line)
    assert isinstance(said, UnreadableLine) and why in said.why


@examples(200)
@given(st.binary(max_size=200))
def test_rubbish_never_becomes_reading_or_error(data: bytes) -> None:
    for said in LineSplitter().feed(data + b"\n"):
        assert not isinstance(said, Reading)


@given(st.lists(st.floats(0, 500), min_size=1, max_size=6), st.data())
def test_lines_are_put_together_however_they_are_chopped(
    values: list[float], data: st.DataObject
) -> None:
    whole = "".join(reading_line(i, v) for i, v in enumerate(values)).encode()
    cuts = sorted(data.draw(st.lists(st.integers(0, len(whole)), max_size=8)))
    splitter, heard = LineSplitter(), []
    for a, b in zip([0, *cuts], [*cuts, len(whole)], strict=True):
        heard += splitter.feed(whole[a:b])
    assert [h.number for h in heard if isinstance(h, Reading)] == list(range(len(values)))


def test_endless_line_is_dropped_and_next_is_read() -> None:
    splitter = LineSplitter()
    heard = splitter.feed(b"z" * 5000)
    assert len(heard) == 1 and isinstance(heard[0], UnreadableLine)
    assert splitter.feed(b"\n" + reading_line(1, 5).encode()) == [Reading(1, 5.0, "mm")]


def test_bounced_button_counts_once_and_new_device_counts_anew() -> None:
    repeats = Repeats()
    assert repeats.is_new(Reading(1, 5.0, "mm"))
    assert not repeats.is_new(Reading(1, 5.0, "mm"))
    assert repeats.is_new(Reading(2, 5.0, "mm"))
    repeats.forget()
    assert repeats.is_new(Reading(2, 5.0, "mm"))
