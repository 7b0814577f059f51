"""Enters a measure, typed or read off a caliper, into the figure."""

from __future__ import annotations

from bambola.core.figure import Figure, Survey, Taken
from bambola.core.figure.shapes import LEAST_MM
from bambola.core.figure.survey import How
from bambola.core.plan.reading.typed_height import with_typed_height
from bambola.core.sight.build import with_traces
from bambola.core.solids.edit import stretch_part
from bambola.core.tape import by_tape
from bambola.core.words import error_words, kind
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr

HOW_WORDS: dict[How, str] = {
    "straight": N_("straight"),
    "girth": N_("girth"),
    "over the surface": N_("over it"),
    "caliper": N_("caliper"),
    "picture": N_("picture"),
    "plan": N_("not yet"),
}


def take_measure(studio: EditorSession, part: str, measure: str, mm: float, how: How) -> bool:
    """Set a measure of a part to ``mm``, taken ``how``; refused in words."""
    studio.let_go()  # a caliper may send while a change is under way
    body = studio.figure.by_id.get(part) if studio.figure else None
    # A row may be written in while the part it stood for is already gone, or of another shape.
    if studio.figure is None or body is None or measure not in body.shape.measure_names:
        return False
    figure = studio.figure
    if not LEAST_MM <= mm <= 1_000_000:
        studio.refused.emit(
            tr(
                "{name}: {measure} must lie above 0 and up to 1000 m.",
                name=body.name,
                measure=studio.say(kind("measure", measure)),
            )
        )
        return False
    try:
        measures = by_tape(body.shape, measure, mm, how)
        new = stretch_part(figure, part, measures)
    except ValueError as error:
        said = error_words(error, studio.words)
        studio.refused.emit(said if said.startswith(body.name) else f"{body.name}: {said}.")
        return False
    now = new.by_id[part].shape.measures()
    taken = (Taken(part=part, measure=name, mm=now[name], how=how) for name in measures)
    return edit_rebuilt(
        studio, tr("Measure {name:lower}", name=body.name), new, studio.survey.took(*taken)
    )


def edit_rebuilt(studio: EditorSession, words: str, figure: Figure, survey: Survey) -> bool:
    """Change figure and survey, rebuild traced parts from their traces, and keep the typed height; refused in
    words."""
    try:
        made, survey = with_traces(figure, survey) if survey.traces else (figure, survey)
        if studio.figure is not None:
            made = with_typed_height(studio.figure, made, survey)
    except ValueError as error:
        studio.refuse(error)
        return False
    return studio.edit(words, made, survey, waits=False)
