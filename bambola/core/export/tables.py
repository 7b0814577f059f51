"""The plan as CSV tables for other programs: parts, wool, wires, steps. Numbers in mm, g, minutes."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence

from bambola.core.plan import Sheet
from bambola.core.words import ENGLISH


def plan_tables(plan: Sheet) -> dict[str, str]:
    """File name to CSV text."""
    return {
        "parts.csv": _table(
            (
                "id",
                "name",
                "count",
                "made",
                "rounds",
                "firmness",
                "measure",
                "from_mm",
                "to_mm",
                "net_cm3",
                "exposed_cm2",
            ),
            (
                (
                    p.id,
                    p.name,
                    p.count,
                    p.made,
                    p.rounds,
                    p.firmness,
                    name,
                    p.from_mm[name],
                    mm,
                    p.net_cm3,
                    p.exposed_cm2,
                )
                for p in plan.parts
                for name, mm in p.to_mm.items()
            ),
        ),
        "wool.csv": _table(
            ("part", "count", "wool", "role", "grams_each", "take_g", "keep_by_g", "loose_mm"),
            (
                (
                    p.id,
                    p.count,
                    w.wool,
                    w.role,
                    w.grams,
                    w.take_g,
                    w.keep_by_g,
                    " x ".join(f"{mm:.0f}" for mm in w.loose_mm.values()),
                )
                for p in plan.parts
                for w in p.portions
            ),
        ),
        "wires.csv": _table(
            (
                "id",
                "name",
                "stock",
                "diameter_mm",
                "strands",
                "path_mm",
                "takeup_mm",
                "allowances_mm",
                "cut_mm",
                "bends",
            ),
            (
                (
                    w.id,
                    ENGLISH.say(w.name),
                    w.stock,
                    w.diameter_mm,
                    w.strands,
                    w.path_mm,
                    w.takeup_mm,
                    sum(a.mm for a in w.allowances),
                    w.cut_mm,
                    "; ".join(f"{b.at_mm:.1f} mm {b.angle_deg:.0f} deg" for b in w.bends),
                )
                for w in plan.wires
            ),
        ),
        "cutting.csv": _table(
            ("stock", "form", "length_mm", "cuts_mm", "wires", "waste_mm", "to_buy"),
            (
                (
                    c.stock,
                    c.form,
                    c.length_mm,
                    "; ".join(f"{mm:.1f}" for mm in c.cuts),
                    "; ".join(c.wires),
                    c.waste_mm,
                    "yes" if c.to_buy else "no",
                )
                for c in plan.cutting
            ),
        ),
        "steps.csv": _table(
            ("n", "kind", "part", "text", "after", "needle", "minutes", "checks", "cautions"),
            (
                (
                    s.n,
                    s.kind,
                    s.part or "",
                    ENGLISH.say(s.text),
                    " ".join(map(str, s.after)),
                    s.needle or "",
                    s.minutes,
                    "; ".join(map(ENGLISH.say, s.checks)),
                    "; ".join(map(ENGLISH.say, s.cautions)),
                )
                for s in plan.steps
            ),
        ),
    }


def _table(head: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(head)
    for row in rows:
        writer.writerow(
            [f"{cell:.3f}" if isinstance(cell, float) else _plain(cell) for cell in row]
        )
    return out.getvalue()


def _plain(cell: object) -> object:
    """A text that a spreadsheet would take for a formula is kept a text."""
    return f"'{cell}" if isinstance(cell, str) and cell[:1] in "=+-@" else cell
