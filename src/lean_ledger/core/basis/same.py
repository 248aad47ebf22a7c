"""A value as a cache key by identity: for large values that are made once and handed on as the same object."""

from __future__ import annotations

from typing import Generic, TypeVar

T = TypeVar("T")


class Same(Generic[T]):
    """Two are equal where they hold the very same object. A cache that keeps one keeps its object alive."""

    __slots__ = ("value",)

    def __init__(self, value: T) -> None:
        self.value = value

    def __hash__(self) -> int:
        return id(self.value)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Same) and other.value is self.value
