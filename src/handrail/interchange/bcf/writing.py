"""Queries written as BCF: a folder each with what it says, how it is looked at, and a picture."""

from __future__ import annotations

import io
import uuid
import zipfile
from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from lxml import etree

from handrail.interchange.bcf.topic import STATES, TYPE, Comment, Look, Place, Topic

FIXED = (1980, 1, 1, 0, 0, 0)
FIELD, ASPECT = 60.0, 1.5  # degrees that a camera sees; width over height of the picture


def write_bcf(topics: Sequence[Topic], project: str, title: str, version: str) -> bytes:
    """The file, the same for the same queries; `version` 2.1 or 3.0."""
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, body in _files(topics, project, title, version):
            entry = zipfile.ZipInfo(name, FIXED)
            entry.compress_type = zipfile.ZIP_DEFLATED
            packed.writestr(entry, body)
    return stream.getvalue()


def _files(topics: Sequence[Topic], project: str, title: str, version: str) -> Iterator[tuple[str, bytes]]:
    new = version == "3.0"
    about = etree.Element("Version", VersionId=version)
    if not new:
        _text(about, "DetailedVersion", version)
    yield "bcf.version", _bytes(about)
    root = etree.Element("ProjectInfo" if new else "ProjectExtension")
    own = etree.SubElement(root, "Project", ProjectId=str(uuid.uuid5(uuid.NAMESPACE_OID, project)))
    _text(own, "Name", title or project)
    if not new:
        _text(root, "ExtensionSchema", "")
    yield "project.bcfp", _bytes(root)
    if new:
        yield "extensions.xml", _bytes(_extensions(topics))
    for topic in topics:
        yield f"{topic.guid}/markup.bcf", _bytes(_markup(topic, new))
        if topic.look:
            yield f"{topic.guid}/viewpoint.bcfv", _bytes(_viewpoint(topic.look, new))
            if topic.look.picture:
                yield f"{topic.guid}/snapshot.png", topic.look.picture


def _extensions(topics: Sequence[Topic]) -> Any:
    """The words that are used in 3.0."""
    root = etree.Element("Extensions")
    people = sorted({name for t in topics for name in (t.author, t.to, *(c.author for c in t.comments)) if name})
    labels = sorted({label for t in topics for label in t.labels})
    for many, one, words in (
        ("TopicTypes", "TopicType", [TYPE]), ("TopicStatuses", "TopicStatus", list(STATES.values())),
        ("Priorities", "Priority", []), ("TopicLabels", "TopicLabel", labels), ("Users", "User", people),
        ("SnippetTypes", "SnippetType", []), ("Stages", "Stage", []),
    ):  # fmt: skip
        group = etree.SubElement(root, many)
        for word in words:
            _text(group, one, word)
    return root


def _markup(topic: Topic, new: bool) -> Any:
    root = etree.Element("Markup")
    own = etree.SubElement(root, "Topic", Guid=topic.guid, TopicType=TYPE, TopicStatus=STATES[topic.state])
    _text(own, "Title", topic.title)
    _text(own, "Index", str(topic.index))
    where = etree.SubElement(own, "Labels") if new and topic.labels else own
    for label in topic.labels:
        _text(where, "Label" if new else "Labels", label)
    _text(own, "CreationDate", topic.made)
    _text(own, "CreationAuthor", topic.author)
    if topic.due:
        _text(own, "DueDate", f"{topic.due}T00:00:00Z")
    if topic.to:
        _text(own, "AssignedTo", topic.to)
    if topic.words:
        _text(own, "Description", topic.words)
    comments: Iterable[Comment] = topic.comments
    inside = etree.SubElement(own, "Comments") if new and topic.comments else root
    for comment in comments:
        said = etree.SubElement(inside, "Comment", Guid=comment.guid)
        for name, text in (("Date", comment.made), ("Author", comment.author), ("Comment", comment.words)):
            _text(said, name, text)
    if topic.look:
        inside = etree.SubElement(own, "Viewpoints") if new else root
        view = etree.SubElement(inside, "ViewPoint" if new else "Viewpoints", Guid=topic.look.guid)
        _text(view, "Viewpoint", "viewpoint.bcfv")
        if topic.look.picture:
            _text(view, "Snapshot", "snapshot.png")
        _text(view, "Index", "0")
    return root


def _viewpoint(look: Look, new: bool) -> Any:
    root = etree.Element("VisualizationInfo", Guid=look.guid)
    parts = etree.SubElement(root, "Components")
    if look.picked:
        selection = etree.SubElement(parts, "Selection")
        for number in look.picked:
            etree.SubElement(selection, "Component", IfcGuid=number)
    etree.SubElement(parts, "Visibility", DefaultVisibility="true")
    camera = etree.SubElement(root, "PerspectiveCamera")
    for name, place in (("CameraViewPoint", look.eye), ("CameraDirection", look.way), ("CameraUpVector", look.up)):
        _place(etree.SubElement(camera, name), place)
    _text(camera, "FieldOfView", f"{FIELD:g}")
    if new:
        _text(camera, "AspectRatio", f"{ASPECT:g}")
    return root


def _place(into: Any, place: Place) -> None:
    for name, value in zip("XYZ", place, strict=True):
        _text(into, name, repr(round(value, 6) + 0.0))


def _text(into: Any, name: str, text: str) -> None:
    etree.SubElement(into, name).text = "".join(c for c in text if c.isprintable() or c in "\n\t")


def _bytes(root: Any) -> bytes:
    return bytes(etree.tostring(root, xml_declaration=True, encoding="UTF-8", pretty_print=True))
