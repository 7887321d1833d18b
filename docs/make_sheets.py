"""`make screenshots` too: a sheet of each standard, of sizes of our own, as SVG into docs/sheets."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from handrail.core.checking.details import Subject
from handrail.core.checking.trial import read_trial
from handrail.core.drawing.sheets import Title
from handrail.core.standards import STANDARDS
from handrail.interchange.drawings.files import as_file

SHEETS = Path(__file__).parent / "sheets"
FIRM = ("Elm & Alder Detailing", "12 Wharf Lane, Riverton")
BEAM, COLUMN = {"section": "W18X40", "grade": "A992"}, {"section": "W14X61", "grade": "A992"}
GIRDER, TUBE = {"section": "W24X76", "grade": "A992"}, {"section": "HSS8X8X3/8", "grade": "A500C"}
FOOT = {
    "kind": "pedestal",
    "fc": "4.5 ksi",
    "thickness": "30 in",
    "edges": {"along": ["17 in", "17 in"], "across": ["16 in", "16 in"]},
}
PULL = [{"name": "A", "V": "30 kip"}]
TRIALS: dict[str, dict[str, Any]] = {
    "single_plate": {"framing": "beam_to_girder", "supported": BEAM, "support": GIRDER, "parameters": {"rows": 4}},
    "double_angle": {
        "framing": "beam_to_column_flange",
        "supported": BEAM,
        "support": COLUMN,
        "parameters": {"rows": 4},
    },
    "single_angle": {
        "framing": "beam_to_column_flange",
        "supported": BEAM,
        "support": COLUMN,
        "parameters": {"rows": 4, "support_side": "welded"},
    },
    "shear_end_plate": {
        "framing": "beam_to_column_web",
        "supported": BEAM,
        "support": COLUMN,
        "parameters": {"rows": 4},
    },
    "base_plate": {
        "framing": "column_base",
        "supported": COLUMN,
        "foundation": FOOT,
        "parameters": {
            "plate_length": "20 in",
            "plate_width": "18 in",
            "plate_thickness": "1-1/2 in",
            "rod": "1 F1554-36",
            "embedment": "18 in",
        },
        "actions": [{"name": "A", "N": "-200 kip", "V": "4 kip"}],
    },
    "beam_web_splice": {"framing": "beam_splice", "supported": GIRDER, "support": GIRDER, "parameters": {"rows": 5}},
    "beam_flange_splice": {
        "framing": "beam_splice",
        "supported": GIRDER,
        "support": GIRDER,
        "parameters": {"rows": 5, "flange_rows": 3},
    },
    "column_flange_splice": {
        "framing": "column_splice",
        "supported": {"section": "W14X53", "grade": "A992"},
        "support": COLUMN,
        "parameters": {},
        "actions": [{"name": "A", "N": "-150 kip"}],
    },
    "column_end_plate_splice": {
        "framing": "column_splice",
        "supported": TUBE,
        "support": TUBE,
        "parameters": {},
        "actions": [{"name": "A", "N": "-60 kip"}],
    },
}


def main() -> None:
    SHEETS.mkdir(exist_ok=True)
    assert set(TRIALS) == set(STANDARDS), set(TRIALS) ^ set(STANDARDS)
    for name, given in TRIALS.items():
        trial = read_trial({"code": "AISC 360-22", "method": "LRFD", "standard": name, "actions": PULL, **given})
        one = Subject(name, trial.standard.name, trial.situation, trial.sizes)
        title = Title(FIRM, "Alder Street Library", trial.standard.title, (("code", "AISC 360-22 LRFD"),))
        (SHEETS / f"{name}.svg").write_bytes(as_file([one], title, "svg", "ANSI-B", "us"))


if __name__ == "__main__":
    main()
