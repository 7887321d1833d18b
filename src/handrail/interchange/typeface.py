"""The letters of what is printed: kept in the file itself, so that names in any of its scripts read the same anywhere.
DejaVu Sans Condensed (Latin, Greek, Cyrillic, mathematics); its licence lies beside it."""

from __future__ import annotations

from pathlib import Path

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

FONT, BOLD = "DejaVuSansCondensed", "DejaVuSansCondensed-Bold"
IN_BROWSER = "'DejaVu Sans Condensed', 'Arial Narrow', Arial, sans-serif"  # what stands in for it
_FOLDER = Path(__file__).parent / "fonts"

for _name in (FONT, BOLD):
    pdfmetrics.registerFont(TTFont(_name, _FOLDER / f"{_name}.ttf"))


def wide(text: str, letter: float, font: str = FONT) -> float:
    """How long a text is, in the unit of its letters' size."""
    return float(pdfmetrics.stringWidth(text, font, letter))
