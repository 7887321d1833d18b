"""What every shear end's drawing says of its support and of how the beam comes."""

from __future__ import annotations

import math

from handrail.core.drawing.lettering import Letter, shopwise
from handrail.core.drawing.scene import Point
from handrail.core.joint.situation import Situation
from handrail.core.parts.approach import Approach

NOTED = math.radians(0.5)


def support_left(situation: Situation) -> Point:
    """A point on the support's far side from the beam, below the plate: where its name points to. x is as far as it
    goes, but for a girder's flange."""
    s, low = situation.carrier.section, situation.supported.section.d
    if situation.framing == "beam_to_girder":
        return (-s.tw, situation.top_offset - 0.8 * s.d)
    if situation.framing == "beam_to_column_web":
        return (-s.tw / 2 - s.bf / 2, -low)
    return (-(s.bf if situation.face == "long" and s.d > s.bf else s.d), -low)


def rounded(situation: Situation, letter: Letter, unit: str) -> Letter:
    """How lengths are lettered that are no round ones where the beam comes at an angle."""
    at_angle = max(abs(situation.slope), abs(situation.skew)) > NOTED
    return shopwise(letter, unit) if at_angle else letter


def turned(situation: Situation, comes: Approach) -> list[str]:
    """Slope and how the end is cut, in words: the plan shows a skew, no view a slope; nothing where the beam comes
    square and level."""
    if max(abs(situation.slope), abs(situation.skew)) <= NOTED:
        return []
    slope = f"slope {math.degrees(abs(situation.slope)):.1f}°, drawn level"
    cut = "end cut square" if comes.square else "end cut parallel with support"
    return [slope, cut] if abs(situation.slope) > NOTED else [cut]
