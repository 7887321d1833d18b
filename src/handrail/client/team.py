"""Working together: labels, comments, releases, views, how far a job is."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING, Any

from handrail.client.calling import Calling, at, chosen

if TYPE_CHECKING:
    from handrail.client import answers as a


class Team(Calling):
    """What a client does beside decisions on sizes."""

    def label(
        self,
        job: str,
        add: Iterable[str] = (),
        remove: Iterable[str] = (),
        person: str | None = None,
        sequence: str | None = None,
        **which: Any,
    ) -> a.Labelled:
        """Tag connections (`connections`, `where`, or `pattern` and `slot`), say who works on them and in which
        sequence they are erected."""
        body = {"add": list(add), "remove": list(remove), "person": person, "sequence": sequence}
        return self._call("POST", f"/jobs/{at(job)}/labels", json=body | chosen(**which))

    def comment(self, job: str, connection: str, words: str) -> a.Said:
        """Say something about a connection; it stands in its history."""
        return self._call("POST", f"/jobs/{at(job)}/connections/{at(connection)}/comments", json={"words": words})

    def note_to_shop(self, job: str, words: str, **which: Any) -> a.Labelled:
        """An engineer's note to the shop on connections (`connections`, `where`, or `pattern` and `slot`): what may be
        altered, and how; empty takes it back."""
        return self._call("POST", f"/jobs/{at(job)}/shop-notes", json={"words": words} | chosen(**which))

    def release(self, job: str, word: str = "", withdraw: bool = False, skip: bool = False, **which: Any) -> a.Released:
        """An engineer's word that connections may be drawn, or that it is withdrawn."""
        return self._call(
            "POST",
            f"/jobs/{at(job)}/releases",
            json={"word": word, "withdraw": withdraw, "skip": skip} | chosen(**which),
        )

    def views(self, job: str) -> list[a.KeptView]:
        """The kept views of the table of connections."""
        return self._call("GET", f"/jobs/{at(job)}/views")["items"]

    def put_view(
        self,
        job: str,
        name: str,
        where: str = "",
        sort: str = "connection",
        columns: Iterable[str] = (),
        group: str = "",
        find: str = "",
    ) -> list[a.KeptView]:
        """Keep a view of the table."""
        body = {"where": where, "find": find, "sort": sort, "columns": list(columns), "group": group}
        return self._call("PUT", f"/jobs/{at(job)}/views/{at(name)}", json=body)["items"]

    def drop_view(self, job: str, name: str) -> None:
        """Take a view away."""
        self._call("DELETE", f"/jobs/{at(job)}/views/{at(name)}")

    def table(
        self, job: str, kind: str = "csv", where: str = "", sort: str = "connection", columns: Iterable[str] = ()
    ) -> bytes:
        """The connections that a filter leaves, as `csv` or `xlsx`."""
        asked = {"where": where, "sort": sort, "columns": ",".join(columns)}
        return bytes(self._call("GET", f"/jobs/{at(job)}/table.{kind}", params=asked, raw=True))

    def progress(self, job: str) -> a.Progress:
        """How many connections are done, failing, awaiting, released: now, by level, sequence and person, and day by
        day."""
        return self._call("GET", f"/jobs/{at(job)}/progress")

    def revised(self, job: str, what: str = "") -> a.Revised:
        """What the newest revision left standing."""
        return self._call("GET", f"/jobs/{at(job)}/revised", params={"what": what})

    def reserve(self, job: str, below: float = 0.5, where: str = "") -> a.Reserves:
        """Connections that are used less than `below`, those alike together: what less would pass, and what that
        saves."""
        return self._call("GET", f"/jobs/{at(job)}/reserve", params={"below": below, "where": where})

    def schedule(self, job: str, where: str = "") -> a.Schedule:
        """A row a mark: connections that are the same pieces as fabricated."""
        return self._call("GET", f"/jobs/{at(job)}/schedule", params={"where": where})

    def schedule_file(self, job: str, kind: str = "csv", where: str = "") -> bytes:
        """The same as `csv` or `xlsx`."""
        return bytes(self._call("GET", f"/jobs/{at(job)}/schedule.{kind}", params={"where": where}, raw=True))

    def drawings(
        self,
        job: str,
        kind: str = "pdf",
        connection: str = "",
        mark: str = "",
        where: str = "",
        sheet: str = "",
        neighbours: bool = False,
    ) -> bytes:
        """A detail a mark on sheets, or of one `connection` or `mark`: `pdf`, `svg` (one sheet) or `dxf`; `sheet` is
        the paper, like A3 or ANSI-D. Of one connection with its `neighbours`: the others of its joint, dimmed."""
        asked: dict[str, Any] = {"connection": connection, "mark": mark, "where": where, "sheet": sheet}
        asked |= {"neighbours": "true"} if neighbours else {}
        params = {name: value for name, value in asked.items() if value}
        return bytes(self._call("GET", f"/jobs/{at(job)}/drawings.{kind}", params=params, raw=True))

    def calculations(
        self,
        job: str,
        connection: str = "",
        mark: str = "",
        where: str = "",
        each: bool = False,
        sections: Sequence[str] = (),
        lines: str = "",
        profile: str = "",
        kind: str = "pdf",
    ) -> bytes:
        """Calculations as `pdf`, or `docx` for a word processor: of one `connection` or `mark`, or of the marks of what
        a filter leaves (`each`: of every connection); `sections` by name, worked `lines` of governing, all or none.
        What is not said is as the house's `profile` has it, the usual one where none is named."""
        asked = {"connection": connection, "mark": mark, "where": where, "each": "true" if each else "",
                 "sections": ",".join(sections), "lines": lines, "profile": profile}  # fmt: skip
        params = {name: value for name, value in asked.items() if value}
        return bytes(self._call("GET", f"/jobs/{at(job)}/calculations.{at(kind)}", params=params, raw=True))

    def connection_page(self, job: str, connection: str, address: str | None = None) -> bytes:
        """A connection on one page as PDF, with a link to it under the `address` of the console: the service's own
        unless another is said."""
        where = str(self._http.base_url).partition("/api/")[0] if address is None else address
        path = f"/jobs/{at(job)}/connections/{at(connection)}/page.pdf"
        return bytes(self._call("GET", path, params={"address": where}, raw=True))

    def results(self, job: str, kind: str = "csv") -> bytes:
        """What came of every member end in the model's own names and units, as `csv` or `xlsx`; the building coloured
        by utilisation as `png` or `svg`."""
        return bytes(self._call("GET", f"/jobs/{at(job)}/results.{at(kind)}", raw=True))

    def steel_model(self, job: str, kind: str = "ifc", connection: str = "", where: str = "") -> bytes:
        """The steel as a model: `ifc`; of one `connection` also as `dxf`."""
        params = {name: value for name, value in {"connection": connection, "where": where}.items() if value}
        return bytes(self._call("GET", f"/jobs/{at(job)}/steel-model.{at(kind)}", params=params, raw=True))

    def parts_list(self, job: str, of: str, kind: str = "csv", where: str = "") -> bytes:
        """What connections are made of: `of` plates, bolts, rods, welds or parts (of each mark), as `csv` or `xlsx`; of
        plates also as `zip` with a DXF each. What they do to members: `of` ends or holes."""
        params = {"where": where} if where else {}
        return bytes(self._call("GET", f"/jobs/{at(job)}/lists/{at(of)}.{at(kind)}", params=params, raw=True))

    def transmit(
        self, job: str, to: str, why: str, where: str = "", anyway: str = "", preview: bool = False
    ) -> a.TransmittalInFull:
        """Freeze what is released as a numbered zip; `anyway` is why what is not released goes along. A `preview`
        makes nothing."""
        body = {"to": to, "why": why, "where": where, "anyway": anyway, "preview": preview}
        return self._call("POST", f"/jobs/{at(job)}/transmittals", json=body)

    def transmittals(self, job: str) -> list[a.Transmittal]:
        """All of a job, the newest first."""
        return self._call("GET", f"/jobs/{at(job)}/transmittals")["items"]

    def transmittal(self, job: str, number: int) -> a.TransmittalInFull:
        """One, with what was new, changed or withdrawn in it."""
        return self._call("GET", f"/jobs/{at(job)}/transmittals/{number}")

    def transmittal_file(self, job: str, number: int) -> bytes:
        """The zip as it was made."""
        return bytes(self._call("GET", f"/jobs/{at(job)}/transmittals/{number}/file", raw=True))

    def fewer_marks(self, job: str) -> a.Consolidation:
        """What fewer marks would cost: merges that keep every check passing, the cheapest first."""
        return self._call("GET", f"/jobs/{at(job)}/schedule/fewer")

    def as_one(self, job: str, **which: Any) -> a.AsOne:
        """One set of sizes for connections (`connections`, `where`, or `pattern` and `slot`), checked for every one's
        own forces."""
        return self._call("POST", f"/jobs/{at(job)}/as-one", json=chosen(**which))
