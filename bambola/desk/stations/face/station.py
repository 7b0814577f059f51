"""Face: the new head beside the old at one size, its marks as pins with their numbers, and the strips."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QFormLayout,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QScrollArea,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.face import Mark, seat_at
from bambola.core.face.level import level
from bambola.core.face.moving import with_mark_at
from bambola.core.figure import Sight
from bambola.core.plan.reading.faces import FaceRow, MarkRow, face_advice, face_rows
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.core.relief import Camera
from bambola.core.solids import own_copy
from bambola.desk.kit.icons import icon
from bambola.desk.kit.paper import Paper
from bambola.desk.kit.pictures import Darkroom
from bambola.desk.kit.switch import make_switch, show_switch
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.kit.views import VIEWS
from bambola.desk.session.studio import Studio
from bambola.desk.stations.face.heads import HeadsView
from bambola.desk.stations.face.looks_bar import LooksBar
from bambola.desk.stations.face.strip import StripView
from bambola.desk.stations.page import Page
from bambola.language import tr

MOVED_MM = 0.05
"""What moved by less is not told."""


class FaceStation(Page):
    """The heads and their strips on the left, the marks on the right."""

    def __init__(
        self, studio: Studio, theme: Theme, darkroom: Darkroom, true_size: TrueSize
    ) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.heads = HeadsView(studio, theme, darkroom)
        self.strips = StripView(studio, theme, true_size)
        self.card = MarkCard(studio, theme)
        bar = QHBoxLayout()
        self.views: dict[str, QToolButton] = {}
        for name, told, camera in VIEWS:
            view = QToolButton()
            view.setToolTip(tr(told))
            view.setAccessibleName(tr(told))
            make_switch(view, lambda _, c=camera: self.heads.look(c))
            bar.addWidget(view)
            self.views[name] = view
        bar.addSpacing(theme.px(12))
        self.looks = LooksBar(studio, theme)
        self.looks.beside_chosen.connect(self.heads.put_beside)
        self.heads.together_wanted.connect(self.looks.make_together)
        bar.addStretch(1)
        self.one_to_one = QPushButton("1:1")
        self.one_to_one.setCheckable(True)
        self.one_to_one.setToolTip(tr("The strips at true size, as large as the screen says it is"))
        self.one_to_one.toggled.connect(self.strips.set_true_size)
        bar.addWidget(self.one_to_one)
        table = QWidget()
        left = QVBoxLayout(table)
        left.setContentsMargins(0, 0, 0, 0)
        left.addLayout(bar)
        left.addWidget(self.looks)
        left.addWidget(self.heads, 1)
        left.addWidget(self.strips)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(self.card)
        self._side = scroll
        around = QScrollArea()
        around.setWidgetResizable(True)
        around.setFrameShape(QFrame.Shape.NoFrame)
        around.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        around.setWidget(table)
        self._row = QHBoxLayout(self)
        self._row.addWidget(around, 1)
        self._row.addWidget(scroll)
        self.heads.taken.connect(self._taken)
        self.heads.camera_changed.connect(self._sync)
        self.card.taken.connect(self.heads.take)
        self.card.part_taken.connect(self._part_taken)
        self.wheel_over(self.strips, self.heads)
        studio.plan_changed.connect(self._planned)
        studio.units_changed.connect(self._planned)
        theme.changed.connect(self._restyle)
        self._restyle()
        self._sync()

    def _restyle(self) -> None:
        px = self.theme.px
        self._row.setContentsMargins(px(20), px(2), px(24), px(4))
        self._row.setSpacing(px(14))
        self.heads.setMinimumHeight(px(250))
        side = px(26)
        for name, button in self.views.items():
            button.setIcon(icon(f"view-{name}", self.theme.dyes.ink))
            button.setIconSize(QSize(side, side))
        self._fit()

    def _fit(self) -> None:
        wide = min(self.theme.px(362), max(self.theme.px(230), round(self.width() * 0.36)))
        self._side.setFixedWidth(wide)

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def showEvent(self, event: object) -> None:
        self._planned()

    def _planned(self) -> None:
        if self.isVisible():
            self.heads.refresh()
            self._taken(self.heads.mark)

    def _taken(self, mark: str) -> None:
        in_hand = self.heads.in_hand
        id = in_hand.id if in_hand else ""
        self.strips.show_face(self.heads.face, id)
        self.card.show_face(self.heads.face.part if self.heads.face else "", in_hand)

    def _part_taken(self, part: str) -> None:
        self.heads.part = part
        self._planned()

    def _sync(self) -> None:
        for name, _, camera in VIEWS:
            show_switch(self.views[name], camera == self.heads.camera)
        self.view_changed.emit()

    def at_true_size(self, on: bool | None) -> bool:
        self.one_to_one.setChecked(not self.one_to_one.isChecked() if on is None else on)
        return True

    def take_keys(self) -> None:
        self.heads.setFocus()

    def look(self, view: Sight, camera: Camera) -> bool:
        self.heads.look(camera)
        return True

    @property
    def seen_from(self) -> Camera:
        return self.heads.camera


class MarkCard(Paper):
    """The marks from the crown down, the one in hand to be typed as a strip reads it, and whether two sides
    are level."""

    taken = pyqtSignal(str)
    part_taken = pyqtSignal(str)

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__(theme, tr("Marks of the face"))
        self.studio = studio
        self.mark: Mark | None = None
        self.part = ""
        self._filling = False
        self._title = self.label()
        self._faces = QHBoxLayout()
        self.box.addLayout(self._faces)
        self.face_buttons: dict[str, QPushButton] = {}
        self.advice = self.label()
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Marks from the crown down"))
        self.list.setWordWrap(True)
        self.list.currentRowChanged.connect(self._row_taken)
        self.box.addWidget(self.list, 1)
        self._typed_head = self.label(tr("As a strip reads it"))
        form = QFormLayout()
        self.down, self.aside = QLineEdit(), QLineEdit()
        for field, name in (
            (self.down, tr("from the &crown")),
            (self.aside, tr("from the &midline")),
        ):
            field.editingFinished.connect(self._typed)
            form.addRow(name, field)
        self.box.addLayout(form)
        self._level_head = self.label(tr("Level?"))
        self._level_told = self.label(tr("Read it on both sides, from the crown."))
        pair = QHBoxLayout()
        self.left, self.right = QLineEdit(), QLineEdit()
        for field, name in ((self.left, tr("left")), (self.right, tr("right"))):
            field.setAccessibleName(name)
            field.setPlaceholderText(name)
            field.textChanged.connect(self._levelled)
            pair.addWidget(field)
        self.box.addLayout(pair)
        self.level = self.label()
        self._dress()

    def restyle(self) -> None:
        self._title.setFont(self.theme.title(20))
        for head in (self._typed_head, self._level_head):
            head.setFont(self.theme.title(16))
        for label in (self.advice, self._level_told, self.level):
            label.setFont(self.theme.text(14))
        self.list.setFont(self.theme.text(15))
        self.list.setSpacing(self.theme.px(3))
        for field in (self.down, self.aside, self.left, self.right):
            field.setFont(self.theme.text(16, bold=True))

    def show_face(self, part: str, mark: Mark | None) -> None:
        """Show the marks on a part, with one in hand."""
        plan = self.studio.plan
        rows = {row.part: row for row in face_rows(plan)} if plan else {}
        self.part, self.mark = part, mark
        self._title.setText(rows[part].name if part in rows else tr("No face"))
        self._offer_faces(rows, part)
        advice = face_advice(plan.scale) if plan and part in rows else None
        self.advice.setText(self.studio.say(advice) if advice else "")
        self.advice.setVisible(advice is not None)
        self._filling = True
        ids = [self.list.item(i).data(Qt.ItemDataRole.UserRole) for i in range(self.list.count())]  # type: ignore[union-attr]
        shown = self._shown(rows[part].marks) if part in rows else []
        if ids != [row.id for row in shown]:
            self.list.clear()
            for row in shown:
                item = QListWidgetItem()
                item.setData(Qt.ItemDataRole.UserRole, row.id)
                self.list.addItem(item)
        for i, row in enumerate(shown):
            there = self.list.item(i)
            assert there is not None
            there.setText(self._row_words(row))
            if mark is not None and row.id == mark.id:
                self.list.setCurrentRow(i)
        units = self.studio.units
        for field, mm in (
            (self.down, mark.from_crown_mm if mark else None),
            (self.aside, mark.from_midline_mm if mark else None),
        ):
            if not field.hasFocus():
                field.setText("" if mm is None else show_length(mm, units))
            field.setEnabled(mm is not None)
        self.aside.setEnabled(mark is not None and mark.both)
        self._filling = False

    def _shown(self, rows: tuple[MarkRow, ...]) -> list[MarkRow]:
        plan = self.studio.plan
        told = {m.id for face in (plan.faces if plan else ()) for m in face.told}
        return [row for row in rows if row.id in told]

    def _row_words(self, row: MarkRow) -> str:
        units = self.studio.units
        lines = [self.studio.say(row.words)]
        was = show_length(row.was_mm["from_crown_mm"], units)
        down = show_length(row.from_crown_mm, units)
        lines.append(tr("{down} from the crown, was {was}", down=down, was=was))
        if row.both or row.from_midline_mm > 0.5:
            was = show_length(row.was_mm["from_midline_mm"], units)
            aside = show_length(row.from_midline_mm, units)
            lines.append(tr("{aside} from the midline, was {was}", aside=aside, was=was))
        if abs(row.moved_mm) >= MOVED_MM:
            by = show_length(abs(row.moved_mm), units)
            lines.append(
                tr("moved out by {by}: the eye is bought larger, the gap stays", by=by)
                if row.moved_mm > 0
                else tr("moved in by {by}: the eye is bought smaller, the gap stays", by=by)
            )
        return "\n".join(lines)

    def _offer_faces(self, rows: dict[str, FaceRow], part: str) -> None:
        """A button for each part that has marks, where there is more than one."""
        if list(self.face_buttons) != list(rows):
            for button in self.face_buttons.values():
                button.deleteLater()
            self.face_buttons = {}
            for name, row in rows.items() if len(rows) > 1 else ():
                button = QPushButton(row.name)
                make_switch(button, lambda _, p=name: self.part_taken.emit(p))
                self._faces.addWidget(button)
                self.face_buttons[name] = button
        for name, button in self.face_buttons.items():
            show_switch(button, name == part)

    def _row_taken(self, row: int) -> None:
        item = self.list.item(row)
        if item is not None and not self._filling:
            self.taken.emit(item.data(Qt.ItemDataRole.UserRole))

    def _typed(self) -> None:
        """Put the mark in hand where the strip says; what is typed is of the new size, as a strip on the made
        head reads at its height."""
        plan, mark = self.studio.plan, self.mark
        if plan is None or mark is None or self._filling:
            return
        units = self.studio.units
        try:
            down = parse_length(self.down.text(), units.length)
            aside = parse_length(self.aside.text(), units.length) if mark.both else 0.0
        except QuantityError as error:
            self.studio.refuse(error)
            return
        shown = show_length(mark.from_crown_mm, units), show_length(mark.from_midline_mm, units)
        if (self.down.text(), self.aside.text()) == shown:
            return
        copy = own_copy(plan.solids.placement, self.part)
        face = next((f for f in plan.faces if f.part == self.part), None)
        if copy is None or face is None:
            return
        place = seat_at(copy.shape, face.crown, down, aside)
        if place is None:
            self.studio.refused.emit(
                tr(
                    "No place on the {part} is {down} from the crown and {aside} from the midline.",
                    part=face.name.lower(),
                    down=show_length(down, units),
                    aside=show_length(aside, units),
                )
            )
            return
        name = self.studio.say(mark.name).lower()
        self.studio.edit_by(tr("Move {mark}", mark=name), lambda f: with_mark_at(f, mark, place))

    def _levelled(self) -> None:
        texts = [field.text().strip() for field in (self.left, self.right)]
        if not all(texts):
            self.level.setText("")
            return
        try:
            left, right = (parse_length(text, self.studio.units.length) for text in texts)
        except QuantityError:
            self.level.setText(tr("Type both as the tape reads, such as 31."))
            return
        self.level.setText(self.studio.say(level(left, right)))
