"""Makes a model's combinations from the natures of its cases: strength, service and overstrength by ASCE 7, wind and
earthquake in every sense."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from handrail.core.building.model import Case, Combination
from handrail.core.codes import code
from handrail.core.codes.family import Situations
from handrail.core.errors import InputError

LOADS = {"dead": "D", "live": "L", "roof_live": "Lr", "snow": "S", "wind": "W", "seismic": "E"}
CATEGORIES = ("A", "B", "C", "D", "E", "F")
BOTH_WAYS = ("C", "D", "E", "F")  # with 30 % of the other direction (12.5.3, 12.5.4)
VERTICAL = 0.2  # Ev = 0.2 S_DS D (12.4.2.2)
OTHER = 0.3
Sense = tuple[tuple[str, float], ...]  # cases with their part


@dataclass(frozen=True)
class Basis:
    """What the cases do not say: the edition, the methods, and of earthquakes S_DS, the redundancy factor, the
    overstrength factor and the design category; `one_way` names wind and seismic cases that are not also taken the
    other way round (those whose names end with + or - never are); `service`: whether service combinations are made
    too."""

    edition: str = "7-22"
    methods: tuple[str, ...] = ("LRFD",)
    S_DS: float = 0.0
    rho: float = 1.0
    omega: float = 0.0
    category: str = "B"
    one_way: frozenset[str] = frozenset()
    service: bool = True
    situations: Situations = field(default_factory=lambda: code().situations)

    def checked(self, cases: tuple[Case, ...]) -> None:
        """Raises InputError that names what cannot be."""
        by, shaking = self.situations, [c.name for c in cases if c.nature == "seismic"]
        wrong = (
            (self.edition not in by.editions, f"edition '{self.edition}' is none of {', '.join(by.editions)}"),
            (not self.methods or bool(set(self.methods) - set(by.methods)), f"methods are of {', '.join(by.methods)}"),
            (not 0 <= self.S_DS <= 4, f"S_DS {self.S_DS:g} is not from 0 to 4"),
            (self.rho not in (1.0, 1.3), f"the redundancy factor is 1.0 or 1.3, not {self.rho:g}"),
            (
                self.omega != 0 and not 1 <= self.omega <= 4,
                f"the overstrength factor is from 1 to 4, or 0 for no such set, not {self.omega:g}",
            ),
            (self.category not in CATEGORIES, f"category '{self.category}' is none of {', '.join(CATEGORIES)}"),
            (
                bool(shaking) and self.S_DS == 0 and self.category not in ("A", "B"),
                f"{', '.join(shaking[:3])}: seismic, so S_DS is needed",
            ),
            (
                bool(self.one_way - {c.name for c in cases}),
                f"one_way: {', '.join(sorted(self.one_way - {c.name for c in cases}))} is no case",
            ),
        )
        for bad, words in wrong:
            if bad:
                raise InputError(words)


def left_out(cases: tuple[Case, ...]) -> list[str]:
    """Cases that no basic combination takes: temperature and other; those that cannot be superposed."""
    return [c.name for c in cases if c.nature not in LOADS or c.kind in ("nonlinear", "envelope")]


def generated(cases: tuple[Case, ...], basis: Basis) -> list[Combination]:
    """The combinations, each once, in the order of the clauses. Raises InputError."""
    basis.checked(cases)
    taken = [c for c in cases if c.name not in left_out(cases)]
    if not any(c.nature == "dead" for c in taken):
        raise InputError("no case is a dead load: state the natures of the cases first")
    by_name: dict[tuple[str, str], Combination] = {}
    for method in (*basis.methods, *(["none"] if basis.service else [])):
        for load in ("strength", "overstrength"):
            if load == "overstrength" and (not basis.omega or method == "none"):
                continue
            kind = "service" if method == "none" else load
            for terms in basis.situations.patterns(method, basis.edition):
                if load == "overstrength" and "E" not in dict(terms):
                    continue
                for name, own in _of(terms, taken, basis, basis.omega if load == "overstrength" else basis.rho):
                    whole = f"{'S: ' if kind == 'service' else ''}{name}" + (
                        f" x{basis.omega:g}" if load == "overstrength" else ""
                    )
                    by_name.setdefault((method, whole), Combination(whole, kind, method, own))
    return list(_told_apart(by_name))


def _told_apart(by_name: dict[tuple[str, str], Combination]) -> Iterator[Combination]:
    """Names are a model's own: where two methods share one, the second says its method."""
    seen: set[str] = set()
    for (method, name), combination in by_name.items():
        own = name if name not in seen else f"{name} {method}"
        seen.add(own)
        yield Combination(own, combination.set, combination.method, combination.terms)


def _of(terms: list[tuple[str, float]], cases: list[Case], basis: Basis, quake: float) -> Iterator[tuple[str, Sense]]:
    """One pattern with the cases of each load: every wind or earthquake sense is a combination of its own."""
    by = {load: [c.name for c in cases if LOADS[c.nature] == load] for load in LOADS.values()}
    plain = {load: factor for load, factor in terms if load in by and load not in ("W", "E") and by[load]}
    sideways = next(((load, factor) for load, factor in terms if load in ("W", "E")), None)
    if sideways is None or not by[sideways[0]]:
        if not (sideways and sideways[0] == "E"):
            yield _named(plain, {}, by, basis, ())
        return
    load, factor = sideways
    vertical = dict(terms).get("Ev", 0.0) if load == "E" else 0.0
    for sense in _senses(by[load], load, basis):
        if factor > 0 or not any(_one_way(case, basis) for case, _ in sense):
            whole = tuple((case, factor * part * (quake if load == "E" else 1.0)) for case, part in sense)
            yield _named(plain, {"Ev": vertical} if vertical and basis.S_DS else {}, by, basis, whole)


def _one_way(case: str, basis: Basis) -> bool:
    return case in basis.one_way or case.endswith(("+", "-"))


def _senses(cases: list[str], load: str, basis: Basis) -> Iterator[Sense]:
    """Each case alone; of earthquakes in the higher categories with a part of each other direction, both ways."""
    for case in cases:
        others = (
            [other for other in cases if other.rstrip("+-") != case.rstrip("+-")]
            if load == "E" and basis.category in BOTH_WAYS
            else []
        )
        if not others:
            yield ((case, 1.0),)
        for other in others:
            yield ((case, 1.0), (other, OTHER))
            if not _one_way(other, basis):
                yield ((case, 1.0), (other, -OTHER))


def _named(
    plain: dict[str, float], vertical: dict[str, float], by: dict[str, list[str]], basis: Basis, sideways: Sense
) -> tuple[str, Sense]:
    """Its name and its terms: the earthquake's vertical part goes to the dead load."""
    own: list[tuple[str, float]] = []
    words = ""
    for load, factor in plain.items():
        words += f"{factor:+}{load}"
        if load == "D" and vertical:
            words += f"{'+' if vertical['Ev'] > 0 else '-'}{abs(vertical['Ev']):g}Ev".replace("1Ev", "Ev")
        extra = vertical.get("Ev", 0.0) * VERTICAL * basis.S_DS if load == "D" else 0.0
        own += [(case, round(factor + extra, 6)) for case in by[load]]
    words += "".join(f"{round(factor, 4):+}{case}" for case, factor in sideways)
    return words.lstrip("+"), (*own, *((case, round(factor, 6)) for case, factor in sideways))
