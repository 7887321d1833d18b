"""A capacity table as a workbook: the lightest for each shear, then every candidate."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from handrail.core.quantities.units import WEIGHT
from handrail.interchange.sheet import as_sheets


def workbook(table: Mapping[str, Any], words: str) -> bytes:
    """The answer of a capacity table, in kip and lb or kN and kg; `words` say what it is of."""
    us = table["unit"] == "kip"
    weight, scale = WEIGHT["us" if us else "si"]
    names = list(dict.fromkeys(name for row in table["rows"] for name in row["values"]))
    candidates = [
        [
            row["section"],
            *(row["values"].get(n, "") for n in names),
            row["shear"],
            row["check"],
            round(row["steel"] * scale, 2),
            row["bolts"],
            row["why"],
        ]
        for row in table["rows"]
    ]
    sheets = [
        (
            "candidates",
            ["section", *names, f"V available ({table['unit']})", "governs", f"steel ({weight})", "bolts", "why not"],
            candidates,
        )
    ]
    if table["shears"]:
        head = ["section", *(f"{one['shear']:g} {table['unit']}" for one in table["shears"])]
        rows = [
            [
                name,
                *(one["sections"][name]["summary"] if name in one["sections"] else "none" for one in table["shears"]),
            ]
            for name in table["sections"]
        ]
        sheets.insert(0, ("lightest", head, rows))
    return as_sheets(
        [
            *sheets,
            (
                "what it is of",
                ["table"],
                [[words], ["beams in shear alone, by the checks of this service; verify what is used"]],
            ),
        ]
    )
