"""A command as it is typed, in the test's own process: starting another for each takes longer than what they do."""

from __future__ import annotations

import io
import os
import subprocess
import sys
from collections.abc import Mapping
from contextlib import redirect_stderr, redirect_stdout
from unittest import mock

from handrail.cli.main import main


def typed(
    *words: str, text: str = "", environment: Mapping[str, str] | None = None
) -> subprocess.CompletedProcess[str]:
    """What `handrail WORDS` gives and says, with `text` on its standard input."""
    out, err = (io.TextIOWrapper(io.BytesIO(), encoding="utf-8", write_through=True) for _ in range(2))
    given = io.TextIOWrapper(io.BytesIO(text.encode("utf-8")), encoding="utf-8")
    with (
        redirect_stdout(out),
        redirect_stderr(err),
        mock.patch.object(sys, "stdin", given),
        mock.patch.dict(os.environ, environment or {}),
    ):
        try:
            code = main(list(words))
        except SystemExit as exc:
            code = exc.code if isinstance(exc.code, int) else 1
    said = [stream.buffer.getvalue().decode("utf-8") for stream in (out, err)]  # type: ignore[attr-defined]
    return subprocess.CompletedProcess(words, code, *said)
