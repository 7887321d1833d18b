"""Which workers live, whatever they can write: each holds a lock of its own until its process ends."""

from __future__ import annotations

import fcntl
from pathlib import Path
from typing import IO

_folder: list[Path] = []  # where the locks of this service's workers are
_held: list[IO[str]] = []  # until this process ends


def locks_in(folder: Path) -> None:
    """Where the workers of the service have their locks."""
    _folder[:] = [folder]


def hold(owner: str) -> None:
    """This process is the worker `owner` from now on."""
    for folder in _folder:
        stream = (folder / f"worker-{owner}").open("w", encoding="utf-8")
        fcntl.flock(stream, fcntl.LOCK_EX)
        _held.append(stream)


def lives(owner: str) -> bool:
    """Whether the worker's process is there; False, too, where nobody says."""
    for folder in _folder:
        try:
            with (folder / f"worker-{owner}").open("r", encoding="utf-8") as stream:
                fcntl.flock(stream, fcntl.LOCK_SH | fcntl.LOCK_NB)
        except BlockingIOError:
            return True
        except OSError:
            return False
    return False
