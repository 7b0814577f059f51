"""The tool for places on the selected part, dragged on the figure: patches of wool, and fur."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen
from PyQt6.QtWidgets import QInputDialog, QMenu

from bambola.core.figure import Figure, Part, Place
from bambola.core.figure.graft import new_place, place_changed, with_part, with_place, without_place
from bambola.core.figure.places import Band, Line, Near
from bambola.core.solids import own_copy
from bambola.core.words import error_words
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.chips import Chip
from bambola.desk.stations.measure.hands.base import ARROWS, ENTER
from bambola.desk.stations.measure.hands.beads import (
    BEGIN,
    END,
    HAIR,
    MIDDLE,
    SIDE,
    WIDE,
    WITHIN,
    BeadHand,
    PlaceBeads,
)
from bambola.desk.stations.measure.wearing import FURS, fur_of, next_of
from bambola.language import N_, tr

_WORDS = {
    BEGIN: N_("Drag where it begins"),
    END: N_("Drag where it ends"),
    MIDDLE: N_("Turn the side"),
    SIDE: N_("Widen the side"),
    WIDE: N_("Widen the line"),
    WITHIN: N_("Drag how far it reaches"),
    HAIR: N_("Pull the hair"),
}
NEW = {
    "stretch": N_("A stretch"),
    "side": N_("A side"),
    "line": N_("A line"),
    "near": N_("Near another part"),
}
IN_HAND = N_("The selected place…")


class PlaceHand(BeadHand):
    """Beads on the current place of the selected part."""

    name = N_("Places")
    told = N_(
        "Lay a stretch, a side or a line on the selected part, and pull its beads; lay "
        "a wool on it, or let fur grow there. N takes the next place, G the next bead, "
        "F another fur, Delete takes the place away."
    )

    def __init__(self, board: Board) -> None:
        super().__init__(board, BEGIN)
        self.place_id = ""
        self._shown: Part | None = None
        self._trouble = ""

    def chips(self) -> list[Chip]:
        laid = [Chip(words, partial(self.add_place, kind)) for kind, words in NEW.items()]
        return [*laid, Chip(IN_HAND, self.ask_what)]

    def spots(self) -> dict[str, tuple[float, float]]:
        return self.grips()

    def fitted(self, figure: Figure, part: Part) -> Figure:
        return with_part(figure, part)

    def place_of(self, part: Part | None) -> Place | None:
        """Return the current place, or the last one of the part."""
        places = part.places if part else ()
        return next((p for p in places if p.id == self.place_id), places[-1] if places else None)

    # What is done

    def add_place(self, kind: str) -> None:
        """Add a new place to the selected part and make it the current one."""
        part, figure = self.part, self.studio.figure
        if part is None or figure is None:
            return
        near = next((p.id for p in figure.parts if p.parent == part.id), part.parent or "")
        if kind == "near" and not near:
            self.studio.refused.emit(tr("Nothing touches the {part:lower}.", part=part.name))
            return
        place = new_place(part, kind, near)
        place = place.replaced(wool=self._other_wool(part))
        try:
            new, self.place_id = with_place(figure, part.id, place)
        except ValueError as error:
            self.studio.refuse(error)
            return
        self.grip = ""
        self.studio.edit(tr("Lay a place"), new, waits=False)
        self.board.setFocus()

    def change(self, words: str, gesture: int = 0, **changes: object) -> None:
        """Change the current place."""
        part = self.part
        place = self.place_of(part)
        if part is not None and place is not None:
            self.take_in(place_changed(part, place.id, **changes), words, gesture)

    def lay_wool(self, wool: str | None) -> None:
        """Set the current place's wool, or none."""
        self.change(tr("Colour a place"), wool=wool)

    def grow(self, kind: str) -> None:
        """Set the fur of the current place, or none of its own."""
        part = self.part
        place = self.place_of(part)
        if part is not None and place is not None:
            old = place.fur or fur_of(part.replaced(places=()))
            fur = old.replaced(kind=kind) if kind else None
            self.change(tr("Lay fur on a place"), fur=fur, bare=False)

    def bare(self) -> None:
        """Keep the place free of fur, or let the surrounding fur grow there."""
        place = self.place_of(self.part)
        if place is not None:
            self.change(tr("Keep a place bare"), bare=not place.bare, fur=None)

    def mirror(self) -> None:
        """Mirror the place to the other side, or remove the mirror image."""
        place = self.place_of(self.part)
        if place is not None and not isinstance(place.where, Near):
            where = place.where.replaced(mirrored=not place.where.mirrored)
            self.change(tr("Mirror a place"), where=where)

    def rename(self) -> None:
        """Ask for the place's name."""
        place = self.place_of(self.part)
        if place is None:
            return
        name, ok = QInputDialog.getText(
            self.board, tr("Its name"), tr("Name on the cards:"), text=place.display_name
        )
        if ok and name.strip():
            self.change(tr("Name a place"), name=name.strip()[:120])

    def menu(self) -> QMenu:
        """Return the menu of the current place, with the part's other places to choose."""
        menu, part = QMenu(self.board), self.part
        place = self.place_of(part)
        if part is None or place is None:
            none = menu.addAction(tr("There is no place on it yet"))
            assert none is not None
            none.setEnabled(False)
            return menu
        for other in part.places:
            _add_switch(
                menu, other.display_name, other.id == place.id, partial(self.select_place, other.id)
            )
        menu.addSeparator()
        for kind, words in FURS.items():
            has = (place.fur.kind if place.fur else "") == kind and not place.bare
            _add_switch(menu, tr(words), has, partial(self.grow, kind))
        _add_switch(menu, tr("bare of the fur around it"), place.bare, self.bare)
        menu.addSeparator()
        if not isinstance(place.where, Near):
            _add_switch(menu, tr("on both sides"), place.where.mirrored, self.mirror)
        wools = menu.addMenu(tr("Its colour"))
        assert wools is not None
        _add_switch(wools, tr("none of its own"), place.wool is None, partial(self.lay_wool, None))
        for wool in self.studio.bench.wools:
            _add_switch(wools, wool.name, place.wool == wool.id, partial(self.lay_wool, wool.id))
        menu.addAction(tr("Its name…"), self.rename)
        menu.addAction(tr("Remove it"), self.take_away)
        return menu

    def ask_what(self) -> None:
        """Show the menu of the current place."""
        menu = self.menu()
        menu.exec(self.board.mapToGlobal(self.board.rect().topLeft()))
        menu.deleteLater()

    def select_place(self, name: str) -> None:
        """Make another place the current one."""
        self.place_id, self.grip = name, ""
        self.board.update()

    def take_away(self) -> None:
        """Remove the current place."""
        part = self.part
        place = self.place_of(part)
        if part is not None and place is not None:
            self.take_in(without_place(part, place.id), tr("Remove a place"))

    def _other_wool(self, part: Part) -> str | None:
        own = part.coat.wool if part.coat else part.core
        wools = self.studio.bench.wools
        chosen = self.studio.selection.wool
        if chosen and chosen != own:
            return chosen
        return next((w.id for w in wools if w.id != own and w.form != "core"), None)

    # Beads

    def beads(self, place: Place | None = None) -> PlaceBeads | None:
        """Return the beads of a place, or of the current one during a drag."""
        part, figure = self._shown or self.part, self.studio.figure
        place = place or self.place_of(part)
        copy = own_copy(self.board.placement(), part.id) if part else None
        if part is None or figure is None or place is None or copy is None:
            return None
        return PlaceBeads(self.board, figure, part, place, copy)

    def grips(self) -> dict[str, tuple[float, float]]:
        """Return the beads of the current place, mm in the view."""
        beads = self.beads()
        return beads.at() if beads else {}

    def words_of(self, name: str, part: Part) -> str:
        """Return the text beside a dragged bead."""
        place = self.place_of(part)
        if place is None:
            return part.name
        where, called = place.where, place.display_name
        if isinstance(where, Band):
            told = {
                BEGIN: tr("{place}: from {share:.0f} %", place=called, share=100 * where.begin),
                END: tr("{place}: to {share:.0f} %", place=called, share=100 * where.end),
                MIDDLE: tr("{place}: at {deg:.0f}°", place=called, deg=where.around),
                SIDE: tr("{place}: {deg:.0f}° wide", place=called, deg=where.wide),
            }
            if name in told:
                return told[name]
        if name == HAIR and place.fur:
            return tr("{place}: hair {long}", place=called, long=self.length(place.fur.hair))
        mm = {WIDE: getattr(where, "wide", 0.0), WITHIN: getattr(where, "within", 0.0)}.get(name)
        if mm is not None:
            return tr("{place}: {long}", place=called, long=self.length(mm))
        return called

    # Pulling

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        if held and self._held:
            self._drag_bead(*self.mm(at))

    def _drag_bead(self, u: float, v: float) -> None:
        beads, figure, part = self.beads(), self.studio.figure, self.part
        changes = beads.pulled(self.grip, u, v) if beads else {}
        if not changes or beads is None or figure is None or part is None:
            return
        try:
            new = place_changed(part, beads.place.id, **changes)
            with_part(figure, new)
            self._shown, self._trouble = new, ""
        except ValueError as error:
            self._trouble = error_words(error, self.studio.words)

    def release(self, at: QPointF, button: Qt.MouseButton) -> None:
        new, self._shown = self._shown, None
        self.put_down()
        if self._trouble:
            self.studio.refused.emit(self._trouble)
        elif new is not None:
            self.take_in(new, tr(_WORDS.get(self.grip, N_("Pull a line"))))
        self._trouble = ""

    def give_up(self) -> None:
        self._shown, self._held, self._trouble = None, False, ""

    # Keys

    def handle_key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        part, letter = self.part, text.lower()
        if part is None:
            return False
        if letter in _LAID:
            self.add_place(_LAID[letter])
            return True
        place, grips = self.place_of(part), self.grips()
        if place is None:
            return False
        if self.grip not in grips:
            self.grip = next(iter(grips), "")
        if letter in _DONE:
            _DONE[letter](self)
        elif letter == "n":
            self.place_id, self.grip = next_of([p.id for p in part.places], place.id), ""
        elif letter == "g" and grips:
            self.grip = next_of(list(grips), self.grip, -1 if text == "G" else 1)
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.take_away()
        elif key in ARROWS and grips:
            self._move_bead(*ARROWS[key], self.step(keys))
        elif key in ENTER or text.isdigit():
            return self._type_length(place, text if text.isdigit() else "")
        else:
            return False
        return True

    def next_fur(self) -> None:
        """Switch to the next kind of fur, after the last to none."""
        place = self.place_of(self.part)
        self.grow(next_of(list(FURS), place.fur.kind if place and place.fur else ""))

    def next_wool(self) -> None:
        """Switch to the next wool of the bench, after the last to none."""
        place = self.place_of(self.part)
        wools = ["", *(w.id for w in self.studio.bench.wools)]
        self.lay_wool(next_of(wools, place.wool if place and place.wool else "") or None)

    def _move_bead(self, du: float, dv: float, step: float) -> None:
        beads = self.beads()
        if beads is None:
            return
        u, v = beads.at()[self.grip]
        changes = beads.pulled(self.grip, u + du * step, v + dv * step)
        if changes:
            self.change(tr(_WORDS.get(self.grip, N_("Pull a line"))), self.burst(), **changes)

    def _type_length(self, place: Place, start: str) -> bool:
        """Type the value of the current bead, if it is a length."""
        where, grip = place.where, self.grip
        now = {
            WIDE: getattr(where, "wide", None) if isinstance(where, Line) else None,
            WITHIN: getattr(where, "within", None),
            HAIR: place.fur.hair if place.fur else None,
        }.get(grip)
        if now is None:
            return False

        def take(mm: float) -> None:
            if grip == HAIR and place.fur:
                self.change(tr(_WORDS[HAIR]), fur=place.fur.replaced(hair=mm))
            else:
                self.change(tr(_WORDS[grip]), where=where.replaced(**{grip: mm}))

        at = self.screen(*self.grips()[grip])
        self.board.ask(at, start or self.length(now), tr(_WORDS[grip]), take)
        return True

    def double(self, at: QPointF) -> None:
        name, place = self.bead_at(at), self.place_of(self.part)
        if name is not None and place is not None:
            self.grip = name
            self._type_length(place, "")

    # Painting

    def paint(self, painter: QPainter) -> None:
        beads = self.beads()
        if beads is None:
            return
        d, px, grips = self.theme.dyes, self.theme.px, beads.at()
        if self.grip not in grips:
            self.grip = next(iter(grips), "")
        for place in beads.part.places:
            mine, edge = place.id == beads.place.id, self.beads(place)
            style = Qt.PenStyle.SolidLine if mine else Qt.PenStyle.DashLine
            for run in edge.edge() if edge else ():
                thick = 2.6 if mine else 1.4
                self.board.draw_run(painter, run, self._place_colour(place), thick, False, style)
        for name, bead in grips.items():
            at, held = self.screen(*bead), name == self.grip
            painter.setPen(QPen(d.ink, px(2.2) if held else 1.2))
            painter.setBrush(d.madder if held else d.paper)
            painter.drawEllipse(at, px(8 if held else 6), px(8 if held else 6))
        if self.grip in grips:
            at = self.screen(*grips[self.grip]) + QPointF(px(10), -px(20))
            self.board.tag(painter, at, self._trouble or self.words_of(self.grip, beads.part))

    def _place_colour(self, place: Place) -> QColor:
        wools = self.studio.bench.wool_by_id
        wool = wools.get(place.wool or (place.fur.wool if place.fur else ""))
        return QColor(wool.colour) if wool else self.theme.dyes.ink


def _add_switch(menu: QMenu, words: str, on: bool, do: Callable[[], None]) -> None:
    action = menu.addAction(words, lambda: do())
    if action is not None:
        action.setCheckable(True)
        action.setChecked(on)


_LAID = {"s": "stretch", "d": "side", "l": "line", "t": "near"}
_DONE: dict[str, Callable[[PlaceHand], None]] = {
    "f": PlaceHand.next_fur,
    "b": PlaceHand.bare,
    "m": PlaceHand.mirror,
    "c": PlaceHand.next_wool,
    "r": PlaceHand.rename,
}
"""What a letter lays, and what it does with the place in hand."""
