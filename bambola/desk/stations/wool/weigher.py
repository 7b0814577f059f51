"""Turns the scale's readings into recorded weights, portion by portion."""

from __future__ import annotations

import time
from collections.abc import Callable

from PyQt6.QtCore import QObject, pyqtSignal

from bambola.core.quantities import show_mass
from bambola.core.wool.amounts import is_pinch
from bambola.core.wool.pan import PanState, WeighingTarget, after_reading, aim_for
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wool.hand import WoolHand, pinch_across
from bambola.devices.link import DeviceLink
from bambola.devices.protocol import Range, Weight
from bambola.language import N_, tr

WORDS = {
    "lift off": N_("Lift it off the pan."),
    "empty": N_("Lay the wool on."),
    "more": N_("A little more."),
    "hold still": N_("Hold still…"),
    "right": N_("That is right."),
    "less": N_("Too much: take some off."),
    "over": N_("This is more than the scale can carry: take it off."),
}
"""How the pan stands, told to the maker."""


class Weigher(QObject):
    """The pan at the desk. A weight steady in its target is recorded, and the next portion becomes
    current."""

    changed = pyqtSignal()
    taken = pyqtSignal(float)

    def __init__(
        self,
        studio: EditorSession,
        hand: WoolHand,
        link: DeviceLink,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        super().__init__()
        self.clock = clock
        self.studio, self.hand, self.link = studio, hand, link
        self.state = PanState()
        self.capacity_g: float | None = None
        self.said = ""
        self._step: float | None = None
        self.active = False
        link.weight.connect(self._on_weight)
        link.range.connect(self._on_range)
        link.state_changed.connect(self._on_plugged_in)
        hand.changed.connect(self.changed)

    @property
    def step_g(self) -> float:
        """The scale's resolution: as it reports, or as the bench says."""
        return self._step or self.studio.bench.scale_g

    @property
    def aim(self) -> WeighingTarget | None:
        """The target of the current portion."""
        now = self.hand.current
        return aim_for(now.portion, self.step_g, self.hand.twin_g) if now else None

    @property
    def words(self) -> str:
        """The state of the pan as text."""
        if not self.hand.portions:
            return tr("There is no wool to weigh out.")
        if not self.link.is_open:
            return tr("Connect a scale, or type what yours shows.")
        return tr(WORDS[self.state.standing])

    def _on_plugged_in(self) -> None:
        self.state = PanState()
        if not self.link.is_open:
            self._step = self.capacity_g = None
        self.changed.emit()

    def _on_range(self, span: Range) -> None:
        if (self._step, self.capacity_g) != (span.step_g, span.capacity_g):
            self._step, self.capacity_g = span.step_g, span.capacity_g
            self.changed.emit()

    def _on_weight(self, said: Weight) -> None:
        aim = self.aim
        if aim is None or not self.active:
            return
        self.state = after_reading(
            self.state, said.grams, said.state, self.clock(), aim, self.step_g
        )
        if self.state.taken is not None:
            self._take_down(self.state.taken)
        self.changed.emit()

    def _take_down(self, grams: float) -> None:
        """Record the weight on the pan for the current portion."""
        self.state = self.state.lifted()
        self.enter(grams)

    def enter(self, grams: float) -> bool:
        """Record a weight for the current portion and go to the next."""
        now, aim, units = self.hand.current, self.aim, self.studio.units
        if now is None or aim is None:
            return False
        each = grams / aim.parts
        if not self.hand.desk.weigh(now.key, now.portion.wool, each):
            return False
        title = self.studio.say(now.title)
        self.said = tr("{title}: {each} recorded", title=title, each=show_mass(each, units))
        if is_pinch(now.portion):
            self.said = tr(
                "{title}: pull off a pinch that rolls to a ball of {across}",
                title=title,
                across=pinch_across(now.portion, units),
            )
        elif aim.parts > 1:
            self.said = tr(
                "{title}: {grams}; tear it into {parts}, and take one",
                title=title,
                grams=show_mass(grams, units),
                parts=aim.parts,
            )
        self.hand.next_undone()
        self.taken.emit(each)
        return True

    def take_now(self) -> bool:
        """Record the present weight although it is off target: the maker knows."""
        if not self.link.is_open or self.state.standing in ("empty", "over", "lift off"):
            return False
        self._take_down(self.state.grams)
        return True

    def tare(self) -> None:
        """Tare the pan."""
        self.state = self.state.tared()
        self.changed.emit()

    def strike_last(self) -> bool:
        """Delete the last recorded weight; its portion becomes current again."""
        rows = sorted(self.hand.done.values(), key=lambda row: row.n)
        if not rows:
            return False
        last = rows[-1]
        if not self.hand.desk.unweigh([last]):
            return False
        self.said = ""
        self.hand.select_portion(last.portion)
        return True
