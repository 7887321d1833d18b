"""Designs of the house, above its jobs."""

from __future__ import annotations

import base64
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.client.calling import Calling, at

if TYPE_CHECKING:
    from handrail.client import answers as a


class Designing(Calling):
    """What a client does with designs of the house; one revision of a design is a name and a number."""

    def designs(self, **asked: Any) -> a.PageDesigns:
        """A page of those that there are, by `text`, `standard`, `framing`, `tag`, `bolt`, `job`, `author`, `state`,
        what they hold (`V`, `pull`, `push`, `M`), whether they are `checked`; in the order of `sort`."""
        return self._call("GET", "/designs", params={k: v for k, v in asked.items() if v not in ("", None)})

    def design(self, name: str, number: int, units: str = "us") -> a.WrittenDesign:
        """One revision, with its others, and where it stands; told in `units`."""
        return self._call("GET", f"/designs/{at(name)}/{number}", params={"units": units})

    def put_design(self, name: str, **given: Any) -> a.WrittenDesign:
        """A new draft: of a `trial`, of a `connection` of a `job`, or as it is written (`text`); with `title`, `note`,
        `tags`, `fits`, `fields`, `parameters`, `seen_by`."""
        return self._call("PUT", f"/designs/{at(name)}", json=given)

    def sign_design(self, name: str, number: int) -> a.WrittenDesign:
        """A draft becomes the house's."""
        return self._call("POST", f"/designs/{at(name)}/{number}/state", json={"state": "house"})

    def withdraw_design(self, name: str, number: int) -> a.WrittenDesign:
        """Nothing new begins with it."""
        return self._call("POST", f"/designs/{at(name)}/{number}/state", json={"state": "withdrawn"})

    def leave_design(self, name: str, number: int) -> None:
        """A draft of one's own is taken away."""
        self._call("DELETE", f"/designs/{at(name)}/{number}")

    def about_design(self, name: str, number: int, **said: Any) -> a.WrittenDesign:
        """Another `title`, `note`, `tags`, or who sees it (`seen_by`)."""
        return self._call("POST", f"/designs/{at(name)}/{number}/about", json=said)

    def find_designs(self, trial: Mapping[str, Any], **asked: Any) -> a.FoundDesigns:
        """Something like this: those for a trial's framing, members and angles, tried under its actions (`items`, of
        as many as were `tried`)."""
        return self._call("POST", "/designs/find", json={"trial": dict(trial), **asked})

    def design_in_job(
        self, name: str, number: int, job: str, fields: Mapping[str, Any] | None = None, fits: bool = True
    ) -> a.DesignInJob:
        """Which connections of a job it would hold."""
        body = {"job": job, "fields": dict(fields or {}), "fits": fits}
        return self._call("POST", f"/designs/{at(name)}/{number}/in-job", json=body)

    def design_changes(
        self, name: str, number: int, job: str, connection: str, fields: Mapping[str, Any] | None = None
    ) -> a.DesignChanges:
        """What a decision for it would change on a connection."""
        body = {"job": job, "connection": connection, "fields": dict(fields or {})}
        return self._call("POST", f"/designs/{at(name)}/{number}/changes", json=body)

    def design_would_change(self, name: str, number: int, job: str) -> a.RulebookTried:
        """What this revision would change in a job whose rules use another one of it."""
        return self._call("POST", f"/designs/{at(name)}/{number}/would-change", json={"job": job})

    def design_picture(self, name: str, number: int) -> bytes:
        """Its drawing as SVG."""
        return bytes(self._call("GET", f"/designs/{at(name)}/{number}/picture", raw=True))

    def design_paper(self, name: str, number: int, kind: str = "page", units: str = "us") -> bytes:
        """Its drawing as `pdf`, `dxf` or `svg`; or a `page` of PDF: its calculation under what it holds."""
        path = f"/designs/{at(name)}/{number}/paper/{at(kind)}"
        return bytes(self._call("GET", path, raw=True, params={"units": units}))

    def design_file(
        self,
        name: str,
        number: int,
        people: bool = False,
        origin: bool = False,
        notes: bool = False,
        files: bool = False,
    ) -> a.DesignFile:
        """It as a file for another service."""
        ticked = {"people": people, "origin": origin, "notes": notes, "files": files}
        params = {key: "true" for key, value in ticked.items() if value}
        return self._call("GET", f"/designs/{at(name)}/{number}/file", params=params)

    def attach_to_design(self, name: str, number: int, path: Path) -> a.PutFile:
        """Put a file to a revision."""
        with path.open("rb") as stream:
            files = {"file": (path.name, stream)}
            return self._call("POST", f"/designs/{at(name)}/{number}/files", files=files)

    def file_of_design(self, name: str, number: int, file: int) -> bytes:
        """One of its files, as it was sent."""
        return self._bytes(f"/designs/{at(name)}/{number}/files/{file}")

    def leave_file_of_design(self, name: str, number: int, file: int) -> None:
        """A file of a draft is taken away."""
        self._call("DELETE", f"/designs/{at(name)}/{number}/files/{file}")

    def take_design(self, text: str, name: str = "") -> a.WrittenDesign:
        """A draft from such a file."""
        return self._call("POST", "/designs/file", json={"text": text, "name": name})

    def take_designs(self, file: str, content: bytes, tags: Sequence[str] = ()) -> a.DesignsIn:
        """Drafts from a published table, each looked at by the service's own code."""
        body = {"file": file, "content": base64.b64encode(content).decode(), "tags": list(tags)}
        return self._call("POST", "/designs/table", json=body)

    def check_designs(self, most: int = 500) -> a.DesignsIn:
        """Let the service's own code look at some that it has not looked at."""
        return self._call("POST", "/designs/check", json={"most": most})
