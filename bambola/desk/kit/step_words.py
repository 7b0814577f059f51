"""A step's card as text: amount, what to do, needles, when to stop, what to check."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from html import escape

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QTextDocument
from PyQt6.QtWidgets import QFrame, QTextBrowser

from bambola.core.facts import Fact
from bambola.core.methods import Card, SlotError, StepSheet, sheet_for
from bambola.core.methods.alike import AlikeRow, alike_steps
from bambola.core.methods.told import told
from bambola.core.order import Step
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

_WIDE_PX, _USUAL_SIZES = 720, 13
"""Only where there is so much room, as on a large screen, the text may be larger than the first sizes."""
SIZES = tuple(13.0 + n for n in range(19))
"""Letters as large as there is room for, px before the maker's own scale."""


@dataclass(frozen=True, slots=True)
class CardNotes:
    """What is shown besides a card's own sentences: the amount, ``more`` and ``care`` below; the reason if
    ``why``; the results of its checks by number; and what was ``kept`` with it at the pad. ``rows`` is the
    table of a shared card."""

    amount: str
    more: str
    care: str
    why: bool = False
    outcomes: Mapping[int, str] | None = None
    kept: tuple[str, ...] = ()
    rows: tuple[AlikeRow, ...] = ()


def new_in(card: Card) -> tuple[int, ...]:
    """Return the numbers of the sentences that have something specific to this step: a size, a part."""
    return tuple(n for n, one in enumerate(card.how, 1) if one.slots)


def _rows_as_table(rows: Sequence[AlikeRow], say: Callable[[Fact], str]) -> str:
    """Return the rows of a shared card as HTML: part, wool, sizes."""
    lines = (
        f"<tr><td class='quiet'>{row.step.n}</td>"
        + "".join(f"<td style='padding-left:12px;'>{escape(say(cell))}</td>" for cell in row.cells)
        + "</tr>"
        for row in rows
    )
    return f"<table cellspacing='0' cellpadding='0'>{''.join(lines)}</table>" if rows else ""


def gauges(card: Card) -> str:
    """Return the needles of a card in order, without depths."""
    found = dict.fromkeys(str(run.gauge) for run in card.needles)
    return tr("Needle {gauges}", gauges=tr(", then ").join(found))


class StepWords(QTextBrowser):
    """The text of a card in the largest font in which it all fits; if even the smallest does not fit, it
    scrolls."""

    fitted = pyqtSignal()
    """The text was laid out anew."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setStyleSheet("QTextBrowser { background: transparent; border: none; padding: 0; }")
        self.setAccessibleName(tr("How it is done"))
        self._html = ""
        self.stop = ""
        """The sentence that says when to stop."""
        self.scrolls = False
        """Whether the text is too long for its room, so that not all of it is visible at once."""
        self._is_laying = False
        self._laid: object = None

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(480), self.theme.px(300))

    def show_card(
        self,
        card: Card,
        say: Callable[[Fact], str],
        beside: CardNotes,
        only: Sequence[int] | None = None,
    ) -> None:
        """Show a card with what the step adds; in short form ``only`` the sentences with these numbers,
        besides amount, needles and when to stop."""
        d, said, whole = self.theme.dyes, told(card, say), only is None
        shown = range(1, len(said.how) + 1) if only is None else only
        needles = said.needles if whole else (gauges(card),) if card.needles else ()
        lines = [(n, said.how[n - 1]) for n in shown]
        how = "".join(
            f"<tr><td width='1%' style='color:{d.madder.name()}; padding-right:10px;'><b>{n}</b></td>"
            f"<td style='padding-bottom:3px;'>{escape(line)}</td></tr>"
            for n, line in lines
        )
        own = any(row.stop for row in beside.rows)
        until = say(card.until) if own else said.stop if whole else said.stop_in_short
        self.stop = tr("Stop: {stop}", stop=until)
        stop = escape(self.stop)
        checks = "".join(
            f"<p class='quiet'>{self._check_mark(beside, n)}<b>{escape(look)}</b> "
            f"{escape(tr('If not: {do}', do=do))}</p>"
            for n, (look, do) in enumerate(said.checks, 1)
            if whole
        )
        amount = beside.amount
        if not lines and card.needles:  # all of it in two lines
            amount, needles = " · ".join(filter(None, (amount, *needles))), ()
        paragraphs = [
            f"<p class='take'>{escape(amount)}</p>" if amount else "",
            f"<p class='quiet'>{escape(said.start)}</p>" if said.start and whole else "",
            f"<table cellspacing='0' cellpadding='0'>{how}</table>",
            _rows_as_table(beside.rows, say),
            *(f"<p class='needle'>{escape(line)}</p>" for line in needles),
            f"<p class='why'>{escape(tr('Why: {why}', why=said.why))}</p>" if beside.why else "",
            f"<p class='quiet'>{escape(tr('At another size: {told}', told=said.scale))}</p>"
            if beside.why and said.scale
            else "",
            f"<p class='stop'>{stop}</p>",
            checks,
            *(f"<p class='why'>{escape(tr('Kept: {told}', told=one))}</p>" for one in beside.kept),
            f"<p class='quiet'>{escape(beside.more)}</p>" if beside.more else "",
            f"<p class='care'>{escape(beside.care)}</p>" if beside.care else "",
        ]
        self._html = "".join(paragraphs)
        self._fit_font()

    def show_kept(self, lines: Sequence[str], stop: str) -> None:
        """Show the sentences of a card as they were saved."""
        said = self.stop = tr("Stop: {stop}", stop=stop) if stop else ""
        self._html = "".join(f"<p>{escape(line)}</p>" for line in lines)
        self._html += f"<p class='stop'>{escape(said)}</p>"
        self._fit_font()

    def clear(self) -> None:
        """Show no card."""
        self._html, self._laid = "", None
        super().clear()

    def _check_mark(self, beside: CardNotes, n: int) -> str:
        """Return the key of a check and its result."""
        if beside.outcomes is None:
            return ""
        sign = {"passed": "✓", "failed": "✗", "skipped": "–"}.get(beside.outcomes.get(n, ""), "")
        colour = self.theme.dyes.madder if sign == "✗" else self.theme.dyes.woad
        return f"<span style='color:{colour.name()}'><b>[{n}] {sign}</b></span> "

    def turn(self, by: int) -> None:
        """Scroll a page on or back, if not all is visible."""
        bar = self.verticalScrollBar()
        if bar is not None:
            bar.setValue(bar.value() + by * bar.pageStep())

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        if not self._is_laying:  # a scroll bar may come and go while words are laid
            self._fit_font()

    def _fit_font(self) -> None:
        """Choose the largest font in which everything is visible."""
        asked = self._html, self.size(), self.theme.dyes, self.theme.scale
        if asked == self._laid:
            return
        self._laid = asked
        room = self.height() - 2.0
        sizes = SIZES if self.width() >= self.theme.px(_WIDE_PX) else SIZES[:_USUAL_SIZES]
        at = bisect_right(sizes, room, lo=1, key=self._height_at)
        self.scrolls = self._height_at(SIZES[0]) > room
        self._apply_theme(self.document(), SIZES[at - 1])
        self._is_laying = True
        self.setHtml(self._html)
        self._is_laying = False
        self.fitted.emit()

    def _height_at(self, size: float) -> float:
        trial = QTextDocument()
        self._apply_theme(trial, size)
        trial.setHtml(self._html)
        trial.setTextWidth(max(80, self.width()))
        return trial.size().height()

    def _apply_theme(self, document: QTextDocument | None, size: float) -> None:
        assert document is not None
        d, px = self.theme.dyes, self.theme.px
        document.setDocumentMargin(0)
        document.setDefaultFont(self.theme.text(size))
        document.setDefaultStyleSheet(
            f"p, td {{ color: {d.ink.name()}; }} p {{ margin: 0 0 {px(5)}px 0; }}"
            f" .take {{ color: {d.madder.name()}; font-weight: bold; }}"
            f" .stop {{ font-weight: bold; margin-top: {px(4)}px; color: {d.madder.name()}; }}"
            f" .quiet {{ color: {d.quiet.name()}; font-size: {px(size * 0.86)}px; }}"
            f" .why {{ color: {d.ink.name()}; font-style: italic; }}"
            f" .needle {{ color: {d.woad.name()}; margin-bottom: 1px; }}"
            f" .care {{ color: {d.madder.name()}; font-size: {px(size * 0.86)}px; }}"
        )


KEPT = 6
"""As many sheets are kept: some back, the one in hand and the next."""
AHEAD_MS = 250


class StepSheets:
    """The sheets of the present plan. The next one is made while the maker works on this one."""

    def __init__(self, studio: EditorSession) -> None:
        self.studio = studio
        self._kept: list[StepSheet] = []
        self._next: Step | None = None
        self._alike: tuple[object, object, tuple[tuple[Step, ...], ...]] = (None, None, ())
        self._rest = one_shot_timer(studio, AHEAD_MS)
        self._rest.timeout.connect(self._make_next)

    def sheet_of(self, step: Step) -> StepSheet | None:
        """Return the sheet of a step of the present plan; if it has none, a sentence that says why."""
        plan, bench = self.studio.plan, self.studio.bench
        if plan is None:
            return None
        kept = self._find_sheet(step)
        if kept is not None:
            return kept
        try:
            made = sheet_for(plan, step, bench)
        except SlotError as error:
            self.studio.refuse(error)
            return None
        self._kept = [made, *self._kept[: KEPT - 1]]
        return made

    def sharing(self, step: Step) -> tuple[Step, ...]:
        """Return the steps that share the card of ``step``, including itself."""
        plan, bench = self.studio.plan, self.studio.bench
        if plan is None:
            return (step,)
        if self._alike[0] is not plan or self._alike[1] is not bench:
            try:
                self._alike = plan, bench, alike_steps(plan, bench)
            except SlotError:
                return (step,)  # it is told where its own card is asked for
        return next((s for s in self._alike[2] if s[0].n <= step.n <= s[-1].n), (step,))

    def is_ready(self, step: Step) -> bool:
        """Return whether a step's sheet is ready."""
        return self._find_sheet(step) is not None

    def _find_sheet(self, step: Step) -> StepSheet | None:
        plan, bench = self.studio.plan, self.studio.bench
        return next(
            (
                s
                for s in self._kept
                if s.at.step is step and s.at.plan is plan and s.at.bench is bench
            ),
            None,
        )

    def ahead(self, step: Step | None) -> None:
        """Prepare a step's sheet soon."""
        self._next = step
        self._rest.start()

    def _make_next(self) -> None:
        plan = self.studio.plan
        if self._next is not None and plan is not None and self._next in plan.steps:
            self.sheet_of(self._next)
