"""Decides which regions of a figure's pictures are parts: pairs by symmetry, and the same part in front and
side views by height and colour."""

from __future__ import annotations

import math

import numpy as np
from scipy.optimize import linear_sum_assignment

from bambola.core.figure import Sight
from bambola.core.frozen import frozen
from bambola.core.sight.blobs import Blob, DividedPicture
from bambola.core.sight.explaining import HUE
from bambola.core.sight.regions import LIGHT

TWIN = 0.4
"""Two regions of which one, mirrored, covers so much of both together are a pair. Judged. See craft.md, 9."""
LIKE = 0.3
"""Regions of two views that score less are not the same part. Judged. See craft.md, 9."""
EYE = 0.012
"""A spot smaller than this share of the figure, one of two, is an eye."""
PATCH = 0.12
"""What lies on a part, larger than this share of it, and stands out nowhere is a patch of colour. Judged.
See craft.md, 9."""
SLIVER = 0.22
"""A patch of colour shows from the side no more than this share of what the front shows of it. Judged. See
craft.md, 9."""
BULK = 0.22
"""A pair is no larger than this share of a figure in both views. Judged. See craft.md, 9."""
ALONE = 0.5
"""What covers more than this share of a figure from the side is none of a pair. Judged. See craft.md, 9."""


@frozen
class Candidate:
    """A proposed part: its regions by view (both of a pair in the front view), and how sure it is."""

    seen: dict[Sight, tuple[int, ...]]
    pair: bool
    sure: float


def found_in(
    views: dict[Sight, DividedPicture],
) -> tuple[dict[Sight, DividedPicture], list[Candidate]]:
    """Return the candidates, and the views with patches of colour merged into what they lie on."""
    facing = next((views[v] for v in ("front", "back") if v in views), None)
    side = views.get("side")
    found = _list_candidates(facing, side)
    if facing is not None and side is not None:
        patches = _find_patches(found, facing, side)
        if patches:
            facing = facing.without(patches)
            views = {**views, facing.view: facing}
            found = _list_candidates(facing, side)
    return views, found


def _list_candidates(facing: DividedPicture | None, side: DividedPicture | None) -> list[Candidate]:
    if facing is None:
        assert side is not None
        whole = sum(b.area for b in side.blobs.values())
        return [
            Candidate({"side": (n,)}, False, 0.5)
            for n, b in side.blobs.items()
            if not (b.host and b.area < EYE * whole)
        ]
    found = _by_symmetry(facing)
    if side is None:
        return [c for c in found if not _is_mark(c, facing, None)]
    matched = _with_side(found, facing, side)
    return [c for c in matched if not _is_mark(c, facing, side) and not _is_stray(c)]


def _by_symmetry(seen: DividedPicture) -> list[Candidate]:
    """Return mirrored regions as pairs, all others alone."""
    left, found = dict(seen.blobs), []
    scored = sorted(
        (
            (_mirror_match(a, b), a.number, b.number)
            for a in seen.blobs.values()
            for b in seen.blobs.values()
            if a.number < b.number and a.centre[0] * b.centre[0] < 0
        ),
        reverse=True,
    )
    for score, a, b in scored:
        if score < TWIN:
            break
        if a in left and b in left:
            found.append(Candidate({seen.view: (a, b)}, True, min(1.0, 0.3 + score)))
            del left[a], left[b]
    for n, blob in left.items():
        aside = abs(blob.centre[0]) > 0.5 * blob.across and _twin_is_hidden(seen, blob)
        found.append(Candidate({seen.view: (n,)}, aside, 0.4 if aside else 0.7))
    return found


def _mirror_match(a: Blob, b: Blob) -> float:
    """Return how well one region, mirrored at the midline, matches another: intersection over union of boxes,
    times likeness in size and colour."""
    box = (-a.box[1], -a.box[0], a.box[2], a.box[3])
    wide = min(box[1], b.box[1]) - max(box[0], b.box[0])
    tall = min(box[3], b.box[3]) - max(box[2], b.box[2])
    if wide <= 0 or tall <= 0:
        return 0.0
    common = wide * tall
    either = a.across * a.tall + b.across * b.tall - common
    sizes = min(a.area, b.area) / max(a.area, b.area)
    return common / either * math.sqrt(sizes * _colour_likeness(a, b))


def _colour_likeness(a: Blob, b: Blob) -> float:
    """Return the likeness of two colours in any light: 1 the same, 0 quite different."""
    off = np.array(a.lab) - np.array(b.lab)
    return math.exp(-((float(np.linalg.norm(off * (LIGHT, 1.0, 1.0))) / HUE) ** 2))


def _twin_is_hidden(seen: DividedPicture, blob: Blob) -> bool:
    """Return whether there is felt where a region's twin would be, so that the twin may be hidden by it."""
    u, v = seen.u[blob.mask], seen.v[blob.mask]
    there = [seen.to_px(-float(x), float(y)) for x, y in zip(u[::7], v[::7], strict=True)]
    rows, columns = seen.regions.whole.shape
    inside = [
        0 <= int(y) < rows and 0 <= int(x) < columns and seen.regions.whole[int(y), int(x)]
        for x, y in there
    ]
    return float(np.mean(inside)) > 0.8 if inside else False


def _with_side(
    found: list[Candidate], facing: DividedPicture, side: DividedPicture
) -> list[Candidate]:
    """Return the candidates with the matching regions of the side view, and those that only the side view
    shows."""
    others, trunk = list(side.blobs.values()), _find_trunk(side)
    scores = np.array(
        [
            [0.0 if c.pair and b is trunk else _same_part_likelihood(c, facing, b) for b in others]
            for c in found
        ]
    )
    rows, columns = linear_sum_assignment(-scores)
    made, used = list(found), set()
    for i, j in zip(rows.tolist(), columns.tolist(), strict=True):
        if scores[i, j] >= LIKE:
            c = found[i]
            made[i] = Candidate(
                {**c.seen, "side": (others[j].number,)},
                c.pair and not _are_halves(c, others[j], facing, side),
                (c.sure + scores[i, j]) / 2,
            )
            used.add(others[j].number)
    alone = [c for c in made if not c.pair and "side" not in c.seen]
    if trunk is not None and trunk.number not in used and alone:
        c = max(alone, key=lambda c: facing.blobs[c.seen[facing.view][0]].area)
        made[made.index(c)] = Candidate({**c.seen, "side": (trunk.number,)}, False, c.sure / 2)
        used.add(trunk.number)
    for blob in others:
        if blob.number not in used and _stands_out(blob, side):
            before = _standing_before(blob, made, facing, side)
            made.append(Candidate({**before, "side": (blob.number,)}, bool(before), 0.4))
    return made


def _find_trunk(side: DividedPicture) -> Blob | None:
    """Return the region so large from the side that it cannot be one of a pair, if there is one."""
    whole = sum(b.area for b in side.blobs.values())
    return next((b for b in side.blobs.values() if b.area > ALONE * whole), None)


def _are_halves(c: Candidate, beside: Blob, facing: DividedPicture, side: DividedPicture) -> bool:
    """Return whether two like regions are one part divided down the middle: from the side it is the bulk."""
    own = sum(facing.blobs[n].area for n in c.seen[facing.view])
    whole = sum(b.area for b in facing.blobs.values())
    long = sum(b.area for b in side.blobs.values())
    return own > BULK * whole and beside.area > BULK * long


def _same_part_likelihood(c: Candidate, facing: DividedPicture, other: Blob) -> float:
    """Return how likely a region of the side view is the same part, by height and colour."""
    own = [facing.blobs[n] for n in c.seen[facing.view]]
    low, high = min(b.box[2] for b in own), max(b.box[3] for b in own)
    common = min(high, other.box[3]) - max(low, other.box[2])
    if common <= 0:
        return 0.0
    either = max(high, other.box[3]) - min(low, other.box[2])
    area = sum(b.area for b in own) / (2 if c.pair else 1)
    sizes = min(area, other.area) / max(area, other.area)
    return (
        float(sizes**0.2)
        * common
        / either
        * (0.3 + 0.7 * max(_colour_likeness(b, other) for b in own))
    )


def _stands_out(blob: Blob, seen: DividedPicture) -> bool:
    """Return whether a region seen in one view only is a part all the same: it sticks out of the outline."""
    whole = sum(b.area for b in seen.blobs.values())
    return blob.area > 0.008 * whole and blob.borders.get(0, 0.0) > 0.5 * blob.around


def _standing_before(
    blob: Blob, found: list[Candidate], facing: DividedPicture, side: DividedPicture
) -> dict[Sight, tuple[int, ...]]:
    """Return the pair that hides a region of the side view from the front (hind legs behind forelegs):
    equally tall and equally low."""
    for c in found:
        if c.pair and "side" in c.seen and facing.view in c.seen:
            other = side.blobs[c.seen["side"][0]]
            common = min(blob.box[3], other.box[3]) - max(blob.box[2], other.box[2])
            if common > 0.6 * max(blob.tall, other.tall) and _colour_likeness(blob, other) > 0.5:
                return {facing.view: c.seen[facing.view]}
    return {}


def _is_mark(c: Candidate, facing: DividedPicture, side: DividedPicture | None) -> bool:
    """Return whether a candidate is an eye or a patch of colour rather than a part: it stands out nowhere."""
    if facing.view not in c.seen:
        return False
    blobs = [facing.blobs[n] for n in c.seen[facing.view]]
    host = blobs[0].host
    if host is None:
        return False
    whole = sum(b.area for b in facing.blobs.values())
    if side is not None and "side" in c.seen:
        beside = side.blobs[c.seen["side"][0]]
        if beside.borders.get(0, 0.0) > 0.25 * beside.around and beside.area > EYE / 3 * whole:
            return False
    if c.pair and blobs[0].area < EYE * whole:
        return True
    return blobs[0].area > PATCH * facing.blobs[host].area and side is not None


def _find_patches(
    found: list[Candidate], facing: DividedPicture, side: DividedPicture
) -> dict[int, int]:
    """Return the large regions on the midline that the side view hardly shows: patches of another colour on
    their surroundings."""
    patches: dict[int, int] = {}
    whole = sum(b.area for b in facing.blobs.values())
    for c in found:
        if c.pair or facing.view not in c.seen or len(c.seen[facing.view]) > 1:
            continue
        own = facing.blobs[c.seen[facing.view][0]]
        beside = side.blobs[c.seen["side"][0]].area if "side" in c.seen else 0.0
        felt = {n: mm for n, mm in own.borders.items() if n}
        if own.area < 0.02 * whole or beside > SLIVER * own.area or not felt:
            continue
        if own.borders.get(0, 0.0) > 0.3 * own.around:
            continue
        patches[own.number] = max(felt, key=lambda n: felt[n])
    return {n: host for n, host in patches.items() if host not in patches}


def _is_stray(c: Candidate) -> bool:
    """Return whether only one view shows a region off the midline, without a twin: most likely a shadow."""
    return c.pair and len(c.seen) == 1 and all(len(numbers) == 1 for numbers in c.seen.values())
