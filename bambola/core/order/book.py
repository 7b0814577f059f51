"""An index of one figure's tasks by part and sort, which the rules of the order query."""

from __future__ import annotations

import itertools
from collections.abc import Iterable

from bambola.core.order.keys import Sort, TaskKey
from bambola.core.order.work import PartJob, Task, Work

Pairs = Iterable[tuple[TaskKey, TaskKey]]
ON_SKIN = ("eye", "nose")
"""Sorts of fittings that sit on the skin of a face."""


def in_turn(keys: list[TaskKey]) -> Pairs:
    """Return pairs that order each key before the next."""
    return itertools.pairwise(keys)


def each_before(before: Iterable[TaskKey], after: Iterable[TaskKey]) -> Pairs:
    """Return pairs that order every key of the first before every other key of the second."""
    after = list(after)
    return ((b, a) for b in before for a in after if b != a)


class Book:
    """An index of one figure's tasks by part and sort."""

    def __init__(self, work: Work, tasks: Iterable[Task]) -> None:
        self.work = work
        self.tasks = {task.key: task for task in tasks}
        self.parts = {part.id: part for part in work.parts}
        self._children: dict[str | None, list[PartJob]] = {}
        for part in work.parts:
            self._children.setdefault(part.parent, []).append(part)
        self._of: dict[tuple[str | None, Sort], list[TaskKey]] = {}
        for key, task in self.tasks.items():
            if task.sort == "pattern" and key.about != task.part:
                continue  # clay eyes are no part of what they are made for
            self._of.setdefault((task.part, task.sort), []).append(key)

    def tasks_of(self, part: str, *sorts: Sort) -> list[TaskKey]:
        """Return the keys of a part's tasks of these sorts (``core``, ``coat``, ``join`` ...), in order."""
        return [key for sort in sorts for key in self._of.get((part, sort), ())]

    def built(self, part: str) -> list[TaskKey]:
        """Return the last tasks that make the part firm, or ready to be put on, including what is drawn out
        of it, since all of it is felted firm together."""
        own = self.tasks_of(part, "core")[-1:] or self.tasks_of(part, "detail", "pattern")
        drawn = (job.id for job in self.children(part) if job.drawn)
        return [*own, *(key for id in drawn for key in self.built(id))]

    def seated(self, part: str) -> list[TaskKey]:
        """Return the tasks that fix a part to its parent, first to last."""
        keys = self.tasks_of(part, "join", "blend")
        job = self.parts[part]
        if job.made == "in place":
            keys = self.tasks_of(part, "core")
        return keys or self.tasks_of(part, "detail")

    def surface(self, part: str) -> list[TaskKey]:
        """Return the coat and inset tasks of a part."""
        return self.tasks_of(part, "inset", "coat")

    def marks_for(self, job: PartJob) -> list[TaskKey]:
        """Return the marking tasks of the face that ``job`` sits on, however many parts lie between."""
        while job.parent is not None:
            job = self.parts[job.parent]
            if marks := self.tasks_of(job.id, "mark"):
                return marks
        return []

    def children(self, part: str) -> list[PartJob]:
        """Return the parts that sit on ``part``."""
        return self._children.get(part, [])

    def comes_on(self, part: str) -> list[TaskKey]:
        """Return the tasks that make a part and everything that bears it, and put them in place."""
        found: list[TaskKey] = []
        at: str | None = part
        while at is not None:
            found += self.seated(at)[-1:] or self.built(at)
            at = self.parts[at].parent
        return found
