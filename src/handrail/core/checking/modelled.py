"""A framed building by one code and set of combinations: what acts on its connections, before any rule is asked."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from functools import cached_property

from handrail.core.building.combining import BY_STRENGTH, Chosen
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.checking.acting import Acting
from handrail.core.codes.family import Code
from handrail.core.joint.connection import Connection


@dataclass(frozen=True, eq=False)
class Modelled:
    """`building` as it is framed, the code that judges and the combinations that it is judged by."""

    building: Building
    framing: Framing
    code: Code
    chosen: Chosen = BY_STRENGTH

    @property
    def connections(self) -> tuple[Connection, ...]:
        """All of them, in the framing's order."""
        return self.framing.connections

    @cached_property
    def acting(self) -> Acting:
        """What acts by the model alone."""
        return Acting(self.building, self.connections, self.code, self.framing.pieces.roles, self.chosen)

    @cached_property
    def index(self) -> dict[str, int]:
        """connection -> its place in that order."""
        return {c.id: k for k, c in enumerate(self.connections)}

    @cached_property
    def at(self) -> dict[int, tuple[str, ...]]:
        """node -> the connections of its joint."""
        by_node: dict[int, list[str]] = defaultdict(list)
        for connection in self.connections:
            by_node[connection.node].append(connection.id)
        return {node: tuple(keys) for node, keys in by_node.items()}
