"""What was noted, failed and helped when the same design was made before, told again at its step."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel

from bambola.core.bench import Making
from bambola.core.order import Step
from bambola.desk.kit.theme import Theme
from bambola.desk.session.bench_desk import BenchDesk
from bambola.language import tr


class LastTime(QLabel):
    """A slip over the card; hidden where there is nothing to tell."""

    def __init__(self, desk: BenchDesk, theme: Theme) -> None:
        super().__init__()
        self.desk, self.theme = desk, theme
        self.setWordWrap(True)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.hide()

    def restyle(self) -> None:
        """The look in force."""
        d, px = self.theme.dyes, self.theme.px
        self.setFont(self.theme.text(16))
        self.setStyleSheet(
            f"background: {d.slip.name()}; color: {d.ink.name()}; border-radius: {px(8)}px; "
            f"padding: {px(6)}px;"
        )

    def show_step(self, step: Step) -> None:
        """Tell what is known of a step from before; at the first one also what was to be otherwise."""
        before = [m for name, m in self.desk.of_design.items() if name != self.desk.in_hand]
        lines = list(dict.fromkeys(line for m in reversed(before) for line in _told(m, step)))
        self.setText("\n".join(lines))
        self.setVisible(bool(lines))


def _told(making: Making, step: Step) -> Iterator[str]:
    if step.n == 1 and making.next_time:
        yield tr("Last time you wanted: {what}", what=making.next_time)
    if note := making.notes.get(step.key):
        yield tr("Last time: “{note}”", note=note)
    failed = "failed" in making.checks.get(step.key, {}).values()
    helped = "; ".join(making.mended.get(step.key, ()))
    if helped:
        yield tr("Last time it went wrong. What helped: {how}", how=helped)
    elif failed:
        yield tr("Last time a check failed here.")
    loose = (join for join, held in making.held.items() if not held)
    if step.key.sort == "join" and any(join.rpartition(":")[0] == step.part for join in loose):
        yield tr("Last time this join came loose.")
