"""The house's catalogue: what it has beside the shipped tables."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Any, Literal

from handrail.client.calling import Calling, at

if TYPE_CHECKING:
    from handrail.client import answers as a


class Catalogue(Calling):
    """Grades, bolt groups, rod grades, electrodes, faying surfaces and sections of the house's own."""

    def entries(self) -> list[a.CatalogueEntry]:
        """All of them, drafts too."""
        return self._call("GET", "/catalogue")["items"]

    def put_entry(
        self, kind: str, name: str, values: Mapping[str, Any], source: str, job: str = ""
    ) -> a.CatalogueEntry:
        """A draft of one; nothing finds it until it is approved."""
        body = {"values": dict(values), "source": source, "job": job}
        return self._call("PUT", f"/catalogue/{at(kind)}/{at(name)}", json=body)

    def review_entry(self, kind: str, name: str, state: Literal["approved", "retired"]) -> a.CatalogueEntry:
        """An administrator's word on it."""
        return self._call("POST", f"/catalogue/{at(kind)}/{at(name)}/review", json={"state": state})

    def remove_entry(self, kind: str, name: str) -> None:
        """Take a draft away."""
        self._call("DELETE", f"/catalogue/{at(kind)}/{at(name)}")
