"""The template of all sentences, and every language brought up to it and compiled: ``scripts/catalogue.py``.

``--template FILE`` only writes the template there, to be compared. No day stands in any of them: they are the
same until a sentence is another.
"""

from __future__ import annotations

import ast
import json
import sys
from collections.abc import Iterator
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

from bambola.shipped import NAMED

ROOT = Path(__file__).parents[1] / "bambola"
LOCALE = ROOT / "shipped/locale"
MARKS = {"tr": 1, "N_": 1, "trn": 2, "NN_": 2, "C_": 2}
"""What marks a sentence, and of how many forms it is; or of its context and one form."""
SHORT = 3
"""So few words alone do not tell where they stand: a note does."""
DATED = ("POT-Creation-Date", "PO-Revision-Date: Y", "Generated-By")
HEADS = {"template": "# Sentences of Bambola, to be translated.", "de": "# German for Bambola."}
HELD = "\n# Copyright (C) The Bambola makers\n# Under the same licence as Bambola."


def sentences() -> Iterator[tuple[str | tuple[str, ...], str, str]]:
    """Yield all sentences of the program, those within other strings as well; each with its context, and what
    the module is for that says it."""
    for path in sorted(ROOT.rglob("*.py")):
        tree = ast.parse(path.read_text(encoding="utf-8"))
        about = (ast.get_docstring(tree) or "").partition("\n\n")[0]
        for node in ast.walk(tree):
            if not isinstance(node, ast.Call):
                continue
            name = getattr(node.func, "id", None) or getattr(node.func, "attr", "")
            forms = MARKS.get(name, 0)
            given = [a.value for a in node.args[:forms] if isinstance(a, ast.Constant)]
            if forms and len(given) == forms and all(given):
                sentence = given[-1] if forms == 1 or name == "C_" else tuple(given)
                yield sentence, given[0] if name == "C_" else "", about


def shipped() -> Iterator[tuple[str, str]]:
    """Yield the names in all that ships, and of what they are."""
    for path in sorted(ROOT.rglob("*.json")):
        if path.name.endswith(".schema.json"):
            continue
        raw = json.loads(path.read_text(encoding="utf-8"))
        about = f"In what ships: {raw.get('figure', raw).get('name', path.stem)}"
        at = [raw]
        while at:
            one = at.pop()
            if isinstance(one, dict):
                yield from ((one[key], about) for key in NAMED & one.keys() if one[key])
            at += [
                each
                for each in (one.values() if isinstance(one, dict) else one)
                if isinstance(each, dict | list)
            ]


def extracted() -> Catalog:
    """Return a catalogue of all sentences, the shortest with a note of where they stand."""
    found = Catalog(
        project="Bambola", version="0.1.0", header_comment=HEADS["template"] + HELD, fuzzy=False
    )
    for sentence, context, about in sentences():
        short = isinstance(sentence, str) and len(sentence.split()) <= SHORT
        notes = [" ".join(about.split())] if short else []
        found.add(sentence, auto_comments=notes, context=context or None)
    for name, about in shipped():
        found.add(name, auto_comments=[about])
    return found


def write(catalogue: Catalog, target: Path) -> None:
    """Write a catalogue without days. A per cent sign is no slot here, and slots may ask for a form of their
    own (``{part:capital}``), which other tools do not know: ``make check`` holds them."""
    for message in catalogue:
        message.flags -= {"python-format", "python-brace-format"}
    with target.open("wb") as file:
        write_po(file, catalogue, sort_output=True, width=110, ignore_obsolete=True)
    lines = target.read_text(encoding="utf-8").splitlines(keepends=True)
    kept = (line for line in lines if not line.startswith(tuple(f'"{name}' for name in DATED)))
    target.write_text("".join(kept), encoding="utf-8")


def bring_up(path: Path, template: Catalog) -> None:
    """Give a language the sentences of now, and compile it."""
    with path.open("rb") as file:
        language = read_po(file, locale=path.parts[-3])
    language.update(template, no_fuzzy_matching=True, update_header_comment=False)
    language.fuzzy, language.header_comment = False, HEADS.get(path.parts[-3], "#") + HELD
    write(language, path)
    with path.with_suffix(".mo").open("wb") as file:
        write_mo(file, language)


def main() -> None:
    """Do it all, or write the template elsewhere."""
    if "--template" in sys.argv:
        write(extracted(), Path(sys.argv[-1]))
        return
    template = extracted()
    write(template, LOCALE / "bambola.pot")
    for path in sorted(LOCALE.glob("*/LC_MESSAGES/bambola.po")):
        bring_up(path, template)


if __name__ == "__main__":
    main()
