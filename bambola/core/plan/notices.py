"""What the maker must know, decide or mend: in words, with the consequences of each answer."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from bambola.core.armature import CutWire, ThinLimb
from bambola.core.balance import WARN_DEG, Balance, JoinStress
from bambola.core.balance.joins import ALLOWED_KPA
from bambola.core.figure import Bench, Brief, Rope
from bambola.core.plan.values import FittingPlan, Notice, Option
from bambola.core.resize import EYE_TOLERANCE, FELTED, Resized

DROOP = 5.0
"""An unwired part longer than this many thicknesses droops."""


@dataclass(frozen=True)
class Findings:
    """What notices are read off from."""

    resized: Resized
    brief: Brief
    bench: Bench
    fittings: tuple[FittingPlan, ...]
    thin: tuple[ThinLimb, ...]
    stresses: tuple[JoinStress, ...]
    balance: Balance
    wires: tuple[CutWire, ...]
    joins: Mapping[str, str]


def find_notices(found: Findings) -> tuple[Notice, ...]:
    """All notices: what stops first, then what is to be chosen, then what is good to know."""
    rank = {"stop": 0, "choose": 1, "note": 2}
    every = [*_standing(found), *_limbs(found), *_joins(found), *_eyes(found), *_notes(found)]
    return tuple(sorted(every, key=lambda notice: rank[notice.level]))


def _standing(found: Findings) -> Iterator[Notice]:
    if found.resized.figure.stance == "hanging":
        return
    angle = found.balance.tip_angle_deg
    if not found.balance.stands:
        yield Notice("standing", "stop", None, "It would fall over",
                     "Its centre of mass lies outside its feet. Give it bigger or flatter feet, a third "
                     "foot, weight low in the body, or a stand.")  # fmt: skip
    elif angle < WARN_DEG:
        yield Notice("standing", "note", None, "It stands, but only just",
                     f"It tips at {angle:.1f}°, and under {WARN_DEG:.0f}° is unsafe. Bigger feet or "
                     f"weight low in the body help.")  # fmt: skip


def _limbs(found: Findings) -> Iterator[Notice]:
    for thin in found.thin:
        part = found.resized.figure.by_id[thin.part]
        code = f"thin-limb:{thin.part}"
        options = []
        if thin.fits_diameter:
            options.append(
                Option(
                    "thinner-wire",
                    "Thinner wire",
                    f"{thin.fits_diameter:g} mm hides in it, and holds less",
                )
            )
        options.append(Option("no-wire", "No wire", "felt it firm; it cannot be posed"))
        options.append(
            Option(
                "stouter-limb", "Stouter limb", f"{thin.needs_mm:.1f} mm thick, a little heavier"
            )
        )
        yield Notice(
            code, "choose", thin.part, f"{part.name}: too thin for its wire",
            f"It would be {thin.limb_mm:.1f} mm; wire and the wool to hide it need {thin.needs_mm:.1f} mm.",
            tuple(options), _answer(found.brief, code, options),
        )  # fmt: skip
    # An answer that has done its work leaves no thin limb behind, but can still be changed.
    still = {thin.part for thin in found.thin}
    for part in found.resized.figure.parts:
        code = f"thin-limb:{part.id}"
        answer = found.brief.answers.get(code)
        if answer in ("no-wire", "stouter-limb") and part.id not in still and found.brief.height:
            options = [
                Option("thinner-wire", "Thinner wire", "hides in it, and holds less"),
                Option("no-wire", "No wire", "felt it firm; it cannot be posed"),
                Option("stouter-limb", "Stouter limb", "as thick as its wire needs"),
            ]
            done = (
                "It is made without wire: felt it firm." if answer == "no-wire"
                else "It is made stouter, so that wool hides the wire."
            )  # fmt: skip
            yield Notice(
                code,
                "choose",
                part.id,
                f"{part.name}: too thin for its wire",
                done,
                tuple(options),
                answer,
            )


def _joins(found: Findings) -> Iterator[Notice]:
    for join in found.stresses:
        code = f"join:{join.part}"
        answer = found.brief.answers.get(code)
        if join.holds and answer is None:
            continue
        part = found.resized.figure.by_id[join.part]
        drawn = part.join
        options = [
            Option(kind, label, f"bears {ALLOWED_KPA[kind]:.0f} kPa")
            for kind, label in (
                ("patch", "Patch over it"),
                ("scarf", "Wool scarf"),
                ("peg", "Wire peg"),
            )
            if ALLOWED_KPA[kind] >= join.stress_kpa and (kind != drawn or kind == answer)
        ]
        options.append(Option("leave", "Leave it", "never lift it there"))
        carried = "the figure lifted by it" if join.carries_all else "its own weight"
        yield Notice(
            code, "choose", join.part, f"{part.name}: the join is too weak",
            f"With {carried} it bears {join.stress_kpa:.1f} kPa; a {drawn} holds {ALLOWED_KPA[drawn]:.0f}.",
            tuple(options), _answer(found.brief, code, options),
        )  # fmt: skip


def _eyes(found: Findings) -> Iterator[Notice]:
    by_id = {fitting.id: fitting for fitting in found.resized.figure.fittings}
    sizes = found.bench.eye_sizes
    for row in found.fittings:
        if by_id[row.id].follows != "ready-made":
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
            tuple(options), _answer(found.brief, code, options),
        )  # fmt: skip


def _answer(brief: Brief, code: str, options: list[Option]) -> str | None:
    """The maker's answer, if it is still one of those on offer."""
    answer = brief.answers.get(code)
    return answer if any(option.id == answer for option in options) else None


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
    for wire in found.wires:
        if wire.needed_mm > wire.diameter_mm * 1.001:
            yield Notice(f"gauge:{wire.id}", "note", None, f"{wire.name}: thinner than it should be",
                         f"{wire.needed_mm:.2f} mm would hold as well as before; {wire.diameter_mm:g} mm "
                         f"is used. More strands or a stand help.")  # fmt: skip
