"""Builds parts from the regions that pictures show: each with a shape, a bearer, a wool and a name."""

from __future__ import annotations

import contextlib
import math
from collections.abc import Callable, Sequence

import manifold3d as m3
import numpy as np

from bambola.core.bench import Bench
from bambola.core.figure import Coat, Figure, Node, Sight, Survey, Trace
from bambola.core.figure.additions import joints_along, with_wire
from bambola.core.figure.graft import with_part
from bambola.core.figure.shapes import as_kind
from bambola.core.plan.judging.findings import DROOP, slenderness
from bambola.core.plan.making.ready_to_wear import with_ring
from bambola.core.plan.reading.candidates import Candidate
from bambola.core.plan.reading.naming import FAIR, likely_name
from bambola.core.plan.reading.starting import start_from_pictures
from bambola.core.plan.reading.tracing import ring_round, with_seated
from bambola.core.sight.blobs import ASTRIDE, LEVEL_MM, SLIM, Blob, DividedPicture
from bambola.core.sight.build import build_part, origin_of, shift_trace, with_traces
from bambola.core.sight.explaining import lit_colour
from bambola.core.sight.fit import fit_shape
from bambola.core.sight.profile import by_hand
from bambola.core.sight.regions import LIGHT
from bambola.core.sight.silhouette import CancelledError
from bambola.core.solids import Copy, place
from bambola.core.solids.forms import Array
from bambola.core.solids.meshes import solid_of
from bambola.core.wool.colour import lab_of

NEAR = 0.05
"""A wire goes through the joint that there is, no farther along its part than this share. Judged.
See craft.md, 9."""


def with_skeleton(figure: Figure) -> Figure:
    """Return ``figure`` with a wire in each part so slender that it would droop: of a pair from tip to tip,
    through the axis of what bears both; else from there to its tip."""
    for part in figure.parents_first:
        if slenderness(part) <= DROOP or part.id in figure.wired or part.parent is None:
            continue
        placement = place(figure)
        copies, bearers = placement.copies_of(part.id), placement.copies_of(part.parent)
        with contextlib.suppress(ValueError):  # What cannot be wired is left to the maker.
            if len(bearers) == 1 and len(copies) == 2:
                a, b = copies
                heart = _nearest_joint(figure, bearers[0], copies)
                out = joints_along(figure, part.id, a.side, 1.0, 0.0)
                back = joints_along(figure, part.id, b.side, 0.0, 1.0)
                figure = with_wire(figure, (*out, heart, *back), part.name)
                continue
            wired = figure
            for copy in copies:
                bearer = next(c for c in bearers if c.side in (None, copy.side))
                heart = _nearest_joint(wired, bearer, (copy,))
                out = joints_along(wired, part.id, copy.side, 0.0, 1.0)
                wired = with_wire(wired, (heart, *out), part.name)
            figure = wired
    return figure


def _nearest_joint(figure: Figure, bearer: Copy, copies: tuple[Copy, ...]) -> Node:
    """Return the joint on the axis of ``bearer`` that is nearest to where ``copies`` begin: the one there is,
    or a new one."""
    middle = np.mean([copy.point(0.0) for copy in copies], axis=0)
    shares = np.linspace(0.0, 1.0, 21)
    far = [float(np.linalg.norm(bearer.point(float(share)) - middle)) for share in shares]
    along = float(shares[int(np.argmin(far))])
    for node in figure.nodes:
        there = node.part, node.side
        if there == (bearer.part.id, bearer.side) and abs(node.along - along) <= NEAR:
            return node
    return joints_along(figure, bearer.part.id, bearer.side, along)[0]


ROUND = 0.06
"""What strays by less than this share of its width from an egg is one. Judged. See craft.md, 9."""
OF_HULL = 0.97
"""A figure's volume as a share of what its outlines from the front and side enclose, were each level an
ellipse: the mean of the twelve that the table in the bench measures, 0.85 to 1.18. See craft.md, 9."""
ROUNDS = 2
"""What a stouter trunk swallows of its limbs is not known before: it is made stouter so often."""
LEANEST, STOUTEST = 0.8, 1.5
"""A trunk is made no leaner or stouter than so many times what is seen of it. Judged. See craft.md, 9."""
FLAT = 0.42
"""A part thinner than this share of its width is a leaf. Judged. See craft.md, 9."""


class Assembler:
    """Builds parts from the candidates found in pictures."""

    def __init__(
        self,
        views: dict[Sight, DividedPicture],
        found: list[Candidate],
        parents: dict[int, int | None],
        bench: Bench,
        called: Callable[[str], str],
    ) -> None:
        self.views, self.found, self.parents, self.bench = views, found, parents, bench
        self.called = called

    def made(
        self, order: list[int], survey: Survey, name: str, told: Callable[[float], bool]
    ) -> tuple[Figure, Survey, dict[str, float]]:
        """Return the figure built part by part, with wire where it would droop, its survey, and how sure each
        part is."""
        assert survey.height is not None
        figure = start_from_pictures(survey.height, self.bench, name, self.called("body"))
        figure, survey, sure = self.added(order, figure, survey, {}, told)
        figure, survey = self._widen_trunk(figure, survey)
        return with_skeleton(figure), survey, sure

    def added(
        self,
        order: Sequence[int],
        figure: Figure,
        survey: Survey,
        ids: dict[int, str],
        told: Callable[[float], bool],
    ) -> tuple[Figure, Survey, dict[str, float]]:
        """Return ``figure`` with the candidates of ``order`` added as parts, besides those that ``ids``
        already has."""
        sure: dict[str, float] = {}
        for n, i in enumerate(order):
            if not told(n / len(order)):
                raise CancelledError
            try:
                figure, survey, part = self._with_one(i, figure, survey, ids)
            except ValueError:
                continue  # What no shape of felt can be is left to the maker.
            ids[i], sure[part] = part, float(self.found[i].sure)
            coat = Coat(wool=self._nearest_wool(i))
            figure = with_part(figure, figure.by_id[part].replaced(coat=coat))
        return *with_traces(figure, survey), sure

    def _with_one(
        self, i: int, figure: Figure, survey: Survey, ids: dict[int, str]
    ) -> tuple[Figure, Survey, str]:
        """Return the figure with one more part, on its nearest bearer that exists. Raises ``ValueError``."""
        root = figure.parts[0]
        traces = self._traces_of(i, root.id)
        kind = self._shape_kind(i, traces)
        traces = _end_on(traces) if kind == "turned" else traces
        parent = self.parents[i]
        if parent is None:
            for trace in traces:
                survey = survey.traced(trace)
            shaped = with_part(figure, root.replaced(shape=as_kind(root.shape, kind)))
            return *with_traces(shaped, survey), root.id
        while parent is not None and (
            parent not in ids or figure.by_id[ids[parent]].garment is not None
        ):
            parent = self.parents[parent]  # nothing sits on what is worn
        on, pair = root.id if parent is None else ids[parent], self.found[i].pair
        if ringed := self._add_ring(i, figure, survey):
            return ringed[0], survey, ringed[1]
        name = self._name_candidate(i, figure, survey, traces, kind, on)
        return with_seated(figure, survey, traces, name, kind, on, pair, self.bench)

    def _add_ring(self, i: int, figure: Figure, survey: Survey) -> tuple[Figure, str] | None:
        """Return ``figure`` with a band added as a ring round the part it crosses, and the ring's id; None if
        it is no band."""
        for view, numbers in self.found[i].seen.items():
            blob = max((self.views[view].blobs[n] for n in numbers), key=lambda b: b.area)
            left, right, low, high = blob.box
            if self.found[i].pair or not blob.is_band:
                continue
            v, tall = (low + high) / 2, high - low
            line = by_hand("new", view, ((left, v), (right, v)), tall)
            if round_it := ring_round(figure, survey, line):
                called, wool = self.called(""), self._nearest_wool(i)
                at = (round_it.part, round_it.along, right - left, view == "side")
                return with_ring(figure, *at, min(tall, (right - left) / 4), wool, called)
        return None

    def _widen_trunk(self, figure: Figure, survey: Survey) -> tuple[Figure, Survey]:
        """Return the figure with its trunk widened until the whole has the volume of its outlines, since
        limbs hide the trunk from the front."""
        if "side" not in self.views or len(self.views) < 2:
            return figure, survey
        whole, so_far = hull_mm3(self.views), 1.0
        for _ in range(ROUNDS):
            root = figure.parts[0]
            trunk = float(solid_of(root.shape).volume())
            wanted = math.sqrt(max(1 + (OF_HULL * whole - _net_mm3(figure)) / trunk, 0.0))
            stouter = min(max(wanted, LEANEST / so_far), STOUTEST / so_far)
            so_far *= stouter
            for trace in survey.traces_of(root.id):
                sides = (trace.left, trace.right)
                left, right = (tuple(x * stouter for x in side) for side in sides)
                survey = survey.traced(trace.replaced(left=left, right=right, edges="hand"))
            figure, survey = with_traces(figure, survey)
        return figure, survey

    def _name_candidate(
        self, i: int, figure: Figure, survey: Survey, traces: list[Trace], kind: str, on: str
    ) -> str:
        pair, origin = self.found[i].pair, origin_of(figure, survey)
        built = build_part(kind, [shift_trace(t, origin) for t in traces], None, pair)
        likely = likely_name(figure, built, on, pair, surely=True)
        if likely == "head" and self._bears_another_head(i):
            likely = ""
        name = self.called(likely)
        used = {part.name for part in figure.parts}
        return self.called("") if name in used else name

    def _bears_another_head(self, i: int) -> bool:
        """Return whether something large sits on a candidate: then it is a chest, and that is the head."""
        return any(
            parent == i
            and not self.found[j].pair
            and self._candidate_width(j) > FAIR * self._candidate_width(i)
            for j, parent in self.parents.items()
        )

    def _candidate_width(self, i: int) -> float:
        """Return how wide a candidate is in the first picture that shows it, mm."""
        view, numbers = next(iter(self.found[i].seen.items()))
        return max(self.views[view].blobs[n].across for n in numbers)

    def _traces_of(self, i: int, part: str) -> list[Trace]:
        traces = []
        for view, numbers in self.found[i].seen.items():
            seen = self.views[view]
            both = [seen.blobs[n] for n in numbers]
            own = max(both, key=lambda b: b.area)
            if len(both) > 1 and not self.found[i].pair:
                own = seen.joined(both)
            even = view != "side" and not self.found[i].pair and self._is_even(i, own)
            traces.append(seen.trace(own, part, self._base_towards(i, view, seen, own), even))
        return traces

    def _is_even(self, i: int, own: Blob) -> bool:
        """Return whether a part lies on the midline; the trunk always does."""
        return self.parents[i] is None or abs(own.centre[0]) < ASTRIDE * own.across

    def _base_towards(self, i: int, view: Sight, seen: DividedPicture, own: Blob) -> Array | None:
        """Return where a blob meets its bearer in this view, or the direction towards it."""
        parent = self.parents[i]
        while parent is not None:
            numbers = self.found[parent].seen.get(view)
            if numbers:
                other = min(
                    (seen.blobs[n] for n in numbers), key=lambda b: math.dist(b.centre, own.centre)
                )
                return seen.contact(own, other)
            parent = self.parents[parent]
        return None

    def _shape_kind(self, i: int, traces: list[Trace]) -> str:
        if self.parents[i] is not None:
            if self._is_flat(i):
                return "leaf"
            blobs = [self.views[v].blobs[n] for v, ns in self.found[i].seen.items() for n in ns]
            if max(blob.slimness for blob in blobs) > SLIM:
                return "limb"
        straight = [t.replaced(points=(t.points[0], t.points[-1])) for t in traces]
        return "ball" if max(fit_shape("ball", t).miss for t in straight) < ROUND else "turned"

    def _is_flat(self, i: int) -> bool:
        """Return whether a part is equally tall in two views and far thinner in one of them."""
        seen = self.found[i].seen
        if len(seen) < 2:
            return False
        boxes = [
            max((self.views[v].blobs[n] for n in numbers), key=lambda b: b.area)
            for v, numbers in seen.items()
        ]
        thin, broad = sorted(boxes, key=lambda b: b.across)
        alike = min(thin.tall, broad.tall) > 0.6 * max(thin.tall, broad.tall)
        return alike and thin.across < FLAT * broad.across and thin.tall > 1.5 * thin.across

    def _nearest_wool(self, i: int) -> str:
        """Return the wool nearest to the part's colour in the pictures."""
        seen, own = max(
            (
                (self.views[v], self.views[v].blobs[n])
                for v, numbers in self.found[i].seen.items()
                for n in numbers
            ),
            key=lambda both: both[1].area,
        )
        return nearest_wool(self.bench, lit_colour(seen.regions.lab[own.mask]))


def nearest_wool(bench: Bench, lab: Array) -> str:
    """Return the wool whose colour is nearest to ``lab`` (3,), lightness counting less."""

    def off(colour: str) -> float:
        return float(np.linalg.norm((np.array(lab_of(colour)) - lab) * (LIGHT, 1.0, 1.0)))

    wools = [w for w in bench.wools if w.form != "core"] or list(bench.wools)
    return min(wools, key=lambda w: off(w.colour)).id


def _net_mm3(figure: Figure) -> float:
    """Return the volume of all parts together."""
    solids = [solid_of(copy.shape).transform(copy.matrix[:3]) for copy in place(figure).copies]
    return float(m3.Manifold.batch_boolean(solids, m3.OpType.Add).volume())


def hull_mm3(views: dict[Sight, DividedPicture]) -> float:
    """Return the volume enclosed by the front and side outlines, with every level taken as an ellipse."""
    facing = views["front"] if "front" in views else views["back"]
    spans = facing.spans(), views["side"].spans()
    levels = min(len(span) for span in spans)
    return float(math.pi / 4 * (spans[0][:levels] * spans[1][:levels]).sum() * LEVEL_MM)


def _end_on(traces: list[Trace]) -> list[Trace]:
    """Return the traces with the width of a part from the view along its length, and its run from the other
    view."""
    if len(traces) < 2:
        return traces
    longest = max(traces, key=lambda t: t.length)
    made = []
    for trace in traces:
        if trace is not longest and _upward_slant(trace) * _upward_slant(longest) < 0:
            widest = max(a + b for a, b in zip(trace.left, trace.right, strict=True))
            run = [a + b for a, b in zip(longest.left, longest.right, strict=True)]
            side = tuple(w * widest / max(run) / 2 for w in run)
            trace = trace.replaced(left=side, right=side)
        made.append(trace)
    return made


def _upward_slant(trace: Trace) -> float:
    """Return a positive number for a line that runs up rather than across."""
    (u1, v1), (u2, v2) = trace.points[0], trace.points[-1]
    return abs(v2 - v1) - abs(u2 - u1)
