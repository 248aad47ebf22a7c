"""The OpenAPI document, completed with what holds for every address."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from lean_ledger.web.shared.wire import MEANT

#: Answers that any address may give, beside its own.
ANYWHERE = {
    "400": "the request cannot be read",
    "403": "from a foreign page, or not marked with X-Requested-With: lean-ledger",
    "405": "another method is answered here",
    "414": "the address is too long",
    "415": "the body is of a kind that is not read here",
    "421": "this server does not answer under that host name",
    "500": "something went wrong here; nothing was changed",
    "503": "the database is held by another program",
    "507": "the disk is full",
}
WITH_BODY = {"413": "the body is too large"}
_PROBLEM = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
_CHANGING = ("post", "put", "patch", "delete")
_MARK = {
    "name": "X-Requested-With", "in": "header", "required": True, "schema": {"type": "string", "const": "lean-ledger"},
    "description": "Says that it is no form of a foreign page.",
}  # fmt: skip


def completed(document: dict[str, Any]) -> dict[str, Any]:
    """Problems under their own content type, what any address may answer, and the mark of what changes anything."""
    found = deepcopy(document)
    found["components"]["responses"] = {
        _name(status): {"description": words, "content": _PROBLEM} for status, words in (ANYWHERE | WITH_BODY).items()
    }
    found["components"]["parameters"] = {"Mark": _MARK}
    for path in found["paths"].values():
        for method, operation in path.items():
            responses = operation["responses"]
            for status, answer in responses.items():
                if int(status) >= 400 and "application/json" in answer.get("content", {}):
                    answer["content"] = {"application/problem+json": answer["content"]["application/json"]}
            more = ANYWHERE | (WITH_BODY if "requestBody" in operation else {})
            for status in more:
                responses.setdefault(status, {"$ref": f"#/components/responses/{_name(status)}"})
            if method in _CHANGING:
                operation.setdefault("parameters", []).append({"$ref": "#/components/parameters/Mark"})
    whole: dict[str, Any] = _meant(found)
    return whole


def _meant(value: Any) -> Any:
    """Schemas that another one describes, as references to it."""
    if isinstance(value, dict):
        if value.get("type") == "object" and value.get("title") in MEANT:
            return {"$ref": f"#/components/schemas/{MEANT[value['title']]}"}
        return {key: _meant(inner) for key, inner in value.items()}
    return [_meant(inner) for inner in value] if isinstance(value, list) else value


def _name(status: str) -> str:
    return f"Http{status}"
