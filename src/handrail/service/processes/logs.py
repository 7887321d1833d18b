"""The log: one line an event, whatever characters a caller sent."""

from __future__ import annotations

import logging
import re
import sys

_CONTROL = re.compile(r"[\x00-\x08\x0b-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069]")


class OneLine(logging.Formatter):
    """Control characters written out, so that nothing in a log moves a cursor or hides a line."""

    def format(self, record: logging.LogRecord) -> str:
        return _CONTROL.sub(lambda m: f"\\x{ord(m[0]):02x}", super().format(record))


def begin_log() -> None:
    """Log to standard error."""
    handler = logging.StreamHandler(sys.stderr)
    handler.setFormatter(OneLine("%(asctime)s %(name)s %(levelname)s %(message)s"))
    logging.basicConfig(level=logging.INFO, handlers=[handler], force=True)
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    logging.getLogger("ezdxf").setLevel(logging.WARNING)
