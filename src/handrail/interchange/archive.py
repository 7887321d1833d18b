"""Opens a bundle: a folder, or a zip unpacked with limits into a folder of its own."""

from __future__ import annotations

import lzma
import tempfile
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path, PurePosixPath

from handrail.interchange.problems import BundleError, Problem

MANIFEST = "datapackage.json"
MOST_UNPACKED = 4 * 1024**3
MOST_FILES = 200
_UNREADABLE = (
    zipfile.BadZipFile,
    EOFError,
    OSError,
    RuntimeError,
    NotImplementedError,
    ValueError,
    zlib.error,
    lzma.LZMAError,
)


@contextmanager
def opened(path: Path) -> Iterator[Path]:
    """The folder that holds `datapackage.json`. Raises BundleError for anything that is no bundle."""
    if path.is_dir():
        yield _root(path)
        return
    if not path.exists():
        raise BundleError([Problem(path.name, "no such file or folder")])
    with unpacked(path) as folder:
        yield _root(folder)


@contextmanager
def unpacked(path: Path) -> Iterator[Path]:
    """What is in a zip, in a folder of its own."""
    with tempfile.TemporaryDirectory(prefix="handrail-") as scratch:
        _unpack(path, Path(scratch))
        yield Path(scratch)


def manifest_in(folder: Path) -> Path | None:
    """The folder that holds the manifest: this one, or the one in it that does."""
    if (folder / MANIFEST).is_file():
        return folder
    inner = [p for p in folder.iterdir() if p.is_dir() and (p / MANIFEST).is_file()]
    return inner[0] if len(inner) == 1 else None


def _root(folder: Path) -> Path:
    if (root := manifest_in(folder)) is None:
        raise BundleError(
            [Problem(MANIFEST, "not found; a bundle is a folder or zip with this manifest and its CSV files")]
        )
    return root


def _unpack(path: Path, into: Path) -> None:
    try:
        with zipfile.ZipFile(path) as archive:
            entries = [e for e in archive.infolist() if not e.is_dir()]
            _refuse(entries)
            left = MOST_UNPACKED
            for entry in entries:
                target = into / entry.filename
                target.parent.mkdir(parents=True, exist_ok=True)
                with archive.open(entry) as source, target.open("wb") as sink:
                    left = _copy(source, sink, left, entry.filename)
    except _UNREADABLE as exc:
        if isinstance(exc, BundleError):
            raise
        why = "a file in it needs a password" if isinstance(exc, RuntimeError) and "password" in str(exc) else exc
        raise BundleError(
            [Problem(path.name, f"cannot be read as a zip archive ({why}); zip the bundle's folder again")]
        ) from exc


def _refuse(entries: list[zipfile.ZipInfo]) -> None:
    if len(entries) > MOST_FILES:
        raise BundleError([Problem("archive", f"holds {len(entries)} files; at most {MOST_FILES} are taken")])
    if (size := sum(e.file_size for e in entries)) > MOST_UNPACKED:
        raise BundleError(
            [Problem("archive", f"unpacks to {size / 1e9:.1f} GB; at most {MOST_UNPACKED / 1e9:.1f} GB is taken")]
        )
    names = [e.filename for e in entries]
    if twice := sorted({n for n in names if names.count(n) > 1}):
        raise BundleError(
            [Problem(n, "is in the archive more than once; which one is meant cannot be told") for n in twice]
        )
    for entry in entries:
        place = PurePosixPath(entry.filename.replace("\\", "/"))
        if not place.parts:
            raise BundleError(
                [Problem("archive", f"holds an entry called '{entry.filename}', which is no file's name")]
            )
        if place.is_absolute() or ".." in place.parts or ":" in place.parts[0]:
            raise BundleError([Problem(entry.filename, "this path leaves the archive; nothing was unpacked")])


def _copy(source, sink, left: int, name: str) -> int:  # type: ignore[no-untyped-def]
    while block := source.read(1 << 20):
        left -= len(block)
        if left < 0:
            raise BundleError([Problem(name, f"the archive unpacks to more than {MOST_UNPACKED / 1e9:.1f} GB")])
        sink.write(block)
    return left


def zip_folder(folder: Path, target: Path) -> None:
    """Zip a bundle's folder for sending it to the service."""
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as archive:
        for path in sorted(folder.rglob("*")):
            if path.is_file():
                archive.write(path, path.relative_to(folder).as_posix())
