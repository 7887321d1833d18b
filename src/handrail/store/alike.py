"""Texts that many connections have alike, kept once: sizes above all, of which a building has a few hundred. A row has
their number where its text would be; who reads the view of connections sees the text."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable

from handrail.store.database import proxy, rows

COLUMNS = ("sizes", "brief", "notes")  # of connections; JSON, so that no text of theirs is a number
SHORT = 24  # characters that are kept where they are


def said(column: str, row: str) -> str:
    """What a column says (SQL), in the row called so."""
    own = f'{row}."{column}"'
    if column == "was":  # as it stood: JSON, with sizes in it
        sizes = f"json_extract({own}, '$.sizes')"
        return (
            f"CASE WHEN json_type({own}, '$.sizes') = 'integer' THEN json_set({own}, '$.sizes', json((SELECT text FROM"
            f" alike WHERE id = {sizes}))) ELSE {own} END"
        )
    if column not in COLUMNS:
        return own
    return f"CASE WHEN {own} GLOB '[0-9]*' THEN (SELECT text FROM alike WHERE id = {own}) ELSE {own} END"


def numbers_of(texts: Iterable[str]) -> dict[str, str]:
    """What rows have of these texts: a number, or a short one as it is. Inside the caller's transaction."""
    found = {text: text for text in texts}
    for text in found:
        if len(text) > SHORT:
            mark = hashlib.blake2b(text.encode(), digest_size=16).hexdigest()
            proxy.execute_sql("INSERT OR IGNORE INTO alike (mark, text) VALUES (?, ?)", (mark, text))
            found[text] = str(rows("SELECT id FROM alike WHERE mark = ?", mark)[0][0])
    return found
