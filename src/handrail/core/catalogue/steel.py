"""A section of a grade, and which grades exist as what."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.catalogue.grades import Grade, grade
from handrail.core.catalogue.sections import Section
from handrail.core.errors import InputError

E = 199_948.0  # MPa: 29,000 ksi


@dataclass(frozen=True)
class Steel:
    """One piece of a connection: its section and its grade."""

    section: Section
    grade: Grade

    @classmethod
    def of(cls, section: Section, grade: Grade) -> Steel:
        """As strong as the grade is in the thickest part of the section."""
        return cls(section, grade.at(max(section.tf, section.tw, section.wall)))


def grades_fit(section: Section, grade: Grade) -> str:
    """Why a grade does not go with a section; empty where it does."""
    if grade.use == "hollow" and not section.hollow:
        return f"{grade.name} is for hollow sections, {section.name} is not one"
    if grade.use == "shape" and section.hollow:
        return f"{grade.name} is for rolled shapes, {section.name} is hollow"
    return ""


def plate_grade(name: str) -> Grade:
    """The grade called `name`, of those that plates are made of. Raises InputError."""
    plate = grade(name)
    if plate.use != "any":
        raise InputError(
            f"{plate.name} is for {'hollow sections' if plate.use == 'hollow' else 'rolled shapes'}, not for plates; "
            "take A36 or A572-50"
        )
    return plate
