"""Room for a wrench at a pair's bolts in the support, or one angle's: past the heads of the beam's bolts on one side of
its web, past their nuts and shanks on the other."""

from __future__ import annotations

import math
from collections.abc import Iterator

from handrail.core.catalogue import angle, bolt, hole
from handrail.core.joint.situation import Situation
from handrail.core.parts.wrench import HEAD, NUT, socket_room, wrench_room
from handrail.core.solids.washers import thickness
from handrail.core.standards.shear_end.parameters import support_thickness
from handrail.core.standards.shear_end.wrenching import sides
from handrail.core.standards.sizes import Sizes, length, text


def rooms(
    situation: Situation,
    sizes: Sizes,
    lines: int,
    gauge: float,
    drop: float,
    above: float = math.inf,
    below: float = math.inf,
) -> Iterator[tuple[float, str, str]]:
    """(room, the side that it is on, what stands near there) of each line of bolts at `gauge` mm from the heel, `drop`
    below the beam's bolts: what the shop put in first, heads on the first line, nuts on the second; turned round at the
    beam opposite."""
    t, tw, own = angle(text(sizes, "angle")).wall, situation.supported.section.tw, bolt(text(sizes, "bolt"))
    held = text(sizes, "beam_side") == "bolted"
    stands = _beams_bolts(sizes, lines, t, tw) if held else {"the web": 0.0}
    off = max(drop - NUT * bolt(text(sizes, "beam_bolt")).d, 0.0) if held else 0.0
    past = {name: _past(gauge - t, out, off) for name, out in stands.items()}
    names = list(past) if lines == 2 or not held else ["heads"]
    through = (2 if situation.opposed else 1) * t + support_thickness(situation)
    for name in names if held else ["the web"]:
        other = next((n for n in past if n != name), name)
        near, far = sides(situation, gauge + tw / 2, past[name], past[other], above, below)
        room, side = wrench_room(near, far, own, through)
        yield room, side, name if side != "far" else other


def _beams_bolts(sizes: Sizes, lines: int, t: float, tw: float) -> dict[str, float]:
    """How far they stand out of the legs, or of a leg and the web, on the side of their heads and on the other."""
    own, how = bolt(text(sizes, "beam_bolt")), text(sizes, "beam_tightening")
    leg, last = (hole(text(sizes, name), own.d) for name in ("hole", "hole" if lines == 2 else "web_hole"))
    head = thickness(own, max(leg.along, leg.across), how, False)
    nut = thickness(own, max(last.along, last.across), how, how != "snug")
    grip = lines * t + tw
    return {"heads": head + HEAD * own.d, "nuts": own.length(head + grip + nut) - head - grip}


def _past(clear: float, out: float, off: float) -> float:
    """From a bolt to what stands `out` from the leg, `off` along it."""
    level = clear - out
    return min(math.hypot(level, off), clear) if level > 0 else level


def fits(situation: Situation, sizes: Sizes, gauge: float, drop: float) -> bool:
    """Whether a wrench goes to both lines of a pair."""
    if text(sizes, "support_side") != "bolted":
        return True
    needed = socket_room(bolt(text(sizes, "bolt")), length(sizes, "socket"))
    return all(room >= needed - 1e-6 for room, _, _ in rooms(situation, sizes, 2, gauge, drop))
