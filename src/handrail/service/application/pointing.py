"""What a column map is made from by pointing: the tables in what was sent, what the map does not say yet, the house's
maps that fit."""

from __future__ import annotations

import tomllib
from dataclasses import asdict
from functools import lru_cache
from pathlib import Path
from typing import Any

from handrail.interchange.columnmap.finding import Source
from handrail.interchange.columnmap.fitting import misfits
from handrail.interchange.columnmap.pointing import choices, found_in, missing, shown, tables_of
from handrail.interchange.incoming import opened, propose
from handrail.store import maps


def sources_of(sent: Path, name: str) -> list[Source]:
    """Every table in what was sent."""
    return _sources(sent, name, sent.stat().st_mtime_ns)


@lru_cache(maxsize=8)
def _sources(sent: Path, name: str, _: int) -> list[Source]:
    with opened(sent, name) as folder:
        return found_in(folder)


def proposed_for(sent: Path, name: str) -> str:
    """The map that is proposed of what was sent: tried once, however often it is asked for."""
    return _proposed(sent, name, sent.stat().st_mtime_ns)


@lru_cache(maxsize=8)
def _proposed(sent: Path, name: str, _: int) -> str:
    return propose(sent, name)


def pointing_at(sent: Path, name: str, text: str) -> dict[str, Any]:
    """Everything that the map beside it is made from."""
    sources = sources_of(sent, name)
    return {
        "found": [asdict(f) for f in shown(sources, text)],
        "missing": [asdict(one) for one in missing(text)],
        "tables": tables_of(text),
        "stated": _stated(text),
        "maps": house_maps(sent, name),
        "choices": choices(),
    }


def _stated(text: str) -> dict[str, Any]:
    try:
        data = tomllib.loads(text)
    except (tomllib.TOMLDecodeError, RecursionError):
        return {}
    return {
        str(k): v if isinstance(v, dict) else str(v) for k, v in data.items() if k not in ("map", "tables", "lookups")
    }


def house_maps(sent: Path, name: str) -> list[dict[str, Any]]:
    """The house's maps, each with what does not fit, those that fit best first."""
    sources = sources_of(sent, name)
    listed = [
        {"name": own.name, "number": own.number, "note": own.note, "misfits": misfits(own.text, sources)}
        for own in maps.listed(maps.IN)
    ]
    return sorted(listed, key=lambda own: (len(own["misfits"]), own["name"]))
