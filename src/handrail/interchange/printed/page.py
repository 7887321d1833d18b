"""Pages of text, tables and pictures: a head with the firm and the job, a foot with page x of y, styles. The same input
gives the same file, byte for byte."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any, BinaryIO
from xml.sax.saxutils import escape

from reportlab.lib.colors import Color, HexColor
from reportlab.lib.enums import TA_RIGHT
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfbase.pdfdoc import PDFName, PDFStream, PDFZCompress
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import BaseDocTemplate, Flowable, Frame, PageTemplate, Paragraph, Table

from handrail.interchange.printed import emblem
from handrail.interchange.typeface import BOLD, FONT

INK, FAINT, LINE, BRASS = HexColor("#1e2926"), HexColor("#5f6b66"), HexColor("#d5d2c6"), HexColor("#835a0c")
FAIL, PASS = HexColor("#9b1c1c"), HexColor("#23765a")
HEAT = [HexColor(c) for c in ("#2e6f95", "#4a9c8c", "#9bb55a", "#d9a441", "#c4622d", "#9b1c1c")]
STEPS = (0.25, 0.5, 0.7, 0.9, 1.0)  # of a utilisation, where its colour changes
MARGIN, HEAD, FOOT, EMBLEM = 40.0, 30.0, 24.0, 20.0  # points
BODY = ParagraphStyle("body", fontName=FONT, fontSize=8.5, leading=11.5, textColor=INK)
SMALL = ParagraphStyle("small", BODY, fontSize=7, leading=9, textColor=FAINT)
CELL = ParagraphStyle("cell", BODY, fontSize=7.5, leading=9.5)
NUMBER = ParagraphStyle("number", CELL, alignment=TA_RIGHT)
NAME = ParagraphStyle("name", CELL, textColor=FAINT)
NAMED = ParagraphStyle("named", NAME, alignment=TA_RIGHT)
TITLE = ParagraphStyle("title", BODY, fontName=BOLD, fontSize=15, leading=19, spaceAfter=2)
H2 = ParagraphStyle("h2", BODY, fontName=BOLD, fontSize=10, leading=13, spaceBefore=9, spaceAfter=3)


SIDES = 2.0 + 4.0  # points beside a cell
_LOOK: list[tuple[Any, ...]] = [
    ("VALIGN", (0, 0), (-1, -1), "TOP"),
    ("FONT", (0, 0), (-1, -1), FONT, CELL.fontSize, CELL.leading),
    ("TEXTCOLOR", (0, 0), (-1, -1), INK),
    ("LINEBELOW", (0, 0), (-1, -1), 0.25, LINE),
    ("LEFTPADDING", (0, 0), (-1, -1), 2),
    ("RIGHTPADDING", (0, 0), (-1, -1), 4),
    ("TOPPADDING", (0, 0), (-1, -1), 1.2),
    ("BOTTOMPADDING", (0, 0), (-1, -1), 1.8),
]


@dataclass(frozen=True)
class Head:
    """What stands on every page: the firm's own lines, the job, what this is, and what it was made from."""

    firm: tuple[str, ...]
    job: str
    of: str
    made_from: str
    system: str = "us"
    emblem: bytes = b""
    emblem_kind: str = ""  # png or svg

    @property
    def size(self) -> tuple[float, float]:
        """Of the paper, points: Letter, or A4 in mm."""
        wide, high = LETTER if self.system == "us" else A4
        return float(wide), float(high)

    @property
    def room(self) -> tuple[float, float]:
        """Between the margins, the head and the foot, points."""
        wide, high = self.size
        return wide - 2 * MARGIN, high - 2 * MARGIN - HEAD - FOOT


def heat(share: float) -> Color:
    """The colour of a utilisation."""
    return HEAT[sum(share > step for step in STEPS)]


def said(text: str, style: ParagraphStyle = BODY) -> Paragraph:
    """A text as it is: nothing in it is markup."""
    return Paragraph(escape(text), style)


def table(
    names: Sequence[str],
    rows: Sequence[Sequence[str | Flowable]],
    widths: Sequence[float],
    numbers: frozenset[int] = frozenset(),
) -> Table:
    """Rows under names that are said again on each page; columns of `numbers` stand to the right."""

    head = [said(name, NAMED if k in numbers else NAME) for k, name in enumerate(names)]
    body = [[_cell(text, NUMBER if k in numbers else CELL, widths[k]) for k, text in enumerate(row)] for row in rows]
    style = [*_LOOK, ("LINEBELOW", (0, 0), (-1, 0), 0.7, INK), *(("ALIGN", (k, 1), (k, -1), "RIGHT") for k in numbers)]
    return Table([head, *body], colWidths=list(widths), repeatRows=1, style=style, hAlign="LEFT")


def _cell(text: str | Flowable, style: ParagraphStyle, wide: float) -> str | Flowable:
    """A text that has room on one line as it is: a table draws that at once."""
    if not isinstance(text, str):
        return text
    one_line = "\n" not in text and stringWidth(text, style.fontName, style.fontSize) <= wide - SIDES
    return text.strip() if one_line else said(text, style)


def pairs(rows: Sequence[Sequence[str]], widths: Sequence[float]) -> Table:
    """Names and what they are."""
    body = [[said(name, NAME), _cell(text, CELL, widths[1])] for name, text in rows]
    return Table(body, colWidths=list(widths), style=_LOOK, hAlign="LEFT")


def beside(*columns: tuple[Sequence[Flowable], float]) -> Table:
    """Columns of what is printed, each with its width, points."""
    style = [
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("LEFTPADDING", (0, 0), (-1, -1), 0),
        ("TOPPADDING", (0, 0), (-1, -1), 0),
    ]
    return Table([[list(of) for of, _ in columns]], colWidths=[wide for _, wide in columns], style=style, hAlign="LEFT")


class Story(list[Flowable]):
    """What is printed, made as it is wanted: no more than a little of it is there at once."""

    AHEAD = 40

    def __init__(self, made: Iterator[Flowable]) -> None:
        super().__init__()
        self._made = made

    def __len__(self) -> int:
        while super().__len__() < self.AHEAD and (one := next(self._made, None)) is not None:
            self.append(one)
        return super().__len__()


def write(story: list[Flowable], head: Head, stream: BinaryIO) -> None:
    """All of it, page after page; how many there are is said on each."""
    wide, high = head.size
    frame = Frame(
        MARGIN, MARGIN + FOOT, wide - 2 * MARGIN, high - 2 * MARGIN - HEAD - FOOT,
        leftPadding=0, rightPadding=0, topPadding=0, bottomPadding=0,
    )  # fmt: skip

    def around(canvas: Canvas, doc: BaseDocTemplate) -> None:
        _around(canvas, head, doc.page)

    doc = BaseDocTemplate(
        stream, pagesize=head.size, title=f"{head.job}: {head.of}", creator="Hand Rail", invariant=1, pageCompression=1
    )
    doc.addPageTemplates([PageTemplate("all", [frame], onPage=around)])
    doc.build(story, canvasmaker=_Counted)


class _Counted(Canvas):  # type: ignore[misc]
    """Says at the end how many pages there are, where every page asks for it; and on which page something stands."""

    def __init__(self, *args: Any, **more: Any) -> None:
        super().__init__(*args, **more)
        self.numbered: dict[str, int] = {}

    def showPage(self) -> None:
        """Whoever has thousands of pages keeps them packed."""
        super().showPage()
        page = self._doc.Pages.pages[-1]
        packed = PDFStream(content=PDFZCompress.encode(page.stream))
        packed.dictionary["Filter"] = PDFName(PDFZCompress.pdfname)
        page.Contents, page.stream = packed, None

    def save(self) -> None:
        self._form("pages", f"of {self._pageNumber - 1}")
        for name, page in self.numbered.items():
            self._form(name, f"{page}")
        super().save()

    def _form(self, name: str, words: str) -> None:
        self.beginForm(name)
        self.setFont(FONT, 7)
        self.setFillColor(FAINT)
        self.drawString(0, 0, words)
        self.endForm()


def _around(canvas: Canvas, head: Head, page: int) -> None:
    right, top = head.size[0] - MARGIN, head.size[1] - MARGIN
    canvas.saveState()
    wide = emblem.draw(canvas, head.emblem, head.emblem_kind, MARGIN, top, EMBLEM) if head.emblem else 0.0
    left = MARGIN + (wide + 6.0 if wide else 0.0)
    canvas.setFillColor(INK)
    canvas.setFont(BOLD, 8.5)
    canvas.drawString(left, top - 8, head.firm[0] if head.firm else head.job)
    canvas.setFont(FONT, 7)
    canvas.setFillColor(FAINT)
    canvas.drawString(left, top - 18, " · ".join(head.firm[1:]) if head.firm else head.of)
    canvas.drawRightString(right, top - 8, head.job if head.firm else "")
    canvas.drawRightString(right, top - 18, head.of if head.firm else "")
    canvas.setStrokeColor(INK)
    canvas.setLineWidth(0.7)
    canvas.line(MARGIN, top - 23, right, top - 23)
    canvas.setStrokeColor(LINE)
    canvas.line(MARGIN, MARGIN + 12, right, MARGIN + 12)
    canvas.drawString(MARGIN, MARGIN, head.made_from)
    canvas.drawRightString(right - 26, MARGIN, f"page {page}")
    canvas.translate(right - 24, MARGIN)
    canvas.doForm("pages")
    canvas.restoreState()
