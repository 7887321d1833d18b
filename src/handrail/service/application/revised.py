"""What a revision of the model made of every connection: as it stood before beside how it stands now."""

from __future__ import annotations

from typing import Any

from handrail.store.models import Connection, Job, Revision

_SHOWN = (
    "key",
    "place",
    "framing",
    "status",
    "utilisation",
    "check_name",
    "summary",
    "section",
    "released",
    "reason",
    "sizes",
    "standard",
    "was",
)


def items(job: Job, revision: Revision) -> list[dict[str, Any]]:
    """Every connection with what became of it, and those that are gone; none where there was no revision before."""
    if revision.number == 1:
        return []
    items = [
        _item(c)
        for c in (
            Connection.select(*(getattr(Connection, n) for n in _SHOWN))
            .where(Connection.job == job)
            .order_by(Connection.id)
        )
    ]
    gone = Revision.select(Revision.gone).where(Revision.id == revision.id).scalar() or []
    items += [
        {
            "connection": g["key"],
            "place": g["place"],
            "framing": g["framing"],
            "what": "gone",
            "now": None,
            "reason": "",
            "before": _stood(g | {"check": ""}),
        }
        for g in gone
    ]
    return items


def _item(c: Connection) -> dict[str, Any]:
    now = {
        "status": c.status,
        "utilisation": c.utilisation,
        "check": c.check_name,
        "summary": c.summary,
        "section": c.section,
        "released": c.released,
    }
    before = None if c.was is None else _stood(c.was) | {"revision": c.was["revision"]}
    return {
        "connection": c.key,
        "place": c.place,
        "framing": c.framing,
        "what": _what(c),
        "before": before,
        "now": now,
        "reason": c.reason,
    }


def _stood(was: dict[str, Any]) -> dict[str, Any]:
    return {name: was[name] for name in ("status", "utilisation", "check", "summary", "section", "released")}


def _what(c: Connection) -> str:
    if c.was is None:
        return "new"
    if c.stale:
        return "stale"
    if c.status == "fail":
        return "still fails" if c.was["status"] == "fail" else "fails"
    if c.status != "pass":
        return str(c.status)
    if c.was["status"] != "pass":
        return "passes now"
    same = c.was["standard"] == c.standard and _values(c.was["sizes"]) == _values(c.sizes)
    return "stands" if same else "resized"


def _values(sizes: dict[str, list[Any]]) -> dict[str, Any]:
    return {name: kept[0] for name, kept in sizes.items()}
