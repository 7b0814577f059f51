"""The tool for framing a picture: straighten, crop, ground line, midline, scale."""

from __future__ import annotations

import math
from functools import partial

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from bambola.core.figure import Framing
from bambola.core.figure.shapes import LEAST_MM
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.chips import Chip
from bambola.desk.stations.measure.hands.base import ARROWS, ENTER, Hand
from bambola.language import N_, tr

GRIPS = ("ground", "midline", "tilt", "crown", "ruler-a", "ruler-b", "crop-a", "crop-b")
_TOLD = {"midline": N_("midline"), "tilt": N_("pull along something upright")}
RULER_MM = 100.0

FLIPPED = N_("It looks the other way")


class FrameHand(Hand):
    """Lines and knobs in the picture that can be dragged, or moved with the arrow keys."""

    name = N_("Lay the picture")
    told = N_(
        "Drag the ground line under the feet, the midline through the middle and the "
        "top line to the crown. The knob on the midline straightens the picture; put "
        "the two pins on the ends of a ruler; the corners crop."
    )
    camera_told = N_(
        "Load a picture, drop one here, or paste it. Take it at the height of the "
        "figure’s middle, from two metres away or more with the zoom, in even light in "
        "front of a plain wall; for the side, its left side."
    )
    """What is told where no picture lies yet."""
    whole_picture, shows_figure, dims_outside = True, False, False

    def __init__(self, board: Board) -> None:
        super().__init__(board)
        self.grip = "ground"
        self.ruler_mm = RULER_MM
        self._pins: dict[str, tuple[tuple[float, float], tuple[float, float]]] = {}
        self._drag: Framing | None = None
        self._shown: Framing | None = None

    @property
    def framing(self) -> Framing | None:
        """The framing during a drag."""
        return self._shown or self.board.framing

    # Places, in pixels of the straightened picture

    def pins(self) -> tuple[tuple[float, float], tuple[float, float]]:
        """Return the two ends of the ruler."""
        framing = self.board.framing
        assert framing is not None
        left = framing.midline - framing.width * 0.32
        known = self._pins.get(self.board.view)
        return known or ((left, framing.ground), (left, framing.ground - framing.height * 0.25))

    def places(self) -> dict[str, QPointF]:
        """Return the place of every grip on the board."""
        framing = self.framing
        if framing is None:
            return {}
        height = self.known_height() / (framing.mm_px or 1.0)
        crop = framing.crop or (0.0, 0.0, float(framing.width), float(framing.height))
        reach = framing.height * 0.46
        a, b = self.pins()
        spots = {
            "ground": (framing.midline + framing.width * 0.22, framing.ground),
            "midline": (framing.midline, framing.ground - height * 0.5),
            "tilt": (framing.midline, max(crop[1] + 12, framing.ground - height - reach * 0.06)),
            "crown": (framing.midline - framing.width * 0.4, framing.ground - height),
            "ruler-a": a,
            "ruler-b": b,
            "crop-a": crop[:2],
            "crop-b": crop[2:],
        }
        return {name: self._to_screen(spot) for name, spot in spots.items()}

    def _to_screen(self, px: tuple[float, float]) -> QPointF:
        framing = self.board.framing
        assert framing is not None
        return self.screen(*framing.to_mm(*px))

    def _to_picture(self, at: QPointF) -> tuple[float, float]:
        framing = self.board.framing
        assert framing is not None
        return framing.to_px(*self.mm(at))

    def known_height(self) -> float:
        """Return the original's finished height: as typed, or the figure's."""
        return self.studio.survey.height or self.studio.plan_as_made().from_height_mm

    # Pulling

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        framing = self.board.framing
        if framing is None:
            return
        places = self.places()
        nearest = min(places, key=lambda n: (places[n] - at).manhattanLength())
        if self.is_near(places[nearest], at, 16):
            self.grip = nearest
        elif abs(at.y() - places["ground"].y()) < self.theme.px(7):
            self.grip = "ground"
        elif abs(at.y() - places["crown"].y()) < self.theme.px(7):
            self.grip = "crown"
        elif abs(at.x() - places["midline"].x()) < self.theme.px(7):
            self.grip = "midline"
        else:
            return
        self._drag = framing
        self.board.hold_still()

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        if held and self._drag is not None:
            self._drag_grip(self._drag, self.grip, self._to_picture(at))

    def release(self, at: QPointF, button: Qt.MouseButton) -> None:
        if self._drag is None:
            return
        shown, self._shown, self._drag = self._shown, None, None
        if shown is not None:
            self._accept_framing(shown, 0)
        self.board.let_go()

    def _drag_grip(self, was: Framing, grip: str, to: tuple[float, float]) -> None:
        x, y = to
        if grip.startswith("ruler"):
            a, b = self.pins()
            self._pins[self.board.view] = ((x, y), b) if grip == "ruler-a" else (a, (x, y))
            return
        self._shown = self._framing_pulled(was, grip, x, y)

    def _framing_pulled(self, was: Framing, grip: str, x: float, y: float) -> Framing:
        if grip == "ground":
            return was.replaced(ground=y)
        if grip == "midline":
            return was.replaced(midline=x)
        if grip == "crown":
            return was.replaced(mm_px=self.known_height() / max(1.0, was.ground - y))
        if grip == "tilt":
            lean = math.degrees(math.atan2(x - was.midline, max(1.0, was.ground - y)))
            return straightened(was, was.turn + lean)
        left, top, right, bottom = was.crop or (0.0, 0.0, float(was.width), float(was.height))
        least = 0.05 * was.width
        if grip == "crop-a":
            left, top = max(0.0, min(x, right - least)), max(0.0, min(y, bottom - least))
        else:
            right = min(float(was.width), max(x, left + least))
            bottom = min(float(was.height), max(y, top + least))
        return was.replaced(crop=(left, top, right, bottom))

    def _accept_framing(self, framing: Framing, gesture: int) -> None:
        words = {"tilt": tr("Straighten the picture"), "crown": tr("Set the scale")}.get(
            self.grip, tr("Lay the picture")
        )
        survey = self.studio.survey.framed(framing)
        self.studio.edit(words, survey=survey, gesture=gesture)

    # Keys

    def chips(self) -> list[Chip]:
        return [
            Chip(N_("Its height…"), partial(self.type_grip, "crown"), needs_picture=True),
            Chip(N_("Between the pins…"), partial(self.type_grip, "ruler-b"), needs_picture=True),
            Chip(FLIPPED, self.flip, self._is_flipped, needs_picture=True),
        ]

    def _is_flipped(self) -> bool:
        return self.board.framing is not None and self.board.framing.flipped

    def flip(self) -> None:
        """Mirror the picture."""
        framing = self.board.framing
        if framing is not None:
            self._accept_framing(framing.replaced(flipped=not framing.flipped), 0)

    def handle_key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        framing = self.board.framing
        if framing is None:
            return False
        if key in ARROWS:
            du, dv = ARROWS[key]
            far = self.step(keys) / (framing.mm_px or 1.0)
            self.nudge(du * far, -dv * far)
        elif text == "g":
            self.grip = GRIPS[(GRIPS.index(self.grip) + 1) % len(GRIPS)]
        elif text == "f":
            self.flip()
        elif key in ENTER or text.isdigit():
            self.type_length(text if text.isdigit() else "")
        else:
            return False
        return True

    def nudge(self, dx: float, dy: float) -> None:
        """Move the current grip by so many pixels of the picture."""
        framing = self.board.framing
        assert framing is not None
        spots = {name: self._to_picture(at) for name, at in self.places().items()}
        x, y = spots[self.grip]
        if self.grip.startswith("ruler"):
            self._drag_grip(framing, self.grip, (x + dx, y + dy))
        else:
            self._accept_framing(
                self._framing_pulled(framing, self.grip, x + dx, y + dy), self.burst()
            )

    def type_grip(self, grip: str) -> None:
        """Select a grip and type its length."""
        self.grip = grip
        self.type_length()

    def type_length(self, start: str = "") -> None:
        """Type the figure's height, or for the ruler the length between its ends."""
        places = self.places()
        if self.grip.startswith("ruler"):
            self.board.ask(
                places["ruler-b"],
                start or self.length(self.ruler_mm),
                tr("Length between the pins"),
                self.scale_by_ruler,
            )
        else:
            self.board.ask(
                places["crown"],
                start or self.length(self.known_height()),
                tr("Height of the original"),
                self.scale_by_height,
            )

    def scale_by_height(self, mm: float) -> None:
        """Set the scale of every picture by the original's finished height."""
        if not LEAST_MM <= mm <= 1_000_000:
            self.studio.refused.emit(tr("A height must lie above 0 and up to 1000 m."))
            return
        survey = self.studio.survey
        factor = mm / self.known_height()
        framings = tuple(
            f.replaced(mm_px=f.mm_px * factor) if f.mm_px else f for f in survey.framings
        )
        self.studio.edit(tr("Set the scale"), survey=survey.replaced(height=mm, framings=framings))

    def scale_by_ruler(self, mm: float) -> None:
        """Set this picture's scale by the known length of the ruler."""
        framing = self.board.framing
        (ax, ay), (bx, by) = self.pins()
        apart = math.hypot(ax - bx, ay - by)
        if framing is None or not LEAST_MM <= mm <= 1_000_000 or apart < 2:
            self.studio.refused.emit(
                tr("The length between the pins must be above 0, and the pins apart.")
            )
            return
        self.ruler_mm = mm
        self._accept_framing(framing.replaced(mm_px=mm / apart), 0)

    def double(self, at: QPointF) -> None:
        places = self.places()
        if places and (
            self.is_near(places["ruler-a"], at, 18) or self.is_near(places["ruler-b"], at, 18)
        ):
            self.grip = "ruler-b"
            self.type_length()
        elif places and abs(at.y() - places["crown"].y()) < self.theme.px(14):
            self.grip = "crown"
            self.type_length()

    # Painting

    def paint(self, painter: QPainter) -> None:
        if self.framing is None:
            return
        places, d, px = self.places(), self.theme.dyes, self.theme.px
        width, height = float(self.board.width()), float(self.board.height())
        if self.framing.crop or self.grip.startswith("crop"):
            painter.setPen(QPen(d.paper, 2, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(places["crop-a"], places["crop-b"]))
        for name, colour in (("ground", d.madder), ("crown", d.madder)):
            y = places[name].y()
            self._draw_line(painter, QPointF(6, y), QPointF(width - 6, y), colour)
        x = places["midline"].x()
        self._draw_line(
            painter, QPointF(x, places["tilt"].y()), QPointF(x, height - px(24)), d.woad
        )
        self._draw_line(painter, places["ruler-a"], places["ruler-b"], d.weld)
        for name, at in places.items():
            mine = name == self.grip
            painter.setPen(QPen(d.ink, 2 if mine else 1))
            painter.setBrush(
                d.weld
                if name.startswith("ruler")
                else d.woad
                if name in ("midline", "tilt")
                else d.paper
                if name.startswith("crop")
                else d.madder
            )
            painter.drawEllipse(at, px(9 if mine else 6.5), px(9 if mine else 6.5))
        self.board.tag(
            painter, places["crown"], tr("{length} high", length=self.length(self.known_height()))
        )
        self.board.tag(painter, places["ground"], "ground")
        a, b = places["ruler-a"], places["ruler-b"]
        self.board.tag(
            painter, (a + b) / 2, tr("{length} apart", length=self.length(self.ruler_mm)), d.weld
        )
        if self.grip in ("midline", "tilt"):
            self.board.tag(painter, places[self.grip], tr(_TOLD[self.grip]), d.woad)

    def _draw_line(self, painter: QPainter, a: QPointF, b: QPointF, colour: QColor) -> None:
        under = QColor(self.theme.dyes.paper)
        under.setAlpha(150)
        painter.setPen(QPen(under, self.theme.px(1.8) + 2.4))
        painter.drawLine(a, b)
        painter.setPen(QPen(colour, self.theme.px(1.8), Qt.PenStyle.DashLine))
        painter.drawLine(a, b)

    def give_up(self) -> None:
        self._drag = self._shown = None


def straightened(was: Framing, turn: float) -> Framing:
    """Return ``was`` turned to ``turn`` degrees, with ground line and midline on the same spot of the
    figure."""
    spot = was.original(was.midline, was.ground)
    new = was.replaced(turn=(turn + 180) % 360 - 180)
    midline, ground = new.straightened(*spot)
    return new.replaced(midline=midline, ground=ground)
