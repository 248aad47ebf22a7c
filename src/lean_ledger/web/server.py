"""The HTTP server: a few threads for requests, and no room for clients that only hold on to their connection."""

from __future__ import annotations

from typing import Any

from waitress.adjustments import Adjustments
from waitress.server import TcpWSGIServer

THREADS = 8
CONNECTIONS = 1000
IDLE_SECONDS = 20  # without a word between requests
LOOK_SECONDS = 5  # between two looks at who is idle or slow
RECEIVING_SECONDS = 30  # for a request to be there whole; large ones get more
SLOWEST = 200_000  # bytes per second that an upload must keep up after that
SPOOLED = 64 * 1024 * 1024


class Server(TcpWSGIServer):  # type: ignore[misc]
    """Cuts connections that are idle, and requests that come in too slowly, however steadily."""

    def __init__(self, app: Any, host: str, port: int) -> None:
        adjustments = Adjustments(
            host=host, port=port, threads=THREADS, connection_limit=CONNECTIONS, channel_timeout=IDLE_SECONDS,
            cleanup_interval=LOOK_SECONDS, asyncore_use_poll=True, max_request_body_size=2**28,
            max_request_header_size=64 * 1024, backlog=256, ident=None,
        )  # fmt: skip
        self._begun: dict[int, tuple[Any, float]] = {}
        super().__init__(app, adj=adjustments)

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
