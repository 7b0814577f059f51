"""What the maker must know, decide or mend: in words, with the consequences of each answer."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.balance.joins import ALLOWED_KPA
from bambola.core.figure import Rope
from bambola.core.plan.findings import Findings, answer_among
from bambola.core.plan.masses import held_by
from bambola.core.plan.standing_notices import standing_notices
from bambola.core.plan.values import Notice, Option
from bambola.core.plan.wire_notices import wire_notices
from bambola.core.resize import EYE_TOLERANCE, FELTED, REPLACED, rounds
from bambola.core.wool import soft_share
from bambola.core.wool.portions import SHELL_MM, SOFT_CENTRE, SOFT_FACTOR

LOOSE = 0.5
"""A bought garment wider by more than this share than on the figure as made hangs too loose. Judged."""
DROOP = 5.0
"""An unwired part longer than this many thicknesses droops."""


def find_notices(found: Findings) -> tuple[Notice, ...]:
    """All notices: what stops first, then what is to be chosen, then what is good to know."""
    rank = {"stop": 0, "choose": 1, "note": 2}
    every = [
        *standing_notices(found), *wire_notices(found), *_joins(found), *_dress(found), *_eyes(found),
        *_notes(found), *_soft_centres(found),
    ]  # fmt: skip
    return tuple(sorted(every, key=lambda notice: rank[notice.level]))


JOINED = {
    "fringe": "by its fringe alone", "patch": "under a patch", "scarf": "under a scarf of wool",
    "peg": "on a wire peg", "wire": "with wire through it",
}  # fmt: skip
"""How a part is joined, in words."""


def _joins(found: Findings) -> Iterator[Notice]:
    wished = held_by(found.resized.figure, found.wished)
    for join in found.stresses:
        code = f"join:{join.part}"
        answer = found.brief.answers.get(code)
        drawn = wished[join.part]
        if join.stress_kpa <= ALLOWED_KPA[drawn] and answer is None:
            continue
        part = found.resized.figure.by_id[join.part]
        options = [
            Option(kind, label, f"{effect}; bears {ALLOWED_KPA[kind]:.0f} kPa")
            for kind, label, effect in (
                ("patch", "Patch over it", "wool 15 mm each side of the line"),
                ("scarf", "Wool scarf", "a strip round it"),
                ("peg", "Wire peg", "glued into both"),
                ("wire", "Wire through", "and it can be posed"),
            )
            if ALLOWED_KPA[kind] >= join.stress_kpa and (kind != drawn or kind == answer)
        ]
        options.append(Option("leave", "Leave it", "never lift it there"))
        answer = answer_among(found.brief, code, options)
        carried = "the figure lifted by it" if join.carries_all else "its own weight"
        grown = (
            f" It bore {join.was_kpa:.1f} as made: weight grows faster than the join."
            if (join.stress_kpa > join.was_kpa * 1.05 > 0)
            else ""
        )
        meanwhile = (
            f" Until you say, it is planned {JOINED[join.kind]}."
            if answer is None and join.kind != drawn
            else ""
        )
        yield Notice(
            code, "choose", join.part, f"{part.name}: the join is too weak",
            f"With {carried} it bears {join.stress_kpa:.1f} kPa; a {drawn} holds {ALLOWED_KPA[drawn]:.0f}."
            f"{grown}{meanwhile}",
            tuple(options), answer,
        )  # fmt: skip


def _dress(found: Findings) -> Iterator[Notice]:
    """A bought garment that does not reach round what it is worn on, or hangs far looser than as made."""
    matches = {row.id: row.wanted_mm for row in found.fittings}
    for row in found.dress:
        if not row.bought:
            continue
        code = f"dress:{row.part}"
        answer = found.brief.answers.get(code)
        loose = row.opening_mm > matches[row.part] * (1 + LOOSE)
        if row.fits and not loose and answer is None:
            continue
        name = found.resized.figure.by_id[row.part].name
        least = row.worn_mm * row.opening_mm / row.stretched_mm
        options = (
            Option(
                REPLACED,
                "Another one",
                f"{matches[row.part]:.0f} mm round, at least {least:.0f} mm",
            ),
            Option("leave", "Leave it", "open behind" if not row.fits else "it hangs loose"),
        )
        size = (
            "too tight at this size"
            if not row.fits
            else "too wide at this size"
            if loose
            else "sized anew"
        )
        how = (
            f"It is worn on {row.worn_mm:.0f} mm and stretches to {row.stretched_mm:.0f} mm."
            if not row.fits
            else f"It is {row.opening_mm:.0f} mm round; as loose as it was made would be "
            f"{matches[row.part]:.0f} mm."
        )
        yield Notice(
            code, "choose", row.part, f"{name}: {size}", how,
            options, answer_among(found.brief, code, options),
        )  # fmt: skip


def _eyes(found: Findings) -> Iterator[Notice]:
    by_id = {fitting.id: fitting for fitting in found.resized.figure.fittings}
    sizes = found.bench.eye_sizes
    for row in found.fittings:
        if row.id not in by_id or by_id[row.id].follows != "ready-made":
            continue
        code = f"eye-size:{row.id}"
        answer = found.brief.answers.get(code)
        if abs(row.deviation_pct) <= EYE_TOLERANCE * 100 and answer is None:
            continue
        below = [size for size in sizes if size <= row.wanted_mm][-1:]
        above = [size for size in sizes if size > row.wanted_mm][:1]
        options = [
            Option(f"{size:g}", f"{size:g} mm", f"{(size / row.wanted_mm - 1) * 100:+.0f} %")
            for size in (*below, *above)
        ]
        options.append(Option(FELTED, "Felt them", "dark discs of wool, of just this size"))
        yield Notice(
            code, "choose", by_id[row.id].part, f"{row.name}: no such size is sold",
            f"{row.wanted_mm:.1f} mm would match. Small features look bigger than expected.",
            tuple(options), answer_among(found.brief, code, options),
        )  # fmt: skip


def _soft_centres(found: Findings) -> Iterator[Notice]:
    """An offer, not a question: in a thick core much wool lies where nobody feels it."""
    for part in found.resized.figure.parts:
        wool = found.wool[part.id]
        thick = part.shape.smallest_mm - 2 * wool.coat_mm
        share = soft_share(part.shape, thick)
        if share <= 0:
            continue
        core = found.bench.wool_by_id[part.core]
        code = f"soft-centre:{part.id}"
        density = found.bench.packed_density(found.resized.figure, part)
        lighter = (density - SOFT_FACTOR * core.start_density) * wool.net_cm3 * share
        if lighter <= 0:
            continue
        # What is felted is what the time goes into: the centre is only rolled, and the shell is one round.
        laid = sum(p.grams for p in wool.portions if p.role in ("coat", "inset"))
        felted = density * wool.net_cm3
        pace, firm = found.bench.pace, part.firmness
        solid = pace.core_minutes(felted - laid, rounds(thick), firm)
        saved = (solid - pace.core_minutes(felted * (1 - share) - laid, 1, firm)) / 60
        count = found.counts[part.id]
        options = (
            Option(
                SOFT_CENTRE,
                "Soft centre",
                f"saves {lighter * count:.0f} g and {saved * count:.1f} h",
            ),
            Option("solid", "Felt it through", "as firm in the middle as outside"),
        )
        answer = answer_among(found.brief, code, options)
        text = (
            f"Its core is {thick:.0f} mm thick. Left unfelted more than {SHELL_MM:.0f} mm within, it takes "
            f"{lighter * count:.0f} g and {saved * count:.1f} h less, and gives more under the thumb."
        )
        yield Notice(
            code, "note", part.id, f"{part.name}: a soft centre would do", text, options, answer
        )


def _notes(found: Findings) -> Iterator[Notice]:
    figure = found.resized.figure
    for part in figure.parts:
        sized = found.resized.parts[part.id]
        for rule in sized.bent_by:
            yield Notice(f"sized:{part.id}", "note", part.id, f"{part.name}: {rule}",
                         f"{part.name} does not simply follow the height: {rule}.")  # fmt: skip
        ring = isinstance(sized.shape, Rope) and sized.shape.closed
        if part.id in figure.wired or sized.shape.flat or part.parent is None or ring:
            continue
        run = sized.to_mm.get("length", 0.0)
        thick = sized.shape.smallest_mm
        if run / thick > DROOP:
            yield Notice(f"droop:{part.id}", "note", part.id, f"{part.name}: slender without wire",
                         f"{part.name} is {run / thick:.1f} times as long as it is thick and will droop; "
                         f"a wire or a pipe-stem core holds it.")  # fmt: skip
