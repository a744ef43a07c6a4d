"""Results that are kept by what they depend on: one mechanism for all that is worked out again and again.

What is kept is never altered, so that results with and without it are the same; a test turns it off and compares.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from functools import wraps
from typing import Generic, ParamSpec, TypeVar

T = TypeVar("T")
P = ParamSpec("P")


class Kept(Generic[T]):
    """The last results by their keys, so many at most; what was asked for last is given up last."""

    every: list[Kept[object]] = []  # noqa: RUF012
    """All that there are."""
    on = True

    def __init__(self, most: int) -> None:
        self.most = most
        self._rows: OrderedDict[Hashable, T] = OrderedDict()
        Kept.every.append(self)  # type: ignore[arg-type]

    def of(self, key: Hashable, make: Callable[[], T]) -> T:
        """What is kept under a key, made where there is nothing yet."""
        found = self.find(key)
        if found is None:
            found = make()
            self.put(key, found)
        return found

    def find(self, key: Hashable) -> T | None:
        """What is kept under a key."""
        try:
            self._rows.move_to_end(key)
            return self._rows[key]
        except KeyError:
            # Not there, or given up meanwhile by another thread.
            return None

    def put(self, key: Hashable, value: T) -> None:
        """Keep a result."""
        if Kept.on:
            self._rows[key] = value
            if len(self._rows) > self.most:
                self._rows.popitem(last=False)

    def __contains__(self, key: Hashable) -> bool:
        return key in self._rows

    def clear(self) -> None:
        """Forget all of it."""
        self._rows.clear()


def keeps(most: int) -> Callable[[Callable[P, T]], Callable[P, T]]:
    """Keep the last results of a function by its arguments."""

    def of(function: Callable[P, T]) -> Callable[P, T]:
        rows: Kept[T] = Kept(most)

        @wraps(function)
        def kept(*args: P.args, **named: P.kwargs) -> T:
            return rows.of((args, tuple(named.items())), lambda: function(*args, **named))

        return kept

    return of


def forget() -> None:
    """Forget all that is kept."""
    for one in Kept.every:
        one.clear()


@contextmanager
def nothing_kept() -> Iterator[None]:
    """Within it everything is worked out anew each time."""
    forget()
    Kept.on = False
    try:
        yield
    finally:
        Kept.on = True
