"""Waiting for glue."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "cure.stand": N_("Stand it so that nothing touches the glue."),
    "cure.leave": N_("Leave {part} alone; all else may go on."),
    "cure.alone": N_("Leave that place alone; all else may go on."),
    "cure.meanwhile": N_("Meanwhile: ears, tail, feet, the wool for the next part."),
    "cure.until": N_(
        "White glue takes half an hour to an hour, then a night; clear glue 10 to 30 minutes; hot "
        "glue 2 or 3."
    ),
}
