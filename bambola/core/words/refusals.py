"""Refusals of files, figures and benches, and of typed or drawn input."""

from __future__ import annotations

from bambola.core.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    # What a file is, and what is wrong with it.
    "document.figure": N_("a Bambola figure"),
    "document.bench": N_("a Bambola bench"),
    "document.strokes": N_("a file of strokes"),
    "document.book": N_("a book of makings"),
    "document.in": N_("{file}: {fault}."),
    "document.at": N_("{where}: {fault}"),
    "document.no-version": N_(
        "bambola: the version number is missing or not a whole number; this is not a Bambola figure"
    ),
    "document.newer": N_(
        "bambola: this file is of version {version}, and this Bambola reads versions up to {known}; a newer "
        "Bambola is needed"
    ),
    "document.large": N_("the file is over {most} MB, too large for {what}"),
    "document.full": N_("there is more in the file than {what} can hold"),
    "document.no-text": N_("byte {byte} is not UTF-8 text; this is not {what}"),
    "document.damaged": N_(
        "line {line}, column {column}: the JSON is damaged ({told}); nothing was opened"
    ),
    "document.deep": N_("the JSON is nested too deeply for {what}"),
    "document.not-finite": N_("the file holds the number {number}; every number must be finite"),
    "document.digits": N_(
        "the file holds a number of thousands of digits; every number must be finite"
    ),
    "document.no-object": N_("{what} is a JSON object, and this is not one"),
    "document.long": N_("it holds {n} things; no more than {most} are allowed"),
    "document.missing": N_("this field is missing"),
    "document.unknown": N_("no field of this name is known here"),
    "document.no-shape": N_("not a kind of shape; use one of {kinds}, but found {found}"),
    "document.too-many": N_("at most {most} are allowed, but found {found}"),
    "document.found": N_("{told}, but found {found}"),
    "document.no-day": N_("“{found}” is not a day; write one such as 2026-12-12"),
    "document.no-number": N_("a number that is not finite"),
    # Whether the pieces of a figure fit together.
    "fault": N_("{fault:capital}."),
    "fault.twice": N_("{field}: the id “{id}” is used {times} times; every id must be its own"),
    "fault.roots": N_("parts: exactly one part has no parent, but {roots} have none"),
    "fault.no-root": N_("parts: exactly one part has no parent, but none has none"),
    "edit.row-root": N_("There is one {part:lower} only: everything else sits on it."),
    "edit.row-bears": N_("The {on:lower} sits on the {part:lower}, so there is no row of it."),
    "fault.row-root": N_(
        "parts, {id}, row: neither the part everything sits on nor a garment can be a row"
    ),
    "fault.hollow": N_(
        "parts, {id}, hollow: a hollow lies in another part; it cannot be a sheet, a cloth or a "
        "garment, and has no places"
    ),
    "fault.hollow-datum": N_("datum, part: {id} is a hollow, up to which no height is taken"),
    "fault.fixing": N_("{kind} cannot be {fixed}; it is one of {known}"),
    "fault.stuff": N_(
        "parts, {id}, stuff: what is not wool sits on another part, and has no coat, no places, no eye "
        "and no face of its own"
    ),
    "fault.row-bears": N_("parts, {id}, row: nothing can sit on a row, and {on} does"),
    "fault.root-pair": N_("parts, {id}, pair: the part everything sits on cannot be a pair"),
    "fault.no-part": N_("{where}: there is no part “{part}”"),
    "fault.circle": N_("parts, {id}, parent: {ids} goes round in a circle"),
    "fault.no-side": N_("{where}, on: there is no “{part}” on the {side}"),
    "fault.not-near": N_("{where}: “{part}” neither sits on “{id}” nor bears it"),
    "fault.leaf-cup": N_("curl and cup: together they bend a sheet by at most 300°"),
    "fault.no-limb": N_("pose, {id}: only a limb can be posed, and there is no limb of that id"),
    "fault.no-joint": N_("pose, {id}, joint: this limb has joints 0 to {last}"),
    "fault.no-node": N_("{where}: there is no node “{node}”"),
    "fault.no-bone": N_("wires, {id}, route: no bone joins “{a}” and “{b}”"),
    "fault.no-measure": N_("it has no measure “{measure}”; use {known}"),
    "fault.rule-measure": N_("brief, rules, {id}: it has no measure “{measure}”; use {known}"),
    "fault.rule-value": N_("a {rule} needs a value"),
    "fault.cone-short": N_("a cone must be longer than its thicker end is wide"),
    "fault.leaf-outline": N_("outline points must lie within -0.5..0.5 across and 0..1 along"),
    "fault.limb-joints": N_("a limb needs joints at different places"),
    "fault.rope-points": N_("a rope needs points at different places"),
    "fault.rope-ring": N_("a closed rope needs at least three points"),
    "fault.sausage-short": N_("a sausage must be at least as long as it is thick"),
    "fault.stations": N_("stations must run from along 0 to along 1, each beyond the last"),
    "fault.turned-flat": N_("a turned form needs some width and depth"),
    "fault.trace-sides": N_(
        "a trace needs as many reaches to its left as to its right, two or more"
    ),
    "fault.trace-points": N_("a trace needs points at different places"),
    "fault.sizes": N_("{field}: sizes must be above zero and rise"),
    "fault.stock-twice": N_("{field}: the id “{id}” is used twice; every id must be its own"),
    "fault.blend-unknown": N_("wools: the blend “{blend}” names “{wool}”, which is not here"),
    "fault.blend-of-blend": N_(
        "wools: the blend “{blend}” is made of “{wool}”, itself a blend; name what that is made of"
    ),
    "fault.blend-twice": N_("a blend names every wool once"),
    "fault.no-wool": N_("parts › {id} › {field}: the bench has no wool “{wool}”; it has {known}"),
    # What cannot be done with a part.
    "edit.carries-all": N_("{part} carries everything else and cannot be removed."),
    "edit.piece-small": N_("{part}: the piece is too small to be felted."),
    "edit.joins-pair": N_(
        "{part} is single and {pair} is one of a pair: first say what {part} is."
    ),
    "edit.cuts-nothing": N_("The stroke cuts nothing off {part}: draw it across, further in."),
    "edit.carries-itself": N_("{part} cannot sit on {on}, which sits on it."),
    "edit.root-on": N_("{part} carries everything else and cannot sit on a part."),
    "edit.root-moved": N_("{part} carries everything else; move the others on it instead."),
    "edit.too-many": N_("A figure has at most {most} parts."),
    "edit.strands": N_("A bone takes 1 to {most} strands; {n} is not allowed."),
    "edit.no-joints": N_("{part} has no joints to bend; only limbs can be posed."),
    "edit.measure": N_("{part}: {measure} must lie above 0 and up to 1000 m."),
    "edit.too-short": N_("{part}: so thick, it must be at least {least} long, round ends and all."),
    "edit.no-such-shape": N_(
        "What you drew cannot have the shape “{shape}”; draw it again, or choose another shape."
    ),
    "table.no-columns": N_(
        "No column of part names with sizes was found: give the table a header row such"
        " as part, length, width, height."
    ),
    "table.empty": N_("No size stands under the table’s header."),
    "table.long": N_("The table is too long: it may have up to {most} rows."),
    "table.open-quote": N_(
        "The table has a quotation mark that is never closed; close it or take it out."
    ),
    "table.no-size": N_(
        "Row {row}, {part}: “{text}” is not a size; sizes are above 0, such as {example}."
    ),
    "edit.nothing-seen": N_(
        "The figure was not found in the front, back or side picture, so no parts can be proposed."
    ),
    "sight.cropped": N_(
        "the outline reaches the edge of the picture: draw one stroke for each part, or"
        " take it again with space around the figure, against a plain background"
    ),
    "sight.several": N_("more than one figure is seen: crop the picture to one, or take it alone"),
    "sight.swapped": N_(
        "The side picture is symmetrical, and the front picture is not: have you swapped them?"
    ),
    "edit.no-such-part": N_(
        "{part}: what was drawn cannot be of the shape “{shape}”; draw it anew, or choose another shape."
    ),
    "edit.no-such-measure": N_(
        "{part}: its {measure} of {found} cannot be that of the shape “{shape}”; pull its beads, or choose "
        "another shape."
    ),
    "tape.too-short": N_("{mm} over the surface is less than the part is thick"),
    "tape.too-flat": N_(
        "{mm} over the surface is less than the part is thick: it would be {least} even if it were flat"
    ),
    "split.nothing": N_("There is nothing to split off."),
    "split.little": N_("A hank of {hank} is too little for portions of {whole} in all."),
    "split.unlike": N_("These portions differ too much to be split off one hank."),
    # What is typed.
    "typed.length": N_("Write a length such as {example}."),
    "typed.weight": N_("Write a weight such as {example}."),
    "typed.price": N_("“{text}” is not a price. Write it like {example}, from 0 to a million."),
    "typed.pieces": N_("“{text}” is not a number of pieces. Write it like {example}."),
    "typed.long": N_("“{text}…” is too long for a length or a weight. {expected}"),
    "typed.empty": N_("A number is missing here. {expected}"),
    "typed.cannot": N_("“{text}”: cannot read “{rest}”. {expected}"),
    "typed.partly": N_("“{text}”: understood {so_far}, but not “{rest}”. {expected}"),
    "typed.no-length-unit": N_(
        "“{text}”: understood the number {number}, but “{unit}” is not a unit of length here; use {known}."
    ),
    "typed.no-weight-unit": N_(
        "“{text}”: understood the number {number}, but “{unit}” is not a unit of weight here; use {known}."
    ),
    "typed.large": N_("“{text}” is too large a number. {expected}"),
    "typed.by-nothing": N_("“{text}” divides by nothing. {expected}"),
}
