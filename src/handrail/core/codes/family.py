"""What a code answers. Parts and standards know this and nothing of any one code: no clause, factor or symbol of a
code stands outside its own package."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any, Protocol

import numpy as np

from handrail.core.catalogue import Bolt, Electrode, Grade, HoleSize, Rod, Section, Steel
from handrail.core.codes.asked import Demand, Filler, Overhang, Pried
from handrail.core.codes.concrete import ConcreteCode
from handrail.core.quantities.lines import NULL, Trace


class Bolts(Protocol):
    """Bolts: what each takes in shear, bearing and slip, and how they stand."""

    def unheld(self, bolt: Bolt, slip_critical: bool = False) -> Iterator[str]:
        """What the tables do not hold of a bolt, in words."""
        ...

    def snug_in_tension(self, bolt: Bolt) -> bool:
        """Whether a bolt may be snug tight where it pulls."""
        ...

    def end_loaded(self, length: float) -> float:
        """What is left of the bolts' shear in a joint so long, mm."""
        ...

    def friction(self, surface: str) -> float:
        """The coefficient of a class of faying surface."""
        ...

    def shear(self, bolt: Bolt, planes: int = 1, trace: Trace = NULL) -> float:
        """Available shear of one bolt, N."""
        ...

    def bearing_factors(self, hole: HoleSize, deformation: bool, along_slot: bool = False) -> tuple[float, float]:
        """(bearing, tearout): what times d t Fu and lc t Fu a bolt takes in a hole."""
        ...

    def bearing(self, d: float, t: float, Fu: float, factor: float = 2.4, trace: Trace = NULL) -> float:
        """Available bearing of one bolt on a ply `t` thick, N."""
        ...

    def tearout(self, lc: np.ndarray, t: float, Fu: float, factor: float = 1.2, trace: Trace = NULL) -> np.ndarray:
        """Available tearout for clear distances `lc` (any shape, mm), N."""
        ...

    def slip(self, bolt: Bolt, hole: HoleSize, surface: str, along_slot: bool, trace: Trace = NULL) -> float:
        """Available slip resistance of one bolt in one plane, N."""
        ...

    def slip_under_tension(self, bolt: Bolt, pull: Any, trace: Trace = NULL) -> Any:
        """ksc."""
        ...

    def max_edge(self, t: float) -> float:
        """Largest edge distance, mm."""
        ...

    def max_spacing(self, t: float) -> float:
        """Largest spacing of painted or dry parts, mm."""
        ...

    def min_spacing(self, d: float) -> float:
        """Least spacing, mm."""
        ...

    def min_edge(self, bolt: Bolt, hole: HoleSize, slot_toward_edge: bool) -> float:
        """Least edge distance, mm."""
        ...

    def ductile_diameter(self, t: float, Fy: float, b: float, L: float) -> float:
        """Least bolt with which a leg or plate `t` thick, `b` from bolt to web and `L` long turns before its bolts
        tear, mm."""
        ...


class Prying(Protocol):
    """Bolts that pull, and the plates that they pull on."""

    def tension(self, bolt: Bolt, shear: Any = 0.0, trace: Trace = NULL) -> Any:
        """Available tension of one bolt under `shear` N of its own, any shape, N."""
        ...

    def share(self, one: Pried, B: Any, trace: Trace = NULL) -> Any:
        """Q, the part of `B` (N, any shape) that is left beside prying."""
        ...


class Plates(Protocol):
    """Connected elements."""

    def net_hole(self, size: float) -> float:
        """The width a hole takes from a net section, mm."""
        ...

    def shear_yield(self, Fy: float, Agv: float, trace: Trace = NULL) -> float:
        """Available shear yielding, N."""
        ...

    def shear_rupture(self, Fu: float, Anv: float, trace: Trace = NULL) -> float:
        """Available shear rupture, N."""
        ...

    def tension_yield(self, Fy: float, Ag: float, trace: Trace = NULL) -> float:
        """Available tension yielding, N."""
        ...

    def tension_rupture(self, Fu: float, Ae: float, trace: Trace = NULL) -> float:
        """Available tension rupture, N."""
        ...

    def block_shear(
        self, Fy: float, Fu: float, Agv: float, Anv: float, Ant: float, Ubs: float, trace: Trace = NULL
    ) -> float:
        """Available block shear of one path, N."""
        ...

    def compression(self, Fy: float, Ag: float, Lc: float, r: float, trace: Trace = NULL) -> float:
        """Available compression, N."""
        ...

    def bar_flexure(self, Fy: float, t: float, d: float, Lb: float, Cb: float, trace: Trace = NULL) -> float:
        """Available moment of a rectangular bar bent in its plane with lateral-torsional buckling, N*mm."""
        ...

    def flexure_yield(self, Fy: float, Z: float, trace: Trace = NULL) -> float:
        """Available plastic moment of a plate, N*mm."""
        ...

    def flexure_rupture(self, Fu: float, Znet: float, trace: Trace = NULL, symbol: str = "Znet") -> float:
        """Available moment in rupture on the net section, N*mm."""
        ...

    def net_plastic_modulus(self, t: float, depth: float, rows: int, pitch: float, hole: float) -> float:
        """Z of a plate `depth` deep with one centred line of `rows` holes `hole` wide, mm^3."""
        ...


class Welds(Protocol):
    """Fillets and partial-penetration grooves, mm."""

    def directional_increase(self, sine: np.ndarray) -> np.ndarray:
        """kds = 1 + 0.5 sin^1.5(theta) from the sine of theta, the angle from the weld's length to the force."""
        ...

    def line_strength(self, electrode: Electrode, throat: float, length: float, trace: Trace = NULL) -> float:
        """Available strength of fillets with a summed `throat` over `length`, loaded along it, N."""
        ...

    def fillet(self, electrode: Electrode, size: float, trace: Trace = NULL) -> float:
        """Available strength of each mm of one fillet of leg `size`, N/mm, loaded along it."""
        ...

    def web_ruptures_with(self, t: float, Fu: float, electrode: Electrode) -> float:
        """Fillet on each side of a plate or web `t` thick at which the metal between them ruptures in shear, mm."""
        ...

    def nominal(self, electrode: Electrode, size: float) -> float:
        """Nominal strength of each mm of one fillet of leg `size`, N/mm, loaded along it."""
        ...

    def groove_tension(self, electrode: Electrode, throat: float, trace: Trace = NULL) -> float:
        """Available strength of each mm of a partial-penetration groove pulled square to it, N/mm."""
        ...

    def min_throat(self, thinner: float) -> float:
        """Least effective throat of a partial-penetration groove by the thinner part joined, mm."""
        ...

    def throats(self, size: float, skew: float) -> tuple[float, float]:
        """(acute, obtuse) throats of a fillet with legs `size` each side of a plate turned `skew` rad from square,
        mm."""
        ...

    def pair_throat(self, size: float, skew: float) -> float:
        """Summed throat of a fillet each side of a plate turned `skew` rad from square, mm."""
        ...

    def min_size(self, thinner: float) -> float:
        """Least fillet by the thinner part joined, mm."""
        ...

    def develops_plate(self, t: float, Fy: float, electrode: Electrode, skew: float = 0.0) -> float:
        """Fillet each side that develops a plate in any direction of load, mm."""
        ...

    def max_size(self, t: float) -> float:
        """Largest fillet along the edge of what is `t` thick, mm."""
        ...

    def ductile_size(self, t: float, Fy: float, b: float, L: float) -> float:
        """Least fillet with which a leg `t` thick, `b` wide and `L` long turns before its weld tears, mm."""
        ...


class Members(Protocol):
    """What a member takes by itself."""

    def web_shear(self, section: Section, Fy: float, trace: Trace = NULL) -> float:
        """Available shear of a rolled shape's web, N."""
        ...

    def tension_yield(self, section: Section, Fy: float, trace: Trace = NULL) -> float:
        """Available tension of a member that yields on its gross section, N."""
        ...

    def available(self, section: Section, Fy: float, action: str) -> float:
        """What a member can take of one action by yielding of the whole section, N or N mm: `V` and `Vw` along and
        across its web, `N` in tension, `M` and `Mw` as plastic moments, with nothing taken off for buckling of the
        member or of its flanges."""
        ...


class Copes(Protocol):
    """Webs beside copes."""

    def single_cope_problem(self, c: float, dc: float, d: float) -> str:
        """Why the one-flange procedure does not hold; empty where it does (c <= 2 d, dc <= d/2)."""
        ...

    def double_cope_problem(self, c: float, top: float, bottom: float, d: float) -> str:
        """Why the two-flange procedure does not hold; empty where it does (c <= 2 d, each dc <= 0.2 d)."""
        ...

    def single_cope_buckling(
        self, Fy: float, d: float, tw: float, ho: float, S: float, Z: float, c: float, trace: Trace = NULL
    ) -> float:
        """Available moment in local buckling of the web beside one cope, N*mm."""
        ...

    def double_cope_buckling(
        self, Fy: float, d: float, tw: float, ho: float, c: float, top: float, trace: Trace = NULL
    ) -> float:
        """Available moment in buckling beside two copes, N*mm."""
        ...


class Supports(Protocol):
    """Webs and walls that a plate lands on."""

    def web_local_yield(
        self, Fy: float, tw: float, k: float, bearing: float, at_end: bool, trace: Trace = NULL
    ) -> float:
        """Available web local yielding, N; `at_end` within d of the member's end."""
        ...

    def web_crippling(
        self, Fy: float, d: float, tw: float, tf: float, bearing: float, at_end: bool, trace: Trace = NULL
    ) -> float:
        """Available web local crippling, N; `at_end` within d/2 of the member's end."""
        ...

    def web_compression_buckling(self, Fy: float, tw: float, h: float, at_end: bool, trace: Trace = NULL) -> float:
        """Available web compression buckling under thrusts on both flanges, N; half of it within d/2 of the member's
        end."""
        ...

    def web_bending_along(
        self, Fy: float, tw: float, T: float, length: float, at_end: bool, trace: Trace = NULL
    ) -> float:
        """A web pushed out of plane by a plate that runs along the member, N."""
        ...

    def web_bending_across(
        self, Fy: float, tw: float, T: float, above: float, below: float, at_end: bool = False, trace: Trace = NULL
    ) -> float:
        """A web pushed out of plane by a plate that runs from fillet to fillet of the member, N."""
        ...

    def hollow_stress_ratio(self, Fy: float, A: float, N: Any, trace: Trace = NULL) -> Any:
        """U of a hollow member under its own axial force `N` (+ tension; any shape)."""
        ...

    def hollow_wall_plastification(
        self, Fy: float, t: float, B: float, tp: float, length: float, U: Any = 0.0, trace: Trace = NULL
    ) -> Any:
        """A plate along a rectangular hollow member pulled or pushed square to its wall, N: yield lines."""
        ...

    def round_wall_plastification(
        self, Fy: float, t: float, D: float, length: float, U: Any = 0.0, trace: Trace = NULL
    ) -> Any:
        """A plate along a round hollow member pulled or pushed square to it, N."""
        ...


class Splices(Protocol):
    """Fillers, expected strengths, flanges with holes, finished surfaces."""

    def filler_factor(self, filler: Filler) -> float:
        """What a filler leaves of a bolt's shear."""
        ...

    @property
    def thickest_filler(self) -> float:
        """That need not be developed, mm."""
        ...

    def bolts_beyond(self, bolts: float, filler: float, flange: float) -> float:
        """How many bolts hold a developed filler beyond the joint, of `bolts` in it: as the filler's part of filler
        and flange together."""
        ...

    def expected(self, grade: Grade) -> float:
        """Ry of a grade; that of A36 shapes where it is not listed."""
        ...

    def least_of_flange(self, steel: Steel) -> float:
        """What a flange's splice in the lateral system has to hold at least, N."""
        ...

    def flange_with_holes(self, steel: Steel, hole: float, trace: Trace = NULL) -> float:
        """Available moment of a beam whose tension flange has two holes `hole` mm wide in its width, N*mm."""
        ...

    def flange_net_area(self, section: Section, hole: float) -> float:
        """Of a flange with two holes in its width, mm^2; `hole` as it counts."""
        ...

    def contact_bearing(self, Fy: float, area: float, trace: Trace = NULL) -> float:
        """Available bearing of finished surfaces, N."""
        ...


class Bases(Protocol):
    """Concrete under a plate, and the plate that bends about its column."""

    def bearing_limit(self, fc: float, confinement: float, trace: Trace = NULL, grout: float = math.inf) -> float:
        """The available pressure on concrete, MPa."""
        ...

    def overhang(self, section: Section, length: float, width: float) -> Overhang:
        """m, n and n' of a plate `length` along the column's depth and `width` across, mm."""
        ...

    def relief(self, section: Section, use: np.ndarray) -> np.ndarray:
        """lambda of n' for `use`, the bearing's utilisation."""
        ...

    def strip(self, Fy: float, t: float, trace: Trace = NULL) -> float:
        """Available moment of one millimetre of plate, N*mm/mm."""
        ...

    def spread(self, lever: float, spacing: float, edge: float) -> float:
        """The width of plate that carries one rod, mm."""
        ...

    def rods_bent(self, rod: Rod, pull: np.ndarray, push: np.ndarray, lever: float, trace: Trace = NULL) -> Any:
        """Rods that bend under their shear between washer and concrete, with tension, as a utilisation. `pull` and
        `push` N of one rod, `lever` mm between two ends that do not turn."""
        ...


class Lateral(Protocol):
    """What is asked, whatever the analysis says, of a structure that is made for earthquakes."""

    def asks_of_splices(self, kind: str, category: str) -> bool:
        """Whether every column's splice has a least shear, by the kind of system and the seismic design category."""
        ...

    def clear_height(self, kind: str) -> bool:
        """Whether the kind's least shear takes the height clear between the beams."""
        ...

    def of_splice(self, kind: str, pieces: tuple[Steel, Steel], storey: float, clear: float | None) -> list[Demand]:
        """Of a column's splice in a `storey` mm high, `clear` mm between the beams."""
        ...

    def of_base(self, steel: Steel, storey: float) -> list[Demand]:
        """Of a column's base, beside the overstrength combinations."""
        ...


class Situations(Protocol):
    """The design situations of a family: how loads are combined, and what each way of combining judges."""

    @property
    def name(self) -> str:
        """As it is cited."""
        ...

    @property
    def methods(self) -> tuple[str, ...]:
        """That steel is designed by; a job is by one of them."""
        ...

    @property
    def concrete(self) -> str:
        """The method whose combinations judge concrete and what is in it, whatever a job's."""
        ...

    @property
    def editions(self) -> tuple[str, ...]:
        """By which combinations can be made."""
        ...

    def live(self, method: str) -> float:
        """The factor of a live load by itself."""
        ...

    def patterns(self, method: str, edition: str) -> list[list[tuple[str, float]]]:
        """Every combination of an edition as (load, factor) of all its loads, a sign and a choice at a time."""
        ...

    def combinations(self, method: str, cases: set[str]) -> dict[str, dict[str, float]]:
        """{name: {case: factor}} of every combination that unfactored cases make, each once. Raises InputError."""
        ...


class Code(Protocol):
    """One code of steel by one method of design."""

    def __hash__(self) -> int: ...

    @property
    def name(self) -> str:
        """With its edition, as it is cited."""
        ...

    @property
    def manual(self) -> str:
        """The edition of the book of procedures beside it, as it is cited."""
        ...

    @property
    def method(self) -> str:
        """Of the combinations that it is judged by."""
        ...

    @property
    def lrfd(self) -> bool:
        """Whether those are of factored loads."""
        ...

    def by(self, method: str) -> Code:
        """The same by another method."""
        ...

    def nominally(self) -> Code:
        """The same with strengths that are not reduced."""
        ...

    def clause(self, what: str) -> str:
        """Where it says something of a limit state, a rule or a line, by our name of it. Raises KeyError."""
        ...

    def factor(self, limit: str) -> float:
        """What a nominal strength is multiplied by for a kind of limit state."""
        ...

    def available(self, Rn: float, limit: str, trace: Trace = NULL, symbol: str = "R") -> float:
        """The nominal strength so reduced."""
        ...

    @property
    def bolts(self) -> Bolts: ...

    @property
    def prying(self) -> Prying: ...

    @property
    def plates(self) -> Plates: ...

    @property
    def welds(self) -> Welds: ...

    @property
    def members(self) -> Members: ...

    @property
    def copes(self) -> Copes: ...

    @property
    def supports(self) -> Supports: ...

    @property
    def splices(self) -> Splices: ...

    @property
    def bases(self) -> Bases: ...

    @property
    def concrete(self) -> ConcreteCode: ...

    @property
    def situations(self) -> Situations: ...

    def anchored(self) -> Code:
        """The same by the method that concrete is judged by."""
        ...

    @property
    def lateral(self) -> Lateral: ...
