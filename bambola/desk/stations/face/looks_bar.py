"""Expression, pose and variant of the figure: what is made otherwise than it was, in one line."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QInputDialog, QPushButton, QWidget

from bambola.core.face.expressions import EXPRESSION_BY_ID, EXPRESSIONS, posed_as, with_expression
from bambola.core.facts import Fact
from bambola.core.plan.counter.together import Asked, named_variants
from bambola.core.quantities import show_length
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr

POSES = (("", N_("as made")), ("sitting", N_("sitting")), ("waving", N_("waving")),
         ("holding", N_("holding")))  # fmt: skip


class LooksBar(QWidget):
    """Three choices and a button that keeps them under a name; which variant lies ``beside`` the one in
    hand."""

    beside_chosen = pyqtSignal(str)

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.expression, self.pose, self.variant = QComboBox(), QComboBox(), QComboBox()
        self.beside = QComboBox()
        for box, name in (
            (self.expression, tr("Expression")),
            (self.pose, tr("Pose")),
            (self.variant, tr("Variant")),
            (self.beside, tr("What lies next to it")),
        ):
            box.setAccessibleName(name)
            box.setToolTip(name)
        self.expression.addItem(tr("expression"), "")
        for expression in EXPRESSIONS:
            self.expression.addItem(studio.say(Fact(f"expression.{expression.id}")), expression.id)
        for pose, words in POSES:
            self.pose.addItem(tr(words) if pose else tr("pose"), pose)
        self.expression.activated.connect(lambda _: self._apply_expression())
        self.pose.activated.connect(lambda _: self._apply_pose())
        self.variant.activated.connect(lambda _: self._apply_variant())
        self.beside.activated.connect(
            lambda _: self.beside_chosen.emit(str(self.beside.currentData() or ""))
        )
        self.corrected = QPushButton(tr("corrected for size"))
        self.corrected.setCheckable(True)
        self.corrected.setToolTip(
            tr(
                "As made, or corrected for the size: larger eyes on a small face,"
                " finer lines on a large one (C)"
            )
        )
        self.corrected.clicked.connect(studio.correct)
        self.keep = QPushButton(tr("Keep as…"))
        self.keep.setToolTip(tr("Keep pose, expression and height as a variant of this figure"))
        self.keep.clicked.connect(lambda _=False: self.ask_name())
        self.drop = QPushButton(tr("Drop"))
        self.drop.setToolTip(tr("Delete this variant"))
        self.drop.clicked.connect(lambda _=False: studio.drop_variant(studio.brief.variant))
        self.together = QPushButton(tr("Make together…"))
        self.together.setToolTip(
            tr("Make this figure and its variants at once: one weigh-out, one order (M)")
        )
        self.together.clicked.connect(lambda _=False: self.make_together())
        self._lines = FlowLayout(self)
        for widget in (
            self.expression,
            self.pose,
            self.corrected,
            self.variant,
            self.keep,
            self.drop,
            self.beside,
            self.together,
        ):
            if isinstance(widget, QComboBox):
                widget.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
            self._lines.addWidget(widget)
        studio.plan_changed.connect(self._refresh_if_visible)
        self.refresh()

    def _refresh_if_visible(self) -> None:
        if self.isVisible():  # a pull elsewhere is not held up for it
            self.refresh()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def refresh(self) -> None:
        """Show what is in hand."""
        brief = self.studio.brief
        self.variant.clear()
        self.variant.addItem(tr("as it was made"), "")
        for variant in brief.variants:
            self.variant.addItem(variant.name, variant.name)
        self.variant.setCurrentIndex(max(0, self.variant.findData(brief.variant)))
        shown = self.beside.currentData()
        self.beside.clear()
        self.beside.addItem(tr("beside: as made"), "")
        for variant in brief.variants:
            self.beside.addItem(tr("beside: {name}", name=variant.name), variant.name)
        self.beside.setCurrentIndex(max(0, self.beside.findData(shown)))
        for box in (self.variant, self.beside, self.together):
            box.setVisible(bool(brief.variants))
        self.drop.setVisible(bool(brief.variant))
        self.corrected.setChecked(brief.corrected)
        if brief.altered.is_nothing:
            self.expression.setCurrentIndex(0)
            self.pose.setCurrentIndex(0)

    def _apply_expression(self) -> None:
        wanted = EXPRESSION_BY_ID.get(str(self.expression.currentData()))
        self.studio.alter(tr("Another expression"), lambda f, c: with_expression(f, c, wanted))

    def _apply_pose(self) -> None:
        wanted = str(self.pose.currentData())
        self.studio.alter(tr("Another pose"), lambda f, c: posed_as(f, c, wanted))

    def _apply_variant(self) -> None:
        self.studio.take_variant(str(self.variant.currentData() or ""))

    def make_together(self) -> None:
        """Show what making the variants at once comes to."""
        from bambola.desk.kit.together_dialog import TogetherDialog

        if self.studio.brief.variants:
            title = tr("Make variants together")
            TogetherDialog(self, self.studio, self.theme, title, self.variants()).exec()

    def variants(self) -> list[tuple[str, Asked]]:
        """Return the figure as it was made and its variants, to be made at once, with what each is called."""
        figure, brief, plan = self.studio.figure, self.studio.brief, self.studio.plan
        assert figure is not None and plan is not None
        found = []
        for name, height in (("", brief.height), *((v.name, v.height) for v in brief.variants)):
            told = show_length(height or plan.from_height_mm, self.studio.units)
            (asked,) = named_variants(figure, brief, (name,))
            found.append((f"{name or tr('as it was made')}, {told}", asked))
        return found

    def ask_name(self) -> None:
        """Ask what the variant is to be called."""
        shown = self.studio.brief.variant or tr("Another one")
        name, given = QInputDialog.getText(
            self, tr("Keep a variant"), tr("What is it called?"), text=shown
        )
        if given and name.strip():
            self.studio.keep_variant(" ".join(name.split())[:120])
