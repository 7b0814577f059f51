"""Print the budget table; exit 1 if a budget is broken."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable

from benchmarks.row import TIMES, Row

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


def main() -> int:
    """Measure every row and print it as it comes."""
    from benchmarks import core, heights, measuring, order, proposing, window, wire
    from benchmarks.pace import slowness

    measures: tuple[Callable[[], list[Row]], ...] = (
        core.start_up,
        core.figure_changed,
        core.brief_changed,
        core.large_figures,
        core.step_pictures,
        core.faces,
        core.packet,
        core.order,
        order.against_reference,
        core.closed_forms,
        wire.routes,
        wire.cutting,
        heights.table,
        measuring.silhouette,
        measuring.guided_round,
        proposing.table,
        proposing.twelve_megapixels,
        window.drag,
        window.memory,
    )
    broken = 0
    print(
        "Times are as on a calm machine: each is divided by how slow this one is just then, by a fixed sum."
    )
    print(f"{'what':<62}{'measured':>12}{'limit':>10}")
    for measure in measures:
        before = slowness()
        rows = measure()
        slow = (before + slowness()) / 2
        for row in (row.calm(slow) for row in rows):
            broken += not row.kept
            mark = "" if row.kept else "   over"
            limit = "" if row.limit is None else f"{row.limit:.2f}"
            paced = f"   (machine {slow:.1f} × as slow)" if row.unit in TIMES else ""
            print(
                f"{row.what:<62}{row.value:>9.2f} {row.unit:<3}{limit:>8}{mark}{paced}", flush=True
            )
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
