"""The face: its marks, and where they lie."""

from __future__ import annotations

from bambola.core.words.marked import N_

SENTENCES = {
    "face.middle": N_("{name}, middle"),
    "face.inner-end": N_("{name}, inner end of its base"),
    "face.outer-end": N_("{name}, outer end of its base"),
}
