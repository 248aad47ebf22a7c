"""The examples in docstrings are true."""

from __future__ import annotations

import doctest
import importlib
from pathlib import Path

import lean_ledger

SOURCE = Path(lean_ledger.__path__[0]).parent


def test_examples_of_all_modules() -> None:
    tried = 0
    for path in sorted(SOURCE.rglob("*.py")):
        if ">>>" in path.read_text(encoding="utf-8"):  # looking through all the others takes a minute
            name = ".".join(path.relative_to(SOURCE).with_suffix("").parts).removesuffix(".__init__")
            result = doctest.testmod(importlib.import_module(name))
            assert result.failed == 0, name
            tried += result.attempted
    assert tried >= 10, "the examples were not found"
