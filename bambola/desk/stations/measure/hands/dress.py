"""The tool for clothes and fur, edited by dragging on the figure."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen
from PyQt6.QtWidgets import QMenu

from bambola.core.figure import Figure, Part
from bambola.core.figure.places import Band, Where
from bambola.core.plan.making.dress import WAYS_WORN, dress_of, dress_plans, refuse_unwearable
from bambola.core.plan.making.ready_to_wear import READY, WornAnswer, with_worn
from bambola.core.solids import Copy, own_copy
from bambola.core.solids.edit import axis_ends
from bambola.core.solids.regions import points_in_places
from bambola.core.words import error_words
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.chips import Chip
from bambola.desk.stations.measure.hands.base import ARROWS, ENTER
from bambola.desk.stations.measure.hands.beads import BeadHand
from bambola.desk.stations.measure.hands.shape import Grip
from bambola.desk.stations.measure.wearing import (
    FURS,
    HAIR,
    OPENING,
    ROWS,
    TAILS,
    as_garment,
    dress_part,
    fur_of,
    fur_on,
    next_of,
    pulled_to,
    stands_at,
    with_fur,
)
from bambola.language import N_, tr

Array = NDArray[np.float64]
_WORDS = {HAIR: N_("Pull the hair"), ROWS: N_("Set the rows of hair"), OPENING: N_("Pull an opening"),
          TAILS: N_("Pull the tails")}  # fmt: skip
_SEEN = 7
"""Places across a row at which hair is drawn."""


class DressHand(BeadHand):
    """Beads on the selected part's fur, rows, opening and tails."""

    name = N_("Dress it")
    told = N_(
        "Drag the bead at the skin outwards and fur appears; the beads on clothes "
        "change openings and tails. F changes the fur, W the way it is worn, R what is "
        "put on, G selects the next bead; you can type a number."
    )

    def __init__(self, board: Board) -> None:
        super().__init__(board, HAIR)
        self._shown: tuple[Part, str] | None = None
        self._do: Part | None = None

    def chips(self) -> list[Chip]:
        worn = [
            Chip(CHIPS[k], partial(self._toggle_thing, k), partial(self._wears_kind, k))
            for k in CHIPS
        ]
        return [Chip(PUT_ON, self.ask_ready), *worn]

    def _toggle_thing(self, kind: str) -> None:
        """Put a thing on, or take it off."""
        (self.wear_fur if kind in FURS else self.wear_as)("" if self._wears_kind(kind) else kind)

    def _wears_kind(self, kind: str) -> bool:
        """Return whether the selected part has this fur, or is worn in this way."""
        fur = fur_on(self.part) if self.part else None
        way = self.part.garment if self.part else None
        return kind in (fur.kind if fur else "", way.kind if way else "")

    def spots(self) -> dict[str, tuple[float, float]]:
        return {name: grip.at for name, grip in self.grips().items()}

    def fitted(self, figure: Figure, part: Part) -> Figure:
        return dress_part(figure, part)

    # What is worn

    def wear_fur(self, kind: str) -> None:
        """Add fur of this kind to the selected part, or remove it."""
        part = self.part
        if part is not None:
            words = tr("Lay fur on") if kind else tr("Remove the fur")
            self.take_in(with_fur(part, fur_of(part, kind=kind) if kind else None), words)

    def put_on(self, what: WornAnswer) -> None:
        """Put a ready thing on the selected part and select it, to be adjusted."""
        part, figure = self.part, self.studio.figure
        if part is None or figure is None:
            return
        wool = self.studio.selection.wool or next(
            (w.id for w in self.studio.bench.wools if w.form != "core"), part.core
        )
        one, several = NAMED.get(what, (READY_WORDS[what], ""))
        named = (tr(one), tr(several) if several else None)
        try:
            new, name = with_worn(figure, part.id, what, wool, *named)
            refuse_unwearable(dress_plans(new), new)
        except ValueError as error:
            self.studio.refuse(error)
            return

        def then(well: bool) -> None:
            if well and name in new.by_id:
                self.studio.selection.select_part(name)

        self.studio.edit(tr("Put something on"), new, waits=False, then=then)

    def ready_menu(self) -> QMenu:
        """Return the menu of things that can be put on the selected part."""
        menu = QMenu(self.board)
        for of_wool in (True, False):
            for what, words in READY_WORDS.items():
                if (READY[what].stuff is None) == of_wool:
                    menu.addAction(tr(words), partial(self.put_on, what))
            menu.addSeparator()
        return menu

    def ask_ready(self) -> None:
        """Ask what to put on the selected part."""
        menu = self.ready_menu()
        menu.exec(self.board.mapToGlobal(self.board.rect().topLeft()))
        menu.deleteLater()

    def wear_as(self, kind: str) -> None:
        """Make the selected part a garment that goes on this way, or none."""
        part, figure = self.part, self.studio.figure
        if part is not None and figure is not None and part.parent is not None:
            words = tr("Make it clothing") if kind else tr("It is not clothing")
            self.take_in(as_garment(part, figure, kind), words)

    # Beads

    def grips(self) -> dict[str, Grip]:
        """Return by name every bead of the selected part that can be reached in this view."""
        part, figure = self.part, self.studio.figure
        copy = own_copy(self.board.placement(), part.id) if part and figure else None
        if part is None or copy is None:
            return {}
        found: dict[str, Grip] = {}
        fur = fur_on(part)
        felted = part.stuff is None and not part.hollow
        if felted and (part.garment is None or fur is not None):
            skin, out = self._edge_and_outward(copy, 0.5)
            hair = fur.hair if fur else 0.0
            found[HAIR] = self._make_bead(skin, out, hair, 1.0)
            if fur:
                base, tip = axis_ends(copy)
                way = (tip - base) / max(1e-9, float(np.linalg.norm(tip - base)))
                found[ROWS] = self._make_bead(
                    self._edge_and_outward(copy, 0.15)[0], way, fur.spacing, 1.0
                )
        if part.garment is not None:
            base, tip = axis_ends(copy)
            across = self._across_view(copy)
            if part.garment.kind == "pulled over":
                reach = part.garment.opening / math.tau
                found[OPENING] = self._make_bead(base, across, reach, math.tau)
            elif part.garment.kind in ("wrap", "sash"):
                down = np.array([0.0, 0.0, -1.0])
                found[TAILS] = self._make_bead(base, down, part.garment.tails, 1.0)
        return {name: grip for name, grip in found.items() if np.hypot(*grip.way) > 0.3}

    def _make_bead(self, root: Array, way: Array, reach: float, share: float) -> Grip:
        seen = self.board.axes[:2] @ way
        start = self.board.seen_from(root)
        at = self.board.seen_from(root + way * reach)
        return Grip(at, start, (float(seen[0]), float(seen[1])), share)

    def _across_view(self, copy: Copy) -> Array:
        """Return the direction across the view, perpendicular to the part's axis."""
        base, tip = axis_ends(copy)
        way = np.cross(self.board.axes[2], tip - base)
        size = float(np.linalg.norm(way))
        found: Array = way / size if size > 1e-6 else self.board.axes[0]
        return found

    def _edge_and_outward(self, copy: Copy, along: float) -> tuple[Array, Array]:
        """Return a place at the edge of a part in the view, and the outward direction there."""
        around = np.linspace(-180.0, 180.0, 72, endpoint=False)
        points = np.array([copy.point(along, float(a), 1.0) for a in around])
        right = self.board.axes[0]
        best = points[int(np.argmax(points @ right))]
        out = best - copy.point(along, 0.0, 0.0)
        size = float(np.linalg.norm(out))
        return best, out / size if size > 1e-6 else right

    def words_of(self, name: str, part: Part) -> str:
        """Return the text beside a dragged bead."""
        figure, fur = self.studio.figure, fur_on(part)
        if name == HAIR:
            return tr("hair {long}", long=self.length(fur.hair)) if fur else tr("no fur")
        if name == ROWS and fur:
            return tr("a row every {apart}", apart=self.length(fur.spacing))
        if part.garment is None or figure is None:
            return part.name
        if name == TAILS:
            return tr("tails {long}", long=self.length(part.garment.tails))
        row = dress_of(part, figure)
        over = figure.by_id[row.passes].name
        slots = {
            "round": self.length(row.opening_mm),
            "over": over,
            "needs": self.length(row.passes_mm * row.opening_mm / row.stretched_mm),
        }
        if row.passes_over:
            return tr("{round} round: goes over the {over:lower}", **slots)
        return tr("{round} round: the {over:lower} needs {needs}", **slots)

    # Pulling

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        figure, grip = self.studio.figure, self.grips().get(self.grip)
        if not held or not self._held or figure is None or grip is None:
            return
        way = np.array(grip.way)
        t = float((np.array(self.mm(at)) - grip.root) @ way / (way @ way))
        part = self.part
        new = pulled_to(part, self.grip, max(0.0, t * grip.share)) if part else None
        if new is None:
            return
        told = self.words_of(self.grip, new)
        try:
            dress_part(figure, new)
            self._do = new
        except ValueError as error:
            told, self._do = error_words(error, self.studio.words), None
        self._shown = new, told

    def release(self, at: QPointF, button: Qt.MouseButton) -> None:
        new, self._do, self._shown = self._do, None, None
        self.put_down()
        if new is not None:
            self.take_in(new, tr(_WORDS[self.grip]))

    def give_up(self) -> None:
        self._do, self._shown, self._held = None, None, False

    # Keys

    def handle_key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        grips, part = self.grips(), self.part
        if part is None:
            return False
        if self.grip not in grips:
            self.grip = next(iter(grips), HAIR)
        if text.lower() == "f":
            fur = fur_on(part)
            self.wear_fur(next_of(tuple(FURS), fur.kind if fur else ""))
        elif text.lower() == "r":
            self.ask_ready()
        elif text.lower() == "w":
            self.wear_as(next_of(WAYS_WORN, part.garment.kind if part.garment else ""))
        elif text.lower() == "g" and grips:
            self.grip = next_of(tuple(grips), self.grip, -1 if text == "G" else 1)
        elif key in ARROWS and grips:
            step = sum(ARROWS[key]) * self.step(keys)
            new = pulled_to(part, self.grip, max(0.0, stands_at(part, self.grip) + step))
            if new is not None:
                self.take_in(new, tr(_WORDS[self.grip]), self.burst())
        elif (key in ENTER or text.isdigit()) and self.grip in grips:
            self.type_number(text if text.isdigit() else "")
        else:
            return False
        return True

    def type_number(self, start: str = "") -> None:
        """Type the value of the current bead."""
        grip, part, name = self.grips().get(self.grip), self.part, self.grip
        if grip is None or part is None:
            return

        def take(mm: float) -> None:
            new = pulled_to(part, name, mm)
            if new is not None:
                self.take_in(new, tr(_WORDS[name]))

        at, now = self.screen(*grip.at), self.length(stands_at(part, name))
        self.board.ask(at, start or now, f"{part.name}: {tr(_WORDS[name])}", take)

    def double(self, at: QPointF) -> None:
        name = self.bead_at(at)
        if name is not None:
            self.grip = name
            self.type_number()

    # Painting

    def paint(self, painter: QPainter) -> None:
        part, grips, px, d = self.part, self.grips(), self.theme.px, self.theme.dyes
        copy = own_copy(self.board.placement(), part.id) if part and grips else None
        if part is None or copy is None:
            return
        shown, told = self._shown or (part, "")
        for run in self._hair_lines(shown, copy):
            self.board.draw_run(painter, run, self._hair_colour(shown), 1.6)
        if shown.garment is not None and OPENING in grips:
            half = shown.garment.opening / math.tau
            root, way = np.array(grips[OPENING].root), np.array(grips[OPENING].way)
            ends = [tuple((root + side * half * way).tolist()) for side in (-1, 1)]
            self.board.draw_run(painter, ends, d.madder, 3.0)
        for name, grip in grips.items():
            at, mine = self.screen(*grip.at), name == self.grip
            if mine and self._shown is not None:
                mm = max(0.0, stands_at(shown, name)) / grip.share
                at = self.screen(*(np.array(grip.root) + mm * np.array(grip.way)).tolist())
            painter.setPen(QPen(d.woad, px(1.4), Qt.PenStyle.DotLine))
            painter.drawLine(self.screen(*grip.root), at)
            painter.setPen(QPen(d.ink, px(2.2) if mine else 1.2))
            painter.setBrush(d.madder if mine else d.paper)
            painter.drawEllipse(at, px(8 if mine else 6), px(8 if mine else 6))
            if mine:
                self.board.tag(
                    painter, at + QPointF(px(10), -px(20)), told or self.words_of(name, part)
                )

    def _hair_colour(self, part: Part) -> QColor:
        wools, fur = self.studio.bench.wool_by_id, fur_on(part)
        wool = wools.get(fur.wool) if fur else None
        return QColor(wool.colour) if wool else self.theme.dyes.ink

    def _hair_lines(self, part: Part, copy: Copy) -> Iterator[list[tuple[float, float]]]:
        """Yield lines for the hair of every row, in its length and direction."""
        fur = fur_on(part)
        if fur is None:
            return
        where = part.furs[-1].where
        base, tip = axis_ends(copy)
        long = float(np.linalg.norm(tip - base))
        rows = max(1, min(40, math.floor(long / fur.spacing)))
        way = (tip - base) / max(long, 1e-9) * (1 if fur.lie == "tip" else -1)
        towards = self.board.axes[2]
        for row in range(rows):
            along = (row + 0.5) / rows
            middle = copy.point(along, 0.0, 0.0)
            for around in np.linspace(-180.0, 180.0, 2 * _SEEN, endpoint=False):
                root = copy.point(along, float(around), 1.0)
                out = root - middle
                size = float(np.linalg.norm(out))
                if size < 1e-6 or out @ towards < -0.2 * size:
                    continue  # on the far side
                if not _grows_at(copy, where, root):
                    continue
                end = root + fur.hair * (0.8 * way + 0.6 * out / size)
                yield [self.board.seen_from(root), self.board.seen_from(end)]


def _grows_at(copy: Copy, where: Where, root: Array) -> bool:
    """Return whether a point of a copy's skin lies in a place on it."""
    if isinstance(where, Band) and where.is_whole:
        return True
    own = np.linalg.inv(copy.matrix)
    point = own[:3, :3] @ root + own[:3, 3]
    out = point - np.array([0.0, 0.0, point[2]])
    return bool(points_in_places(copy.shape, where, point[None], out[None])[0])


READY_WORDS: dict[WornAnswer, str] = {
    "collar": N_("Collar"),
    "belt": N_("Belt"),
    "cuff": N_("Cuff"),
    "scarf": N_("Scarf"),
    "hat": N_("Hat"),
    "skirt": N_("Skirt of strips"),
    "net skirt": N_("Net skirt"),
    "bodice": N_("Ribbon bodice"),
    "sash": N_("Ribbon sash"),
    "cape": N_("Cloth cape"),
    "cloth scarf": N_("Cloth scarf"),
    "halved hat": N_("Felt hat in halves"),
    "bow": N_("Bow"),
    "trim": N_("Yarn trim"),
    "whiskers": N_("Whiskers through it"),
    "stitched mouth": N_("Stitched mouth"),
    "hollow": N_("A hollow pressed in"),
}
NAMED: dict[WornAnswer, tuple[str, str]] = {
    "whiskers": (N_("Whisker"), N_("Whiskers")),
    "hollow": (N_("Hollow"), N_("Hollows")),
    "halved hat": (N_("Felt hat"), ""),
}
"""What is called otherwise than it is offered: one, and several."""
PUT_ON = N_("Put something on…")
CHIPS = {
    "fleece": N_("fleece"),
    "locks": N_("locks"),
    "pile": N_("pile"),
    "pulled over": N_("pulled over"),
    "wrap": N_("wrap"),
    "sash": N_("sash"),
    "skirt": N_("skirt"),
}
