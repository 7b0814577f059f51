"""The list of export formats, from which menus, dialogs and the command are made. A new format is
a function here or in a module of its own, one entry of :data:`FORMATS`, and a test."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime
from typing import TYPE_CHECKING

from bambola.core.export.packet.kinds import SHORT, WORK_SHEET
from bambola.core.marked import N_
from bambola.core.words import ENGLISH, Words, error_words

if TYPE_CHECKING:
    from bambola.core.bench import Bench
    from bambola.core.figure import Figure
    from bambola.core.order.sittings import Calendar
    from bambola.core.plan import Plan
    from bambola.core.wool.splitting import SplitPlan

Made = bytes | Mapping[str, bytes]
"""A file, or several by their names, for a folder."""


class ExportRefusedError(ValueError):
    """Raised if a plan cannot be exported to a format; the message is one sentence."""


@dataclass(frozen=True)
class ExportRequest:
    """What to export; the work begins on ``today``. ``splits`` are the splitting trees found so far,
    ``sittings`` the calendar of the ``making`` of that id, if already computed."""

    plan: Plan
    figure: Figure
    bench: Bench
    today: date
    now: datetime
    words: Words = ENGLISH
    splits: Mapping[str, SplitPlan] | None = None
    sittings: Calendar | None = None
    making: str = ""


@dataclass(frozen=True)
class Format:
    """One export format. ``id`` is its option on the command line, ``words`` its menu entry (& before the
    access key), ``told`` what it contains; ``ending`` is empty for a folder of files, and ``suffix`` follows
    the figure's name."""

    id: str
    words: str
    told: str
    ending: str
    make: Callable[[ExportRequest], Made]
    suffix: str = ""
    keys: str = ""

    @property
    def is_folder(self) -> bool:
        """Whether it writes several files."""
        return not self.ending


# What lays out paper is loaded only where something is written: the window need not wait for it.


def _packet_maker(*pages: str) -> Callable[[ExportRequest], Made]:
    """Return a function that makes a packet of some kinds of pages."""

    def made(asked: ExportRequest) -> Made:
        from bambola.core.export.packet import Job, packet_pdf

        plans, today, words = (asked.plan,), asked.today, asked.words
        job = Job(
            plans, asked.figure, asked.bench, today, pages=pages, words=words, splits=asked.splits
        )
        return packet_pdf(job)

    return made


def _make_strips(asked: ExportRequest) -> Made:
    if not asked.plan.wires:
        told = asked.words.tr("{figure} has no wire.", figure=asked.plan.figure)
        raise ExportRefusedError(told)
    return _packet_maker("wires")(asked)


def _make_json(asked: ExportRequest) -> Made:
    from bambola.core.export.json_plan import plan_json

    return plan_json(asked.plan, asked.bench).encode()


def _make_csv(asked: ExportRequest) -> Made:
    from bambola.core.export.tables import plan_tables

    return {name: text.encode() for name, text in plan_tables(asked.plan, asked.words).items()}


def _make_spreadsheet(asked: ExportRequest) -> Made:
    from bambola.core.export.tables import of_country, plan_tables

    tables = plan_tables(asked.plan, asked.words, of_country(asked.words))
    return {name: text.encode() for name, text in tables.items()}


def _make_svg(asked: ExportRequest) -> Made:
    from bambola.core.export.svg import true_size_svgs

    drawn = true_size_svgs(asked.plan, asked.bench, asked.words)
    return {name: text.encode() for name, text in drawn.items()}


def _make_ics(asked: ExportRequest) -> Made:
    from bambola.core.export.ics import calendar_ics
    from bambola.core.order.sittings import SittingError, calendar

    try:
        found = asked.sittings or calendar(
            asked.plan.steps,
            asked.bench.free,
            asked.today,
            asked.bench.cure_min,
            runs=asked.plan.runs,
        )
    except SittingError as error:
        raise ExportRefusedError(error_words(error, asked.words)) from None
    stamp, words = asked.now.astimezone(UTC), asked.words
    making = asked.making or asked.figure.id
    return calendar_ics(asked.plan.figure, asked.plan.steps, found, stamp, words, making)


FORMATS: tuple[Format, ...] = (
    Format(
        "pdf",
        N_("Work sheet as &PDF…"),
        N_("the work sheet, as PDF"),
        ".pdf",
        _packet_maker(*WORK_SHEET),
        keys="Ctrl+Shift+P",
    ),
    Format(
        "short",
        N_("Packet in &short as PDF…"),
        N_("the packet in short: views at actual size, sizes, wool, wires and the order, as PDF"),
        ".pdf",
        _packet_maker(*SHORT),
        "-short",
    ),
    Format("json", N_("Plan as &JSON…"), N_("the whole plan, as JSON"), ".json", _make_json),
    Format(
        "csv", N_("Tables as &CSV…"), N_("tables of parts, wool, wires and steps"), "", _make_csv
    ),
    Format(
        "spreadsheet",
        N_("Tables for a sp&readsheet…"),
        N_(
            "the same tables as spreadsheets in your country open them: its decimal sign, UTF-8 "
            "with a mark"
        ),
        "",
        _make_spreadsheet,
    ),
    Format(
        "svg",
        N_("Outlines, blanks and strips as SV&G…"),
        N_("outlines, blanks of flat parts, bend strips and strips of the face at actual size"),
        "",
        _make_svg,
    ),
    Format(
        "strips",
        N_("Bend &strips at actual size as PDF…"),
        N_("bend strips of the wires at actual size, as PDF"),
        ".pdf",
        _make_strips,
        "-bend-strips",
    ),
    Format(
        "cards",
        N_("Work c&ards of the steps as PDF…"),
        N_("a card for each step, four to a page, as PDF"),
        ".pdf",
        _packet_maker("steps"),
        "-cards",
    ),
    Format(
        "ics", N_("Si&ttings as a calendar…"), N_("the sittings, as a calendar"), ".ics", _make_ics
    ),
    Format(
        "wool",
        N_("&Wool sheets at actual size as PDF…"),
        N_("wool as PDF: list, bundles and blanks at actual size, labels"),
        ".pdf",
        _packet_maker("wool", "bundles", "labels"),
        "-wool",
    ),
)
FORMAT_BY_ID = {format.id: format for format in FORMATS}
