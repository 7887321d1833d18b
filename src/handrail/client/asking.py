"""Queries to the engineer of record."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import TYPE_CHECKING

from handrail.client.calling import Calling, at

if TYPE_CHECKING:
    from handrail.client import answers as a


class Asking(Calling):
    """What a client asks the engineer of record."""

    def queries(self, job: str, state: str = "", connection: str = "") -> a.EngineerQueries:
        """All of a job, the newest first; those of a `state` (open, answered, closed), or that concern a
        connection."""
        params = {name: value for name, value in {"state": state, "connection": connection}.items() if value}
        return self._call("GET", f"/jobs/{at(job)}/queries", params=params)

    def query(self, job: str, number: int) -> a.EngineerQuery:
        """One of them."""
        return self._call("GET", f"/jobs/{at(job)}/queries/{number}")

    def ask(
        self,
        job: str,
        title: str,
        of: Iterable[tuple[str, str]],
        words: str = "",
        to: str = "",
        due: str = "",
        holds: bool = False,
        view: Mapping[str, Sequence[float]] | None = None,
    ) -> a.EngineerQuery:
        """Ask something `of` connections, joints, members or findings (kind, name), `due` by an ISO date; while it is
        open it may hold their release. `view` is how it is looked at: eye, way, up, m."""
        about = [{"kind": kind, "name": name} for kind, name in of]
        body = {"title": title, "words": words, "to": to, "due": due, "of": about, "holds": holds}
        looked = {name: list(place) for name, place in (view or {}).items()}
        return self._call("POST", f"/jobs/{at(job)}/queries", json=body | {"view": looked})

    def answer_query(self, job: str, number: int, words: str) -> a.EngineerQuery:
        """Write down what was answered."""
        return self._call("POST", f"/jobs/{at(job)}/queries/{number}/answer", json={"words": words})

    def close_query(self, job: str, number: int, words: str = "") -> a.EngineerQuery:
        """What it asked is settled: an engineer's word."""
        return self._call("POST", f"/jobs/{at(job)}/queries/{number}/close", json={"words": words})

    def ask_again(self, job: str, number: int, words: str) -> a.EngineerQuery:
        """Ask again what was answered or closed."""
        return self._call("POST", f"/jobs/{at(job)}/queries/{number}/again", json={"words": words})

    def query_picture(self, job: str, number: int) -> bytes:
        """The building with what it is about, PNG."""
        return bytes(self._call("GET", f"/jobs/{at(job)}/queries/{number}/picture.png", raw=True))

    def queries_file(self, job: str, kind: str = "pdf", state: str = "", version: str = "2.1") -> bytes:
        """The queries as a list to print (`pdf`) or as `bcf` of a `version`, 2.1 or 3.0."""
        params = {"version": version} | ({"state": state} if state else {})
        return bytes(self._call("GET", f"/jobs/{at(job)}/queries.{at(kind)}", params=params, raw=True))

    def take_in_queries(self, job: str, bcf: bytes) -> a.TakenQueries:
        """Take in a BCF file: queries that are known get what was said of them since, the others are new."""
        headers = {"Content-Type": "application/octet-stream"}
        return self._call("POST", f"/jobs/{at(job)}/queries.bcf", content=bcf, headers=headers)
