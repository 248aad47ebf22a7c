"""The command line called in the process of the tests: what it says and how it ends, without a start of its own."""

from __future__ import annotations

import io
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout
from unittest.mock import patch

from lean_ledger.cli import main


def called(*args: str) -> subprocess.CompletedProcess[str]:
    """As if `lean-ledger` were run with these words."""
    out, err, code = io.StringIO(), io.StringIO(), 0
    with patch.object(sys, "argv", ["lean-ledger", *args]), redirect_stdout(out), redirect_stderr(err):
        try:
            main()
        except SystemExit as end:
            code = end.code if isinstance(end.code, int) else 1 if end.code else 0
    return subprocess.CompletedProcess(args, code, out.getvalue(), err.getvalue())
