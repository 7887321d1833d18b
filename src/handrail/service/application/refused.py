"""What is not done, and why: what the API answers is made of it."""

from __future__ import annotations

from typing import Any

from handrail.core.errors import InputError


class Refused(Exception):
    """An answer other than success: status, a title, and what to do."""

    def __init__(self, status: int, detail: str, **more: Any) -> None:
        super().__init__(detail)
        self.status, self.detail, self.more = status, detail, more


def told(exc: Exception, system: str) -> str:
    """Why something was not done, in the units of `system`."""
    return exc.said(system) if isinstance(exc, InputError) else str(exc)
