"""Work of many like pieces over two cores and more, in processes of their own that end with the one that asked."""

from __future__ import annotations

import multiprocessing
import os
import signal
import threading
import time
from collections import deque
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from typing import TypeVar

PAUSE = 0.2  # seconds between two looks whether the one that asked is there
AHEAD = 8  # pieces a core that are done before somebody takes them
FEW = 24  # pieces that are done sooner than a process starts

T = TypeVar("T")
R = TypeVar("R")


def in_order(work: Callable[[T], R], pieces: Sequence[T], cores: int) -> Iterator[R]:
    """What `work`, a function of a module, makes of each piece, in their order; no more of it is held than AHEAD a
    core. Processes are begun afresh: what libraries keep of threads is not copied into them."""
    if cores < 2 or len(pieces) < FEW:
        yield from map(work, pieces)
        return
    context = multiprocessing.get_context("spawn")
    with ProcessPoolExecutor(cores, context, end_with, (os.getpid(),)) as pool:
        waiting: deque[Future[R]] = deque()
        try:
            for piece in pieces:
                waiting.append(pool.submit(work, piece))
                if len(waiting) > AHEAD * cores:
                    yield waiting.popleft().result()
            while waiting:
                yield waiting.popleft().result()
        finally:
            pool.shutdown(wait=False, cancel_futures=True)


def end_with(parent: int) -> None:
    """This process ends with its parent, however that goes, and not by what is typed where that one runs."""
    threading.Thread(target=_watch, args=(parent,), daemon=True).start()
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    signal.signal(signal.SIGINT, signal.SIG_IGN)


def _watch(parent: int) -> None:
    while os.getppid() == parent:
        time.sleep(PAUSE)
    os._exit(3)
