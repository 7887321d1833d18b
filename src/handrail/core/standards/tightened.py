"""Where bolts may not be left snug tight, whatever their force: what a person or a shop's practice says of their use."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.codes.aisc360 import Code
from handrail.core.limit_state import DetailingRule, never
from handrail.core.standards.sizes import Parameter, Sizes, text

WHY = {
    "reversal": "the bolting specification asks for pretension where loads turn round", "fatigue": "fatigue, by the bolting specification",
    "loosening": "vibration loosens snug bolts (J3.2)", "built_up": "ends of built-up members (E6)",
    "tall_building": "the shop pretensions these in buildings over 125 ft", "cranes": "the shop pretensions what carries cranes",
}  # fmt: skip
PRETENSION = Parameter("pretension", "choice", "Pretension asked for", "Why bolts may not be snug tight here: reversal, fatigue, loosening, built-up "
                       "members, or the shop's practice (over 125 ft, cranes)", "none", ("none", *WHY))  # fmt: skip
SIDES = ("tightening", "beam_tightening")


def pretensioned(sizes: Sizes, code: Code) -> Iterator[DetailingRule]:
    """Of each side of a connection that is bolted: snug bolts fail where pretension is asked for."""
    why = text(sizes, PRETENSION.name)
    if why == "none":
        return
    for name in (n for n in SIDES if n in sizes):
        yield never(name.replace("tightening", "pretension_asked"), "bolts", text(sizes, name) == "snug", f"snug bolts ({name}): {WHY[why]}",
                    code.clause("J3.2"))  # fmt: skip
