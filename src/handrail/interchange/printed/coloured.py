"""The building as a picture, its members coloured by how far their ends are used; PNG and SVG."""

from __future__ import annotations

import io

import numpy as np
import pypdfium2
from reportlab.graphics import renderPDF, renderSVG
from reportlab.graphics.shapes import Circle, Drawing, Group, String
from reportlab.pdfgen.canvas import Canvas

from handrail.core.building.model import Building
from handrail.interchange.printed.page import FAINT, HEAT, INK
from handrail.interchange.printed.survey import flat, picture, scale
from handrail.interchange.typeface import BOLD, FONT

WIDE, HIGH = 960.0, 640.0  # points
SHARP = 2.0  # pixels a point


def coloured(building: Building, shares: np.ndarray, title: str, kind: str) -> bytes | str:
    """The picture with its title and its scale: `shares` (members, 2), NaN where nothing is known."""
    made = Drawing(WIDE, HIGH)
    drawn = picture(building, shares, WIDE - 40, HIGH - 90)
    drawn.translate(20, 36)
    made.add(_group(drawn))
    legend = scale(WIDE - 40, "of the connection at the end that is used most; pale: not judged")
    legend.translate(20, 10)
    made.add(_group(legend))
    made.add(String(20, HIGH - 28, title, fontName=BOLD, fontSize=13, fillColor=INK))
    counted = int((~np.isnan(shares)).sum())
    words = f"{counted} ends judged, {int((shares > 1).sum())} over 1.0"
    made.add(String(20, HIGH - 44, words, fontName=FONT, fontSize=9, fillColor=FAINT))
    if kind == "svg":
        return str(renderSVG.drawToString(made))
    return _png(made)


def _png(made: Drawing) -> bytes:
    page = io.BytesIO()
    canvas = Canvas(page, pagesize=(WIDE, HIGH), invariant=1)
    renderPDF.draw(made, canvas, 0, 0)
    canvas.save()
    document = pypdfium2.PdfDocument(page.getvalue())
    image = io.BytesIO()
    document[0].render(scale=SHARP).to_pil().convert("RGB").save(image, "PNG")
    document.close()
    return image.getvalue()


def _group(drawing: Drawing) -> object:
    """What is in a drawing, where it was moved to."""
    return Group(*drawing.contents, transform=drawing.transform)


def pointed_at(building: Building, members: set[int], nodes: set[int], title: str, words: str) -> bytes:
    """The building with some of its members and nodes red, as PNG."""
    made = Drawing(WIDE, HIGH)
    shares = np.full((len(building.members), 2), np.nan)
    shares[sorted(members)] = 2.0
    drawn = picture(building, shares, WIDE - 40, HIGH - 80)
    at = flat(building, WIDE - 40, HIGH - 80)
    for node in sorted(nodes):
        x, y = at[node]
        drawn.add(Circle(float(x), float(y), 7, strokeColor=HEAT[-1], strokeWidth=2, fillColor=None))
    drawn.translate(20, 16)
    made.add(_group(drawn))
    made.add(String(20, HIGH - 28, title[:110], fontName=BOLD, fontSize=13, fillColor=INK))
    made.add(String(20, HIGH - 44, words[:150], fontName=FONT, fontSize=9, fillColor=FAINT))
    return _png(made)
