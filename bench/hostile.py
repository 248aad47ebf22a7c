"""Hostile calls against a running server: python bench/hostile.py [--calls 10000] [--seed 1]

A third is what the OpenAPI document allows (schemathesis), on plans that are there as often as on others; the rest are
bodies of its own: every field of every change set to what nobody would type, files with a cell or a reference spoilt,
addresses, headers and half requests. Prints the answers by status, the slowest, and every 500 and every answer over
10 s; ends with 1 where there is any, or where the shop is no longer whole afterwards.
"""

from __future__ import annotations

import argparse
import io
import json
import random
import re
import socket
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any
from urllib.parse import quote, urlsplit

import requests
import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings

from lean_ledger.demo.served import MARK, start

PARTS = Path(__file__).parents[1] / "src/lean_ledger/demo/parts"
MOST_SECONDS = 10.0
DEEP = "[" * 1000 + "]" * 1000
SPOILT: tuple[Any, ...] = (
    None, True, "", " ", "x" * 100_000, "\x00", "\ud800", "=cmd|' /C calc'!A0", "<script>alert(1)</script>",
    "../../etc",
    "J–101", "Ł-5", "№7", "1e999999", "-1e999999", "1e-999999", "NaN", "Infinity", "0x10", "1" * 5000, 0, -1, 10**400,
    1e308, -1e308, 1e-300, 5e-324, [], {}, [[]], ["S1"] * 5000, {"of": []}, {"": None}, 2**31, 2**63, "S9", "H999",
)  # fmt: skip


@dataclass
class Outcome:
    """What the calls gave."""

    statuses: Counter[int] = field(default_factory=Counter)
    bad: list[str] = field(default_factory=list)
    slowest: tuple[float, str] = (0.0, "")

    @property
    def calls(self) -> int:
        return sum(self.statuses.values())


class Attacker:
    """Calls one server; counts and times what comes back."""

    def __init__(self, url: str, seed: int) -> None:
        self.url = url
        self.random = random.Random(seed)
        self.outcome = Outcome()
        self.session = requests.Session()
        self.session.headers.update(MARK)
        self.document = self.session.get(f"{url}/openapi.json", timeout=30).json()
        self.plans = [row["plan_id"] for row in self.session.get(f"{url}/api/jobs", timeout=30).json()["jobs"]]

    def note(self, what: str, status: int, seconds: float, text: str) -> None:
        self.outcome.statuses[status] += 1
        self.outcome.slowest = max(self.outcome.slowest, (seconds, what))
        if status == 500 or seconds > MOST_SECONDS:
            self.outcome.bad.append(f"{status} in {seconds:.1f} s: {what[:300]}\n    {text[:300]}")

    def call(self, method: str, path: str, **more: Any) -> requests.Response | None:
        what = f"{method} {path} {str(more.get('json', more.get('data', '')))[:200]!r}"
        begun = time.perf_counter()
        try:
            answer = self.session.request(method, f"{self.url}{path}", timeout=60, **more)
        except (requests.RequestException, UnicodeError, ValueError) as error:
            if time.perf_counter() - begun > MOST_SECONDS:
                self.note(what, 0, time.perf_counter() - begun, str(error))
            return None  # cut off, or what the client itself would not send
        self.note(
            what, answer.status_code, time.perf_counter() - begun, answer.text if answer.status_code >= 500 else ""
        )
        return answer

    # ---- what the document allows

    def allowed(self, calls: int) -> None:
        described = schemathesis.openapi.from_url(f"{self.url}/openapi.json")
        operations = [result.ok() for result in described.get_all_operations()]
        for operation in operations:
            self._try_all(operation, max(2, calls // len(operations)))

    def _try_all(self, operation: Any, count: int) -> None:
        @seed(self.random.randrange(2**32))
        @settings(max_examples=count, deadline=None, database=None, phases=[Phase.generate],
                  suppress_health_check=list(HealthCheck))  # fmt: skip
        @given(case=operation.as_strategy())
        def one(case: Any) -> None:
            if "plan_id" in (case.path_parameters or {}) and self.random.random() < 0.6:
                case.path_parameters["plan_id"] = self.random.choice(self.plans)
            begun = time.perf_counter()
            try:
                answer = case.call(headers=MARK, timeout=60)
            except (requests.RequestException, UnicodeError, ValueError):
                return
            text = answer.text if answer.status_code >= 500 else ""
            self.note(f"{operation.label} {case.path_parameters} {str(case.body)[:200]}", answer.status_code,
                      time.perf_counter() - begun, text)  # fmt: skip

        one()

    # ---- bodies of its own

    def own(self, calls: int) -> None:
        kinds = (self.changes, self.tables, self.rules, self.jobs, self.addresses, self.half, self.files)
        weights = (10, 5, 3, 3, 4, 0.3, 0.5)
        running = [kind() for kind in kinds]
        end = self.outcome.calls + calls
        while self.outcome.calls < end:
            next(self.random.choices(running, weights)[0])

    def changes(self) -> Iterator[None]:
        """A change as the document describes it, one field of it spoilt."""
        schemas = self.document["components"]["schemas"]
        known = [
            s for s in schemas.values() if "change" in s.get("properties", {}) and "const" in s["properties"]["change"]
        ]
        while True:
            schema = self.random.choice(known)
            body = {name: self._value(what, schemas) for name, what in schema["properties"].items()}
            name = self.random.choice([n for n in body if n != "change"] or ["change"])
            body[name] = self.random.choice(SPOILT)
            plan = self.random.choice(self.plans)
            now = self.call("GET", f"/api/plans/{plan}/journal?count=1")
            edition = now.json().get("edition", 1) if now is not None else 1
            content = _json(body)
            self.call("POST", f"/api/plans/{plan}/changes", data=content,
                      headers={"If-Match": f'"{edition}"', "Content-Type": "application/json"})  # fmt: skip
            yield

    def _value(self, schema: dict[str, Any], schemas: dict[str, Any]) -> Any:
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return self.random.choice(schema["enum"])
        if "$ref" in schema:
            return self._value(schemas[schema["$ref"].rsplit("/", 1)[1]], schemas)
        if "anyOf" in schema:
            return self._value(self.random.choice(schema["anyOf"]), schemas)
        kind = schema.get("type")
        if kind == "array":
            return [self._value(schema.get("items", {"type": "number"}), schemas)]
        if kind in ("number", "integer"):
            return self.random.choice([1, 2, 0, 5])
        if kind == "object":
            return {n: self._value(s, schemas) for n, s in schema.get("properties", {}).items()}
        return self.random.choice(["S1", "H1", "P1", "EA10", "mill-762", "vise-125", "Z+", "1"])

    def tables(self) -> Iterator[None]:
        """The shop's own tools or cutting data, one cell spoilt."""
        files = {
            what: self.session.get(f"{self.url}/api/shop/files/{what}.csv", timeout=30).content.decode("utf-8-sig")
            for what in ("tools", "cutting")
        }
        while True:
            what = self.random.choice(list(files))
            head, *rows = files[what].strip().split("\n")
            cells = self.random.choice(rows).split(",")
            cells[self.random.randrange(len(cells))] = str(self.random.choice(SPOILT)).replace("\n", " ")[:2000]
            text = f"{head}\n{','.join(cells)}\n"
            self.call("POST", f"/api/shop/{what}",
                      files={"file": (f"{what}.csv", text.encode("utf-8", "surrogatepass"))})  # fmt: skip
            yield

    def rules(self) -> Iterator[None]:
        rules = [r["row"] for r in self.session.get(f"{self.url}/api/shop/chains", timeout=30).json()["rules"]]
        while True:
            changed = json.loads(json.dumps(rules))
            rule = self.random.choice(changed)
            rule[self.random.choice([*rule, "of", "steps", "diameter_to"])] = self.random.choice(SPOILT)
            self.call("PUT", "/api/shop/chains", data=_json({"rules": changed}),
                      headers={"Content-Type": "application/json"})  # fmt: skip
            yield

    def jobs(self) -> Iterator[None]:
        """A job's own words; what comes of them on papers."""
        while True:
            name = self.random.choice(["number", "name", "customer", "status", "due"])
            job = self.random.choice(self.plans)
            self.call("PATCH", f"/api/jobs/{job}", data=_json({name: self.random.choice(SPOILT)}),
                      headers={"Content-Type": "application/json"})  # fmt: skip
            paper = self.random.choice(["operations.csv", "tools.xlsx", "setup-sheet.pdf", "shopping.csv"])
            self.call("GET", f"/api/plans/{job}/papers/{paper}")
            yield

    def addresses(self) -> Iterator[None]:
        paths = [path for path, _ in self.document["paths"].items()]
        methods = ("GET", "POST", "PUT", "PATCH", "DELETE", "HEAD", "OPTIONS", "TRACE")
        while True:
            odd = str(self.random.choice(SPOILT))[:4000]
            path = self._filled(self.random.choice(paths), odd)
            if self.random.random() < 0.3:
                path = "/" + quote("a" * 300 + odd[:50], errors="replace")
            headers = {self.random.choice(["If-Match", "If-None-Match", "Accept", "Range", "Lean-Ledger-Author"]):
                       quote(odd[:200], errors="replace")}  # fmt: skip
            body = self.random.choice([b"", DEEP.encode(), b"\xff\xfe", b'"\\ud800"', b"{}", b"null", b"[" * 5000])
            kind = self.random.choice(
                ["application/json", "text/plain", "multipart/form-data", "application/x-www-form-urlencoded"]
            )
            self.call(self.random.choice(methods), path, data=body, headers={**headers, "Content-Type": kind})
            yield

    def _filled(self, path: str, odd: str) -> str:
        """An address with its places filled by something odd; the plan is there as a rule."""

        def one(place: re.Match[str]) -> str:
            if place[1] == "plan_id" and self.random.random() < 0.8:
                return "1"
            return quote(odd[:300], safe="", errors="replace") or "x"

        return re.sub(r"{(\w+)}", one, path)

    def half(self) -> Iterator[None]:
        """Requests that end in the middle, or are none."""
        where = urlsplit(self.url)
        while True:
            raw = self.random.choice([
                b"GET / HTTP/1.1\r\nHost: localhost\r\nX: " + b"y" * 100_000, b"\x16\x03\x01\x02\x00", b"GET\r\n\r\n",
                b"POST /api/jobs HTTP/1.1\r\nHost: localhost\r\nContent-Length: 99999999999999\r\n\r\nx",
                b"POST /api/jobs HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: chunked\r\n\r\nZZ\r\n",
                b"GET /%ff%fe%00 HTTP/1.1\r\nHost: localhost\r\n\r\n", b"GET / HTTP/1.1\r\nHost: evil.example\r\n\r\n",
            ])  # fmt: skip
            with socket.create_connection((where.hostname or "", where.port or 0), timeout=5) as line:
                line.settimeout(0.3)
                try:
                    line.sendall(raw)
                    line.recv(100)
                except OSError:
                    pass
            yield

    def files(self) -> Iterator[None]:
        """Models with a reference, a number or some bytes spoilt, read as new jobs and revisions."""
        model = (PARTS / "anemometer-arm-block.step").read_bytes()
        while True:
            spoilt = self.spoilt_model(model)
            name = self.random.choice(["part.step", "Ł-5.stp", "a" * 300 + ".step", "part.dxf", "part.exe"])
            form = {"material": "pom-c", "quantities": self.random.choice(["10", "1e9", "-1", "0", "9" * 50])}
            if self.random.random() < 0.2:
                self.call("POST", "/api/readings/job", data={**form, "file": "just text"})
            else:
                self.call("POST", "/api/readings/job", data=form, files={"file": (name, io.BytesIO(spoilt))})
            yield

    def spoilt_model(self, model: bytes) -> bytes:
        way = self.random.randrange(5)
        if way == 0:
            return model[: self.random.randrange(len(model))]
        if way == 1:
            at = self.random.randrange(len(model) - 200)
            return model[:at] + self.random.randbytes(50) + model[at + 50 :]
        if way == 2:
            refs = list(re.finditer(rb"#(\d+)(?=[,)])", model))
            one, other = self.random.sample(refs, 2)
            return model[: one.start(1)] + other[1] + model[one.end(1) :]
        if way == 3:
            return model.replace(b".MILLI.", self.random.choice([b".KILO.", b".PICO.", b"$"]))
        return b""


def _json(body: Any) -> bytes:
    return json.dumps(body).encode("utf-8", "surrogatepass")


def still_whole(attacker: Attacker) -> list[str]:
    """What is wrong with the shop after all that."""
    found = []
    for path in ("/api/jobs", "/api/library", "/api/shop/tools", "/api/shop/chains"):
        begun = time.perf_counter()
        answer = attacker.session.get(f"{attacker.url}{path}", timeout=60)
        if answer.status_code != 200 or time.perf_counter() - begun > MOST_SECONDS:
            found.append(f"{path}: {answer.status_code} in {time.perf_counter() - begun:.1f} s")
    for plan in attacker.plans:
        answer = attacker.session.get(f"{attacker.url}/api/plans/{plan}", timeout=60)
        if answer.status_code != 200:
            found.append(f"plan {plan}: {answer.status_code} {answer.text[:200]}")
    return found


def attack(url: str, calls: int, seed: int) -> tuple[Outcome, list[str]]:
    """Make so many calls; what they gave, and what is wrong with the shop afterwards."""
    attacker = Attacker(url, seed)
    attacker.allowed(calls // 3)
    attacker.own(calls - attacker.outcome.calls)
    return attacker.outcome, still_whole(attacker)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--calls", type=int, default=10_000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--log", type=Path, help="a file for what the server says")
    options = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        db = Path(folder) / "hostile.sqlite"
        with start("demo", db, options.log) as server:
            begun = time.perf_counter()
            outcome, wrong = attack(server.url, options.calls, options.seed)
            took = time.perf_counter() - begun
        with start("serve", db):
            pass  # it starts again
    print(
        f"{outcome.calls} calls in {took:.0f} s: " + ", ".join(f"{s}: {n}" for s, n in sorted(outcome.statuses.items()))
    )
    print(f"slowest {outcome.slowest[0]:.2f} s: {outcome.slowest[1][:200]}")
    for line in (*outcome.bad, *wrong):
        print(line)
    sys.exit(1 if outcome.bad or wrong else 0)


if __name__ == "__main__":
    main()
