"""Decisions against the rules: put forward, reviewed, kept in the ledger."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.client.calling import Calling, Data, at, chosen, seen

if TYPE_CHECKING:
    from handrail.client import answers as a


class Deciding(Calling):
    """What a client does with decisions."""

    def set_override(
        self,
        job: str,
        connection: str,
        parameter: str,
        value: str | float,
        reason: str = "",
        preview: bool = False,
        version: int | None = None,
        both: bool = False,
        cause: str = "",
    ) -> a.MadeOverride:
        """Set one parameter with a reason (words, a `cause` of the shop's list, or both); the answer shows before and
        after. `preview` keeps nothing; `both` changes a size that the connection opposite has in common, since the same
        bolts hold it."""
        body = {
            "parameter": parameter,
            "value": value,
            "reason": reason,
            "cause": cause,
            "preview": preview,
            "both": both,
        }
        return self._call(
            "POST", f"/jobs/{at(job)}/connections/{at(connection)}/overrides", json=body, headers=seen(version)
        )

    def change(
        self,
        job: str,
        connection: str,
        changes: Mapping[str, str | float] | None = None,
        reason: str = "",
        take: str = "",
        preview: bool = False,
        both: bool = False,
        version: int | None = None,
        cause: str = "",
        hold: bool = False,
    ) -> a.Changed:
        """Set several parameters (or the `standard`) in one go, or `take` over what was chosen for another connection;
        all kept or none. `hold` keeps what a ladder climbed as it stands, by overrides too."""
        body = {
            "changes": dict(changes or {}),
            "take": take,
            "reason": reason,
            "cause": cause,
            "preview": preview,
            "both": both,
            "hold": hold,
        }
        return self._call(
            "POST", f"/jobs/{at(job)}/connections/{at(connection)}/changes", json=body, headers=seen(version)
        )

    def alternatives(self, job: str, connection: str, alternatives: list[Data]) -> list[a.SideBySide]:
        """What stands beside `alternatives`, each a dict of `standard`, `parameters`, `name`; nothing is kept. Steel
        and weld in kg, field weld mm."""
        body = {"alternatives": alternatives}
        return self._call("POST", f"/jobs/{at(job)}/connections/{at(connection)}/alternatives", json=body)[
            "alternatives"
        ]

    def earlier(self, job: str, connection: str, exact: bool = False) -> a.EarlierDesigns:
        """Designs that pass between like members here and in other jobs, tried on this connection."""
        return self._call("GET", f"/jobs/{at(job)}/connections/{at(connection)}/earlier", params={"exact": exact})

    def steps(self, job: str) -> a.Steps:
        """What the caller can step `back` over and `forward` to, in words; None where there is nothing."""
        return self._call("GET", f"/jobs/{at(job)}/steps")

    def step(self, job: str, way: str) -> a.Stepped:
        """Go `back` over the caller's own last change, or `forward` again."""
        return self._call("POST", f"/jobs/{at(job)}/steps/{at(way)}")

    def overrides(self, job: str, **asked: Any) -> list[a.ListedOverride]:
        """The decisions of a job, newest first; filtered by `state` (awaiting, accepted, returned, cleared, holding,
        look), `author`, `cause`, `level`, `where` (a filter on their connections), `connection`, `mark` (agrees, worse,
        carries)."""
        return list(self._pages(f"/jobs/{at(job)}/overrides", **asked))

    def decisions(self, job: str, **asked: Any) -> a.Listed:
        """The same as one page, with how many of the whole job await a word, are accepted, returned, ask to be looked
        at again."""
        return self._call("GET", f"/jobs/{at(job)}/overrides", params=asked)

    def decide(
        self,
        job: str,
        changes: Mapping[str, str | float],
        reason: str = "",
        cause: str = "",
        preview: bool = False,
        both: bool = False,
        skip: bool = False,
        **which: Any,
    ) -> a.DecidedForMany:
        """One decision for many connections (`connections`, `where` or `pattern` and `slot`), all kept or none; `skip`
        leaves out those of which it cannot be made, which the answer names."""
        body = {
            "changes": dict(changes),
            "reason": reason,
            "cause": cause,
            "preview": preview,
            "both": both,
            "skip": skip,
        }
        return self._call("POST", f"/jobs/{at(job)}/changes", json=body | chosen(**which))

    def review(self, job: str, act: str, overrides: Iterable[int], word: str = "") -> list[a.Override]:
        """Accept, return, confirm or clear decisions by number, all in one go; to return them takes a word."""
        body = {"act": act, "overrides": list(overrides), "word": word}
        return self._call("POST", f"/jobs/{at(job)}/overrides/review", json=body)["overrides"]

    def causes(self) -> list[str]:
        """The shop's list of reasons."""
        return list(self._call("GET", "/causes")["causes"])

    def put_causes(self, causes: Iterable[str]) -> list[str]:
        """Another list of reasons, for administrators."""
        return list(self._call("PUT", "/causes", json={"causes": list(causes)})["causes"])

    def attach(self, job: str, override: int, path: Path) -> a.Attachment:
        """Attach a file to a decision."""
        with path.open("rb") as stream:
            return self._call(
                "POST", f"/jobs/{at(job)}/overrides/{override}/attachments", files={"file": (path.name, stream)}
            )

    def attachments(self, job: str, override: int) -> list[a.Attachment]:
        """The files of a decision."""
        return self._call("GET", f"/jobs/{at(job)}/overrides/{override}/attachments")["items"]

    def attachment(self, job: str, override: int, number: int) -> bytes:
        """One file, as it was sent."""
        return self._bytes(f"/jobs/{at(job)}/overrides/{override}/attachments/{number}")

    def ledger(self, job: str) -> a.LedgerPage:
        """The whole ledger: its entries in order, and the digest of the last (`head`)."""
        return self._call("GET", f"/jobs/{at(job)}/ledger")

    def ledger_csv(self, job: str) -> bytes:
        """The whole ledger as CSV."""
        return self._bytes(f"/jobs/{at(job)}/ledger.csv")

    def closed(self) -> list[a.Closed]:
        """The ledgers of jobs that were deleted, newest first; for administrators."""
        return self._call("GET", "/closed")["items"]

    def verify_ledger(self, job: str) -> a.Verified:
        """Whether every entry follows from the one before, and the records say what the ledger says."""
        return self._call("GET", f"/jobs/{at(job)}/ledger/verify")

    def clear_override(self, job: str, number: int, reason: str = "", state: str | None = None) -> a.Override:
        """End an override; with `state`, only if it is still in that one."""
        return self._call(
            "DELETE", f"/jobs/{at(job)}/overrides/{number}", params={"reason": reason}, headers=seen(state)
        )
