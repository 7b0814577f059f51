"""Facts said in words, in a maker's units: every sentence that a plan holds comes from here."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import cache
from gettext import NullTranslations
from string import Formatter
from typing import Any

from bambola.core.facts import (
    Area,
    Cover,
    Degrees,
    Density,
    Exact,
    Fact,
    Grams,
    Holds,
    Mm,
    RefusedError,
    Share,
    Sizes,
    SoldSize,
    Volume,
)
from bambola.core.marked import N_, Plural
from bambola.core.quantities import (
    Units,
    show_area,
    show_bought,
    show_cover,
    show_density,
    show_exact,
    show_hand,
    show_mass,
    show_sizes,
    show_volume,
)
from bambola.core.words import (
    book,
    changes,
    doubts,
    face,
    heights,
    judged,
    methods,
    names,
    notes,
    notices,
    order,
    phrases,
    refusals,
    rescue,
    steps,
    stuff,
    wire,
    wool,
)
from bambola.translated import fill_slots, isolate_number, looked_up, runs_left

SENTENCES: Mapping[str, str | Plural] = {
    "nothing": "",
    **steps.SENTENCES,
    **order.SENTENCES,
    **notices.SENTENCES,
    **wire.SENTENCES,
    **changes.SENTENCES,
    **face.SENTENCES,
    **heights.SENTENCES,
    **rescue.SENTENCES,
    **judged.SENTENCES,
    **wool.SENTENCES,
    **doubts.SENTENCES,
    **phrases.SENTENCES,
    **names.SENTENCES,
    **stuff.SENTENCES,
    **methods.SENTENCES,
    **refusals.SENTENCES,
    **book.SENTENCES,
    **notes.SENTENCES,
}
"""A sentence for every kind of fact but those that one way of doing a step tells: these stand beside it. What
is in braces is a slot; ``:lower`` has it within a sentence, ``:capital`` at its head."""


@cache
def every_sentence() -> Mapping[str, str | Plural]:
    """Return a sentence for every kind of fact. It takes half a second: all ways of doing a step are
    loaded."""
    from bambola.core.methods import kinds

    return {**SENTENCES, **kinds.SENTENCES}


def sentence_of(kind: str) -> str | Plural:
    """Return the sentence for a kind of fact. Raises ``KeyError`` if there is none."""
    return SENTENCES[kind] if kind in SENTENCES else every_sentence()[kind]


_SHOWN: Mapping[type, Callable[[float, Units], str]] = {
    Mm: show_hand,
    Exact: show_exact,
    SoldSize: show_bought,
    Grams: show_mass,
    Area: show_area,
    Volume: show_volume,
    Cover: show_cover,
    Density: show_density,
    Degrees: lambda value, _: f"{value:.0f}°",
    Share: lambda value, _: f"{value * 100:.0f} %",
}
"""How a quantity is shown in a maker's units."""


WISP = N_("a wisp")


class Words(Formatter):
    """Formats facts in ``units`` and in the language of a catalogue."""

    def __init__(
        self, units: Units | None = None, catalogue: NullTranslations | None = None
    ) -> None:
        self.catalogue = catalogue or NullTranslations()
        self._runs_left = runs_left(self.catalogue)
        self.units = replace(units or Units(), wisp=self.catalogue.gettext(WISP))

    def tr(self, sentence: str, /, **slots: object) -> str:
        """Return a translated sentence, such as a heading or label on paper, with its slots filled."""
        return fill_slots(self, *looked_up(self.catalogue, sentence), slots)

    def trn(self, one: str, many: str, n: int, /, **slots: object) -> str:
        """Return the translated sentence for one or many of ``n``."""
        english = one if n == 1 else many
        return fill_slots(self, self.catalogue.ngettext(one, many, n), english, {"n": n, **slots})

    def say(self, fact: Fact) -> str:
        """Return a fact as text."""
        slots = dict(fact.slots)
        if fact.kind == "together":
            return " ".join(filter(None, map(self.say, slots["of"])))  # type: ignore[arg-type]
        sentence = sentence_of(fact.kind)
        if isinstance(sentence, tuple):
            return self.trn(*sentence, int(slots.pop("n")), **slots)  # type: ignore[arg-type]
        return self.tr(sentence, **slots)

    def format_field(self, value: Any, format_spec: str) -> str:
        """Return a slot as text: quantities in the maker's units, several things with an “and”."""
        text = self._show_slot(value, format_spec)
        if "capital" in format_spec:
            return text[:1].upper() + text[1:]
        if "lower" in format_spec:
            return text[:1].lower() + text[1:] if "first" in format_spec else text.lower()
        return text

    def _show_slot(self, value: Any, spec: str) -> str:
        if isinstance(value, Fact):
            return self.say(value)
        if isinstance(value, Holds):
            return self.say(phrases.times_held(value.value))
        if isinstance(value, Sizes):
            return self._isolate_if_needed(show_sizes(value.values, self.units))
        if isinstance(value, tuple):
            return self._join_words([v if isinstance(v, str) else self.say(v) for v in value])
        if isinstance(value, str):
            return value
        shown = _SHOWN.get(type(value))
        if shown:
            return self._isolate_if_needed(shown(value.value, self.units))
        return format(value, spec).replace(".", self.units.decimal)

    def _isolate_if_needed(self, quantity: str) -> str:
        return isolate_number(quantity) if self._runs_left else quantity

    def _join_words(self, words: list[str]) -> str:
        """Return “a, b and c”."""
        *most, last = words or [""]
        if not most:
            return last
        return self.catalogue.gettext(_AND).format(", ".join(most), last)


_AND = N_("{} and {}")
ENGLISH = Words()
"""As plans are written out for other programs: English, millimetres, grams."""


def error_words(error: Exception, words: Words = ENGLISH) -> str:
    """Return an error as one sentence: the fact of a refusal, else the error's own message."""
    told = error.told if isinstance(error, RefusedError) else str(error)
    return words.say(told) if isinstance(told, Fact) else told
