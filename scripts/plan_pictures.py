"""Picture the body plans: ``make pictures``. The shelf of the start page shows these at once."""

from __future__ import annotations

from PIL import Image

from bambola.core.relief import portrait, stage_of
from bambola.core.solids import place
from bambola.desk.stations.measure.start import LOOK, picture_of, step_for
from bambola.shipped import body_plans, default_bench
from benchmarks.row import SMALLEST


def main() -> None:
    """Write a picture of every body plan, as the window would cast it."""
    colours = default_bench().colours
    for plan in body_plans()[:1] if SMALLEST else body_plans():
        whole = place(plan.figure)
        made = portrait(stage_of(whole), LOOK, step_for(whole), colours, 2)
        path = picture_of(plan)
        path.parent.mkdir(exist_ok=True)
        Image.fromarray(made.pixels, "RGBA").save(path, optimize=True)


if __name__ == "__main__":
    main()
