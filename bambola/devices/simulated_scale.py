"""The simulated kitchen scale ``bambola-scale``: makes a pseudo-terminal and speaks the protocol. It settles,
trembles, drifts, can be tared, overloaded and unplugged.

Its window has heaps of wool to lay on; with ``--plain`` it reads one command a line: ``load 4.2``, ``add
0.3``, ``take 0.2``, ``tare``, ``drift 0.01`` (g a second), ``rubbish``, ``off``.
"""

from __future__ import annotations

import argparse
import math
import random
import sys
import threading
import time
from collections import deque
from collections.abc import Callable, Sequence

from bambola.devices.protocol import range_line, weight_line
from bambola.devices.simulated import SimulatedDevice, show_at_hand
from bambola.language import tr

TICK_S = 0.1
_SETTLE_S = 0.15
_TREMBLE = 0.12
"""What a draught does to the reading, in steps (one standard deviation)."""
_STILL = 5
"""So many readings within one step are a steady weight."""


class ScaleMechanics:
    """The mechanics of a scale in discrete time: the load, and the weight shown."""

    def __init__(self, step: float = 0.1, capacity: float = 500.0, seed: int = 1) -> None:
        self.step, self.capacity = step, capacity
        self.load_g, self.drift_g_s = 0.0, 0.0
        self._felt = self._zero = self._drifted = 0.0
        self._draught = random.Random(seed)
        self._last: deque[float] = deque(maxlen=_STILL)

    def tick(self) -> tuple[float, str]:
        """Return the reading a tenth of a second later: grams in whole steps, and the state."""
        self._drifted += self.drift_g_s * TICK_S
        self._felt += (self.load_g - self._felt) * (1 - math.exp(-TICK_S / _SETTLE_S))
        seen = (
            self._felt + self._drifted - self._zero + self._draught.gauss(0, _TREMBLE * self.step)
        )
        shown = round(seen / self.step) * self.step + 0.0
        self._last.append(shown)
        if self._felt > self.capacity:
            return self.capacity, "over"
        still = max(self._last) - min(self._last) <= self.step * 1.01
        settled = abs(self.load_g - self._felt) < self.step / 2
        return shown, "steady" if still and settled and len(self._last) == _STILL else "moving"

    def tare(self) -> None:
        """Set the present load as zero."""
        self._zero = self._felt + self._drifted
        self._last.clear()


class Scale(SimulatedDevice):
    """The device's side of the line."""

    def __init__(self, step: float = 0.1, capacity: float = 500.0, pace: float = 1.0) -> None:
        super().__init__("scale")
        self._tick_s = TICK_S / pace
        self.balance = ScaleMechanics(step, capacity)
        self.shown: tuple[float, str] = (0.0, "moving")
        self._places = max(0, -math.floor(math.log10(step) + 1e-9))
        threading.Thread(target=self._run_scale, daemon=True).start()

    def add_load(self, grams: float) -> None:
        """Change the load by so much, never below 0."""
        self.balance.load_g = max(0.0, self.balance.load_g + grams)

    def _run_scale(self) -> None:
        ticks = 0
        while self.is_on:
            if ticks % 20 == 0:
                self.send(range_line(self.balance.step, self.balance.capacity))
            self.shown = self.balance.tick()
            self.send(weight_line(*self.shown, self._places))
            ticks += 1
            time.sleep(self._tick_s)


def parser() -> argparse.ArgumentParser:
    """Return the parser of the command line."""
    parser = argparse.ArgumentParser(
        prog="bambola-scale", description=tr("A simulated kitchen scale.")
    )
    parser.add_argument("--plain", action="store_true", help=tr("commands from standard input"))
    parser.add_argument("--step", type=float, default=0.1, help=tr("what it shows, g"))
    parser.add_argument("--capacity", type=float, default=500.0, help=tr("what it carries, g"))
    parser.add_argument(
        "--pace", type=float, default=1.0, help=tr("how many times faster than a real one")
    )
    return parser


def main(argv: Sequence[str] | None = None) -> int:
    """Run the simulated scale until it is switched off."""
    known = parser()
    args = known.parse_args(argv)
    if not 0.1 <= args.pace <= 20:
        known.error(tr("the pace must lie between 0.1 and 20"))
    if not 0.001 <= args.step < args.capacity <= 100_000:
        known.error(tr("the step must be 0.001 g or more, and the capacity larger, up to 100 kg"))
    scale = Scale(args.step, args.capacity, args.pace)
    print(scale.where, flush=True)
    if args.plain:
        run_commands(scale)
    else:
        _show_window(scale)
    scale.unplug()
    return 0


def run_commands(scale: Scale) -> None:
    """Execute the commands on standard input, one a line."""

    def load(grams: float) -> None:
        scale.balance.load_g = max(0.0, grams)

    def drift(speed: float) -> None:
        scale.balance.drift_g_s = speed

    plain: dict[str, Callable[[], None]] = {"tare": scale.balance.tare, "rubbish": scale.send_noise}
    counted: dict[str, Callable[[float], None]] = {
        "load": load,
        "add": scale.add_load,
        "take": lambda g: scale.add_load(-g),
        "drift": drift,
    }
    for line in sys.stdin:
        word, _, number = line.strip().partition(" ")
        if word == "off":
            return
        try:
            if word in plain:
                plain[word]()
            else:
                counted[word](float(number))
        except (KeyError, ValueError):
            print(
                tr(
                    "“{strip}”: write load, add, take or drift with grams, or tare, rubbish, off.",
                    strip=line.strip(),
                ),
                file=sys.stderr,
                flush=True,
            )


def _show_window(scale: Scale) -> None:
    from PyQt6.QtCore import Qt, QTimer
    from PyQt6.QtWidgets import QApplication, QGridLayout, QLabel, QPushButton, QWidget

    app = QApplication(sys.argv[:1])
    window = QWidget()
    window.setWindowTitle(tr("Simulated scale"))
    told = QLabel()
    told.setStyleSheet("font-size: 34px; padding: 4px;")
    told.setAlignment(Qt.AlignmentFlag.AlignCenter)
    grid = QGridLayout(window)
    grid.addWidget(told, 0, 0, 1, 3)
    heaps = (
        (tr("a wisp"), 0.05),
        (tr("a pinch"), 0.2),
        (tr("a tuft"), 1.0),
        (tr("a handful"), 5.0),
    )
    for row, (name, grams) in enumerate(heaps, 1):
        grid.addWidget(QLabel(name), row, 0)
        for column, sign in ((1, -1), (2, 1)):
            words = tr("Lay on {heap}", heap=name) if sign > 0 else tr("Take off {heap}", heap=name)
            button = QPushButton("+" if sign > 0 else "−")
            button.setAccessibleName(words)
            button.setToolTip(words)
            button.clicked.connect(lambda _=False, g=sign * grams: scale.add_load(g))
            grid.addWidget(button, row, column)

    def empty() -> None:
        scale.balance.load_g = 0.0

    for column, (name, do) in enumerate(
        ((tr("&Tare"), scale.balance.tare), (tr("&Empty"), empty)), 1
    ):
        button = QPushButton(name)
        button.clicked.connect(lambda _=False, do=do: do())
        grid.addWidget(button, 5, column)
    grid.addWidget(QLabel(tr("It is at {where}", where=scale.where)), 6, 0, 1, 3)

    def look() -> None:
        grams, state = scale.shown
        told.setText(
            "over" if state == "over" else f"{grams:.2f} g" + (" ·" if state == "steady" else "")
        )

    timer = QTimer(window)
    timer.timeout.connect(look)
    timer.start(100)
    show_at_hand(window)
    app.exec()


if __name__ == "__main__":
    sys.exit(main())
