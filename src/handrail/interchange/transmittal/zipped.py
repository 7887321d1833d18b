"""Files as one zip that is the same for the same files, their digests in `contents.json`; and whether such a zip is
what it was."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from handrail.core.errors import InputError

CONTENTS, INDEX = "contents.json", "index.html"
LARGEST = 2 * 1024**3  # bytes that a zip unpacks to


def zipped(files: Mapping[str, bytes], about: Mapping[str, Any]) -> bytes:
    """The files with what they are `about`: nothing of when or where it was packed is in it."""
    digests = {name: hashlib.sha256(body).hexdigest() for name, body in files.items()}
    contents = json.dumps({**about, "files": digests}, indent=1, ensure_ascii=False).encode()
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as made:
        for name, body in (*files.items(), (CONTENTS, contents)):
            entry = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            entry.compress_type, entry.external_attr = zipfile.ZIP_DEFLATED, 0o644 << 16
            made.writestr(entry, body)
    return stream.getvalue()


@dataclass(frozen=True)
class Inspected:
    """What a zip says it is, its digest, and what in it is not as it says."""

    job: str
    number: int
    digest: str
    wrong: tuple[str, ...]


def inspected(path: Path) -> Inspected:
    """A transmittal's file looked through. Raises InputError where it is none."""
    try:
        body = path.read_bytes()
        with zipfile.ZipFile(io.BytesIO(body)) as packed:
            if sum(entry.file_size for entry in packed.infolist()) > LARGEST:
                raise InputError(f"{path}: it unpacks to more than {LARGEST // 1024**3} GB, and is not looked through")
            names = packed.namelist()
            about = json.loads(packed.read(CONTENTS))
            wrong = [f"{name} is not among its contents" for name in names if name not in {*about["files"], CONTENTS}]
            for name, digest in about["files"].items():
                if name not in names:
                    wrong.append(f"{name} is missing")
                elif hashlib.sha256(packed.read(name)).hexdigest() != digest:
                    wrong.append(f"{name} was changed")
            job, number = str(about["job"]), int(about["number"])
    except (OSError, zipfile.BadZipFile, KeyError, ValueError, TypeError, AttributeError, EOFError) as exc:
        raise InputError(f"{path} is no transmittal, or it is damaged: {exc}") from exc
    return Inspected(job, number, hashlib.sha256(body).hexdigest(), tuple(wrong))
