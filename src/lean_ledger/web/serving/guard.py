"""Who may ask, and what a request may hold: looked at before any endpoint is.

A page of another origin that is open in the planner's browser can send forms and simple requests here, and a name that
was bound anew to the loopback can read. So the Host is one of a list, a request that changes anything carries
`X-Requested-With: lean-ledger`, which a foreign page cannot set without being asked first, and where the browser says
whence it came, it came from here.
"""

from __future__ import annotations

import ipaddress
import json
import re
import socket
from collections.abc import Iterable
from typing import Any
from urllib.parse import urlsplit

from flask import Request

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.basis.plain_text import check_text

MARK = "X-Requested-With"
OURS = "lean-ledger"
READING = frozenset({"GET", "HEAD", "OPTIONS"})
DEEPEST = 60  # of JSON; ours is nested a dozen deep
LONGEST_ADDRESS = 2000
LARGEST_JSON = 4 * 1024 * 1024


class Barred(LedgerError):
    """A request that is not let in; `status` is the answer's."""

    def __init__(self, code: str, message: str, status: int) -> None:
        super().__init__(code, message)
        self.status = status


def is_loopback(host: str) -> bool:
    """Whether all that a name or an address stands for is this machine. An unknown name is not."""
    try:
        return ipaddress.ip_address(host.strip("[]")).is_loopback
    except ValueError:
        pass
    try:
        found = {info[4][0] for info in socket.getaddrinfo(host, None)}
    except (OSError, UnicodeError):
        return False
    return bool(found) and all(ipaddress.ip_address(str(one).split("%")[0]).is_loopback for one in found)


class Guard:
    """`hosts` are the names beside those of the loopback that the server answers under."""

    def __init__(self, hosts: Iterable[str] = ()) -> None:
        self._hosts = {host.lower().strip("[]") for host in hosts}

    def check(self, request: Request) -> None:
        """Raises Barred for one that is not let in, PlanError for a body that cannot be read."""
        if len(request.full_path) > LONGEST_ADDRESS:
            raise Barred("address-too-long", f"an address has at most {LONGEST_ADDRESS} characters", 414)
        self._check_host(request)
        own = request.host_url.rstrip("/")
        origin = request.headers.get("Origin", "")
        changes = request.method not in READING
        if changes and origin and origin != own:
            raise Barred("foreign-page", f"a page of {origin} may not change anything here", 403)
        site = request.headers.get("Sec-Fetch-Site", "none")
        going = request.headers.get("Sec-Fetch-Mode") == "navigate"  # a link that was followed reads nothing
        if site in ("cross-site", "same-site") and (changes or (request.path.startswith("/api/") and not going)):
            raise Barred("foreign-page", "a page of another site may not ask for this", 403)
        if changes and request.headers.get(MARK) != OURS:
            raise Barred("not-marked", f"a request that changes anything needs the header {MARK}: {OURS}", 403)
        check_body(request)

    def _check_host(self, request: Request) -> None:
        name = _name_of(request.headers.get("Host", ""))
        if name in self._hosts or name == "localhost" or _is_loopback_address(name):
            return
        raise Barred(
            "foreign-host",
            f"this server does not answer as {name[:80] or 'a host without a name'}; "
            "start it with --allow-host NAME to let that name in",
            421,
        )


def _name_of(host: str) -> str:
    try:
        return (urlsplit(f"//{host}").hostname or "").lower()
    except ValueError:
        return ""


def _is_loopback_address(name: str) -> bool:
    try:
        return ipaddress.ip_address(name).is_loopback
    except ValueError:
        return False


def check_body(request: Request) -> None:
    """JSON that is too deep, and text that no file or sheet could hold, are refused before anything reads them."""
    if request.is_json:
        check_json(request.get_data(cache=True))
        return
    if request.mimetype in ("multipart/form-data", "application/x-www-form-urlencoded"):
        for name, value in request.form.items(multi=True):
            check_text(value, name or "")  # a part may come without a name
        for name, file in request.files.items(multi=True):
            check_text(file.filename or "", f"the file name in {name}")


def check_json(content: bytes) -> None:
    """Raises PlanError for JSON that is nested too deeply or holds text with control characters in it.

    What is no JSON at all is the endpoint's own to refuse.
    """
    if len(content) > LARGEST_JSON:
        raise Barred("body-too-large", f"the body has {len(content)} bytes; at most {LARGEST_JSON} are read", 413)
    if _depth(content) > DEEPEST:
        raise Barred("too-deep", f"the body is nested more than {DEEPEST} deep", 422)
    try:
        data = json.loads(content)
    except ValueError:
        return
    _walk(data, "")


def _depth(content: bytes) -> int:
    """How deep brackets stand in one another, those within strings left out."""
    deepest = depth = 0
    for bracket in _BRACKET.findall(_STRING.sub(b"", content)):
        depth += 1 if bracket in b"[{" else -1
        deepest = max(deepest, depth)
    return deepest


_STRING = re.compile(rb'"(?:[^"\\]|\\.)*"?', re.DOTALL)
_BRACKET = re.compile(rb"[\[\]{}]")


def _walk(value: Any, place: str) -> None:
    if isinstance(value, str):
        check_text(value, place)
    elif isinstance(value, dict):
        for key, inner in value.items():
            check_text(key, place or "a name")
            _walk(inner, f"{place}.{key}" if place else key)
    elif isinstance(value, list):
        for i, inner in enumerate(value):
            _walk(inner, f"{place}[{i}]")
