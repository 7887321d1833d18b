"""A connection alone that many tests begin with: a tab of four rows at a column's flange."""

from __future__ import annotations

TAB = {
    "framing": "beam_to_column_flange",
    "standard": "single_plate",
    "supported": {"section": "W16X36", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "parameters": {"rows": 4, "plate_thickness": "3/8 in"},
    "actions": [{"name": "1", "V": "40 kip"}],
}
