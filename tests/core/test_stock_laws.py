"""What wires are cut from, and what is bought."""

from __future__ import annotations

import math

import pytest

from bambola.core.armature.stock import (
    StockPiece,
    cutting_plan,
    longest_piece,
    search_all_cuts,
    solve_cutting,
)
from bambola.core.bench import WireStock
from tests.said import said


def stock(id: str, form: str, length: float, count: int = 1, **more: object) -> WireStock:
    return WireStock.model_validate(
        {"id": id, "name": id.title(), "metal": "soft steel", "diameter": 1.0, "form": form,
         "length": length, "count": count, **more}
    )  # fmt: skip


def test_longest_piece_is_longest_stem() -> None:
    stems = (stock("a", "stem", 300), stock("b", "stem", 500), stock("c", "offcut", 900))
    assert longest_piece(stems, "soft steel", 1.0, 1) == 500
    assert longest_piece((*stems, stock("d", "coil", 200)), "soft steel", 1.0, 1) == math.inf
    assert longest_piece(stems, "soft steel", 1.2, 1) == math.inf  # to be bought by the metre
    assert longest_piece(stems, "soft copper", 1.0, 1) == math.inf
    assert longest_piece((stock("c", "offcut", 900),), "soft steel", 1.0, 1) == math.inf


def test_what_is_to_be_bought_says_of_what_it_is() -> None:
    pieces = [
        StockPiece("soft steel", 1.0, 1, 120.0, "leg"),
        StockPiece("soft copper", 0.5, 2, 90.0, "arm"),
    ]
    cuts = {said(cut.stock): cut for cut in cutting_plan(pieces, ())}
    assert set(cuts) == {"soft steel 1 mm", "2 × soft copper 0.5 mm"}
    assert all(cut.to_buy and cut.form == "coil" for cut in cuts.values())
    (shelved,) = cutting_plan(pieces[:1], (stock("reel", "coil", 4000),))
    assert said(shelved.stock) == "Reel" and not shelved.to_buy
    assert shelved.length_mm == 120 and shelved.waste_mm == 0 and shelved.wires == ("leg",)


def test_dearest_millimetre_is_one_to_buy_and_fitting_offcut_cheapest() -> None:
    for best in (search_all_cuts, solve_cutting):
        # Of two offcuts that hold it the cheaper, and a long stem of one's own sooner than one to buy.
        assert best((80.0,), (1,), ((100.0, 1, 100.0), (99.5, 1, 99.5)), 0.0, 0.0)[0] == [(1, (1,))]
        assert best((80.0,), (1,), ((5000.0, 1, 5000.0),), 0.0, 300.0)[0] == [(0, (1,))]
        # Half a millimetre short for a third piece is too short.
        assert best((100.0,), (3,), ((299.5, 3, 299.5),), 0.0, 0.0)[0] in (
            [(0, (2,)), (0, (1,))],
            [(0, (2,)), (0, (2,))],  # what it holds too much of is not cut
        )
    many = tuple(float(mm) for mm in range(295, 20, -5))
    used, *_ = solve_cutting(many, (2,) * len(many), ((300.0, 200, 300.0),), 0.0, 0.0)
    assert all(sum(mm * n for mm, n in zip(many, held, strict=True)) <= 300 for _, held in used)
    cut = [sum(held[i] for _, held in used) for i in range(len(many))]
    assert all(n >= 2 for n in cut)


def test_cuts_tell_stock_and_remainder() -> None:
    def cuts(*mm: float) -> list[StockPiece]:
        return [StockPiece("soft steel", 1.0, 1, length, f"w{i}") for i, length in enumerate(mm)]

    # A coil that is just long enough, though no piece of it is a whole half millimetre.
    (whole,) = cutting_plan(
        cuts(250.2, 250.3, 250.1), (stock("reel", "coil", 250.2 + 250.3 + 250.1),)
    )
    assert whole.cuts == (250.3, 250.2, 250.1) and not whole.to_buy
    # A stem is used up first; the coil lies behind it on the shelf, and what it lacks is bought by the metre.
    shelf = stock("stem", "stem", 300), stock("reel", "coil", 200)
    found = {said(c.stock): c for c in cutting_plan(cuts(140.0, 140.0, 150.0, 190.0), shelf)}
    assert {name: (c.form, c.cuts, c.waste_mm) for name, c in found.items()} == {
        "Stem": ("stem", (150.0, 140.0), pytest.approx(10.0)),
        "Reel": ("coil", (190.0,), 0.0),
        "soft steel 1 mm": ("coil", (140.0,), 0.0),
    }
    (short,) = cutting_plan(cuts(140.0), (stock("stem", "stem", 300),))
    assert (short.length_mm, short.waste_mm, short.wires) == (300.0, 160.0, ("w0",))
