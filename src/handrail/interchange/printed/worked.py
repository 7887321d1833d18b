"""Worked lines on paper: many of them, so each is broken and drawn at once, without the markup of a paragraph."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import lru_cache
from itertools import groupby

from reportlab.lib.colors import Color
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.textobject import PDFTextObject
from reportlab.platypus import Flowable

from handrail.interchange.printed.mathematics import Run
from handrail.interchange.printed.page import BRASS, FAINT, INK
from handrail.interchange.typeface import BOLD, FONT

SIZE, LEADING, INDENT, AFTER = 8.0, 11.5, 8.0, 12.0  # points; AFTER more where a line goes on
SMALL = 0.68  # of what stands below or above
LOOKS: dict[str, tuple[str, float, float, Color]] = {  # font, size, rise, colour
    "plain": (FONT, SIZE, 0.0, INK),
    "below": (FONT, SIZE * SMALL, -1.6, INK),
    "above": (FONT, SIZE * SMALL, 2.8, INK),
    "result": (BOLD, SIZE, 0.0, INK),
    "given": (FONT, SIZE, 0.0, FAINT),
    "given below": (FONT, SIZE * SMALL, -1.6, FAINT),
    "clause": (FONT, SIZE, 0.0, BRASS),
    "title": (BOLD, SIZE + 0.5, 0.0, INK),
}
Words = list[Run]  # what stands together, with the blank before it


@lru_cache(maxsize=1 << 15)
def wide_of(run: Run) -> float:
    """Points that letters take."""
    font, size, _, _ = LOOKS[run.look]
    return float(stringWidth(run.text, font, size))


class Worked(Flowable):  # type: ignore[misc]
    """Lines one under the other; the first two of a whole stay together."""

    def __init__(self, lines: Sequence[Sequence[Run]], whole: bool = True) -> None:
        super().__init__()
        self.lines, self.whole = lines, whole
        self._broken: tuple[float, list[list[list[Run]]]] = (-1.0, [])

    def wrap(self, wide: float, high: float) -> tuple[float, float]:
        """What it takes of a page that is so wide."""
        if self._broken[0] != wide:
            self._broken = wide, [list(broken(line, wide)) for line in self.lines]
        self.width, self.height = wide, LEADING * sum(map(len, self._broken[1]))
        return self.width, self.height

    def split(self, wide: float, high: float) -> list[Flowable]:
        """As many whole lines as the rest of the page takes, and the others."""
        self.wrap(wide, high)
        taken, left = 0, high
        for rows in self._broken[1]:
            left -= LEADING * len(rows)
            if left < 0:
                break
            taken += 1
        if taken < (2 if self.whole else 1) or taken == len(self.lines):
            return []
        return [Worked(self.lines[:taken], self.whole), Worked(self.lines[taken:], False)]

    def draw(self) -> None:
        """From its top on."""
        text = self.canv.beginText()
        y = self.height
        for rows in self._broken[1]:
            for k, row in enumerate(rows):
                y -= LEADING
                text.setTextOrigin(0 if row[0].look == "title" else INDENT + (AFTER if k else 0), y + 2.5)
                for look, runs in groupby(row, key=lambda run: run.look):
                    _put(text, look, "".join(run.text for run in runs))
        self.canv.drawText(text)


def _put(text: PDFTextObject, look: str, words: str) -> None:
    font, size, rise, colour = LOOKS[look]
    text.setFont(font, size)
    text.setRise(rise)
    text.setFillColor(colour)
    text.textOut(words)


def broken(line: Sequence[Run], wide: float) -> Iterator[list[Run]]:
    """A line broken at its blanks; what has none is broken nowhere."""
    row: list[Run] = []
    left = wide - INDENT
    for words in _together(line):
        own = sum(map(wide_of, words))
        if row and own > left:
            yield row
            row, left = [], wide - INDENT - AFTER
            words = [words[0]._replace(text=words[0].text.lstrip()), *words[1:]]
        row += words
        left -= own
    if row:
        yield row


def _together(line: Sequence[Run]) -> Iterator[Words]:
    """A symbol with what stands below it, and the words of a text one by one: each with the blank before it."""
    words: Words = []
    for run in line:
        for part in _parts(run.text):
            if part[0] == " " and words:
                yield words
                words = []
            words.append(Run(part, run.look))
    if words:
        yield words


@lru_cache(maxsize=1 << 13)
def _parts(text: str) -> tuple[str, ...]:
    """A text cut before each blank that a word follows."""
    parts: list[str] = []
    for word in text.split(" "):
        parts.append(word if not parts else f" {word}")
    return tuple(part for part in parts if part)
