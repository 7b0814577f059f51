"""How a hank is split, in numbered acts."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import groupby

from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import portion_named
from bambola.core.quantities import show_mass
from bambola.core.wool import portion_name
from bambola.core.wool.splitting import SplitPlan, size_words
from bambola.core.words import Words


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
