"""Check that every sentence is translated, and asks for its own slots and no others (``make check``)."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from pathlib import Path
from string import Formatter

from babel.messages.catalog import Message
from babel.messages.pofile import read_po

LOCALE = Path(__file__).parent.parent / "bambola" / "shipped" / "locale"


def slots(sentence: str) -> set[str]:
    """Return what a sentence asks for. Raises ValueError where its braces do not pair."""
    return {name for _, name, _, _ in Formatter().parse(sentence) if name is not None}


def faults(message: Message) -> Iterator[str]:
    """Yield what is wrong with the translations of one sentence."""
    ids = (message.id,) if isinstance(message.id, str) else tuple(message.id)
    given = (message.string,) if isinstance(message.string, str) else tuple(message.string)
    known = set().union(*map(slots, ids))
    for form, said in enumerate(given):
        if not said:
            yield f"“{ids[0]}” is not translated"
            continue
        try:
            asked = slots(said)
        except ValueError as error:
            yield f"{error}: “{said}”"
            continue
        if more := asked - known:
            yield f"{', '.join(sorted(more))} is not given to “{said}”"
        # Where there is one only, its number may go unsaid.
        english = ids[min(form, len(ids) - 1)]
        if fewer := slots(english) - asked - ({"n"} if len(ids) > 1 else set()):
            yield f"{', '.join(sorted(fewer))} is not told by “{said}”"


def main(folder: Path = LOCALE) -> int:
    """Print every fault; how many there are."""
    found = 0
    for path in sorted(folder.rglob("*.po")):
        with path.open("rb") as file:
            catalogue = read_po(file)
        for message in catalogue:
            for fault in faults(message) if message.id else ():
                found += 1
                print(f"{path.name}:{message.lineno}: {fault}")
    return min(found, 100)


if __name__ == "__main__":
    sys.exit(main(*map(Path, sys.argv[1:])))
