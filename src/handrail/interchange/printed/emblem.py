"""A firm's emblem, as a PNG or an SVG that draws nothing from elsewhere: looked at as it comes, drawn on paper."""

from __future__ import annotations

import io
import re
from functools import lru_cache
from typing import Any

from reportlab.graphics import renderPDF
from reportlab.graphics.shapes import Drawing, Group, Image

from handrail.core.errors import InputError

LARGEST, PIXELS = 200_000, 4000  # bytes, and pixels of a side
MOST = 4.0  # times as wide as high, at most
KINDS = {"png": "image/png", "svg": "image/svg+xml"}
_FOREIGN = {"image", "script", "foreignObject", "iframe", "animate", "set", "style", "use"}
_ELSEWHERE = re.compile(r"url\(\s*['\"]?(?!#)|@import|javascript:", re.I)


def kind_of(data: bytes) -> str:
    """png or svg. Raises InputError where it is neither, too large, or would fetch or run something."""
    if len(data) > LARGEST:
        raise InputError(f"emblem: {len(data) // 1000} kB; at most {LARGEST // 1000} kB")
    if data.startswith(b"\x89PNG"):
        _png(data)
        return "png"
    _svg(data)
    return "svg"


def _png(data: bytes) -> None:
    from PIL import Image, UnidentifiedImageError

    try:
        with Image.open(io.BytesIO(data), formats=["PNG"]) as image:
            wide, high = image.size
            image.verify()
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError) as exc:
        raise InputError(f"emblem: it is no PNG that can be read ({exc})") from exc
    if max(wide, high) > PIXELS:
        raise InputError(f"emblem: {wide} x {high} pixels; at most {PIXELS} a side")


def _svg(data: bytes) -> None:
    from lxml import etree

    parser = etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False)
    try:
        root = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError) as exc:
        raise InputError("emblem: it is neither a PNG nor an SVG that can be read") from exc
    if etree.QName(root).localname != "svg":
        raise InputError("emblem: it is neither a PNG nor an SVG that can be read")
    if root.getroottree().docinfo.doctype:
        raise InputError("emblem: take the document type (<!DOCTYPE ...>) out of the SVG")
    for one in root.iter():
        name = etree.QName(one).localname if isinstance(one.tag, str) else ""
        words = " ".join(map(str, one.attrib.values()))
        linked = [v for k, v in one.attrib.items() if str(k).endswith("href") and not str(v).startswith("#")]
        if name in _FOREIGN or linked or _ELSEWHERE.search(words) or any(str(k).startswith("on") for k in one.attrib):
            raise InputError(
                f"emblem: the SVG has <{name}>; save it as plain paths, with nothing linked, run or styled"
            )
    if _drawing(data) is None:
        raise InputError("emblem: the SVG draws nothing")


@lru_cache(maxsize=8)
def _drawing(data: bytes) -> Any:
    from svglib.svglib import svg2rlg

    try:
        drawn = svg2rlg(io.BytesIO(data))
    except Exception:  # the library raises kinds of its own
        return None
    return drawn if drawn is not None and drawn.width > 0 and drawn.height > 0 else None


def size(data: bytes, kind: str, high: float) -> tuple[float, float]:
    """How wide and how high it is, in a place that is so high."""
    if kind == "png":
        from PIL import Image as Picture

        with Picture.open(io.BytesIO(data), formats=["PNG"]) as picture:
            across, up = picture.size
    else:
        drawn = _drawing(data)
        if drawn is None:
            return 0.0, 0.0
        across, up = drawn.width, drawn.height
    scale = min(high / up, MOST * high / across)
    return across * scale, up * scale


def shape(data: bytes, kind: str, x: float, top: float, high: float) -> Group:
    """It as a shape of a drawing, with its upper left corner at (x, top), points."""
    wide, own = size(data, kind, high)
    if kind == "png":
        from PIL import Image as Picture

        return Group(Image(x, top - own, wide, own, Picture.open(io.BytesIO(data), formats=["PNG"])))
    drawn = _drawing(data)
    if drawn is None:
        return Group()
    group = Group(drawn.asGroup())
    scale = wide / drawn.width
    group.transform = (scale, 0, 0, scale, x, top - own)
    return group


def draw(canvas: Any, data: bytes, kind: str, x: float, top: float, high: float) -> float:
    """Put it on a page with its upper left corner at (x, top), points; how wide it is there."""
    wide, own = size(data, kind, high)
    if kind == "png":
        from reportlab.lib.utils import ImageReader

        canvas.drawImage(ImageReader(io.BytesIO(data)), x, top - own, wide, own, mask="auto")
        return wide
    page = Drawing(1, 1)
    page.add(shape(data, kind, x, top, high))
    renderPDF.draw(page, canvas, 0, 0)
    return wide
