"""Where the processes of one service count together what `/metrics` tells."""

from __future__ import annotations

import contextlib
import os
import shutil
import tempfile
from pathlib import Path

FOLDER = "PROMETHEUS_MULTIPROC_DIR"  # names the folder to the library that counts, as it is imported
SAID = "counters"  # names the folder to a later service
MEMORY = Path("/dev/shm")  # of Linux: a folder in memory


def count_together(scratch: Path) -> Path:
    """A folder where the processes that are started after this count together; one of an earlier service that was
    killed goes.

    In memory where the system has such a folder: the counters are mapped files, and one that grows on a full disk kills
    its process."""
    said = scratch / SAID
    with contextlib.suppress(OSError):
        left = Path(said.read_text(encoding="utf-8"))
        if left.parent == MEMORY and left.name.startswith("handrail-") and left.stat().st_uid == os.getuid():
            shutil.rmtree(left, ignore_errors=True)
    folder = Path(tempfile.mkdtemp(prefix="handrail-", dir=MEMORY if os.access(MEMORY, os.W_OK) else scratch))
    with contextlib.suppress(OSError):
        said.write_text(str(folder), encoding="utf-8")
    os.environ[FOLDER] = str(folder)
    return folder
