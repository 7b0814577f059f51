"""The weigh-out list of a plan, what is split off one hank, and the bags of a kit."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.bench import Bench
from bambola.core.bench.wools import COVER
from bambola.core.facts import NOTHING, Fact, Grams, fact, together
from bambola.core.figure import Leaf
from bambola.core.frozen import frozen
from bambola.core.order import Step
from bambola.core.plan.making.dress import dress_fact
from bambola.core.plan.making.values import PartPlan, Plan
from bambola.core.wool import Blank, Portion, blank_of
from bambola.core.wool.splitting import WantedPortion


@frozen
class Weighing:
    """One portion for one copy of a part in one figure: what is put on the pan in one go.

    ``figure`` counts from 1, ``copy`` from 0 of ``copies``. ``key`` names it in records of what was
    weighed, ``twin`` the portion it must equal, if it is the second of a pair.
    """

    key: str
    part: str
    part_name: str
    copy: int
    copies: int
    figure: int
    portion: Portion
    twin: str | None

    @property
    def least_g(self) -> float:
        """The amount to begin with, g."""
        return self.portion.take_g

    @property
    def title(self) -> Fact:
        """The part, and which copy of how many."""
        if self.copies == 1:
            return fact("named", name=self.part_name)
        if self.copies == 2:
            return fact("copy.second" if self.copy else "copy.first", part=self.part_name)
        return fact("copy", part=self.part_name, number=self.copy + 1)


def weighings(plan: Plan) -> tuple[Weighing, ...]:
    """Return everything to weigh out, colour by colour, the heaviest colour first and twins together."""
    weight: dict[str, float] = {}
    for part in plan.parts:
        for p in part.portions:
            weight[p.wool] = weight.get(p.wool, 0.0) + p.grams * part.count
    found = [w for part in plan.parts for w in _of_part(part, plan.count)]
    return tuple(sorted(found, key=lambda w: (-weight[w.portion.wool], w.portion.wool)))


def _of_part(part: PartPlan, figures: int) -> Iterator[Weighing]:
    for i, portion in enumerate(part.heaps):
        if portion.take_g <= 0:
            continue
        for figure in range(1, figures + 1):
            first = _heap_key(part, i, figure, 0)
            for copy in range(part.count):
                yield Weighing(
                    _heap_key(part, i, figure, copy),
                    part.id,
                    part.name,
                    copy,
                    part.count,
                    figure,
                    portion,
                    first if copy else None,
                )


def _heap_key(part: PartPlan, i: int, figure: int, copy: int) -> str:
    p = part.heaps[i]
    name = f"{part.id}/{p.role}" + (
        f"-{p.detail}" if p.role in ("inset", "core", "fur") and p.detail else ""
    )
    return f"{name}/{figure}/{copy}"


def split_wishes(plan: Plan, wool: str, bench: Bench) -> tuple[WantedPortion, ...]:
    """Return the portions of one colour to be split off a hank, including loss, g. Copies of a part get equal
    pieces."""
    found = []
    for part in plan.parts:
        for i, p in enumerate(part.heaps):
            if p.wool == wool and p.grams > 0 and part.count:
                name = _heap_key(part, i, 1, 0).rsplit("/", 2)[0]
                taken = p.grams / (1 - bench.wool_by_id[wool].lost_share(p.role))
                found.append(WantedPortion(name, taken, part.count * plan.count))
    return tuple(found)


def portion_named(plan: Plan, name: str) -> tuple[PartPlan, Portion]:
    """Return the part and portion with this name in a split."""
    for part in plan.parts:
        for i, portion in enumerate(part.heaps):
            if _heap_key(part, i, 1, 0).rsplit("/", 2)[0] == name:
                return part, portion
    raise KeyError(name)


@frozen
class Bag:
    """A bag of a kit: its label and contents."""

    title: Fact
    weighings: tuple[Weighing, ...]

    @property
    def take_g(self) -> float:
        """The amount to begin with, g."""
        return sum(w.portion.take_g for w in self.weighings)

    @property
    def keep_by_g(self) -> float:
        """The amount kept in reserve, g."""
        return sum(w.portion.keep_by_g for w in self.weighings)


def bags_by_figure(plan: Plan) -> tuple[Bag, ...]:
    """Return one bag for each figure, its portions part by part."""
    order = {part.id: i for i, part in enumerate(plan.parts)}
    every = sorted(weighings(plan), key=lambda w: (w.figure, order[w.part]))
    return tuple(
        Bag(
            fact("bag.of", n=n, count=plan.count, figure=plan.figure)
            if plan.count > 1
            else fact("named", name=plan.figure),
            tuple(w for w in every if w.figure == n),
        )
        for n in range(1, plan.count + 1)
    )


def bags_by_colour(plan: Plan, bench: Bench) -> tuple[Bag, ...]:
    """Return one bag for each wool over all figures, twins together."""
    every = weighings(plan)
    wools = dict.fromkeys(w.portion.wool for w in every)
    return tuple(
        Bag(
            fact("named", name=bench.wool_by_id[wool].name),
            tuple(w for w in every if w.portion.wool == wool),
        )
        for wool in wools
    )


def with_reserve(take_g: float, keep_by_g: float) -> Fact:
    """Return the amount to take and the reserve, separately."""
    return fact("bag.with-reserve", take=Grams(take_g), keep=Grams(keep_by_g))


def pair_advice(part: PartPlan, portion: Portion) -> Fact:
    """Return how to make two portions equal, by what fits the part."""
    if part.count < 2:
        return NOTHING
    if portion.role != "core":
        return Fact("twins.heaps")
    if portion.form in ("sausage", "cone"):
        return Fact("twins.roll")
    return Fact("twins.strip" if portion.form == "sheet" else "twins.weigh")


def covered_skin(
    plan: Plan, bench: Bench, part_id: str, portion: Portion
) -> tuple[float, float] | None:
    """Return the skin (cm²) that a coat or patch covers, including tucked edges, and the cover (g/cm²) asked
    of it; None for anything else."""
    part = plan.resized.figure.by_id[part_id]
    if portion.role == "coat" and part.coat:
        asked = part.coat.cover
    elif portion.role == "inset":
        patch = next(patch for patch in part.patches if patch.id == portion.detail)
        if patch.face is not None:  # it is laid by its volume
            return None
        asked = patch.cover
    else:
        return None
    cover = COVER[asked] if isinstance(asked, str) else asked
    return portion.grams / (cover * bench.wool_by_id[portion.wool].cover), cover


def laid_fact(plan: Plan, step: Step, bench: Bench) -> Fact:
    """Return the fact that says what wool a step takes, and of a shared portion how much of it."""
    job = plan.job_of(step)
    copies = job.count if job else 1
    laid = tuple(_portion_fact(copies, p, share, bench) for p, share in plan.laid_by(step))
    return fact("laid", of=laid) if laid else NOTHING


def _portion_fact(copies: int, portion: Portion, share: float, bench: Bench) -> Fact:
    weight, wool = Grams(portion.take_g * share), bench.wool_by_id[portion.wool].name
    one = (
        fact("laid.share", weight=weight, wool=wool, whole=Grams(portion.take_g))
        if share < 1
        else fact("laid.all", weight=weight, wool=wool)
    )
    return fact("laid.copies", n=copies, each=one) if copies > 1 else one


def dress_told(plan: Plan, step: Step) -> Fact:
    """Return the fact that says what to cut for the garment a step puts on, and what it goes over; nothing if
    it puts on none."""
    names = {part.id: part.name for part in plan.parts}
    rows = [
        row
        for row in plan.dress
        if step.kind == "dress" and row.part == step.part and not row.is_cut  # its own step cut it
    ]
    return together(*(dress_fact(row, names) for row in rows)) if rows else NOTHING


def blanks_of(plan: Plan, bench: Bench) -> dict[str, Blank]:
    """Return the blank of every flat part that is felted as a sheet, by part id."""
    found = {}
    figure = plan.resized.figure
    for row in plan.parts:
        part = figure.by_id[row.id]
        sheet = any(p.role == "core" and p.form == "sheet" for p in row.portions)
        if isinstance(part.shape, Leaf) and row.made != "detail" and sheet:
            wool = bench.wool_by_id[part.core]
            found[row.id] = blank_of(
                part.shape,
                wool.start_density,
                bench.packed_density(figure, part),
                row.fringe_mm,
                wool.shrink_weights("sheet")[0],
            )
    return found
