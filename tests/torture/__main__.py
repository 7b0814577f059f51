"""``python -m tests.torture``: a few minutes; ``TORTURE=20`` takes twenty times as many.

Of a working day (``python -m tests.torture soak``, half an hour) only the whole tells anything. The faults of
figures that nobody drew (``python -m tests.torture figures``) are known, and still to be mended.

Every trial prints how to repeat it: its seed stands in what it says.
"""

from __future__ import annotations

import faulthandler
import os
import sys
import time
import traceback

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from benchmarks.pace import slowness
from tests.torture import books, designs, hands, kills, nobody, papers, pictures, soak, waits
from tests.torture.tally import Tally

_BY_NAME = {"soak", "figures"}
"""A day of work tells nothing by halves; figures that nobody drew have faults that are known."""
STUCK_S = 1800.0
"""A trial that takes so long beside what it was asked for, on a calm machine, has stopped: it says where, and
ends."""


def main() -> int:
    """Run every trial, or those named; the number of faults."""
    times = float(os.environ.get("TORTURE", "1"))
    seed = int(os.environ.get("SEED", str(int(time.time()))))
    trials = {
        "designs": lambda t: designs.opened(t, round(2500 * times), seed),
        "plans": lambda t: designs.planned(t, round(300 * times), seed),
        "pictures": lambda t: pictures.read(t, round(50 * times), seed),
        "papers": lambda t: papers.opened(t, round(40 * times), seed),
        "books": lambda t: books.imported(t, round(50 * times), seed),
        "edits": lambda t: kills.while_editing(t, max(1, round(6 * times)), seed),
        "makings": lambda t: kills.while_making(t, max(1, round(5 * times)), seed),
        "saves": lambda t: kills.while_saving(t, max(1, round(4 * times)), seed),
        "figures": lambda t: nobody.figures(t, round(300 * times), seed),
        "soak": lambda t: soak.a_day(t, round(soak.A_DAY * times), seed),
        "waits": lambda t: waits.long_waits(t),
        "hands": lambda t: hands.random_hands(t, 60.0 * times, seed),
    }
    faults = 0
    for name in sys.argv[1:] or [name for name in trials if name not in _BY_NAME]:
        tally, start = Tally(name), time.monotonic()
        patience = STUCK_S * max(1.0, 2 * times) * max(1.0, slowness())
        faulthandler.dump_traceback_later(patience, exit=True)
        try:
            trials[name](tally)
        except Exception:  # whoever hears of errors may be deaf by now
            tally.fault(traceback.format_exc())
        print(f"{name}: {tally.words()}, {time.monotonic() - start:.0f} s, seed {seed}", flush=True)
        faults += len(tally.faults)
    faulthandler.cancel_dump_traceback_later()
    return min(faults, 100)


if __name__ == "__main__":
    code = main()
    sys.stdout.flush()
    os._exit(code)  # as the program ends: threads may still be at work for a window that is gone
