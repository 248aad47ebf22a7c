"""The last few values that were computed on demand."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Generic, TypeVar

KEPT = 64

K = TypeVar("K")
V = TypeVar("V")


class Kept(Generic[K, V]):
    """The last few values, computed on demand."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._values: OrderedDict[K, V] = OrderedDict()

    def peek(self, key: K) -> V | None:
        """The value where it is kept."""
        with self._lock:
            return self._values.get(key)

    def get(self, key: K, make: Callable[[], V]) -> V:
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
        value: V = make()
        with self._lock:
            self._values[key] = value
            while len(self._values) > KEPT:
                self._values.popitem(last=False)
        return value
