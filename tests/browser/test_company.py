"""The list of jobs and the work beside, as a planner sees them; and a foreign page in the same browser."""

from __future__ import annotations

import re
import threading
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, HTTPServer
from pathlib import Path

import pytest
import requests
from playwright.sync_api import Page, expect

from lean_ledger.core.geometry.solids import block, write_step
from tests.browser.conftest import Planner

pytestmark = [pytest.mark.browser, pytest.mark.follows]


def test_jobs_are_found_sorted_and_kept_in_the_address(planner: Planner) -> None:
    page = planner.page
    page.goto(planner.site)
    rows = page.locator(".jobs-table tbody tr")
    page.get_by_label("Find").fill("hochwart lid")
    expect(rows).to_have_count(1)
    expect(rows.first).to_contain_text("GL-415")
    expect(page).to_have_url(re.compile(r"find=hochwart"))
    page.reload()
    expect(rows).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Show all")).first.click()
    page.get_by_label("State", exact=True).select_option("done")
    expect(rows.filter(has_text="AB-118")).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Show all")).first.click()
    head = page.get_by_role("columnheader", name="Price each")
    with page.expect_response(lambda r: "sort=each" in r.url):
        head.get_by_role("button").click()
    expect(head).to_have_attribute("aria-sort", "ascending")
    expect(page.locator(".jobs-table tbody tr td:nth-child(9)").first).to_contain_text("3.74")
    prices = [float(t.split("\n")[0]) for t in page.locator(".jobs-table tbody tr td:nth-child(9)").all_inner_texts()]
    assert prices == sorted(prices)
    page.get_by_label("Find").fill("no such job anywhere")
    expect(page.get_by_text("No job is like that.")).to_be_visible()


def test_two_changes_of_what_is_shown_in_one_breath_are_both_kept(planner: Planner) -> None:
    page = planner.page
    page.goto(f"{planner.site}/?find=hochwart lid")
    rows = page.locator(".jobs-table tbody tr")
    expect(rows).to_have_count(1)
    expect(
        page.get_by_label("State", exact=True).locator("option", has_text="done")
    ).to_be_attached()  # states come apart
    page.evaluate(  # before anything is drawn again, as quick hands do on a slow machine
        """() => {
            [...document.querySelectorAll("button")].find((one) => one.textContent.startsWith("Show all")).click();
            const state = document.querySelector("select[aria-label=State]");
            state.value = "done";
            state.dispatchEvent(new Event("change", { bubbles: true }));
        }"""
    )
    expect(rows.filter(has_text="AB-118")).to_have_count(1)
    expect(page).to_have_url(re.compile(r"\?state=done$"))


def test_refused_name_is_told_and_a_state_is_set_in_the_list(planner: Planner, plate: int) -> None:
    page = planner.page
    number = planner.plan(plate)["job"]["number"]
    page.goto(f"{planner.site}/?find={number}")
    page.get_by_label(f"State of {number}").select_option("ordered")
    expect(page.get_by_label(f"State of {number}")).to_have_value("ordered")
    rows = requests.get(f"{planner.site}/api/jobs?search={number}", timeout=60).json()["jobs"]
    assert [row["job"]["status"] for row in rows] == ["ordered"]


def test_stock_being_followed_is_shown_with_its_stage_and_can_be_stopped(planner: Planner) -> None:
    page = planner.page
    plan = planner.copy_of("louvre-bracket", "T-way", "steel-c45")
    planner.open(plan, "papers")
    under_way = page.get_by_role("status", name="Under way")
    expect(under_way).to_contain_text("Following the stock")
    with page.expect_response(lambda r: "/api/works/" in r.url and r.request.method == "DELETE"):
        under_way.get_by_role("button", name="Stop").first.click()
    expect(under_way).to_have_count(0)
    expect(page.get_by_test_id("strip-cycle")).to_be_visible()


def test_part_of_an_odd_size_is_asked_about_before_it_is_priced(planner: Planner, tmp_path: Path) -> None:
    path = tmp_path / "mast-foot.step"
    write_step(block((0, 0, 0), (1400, 60, 20)), path, "foot")
    page = planner.page
    page.goto(planner.site)
    page.get_by_role("button", name="New job").click()
    page.locator("input[type=file]").set_input_files(path)
    page.get_by_role("button", name=re.compile("^(Quote|Read|Make|Price)")).first.click()
    asked = page.get_by_role("group", name="Size of mast-foot.step")
    expect(asked).to_contain_text("no machine of the shop holds that: the longest travel is 762 mm")
    asked.get_by_role("button", name="It is, go on").click()
    expect(page.get_by_test_id("strip-cycle").or_(page.get_by_role("link", name="Open its plan"))).to_be_visible()


class _Elsewhere(BaseHTTPRequestHandler):
    def do_GET(self) -> None:
        self.send_response(200)
        self.send_header("Content-Type", "text/html")
        self.end_headers()
        self.wfile.write(b"<!doctype html><title>elsewhere</title><p>a page of somebody else</p>")

    def log_message(self, *_: object) -> None:
        pass


@pytest.fixture
def elsewhere() -> Iterator[str]:
    server = HTTPServer(("127.0.0.1", 0), _Elsewhere)
    thread = threading.Thread(target=server.serve_forever, daemon=True)
    thread.start()
    yield f"http://localhost:{server.server_port}"
    server.shutdown()


ATTACKS = """async (site) => {
  const tried = [];
  const send = async (what, path, init) => {
    try {
      const answer = await fetch(site + path, init);
      tried.push([what, answer.type, answer.status, await answer.text().catch(() => "")]);
    } catch (error) { tried.push([what, "failed", 0, ""]); }
  };
  const form = (text) => { const f = new FormData(); f.set("file", new File([text], "x.csv")); return f; };
  await send("read", "/api/jobs", {});
  await send("cutting", "/api/shop/cutting", { method: "POST", mode: "no-cors", body: form("FAMILY") });
  await send("tools", "/api/shop/tools", { method: "POST", mode: "no-cors", body: form("ID") });
  await send("rename", "/api/jobs/1", { method: "PATCH", body: '{"name":"taken"}' });
  await send("marked", "/api/jobs/1", { method: "PATCH", headers: { "X-Requested-With": "lean-ledger",
    "Content-Type": "application/json" }, body: '{"name":"taken"}' });
  await send("undo", "/api/plans/1/undo", { method: "POST", mode: "no-cors", headers: { "If-Match": '"1"' } });
  await send("send", "/api/plans/1/program/send", { method: "POST", mode: "no-cors" });
  return tried;
}"""


def test_foreign_page_in_the_browser_reads_and_changes_nothing(page: Page, site: str, elsewhere: str) -> None:
    def names() -> list[object]:  # figures follow by themselves, once stock is followed
        return [row["job"] for row in requests.get(f"{site}/api/jobs?size=200", timeout=60).json()["jobs"]]

    before = names()
    page.goto(elsewhere)
    tried = page.evaluate(ATTACKS, site)
    assert len(tried) == 7
    for what, kind, status, text in tried:
        assert kind in ("opaque", "failed") or status == 403, (what, kind, status)
        assert "SB-220" not in text, what
    page.set_content(f'<form method="post" enctype="multipart/form-data" action="{site}/api/shop/cutting">'
                     '<input name="file" value="x"><button>go</button></form>')  # fmt: skip
    with page.expect_response(lambda r: "/api/shop/cutting" in r.url) as answered:
        page.get_by_role("button", name="go").click()
    assert answered.value.status == 403
    assert names() == before


def test_name_that_was_bound_anew_to_the_loopback_reads_nothing(site: str) -> None:
    answer = requests.get(f"{site}/api/jobs", headers={"Host": "shop.attacker.example"}, timeout=60)
    assert answer.status_code == 421
    assert "jobs" not in answer.json()
