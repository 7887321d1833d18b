"""Large files of rows, a block of whole lines at a time, parsed ahead of who uses them."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path
from typing import TypeVar

import polars as pl

T = TypeVar("T")
BLOCK = 12 * 1024**2  # bytes read at a time
AHEAD = 2  # blocks that are parsed meanwhile
SAMPLE = 1 << 18  # bytes by which the rows of a file are guessed


def parsed_blocks(path: Path, parse: Callable[[bytes], T], start: int = -1) -> Iterator[T]:
    """Each block of a file, parsed: from byte `start`, or behind its first line."""
    with ThreadPoolExecutor(AHEAD) as pool:
        coming: deque[Future[T]] = deque()
        for block in blocks(path, start):
            coming.append(pool.submit(parse, block))
            if len(coming) > AHEAD:
                yield coming.popleft().result()
        while coming:
            yield coming.popleft().result()


def blocks(path: Path, start: int = -1) -> Iterator[bytes]:
    """The file from byte `start`, or behind its first line, in blocks of whole lines."""
    with path.open("rb") as stream:
        if start < 0:
            stream.readline()
        else:
            stream.seek(start)
        left = b""
        while block := stream.read(BLOCK):
            cut = block.rfind(b"\n") + 1
            if cut:
                yield left + block[:cut]
                left = block[cut:]
            elif left:
                raise pl.exceptions.ComputeError(f"a line of more than {BLOCK / 1e6:.0f} MB")
            else:
                left = block
        if left.strip():
            yield left


def about_rows(path: Path) -> int:
    """About how many rows a file has, by the lines at its start."""
    with path.open("rb") as stream:
        start = stream.read(SAMPLE)
    return max(path.stat().st_size * start.count(b"\n") // max(len(start), 1), 1)
