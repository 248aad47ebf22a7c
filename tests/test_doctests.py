"""The examples in docstrings are true."""

from __future__ import annotations

import doctest
import importlib
import pkgutil

import lean_ledger

WITHOUT = ("lean_ledger.store.migrations", "lean_ledger.cli")


def test_examples_of_all_modules() -> None:
    tried = 0
    for module in pkgutil.walk_packages(lean_ledger.__path__, "lean_ledger."):
        if module.name.startswith(WITHOUT):
            continue
        result = doctest.testmod(importlib.import_module(module.name))
        assert result.failed == 0, module.name
        tried += result.attempted
    assert tried >= 10, "the examples were not found"
