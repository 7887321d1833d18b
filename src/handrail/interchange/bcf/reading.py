"""BCF files read: 2.1 and 3.0, of any program. What cannot be read is told; nothing outside the file is looked at."""

from __future__ import annotations

import io
import zipfile
from typing import Any

from lxml import etree

from handrail.core.errors import InputError
from handrail.interchange.bcf.topic import VERSIONS, Comment, Look, Place, Topic

LARGEST, MOST = 200 * 1024**2, 2000  # bytes unpacked, topics
DONE = ("closed", "resolved", "done", "complete", "completed")


def read_bcf(data: bytes) -> list[Topic]:
    """Its topics, in the order of the file. Raises InputError."""
    try:
        packed = zipfile.ZipFile(io.BytesIO(data))
        sizes = sum(entry.file_size for entry in packed.infolist())
    except (zipfile.BadZipFile, OSError) as exc:
        raise InputError("it is no BCF file (.bcf, .bcfzip): no zip that can be read") from exc
    if sizes > LARGEST:
        raise InputError(f"the BCF file unpacks to {sizes // 1024**2} MB; at most {LARGEST // 1024**2} MB are read")
    names = set(packed.namelist())
    if "bcf.version" not in names:
        raise InputError("it is no BCF file: there is no bcf.version in it")
    version = _root(packed, "bcf.version").get("VersionId", "")
    if not version.startswith(VERSIONS):
        raise InputError(f"it is BCF {version or 'of no version'}; {' and '.join(VERSIONS)} are read")
    found = sorted(name for name in names if name.count("/") == 1 and name.endswith("/markup.bcf"))
    if len(found) > MOST:
        raise InputError(f"the BCF file has {len(found)} topics; at most {MOST} are read at once")
    return [_topic(packed, name, names) for name in found]


def _root(packed: zipfile.ZipFile, name: str) -> Any:
    parser = etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False)
    try:
        return etree.fromstring(packed.read(name), parser)
    except (etree.XMLSyntaxError, zipfile.BadZipFile, RuntimeError, OSError) as exc:
        raise InputError(f"{name} in the BCF file cannot be read: {str(exc)[:120]}") from exc


def _topic(packed: zipfile.ZipFile, name: str, names: set[str]) -> Topic:
    root = _root(packed, name)
    own = root.find("Topic")
    if own is None or not own.get("Guid"):
        raise InputError(f"{name} in the BCF file has no Topic with a Guid")
    said = [c for where in (root, own.find("Comments")) if where is not None for c in where.findall("Comment")]
    comments = [Comment(c.get("Guid", ""), _of(c, "Author"), _of(c, "Date"), _of(c, "Comment")) for c in said]
    labels = [e.text or "" for e in own.findall("Labels") if len(e) == 0] + [
        e.text or "" for e in own.findall("Labels/Label")
    ]
    return Topic(
        own.get("Guid"), _of(own, "Title") or "untitled", _of(own, "Description"), _state(own.get("TopicStatus", "")),
        _of(own, "CreationAuthor") or "unknown", _of(own, "CreationDate"), _of(own, "DueDate")[:10],
        _of(own, "AssignedTo"), tuple(label for label in labels if label),
        tuple(sorted(comments, key=lambda c: c.made)), _look(packed, name, root, own, names),
    )  # fmt: skip


def _state(word: str) -> str:
    low = word.strip().lower()
    return "closed" if low in DONE else "answered" if low == "answered" else "open"


def _of(element: Any, name: str) -> str:
    found = element.find(name)
    return (found.text or "").strip() if found is not None else ""


def _look(packed: zipfile.ZipFile, name: str, root: Any, own: Any, names: set[str]) -> Look | None:
    """The first way that it is looked at with a camera."""
    folder = name.rpartition("/")[0]
    for view in (*root.findall("Viewpoints"), *own.findall("Viewpoints/ViewPoint")):
        path = f"{folder}/{_of(view, 'Viewpoint') or 'viewpoint.bcfv'}"
        if path not in names:
            continue
        seen = _root(packed, path)
        camera = next(
            (c for kind in ("PerspectiveCamera", "OrthogonalCamera") if (c := seen.find(kind)) is not None), None
        )
        picked = tuple(c.get("IfcGuid", "") for c in seen.findall("Components/Selection/Component"))
        if camera is None:
            continue
        eye, way, up = (_place(camera.find(n)) for n in ("CameraViewPoint", "CameraDirection", "CameraUpVector"))
        if eye and way and up:
            return Look(view.get("Guid", ""), eye, way, up, tuple(p for p in picked if p))
    return None


def _place(element: Any) -> Place | None:
    if element is None:
        return None
    try:
        x, y, z = (float(_of(element, name)) for name in "XYZ")
    except ValueError:
        return None
    return x, y, z
