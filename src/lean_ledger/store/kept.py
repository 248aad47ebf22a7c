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
    """The last few values. Who asks for one that another thread is making waits for it and makes none."""

    def __init__(self, most: int = KEPT) -> None:
        self._lock = threading.Lock()
        self._most = most
        self._values: OrderedDict[K, V] = OrderedDict()
        self._being_made: dict[K, threading.Lock] = {}

    def peek(self, key: K) -> V | None:
        """The value where it is kept."""
        with self._lock:
            return self._values.get(key)

    def get(self, key: K, make: Callable[[], V]) -> V:
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
            turn = self._being_made.setdefault(key, threading.Lock())
        with turn:
            with self._lock:
                if key in self._values:
                    return self._values[key]
            try:
                value: V = make()
            except BaseException:
                with self._lock:
                    self._being_made.pop(key, None)
                raise
            self.put(key, value)
            return value

    def put(self, key: K, value: V) -> None:
        with self._lock:
            self._values[key] = value
            self._values.move_to_end(key)
            self._being_made.pop(key, None)
            while len(self._values) > self._most:
                self._values.popitem(last=False)
