"""The template of all sentences, and every language brought up to it and compiled: ``scripts/catalogue.py``.

``--template FILE`` only writes the template there, to be compared. No day stands in any of them: they are the
same until a sentence is another.
"""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

ROOT = Path(__file__).parents[1]
LOCALE = ROOT / "bambola/shipped/locale"
TEMPLATE = LOCALE / "bambola.pot"
MARKS = ("tr", "trn:1,2", "N_", "NN_:1,2")
DATED = ("POT-Creation-Date", "Generated-By")


def extract(target: Path) -> Catalog:
    """Write all sentences of the program to ``target``."""
    keywords = [word for mark in MARKS for word in ("-k", mark)]
    command = [
        sys.executable,
        "-m",
        "babel.messages.frontend",
        "--quiet",
        "extract",
        "--no-default-keywords",
    ]
    command += [
        *keywords,
        "--no-location",
        "--sort-output",
        "--project=Bambola",
        "--strip-comments",
    ]
    command += ["--add-comments=Translators:", "--copyright-holder=The Bambola makers"]
    command += [f"--output-file={target}", "bambola"]
    subprocess.run(command, check=True, cwd=ROOT)
    with target.open("rb") as file:
        found = read_po(file)
    found.header_comment = (
        "# Sentences of Bambola, to be translated.\n# Copyright (C) The Bambola makers"
    )
    write(found, target, 76)
    return found


def write(catalogue: Catalog, target: Path, width: int) -> None:
    """Write a catalogue without days. A per cent sign is no slot here: slots stand in braces."""
    for message in catalogue:
        message.flags.discard("python-format")
    with target.open("wb") as file:
        write_po(file, catalogue, sort_output=True, width=width, ignore_obsolete=True)
    lines = target.read_text(encoding="utf-8").splitlines(keepends=True)
    kept = (line for line in lines if not line.startswith(tuple(f'"{name}' for name in DATED)))
    target.write_text("".join(kept), encoding="utf-8")


def bring_up(path: Path, template: Catalog) -> None:
    """Give a language the sentences of now, and compile it."""
    with path.open("rb") as file:
        language = read_po(file, locale=path.parts[-3])
    language.update(template, no_fuzzy_matching=True, update_header_comment=False)
    language.fuzzy = False
    write(language, path, 110)
    with path.with_suffix(".mo").open("wb") as file:
        write_mo(file, language)


def main() -> None:
    """Do it all, or write the template elsewhere."""
    if "--template" in sys.argv:
        extract(Path(sys.argv[-1]).resolve())
        return
    template = extract(TEMPLATE)
    for path in sorted(LOCALE.glob("*/LC_MESSAGES/bambola.po")):
        bring_up(path, template)


if __name__ == "__main__":
    main()
