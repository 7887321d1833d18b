"""Sheets as PDF and SVG: frame, title block, details. The same sheets give the same file, byte for byte."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace
from typing import BinaryIO

from reportlab.graphics import renderPDF, renderSVG
from reportlab.graphics.shapes import Drawing, Group, Line, Rect, String
from reportlab.pdfgen.canvas import Canvas

from handrail.core.drawing.scene import View
from handrail.core.drawing.sheets import BLOCK, HEAD, LINE, MARGIN, SMALL, Block, Sheet, Title
from handrail.core.errors import InputError
from handrail.interchange.drawings.paper import GREY, INK, MM, RED, Paper
from handrail.interchange.printed import emblem
from handrail.interchange.typeface import BOLD, FONT, IN_BROWSER, wide

EMBLEM = 9.0  # mm high
EMBLEM_AT = (MARGIN + 3) * MM, (MARGIN + BLOCK - 3) * MM
WIDE, ROUND = 160.0, 6.0  # mm that a view by itself is at most, points around it
FIRM, CELL = 0.26, 22.0  # of the sheet's width that the firm takes; mm of a cell


def write_pdf(sheets: Iterable[Sheet], title: Title, stream: BinaryIO) -> int:
    """A page a sheet, one after the other; how many. A bookmark leads to each detail."""
    canvas, number = Canvas(stream, invariant=1, pageCompression=1), 0
    canvas.setTitle(f"{title.job}: {title.of}")
    canvas.setCreator("Hand Rail")
    for sheet in sheets:
        number += 1
        canvas.setPageSize((sheet.format.width * MM, sheet.format.height * MM))
        for block in sheet.blocks:
            key = f"{sheet.number}.{block.name}"
            canvas.bookmarkPage(key)
            canvas.addOutlineEntry(block.name, key)
        renderPDF.draw(page(sheet, title), canvas, 0, 0)
        if title.emblem:
            emblem.draw(canvas, title.emblem, title.kind, *EMBLEM_AT, EMBLEM * MM)
        canvas.showPage()
    if not number:
        raise InputError("there is nothing to draw")
    canvas.save()
    return number


def write_svg(sheets: Iterable[Sheet], title: Title, stream: BinaryIO) -> int:
    """One sheet. Raises InputError where there are more: a PDF holds them."""
    every = list(_two_at_most(sheets))
    if len(every) != 1:
        what = "there is nothing to draw" if not every else "an SVG holds one sheet and these are more"
        raise InputError(f"{what}: choose fewer, larger paper, or write .pdf" if every else what)
    drawing = page(every[0], title)
    if title.emblem:
        drawing.add(emblem.shape(title.emblem, title.kind, *EMBLEM_AT, EMBLEM * MM))
    stream.write(_as_svg(drawing))
    return 1


def view_as_svg(view: View, bare: bool = False) -> bytes:
    """One view by itself, as it fills its picture; `bare` without what is written on it."""
    if bare:
        view = replace(view, dimensions=[], notes=[], clouds=[])
    x0, y0, x1, y1 = view.extent()
    scale = max((x1 - x0) / WIDE, (y1 - y0) / WIDE)
    made = Drawing((x1 - x0) / scale * MM + 2 * ROUND, (y1 - y0) / scale * MM + 2 * ROUND)
    made.add(Paper((-x0 / scale + ROUND / MM, -y0 / scale + ROUND / MM), scale).group(view))
    return _as_svg(made)


def _as_svg(drawing: Drawing) -> bytes:
    drawn = renderSVG.drawToString(drawing)
    for name, looks in ((BOLD, f"{IN_BROWSER}; font-weight: bold"), (FONT, IN_BROWSER)):
        drawn = drawn.replace(f"font-family: {name};", f"font-family: {looks};")  # a browser knows families
    return bytes(drawn.encode())


def _two_at_most(sheets: Iterable[Sheet]) -> Iterator[Sheet]:
    for number, sheet in enumerate(sheets):
        if number < 2:
            yield sheet
        else:
            return


def page(sheet: Sheet, title: Title) -> Drawing:
    """All of a sheet but the emblem, for which it leaves room."""
    form = sheet.format
    made = Drawing(form.width * MM, form.height * MM)
    frame = (MARGIN, MARGIN, form.width - 2 * MARGIN, form.height - 2 * MARGIN)
    made.add(Rect(*(v * MM for v in frame), fillColor=None, strokeColor=INK, strokeWidth=0.5 * MM))
    for part in _title(sheet, title):
        made.add(part)
    for block in sheet.blocks:
        made.add(_block(block))
    return made


def _block(block: Block) -> Group:
    made = Group()
    for placed in block.views:
        made.add(Paper(placed.at, placed.scale).group(placed.view))
        x, y = placed.under
        made.add(_text(x, y, placed.view.title, SMALL, "middle", GREY))
    for number, lettered in enumerate(block.lettered):
        x, y = lettered.at
        for line in lettered.lines:
            made.add(_text(x, y, line, lettered.letter, font=BOLD if number == 0 else FONT))
            y -= lettered.letter * LINE
    (x, y), name = block.lettered[0].at, block.lettered[0].lines[0]
    x += wide(name, HEAD, BOLD) + 4
    made.add(_text(x, y, f"scale {block.scale}", SMALL, colour=GREY))
    if block.warning:
        made.add(_text(x + wide(f"scale {block.scale}", SMALL) + 4, y, block.warning, HEAD, colour=RED, font=BOLD))
    return made


def _title(sheet: Sheet, title: Title) -> Iterator[object]:
    """Along the foot: the firm, the job and what this is, then cells; the sheet's number last."""
    form, top = sheet.format, MARGIN + BLOCK
    right, low = form.width - MARGIN, MARGIN
    yield _rule(MARGIN, top, right, top)
    cells = (*title.cells, ("sheet", str(sheet.number)))
    first = right - CELL * len(cells)
    firm = MARGIN + FIRM * (form.width - 2 * MARGIN)
    for x in (firm, *(first + CELL * k for k in range(len(cells)))):
        yield _rule(x, low, x, top)
    left = MARGIN + 3.0
    if title.emblem:
        left += emblem.size(title.emblem, title.kind, EMBLEM)[0] + 3.0
    for k, line in enumerate(title.firm[:5]):
        size = 3.2 if k == 0 else 2.2
        yield _text(
            left,
            top - 6 - (0 if k == 0 else 1.6 + 3.4 * k),
            _cut(line, firm - left - 2, size),
            size,
            font=BOLD if k == 0 else FONT,
        )
    yield _text(firm + 3, top - 7, _cut(title.job, first - firm - 6, 3.4), 3.4, font=BOLD)
    yield _text(firm + 3, top - 13, _cut(title.of, first - firm - 6, 2.6), 2.6)
    for k, (name, text) in enumerate(cells):
        x = first + CELL * k
        yield _text(x + 2, top - 4.5, name, 1.8, colour=GREY)
        for row, line in enumerate(_wrapped(text, CELL - 4, 2.4)[:4]):
            yield _text(x + 2, top - 10 - 3.6 * row, line, 2.4 if name != "sheet" else 4.0, font=BOLD)


def _wrapped(text: str, width: float, letter: float) -> list[str]:
    """In lines that are no longer than a width."""
    lines: list[str] = [""]
    for word in text.split():
        if lines[-1] and wide(f"{lines[-1]} {word}", letter, BOLD) > width:
            lines.append(word)
        else:
            lines[-1] = f"{lines[-1]} {word}".strip()
    return [_cut(line, width, letter) for line in lines]


def _cut(text: str, width: float, letter: float) -> str:
    """As much of a text as fits, with dots where there is more."""
    most = len(text)
    while most > 4 and wide(text[:most], letter, BOLD) > width:
        most -= 1
    return text if most == len(text) else f"{text[: most - 1]}…"


def _rule(x0: float, y0: float, x1: float, y1: float) -> Line:
    return Line(x0 * MM, y0 * MM, x1 * MM, y1 * MM, strokeColor=INK, strokeWidth=0.25 * MM)


def _text(
    x: float, y: float, text: str, letter: float, anchor: str = "start", colour: object = INK, font: str = FONT
) -> String:
    return String(x * MM, y * MM, text, fontName=font, fontSize=letter * MM, textAnchor=anchor, fillColor=colour)
