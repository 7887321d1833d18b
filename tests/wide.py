"""What looks once more, or much more widely, at what other tests look at: `make test-all` runs it, `make test`
leaves it out."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import pytest

wide = pytest.mark.wide


def some(values: Iterable[Any], every: int) -> list[Any]:
    """`values` of a parametrized test: the first and each that is `every` further on always, the others widely."""
    return [
        one if k % every == 0 else pytest.param(*(one if isinstance(one, tuple) else (one,)), marks=wide)
        for k, one in enumerate(values)
    ]
