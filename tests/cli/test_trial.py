"""`handrail trial` and the commands that need no service, run as a person would."""

from __future__ import annotations

import json

import pytest

from tests.cli.typed import typed as handrail

TRIAL = """\
code: AISC 360-22
method: LRFD
framing: beam_to_column_flange
standard: single_plate
supported: {section: W18X40, grade: A992}
support: {section: W14X61, grade: A992}
geometry: {skew: 0 deg, slope: 0 deg, top_offset: 0 in}
parameters: {bolt: 3/4 A325-N, rows: 3, plate_thickness: 1/4 in}
actions:
  - {name: 1.2D+1.6L, V: 37 kip}
  - {name: 1.2D+1.0W, V: 26 kip, N: 5 kip}
"""


def test_trial_as_json():
    done = handrail("trial", "-", "--json", text=TRIAL)
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout)
    assert set(found) >= {"status", "utilisation", "governing", "parameters", "checks", "detailing", "notes"}
    # Anv = 1/4 (8.5 - 3 x 0.875) = 1.469: 0.75 x 0.6 x 58 x 1.469 = 38.33 kip for 37 kip
    assert found["utilisation"] == pytest.approx(37 / 38.33, rel=1e-3)
    assert found["governing"] == {"check": "plate_shear_rupture", "action": "1.2D+1.6L"}
    assert found["parameters"]["rows"] == {"value": 3, "source": "given"}
    assert found["parameters"]["pitch"] == {"value": "3 in", "source": "default"}
    check = next(c for c in found["checks"] if c["check"] == "plate_shear_rupture")
    assert (check["demand"], check["strength"], check["unit"]) == (
        pytest.approx(164.6, abs=0.05),
        pytest.approx(170.5, abs=0.05),
        "kN",
    )
    rule = next(r for r in found["detailing"] if r["rule"] == "edge_distance")
    assert (rule["given"], rule["limit"], rule["unit"], rule["ok"]) == (38.1, 25.4, "mm", True)


def test_trace_and_table():
    done = handrail("trial", "-", "--trace", text=TRIAL)
    assert done.returncode == 0
    assert "0.60 Fu Anv" in done.stdout and "38.33 kip" in done.stdout and "J4-4" in done.stdout
    traced = json.loads(handrail("trial", "-", "--json", "--trace", text=TRIAL).stdout)
    assert any("0.60 Fu Anv" in line for c in traced["checks"] for line in c["lines"])


def test_json_is_yaml_too():
    as_json = {
        "framing": "beam_to_girder",
        "standard": "single_plate",
        "supported": {"section": "W18X40", "grade": "A992"},
        "support": {"section": "W24X68", "grade": "A992"},
        "actions": [{"V": "90 kip"}],
    }
    done = handrail("trial", "-", "--json", text=json.dumps(as_json))
    assert done.returncode == 1  # it fails its checks
    assert json.loads(done.stdout)["status"] == "fail"


def test_a_moment_on_a_shear_connection_fails_and_names_the_amount():
    done = handrail("trial", "-", text=TRIAL + "  - {name: 1.4D, V: 10 kip, M: 20 kip*ft}\n")
    assert done.returncode == 1
    assert "uncarried_M" in done.stdout and "1.4D" in done.stdout and "240 kip*in" in done.stdout


@pytest.mark.parametrize(
    ("wrong", "right", "words"),
    [
        ("W18X40", "W18X41", "supported: section 'W18X41' is not in the catalogue; nearest"),
        ("A992}", "A999}", "grade 'A999' is not in the catalogue"),
        ("single_plate", "triple_plate", "standard 'triple_plate' is not held"),
        ("360-22", "360-05", "code 'AISC 360-05' is not held"),
        ("LRFD", "WSD", "method 'WSD' is none of LRFD, ASD"),
        ("beam_to_column_flange", "column_base", "framing: single_plate goes with"),
        ("rows: 3", "row: 4", "no parameter 'row'"),
        ("rows: 3", "rows: four", "rows: 'four' is not a whole number"),
        ("1/4 in}", "1/4}", "plate_thickness: '1/4' needs a unit of length"),
        ("V: 37 kip", "V: 37", "actions[1] (1.2D+1.6L): '37' needs a unit of force"),
        ("V: 37 kip", "V: 37 in", "is not a unit of force"),
        ("V: 37 kip", "Q: 37 kip", "'Q' is not known"),
        ("skew: 0 deg", "skew: 0 kip", "geometry.skew"),
        ("W14X61, grade: A992", "HSS8X8X1/2, grade: A500C", "does not go with beam_to_column_flange"),
        ("actions:", "acts:", "'acts' is not known"),
        ("code:", "code: [", "not YAML"),
    ],
)
def test_bad_trials_say_where(wrong, right, words):
    done = handrail("trial", "-", text=TRIAL.replace(wrong, right, 1))
    assert done.returncode == 2
    assert words in done.stderr and done.stderr.count("\n") == 1, done.stderr


def test_what_cannot_be_checked_is_unchecked_not_passed():
    done = handrail("trial", "-", "--json", text=TRIAL.replace("skew: 0 deg", "skew: 50 deg"))
    found = json.loads(done.stdout)
    assert (done.returncode, found["status"]) == (1, "unchecked")
    assert any("skew of 50 deg" in note for note in found["notes"])
    forced = TRIAL.replace("rows: 3", "rows: 3, configuration: conventional, gap: 6 in")
    assert json.loads(handrail("trial", "-", "--json", text=forced).stdout)["status"] == "unchecked"


def test_sections_and_standards():
    assert "W18X40" in handrail("sections", "w18x").stdout
    assert json.loads(handrail("sections", "HE200A", "--json").stdout)[0]["d"] == 190.0
    assert handrail("sections", "nothing").returncode == 2
    assert "beam_edge_distance" in handrail("standards", "single_plate").stdout


def test_wrong_use():
    assert handrail("trail").returncode == 2
    assert handrail("trial", "no-such-file.yaml").returncode == 2
    done = handrail("jobs", "--server", "http://127.0.0.1:9")
    assert done.returncode == 2 and "is the service running" in done.stderr


def test_unfactored_cases_by_place():
    """North: 1.2 x 12 + 1.6 x 21 = 48 kip; south: 1.2 x 10 + 1.6 x 23 = 48.8 kip governs at 48.8/38.33."""
    cases = (
        "cases: {north: {D: {V: 12 kip}, L: {V: 21 kip}}, south: {D: {V: 10 kip}, L: {V: 23 kip}}}\ncombinations: ASCE"
        " 7-22\n"
    )
    text = TRIAL.split("actions:", maxsplit=1)[0] + cases
    found = json.loads(handrail("trial", "-", "--json", text=text).stdout)
    assert found["governing"] == {"check": "plate_shear_rupture", "action": "1.2D+1.6L", "place": "south"}
    assert found["utilisation"] == pytest.approx(48.8 / 38.33, rel=1e-3)
    asd = json.loads(handrail("trial", "-", "--json", text=text.replace("LRFD", "ASD")).stdout)
    assert asd["utilisation"] == pytest.approx(33 / 25.56, rel=1e-3)  # D + L at both places: 33 kip
    assert asd["governing"]["action"] == "1D+1L"
    assert "is none of D, L" in handrail("trial", "-", text=text.replace("{D:", "{dead:")).stderr
    assert "is not held" in handrail("trial", "-", text=text.replace("7-22", "7-10")).stderr
    assert "not both" in handrail("trial", "-", text=TRIAL + cases).stderr


def test_asce_combinations():
    from handrail.core.codes.asce7 import combinations

    assert set(combinations("LRFD", {"D"})) == {"1.4D", "1.2D", "0.9D"}
    with_wind = combinations("LRFD", {"D", "W"})
    assert with_wind["0.9D-1W"] == {"D": 0.9, "W": -1.0} and "1.2D+0.5W" in with_wind
    assert combinations("LRFD", {"D", "L", "E", "Ev", "S"})["1.2D+1Ev-1E+1L+0.15S"]["E"] == -1.0
    assert combinations("ASD", {"D", "L", "W", "Lr"})["1D+0.75L-0.45W+0.75Lr"]["Lr"] == 0.75
