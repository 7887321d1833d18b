"""A toy standard as docs/guides.md makes one: a tab welded to a column's flange, for a shear alone."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.catalogue import electrode, grade
from handrail.core.codes.family import Code
from handrail.core.drawing.scene import Laid, View
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, shear
from handrail.core.parts.fillet_pair import FilletPair
from handrail.core.quantities.units import INCH, show
from handrail.core.solids.axes import Axes, X, Y, Z
from handrail.core.solids.drawn import ALL, Seen
from handrail.core.solids.pieces import Bar, Plate, Solids
from handrail.core.solids.profiles import profile
from handrail.core.standards.sizes import PIECE, Parameter, Sizes, Value, completed, length, text
from handrail.core.standards.standard import Changing, Examined, Negligible, Standard, more_of

PARAMETERS = (
    Parameter(PIECE, "plate_thickness", "length", "Tab thickness", "", "1/4 in", low=3, high=60),
    Parameter(PIECE, "plate_grade", "plate_grade", "Tab grade", "", "A36"),
    Parameter(PIECE, "plate_depth", "length", "Tab depth", "Along the shear", None, low=20, high=3000),
    Parameter(PIECE, "weld_size", "length", "Weld size", "Fillet on each side of the tab", "1/4 in", low=2, high=40),
    Parameter(PIECE, "electrode", "electrode", "Electrode", "", "E70"),
)
LITTLE = {
    **dict.fromkeys(("N", "Vw"), Negligible("force", 40e3)),
    **dict.fromkeys(("M", "Mw", "T"), Negligible("moment", 5e6)),
}
FOLLOWS = {"plate_depth": lambda situation, sizes: situation.supported.section.d / 2}


def complete(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter with its source."""
    return completed(PARAMETERS, FOLLOWS, situation, given)


def _weld(situation: Situation, sizes: Sizes) -> FilletPair:
    return FilletPair(
        size=length(sizes, "weld_size"),
        length=length(sizes, "plate_depth"),
        electrode=electrode(text(sizes, "electrode")),
        t=length(sizes, "plate_thickness"),
        grade=grade(text(sizes, "plate_grade")),
        support_t=situation.carrier.section.tf,
    )


def _rules(situation: Situation, sizes: Sizes, code: Code) -> Iterator[DetailingRule]:
    least = code.welds.min_size(min(length(sizes, "plate_thickness"), situation.carrier.section.tf))
    yield at_least("weld_size", "weld", length(sizes, "weld_size"), least, code.clause("weld_size"))


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone."""
    skewed = ["a skewed tab is not implemented"] if situation.skew else []
    return Examined(list(_rules(situation, sizes, code)), skewed, ["the beam's side is not looked at: a toy"])


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized tab."""
    weld, plate = _weld(situation, sizes), Under(code, "plate", tracing)
    area = weld.t * weld.length
    own = plate.fixed("plate_shear_yield", "force", lambda t: code.plates.shear_yield(weld.grade.Fy, area, t), shear)
    return [own, *weld.states(Under(code, "weld", tracing), code)]


def placed(situation: Situation, sizes: Sizes) -> Solids:
    """The beam from 1/2 in. off the column's face on, the tab on the face."""
    s = situation.supported.section
    at = Axes((INCH / 2, 0.0, 0.0), Y, Z)  # along the beam
    beam = Bar(name="beam", part="beam", axes=at, section=s.name, profile=profile(s), length=2 * s.d)
    deep, t = length(sizes, "plate_depth"), length(sizes, "plate_thickness")
    outline = ((0.0, -deep), (3 * INCH, -deep), (3 * INCH, 0.0), (0.0, 0.0))
    tab = Plate(name="plate", part="plate", axes=Axes((0.0, s.tw / 2 + t, 0.0), X, Z), outline=outline, thickness=t)
    return Solids(members=(beam,), pieces=(tab,))


def drawn(situation: Situation, sizes: Sizes, solids: Solids, system: str) -> list[Laid]:
    """From its side."""
    seen = Seen(solids, Axes(x=X, y=Z))
    return [Laid(lambda t: View("Elevation", t, seen.within(ALL)), 54.0, 43.0)]


def ladder(situation: Situation, sizes: Sizes, held: frozenset[str]) -> list[dict[str, Value]]:
    """Thicker tabs, the lightest first."""
    return (
        [{"plate_thickness": t} for t in situation.shop.plates_of(INCH / 4, INCH / 2)]
        if "plate_thickness" not in held
        else [{}]
    )


TOY_TAB = Standard(
    name="toy_tab",
    title="Toy tab",
    help="A plate welded to a column's flange",
    framings=("beam_to_column_flange",),
    carries=("V",),
    parameters=PARAMETERS,
    complete=complete,
    examine=examine,
    strengths=strengths,
    placed=placed,
    drawn=drawn,
    negligible=lambda situation, sizes: LITTLE,
    changing=Changing(
        (more_of("plate_thickness", lambda shop: shop.fine), more_of("weld_size", lambda shop: shop.weld)), ladder
    ),
    brief=("plate_thickness", "plate_depth", "weld_size"),
    summary=lambda sizes, system: f"PL {show(length(sizes, 'plate_thickness'), 'length', system)}",
)
