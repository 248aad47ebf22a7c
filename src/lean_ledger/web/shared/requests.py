"""What every endpoint reads from a request."""

from __future__ import annotations

import re
from typing import Annotated
from urllib.parse import unquote

from flask import current_app, request
from flask_openapi3 import FileStorage
from pydantic import AfterValidator, BeforeValidator
from werkzeug.datastructures import FileStorage as WerkzeugFile

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.store import Desk
from lean_ledger.tasks import Readings

LONGEST_NAME = 60


#: A form's field that is text whatever stands in it: the framework takes “10” for a number.
Text = Annotated[str, BeforeValidator(lambda value: value if isinstance(value, str) else str(value))]


def _file(value: object) -> FileStorage:
    if not isinstance(value, WerkzeugFile):
        raise ValueError("a file is needed here, sent as a part of the form with a file name")
    return value  # type: ignore[return-value]  # the framework's own is for its schema only


#: A form's field that is a file; text in its place is refused.
Uploaded = Annotated[FileStorage, AfterValidator(_file)]


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
    found = re.fullmatch(r"([0-9]{1,9})(-[0-9a-f]+)?", text)
    if found is None:
        raise PlanError("if-match", "a write needs If-Match with the edition that it was made on, or the plan's ETag")
    return int(found[1])
