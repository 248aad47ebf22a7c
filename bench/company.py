"""How quick answers stay in company: python bench/company.py [--readers 50] [--seconds 20] [--plain]

So many readers ask for plans without a pause, half of them for the one that a writer edits as fast as it is answered.
Readers send the ETag that they have, as a browser does, or with --plain nothing. Prints the median and the 95th
percentile of both, then the list of jobs with 1,000 of them, and what 500 edits do to an answer's size.
"""

from __future__ import annotations

import argparse
import asyncio
import json
import random
import sqlite3
import statistics
import tempfile
import time
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

import requests

from lean_ledger.demo.served import MARK, start

WANTED = {"read": 300, "write": 500, "list": 200, "last used": 200}  # ms, 95th percentile


class Line:
    """One connection that is kept, as plain as it can be: what is measured is the server."""

    def __init__(self, url: str) -> None:
        where = urlsplit(url)
        self._host, self._port = where.hostname or "", where.port or 0
        self._streams: tuple[asyncio.StreamReader, asyncio.StreamWriter] | None = None

    async def ask(self, method: str, path: str, headers: dict[str, str], body: bytes = b"") -> tuple[int, str, bytes]:
        if self._streams is None:
            self._streams = await asyncio.open_connection(self._host, self._port)
        reader, writer = self._streams
        lines = [f"{method} {path} HTTP/1.1", f"Host: {self._host}", f"Content-Length: {len(body)}"]
        lines += [f"{name}: {value}" for name, value in headers.items()]
        writer.write("\r\n".join([*lines, "", ""]).encode() + body)
        head = (await reader.readuntil(b"\r\n\r\n")).decode("latin-1")
        status = int(head.split(" ", 2)[1])
        fields = dict(line.split(": ", 1) for line in head.split("\r\n")[1:] if ": " in line)
        length = int(fields.get("Content-Length", 0))
        content = await reader.readexactly(length) if length and status != 304 else b""
        return status, fields.get("Etag", fields.get("ETag", "")), content


async def read(
    url: str, plans: list[int], spent: list[float], statuses: dict[int, int], end: float, *, plain: bool
) -> None:
    line, tags = Line(url), dict.fromkeys(plans, "")
    while time.perf_counter() < end:
        plan = random.choice(plans)
        begun = time.perf_counter()
        headers = {"If-None-Match": tags[plan]} if tags[plan] and not plain else {}
        status, tags[plan], _ = await line.ask("GET", f"/api/plans/{plan}", headers)
        spent.append(1000 * (time.perf_counter() - begun))
        statuses[status] = statuses.get(status, 0) + 1


async def write(url: str, plan: int, spent: list[float], end: float) -> None:
    line, k = Line(url), 0
    _, _, content = await line.ask("GET", f"/api/plans/{plan}", {})
    edition = json.loads(content)["edition"]
    while time.perf_counter() < end:
        k += 1
        change = {"change": "set-allowance", "side": "Z+", "value": 2 + k / 1000}
        headers = {"If-Match": f'"{edition}"', "Content-Type": "application/json", **MARK}
        begun = time.perf_counter()
        status, _, content = await line.ask("POST", f"/api/plans/{plan}/changes", headers, json.dumps(change).encode())
        spent.append(1000 * (time.perf_counter() - begun))
        assert status == 200, content[:300]
        edition = json.loads(content)["edition"]
        await asyncio.sleep(0.05)  # a hand is never quicker


async def company(url: str, plans: list[int], readers: int, seconds: float, *, plain: bool) -> None:
    reads: list[float] = []
    writes: list[float] = []
    statuses: dict[int, int] = {}
    end = time.perf_counter() + seconds
    await asyncio.gather(
        write(url, plans[0], writes, end),
        *(read(url, plans[:1] if k % 2 else plans, reads, statuses, end, plain=plain) for k in range(readers)),
    )
    print(f"{readers} readers{' without ETags' if plain else ''}, one writer, {seconds:.0f} s: "
          f"{len(reads)} reads {statuses}, {len(writes)} writes")  # fmt: skip
    said("read", reads)
    said("write", writes)


def said(what: str, spent: list[float]) -> None:
    p95 = statistics.quantiles(spent, n=20)[-1]
    kept = "kept" if p95 <= WANTED[what] else "MISSED"
    print(f"  {what:9} median {statistics.median(spent):6.1f} ms, p95 {p95:6.1f} ms; wanted {WANTED[what]} ms: {kept}")


def thousand_jobs(db: Path) -> None:
    """Rows of the demo's jobs again and again, until there are 1,000."""
    with sqlite3.connect(db) as connection:
        count = connection.execute("SELECT count(*) FROM job").fetchone()[0]
        for k in range(1000 - count):
            source = 1 + k % count
            job = connection.execute(
                "INSERT INTO job (number, name, customer, status, due, at) "
                "SELECT number || '-' || ?, name, customer, status, due, at FROM job WHERE id = ?", (k, source)
            ).lastrowid  # fmt: skip
            connection.execute(
                "INSERT INTO revision (job, letter, file, solid, author, at) "
                "SELECT ?, letter, file, solid, author, at FROM revision WHERE job = ?", (job, source)
            )  # fmt: skip
            plan = connection.execute(
                "INSERT INTO plan (job, name, edition, current) SELECT ?, name, 1, current FROM plan WHERE job = ?",
                (job, source),
            ).lastrowid
            for table in ("version", "summary"):
                columns = [row[1] for row in connection.execute(f"PRAGMA table_info({table})") if row[1] != "id"]
                taken = ", ".join("?" if c == "plan" else f'"{c}"' for c in columns)
                names = ", ".join(f'"{c}"' for c in columns)
                connection.execute(f"INSERT INTO {table} ({names}) SELECT {taken} FROM {table} WHERE plan = ?",
                                   (plan, source))  # fmt: skip


def timed(url: str, path: str, rounds: int = 20) -> list[float]:
    spent = []
    for _ in range(rounds):
        begun = time.perf_counter()
        requests.get(f"{url}{path}", timeout=120).raise_for_status()
        spent.append(1000 * (time.perf_counter() - begun))
    return spent


def edits(url: str, plan: int, count: int) -> None:
    session = requests.Session()
    session.headers.update(MARK)
    view: dict[str, Any] = session.get(f"{url}/api/plans/{plan}", timeout=60).json()
    before = len(json.dumps(view))
    for k in range(count):
        change = {"change": "set-allowance", "side": "Z-", "value": 2 + k / 1000}
        answer = session.post(f"{url}/api/plans/{plan}/changes", json=change,
                              headers={"If-Match": f'"{view["edition"]}"'}, timeout=60)  # fmt: skip
        view = answer.json()
    print(f"an answer after {count} edits: {before / 1000:.0f} to {len(json.dumps(view)) / 1000:.0f} kB")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--readers", type=int, default=50)
    parser.add_argument("--seconds", type=float, default=20.0)
    parser.add_argument("--plain", action="store_true")
    parser.add_argument("--edits", type=int, default=500)
    options = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        db = Path(folder) / "company.sqlite"
        with start("demo", db) as server:
            plans = [row["plan_id"] for row in requests.get(f"{server.url}/api/jobs", timeout=60).json()["jobs"]]
            for plan in plans:
                requests.get(f"{server.url}/api/plans/{plan}", timeout=60)
            asyncio.run(company(server.url, plans, options.readers, options.seconds, plain=options.plain))
            edits(server.url, plans[1], options.edits)
        thousand_jobs(db)
        with start("serve", db) as server:
            print("1,000 jobs")
            said("list", timed(server.url, "/api/jobs"))
            said("list", timed(server.url, "/api/jobs?search=vane&sort=each&status=quoting"))
            said("list", timed(server.url, "/api/jobs?page=15&sort=due"))
            said("last used", timed(server.url, f"/api/plans/{plans[0]}/last-used"))


if __name__ == "__main__":
    main()
