"""Entries of a trial file, each read with where it stands in what is wrong with it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from handrail.core.errors import InputError
from handrail.core.quantities import units


def parsed(value: Any, kind: str, where: str) -> float:
    """A quantity, in the core's unit of `kind`."""
    try:
        return units.parse(value, kind)
    except InputError as exc:
        raise InputError(f"{where}: {exc.words}") from exc


def quantity(entry: Mapping[str, Any], name: str, kind: str, where: str = "geometry") -> float:
    """A quantity that may be left out, 0 then."""
    return amount(entry.get(name, 0), kind, f"{where}.{name}")


def amount(value: Any, kind: str, where: str) -> float:
    """A quantity that is given."""
    if value is None:
        raise InputError(f"{where} is empty; give its amount, or leave it out")
    return parsed(value, kind, where)


def text(data: Mapping[str, Any], name: str, default: str) -> str:
    """Text that may be left out."""
    if name in data and data[name] is None:
        raise InputError(f"{name} is empty; leave it out for {default}, or give it")
    return str(data.get(name, default))


def mapping(value: Any, where: str) -> Mapping[str, Any]:
    """A mapping; geometry and parameters may be nothing."""
    if value is None and where in ("geometry", "parameters"):
        return {}
    if not isinstance(value, Mapping):
        raise InputError(f"{where}: expected a mapping, got {'nothing' if value is None else repr(value)}")
    return value


def need(data: Mapping[str, Any], name: str, sample: str) -> Any:
    """What has to be there, with a sample of it."""
    if data.get(name) is None:
        raise InputError(f"{name} is missing; give {sample}")
    return data[name]


def known(data: Mapping[str, Any], names: set[str], where: str) -> None:
    """Refuse entries that are not known."""
    if unknown := [str(k) for k in data if k not in names]:
        raise InputError(f"{where}: '{unknown[0]}' is not known; it takes {', '.join(sorted(names))}")


def flag(entry: Mapping[str, Any], name: str, where: str = "geometry") -> bool | None:
    """true, false, or nothing said."""
    return truth(entry[name], f"{where}.{name}") if name in entry else None


def truth(value: Any, where: str) -> bool:
    """true or false."""
    if not isinstance(value, bool):
        raise InputError(f"{where}: write true or false, not {value!r}")
    return value


def choice(entry: Mapping[str, Any], name: str, choices: tuple[str, ...], where: str) -> str:
    """One of some words, empty where nothing is said."""
    if name not in entry:
        return ""
    value = str(entry[name]).strip().lower()
    if value not in choices:
        raise InputError(f"{where}.{name}: '{entry[name]}' is none of {', '.join(choices)}")
    return value
