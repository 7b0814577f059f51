"""Waiting for glue."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "cure.stand": N_("Stand it so that nothing touches the glue."),
    "cure.leave": N_("Leave {part} alone; all else may go on."),
    "cure.alone": N_("Leave that place alone; all else may go on."),
    "cure.meanwhile": N_("Meanwhile: other parts, and the wool for the next."),
    "cure.until-white": N_(
        "After an hour it may be handled; press there again only after a night."
    ),
    "cure.until-clear": N_("Half an hour has gone by."),
    "cure.until-hot": N_("It is cold to the touch, about 3 minutes."),
    "cure.until-instant": N_("2 minutes have gone by."),
    "cure.why": N_("What is touched before it is hard never holds as well again."),
}
