"""Proposes a first map from the files themselves: which table is which, each column with a reason, and how forces are
meant by what statics says of each answer. To be looked at, not trusted: what is not stated anywhere, and that nothing
answers, is asked for with a question mark."""

from __future__ import annotations

from pathlib import Path

from handrail.interchange.columnmap.drafts import Whole, text_of
from handrail.interchange.columnmap.finding import sources_in
from handrail.interchange.columnmap.language import ASK
from handrail.interchange.columnmap.recognising import Recognised
from handrail.interchange.columnmap.trying import answer


def proposed(root: Path) -> str:
    """A map in TOML for the tables in a folder."""
    return text_of(drafted(root))


def drafted(root: Path) -> Whole:
    """The map as a draft: what is recognised, and what statics says."""
    whole = Recognised(sources_in(root)).all()
    whole.stated = {"title": "", "up": "Z", "forces": ASK, "vertical_y": "X"}
    whole.why |= {
        "up": "or Y",
        "forces": "internal (the section's resultant) or on_member (what the node does to the end)",
        "vertical_y": "the global axis that the web of a column without roll lies along",
    }
    if whole.table("nodes") and whole.table("members") and whole.table("end_forces"):
        answer(whole, root)
    return whole
