"""A firm's emblem, as a PNG or an SVG that draws nothing from elsewhere: looked at as it comes, drawn on paper."""

from __future__ import annotations

import io
import re
from functools import lru_cache
from typing import Any

from handrail.core.errors import InputError

LARGEST, PIXELS = 200_000, 4000  # bytes, and pixels of a side
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


def draw(canvas: Any, data: bytes, kind: str, x: float, top: float, high: float) -> float:
    """Put it on a page with its upper left corner at (x, top), points; how wide it is there."""
    if kind == "png":
        from reportlab.lib.utils import ImageReader

        image = ImageReader(io.BytesIO(data))
        across, up = image.getSize()
        wide = min(high * across / up, 4 * high)
        canvas.drawImage(image, x, top - high, wide, high, mask="auto", preserveAspectRatio=True, anchor="w")
        return wide
    drawn = _drawing(data)
    if drawn is None:
        return 0.0
    scale = min(high / drawn.height, 4 * high / drawn.width)
    canvas.saveState()
    canvas.translate(x, top - drawn.height * scale)
    canvas.scale(scale, scale)
    drawn.drawOn(canvas, 0, 0)
    canvas.restoreState()
    return float(drawn.width * scale)
