"""Man pages and shell completion of commands: ``scripts/pages.py PREFIX COMMAND=MODULE …``, each module with
its ``parser``. One process writes them all: each start of Python would read the program anew."""

from __future__ import annotations

import importlib
import sys
from pathlib import Path

import shtab
from argparse_manpage.manpage import Manpage

import bambola

COMPLETIONS = {"bash": "bash-completion/completions/", "zsh": "zsh/site-functions/_"}
TOLD = {"project_name": "bambola", "version": bambola.__version__, "manual_title": "Bambola"}


def write(share: Path, name: str, module: str) -> None:
    """What belongs to one command, under the folder of what is shared."""
    parser = importlib.import_module(module).parser()
    for shell, where in COMPLETIONS.items():
        text = shtab.complete(parser, shell)
        (share / f"{where}{name}").write_text(text + "\n", encoding="utf-8")
    parser.prog = name
    page = Manpage(parser, _data={**TOLD, "prog": name})
    (share / "man/man1" / f"{name}.1").write_text(str(page), encoding="utf-8")


if __name__ == "__main__":
    for command in sys.argv[2:]:
        write(Path(sys.argv[1]) / "share", *command.split("="))
