"""The column maps that other programs' tables come in through: of one import, and of the house."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from handrail.client.calling import Calling, at

if TYPE_CHECKING:
    from handrail.client import answers as a


class Mapping(Calling):
    """What a client does with column maps."""

    def understood(self, job: str, number: int) -> a.Understood:
        """What was understood of an import that is held, with its column map or a proposed one."""
        return self._call("GET", f"/jobs/{at(job)}/imports/{number}/understood")

    def set_map(self, job: str, number: int, column_map: str) -> a.Understood:
        """Another column map for an import that is held; the answer is what is understood through it."""
        return self._call("PUT", f"/jobs/{at(job)}/imports/{number}/map", json={"map": column_map})

    def choose_map(self, job: str, number: int, take: str, name: str = "") -> a.Understood:
        """Another map for an import that is held: `proposed` anew from the files, `saved` (the job's last), `sent`
        beside the tables, or `house` with its name; the answer is what is understood through it."""
        return self._call("POST", f"/jobs/{at(job)}/imports/{number}/map", json={"take": take, "name": name})

    def change_map(self, job: str, number: int, **change: Any) -> a.Understood:
        """One change by pointing: `what` state, unit, table, key or column, or try (what statics says), with table,
        name, value, source, end and spec as these need."""
        return self._call("PATCH", f"/jobs/{at(job)}/imports/{number}/map", json=change)

    def propose_output(self, job: str) -> str:
        """An output map to begin with: the column map that the model came in through, turned round."""
        return str(self._call("GET", f"/jobs/{at(job)}/output")["map"])

    def try_output(self, job: str, output_map: str) -> a.TriedOutput:
        """What an output map (TOML) writes of the job: its columns, how many rows, the first of them."""
        return self._call("POST", f"/jobs/{at(job)}/output/try", json={"map": output_map})

    def output_file(self, job: str, output_map: str) -> bytes:
        """The file that it writes; a zip, where it writes several."""
        return bytes(self._call("POST", f"/jobs/{at(job)}/output/file", raw=True, json={"map": output_map}))

    def maps(self) -> list[a.HouseMap]:
        """The house's maps: `way` says which tables come in through and which rows go out by."""
        return self._call("GET", "/maps")["items"]

    def house_map(self, name: str) -> a.WrittenMap:
        """One of them, with its text."""
        return self._call("GET", f"/maps/{at(name)}")

    def put_map(self, name: str, text: str, note: str = "") -> a.WrittenMap:
        """Keep a column map or an output map above the jobs, by a name; a new revision where there is one."""
        return self._call("PUT", f"/maps/{at(name)}", json={"text": text, "note": note})

    def leave_map(self, name: str) -> None:
        """Take one away."""
        self._call("DELETE", f"/maps/{at(name)}")
