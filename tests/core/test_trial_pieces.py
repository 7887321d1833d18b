"""A trial's pieces by role: the short form and the list say the same, and what does not go together is refused."""

from __future__ import annotations

from typing import Any

import pytest
import yaml

from handrail.core.checking.trial import read_trial
from tests.bundles import DEMO
from tests.core.test_odd_trials import refused
from tests.worked.sheet import FLANGE, GIRDER, HOLLOW, WEB, data

OF_PIECE = {
    "skew": ("supported", "skew"),
    "slope": ("supported", "slope"),
    "top_offset": ("supported", "offset"),
    "face": ("supported", "face"),
    "support_end": ("support", "ends_here"),
}
OF_ROLE = {"V_opposed": ("opposite", "V"), "N_opposed": ("opposite", "N"), "N_support": ("support", "N")}
EXAMPLES = [yaml.safe_load(p.read_text()) for p in sorted((DEMO.parents[2] / "docs/examples").glob("*.yaml"))]
TRIALS = [e for e in EXAMPLES if "supported" in e and "sweep" not in e] + [
    data(
        GIRDER,
        geometry={"skew": "20 deg", "slope": "-5 deg", "top_offset": "1 in", "support_end": True},
        actions=[{"V": "40 kip", "V_opposed": "30 kip", "N_opposed": "4 kip"}],
    ),
    data(FLANGE, **WEB, geometry={"opposed": True}),
    data(FLANGE, **HOLLOW, actions=[{"V": "30 kip", "N": "5 kip", "N_support": "-120 kip"}]),
]


def listed(trial: dict[str, Any]) -> dict[str, Any]:
    """The same trial with its pieces in a list, and forces by role."""
    found = {k: v for k, v in trial.items() if k not in ("supported", "support", "geometry")}
    pieces = {role: {"role": role} | trial[role] for role in ("support", "supported") if role in trial}
    left = dict(trial.get("geometry") or {})
    for short, (role, name) in OF_PIECE.items():
        if short in left:
            pieces[role][name] = left.pop(short)
    found |= {"pieces": list(pieces.values())} | ({"geometry": left} if left else {})
    if "actions" in found and isinstance(found["actions"], list):
        found["actions"] = [by_role(entry) for entry in found["actions"]]
    return found


def by_role(entry: dict[str, Any]) -> dict[str, Any]:
    found = {k: v for k, v in entry.items() if k not in OF_ROLE}
    for short, (role, name) in OF_ROLE.items():
        if short in entry:
            found.setdefault(role, {})[name] = entry[short]
    return found


@pytest.mark.parametrize("trial", TRIALS, ids=range(len(TRIALS)))
def test_the_list_and_the_short_form_are_one(trial):
    """Whichever comes first in the list; sizes, checks, worked lines and verdict."""
    long = listed(trial)
    assert "pieces" in long and "supported" not in long
    one, other = read_trial(trial), read_trial(long)
    assert one.situation == other.situation
    assert one.answer(one.run(True), "si", True) == other.answer(other.run(True), "si", True)


LONG = listed(GIRDER)
SUPPORTED, SUPPORT = (p for p in sorted(LONG["pieces"], key=lambda p: p["role"], reverse=True))


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"supported": GIRDER["supported"]}, "supported: it is short for a piece; give it there or in pieces"),
        ({"geometry": {"skew": "5 deg"}}, "geometry.skew: with pieces, it is said of one: {role: supported, skew:"),
        ({"geometry": {"support_end": True}}, "{role: support, ends_here:"),
        ({"pieces": {"supported": SUPPORTED}}, "pieces: give a list"),
        ({"pieces": [SUPPORTED]}, "pieces: none is support; add {role: support"),
        ({"pieces": [SUPPORTED, SUPPORT, SUPPORT]}, "pieces[3].role: there is a piece in the role support already"),
        ({"pieces": [SUPPORTED, SUPPORT | {"role": "brace"}]}, "pieces[2].role: 'brace' is none of supported, support"),
        ({"pieces": [SUPPORTED, {"section": "W18X50", "grade": "A992"}]}, "pieces[2].role: '' is none of"),
        ({"pieces": [SUPPORTED, SUPPORT | {"skew": "3 deg"}]}, "pieces[2]: 'skew' is not known"),
        ({"pieces": [SUPPORTED | {"skew": "3 ft"}, SUPPORT]}, "pieces[1].skew"),
        ({"pieces": [SUPPORTED | {"offset": None}, SUPPORT]}, "pieces[1].offset is empty"),
        ({"pieces": [SUPPORTED, SUPPORT | {"ends_here": "yes"}]}, "pieces[2].ends_here: write true or false"),
        ({"pieces": [SUPPORTED | {"face": "long"}, SUPPORT]}, "pieces[1].face: W21X62 has no faces to tell apart"),
        ({"pieces": [SUPPORTED | {"section": "W18X51"}, SUPPORT]}, "pieces[1]: "),
        ({"actions": [{"V": "9 kip", "opposite": {"M": "3 kip-ft"}}]}, "actions[1] (1).opposite: 'M' is not known"),
        ({"actions": [{"V": "9 kip", "opposite": "3 kip"}]}, "actions[1] (1).opposite: expected a mapping"),
        ({"actions": [{"V": "9 kip", "opposite": {"V": None}}]}, "V_opposed is empty"),
        (
            {"actions": [{"V": "9 kip", "V_opposed": "3 kip", "opposite": {"V": "3 kip"}}]},
            "V_opposed is opposite's V, which is given too",
        ),
    ],
)
def test_what_does_not_go_together_is_refused_with_where(more, words):
    assert words in refused({"parameters": {}} | LONG, **more)


SPLICE = {
    "framing": "beam_splice",
    "standard": "beam_web_splice",
    "supported": {"section": "W18X50", "grade": "A992"},
    "support": {"section": "W18X50", "grade": "A992"},
    "parameters": {},
    "actions": [{"V": "20 kip"}],
}


def test_pieces_of_a_splice_are_in_one_line():
    long = listed(SPLICE)
    long["pieces"][-1]["skew"] = "3 deg"
    assert "are in one line; leave it out" in refused({"parameters": {}} | long)
