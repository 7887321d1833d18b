"""Sections, grades, bolts, anchor rods, electrodes and holes: CSV data and typed look-ups."""

from handrail.core.catalogue.anchors import Rod, rod
from handrail.core.catalogue.bars import Bars, bars
from handrail.core.catalogue.bolts import Bolt, HoleSize, bolt, hole
from handrail.core.catalogue.grades import Electrode, Grade, electrode, grade
from handrail.core.catalogue.sections import Section, all_sections, angle, section, thicker_angles
from handrail.core.catalogue.shop import INCHES, MILLIMETRES, STOCKS, Shop
from handrail.core.catalogue.steel import Steel, grades_fit, plate_grade

__all__ = [
    "INCHES",
    "MILLIMETRES",
    "STOCKS",
    "Bars",
    "Bolt",
    "Electrode",
    "Grade",
    "HoleSize",
    "Rod",
    "Section",
    "Shop",
    "Steel",
    "all_sections",
    "angle",
    "bars",
    "bolt",
    "electrode",
    "grade",
    "grades_fit",
    "hole",
    "plate_grade",
    "rod",
    "section",
    "thicker_angles",
]
