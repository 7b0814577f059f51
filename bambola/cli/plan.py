"""``bambola plan``: the whole plan, as a page of text or in an export format."""

from __future__ import annotations

import argparse
from datetime import UTC, date, datetime
from pathlib import Path

from bambola.cli.arguments import Commands, design_options, plan_from_arguments, print_now, say_json
from bambola.core.bench import Bench
from bambola.core.export.formats import FORMATS, ExportRequest
from bambola.core.order.steps import made_fact
from bambola.core.plan import Plan
from bambola.core.plan.reading.stuff import piece_fact
from bambola.core.quantities import show_bought, show_length, show_mass
from bambola.core.words import Words
from bambola.files import write_made
from bambola.language import N_, tr

LEVELS = {"choose": N_("choose"), "stop": N_("stop")}


def options(commands: Commands) -> None:
    """Add the command's options."""
    plan = commands.add_parser("plan", help=tr("compute a figure's plan"))
    design_options(plan)
    group = plan.add_mutually_exclusive_group()
    for form in FORMATS:
        option, told = f"--{form.id}", tr(form.told)
        if form.id == "json":
            group.add_argument(option, action="store_true", help=tr("{told}, printed", told=told))
        else:
            where = "DIR" if form.is_folder else "FILE"
            group.add_argument(option, type=Path, metavar=where, help=told)


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    plan, document, bench = plan_from_arguments(args, words)
    form = next((form for form in FORMATS if getattr(args, form.id)), None)
    if form is not None:
        asked = ExportRequest(plan, document.figure, bench, date.today(), datetime.now(UTC), words)
        made, where = form.make(asked), getattr(args, form.id)
        if isinstance(where, Path):
            write_made(where, made)
        elif isinstance(made, bytes):
            say_json(made.decode())
    else:
        print_now(summary(plan, bench, words))


def summary(plan: Plan, bench: Bench, words: Words) -> str:
    """Return the plan in a page of plain text."""
    units = words.units
    lines = [
        tr(
            "{figure}: {from_height} to {height}, {datum}, every length × {scale:.3f}",
            figure=plan.figure,
            from_height=show_length(plan.from_height_mm, units),
            height=show_length(plan.to_height_mm, units),
            datum=words.say(plan.datum),
            scale=plan.scale,
        ),
        tr(
            "{wool} of wool, about {minutes:.1f} h, {n} steps",
            wool=show_mass(plan.wool_g, units),
            minutes=plan.minutes / 60,
            n=len(plan.steps),
        ),
        "",
    ]
    for part in plan.parts:
        sizes = " × ".join(show_length(mm, units, with_unit=False) for mm in part.to_mm.values())
        wool = ", ".join(
            f"{bench.wool_by_id[p.wool].name} {show_mass(p.take_g, units)}"
            for p in part.heaps
            if p.grams > 0
        )
        row = tr(
            "{count} {name:<10} {sizes:<22} {length}  {made:<19}",
            count=part.count,
            name=part.name,
            sizes=sizes,
            length=units.length,
            made=words.say(made_fact(part.made)),
        )
        lines.append(" ".join((row, tr("take {wool}", wool=wool) if wool else "")).rstrip())
    lines.append("")
    lines += [
        tr(
            "{name}: cut {cut} of {stock} {diameter}",
            name=words.say(w.name),
            cut=show_length(w.cut_mm, units),
            stock=words.say(w.stock),
            diameter=show_bought(w.diameter_mm, units),
        )
        for w in plan.wires
    ]
    for pattern in plan.patterns:
        cut = ", ".join(words.say(piece_fact(pattern, piece)) for piece in pattern.pieces)
        lines.append(tr("{part}: {cut}", part=plan.part(pattern.part).name, cut=cut))
    lines.append("")
    lines += [f"{s.n:>3}  {words.say(s.text)}" for s in plan.steps]
    notices = [n for n in plan.notices if n.level != "note"]
    lines += (
        [
            "",
            *(f"{tr(LEVELS[n.level])}: {words.say(n.title)}. {words.say(n.text)}" for n in notices),
        ]
        if notices
        else []
    )
    return "\n".join(lines) + "\n"
