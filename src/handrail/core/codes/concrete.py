"""What a code of concrete answers of anchors, bars beside them and shear lugs."""

from __future__ import annotations

from typing import Any, Protocol

import numpy as np

from handrail.core.catalogue import Rod
from handrail.core.quantities.lines import NULL, Trace


class AnchorTension(Protocol):
    """Anchors in tension: steel, breakout, heads, side faces."""

    def nominal_steel(self, rod: Rod) -> float:
        """Nsa of one rod, N: Ase futa."""
        ...

    def steel(self, rod: Rod, trace: Trace = NULL) -> float:
        """Design strength of one rod, N: phi Ase futa."""
        ...

    def basic_breakout(
        self, hef: float, fc: float, trace: Trace = NULL, kc: float | None = None, light: float = 1.0
    ) -> float:
        """Nb of one anchor in cracked concrete, far from edges, N: headed and cast in, or post-installed with its
        `kc`; `light` is lambda_a."""
        ...

    def cone(
        self, Nb: float, area: float, hef: float, nearest: float, uncracked: float, count: int, trace: Trace = NULL
    ) -> float:
        """Ncbg of `count` rods about their middle, N."""
        ...

    def shaken(self, actions_shaken: np.ndarray, trace: Trace = NULL) -> np.ndarray:
        """What an earthquake leaves of the concrete in the combinations that it is in."""
        ...

    def eccentric(self, strength: float, trace: Trace = NULL) -> float:
        """The strength of a group as it is pulled, noted."""
        ...

    def burst(self, Nsb: float, edge: float, other: float, spread: float, count: int, trace: Trace = NULL) -> float:
        """Of side-face blowout: of one rod by its `other` edge, of a run by how far it is `spread`, mm."""
        ...

    @property
    def uncracked(self) -> float:
        """psi_c,N of cast-in anchors in concrete without cracks."""
        ...

    def full_area(self, hef: float) -> float:
        """ANco of one anchor far from edges, mm^2."""
        ...

    def edge_factor(self, nearest: float, hef: float) -> float:
        """psi_ed,N for the nearest edge, mm."""
        ...

    def eccentricity_factor(self, e: np.ndarray, reach: float) -> np.ndarray:
        """psi_ec,N for eccentricities of the tension in one direction, mm, and psi_ec,Na."""
        ...

    def pullout(self, rod: Rod, fc: float, cracked: bool, trace: Trace = NULL) -> float:
        """Design strength of one head, N."""
        ...

    def blowout(self, edge: float, rod: Rod, fc: float, trace: Trace = NULL, light: float = 1.0) -> float:
        """Nsb of one head at `edge` mm from the face, deeper than 2.5 times that, N."""
        ...

    def corner_factor(self, edge: float, other: float) -> float:
        """Of side-face blowout of one anchor whose other edge is within three times the first."""
        ...


class AnchorShear(Protocol):
    """Anchors in shear: steel, breakout towards an edge, prying out."""

    def steel(self, rod: Rod, grout: bool, trace: Trace = NULL) -> float:
        """Design strength of one rod, N."""
        ...

    def basic_breakout(
        self, edge: float, d: float, bearing: float, fc: float, trace: Trace = NULL, light: float = 1.0
    ) -> float:
        """Vb of one anchor `d` thick, `edge` mm from the edge that the shear goes to, in cracked concrete, N."""
        ...

    def wedge(
        self,
        Vb: float,
        area: float,
        edge: float,
        beside: float,
        thickness: float,
        cracked: bool,
        count: int,
        trace: Trace = NULL,
    ) -> tuple[float, float]:
        """(Vcbg towards the edge, without the corner's loss), N."""
        ...

    @property
    def grouted(self) -> float:
        """What a grout pad leaves of the steel."""
        ...

    def reported(self, strength: float, grout: bool, trace: Trace = NULL) -> float:
        """Vsa of an anchor's report, N."""
        ...

    def full_area(self, edge: float) -> float:
        """AVco of one anchor in deep concrete far from corners, mm^2."""
        ...

    def corner_factor(self, nearest: float, edge: float) -> float:
        """psi_ed,V for the nearest edge beside the shear, mm."""
        ...

    def eccentricity_factor(self, e: np.ndarray, edge: float) -> np.ndarray:
        """psi_ec,V."""
        ...

    def thickness_factor(self, thickness: float, edge: float) -> float:
        """psi_h,V of concrete shallower than 1.5 ca1."""
        ...

    def pryout_factor(self, hef: float) -> float:
        """kcp."""
        ...


class InstalledAnchors(Protocol):
    """Anchors drilled into hardened concrete: bond, and where they may stand."""

    def reach(self, d: float, uncracked: float, trace: Trace = NULL) -> float:
        """cNa, mm: how far the bond of one anchor reaches; `uncracked` its characteristic bond there, MPa."""
        ...

    def basic_bond(self, bond: float, d: float, hef: float, trace: Trace = NULL, light: float = 1.0) -> float:
        """Nba of one anchor far from edges, N; `light` is lambda_a."""
        ...

    def patch(
        self,
        Nba: float,
        area: float,
        reach: float,
        nearest: float,
        splits: float,
        critical: float,
        count: int,
        trace: Trace = NULL,
    ) -> float:
        """Nag of `count` anchors about their middle, N."""
        ...

    def pullout(self, reported: float, trace: Trace = NULL) -> float:
        """Np of the anchor's report, N."""
        ...

    def steel(self, reported: float, trace: Trace = NULL) -> float:
        """Nsa of the anchor's report, N."""
        ...

    def lasting(self, design: float, trace: Trace = NULL) -> float:
        """Of one anchor's design strength of bond for tension that lasts, N."""
        ...

    @property
    def strongest(self) -> float:
        """What counts of fc', MPa."""
        ...

    def edge(self, kind: str) -> float:
        """Diameters to an edge."""
        ...

    @property
    def spacing(self) -> float:
        """Diameters between them."""
        ...

    def critical(self, kind: str) -> float:
        """cac over hef; 0 of cast-in rods."""
        ...

    @property
    def depths(self) -> tuple[float, float]:
        """Diameters of embedment that the bond model holds for."""
        ...

    def light(self, kind: str) -> float:
        """lambda_a over lambda of breakout in lightweight concrete."""
        ...

    @property
    def light_bond(self) -> float:
        """lambda_a over lambda of bond in lightweight concrete."""
        ...

    def uncracked(self, kc: float) -> float:
        """psi_c,N of uncracked concrete."""
        ...

    def bears(self, kind: str, hef: float, d: float) -> float:
        """le in shear, mm."""
        ...

    def edge_factor(self, nearest: float, cNa: float) -> float:
        """psi_ed,Na."""
        ...

    def splitting_factor(self, nearest: float, critical: float, least: float) -> float:
        """psi_cp,N and psi_cp,Na of uncracked concrete with nothing that holds a split together."""
        ...

    def deepest(self, thickness: float) -> float:
        """hef that a concrete so thick lets expansion, undercut and screw anchors, mm."""
        ...


class ShearLugs(Protocol):
    """Shear lugs and friction."""

    def slides(self, mu: float, thrust: Any, area: float, fc: float, shaken: Any, trace: Trace = NULL) -> Any:
        """Design strength of friction under what presses, N."""
        ...

    def friction(self, grouted: bool, light: float) -> float:
        """mu of the plate on grout, or of steel on concrete."""
        ...

    @property
    def over_rods(self) -> float:
        """hef over the lug's depth, and over its distance to the rods that pull."""
        ...

    def effective_depth(self, depth: float, t: float, grout: float) -> float:
        """What of a lug `depth` below the concrete's face bears, mm: within twice its thickness of the plate, the
        grout taken off."""
        ...

    def axial_factor(self, P: np.ndarray, plate_area: float, fc: float, steel: np.ndarray, trace: Trace = NULL) -> Any:
        """psi_brg,sl."""
        ...

    def bearing(self, fc: float, area: float, factor: Any, trace: Trace = NULL) -> Any:
        """Design strength in bearing, N."""
        ...

    def breakout(
        self,
        fc: float,
        edge: float,
        width: float,
        depth: float,
        beside: tuple[float, float],
        thickness: float,
        cracked: bool,
        trace: Trace = NULL,
        along: bool = False,
        light: float = 1.0,
    ) -> float:
        """Design strength against breaking out towards an edge `edge` mm before the lug, N."""
        ...


class AnchorBars(Protocol):
    """Reinforcing bars that take an anchor's force."""

    def strength(self, each: float, fy: float) -> float:
        """Design strength of a bar of `each` mm^2 that is developed on both sides of the breakout surface, N."""
        ...

    @property
    def roomy(self) -> float:
        """Diameters clear between bars, with one of cover, that the shorter lengths ask for."""
        ...

    @property
    def hooks_apart(self) -> float:
        """Diameters between hooks, centre to centre, and of cover beside them."""
        ...

    @property
    def top_bar(self) -> float:
        """Of fresh concrete below a straight level bar, that makes it a top bar, mm."""
        ...

    def straight(self, d: float, fy: float, fc: float, roomy: bool, top: bool = False, light: float = 1.0) -> float:
        """ld of a straight bar, mm, uncoated."""
        ...

    def hooked(self, d: float, fy: float, fc: float, apart: bool, covered: bool, light: float = 1.0) -> float:
        """ldh of a hooked bar, mm, uncoated and without ties around it."""
        ...

    def cover(self, d: float) -> float:
        """Least over a bar at a formed face that meets the weather or the ground, mm."""
        ...

    def clear(self, d: float) -> float:
        """Least between bars, mm, of stone up to 3/4 in.."""
        ...


class ConcreteCode(Protocol):
    """One code of concrete beside a code of steel: it judges by its own combinations, whatever those of the steel."""

    def __hash__(self) -> int: ...

    @property
    def name(self) -> str:
        """With its edition, as it is cited."""
        ...

    @property
    def method(self) -> str:
        """Of the combinations that it is judged by."""
        ...

    def clause(self, what: str) -> str:
        """Where it says something of a limit state or a rule, by our name of it. Raises KeyError."""
        ...

    def available(
        self, Rn: float, limit: str, favoured: bool, trace: Trace = NULL, symbol: str = "N", category: int = 0
    ) -> float:
        """Design strength of a nominal one by its kind; `favoured` is ductile steel, or supplementary reinforcement. A
        post-installed anchor in tension has its `category`, 0 is cast in."""
        ...

    def modulus(self, fc: float, light: float = 1.0) -> float:
        """Of concrete, MPa."""
        ...

    @property
    def in_earthquakes(self) -> float:
        """What is left of concrete in tension."""
        ...

    @property
    def tension(self) -> AnchorTension: ...

    @property
    def shear(self) -> AnchorShear: ...

    @property
    def installed(self) -> InstalledAnchors: ...

    @property
    def lugs(self) -> ShearLugs: ...

    @property
    def bars(self) -> AnchorBars: ...
