"""Reads a bundle's manifest: what its author states, and which file is which table."""

from __future__ import annotations

import json
import math
from pathlib import Path, PurePosixPath
from typing import Any

from handrail.core.catalogue.lateral import CATEGORIES
from handrail.core.errors import InputError
from handrail.core.quantities import units
from handrail.interchange.archive import MANIFEST
from handrail.interchange.problems import BundleError, Problem, Problems
from handrail.interchange.tables import TABLES

UNIT_KINDS = {"length": "length", "section": "length", "force": "force", "moment": "moment"}
MAY_BE = {"stress": "stress"}  # where a table needs it
# up -> the model's axis that local y of a vertical member points along -> the angle from global X to it, rightward
# about up, rad
VERTICAL_Y = {
    "Z": {"X": 0.0, "Y": math.pi / 2, "-X": math.pi, "-Y": -math.pi / 2},
    "Y": {"X": 0.0, "-Z": math.pi / 2, "-X": math.pi, "Z": -math.pi / 2},
}


def read_manifest(folder: Path, problems: Problems) -> tuple[dict[str, Any], dict[str, Path]]:
    try:
        manifest = json.loads((folder / MANIFEST).read_text(encoding="utf-8"))
    except (OSError, ValueError, RecursionError) as exc:
        raise BundleError([Problem(MANIFEST, f"is not readable JSON ({exc})")]) from exc
    if not isinstance(manifest, dict) or not isinstance(manifest.get("handrail"), dict):
        raise BundleError([Problem(MANIFEST, "has no 'handrail' object with bundle, units, up and forces")])
    _statements(manifest["handrail"], problems)
    return manifest, _files(folder, manifest.get("resources"), problems)


def _statements(hand: dict[str, Any], problems: Problems) -> None:
    if hand.get("bundle") != 1:
        problems.add(MANIFEST, f"handrail.bundle is {hand.get('bundle')!r}; this service reads version 1")
    stated = hand.get("units")
    given: dict[str, Any] = stated if isinstance(stated, dict) else {}
    for name, kind in (UNIT_KINDS | MAY_BE).items():
        if name not in given:
            if name in MAY_BE:
                continue
            problems.add(MANIFEST, f"handrail.units.{name} is missing; state it, like {units.SHOWN['us'][kind][0]}")
            continue
        try:
            units.factor(str(given[name]), kind)
        except InputError as exc:
            problems.add(MANIFEST, f"handrail.units.{name}: {exc}")
    for name, choices in (("up", ("Z", "Y")), ("forces", ("internal", "on_member"))):
        if hand.get(name) not in choices:
            problems.add(MANIFEST, f"handrail.{name} is {hand.get(name)!r}; state {' or '.join(choices)}")
    toward = VERTICAL_Y.get(str(hand.get("up")), {})
    if toward and str(hand.get("vertical_y", "X")) not in toward:
        problems.add(
            MANIFEST,
            f"handrail.vertical_y is {hand['vertical_y']!r}; state {', '.join(toward)}: the way that local y of"
            " vertical members points",
        )
    try:
        north_of(hand)
    except (TypeError, ValueError):
        problems.add(
            MANIFEST,
            f"handrail.north is {hand['north']!r}; state the degrees that north is to the left of the plan's y axis, or"
            " leave it out",
        )
    if str(hand.get("seismic_design_category") or "A") not in CATEGORIES:
        problems.add(
            MANIFEST,
            f"handrail.seismic_design_category is {hand['seismic_design_category']!r}; state {', '.join(CATEGORIES)},"
            " or leave it out",
        )
    if hand.get("forces_at", "node") not in ("node", "offset"):
        problems.add(MANIFEST, f"handrail.forces_at is {hand['forces_at']!r}; state node or offset")


def north_of(hand: dict[str, Any]) -> float | None:
    """Rad that north is to the left of the plan's y axis; None where it is not stated. Raises ValueError, TypeError."""
    if hand.get("north") is None:
        return None
    degrees = float(hand["north"])
    if not abs(degrees) <= 360:
        raise ValueError(degrees)
    return math.radians(degrees)


def _files(folder: Path, resources: Any, problems: Problems) -> dict[str, Path]:
    files: dict[str, Path] = {}
    for entry in resources if isinstance(resources, list) else []:
        name, path = (str(entry.get(k, "")) for k in ("name", "path")) if isinstance(entry, dict) else ("", "")
        place = PurePosixPath(path.replace("\\", "/"))
        if not name or not path:
            problems.add(MANIFEST, f"a resource needs name and path, not {entry!r}")
        elif not f"{name}{path}".isprintable():
            problems.add(MANIFEST, f"resource {name!r}: its name and path {path!r} hold characters that cannot be seen")
        elif place.is_absolute() or ".." in place.parts:
            problems.add(MANIFEST, f"resource {name}: path '{path}' leaves the bundle")
        elif not (folder / place).is_file():
            problems.add(path, f"not found, though {MANIFEST} lists it as {name}")
        elif name in files:
            problems.add(MANIFEST, f"resource {name} is listed twice; which file it is cannot be told")
        else:
            files[name] = folder / place
    for path in unlisted(folder, files):
        if Path(path).stem.lower() in TABLES and Path(path).stem.lower() not in files:
            problems.add(
                path, f"lies in the bundle, but {MANIFEST} does not list it; list it under resources, or take it out"
            )
    for table in TABLES.values():
        if (
            table.required
            and table.name not in files
            and not any(p.file == f"{table.name}.csv" for p in problems.found)
        ):
            problems.add(MANIFEST, f"table {table.name} is missing from resources")
    return files


def unlisted(folder: Path, files: dict[str, Path]) -> list[str]:
    """CSV files that lie in the bundle and that the manifest does not name."""
    named = {path.resolve() for path in files.values()}
    there = (p for p in folder.rglob("*") if p.suffix.lower() == ".csv" and p.is_file() and p.resolve() not in named)
    inside = (p.relative_to(folder) for p in there)
    return sorted(p.as_posix() for p in inside if not any(part.startswith((".", "__MACOSX")) for part in p.parts))
