"""Look-ups forgive spelling and refuse what they do not hold; figures agree with published tables."""

import pytest

from handrail.core.catalogue import all_sections, bolt, electrode, grade, hole, section
from handrail.core.errors import UnknownName


@pytest.mark.parametrize("name", ["W16X31", "w16x31", "W 16 X 31", "W16×31", "w16*31"])
def test_spelling_is_forgiven(name):
    assert section(name).name == "W16X31"


@pytest.mark.parametrize(
    ("name", "held"),
    [
        ("HSS8X8X.500", "HSS8X8X1/2"),
        ("HSS 8 x 8 x 0.5", "HSS8X8X1/2"),
        ("HSS5.5X5.5X.188", "HSS5-1/2X5-1/2X3/16"),
        ("L4X4X.375", "L4X4X3/8"),
        ("HSS6.625X.28", "HSS6.625X0.280"),
        ("HEB 300", "HE300B"),
        ("pipe 6 std", "Pipe6STD"),
    ],
)
def test_sizes_are_written_in_more_than_one_way(name, held):
    assert section(name).name == held


@pytest.mark.parametrize(
    ("name", "held"),
    [
        ("ASTM A992", "A992"),
        ("A992Fy50", "A992"),
        ("A572 Grade 50", "A572-50"),
        ("A500GrC50", "A500C"),
        ("A500 Gr. B", "A500B"),
        ("A500GrB42", "A500B-round"),
        ("S355J2+N", "S355"),
        ("A913 Gr. 65", "A913-65"),
    ],
)
def test_grades_as_people_write_them(name, held):
    assert grade(name).name == held


@pytest.mark.parametrize("name", ["A9150", "A992Fy36", "A57", "S3550", "50", "HSS8X8"])
def test_grades_that_only_look_alike(name):
    with pytest.raises(UnknownName):
        grade(name)


def test_every_family_is_there():
    families = {s.family for s in all_sections()}
    assert families == {"W", "M", "S", "HP", "C", "MC", "WT", "L", "HSS_RECT", "HSS_ROUND", "PIPE", "IPE", "HEA", "HEB"}
    assert len({s.name for s in all_sections()}) == len(all_sections())


@pytest.mark.parametrize(
    ("name", "inches"),
    [
        ("W16X31", (15.9, 5.53, 0.275, 0.440)),
        ("W14X90", (14.0, 14.5, 0.440, 0.710)),
        ("C15X33.9", (15.0, 3.40, 0.400, 0.650)),
    ],
)
def test_published_dimensions(name, inches):
    s = section(name)
    assert (s.d / 25.4, s.bf / 25.4, s.tw / 25.4, s.tf / 25.4) == pytest.approx(inches)


def test_european_sections_are_in_mm():
    s = section("hea 200")
    assert (s.d, s.bf, s.tw, s.tf) == (190.0, 200.0, 6.5, 10.0)
    assert pytest.approx(5383, rel=0.002) == s.A


@pytest.mark.parametrize("name", ["W16X32", "", "beam", "HSS8X8X.4", "HSS8X8X1/0", "HSS8X8"])
def test_unknown_section_names_the_nearest(name):
    with pytest.raises(UnknownName, match="not in the catalogue"):
        section(name)


@pytest.mark.parametrize("name", ["3/4 A325-N", "3/4 in A325-N", '3/4" a325n', "0.75 A325 - N", "3/4 A325"])
def test_bolts(name):
    found = bolt(name)
    assert found.name == "3/4 A325-N"
    assert found.d == pytest.approx(19.05)
    assert found.Fnv == pytest.approx(54 * 6.894757, rel=1e-6)
    assert found.pretension == pytest.approx(28 * 4448.2216, rel=1e-6)


@pytest.mark.parametrize("name", ["M20 8.8", "11/16 A325-N", "A325-N", "3/4 A999-N", "3/4"])
def test_unknown_bolts(name):
    with pytest.raises(UnknownName):
        bolt(name)


def test_holes_of_table_j33():
    assert hole("STD", 19.05).along == pytest.approx(13 / 16 * 25.4)
    assert hole("STD", 25.4).along == pytest.approx(1.125 * 25.4)
    slot = hole("sslt", 19.05)
    assert (slot.along, slot.across) == (pytest.approx(13 / 16 * 25.4), pytest.approx(25.4))


def test_grades_and_electrodes():
    assert grade("a572 gr. 50").name == "A572-50"
    assert grade("A992").Fu == pytest.approx(65 * 6.894757, rel=1e-6)
    assert electrode("E70XX").name == "E70"
    for wrong in (grade, electrode):
        with pytest.raises(UnknownName, match="it has"):
            wrong("X1")
