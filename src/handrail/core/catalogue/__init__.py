"""Sections, grades, bolts, electrodes and holes: CSV data and typed look-ups."""

from handrail.core.catalogue.bolts import Bolt, HoleSize, bolt, hole
from handrail.core.catalogue.grades import Electrode, Grade, electrode, grade
from handrail.core.catalogue.sections import Section, all_sections, section

__all__ = [
    "Bolt",
    "Electrode",
    "Grade",
    "HoleSize",
    "Section",
    "all_sections",
    "bolt",
    "electrode",
    "grade",
    "hole",
    "section",
]
