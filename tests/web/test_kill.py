"""The server is killed in the middle of edits: what was confirmed is there when it starts again."""

from __future__ import annotations

import signal
import threading
import time
from pathlib import Path

import requests

from lean_ledger.demo.served import MARK, start
from tests.conftest import DEMO_PARTS


def test_kill_in_the_middle_of_edits_loses_nothing_confirmed(tmp_path: Path) -> None:
    db = tmp_path / "killed.sqlite"
    server = start("serve", db)
    url = server.url
    confirmed: list[float] = []
    try:
        with (DEMO_PARTS / "anemometer-arm-block.step").open("rb") as file:
            created = requests.post(f"{url}/api/jobs", files={"file": file}, data={"material": "pom-c"}, headers=MARK,
                                    timeout=60)  # fmt: skip
        plan = f"{url}/api/plans/{created.json()['plan_id']}"

        def edit() -> None:
            edition = 1
            for i in range(400):
                value = round(1 + i / 100, 2)
                try:
                    answer = requests.post(
                        f"{plan}/changes",
                        json={"change": "set-allowance", "side": "Z+", "value": value},
                        headers={"If-Match": f'"{edition}"', **MARK},
                        timeout=20,
                    )
                except requests.RequestException:
                    return
                if answer.status_code == 200:
                    edition = answer.json()["edition"]
                    confirmed.append(value)

        writer = threading.Thread(target=edit)
        writer.start()
        deadline = time.monotonic() + 30
        while len(confirmed) < 8 and time.monotonic() < deadline:
            time.sleep(0.01)
        server.stop(signal.SIGKILL)
        writer.join()
        assert len(confirmed) >= 8
    finally:
        server.stop(signal.SIGKILL)
    with start("serve", db) as again:
        url = again.url
        plan_id = created.json()["plan_id"]
        view = requests.get(f"{url}/api/plans/{plan_id}/journal?count=200", timeout=60).json()
        words = [line["words"] for line in view["lines"]][1:]
        wanted = [f"allowance Z+ {value:g}" for value in confirmed]
        assert words[: len(wanted)] == wanted
        assert len(words) <= len(wanted) + 1, "at most the one whose answer was on its way"
        assert view["edition"] == len(words) + 1
        assert requests.post(
            f"{url}/api/plans/{plan_id}/undo", headers={"If-Match": f'"{view["edition"]}"', **MARK}, timeout=60
        ).ok
