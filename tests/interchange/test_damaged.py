"""Bundles that came to harm on their way, or were made by somebody who guessed: each is refused in words that say
where, and none of them in an error that nobody foresaw."""

from __future__ import annotations

import io
import json
import zipfile
from pathlib import Path
from typing import Any

import pytest

from handrail.interchange.incoming import needs_map, read_model
from handrail.interchange.problems import BundleError
from handrail.interchange.understood import understand
from tests.bundles import small, write
from tests.wide import wide

Files = dict[str, bytes]
MANIFEST = "datapackage.json"
TABLES = ("nodes.csv", "members.csv", "cases.csv", "combinations.csv", "supports.csv", "end_forces.csv")


@pytest.fixture(scope="module")
def sound(tmp_path_factory) -> Files:
    folder = write(small(), tmp_path_factory.mktemp("sound") / "bay")
    return {path.name: path.read_bytes() for path in sorted(folder.iterdir())}


def zipped(files: Files, method: int = zipfile.ZIP_DEFLATED, **more: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", method) as archive:
        for name, content in (files | more).items():
            archive.writestr(name, content)
    return out.getvalue()


def stated(files: Files, **change: Any) -> Files:
    """With other statements in the manifest."""
    manifest = json.loads(files[MANIFEST])
    manifest["handrail"] |= change
    return files | {MANIFEST: json.dumps(manifest).encode()}


def harmed(files: Files, method: int) -> bytes:
    """An archive with some bytes of its middle overwritten."""
    content = bytearray(zipped(files, method))
    at = content.find(b"PK\x01\x02") // 2
    content[at : at + 40] = b"\xff" * 40
    return bytes(content)


def listing(files: Files, path: Any) -> Files:
    manifest = json.loads(files[MANIFEST])
    manifest["resources"][0]["path"] = path
    return files | {MANIFEST: json.dumps(manifest).encode()}


def refused(content: bytes, folder: Path) -> str:
    """What is said of it; who only looks at it is told as well, and neither is anything but words."""
    path = folder / "sent.zip"
    path.write_bytes(content)
    for look in (lambda: needs_map(path, "sent.zip"), lambda: understand(path, "", "sent.zip")):
        try:
            look()
        except BundleError as exc:
            assert str(exc).encode()
    with pytest.raises(BundleError) as caught:
        read_model(path)
    assert str(caught.value).encode()  # no half of a character in it
    return " ".join(f"{p.file}: {p.message}" for p in caught.value.problems)


@pytest.mark.parametrize(
    ("harm", "words"),
    [
        (lambda f: harmed(f, zipfile.ZIP_LZMA), "sent.zip: cannot be read as a zip archive"),
        (lambda f: harmed(f, zipfile.ZIP_BZIP2), "sent.zip: cannot be read as a zip archive"),
        (lambda f: harmed(f, zipfile.ZIP_DEFLATED), "sent.zip: cannot be read as a zip archive"),
        (lambda f: zipped(f)[:200], "sent.zip: cannot be read as a zip archive"),
        (lambda f: b"", "sent.zip: cannot be read as a zip archive"),
        (lambda f: zipped(f | {".": b"x"}), "an entry called '.'"),
        (lambda f: zipped(f | {"../nodes.csv": b"x"}), "leaves the archive"),
        (lambda f: zipped(stated(f, up=["Z"])), "handrail.up is ['Z']; state Z or Y"),
        (lambda f: zipped(stated(f, up={})), "handrail.up is {}; state Z or Y"),
        (lambda f: zipped(stated(f, vertical_y=["X"])), "handrail.vertical_y is ['X']"),
        (lambda f: zipped(stated(f, units=["ft"])), "handrail.units.length is missing"),
        (lambda f: zipped(stated(f, units={"length": "parsec", "section": "in", "force": "kip", "moment": "kip*ft"})),
         "km long: is the model's length in the unit that datapackage.json states?"),
        (lambda f: zipped(f | {MANIFEST: b'{"handrail": []}'}), "has no 'handrail' object"),
        (lambda f: zipped(f | {MANIFEST: b"[" * 100_000}), "is not readable JSON"),
        (lambda f: zipped(f | {MANIFEST: f[MANIFEST].decode().encode("utf-16")}), "is not readable JSON"),
        (lambda f: zipped(listing(f, "\ud800.csv")), "hold characters that cannot be seen"),
        (lambda f: zipped(listing(f, ["nodes.csv"])), "not found, though datapackage.json lists it"),
        *(
            (lambda f, n=name: zipped(f | {n: f[n].decode().encode("utf-16")}), f"{name}: cannot be read as UTF-8 CSV")
            for name in TABLES
        ),
        *(
            (lambda f, n=name: zipped(f | {n: f[n].replace(b"\n", b"\r")}), f"{name}: ends its lines with CR alone")
            for name in TABLES
        ),
        *((lambda f, n=name: zipped(f | {n: b""}), f"{name}: ") for name in TABLES),
        *((lambda f, n=name: zipped(f | {n: f[n] + b"\xed\xa0\x80,1\n"}), f"{name}: ") for name in TABLES),
        *((lambda f, n=name: zipped(f | {n: f[n].split(b"\n")[0]}), "is not in ") for name in TABLES[:3]),
    ],
)  # fmt: skip
def test_it_is_refused_in_words(sound, tmp_path, harm, words):
    assert words in refused(harm(sound), tmp_path)


@pytest.mark.parametrize("name", TABLES)
@wide
def test_no_cell_is_more_than_refused(sound, tmp_path, name):
    """Whatever stands in a cell, it is read as what it says or refused; nothing else comes of it."""
    head, first, *rest = sound[name].split(b"\n")
    cells = first.split(b",")
    for k in range(len(cells)):
        for odd in (b"1e400", b"nan", b"-inf", b"1e308", b"1_0", b"0x1", "١".encode(), b"\0", b'"', b"a\rb"):
            row = b",".join([*cells[:k], odd, *cells[k + 1 :]])
            (tmp_path / "sent.zip").write_bytes(zipped(sound | {name: b"\n".join([head, row, *rest])}))
            try:
                building = read_model(tmp_path / "sent.zip")
            except BundleError as exc:
                assert exc.problems
            else:
                assert (abs(building.xyz) < 1e12).all() and (abs(building.forces) < 1e18).all()


@pytest.mark.parametrize("content", [[], {}, None, 5, "\ud800", [None], [{}], [{"name": [1], "path": 5}]])
@pytest.mark.parametrize("key", ["resources", "handrail", "title", "name"])
def test_no_manifest_is_more_than_refused(sound, tmp_path, key, content):
    manifest = json.loads(sound[MANIFEST]) | {key: content}
    (tmp_path / "sent.zip").write_bytes(zipped(sound | {MANIFEST: json.dumps(manifest).encode()}))
    understand(tmp_path / "sent.zip", "", "sent.zip")
    try:
        read_model(tmp_path / "sent.zip")
    except BundleError as exc:
        assert exc.problems
