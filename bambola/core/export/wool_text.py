"""What to buy and how a hank is split, as lines of text."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from decimal import Decimal
from itertools import groupby

from bambola.core.bench import Bench
from bambola.core.book.shopping import Buying, to_buy
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import portion_named
from bambola.core.plan.making.values import FittingPlan
from bambola.core.quantities import Units, show_bought, show_length, show_mass
from bambola.core.wool import portion_name
from bambola.core.wool.splitting import SplitPlan, size_words
from bambola.core.words import Words


def shopping_lines(plan: Plan, bench: Bench, words: Words) -> Iterator[str]:
    """Yield a line for each thing under its shop, and a sum if prices are known; none if nothing is short."""
    wanted = to_buy(plan, bench)
    for shop, of_shop in groupby(wanted, key=lambda one: one.shop):
        if shop:
            yield words.tr("From {shop}:", shop=shop)
        elif any(one.shop for one in wanted):
            yield words.tr("From any shop:")
        yield from (_shopping_line(one, bench, words) for one in of_shop)
    cost = sum((one.price for one in wanted if one.price is not None), Decimal(0))
    if cost:
        price = bench.money_text(cost, words.units)
        whole = all(one.price is not None for one in wanted)
        yield (
            words.tr("together {price}", price=price)
            if whole
            else words.tr("at least {price}", price=price)
        )


def _shopping_line(one: Buying, bench: Bench, words: Words) -> str:
    told = words.say(one.what)
    if one.lot:
        told = words.tr("{what}, from lot {lot} if you can get it", what=told, lot=one.lot)
    if one.price is None:
        return told
    return words.tr("{what}, {price}", what=told, price=bench.money_text(one.price, words.units))


def fitting_stock(row: FittingPlan, words: Words) -> str:
    """Return how many of a fitting are in the box and to buy, as text; empty if they are not counted."""
    if not row.have and not row.buy:
        return ""
    if not row.buy:
        return words.tr(", in the box")
    return words.trn(", {n} to buy", ", {n} to buy", row.buy)


def fitting_size(plan: Plan, row: FittingPlan, mm: float, units: Units) -> str:
    """Return ``mm`` of a fitting as text. Only ready-made ones come in fixed sizes."""
    bought = any(f.id == row.id and f.follows == "ready-made" for f in plan.resized.figure.fittings)
    return show_bought(mm, units) if bought else show_length(mm, units)


def split_title(name: str, split: SplitPlan, words: Words) -> str:
    """Return what a hank is split from, as a title."""
    return words.tr(
        "Splitting: {name}, a hank of {hank}",
        name=name,
        hank=show_mass(split.hank_g, words.units),
    )


def split_lines(plan: Plan, split: SplitPlan, words: Words) -> Iterator[str]:
    """Yield a tree as numbered acts, then where the pieces go."""

    def title(to: str) -> str:
        part, portion = portion_named(plan, to)
        return f"{part.name}, {words.say(portion_name(portion))}"

    yield from tearing_lines(split, title, words)


def tearing_lines(split: SplitPlan, title: Callable[[str], str], words: Words) -> Iterator[str]:
    """Yield the lines of a tree; ``title`` names the owner of a portion."""
    acts = sorted((p for p in split.pieces if p.into), key=lambda p: p.act)
    for (size, into), group in groupby(acts, key=lambda p: (p.size, p.into)):
        alike = list(group)
        n, first, last = len(alike), alike[0], alike[-1]
        told = size_words(size)
        slots = {
            "acts": f"{first.act}\N{EN DASH}{last.act}" if n > 1 else str(first.act),
            "whole": words.tr("the hank")
            if first.parent is None
            else words.tr("a piece of {size}", size=told),
            "size": told,
        }
        if into == 2:
            yield words.trn(
                "{acts}.  Tear {whole} into halves",
                "{acts}.  Tear {n} pieces of {size} into halves",
                n,
                **slots,
            )
        else:
            yield words.trn(
                "{acts}.  Tear {whole} into thirds",
                "{acts}.  Tear {n} pieces of {size} into thirds",
                n,
                **slots,
            )
    gets: dict[str, dict[int, list[str]]] = {}
    for piece in split.pieces:
        if piece.to is not None:
            gets.setdefault(piece.to, {}).setdefault(piece.copy, []).append(size_words(piece.size))
    for to, copies in sorted(gets.items()):
        # Copies of one portion are given the same pieces.
        sizes = words.tr(" and ").join(sorted(copies[min(copies)]))
        each = words.tr("{n} times {sizes}", n=len(copies), sizes=sizes)
        yield f"{title(to)}: {each if len(copies) > 1 else sizes}"
