"""A drawing as a file of any kind."""

from __future__ import annotations

import io
from collections.abc import Iterable

from handrail.core.drawing.sheets import Detail, Title, packed, paper
from handrail.core.errors import InputError
from handrail.interchange.drawings.dxf import write_dxf
from handrail.interchange.drawings.pages import write_pdf, write_svg

KINDS = {"pdf": "application/pdf", "svg": "image/svg+xml", "dxf": "image/vnd.dxf"}


def as_file(details: Iterable[Detail], title: Title, kind: str, sheet: str, system: str) -> bytes:
    """Details on paper called `sheet` (ANSI-B, or A3 in mm, where none is said). Raises InputError."""
    form = paper(sheet or ("ANSI-B" if system == "us" else "A3"))
    sheets = packed(details, form, system)
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
