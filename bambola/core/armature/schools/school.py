"""What a school of wiring is."""

from __future__ import annotations

from collections.abc import Callable

from bambola.core.armature.skeleton import Skeleton
from bambola.core.armature.walks import Route
from bambola.core.frozen import frozen


@frozen
class School:
    """A way of laying wires over a skeleton.

    ``lay`` gives the wires of one tree of bones: every bone with at least its strands, and of all ways the
    school has, one with the fewest joints and then the least wire. ``called`` names its wires in the order
    they are laid; where it is empty they are named by the limbs they run through. ``stock`` is what it is
    laid of, where that makes the school.
    """

    key: str
    lay: Callable[[Skeleton], list[Route]]
    called: tuple[str, ...] = ()
    stock: str | None = None
