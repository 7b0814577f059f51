"""Finds a splitting tree in a separate program, so that it can be ended at any time.

Reads one JSON line from standard input (``wanted``, ``hank_g``, ``patience_s``) and writes one for every tree
found, the last one final; or ``{"refused": sentence}``.
"""

from __future__ import annotations

import json
import sys
from typing import Any

from pydantic import TypeAdapter

from bambola.core.facts import Fact, Grams
from bambola.core.wool.splitting import SplitError, SplitPlan, WantedPortion, split_plan

PLAN = TypeAdapter(SplitPlan)
WANTED = TypeAdapter(tuple[WantedPortion, ...])


def main() -> None:
    """Handle one request."""
    asked: dict[str, Any] = json.loads(sys.stdin.readline())

    def say(plan: SplitPlan, final: bool = False) -> None:
        found = PLAN.dump_python(plan, mode="json")
        print(json.dumps({"plan": found, "final": final}), flush=True)

    try:
        wanted = WANTED.validate_python(asked["wanted"])
        say(split_plan(wanted, asked["hank_g"], asked["patience_s"], say), final=True)
    except SplitError as error:
        assert isinstance(error.told, Fact)
        grams = {name: mass.value for name, mass in error.told.slots if isinstance(mass, Grams)}
        print(json.dumps({"refused": error.told.kind, "grams": grams}), flush=True)


if __name__ == "__main__":
    main()
