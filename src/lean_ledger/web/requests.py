"""What every endpoint reads from a request."""

from __future__ import annotations

import re
from typing import Annotated
from urllib.parse import unquote

from flask import current_app, request
from pydantic import BeforeValidator

from lean_ledger.core.errors import PlanError
from lean_ledger.store import Desk
from lean_ledger.tasks import Readings

LONGEST_NAME = 60


#: A form's field that is text whatever stands in it: the framework takes “10” for a number.
Text = Annotated[str, BeforeValidator(lambda value: value if isinstance(value, str) else str(value))]


def typed(field: str, default: str = "") -> str:
    """What was typed into a field of the form, to the letter: “12.50” is not 12.5."""
    return request.form.get(field, default).strip()


def desk() -> Desk:
    found: Desk = current_app.config["DESK"]
    return found


def readings() -> Readings:
    found: Readings = current_app.config["READINGS"]
    return found


def author() -> str:
    """Who signs: a name that the browser keeps; nobody is asked to log in."""
    name = unquote(request.headers.get("Lean-Ledger-Author", "")).strip()
    return name[:LONGEST_NAME] or "planner"


def edition() -> int:
    """The edition in If-Match. Raises PlanError where it is missing or no number."""
    text = request.headers.get("If-Match", "").strip().removeprefix("W/").strip('"')
    if not re.fullmatch(r"[0-9]{1,9}", text):
        raise PlanError("if-match", "a write needs If-Match with the edition that it was made on")
    return int(text)
