"""All that is written for people, as it was looked at: texts whole, of drawings what each page is made of.

``make snapshots`` writes it anew, after somebody has looked at what changed and meant it.
"""

from __future__ import annotations

import io
import re
from collections.abc import Mapping
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Any

from pypdf import PageObject, PdfReader

from bambola.core.export.formats import FORMATS, ExportRequest
from bambola.core.export.packet import PAPERS, Job
from bambola.core.export.packet.papers import label_sheets
from bambola.core.export.together_sheets import together_pdf
from bambola.core.face.expressions import EXPRESSION_BY_ID, posed_as, with_expression
from bambola.core.figure import Brief
from bambola.core.figure.variants import Alteration
from bambola.core.plan import make_plan
from bambola.core.plan.counter.together import make_together, named_variants
from bambola.core.quantities import Units
from bambola.core.words import Words
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench
from tests.said import BOTH_UNITS

_STRING = re.compile(rb"\((?:\\.|[^\\)])*\)", re.DOTALL)
TAG = re.compile(rb"/\w+ (<<[^>]*>> BDC|BMC)|EMC")
NUMBER = re.compile(rb"-?\d*\.?\d+")


def three_badgers() -> Brief:
    """As made, sad, and one that sits and is smaller."""
    badger = load_demo(BADGER).figure
    brief = Brief(
        height=220.0, altered=with_expression(badger, Alteration(), EXPRESSION_BY_ID["sad"])
    ).kept_as("Sad")
    sits = brief.replaced(altered=posed_as(badger, Alteration(), "sitting"), height=180.0)
    return sits.kept_as("Sitting").taking("").at_height(220.0)


def files_of(
    demo: Path, units: Units, forms: Mapping[str, bool], height: float | None = None
) -> dict[str, bytes]:
    """What each format writes of a figure, by name of format or file; those of which ``forms`` says so."""
    bench, document = default_bench(), load_demo(demo)
    brief = document.brief if height is None else document.brief.at_height(height)
    plan = make_plan(document.figure, brief, bench)
    today, moment = date(2026, 11, 26), datetime(2026, 11, 26, 9, 30, tzinfo=UTC)
    asked = ExportRequest(plan, document.figure, bench, today, moment, Words(units))
    found: dict[str, bytes] = {}
    for form in FORMATS:
        # JSON is for other programs, and tables are kept once; of a figure without wire there are no strips.
        wanted = form.id not in ("json", "spreadsheet") and (form.id != "strips" or plan.wires)
        if wanted and forms.get(form.id, forms["other"]):
            made = form.make(asked)
            found |= {form.id: made} if isinstance(made, bytes) else made
    return found


def toads_cards() -> bytes:
    """Its work cards in inches; each has a picture of its own, and the toad's are fewest."""
    return files_of(TOAD, BOTH_UNITS["in"][0], {"cards": True, "other": False})["cards"]


def whole_packet() -> Job:
    """The badger's packet at 220 mm, of all its kinds of pages."""
    demo, bench = load_demo(BADGER), default_bench()
    plan = make_plan(demo.figure, demo.brief.at_height(220.0), bench)
    return Job((plan,), demo.figure, bench, date(2026, 11, 2))


def other_packets() -> dict[str, Job]:
    """What the badger's has not: several heights, tiny parts drawn larger, sheets of labels, templates over
    several sheets."""
    bench, heron, toad = default_bench(), load_demo(HERON), load_demo(TOAD)
    plans = tuple(make_plan(heron.figure, heron.brief.at_height(mm), bench) for mm in (60.0, 200.0))
    labels = label_sheets(PAPERS["a4"])["21"]
    pages = ("cover", "templates", "face", "labels", "happened")
    large = make_plan(toad.figure, toad.brief.at_height(150.0), bench)
    day = date(2026, 11, 2)
    return {
        "herons": Job(plans, heron.figure, bench, day, pages=pages, labels=labels, maker="Ada",
                      licence="for gifts", note="Wings go on last."),
        "toad": Job((large,), toad.figure, bench, day, PAPERS["a5"], ("templates", "wool")),
    }  # fmt: skip


def read(data: bytes) -> list[Any]:
    """The lines of a file; of a PDF each page's words, and what it is drawn with."""
    if not data.startswith(b"%PDF"):
        return (
            data.decode().replace("\r\n ", "").splitlines()
        )  # a long line of a calendar is folded
    return [
        [[line.strip() for line in page.extract_text().splitlines()], drawn_with(page)]
        for page in PdfReader(io.BytesIO(data)).pages
    ]


def drawn_with(page: PageObject) -> dict[str, list[float]]:
    """How often each operator stands on a page, and the sum of all that it is given, pt; tags, which draw
    nothing, left out."""
    contents = page.get_contents()
    drawn = TAG.sub(b"", _STRING.sub(b"", b"" if contents is None else contents.get_data()))
    found: dict[str, list[float]] = {}
    given = 0.0
    for token in drawn.split():
        if NUMBER.fullmatch(token):
            given += abs(float(token))
        elif not token.startswith((b"/", b"[", b"]", b"<")):
            count, total = found.get(token.decode("latin-1"), (0, 0.0))
            found[token.decode("latin-1")] = [count + 1, round(total + given, 1)]
            given = 0.0
    return found


def paper_now(cards: bytes) -> dict[str, Any]:
    """The badger's files, and the toad's ``cards``; a large heron's outlines go over several sheets, and
    three badgers are made at once."""
    inches = BOTH_UNITS["in"][0]
    made = files_of(BADGER, inches, {"cards": False, "other": True})
    made["cards"] = cards
    made["large"] = files_of(HERON, inches, {"wool": True, "other": False}, 900.0)["wool"]
    figure, bench = load_demo(BADGER).figure, default_bench()
    both = make_together(named_variants(figure, three_badgers(), ["", "Sad", "Sitting"]), bench)
    made["together"] = together_pdf(both, bench, Words(inches), {})
    return {name: read(data) for name, data in made.items()}
