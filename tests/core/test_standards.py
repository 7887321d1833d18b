"""What a standard declares is what the rest of the house uses: text, moves, what it carries, what it shares."""

from __future__ import annotations

from dataclasses import replace

import pytest

from handrail.core.checking.connection import check
from handrail.core.checking.remedy import find_remedies
from handrail.core.checking.trial import read_trial
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS, standard
from handrail.core.standards.sizes import Sized
from handrail.core.standards.standard import Changing, Move, Negligible
from tests.core.test_remedy import judged_by
from tests.worked.sheet import FLANGE, data, run

PLATE = STANDARDS["single_plate"]


def test_every_standard_declares_itself_whole():
    for s in STANDARDS.values():
        names = {p.name for p in s.parameters}
        assert set(s.brief) <= names and set(s.shared) <= names and {m.parameter for m in s.changing.moves} <= names
        assert (
            len(names) == len(s.parameters)
            and s.title
            and s.help
            and set(s.carries) <= {"N", "V", "Vw", "M", "Mw", "T"}
        )
        for p in s.parameters:
            assert p.label and (p.default is None or p.read(p.default) is not None)


def test_sizes_in_a_few_words():
    trial = read_trial(data(FLANGE))
    assert PLATE.summary(trial.sizes, "us") == "(4) 3/4 A325-N, PL 1/4 in"
    assert PLATE.summary(trial.sizes, "si") == "(4) 3/4 A325-N, PL 6.35 mm"


def test_what_is_negligible_is_the_standard_s_word():
    """The same moment fails one that lets nothing through and passes one that lets 100 kip*in through."""
    trial = read_trial(data(FLANGE, actions=[{"name": "A", "V": "20 kip", "M": "50 kip*in"}]))
    strict = check(PLATE, trial.situation, trial.sizes, trial.code, trial.actions)
    assert strict.status == "fail" and "which a single plate does not carry" in strict.reason
    lenient = replace(PLATE, negligible=lambda situation, sizes: {"M": Negligible("moment", 11.3e6)})
    assert check(lenient, trial.situation, trial.sizes, trial.code, trial.actions).status == "pass"


def test_a_remedy_makes_the_moves_that_the_standard_names():
    """60 kip on a 1/4 in. plate: with only thickness to change, it is thickness; with nothing to change, nothing."""
    trial = read_trial(data(FLANGE, actions=[{"name": "A", "V": "60 kip"}]))
    given = {n: s for n, s in trial.sizes.items() if s.source == "given"}

    def found(s):
        return find_remedies(s, trial.situation, given, frozenset(), judged_by(trial), 1)[0].remedies

    only = replace(PLATE, changing=Changing((Move("plate_thickness", lambda sizes, shop: [(1, 7.9375), (2, 9.525)]),)))
    assert [r.changes for r in found(only)] == [(("plate_thickness", 7.9375),)]
    assert found(replace(PLATE, changing=Changing(()))) == []


def test_every_check_says_its_code():
    assert {c["code"] for c in run(FLANGE)["checks"].values()} == {"AISC 360-22 LRFD"}
    assert {c["code"] for c in run(FLANGE, code="AISC 360-16", method="ASD")["checks"].values()} == {"AISC 360-16 ASD"}


def test_unknown_names():
    with pytest.raises(InputError, match="has no parameter 'colour'"):
        PLATE.parameter("colour")
    with pytest.raises(InputError, match="is not held"):
        standard("triple plate")
    assert PLATE.read({"rows": "3"}, "given")["rows"] == Sized(3, "given")


def test_sizes_kept_by_an_earlier_version_are_renewed():
    """It knew no `end_cut` and had a `colour`: the one is filled in, the other left out, the rest stays as it was
    kept."""
    trial = read_trial(data(FLANGE))
    kept = {n: s for n, s in trial.sizes.items() if n != "end_cut"} | {
        "colour": Sized("red", "given"),
        "gap": Sized(19.05, "geometry"),
    }
    renewed = PLATE.renewed(trial.situation, kept)
    assert renewed["end_cut"] == Sized("parallel", "default") and "colour" not in renewed
    assert renewed["gap"] == Sized(19.05, "geometry") and renewed["rows"] == trial.sizes["rows"]
