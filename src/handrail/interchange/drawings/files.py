"""A drawing as a file of any kind."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence

from handrail.core.checking.details import Subject, on_paper
from handrail.core.drawing.sheets import Fitted, Title, packed, paper
from handrail.core.errors import InputError
from handrail.core.progress import Progress, quiet
from handrail.interchange.drawings.dxf import write_dxf
from handrail.interchange.drawings.pages import write_pdf, write_svg

KINDS = {"pdf": "application/pdf", "svg": "image/svg+xml", "dxf": "image/vnd.dxf"}


def as_file(
    subjects: Sequence[Subject],
    title: Title,
    kind: str,
    sheet: str,
    system: str,
    cores: int = 1,
    progress: Progress = quiet,
) -> bytes:
    """A detail of each on paper called `sheet` (ANSI-B, or A3 in mm, where none is said), over as many `cores`. Raises
    InputError."""
    form = paper(sheet or ("ANSI-B" if system == "us" else "A3"))
    sheets = packed(_told(on_paper(subjects, form, system, cores), len(subjects), progress), form, system)
    if kind == "dxf":
        text = io.StringIO()
        write_dxf(sheets, title, system, text)
        return text.getvalue().encode()
    stream = io.BytesIO()
    if kind == "pdf":
        write_pdf(sheets, title, stream)
    elif kind == "svg":
        write_svg(sheets, title, stream)
    else:
        raise InputError(f"a drawing is written as .{', .'.join(KINDS)}, not '{kind}'")
    return stream.getvalue()


def _told(fits: Iterator[Fitted], total: int, progress: Progress) -> Iterator[Fitted]:
    """What is done is told as it comes."""
    for number, fit in enumerate(fits):
        progress(number, total)
        yield fit
