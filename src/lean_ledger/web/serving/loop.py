"""The server's loop over its connections: each is looked at when something happens to it, not all of them each time.

With fifty connections, asking every one whether it wants to read or write takes longer than answering a request.
"""

from __future__ import annotations

import select
import time
from collections import deque
from contextlib import suppress
from typing import Any

from waitress import wasyncore

SWEEP_SECONDS = 0.5  # between two looks at all of them: what is idle is closed then


class Loop:
    """`connections` maps file descriptors to what waitress has there; `touched` is filled by any thread."""

    def __init__(self, connections: dict[int, Any]) -> None:
        self._connections = connections
        self.touched: deque[int] = deque()
        self._poller = select.epoll()
        self._known: dict[int, tuple[Any, int]] = {}  # what is watched at a descriptor, and for what

    def run(self) -> None:
        """Until there is nothing left to watch."""
        sweep = 0.0
        while self._connections:
            now = time.monotonic()
            if now >= sweep or len(self._connections) != len(self._known):
                sweep = now + SWEEP_SECONDS
                for fd in {*self._connections, *self._known}:
                    self._watch(fd)
            while self.touched:
                self._watch(self.touched.popleft())
            for fd, flags in self._poller.poll(SWEEP_SECONDS):
                found = self._connections.get(fd)
                if found is not None:
                    wasyncore.readwrite(found, flags)
                self._watch(fd)

    def close(self) -> None:
        self._poller.close()

    def _watch(self, fd: int) -> None:
        """Have the kernel tell what the connection waits for now. A descriptor that was closed may be another's."""
        found = self._connections.get(fd)
        before, had = self._known.get(fd, (None, 0))
        if found is None:
            if self._known.pop(fd, None) is not None:
                self._forget(fd)
            return
        wanted = 0
        if found.readable():
            wanted |= select.POLLIN | select.POLLPRI
        if found.writable() and not found.accepting:
            wanted |= select.POLLOUT
        if found is before and wanted == had:
            return
        self._known[fd] = (found, wanted)
        try:
            self._poller.modify(fd, wanted)
        except FileNotFoundError:
            self._poller.register(fd, wanted)

    def _forget(self, fd: int) -> None:
        with suppress(OSError):  # it went when it was closed
            self._poller.unregister(fd)
