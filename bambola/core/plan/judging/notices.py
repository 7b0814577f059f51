"""What the maker must know, decide or mend: in words, with the consequences of each answer."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.balance.joins import ALLOWED_KPA
from bambola.core.figure import Rope
from bambola.core.figure.shapes import ChainShape
from bambola.core.plan.judging.findings import Findings, answer_among
from bambola.core.plan.judging.standing_notices import standing_notices
from bambola.core.plan.judging.wire_notices import wire_notices
from bambola.core.plan.making.jobs import BUILT_ROUND, may_build_round, opened
from bambola.core.plan.making.masses import held_by
from bambola.core.plan.making.values import Notice, Option
from bambola.core.resize import EYE_TOLERANCE, FELTED, REPLACED, SLIMMER, rounds
from bambola.core.resize.laws import HELD_MM
from bambola.core.wool import soft_share
from bambola.core.wool.portions import SHELL_MM, SOFT_CENTRE, SOFT_FACTOR
from bambola.core.words import held_words

LOOSE = 0.5
"""A bought garment wider by more than this share than on the figure as made hangs too loose. Judged.
See craft.md, 6."""
DROOP = 5.0
"""An unwired part longer than this many thicknesses droops. See craft.md, 2."""


def find_notices(found: Findings) -> tuple[Notice, ...]:
    """All notices: what stops first, then what is to be chosen, then what is good to know."""
    rank = {"stop": 0, "choose": 1, "note": 2}
    every = [
        *standing_notices(found),
        *wire_notices(found),
        *_joins(found),
        *_dress(found),
        *_eyes(found),
        *_shapes(found),
        *_hidden(found),
        *_notes(found),
        *_soft_centres(found),
    ]
    return tuple(sorted(every, key=lambda notice: rank[notice.level]))


JOINED = {
    "fringe": "by its fringe alone",
    "patch": "under a patch",
    "scarf": "under a scarf of wool",
    "peg": "on a wire peg",
    "wire": "with wire through it",
}
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
            Option(
                kind,
                label,
                f"{effect}; holds {held_words(ALLOWED_KPA[kind] / max(join.stress_kpa, 1e-9))}",
            )
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
        lifted = "With the figure lifted by it" if join.carries_all else "With its own weight"
        holds = ALLOWED_KPA[drawn] / max(join.stress_kpa, 1e-9)
        grown = (
            f" As made it held {held_words(ALLOWED_KPA[drawn] / join.was_kpa)}: weight grows faster than the"
            f" join."
            if (join.stress_kpa > join.was_kpa * 1.05 > 0)
            else ""
        )
        meanwhile = (
            f" Until you say, it is planned {JOINED[join.kind]}."
            if answer is None and join.kind != drawn
            else ""
        )
        yield Notice(
            code,
            "choose",
            join.part,
            f"{part.name}: the join is too weak",
            f"{lifted} and jerked, a {drawn} holds {held_words(holds)}.{grown}{meanwhile}",
            tuple(options),
            answer,
        )


def _dress(found: Findings) -> Iterator[Notice]:
    """A bought garment that does not reach round what it is worn on, or hangs far looser than as made."""
    matches = {row.id: row.wanted_mm for row in found.fittings}
    part_of = found.resized.figure.by_id
    for row in found.dress:
        if not row.bought:
            continue
        code = f"dress:{row.part}"
        answer = found.brief.answers.get(code)
        loose = row.opening_mm > matches[row.part] * (1 + LOOSE)
        stuck = not row.passes_over and opened(part_of[row.part], found.resized.figure)
        if row.fits and not loose and not stuck and answer is None:
            continue
        name = part_of[row.part].name
        tight = max(row.worn_mm, row.passes_mm if stuck else 0.0)
        least = tight * row.opening_mm / row.stretched_mm
        options: tuple[Option, ...] = (
            Option(
                REPLACED,
                "Another one",
                f"{matches[row.part]:.0f} mm round, at least {least:.0f} mm",
            ),
            Option("leave", "Open it", "and close it behind with a stitch")
            if stuck
            else Option("leave", "Leave it", "open behind" if not row.fits else "it hangs loose"),
        )
        if may_build_round(part_of[row.part], found.resized.figure, found.wool):
            passed = part_of[row.passes].name.lower()
            options += (
                Option(
                    BUILT_ROUND, "Build round it", f"put on before the last round of the {passed}"
                ),
            )
        if stuck:
            size = "it does not go on any more"
            how = (
                f"It stretches to {row.stretched_mm:.0f} mm and must pass over the "
                f"{part_of[row.passes].name.lower()}, {row.passes_mm:.0f} mm round, which is there before it."
                + (" Until you say, it is planned opened behind." if answer is None else "")
            )
        elif not row.fits:
            size = "too tight at this size"
            how = f"It is worn on {row.worn_mm:.0f} mm and stretches to {row.stretched_mm:.0f} mm."
        else:
            size = "too wide at this size" if loose else "sized anew"
            how = (
                f"It is {row.opening_mm:.0f} mm round; as loose as it was made would be "
                f"{matches[row.part]:.0f} mm."
            )
        yield Notice(
            code,
            "choose",
            row.part,
            f"{name}: {size}",
            how,
            options,
            answer_among(found.brief, code, options),
        )


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
            code,
            "choose",
            by_id[row.id].part,
            f"{row.name}: no such size is sold",
            f"{row.wanted_mm:.1f} mm would match. Small features look bigger than expected.",
            tuple(options),
            answer_among(found.brief, code, options),
        )


def _shapes(found: Findings) -> Iterator[Notice]:
    """Sizes that were asked for and that no part of such a shape can have."""
    for part in found.resized.figure.parts:
        sized = found.resized.parts[part.id]
        if not sized.impossible:
            continue
        code = f"shape:{part.id}"
        wanted = sized.impossible
        thick = max(mm for name, mm in wanted.items() if name != "length")
        least = part.shape.least_length(wanted)
        slim = thick * wanted["length"] / least
        options = (
            Option("longer", "Make it longer", f"{least:.0f} mm long and {thick:.0f} mm thick"),
            Option(
                SLIMMER,
                "Make it slimmer",
                f"{wanted['length']:.0f} mm long and {slim:.0f} mm thick",
            ),
        )
        answer = answer_among(found.brief, code, options)
        yield Notice(
            code,
            "choose",
            part.id,
            f"{part.name}: shorter than it is thick",
            f"Its sizes ask for {wanted['length']:.0f} mm long and {thick:.0f} mm thick, which cannot be. "
            + (
                "Until you say, it is planned longer."
                if answer is None
                else "It is planned as you said."
            ),
            options,
            answer,
        )


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


def _hidden(found: Findings) -> Iterator[Notice]:
    """Parts of which hardly anything shows, and parts that touch nothing."""
    figure = found.resized.figure
    touching = dict.fromkeys(figure.by_id, False)
    for i, copy in enumerate(found.solids.placement.copies):
        touching[copy.part.id] |= found.solids.measured[i].join_mm2 > 0
    for part in figure.parts:
        wool = found.wool[part.id]
        within = "within its neighbours"
        if part.garment is not None or part.parent is None:
            continue
        if wool.left_out:
            yield Notice(
                f"hidden:{part.id}",
                "note",
                part.id,
                f"{part.name}: left out",
                f"{part.name} lies wholly {within}: nothing of it shows, and nothing is made of it.",
            )
        elif wool.is_cap:
            yield Notice(
                f"hidden:{part.id}",
                "note",
                part.id,
                f"{part.name}: laid on as a cap",
                f"Only {max(1, round(wool.shows * 100))} % of {part.name.lower()} shows, the rest lies "
                f"{within}: it is laid on as a cap of wool, not shaped and joined.",
            )
        elif not touching[part.id]:
            on = figure.by_id[part.parent].name.lower()
            yield Notice(
                f"floating:{part.id}",
                "choose",
                part.id,
                f"{part.name}: it touches nothing",
                f"{part.name} does not reach the {on} it sits on, so it cannot be joined. Push it in or "
                f"move it in Measure.",
                (Option("leave", "It hangs free", "on a thread or a wire of its own"),),
                answer_among(
                    found.brief, f"floating:{part.id}", (Option("leave", "It hangs free", ""),)
                ),
            )


def _notes(found: Findings) -> Iterator[Notice]:
    figure = found.resized.figure
    for part in figure.parts:
        sized = found.resized.parts[part.id]
        for rule in sized.bent_by:
            yield Notice(
                f"sized:{part.id}",
                "note",
                part.id,
                f"{part.name}: {rule}",
                f"{part.name} does not simply follow the height: {rule}.",
            )
        ring = isinstance(sized.shape, Rope) and sized.shape.closed
        if part.id in figure.wired or sized.shape.flat or part.parent is None or ring:
            continue
        thick = sized.shape.smallest_mm
        if thick < HELD_MM:
            continue  # a thread of wool lies on what it is drawn on
        # Round ends do not hang free: they are what it is joined by and what it ends in.
        ends = thick if isinstance(sized.shape, ChainShape) else 0.0
        run = sized.to_mm.get("length", 0.0) - ends
        if run / thick > DROOP:
            yield Notice(
                f"droop:{part.id}",
                "note",
                part.id,
                f"{part.name}: slender without wire",
                f"{part.name} is {run / thick:.1f} times as long as it is thick and will droop; "
                f"a wire or a pipe-stem core holds it.",
            )
