"""Talks to the service over its HTTP API."""

from __future__ import annotations

import shutil
import tempfile
import time
from collections.abc import Callable, Sequence
from collections.abc import Mapping as MappingOf
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.client.asking import Asking
from handrail.client.bench import Bench
from handrail.client.calling import Data, ServiceError, at, seen
from handrail.client.catalogue import Catalogue
from handrail.client.deciding import Deciding
from handrail.client.designing import Designing
from handrail.client.mapping import Mapping
from handrail.client.ruling import Ruling
from handrail.client.team import Team

if TYPE_CHECKING:
    from handrail.client import answers as a

FINISHED = ("done", "failed", "cancelled", "interrupted")


class Client(Asking, Bench, Catalogue, Deciding, Designing, Mapping, Ruling, Team):
    """One service, one caller.

    >>> client = Client("http://127.0.0.1:8740", token)
    >>> client.connections("alder-street", where="status=fail")
    """

    def login(self, name: str, password: str, label: str = "", days: int = 90) -> str:
        """A new token for a name and password, good for so many days."""
        return str(
            self._call("POST", "/tokens", json={"name": name, "password": password, "label": label, "days": days})[
                "token"
            ]
        )

    def logout(self) -> None:
        """End the token that this client carries."""
        self._call("DELETE", "/tokens")

    def tokens(self) -> list[a.TokenShown]:
        """One's own tokens and sessions, newest first."""
        return self._call("GET", "/tokens")["items"]

    def revoke_token(self, number: int) -> None:
        """End one of one's own tokens or sessions."""
        self._call("DELETE", f"/tokens/{number}")

    def change_password(self, old: str, new: str) -> None:
        """One's own; every other session and token ends."""
        self._call("PUT", "/me/password", json={"old": old, "new": new})

    def whoami(self) -> a.Me:
        return self._call("GET", "/me")

    def users(self) -> list[a.User]:
        return self._call("GET", "/users")["items"]

    def add_user(self, name: str, password: str, admin: bool = False) -> a.Me:
        return self._call("POST", "/users", json={"name": name, "password": password, "admin": admin})

    def set_password(self, name: str, new: str) -> None:
        """Somebody else's password, by an administrator; their sessions and tokens end."""
        self._call("PUT", f"/users/{at(name)}/password", json={"new": new})

    def remove_user(self, name: str) -> None:
        """Remove an account; what it did stays in the history."""
        self._call("DELETE", f"/users/{at(name)}")

    def set_role(self, job: str, user: str, role: str) -> None:
        """Give a role in a job: viewer, detailer, engineer, admin, or none."""
        self._call("PUT", f"/jobs/{at(job)}/roles/{at(user)}", json={"role": role})

    def jobs(self) -> list[a.Job]:
        return self._call("GET", "/jobs")["items"]

    def job(self, name: str) -> a.Job:
        return self._call("GET", f"/jobs/{at(name)}")

    def new_job(
        self, name: str, title: str = "", code: str = "AISC 360-22", method: str = "LRFD", rulebook: str = ""
    ) -> a.Job:
        """A new job; it may start from an approved `rulebook` of the house, like `shop-practice R2`."""
        body = {"name": name, "title": title, "code": code, "method": method, "rulebook": rulebook}
        return self._call("POST", "/jobs", json=body)

    def change_job(
        self,
        name: str,
        title: str | None = None,
        code: str | None = None,
        method: str | None = None,
        tag: str | None = None,
        combination_set: str | None = None,
        tolerance: float | None = None,
        anyway: bool = False,
        firm: str | None = None,
    ) -> a.Job:
        """Change what is given; results by another code, method or set are marked to be run again. With `tag`, only if
        the job is as it was. `tolerance` is how far actions (a share) and utilisation may move before decisions ask to
        be looked at again; `firm` is what title blocks say, line by line; `anyway` takes a method or set of which the
        model has no combinations."""
        given = {
            "title": title,
            "code": code,
            "method": method,
            "combination_set": combination_set,
            "tolerance": tolerance,
            "anyway": anyway or None,
            "firm": firm,
        }
        return self._call(
            "PATCH",
            f"/jobs/{at(name)}",
            json={k: v for k, v in given.items() if v not in (None, "")},
            headers=seen(tag),
        )

    def import_bundle(
        self,
        job: str,
        path: Path,
        progress: Callable[[a.Import], None] = lambda found: None,
        every: float = 0.2,
        column_map: str = "",
    ) -> a.Revision:
        """A model (a bundle's folder or zip, a workbook, or tables of another program through `column_map`, the job's
        last one where it is left out) as the job's next revision, waited for; the answer is the revision with its
        audit. Raises ServiceError with every problem found."""
        return self._taken_in(job, self.send_model(job, path, column_map), progress, every)

    def _taken_in(
        self, job: str, sent: a.Import, progress: Callable[[a.Import], None] = lambda found: None, every: float = 0.2
    ) -> a.Revision:
        while sent["state"] not in FINISHED:
            time.sleep(every)
            sent = self.get_import(job, sent["id"])
            progress(sent)
        if sent["state"] != "done":
            raise ServiceError(422, f"import {sent['id']} {sent['state']}: {sent['message']}", sent["problems"])
        return next(r for r in self.revisions(job) if r["number"] == sent["revision"])

    def send_model(self, job: str, path: Path, column_map: str = "", hold: bool = False) -> a.Import:
        """Send a model, a file or a folder, without waiting; `hold` keeps it until `confirm_import`."""
        given = {"map": column_map} if column_map else {}
        with tempfile.TemporaryDirectory(prefix="handrail-") as scratch:
            sent = (
                Path(shutil.make_archive(f"{scratch}/{path.name or 'bundle'}", "zip", path)) if path.is_dir() else path
            )
            return self._sent(job, sent, given, hold)

    def _sent(self, job: str, path: Path, given: dict[str, str], hold: bool) -> a.Import:
        with path.open("rb") as stream:
            return self._call(
                "POST",
                f"/jobs/{at(job)}/imports",
                files={"bundle": (path.name, stream, "application/octet-stream")},
                data=given | ({"hold": "true"} if hold else {}),
            )

    def confirm_import(self, job: str, number: int) -> a.Import:
        """Take in an import that was held."""
        return self._call("POST", f"/jobs/{at(job)}/imports/{number}/confirm")

    def imports(self, job: str) -> list[a.Import]:
        """The job's imports, newest first."""
        return self._call("GET", f"/jobs/{at(job)}/imports")["items"]

    def get_import(self, job: str, number: int) -> a.Import:
        return self._call("GET", f"/jobs/{at(job)}/imports/{number}")

    def cancel_import(self, job: str, number: int) -> a.Import:
        return self._call("POST", f"/jobs/{at(job)}/imports/{number}/cancel")

    def revisions(self, job: str) -> list[a.Revision]:
        """The job's model revisions with their audits, newest first."""
        return self._call("GET", f"/jobs/{at(job)}/revisions")["items"]

    def audit(self, job: str) -> a.Revision:
        return self._call("GET", f"/jobs/{at(job)}/audit")

    def acknowledge(
        self, job: str, code: str, reason: str, node: str = "", member: str = "", every: bool = False, cause: str = ""
    ) -> a.Revision:
        """Let a finding of the audit stand, with a reason, or `every` open one of its code (and `cause`); the answer is
        the audit."""
        body = {"code": code, "node": node, "member": member, "reason": reason, "all": every, "cause": cause}
        return self._call("PUT", f"/jobs/{at(job)}/audit/acknowledged", json=body)

    def take_back(self, job: str, code: str, node: str = "", member: str = "") -> a.Revision:
        """A finding that was let stand counts again."""
        return self._call(
            "DELETE", f"/jobs/{at(job)}/audit/acknowledged", params={"code": code, "node": node, "member": member}
        )

    def survey(self, job: str) -> a.Survey:
        """Sections, joints by kind, the largest forces, and what share of its own section each member end is asked
        for."""
        return self._call("GET", f"/jobs/{at(job)}/survey")

    def survey_pdf(self, job: str) -> bytes:
        """The survey on two pages, as PDF."""
        return bytes(self._call("GET", f"/jobs/{at(job)}/survey.pdf", raw=True))

    def patterns(self, job: str) -> list[a.Pattern]:
        """Joints that are alike, the pattern with most of them first."""
        return self._call("GET", f"/jobs/{at(job)}/patterns")["items"]

    def pattern(self, job: str, name: str) -> a.PatternInFull:
        """One pattern: its joints, and the largest of every action at each of its places."""
        return self._call("GET", f"/jobs/{at(job)}/patterns/{at(name)}")

    def pattern_points(self, job: str, name: str, slot: int = 0) -> a.PatternPoints:
        """Every action at one place of a pattern: float32 in base64, connections x combinations x actions."""
        return self._call("GET", f"/jobs/{at(job)}/patterns/{at(name)}/points", params={"slot": slot})

    def pattern_boundary(self, job: str, name: str, slot: int = 0, x: str = "V", y: str = "N") -> a.PatternBoundary:
        """How far the connections at one place of a pattern go in two actions, and the points that govern them."""
        return self._call("GET", f"/jobs/{at(job)}/patterns/{at(name)}/boundary", params={"slot": slot, "x": x, "y": y})

    def pattern_workbook(self, job: str, name: str, picked: Sequence[tuple[str, int]] = ()) -> bytes:
        """A pattern as a workbook (.xlsx) for whoever designs it elsewhere; with the points that are `picked`: each a
        connection and the number of a combination, as `pattern_points` has them."""
        params = {"picked": [f"{key}~{number}" for key, number in picked]} if picked else {}
        path = f"/jobs/{at(job)}/patterns/{at(name)}/workbook"
        return bytes(self._call("GET", path, params=params, raw=True))

    def put_in_pattern(self, job: str, joint: str, beside: str, reason: str) -> a.Pattern:
        """Put a joint into the pattern of another one, or (`beside` empty) take it out of its own."""
        return self._call(
            "PUT", f"/jobs/{at(job)}/joints/{at(joint)}/pattern", json={"beside": beside, "reason": reason}
        )

    def leave_in_pattern(self, job: str, joint: str) -> a.Pattern:
        """A joint goes back to the pattern that it was found to belong to."""
        return self._call("DELETE", f"/jobs/{at(job)}/joints/{at(joint)}/pattern")

    def groups(self, job: str) -> list[a.Group]:
        return self._call("GET", f"/jobs/{at(job)}/groups")["items"]

    def group(self, job: str, name: str) -> a.GroupInFull:
        """One group: its connections, what they have in common and in what they differ."""
        return self._call("GET", f"/jobs/{at(job)}/groups/{at(name)}")

    def put_group(
        self, job: str, name: str, connections: list[str] | None = None, where: str = "", how: str = "replace"
    ) -> a.GroupInFull:
        """Make a group or change it: `how` is replace, add or take; its connections by name, by a filter, or both."""
        return self._call(
            "PUT",
            f"/jobs/{at(job)}/groups/{at(name)}",
            json={"connections": connections or [], "where": where, "how": how},
        )

    def drop_group(self, job: str, name: str) -> None:
        self._call("DELETE", f"/jobs/{at(job)}/groups/{at(name)}")

    def compare(self, job: str, old: int | None = None, new: int | None = None) -> a.Comparison:
        """What changed from one revision to another; the last two unless named."""
        return self._call(
            "GET", f"/jobs/{at(job)}/compare", params={k: v for k, v in (("old", old), ("new", new)) if v is not None}
        )

    def combinations(self, job: str) -> a.Combinations:
        """The cases and combinations of the current revision."""
        return self._call("GET", f"/jobs/{at(job)}/combinations")

    def generate_combinations(self, job: str, **basis: Any) -> a.Combinations:
        """Combinations made by ASCE 7 from the natures of the cases: edition, methods, S_DS, rho, omega, category,
        one_way, service. Nothing is kept."""
        return self._call("POST", f"/jobs/{at(job)}/combinations/generate", json=basis)

    def keep_combinations(self, job: str, combinations: Sequence[MappingOf[str, Any]]) -> a.Revision:
        """Keep combinations in place of the model's own, as its next revision, waited for."""
        return self._taken_in(
            job, self._call("PUT", f"/jobs/{at(job)}/combinations", json={"combinations": list(combinations)})
        )

    def model(self, job: str) -> a.Model:
        return self._call("GET", f"/jobs/{at(job)}/model")

    def model_shape(self, job: str) -> a.ModelShape:
        """The first part of a model as it is drawn, column by column: where nodes and members are."""
        return self._call("GET", f"/jobs/{at(job)}/model/shape")

    def model_states(self, job: str) -> a.ModelStates:
        """The second part: how each connection stands."""
        return self._call("GET", f"/jobs/{at(job)}/model/states")

    def model_names(self, job: str) -> a.ModelNames:
        """The third part: what nodes and members are called, in the order of the shape."""
        return self._call("GET", f"/jobs/{at(job)}/model/names")

    def joints(self, job: str, where: str = "") -> list[a.JointRow]:
        return list(self._pages(f"/jobs/{at(job)}/joints", where=where))

    def connections(self, job: str, where: str = "", sort: str = "connection") -> list[a.ConnectionRow]:
        return list(self._pages(f"/jobs/{at(job)}/connections", where=where, sort=sort))

    def connection(self, job: str, connection: str) -> a.Connection:
        return self._call("GET", f"/jobs/{at(job)}/connections/{at(connection)}")

    def joint_drawing(self, job: str, connection: str) -> a.Drawing:
        """The views of a connection with the others of its joint dimmed."""
        return self._call("GET", f"/jobs/{at(job)}/connections/{at(connection)}/drawing")

    def parts(self, job: str, connection: str) -> a.Parts:
        """Of each part of a connection the parameters that it changes with, its own first."""
        return self._call("GET", f"/jobs/{at(job)}/connections/{at(connection)}/parts")

    def matrix(self, job: str, connection: str) -> a.Matrix:
        """Every check of a connection at every combination."""
        return self._call("GET", f"/jobs/{at(job)}/connections/{at(connection)}/matrix")

    def matrix_check(self, job: str, connection: str, check: int, combination: int) -> a.ShownCheck:
        """One check of the matrix at one combination, with its worked lines."""
        return self._call(
            "GET",
            f"/jobs/{at(job)}/connections/{at(connection)}/matrix/check",
            params={"check": check, "combination": combination},
        )

    def start_run(
        self,
        job: str,
        where: str = "",
        verify: bool = False,
        combination_set: str = "",
        only: list[str] | None = None,
        pattern: str = "",
    ) -> a.Run:
        """Size or verify all, those that a filter leaves, or those of a pattern; by another set of combinations than
        the job's, or `only` some of them, look without changing a result."""
        body = {
            "where": where,
            "verify": verify,
            "combination_set": combination_set,
            "only": only or [],
            "pattern": pattern,
        }
        return self._call("POST", f"/jobs/{at(job)}/runs", json=body)

    def runs(self, job: str) -> list[a.Run]:
        return self._call("GET", f"/jobs/{at(job)}/runs")["items"]

    def run(self, job: str, number: int) -> a.Run:
        return self._call("GET", f"/jobs/{at(job)}/runs/{number}")

    def run_changes(self, job: str, number: int) -> a.RunChanged:
        """What a run changed, connection by connection, before and after."""
        return self._call("GET", f"/jobs/{at(job)}/runs/{number}/changes")

    def cancel_run(self, job: str, number: int) -> a.Run:
        return self._call("POST", f"/jobs/{at(job)}/runs/{number}/cancel")

    def joint_solids(self, job: str, connection: str, changes: Data | None = None) -> a.JointSolids:
        """The whole joint of a connection as solids, as it stands or with other sizes of the connection; mm about the
        joint's node, z up."""
        where = f"/jobs/{at(job)}/connections/{at(connection)}/joint"
        return self._call("POST", where, json={"changes": changes}) if changes else self._call("GET", where)

    def run_again(self, job: str, number: int) -> a.Run:
        return self._call("POST", f"/jobs/{at(job)}/runs/{number}/again")

    def wait(
        self, job: str, number: int, progress: Callable[[a.Run], None] = lambda run: None, every: float = 0.2
    ) -> a.Run:
        """The run once it has ended, in whatever way."""
        while True:
            run = self.run(job, number)
            progress(run)
            if run["state"] in FINISHED:
                return run
            time.sleep(every)

    def standards(self, job: str = "") -> list[a.Standard]:
        """All, with what they offer to a job where one is named."""
        return self._call("GET", "/standards", params={"job": job})["items"]

    def sections(self, text: str = "", limit: int = 50) -> list[a.Section]:
        return self._call("GET", "/sections", params={"text": text, "limit": limit})["items"]

    def sweep(self, data: Data) -> a.Sweep:
        """A trial over lists of values, given whole as `handrail sweep` reads it from a file."""
        return self._call("POST", "/sweep", json=data)

    def sweep_connection(
        self,
        job: str,
        connection: str,
        values: list[Data],
        order: str = "as_written",
        stop: str = "all",
        parameters: Data | None = None,
    ) -> a.Sweep:
        """A connection of a job with its own actions over lists of values; `changes` of the answer makes it the
        winner."""
        body = {"values": values, "order": order, "stop": stop, "parameters": parameters or {}}
        return self._call("POST", f"/jobs/{at(job)}/connections/{at(connection)}/sweep", json=body)
