"""Steps that share a card."""

from __future__ import annotations

from bambola.core.words.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "alike.title": NN_("{first}, and one more alike", "{first}, and {n} more alike"),
    "alike.rows": N_("{first}, and so on to row {row}"),
    "alike.each": N_("for each row {amount}"),
    "alike.row": N_("row {n}"),
    "alike.on": N_("{row}, {part:lower}"),
    "alike.at": N_("{row}, {place:lower} ({part:lower})"),
}
