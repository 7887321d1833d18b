"""How bolts are tightened: snug, pretensioned, or slip-critical on faying surfaces of a class of the code's or of the
house's own (`slip_` and its name)."""

from __future__ import annotations

from handrail.core.catalogue.own import SURFACE, find, those
from handrail.core.errors import InputError

SLIP = "slip_"
TIGHTENING = ("snug", "pretensioned", f"{SLIP}a", f"{SLIP}b")


def offered() -> tuple[str, ...]:
    """What a house offers beside TIGHTENING: slip-critical on its own surfaces."""
    return tuple(SLIP + own.name.lower() for own in those(SURFACE))


def tightening(value: str) -> str:
    """One of TIGHTENING, or slip-critical on a surface of the house's own. Raises InputError."""
    text = value.strip().lower()
    if text in TIGHTENING or (text.startswith(SLIP) and find(SURFACE, text.removeprefix(SLIP)) is not None):
        return text
    raise InputError(f"'{value[:40]}' is none of {', '.join((*TIGHTENING, *offered()))}")


def is_slip_critical(tightened: str) -> bool:
    """Whether bolts tightened so hold by friction."""
    return tightened.startswith(SLIP)


def surface(tightened: str) -> str:
    """The faying surface of slip-critical bolts: A, B or one of the house's own."""
    return tightened.removeprefix(SLIP).upper()


def own_friction(name: str) -> float:
    """The slip coefficient of a surface of the house's own. Raises InputError where it is not found."""
    entry = find(SURFACE, name)
    if entry is None:
        raise InputError(f"faying surface '{name[:40]}' is not in the house's catalogue")
    return float(entry.values["mu"])
