"""Text files as lines: whatever their encoding and line ends, decoded once."""

from __future__ import annotations

import codecs
from pathlib import Path

MARKS = ((codecs.BOM_UTF8, "utf-8-sig"), (codecs.BOM_UTF16_LE, "utf-16"), (codecs.BOM_UTF16_BE, "utf-16"))
LOOKED_AT = 1 << 16
TEXTS = (".csv", ".txt", ".tsv", ".dat", ".out", ".lst", ".prn", ".asc", ".rpt", ".log")


def encoding_of(start: bytes, stated: str = "") -> str:
    """How a file that begins so is encoded: as its mark says, else as stated, else UTF-16 where every other byte is
    nothing, else UTF-8."""
    for mark, name in MARKS:
        if start.startswith(mark):
            return name
    if stated:
        return stated
    if len(start) > 3 and start[1::2].count(0) > 0.4 * len(start[1::2]):
        return "utf-16-le"
    if len(start) > 3 and start[::2].count(0) > 0.4 * len(start[::2]):
        return "utf-16-be"
    return "utf-8"


def is_plain(path: Path, stated: str = "") -> bool:
    """Whether a file is UTF-8 without a mark, with line ends that every reader knows."""
    with path.open("rb") as stream:
        start = stream.read(LOOKED_AT)
    return encoding_of(start, stated).lower() in ("utf-8", "utf8") and (b"\n" in start or b"\r" not in start)


def start_of(path: Path, most: int | None) -> bytes:
    """A file's bytes; where it has more than `most`, its first whole lines within these."""
    if most is None or path.stat().st_size <= most:
        return path.read_bytes()
    with path.open("rb") as stream:
        raw = stream.read(most)
    return raw[: raw.rfind(b"\n") + 1]


def text_of(path: Path, stated: str = "", most: int | None = None) -> str:
    """A file's text (the first `most` bytes of it) with line ends `\\n`. Raises UnicodeError, LookupError where it is
    otherwise encoded than stated."""
    with path.open("rb") as stream:
        raw = stream.read() if most is None else stream.read(most)
    name = encoding_of(raw[:LOOKED_AT], stated)
    text = codecs.getincrementaldecoder(name)().decode(raw, most is None)
    return text.replace("\r\n", "\n").replace("\r", "\n").replace("\f", " ")
