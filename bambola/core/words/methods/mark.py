"""Marking a face."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "mark.strip": N_(
        "Lay a strip of paper from crown to chin on {part}, and carry the marks over."
    ),
    "mark.strip-long": N_(
        "Lay a strip of paper from crown to chin on {part}, {long} over the surface."
    ),
    "mark.strip-over": N_(
        "Lay a strip of paper from the crown of {part} down over the front, {long} in all."
    ),
    "mark.on-midline": N_("{mark}: {down} down from the crown, on the midline."),
    "mark.both": N_("{mark}: {down} from the crown, {aside} to each side of the midline."),
    "mark.aside": N_("{mark}: {down} from the crown, {aside} from the midline."),
    "mark.thread-long": N_("Lay a thread round at the eyes, {long} long: it runs level."),
    "mark.thread-at": N_("{mark}: lay a thread round there, {long} long: it runs level."),
    "mark.dots": N_("So small a head takes two dots with the needle."),
    "mark.pins": N_("Pins for nose and eyes, heads in sight."),
    "mark.thread": N_("Lay a thread round at the line of the eyes."),
    "mark.upside": N_("Look from the front, the side, above, and upside down."),
    "mark.scratch-all": N_("Scratch the outlines with the needle, and take the pins out."),
    "mark.until": N_("Left and right are alike, within {off}."),
    "mark.scale": N_("Eyes and nose follow the head; on a small one less is drawn."),
    "mark.why": N_("By eye alone a face ends up askew; a mark can be moved, a hole cannot."),
}
