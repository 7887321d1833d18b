"""Large files of rows, a block of whole lines at a time, parsed ahead of who uses them."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path
from typing import TypeVar

import polars as pl

T = TypeVar("T")
BLOCK = 8 * 1024**2  # bytes read at a time
NEAR = 1 << 14  # bytes in which a line's end is looked for
AHEAD = 2  # blocks that are parsed meanwhile
SAMPLE = 1 << 18  # bytes by which the rows of a file are guessed


def parsed_blocks(path: Path, parse: Callable[[bytes], T], start: int = -1) -> Iterator[T]:
    """Each block of a file, read and parsed ahead: from byte `start`, or behind its first line."""
    with ThreadPoolExecutor(AHEAD) as pool:
        coming: deque[Future[T]] = deque()
        for begin, end in spans(path, start):
            coming.append(pool.submit(lambda a, b: parse(_read(path, a, b)), begin, end))
            if len(coming) > AHEAD:
                yield coming.popleft().result()
        while coming:
            yield coming.popleft().result()


def blocks(path: Path, start: int = -1) -> Iterator[bytes]:
    """The file from byte `start`, or behind its first line, in blocks of whole lines."""
    for begin, end in spans(path, start):
        yield _read(path, begin, end)


def spans(path: Path, start: int = -1) -> Iterator[tuple[int, int]]:
    """Where each block begins and ends; what is blank at the foot is none."""
    with path.open("rb") as stream:
        begin = len(stream.readline()) if start < 0 else start
        size = stream.seek(0, 2)
        while begin < size:
            end = begin + BLOCK
            while end < size:  # on to the end of the line
                stream.seek(end)
                if (cut := stream.read(NEAR).find(b"\n")) >= 0:
                    end += cut + 1
                    break
                end += NEAR
                if end - begin > 2 * BLOCK:
                    raise pl.exceptions.ComputeError(f"a line of more than {BLOCK / 1e6:.0f} MB")
            end = min(end, size)
            stream.seek(begin)
            if end < size or stream.read(end - begin).strip():
                yield begin, end
            begin = end


def _read(path: Path, begin: int, end: int) -> bytes:
    with path.open("rb") as stream:
        stream.seek(begin)
        return stream.read(end - begin)


def about_rows(path: Path) -> int:
    """About how many rows a file has, by the lines at its start."""
    with path.open("rb") as stream:
        start = stream.read(SAMPLE)
    return max(path.stat().st_size * start.count(b"\n") // max(len(start), 1), 1)
