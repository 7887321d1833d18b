"""The Bench: one connection with no building."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Any, Literal

from handrail.client.calling import Calling, at

if TYPE_CHECKING:
    from handrail.client import answers as a

Units = Literal["si", "us"]


class Bench(Calling):
    """What a client does at the Bench; `data` is a trial, as `handrail trial` reads it from a file."""

    def trial(self, data: Mapping[str, Any], trace: bool = False, units: Units = "si", drawn: bool = True) -> a.Trial:
        """It checked, with all its sizes, in `units`."""
        return self._call("POST", "/trial", json={**data, "trace": trace, "units": units, "drawn": drawn})

    def size_trial(
        self, data: Mapping[str, Any], hold: Sequence[str] = (), target: float = 1.0, units: Units = "si"
    ) -> list[a.Design]:
        """Several designs under a target, with some sizes held."""
        body = {**data, "hold": list(hold), "target": target, "units": units}
        return self._call("POST", "/trial/sized", json=body)["items"]

    def mend_trial(self, data: Mapping[str, Any], target: float = 1.0, units: Units = "si") -> list[a.TrialRemedy]:
        """The changes that make it pass, the cheapest first."""
        return self._call("POST", "/trial/remedies", json={**data, "target": target, "units": units})["items"]

    def trial_solids(self, data: Mapping[str, Any], units: Units = "si") -> a.JointSolids:
        """It in 3D: solids in mm, z up, and how far each part is used."""
        return self._call("POST", "/trial/solids", json={**data, "units": units})

    def trial_file(
        self, data: Mapping[str, Any], kind: str, name: str = "trial", units: Units = "us", address: str = ""
    ) -> bytes:
        """Its drawing as `pdf`, `dxf` or `svg`; all of it on one `page` of PDF; or the trial as `yaml`."""
        body = {**data, "name": name, "units": units, "address": address}
        return bytes(self._call("POST", f"/trial/files/{at(kind)}", raw=True, json=body))

    def connection_as_trial(self, job: str, connection: str) -> a.OfConnection:
        """A connection of a job as it stands in a trial's form, with its own actions."""
        return self._call("GET", f"/jobs/{at(job)}/connections/{at(connection)}/trial")

    def grades(self) -> list[a.Grade]:
        """Grades of steel."""
        return self._call("GET", "/grades")["items"]
