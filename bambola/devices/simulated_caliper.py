"""The simulated caliper ``bambola-caliper``: makes a pseudo-terminal and speaks the protocol.

Its window has a jaw to slide and a button to press. With ``--plain`` it reads one command a line from
standard input: a number of millimetres presses the button; ``again`` repeats the last line, ``rubbish`` sends
noise, ``off`` unplugs it.
"""

from __future__ import annotations

import argparse
import sys
from collections.abc import Sequence

from bambola.devices.protocol import reading_line
from bambola.devices.simulated import SimulatedDevice, show_at_hand
from bambola.language import tr


class Caliper(SimulatedDevice):
    """The device's side of the line."""

    def __init__(self) -> None:
        super().__init__("caliper")
        self._number, self._last = 0, ""

    def press(self, mm: float) -> None:
        """Press the button: send a reading."""
        self._number += 1
        self._last = reading_line(self._number, mm)
        self.send(self._last)

    def repeat_reading(self) -> None:
        """Send the last reading once more, like a bouncing button."""
        self.send(self._last)


def parser() -> argparse.ArgumentParser:
    """Return the parser of the command line."""
    parser = argparse.ArgumentParser(prog="bambola-caliper", description=tr("A simulated caliper."))
    parser.add_argument("--plain", action="store_true", help=tr("commands from standard input"))
    return parser


def main(argv: Sequence[str] | None = None) -> int:
    """Run the simulated caliper until it is switched off."""
    args = parser().parse_args(argv)
    caliper = Caliper()
    print(caliper.where, flush=True)
    if args.plain:
        _run_commands(caliper)
    else:
        _show_window(caliper)
    caliper.unplug()
    return 0


def _run_commands(caliper: Caliper) -> None:
    menu_actions = {"again": caliper.repeat_reading, "rubbish": caliper.send_noise}
    for line in sys.stdin:
        word = line.strip()
        if word == "off":
            return
        if word in menu_actions:
            menu_actions[word]()
            continue
        try:
            caliper.press(float(word))
        except ValueError:
            print(
                tr("“{word}”: write millimetres, again, rubbish or off.", word=word),
                file=sys.stderr,
            )


def _show_window(caliper: Caliper) -> None:
    from PyQt6.QtCore import Qt
    from PyQt6.QtWidgets import QApplication, QLabel, QPushButton, QSlider, QVBoxLayout, QWidget

    app = QApplication(sys.argv[:1])
    window = QWidget()
    window.setWindowTitle(tr("Simulated caliper"))
    told, jaw, button = (
        QLabel(),
        QSlider(Qt.Orientation.Horizontal),
        QPushButton(tr("&Send the reading")),
    )
    jaw.setRange(0, 20000)
    jaw.setAccessibleName(tr("Jaw opening, hundredths of a millimetre"))
    jaw.valueChanged.connect(lambda v: told.setText(tr("{v:.2f} mm", v=v / 100)))
    jaw.setValue(2500)
    told.setStyleSheet("font-size: 34px; padding: 6px;")
    told.setAlignment(Qt.AlignmentFlag.AlignCenter)
    button.clicked.connect(lambda: caliper.press(jaw.value() / 100))
    button.setDefault(True)
    column = QVBoxLayout(window)
    for widget in (told, jaw, button, QLabel(tr("It is at {where}", where=caliper.where))):
        column.addWidget(widget)
    window.setMinimumWidth(320)
    show_at_hand(window)
    app.exec()


if __name__ == "__main__":
    sys.exit(main())
