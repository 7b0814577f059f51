"""What the maker must know, decide or mend, with the effect of each answer."""

from __future__ import annotations

import math
from collections.abc import Iterator

from bambola.core.balance.joins import ALLOWED_KPA
from bambola.core.bench.wools import HIDE_MM
from bambola.core.facts import (
    Exact,
    Fact,
    Grams,
    Holds,
    Mm,
    Share,
    SoldSize,
    Value,
    fact,
    together,
)
from bambola.core.figure import Join
from bambola.core.figure.questions import (
    BoughtGarment,
    CentreAnswer,
    CoredAnswer,
    EyesAnswer,
    EyeSize,
    Floating,
    HardCore,
    Impossible,
    JoinedAnswer,
    LeftAnswer,
    ShapedAnswer,
    SizeAnswer,
    SoftCentre,
    WeakJoin,
    WornAnswer,
)
from bambola.core.plan.judging.findings import DROOP, Findings, answer_among, slenderness
from bambola.core.plan.judging.small_notices import small_notices, standing_notices
from bambola.core.plan.judging.wire_notices import wire_notices
from bambola.core.plan.making.jobs import is_opened_to_go_on, may_build_round
from bambola.core.plan.making.masses import held_by
from bambola.core.plan.making.values import Notice, Option
from bambola.core.resize import EYE_TOLERANCE, core_rounds, wanted_size
from bambola.core.resize.laws import SizedPart, core_room, measure_fact
from bambola.core.wool import soft_share
from bambola.core.wool.bundles import PATCH_BAND_MM
from bambola.core.wool.portions import SHELL_MM, SOFT_FACTOR

LOOSE = 0.5
"""A bought garment wider by more than this share than on the figure as made hangs too loose. Judged.
See craft.md, 6."""
STRONGER: tuple[Join, ...] = ("patch", "scarf", "peg", "wire")
"""What may be offered where a join is too weak, from the least to the most."""


def find_notices(found: Findings) -> tuple[Notice, ...]:
    """Return all notices: first those that stop, then choices, then notes."""
    rank = {"stop": 0, "choose": 1, "note": 2}
    every = [
        *standing_notices(found),
        *wire_notices(found),
        *_join_notices(found),
        *_dress_notices(found),
        *_eye_notices(found),
        *_shape_notices(found),
        *_hidden_notices(found),
        *_core_notices(found),
        *small_notices(found),
        *_other_notices(found),
        *_soft_centres(found),
    ]
    return tuple(sorted(every, key=lambda notice: rank[notice.level]))


def _core_notices(found: Findings) -> Iterator[Notice]:
    """Yield a notice for hard cores with too little wool over them: a needle would break on them."""
    figure, was = found.resized.figure, found.resized.was
    used = {fitting.id: fitting.size for fitting in figure.fittings}
    for fitting in was.fittings:
        if fitting.kind != "core":
            continue
        part, sized = figure.by_id[fitting.part], found.resized.parts[fitting.part]
        question = HardCore(fitting.id)
        said = found.brief.choices.hard_cores.get(fitting.id)
        wanted = wanted_size(fitting, sized.base)
        thick = (
            was.by_id[part.id].shape.smallest_mm * sized.base if said else part.shape.smallest_mm
        )
        over = (thick - wanted) / 2
        if over >= HIDE_MM:
            continue
        options = (
            Option(
                CoredAnswer.SMALLER,
                Fact("hard-core.smaller"),
                fact("hard-core.smaller.effect", most=Mm(math.floor(core_room(part.shape)))),
            ),
            Option(
                CoredAnswer.LARGER,
                Fact("hard-core.larger"),
                fact("hard-core.larger.effect", least=Mm(wanted + 2 * HIDE_MM)),
            ),
            Option(CoredAnswer.NONE, Fact("hard-core.none"), Fact("hard-core.none.effect")),
        )
        how = fact("hard-core.thin.how", over=Exact(max(0.0, over)), least=Mm(HIDE_MM))
        if said is None and 0 < used.get(fitting.id, 0.0) < wanted:
            how = together(how, Fact("hard-core.planned-smaller"))
        yield Notice(
            question.code,
            "choose" if found.brief.height is not None else "note",
            part.id,
            fact("hard-core.thin", part=part.name, hard=fitting.name),
            how,
            options if found.brief.height is not None else (),
            answer_among(said, options),
        )


def _join_notices(found: Findings) -> Iterator[Notice]:
    wished = held_by(found.resized.figure, found.wished)
    for join in found.stresses:
        question = WeakJoin(join.part)
        answer = found.brief.choices.weak_joins.get(join.part)
        drawn = wished[join.part]
        if join.stress_kpa <= ALLOWED_KPA[drawn] and answer is None:
            continue
        part = found.resized.figure.by_id[join.part]
        options = [
            Option(
                JoinedAnswer(kind),
                Fact(f"weak-join.{kind}"),
                fact(
                    f"weak-join.{kind}.effect",
                    band=Mm(PATCH_BAND_MM),
                    holds=Holds(ALLOWED_KPA[kind] / max(join.stress_kpa, 1e-9)),
                ),
            )
            for kind in STRONGER
            if ALLOWED_KPA[kind] >= join.stress_kpa and (kind != drawn or kind == answer)
        ]
        options.append(Option(JoinedAnswer.LEAVE, Fact("leave"), Fact("weak-join.leave.effect")))
        answer = answer_among(answer, options)
        lifted = "lifted" if join.carries_all else "own-weight"
        told = [
            fact(
                f"weak-join.{lifted}",
                kind=Fact(f"join.{drawn}"),
                holds=Holds(ALLOWED_KPA[drawn] / max(join.stress_kpa, 1e-9)),
            )
        ]
        if join.held_before is not None and join.stress_kpa > join.was_kpa * 1.05:
            told.append(fact("weak-join.was", holds=Holds(join.held_before)))
        if answer is None and join.kind != drawn:
            told.append(Fact(f"weak-join.planned-{join.kind}"))
        yield Notice(
            question.code,
            "choose",
            join.part,
            fact("weak-join", part=part.name),
            together(*told),
            tuple(options),
            answer,
        )


def _dress_notices(found: Findings) -> Iterator[Notice]:
    """Yield a notice for bought garments that are too small, or hang far looser than as made."""
    matches = {row.id: row.wanted_mm for row in found.fittings}
    part_of = found.resized.figure.by_id
    for row in found.dress:
        if not row.bought:
            continue
        question = BoughtGarment(row.part)
        answer = found.brief.choices.garments.get(row.part)
        loose = row.opening_mm > matches[row.part] * (1 + LOOSE)
        stuck = not row.passes_over and is_opened_to_go_on(part_of[row.part], found.resized.figure)
        if row.fits and not loose and not stuck and answer is None:
            continue
        name = part_of[row.part].name
        tight = max(row.worn_mm, row.passes_mm if stuck else 0.0)
        least = tight * row.opening_mm / row.stretched_mm
        options: tuple[Option, ...] = (
            Option(
                WornAnswer.REPLACED,
                Fact("garment.another"),
                fact("garment.another.effect", round=Mm(matches[row.part]), least=Mm(least)),
            ),
            Option(WornAnswer.LEAVE, Fact("garment.open"), Fact("garment.open.effect"))
            if stuck
            else Option(
                WornAnswer.LEAVE,
                Fact("leave"),
                Fact("garment.tight" if not row.fits else "garment.loose"),
            ),
        )
        if may_build_round(part_of[row.part], found.resized.figure, found.wool):
            effect = fact("garment.round.effect", over=part_of[row.passes].name)
            options += (Option(WornAnswer.BUILT_ROUND, Fact("garment.round"), effect),)
        if stuck:
            size = "garment.stuck"
            how = fact(
                "garment.stuck.how",
                stretched=Mm(row.stretched_mm),
                over=part_of[row.passes].name,
                round=Mm(row.passes_mm),
            )
            if answer is None:
                how = together(how, Fact("garment.planned-open"))
        elif not row.fits:
            size = "garment.too-tight"
            how = fact(
                "garment.too-tight.how", worn=Mm(row.worn_mm), stretched=Mm(row.stretched_mm)
            )
        else:
            size = "garment.too-wide" if loose else "garment.sized"
            how = fact(
                "garment.too-wide.how", round=Mm(row.opening_mm), match=Mm(matches[row.part])
            )
        yield Notice(
            question.code,
            "choose",
            row.part,
            fact(size, part=name),
            how,
            options,
            answer_among(answer, options),
        )


def _deviation_from_scale(off: float) -> Fact:
    """Return how far a size is off the size by the figure's scale."""
    return fact("eye-size.larger" if off > 0 else "eye-size.smaller", off=abs(off))


def _eye_notices(found: Findings) -> Iterator[Notice]:
    by_id = {fitting.id: fitting for fitting in found.resized.figure.fittings}
    sizes = found.bench.eye_sizes
    for row in found.fittings:
        if row.id not in by_id or by_id[row.id].follows != "ready-made":
            continue
        question = EyeSize(row.id)
        answer = found.brief.choices.eye_sizes.get(row.id)
        if abs(row.deviation_pct) <= EYE_TOLERANCE * 100 and answer is None:
            continue
        below = [size for size in sizes if size <= row.wanted_mm][-1:]
        above = [size for size in sizes if size > row.wanted_mm][:1]
        options = [
            Option(
                SizeAnswer.answer_for(size),
                fact("eye-size.size", size=SoldSize(size)),
                _deviation_from_scale(size / row.wanted_mm - 1),
            )
            for size in (*below, *above)
        ]
        options.append(
            Option(EyesAnswer.FELTED, Fact("eye-size.felt"), Fact("eye-size.felt.effect"))
        )
        yield Notice(
            question.code,
            "choose",
            by_id[row.id].part,
            fact("eye-size", name=row.name),
            fact("eye-size.how", size=SoldSize(round(row.wanted_mm, 1))),
            tuple(options),
            answer_among(answer, options),
        )


def _shape_notices(found: Findings) -> Iterator[Notice]:
    """Yield a question for sizes that no part of its shape can have."""
    for part in found.resized.figure.parts:
        sized = found.resized.parts[part.id]
        if not sized.impossible:
            continue
        question = Impossible(part.id)
        wanted = sized.impossible
        thick = max(mm for name, mm in wanted.items() if name != "length")
        least = part.shape.least_length(wanted)
        slim = thick * wanted["length"] / least
        options = (
            Option(
                ShapedAnswer.LONGER,
                Fact("shape.longer"),
                fact("shape.sizes", long=Mm(least), thick=Mm(thick)),
            ),
            Option(
                ShapedAnswer.SLIMMER,
                Fact("shape.slimmer"),
                fact("shape.sizes", long=Mm(wanted["length"]), thick=Mm(slim)),
            ),
        )
        answer = answer_among(found.brief.choices.impossible_shapes.get(part.id), options)
        yield Notice(
            question.code,
            "choose",
            part.id,
            fact("shape", part=part.name),
            together(
                fact("shape.how", long=Mm(wanted["length"]), thick=Mm(thick)),
                Fact("shape.planned-longer" if answer is None else "planned-as-said"),
            ),
            options,
            answer,
        )


def _soft_centres(found: Findings) -> Iterator[Notice]:
    """Yield the offer to leave a thick core soft in the middle, where nobody feels it."""
    for part in found.resized.figure.parts:
        if part.stuff or part.hollow:
            continue
        wool = found.wool[part.id]
        thick = part.shape.smallest_mm - 2 * wool.coat_mm
        share = soft_share(part.shape, thick)
        if share <= 0:
            continue
        core = found.bench.wool_by_id[part.core]
        question = SoftCentre(part.id)
        density = found.bench.packed_density(found.resized.figure, part)
        lighter = (density - SOFT_FACTOR * core.start_density) * wool.net_cm3 * share
        if lighter <= 0:
            continue
        # What is felted is what the time goes into: the centre is only rolled, and the shell is one round.
        laid = sum(p.grams for p in wool.portions if p.role in ("coat", "inset"))
        felted = density * wool.net_cm3
        pace, firm = found.bench.pace, part.firmness
        solid = pace.core_minutes(felted - laid, core_rounds(thick), firm)
        saved = (solid - pace.core_minutes(felted * (1 - share) - laid, 1, firm)) / 60
        count = found.counts[part.id]
        options = (
            Option(
                CentreAnswer.SOFT,
                Fact("soft-centre.take"),
                fact("soft-centre.take.effect", less=Grams(lighter * count), hours=saved * count),
            ),
            Option(CentreAnswer.SOLID, Fact("soft-centre.solid"), Fact("soft-centre.solid.effect")),
        )
        answer = answer_among(found.brief.choices.soft_centres.get(part.id), options)
        text = fact(
            "soft-centre.how",
            thick=Mm(thick),
            shell=Mm(SHELL_MM),
            less=Grams(lighter * count),
            hours=saved * count,
        )
        title = fact("soft-centre", part=part.name)
        yield Notice(question.code, "note", part.id, title, text, options, answer)


def _hidden_notices(found: Findings) -> Iterator[Notice]:
    """Yield a notice for parts that are almost hidden, and for parts that touch nothing."""
    figure = found.resized.figure
    for part in figure.parts:
        laid = {p.detail for p in found.wool[part.id].portions if p.role == "inset"}
        gone = [i.display_name for i in part.patches if i.id not in laid]
        for patch in () if found.wool[part.id].left_out else gone:
            title = fact("patch-out", part=part.name, patch=patch)
            yield Notice(f"patch:{part.id}", "note", part.id, title, Fact("patch-out.how"))
    touching = dict.fromkeys(figure.by_id, False)
    for i, copy in enumerate(found.solids.placement.copies):
        touching[copy.part.id] |= found.solids.measured[i].join_mm2 > 0
    for part in figure.parts:
        wool = found.wool[part.id]
        if part.garment is not None or part.parent is None:
            continue
        if wool.left_out:
            yield Notice(
                f"hidden:{part.id}",
                "note",
                part.id,
                fact("left-out", part=part.name),
                fact("left-out.how", part=part.name),
            )
        elif wool.is_cap:
            yield Notice(
                f"hidden:{part.id}",
                "note",
                part.id,
                fact("cap", part=part.name),
                fact("cap.how", part=part.name, shows=Share(max(0.01, wool.shows))),
            )
        elif not touching[part.id]:
            question = Floating(part.id)
            free = Option(LeftAnswer.LEAVE, Fact("floating.free"), Fact("floating.free.effect"))
            yield Notice(
                question.code,
                "choose",
                part.id,
                fact("floating", part=part.name),
                fact("floating.how", part=part.name, on=figure.by_id[part.parent].name),
                (free,),
                answer_among(found.brief.choices.floating.get(part.id), (free,)),
            )


def _at_once(sized: SizedPart) -> tuple[Fact, ...]:
    """Return what changed the sizes of a part, each cause once; a cause shared by all measures is told of its
    size."""
    of: dict[tuple[str, tuple[tuple[str, Value], ...]], list[Fact]] = {}
    for rule in sized.bent_by:
        slots = dict(rule.slots)
        measure = slots.pop("measure")
        assert isinstance(measure, Fact)
        of.setdefault((rule.kind, tuple(slots.items())), []).append(measure)
    found = []
    for (kind, rest), measures in of.items():
        whole = len(measures) == len(sized.to_mm) > 1
        named: Value = measure_fact("size") if whole else tuple(measures)
        found.append(fact(kind, measure=named, **dict(rest)))
    return tuple(found)


def _other_notices(found: Findings) -> Iterator[Notice]:
    figure = found.resized.figure
    for part in figure.parts:
        sized = found.resized.parts[part.id]
        # What only keeps with its bearer is said of that.
        if any(rule.kind != "size.with" for rule in sized.bent_by):
            rules = _at_once(sized)
            title = fact("sized", part=part.name, rule=rules)
            how = fact("sized.how", part=part.name, rule=rules)
            yield Notice(f"sized:{part.id}", "note", part.id, title, how)
        times = 0.0 if part.id in figure.wired else slenderness(part)
        if times > DROOP:
            yield Notice(
                f"droop:{part.id}",
                "note",
                part.id,
                fact("droop", part=part.name),
                fact("droop.how", part=part.name, times=times),
            )
