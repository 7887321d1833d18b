"""Rulebooks: read, tried, adopted; why one took a connection."""

from __future__ import annotations

import base64
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Any

from handrail.client.calling import Calling, Data, at, seen

if TYPE_CHECKING:
    from handrail.client import answers as a

Files = Mapping[str, str]  # CSV files that a rulebook's tables are in, by name


class Ruling(Calling):
    """What a client does with rulebooks."""

    def rulebook(self, job: str) -> a.Rulebook:
        """The job's rulebook: its text and files, revision, rules with how many connections each takes, tables."""
        return self._call("GET", f"/jobs/{at(job)}/rulebook")

    def put_rulebook(
        self, job: str, text: str, version: int | None = None, files: Files | None = None, name: str = ""
    ) -> a.Rulebook:
        """Adopt a rulebook as the job's next revision; with `version`, only if that is still the newest."""
        body = {"text": text, "files": dict(files or {}), "name": name}
        return self._call("PUT", f"/jobs/{at(job)}/rulebook", json=body, headers=seen(version))

    def try_rulebook(self, job: str, text: str, files: Files | None = None, compare: bool = True) -> a.RulebookTried:
        """What a rulebook would take, and which connections would be otherwise than they are."""
        return self._call(
            "POST", f"/jobs/{at(job)}/rulebook/try", json={"text": text, "files": dict(files or {}), "compare": compare}
        )

    def try_on(
        self,
        job: str,
        connection: str,
        text: str = "",
        files: Files | None = None,
        table: str = "",
        formula: str = "",
        rule: str = "",
    ) -> a.TriedOnConnection:
        """What a rulebook (the job's own where none is given), or one table, formula or rule of it, makes of one
        connection."""
        body = {
            "text": text,
            "files": dict(files or {}),
            "connection": connection,
            "table": table,
            "formula": formula,
            "rule": rule,
        }
        return self._call("POST", f"/jobs/{at(job)}/rulebook/try-on", json=body)

    def edit_rulebook(self, job: str, text: str, files: Files | None = None, **change: Data) -> a.EditedRulebook:
        """The text and files of a rulebook with one change: `move` ({rule, to}), `like` ({connection, free, sections}),
        `default` ({name, standard}) or `cell` ({table, row, column, value}); comments stay, nothing is kept."""
        return self._call(
            "POST", f"/jobs/{at(job)}/rulebook/edit", json={"text": text, "files": dict(files or {}), **change}
        )

    def why(self, job: str, connection: str) -> a.WhyRule:
        """Which rule took a connection, which passed it by and on which fact, and where its sizes come from."""
        return self._call("GET", f"/jobs/{at(job)}/connections/{at(connection)}/rule")

    def practice(self, job: str) -> list[a.PracticeOf]:
        """Shop practice, parameter by parameter, with defaults and explanations."""
        return self._call("GET", f"/jobs/{at(job)}/rulebook/practice")["items"]

    def rulebook_revisions(self, job: str) -> list[a.RulebookRevision]:
        """Every rulebook that a job had, newest first."""
        return self._call("GET", f"/jobs/{at(job)}/rulebook/revisions")["items"]

    def rulebook_revision(self, job: str, number: int) -> a.WrittenRevision:
        """One of them as it was written."""
        return self._call("GET", f"/jobs/{at(job)}/rulebook/revisions/{number}")

    def compare_rulebooks(self, job: str, old: int | None = None, new: int | None = None) -> a.DifferingRulebooks:
        """What two revisions say differently; the last two unless they are named."""
        asked: dict[str, Any] = {name: number for name, number in (("old", old), ("new", new)) if number is not None}
        return self._call("GET", f"/jobs/{at(job)}/rulebook/compare", params=asked)

    def rulebook_back(self, job: str, number: int = 0, name: str = "") -> a.Rulebook:
        """Adopt an earlier revision again, the one before unless it is named."""
        return self._call("POST", f"/jobs/{at(job)}/rulebook/back", json={"number": number, "name": name})

    def rulebook_language(self) -> a.RulebookLanguage:
        """Facts, functions, keys and parameters that rulebooks are written with."""
        return self._call("GET", "/rulebook-language")

    def profiles(self) -> list[a.KeptProfile]:
        """How the house prints: every profile; `usual` holds where none is named."""
        return self._call("GET", "/profiles")["items"]

    def put_profile(
        self,
        name: str,
        firm: Sequence[str] = (),
        registration: str = "",
        emblem: bytes | None = b"",
        sections: Sequence[str] = (),
        lines: str = "",
    ) -> a.KeptProfile:
        """Keep a profile: an administrator's word. `emblem` is a PNG or SVG; None keeps the one that is there."""
        sent = None if emblem is None else base64.b64encode(emblem).decode()
        body = {"firm": list(firm), "registration": registration, "emblem": sent, "sections": list(sections)}
        return self._call("PUT", f"/profiles/{at(name)}", json=body | {"lines": lines})

    def emblem(self, name: str) -> bytes:
        """The emblem of a profile as it was sent."""
        return bytes(self._call("GET", f"/profiles/{at(name)}/emblem", raw=True))

    def remove_profile(self, name: str) -> None:
        """Take a profile away."""
        self._call("DELETE", f"/profiles/{at(name)}")

    def house(self) -> list[a.KeptRulebook]:
        """Every rulebook of the house, revision by revision, with the jobs that stand on each."""
        return self._call("GET", "/house")["items"]

    def house_rulebook(self, name: str, number: int) -> a.WrittenRulebook:
        """One revision as it is written."""
        return self._call("GET", f"/house/{at(name)}/{number}")

    def put_house(self, name: str, text: str, files: Files | None = None, note: str = "") -> a.WrittenRulebook:
        """A new revision of a rulebook of the house, a draft."""
        return self._call("PUT", f"/house/{at(name)}", json={"text": text, "files": dict(files or {}), "note": note})

    def review_house(self, name: str, number: int, state: str) -> a.WrittenRulebook:
        """Approve a draft (`approved`), or retire (`retired`) what is approved."""
        return self._call("POST", f"/house/{at(name)}/{number}/review", json={"state": state})

    def compare_house(self, name: str, old: int | None = None, new: int | None = None) -> a.DifferingRulebooks:
        """What two revisions of a rulebook of the house say differently."""
        asked: dict[str, Any] = {n: number for n, number in (("old", old), ("new", new)) if number is not None}
        return self._call("GET", f"/house/{at(name)}/compare", params=asked)

    def capacity(self, data: Data) -> a.Capacity:
        """What a standard holds on a range of sections, as `handrail capacity` reads it from a file."""
        return self._call("POST", "/capacity", json=data)

    def capacity_workbook(self, data: Data) -> bytes:
        """The same as a workbook (.xlsx)."""
        return bytes(self._call("POST", "/capacity.xlsx", json=data, raw=True))
