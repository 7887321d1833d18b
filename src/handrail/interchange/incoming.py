"""A model as somebody sends it: a bundle in a folder or a zip, a workbook, or exports read through a column map; one way to a Building."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path

from handrail.core.building.model import Building
from handrail.interchange import workbook
from handrail.interchange.archive import MANIFEST, manifest_in, unpacked
from handrail.interchange.bundle import read_bundle
from handrail.interchange.columnmap import bundled, read_map
from handrail.interchange.problems import BundleError, Problem

NO_MANIFEST = "not found; a bundle is a folder, a zip or a workbook with a manifest. Other programs' tables need a column map"


def read_model(path: Path, column_map: str = "") -> Building:
    """The building in what was sent. Raises BundleError with everything that is wrong, at its place in what was sent."""
    with tempfile.TemporaryDirectory(prefix="handrail-") as scratch, opened(path) as folder:
        made = Path(scratch)
        if not column_map and (root := manifest_in(folder)):
            return read_bundle(root)
        if column_map:
            found = bundled(read_map(column_map), folder, made)
            try:
                return replace(read_bundle(made), unread=_unread(folder, found.unread))
            except BundleError as exc:
                raise found.at_the_source(exc) from exc
        books = [p for p in folder.rglob("*") if p.suffix.lower() in workbook.WORKBOOKS]
        if len(books) != 1:
            raise BundleError([Problem(MANIFEST, NO_MANIFEST)])
        names = workbook.unpacked(books[0], made)
        try:
            return read_bundle(made)
        except BundleError as exc:
            raise BundleError([replace(p, file=names.get(p.file, p.file)) for p in exc.problems], exc.more) from exc


@contextmanager
def opened(path: Path) -> Iterator[Path]:
    """The folder that it is: itself, a zip unpacked, or one with the single file in it."""
    if path.is_dir():
        yield path
    elif path.suffix.lower() in (*workbook.WORKBOOKS, ".csv", ".txt"):
        with tempfile.TemporaryDirectory(prefix="handrail-") as scratch:
            (Path(scratch) / path.name).symlink_to(path.resolve())
            yield Path(scratch)
    else:
        with unpacked(path) as folder:
            yield folder


def _unread(folder: Path, columns: dict[str, list[str]]) -> tuple[str, ...]:
    """Files that no table of the map reads."""
    named = {name.rsplit("/", 1)[-1].lower() for name in columns}
    there = (p.relative_to(folder).as_posix() for p in folder.rglob("*") if p.is_file() and p.name.lower() not in named)
    return tuple(sorted(p for p in there if p != MANIFEST and not p.endswith(".toml") and not p.startswith((".", "__MACOSX"))))
