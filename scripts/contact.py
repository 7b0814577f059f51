"""The address at which the makers are reached, as pyproject.toml has it: set it there before a release."""

from __future__ import annotations

import tomllib
from pathlib import Path

PROJECT = Path(__file__).parents[1] / "pyproject.toml"

if __name__ == "__main__":
    print(tomllib.loads(PROJECT.read_text(encoding="utf-8"))["tool"]["bambola"]["contact"])
