"""What a house has beside the shipped tables: grades, bolt groups, rod grades, electrodes, faying surfaces and sections
of its own, each with its source and who approved it. A name means one thing for good; a shipped name stays the shipped
one's."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Any

from handrail.core.catalogue.tables import key
from handrail.core.errors import InputError
from handrail.core.quantities.units import parse

GRADE, BOLT, ROD, ELECTRODE, SURFACE, SECTION = KINDS = ("grade", "bolt", "rod", "electrode", "surface", "section")
SHAPES = ("I", "rectangle", "round", "channel", "angle")


@dataclass(frozen=True)
class Asked:
    """A value that a kind takes: its `quantity` (empty for words), what it is, the words that there are."""

    name: str
    quantity: str
    help: str
    needed: bool = False
    choices: tuple[str, ...] = ()


def _of_shapes(name: str, help: str, *shapes: str) -> Asked:
    return Asked(name, "length", f"{help} (of {', '.join(shapes)})")


VALUES: dict[str, tuple[Asked, ...]] = {
    GRADE: (
        Asked("Fy", "stress", "Yield stress", True),
        Asked("Fu", "stress", "Tensile strength", True),
        Asked("use", "", "What it is rolled as", choices=("any", "shape", "hollow")),
        Asked(
            "steps",
            "",
            "Up to a thickness its own, the thinnest first, like 40 mm: 355 MPa: 490 MPa; 63 mm: 335 MPa: 470 MPa",
        ),
        Asked("max_thickness", "length", "The thickest that it is made"),
    ),
    BOLT: (
        Asked("Fnt", "stress", "Nominal tensile stress (Table J3.2)", True),
        Asked("Fnv_N", "stress", "Nominal shear stress, threads in the shear plane", True),
        Asked("Fnv_X", "stress", "Nominal shear stress, threads out of the shear plane", True),
        Asked("sizes", "", "Diameters, as of the shipped bolts", choices=("in", "mm")),
        Asked("pretension", "", "None, or as of a shipped group", choices=("none", "A325", "A490")),
    ),
    ROD: (
        Asked("fya", "stress", "Yield strength", True),
        Asked("futa", "stress", "Tensile strength", True),
        Asked("ductile", "", "A ductile steel element (ACI 318-19 2.3)", choices=("no", "yes")),
    ),
    ELECTRODE: (Asked("FEXX", "stress", "Classification strength of the filler metal", True),),
    SURFACE: (Asked("mu", "number", "Mean slip coefficient by tests (J3.9)", True),),
    SECTION: (
        Asked("shape", "", "What it is", True, SHAPES),
        Asked("d", "length", "Depth, diameter or long leg", True),
        _of_shapes("bf", "Flange width, width or short leg", "I", "channel", "rectangle", "angle"),
        _of_shapes("tw", "Web thickness", "I", "channel"),
        _of_shapes("tf", "Flange thickness", "I", "channel"),
        _of_shapes("wall", "Thickness of wall or leg", "rectangle", "round", "angle"),
        Asked("k", "length", "Outer face of the flange to the end of the fillet, where parts must clear more"),
        Asked("k1", "length", "Middle of the web to the end of the fillet, likewise"),
        Asked("radius", "length", "Outer corner radius, where not as usual"),
    ),
}
MOST = {"stress": 2000.0, "length": 3000.0, "number": 0.75}  # MPa, mm; a slip coefficient
_NAME = re.compile(r"[A-Za-z][A-Za-z0-9 .×x/-]{0,39}")
here: ContextVar[str] = ContextVar("job of the house that is worked at", default="")


@dataclass(frozen=True)
class Entry:
    """One of them: its values in the core's units (MPa, mm), words as they are; where it comes from, who approved it,
    and the job that alone may use it, or none."""

    kind: str
    name: str
    values: Mapping[str, Any]
    source: str = ""
    approved: str = ""
    job: str = ""
    retired: bool = False  # offered no more; what names it goes on

    @property
    def told(self) -> str:
        """In words on a result."""
        by = f", approved by {self.approved}" if self.approved else ""
        gone = "; it is retired" if self.retired else ""
        return f"{self.kind} {self.name} is not of the shipped tables: {self.source}{by}{gone}"


def read(kind: str, name: str, values: Mapping[str, Any]) -> dict[str, Any]:
    """The values of an entry in the core's units. Raises InputError with what is wrong."""
    if kind not in KINDS:
        raise InputError(f"'{kind[:30]}' is none of {', '.join(KINDS)}")
    if not _NAME.fullmatch(name) or (kind in (BOLT, ROD, GRADE, SURFACE) and " " in name):
        raise InputError(f"'{name[:40]}' cannot be its name: letters and figures, beginning with a letter")
    known = {asked.name: asked for asked in VALUES[kind]}
    if unknown := sorted(set(values) - set(known)):
        raise InputError(f"'{unknown[0][:30]}' is not known; a {kind} takes {', '.join(known)}")
    if missing := [a.name for a in VALUES[kind] if a.needed and values.get(a.name) in (None, "")]:
        raise InputError(f"{missing[0]} is missing")
    own: dict[str, Any] = {}
    for one, value in values.items():
        if value in (None, ""):
            continue
        asked = known[one]
        own[one] = _quantity(one, asked.quantity, value) if asked.quantity else value
        if asked.choices and value not in asked.choices:
            raise InputError(f"{one} is one of {', '.join(asked.choices)}")
    return _CHECKS[kind](own) if kind in _CHECKS else own


def _quantity(name: str, kind: str, value: Any) -> float:
    try:
        amount = parse(value, kind)
    except InputError as exc:
        raise InputError(f"{name}: {exc.words}") from exc
    if not 0 < amount <= MOST[kind]:
        raise InputError(f"{name}: {value} is more than nothing, and not as much as that")
    return amount


def _grade(own: dict[str, Any]) -> dict[str, Any]:
    if own["Fu"] <= own["Fy"]:
        raise InputError("Fu is not more than Fy")
    own.setdefault("use", "any")
    steps = own.get("steps", [])
    if isinstance(steps, str):
        steps = [_step(one) for one in steps.split(";") if one.strip()]
    if not isinstance(steps, list) or len(steps) > 12:
        raise InputError("steps is a list of {to: thickness, Fy: .., Fu: ..}, the thinnest first")
    read_steps, last = [], 0.0
    for step in steps:
        if not isinstance(step, Mapping) or set(step) != {"to", "Fy", "Fu"}:
            raise InputError("a step says to, Fy and Fu, like {to: 40 mm, Fy: 355 MPa, Fu: 490 MPa}")
        to = _quantity("to", "length", step["to"])
        Fy, Fu = (_quantity(n, "stress", step[n]) for n in ("Fy", "Fu"))
        if to <= last or Fu <= Fy:
            raise InputError("steps go up in thickness, each with Fu more than Fy")
        read_steps.append([to, Fy, Fu])
        last = to
    own["steps"] = read_steps
    return own


def _step(text: str) -> dict[str, str]:
    parts = [part.strip() for part in text.split(":")]
    if len(parts) != 3:
        raise InputError(f"'{text.strip()[:60]}': a step is thickness: Fy: Fu, like 40 mm: 355 MPa: 490 MPa")
    return dict(zip(("to", "Fy", "Fu"), parts, strict=True))


def _bolt(own: dict[str, Any]) -> dict[str, Any]:
    if not own["Fnv_N"] <= own["Fnv_X"] <= own["Fnt"]:
        raise InputError("Fnv_N is not more than Fnv_X, and that not more than Fnt")
    return {"sizes": "in", "pretension": "none"} | own


def _rod(own: dict[str, Any]) -> dict[str, Any]:
    if own["futa"] <= own["fya"]:
        raise InputError("futa is not more than fya")
    return {"ductile": "no"} | own


def _section(own: dict[str, Any]) -> dict[str, Any]:
    needs = {"I": ("bf", "tw", "tf"), "channel": ("bf", "tw", "tf"), "rectangle": ("bf", "wall"), "round": ("wall",),
             "angle": ("bf", "wall")}[own["shape"]]  # fmt: skip
    if missing := [one for one in needs if one not in own]:
        raise InputError(f"{missing[0]} is missing: {own['shape']} takes d, {', '.join(needs)}")
    thick = max(own.get("tf", 0.0), own.get("wall", 0.0))
    if 2 * thick >= own["d"] or own.get("tw", 0.0) >= own.get("bf", own["d"]):
        raise InputError("its walls are as thick as it is deep or wide")
    return own


_CHECKS = {
    GRADE: _grade,
    BOLT: _bolt,
    ROD: _rod,
    ELECTRODE: lambda own: own,
    SURFACE: lambda own: own,
    SECTION: _section,
}


class _Register:
    """What stands, by kind and name as it is looked up."""

    def __init__(self) -> None:
        self.version = 0
        self.entries: dict[tuple[str, str], Entry] = {}


_register = _Register()


def stand(entries: Iterable[Entry], version: int) -> None:
    """Let these stand in place of those before, as the `version` of them."""
    _register.entries = {(e.kind, key(e.name)): e for e in entries}
    _register.version = version


def version() -> int:
    """Which of them stand."""
    return _register.version


def find(kind: str, name: str) -> Entry | None:
    """The house's own of that name, where the job that is worked at may use it."""
    entry = _register.entries.get((kind, key(name)))
    return entry if entry is not None and entry.job in ("", here.get()) else None


def those(kind: str) -> list[Entry]:
    """All of a kind that are offered here."""
    own = [e for (of, _), e in _register.entries.items() if of == kind and e.job in ("", here.get())]
    return [e for e in own if not e.retired]
