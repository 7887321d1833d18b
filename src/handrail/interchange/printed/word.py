"""Calculations for a word processor (DOCX): the same as on paper, with headings, tables, equations, pictures, and
contents that the word processor keeps."""

from __future__ import annotations

import io
import math
import zipfile
from collections.abc import Iterable, Sequence
from itertools import zip_longest
from typing import Any, BinaryIO

import pypdfium2
from docx import Document
from docx.enum.section import WD_ORIENT
from docx.enum.text import WD_ALIGN_PARAGRAPH, WD_BREAK
from docx.oxml import OxmlElement
from docx.oxml.ns import qn
from docx.shared import Mm, Pt, RGBColor
from reportlab.graphics import renderPDF
from reportlab.pdfgen.canvas import Canvas

from handrail.core.drawing.scene import Laid
from handrail.core.quantities.lines import Line
from handrail.interchange.printed import emblem
from handrail.interchange.printed.calculation import Calculation, Check, Cover, refuse_unknown, view_of
from handrail.interchange.printed.equations import equation, given
from handrail.interchange.printed.page import Head

DPI = 200
INK, FAINT = RGBColor(0x1E, 0x29, 0x26), RGBColor(0x5F, 0x6B, 0x66)
FAIL, PASS, BRASS = RGBColor(0x9B, 0x1C, 0x1C), RGBColor(0x23, 0x76, 0x5A), RGBColor(0x83, 0x5A, 0x0C)
MOST = 200  # calculations in one file: it is held whole
MARGIN = 18.0  # mm
PAPER = {"us": (215.9, 279.4), "si": (210.0, 297.0)}
FIXED = (1980, 1, 1, 0, 0, 0)
HIGH = 105.0  # mm that a view may take


def write_word(
    cover: Cover, each: Iterable[Calculation], head: Head, stream: BinaryIO, sections: Sequence[str], lines: str
) -> None:
    """The file; `sections` and `lines` as `write_calculations` takes them. Nothing of when it was made is in it.
    Raises InputError."""
    refuse_unknown(sections, lines)
    writing = _Writing(head, frozenset(sections), lines)
    writing.cover(cover)
    for own in each:
        writing.calculation(own)
    made = io.BytesIO()
    writing.document.save(made)
    _same(made, stream)


def _same(made: io.BytesIO, stream: BinaryIO) -> None:
    """The same package with no times of its parts."""
    with zipfile.ZipFile(made) as before, zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as after:
        for name in before.namelist():
            entry = zipfile.ZipInfo(name, FIXED)
            entry.compress_type = zipfile.ZIP_DEFLATED
            after.writestr(entry, before.read(name))


class _Writing:
    def __init__(self, head: Head, sections: frozenset[str], lines: str) -> None:
        self.head, self.sections, self.lines = head, sections, lines
        self.document = Document()
        self._styles()
        self._page()
        self.wide = PAPER[head.system][0] - 2 * MARGIN

    def _styles(self) -> None:
        styles = self.document.styles
        for name, size, bold in (
            ("Normal", 9, False),
            ("Title", 18, True),
            ("Heading 1", 15, True),
            ("Heading 2", 11, True),
        ):
            style = styles[name]
            style.font.name, style.font.size, style.font.bold = "Arial", Pt(size), bold
            style.font.color.rgb = INK
            style.element.get_or_add_rPr().get_or_add_rFonts().set(qn("w:eastAsia"), "Arial")
        styles["Normal"].paragraph_format.space_after = Pt(2)

    def _page(self) -> None:
        """Its size, what stands at its head and foot."""
        section, (wide, high) = self.document.sections[0], PAPER[self.head.system]
        section.orientation = WD_ORIENT.PORTRAIT
        section.page_width, section.page_height = Mm(wide), Mm(high)
        section.left_margin = section.right_margin = Mm(MARGIN)
        section.top_margin = section.bottom_margin = Mm(MARGIN + 4)
        top = section.header.paragraphs[0]
        if self.head.emblem:
            top.add_run().add_picture(io.BytesIO(_emblem(self.head)), height=Mm(8))
            top.add_run("  ")
        first, *more = self.head.firm or (self.head.job,)
        top.add_run(clean(first)).bold = True
        _small(top.add_run(clean(f"   {' · '.join(more)}   {self.head.job}: {self.head.of}")))
        foot = section.footer.paragraphs[0]
        _small(foot.add_run(f"{self.head.made_from}   page "))
        _field(foot, "PAGE")
        _small(foot.add_run(" of "))
        _field(foot, "NUMPAGES")

    def cover(self, cover: Cover) -> None:
        """The first pages."""
        add = self.document.add_paragraph
        for k, line in enumerate(self.head.firm):
            run = add().add_run(clean(line))
            run.bold, run.font.size = k == 0, Pt(13 if k == 0 else 9)
        self.document.add_paragraph(clean(self.head.job), style="Title")
        run = add().add_run(cover.of)
        run.font.size, run.font.color.rgb = Pt(12), BRASS
        for words in cover.warnings:
            self._loud(words)
        for words in cover.summary:
            add(clean(words))
        self._heading("What it rests on", 2)
        self._pairs(cover.rests)
        self._heading("Who answers for it", 2)
        self._pairs(cover.signed)
        if cover.combinations:
            self._heading("Combinations", 2)
            self._table(("name", "is"), cover.combinations)
        if len(cover.contents) > 1:
            add().add_run().add_break(WD_BREAK.PAGE)
            self._heading("Contents", 2)
            self._contents(cover.contents)

    def _contents(self, contents: Sequence[tuple[str, str, str]]) -> None:
        """A field that the word processor fills with pages; until then it says what follows."""
        first, *rest = contents
        paragraph = self.document.add_paragraph()
        _begin(paragraph, 'TOC \\o "1-1" \\h \\z')
        paragraph.add_run(clean("; ".join(first)))
        for one in rest:
            paragraph = self.document.add_paragraph(clean("; ".join(one)))
        _end(paragraph)
        update = OxmlElement("w:updateFields")
        update.set(qn("w:val"), "true")
        self.document.settings.element.append(update)

    def calculation(self, own: Calculation) -> None:
        """One of them, from a new page on."""
        heading = self._heading(own.name, 1)
        heading.paragraph_format.page_break_before = True
        if own.warning:
            self._loud(own.warning)
        self.document.add_paragraph().add_run(clean(own.verdict)).font.color.rgb = PASS if own.passes else FAIL
        self._pairs(own.about)
        self._views(own)
        if "places" in self.sections and len(own.places) > 1:
            self._heading("Places", 2)
            self._table(("connection", "place", "verdict", "utilisation", "by"), own.places)
        if "sizes" in self.sections:
            self._heading("Sizes and practice", 2)
            half = (len(own.sizes) + 1) // 2
            sides = zip_longest(own.sizes[:half], own.sizes[half:], fillvalue=("", "", ""))
            self._table(("size", "is", "from") * 2, [(*one, *other) for one, other in sides])
        for name, title, (head, rows) in (
            ("cases", "Actions by case, unfactored", own.cases),
            ("actions", "Actions by combination", own.actions),
        ):
            if name in self.sections:
                self._heading(title, 2)
                self._table(head, rows)
        self._checked(own)
        if "detailing" in self.sections and own.detailing:
            self._heading("Detailing", 2)
            self._table(("rule", "given", "limit", ""), own.detailing)
        if own.notes:
            self._heading("Notes", 2)
            for note in own.notes:
                self.document.add_paragraph(clean(note), style="List Bullet")
        if "decisions" in self.sections and own.decisions:
            self._heading("Decisions against the rules", 2)
            self._table(("connection", "what", "state", "by", "why"), own.decisions)

    def _views(self, own: Calculation) -> None:
        every = [*(own.views if "drawing" in self.sections else ())]
        every += [own.picture] if own.picture and "picture" in self.sections else []
        if every:
            paragraph = self.document.add_paragraph()
            for laid in every:
                picture, wide = _picture(laid, self.wide * (0.58 if len(every) > 1 else 1.0), self.head.system)
                paragraph.add_run().add_picture(picture, width=Mm(wide))
                paragraph.add_run(" ")

    def _checked(self, own: Calculation) -> None:
        if "checks" in self.sections:
            self._heading("Checks", 2)
            names = ("check", "clause", "in", "demand", "available", "used", "verdict")
            rows = [(c.name, c.clause, c.action, c.demand, c.available, f"{c.use:.2f}", c.verdict) for c in own.checks]
            table = self._table(names, rows)
            for row, check in zip(table.rows[1:], own.checks, strict=True):
                if check.use > own.target:
                    run = row.cells[5].paragraphs[0].runs[0]
                    run.bold, run.font.color.rgb = True, FAIL if check.use > 1 else BRASS
        of, against = own.combinations
        if "combinations" in self.sections and len(against) > 1:
            self._heading("Checks against combinations", 2)
            self._table(
                ("combination", *of),
                [(name, *("–" if math.isnan(use) else f"{use:.2f}" for use in uses)) for name, uses in against],
            )
        shown = [c for c in own.checks if c.lines][: 1 if self.lines == "governing" else None]
        if "lines" in self.sections and self.lines != "none" and shown:
            self._heading("Worked lines" if self.lines == "all" else "Worked lines of the check that governs", 2)
            for check in shown:
                self._lines(check)

    def _lines(self, check: Check) -> None:
        title = self.document.add_paragraph()
        title.add_run(f"{check.name} ({check.clause}) in {check.action}").bold = True
        for line in check.lines:
            self._line(line)
        self.document.add_paragraph(f"{check.demand} of {check.available}: {check.use:.2f}, {check.verdict}")

    def _line(self, line: Line) -> None:
        paragraph = self.document.add_paragraph()
        paragraph.paragraph_format.left_indent = Mm(4)
        paragraph._p.append(equation(line, self.head.system))
        went_in = given(line, self.head.system)
        if went_in is not None:
            _small(paragraph.add_run("   with "))
            paragraph._p.append(went_in)
        if line.clause:
            run = paragraph.add_run(f"   [{line.clause}]")
            run.font.color.rgb = BRASS

    def _heading(self, words: str, level: int) -> Any:
        return self.document.add_heading(clean(words), level)

    def _loud(self, words: str) -> None:
        run = self.document.add_paragraph().add_run(clean(words))
        run.bold, run.font.size, run.font.color.rgb = True, Pt(13), FAIL

    def _pairs(self, rows: Sequence[tuple[str, str]]) -> None:
        self._table((), rows)

    def _table(self, names: Sequence[str], rows: Sequence[Sequence[str]]) -> Any:
        """Rows under their names, which are said again on each page."""
        across = len(names) or len(rows[0]) if rows or names else 1
        table = self.document.add_table(rows=0, cols=across, style="Table Grid")
        if names:
            cells = table.add_row().cells
            for cell, name in zip(cells, names, strict=True):
                cell.text = ""
                _small(cell.paragraphs[0].add_run(name)).bold = True
            repeat = OxmlElement("w:tblHeader")
            repeat.set(qn("w:val"), "true")
            table.rows[0]._tr.get_or_add_trPr().append(repeat)
        for row in rows:
            for cell, text in zip(table.add_row().cells, row, strict=True):
                run = cell.paragraphs[0].add_run(clean(text))
                run.font.size = Pt(8)
                if _number(text):
                    cell.paragraphs[0].alignment = WD_ALIGN_PARAGRAPH.RIGHT
        self.document.add_paragraph().paragraph_format.space_after = Pt(0)
        return table


def clean(text: str) -> str:
    """Without the characters that its format has no place for."""
    return "".join(c for c in text if c.isprintable() or c in "\n\t")


def _number(text: str) -> bool:
    return text.replace(".", "", 1).replace("-", "", 1).isdigit()


def _small(run: Any) -> Any:
    run.font.size, run.font.color.rgb = Pt(7.5), FAINT
    return run


def _field(paragraph: Any, name: str) -> None:
    _begin(paragraph, name)
    _small(paragraph.add_run("1"))
    _end(paragraph)


def _begin(paragraph: Any, name: str) -> None:
    run = paragraph.add_run()
    for kind in ("begin", "", "separate"):
        if kind:
            part = OxmlElement("w:fldChar")
            part.set(qn("w:fldCharType"), kind)
        else:
            part = OxmlElement("w:instrText")
            part.set(qn("xml:space"), "preserve")
            part.text = f" {name} "
        run._r.append(part)


def _end(paragraph: Any) -> None:
    part = OxmlElement("w:fldChar")
    part.set(qn("w:fldCharType"), "end")
    paragraph.add_run()._r.append(part)


def _picture(laid: Laid, wide: float, system: str) -> tuple[io.BytesIO, float]:
    """A view as a PNG, and how wide it is, mm."""
    points = wide * 72 / 25.4
    drawing = view_of(laid, points, system, HIGH)
    page = io.BytesIO()
    canvas = Canvas(page, pagesize=(drawing.width, drawing.height), invariant=1)
    renderPDF.draw(drawing, canvas, 0, 0)
    canvas.save()
    return _raster(page.getvalue()), wide


def _raster(page: bytes) -> io.BytesIO:
    """The one page of a PDF as a PNG."""
    document = pypdfium2.PdfDocument(page)
    made = io.BytesIO()
    document[0].render(scale=DPI / 72).to_pil().convert("RGB").save(made, "PNG", dpi=(DPI, DPI))
    document.close()
    made.seek(0)
    return made


def _emblem(head: Head) -> bytes:
    """As a PNG, whichever it is."""
    if head.emblem_kind == "png":
        return head.emblem
    page = io.BytesIO()
    canvas = Canvas(page, pagesize=(160, 40), invariant=1)
    wide = emblem.draw(canvas, head.emblem, head.emblem_kind, 0, 40, 40)
    canvas.setPageSize((max(wide, 1.0), 40))
    canvas.save()
    return _raster(page.getvalue()).getvalue()
