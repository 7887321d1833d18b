"""A model as somebody sends it: a bundle in a folder or a zip, a workbook, or exports read through a column map; one
way to a Building."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path

import polars as pl

from handrail.core.building.model import Building
from handrail.interchange import workbook
from handrail.interchange.archive import MANIFEST, manifest_in, unpacked
from handrail.interchange.bundle import read_bundle
from handrail.interchange.columnmap import ColumnMap, bundled, proposed, read_map
from handrail.interchange.columnmap.folder import GRIDS
from handrail.interchange.columnmap.text import TEXTS
from handrail.interchange.problems import BundleError, Problem

MAP_FILE = "map.toml"
MOST_WHOLE = 1024**3  # bytes of end forces that are looked at row by row where one is wrong
NO_MANIFEST = (
    "not found; a bundle is a folder, a zip or a workbook with a manifest. Other programs' tables need a column map"
)


def read_model(path: Path, column_map: str = "", name: str = "") -> Building:
    """The building in what was sent, by `name` where it is one file that is kept under another. Raises BundleError with
    everything that is wrong, at its place in what was sent."""
    with tempfile.TemporaryDirectory(prefix="handrail-") as scratch, opened(path, name) as folder:
        made = Path(scratch)
        if not column_map and (root := manifest_in(folder)):
            return read_bundle(root)
        if column_map:
            return _through(read_map(column_map), folder, made)
        if kind_of(folder) != "workbook":
            raise BundleError([Problem(MANIFEST, NO_MANIFEST)])
        names = workbook.unpacked(workbook.in_folder(folder), made)
        try:
            return read_bundle(made)
        except BundleError as exc:
            raise BundleError([replace(p, file=names.get(p.file, p.file)) for p in exc.problems], exc.more) from exc


def _through(column_map: ColumnMap, folder: Path, into: Path) -> Building:
    """The building in tables of another program; end forces as a stream where they can be, and where something is wrong
    with them, row by row."""
    for stream in (True, False):
        made = into / ("stream" if stream else "whole")
        made.mkdir()
        bundle = bundled(column_map, folder, made, stream)
        try:
            return replace(read_bundle(made, bundle.stream), unread=bundle.left)
        except pl.exceptions.PolarsError:
            if bundle.stream is None or bundle.stream.path.stat().st_size > MOST_WHOLE:
                name = bundle.stream.name if bundle.stream else "the tables"
                raise BundleError(
                    [
                        Problem(
                            name,
                            "has a row that cannot be read, and is too large to be told which: look at it in parts",
                        )
                    ]
                ) from None
        except BundleError as exc:
            raise bundle.at_the_source(exc) from exc
    raise AssertionError("a table is read whole or told why not")


def kind_of(folder: Path) -> str:
    """bundle, workbook (one of them, a bundle or meant as one), or tables of another program."""
    if manifest_in(folder):
        return "bundle"
    files = [p for p in folder.rglob("*") if p.is_file() and not p.name.startswith(".")]
    return "workbook" if len(files) == 1 and workbook.is_bundle(files[0]) else "tables"


def needs_map(path: Path, name: str = "") -> bool:
    """Whether what was sent is no bundle: tables of another program."""
    with opened(path, name) as folder:
        return kind_of(folder) == "tables"


def map_in(path: Path, name: str = "") -> str:
    """The column map that lies beside the tables that were sent, as map.toml; empty where none does, or where it is a
    bundle."""
    with opened(path, name) as folder:
        if kind_of(folder) != "tables":
            return ""
        maps = sorted(folder.rglob(MAP_FILE), key=lambda p: len(p.parts))
        return maps[0].read_text(encoding="utf-8", errors="replace") if maps else ""


def propose(path: Path, name: str = "") -> str:
    """A first column map for what was sent."""
    with opened(path, name) as folder:
        return proposed(folder)


@contextmanager
def opened(path: Path, name: str = "") -> Iterator[Path]:
    """The folder that it is: itself, a zip unpacked, or one with the single file in it, by `name` where it is called
    otherwise."""
    if path.is_dir():
        yield path
    elif path.suffix.lower() in (*TEXTS, *GRIDS):
        with tempfile.TemporaryDirectory(prefix="handrail-") as scratch:
            (
                Path(scratch)
                / (name if Path(name).suffix.lower() == path.suffix.lower() and "/" not in name else path.name)
            ).symlink_to(path.resolve())
            yield Path(scratch)
    else:
        with unpacked(path) as folder:
            yield folder
