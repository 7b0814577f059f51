"""Records what went wrong at a step, and what helped."""

from __future__ import annotations

from bambola.core.bench import Making
from bambola.core.bench.shelved import find_shelf_item
from bambola.core.order import Step
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.stations.order.rescue_box import RescueBox
from bambola.files import ExportError
from bambola.language import tr
from bambola.store.photographs import Photographs


def with_mended(making: Making, step: Step, box: RescueBox, desk: BenchDesk) -> Making:
    """Return the making with what ``box`` has recorded for a step."""
    told = (*making.mended.get(step.key, ()), box.mended)
    making = making.replaced(mended={**making.mended, step.key: told})
    if box.picture is not None and desk.book.path is not None:
        try:
            kept = Photographs(desk.book.path).save(box.picture)
        except ExportError as error:
            desk.studio.refuse(error)
        else:
            names = dict.fromkeys((*making.photographs, kept))
            making = making.replaced(photographs=tuple(names))
    symptom = box.symptom
    if symptom is not None and symptom.id == "needle-broke" and step.needle:
        making = _without_needle(making, step.needle, desk)
    return making


def _without_needle(making: Making, gauge: int, desk: BenchDesk) -> Making:
    """Book a broken needle on what the figure used, and say when it was the last of its gauge."""
    key = f"needle:{gauge}"
    broken = making.used.get(key, 0.0) + 1
    known = find_shelf_item(desk.base, key)
    if known is not None and known.left and known.left <= broken:
        told = tr("That was the last {gauge} needle: buy some.", gauge=gauge)
        desk.studio.refused.emit(told)
    return making.replaced(used={**making.used, key: broken})
