"""Figures that nobody drew, planned and read card by card: what cannot be done, what is told of nothing."""

from __future__ import annotations

import re
import traceback
from collections import Counter, defaultdict
from collections.abc import Iterator

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.methods import sheet_for
from bambola.core.methods.told import told
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan, make_plan
from bambola.core.resize import ResizeError
from bambola.core.words import ENGLISH
from bambola.shipped import default_bench
from tests.core.walker import Walker
from tests.nobody_drew import nobody_drew
from tests.torture.tally import Tally

_NOUGHT = re.compile(r"(?<![\d.,/])0(?:\.0+)? ?(?:mm|cm|g|min|%)(?!\w)")
_NEGATIVE = re.compile(r"(?:^|[\s(])[-−]\d")
_EXAMPLES = 2
"""So many seeds of each kind of fault are told."""


def figures(tally: Tally, count: int, seed: int) -> None:
    """Plan ``count`` figures, walk them and read their cards. Each kind of fault is counted by figures, and
    told with the first seeds that show it."""
    bench, examples = default_bench(), defaultdict[str, list[str]](list)
    found: Counter[str] = Counter()
    number = 0
    while tally.counts["planned"] < count:
        name, number = f"{seed}-{number}", number + 1
        try:
            figure, brief = nobody_drew(name)
        except ValueError:
            tally.counts["no figure"] += 1
            continue
        before = tally.counts["planned"]
        faults = dict(_faults(tally, figure, brief, bench))
        for kind, what in faults.items():
            found[kind] += 1
            examples[kind].append(f"{name}: {what}")
        tally.counts["without a fault"] += tally.counts["planned"] > before and not faults
    for kind, n in found.most_common():
        tally.fault(f"{kind}: {n} figures")
        for example in examples[kind][:_EXAMPLES]:
            print(f"    {example}", flush=True)


def _faults(tally: Tally, figure: Figure, brief: Brief, bench: Bench) -> Iterator[tuple[str, str]]:
    """Yield kinds of faults of a figure, each with what shows it."""
    try:
        plan = make_plan(figure, brief, bench)
    except (ResizeError, OrderConflictError):
        tally.counts["refused"] += 1
        return
    except Exception as error:
        yield "no plan", _where(error)
        return
    tally.counts["planned"] += 1
    try:
        texts = dict(_texts(plan, bench))
    except Exception as error:
        yield "no cards", _where(error)
        return
    if trouble := Walker(plan, bench).walk():
        yield f"cannot be done: {_kind_of(trouble)}", trouble
    for kind, pattern in (("a nought", _NOUGHT), ("less than nothing", _NEGATIVE)):
        for where, text in texts.items():
            if pattern.search(text):
                yield f"{kind} {'in a notice' if where == 'notices' else 'on a card'}", text
    if otherwise := _listed_otherwise(plan, figure, brief, bench):
        yield "listed otherwise", otherwise


def _texts(plan: Plan, bench: Bench) -> Iterator[tuple[str, str]]:
    """Yield what is told, by where."""
    yield "notices", " ".join(ENGLISH.say(notice.text) for notice in plan.notices)
    for step in plan.steps:
        text = told(sheet_for(plan, step, bench).card, ENGLISH.say)
        checks = (words for pair in text.checks for words in pair)
        yield str(step.key), " ".join((text.start, text.amount, *text.how, text.stop, *checks))


def _where(error: Exception) -> str:
    """Return in one line what was raised, and where in the program."""
    own = [one for one in traceback.extract_tb(error.__traceback__) if "bambola" in one.filename]
    return f"{error!r:.120} at {own[-1].filename.rpartition('bambola/')[2]}:{own[-1].lineno}"


def _kind_of(trouble: str) -> str:
    """Return a fault of the walker without the names and numbers of one figure."""
    return re.sub(
        r"\[.*?\]|\b(?:part|thing|place)-\d+\b|\broot\b|\d+", "…", trouble.rpartition(": ")[2]
    )


def _listed_otherwise(plan: Plan, figure: Figure, brief: Brief, bench: Bench) -> str:
    """Return what differs where the same parts are listed the other way round."""
    root, *others = figure.parts
    other = make_plan(figure.replaced(parts=(root, *reversed(others))), brief, bench)
    grams = [
        {p.id: round(sum(w.grams for w in p.portions), 6) for p in one.parts}
        for one in (plan, other)
    ]
    if grams[0] != grams[1]:
        part = next(id for id in grams[0] if grams[0][id] != grams[1].get(id))
        return f"{part} takes {grams[0][part]} g or {grams[1].get(part)} g"
    keys = [{str(step.key) for step in one.steps} for one in (plan, other)]
    return f"steps {sorted(keys[0] ^ keys[1])}" if keys[0] != keys[1] else ""
