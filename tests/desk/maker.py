"""A maker at the measure station: works the real widgets by mouse and keys, from what is in a picture.

Where something lies in the picture is worked out from the figure that was photographed and from where
the camera stood; that is all this maker sees. A hand that is not quite steady adds a little to it.
"""

from __future__ import annotations

import itertools
import json
import math
from collections.abc import Sequence

import numpy as np
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from bambola.core.figure import Figure
from bambola.core.sight.profile import places_along
from bambola.core.solids import AXES, Copy, outline_of_copy, own_copy, place
from bambola.demo import HERON, PICTURES, load_demo
from bambola.desk.shell.window import Window
from bambola.desk.stations.menus import PARTS
from tests.typing_hands import type_text

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
Spot = tuple[float, float]
UNSTEADY_MM = 0.15
ON_THE_EDGE_PX = 2.0
"""A bead so near to the edge is left where it is: a maker would see nothing to pull."""


class Maker:
    """Measures the marsh heron from two of its pictures."""

    def __init__(self, window: Window, qtbot: QtBot, backdrop: str) -> None:
        self.window, self.qtbot, self.backdrop = window, qtbot, backdrop
        self.station, self.board = window.measure_station, window.measure_station.board
        self.truth: Figure = load_demo(HERON).figure
        self.placement = place(self.truth)
        self.camera = json.loads((PICTURES / "heron.json").read_text())
        self.hand = np.random.default_rng(4)
        self.proposed: dict[str, tuple[str | None, bool]] = {}

    # What the maker sees

    def note(self) -> dict[str, float]:
        found: dict[str, float] = self.camera[f"heron-{self.board.view}-{self.backdrop}"]
        return found

    def pixel(self, right: float, up: float) -> Spot:
        """A pixel of the picture at which a place (mm from midline and ground) is seen."""
        note = self.note()
        x, y = note["midline"] + right / note["mm_px"], note["ground"] - up / note["mm_px"]
        return self.askew(x, y)

    def askew(self, x: float, y: float) -> Spot:
        note, framing = self.note(), self.station.studio.survey.framing(self.board.view)
        assert framing
        a = math.radians(note["askew_deg"])
        dx, dy = x - framing.width / 2, y - framing.height / 2
        return (
            framing.width / 2 + math.cos(a) * dx + math.sin(a) * dy,
            framing.height / 2 - math.sin(a) * dx + math.cos(a) * dy,
        )

    def seen(self, point: np.ndarray) -> Spot:
        """Where a point of the figure is seen, mm from midline and ground."""
        right, up, _ = AXES[self.board.view]
        return float(right @ point), float(up @ point) - float(up[2]) * self.placement.ground

    def copy(self, part: str) -> Copy:
        found = own_copy(self.placement, part)
        assert found
        return found

    def spots(self, part: str, *shares: float) -> list[Spot]:
        return [self.seen(self.copy(part).point(share)) for share in shares]

    def joints(self, part: str) -> list[Spot]:
        copy = self.copy(part)
        turn, at = copy.matrix[:3, :3], copy.matrix[:3, 3]
        return [self.seen(turn @ np.array([j.x, j.y, j.z]) + at) for j in copy.shape.joints]  # type: ignore[union-attr]

    def at(self, spot: Spot, unsteady: bool = True) -> QPointF:
        """Where on the board a place is, as well as the hand can point."""
        framing, lay = self.board.framing, self.board.lay
        assert framing and lay
        wobble = self.hand.normal(0, UNSTEADY_MM, 2) if unsteady else np.zeros(2)
        x, y = self.pixel(spot[0] + wobble[0], spot[1] + wobble[1])
        return lay.to_screen(*framing.to_mm(*framing.straightened(x, y)))

    # What the maker's hands do

    def chip(self, words: str) -> None:
        QTest.mouseClick(self.station.chips.buttons[words], LEFT)

    def drag(self, start: QPointF, end: QPointF) -> None:
        a, b = start.toPoint(), end.toPoint()
        QTest.mousePress(self.board, LEFT, NONE, a)
        for share in (0.5, 1.0):
            QTest.mouseMove(self.board, a + (b - a) * share)
        QTest.mouseRelease(self.board, LEFT, NONE, b)

    def zoom_to(self, spots: Sequence[Spot], room: float = 0.0) -> None:
        """Turn the wheel over a part until it fills the board."""
        self.board.fit_all()
        wide = max(math.dist(a, b) for a, b in itertools.combinations(spots, 2)) + room + 4
        middle = (sum(s[0] for s in spots) / len(spots), sum(s[1] for s in spots) / len(spots))
        assert self.board.lay
        start = self.at(middle, unsteady=False)
        factor = min(self.board.height(), self.board.width()) * 0.8 / (wide * self.board.lay.scale)
        turns = round(math.log(max(1.0, factor)) / math.log(1.0015))
        for at, delta in ((start, turns),):
            event = QWheelEvent(
                at, self.board.mapToGlobal(at), QPoint(), QPoint(0, delta), Qt.MouseButton.NoButton,
                NONE, Qt.ScrollPhase.NoScrollPhase, False,
            )  # fmt: skip
            QApplication.sendEvent(self.board, event)
        # A middle button pulls the part into the middle of the board.
        now, goal = (
            self.at(middle, unsteady=False),
            QPointF(self.board.width() / 2, self.board.height() / 2),
        )
        QTest.mousePress(self.board, Qt.MouseButton.MiddleButton, NONE, now.toPoint())
        QTest.mouseMove(self.board, goal.toPoint())
        QTest.mouseRelease(self.board, Qt.MouseButton.MiddleButton, NONE, goal.toPoint())

    def draw(self, spots: Sequence[Spot]) -> None:
        """Draw along a part: one pull if it is straight, clicks and Enter if it bends."""
        self.zoom_to(spots)
        places = [self.at(spot) for spot in spots]
        if len(places) == 2:
            self.drag(*places)
            return
        for place_ in places:
            QTest.mouseClick(self.board, LEFT, NONE, place_.toPoint())
        QTest.keyClick(self.board, Qt.Key.Key_Return)

    def new_part(
        self, name: str, kind: str, parent: str, spots: Sequence[Spot], pair: bool = False
    ) -> None:
        """Draw a part nobody knows yet, and say what it is."""
        if not self.station.chips.buttons["A new part"].isChecked():
            self.chip("A new part")
        self.draw(spots)
        slip = self.station.slip
        assert slip.isVisible(), name
        self.proposed[name.lower()] = (slip.parent_.currentData(), slip.pair.isChecked())
        line = slip.name.lineEdit()
        assert line
        line.selectAll()
        type_text(line, name)
        slip.kind.setCurrentIndex(slip.kind.findData(kind))
        slip.parent_.setCurrentIndex(max(0, slip.parent_.findData(parent)))
        if slip.pair.isChecked() != pair:
            slip.pair.click()
        QTest.mouseClick(slip.take, LEFT)

    def draw_along(self, part: str, spots: Sequence[Spot]) -> None:
        """Draw along the part in hand in this view."""
        self.station.studio.selection.select_part(part)
        self.draw(spots)

    def by_hand(self, part: str, spots: Sequence[Spot]) -> None:
        """Draw along a part that others cover, and pull the beads to its edges as they are seen."""
        self.station.studio.selection.select_part(part)
        self.chip("Without the outline")
        self.draw(spots)
        self.pull_beads(part)
        self.chip("Without the outline")

    def pull_beads(self, part: str) -> None:
        edge = outline_of_copy(
            self.copy(part), self.board.view, np.array([0, 0, -self.placement.ground])
        )
        trace = self.station.line.trace()
        assert trace
        ends = np.array([self.back(point) for point in trace.points])
        for i in range(len(trace.left)):
            places, ahead = places_along(ends, np.array([i / (len(trace.left) - 1)]))
            aside = np.array([-ahead[0, 1], ahead[0, 0]])
            for side, sense in (("left", 1), ("right", -1)):
                reach = _reach(edge, places[0], sense * aside)
                trace = self.station.line.trace()
                assert trace
                bead = self.station.line.beads(trace)[(side, i)]
                goal = places[0] + sense * aside * reach
                place = self.at((float(goal[0]), float(goal[1])))
                if (place - bead).manhattanLength() > ON_THE_EDGE_PX:
                    self.drag(bead, place)

    def back(self, point: Spot) -> Spot:
        """A place in the framed picture's mm as mm from the true midline and ground."""
        framing, note = self.board.framing, self.note()
        assert framing
        x, y = framing.original(*framing.to_px(*point))
        a = -math.radians(note["askew_deg"])
        dx, dy = x - framing.width / 2, y - framing.height / 2
        x = framing.width / 2 + math.cos(a) * dx + math.sin(a) * dy
        y = framing.height / 2 - math.sin(a) * dx + math.cos(a) * dy
        return (x - note["midline"]) * note["mm_px"], (note["ground"] - y) * note["mm_px"]

    def wait_for_outline(self) -> None:
        sighting = self.station.sighting
        self.qtbot.waitUntil(
            lambda: sighting.is_idle and sighting.silhouette(self.board.view) is not None,
            timeout=20_000,
        )

    # The whole task

    def measure_parts(self) -> None:
        """Draw along every part of the heron, from the side and from the front."""
        self.station.go_to_step(PARTS)
        self.board.turn_to("side")
        self.new_part("Body", "ball", "", self.spots("body", 0, 1))
        self.new_part("Neck", "limb", "body", self.joints("neck"))
        self.new_part("Head", "ball", "neck", self.spots("head", 0, 1))
        self.new_part("Bill", "cone", "head", self.spots("bill", 0, 1))
        self.new_part("Crest", "rope", "head", self.spots("crest", 0, 0.5, 1))
        self.new_part("Tail", "cone", "body", self.spots("tail", 0, 1))
        self.board.turn_to("front")
        self.new_part("Leg", "limb", "body", self.joints("leg"), pair=True)
        self.new_part("Foot", "pad", "leg", self.spots("foot", 0, 1))
        up = np.array([0.0, 0.0, 1.0])
        body = self.copy("body")
        low, high = -body.reach(-up) - self.placement.ground, body.reach(up) - self.placement.ground
        self.by_hand("body", [(0.0, low), (0.0, high)])
        self.draw_along("head", self.spots("head", 0, 1))
        self.board.turn_to("side")
        self.draw_along("leg", self.joints("leg"))
        self.draw_along("foot", self.spots("foot", 0, 1))
        self.chip("Without the outline")
        self.new_part("Wing", "leaf", "body", self.spots("wing", 0, 1), pair=True)
        self.pull_beads("wing")
        self.chip("Without the outline")
        self.board.turn_to("front")
        self.by_hand("wing", self.spots("wing", 0, 1))

    def lay_wools(self) -> None:
        """Lay the heron's wools on its parts and say how firm they are."""
        swatches, head = self.station.swatches, self.station.card.head
        ids = [wool for wool, _, _ in swatches.wools]
        for part in self.truth.parts:
            self.station.studio.selection.select_part(part.id)
            swatches.select_row(ids.index(part.core))
            QTest.keyClick(swatches, Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
            if part.coat:
                swatches.select_row(ids.index(part.coat.wool))
                QTest.keyClick(swatches, Qt.Key.Key_Return)
            else:
                QTest.keyClick(swatches, Qt.Key.Key_Delete)
            head.refresh()
            head.firm.setCurrentIndex(head.firm.findData(part.firmness))
            head.firm.activated.emit(head.firm.currentIndex())


def _reach(edge: np.ndarray, at: np.ndarray, way: np.ndarray) -> float:
    """How far from ``at`` the outline ``edge`` (n, 2) is left along ``way``, mm."""
    best = 0.0
    for a, b in zip(edge, np.roll(edge, -1, axis=0), strict=True):
        across = np.column_stack([way, a - b])
        if abs(np.linalg.det(across)) > 1e-9:
            t, share = np.linalg.solve(across, a - at)
            if t > 0 and 0 <= share <= 1:
                best = max(best, float(t))
    return best
