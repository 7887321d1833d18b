"""Files that people put to things, handed over as they were sent."""

from __future__ import annotations

from io import BytesIO

from flask import Response, send_file

INLINE = (
    "image/png",
    "image/jpeg",
    "application/pdf",
    "text/plain",
)  # what a browser may show; anything else is only handed over


def handed(name: str, media: str, data: bytes) -> Response:
    """The answer with a file."""
    shown = media in INLINE
    return send_file(
        BytesIO(data),
        media if shown else "application/octet-stream",
        as_attachment=not shown,
        download_name=name,
    )
