"""Addresses whose description is put together when somebody asks for it: it is most of what they take to load."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from threading import Lock
from typing import Any

from flask_openapi3 import APIBlueprint, OpenAPI
from flask_openapi3.utils import parse_parameters

Describe = Callable[[], Any]


class Described(APIBlueprint):
    """A blueprint that keeps what is to be said of its addresses for later."""

    def __init__(self, *args: Any, **values: Any) -> None:
        super().__init__(*args, **values)
        self._undescribed: list[Describe] = []

    def _collect_openapi_info(self, rule: str, func: Callable[..., Any], **said: Any) -> Any:
        self._undescribed.append(partial(super()._collect_openapi_info, rule, func, **said))
        return parse_parameters(func, doc_ui=False)

    def describe(self) -> None:
        """Put together what has not been yet."""
        while self._undescribed:
            self._undescribed.pop(0)()


_one_by_one = Lock()


def described(app: OpenAPI, blueprints: tuple[Described, ...]) -> Any:
    """The document of an application that answers to nothing itself, with these at its addresses."""
    with _one_by_one:  # whoever else asks for it first waits until all is put together
        for one in blueprints:
            one.describe()
            app.register_api(one)
    return app.api_doc
