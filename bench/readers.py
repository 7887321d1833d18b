"""Readers at a running service: how many answers a second each address gives to several callers at once."""

from __future__ import annotations

import http.client
import itertools
import sys
import threading
import time


def rate(port: int, token: str, paths: list[str], callers: int, seconds: float) -> float:
    """Answers a second over `callers` kept connections that go round `paths`. Raises AssertionError for an answer that
    is no 200."""
    done, wrong = [0] * callers, []
    until = time.perf_counter() + seconds

    def call(number: int) -> None:
        wire = http.client.HTTPConnection("127.0.0.1", port)
        for path in itertools.islice(itertools.cycle(paths), number * 7, None):
            wire.request("GET", path, headers={"Authorization": f"Bearer {token}"})
            answer = wire.getresponse()
            answer.read()
            if answer.status != 200:
                wrong.append((path, answer.status))
                return
            done[number] += 1
            if time.perf_counter() > until:
                return

    begun = time.perf_counter()
    threads = [threading.Thread(target=call, args=(k,)) for k in range(callers)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert not wrong, wrong[:3]
    return sum(done) / (time.perf_counter() - begun)


if __name__ == "__main__":
    port, token, callers, seconds, *paths = sys.argv[1:]
    print(rate(int(port), token, paths, int(callers), float(seconds)))
