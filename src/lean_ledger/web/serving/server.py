"""The HTTP server: a few threads for requests, and no room for clients that only hold on to their connection."""

from __future__ import annotations

import sys
from typing import Any

from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.server import TcpWSGIServer
from waitress.task import WSGITask

from lean_ledger.web.serving.lanes import dispatcher
from lean_ledger.web.serving.loop import Loop

CONNECTIONS = 1000
IDLE_SECONDS = 20  # without a word between requests
LOOK_SECONDS = 5  # between two looks at who is idle or slow
RECEIVING_SECONDS = 30  # for a request to be there whole; large ones get more
SLOWEST = 200_000  # bytes per second that an upload must keep up after that
SWITCH_SECONDS = 0.0003  # a thread that computes lets others in so often: many short requests beside one long


class Task(WSGITask):  # type: ignore[misc]
    """Keeps a connection open after an answer without a body, which needs no length to tell where it ends."""

    def set_close_on_finish(self) -> None:
        bodyless = str(self.status)[:3] in ("204", "304") and self.version == "1.1"
        if not bodyless or self.request.headers.get("CONNECTION", "").lower() == "close":
            super().set_close_on_finish()


class Channel(HTTPChannel):  # type: ignore[misc]
    """Tells the loop when a thread has done something to it."""

    task_class = Task

    def service(self) -> None:
        super().service()
        self._touched()

    def write_soon(self, data: Any) -> int:
        count: int = super().write_soon(data)
        if self.total_outbufs_len:
            self._touched()
        return count

    def _touched(self) -> None:
        self.server.loop.touched.append(self._fileno)
        self.server.pull_trigger()


class Server(TcpWSGIServer):  # type: ignore[misc]
    """Cuts connections that are idle, and requests that come in too slowly, however steadily."""

    channel_class = Channel

    def __init__(self, app: Any, host: str, port: int) -> None:
        adjustments = Adjustments(
            host=host, port=port, connection_limit=CONNECTIONS, channel_timeout=IDLE_SECONDS,
            cleanup_interval=LOOK_SECONDS, asyncore_use_poll=True, max_request_body_size=2**28,
            max_request_header_size=64 * 1024, backlog=256, ident=None,
        )  # fmt: skip
        sys.setswitchinterval(SWITCH_SECONDS)
        self._begun: dict[int, tuple[Any, float]] = {}
        super().__init__(app, adj=adjustments, dispatcher=dispatcher())
        self.loop = Loop(self._map)

    def run(self) -> None:
        try:
            self.loop.run()
        except (SystemExit, KeyboardInterrupt):
            self.task_dispatcher.shutdown()

    def maintenance(self, now: float) -> None:
        super().maintenance(now)
        begun = {}
        for number, channel in list(self.active_channels.items()):
            request = channel.request  # one that is not there whole yet
            if request is None:
                continue
            before, since = self._begun.get(number, (None, now))
            if before is not request:
                since = now
            begun[number] = (request, since)
            if now - since > allowed_seconds(received(request)):
                channel.will_close = True
        self._begun = begun


def allowed_seconds(bytes_so_far: int) -> float:
    """How long a request may have been coming in when so much of it is there.

    30 s, and for 100 MB at 200 kB/s another 524 s.
    """
    return RECEIVING_SECONDS + bytes_so_far / SLOWEST


def received(request: Any) -> int:
    """Bytes of a request that are there."""
    body = request.body_rcv
    return len(request.header_plus) + (len(body) if body is not None else 0)


def run(server: Server) -> None:
    """Serve until interrupted."""
    try:
        server.run()
    except KeyboardInterrupt:
        pass
    finally:
        server.close()
