"""The server as it runs: nothing that is sent to it, or held on to, keeps the others out."""

from __future__ import annotations

import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import urlsplit

import pytest
import requests
from bench.hostile import attack

from lean_ledger.demo.served import MARK, Served, start
from lean_ledger.demo.shop import JOBS
from lean_ledger.store import Database
from lean_ledger.web.serving import server as module
from lean_ledger.web.serving.server import allowed_seconds
from tests.kept import copy_of_demo


@pytest.fixture(scope="module")
def shop(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return copy_of_demo(tmp_path_factory.mktemp("served") / "demo.sqlite")


@pytest.fixture(scope="module")
def served(shop: Path) -> Iterator[Served]:
    with start("demo", shop) as server:
        yield server


def connected(served: Served) -> socket.socket:
    where = urlsplit(served.url)
    return socket.create_connection((where.hostname or "", where.port or 0), timeout=5)


def test_idle_connections_leave_room_for_requests(served: Served) -> None:
    idle = [connected(served) for _ in range(150)]
    try:
        begun = time.monotonic()
        assert requests.get(f"{served.url}/api/library", timeout=10).status_code == 200
        assert time.monotonic() - begun < 5
    finally:
        for one in idle:
            one.close()


def test_who_sends_a_request_too_slowly_is_cut(monkeypatch: pytest.MonkeyPatch) -> None:
    """A byte now and then keeps a connection busy for as long as it likes, if nobody looks at the whole."""
    monkeypatch.setattr(module, "RECEIVING_SECONDS", 0.3)
    monkeypatch.setattr(module, "LOOK_SECONDS", 0)

    def app(environ: object, begin: object) -> list[bytes]:
        begin("200 OK", [])  # type: ignore[operator]
        return [b"whole"]

    server = module.Server(app, "127.0.0.1", 0)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    with socket.create_connection(("127.0.0.1", int(server.effective_port)), timeout=10) as line:
        line.sendall(b"POST / HTTP/1.1\r\nHost: localhost\r\nContent-Length: 1000\r\n\r\n")
        assert _cut_off(line)
    with socket.create_connection(("127.0.0.1", int(server.effective_port)), timeout=10) as line:
        line.sendall(b"GET / HTTP/1.1\r\nHost: localhost\r\n\r\n")
        assert b"200 OK" in line.recv(1000)
    server.close()


def _cut_off(line: socket.socket) -> bool:
    """Whether the other end closes while a byte is sent now and then."""
    for _ in range(200):
        try:
            line.sendall(b"x")
        except OSError:
            return True
        time.sleep(0.05)
    return False


def test_large_upload_may_take_as_long_as_a_slow_line_needs() -> None:
    """30 s, and 100 MB at 200 kB/s: 524 s more."""
    assert allowed_seconds(0) == 30
    assert allowed_seconds(100 * 1024 * 1024) == pytest.approx(30 + 524.288)


def test_long_requests_of_eight_clients_keep_nobody_waiting(served: Served) -> None:
    plans = [row["plan_id"] for row in requests.get(f"{served.url}/api/jobs", timeout=20).json()["jobs"]]
    answers: list[int] = []

    def ask(path: str) -> None:
        answers.append(requests.get(f"{served.url}/api/plans/{path}", timeout=60).status_code)

    paths = [f"{plan}/{what}" for plan in plans[:4] for what in ("stock", "worth", "program/S1/trial/own", "machines")]
    threads = [threading.Thread(target=ask, args=(path,)) for path in paths]
    for thread in threads:
        thread.start()
    begun = time.monotonic()
    assert requests.get(f"{served.url}/api/library", timeout=30).status_code == 200
    assert time.monotonic() - begun < 8, "it waited for the others before"
    for thread in threads:
        thread.join()
    assert set(answers) <= {200, 202}


def test_second_server_on_the_same_database_is_refused(served: Served, shop: Path) -> None:
    done = subprocess.run([sys.executable, "-m", "lean_ledger.cli", "serve", "--db", str(shop), "--port", "0"],
                          capture_output=True, text=True, timeout=60, check=False)  # fmt: skip
    assert done.returncode == 2
    assert f"is served already by process {served.process.pid} on {served.url}" in done.stderr


def test_killed_while_reading_it_leaves_no_model_behind(tmp_path: Path) -> None:
    db = tmp_path / "killed.sqlite"
    server = start("serve", db)
    content = (Path(__file__).parents[1] / "cases/features/cable-gland-plate.step").read_bytes()
    requests.post(f"{server.url}/api/readings/job", files={"file": ("p.step", content)}, headers=MARK, timeout=30)
    folder = Database(db).workplace
    deadline = time.monotonic() + 20
    while not list(folder.rglob("*.step")) and time.monotonic() < deadline:
        time.sleep(0.005)
    assert list(folder.rglob("*.step")), "it reads the model there"
    server.stop(signal.SIGKILL)
    with start("serve", db):
        assert list(folder.rglob("*")) == []


CALLS = 120


def test_hostile_calls_end_in_refusals_and_leave_the_shop_whole(served: Served, shop: Path) -> None:
    """The last one here: the server is not of use to others after it."""
    outcome, wrong = attack(served.url, CALLS, seed=2)
    assert outcome.bad == []
    assert wrong == []
    assert outcome.calls >= CALLS
    served.stop(signal.SIGKILL)
    with start("serve", shop) as again:
        assert requests.get(f"{again.url}/api/jobs", timeout=20).json()["all"] >= len(JOBS)
