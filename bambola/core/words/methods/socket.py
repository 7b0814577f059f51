"""Sockets for eyes."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "socket.dimple": N_("Felt a firm dimple {deep} deep for an eye of {eye}."),
    "socket.awl": N_("Go in to the shaft, wriggle, then open the hole with the awl, {deep} deep."),
    "socket.both": N_("Both eyes in, dry."),
    "socket.level": N_("Are they level? Out again, and glue them at once: holes close."),
    "socket.pins": N_("A pin in each, where the eye will sit."),
    "socket.level-pins": N_("Are the pins level, both ways up? Leave them in."),
    "socket.until": N_("The eye sits in its dimple without glue, level with the other."),
    "socket.scale": N_("Eyes come in whole sizes: keep the gap between them."),
    "socket.why": N_(
        "An eye that sits in the head looks alive; one that sits on it looks glued on."
    ),
}
