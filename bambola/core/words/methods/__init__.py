"""How every kind of step is done, in sentences: one file for each method, and what several of them say."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from bambola.core.words.marked import Plural

SENTENCES: dict[str, str | Plural] = {
    kind: sentence
    for file in iter_modules(__path__)
    for kind, sentence in import_module(f"{__name__}.{file.name}").SENTENCES.items()
}
