"""Man pages and shell completion of all commands, as they are shipped: ``scripts/pages.py SHARE``.

One process writes them all: each start of Python would read the program anew.
"""

from __future__ import annotations

import importlib
import sys
import tomllib
from pathlib import Path

import shtab
from argparse_manpage.manpage import Manpage

COMPLETIONS = {"bash": "bash-completion/completions/", "zsh": "zsh/site-functions/_"}
TOLD = {"project_name": "bambola", "version": "", "manual_title": "Bambola"}
PROJECT = Path(__file__).parents[1] / "pyproject.toml"
ENDINGS = """.SH FILES
.TP
.I *.bambola.json
A design: JSON as in the schema that
.B bambola schema figure
prints.
.TP
.I ~/.local/share/bambola
The book of all figures made, with the bench, and what is kept of designs that were not saved.
.TP
.I ~/.config/bambola
How the window was left.
.SH EXIT STATUS
0 where all went well; 1 where what was asked for cannot be had, such as a height no condition leaves; 2
for bad input, with one line on standard error that names the file and what is wrong in it.
.SH EXAMPLES
.TP
.B {example}
{told}
"""
EXAMPLES = {
    "bambola": (
        "bambola plan badger.bambola.json --height 280mm",
        "Tell how it is made 280 mm high.",
    ),
    "bambola-gui": ("bambola-gui badger.bambola.json", "Open the badger."),
    "bambola-caliper": (
        "bambola-caliper",
        "Print the port at which the simulated caliper is read.",
    ),
    "bambola-scale": ("bambola-scale", "Print the port at which the simulated scale is read."),
    "bambola-camera": ("bambola-camera pictures", "Lay a picture into a folder that is watched."),
}


def commands() -> dict[str, str]:
    """Return each command that is installed, and its module."""
    project = tomllib.loads(PROJECT.read_text(encoding="utf-8"))["project"]
    found = {**project["scripts"], **project["gui-scripts"]}
    return {name: at.partition(":")[0] for name, at in found.items()}


def write(share: Path, name: str, module: str) -> None:
    """What belongs to one command, under the folder of what is shared."""
    parser = importlib.import_module(module).parser()
    for shell, where in COMPLETIONS.items():
        target = share / f"{where}{name}"
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_text(shtab.complete(parser, shell) + "\n", encoding="utf-8")
    parser.prog = name
    page = share / "man/man1" / f"{name}.1"
    page.parent.mkdir(parents=True, exist_ok=True)
    example, told = EXAMPLES[name]
    about = (parser.description or "").partition(".")[0]
    text = str(Manpage(parser, _data={**TOLD, "prog": name, "description": about})).rstrip()
    # A page of no day of its own is the same each time it is made.
    head, _, rest = text.partition("\n")
    head = f'.TH {name.upper()} "1" "" "Bambola" "Bambola"'
    page.write_text(
        f"{head}\n{rest}\n{ENDINGS.format(example=example, told=told)}", encoding="utf-8"
    )


if __name__ == "__main__":
    for command, module in commands().items():
        write(Path(sys.argv[1]), command, module)
