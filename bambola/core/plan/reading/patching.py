"""Turns patches of another colour in the pictures into places on a part, each of its own wool."""

from __future__ import annotations

import math
from collections.abc import Sequence

import cv2
import numpy as np

from bambola.core.bench import Bench
from bambola.core.figure import Figure, Part, Place, Sight, Survey
from bambola.core.figure.graft import with_part, with_place
from bambola.core.figure.places import Outline
from bambola.core.plan.reading.assembling import nearest_wool
from bambola.core.plan.reading.tracing import wool_on
from bambola.core.sight.blobs import ASTRIDE, Blob, DividedPicture
from bambola.core.sight.build import origin_of
from bambola.core.sight.explaining import is_other, lit_colour
from bambola.core.solids import AXES, own_copy, place
from bambola.core.solids.forms import Array
from bambola.core.solids.touch import patch_outline
from bambola.core.wool.colour import lab_of

LEAST = 0.006
"""What is less than this share of the figure, as seen, is no patch. Judged. See craft.md, 9."""
ALIKE = 0.5
"""Of two patches, one on each side, the smaller is more than this share of the other, and each lies so near
(beside the root of its area) to where the other would be mirrored. Judged. See craft.md, 9."""
DARK = 0.6
"""What is less light than this share of its wool may lie in shade. Judged. See craft.md, 9."""
EYE = 2.5
"""What lies on an eye and covers less than so many times as much is the eye. Judged. See craft.md, 9."""
_CORNERS = 40
"""An outline is told in so many places at most."""


def with_patches(
    figure: Figure,
    survey: Survey,
    views: dict[Sight, DividedPicture],
    seen_on: Sequence[tuple[Sight, Blob, str]],
    colours: dict[str, Array],
    bench: Bench,
) -> Figure:
    """Return ``figure`` with the blobs ``seen_on`` its parts in ``views`` added as places where their colour
    differs from the part's wool in any light. A wool that one view has added to a part is not added by
    another. Dark blobs must also differ from the part's ``colours`` (Lab) in the pictures, since some shade
    is deep.

    The body plan's own patches on these parts are removed: the pictures would show them.
    """
    shown = {part for _, _, part in seen_on}
    for each in figure.parts:
        if each.id in shown:
            figure = with_part(
                figure, each.replaced(places=tuple(filter(_may_be_unseen, each.places)))
            )
    patched: dict[tuple[str, str], Sight] = {}
    for view, blob, part in sorted(seen_on, key=lambda one: (one[0] != "front", -one[1].area)):
        seen, body = views[view], figure.by_id[part]
        if body.stuff is not None:
            continue
        colour = lit_colour(seen.regions.lab[blob.mask])
        wool, skin = nearest_wool(bench, colour), wool_on(body, bench)
        small = blob.area < LEAST * sum(other.area for other in seen.blobs.values())
        twin = _has_twin(seen, blob, view)
        usual = np.array(lab_of(bench.wool_by_id[skin].colour))
        dark = colour[0] < DARK * usual[0]
        other = is_other(colour, usual) and (not dark or is_other(colour, colours[part]))
        if wool == skin or small or not other:
            continue
        if patched.setdefault((part, wool), view) != view or (twin and _is_on_right(blob, view)):
            continue
        where = _place_on_part(figure, survey, body, view, seen, blob, twin)
        if where is not None:
            figure, _ = with_place(figure, part, Place(id="patch", wool=wool, where=where))
    return figure


def _is_on_right(blob: Blob, view: Sight) -> bool:
    """Return whether a blob lies on the figure's right side."""
    return float(AXES[view][0][0]) * blob.centre[0] < 0


def _has_twin(seen: DividedPicture, blob: Blob, view: Sight) -> bool:
    """Return whether a like blob lies on the other side of the midline."""
    u, v = blob.centre
    return view != "side" and any(
        math.dist((-u, v), other.centre) < ALIKE * math.sqrt(blob.area)
        and min(blob.area, other.area) > ALIKE * max(blob.area, other.area)
        for other in seen.blobs.values()
        if other is not blob and abs(u) > ASTRIDE * blob.across
    )


def _may_be_unseen(place: Place) -> bool:
    """Return whether a place of a plan need not be visible in pictures: of a face, of fur, or a side of the
    part."""
    return place.face is not None or place.fur is not None or not isinstance(place.where, Outline)


def _place_on_part(
    figure: Figure,
    survey: Survey,
    body: Part,
    view: Sight,
    seen: DividedPicture,
    blob: Blob,
    pair: bool,
) -> Outline | None:
    """Return the place of a blob on a part; None if it is an eye."""
    placement, axes = place(figure), AXES[view]
    copy = own_copy(placement, body.id)
    assert copy is not None
    shift = axes[:2] @ origin_of(figure, survey)
    for placed in placement.fittings:
        size = placed.fitting.size
        far = math.dist(axes[:2] @ placed.matrix[:3, 3] + shift, blob.centre)
        if far < size and blob.area < EYE * math.pi / 4 * size**2:
            return None
    drawn = _blob_outline(seen, blob) - shift
    if copy.side is not None and (drawn[:, 0] * axes[0][0]).mean() < 0:
        drawn = drawn * (-1.0, 1.0)
    faced, outline = patch_outline(copy, axes, [(float(u), float(v)) for u, v in drawn])
    within = tuple((min(max(x, -1.0), 1.0), min(max(y, -1.0), 1.0)) for x, y in outline)
    return Outline(view=faced, outline=within, mirrored=pair and copy.side is None)


def _blob_outline(seen: DividedPicture, blob: Blob) -> Array:
    """Return the outline (n, 2) of a blob, mm."""
    runs, _ = cv2.findContours(
        blob.solid.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE
    )
    run = max(runs, key=len)[:, 0]
    run = run[:: max(1, math.ceil(len(run) / _CORNERS))]
    return np.stack([seen.u[run[:, 1], run[:, 0]], seen.v[run[:, 1], run[:, 0]]], axis=1)
