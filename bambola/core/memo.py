"""Caches of pure functions, held in a memory that somebody owns."""

from __future__ import annotations

import atexit
import threading
from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import lru_cache, wraps
from typing import Any, ParamSpec, TypeVar, cast
from weakref import WeakSet

P = ParamSpec("P")
R = TypeVar("R")
K = TypeVar("K")


class Memory:
    """Results of pure functions, so many of each; and whatever else is to be known again. May be used on
    several threads at once."""

    def __init__(self) -> None:
        self.results: dict[Callable[..., Any], Callable[..., Any]] = {}
        self._kept: dict[type, Any] = {}
        _alive.add(self)

    def results_of(
        self, function: Callable[..., Any], most: int, weigh: Callable[[Any], int] | None
    ) -> Callable[..., Any]:
        """Return ``function``, of which the last ``most`` results are known here; with ``weigh``, as many as
        weigh ``most`` together."""
        known = _ByWeight(function, most, weigh) if weigh else lru_cache(maxsize=most)(function)
        # Where two threads come at once, both have the one that was first.
        return self.results.setdefault(function, known)

    def find(self, kind: type[K]) -> K:
        """Return the one of its ``kind`` that is kept here."""
        try:
            return cast(K, self._kept[kind])
        except KeyError:
            return cast(K, self._kept.setdefault(kind, kind()))

    def forget(self) -> None:
        """Let everything go."""
        self.results.clear()
        self._kept.clear()

    @contextmanager
    def active(self) -> Iterator[Memory]:
        """All that is found within, on this thread, is remembered here."""
        before = _used.set(self)
        try:
            yield self
        finally:
            _used.reset(before)


class _ByWeight:
    """A function and its last results, as many as weigh up to ``most`` together."""

    def __init__(
        self, function: Callable[..., Any], most: int, weigh: Callable[[Any], int]
    ) -> None:
        self._function, self._most, self._weigh = function, most, weigh
        self._known: OrderedDict[Any, tuple[Any, int]] = OrderedDict()
        self._weight = 0
        self._lock = threading.Lock()

    def __call__(self, *args: Any, **kwargs: Any) -> Any:
        key = (args, tuple(sorted(kwargs.items())))
        with self._lock:
            if key in self._known:
                self._known.move_to_end(key)
                return self._known[key][0]
        found = self._function(*args, **kwargs)
        with self._lock:
            if key not in self._known:
                self._known[key] = found, self._weigh(found)
                self._weight += self._known[key][1]
            while self._weight > self._most and len(self._known) > 1:
                self._weight -= self._known.popitem(last=False)[1][1]
        return found


_alive: WeakSet[Memory] = WeakSet()


@atexit.register
def _forget_all() -> None:
    """Native solids must be let go before the interpreter ends."""
    for each in tuple(_alive):
        each.forget()


_used: ContextVar[Memory | None] = ContextVar("memory", default=None)


def current_memory() -> Memory:
    """Return the memory that is used just now."""
    found = _used.get()
    if found is None:
        found = Memory()
        _used.set(found)
    return found


def remembered(
    most: int, weigh: Callable[[Any], int] | None = None
) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Keep the last ``most`` results in the memory that is used; with ``weigh``, as many as weigh ``most``.

    Callers stay checked: ``functools.lru_cache`` takes any hashable arguments, so that a shape it has no
    answer for would fail at run time only.
    """

    def kept(function: Callable[P, R]) -> Callable[P, R]:
        @wraps(function)
        def looked_up(*args: P.args, **kwargs: P.kwargs) -> R:
            try:
                known = _used.get().results[function]  # type: ignore[union-attr]
            except (AttributeError, KeyError):
                known = current_memory().results_of(function, most, weigh)
            found: R = known(*args, **kwargs)
            return found

        return looked_up

    return kept
