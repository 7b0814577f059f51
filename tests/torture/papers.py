"""PDFs opened as designs, damaged or made to harm: all are read, or refused in a sentence, in time."""

from __future__ import annotations

import random
import zlib
from functools import partial

from bambola.core.figure import DocumentError
from bambola.demo import TOAD
from bambola.store.designs import PATIENCE_S, design_of
from tests.store.test_store import locked, pdf_with
from tests.torture.tally import Tally

FILTERS = (
    b"/FlateDecode",
    b"/LZWDecode",
    b"/ASCII85Decode",
    b"/RunLengthDecode",
    b"/DCTDecode",
    b"/Nothing",
)


def _made_to_harm(rng: random.Random) -> bytes:
    chain = b" ".join(rng.choice(FILTERS) for _ in range(rng.choice([1, 2, 40])))
    parameters = b"<</Predictor %d /Columns %d>>" % (
        rng.choice([1, 2, 10, 15, 99]),
        rng.choice([0, 1, 7, 10**6, 10**12]),
    )
    size = rng.choice([1, 1000, 10**6, 2 * 10**8])
    stream = zlib.compress(bytes(size)) if rng.random() < 0.7 else rng.randbytes(min(size, 10**6))
    return pdf_with(b"[" + chain + b"]", rng.choice([b"null", parameters]), stream)


def _damaged(rng: random.Random) -> bytes:
    whole = rng.choice(
        [locked(), pdf_with(b"/FlateDecode", b"null", zlib.compress(TOAD.read_bytes()))]
    )
    data = bytearray(whole)
    for _ in range(rng.choice([0, 1, 5, 50])):
        data[rng.randrange(len(data))] = rng.randrange(256)
    if rng.random() < 0.2:
        number = rng.choice([b"1", b"2", b"3", b"4"])
        data = data.replace(number + b" 0 R", rng.choice([b"1", b"2", b"3", b"9"]) + b" 0 R")
    return bytes(data[: rng.choice([len(data), len(data), rng.randrange(len(data))])])


def opened(tally: Tally, count: int, seed: int) -> None:
    """Open hostile PDFs, each by the program that is started for it."""
    for i in range(count):
        rng = random.Random(f"{seed}-{i}")
        pdf = (_made_to_harm if i % 3 == 0 else _damaged)(rng)
        tally.read(f"PDF {seed}-{i}", partial(design_of, pdf, "a.pdf"), DocumentError, PATIENCE_S)
